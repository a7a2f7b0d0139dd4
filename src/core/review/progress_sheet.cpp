// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/progress_sheet.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/quantity.h"
#include "core/coaching/style_book.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/intake/young.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/reports/report.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/library/trend.h"

namespace jib::review {
namespace {

using library::CueThread;
using library::ThreadState;

constexpr std::size_t kMostSteps = 4;

const lifts::LiftDefinition* liftOf(const CueThread& t) {
  return lifts::liftNamed(t.finding.substr(0, t.finding.find('.')));
}

std::string stateFor(ThreadState state) {
  switch (state) {
    case ThreadState::Met:
      return "Done: inside the goal.";
    case ThreadState::Better:
      return "Better, and still moving.";
    case ThreadState::NotYet:
      return "Still working on it.";
    case ThreadState::NotComparable:
      return "Filmed differently this time, so it doesn't compare yet.";
    case ThreadState::Asked:
    case ThreadState::Paused:
    case ThreadState::Dropped:
      break;
  }
  return {};
}

class Gatherer {
 public:
  Gatherer(library::Library& library, library::Athlete athlete, coaching::Style style)
      : library_(library), athlete_(std::move(athlete)), style_(std::move(style)) {}

  Result<ProgressDraft> run(const std::string& today_iso) {
    auto threads = library_.threads(athlete_.id);
    if (!threads) return fail(threads.error());
    std::stable_sort(threads->begin(), threads->end(),
                     // Of one thing asked again and again the first time counts: it is how far they have come.
                     [](const CueThread& a, const CueThread& b) {
                       return a.measured_on != b.measured_on ? a.measured_on > b.measured_on : a.asked_on < b.asked_on;
                     });
    std::string since;
    std::set<std::string> told;
    for (const CueThread& t : *threads) {
      const bool open = !library::isAtRest(t.state);
      if (open) draft_.page.next.push_back(t.title + ": " + t.wording);
      if (stateFor(t.state).empty() || !t.measured_in || draft_.frames.size() == kMostSteps) continue;
      if (!told.insert(t.finding).second) continue;
      if (auto added = addStep(t); !added) return fail(added.error());
      if (since.empty() || t.asked_on < since) since = t.asked_on;
    }
    if (draft_.frames.empty())
      return fail(ErrorCode::CannotJudge, "Nothing you asked has been measured again yet.",
                  "A progress sheet needs a later clip of something you asked about.");
    finish(today_iso, since);
    return std::move(draft_);
  }

 private:
  Result<bool> addStep(const CueThread& t) {
    exchange::ProgressStep step;
    step.title = t.title;
    step.wording = t.wording;
    step.state = stateFor(t.state);
    // Two numbers side by side are read as a comparison.
    if (t.state != ThreadState::NotComparable) {
      step.then = library::thenText(t);
      step.now = library::nowText(t);
    }
    step.then_on = library::spoken(t.asked_film_on.empty() ? t.asked_on : t.asked_film_on);
    step.now_on = library::spoken(t.measured_on);
    const lifts::LiftDefinition* lift = liftOf(t);
    const auto* kind = lift ? lifts::measureDefinition(*lift, t.measure) : nullptr;
    std::array<std::optional<ProgressFrame>, 2> frames;
    if (kind) {
      const coaching::Limit* limit = style_.limit(t.finding);
      if (limit && limit->side != coaching::Side::Beyond) {
        const auto shown = lifts::shown(*kind, {limit->limit, 0, 0});
        step.limit = shown.value;
        step.aim = fmt::format("{} {:.{}f} {}", limit->side == coaching::Side::Above ? "at most" : "at least",
                               shown.value, shown.decimals, shown.unit);
      }
      if (auto drawn = addCourse(step, *lift, *kind); !drawn) return drawn;
      frames = {frameOf(t.asked_in, *kind, t.value_then), frameOf(*t.measured_in, *kind, t.value_now.value_or(0))};
    }
    draft_.page.steps.push_back(std::move(step));
    draft_.frames.push_back(std::move(frames));
    return true;
  }

  Result<bool> addCourse(exchange::ProgressStep& step, const lifts::LiftDefinition& lift,
                         const lifts::MeasureDefinition& kind) {
    auto points = library::trendOf(library_, athlete_.id, kind.id, lift.name);
    if (!points) return fail(points.error());
    for (const library::TrendPoint& p : *points) {
      const auto shown = lifts::shown(kind, p.measured);
      step.unit = shown.unit;
      step.course.push_back({p.on, shown.value, shown.plus_minus, p.group == points->back().group});
    }
    return true;
  }

  // The rep whose number was told, at the moment that shows it.
  std::optional<ProgressFrame> frameOf(library::SubmissionId id, const lifts::MeasureDefinition& kind, double told) {
    auto film = library_.submission(id);
    auto results = library_.results(id);
    if (!film || film->clip_hash.empty() || !results) return std::nullopt;
    const auto kept = results->find(std::string(kind.id));
    if (kept == results->end() || kept->second.empty()) return std::nullopt;
    const auto nearest = std::min_element(kept->second.begin(), kept->second.end(), [&](const auto& a, const auto& b) {
      return std::abs(a.measured.value - told) < std::abs(b.measured.value - told);
    });
    return ProgressFrame{std::move(*film), nearest->measured.t_s, kind.drawing};
  }

  void finish(const std::string& today_iso, const std::string& since) {
    exchange::ProgressPage& page = draft_.page;
    page.athlete = athlete_.name;
    page.coach = library_.signer().value_or(library::CoachCard{}).name;
    page.written_on = library::spoken(today_iso);
    page.since = library::spoken(since);
    const bool minor = library::isMinor(exchange::profileAsKnown(library_, athlete_), today_iso).value_or(false);
    for (const library::Meet& meet : athlete_.profile.meets) {
      if (minor || meet.on < since) continue;
      std::string line = library::spoken(meet.on) + ", " + meet.name;
      for (const auto& lift : lifts::allLifts())
        if (const auto best = meet.best_kg(lift.id)) line += fmt::format(", {} {}", lift.title, massText(*best));
      if (const auto total = meet.total_kg()) line += ", total " + massText(*total);
      page.meets.push_back(line);
    }
    const lifts::LiftDefinition* lift = nullptr;
    if (auto threads = library_.threads(athlete_.id); threads && !threads->empty()) lift = liftOf(threads->front());
    page.cautions = exchange::standingCautions(lift ? *lift : lifts::allLifts().front());
  }

  library::Library& library_;
  const library::Athlete athlete_;
  const coaching::Style style_;
  ProgressDraft draft_;
};

}  // namespace

Result<ProgressDraft> progressOf(library::Library& library, library::AthleteId id, const std::string& today_iso) {
  auto athlete = library.athlete(id);
  if (!athlete) return fail(athlete.error());
  auto style = exchange::styleOf(library, *athlete);
  if (!style) return fail(style.error());
  return Gatherer(library, std::move(*athlete), std::move(*style)).run(today_iso);
}

}  // namespace jib::review
