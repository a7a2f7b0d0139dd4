// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/library.h"

#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/library/follow_up.h"
#include "core/library/progress.h"
#include "core/library/review_store.h"
#include "core/library/schema.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/returned.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using tests::bytesOf;
using tests::ScratchFolder;

struct Fixture {
  ScratchFolder folder;
  Library library = *Library::open(folder / "lib");
  AthleteId athlete = *library.addAthlete({AthleteId(0), "Ola Marsh", "made up", "balanced"});
  std::filesystem::path clip = folder.write("clip.mp4", "not really a film");

  SubmissionId add(const std::string& date = "2026-01-02") {
    Submission s;
    s.athlete = athlete;
    s.received_on = date;
    s.message = "hello";
    s.load_kg = 102.5;
    Task task;
    auto id = library.addSubmission(s, clip, task);
    EXPECT_TRUE(id) << id.error().what;
    return *id;
  }
};

Review sampleReview() {
  Review r;
  tracing::PlacedFrame p{1.0 / 3, {}};
  p.points[tracing::at(tracing::Landmark::Hip)] = PixelPoint{1.0 / 7, 2.5};
  r.placed = {p};
  coaching::Cue cue;
  cue.finding = "squat.hips_lead";
  cue.wording = "Chest leaves \"first\".";
  cue.value = 1.0 / 3;
  r.cues = {cue};
  r.cues_chosen = true;
  r.greeting = "Hé";
  r.play_head_s = 2.25;
  return r;
}

TEST(Library, KeepsClipAndSubmissionUnderTheContentHash) {
  Fixture f;
  const SubmissionId id = f.add();
  const auto s = f.library.submission(id);
  ASSERT_TRUE(s);
  EXPECT_EQ(s->clip_name, "clip.mp4");
  EXPECT_EQ(*s->load_kg, 102.5);
  EXPECT_EQ(bytesOf(f.library.clipFile(*s)), "not really a film");
  EXPECT_EQ(f.library.clipFile(*s).stem(), *contentHash(f.clip));
}

TEST(Library, KeepsTheSameClipOnce) {
  Fixture f;
  f.add();
  f.add();
  const auto media = std::filesystem::directory_iterator(f.folder / "lib/media");
  EXPECT_EQ(std::distance(begin(media), end(media)), 1);
  EXPECT_EQ(f.library.submissions()->size(), 2u);
}

TEST(Library, RestoresAReviewExactlyAfterReopening) {
  Fixture f;
  const SubmissionId id = f.add();
  ASSERT_TRUE(f.library.saveReview(id, sampleReview()));
  ASSERT_TRUE(f.library.saveTracing(id, "{\"x\":1}"));
  f.library = *Library::open(f.folder / "lib");
  const auto r = f.library.review(id);
  ASSERT_TRUE(r);
  const Review was = sampleReview();
  EXPECT_EQ(reviewToJson(*r), reviewToJson(was));
  EXPECT_EQ(r->placed[0].points[tracing::at(tracing::Landmark::Hip)]->x, 1.0 / 7);
  EXPECT_EQ(r->cues, was.cues);
  EXPECT_EQ(*f.library.tracing(id), "{\"x\":1}");
}

TEST(Library, DeletesAnAthleteWithAllThatCameFromThem) {
  Fixture f;
  const SubmissionId id = f.add();
  const auto file = f.library.clipFile(*f.library.submission(id));
  ASSERT_TRUE(f.library.remove(*f.library.removalOf(f.athlete)));
  EXPECT_TRUE(f.library.submissions()->empty());
  EXPECT_FALSE(std::filesystem::exists(file));
}

TEST(Library, KeepsAClipAnotherAthleteAlsoSent) {
  Fixture f;
  const SubmissionId id = f.add();
  const auto other = *f.library.addAthlete({AthleteId(0), "Pim Reef", "", "balanced"});
  Submission s;
  s.athlete = other;
  s.received_on = "2026-01-03";
  Task task;
  ASSERT_TRUE(f.library.addSubmission(s, f.clip, task));
  const auto file = f.library.clipFile(*f.library.submission(id));
  ASSERT_TRUE(f.library.remove(*f.library.removalOf(f.athlete)));
  EXPECT_TRUE(std::filesystem::exists(file));
}

class BrokenCopy : public ForwardingFileSystem {
 public:
  BrokenCopy() : ForwardingFileSystem(FileSystem::real()) {}
  Result<bool> copy(const std::filesystem::path&, const std::filesystem::path& to) override {
    EXPECT_TRUE(FileSystem::real().write(to, "half"));
    return fail(ErrorCode::CannotWrite, "No space left on device.", "Free some space.");
  }
};

