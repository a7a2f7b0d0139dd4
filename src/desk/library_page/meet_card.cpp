// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/meet_card.h"

#include <QComboBox>
#include <QDate>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/base/quantity.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

QString meetText(const library::Meet& meet) {
  QStringList bests;
  for (const auto& lift : lifts::contestedLifts()) {
    const auto best = meet.best_kg(lift.id);
    bests << (best ? q(massText(*best)) : QStringLiteral("–"));
  }
  QString text =
      MeetCard::tr("%1 · %2 · %3").arg(q(library::spoken(meet.on)), q(meet.name), bests.join(QStringLiteral(" / ")));
  if (const auto total = meet.total_kg()) text += MeetCard::tr(", total %1").arg(q(massText(*total)));
  if (!meet.weight_class.empty()) text += MeetCard::tr(", class %1").arg(q(meet.weight_class));
  return text;
}

MeetCard::MeetCard(std::vector<library::Meet> meets, std::string usual_rules, const coaching::RuleBook& book,
                   QWidget* parent)
    : QWidget(parent), meets_(std::move(meets)), usual_rules_(std::move(usual_rules)) {
  setObjectName(QStringLiteral("meets"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  column->addWidget(heading(tr("Meets")));
  for (std::size_t i = meets_.size(); i-- > 0;) addLine(i);
  auto* add = new QPushButton(tr("Add a meet…"));
  add->setObjectName(QStringLiteral("addMeet"));
  connect(add, &QPushButton::clicked, this, [this] { edit(std::nullopt); });
  column->addWidget(add, 0, Qt::AlignLeft);
  buildForm(book);
}

void MeetCard::addLine(std::size_t at) {
  auto* row = new QHBoxLayout;
  auto* line = words(meetText(meets_[at]));
  line->setObjectName(QStringLiteral("meet"));
  row->addWidget(line, 1);
  auto* change = new QPushButton(tr("Edit"));
  change->setProperty("narrow", true);
  change->setObjectName(QStringLiteral("editMeet"));
  connect(change, &QPushButton::clicked, this, [this, at] { edit(at); });
  row->addWidget(change, 0, Qt::AlignTop);
  static_cast<QVBoxLayout*>(layout())->addLayout(row);
}

void MeetCard::buildForm(const coaching::RuleBook& book) {
  form_ = new QFrame;
  form_->setObjectName(QStringLiteral("card"));
  auto* form = new QFormLayout(form_);
  form->setContentsMargins(10, 6, 8, 6);
  form->setVerticalSpacing(4);
  const auto line = [&](const QString& title, const char* name, const QString& tip) {
    auto* edit = new QLineEdit;
    edit->setObjectName(QString::fromLatin1(name));
    edit->setToolTip(tip);
    form->addRow(words(title, true), edit);
    return edit;
  };
  on_ = line(tr("Date"), "meetDate", tr("As 2026-03-14"));
  name_ = line(tr("Name"), "meetName", tr("What the meet is called"));
  rules_ = new QComboBox;
  rules_->setObjectName(QStringLiteral("meetRules"));
  for (const auto& set : book.sets()) rules_->addItem(q(set.title), q(set.id));
  form->addRow(words(tr("Rules"), true), rules_);
  for (const auto& lift : lifts::contestedLifts())
    attempts_[lifts::at(lift.id)] = line(q(lift.title), ("meet_" + std::string(lift.name)).c_str(),
                                         tr("In order, an x for a miss: 170, 180, 190x"));
  mass_ = line(tr("Body weight"), "meetMass", tr("At the weigh-in, in kg or lb"));
  class_ = line(tr("Class"), "meetClass", tr("Weight class, and whatever else the rules sort by"));
  kit_ = line(tr("Kit"), "meetKit", tr("Raw, wraps, suit"));
  trouble_ = words({});
  trouble_->setObjectName(QStringLiteral("meetTrouble"));
  setTone(trouble_, "bad");
  form->addRow(trouble_);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
  };
  button(tr("Save"), "saveMeet", [this] { save(); });
  button(tr("Cancel"), "cancelMeet", [this] { form_->hide(); });
  button(tr("Remove"), "removeMeet", [this] { remove(); });
  row->addStretch();
  form->addRow(row);
  form_->hide();
  layout()->addWidget(form_);
}

void MeetCard::edit(std::optional<std::size_t> at) {
  editing_ = at;
  const library::Meet meet = at ? meets_[*at] : library::Meet{};
  const MassUnit unit = displayUnits().mass;
  on_->setText(q(at ? meet.on : library::today()));
  name_->setText(q(meet.name));
  kit_->setText(q(meet.kit));
  class_->setText(q(meet.weight_class));
  mass_->setText(meet.body_mass_kg ? q(massText(*meet.body_mass_kg)) : QString());
  rules_->setCurrentIndex(std::max(0, rules_->findData(q(at ? meet.rules : usual_rules_))));
  for (const auto& lift : lifts::contestedLifts())
    attempts_[lifts::at(lift.id)]->setText(q(library::attemptsText(meet.attempts[lifts::at(lift.id)], unit)));
  findChild<QPushButton*>(QStringLiteral("removeMeet"))->setVisible(at.has_value());
  trouble_->clear();
  form_->show();
  name_->setFocus();
}

void MeetCard::save() {
  library::Meet meet;
  const MassUnit unit = displayUnits().mass;
  meet.on = on_->text().trimmed().toStdString();
  meet.name = name_->text().simplified().toStdString();
  meet.rules = rules_->currentData().toString().toStdString();
  meet.kit = kit_->text().simplified().toStdString();
  meet.weight_class = class_->text().simplified().toStdString();
  if (!QDate::fromString(q(meet.on), Qt::ISODate).isValid())
    return trouble_->setText(tr("Type the date as 2026-03-14."));
  if (meet.name.empty()) return trouble_->setText(tr("Type what the meet is called."));
  if (const std::string typed = mass_->text().trimmed().toStdString(); !typed.empty()) {
    meet.body_mass_kg = kilogramsFrom(typed.substr(0, typed.find(" (")), unit);
    if (!meet.body_mass_kg) return trouble_->setText(tr("Can't read the body weight. Type it like 82.4 kg."));
  }
  for (const auto& lift : lifts::contestedLifts()) {
    auto read = library::attemptsFrom(attempts_[lifts::at(lift.id)]->text().toStdString(), unit);
    if (!read) return trouble_->setText(tr("%1: %2").arg(q(lift.title), q(read.error().sentence())));
    meet.attempts[lifts::at(lift.id)] = std::move(*read);
  }
  auto all = meets_;
  if (editing_)
    all[*editing_] = std::move(meet);
  else
    all.push_back(std::move(meet));
  std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.on < b.on; });
  emit changed(all);
}

void MeetCard::remove() {
  if (!editing_) return;
  auto all = meets_;
  all.erase(all.begin() + static_cast<std::ptrdiff_t>(*editing_));
  emit changed(all);
}

}  // namespace jib::desk
