// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/limit_row.h"

#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

LimitRow::LimitRow(const coaching::Limit& limit, const lifts::MeasureDefinition& kind, const QString& style,
                   WouldSay would_say, QWidget* parent)
    : QWidget(parent), limit_(limit), would_say_(std::move(would_say)), mover_(new QWidget(this)) {
  const auto said = [&kind](double v) { return q(lifts::text(kind, {v, 0, 0})); };
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* open = new QToolButton;
  open->setText(limit.moved_from ? tr("Your limit %1 (style: %2)").arg(said(limit.limit), said(*limit.moved_from))
                                 : tr("Limit %1").arg(said(limit.limit)));
  open->setObjectName(QStringLiteral("limit_") + q(limit.finding));
  open->setProperty("quiet", true);
  open->setToolTip(tr("Move the limit for your style “%1”").arg(style));
  opener_ = open;
  auto* row = new QHBoxLayout(mover_);
  row->setContentsMargins(0, 0, 0, 0);
  const lifts::Shown shown = lifts::shown(kind, {limit.limit, 0, 0});
  per_ = limit.limit != 0 ? shown.value / limit.limit : lifts::shown(kind, {1, 0, 0}).value;
  value_ = new QDoubleSpinBox;
  value_->setObjectName(QStringLiteral("limitValue"));
  value_->setRange(-1000, 1000);
  value_->setDecimals(std::max(1, shown.decimals));
  constexpr double kLarge = 4;
  value_->setSingleStep(std::abs(shown.value) > kLarge ? 0.5 : 0.1);
  if (!shown.unit.empty()) value_->setSuffix(QStringLiteral(" ") + q(shown.unit));
  value_->setValue(shown.value);
  value_->setKeyboardTracking(false);
  would_ = words(QString(), true);
  would_->setObjectName(QStringLiteral("limitWould"));
  row->addWidget(value_);
  addButtons(*row, limit.moved_from ? said(*limit.moved_from) : QString());
  row->addWidget(would_, 1);
  column->addWidget(mover_);
  connect(value_, &QDoubleSpinBox::valueChanged, this, &LimitRow::tell);
  connect(open, &QToolButton::clicked, this, [this] {
    setOpen(!mover_->isVisible());
    emit opened(mover_->isVisible());
  });
  mover_->hide();
}

void LimitRow::addButtons(QHBoxLayout& row, const QString& back) {
  auto* keep = new QPushButton(tr("Move"));
  keep->setObjectName(QStringLiteral("keepLimit"));
  connect(keep, &QPushButton::clicked, this, [this] { emit moved(value_->value() / per_); });
  row.addWidget(keep);
  if (back.isEmpty()) return;
  auto* style = new QPushButton(tr("Back to %1").arg(back));
  style->setObjectName(QStringLiteral("limitBack"));
  connect(style, &QPushButton::clicked, this, [this] { emit moved(std::nullopt); });
  row.addWidget(style);
}

void LimitRow::setOpen(bool open) {
  mover_->setVisible(open);
  if (open) tell();
}

void LimitRow::tell() {
  would_->setText(would_say_ ? would_say_(limit_, value_->value() / per_) : QString());
}

}  // namespace jib::desk