TEST(Library, RecordsNothingWhenTheClipDoesNotFitOnTheDisk) {
  ScratchFolder folder;
  BrokenCopy disk;
  auto library = Library::open(folder / "lib", disk);
  ASSERT_TRUE(library);
  Submission s;
  s.athlete = *library->addAthlete({AthleteId(0), "Ola", "", "balanced"});
  Task task;
  const auto added = library->addSubmission(s, folder.write("clip.mp4", "film"), task);
  ASSERT_FALSE(added);
  EXPECT_EQ(added.error().next, "Free some space.");
  EXPECT_TRUE(library->submissions()->empty());
  EXPECT_TRUE(std::filesystem::is_empty(folder / "lib/media"));
}

TEST(Library, MigratesTheFirstSchemaAndKeepsACopy) {
  ScratchFolder folder;
  std::filesystem::create_directories(folder / "lib/media");
  {
    SQLite::Database db((folder / "lib/library.sqlite").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    migrate(db, 0, 1);
    db.exec("INSERT INTO athlete(name, note) VALUES('Old Friend', 'n')");
    db.exec(
        "INSERT INTO submission(athlete, received_on, message, lift, variant, plate_mm, slow_factor, clip_name, "
        "clip_hash, state) VALUES(1, '2026-01-02', 'hi', 'squat', 'low-bar', 450, 1, 'a.mp4', 'h', 'returned')");
  }
  auto library = Library::open(folder / "lib");
  ASSERT_TRUE(library) << library.error().what;
  const auto athletes = library->athletes();
  ASSERT_EQ(athletes->size(), 1u);
  EXPECT_EQ(athletes->front().name, "Old Friend");
  EXPECT_EQ(athletes->front().style, "balanced");
  EXPECT_EQ(athletes->front().profile, Profile{});
  EXPECT_EQ(library->submissions()->front().state, SubmissionState::Returned);
  EXPECT_FALSE(library->submissions()->front().message_id);
  EXPECT_TRUE(std::filesystem::exists(folder / ("lib/library.sqlite.before-" + std::to_string(Library::kSchema))));
}

TEST(Library, RefusesOneFromANewerProgram) {
  ScratchFolder folder;
  std::filesystem::create_directories(folder / "lib");
  {
    SQLite::Database db((folder / "lib/library.sqlite").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    db.exec("PRAGMA user_version = 99");
  }
  const auto library = Library::open(folder / "lib");
  ASSERT_FALSE(library);
  EXPECT_NE(library.error().what.find("newer"), std::string::npos);
}

TEST(Library, RefusesAFileThatIsNoDatabase) {
  ScratchFolder folder;
  std::filesystem::create_directories(folder / "lib");
  folder.write("lib/library.sqlite", std::string(5000, 'x'));
  const auto library = Library::open(folder / "lib");
  ASSERT_FALSE(library);
  EXPECT_EQ(library.error().code, ErrorCode::CannotRead);
  EXPECT_FALSE(library.error().next.empty());
}

TEST(Library, FindsAMissingAndAnAlteredClip) {
  Fixture f;
  const SubmissionId id = f.add();
  EXPECT_TRUE(f.library.check()->empty());
  const auto file = f.library.clipFile(*f.library.submission(id));
  std::filesystem::permissions(file, std::filesystem::perms::owner_write, std::filesystem::perm_options::add);
  f.folder.write("lib/media/" + file.filename().string(), "altered");
  ASSERT_EQ(f.library.check()->size(), 1u);
  std::filesystem::remove(file);
  EXPECT_NE(f.library.check()->at(0).find("missing"), std::string::npos);
}

// JIB_RUNS for more kills. A child process saves without end and is killed while it does; whatever it had been told was
// saved must be there.
TEST(Library, LosesNothingSavedWhenKilledInTheMiddleOfASave) {
  const char* wanted = std::getenv("JIB_RUNS");
  const int rounds = wanted ? std::atoi(wanted) : 6;
  for (int round = 0; round < rounds; ++round) {
    Fixture f;
    const SubmissionId id = f.add();
    int told[2];
    ASSERT_EQ(pipe(told), 0);
    const pid_t child = fork();
    if (child == 0) {
      auto own = Library::open(f.folder / "lib");
      for (int n = 1; own && n < 100000; ++n) {
        Review r = sampleReview();
        r.play_head_s = n;
        r.greeting.assign(20000, 'g');  // large enough to take several pages
        if (!own->saveReview(id, r)) break;
        if (write(told[1], &n, sizeof n) != sizeof n) break;
      }
      _exit(0);
    }
    close(told[1]);
    int last = 0, n = 0;
    while (last < 5 + 3 * (round % 9) && read(told[0], &n, sizeof n) == sizeof n) last = n;
    kill(child, SIGKILL);
    while (read(told[0], &n, sizeof n) == sizeof n) last = n;
    waitpid(child, nullptr, 0);
    close(told[0]);
    auto again = Library::open(f.folder / "lib");
    ASSERT_TRUE(again) << again.error().what;
    EXPECT_TRUE(again->check()->empty());
    const auto review = again->review(id);
    ASSERT_TRUE(review);
    EXPECT_GE(review->play_head_s, last);
    EXPECT_LE(review->play_head_s, last + 1);
  }
}

TEST(Library, ReturningAReplyAgainReplacesItsThreads) {
  Fixture f;
  const SubmissionId id = f.add();
  coaching::Cue cue;
  cue.title = "Hips lead";
  cue.weeks = 4;
  const auto s = *f.library.submission(id);
  ASSERT_TRUE(tests::returned(f.library, id, threadsFor(s, {cue, cue}, "2026-01-02")));
  ASSERT_TRUE(tests::returned(f.library, id, threadsFor(s, {cue}, "2026-01-03")));
  const auto threads = f.library.threads(f.athlete);
  ASSERT_EQ(threads->size(), 1u);
  EXPECT_EQ(threads->front().review_on, "2026-01-31");
  EXPECT_EQ(f.library.submission(id)->state, SubmissionState::Returned);
}

TEST(Export, GivesAnAthleteTheirClipsAndRecords) {
  Fixture f;
  const SubmissionId id = f.add();
  ASSERT_TRUE(f.library.saveReview(id, sampleReview()));
  Task task;
  ASSERT_TRUE(exportAthlete(f.library, f.athlete, f.folder / "out", task));
  EXPECT_NE(bytesOf(f.folder / "out/athlete.json").find("Ola Marsh"), std::string::npos);
  EXPECT_EQ(bytesOf(f.folder / "out/clips/2026-01-02-1.mp4"), "not really a film");
}

coaching::Limit kneeLimit() {
  coaching::Limit l;
  l.finding = "squat.knees_slide_back";
  l.measure = "knee_slide_back_pct_shin";
  l.side = coaching::Side::Above;
  l.limit = 12;
  return l;
}

TEST(Progress, IsMetBetterOrNoChange) {
  CueThread t;
  t.value_then = 22;
  t.sigma_then = 2;
  EXPECT_EQ(progressOf(t, {6, 2, 0}, kneeLimit()), ThreadState::Met);
  EXPECT_EQ(progressOf(t, {13, 2, 0}, kneeLimit()), ThreadState::Better);
  // 22 to 20 with 2 either way is within 1.64 * sqrt(8) = 4.6: nothing can be said.
  EXPECT_EQ(progressOf(t, {20, 2, 0}, kneeLimit()), ThreadState::NotYet);
  EXPECT_EQ(progressOf(t, {26, 2, 0}, kneeLimit()), ThreadState::NotYet);
}

TEST(FollowUp, LeavesThreadsAskedInThisSubmissionOrLaterAlone) {
  const coaching::Style style = *coaching::shippedStyle("balanced");
  coaching::Analysis a;
  a.measures.reps.push_back({{lifts::measureDefinition("knee_slide_back_pct_shin"), lifts::Measured{5, 1, 2}}});
  Submission s;
  s.id = SubmissionId(7);
  s.received_on = "2026-03-01";
  CueThread before, here, later;
  for (CueThread* t : {&before, &here, &later}) {
    t->finding = "squat.knees_slide_back";
    t->measure = "knee_slide_back_pct_shin";
    t->value_then = 20;
    t->sigma_then = 2;
  }
  before.asked_in = SubmissionId(3);
  before.asked_on = "2026-02-01";
  here.asked_in = SubmissionId(7);
  here.asked_on = "2026-03-02";
  later.asked_in = SubmissionId(9);
  later.asked_on = "2026-04-01";
  const auto now = measuredNow({before, here, later}, s, a, style);
  EXPECT_EQ(now[0].state, ThreadState::Met);
  EXPECT_EQ(*now[0].value_now, 5);
  EXPECT_FALSE(now[1].value_now);
  EXPECT_FALSE(now[2].value_now);
}

// Lighter, in another variant or of another lift: a fault that does not show there is not gone.
TEST(FollowUp, CallsACueMetOnlyOnAClipThatCanBeHeldAgainstTheOneItWasAskedOn) {
  const auto style = *coaching::shippedStyle("balanced");
  coaching::Analysis a;
  a.measures.reps.push_back({{lifts::measureDefinition("knee_slide_back_pct_shin"), lifts::Measured{5, 1, 2}},
                             {lifts::measureDefinition("speed_loss_pct"), lifts::Measured{5, 1, 2}}});
  Submission s;
  s.id = SubmissionId(7);
  s.received_on = "2026-03-01";
  s.variant = "low-bar";
  s.load_kg = 100;
  CueThread t;
  t.asked_in = SubmissionId(3);
  t.asked_on = "2026-02-01";
  t.finding = "squat.knees_slide_back";
  t.measure = "knee_slide_back_pct_shin";
  t.value_then = 20;
  t.sigma_then = 2;
  t.asked_variant = "low-bar paused";
  t.asked_load_kg = 105;
  const auto stateOf = [&] { return measuredNow({t}, s, a, style)[0]; };
  EXPECT_EQ(stateOf().state, ThreadState::Met) << "a few kilos and the tempo do not matter";
  s.load_kg = 80;
  EXPECT_EQ(stateOf().state, ThreadState::NotComparable);
  EXPECT_EQ(stateOf().why_not, "lighter than when it was asked");
  s.load_kg = 120;
  EXPECT_EQ(stateOf().state, ThreadState::Met) << "heavier says more, not less";
  s.variant = "high-bar";
  EXPECT_EQ(stateOf().why_not, "low bar then, high bar now");
  s.variant = "low-bar";
  t.asked_kit = {{"shoes", "flat"}};
  s.details.kit = {{"shoes", "raised"}, {"belt", "belt"}};
  EXPECT_EQ(stateOf().why_not, "flat then, raised heel now");
  s.details.kit = {{"belt", "belt"}};
  EXPECT_EQ(stateOf().state, ThreadState::Met) << "what nobody said keeps nothing from being compared";
  a.motion.calibration.turned_deg = 40;
  EXPECT_EQ(stateOf().why_not, "filmed from another angle");
  t.finding = "bench.slows_over_set";
  t.measure = "speed_loss_pct";
  EXPECT_EQ(stateOf().state, ThreadState::Asked) << "a squat says nothing of a bench press";
}

TEST(FollowUp, ACueOfTheCoachsOwnIsHeldAgainstItsNumberOrItsName) {
  const coaching::Analysis& a = tests::smallAnalysis();
  coaching::Cue cue = coaching::ownCue(2.0);
  cue.wording = "Sit between your hips.";
  cue.measure = "descent_s";
  cue.value = 3;
  cue.known = true;
  Submission asked, later;
  asked.id = SubmissionId(1);
  later.id = SubmissionId(2);
  later.received_on = "2026-12-01";
  auto threads = threadsFor(asked, {cue}, "2026-11-01");
  ASSERT_EQ(threads.size(), 1u);
  EXPECT_EQ(threads[0].title, "Sit between your hips.") << "without a name it goes by its words";
  EXPECT_TRUE(coaching::isOwnCheck(threads[0].finding));
  const auto style = *coaching::shippedStyle("balanced");
  const auto now = measuredNow(threads, later, a, style).at(0);
  EXPECT_NEAR(*now.value_now, meanOf("descent_s", a.measures)->value, 1e-12);
  EXPECT_EQ(now.state, ThreadState::Asked) << "what is better is for the coach to say";

  threads[0].measure.clear();
  coaching::Analysis seen = a;
  seen.request.marks = {{threads[0].finding, coaching::MarkState::Fine, 1, 2.0}};
  EXPECT_EQ(measuredNow(threads, later, seen, style).at(0).state, ThreadState::Met) << "by eye";
  EXPECT_EQ(meanOf("nothing", a.measures), std::nullopt);
}

TEST(Dates, CountDaysOverMonthAndLeapYear) {
  EXPECT_EQ(daysLater("2026-11-25", 28), "2026-12-23");
  EXPECT_EQ(daysLater("2028-02-28", 1), "2028-02-29");
  EXPECT_EQ(daysBetween("2026-12-31", "2027-01-02"), 2);
  EXPECT_EQ(daysBetween("2026-12-31", "early May"), std::nullopt) << "no date is not today";
  EXPECT_EQ(daysLater("soon", 3), "soon");
}

TEST(CuesFile, SurvivesARoundTripAndRefusesDamage) {
  const auto review = sampleReview();
  EXPECT_EQ(*cuesFromJson(cuesToJson(review.cues)), review.cues);
  EXPECT_EQ(cuesFromJson("[{}]").error().code, ErrorCode::BadData);
  EXPECT_EQ(cuesFromJson("nonsense").error().code, ErrorCode::BadData);
}

}  // namespace
}  // namespace jib::library
