// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/load_sheet.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/base/quantity.h"
#include "core/coaching/set_notation.h"
#include "core/exchange/letters/letters.h"
#include "core/review/load_basis.h"
#include "desk/library_page/gym_plates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/mass_box.h"

namespace jib::desk {

LoadSheet::LoadSheet(const review::Session& session, QWidget* parent)
    : QDialog(parent), gentle_(session.care().any()), rack_(gymRack(displayUnits().mass)) {
  setObjectName(QStringLiteral("loadSheet"));
  setWindowTitle(tr("Loads for %1's %2").arg(q(exchange::firstNameOf(session.athlete().name)), q(session.lift().name)));
  resize(620, 470);
  const library::Submission& s = session.submission();
  if (s.load_kg && s.details.load_said.empty()) filmed_kg_ = *s.load_kg;
  auto* column = new QVBoxLayout(this);
  addMax(*column, session);
  typed_ = new QLineEdit;
  typed_->setObjectName(QStringLiteral("typedSets"));
  typed_->setPlaceholderText(tr("5x3 @ 80%   ·   5/3/1 @ 100/110/120   ·   70/80/90 % x 2   ·   140 x 2 @8"));
  connect(typed_, &QLineEdit::textChanged, this, &LoadSheet::refresh);
  column->addWidget(typed_);
  addMakers(*column);
  table_ = new QTableWidget(0, 5);
  table_->setObjectName(QStringLiteral("plannedSets"));
  table_->setHorizontalHeaderLabels({tr("Load"), tr("% of max"), tr("Reps"), tr("RPE"), tr("On each side")});
  table_->verticalHeader()->setVisible(false);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionMode(QAbstractItemView::NoSelection);
  table_->setFocusPolicy(Qt::NoFocus);
  column->addWidget(table_, 1);
  notes_ = words(QString(), true);
  notes_->setObjectName(QStringLiteral("loadNotes"));
  column->addWidget(notes_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  take_ = buttons->addButton(tr("Put into the cue"), QDialogButtonBox::AcceptRole);
  take_->setObjectName(QStringLiteral("takeSets"));
  take_->setDefault(true);
  connect(buttons, &QDialogButtonBox::accepted, this, [this] {
    emit taken(q(coaching::setsInWords(plan_)));
    accept();
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  refresh();
}

void LoadSheet::addMax(QVBoxLayout& column, const review::Session& session) {
  if (gentle_) {
    auto* why = words(session.care().pain ? tr("Something hurts: no max, percentages or attempts here. Type loads they "
                                               "can do without pain.")
                                          : tr("Under 18: no max, percentages or attempts here. Type loads that feel "
                                               "easy."));
    why->setObjectName(QStringLiteral("noMax"));
    setTone(why, "warn");
    column.addWidget(why);
    return;
  }
  auto* row = new QHBoxLayout;
  row->addWidget(words(tr("Max"), true));
  max_ = new MassBox;
  max_->setObjectName(QStringLiteral("maxOf"));
  const coaching::LoadBasis basis = review::loadBasisOf(session);
  max_->setValue(basis.max_kg.value_or(0));
  connect(max_, &QDoubleSpinBox::valueChanged, this, &LoadSheet::refresh);
  row->addWidget(max_);
  QString from = basis.max_kg && !basis.max_estimated ? tr("on record") : QString();
  if (const auto range = review::maxFromSet(session)) {
    const QString told =
        tr("this set suggests %1").arg(q(massRangeText(std::round(range->least_kg), std::round(range->most_kg))));
    from = from.isEmpty() ? told : from + QStringLiteral("; ") + told;
    if (!session.submission().details.effort_said) from += tr(", or more: no RPE was given");
  }
  auto* hint = words(from, true);
  hint->setObjectName(QStringLiteral("maxFrom"));
  row->addWidget(hint, 1);
  column.addLayout(row);
}

void LoadSheet::addMakers(QVBoxLayout& column) {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  const auto maker = [&](const QString& text, const char* name, const QString& tip, bool of_a_max, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
    if (of_a_max) of_a_max_.push_back(b);
  };
  using namespace coaching;
  maker(tr("Warm-up"), "makeWarmUp", tr("From the empty bar to the top set"), false,
        [this] { make(warmUpTo(top(), rack_)); });
  maker(tr("Ramp"), "makeRamp", tr("Five even steps to the top set"), false, [this] { make(rampTo(top(), 5, rack_)); });
  maker(tr("70/80/90"), "makeLadder", tr("Find the load where the fault starts to show"), true, [this] {
    make(ladderOf({70, 80, 90}, 2, *max(), rack_));
  });
  maker(tr("10 % off"), "makeBackOff", tr("Three back-off sets after the top set"), false,
        [this] { make(backOff(top(), 10, 3, 3, rack_)); });
  maker(tr("Attempts"), "makeAttempts", tr("Opener, second and third: a suggestion"), true,
        [this] { make(attemptsFrom(*max(), rack_)); });
  row->addStretch();
  column.addLayout(row);
}

std::optional<double> LoadSheet::max() const {
  return max_ && max_->value() > 0 ? std::optional(max_->value()) : std::nullopt;
}

double LoadSheet::top() const {
  double heaviest = 0;
  for (const coaching::PlannedSet& set : plan_.sets) heaviest = std::max(heaviest, set.load_kg);
  return heaviest > 0 ? heaviest : filmed_kg_ > 0 ? filmed_kg_ : 0.8 * max().value_or(0);
}

void LoadSheet::make(const Result<coaching::Plan>& plan) {
  if (!plan) {
    notes_->setText(tr("Type the top set first, as 140 x 3."));
    return;
  }
  typed_->setText(q(coaching::typedText(*plan, rack_.unit)));
  // As it was made: a meet's attempts are not rounded to the gym's plates. Shares are of the max here, whatever the
  // sets were made from.
  coaching::Plan made = *plan;
  for (coaching::PlannedSet& set : made.sets) {
    set.share_pct.reset();
    if (const auto of = max(); of && set.load_kg > 0) set.share_pct = std::round(100 * set.load_kg / *of);
  }
  show(made, {});
}

void LoadSheet::setTyped(const QString& sets) {
  typed_->setText(sets);
}

void LoadSheet::refresh() {
  for (QPushButton* maker : of_a_max_) maker->setEnabled(max().has_value());
  const QString text = typed_ ? typed_->text().trimmed() : QString();
  if (!table_) return;
  auto plan =
      text.isEmpty() ? Result<coaching::Plan>(coaching::Plan{}) : coaching::planTyped(text.toStdString(), max(), rack_);
  QStringList notes;
  if (!plan) notes << q(plan.error().sentence());
  show(plan.value_or(coaching::Plan{}), notes);
}

void LoadSheet::show(const coaching::Plan& plan, QStringList notes) {
  plan_ = plan;
  for (const std::string& note : plan.notes)
    if (!notes.contains(q(note))) notes << q(note);
  notes_->setText(notes.join(QLatin1Char('\n')));
  take_->setEnabled(!plan_.sets.empty());
  table_->setRowCount(static_cast<int>(plan_.sets.size()));
  for (int r = 0; r < table_->rowCount(); ++r) {
    const coaching::PlannedSet& set = plan_.sets[static_cast<std::size_t>(r)];
    QStringList plates;
    for (const std::string& plate : set.plates_per_side) plates << q(plate);
    const QStringList cells{set.load_kg > 0 ? q(massText(set.load_kg)) : tr("–"),
                            set.share_pct ? QString::number(*set.share_pct) + QStringLiteral(" %") : QString(),
                            set.reps ? QString::number(*set.reps) : QString(),
                            set.rpe ? QString::number(*set.rpe) : QString(),
                            set.load_kg <= 0   ? QString()
                            : plates.isEmpty() ? tr("empty bar")
                                               : plates.join(QStringLiteral(", "))};
    for (int c = 0; c < cells.size(); ++c) table_->setItem(r, c, new QTableWidgetItem(cells[c]));
  }
  table_->resizeColumnsToContents();
  table_->horizontalHeader()->setStretchLastSection(true);
}

}  // namespace jib::desk
