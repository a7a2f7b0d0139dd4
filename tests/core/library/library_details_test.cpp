// SPDX-License-Identifier: GPL-3.0-or-later
// What the library keeps beside rows and clips: details of sets, pulses, pairs, who the coach is, what is due.
#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/library/dates.h"
#include "core/library/library.h"
#include "core/library/schema.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/returned.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

struct Shelf {
  tests::ScratchFolder folder;
  Library library = *Library::open(folder / "lib");

  AthleteId athlete(const std::string& name) { return *library.addAthlete({AthleteId(0), name, "", "balanced"}); }
  SubmissionId add(AthleteId whose, const std::string& film) {
    Submission s;
    s.athlete = whose;
    s.received_on = "2026-11-20";
    Task task;
    return *library.addSubmission(s, folder.write(film, film), task);
  }
  void reopen() { library = *Library::open(folder / "lib"); }
};

SubmissionDetails sample() {
  SubmissionDetails d;
  d.plates = coaching::Loading{};
  d.plates->near = {0, 3};
  d.set_loads_kg = {100, std::nullopt, 140.5};
  d.top_set = 2;
  d.seen_from = "head";
  d.roll_deg = -2.5;
  d.lifter = tracing::PointedAt{1.5, {320.25, 200}};
  d.left_out = {{0, 2.5}, {8, 9}};
  d.pair_offset_s = -1.25;
  d.overruled = {{"depth", "2026-11-25"}};
  return d;
}

TEST(Details, AreKeptExactlyAndForgiveWhatTheyCannotRead) {
  EXPECT_EQ(detailsFromJson(detailsToJson(sample())), sample());
  EXPECT_EQ(detailsToJson({}), "{}") << "unknown takes no room";
  EXPECT_EQ(detailsFromJson("no json"), SubmissionDetails{});
  EXPECT_EQ(detailsFromJson(R"({"lifter": [1, "x", 2], "left_out": [[3], [4, null], 5]})"), SubmissionDetails{});
  EXPECT_EQ(detailsFromJson("{\"top_set\": \"two\", \"overruled\": [1], \"plates\": 5}"), SubmissionDetails{});
}

TEST(Details, AnAthletesPlatesHoldFromClipToClip) {
  Shelf shelf;
  const AthleteId ida = shelf.athlete("Ida"), per = shelf.athlete("Per");
  Submission first = *shelf.library.submission(shelf.add(ida, "a.mp4"));
  EXPECT_EQ(first.plate_mm, 450);
  first.plate_mm = 425;
  ASSERT_TRUE(shelf.library.edit(first.id, [&](auto& row_now) { row_now = first; }));
  EXPECT_EQ(shelf.library.submission(shelf.add(ida, "b.mp4"))->plate_mm, 425);
  EXPECT_EQ(shelf.library.submission(shelf.add(per, "c.mp4"))->plate_mm, 450) << "hers are not his";
}

TEST(Details, AnotherViewForgetsWhatWasTracedAndNothingElse) {
  Shelf shelf;
  const auto orla = shelf.athlete("Orla Finch");
  const auto id = shelf.add(orla, "a.mp4"), other = shelf.add(orla, "b.mp4");
  for (const auto one : {id, other}) ASSERT_TRUE(shelf.library.saveTracing(one, "{\"traced\": true}"));
  Review review;
  review.greeting = "Hi Orla";
  ASSERT_TRUE(shelf.library.saveReview(id, review));
  ASSERT_TRUE(shelf.library.setSeenFrom(id, "rear"));
  EXPECT_EQ(shelf.library.submission(id)->details.seen_from, "rear");
  EXPECT_EQ(*shelf.library.tracing(id), "");
  EXPECT_EQ(shelf.library.review(id)->greeting, "Hi Orla") << "what the coach wrote stays";
  EXPECT_NE(*shelf.library.tracing(other), "");
  EXPECT_FALSE(shelf.library.setSeenFrom(SubmissionId(999), "rear"));
}

