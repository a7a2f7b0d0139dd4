// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/colleagues_card.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <set>

#include "core/library/dates.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

constexpr int kNameNow = Qt::UserRole + 1;  // as it was offered last
constexpr int kNameThen = Qt::UserRole;     // of a name's cell, as it was when the card was shown

}  // namespace

ColleaguesCard::ColleaguesCard(const library::CoachCard& card, const std::string& seat, QWidget* parent)
    : QWidget(parent),
      seat_(new QComboBox),
      table_(new QTableWidget(0, Columns)),
      remove_(new QPushButton(tr("Remove"))) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->addWidget(words(tr("Each coach signs replies with their own name. The queue shows whose turn it is, and "
                             "somebody else answers while a coach is away."),
                          true));
  auto* form = new QFormLayout;
  seat_->setObjectName(QStringLiteral("coachSeat"));
  seat_->setToolTip(tr("On this computer; other desks on the same library have their own"));
  form->addRow(tr("At this desk"), seat_);
  column->addLayout(form);
  table_->setObjectName(QStringLiteral("colleagues"));
  table_->setAccessibleName(tr("Coaches on this library"));
  table_->setHorizontalHeaderLabels({tr("Name"), tr("Address"), tr("Away until"), tr("Covered by"), tr("Signature")});
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  table_->verticalHeader()->hide();
  table_->setTabKeyNavigation(false);
  column->addWidget(table_, 1);
  auto* row = new QHBoxLayout;
  auto* add_one = new QPushButton(tr("Add a coach"));
  add_one->setObjectName(QStringLiteral("addColleague"));
  connect(add_one, &QPushButton::clicked, this, [this] {
    add();
    table_->editItem(table_->item(table_->rowCount() - 1, Name));
  });
  remove_->setObjectName(QStringLiteral("removeColleague"));
  connect(remove_, &QPushButton::clicked, this, &ColleaguesCard::remove);
  row->addWidget(add_one);
  row->addWidget(remove_);
  row->addStretch();
  column->addLayout(row);
  // Their signature has more room where their name is typed.
  addRow({card.name, card.address, card.absence});
  for (const int fixed : {Name, Address, Signature})
    table_->item(0, fixed)->setFlags(table_->item(0, fixed)->flags() & ~Qt::ItemIsEditable);
  for (const library::Colleague& c : card.colleagues) addRow(c);
  offerNames();
  seat_->setCurrentIndex(std::max(0, seat_->findText(q(seat))));
  connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* changed) {
    if (changed->column() != Name || changed->text().simplified().isEmpty()) return;
    const QString was = changed->data(kNameNow).toString(), now = changed->text().simplified();
    if (was == now) return;
    const QSignalBlocker quiet(table_);
    changed->setData(kNameNow, now);
    // Who is covered by somebody stays so when that one is called something else.
    for (int other = 0; other < table_->rowCount() && !was.isEmpty(); ++other) {
      auto* covered = static_cast<QComboBox*>(table_->cellWidget(other, CoveredBy));
      if (const int at = covered->findData(was); at >= 0) covered->setItemData(at, now);
    }
    offerNames();
  });
  const auto may_remove = [this] { remove_->setEnabled(table_->currentRow() > 0); };
  connect(table_, &QTableWidget::currentCellChanged, this, may_remove);
  may_remove();
}

QString ColleaguesCard::cell(int row, int column) const {
  return table_->item(row, column)->text().simplified();
}

void ColleaguesCard::addRow(const library::Colleague& coach) {
  const int row = table_->rowCount();
  const QSignalBlocker quiet(table_);
  table_->insertRow(row);
  auto* name = new QTableWidgetItem(q(coach.name));
  name->setData(kNameThen, q(coach.name));
  name->setData(kNameNow, q(coach.name));
  table_->setItem(row, Name, name);
  table_->setItem(row, Address, new QTableWidgetItem(q(coach.address)));
  auto* until = new QTableWidgetItem(q(coach.absence.until));
  until->setToolTip(tr("The last day away, as 2027-03-14; empty: here"));
  table_->setItem(row, AwayUntil, until);
  auto* signature = new QTableWidgetItem(q(coach.signature));
  signature->setToolTip(tr("Stands under their name in every letter"));
  table_->setItem(row, Signature, signature);
  auto* covered = new QComboBox;
  covered->setToolTip(tr("Who answers while they are away"));
  covered->addItem(tr("anyone"), QString());
  if (!coach.absence.covered.empty()) covered->addItem(q(coach.absence.covered), q(coach.absence.covered));
  covered->setCurrentIndex(covered->count() - 1);
  table_->setCellWidget(row, CoveredBy, covered);
}

