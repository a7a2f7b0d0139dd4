// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/then_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

#include "core/base/quantity.h"
#include "core/coaching/then_now.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/dates.h"
#include "desk/review/other_view.h"
#include "desk/review/stage.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "drawing/lifter_extent.h"

namespace jib::desk {
namespace {

enum Running { kStretched, kOwnSpeed, kGhost };

// Where a point of the earlier film lies in this one: feet on feet, as large, facing the same way. nullopt where
// either does not show the foot.
std::optional<QTransform> ontoNow(const coaching::Analysis& then, std::size_t then_frame, const coaching::Analysis& now,
                                  std::size_t now_frame) {
  const auto from = drawing::midFootLine(then, then_frame), to = drawing::midFootLine(now, now_frame);
  const double of = then.motion.calibration.pixels_per_metre, in = now.motion.calibration.pixels_per_metre;
  if (!from || !to || of <= 0 || in <= 0) return std::nullopt;
  const bool turned = then.trace.forward.value_or(1) * now.trace.forward.value_or(1) < 0;
  QTransform t;
  t.translate(to->foot.x, to->foot.y);
  t.scale((turned ? -1 : 1) * in / of, in / of);
  t.translate(-from->foot.x, -from->foot.y);
  return t;
}

}  // namespace

ThenPanel::ThenPanel(library::Library& library, ReviewDocument& document, Stage& stage, QWidget* parent)
    : QWidget(parent), library_(library), document_(document), stage_(stage), view_(new OtherView) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  const auto choice = [&](const char* name, const QString& tip) {
    auto* box = new QComboBox;
    box->setObjectName(QString::fromLatin1(name));
    box->setToolTip(tip);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(6);
    row->addWidget(box, 2);
    return box;
  };
  film_ = choice("thenFilm", tr("Which earlier clip"));
  step_ = choice("thenStep", tr("How the two run together"));
  step_->addItems({tr("in step"), tr("own speed, from the turn"), tr("ghost over the clip")});
  reps_ = choice("thenReps", tr("Which reps are held against each other"));
  column->addLayout(row);
  view_->setObjectName(QStringLiteral("thenView"));
  column->addWidget(view_, 1);
  differs_ = words(QString(), true);
  differs_->setObjectName(QStringLiteral("thenDiffers"));
  column->addWidget(differs_);
  reading_ = words(QString());
  reading_->setObjectName(QStringLiteral("thenReading"));
  column->addWidget(reading_);
  connect(film_, &QComboBox::activated, this, &ThenPanel::choose);
  for (QComboBox* box : {step_, reps_}) connect(box, &QComboBox::activated, this, [this] { follow(now_t_); });
  connect(&document_, &ReviewDocument::analysisChanged, this, [this] { follow(now_t_); });
  hide();
}

bool ThenPanel::open() {
  if (!films_.empty()) return true;
  auto earlier = library_.before(document_.submission());
  if (!earlier) {
    emit said(q(earlier.error().sentence()), true);
    return false;
  }
  const auto mine = library_.filmedAs(document_.submission());
  for (library::Submission& s : *earlier) {
    if (s.clip_hash.empty()) continue;
    const auto stored = library_.tracing(s.id);
    if (!stored || stored->empty()) continue;
    const auto theirs = library_.filmedAs(s);
    films_.push_back({s, mine && theirs ? lifts::alikeOf(*theirs, *mine) : lifts::Likeness{}});
  }
  if (films_.empty()) {
    emit said(tr("No earlier clip of this lift has been reviewed yet."), false);
    return false;
  }
  // Latest first, and of those the ones that can be compared.
  std::stable_sort(films_.begin(), films_.end(),
                   [](const Film& a, const Film& b) { return a.alike.label < b.alike.label; });
  for (const Film& film : films_) {
    QString title = q(library::spoken(film.is.received_on));
    if (film.is.load_kg) title += QStringLiteral(" · ") + q(massText(*film.is.load_kg));
    film_->addItem(title);
  }
  choose(0);
  return true;
}

