// SPDX-License-Identifier: GPL-3.0-or-later
// The round trip of mail without a server, by the command line: posted, taken in, answered, read.
#include <gtest/gtest.h>
#include <sys/wait.h>

#include <algorithm>
#include <cstdlib>
#include <nlohmann/json.hpp>

#include "core/exchange/letters/letters.h"
#include "core/exchange/mail/mail.h"
#include "core/library/library.h"
#include "tests/core/exchange/made_mail.h"

namespace jib::exchange {
namespace {

using tests::ScratchFolder;

struct Said {
  int status = -1;
  std::string out;
};

Said jib(const ScratchFolder& folder, const std::string& arguments) {
  const auto out = folder / "said.txt";
  const int status = std::system((std::string(JIB_COMMAND) + " " + arguments + " >" + out.string() + " 2>&1").c_str());
  return {WEXITSTATUS(status), tests::bytesOf(out)};
}

std::string quoted(const std::filesystem::path& p) {
  return "'" + p.string() + "'";
}

TEST(Post, GoesRoundFromTheAthleteToTheOutboxAndBack) {
  ScratchFolder folder;
  folder.write("set.mp4", tests::filmNumber(1));
  const nlohmann::json messages{
      {"messages",
       {{{"from_name", "Kit Marlin"},
         {"from_address", "Kit@Tide.invalid"},
         {"on", "2026-11-23"},
         {"subject", "squat"},
         {"text", "Squat 60 kg x 3."},
         {"attach", {"set.mp4"}}},
        {{"from_name", "Bram"}, {"from_address", "bram@tide.invalid"}, {"text", "https://share.invalid/x"}}}}};
  const auto scenario = folder.write("messages.json", messages.dump());
  const auto maildir = folder / "mail", lib = folder / "lib";
  const Said sent = jib(folder, "post send " + quoted(scenario) + " --maildir " + quoted(maildir));
  ASSERT_EQ(sent.status, 0) << sent.out;
  EXPECT_NE(sent.out.find("2 messages"), std::string::npos);

  const std::string receive = "library " + quoted(lib) + " receive " + quoted(maildir);
  const Said taken = jib(folder, receive);
  EXPECT_EQ(taken.status, 0) << taken.out;
  EXPECT_NE(taken.out.find("2 messages, 1 clips"), std::string::npos) << taken.out;
  EXPECT_NE(jib(folder, receive).out.find("0 messages"), std::string::npos) << "the Maildir is empty now";
  {
    auto library = *library::Library::open(lib);
    const auto submissions = *library.submissions();
    ASSERT_EQ(submissions.size(), 2u);
    const auto kit =
        std::find_if(submissions.begin(), submissions.end(), [](const auto& s) { return s.load_kg == 60.0; });
    ASSERT_NE(kit, submissions.end());
    EXPECT_EQ(kit->received_on, "2026-11-23");
    const auto message = *library.message(*kit->message_id);
    const auto letters = *LetterBook::forLibrary(lib);
    const auto written = writeInOutbox(
        lib / "outbox",
        addressed(*library.coach(), message.from_address, letters.receipt(firstNameOf(message.from_name))),
        {folder / "set.mp4"});
    ASSERT_TRUE(written);
    std::filesystem::rename(written->until_listed, written->file);
  }
  const Said read = jib(folder, "post read " + quoted(lib / "outbox"));
  EXPECT_EQ(read.status, 0);
  EXPECT_NE(read.out.find("To: kit@tide.invalid"), std::string::npos) << read.out;
  EXPECT_NE(read.out.find("Hi Kit,"), std::string::npos);
  EXPECT_NE(read.out.find("[set.mp4, "), std::string::npos);
}

TEST(Post, SaysWhatIsWrongWithItsFiles) {
  ScratchFolder folder;
  const auto send = [&](const std::string& json) {
    return jib(folder, "post send " + quoted(folder.write("m.json", json)) + " --maildir " + quoted(folder / "mail"));
  };
  EXPECT_EQ(send("{\"messages\": [{\"text\": \"no sender\"}]}").status, 2);
  EXPECT_EQ(send("{\"messages\": [{\"from_address\": \"a@b.invalid\", \"attach\": [\"gone.mp4\"]}]}").status, 3);
  EXPECT_EQ(jib(folder, "post read " + quoted(folder / "nowhere")).status, 3);
}

TEST(Profile, IsKeptExactlyAndForgivesWhatItCannotRead) {
  library::Profile p;
  EXPECT_EQ(profileToJson(p), "{}") << "unknown takes no room";
  p.say_name = "een-es";
  p.birth_year = 1998;
  p.height_cm = 168.5;
  p.best_kg[0] = 125;
  p.meet_on = "2026-12-12";
  p.pain = "left knee \"clicks\"";
  p.flesh = tracing::Flesh{};
  p.flesh->crease_out_m = 0.0815;
  p.flesh->crease_along_m = -0.01;
  p.flesh->crease_clicked = true;
  EXPECT_EQ(library::profileFromJson(profileToJson(p)), p);
  EXPECT_EQ(library::profileFromJson("no json at all"), library::Profile{});
  const auto odd = library::profileFromJson("{\"birth_year\": \"soon\", \"goal\": 3}");
  EXPECT_EQ(odd.birth_year, std::nullopt);
  EXPECT_TRUE(odd.goal.empty());
}

TEST(Profile, WhoTurnsEighteenThisYearCountsAsUnder) {
  library::Profile p;
  EXPECT_FALSE(isMinor(p, "2026-11-25")) << "unknown is not under";
  p.birth_year = 2008;
  EXPECT_EQ(isMinor(p, "2026-11-25"), true);
  EXPECT_EQ(isMinor(p, "2027-01-01"), false);
}

TEST(LibraryMessages, DeletingAnAthleteDeletesTheirWordsAndFilms) {
  ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  Task task;
  const auto add = [&](const std::string& key, library::AthleteId whose, int film) {
    library::Library::Incoming in;
    in.message.key = key;
    in.message.athlete = whose;
    in.original = folder.write(key + ".eml", "bytes of " + key);
    library::Submission s;
    s.received_on = "2026-11-20";
    s.clip_name = "a.mp4";
    in.clips.push_back({s, folder.write(key + ".mp4", tests::filmNumber(film))});
    return **library.addMessage(std::move(in), task);
  };
  const auto one = *library.addAthlete({library::AthleteId(0), "One", "", "balanced"});
  const auto two = *library.addAthlete({library::AthleteId(0), "Two", "", "balanced"});
  const auto mine = add("m1", one, 1);
  add("m2", two, 2);
  const auto file = library.folder() / "mail" / (library.message(mine)->original + ".eml");
  ASSERT_TRUE(std::filesystem::exists(file));
  const auto clip = library.clipFile(library.submissions()->back());
  ASSERT_TRUE(library.remove(*library.removalOf(one)));
  EXPECT_FALSE(std::filesystem::exists(file));
  EXPECT_FALSE(library.message(mine));
  EXPECT_EQ(library.submissions()->size(), 1u);
  EXPECT_EQ(std::distance(std::filesystem::directory_iterator(library.folder() / "media"), {}), 1) << clip;
  EXPECT_TRUE(library.check()->empty());
}

}  // namespace
}  // namespace jib::exchange
