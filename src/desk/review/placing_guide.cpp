// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/placing_guide.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

using tracing::Landmark;

QString whereOf(Landmark landmark) {
  switch (landmark) {
    case Landmark::Toe:
      return PlacingGuide::tr("the tip of the near shoe");
    case Landmark::Heel:
      return PlacingGuide::tr("the lowest rear point of the near shoe");
    case Landmark::Ankle:
      return PlacingGuide::tr("the outer ankle bone");
    case Landmark::Knee:
      return PlacingGuide::tr("the middle of the knee joint, behind the kneecap");
    case Landmark::Hip:
      return PlacingGuide::tr("the hip joint: the bony point at the side of the hip");
    default:
      return PlacingGuide::tr("the middle of the shoulder joint; guess it behind the plate");
  }
}

}  // namespace

PlacingGuide::PlacingGuide(ReviewDocument& document, QWidget* parent) : QFrame(parent), document_(document) {
  setObjectName(QStringLiteral("coachCard"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(12, 6, 12, 6);
  what_ = plainLabel();
  what_->setObjectName(QStringLiteral("placingWhat"));
  QFont bold = what_->font();
  bold.setBold(true);
  what_->setFont(bold);
  where_ = words(QString(), true);
  // Two lines at all times: the longest must not widen the window, nor the picture jump from point to point.
  where_->setMinimumHeight(2 * where_->fontMetrics().lineSpacing());
  auto* stop = new QPushButton(tr("Stop placing"));
  stop->setToolTip(tr("Save what's placed and finish later (Esc)"));
  connect(stop, &QPushButton::clicked, this, &PlacingGuide::stop);
  row->addWidget(what_);
  row->addWidget(where_, 1);
  row->addWidget(stop);
  connect(&document_, &ReviewDocument::pinsChanged, this, &PlacingGuide::refresh);
  hide();
}

void PlacingGuide::start(double t) {
  t_s_ = t;
  active_ = true;
  show();
  refresh();
}

void PlacingGuide::stop() {
  if (!active_) return;
  active_ = false;
  hide();
  emit nextChanged(std::nullopt);
}

std::optional<Landmark> PlacingGuide::next() const {
  if (!active_) return std::nullopt;
  for (Landmark l : tracing::kPlacedLandmarks)
    if (!document_.pin({t_s_, l})) return l;
  return std::nullopt;
}

void PlacingGuide::refresh() {
  if (!active_) return;
  const auto landmark = next();
  if (!landmark) {
    stop();
    emit completed();
    return;
  }
  int number = 1;
  for (Landmark l : tracing::kPlacedLandmarks) {
    if (l == *landmark) break;
    ++number;
  }
  const auto title = tracing::titleOf(*landmark);
  what_->setText(tr("%1 of 6: click the %2").arg(number).arg(q(title)));
  where_->setText(whereOf(*landmark) + tr(". Enter accepts the suggested point; Ctrl+Z undoes."));
  emit nextChanged(landmark);
}

}  // namespace jib::desk