void ThenPanel::choose(int which) {
  chosen_ = static_cast<std::size_t>(which);
  const Film& film = films_[chosen_];
  then_.reset();
  view_->open(library_.clipFile(film.is), tr("Then: %1").arg(film_->itemText(which)),
              [this](double t) { return thenAt(t); });
  view_->setAnalysis(nullptr);
  view_->setVisible(true);
  QStringList differs;
  for (const lifts::Difference& d : film.alike.differs)
    differs << tr("%1: %2 then, %3 now").arg(q(d.what == "lens_height" ? "lens height" : d.what), q(d.a), q(d.b));
  QString text = film.alike.label == lifts::Alike::Like ? tr("Comparable.") : q(film.alike.why());
  if (!differs.isEmpty()) text += QLatin1Char(' ') + differs.join(QStringLiteral("; ")) + QLatin1Char('.');
  differs_->setText(text.trimmed());
  auto review = library_.review(film.is.id);
  auto stored = library_.tracing(film.is.id);
  if (!review || !stored) return;
  const auto request = exchange::requestFor(film.is, *review, document_.athlete().profile);
  jobs_.start<coaching::Analysis>(
      tr("Opening the earlier clip…"),
      [clip = library_.clipFile(film.is), request, json = *stored, style = document_.style(),
       book = document_.book()](Task&) -> Result<coaching::Analysis> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        return exchange::restored(reader->info(), request, json, style, book);
      },
      [this](Result<coaching::Analysis> then) {
        if (then) return arrived(std::move(*then));
        if (then.error().code != ErrorCode::Cancelled)
          reading_->setText(tr("You can look at it, but not compare: %1").arg(q(then.error().what)));
      });
}

void ThenPanel::arrived(coaching::Analysis then) {
  then_ = std::make_shared<const coaching::Analysis>(std::move(then));
  view_->setAnalysis(then_);
  // With room to see what moves out of the way.
  const QRectF lifter = drawing::lifterExtent(*then_);
  const double aside = 0.2 * lifter.width(), above = 0.04 * lifter.height();
  view_->setCrop(lifter.adjusted(-aside, -above, aside, above) & QRectF(0, 0, then_->clip.width, then_->clip.height));
  emit said(tr("%1 beside this one.").arg(film_->currentText()), false);
  const int before = reps_->currentIndex();
  reps_->clear();
  reps_->addItem(tr("rep for rep"));
  reps_->addItem(tr("with the last rep then"));
  reps_->addItem(tr("with the first rep then"));
  reps_->setCurrentIndex(std::max(0, before));
  follow(now_t_);
}

std::optional<double> ThenPanel::thenAt(double now_t) const {
  const auto now = document_.analysis();
  if (!now || !then_) return std::nullopt;
  constexpr int kAll = 1000;
  motion::InStep step{now->reps, then_->reps};
  step.how = step_->currentIndex() == kOwnSpeed ? motion::Step::OwnSpeed : motion::Step::Stretched;
  step.shift = reps_->currentIndex() == 1 ? kAll : reps_->currentIndex() == 2 ? -kAll : 0;
  step.now_slow = now->motion.slow_factor;
  step.then_slow = then_->motion.slow_factor;
  return step.thenAt(now_t);
}

double ThenPanel::thenTime() const {
  return view_->shownTime();
}

void ThenPanel::follow(double now_t) {
  now_t_ = now_t;
  if (!isVisible()) return;
  view_->follow(now_t);
  tell();
  ghost();
}

// What differs at the play head, sure ones first.
void ThenPanel::tell() {
  const auto now = document_.analysis();
  const auto then_t = thenAt(now_t_);
  if (!now || !then_ || !then_t) return;
  if (films_[chosen_].alike.label == lifts::Alike::Unlike) {
    reading_->setText(tr("Look, don't count: numbers can't be compared."));
    return;
  }
  auto all = coaching::differencesAt(*now, now_t_, *then_, *then_t, films_[chosen_].alike.widening());
  std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.sure() > b.sure(); });
  QStringList lines;
  for (const coaching::MomentDifference& d : all) lines << q(d.text());
  reading_->setText(lines.isEmpty() ? tr("No body to compare at this moment.") : lines.join(QStringLiteral(" · ")));
}

void ThenPanel::ghost() {
  const auto now = document_.analysis();
  const auto then_t = thenAt(now_t_);
  const bool on = step_->currentIndex() == kGhost && isVisible() && now && then_ && then_t;
  if (!on) return stage_.setThen(nullptr, 0, {});
  const std::size_t frame = then_->motion.frameAt(*then_t);
  const auto onto = ontoNow(*then_, frame, *now, now->motion.frameAt(now_t_));
  if (!onto) {
    reading_->setText(tr("A ghost needs the feet in both clips."));
    return stage_.setThen(nullptr, 0, {});
  }
  stage_.setThen(then_, frame, *onto);
}

void ThenPanel::hideEvent(QHideEvent* event) {
  stage_.setThen(nullptr, 0, {});
  QWidget::hideEvent(event);
}

}  // namespace jib::desk
