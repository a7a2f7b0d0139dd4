// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/lift_card.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/exchange/intake/prepare.h"
#include "core/lifts/which_lift.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

QString teller(library::ToldBy by) {
  switch (by) {
    case library::ToldBy::Nobody:
      return LiftCard::tr("missing");
    case library::ToldBy::Words:
      return LiftCard::tr("from the message");
    case library::ToldBy::Film:
      return LiftCard::tr("seen in the clip");
    case library::ToldBy::Coach:
      return LiftCard::tr("set by you");
  }
  return {};
}

}  // namespace

QString liftText(const library::Submission& s) {
  if (s.lift.empty()) return s.kind == library::SubmissionKind::Clip ? LiftCard::tr("which lift?") : QString();
  const auto* lift = lifts::liftNamed(s.lift);
  QString text = lift ? q(lift->title) : q(s.lift);
  if (!s.variant.empty()) text += QStringLiteral(", ") + q(lift ? lifts::titleOf(*lift, s.variant) : s.variant);
  return s.details.variant_by == library::ToldBy::Nobody ? text + QLatin1Char('?') : text;
}

LiftCard::LiftCard(const library::Submission& s, const std::optional<coaching::ClipCheck>& check, QWidget* parent)
    : QFrame(parent) {
  setObjectName(QStringLiteral("liftCard"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  const auto decision = exchange::liftOf(s, check ? &*check : nullptr);
  if (!decision.question.empty() && (check || s.lift.empty())) {
    auto* ask = words(q(decision.question) + QLatin1Char(' ') + q(decision.reason));
    ask->setObjectName(QStringLiteral("askLift"));
    setTone(ask, "warn");
    column->addWidget(ask);
    auto* row = new QHBoxLayout;
    for (const auto& lift : lifts::allLifts()) {
      auto* button = new QPushButton(q(lift.title));
      button->setObjectName(QStringLiteral("lift_") + q(lift.name));
      connect(button, &QPushButton::clicked, this, [this, id = q(lift.name), s] {
        const bool same = id == q(s.lift);
        emit chosen(id, same ? q(s.variant) : q(lifts::usualVariant(id.toStdString())));
      });
      row->addWidget(button);
    }
    row->addStretch();
    column->addLayout(row);
    return;
  }
  auto* row = new QHBoxLayout;
  auto* lift_box = new QComboBox;
  lift_box->setObjectName(QStringLiteral("lift"));
  lift_box->setToolTip(tr("Which lift this is; your call"));
  if (s.lift.empty()) lift_box->addItem(tr("which lift?"), QString());
  for (const auto& lift : lifts::allLifts()) lift_box->addItem(q(lift.title), q(lift.name));
  lift_box->setCurrentIndex(std::max(0, lift_box->findData(q(s.lift))));
  auto* variant_box = new QComboBox;
  variant_box->setObjectName(QStringLiteral("liftVariant"));
  variant_box->setToolTip(tr("Bar position, stance or tempo"));
  const bool assumed = s.details.variant_by == library::ToldBy::Nobody;
  if (const auto* known = lifts::liftNamed(s.lift)) {
    // What nobody said is only assumed; choosing it says so.
    if (assumed) variant_box->addItem(q(lifts::titleOf(*known, s.variant)) + QLatin1Char('?'), q(s.variant));
    for (const auto& id : lifts::variantsOf(*known)) variant_box->addItem(q(lifts::titleOf(*known, id)), q(id));
    if (variant_box->findData(q(s.variant)) < 0)
      variant_box->addItem(q(lifts::titleOf(*known, s.variant)), q(s.variant));
  }
  if (!assumed) variant_box->setCurrentIndex(std::max(0, variant_box->findData(q(s.variant))));
  // As wide as what is chosen; the list that opens is as wide as its longest words.
  variant_box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  variant_box->setMinimumContentsLength(static_cast<int>(variant_box->currentText().size()));
  variant_box->view()->setMinimumWidth(variant_box->view()->sizeHintForColumn(0) + 24);
  connect(lift_box, &QComboBox::activated, this, [this, lift_box](int) {
    const QString id = lift_box->currentData().toString();
    if (!id.isEmpty()) emit chosen(id, q(lifts::usualVariant(id.toStdString())));
  });
  connect(variant_box, &QComboBox::activated, this, [this, lift_box, variant_box](int) {
    emit chosen(lift_box->currentData().toString(), variant_box->currentData().toString());
  });
  row->addWidget(lift_box);
  row->addWidget(variant_box);
  auto* by = words(teller(s.details.lift_by), true);
  by->setObjectName(QStringLiteral("liftBy"));
  row->addWidget(by, 1);
  column->addLayout(row);
  if (!decision.reason.empty()) {
    auto* why = words(q(decision.reason), true);
    why->setObjectName(QStringLiteral("notMeasured"));
    column->addWidget(why);
  }
}

}  // namespace jib::desk
