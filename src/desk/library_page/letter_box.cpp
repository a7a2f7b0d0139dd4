// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/letter_box.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTemporaryDir>
#include <QVBoxLayout>

#include "core/exchange/mail.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

LetterBox::LetterBox(std::filesystem::path outbox, QWidget* parent) : QFrame(parent), outbox_(std::move(outbox)) {
  setObjectName(QStringLiteral("coachCard"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 8, 10, 8);
  head_ = words({}, true);
  words_ = new QPlainTextEdit;
  words_->setObjectName(QStringLiteral("letter"));
  words_->setTabChangesFocus(true);
  words_->setMinimumHeight(150);
  trouble_ = words({});
  setTone(trouble_, "bad");
  trouble_->hide();
  auto* row = new QHBoxLayout;
  auto* copy = new QPushButton(tr("Copy"));
  copy->setToolTip(tr("Copy the words, to paste them where you write to athletes"));
  connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(text()); });
  auto* close = new QPushButton(tr("Leave it"));
  connect(close, &QPushButton::clicked, this, &QWidget::hide);
  auto* out = new QPushButton(tr("Put in the outbox"));
  out->setObjectName(QStringLiteral("putInOutbox"));
  out->setToolTip(tr("Writes a ready .eml file into the outbox folder of the library"));
  connect(out, &QPushButton::clicked, this, &LetterBox::send);
  row->addWidget(copy);
  row->addStretch();
  row->addWidget(close);
  row->addWidget(out);
  column->addWidget(head_);
  column->addWidget(words_);
  column->addWidget(trouble_);
  column->addLayout(row);
  hide();
}

void LetterBox::write(const QString& subject, const QString& to, const std::string& text, const std::string& page) {
  subject_ = subject;
  to_ = to;
  page_ = page;
  head_->setText(to.isEmpty() ? tr("No address is known; copy the words.") : tr("To %1 · %2").arg(to, subject));
  words_->setPlainText(QString::fromStdString(text));
  findChild<QPushButton*>(QStringLiteral("putInOutbox"))->setEnabled(!to.isEmpty());
  trouble_->hide();
  show();
  words_->setFocus();
}

QString LetterBox::text() const {
  return words_->toPlainText();
}

void LetterBox::send() {
  exchange::Mail mail;
  mail.from_name = "Your coach";
  mail.from_address = "coach@reef-barbell.invalid";
  mail.to_address = to_.toStdString();
  mail.subject = subject_.toStdString();
  mail.text = text().toStdString();
  QTemporaryDir scratch;
  std::vector<std::filesystem::path> files;
  if (!page_.empty()) {
    files.push_back(std::filesystem::path(scratch.path().toStdString()) / "how-to-film.html");
    if (auto kept = writeWhole(FileSystem::real(), files.back(), page_); !kept) files.clear();
  }
  auto file = exchange::putInOutbox(outbox_, mail, files);
  if (!file) {
    trouble_->setText(QString::fromStdString(file.error().sentence()));
    trouble_->show();
    return;
  }
  hide();
  emit sent(QString::fromStdString(file->string()));
}

}  // namespace jib::desk