TEST(Details, AnotherLifterIsLookedForAnew) {
  Shelf shelf;
  const auto id = shelf.add(shelf.athlete("Orla Finch"), "a.mp4");
  const std::string hash = shelf.library.submission(id)->clip_hash;
  ASSERT_TRUE(shelf.library.saveTracing(id, "{\"traced\": true}"));
  ASSERT_TRUE(shelf.library.saveCheck(hash, "{\"seen\": 1}"));
  const tracing::PointedAt her{2, {120, 80}};
  ASSERT_TRUE(shelf.library.setLifter(id, her));
  EXPECT_EQ(shelf.library.submission(id)->details.lifter, her);
  EXPECT_EQ(*shelf.library.tracing(id), "");
  EXPECT_EQ(*shelf.library.checkOf(hash), "") << "it was made of somebody else";
  ASSERT_TRUE(shelf.library.setLifter(id, std::nullopt));
  EXPECT_FALSE(shelf.library.submission(id)->details.lifter);
}

TEST(Profile, WhatThisProgramDoesNotUnderstandIsWrittenBackAsItCame) {
  const std::string written = R"({"height_cm": 180, "goal": 7, "from_next_year": {"a": [1, 2]}, "apart_from": [4]})";
  Profile profile = profileFromJson(written);
  EXPECT_EQ(profile.height_cm, 180);
  EXPECT_EQ(profile.apart_from, std::vector<std::int64_t>{4});
  profile.height_cm = 181;
  const auto again = nlohmann::json::parse(profileToJson(profile));
  EXPECT_EQ(again["from_next_year"]["a"][1], 2);
  EXPECT_EQ(again["goal"], 7) << "unread, not lost";
  EXPECT_EQ(again["height_cm"], 181);
  EXPECT_EQ(profileFromJson(profileToJson(profile)), profile);
}

TEST(Details, BelongToTheirSubmissionAfterReopening) {
  Shelf f;
  const auto ola = f.athlete("Ola");
  const auto one = f.add(ola, "one.mp4"), two = f.add(ola, "two.mp4");
  auto s = *f.library.submission(one);
  s.details = sample();
  ASSERT_TRUE(f.library.edit(s.id, [&](auto& row_now) { row_now = s; }));
  f.reopen();
  EXPECT_EQ(f.library.submission(one)->details, sample());
  EXPECT_EQ(f.library.submission(two)->details, SubmissionDetails{});
}

std::vector<std::pair<SubmissionId, double>> setOf(Library& library, SubmissionId id) {
  std::vector<std::pair<SubmissionId, double>> films;
  const auto set = library.filmsOfSet(id);
  for (const SetFilm& film : *set) films.emplace_back(film.film.id, film.offset_s);
  return films;
}

TEST(FilmsOfASet, AreInOneTimeFromEachOfThem) {
  using Films = std::vector<std::pair<SubmissionId, double>>;
  Shelf f;
  const auto ola = f.athlete("Ola");
  const auto side = f.add(ola, "side.mp4"), front = f.add(ola, "front.mp4"), rear = f.add(ola, "rear.mp4");
  EXPECT_TRUE(setOf(f.library, side).empty());
  ASSERT_TRUE(f.library.joinSet(side, front, 2.5));
  EXPECT_EQ(setOf(f.library, side), (Films{{front, 2.5}}));
  EXPECT_EQ(setOf(f.library, front), (Films{{side, -2.5}}));
  // The third is linked with the front, and so belongs to the side as well.
  ASSERT_TRUE(f.library.joinSet(front, rear, 1.0));
  EXPECT_EQ(setOf(f.library, side), (Films{{front, 2.5}, {rear, 3.5}}));
  EXPECT_EQ(setOf(f.library, rear), (Films{{front, -1.0}, {side, -3.5}}));
  // Moving the film in the middle takes along what hangs on it; moving the last moves only that.
  ASSERT_TRUE(f.library.setOffset(side, front, 2.0));
  EXPECT_EQ(setOf(f.library, side), (Films{{front, 2.0}, {rear, 3.0}}));
  ASSERT_TRUE(f.library.setOffset(side, rear, 4.0));
  EXPECT_EQ(setOf(f.library, side), (Films{{front, 2.0}, {rear, 4.0}}));
  EXPECT_EQ(f.library.submission(front)->details.pair_offset_s, -2.0);
  EXPECT_FALSE(f.library.setOffset(side, SubmissionId(99), 1)) << "one that is not there";
  EXPECT_FALSE(f.library.setOffset(side, side, 1));
}

