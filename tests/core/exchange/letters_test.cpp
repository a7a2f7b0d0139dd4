// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's words as data, and what asks for another flow.
#include "core/exchange/letters/letters.h"

#include <gtest/gtest.h>

#include "core/base/resources.h"
#include "core/exchange/intake/athlete_unit.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/letters/filming_request.h"
#include "tests/core/exchange/made_mail.h"

namespace jib::exchange {
namespace {

using tests::ScratchFolder;

LetterBook shipped() {
  return *LetterBook::forLibrary("/nowhere/at/all");
}

TEST(Letters, SayWhatIsMissingAndDiagnoseNothing) {
  const LetterBook book = shipped();
  EXPECT_NE(book.askFor("Ines", {"Load, kg", "Age"}).text.find("- Load, kg\n- Age"), std::string::npos);
  const auto missing = book.missingFilm("", "A link came instead of the film.");
  EXPECT_NE(missing.text.find("(A link came instead of the film)"), std::string::npos);
  EXPECT_EQ(missing.text.find("Hi,"), 0u) << "no name is known";
  const std::string referral = book.referral("Ines", false).text;
  EXPECT_EQ(referral.find("Hi Ines,"), 0u);
  EXPECT_NE(referral.find("doctor or physical therapist"), std::string::npos);
  for (const char* word : {"tendon", "injury", "strain", "tear"}) EXPECT_EQ(referral.find(word), std::string::npos);
}

TEST(Letters, NoMarkOfTheTemplateIsLeftInAnyOfThem) {
  const LetterBook book = shipped();
  coaching::ClipCheck check;
  check.troubles = {{"dark", "The picture is dark.", "turn the lights on"}};
  coaching::Cue cue;
  cue.wording = "Chest first {hi}";
  ReplyWords words{"squat", "2026-11-20", "", {"Depth"}, {cue}, false, {"Keep it light."}, {}};
  for (const Letter& l : {book.receipt("A"), book.missingFilm("A", "x"), book.askFor("A", {"Age"}),
                          book.referral("A", true), book.blank("A", "Your clip"), book.filmAgain("A", check)}) {
    EXPECT_EQ(l.text.find('{'), std::string::npos) << l.text;
    EXPECT_EQ(l.subject.find('{'), std::string::npos) << l.subject;
    EXPECT_FALSE(l.subject.empty());
  }
  const Letter reply = book.reply("Ada", words);
  EXPECT_EQ(reply.subject, "Your squat from 2026-11-20");
  EXPECT_NE(reply.text.find("Chest first {hi}"), std::string::npos) << "the coach's braces stay as they are";
  EXPECT_NE(reply.text.find("Keep it light."), std::string::npos);
  EXPECT_NE(reply.text.find("- Depth"), std::string::npos);
}

TEST(Letters, AReplyHoldsWhatToTryAndWhatToFilmNextOrSaysChangeNothing) {
  coaching::Cue cue;
  cue.wording = "Knees stay out";
  cue.drill = "Pause at half way";
  cue.load = "60 %";
  cue.weeks = 3;
  cue.proof = "the knee slides back less";
  cue.side_effect = "the lean grows";
  ReplyWords words{"squat", "2026-11-20", "Well done.", {}, {cue}, false, {}, "Film it again in 3 weeks."};
  const std::string text = shipped().reply("Ada", words).text;
  for (const char* part : {"Well done.", "One thing to work on", "Knees stay out", "Drill: Pause at half way",
                           "Load: 60 %", "Film it again in 3 weeks."})
    EXPECT_NE(text.find(part), std::string::npos) << part;
  words.change_nothing = true;
  const std::string none = shipped().reply("Ada", words).text;
  EXPECT_NE(none.find("Nothing to change"), std::string::npos);
  EXPECT_EQ(none.find("Knees stay out"), std::string::npos);
}

TEST(Letters, TheCoachsOwnCopyIsUsedInItsPlace) {
  ScratchFolder folder;
  std::string own = tests::bytesOf(resource("letters.toml"));
  const std::string was = "Your clip has arrived";
  own.replace(own.find(was), was.size(), "Got it");
  folder.write("letters.toml", own);
  EXPECT_EQ(LetterBook::forLibrary(folder.path())->receipt("Ada").subject, "Got it");
  folder.write("letters.toml", "[receipt]\nsubject = 3\n");
  const auto broken = LetterBook::forLibrary(folder.path());
  ASSERT_FALSE(broken);
  EXPECT_NE(broken.error().sentence().find("letters.toml"), std::string::npos) << "which file to repair";
  folder.write("letters.toml", own.substr(0, own.find("[reply]")));
  ASSERT_FALSE(LetterBook::forLibrary(folder.path()));
  EXPECT_NE(LetterBook::forLibrary(folder.path()).error().what.find("[reply]"), std::string::npos);
}

TEST(FilmingRequest, TheCoachsOwnTemplateIsUsedInItsPlace) {
  ScratchFolder folder;
  std::filesystem::create_directories(folder / "requests");
  std::string own = tests::bytesOf(resource("requests/squat.toml"));
  own.replace(own.find("reps = 3"), 8, "reps = 7");
  folder.write("requests/squat.toml", own);
  EXPECT_EQ(filmingRequest("squat", folder.path())->reps, 7);
  EXPECT_EQ(filmingRequest("squat", folder / "elsewhere")->reps, 3);
}

TEST(FilmingRequest, AQuestionBringsItsOwnView) {
  for (const char* lift : {"squat", "bench", "deadlift"}) {
    const auto request = *filmingRequest(lift, "/nowhere");
    ASSERT_FALSE(request.questions.empty()) << lift;
    for (const auto& question : request.questions) {
      const std::string text = requestText(request.asking(question.id), "Ines", {});
      EXPECT_NE(text.find("Film " + question.view + ", phone " + question.lens), std::string::npos) << text;
      EXPECT_NE(text.find(question.in_picture.front()), std::string::npos);
    }
    EXPECT_EQ(requestText(request.asking("no such question"), "Ines", {}), requestText(request, "Ines", {}));
  }
  EXPECT_NE(filmingRequest("squat", "/nowhere")->asking("knees").view.find("front"), std::string::npos);
}

Care careOn(const char* own, std::vector<PainNote> notes = {}, library::Profile profile = {}) {
  library::Athlete athlete;
  athlete.profile = std::move(profile);
  library::Submission film;
  film.received_on = "2026-11-25";
  return careFor(athlete, film, notes, proposedFields(own, film.received_on));
}

TEST(Care, AsksForAnotherFlowWhenYoungOrHurt) {
  EXPECT_TRUE(careOn("I'm 16 years old").minor);
  EXPECT_FALSE(careOn("I'm 34 years old").minor);
  library::Profile born;
  born.birth_year = 2009;
  EXPECT_TRUE(careOn("", {}, born).minor);
  EXPECT_TRUE(careOn("my knee hurts at the bottom").pain);
  EXPECT_FALSE(careOn("no pain at all").pain);
}

TEST(Care, PainOfALaterMessageReachesTheFilmBeforeIt) {
  const PainNote stairs{"2026-11-29", true, "My left knee aches a little on the stairs", library::MessageId(7)};
  const Care care = careOn("squat 100 kg x 3", {stairs});
  EXPECT_TRUE(care.pain);
  EXPECT_EQ(care.words, stairs.words);
  EXPECT_EQ(care.on, "2026-11-29");
  EXPECT_FALSE(careOn("squat", {{"2026-09-01", true, "back hurts", library::MessageId(1)}}).pain) << "long over";
  EXPECT_FALSE(careOn("squat", {stairs, {"2026-12-10", false, "no pain any more", library::MessageId(8)}}).pain);
  EXPECT_TRUE(careOn("my hip hurts", {{"2026-12-10", false, "no pain", library::MessageId(8)}}).pain)
      << "what this film's own message says holds";
}

TEST(Care, SpeaksToCoachAndAthleteAndNamesNoIllness) {
  EXPECT_TRUE(careForCoach({}, "Kit").empty());
  EXPECT_TRUE(careForAthlete({}).empty());
  const Care both{true, true, "my left knee hurts", "2026-11-29"};
  const auto coach = careForCoach(both, "Kit");
  ASSERT_EQ(coach.size(), 2u);
  EXPECT_NE(coach[1].find("my left knee hurts"), std::string::npos) << "in their words";
  const auto athlete = careForAthlete(both);
  ASSERT_EQ(athlete.size(), 2u);
  EXPECT_NE(athlete[0].find("no max"), std::string::npos);
  EXPECT_NE(athlete[1].find("doctor or physical therapist"), std::string::npos);
}

TEST(AthleteUnit, IsAskedOnceAndReachesEveryNumberThatWaited) {
  ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  Task task;
  const auto eml =
      folder.write("1.eml", tests::header("Dale Rucker <dale@tide.invalid>", "1", "squat") +
                                tests::multipart({tests::textPart("365 x2 low bar, best is still 415, bw 198"),
                                                  tests::filePart("a.mp4", tests::filmNumber(1))}));
  ASSERT_TRUE(receive(library, eml, "2026-11-25", task));
  const auto row = library.submissions()->front();
  EXPECT_EQ(row.details.load_said, "365") << "in the queue it bears a question mark";
  const auto athlete = *library.athlete(row.athlete);
  const auto open = openNumbers(athlete, *library.messages(row.athlete));
  ASSERT_TRUE(open);
  EXPECT_EQ(open->guess, MassUnit::Pounds);
  EXPECT_EQ(open->said.size(), 3u);

  ASSERT_TRUE(setAthleteUnit(library, row.athlete, MassUnit::Pounds));
  const auto known = library.submissions()->front();
  EXPECT_TRUE(known.details.load_said.empty());
  EXPECT_NEAR(*known.load_kg, 165.56, 0.01);
  const auto messages = *library.messages(row.athlete);
  for (const auto& f : messages.front().fields) EXPECT_TRUE(f.sure) << f.field;
  EXPECT_FALSE(openNumbers(*library.athlete(row.athlete), *library.messages(row.athlete))) << "once";

  const auto next = folder.write(
      "2.eml", tests::header("Dale Rucker <dale@tide.invalid>", "2", "squat") +
                   tests::multipart({tests::textPart("375 x1"), tests::filePart("b.mp4", tests::filmNumber(2))}));
  ASSERT_TRUE(receive(library, next, "2026-11-26", task));
  const auto rows = *library.submissions();
  for (const auto& s : rows) EXPECT_TRUE(s.details.load_said.empty()) << "and the next message is read with it";
}

TEST(Receipts, GoOutOncePerMessageAndOnlyWhenWanted) {
  ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  const auto eml = [&](const std::string& key, int film) {
    return folder.write(key + ".eml", tests::header("Ines Calder <ines@tide.invalid>", key, "squat") +
                                          tests::multipart({tests::textPart("squat 100kg x 3"),
                                                            tests::filePart("a.mp4", tests::filmNumber(film))}));
  };
  Task task;
  EXPECT_EQ(receive(library, eml("one", 1), "2026-11-25", task)->receipts, 0) << "nobody asked for them";
  ASSERT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", true}));
  EXPECT_EQ(receive(library, eml("two", 2), "2026-11-25", task)->receipts, 1);
  EXPECT_EQ(receive(library, eml("two", 2), "2026-11-25", task)->receipts, 0) << "the same message again";
  const auto link = folder.write("three.eml", tests::header("Ines <ines@tide.invalid>", "three", "link") +
                                                  tests::textPart("squat 140 kg: https://share.invalid/x"));
  EXPECT_EQ(receive(library, link, "2026-11-25", task)->receipts, 0) << "no clip has arrived";
  int letters = 0;
  for (const auto& e : std::filesystem::directory_iterator(library.folder() / "outbox")) {
    const auto mail = *readMail(tests::bytesOf(e.path()));
    EXPECT_EQ(mail.from_address, "mara@quill.invalid");
    EXPECT_EQ(mail.to_address, "ines@tide.invalid");
    EXPECT_EQ(mail.text.find("Hi Ines,"), 0u);
    ++letters;
  }
  EXPECT_EQ(letters, 1);
}

}  // namespace
}  // namespace jib::exchange
