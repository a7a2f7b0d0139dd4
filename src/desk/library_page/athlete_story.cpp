// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/athlete_story.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>
#include <algorithm>
#include <set>

#include "core/base/quantity.h"
#include "core/coaching/style.h"
#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/library/load_shown.h"
#include "desk/library_page/progress_dialog.h"
#include "desk/library_page/story_strip.h"
#include "desk/library_page/trend_plot.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

constexpr int kOpenShown = 4;

bool isOpen(const library::CueThread& t) {
  return !library::isAtRest(t.state);
}

std::optional<coaching::Limit> limitOf(const library::Athlete& athlete, const library::TrendChoice& of) {
  const auto style = coaching::shippedStyle(athlete.style);
  if (!style) return std::nullopt;
  for (const coaching::Limit& limit : style->limits)
    if (limit.measure == of.measure && limit.finding.starts_with(of.lift + ".")) return limit;
  return std::nullopt;
}

// "Torso at the bottom: 6 ± 2° more than on 4 May, in 5 clips."
QString changeText(const lifts::MeasureDefinition& kind, const std::vector<library::TrendPoint>& points) {
  const library::TrendChange c = library::changeOver(points);
  const auto like =
      std::count_if(points.begin(), points.end(), [&](const auto& p) { return p.group == points.back().group; });
  const std::ptrdiff_t unlike = static_cast<std::ptrdiff_t>(points.size()) - like;
  const QString others = unlike == 0 ? QString()
                         : unlike == 1
                             ? AthleteStory::tr(" One other clip isn't comparable (shown paler).")
                             : AthleteStory::tr(" %1 other clips aren't comparable (shown paler).").arg(unlike);
  if (c.change == library::Change::None)
    return AthleteStory::tr("One clip like this so far: no change to show yet.") + others;
  const QString since = q(library::spoken(c.from.on));
  if (c.change == library::Change::NoneSeen)
    return AthleteStory::tr("No change to speak of since %1.").arg(since) + others;
  const QString by = q(lifts::textWithSigma(kind, {std::abs(c.difference), c.sigma, 0}));
  return (c.change == library::Change::More ? AthleteStory::tr("%1 more than on %2.")
                                            : AthleteStory::tr("%1 less than on %2."))
             .arg(by, since) +
         others;
}

}  // namespace