TEST(FilmsOfASet, LeaveItAndStandAlone) {
  Shelf f;
  const auto ola = f.athlete("Ola");
  const auto side = f.add(ola, "side.mp4"), front = f.add(ola, "front.mp4"), rear = f.add(ola, "rear.mp4"),
             other = f.add(ola, "other.mp4");
  ASSERT_TRUE(f.library.joinSet(side, front, std::nullopt));
  ASSERT_TRUE(f.library.joinSet(rear, other, 1.0));
  EXPECT_FALSE(f.library.joinSet(side, rear, 0.0)) << "two whole sets";
  EXPECT_EQ(f.library.submission(side)->pair, front) << "nothing changed";
  ASSERT_TRUE(f.library.leaveSet(other));
  EXPECT_TRUE(setOf(f.library, rear).empty());
  EXPECT_FALSE(f.library.submission(rear)->details.pair_offset_s);
  ASSERT_TRUE(f.library.joinSet(side, rear, 0.0));
  EXPECT_EQ(setOf(f.library, front).size(), 2u);
  ASSERT_TRUE(f.library.leaveSet(rear));
  EXPECT_EQ(setOf(f.library, front).size(), 1u);
}

TEST(Pulses, AreKeptByClip) {
  Shelf f;
  EXPECT_TRUE(f.library.pulseOf("nobody")->empty());
  ASSERT_TRUE(f.library.savePulse("h", {0.5f, -0.25f}));
  ASSERT_TRUE(f.library.savePulse("h", {0.5f, -0.25f, 1e-3f})) << "again, longer";
  f.reopen();
  EXPECT_EQ(*f.library.pulseOf("h"), (std::vector<float>{0.5f, -0.25f, 1e-3f}));
}

TEST(Coach, IsTheDefaultUntilSetAndThenStays) {
  Shelf f;
  EXPECT_EQ(*f.library.coach(), CoachCard{});
  const CoachCard mara{"Mara Quill", "mara@quill.invalid", true};
  ASSERT_TRUE(f.library.setCoach({"Someone", "x@y.invalid", false}));
  ASSERT_TRUE(f.library.setCoach(mara));
  f.reopen();
  EXPECT_EQ(*f.library.coach(), mara);
}

TEST(Due, IsTheSoonestOpenDateOfEachAthlete) {
  Shelf f;
  const auto ola = f.athlete("Ola"), pim = f.athlete("Pim");
  const auto asked = [&](AthleteId whose, const std::string& film, const std::string& due, ThreadState state) {
    CueThread t;
    t.athlete = whose;
    t.review_on = due;
    t.state = state;
    ASSERT_TRUE(tests::returned(f.library, f.add(whose, film), {t}));
  };
  EXPECT_TRUE(f.library.dueOn()->empty());
  asked(ola, "a.mp4", "2026-12-20", ThreadState::Asked);
  asked(ola, "b.mp4", "2026-12-05", ThreadState::Better);
  asked(ola, "c.mp4", "2026-11-01", ThreadState::Met);
  asked(pim, "d.mp4", "2026-10-01", ThreadState::Dropped);
  const auto due = *f.library.dueOn();
  ASSERT_EQ(due.size(), 1u) << "nothing is open for Pim";
  EXPECT_EQ(due.at(ola.number), "2026-12-05");
}

