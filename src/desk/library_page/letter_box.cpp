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

LetterBox::LetterBox(library::Library& library, QWidget* parent) : QFrame(parent), library_(library) {
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

void LetterBox::write(const QString& to, const exchange::Letter& letter, const std::string& page) {
  subject_ = QString::fromStdString(letter.subject);
  to_ = to;
  page_ = page;
  head_->setText(to.isEmpty() ? tr("No address is known; copy the words.") : tr("To %1 · %2").arg(to, subject_));
  words_->setPlainText(QString::fromStdString(letter.text));
  findChild<QPushButton*>(QStringLiteral("putInOutbox"))->setEnabled(!to.isEmpty());
  trouble_->hide();
  show();
  words_->setFocus();
}

QString LetterBox::text() const {
  return words_->toPlainText();
}

void LetterBox::complain(const Error& why) {
  trouble_->setText(QString::fromStdString(why.sentence()));
  trouble_->show();
}

void LetterBox::send() {
  auto coach = library_.coach();
  if (!coach) return complain(coach.error());
  const auto mail = exchange::addressed(*coach, to_.toStdString(), {subject_.toStdString(), text().toStdString()});
  QTemporaryDir scratch;
  std::vector<std::filesystem::path> files;
  if (!page_.empty()) {
    files.push_back(std::filesystem::path(scratch.path().toStdString()) / "how-to-film.html");
    if (auto kept = writeWhole(FileSystem::real(), files.back(), page_); !kept) files.clear();
  }
  auto file = exchange::putInOutbox(library_.folder() / "outbox", mail, files);
  if (!file) return complain(file.error());
  hide();
  emit sent(QString::fromStdString(file->string()));
}

}  // namespace jib::desk
