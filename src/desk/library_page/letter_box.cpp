// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/letter_box.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTemporaryDir>
#include <QVBoxLayout>

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
  words_->setMinimumHeight(190);
  words_->installEventFilter(this);
  trouble_ = words({});
  trouble_->setObjectName(QStringLiteral("letterTrouble"));
  setTone(trouble_, "bad");
  trouble_->hide();
  auto* row = new QHBoxLayout;
  auto* copy = new QPushButton(tr("Copy"));
  copy->setToolTip(tr("Copies the text, to paste wherever you write to athletes"));
  connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(text()); });
  auto* close = new QPushButton(tr("Discard"));
  close->setObjectName(QStringLiteral("discardLetter"));
  connect(close, &QPushButton::clicked, this, [this] {
    hide();
    emit leaveRequested();
  });
  out_ = new QPushButton(tr("Put in the outbox"));
  out_->setObjectName(QStringLiteral("putInOutbox"));
  out_->setToolTip(tr("Puts it in the outbox. It's only sent when you send it from there. Ctrl+Z undoes it"));
  connect(out_, &QPushButton::clicked, this, &LetterBox::send);
  row->addWidget(copy);
  row->addStretch();
  row->addWidget(close);
  row->addWidget(out_);
  column->addWidget(head_);
  column->addWidget(words_);
  column->addWidget(trouble_);
  column->addLayout(row);
  hide();
}

void LetterBox::write(exchange::Dispatch letter, const std::string& page, bool to_type) {
  letter_ = std::move(letter);
  page_ = page;
  const QString to = QString::fromStdString(letter_.to_address);
  head_->setText(to.isEmpty() ? tr("No address yet. Copy the text.")
                              : tr("To %1 · %2").arg(to, QString::fromStdString(letter_.letter.subject)));
  words_->setPlainText(QString::fromStdString(letter_.letter.text));
  out_->setEnabled(!to.isEmpty());
  trouble_->hide();
  show();
  // The cursor stands where the words go: on the empty line between greeting and name.
  if (const int at = words_->toPlainText().indexOf(QStringLiteral("\n\n\n")); at >= 0) {
    QTextCursor cursor = words_->textCursor();
    cursor.setPosition(at + 2);
    words_->setTextCursor(cursor);
  }
  if (to_type) words_->setFocus();
}

QString LetterBox::text() const {
  return words_->toPlainText();
}

void LetterBox::complain(const QString& sentence) {
  trouble_->setText(sentence);
  trouble_->show();
}

bool LetterBox::eventFilter(QObject* watched, QEvent* event) {
  if (watched == words_ && event->type() == QEvent::KeyPress &&
      static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
    emit leaveRequested();
    return true;
  }
  return QFrame::eventFilter(watched, event);
}

void LetterBox::send() {
  exchange::Dispatch out = letter_;
  out.letter.text = text().toStdString();
  QTemporaryDir scratch;
  if (!page_.empty()) {
    out.files.push_back(std::filesystem::path(scratch.path().toStdString()) / "how-to-film.html");
    if (auto kept = writeWhole(FileSystem::real(), out.files.back(), page_); !kept)
      return complain(QString::fromStdString(kept.error().sentence()));
  }
  trouble_->hide();
  // Whoever answers the wish complains when it cannot be met; else the letter is on its way.
  emit sendRequested(out);
  if (!trouble_->isHidden()) return;
  hide();
  emit leaveRequested();
}

}  // namespace jib::desk
