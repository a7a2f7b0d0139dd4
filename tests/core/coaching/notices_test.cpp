// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach is told about a clip's limits, on the small clip made worse in one respect each.
#include <gtest/gtest.h>

#include "core/base/angle.h"
#include "tests/core/analysed_clip.h"

namespace jib::tests {
namespace {

using coaching::Analysis;
using tracing::at;
using tracing::Landmark;

Analysis judgedAgain(Analysis a) {
  static const auto kStyle = *coaching::shippedStyle("balanced");
  static const auto kBook = *coaching::CueBook::shipped();
  coaching::judgeAgain(a, kStyle, kBook);
  return a;
}

const coaching::Notice* noticeOf(const Analysis& a, std::string_view id) {
  const auto n = std::find_if(a.notices.begin(), a.notices.end(), [&](const auto& x) { return x.id == id; });
  return n == a.notices.end() ? nullptr : &*n;
}

Analysis withBody(const std::function<void(tracing::BodyTrack&)>& change) {
  Analysis a = smallAnalysis();
  auto body = *a.trace.body;
  change(body);
  a.trace.body = std::make_shared<const tracing::BodyTrack>(std::move(body));
  tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  return judgedAgain(std::move(a));
}

TEST(Notices, AreFewOnAGoodClip) {
  const Analysis a = judgedAgain(smallAnalysis());
  for (const char* id : {"body_not_placed", "facing_unknown", "points_proposed", "feet_cut", "camera_height", "oblique",
                         "variable_rate", "single", "gaps", "network_missing"})
    EXPECT_EQ(noticeOf(a, id), nullptr) << id;
}

TEST(Notices, SayThatTheBodyIsMissingAndThatThisIsNoCleanBill) {
  Analysis a = smallAnalysis();
  a.trace.body = nullptr;
  a.request.trace.placed.clear();
  tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  a = judgedAgain(std::move(a));
  EXPECT_NE(noticeOf(a, "body_not_placed"), nullptr);
  EXPECT_FALSE(a.proposal.change_nothing);
}

TEST(Notices, SayWhoSetThePoints) {
  const Analysis a = withBody([](tracing::BodyTrack& b) { b.source = tracing::BodySource::Network; });
  ASSERT_NE(noticeOf(a, "points_proposed"), nullptr);
  EXPECT_NE(noticeOf(a, "points_proposed")->text.find("still frame"), std::string::npos) << "and what to do about it";
  const Analysis fitted = withBody([](tracing::BodyTrack& b) {
    b.source = tracing::BodySource::Network;
    b.fitted_to_placed = true;
  });
  EXPECT_EQ(noticeOf(fitted, "points_proposed"), nullptr) << "a pull whose still frame was placed is not asked for it";
}

TEST(Notices, DoubtAPlateThatMakesTheAthleteAGiant) {
  EXPECT_EQ(noticeOf(judgedAgain(smallAnalysis()), "plate_size"), nullptr);
  for (const auto& [share, tall] : {std::pair{1.5, "2."}, {0.72, "1.2"}}) {
    const Analysis a = withBody([&](tracing::BodyTrack& b) {
      for (double* l : {&b.skeleton.shin_m, &b.skeleton.thigh_m, &b.skeleton.trunk_m}) *l *= share;
    });
    ASSERT_NE(noticeOf(a, "plate_size"), nullptr) << share;
    EXPECT_NE(noticeOf(a, "plate_size")->text.find(std::string("would be ") + tall), std::string::npos)
        << noticeOf(a, "plate_size")->text;
  }
}

TEST(Notices, SayThatFeetAreCutOffAndLeaveOutWhatNeedsThem) {
  Analysis a = smallAnalysis();
  a.request.trace.placed.clear();
  auto body = *a.trace.body;
  body.source = tracing::BodySource::Network;
  body.feet_seen = false;
  a.trace.body = std::make_shared<const tracing::BodyTrack>(std::move(body));
  tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  a = judgedAgain(std::move(a));
  EXPECT_NE(noticeOf(a, "feet_cut"), nullptr);
  for (const char* id : {"bar_to_midfoot_mean_m", "bar_to_midfoot_max_m", "heel_lift_m", "shin_bottom_deg"})
    EXPECT_FALSE(lifts::find(a.measures.reps[0], id)->measured()) << id;
  const auto& absent = std::get<lifts::Absent>(lifts::find(a.measures.reps[0], "bar_to_midfoot_mean_m")->measure);
  EXPECT_NE(absent.reason.find("feet"), std::string::npos);
  for (const char* id : {"trunk_lean_bottom_deg", "hip_shoulder_rise_ratio", "descent_s"})
    EXPECT_TRUE(lifts::find(a.measures.reps[0], id)->measured()) << id;
}

TEST(Notices, AskForALensLevelWithTheHip) {
  Analysis a = smallAnalysis();
  a.trace.camera.pitch_rad = radians(16);
  const Analysis judged = judgedAgain(std::move(a));
  ASSERT_NE(noticeOf(judged, "camera_height"), nullptr);
  EXPECT_NE(noticeOf(judged, "camera_height")->text.find("at hip height"), std::string::npos);
}

TEST(Notices, AskForAViewSquareToTheLift) {
  Analysis a = smallAnalysis();
  a.trace.camera.yaw_rad = radians(-18);
  EXPECT_NE(noticeOf(judgedAgain(a), "oblique"), nullptr);
  a.trace.camera.yaw_rad = radians(9);
  EXPECT_EQ(noticeOf(judgedAgain(a), "oblique"), nullptr);
}

// The small clip, in whose second rep the bar sinks by a hand's breadth half-way up.
Analysis stuckOnTheWayUp() {
  Analysis a = smallAnalysis();
  auto& trace = a.trace.trace;
  const double middle_s = (a.reps[1].ascent_t() + a.reps[1].lockout_t()) / 2;
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const double late = std::abs(trace.times_s[i] - middle_s) / 0.3;
    for (const Landmark l : {Landmark::Bar, Landmark::Plate})
      if (auto& p = trace.frames[i][at(l)]; p && late < 1)
        p->place.y += 0.9 * a.trace.bar->rim.radius_px * (1 - late * late);
  }
  return judgedAgain(std::move(a));
}

TEST(Notices, AskWhetherASpotterTookABarThatSinksOnItsWayUp) {
  EXPECT_EQ(noticeOf(judgedAgain(smallAnalysis()), "sinks_on_the_way_up"), nullptr);
  Analysis a = stuckOnTheWayUp();
  ASSERT_EQ(a.reps.size(), 2u);
  const auto* asked = noticeOf(a, "sinks_on_the_way_up");
  ASSERT_NE(asked, nullptr);
  EXPECT_NE(asked->text.find("rep 2's way up"), std::string::npos) << asked->text;
  // Once the coach has said so nothing is asked any more.
  a.request.held = motion::heldFrom(a.found);
  a.request.held->at(1).spotted = true;
  a = judgedAgain(std::move(a));
  EXPECT_EQ(noticeOf(a, "sinks_on_the_way_up"), nullptr);
  EXPECT_NE(noticeOf(a, "spotted"), nullptr);
  EXPECT_EQ(a.reps.size(), 1u);
}

TEST(Notices, SayThatTheFrameRateVaries) {
  Analysis a = smallAnalysis();
  a.clip.variable_rate = true;
  EXPECT_NE(noticeOf(judgedAgain(std::move(a)), "variable_rate"), nullptr);
}

TEST(Notices, SayThatTheCameraWasHeldByHandAndTakeItsMotionOff) {
  const Analysis still = judgedAgain(smallAnalysis());
  Analysis a = smallAnalysis();
  for (std::size_t i = 0; i < a.trace.trace.size(); ++i) {
    const auto t = static_cast<double>(i);
    const tracing::CameraMove sway{1, 0.01 * std::sin(0.05 * t), {9 * std::sin(0.1 * t), 5 * std::sin(0.07 * t)}};
    a.trace.trace.camera_moves.push_back(sway);
    for (auto& point : a.trace.trace.frames[i])
      if (point) point->place = sway.moved(point->place);
  }
  const Analysis judged = judgedAgain(std::move(a));
  EXPECT_NE(noticeOf(judged, "camera_moves"), nullptr);
  ASSERT_EQ(judged.reps.size(), still.reps.size());
  for (const char* id : {"stroke_m", "bar_x_range_m", "trunk_lean_bottom_deg", "knee_slide_back_m"})
    EXPECT_NEAR(lifts::find(judged.measures.reps[0], id)->measured()->value,
                lifts::find(still.measures.reps[0], id)->measured()->value, 1e-9)
        << id;
  const auto sigma = [](const Analysis& x) {
    return lifts::find(x.measures.reps[0], "bar_x_range_m")->measured()->sigma;
  };
  EXPECT_GT(sigma(judged), sigma(still)) << "what is left of the sway is in the ±";
}

TEST(Notices, SayWhyTheNetworkWasNotAsked) {
  Analysis a = smallAnalysis();
  a.trace.sightings_trouble = "The pose network is not there. Install the program again.";
  const Analysis judged = judgedAgain(std::move(a));
  ASSERT_NE(noticeOf(judged, "network_missing"), nullptr);
  EXPECT_EQ(noticeOf(judged, "network_missing")->text, "The pose network is not there. Install the program again.");
}

TEST(Notices, SayThatThePlateIsHiddenForLong) {
  Analysis a = smallAnalysis();
  auto bar = *a.trace.bar;
  const auto reps = a.reps;
  // Between the reps, so that they are still counted.
  const std::size_t from = a.motion.frameAt(reps[0].lockout_t()) + 3;
  for (std::size_t i = from; i < from + bar.plate.size() / 15 && i < bar.plate.size(); ++i) bar.plate[i].reset();
  a.trace.bar = std::make_shared<const tracing::BarTrace>(std::move(bar));
  EXPECT_NE(noticeOf(judgedAgain(std::move(a)), "gaps"), nullptr);
}

TEST(Judging, GivesRivalCausesWithTheirEvidence) {
  const Analysis a = judgedAgain(smallAnalysis());
  const auto f = std::find_if(a.findings.begin(), a.findings.end(),
                              [](const auto& x) { return x.id == "squat.knees_slide_back"; });
  ASSERT_NE(f, a.findings.end());
  ASSERT_FALSE(f->rivals.empty());
  for (std::size_t i = 1; i < f->rivals.size(); ++i) {
    const bool was_unlikely = f->rivals[i - 1].standing == coaching::Standing::Unlikely;
    const bool unlikely = f->rivals[i].standing == coaching::Standing::Unlikely;
    EXPECT_LE(was_unlikely, unlikely) << "the unlikely ones last";
    if (was_unlikely == unlikely) {
      EXPECT_LE(f->rivals[i - 1].cost, f->rivals[i].cost);
    }
  }
}

TEST(Judging, NeverChangesAMeasureWithTheStyle) {
  const auto book = *coaching::CueBook::shipped();
  Analysis a = smallAnalysis();
  std::vector<double> first;
  for (const char* id : {"balanced", "lean_friendly", "upright", "minimal"}) {
    coaching::judgeAgain(a, *coaching::shippedStyle(id), book);
    EXPECT_EQ(a.style_id, id);
    std::vector<double> values;
    for (const auto& rep : a.measures.reps)
      for (const auto& m : rep)
        if (const auto* v = m.measured()) values.insert(values.end(), {v->value, v->sigma, v->t_s});
    if (first.empty()) first = values;
    EXPECT_EQ(values, first) << id;
  }
}

TEST(Notices, AnObliqueViewThatSomebodySaysIsOneIsHeldToIt) {
  Analysis a = smallAnalysis();
  a.request.trace.view = tracing::View::Oblique;
  tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  a = judgedAgain(std::move(a));
  EXPECT_NE(noticeOf(a, "oblique"), nullptr);
  const auto measured = [&](std::string_view id) { return lifts::find(a.measures.reps[0], id)->measured() != nullptr; };
  EXPECT_TRUE(measured("stroke_m")) << "the bar goes up and down from everywhere";
  EXPECT_FALSE(measured("trunk_lean_bottom_deg"));
}

}  // namespace
}  // namespace jib::tests
