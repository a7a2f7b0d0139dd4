// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's words as data, and what asks for another flow.
#include "core/exchange/letters/letters.h"

#include <gtest/gtest.h>

#include "core/base/resources.h"
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
  EXPECT_NE(referral.find("physician or physiotherapist"), std::string::npos);
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
  for (const char* part : {"Well done.", "One thing to try", "Knees stay out", "Drill: Pause at half way", "Load: 60 %",
                           "Film it again in 3 weeks."})
    EXPECT_NE(text.find(part), std::string::npos) << part;
  words.change_nothing = true;
  const std::string none = shipped().reply("Ada", words).text;
  EXPECT_NE(none.find("Change nothing"), std::string::npos);
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
      EXPECT_NE(text.find("Film " + question.view + ", the lens " + question.lens), std::string::npos) << text;
      EXPECT_NE(text.find(question.in_picture.front()), std::string::npos);
    }
    EXPECT_EQ(requestText(request.asking("no such question"), "Ines", {}), requestText(request, "Ines", {}));
  }
  EXPECT_NE(filmingRequest("squat", "/nowhere")->asking("knees").view.find("front"), std::string::npos);
}

TEST(Care, AsksForAnotherFlowWhenYoungOrHurt) {
  const auto fields = [](const char* text) { return proposedFields(text, "2026-11-25"); };
  EXPECT_TRUE(careFor({}, fields("I'm 16 years old"), "2026-11-25").minor);
  EXPECT_FALSE(careFor({}, fields("I'm 34 years old"), "2026-11-25").minor);
  library::Profile born;
  born.birth_year = 2009;
  EXPECT_TRUE(careFor(born, {}, "2026-11-25").minor);
  EXPECT_TRUE(careFor({}, fields("my knee hurts at the bottom"), "2026-11-25").pain);
  EXPECT_FALSE(careFor({}, fields("no pain at all"), "2026-11-25").pain);
}

TEST(Care, SpeaksToCoachAndAthleteAndNamesNoIllness) {
  EXPECT_TRUE(careForCoach({}).empty());
  EXPECT_TRUE(careForAthlete({}).empty());
  EXPECT_EQ(careForCoach({true, true}).size(), 2u);
  const auto athlete = careForAthlete({true, true});
  ASSERT_EQ(athlete.size(), 2u);
  EXPECT_NE(athlete[0].find("no maximum"), std::string::npos);
  EXPECT_NE(athlete[1].find("physician or physiotherapist"), std::string::npos);
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
