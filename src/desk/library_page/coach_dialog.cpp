// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/coach_dialog.h"

#include <QCheckBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

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
  column->addWidget(
      words(tr("The words of letters and of filming requests are yours to change: put your own copy as %1, "
               "or as requests/squat.toml beside it.")
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
  auto kept =
      library_.setCoach({name_->text().simplified().toStdString(), address.toStdString(), receipts_->isChecked()});
  if (!kept) return complain(QString::fromStdString(kept.error().sentence()));
  QDialog::accept();
}

}  // namespace jib::desk
