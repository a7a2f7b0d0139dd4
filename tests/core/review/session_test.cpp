// SPDX-License-Identifier: GPL-3.0-or-later
// A review is a value: no part of it is older than another, and a reply is one snapshot of it.
#include "core/review/session.h"

#include <gtest/gtest.h>

#include "core/coaching/cue_numbers.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/review/keeper.h"
#include "core/review/load_basis.h"
#include "core/review/return_review.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::review {
namespace {

using tests::must;

library::Submission squat() {
  library::Submission s;
  s.id = library::SubmissionId(1);
  s.athlete = library::AthleteId(1);
  s.received_on = "2026-05-04";
  s.lift = "squat";
  s.variant = "low-bar";
  s.clip_name = "set.mp4";
  return s;
}

Session sessionOn(library::Submission submission, library::Review review = {}) {
  library::Athlete ida;
  ida.id = submission.athlete;
  ida.name = "Ida Fenn";
  return Session(ida, std::move(submission), std::move(review), must(coaching::shippedStyle("balanced")),
                 must(coaching::CueBook::shipped()));
}

Session traced() {
  Session s = sessionOn(squat());
  s.adopt(tests::unplaced());
  return s;
}

const coaching::Finding& measuredFinding(const Session& s) {
  for (const auto& f : s.analysis()->findings)
    if (f.kind && f.kind->unit == "m" && s.book().entry(f.id)) return f;
  throw std::runtime_error("nothing in metres was found");
}

CueChoice withCue(const Session& s, const std::string& greeting) {
  CueChoice choice = s.choice();
  choice.chosen = true;
  choice.greeting = greeting;
  const auto& f = measuredFinding(s);
  choice.cues = {coaching::cueFor(f, *s.book().entry(f.id), s.style())};
  return choice;
}

// The plate was corrected and a finding called fine while the clip was traced.
TEST(Session, JudgesATraceWithWhatIsToldNowAndNotWhenItsJobBegan) {
  Session early = traced();
  Session s = sessionOn(squat());
  review::SetUp to = s.setUp();
  to.plate_mm = 350;
  s.exchange(to);
  s.adopt(tests::unplaced());
  EXPECT_NEAR(s.analysis()->request.trace.camera.rim_m, 0.350, 1e-9);
  EXPECT_NEAR(s.analysis()->reps[0].stroke_m / early.analysis()->reps[0].stroke_m, 350.0 / 450, 0.01);
  // And whatever else is edited afterwards changes no number again.
  const double stroke_m = s.analysis()->reps[0].stroke_m;
  to.load_kg = 101;
  s.exchange(to);
  EXPECT_NEAR(s.analysis()->reps[0].stroke_m, stroke_m, 1e-9);
}

TEST(Session, NumbersOfAChosenCueAreThoseOfThePresentAnalysis) {
  Session s = traced();
  s.exchange(withCue(s, "Hi Ida"));
  const std::string finding = s.choice().cues[0].finding;
  const double before = s.choice().cues[0].value;
  review::SetUp to = s.setUp();
  to.plate_mm = 350;
  s.exchange(to);
  const auto now = std::find_if(s.analysis()->findings.begin(), s.analysis()->findings.end(),
                                [&](const auto& f) { return f.id == finding; });
  ASSERT_NE(now, s.analysis()->findings.end());
  const coaching::Cue& cue = s.choice().cues[0];
  EXPECT_EQ(cue.value, now->worst.value);
  EXPECT_EQ(cue.sigma, now->worst.sigma);
  EXPECT_EQ(cue.t_s, now->worst.t_s);
  EXPECT_LT(std::abs(cue.value), std::abs(before)) << "all lengths shrink with the plate";
  EXPECT_EQ(cue.proof, coaching::proofText(*s.book().entry(finding), *now->kind, now->limit, now->worst.value));
}

TEST(Session, WhatTheCoachWordedAndTheFrameTheyChoseStay) {
  Session s = traced();
  CueChoice choice = withCue(s, "");
  choice.cues[0].proof = "I will see it.";
  choice.cues[0].t_s = 1.25;
  choice.cues[0].frame_chosen = true;
  s.exchange(choice);
  review::SetUp to = s.setUp();
  to.plate_mm = 350;
  s.exchange(to);
  EXPECT_EQ(s.choice().cues[0].proof, "I will see it.");
  EXPECT_EQ(s.choice().cues[0].t_s, 1.25);
}

TEST(Session, ACueWhoseFindingIsGoneHasNoNumberAndIsDoubtful) {
  Session s = traced();
  s.exchange(withCue(s, ""));
  s.exchange(Rejected{{s.choice().cues[0].finding, "not on this film"}});
  EXPECT_FALSE(s.choice().cues[0].known);
  EXPECT_EQ(s.choice().cues[0].basis, coaching::Basis::TooClose);
  const auto threads = library::threadsFor(s.submission(), s.choice().cues, "2026-05-04");
  EXPECT_EQ(threads[0].measure, "") << "nothing a later number could be held against";
}

TEST(Session, UndoOfTheOnlyEditFollowsTheProposalAgain) {
  Session s = traced();
  CueChoice touched = s.choice();
  touched.greeting = "x";
  touched.chosen = true;
  CueChoice before = s.exchange(touched);
  s.exchange(before);
  EXPECT_FALSE(s.choice().chosen);
  EXPECT_FALSE(s.review().cues_chosen);
  EXPECT_EQ(s.choice().cues.size(), s.analysis()->proposal.cues.size());
}

TEST(Session, EveryChangeHasANumberOfItsOwn) {
  Session s = traced();
  int last = s.revision();
  const auto moved = [&] { return s.revision() > std::exchange(last, s.revision()); };
  s.exchange(withCue(s, "a"));
  EXPECT_TRUE(moved());
  s.exchange(s.setUp());
  EXPECT_TRUE(moved());
  s.exchange(coaching::Sketch{});
  EXPECT_TRUE(moved());
  s.exchange(PinValues{{{0.5, tracing::Landmark::Hip}, PixelPoint{10, 10}}});
  EXPECT_TRUE(moved());
  s.setLooked(true);
  EXPECT_TRUE(moved());
  s.setLooked(true);
  EXPECT_FALSE(moved());
}

struct Office {
  tests::ScratchFolder folder;
  library::Library library = must(library::Library::open(folder / "lib"));
  Task task;
  library::SubmissionId id{0};
  std::optional<Session> session;
  Surroundings around;

