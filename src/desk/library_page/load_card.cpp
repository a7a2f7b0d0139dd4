// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/load_card.h"

#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QPushButton>
#include <QRadioButton>
#include <QVBoxLayout>

#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/motion/sets.h"
#include "desk/library_page/plate_counter.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/mass_box.h"

namespace jib::desk {
namespace {

using exchange::Field;

std::optional<double> numberOf(const std::vector<library::MessageField>& fields, Field field) {
  const auto* f = exchange::fieldNamed(fields, exchange::nameOf(field));
  bool is_number = false;
  const double value = f ? QString::fromStdString(f->value).toDouble(&is_number) : 0;
  return is_number ? std::optional(value) : std::nullopt;
}

QString clock(double s) {
  const int whole = static_cast<int>(s);
  return QStringLiteral("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QLatin1Char('0'));
}

}  // namespace

LoadCard::LoadCard(library::Library& library, library::Submission submission, const library::Athlete& athlete,
                   const std::vector<library::MessageField>& fields, const coaching::ClipCheck* check, bool counting,
                   QWidget* parent)
    : QWidget(parent), library_(library), submission_(std::move(submission)) {
  const auto& p = athlete.profile;
  facts_.stated_kg = submission_.load_kg;
  facts_.best_kg = p.bestOf(submission_.lift);
  facts_.share_pct = numberOf(fields, Field::Share_pct);
  facts_.effort = numberOf(fields, Field::Effort);
  if (const auto reps = numberOf(fields, Field::Reps)) facts_.reps = static_cast<int>(*reps);
  // What was seen counts before what was said.
  if (check && check->sets.size() == 1 && check->reps > 0) facts_.reps = check->reps;
  facts_.counted = submission_.details.plates;

  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  column->addWidget(heading(tr("Load")));
  if (check && check->sets.size() > 1) addSets(*check, *column);
  auto* count = new QPushButton(tr("Count the plates…"));
  count->setObjectName(QStringLiteral("countPlates"));
  count->setCheckable(true);
  count->setChecked(counting);
  count->setToolTip(tr("Tap what's on the bar; it's compared with the stated load"));
  auto* counter = new PlateCounter(this);
  counter->setLoading(submission_.details.plates.value_or(coaching::Loading{}));
  counter->setVisible(counting);
  column->addWidget(count, 0, Qt::AlignLeft);
  column->addWidget(counter);
  // Below the plates, so that these stay under the mouse when a line comes.
  lines_ = new QVBoxLayout;
  lines_->setSpacing(3);
  column->addLayout(lines_);
  connect(count, &QPushButton::toggled, this, [this, counter](bool on) {
    counter->setVisible(on);
    emit countingChanged(on);
  });
  connect(counter, &PlateCounter::changed, this, [this, counter] {
    submission_.details.plates =
        counter->loading() == coaching::Loading{} ? std::nullopt : std::optional(counter->loading());
    facts_.counted = submission_.details.plates;
    if (save()) refreshLines();
  });
  connect(counter, &PlateCounter::takenAsLoad, this, [this](double kg) {
    submission_.load_kg = kg;
    submission_.details.load_said.clear();  // counted: no number waits for its unit any more
    if (save()) emit changed();
  });
  refreshLines();
}

bool LoadCard::save() {
  const auto kept = library_.edit(submission_.id, [this](library::Submission& row) {
    row.load_kg = submission_.load_kg;
    row.details.load_said = submission_.details.load_said;
    row.details.plates = submission_.details.plates;
    row.details.set_loads_kg = submission_.details.set_loads_kg;
    row.details.top_set = submission_.details.top_set;
  });
  if (!kept) emit said(QString::fromStdString(kept.error().sentence()));
  return kept.has_value();
}

void LoadCard::refreshLines() {
  clearLayout(lines_);
  const auto about = coaching::aboutLoad(facts_);
  if (!facts_.stated_kg && about.empty()) lines_->addWidget(words(tr("Load missing."), true));
  for (const auto& line : about) {
    auto* label =
        words((line.question ? QStringLiteral("? ") : QString()) + QString::fromStdString(line.text), !line.question);
    label->setObjectName(QStringLiteral("load_") + QString::fromStdString(line.id));
    if (line.question) setTone(label, "warn");
    lines_->addWidget(label);
  }
}

void LoadCard::addSets(const coaching::ClipCheck& check, QVBoxLayout& column) {
  auto& details = submission_.details;
  details.set_loads_kg.resize(check.sets.size());
  std::vector<motion::SetSpan> spans(check.sets.size());
  const auto top =
      static_cast<std::size_t>(details.top_set.value_or(static_cast<int>(motion::topSet(spans, details.set_loads_kg))));
  auto* grid = new QGridLayout;
  grid->setVerticalSpacing(3);
  column.addWidget(words(tr("%1 sets in this clip; the marked one is reviewed:").arg(check.sets.size()), true));
  for (std::size_t k = 0; k < check.sets.size(); ++k) {
    const auto& set = check.sets[k];
    auto* mark = new QRadioButton(tr("Set %1 · %2 · %3 to %4")
                                      .arg(k + 1)
                                      .arg(set.reps == 1 ? tr("1 rep") : tr("%1 reps").arg(set.reps))
                                      .arg(clock(set.from_s), clock(set.to_s)));
    mark->setObjectName(QStringLiteral("topSet_%1").arg(k));
    mark->setToolTip(tr("Review this set"));
    mark->setChecked(k == top);
    connect(mark, &QRadioButton::clicked, this, [this, k] {
      submission_.details.top_set = static_cast<int>(k);
      if (const auto load = submission_.details.set_loads_kg[k]) {
        submission_.load_kg = load;
        submission_.details.load_said.clear();
      }
      if (save()) emit changed();
    });
    auto* load = new MassBox;
    load->setObjectName(QStringLiteral("setLoad_%1").arg(k));
    load->setToolTip(tr("Weight on the bar in this set, bar included, in kg or lb; zero when unknown"));
    load->setValue(details.set_loads_kg[k].value_or(0));
    connect(load, &QDoubleSpinBox::editingFinished, this, [this, k, load] {
      auto& kept = submission_.details.set_loads_kg[k];
      const auto now = load->value() > 0 ? std::optional(load->value()) : std::nullopt;
      if (now == kept) return;
      kept = now;
      if (save()) emit changed();
    });
    grid->addWidget(mark, static_cast<int>(k), 0);
    grid->addWidget(load, static_cast<int>(k), 1);
  }
  column.addLayout(grid);
}

}  // namespace jib::desk