AthleteStory::AthleteStory(library::Library& library, const library::Athlete& athlete, ClipPictures* pictures,
                           QWidget* parent)
    : QWidget(parent), library_(library), athlete_(athlete) {
  setObjectName(QStringLiteral("story"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 4);
  column->setSpacing(4);
  if (auto threads = library_.threads(athlete_.id)) threads_ = std::move(*threads);
  addOpenCues(*column);
  addWorked(*column);
  addTrend(*column);
  addPictures(*column, pictures);
  addSheet(*column);
}

// What became of all that, for the athlete themselves; once something has been measured again.
void AthleteStory::addSheet(QVBoxLayout& column) {
  const bool any = std::any_of(threads_.begin(), threads_.end(), [](const auto& t) {
    return t.measured_in && t.state != library::ThreadState::Dropped && t.state != library::ThreadState::Paused;
  });
  if (!any) return;
  auto* make = new QPushButton(tr("Progress sheet…"));
  make->setObjectName(QStringLiteral("progressSheet"));
  make->setToolTip(tr("Then and now for the athlete: pictures, numbers, what's next. You see it before it goes."));
  connect(make, &QPushButton::clicked, this, [this] { ProgressDialog(library_, athlete_.id, window()).exec(); });
  column.addWidget(make, 0, Qt::AlignLeft);
}

void AthleteStory::addOpenCues(QVBoxLayout& column) {
  std::vector<library::CueThread> open;
  std::copy_if(threads_.begin(), threads_.end(), std::back_inserter(open), isOpen);
  const auto met = std::count_if(threads_.begin(), threads_.end(),
                                 [](const auto& t) { return t.state == library::ThreadState::Met; });
  if (open.empty() && met == 0) return;
  column.addWidget(heading(tr("Working on")));
  if (open.empty()) column.addWidget(words(tr("Nothing open: everything asked so far is met."), true));
  for (std::size_t i = 0; i < std::min<std::size_t>(open.size(), kOpenShown); ++i) {
    const library::CueThread& t = open[i];
    const bool due = t.review_on <= library::today();
    auto* line = words(tr("%1 · “%2”").arg(q(t.title), q(t.wording)));
    line->setObjectName(QStringLiteral("openCue"));
    column.addWidget(line);
    const QString state = q(library::titleOf(t.state)) + (t.why_not.empty() ? QString() : tr(": ") + q(t.why_not));
    auto* course =
        words(tr("%1. Asked %2: %3; now %4. %5 %6")
                  .arg(state, q(library::spoken(t.asked_on)), q(library::thenText(t)), q(library::nowText(t)),
                       due ? tr("Due since") : tr("Check again"), q(library::spoken(t.review_on))),
              !due);
    if (due) setTone(course, "warn");
    column.addWidget(course);
    if (const auto days = library_.shownByDay(athlete_.id, t.finding))
      if (const std::string loads = library::loadShownText(*days); !loads.empty()) {
        auto* by_load = words(q(loads), true);
        by_load->setObjectName(QStringLiteral("loadShown"));
        column.addWidget(by_load);
      }
  }
  if (open.size() > kOpenShown)
    column.addWidget(words(tr("%1 more under Previous cues").arg(open.size() - kOpenShown), true));
}

// What was followed by the change that was asked for, latest first: the words to reach for again. The same words for
// the same fault are one line, from where it was when they were first said.
void AthleteStory::addWorked(QVBoxLayout& column) {
  std::vector<library::CueThread> met;
  std::copy_if(threads_.begin(), threads_.end(), std::back_inserter(met),
               [](const auto& t) { return t.state == library::ThreadState::Met; });
  if (met.empty()) return;
  std::stable_sort(met.begin(), met.end(), [](const auto& a, const auto& b) {
    return a.measured_on != b.measured_on ? a.measured_on > b.measured_on : a.asked_on < b.asked_on;
  });
  column.addWidget(heading(tr("What's worked")));
  int shown = 0;
  std::set<std::pair<std::string, std::string>> told;
  for (const library::CueThread& t : met) {
    if (!told.emplace(t.finding, t.wording).second || shown == kOpenShown) continue;
    ++shown;
    const auto times = std::count_if(met.begin(), met.end(), [&](const auto& other) {
      return other.finding == t.finding && other.wording == t.wording;
    });
    QString text = tr("✓ “%1” · %2: %3, then %4 on %5")
                       .arg(q(t.wording), q(t.title).toLower(), q(library::thenText(t)), q(library::nowText(t)),
                            q(library::spoken(t.measured_on)));
    if (times > 1) text += tr(", said %1 times").arg(times);
    auto* line = words(text);
    line->setObjectName(QStringLiteral("worked"));
    column.addWidget(line);
    if (!t.drill.empty()) column.addWidget(words(tr("with %1").arg(q(t.drill)), true));
  }
  if (static_cast<int>(told.size()) > shown)
    column.addWidget(words(tr("%1 more under Previous cues").arg(static_cast<int>(told.size()) - shown), true));
}

void AthleteStory::addPictures(QVBoxLayout& column, ClipPictures* pictures) {
  auto all = library_.submissionsOf(athlete_.id);
  if (!all) return;
  std::erase_if(*all, [](const library::Submission& s) { return s.clip_hash.empty(); });
  if (all->empty()) return;
  column.addSpacing(6);
  column.addWidget(heading(tr("Clip by clip")));
  const bool young = library::isMinor(exchange::profileAsKnown(library_, athlete_), library::today()).value_or(false);
  auto* strip = new StoryStrip(std::move(*all), threads_, young ? std::vector<library::Meet>{} : athlete_.profile.meets,
                               pictures);
  connect(strip, &StoryStrip::openRequested, this, [this](qlonglong id) { emit openAtRequested(id, 0); });
  column.addWidget(strip);
}

void AthleteStory::addTrend(QVBoxLayout& column) {
  if (auto choices = library::trendChoices(library_, athlete_.id)) choices_ = std::move(*choices);
  if (choices_.empty()) return;
  column.addSpacing(6);
  column.addWidget(heading(tr("Over time")));
  auto* row = new QHBoxLayout;
  measure_ = new QComboBox;
  measure_->setObjectName(QStringLiteral("trendMeasure"));
  measure_->setToolTip(tr("Which number to follow over this athlete's clips"));
  measure_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  measure_->setMinimumContentsLength(12);
  measure_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  const QString kept = QSettings().value(QStringLiteral("trendMeasure")).toString();
  // What was asked for last stands first: a coach who opens the page wants to know what became of it.
  int kept_at = -1, open_at = -1, asked_at = -1, judged_at = -1;
  const auto askedAbout = [&](const library::TrendChoice& c, bool open) {
    return std::any_of(threads_.begin(), threads_.end(), [&](const library::CueThread& t) {
      return (!open || isOpen(t)) && t.measure == c.measure && t.finding.starts_with(c.lift + ".");
    });
  };
  for (int i = 0; i < static_cast<int>(choices_.size()); ++i) {
    const library::TrendChoice& c = choices_[static_cast<std::size_t>(i)];
    const auto* lift = lifts::liftNamed(c.lift);
    const auto* kind = lifts::measureDefinition(*lift, c.measure);
    const QString id = q(c.lift + "." + c.measure);
    measure_->addItem(tr("%1: %2 (%3)").arg(q(lift->title), q(kind->title)).arg(c.clips), id);
    if (id == kept) kept_at = i;
    if (open_at < 0 && askedAbout(c, true)) open_at = i;
    if (asked_at < 0 && askedAbout(c, false)) asked_at = i;
    if (judged_at < 0 && limitOf(athlete_, c)) judged_at = i;
  }
  for (const int at : {open_at, kept_at, asked_at, judged_at, 0})
    if (at >= 0) {
      measure_->setCurrentIndex(at);
      break;
    }
  across_ = new QComboBox;
  across_->setObjectName(QStringLiteral("trendAcross"));
  across_->addItems({tr("by date"), tr("by load")});
  row->addWidget(measure_, 1);
  row->addWidget(across_);
  column.addLayout(row);
  plot_ = new TrendPlot;
  column.addWidget(plot_);
  change_ = words({}, true);
  change_->setObjectName(QStringLiteral("trendChange"));
  column.addWidget(change_);
  connect(plot_, &TrendPlot::opened, this, &AthleteStory::openAtRequested);
  connect(measure_, &QComboBox::activated, this, [this] {
    QSettings().setValue(QStringLiteral("trendMeasure"), measure_->currentData());
    showTrend();
  });
  connect(across_, &QComboBox::activated, this, &AthleteStory::showTrend);
  showTrend();
}

void AthleteStory::showTrend() {
  const library::TrendChoice& c = choices_[static_cast<std::size_t>(measure_->currentIndex())];
  const auto* kind = lifts::measureDefinition(*lifts::liftNamed(c.lift), c.measure);
  const auto points = library::trendOf(library_, athlete_.id, c.measure, c.lift);
  if (!points || points->empty()) return change_->setText(tr("No numbers saved for this one yet."));
  std::vector<AskedThen> asked;
  for (const library::CueThread& t : threads_)
    if (t.measure == c.measure && t.finding.starts_with(c.lift + "."))
      asked.push_back({t.asked_on, tr("asked: %1").arg(q(t.title).toLower())});
  const auto lift = lifts::liftNamed(c.lift)->id;
  if (!library::isMinor(exchange::profileAsKnown(library_, athlete_), library::today()).value_or(false))
    for (const library::Meet& meet : athlete_.profile.meets) {
      const auto best = meet.best_kg(lift);
      asked.push_back({meet.on, best ? tr("%1: %2").arg(q(meet.name), q(massText(*best))) : q(meet.name), true});
    }
  plot_->show(*kind, *points, limitOf(athlete_, c), asked,
              across_->currentIndex() == 0 ? TrendPlot::Across::Date : TrendPlot::Across::Load);
  change_->setText(changeText(*kind, *points));
}

}  // namespace jib::desk
