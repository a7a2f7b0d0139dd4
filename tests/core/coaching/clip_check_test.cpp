// SPDX-License-Identifier: GPL-3.0-or-later
// What a clip carries, by view and by what is wrong with it; from where it was filmed.
#include "core/coaching/clip_check.h"

#include <gtest/gtest.h>

#include "core/base/angle.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/letters/filming_request.h"
#include "core/exchange/letters/letters.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);

using tracing::BodySide;
using tracing::FirstLook;
using tracing::PoseMark;
using tracing::Seen;

FirstLook goodLook(Seen seen = Seen::Side) {
  FirstLook look;
  look.view.seen = seen;
  look.looked = look.found = 12;
  look.body_share = 0.7;
  look.light = 0.4;
  look.blur = 0.9;
  return look;
}

ClipCheck checked(const FirstLook& look, const std::function<void(Analysis&)>& change = {}) {
  Analysis a = tests::smallAnalysis();
  if (change) change(a);
  return checkClip(a.clip, look, lifts::LiftId::Squat, &a, "");
}

bool troubled(const ClipCheck& c, std::string_view id) {
  return std::any_of(c.troubles.begin(), c.troubles.end(), [&](const auto& t) { return t.id == id; });
}

TEST(ClipCheck, ASideViewCarriesDepthAndAFrontViewTheKnees) {
  const ClipCheck side = checked(goodLook());
  EXPECT_EQ(side.claim("depth")->can, Can::Yes);
  EXPECT_EQ(side.claim("knee_line")->can, Can::No);
  EXPECT_FALSE(side.claim("knee_line")->why.empty());
  const footage::ClipInfo clip = tests::smallAnalysis().clip;
  const ClipCheck front = checkClip(clip, goodLook(Seen::Front), lifts::LiftId::Squat, nullptr, "");
  EXPECT_EQ(front.claim("depth")->can, Can::No);
  EXPECT_FALSE(troubled(front, "no_lift")) << "a front view without a rim is no fault of the clip";
  const ClipCheck nobody =
      checkClip(clip, goodLook(Seen::Nobody), lifts::LiftId::Squat, nullptr, "No plate was found.");
  EXPECT_TRUE(troubled(nobody, "nobody"));
  for (const Claim& c : nobody.claims) EXPECT_NE(c.can, Can::Yes) << c.id;
}

TEST(ClipCheck, DepthIsWeakFromAboveAndGoneFromHighAbove) {
  const auto from = [](double deg) {
    return checked(goodLook(), [deg](Analysis& a) { a.motion.calibration.look_down_deg = deg; });
  };
  const ClipCheck level = from(0), above = from(11), high_above = from(18);
  EXPECT_EQ(level.claim("depth")->can, Can::Yes);
  EXPECT_EQ(above.claim("depth")->can, Can::Weakly);
  EXPECT_EQ(high_above.claim("depth")->can, Can::No);
  EXPECT_EQ(above.claim("lean")->can, Can::Yes);
  EXPECT_EQ(high_above.claim("lean")->can, Can::Weakly);
  EXPECT_TRUE(troubled(from(18), "camera_high"));
  EXPECT_TRUE(troubled(from(-12), "camera_low"));
}

TEST(ClipCheck, AFlatPlateIsSqueezedOnlyWhereTheCameraIsLevel) {
  const auto flat = [](double look_down_deg, double tilt_deg) {
    return checked(goodLook(), [=](Analysis& a) {
      auto bar = *a.trace.bar;
      bar.rim.aspect = 0.9;
      bar.rim.tilt_rad = radians(tilt_deg);
      a.trace.bar = std::make_shared<const tracing::BarTrace>(std::move(bar));
      a.motion.calibration.look_down_deg = look_down_deg;
    });
  };
  EXPECT_TRUE(troubled(flat(0, 0), "squeezed"));
  EXPECT_FALSE(troubled(flat(22, 0), "squeezed")) << "seen from above";
  EXPECT_FALSE(troubled(flat(0, 90), "squeezed")) << "narrow: seen from the side of the side";
}