void ColleaguesCard::add(const QString& name, const QString& address) {
  addRow({name.toStdString(), address.toStdString()});
  table_->setCurrentCell(table_->rowCount() - 1, Name);
  offerNames();
}

void ColleaguesCard::remove() {
  if (table_->currentRow() <= 0) return;
  table_->removeRow(table_->currentRow());
  offerNames();
}

void ColleaguesCard::setOwner(const QString& name) {
  if (cell(0, Name) == name.simplified()) return;
  table_->item(0, Name)->setText(name.simplified());
}

// Everybody named, wherever one is chosen; what was chosen stays.
void ColleaguesCard::offerNames() {
  QStringList names;
  for (int row = 0; row < table_->rowCount(); ++row)
    if (const QString name = cell(row, Name); !name.isEmpty()) names << name;
  const int sat = std::max(0, seat_->currentIndex());
  seat_->clear();
  seat_->addItems(names);
  seat_->setCurrentIndex(std::min(sat, seat_->count() - 1));
  for (int row = 0; row < table_->rowCount(); ++row) {
    auto* covered = static_cast<QComboBox*>(table_->cellWidget(row, CoveredBy));
    const QString was = covered->currentData().toString();
    covered->clear();
    covered->addItem(tr("anyone"), QString());
    for (const QString& name : names)
      if (name != cell(row, Name)) covered->addItem(name, name);
    covered->setCurrentIndex(std::max(0, covered->findData(was)));
  }
}

QString ColleaguesCard::trouble() const {
  std::set<QString> names;
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QString name = cell(row, Name), until = cell(row, AwayUntil);
    if (row > 0 && name.isEmpty()) return tr("Every coach needs a name. Type one, or remove the row.");
    if (!name.isEmpty() && !names.insert(name.toLower()).second)
      return tr("Two coaches are called %1. Add a last name or an initial.").arg(name);
    if (row > 0 && !CoachDialog::isAddress(cell(row, Address)))
      return tr("Enter a valid address for %1 (name@example.org).").arg(name);
    if (!until.isEmpty() && !library::isDate(until.toStdString()))
      return tr("“%1” is not a date. Type the last day away as 2027-03-14.").arg(until);
  }
  return {};
}

void ColleaguesCard::into(library::CoachCard& card) const {
  card.colleagues.clear();
  for (int row = 0; row < table_->rowCount(); ++row) {
    const auto* covered = static_cast<const QComboBox*>(table_->cellWidget(row, CoveredBy));
    library::Absence absence{cell(row, AwayUntil).toStdString(), covered->currentData().toString().toStdString()};
    if (absence.until.empty()) absence = {};
    if (row == 0)
      card.absence = std::move(absence);
    else
      card.colleagues.push_back({cell(row, Name).toStdString(), cell(row, Address).toStdString(), std::move(absence),
                                 cell(row, Signature).toStdString()});
  }
}

std::vector<std::pair<std::string, std::string>> ColleaguesCard::renamed() const {
  std::vector<std::pair<std::string, std::string>> all;
  for (int row = 0; row < table_->rowCount(); ++row)
    if (const QString was = table_->item(row, Name)->data(kNameThen).toString();
        !was.isEmpty() && was != cell(row, Name))
      all.emplace_back(was.toStdString(), cell(row, Name).toStdString());
  return all;
}

std::string ColleaguesCard::seat() const {
  return seat_->currentText().toStdString();
}

}  // namespace jib::desk
