// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/watched_folder.h"

#include <gtest/gtest.h>

#include <fstream>

#include "tests/core/footage/made_clips.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::exchange {
namespace {

namespace fs = std::filesystem;
using Clock = fs::file_time_type::clock;

struct Downloads {
  tests::ScratchFolder scratch;
  fs::path folder = scratch / "Downloads";
  std::set<std::string> seen;

  // A film that was saved a minute ago.
  fs::path put(const fs::path& name, int frames = 8) {
    const fs::path file = folder / name;
    fs::create_directories(file.parent_path());
    EXPECT_TRUE(tests::writeCountingClip(file, frames));
    fs::last_write_time(file, Clock::now() - std::chrono::minutes(1));
    return file;
  }
  LookInto look() { return newFilms(folder, seen, Clock::now()); }
};

TEST(WatchedFolder, FindsFilmsOnceAndWhoseTheyAre) {
  Downloads d;
  d.put("loose.mp4");
  d.put("Ida Fenn/squat.mp4");
  d.put("Ida Fenn/may/older.mp4");
  d.put(".hidden/x.mp4");
  std::ofstream(d.folder / "bill.pdf") << "no film";
  const LookInto in = d.look();
  ASSERT_EQ(in.films.size(), 3u);
  EXPECT_EQ(in.films[0].whose, "Ida Fenn");
  EXPECT_EQ(in.films[1].whose, "Ida Fenn") << "however deep it lies";
  EXPECT_EQ(in.films[2].whose, "");
  EXPECT_FALSE(in.growing);
  for (const auto& film : in.films) d.seen.insert(film.sign);
  EXPECT_TRUE(d.look().films.empty());
  // Another film under the same name, as phones number theirs, is new.
  d.put("Ida Fenn/squat.mp4", 16);
  ASSERT_EQ(d.look().films.size(), 1u);
}

TEST(WatchedFolder, LeavesWhatIsStillBeingWrittenForTheNextLook) {
  Downloads d;
  fs::last_write_time(d.put("copying.mp4"), Clock::now());
  std::ofstream(d.folder / "empty.mp4");
  LookInto in = d.look();
  EXPECT_TRUE(in.films.empty());
  EXPECT_TRUE(in.growing);
  in = newFilms(d.folder, {}, Clock::now() + std::chrono::seconds(10));
  ASSERT_EQ(in.films.size(), 1u);
  EXPECT_EQ(in.films[0].file.filename(), "copying.mp4");
  // A camera's clock may be ahead of ours.
  fs::last_write_time(d.folder / "copying.mp4", Clock::now() + std::chrono::hours(5));
  EXPECT_EQ(d.look().films.size(), 1u);
}

TEST(WatchedFolder, RemembersFilmsWithoutTheNamesOfAthletes) {
  Downloads d;
  d.put("Ida Fenn/squat.mp4");
  const auto film = d.look().films.front();
  EXPECT_EQ(film.sign.find("Ida"), std::string::npos);
  EXPECT_EQ(film.sign.size(), 64u);
  // As an older version kept it.
  const std::string plain = "Ida Fenn/squat.mp4\t" + std::to_string(fs::file_size(film.file)) + "\t" +
                            std::to_string(fs::last_write_time(film.file).time_since_epoch().count());
  EXPECT_EQ(hiddenSign(plain), film.sign);
  d.seen.insert(plain);
  EXPECT_TRUE(d.look().films.empty());
}

TEST(WatchedFolder, AFolderThatIsGoneHoldsNothing) {
  Downloads d;
  EXPECT_TRUE(d.look().films.empty());
}

TEST(WatchedFolder, ItsFilmsBecomeRowsOfTheirAthletesAndStayWhereTheyAre) {
  Downloads d;
  auto library = tests::must(library::Library::open(d.scratch / "lib"));
  const fs::path film = d.put("Ida Fenn/squat.mp4"), loose = d.put("loose.mp4", 12);
  std::ofstream(film.parent_path() / "squat.txt") << "3x5 squats at 100 kg, last set. Is that deep enough?";
  Task task;
  const auto films = d.look().films;
  const Received first = tests::must(receiveFilms(library, films, "2026-05-04", task));
  EXPECT_EQ(first.clips, 2);
  EXPECT_TRUE(first.troubles.empty());
  const auto rows = tests::must(library.submissions());
  ASSERT_EQ(rows.size(), 2u);
  for (const auto& row : rows) {
    const auto athlete = tests::must(library.athlete(row.athlete));
    const bool ida = row.clip_name == "squat.mp4";
    EXPECT_EQ(athlete.name, ida ? "Ida Fenn" : "Unknown athlete");
    EXPECT_EQ(row.lift, ida ? "squat" : "") << "read from the text beside it";
  }
  EXPECT_TRUE(fs::exists(film) && fs::exists(loose));
  const Received again = tests::must(receiveFilms(library, films, "2026-05-05", task));
  EXPECT_EQ(again.clips, 0);
  EXPECT_EQ(again.known, 2) << "taking the same in twice changes nothing";
}

TEST(WatchedFolder, AFilmThatIsGoneMeanwhileKeepsNoOtherFromComing) {
  Downloads d;
  auto library = tests::must(library::Library::open(d.scratch / "lib"));
  const fs::path gone = d.put("a.mp4");
  d.put("b.mp4", 12);
  const auto films = d.look().films;
  fs::remove(gone);
  Task task;
  const Received r = tests::must(receiveFilms(library, films, "2026-05-04", task));
  EXPECT_EQ(r.clips, 1);
  ASSERT_EQ(r.troubles.size(), 1u);
  EXPECT_TRUE(r.troubles[0].starts_with("a.mp4: ")) << r.troubles[0];
}

}  // namespace
}  // namespace jib::exchange