TEST(ClipCheck, EveryTroubleSaysWhatToAskFor) {
  FirstLook look = goodLook(Seen::Oblique);
  look.view.turned_deg = 45;
  look.feet_in_picture = false;
  look.moving = true;
  look.light = 0.05;
  look.blur = 8;
  look.body_share = 0.2;
  const ClipCheck c = checked(look, [](Analysis& a) { a.reps.resize(1); });
  for (const char* id : {"oblique", "feet_cut", "moving", "dark", "blurred", "small", "single"})
    EXPECT_TRUE(troubled(c, id)) << id;
  const auto letters = *exchange::LetterBook::forLibrary("nowhere");
  const std::string words = letters.filmAgain("Ines", c).text;
  for (const ClipTrouble& t : c.troubles) {
    EXPECT_NE(words.find(t.ask), std::string::npos) << t.id;
    EXPECT_NE(words.find(t.to_athlete), std::string::npos) << t.id;
  }
  EXPECT_EQ(words.find("The athlete"), std::string::npos) << "the coach's words stay with the coach";
  EXPECT_EQ(words.find("Hi Ines"), 0u);
  EXPECT_TRUE(letters.filmAgain("Ines", ClipCheck{}).text.empty()) << "nothing to ask for";
}

TEST(ClipCheck, SlowMotionIsAQuestionWithAFactor) {
  EXPECT_FALSE(checked(goodLook()).slow_factor);
  // The same motion stretched eight times.
  const ClipCheck slow = checked(goodLook(), [](Analysis& a) {
    for (double& t : a.motion.times_s) t *= 8;
    for (auto* all : {&a.motion.bar_vz_mps, &a.motion.bar_vx_mps})
      for (auto& v : *all)
        if (v) *v /= 8;
    a.reps = motion::findReps(a.motion, motion::RepPattern::DownFirst);
    a.measures = lifts::measureSet(kSquat, a.motion, a.reps);
  });
  EXPECT_EQ(slow.slow_factor, 8);
  EXPECT_TRUE(troubled(slow, "slowed"));
}

TEST(ClipCheck, CountsTheRepsOfAllSetsWhicheverIsJudged) {
  const ClipCheck c = checked(goodLook(), [](Analysis& a) {
    a.sets = {{0, 3, 4.0, 15.0}, {3, 2, 75.0, 84.0}};
    a.set = 1;
    a.reps.resize(2);
  });
  ASSERT_EQ(c.sets.size(), 2u);
  EXPECT_EQ(c.reps, 5);
  EXPECT_EQ(c.sets[1].reps, 2);
  const auto back = *checkFromJson(checkToJson(c));
  EXPECT_EQ(back.sets[1].from_s, 75.0) << "so that the coach can go there";
  EXPECT_EQ(back.sets[0].to_s, 15.0);
}

TEST(ClipCheck, EveryClaimHasAName) {
  for (const Claim& claim : checked(goodLook()).claims) {
    EXPECT_NE(titleOfClaim(lifts::LiftId::Squat, claim.id), claim.id);
    EXPECT_EQ(claim.title, titleOfClaim(lifts::LiftId::Squat, claim.id));
  }
  EXPECT_EQ(titleOfClaim(lifts::LiftId::Squat, "of another program"), "of another program");
}

TEST(ClipCheck, IsKeptExactly) {
  FirstLook look = goodLook();
  look.moving = true;
  const ClipCheck c = checked(look);
  const auto back = checkFromJson(checkToJson(c));
  ASSERT_TRUE(back);
  EXPECT_EQ(checkToJson(*back), checkToJson(c));
  EXPECT_EQ(checkFromJson("{\"view\": 3").error().code, ErrorCode::BadData);
}

