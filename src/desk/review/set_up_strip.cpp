// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/set_up_strip.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>

#include "desk/review/commands/change_set_up.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/mass_box.h"

namespace jib::desk {
namespace {

// Selects a value, adding it when it is none of the usual ones: what was stored is never silently changed.
void choose(QComboBox* box, double value, const QString& text) {
  int index = box->findData(value);
  if (index < 0) {
    box->addItem(text, value);
    index = box->count() - 1;
  }
  box->setCurrentIndex(index);
}

// From where a clip can be filmed, by the names files have for it.
std::vector<std::pair<QString, const char*>> viewsOf(const lifts::LiftDefinition& lift) {
  using Strip = SetUpStrip;
  std::vector<std::pair<QString, const char*>> views{
      {Strip::tr("auto"), ""}, {Strip::tr("left side"), "left"}, {Strip::tr("right side"), "right"}};
  if (lift.body.lying) {
    views.emplace_back(Strip::tr("head end"), "head");
    views.emplace_back(Strip::tr("feet end"), "front");
  } else {
    views.emplace_back(Strip::tr("front"), "front");
    views.emplace_back(Strip::tr("rear"), "rear");
  }
  views.emplace_back(Strip::tr("between side and front"), "oblique");
  return views;
}

QString plateText(double mm) {
  return SetUpStrip::tr("%1 mm").arg(mm);
}

}  // namespace

SetUpStrip::SetUpStrip(ReviewDocument& document, QWidget* parent) : QFrame(parent), document_(document) {
  // long because a layout, one widget after the other
  setObjectName(QStringLiteral("coachCard"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(12, 5, 12, 5);
  row->setSpacing(8);
  const auto field = [&](const QString& title, QWidget* widget, const QString& name, const QString& tip) {
    auto* label = words(title, true);
    label->setWordWrap(false);
    widget->setObjectName(name);
    widget->setToolTip(tip);
    row->addWidget(label);
    row->addWidget(widget);
    row->addSpacing(6);
  };
  variant_ = new QComboBox;
  for (const std::string& id : lifts::variantsOf(document.lift()))
    variant_->addItem(QString::fromStdString(lifts::titleOf(document.lift(), id)), QString::fromStdString(id));
  field(tr("Variation"), variant_, QStringLiteral("variant"), tr("Bar position or stance, and tempo"));
  load_ = new MassBox;
  field(tr("Load"), load_, QStringLiteral("load"),
        tr("Weight on the bar, bar included, kg or lb. Empty if you don't know it"));
  plate_ = new QComboBox;
  for (double mm : {450.0, 425.0, 400.0, 350.0, 325.0, 280.0}) plate_->addItem(plateText(mm), mm);
  field(tr("Largest plate"), plate_, QStringLiteral("plate"),
        tr("Diameter of the largest plate: every length is scaled by it"));
  slow_ = new QComboBox;
  for (double factor : {1.0, 2.0, 4.0, 8.0})
    slow_->addItem(factor == 1 ? tr("no") : tr("%1× slower").arg(factor), factor);
  field(tr("Slow motion"), slow_, QStringLiteral("slow"), tr("How much slower than real time the clip plays"));
  seen_from_ = new QComboBox;
  for (const auto& [text, view] : viewsOf(document.lift())) seen_from_->addItem(text, QString::fromLatin1(view));
  field(tr("Camera side"), seen_from_, QStringLiteral("seenFrom"),
        tr("Set it if the angle is wrong: the clip is then tracked again"));
  sets_title_ = words(tr("Set"), true);
  sets_title_->setWordWrap(false);
  sets_ = new QComboBox;
  sets_->setObjectName(QStringLiteral("set"));
  sets_->setToolTip(tr("Which of the clip's sets is judged"));
  row->addWidget(sets_title_);
  row->addWidget(sets_);
  row->addStretch();
  connect(variant_, &QComboBox::currentIndexChanged, this, [this] {
    SetUp to = document_.setUp();
    to.variant = variant_->currentData().toString().toStdString();
    change(variant_, tr("change the variation"), to);
  });
  connect(load_, &QDoubleSpinBox::valueChanged, this, [this](double kg) {
    SetUp to = document_.setUp();
    to.load_kg = kg > 0 ? std::optional(kg) : std::nullopt;
    if (const auto a = document_.analysis(); a && a->set) {
      to.set_loads_kg.resize(a->sets.size());
      to.set_loads_kg[*a->set] = to.load_kg;
    }
    change(load_, tr("change the load"), to);
  });
  connect(plate_, &QComboBox::currentIndexChanged, this, [this] {
    SetUp to = document_.setUp();
    to.plate_mm = plate_->currentData().toDouble();
    change(plate_, tr("change the plate's size"), to);
  });
  connect(slow_, &QComboBox::currentIndexChanged, this, [this] {
    SetUp to = document_.setUp();
    to.slow_factor = slow_->currentData().toDouble();
    change(slow_, tr("change the slow motion"), to);
  });
  connect(seen_from_, &QComboBox::currentIndexChanged, this, [this] {
    if (!refreshing_) emit seenFromChosen(seen_from_->currentData().toString());
  });
  connect(sets_, &QComboBox::currentIndexChanged, this, &SetUpStrip::chooseSet);
  connect(&document_, &ReviewDocument::setUpChanged, this, &SetUpStrip::refresh);
  connect(&document_, &ReviewDocument::analysisChanged, this, &SetUpStrip::refreshSets);
  refresh();
  hide();
}

void SetUpStrip::refresh() {
  const SetUp now = document_.setUp();
  refreshing_ = true;
  const QString variant = QString::fromStdString(now.variant);
  if (variant_->findData(variant) < 0)
    variant_->addItem(QString::fromStdString(lifts::titleOf(document_.lift(), now.variant)), variant);
  variant_->setCurrentIndex(variant_->findData(variant));
  load_->setValue(now.load_kg.value_or(0));
  choose(plate_, now.plate_mm, plateText(now.plate_mm));
  choose(slow_, now.slow_factor, tr("%1× slower").arg(now.slow_factor));
  seen_from_->setCurrentIndex(
      std::max(0, seen_from_->findData(QString::fromStdString(document_.submission().details.seen_from))));
  refreshing_ = false;
}

void SetUpStrip::refreshSets() {
  const auto a = document_.analysis();
  const bool several = a && a->sets.size() > 1;
  sets_title_->setVisible(several);
  sets_->setVisible(several);
  if (!several) return;
  refreshing_ = true;
  sets_->clear();
  for (std::size_t k = 0; k < a->sets.size(); ++k)
    sets_->addItem(tr("%1 of %2: %3 reps from %4 s")
                       .arg(k + 1)
                       .arg(a->sets.size())
                       .arg(a->sets[k].count)
                       .arg(a->sets[k].from_s, 0, 'f', 0));
  sets_->setCurrentIndex(static_cast<int>(a->set.value_or(0)));
  refreshing_ = false;
}

// Another set has another load, where it is known.
void SetUpStrip::chooseSet(int set) {
  if (refreshing_ || set < 0) return;
  SetUp to = document_.setUp();
  to.set = set;
  if (const auto k = static_cast<std::size_t>(set); k < to.set_loads_kg.size() && to.set_loads_kg[k])
    to.load_kg = to.set_loads_kg[k];
  change(sets_, tr("judge another set"), to);
}

void SetUpStrip::change(const QObject* field, const QString& text, const SetUp& to) {
  if (refreshing_ || to == document_.setUp()) return;
  if (gesture_of_ != field) gesture_ = newGesture();
  gesture_of_ = field;
  document_.undoStack().push(new ChangeSetUp(document_, text, to, gesture_));
}

}  // namespace jib::desk