TEST(Schema, TheThirdIsCarriedOnWithoutItsChecks) {
  tests::ScratchFolder folder;
  std::filesystem::create_directories(folder / "lib/media");
  {
    SQLite::Database db((folder / "lib/library.sqlite").string(), SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    migrate(db, 0, 3);
    db.exec("INSERT INTO athlete(name, note) VALUES('Old Friend', '')");
    db.exec(
        "INSERT INTO submission(athlete, received_on, message, lift, variant, plate_mm, slow_factor, clip_name, "
        "clip_hash, state) VALUES(1, '2026-01-02', 'hi', 'squat', 'low-bar', 450, 1, 'a.mp4', 'h', 'new')");
    db.exec("INSERT INTO clip_check(clip_hash, json) VALUES('h', '{\"sets\": 1}')");
  }
  auto library = Library::open(folder / "lib");
  ASSERT_TRUE(library) << library.error().what;
  EXPECT_EQ(library->submissions()->front().details, SubmissionDetails{});
  EXPECT_TRUE(library->checks()->empty()) << "they are made again, with the times of the sets";
  EXPECT_TRUE(std::filesystem::exists(folder / ("lib/library.sqlite.before-" + std::to_string(Library::kSchema))));
}

TEST(Speeds, AreThoseOfTheAthletesSquatsWithALoad) {
  Shelf f;
  const auto ola = f.athlete("Ola"), other = f.athlete("Rut");
  const auto add = [&](double load_kg, const std::string& on, const std::string& lift) {
    Submission s = *f.library.submission(f.add(ola, on + ".mp4"));
    s.received_on = on;
    s.lift = lift;
    if (load_kg > 0) s.load_kg = load_kg;
    EXPECT_TRUE(f.library.edit(s.id, [&](auto& row_now) { row_now = s; }));
    return s.id;
  };
  const auto heavy = add(150, "2026-10-08", "squat"), light = add(120, "2026-10-01", "squat");
  const auto pull = add(180, "2026-10-02", "deadlift"), unknown = add(0, "2026-10-03", "squat");
  for (const auto id : {heavy, light, pull, unknown}) ASSERT_TRUE(f.library.saveSpeed(id, 0.7, 0.02));
  ASSERT_TRUE(f.library.saveSpeed(heavy, 0.5, 0.01)) << "measured again";
  const auto speeds = *f.library.speeds(ola, "squat");
  ASSERT_EQ(speeds.size(), 2u);
  EXPECT_EQ(speeds[0].load_kg, 120);
  EXPECT_EQ(speeds[1].mps, 0.5);
  EXPECT_EQ(speeds[1].on, "2026-10-08");
  EXPECT_TRUE(f.library.speeds(other, "squat")->empty());
}

// Trends are drawn from it, and the athlete's build is read from it without opening a film.
TEST(Library, KeepsEveryMeasureOfATracedSetOnce) {
  const tests::ScratchFolder folder;
  auto library = *Library::open(folder / "lib");
  Submission s;
  s.athlete = *library.addAthlete({AthleteId{0}, "Ola", {}, "balanced", {}});
  s.received_on = "2026-11-20";
  s.lift = "squat";
  Task task;
  const auto id = *library.addSubmission(s, folder.write("a.mp4", "film"), task);
  coaching::Analysis a = tests::smallAnalysis();
  ASSERT_TRUE(library.saveResults(id, a));
  const auto& depth = *lifts::find(a.measures.reps[1], "hip_crease_above_knee_m")->measured();
  ASSERT_TRUE(library.saveResults(id, a)) << "again, as after every tracing";
  const auto kept = *library.measured(s.athlete, "hip_crease_above_knee_m");
  ASSERT_EQ(kept.size(), 2u) << "one a rep";
  EXPECT_EQ(kept[1].rep, 2);
  EXPECT_EQ(kept[1].on, "2026-11-20");
  EXPECT_EQ(kept[1].measured.value, depth.value);
  EXPECT_EQ(kept[1].measured.sigma, depth.sigma);
  EXPECT_EQ(library.measured(s.athlete, "thigh_to_trunk_ratio")->at(0).rep, 0) << "of the set";
  a.measures.reps.pop_back();
  ASSERT_TRUE(library.saveResults(id, a));
  EXPECT_EQ(library.measured(s.athlete, "hip_crease_above_knee_m")->size(), 1u) << "what is no longer measured goes";
}

// A day begins later in the east: 25 hours lie between these two.
TEST(Dates, TodayIsTheDayOnTheReadersWall) {
  const char* was = std::getenv("TZ");
  const std::string before = was ? was : "";
  const auto in = [](const char* zone) {
    setenv("TZ", zone, 1);
    tzset();
    return today();
  };
  const std::string east = in("<+14>-14"), west = in("<-11>11");
  EXPECT_GT(east, west);
  EXPECT_TRUE(isDate(east) && isDate(west));
  was ? setenv("TZ", before.c_str(), 1) : unsetenv("TZ");
  tzset();
}

TEST(Picture, SetRightByHandCarriesWhatWasPlacedAndForgetsWhatWasFound) {
  Shelf shelf;
  const auto id = shelf.add(shelf.athlete("Ola Marsh"), "lift.mp4");
  const auto hash = shelf.library.submission(id)->clip_hash;
  Review review;
  tracing::PlacedFrame placed;
  placed.points[tracing::at(tracing::Landmark::Hip)] = PixelPoint{100, 50};
  review.placed = {placed};
  coaching::Shape line;
  line.anchors.resize(2);
  line.anchors[0].place = {10, 20};
  line.anchors[1].place = {30, 40};
  line.anchors[0].rides = tracing::PointName{tracing::Landmark::Knee, tracing::BodySide::Left};
  line.anchors[1].followed = {PixelPoint{31, 41}, std::nullopt};
  review.sketch.shapes = {line};
  ASSERT_TRUE(shelf.library.saveReview(id, review));
  ASSERT_TRUE(shelf.library.saveTracing(id, "{}"));
  ASSERT_TRUE(shelf.library.saveCheck(hash, "{}"));

  auto row = *shelf.library.submission(id);
  row.details.roll_deg = 3;
  ASSERT_TRUE(shelf.library.edit(row.id, [&](auto& row_now) { row_now = row; }));
  const tracing::PointName left_knee{tracing::Landmark::Knee, tracing::BodySide::Left},
      right_knee{tracing::Landmark::Knee, tracing::BodySide::Right};
  review.placed[0].at(left_knee) = PixelPoint{200, 60};
  ASSERT_TRUE(shelf.library.saveReview(id, review));
  ASSERT_TRUE(shelf.library.setUpright(id, {0, true, 1}, {640, 360}));
  EXPECT_NEAR(shelf.library.submission(id)->details.roll_deg.value(), -3, 1e-9) << "the post leans the other way";
  EXPECT_TRUE(shelf.library.review(id)->sketch.shapes[0].anchors[0].rides == right_knee);
  EXPECT_DOUBLE_EQ(shelf.library.review(id)->placed[0].at(right_knee)->x, 440) << "mirrored, it is the other knee";
  const auto turned = *shelf.library.review(id);
  EXPECT_DOUBLE_EQ(turned.placed[0].points[tracing::at(tracing::Landmark::Hip)]->x, 540);
  EXPECT_DOUBLE_EQ(turned.sketch.shapes[0].anchors[0].place.x, 630);
  EXPECT_DOUBLE_EQ(turned.sketch.shapes[0].anchors[1].followed[0]->x, 609);
  EXPECT_FALSE(turned.sketch.shapes[0].anchors[1].followed[1]);
  EXPECT_TRUE(shelf.library.tracing(id)->empty());
  EXPECT_TRUE(shelf.library.checkOf(hash)->empty());
  EXPECT_TRUE(shelf.library.check()->empty()) << "the file beside the clip belongs to it";

  ASSERT_TRUE(shelf.library.setUpright(id, {}, {640, 360}));
  EXPECT_EQ(shelf.library.review(id)->sketch, review.sketch) << "back as it came";
  EXPECT_NEAR(shelf.library.submission(id)->details.roll_deg.value(), 3, 1e-9);
}

TEST(Picture, WhatWasSetRightGoesWithItsClip) {
  Shelf shelf;
  const auto id = shelf.add(shelf.athlete("Ola Marsh"), "lift.mp4");
  const auto clip = shelf.library.clipFile(*shelf.library.submission(id));
  ASSERT_TRUE(shelf.library.setUpright(id, {90, false, 1}, {640, 360}));
  ASSERT_TRUE(std::filesystem::exists(footage::uprightFile(clip)));
  ASSERT_TRUE(shelf.library.remove(*shelf.library.removalOf(id)));
  EXPECT_FALSE(std::filesystem::exists(footage::uprightFile(clip)));
}

}  // namespace
}  // namespace jib::library
