// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/follow_up.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/library/dates.h"
#include "core/library/progress.h"
#include "core/lifts/view_assessor.h"

namespace jib::library {

std::vector<CueThread> threadsFor(const Submission& submission, const std::vector<coaching::Cue>& cues,
                                  const std::string& today_iso, const std::vector<coaching::Finding>& shown) {
  const auto there = [&](const std::string& finding) {
    return std::any_of(shown.begin(), shown.end(), [&](const coaching::Finding& f) {
      return f.id == finding && f.verdict == coaching::Verdict::Yes;
    });
  };
  std::vector<CueThread> threads;
  for (const coaching::Cue& cue : cues) {
    CueThread t;
    t.athlete = submission.athlete;
    t.asked_in = submission.id;
    t.asked_on = today_iso;
    t.review_on = reviewDay(today_iso, cue.weeks);
    // A cue of the coach's own without a name goes by its words.
    t.title = cue.own && cue.title.empty() ? cue.wording : cue.title;
    t.finding = cue.own && cue.finding.empty() ? coaching::ownCheck(t.title) : cue.finding;
    t.wording = cue.wording;
    t.drill = cue.drill;
    t.watch = cue.watch;
    if (cue.change && cue.change->said()) {
      t.change = cue.change;
      if (const auto* lift = lifts::liftNamed(submission.lift))
        for (std::string& finding : coaching::sideEffectOf(*cue.change, *lift).findings)
          if (std::find(t.watch.begin(), t.watch.end(), finding) == t.watch.end())
            t.watch.push_back(std::move(finding));
    }
    std::erase_if(t.watch, [&](const std::string& finding) { return finding == t.finding || there(finding); });
    // What has no number now is followed by eye: there is nothing a later number could be held against.
    if (cue.known) {
      t.measure = cue.measure;
      t.value_then = cue.value;
      t.sigma_then = cue.sigma;
    }
    threads.push_back(std::move(t));
  }
  return threads;
}

CueThread painThread(const Submission& submission, const coaching::PainPlan& plan, const std::string& today_iso) {
  CueThread t;
  t.athlete = submission.athlete;
  t.asked_in = submission.id;
  t.asked_on = today_iso;
  t.review_on = reviewDay(today_iso, plan.hold_weeks);
  t.finding = coaching::kPainThread;
  t.title = coaching::titleOf(plan);
  return t;
}

namespace {

// What the film shows of a change, and of what was to be watched for.
void lookForChange(CueThread& t, const coaching::Analysis& a) {
  // What this view does not judge stays as an earlier film showed it.
  for (const coaching::Finding& f : a.findings) {
    if (std::find(t.watch.begin(), t.watch.end(), f.id) == t.watch.end()) continue;
    std::erase(t.brought, f.id);
    if (f.verdict == coaching::Verdict::Yes) t.brought.push_back(f.id);
  }
  if (!t.change) return;
  if (const auto shown = coaching::shownOn(t.change->kind, a.measures)) t.change_now = shown;
}

// Why a clip cannot show that something is met that was asked on another, a phrase; empty where it can. A fault that is
// gone at a lighter load, in another variation or from another side may be back tomorrow; one that is gone under more
// weight is gone.
std::string whyNotComparable(const CueThread& t, const Submission& now, const coaching::Analysis& a) {
  const lifts::LiftDefinition& lift = lifts::definition(a.request.lift);
  lifts::FilmedAs then, here = coaching::filmedAs(a);
  then.lift = here.lift;
  then.variant = t.asked_variant;
  then.load_kg = t.asked_load_kg;
  then.kit = t.asked_kit;
  if (t.asked_filmed) {
    then.view = t.asked_filmed->view;
    then.turned_deg = t.asked_filmed->turned_deg;
    then.look_down_deg = t.asked_filmed->look_down_deg;
  }
  here.variant = now.variant;
  here.load_kg = now.load_kg;
  here.kit = now.details.kit;
  for (const lifts::Difference& d : lifts::alikeOf(then, here).differs) {
    if (d.what == "variant" && d.alike == lifts::Alike::Unlike)
      return lifts::titleOf(lift, lifts::variantOf(lift, t.asked_variant).position) + " then, " +
             lifts::titleOf(lift, lifts::variantOf(lift, now.variant).position) + " now";
    if (d.what == "load" && *d.b_number < *d.a_number) return "lighter than when it was asked";
    if (d.what == "view" && d.alike == lifts::Alike::Unlike) return "filmed from another angle";
  }
  if (std::string apart = lifts::kitApart(then.kit, here.kit); !apart.empty()) return apart;
  if (lifts::placesFrom(a.motion.calibration).can != lifts::Can::Yes) return "filmed from another angle";
  return {};
}

}  // namespace

std::vector<CueThread> measuredNow(std::vector<CueThread> threads, const Submission& submission,
                                   const coaching::Analysis& analysis, const coaching::Style& style,
                                   const std::vector<SubmissionId>& same_set) {
  for (CueThread& t : threads) {
    if (t.asked_in == submission.id || t.asked_on > submission.received_on || t.state == ThreadState::Dropped ||
        t.state == ThreadState::Paused || t.finding == coaching::kPainThread)
      continue;
    if (submission.pair == t.asked_in || std::count(same_set.begin(), same_set.end(), t.asked_in) > 0 ||
        t.asked_film_on >= submission.received_on)
      continue;
    // Another lift says nothing of it, though it may have a measure of the same name.
    const bool own = coaching::isOwnCheck(t.finding);
    if (!own && t.finding.substr(0, t.finding.find('.')) != lifts::definition(analysis.request.lift).name) continue;
    // A later film has already had its say.
    if (t.measured_in && *t.measured_in != submission.id && t.measured_on > submission.received_on) continue;
    lookForChange(t, analysis);
    if (t.measure.empty()) {  // followed by eye
      const auto& marks = analysis.request.marks;
      if (!coaching::settledByEye(marks, t.finding)) continue;
      const bool seen = std::any_of(marks.begin(), marks.end(), [&](const coaching::Mark& m) {
        return m.check == t.finding && m.state == coaching::MarkState::Seen;
      });
      t.measured_in = submission.id;
      t.measured_on = submission.received_on;
      t.state = seen ? ThreadState::NotYet : ThreadState::Met;
      continue;
    }
    if (own) {  // then and now are shown; what counts as better is for the coach to say
      if (const auto now = lifts::meanOf(t.measure, analysis.measures)) {
        t.value_now = now->value;
        t.sigma_now = now->sigma;
        t.measured_in = submission.id;
        t.measured_on = submission.received_on;
      }
      continue;
    }
    const coaching::Limit* limit = style.limit(t.finding);
    if (!limit) continue;
    const auto now = measuredFor(*limit, analysis.measures);
    if (!now) continue;
    t.value_now = now->value;
    t.sigma_now = now->sigma;
    t.measured_in = submission.id;
    t.measured_on = submission.received_on;
    t.state = progressOf(t, *now, *limit);
    if (t.state != ThreadState::Met) continue;
    t.why_not = whyNotComparable(t, submission, analysis);
    if (!t.why_not.empty()) t.state = ThreadState::NotComparable;
  }
  return threads;
}

namespace {

std::string valueText(const CueThread& t, double value, double sigma) {
  const auto* lift = lifts::liftNamed(t.finding.substr(0, t.finding.find('.')));
  const auto* kind = lift ? lifts::measureDefinition(*lift, t.measure) : lifts::measureDefinition(t.measure);
  return kind ? lifts::textWithSigma(*kind, {value, sigma, 0}) : fmt::format("{}", value);
}

}  // namespace

std::string thenText(const CueThread& t) {
  return t.measure.empty() ? "seen by eye" : valueText(t, t.value_then, t.sigma_then);
}

std::string nowText(const CueThread& t) {
  if (t.measure.empty()) return t.measured_in ? "looked at again" : "not looked at yet";
  return t.value_now ? valueText(t, *t.value_now, t.sigma_now.value_or(0)) : "not measured yet";
}

std::string changeText(const CueThread& t) {
  if (!t.change) return {};
  std::string text = coaching::textOf(*t.change) + ".";
  if (!t.change_now) return text;
  const coaching::ChangeDefinition& kind = coaching::definitionOf(t.change->kind);
  const lifts::MeasureDefinition* measure = nullptr;
  for (const std::string_view id : kind.measures)
    if (!measure) measure = lifts::measureDefinition(id);
  if (!measure) return text;
  text += " Now " + lifts::textWithSigma(*measure, *t.change_now);
  switch (coaching::doneBy(*t.change, *t.change_now)) {
    case coaching::Done::Yes:
      return text + ": done.";
    case coaching::Done::No:
      return text + ": not done yet.";
    case coaching::Done::CantTell:
      return text + ": too close to tell.";
  }
  return text;
}

}  // namespace jib::library