  Office() {
    library::CoachCard card;
    card.name = "Mara Quill";
    card.address = "mara@tide.invalid";
    must(library.setCoach(card));
    library::Submission row = squat();
    row.athlete = library::AthleteId(0);  // made with it
    id = must(library.addSubmission(row, folder.write("set.mp4", "a film"), task, "Ida Fenn"));
    session = sessionOn(must(library.submission(id)));
    session->adopt(tests::unplaced());
    around.coach = card;
    around.to_address = "ida@tide.invalid";
    around.today = "2026-05-06";
  }
  ReplyDraft draft() {
    return must(draftOf(*session, around, must(exchange::LetterBook::forLibrary(library.folder()))));
  }
  std::size_t letters() {
    std::error_code error;
    return static_cast<std::size_t>(std::distance(std::filesystem::directory_iterator(folder / "lib/outbox", error),
                                                  std::filesystem::directory_iterator()));
  }
  CueChoice words(const std::string& wording) {
    CueChoice choice = session->choice();
    choice.chosen = true;
    coaching::Cue cue = coaching::ownCue(1.0);
    cue.title = "Depth";
    cue.wording = wording;
    choice.cues = {cue};
    choice.change_nothing = false;
    return choice;
  }
};

// Film, letter and ledger said different things when words were changed while the film was written.
TEST(ReplyDraft, IsOneSnapshotWhateverIsEditedAfterwards) {
  Office o;
  o.session->exchange(o.words("FIRST WORDS"));
  const ReplyDraft draft = o.draft();
  o.session->exchange(o.words("SECOND WORDS"));
  EXPECT_LT(draft.revision, o.session->revision());
  const auto letter = must(post(o.library, draft, std::nullopt, {o.folder / "set.mp4"}));
  EXPECT_EQ(draft.content.cues[0].wording, "FIRST WORDS");
  EXPECT_NE(tests::bytesOf(o.library.outgoingFile(letter)).find("FIRST WORDS"), std::string::npos);
  EXPECT_EQ(must(o.library.threads(o.session->athlete().id))[0].wording, "FIRST WORDS");
}

// Fails the nth write, and all after it.
class FullDisk : public ForwardingFileSystem {
 public:
  explicit FullDisk(int writes_left) : ForwardingFileSystem(FileSystem::real()), left_(writes_left) {}
  Result<bool> write(const std::filesystem::path& file, std::string_view bytes) override {
    if (left_-- > 0) return ForwardingFileSystem::write(file, bytes);
    ForwardingFileSystem::write(file, bytes.substr(0, bytes.size() / 2)).value_or(false);
    return fail(ErrorCode::CannotWrite, "The disk is full.", "Free some space.");
  }

