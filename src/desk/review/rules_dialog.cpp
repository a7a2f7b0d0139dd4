// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/rules_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

bool isShipped(const std::string& id) {
  const auto& sets = coaching::RuleBook::shipped().sets();
  return std::any_of(sets.begin(), sets.end(), [&](const auto& s) { return s.id == id; });
}

bool sameThing(const coaching::RuleCheck& a, const coaching::RuleCheck& b) {
  return a.lift == b.lift && a.limit.measure == b.limit.measure && a.limit.side == b.limit.side;
}

}  // namespace

RulesDialog::RulesDialog(std::filesystem::path library_folder, const QString& id, QWidget* parent)
    : QDialog(parent), folder_(std::move(library_folder)), book_(coaching::RuleBook::forLibrary(folder_)) {
  setObjectName(QStringLiteral("rulesDialog"));
  setWindowTitle(tr("Rules"));
  setMinimumWidth(600);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->setSpacing(8);
  auto* form = new QFormLayout;
  which_ = new QComboBox;
  which_->setObjectName(QStringLiteral("rulesWhich"));
  for (const auto& set : book_.sets()) which_->addItem(q(set.title), q(set.id));
  form->addRow(tr("Rules"), which_);
  const auto line = [&](const QString& title, const char* name) {
    auto* edit = new QLineEdit;
    edit->setObjectName(QString::fromLatin1(name));
    form->addRow(title, edit);
    return edit;
  };
  title_ = line(tr("Name"), "rulesTitle");
  version_ = line(tr("Version"), "rulesVersionLine");
  kit_ = line(tr("Kit"), "rulesKit");
  column->addLayout(form);
  column->addWidget(heading(tr("What a meet asks for")));
  checks_ = new QWidget;
  column->addWidget(checks_);
  column->addStretch();
  column->addWidget(
      words(tr("A lift past a limit shows as “not likely”. The rule book and the referees decide."), true));
  told_ = words({});
  told_->setObjectName(QStringLiteral("rulesTold"));
  setTone(told_, "bad");
  told_->hide();
  column->addWidget(told_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel);
  auto* copied = buttons->addButton(tr("Copy as my own"), QDialogButtonBox::ActionRole);
  copied->setObjectName(QStringLiteral("copyRules"));
  connect(copied, &QPushButton::clicked, this, &RulesDialog::copy);
  back_ = buttons->addButton(QString(), QDialogButtonBox::ResetRole);
  back_->setObjectName(QStringLiteral("rulesBack"));
  connect(back_, &QPushButton::clicked, this, &RulesDialog::giveBack);
  connect(buttons, &QDialogButtonBox::accepted, this, &RulesDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  connect(which_, &QComboBox::activated, this, [this] { open(which_->currentData().toString()); });
  open(id);
  if (!book_.trouble().empty()) complain(q(book_.trouble()));
}

void RulesDialog::open(const QString& id) {
  set_ = book_.setOf(id.toStdString());
  which_->setCurrentIndex(std::max(0, which_->findData(q(set_.id))));
  title_->setText(q(set_.title));
  version_->setText(q(set_.version));
  kit_->setText(q(set_.kit));
  back_->setText(isShipped(set_.id) ? tr("Back to the original") : tr("Remove this set"));
  back_->setVisible(!set_.edited_on.empty());
  rows_.clear();
  delete checks_->layout();
  qDeleteAll(checks_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
  auto* grid = new QGridLayout(checks_);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setColumnStretch(3, 1);
  // What this set asks for, then what others ask for and this one could.
  for (const auto& check : set_.checks) addRow(*grid, check, true);
  for (const auto& other : book_.sets())
    for (const auto& check : other.checks)
      if (std::none_of(rows_.begin(), rows_.end(), [&](const Row& r) { return sameThing(r.check, check); }))
        addRow(*grid, check, false);
}

void RulesDialog::addRow(QGridLayout& grid, const coaching::RuleCheck& check, bool asked) {
  const auto* lift = lifts::liftNamed(check.lift);
  const auto* kind = lift ? lifts::measureDefinition(*lift, check.limit.measure) : nullptr;
  if (!kind) return;
  QString title = q(lift->title);
  title[0] = title[0].toUpper();
  Row row{check, new QCheckBox(tr("%1: %2").arg(title, q(check.title))), new QDoubleSpinBox, 1};
  const QString name = q(check.lift) + QLatin1Char('_') + q(check.limit.measure);
  row.asked->setObjectName(QStringLiteral("asks_") + name);
  row.asked->setChecked(asked);
  row.asked->setToolTip(q(check.asks));
  const lifts::Shown shown = lifts::shown(*kind, {check.limit.limit, 0, 0});
  row.per = lifts::shown(*kind, {1, 0, 0}).value;
  row.limit->setObjectName(QStringLiteral("ruleLimit_") + name);
  row.limit->setRange(-1000, 1000);
  row.limit->setDecimals(std::max(1, shown.decimals));
  row.limit->setSingleStep(0.5);
  if (!shown.unit.empty()) row.limit->setSuffix(QStringLiteral(" ") + q(shown.unit));
  row.limit->setValue(shown.value);
  row.limit->setEnabled(asked);
  row.limit->setAccessibleName(tr("Limit of %1").arg(row.asked->text()));
  connect(row.asked, &QCheckBox::toggled, row.limit, &QWidget::setEnabled);
  const int at = grid.rowCount();
  grid.addWidget(row.asked, at, 0);
  grid.addWidget(words(check.limit.side == coaching::Side::Above ? tr("no more than") : tr("at least"), true), at, 1);
  grid.addWidget(row.limit, at, 2);
  auto* what = words(q(kind->title), true);
  what->setWordWrap(false);
  grid.addWidget(what, at, 3);
  rows_.push_back(std::move(row));
}

coaching::RuleSet RulesDialog::edited() const {
  coaching::RuleSet set = set_;
  set.title = title_->text().simplified().toStdString();
  set.version = version_->text().simplified().toStdString();
  set.kit = kit_->text().simplified().toStdString();
  set.checks.clear();
  for (const Row& row : rows_) {
    if (!row.asked->isChecked()) continue;
    coaching::RuleCheck check = row.check;
    // What was not touched stays exactly as it was.
    const double shown = check.limit.limit * row.per;
    if (std::abs(row.limit->value() - shown) > 0.5 * std::pow(10, -row.limit->decimals()))
      check.limit.limit = row.limit->value() / row.per;
    set.checks.push_back(std::move(check));
  }
  return set;
}

void RulesDialog::accept() {
  const coaching::RuleSet set = edited();
  if (set.title.empty()) return complain(tr("Give these rules a name."));
  if (set.checks.empty()) return complain(tr("Tick at least one thing these rules ask for."));
  auto kept = coaching::RuleBook::keep(folder_, set, library::today());
  if (!kept) return complain(q(kept.error().sentence()));
  QDialog::accept();
}

void RulesDialog::copy() {
  coaching::RuleSet set = edited();
  // An id that no set has.
  int n = 1;
  const auto taken = [&](const std::string& id) {
    return std::any_of(book_.sets().begin(), book_.sets().end(), [&](const auto& s) { return s.id == id; });
  };
  while (taken("own-" + std::to_string(n))) ++n;
  set.id = "own-" + std::to_string(n);
  set.title = tr("My copy of %1").arg(q(set.title)).toStdString();
  if (auto kept = coaching::RuleBook::keep(folder_, set, library::today()); !kept)
    return complain(q(kept.error().sentence()));
  book_ = coaching::RuleBook::forLibrary(folder_);
  which_->addItem(q(set.title), q(set.id));
  open(q(set.id));
  title_->setFocus();
  title_->selectAll();
}

void RulesDialog::giveBack() {
  if (auto back = coaching::RuleBook::giveBack(folder_, set_.id, library::today()); !back)
    return complain(q(back.error().sentence()));
  QDialog::accept();
}

void RulesDialog::complain(const QString& sentence) {
  told_->setText(sentence);
  told_->show();
}

}  // namespace jib::desk