// A standing body: hips, shoulders and feet as seen with the camera turned from the side.
tracing::PoseReading bodyTurned(double deg) {
  tracing::PoseReading r;
  r.confidence.fill(0.9);
  const double across = std::sin(radians(deg)), along = std::cos(radians(deg)), trunk = 120;
  for (BodySide side : {BodySide::Left, BodySide::Right}) {
    const double s = side == BodySide::Left ? 0.5 : -0.5;
    const auto put = [&](PoseMark mark, double width, double ahead, double y) {
      r.places[r.index(mark, side)] = {500 + trunk * (s * width * across + ahead * along), y};
    };
    put(PoseMark::Shoulder, 0.72, 0, 200);
    put(PoseMark::Hip, 0.43, 0, 200 + trunk);
    put(PoseMark::Ankle, 0.7, 0, 500);
    put(PoseMark::Heel, 0.7, -0.1, 515);
    put(PoseMark::Toe, 0.7, 0.32, 515);
  }
  return r;
}

TEST(ViewLook, KnowsSideFrontAndRearAndTheWayTheToesPoint) {
  const auto seen = [](double deg) { return tracing::viewFrom({bodyTurned(deg), bodyTurned(deg)}); };
  EXPECT_EQ(seen(0).seen, Seen::Side);
  EXPECT_EQ(seen(0).forward, 1.0);
  EXPECT_EQ(seen(180).forward, -1.0);
  EXPECT_EQ(seen(20).seen, Seen::Side);
  EXPECT_EQ(seen(45).seen, Seen::Oblique);
  EXPECT_NEAR(seen(45).turned_deg, 45, 1);
  EXPECT_EQ(seen(90).seen, Seen::Front);
  EXPECT_EQ(seen(-90).seen, Seen::Rear);
  EXPECT_EQ(tracing::viewFrom({}).seen, Seen::Nobody);
}

TEST(ViewLook, ARoundRimIsNotSeenFromTheFront) {
  tracing::ViewLook front;
  front.seen = Seen::Front;
  front.turned_deg = 83;
  EXPECT_EQ(tracing::heldAgainstRim(front, 0.995).seen, Seen::Side);
  EXPECT_EQ(tracing::heldAgainstRim(front, std::cos(radians(45))).seen, Seen::Oblique);
  EXPECT_EQ(tracing::heldAgainstRim(front, 0.1).seen, Seen::Front);
  EXPECT_NEAR(tracing::heldAgainstRim(front, std::cos(radians(30))).turned_deg, 40, 0.5);
}

TEST(Prepare, AStyleThatIsGoneDoesNotKeepAnAthletesFilmsFromReview) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  library::Athlete ola;
  ola.style = "mine";  // a file of the coach's own that was deleted
  ola.profile.switches = {{"descent", "rebound"}};
  const auto style = exchange::styleOf(library, ola);
  ASSERT_TRUE(style);
  EXPECT_EQ(style->id, "balanced");
  EXPECT_EQ(style->limit("squat.descent_too_fast")->limit, 0.7) << "the sides taken hold all the same";
}

TEST(Prepare, LooksOnceKeepsAllAndSaysWhatIsNoFilm) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  Task task;
  library::Submission good, bad;
  good.athlete = bad.athlete = *library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
  good.received_on = bad.received_on = "2026-11-20";
  const auto id = *library.addSubmission(good, JIB_MADE_CLIP, task);
  const auto broken = *library.addSubmission(bad, folder.write("broken.mp4", "words"), task);
  EXPECT_EQ(exchange::unprepared(library)->size(), 2u);

  Task stopped;
  stopped.cancel();
  EXPECT_EQ(exchange::prepare(library, id, stopped).error().code, ErrorCode::Cancelled);
  EXPECT_TRUE(library.tracing(id)->empty()) << "nothing half-done is kept";
  EXPECT_EQ(exchange::unprepared(library)->size(), 2u);

  const auto check = exchange::prepare(library, id, task);
  ASSERT_TRUE(check) << check.error().sentence();
  EXPECT_EQ(check->view, "side");
  EXPECT_EQ(check->reps, static_cast<int>(tests::smallAnalysis().reps.size()));
  EXPECT_FALSE(library.tracing(id)->empty()) << "so that it opens traced";
  ASSERT_TRUE(exchange::prepare(library, broken, task));
  EXPECT_EQ(library.submission(broken)->state, library::SubmissionState::NeedsVideo);
  EXPECT_FALSE(library.submission(broken)->reason.empty());
  EXPECT_TRUE(exchange::unprepared(library)->empty());
}

