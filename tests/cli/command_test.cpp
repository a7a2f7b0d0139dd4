// SPDX-License-Identifier: GPL-3.0-or-later
// The command line on what people type wrong: nothing is written over, nothing is made by a slip.
#include <gtest/gtest.h>
#include <sys/wait.h>

#include <cstdlib>
#include <filesystem>

#include "core/library/library.h"
#include "tests/core/scratch_folder.h"

namespace jib {
namespace {

namespace fs = std::filesystem;
using tests::bytesOf;
using tests::ScratchFolder;

struct Shell {
  ScratchFolder folder;
  std::string said;  // on both streams

  int run(const std::string& arguments) {
    const auto out = folder / "said.txt";
    const int status =
        std::system((std::string(JIB_COMMAND) + " " + arguments + " >" + out.string() + " 2>&1").c_str());
    said = bytesOf(out);
    return WEXITSTATUS(status);
  }
  std::string at(const char* name) const { return (folder / name).string(); }
};

TEST(Analyze, NeverWritesOverWhatItReads) {
  Shell sh;
  fs::copy_file(JIB_MADE_CLIP, sh.folder / "a.mp4");
  const auto before = bytesOf(sh.folder / "a.mp4");
  EXPECT_EQ(sh.run("analyze " + sh.at("a.mp4") + " --out " + sh.at("a.mp4")), 2);
  fs::create_symlink(sh.folder / "a.mp4", sh.folder / "link.json");
  EXPECT_EQ(sh.run("analyze " + sh.at("a.mp4") + " --out " + sh.at("link.json")), 2) << "nor by another name";
  EXPECT_EQ(sh.run("analyze " + sh.at("a.mp4") + " --out " + sh.at("x.json") + " --csv " + sh.at("x.json")), 2);
  EXPECT_EQ(bytesOf(sh.folder / "a.mp4"), before);
}

TEST(Analyze, AMissingFolderIsSaidBeforeTheWork) {
  Shell sh;
  EXPECT_EQ(sh.run("analyze /not/a/film.mp4 --out " + sh.at("nowhere/x.json")), 5) << "before the film is even opened";
  EXPECT_NE(sh.said.find("is not there"), std::string::npos);
}

TEST(Analyze, OnlyWhoLiesIsFilmedFromTheHeadsEnd) {
  Shell sh;
  EXPECT_EQ(sh.run("analyze " JIB_MADE_CLIP " --lift squat --view head --out " + sh.at("x.json")), 2);
  EXPECT_NE(sh.said.find("--view front or rear"), std::string::npos) << sh.said;
}

TEST(LibraryCommand, AMistypedPathMakesNoLibrary) {
  Shell sh;
  for (const char* command : {"list", "check", "athletes", "prepare", "export --id 1 --out x", "backup b.zip"}) {
    EXPECT_EQ(sh.run("library " + sh.at("typo") + " " + command), 3) << command;
    EXPECT_FALSE(fs::exists(sh.folder / "typo"));
  }
}

TEST(LibraryCommand, AddTakesAVariantOfTheLiftAndNoOther) {
  Shell sh;
  const std::string add = "library " + sh.at("lib") + " add --athlete Ines --date 2026-11-16 " JIB_MADE_CLIP " ";
  EXPECT_EQ(sh.run(add + "--lift deadlift --variant sumu"), 2);
  EXPECT_NE(sh.said.find("sumo"), std::string::npos) << "it says what there is: " << sh.said;
  EXPECT_EQ(sh.run(add + "--variant sumo"), 2) << "of which lift?";
  ASSERT_EQ(sh.run(add + "--lift deadlift --variant sumo"), 0) << sh.said;
  auto library = *library::Library::open(sh.folder / "lib");
  ASSERT_EQ(library.submissions()->size(), 1u);
  EXPECT_EQ(library.submissions()->front().variant, "sumo");
}

TEST(LibraryCommand, TheOwnBookIsWrittenAsToml) {
  Shell sh;
  ASSERT_TRUE(library::Library::open(sh.folder / "lib"));
  ASSERT_EQ(sh.run("library " + sh.at("lib") + " book --out " + sh.at("own.toml")), 0) << sh.said;
  EXPECT_NE(bytesOf(sh.folder / "own.toml").find("cue = []"), std::string::npos) << "nothing was said yet";
  EXPECT_EQ(sh.run("library " + sh.at("lib") + " book --out " + sh.at("nowhere/own.toml")), 5);
}

TEST(LibraryCommand, AddTakesOnlyDaysLoadsAndFilms) {
  Shell sh;
  const std::string add = "library " + sh.at("lib") + " add --athlete Ines ";
  const std::string film(JIB_MADE_CLIP);
  EXPECT_EQ(sh.run(add + film + " --date garbage"), 2);
  EXPECT_EQ(sh.run(add + film + " --date 2026-02-30"), 2);
  EXPECT_EQ(sh.run(add + film + " --date 2026-11-16 --load-kg nan"), 2);
  EXPECT_EQ(sh.run(add + film + " --date 2026-11-16 --load-kg 1e308"), 2);
  EXPECT_EQ(sh.run(add + sh.folder.write("a.txt", "words").string() + " --date 2026-11-16"), 3);
  EXPECT_EQ(sh.run(add + film + " --date 2026-11-16 --load-kg 140 --lift squat"), 0) << sh.said;
  auto library = *library::Library::open(sh.folder / "lib");
  ASSERT_EQ(library.submissions()->size(), 1u);
  EXPECT_EQ(library.submissions()->front().details.lift_by, library::ToldBy::Coach);
}

TEST(LibraryCommand, ListSendsNoControlCharactersToTheTerminal) {
  Shell sh;
  {
    auto library = *library::Library::open(sh.folder / "lib");
    library::Submission s;
    s.received_on = "2026-11-16";
    Task task;
    ASSERT_TRUE(library.addSubmission(s, JIB_MADE_CLIP, task, "\x1b[31mRed\x1b]0;x\x07 \xC2\x9Bname"));
  }
  ASSERT_EQ(sh.run("library " + sh.at("lib") + " list"), 0);
  for (const char c : {'\x1b', '\x07', '\x9B'}) EXPECT_EQ(sh.said.find(c), std::string::npos);
  EXPECT_NE(sh.said.find("Red"), std::string::npos);
}

TEST(LibraryCommand, OfTwoWithOneNameEachCanBeExportedAndForgotten) {
  Shell sh;
  {
    auto library = *library::Library::open(sh.folder / "lib");
    for (int i = 0; i < 2; ++i) ASSERT_TRUE(library.addAthlete({library::AthleteId(0), "Kim Dale", "", "balanced"}));
  }
  const std::string lib = "library " + sh.at("lib");
  EXPECT_EQ(sh.run(lib + " export --athlete 'Kim Dale' --out " + sh.at("out")), 2);
  EXPECT_NE(sh.said.find("--id"), std::string::npos) << sh.said;
  EXPECT_EQ(sh.run(lib + " export --id 2 --out " + sh.at("out")), 0) << sh.said;
  EXPECT_EQ(sh.run(lib + " forget --id 1"), 0);
  EXPECT_NE(sh.said.find("--yes"), std::string::npos) << "first it only says what goes";
  EXPECT_EQ(library::Library::open(sh.folder / "lib")->athletes()->size(), 2u);
  EXPECT_EQ(sh.run(lib + " forget --id 1 --yes"), 0);
  EXPECT_EQ(library::Library::open(sh.folder / "lib")->athletes()->size(), 1u);
}

TEST(LibraryCommand, BackupAndRestoreGoRound) {
  Shell sh;
  {
    ASSERT_TRUE(library::Library::open(sh.folder / "lib")->addAthlete({library::AthleteId(0), "Ola", "", "balanced"}));
  }
  ASSERT_EQ(sh.run("library " + sh.at("lib") + " backup " + sh.at("all.zip")), 0) << sh.said;
  ASSERT_EQ(sh.run("library " + sh.at("back") + " restore " + sh.at("all.zip")), 0) << sh.said;
  EXPECT_EQ(library::Library::open(sh.folder / "back")->athletes()->front().name, "Ola");
}

// "--athlete Kit --submission 2" announced the removal of Ines's submission, and 0 the removal of the whole athlete.
TEST(LibraryCommand, ForgetIsToldOneThingOnly) {
  Shell sh;
  {
    auto library = *library::Library::open(sh.folder / "lib");
    library::Submission s;
    s.received_on = "2026-11-16";
    Task task;
    ASSERT_TRUE(library.addSubmission(s, JIB_MADE_CLIP, task, "Ines"));
    ASSERT_TRUE(library.addAthlete({library::AthleteId(0), "Kit", "", "balanced"}));
  }
  const std::string forget = "library " + sh.at("lib") + " forget ";
  for (const char* both : {"--athlete Kit --submission 1 --yes", "--id 2 --submission 1 --yes",
                           "--athlete Kit --submission 0 --yes", "--submission -1 --yes", "--submission 999 --yes"})
    EXPECT_EQ(sh.run(forget + both), 2) << both;
  auto library = *library::Library::open(sh.folder / "lib");
  EXPECT_EQ(library.submissions()->size(), 1u);
  EXPECT_EQ(library.athletes()->size(), 2u);
}

TEST(LibraryCommand, TheDemoLeavesALibraryInUseAlone) {
  Shell sh;
  {
    ASSERT_TRUE(library::Library::open(sh.folder / "lib")->addAthlete({library::AthleteId(0), "Ola", "", "balanced"}));
  }
  EXPECT_EQ(sh.run("library " + sh.at("lib") + " demo " JIB_DEMO "/scenario.json"), 2);
  EXPECT_NE(sh.said.find("in use"), std::string::npos) << sh.said;
  const std::string scenario = bytesOf(fs::path(JIB_DEMO) / "scenario.json");
  sh.folder.write("scenario.json", scenario);  // its films are not made
  EXPECT_EQ(sh.run("library " + sh.at("new") + " demo " + sh.at("scenario.json")), 3);
  EXPECT_TRUE(library::Library::open(sh.folder / "new")->athletes()->empty()) << "nothing half-filled";
  EXPECT_EQ(library::Library::open(sh.folder / "lib")->athletes()->size(), 1u);
}

TEST(LibraryCommand, BookAndBackupDoNotWriteOverTheLibrary) {
  Shell sh;
  ASSERT_TRUE(library::Library::open(sh.folder / "lib"));
  for (const char* what : {"book --out ", "backup "})
    EXPECT_EQ(sh.run("library " + sh.at("lib") + " " + what + sh.at("lib/library.sqlite")), 2) << what;
  EXPECT_TRUE(library::Library::open(sh.folder / "lib"));
}

TEST(LibraryCommand, ABackupThatLacksAFilmSaysSo) {
  Shell sh;
  {
    auto library = *library::Library::open(sh.folder / "lib");
    library::Submission s;
    s.received_on = "2026-11-16";
    s.clip_name = "set.mp4";
    Task task;
    const auto id = *library.addSubmission(s, JIB_MADE_CLIP, task, "Ines");
    fs::remove(library.clipFile(*library.submission(id)));
  }
  EXPECT_EQ(sh.run("library " + sh.at("lib") + " backup " + sh.at("b.zip")), 1);
  EXPECT_NE(sh.said.find("set.mp4"), std::string::npos) << sh.said;
}

TEST(AnalyzeCommand, TakesNumbersOnly) {
  Shell sh;
  for (const char* plate : {"nan", "inf", "-450", "5", "45x"})
    EXPECT_EQ(sh.run("analyze " JIB_MADE_CLIP " --out " + sh.at("a.json") + " --plate-mm " + plate), 2) << plate;
}

TEST(Command, SaysItsVersion) {
  Shell sh;
  EXPECT_EQ(sh.run("--version"), 0);
  EXPECT_EQ(sh.said.find("jib "), 0u);
}

TEST(ReadCommand, ShowsWhatAMessageSaysAndKeepsNothing) {
  Shell sh;
  sh.folder.write("m.txt", "squat 185 x 2 @8, low back is fried. still ok to pull thursday?");
  ASSERT_EQ(sh.run("read " + sh.at("m.txt") + " --unit lb --json " + sh.at("r.json")), 0) << sh.said;
  const std::string json = bytesOf(sh.folder / "r.json");
  for (const char* part :
       {"jagged-jib/reading", "\"pain\": true", "still ok to pull thursday?", "\"said\": \"185\"", "83.9"})
    EXPECT_NE(json.find(part), std::string::npos) << part << json;
  EXPECT_EQ(sh.run("read " + sh.at("m.txt") + " --unit stone --json " + sh.at("x.json")), 2);
  EXPECT_EQ(sh.run("read /nowhere.eml --json " + sh.at("x.json")), 3);
  EXPECT_FALSE(fs::exists(sh.folder / "x.json"));
}

TEST(PlanCommand, PrintsWhatCanBeLoadedAndRefusesNonsense) {
  Shell sh;
  ASSERT_EQ(sh.run("plan percent 85 --of 180kg"), 0) << sh.said;
  EXPECT_NE(sh.said.find("152.5 kg"), std::string::npos) << sh.said;
  ASSERT_EQ(sh.run("plan best --load 150kg --reps 5 --rpe 8 --json " + sh.at("b.json")), 0) << sh.said;
  EXPECT_NE(bytesOf(sh.folder / "b.json").find("low_kg"), std::string::npos);
  for (const char* nonsense :
       {"plan plates heavy", "plan plates 10kg", "plan percent 500 --of 180kg", "plan ramp --to 170kg --sets 0",
        "plan best --load 150kg --reps 0", "plan best --load 150kg --reps 5 --rpe 20", "plan"})
    EXPECT_EQ(sh.run(nonsense), 2) << nonsense;
}

TEST(LibraryCommand, TrendSaysWhatItDoesNotKnow) {
  Shell sh;
  {
    auto lib = *library::Library::open(sh.folder / "lib");
    ASSERT_TRUE(lib.addAthlete({library::AthleteId(0), "Ola Marsh", "", "balanced"}));
  }
  const std::string trend = "library " + sh.at("lib") + " trend --athlete 'Ola Marsh' --measure ";
  EXPECT_EQ(sh.run(trend + "courage"), 2);
  EXPECT_NE(sh.said.find("no measure courage"), std::string::npos) << sh.said;
  EXPECT_EQ(sh.run("library " + sh.at("lib") + " trend --athlete Nobody --measure stroke_m"), 2);
  EXPECT_EQ(sh.run(trend + "stroke_m"), 1) << "nothing was measured yet";
  EXPECT_EQ(sh.said, "date\tsubmission\tview\tvariant\tload_kg\treps\tvalue\tsigma\tgroup\n");
  EXPECT_EQ(sh.run(trend + "stroke_m --json " + sh.at("t.json")), 1);
  EXPECT_NE(bytesOf(sh.folder / "t.json").find("\"measure\": \"stroke_m\""), std::string::npos);
}

}  // namespace
}  // namespace jib
