// SPDX-License-Identifier: GPL-3.0-or-later
// What an athlete reads: the doubt of a verdict in every word, nothing meant for the coach, and the few things that
// count.
#include <gtest/gtest.h>

#include "core/coaching/clip_check.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/reports/report.h"
#include "core/library/review_store.h"
#include "core/lifts/which_lift.h"
#include "core/tracing/sightings/lift_look.h"
#include "tests/core/analysed_clip.h"

namespace jib::exchange {
namespace {

using coaching::Basis;
using coaching::Finding;
using coaching::Verdict;

coaching::Cue tooHigh(Basis basis) {
  coaching::Cue cue;
  cue.finding = "squat.too_high";
  cue.title = "Squat too high";
  cue.wording = "Sit to a box one hand lower.";
  cue.load = "rebuild from light";
  cue.measure = "hip_crease_above_knee_m";
  cue.known = true;
  cue.value = -0.036;
  cue.sigma = 0.03;
  cue.basis = basis;
  return cue;
}

Finding findingOf(Verdict verdict, bool by_eye = false) {
  Finding f;
  f.id = "squat.too_high";
  f.verdict = verdict;
  f.by_eye = by_eye;
  f.kind = lifts::measureDefinition("hip_crease_above_knee_m");
  f.side = coaching::Side::Above;
  return f;
}

TEST(Doubt, GoesIntoTheTitleOfACue) {
  EXPECT_EQ(coaching::titleWithBasis(tooHigh(Basis::Measured)), "Squat too high");
  EXPECT_EQ(coaching::titleWithBasis(tooHigh(Basis::TooClose)), "Squat too high (too close to call)");
  EXPECT_EQ(coaching::titleWithBasis(tooHigh(Basis::Seen)), "Squat too high");
  coaching::Cue tilts = tooHigh(Basis::Measured);
  tilts.title = "Bar tilts";
  tilts.measure = "bar_tilt_max_deg";
  tilts.value = -4;
  EXPECT_EQ(coaching::titleWithBasis(tilts), "Bar tilts, right end higher") << "an athlete does not read signs";
  tilts.basis = Basis::TooClose;
  EXPECT_EQ(coaching::titleWithBasis(tilts), "Bar tilts (too close to call)");
}

TEST(Doubt, FollowsTheVerdictAsItIsNowNotAsItWas) {
  EXPECT_EQ(coaching::basisOf(findingOf(Verdict::TooClose)), Basis::TooClose);
  EXPECT_EQ(coaching::basisOf(findingOf(Verdict::No)), Basis::TooClose) << "denied since";
  EXPECT_EQ(coaching::basisOf(findingOf(Verdict::Yes)), Basis::Measured);
  EXPECT_EQ(coaching::basisOf(findingOf(Verdict::Yes, true)), Basis::Seen);
}

TEST(Doubt, IsKeptWithTheReview) {
  for (Basis basis : {Basis::Measured, Basis::TooClose, Basis::Seen}) {
    const auto back = library::cuesFromJson(library::cuesToJson({tooHigh(basis)}));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->front().basis, basis);
  }
}

Report reportWith(std::vector<coaching::Cue> cues) {
  Report r;
  r.athlete = "Ines Calder";
  r.coach = "Mara Quill";
  r.filmed_on = "16 Nov 2026";
  r.written_on = "27 Nov 2026";
  r.lift = "Squat";
  r.cues = std::move(cues);
  r.keep = {"one", "two", "three", "four", "five"};
  r.next = "Film it again around 27 Dec 2026.";
  return r;
}

TEST(Report, SaysTheDoubtWhoWroteItAndWhenItWasFilmed) {
  const std::string html = reportToHtml(reportWith({tooHigh(Basis::TooClose)}), tests::smallAnalysis());
  for (const char* part : {"Squat too high (too close to call)", "Mara Quill", "sent 16 Nov 2026", "27 Nov 2026",
                           "Film it again around", "rule book", "doctor"})
    EXPECT_NE(html.find(part), std::string::npos) << part;
}

TEST(Report, HoldsAFewThingsAndTheWholeTableOnlyWhenAsked) {
  Report r = reportWith({tooHigh(Basis::Measured)});
  std::string html = reportToHtml(r, tests::smallAnalysis());
  EXPECT_NE(html.find("four"), std::string::npos) << "as much praise as the coach chose";
  EXPECT_EQ(html.find("All numbers"), std::string::npos);
  EXPECT_LE(keyNumbers(r, tests::smallAnalysis()).size(), 5u);
  r.all_numbers = true;
  EXPECT_NE(reportToHtml(r, tests::smallAnalysis()).find("<details><summary>All numbers"), std::string::npos);
}

TEST(Report, HoldsNothingMeantForTheCoachOrTheCommandLine) {
  coaching::Analysis a = tests::smallAnalysis();
  a.notices.push_back(
      {"facing_unknown", "It is not known which way the athlete faces; distances forward and back are left out."});
  a.notices.push_back({"plate_size", "Check the plate's size and the rim that is drawn."});
  const std::string html = reportToHtml(reportWith({tooHigh(Basis::Measured)}), a);
  for (const coaching::Notice& n : a.notices) EXPECT_EQ(html.find(escaped(n.text)), std::string::npos) << n.text;
  EXPECT_EQ(html.find("--view"), std::string::npos);
}

TEST(Report, CarriesTheNumbersThenAndNow) {
  Report r = reportWith({tooHigh(Basis::TooClose)});
  r.follow_up = {
      {"5 Oct 2026", "Knees slide back", "21 \xC2\xB1 3 %", "9 \xC2\xB1 3 %", "Met", "knee_slide_back_pct_shin"},
      {"5 Oct 2026", "Squat too high", "2.0 \xC2\xB1 1 cm", "-3.6 \xC2\xB1 3 cm", "Better", "hip_crease_above_knee_m"}};
  const auto numbers = keyNumbers(r, tests::smallAnalysis());
  ASSERT_EQ(numbers.size(), 2u);
  EXPECT_EQ(numbers[0].then, "2.0 \xC2\xB1 1 cm") << "of the cue, what it was when it was asked before";
  EXPECT_TRUE(numbers[0].doubtful);
  EXPECT_EQ(numbers[1].now, "9 \xC2\xB1 3 %");
}

TEST(Letters, TheReplySaysTheDoubtGreetsOnceAndGivesOneLoad) {
  auto book = *LetterBook::forLibrary("/nowhere");
  book.signedBy("Mara Quill");
  auto second = tooHigh(Basis::Measured);
  second.load = "5 % less";
  ReplyWords w{"squat", "16 Nov 2026", "Nice week, Ines!", {"a", "b", "c", "d"}, {tooHigh(Basis::TooClose), second},
               false};
  const auto letter = book.reply("Ines", w);
  EXPECT_EQ(letter.text.find("Nice week, Ines!"), 0u) << letter.text;
  EXPECT_NE(letter.text.find("too close to call"), std::string::npos);
  EXPECT_NE(letter.text.find("- d"), std::string::npos) << "as much praise as the coach chose";
  EXPECT_NE(letter.text.find("\n\nMara Quill\n"), std::string::npos) << "signed";
  EXPECT_EQ(letter.subject, "Your squat from 16 Nov 2026");
  w.greeting = "Good set.";
  EXPECT_EQ(book.reply("Ines", w).text.find("Hi Ines,\n\nGood set."), 0u);
  EXPECT_NE(book.referral("Kit", true).text.find("parent or guardian"), std::string::npos);
}

TEST(Mail, OutgoingIdsDifferAndAPhoneKnowsThePdf) {
  const tests::ScratchFolder folder;
  Mail mail;
  mail.from_address = "coach@a.invalid";
  mail.to_address = "kim@one.invalid";
  mail.subject = "Your clip has arrived";
  mail.text = "Hi Kim,";
  mail.answers = {"1@a", "2@a"};
  const auto one = *composeMail(mail, {folder.write("r.pdf", "%PDF-1.4")});
  mail.to_address = "kim@two.invalid";
  const auto two = *composeMail(mail, {});
  EXPECT_NE(readMail(one)->mail_id, readMail(two)->mail_id);
  EXPECT_NE(one.find("application/pdf"), std::string::npos);
  EXPECT_EQ(readMail(one)->answers, mail.answers) << "it stands in the athlete's thread";
}

TEST(WhichLift, IsAskedWhereNobodySaysOrWordsAndFilmDisagree) {
  using lifts::decide;
  EXPECT_FALSE(decide({"", false, ""}).judge);
  EXPECT_FALSE(decide({"", false, ""}).question.empty());
  EXPECT_TRUE(decide({"", false, "squat"}).judge) << "the film tells";
  EXPECT_TRUE(decide({"squat", false, ""}).judge);
  const auto contradicted = decide({"squat", false, "bench"});
  EXPECT_FALSE(contradicted.judge);
  EXPECT_NE(contradicted.reason.find("looks like a bench press"), std::string::npos);
  EXPECT_TRUE(decide({"squat", true, "bench"}).judge) << "the coach has the last word";
  EXPECT_TRUE(decide({"bench", false, "bench"}).judge);
  const auto other = decide({"snatch", false, ""});
  EXPECT_FALSE(other.judge);
  EXPECT_TRUE(other.question.empty());
  EXPECT_NE(other.reason.find("not measured"), std::string::npos);
}

// A bar that rests, moves by a stroke, and rests again; heights in pixels up from the picture's lower edge.
tracing::BarTrace barOver(const std::vector<double>& heights) {
  tracing::BarTrace bar;
  bar.rim.radius_px = 50;
  for (std::size_t i = 0; i < heights.size(); ++i) {
    bar.times_s.push_back(static_cast<double>(i) / 30);
    bar.plate.push_back(tracing::TracedPoint{{300, 700 - heights[i]}, 1, tracing::Origin::Optical});
  }
  return bar;
}

std::vector<double> stroke(double from, double to) {
  std::vector<double> h(30, from);
  for (int i = 0; i < 30; ++i) h.push_back(from + (to - from) * (i + 1) / 30.0);
  for (int i = 0; i < 30; ++i) h.push_back(to + (from - to) * (i + 1) / 30.0);
  return h;
}

tracing::FirstLook standing() {
  tracing::FirstLook look;
  look.view.seen = tracing::Seen::Side;
  look.looked = look.found = 12;
  return look;
}

TEST(LiftSeen, ByWhichWayTheBarGoesFirstAndWhetherTheBodyLies) {
  using tracing::LiftSeen;
  const auto down = barOver(stroke(500, 300)), up = barOver(stroke(100, 400)),
             still = barOver(std::vector<double>(90, 300));
  EXPECT_EQ(tracing::liftSeen(standing(), &down), LiftSeen::DownFirst);
  EXPECT_EQ(tracing::liftSeen(standing(), &up), LiftSeen::FromTheFloor);
  EXPECT_EQ(tracing::liftSeen(standing(), &still), LiftSeen::Unknown);
  EXPECT_EQ(tracing::liftSeen(standing(), nullptr), LiftSeen::Unknown);
  auto lying = standing();
  lying.lying = 0.8;
  EXPECT_EQ(tracing::liftSeen(lying, &down), LiftSeen::Lying) << "also where the bar goes down first";
  auto front = standing();
  front.view.seen = tracing::Seen::Front;
  EXPECT_EQ(tracing::liftSeen(front, &up), LiftSeen::Unknown) << "what was followed there is hardly the bar";
}

}  // namespace
}  // namespace jib::exchange