 private:
  int left_;
};

TEST(ReturnReview, AFullDiskAtAnyStepLeavesNothingOfIt) {
  Office o;
  o.session->exchange(o.words("Stay tight."));
  FullDisk full(0);
  const auto letter_fails = post(o.library, o.draft(), std::nullopt, {o.folder / "set.mp4"}, full);
  ASSERT_FALSE(letter_fails);
  EXPECT_EQ(letter_fails.error().code, ErrorCode::CannotWrite);
  EXPECT_EQ(o.letters(), 0u);
  // Recording it fails: somebody else has changed the review.
  const auto record_fails = post(o.library, o.draft(), 77, {o.folder / "set.mp4"});
  ASSERT_FALSE(record_fails);
  EXPECT_EQ(record_fails.error().code, ErrorCode::Conflict);
  EXPECT_EQ(o.letters(), 0u) << "no letter waits that no list speaks of";
  EXPECT_NE(must(o.library.submission(o.id)).state, library::SubmissionState::Returned);
  must(post(o.library, o.draft(), std::nullopt, {o.folder / "set.mp4"}));
  EXPECT_EQ(o.letters(), 1u);
  EXPECT_EQ(must(o.library.outgoing()).size(), 1u);
  EXPECT_EQ(must(o.library.submission(o.id)).state, library::SubmissionState::Returned);
}

// A program that is killed between the record and the letter's name, or before the record.
TEST(ReturnReview, AKillLeavesAListedLetterOrNone) {
  Office o;
  const auto letter = must(post(o.library, o.draft(), std::nullopt, {o.folder / "set.mp4"}));
  const auto file = o.library.outgoingFile(letter);
  std::filesystem::rename(file, file.string() + ".999999.part");
  o.folder.write("lib/outbox/never-listed.eml.999999.part", "half a letter");
  must(library::Library::open(o.folder / "lib"));
  EXPECT_TRUE(std::filesystem::exists(file));
  EXPECT_EQ(o.letters(), 1u);
}

// A stance from 45 to 50 cm: into the reply in both units, into the thread, and asked of the next film.
TEST(ReplyDraft, AChangeIsSaidRecordedAndAskedForAgain) {
  Session s = traced();
  CueChoice choice = withCue(s, "");
  choice.cues.resize(1);
  choice.cues[0].change.emplace();
  choice.cues[0].change->from = 0.45;
  choice.cues[0].change->to = 0.50;
  s.exchange(choice);
  Surroundings around;
  around.today = "2026-05-05";
  const ReplyDraft draft = must(draftOf(s, around, must(exchange::LetterBook::forLibrary("/nowhere"))));
  EXPECT_NE(draft.dispatch.letter.text.find("from 45 to 50 cm (17¾ to 19¾ in)"), std::string::npos)
      << draft.dispatch.letter.text;
  EXPECT_NE(draft.content.next.find("With the change: Stance width"), std::string::npos) << draft.content.next;
  ASSERT_EQ(draft.record.asked.size(), 1u);
  ASSERT_TRUE(draft.record.asked[0].change);
  EXPECT_EQ(draft.record.asked[0].change->to, 0.50);
  const auto& watch = draft.record.asked[0].watch;
  EXPECT_NE(std::find(watch.begin(), watch.end(), "squat.knees_cave"), watch.end());
}

// The next film is looked through for the change itself, and for what it may have brought.
TEST(FollowUp, TheNextFilmShowsTheChangeAndWhatCameWithIt) {
  library::Submission asked = squat(), later = squat();
  later.id = library::SubmissionId(2);
  later.received_on = "2026-06-08";
  coaching::Cue cue = coaching::ownCue(1);
  cue.wording = "Feet out.";
  cue.change.emplace();
  cue.change->from = 0.45;
  cue.change->to = 0.50;
  auto threads = library::threadsFor(asked, {cue}, "2026-05-05");
  for (auto& t : threads) t.asked_film_on = "2026-05-04";
  coaching::Analysis now = tests::unplaced();
  now.measures.reps[0].push_back({lifts::measureDefinition("stance_width_m"), lifts::Measured{0.49, 0.008, 1}});
  coaching::Finding cave;
  cave.id = "squat.knees_cave";
  cave.verdict = coaching::Verdict::Yes;
  now.findings.push_back(cave);
  const auto style = must(coaching::shippedStyle("balanced"));
  auto seen = library::measuredNow(threads, later, now, style);
  ASSERT_TRUE(seen[0].change_now);
  EXPECT_NEAR(seen[0].change_now->value, 0.49, 1e-9);
  EXPECT_EQ(seen[0].brought, std::vector<std::string>{"squat.knees_cave"});
  EXPECT_NE(library::changeText(seen[0]).find("Now 49.0 ± 1.3 cm: done."), std::string::npos)
      << library::changeText(seen[0]);
  // A film from another side shows neither: what was seen stays.
  coaching::Analysis aside = tests::unplaced();
  library::Submission latest = later;
  latest.id = library::SubmissionId(3);
  latest.received_on = "2026-07-06";
  std::erase_if(aside.findings, [](const auto& f) { return f.id == "squat.knees_cave"; });
  const auto kept = library::measuredNow(seen, latest, aside, style);
  EXPECT_TRUE(kept[0].change_now);
  EXPECT_EQ(kept[0].brought.size(), 1u);
  // What was there already when it was asked did not come with it.
  threads = library::threadsFor(asked, {cue}, "2026-05-05", {cave});
  EXPECT_TRUE(library::measuredNow(threads, later, now, style)[0].brought.empty());
}

TEST(ReplyDraft, WhatIsSavedForAfterTheMeetIsNotSaidAndWaits) {
  library::Athlete ida;
  ida.id = library::AthleteId(1);
  ida.name = "Ida Fenn";
  ida.profile.meet_on = "2026-05-20";
  Session s(ida, squat(), {}, must(coaching::shippedStyle("balanced")), must(coaching::CueBook::shipped()));
  s.adopt(tests::unplaced());
  CueChoice choice = withCue(s, "");
  choice.cues[0].wording = "Much later.";
  choice.cues[0].after_meet = true;
  s.exchange(choice);
  Surroundings around;
  around.today = "2026-05-05";
  const ReplyDraft draft = must(draftOf(s, around, must(exchange::LetterBook::forLibrary("/nowhere"))));
  EXPECT_TRUE(draft.content.cues.empty());
  EXPECT_EQ(draft.dispatch.letter.text.find("Much later."), std::string::npos);
  ASSERT_EQ(draft.record.asked.size(), 1u);
  EXPECT_EQ(draft.record.asked[0].state, library::ThreadState::Paused);
  EXPECT_GT(draft.record.asked[0].review_on, "2026-05-20");
}

// A sore or a young lifter's loads are not worked out from a max.
TEST(LoadBasis, GivesNoMaxToTheSoreOrTheYoung) {
  library::Athlete ida;
  ida.id = library::AthleteId(1);
  ida.name = "Ida Fenn";
  ida.profile.setBest("squat", 120);
  library::Submission sub = squat();
  sub.load_kg = 90;
  Session s(ida, sub, {}, must(coaching::shippedStyle("balanced")), must(coaching::CueBook::shipped()));
  s.adopt(tests::unplaced());
  EXPECT_EQ(loadBasisOf(s).max_kg, 120);
  CueChoice choice = withCue(s, "");
  choice.cues[0].load = "70 % of max";
  s.exchange(choice);
  Surroundings around;
  around.today = "2026-05-05";
  EXPECT_EQ(contentOf(s, around).cues[0].load, "70 % of max: 82.5 kg (182 lb)");
  for (const bool sore : {true, false}) {
    exchange::Care care;
    (sore ? care.pain : care.minor) = true;
    s.setCare(care);
    EXPECT_FALSE(loadBasisOf(s).max_kg);
    EXPECT_FALSE(maxFromSet(s));
    s.exchange(choice);
    EXPECT_EQ(contentOf(s, around).cues[0].load, "70 % of max") << "the coach's words stay as they are";
  }
}

TEST(ReplyDraft, APlanAroundPainGoesOutAndIsAskedAfter) {
  Session s = traced();
  CueChoice choice = s.choice();
  choice.cues.clear();  // with pain nothing is chosen for the coach
  choice.chosen = true;
  choice.pain.emplace();
  choice.pain->where = "left knee";
  choice.pain->trigger_kg = 100;
  s.exchange(choice);
  Surroundings around;
  around.today = "2026-05-05";
  const ReplyDraft draft = must(draftOf(s, around, must(exchange::LetterBook::forLibrary("/nowhere"))));
  EXPECT_NE(draft.dispatch.letter.text.find("Stay at 95 kg (209 lb) or less"), std::string::npos)
      << draft.dispatch.letter.text;
  EXPECT_NE(draft.content.next.find("tell me how it felt"), std::string::npos) << draft.content.next;
  ASSERT_FALSE(draft.record.asked.empty());
  const library::CueThread& pain = draft.record.asked.back();
  EXPECT_EQ(pain.finding, coaching::kPainThread);
  EXPECT_EQ(pain.review_on, library::reviewDay("2026-05-05", 3));
  // No film settles how a knee feels.
  library::Submission later = squat();
  later.id = library::SubmissionId(2);
  later.received_on = "2026-06-08";
  EXPECT_EQ(library::measuredNow({pain}, later, tests::unplaced(), s.style())[0].state, library::ThreadState::Asked);
}

// A save that began before the clip was turned comes after it: its places are of the picture as it was.
TEST(Keeper, WhatIsOnItsWayIsNotWrittenOverAReviewThatWasChangedInTheLibrary) {
  const tests::ScratchFolder folder;
  auto library = must(library::Library::open(folder / "lib"));
  library::Submission s = squat();
  s.id = library::SubmissionId(0);
  s.athlete = must(library.addAthlete({library::AthleteId(0), "Ida Fenn", "", "balanced"}));
  Task task;
  const auto id = must(library.addSubmission(s, JIB_MADE_CLIP, task));
  Keeper keeper(id);
  keeper.begin(must(library.reviewNumber(id)));
  library::Review review;
  review.greeting = "before";
  const int ticket = keeper.ticket();  // a background save begins
  must(keeper.keep(library, review, 1));
  keeper.disown();
  library::Review changed = must(library.review(id));
  changed.greeting = "turned";
  must(library.saveReview(id, changed));
  keeper.begin(must(library.reviewNumber(id)));
  must(keeper.keep(library, review, 1, ticket));
  EXPECT_EQ(must(library.review(id)).greeting, "turned");
  review.greeting = "after";
  must(keeper.keep(library, review, 2));
  EXPECT_EQ(must(library.review(id)).greeting, "after");
}

}  // namespace
}  // namespace jib::review
