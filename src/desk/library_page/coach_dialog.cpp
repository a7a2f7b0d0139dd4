// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/coach_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/coaching/style_book.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

CoachDialog::CoachDialog(library::Library& library, QWidget* parent) : QDialog(parent), library_(library) {
  setObjectName(QStringLiteral("coachDialog"));
  setWindowTitle(tr("You"));
  setMinimumWidth(440);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->addWidget(heading(tr("Who writes back")));
  const auto card = library.coach().value_or(library::CoachCard{});
  auto* form = new QFormLayout;
  name_ = new QLineEdit(QString::fromStdString(card.name));
  name_->setObjectName(QStringLiteral("coachName"));
  address_ = new QLineEdit(QString::fromStdString(card.address));
  address_->setObjectName(QStringLiteral("coachAddress"));
  form->addRow(tr("Name"), name_);
  form->addRow(tr("Address"), address_);
  column->addLayout(form);
  receipts_ = new QCheckBox(tr("Acknowledge every clip by itself: a receipt goes into the outbox"));
  receipts_->setObjectName(QStringLiteral("sendReceipts"));
  receipts_->setChecked(card.send_receipts);
  column->addWidget(receipts_);
  column->addWidget(heading(tr("How you judge, unless chosen otherwise for an athlete")));
  auto* judging = new QFormLayout;
  styles_ = new QComboBox;
  styles_->setObjectName(QStringLiteral("coachStyle"));
  styles_->setToolTip(tr("Of athletes who come new"));
  judging->addRow(tr("Style"), styles_);
  if (auto book = coaching::StyleBook::forLibrary(library.folder())) {
    for (const auto& style : book->styles())
      styles_->addItem(QString::fromStdString(style.title), QString::fromStdString(style.id));
    styles_->setCurrentIndex(std::max(0, styles_->findData(QString::fromStdString(card.style))));
    for (const auto& topic : book->topics().all()) {
      auto* box = new QComboBox;
      box->setObjectName(QStringLiteral("coachTopic_") + QString::fromStdString(topic.id));
      box->setToolTip(QString::fromStdString(topic.about));
      box->addItem(tr("as the style says"), QString());
      for (const auto& choice : topic.choices)
        box->addItem(QString::fromStdString(choice.title), QString::fromStdString(choice.id));
      if (const auto own = card.switches.find(topic.id); own != card.switches.end())
        box->setCurrentIndex(std::max(0, box->findData(QString::fromStdString(own->second))));
      judging->addRow(QString::fromStdString(topic.title), box);
      topics_[topic.id] = box;
    }
    for (const auto& trouble : book->troubles()) {
      auto* line = words(QString::fromStdString(trouble));
      setTone(line, "warn");
      judging->addRow(line);
    }
  }
  column->addLayout(judging);
  column->addWidget(
      words(tr("The words of letters and of filming requests are yours to change: put your own copy as %1, "
               "or as requests/squat.toml, topics.toml or styles/name.toml beside it.")
                .arg(QString::fromStdString((library.folder() / "letters.toml").string())),
            true));
  trouble_ = words({});
  setTone(trouble_, "bad");
  trouble_->hide();
  column->addWidget(trouble_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel);
  connect(buttons, &QDialogButtonBox::accepted, this, &CoachDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
}

void CoachDialog::accept() {
  const auto complain = [this](const QString& sentence) {
    trouble_->setText(sentence);
    trouble_->show();
  };
  const QString address = address_->text().trimmed();
  const auto at = address.indexOf(QLatin1Char('@'));
  if (at < 1 || at + 1 >= address.size() || address.contains(QLatin1Char(' '))) {
    address_->setFocus();
    return complain(tr("An address looks like name@example.org; answers would not find you."));
  }
  library::CoachCard card{name_->text().simplified().toStdString(),
                          address.toStdString(),
                          receipts_->isChecked(),
                          styles_->currentData().toString().toStdString(),
                          {}};
  for (const auto& [topic, box] : topics_)
    if (const auto choice = box->currentData().toString(); !choice.isEmpty())
      card.switches[topic] = choice.toStdString();
  if (card.style.empty()) card.style = "balanced";
  auto kept = library_.setCoach(card);
  if (!kept) return complain(QString::fromStdString(kept.error().sentence()));
  QDialog::accept();
}

}  // namespace jib::desk