TEST(FirstShown, IsTheLightestLoadAtWhichItWasSure) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  Task task;
  const auto ola = *library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
  const auto with = [&](double kg, Verdict verdict) {
    library::Submission s;
    s.athlete = ola;
    s.received_on = "2026-11-20";
    s.load_kg = kg;
    const auto id = *library.addSubmission(s, JIB_MADE_CLIP, task);
    Finding f;
    f.id = "squat.hips_lead";
    f.verdict = verdict;
    f.reps = {2};
    ASSERT_TRUE(library.saveFindings(id, {f}));
  };
  EXPECT_FALSE(library.firstShown(ola, "squat.hips_lead")->shown_kg);
  with(100, Verdict::No);
  with(140, Verdict::Yes);
  with(120, Verdict::Yes);
  with(110, Verdict::TooClose);
  const auto shown = *library.firstShown(ola, "squat.hips_lead");
  EXPECT_EQ(shown.shown_kg, 120);
  EXPECT_EQ(shown.clean_kg, 100);
  EXPECT_EQ(shown.rep, 2);
}

TEST(FilmingRequest, DrawsWhereThePhoneIsForThatLiftAndThatView) {
  const auto at = [](const exchange::FilmingRequest& r) {
    const std::string page = exchange::requestPage(r, "", {});
    const auto from = page.find("translate(") + 10;
    return page.substr(from, page.find(')', from) - from);
  };
  const auto squat = *exchange::filmingRequest("squat", "nowhere"),
             bench = *exchange::filmingRequest("bench", "nowhere");
  EXPECT_EQ(at(squat), "380 140") << "beside the lifter";
  EXPECT_EQ(at(squat.asking("knees")), "210 258") << "before the feet, which point down the drawing";
  EXPECT_EQ(at(squat.asking("level")), "210 22") << "behind";
  EXPECT_EQ(at(bench.asking("level")), "210 22") << "behind the head";
  const std::string page = exchange::requestPage(squat.asking("knees"), "", {});
  EXPECT_NE(page.find("from above: straight from the front"), std::string::npos);
  EXPECT_NE(page.find("at hip height in the hole"), std::string::npos);
  EXPECT_EQ(page.find("{"), page.find("{font")) << "no mark is left unfilled";
}

TEST(FilmingRequest, KnowsWhichViewSettlesWhatAClipCouldNotShow) {
  for (const lifts::LiftDefinition& lift : lifts::allLifts()) {
    const auto request = *exchange::filmingRequest(lift.name, "nowhere");
    for (const auto& claim : lift.claims) {
      // What the side does not show is settled by one of the questions, and the rest by the request itself.
      const std::string question = request.questionFor(claim.id);
      EXPECT_EQ(question.empty(), claim.side != lifts::Can::No) << lift.name << " " << claim.id;
    }
  }
}

TEST(FilmingRequest, SaysTheSameAgainWhereACueIsToBeChecked) {
  for (const char* lift : {"squat", "bench", "deadlift"}) {
    const auto request = exchange::filmingRequest(lift, "nowhere");
    ASSERT_TRUE(request) << request.error().sentence();
    EXPECT_NE(exchange::requestText(*request, "Ines", {}).find("70 %"), std::string::npos);
  }
  const auto squat = *exchange::filmingRequest("squat", "nowhere");
  const exchange::SameAgain again{"Keep your kneecaps <on their mark>", "2026-10-01", 140};
  const std::string text = exchange::requestText(squat, "Ines", again);
  EXPECT_NE(text.find("132.5 kg (292 lb) to 147.5 kg (325 lb)"), std::string::npos);
  EXPECT_EQ(text.find("70 %"), std::string::npos) << "like is compared with like";
  const std::string page = exchange::requestPage(squat, "Ines", again, "png");
  EXPECT_NE(page.find("&lt;on their mark&gt;"), std::string::npos);
  EXPECT_NE(page.find("<svg"), std::string::npos);
  EXPECT_NE(page.find("data:image/png;base64,cG5n"), std::string::npos);
}

}  // namespace
}  // namespace jib::coaching
