// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/outbox/outbox_page.h"

#include <QClipboard>
#include <QDir>
#include <QFileInfo>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QProcess>
#include <QPushButton>
#include <QSplitter>
#include <QVBoxLayout>

#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/mail.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

using library::OutgoingState;

QString stateOf(const library::Outgoing& o) {
  switch (o.state) {
    case OutgoingState::Waiting:
      return OutboxPage::tr("● ready");
    case OutgoingState::HandedOver:
      return OutboxPage::tr("○ opened in mail app %1").arg(q(library::spoken(o.handed_on)));
    case OutgoingState::TakenBack:
      return OutboxPage::tr("– undone");
  }
  return {};
}

}  // namespace

OutboxPage::OutboxPage(library::Library& library, QWidget* parent)
    : QWidget(parent),
      library_(library),
      opener_([this](const QString& program, const QStringList& arguments, const std::function<void()>& failed) {
        // Begun is not done: a desktop without a mail program says so by its status, a moment later.
        auto* process = new QProcess(this);
        connect(process, &QProcess::errorOccurred, this, [failed](QProcess::ProcessError) { failed(); });
        connect(process, &QProcess::finished, this, [failed, process](int status) {
          process->deleteLater();
          if (status != 0) failed();
        });
        process->start(program, arguments);
      }) {
  setObjectName(QStringLiteral("page"));
  buildLayout();
  refresh();
}

void OutboxPage::buildLayout() {
  // long because a layout, one widget after the other
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 10, 14, 8);
  auto* top = new QHBoxLayout;
  auto* back = new QPushButton(tr("‹ Submissions"));
  back->setObjectName(QStringLiteral("outboxBack"));
  back->setToolTip(tr("Back to the queue (Escape)"));
  connect(back, &QPushButton::clicked, this, &OutboxPage::leaveRequested);
  auto* title = plainLabel(tr("Outbox"));
  title->setObjectName(QStringLiteral("title"));
  top->addWidget(back);
  top->addSpacing(8);
  top->addWidget(title);
  top->addStretch();
  column->addLayout(top);
  auto* split = new QSplitter;
  list_ = new QListWidget;
  list_->setObjectName(QStringLiteral("outgoing"));
  list_->setMinimumWidth(300);
  connect(list_, &QListWidget::currentRowChanged, this, &OutboxPage::showChosen);
  split->addWidget(list_);
  auto* right = new QWidget;
  auto* side = new QVBoxLayout(right);
  side->setContentsMargins(8, 0, 0, 0);
  head_ = words({});
  head_->setObjectName(QStringLiteral("outgoingHead"));
  letter_ = new QPlainTextEdit;
  letter_->setObjectName(QStringLiteral("outgoingLetter"));
  letter_->setToolTip(tr("Edit it here until it goes; changes are saved as you leave it"));
  letter_->installEventFilter(this);
  parts_ = new QWidget;
  parts_->setObjectName(QStringLiteral("outgoingParts"));
  new QHBoxLayout(parts_);
  parts_->layout()->setContentsMargins(0, 0, 0, 0);
  side->addWidget(head_);
  side->addWidget(letter_, 1);
  side->addWidget(parts_);
  auto *first = new QHBoxLayout, *second = new QHBoxLayout;
  auto* row = first;
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
    return b;
  };
  about_ = button(tr("Show submission"), "outgoingAbout", tr("Shows it in the queue"), [this] {
    if (const auto* o = chosen(); o && o->submission) emit openSubmissionRequested(o->submission->number);
  });
  copy_ = button(tr("Copy text"), "outgoingCopy", tr("To paste wherever you write to athletes"), [this] {
    QGuiApplication::clipboard()->setText(letter_->toPlainText());
    status_->setText(tr("Copied."));
  });
  button(tr("Open folder"), "outgoingFolder", tr("Where the message is, as an .eml file"), [this] {
    if (const auto* o = chosen()) openPart(q(library_.outgoingFile(*o).parent_path().string()));
  });
  first->addStretch();
  row = second;
  row->addStretch();
  back_ = button(tr("Undo"), "takeBack", tr("Keep it here unsent, or put it back if it wasn't sent after all"),
                 [this] { setState(OutgoingState::TakenBack); });
  mark_ = button(tr("Mark as sent"), "markSent", tr("When you sent it some other way"),
                 [this] { setState(OutgoingState::HandedOver); });
  hand_over_ =
      button(tr("Open in mail app"), "primary", tr("Your mail app shows it ready to send"), [this] { handOver(); });
  side->addLayout(first);
  side->addLayout(second);
  split->addWidget(right);
  split->setStretchFactor(1, 1);
  split->setSizes({360, 800});
  column->addWidget(split, 1);
  status_ = words({}, true);
  status_->setObjectName(QStringLiteral("outboxStatus"));
  column->addWidget(status_);
}

void OutboxPage::refresh() {
  if (library_.readOnly().empty())
    if (auto found = exchange::listStrayMails(library_, library::today()); !found)
      status_->setText(q(found.error().sentence()));
  auto all = library_.outgoing();
  if (!all) return status_->setText(q(all.error().sentence()));
  const auto* was = chosen();
  const auto kept = was ? was->id.number : -1;
  all_ = std::move(*all);
  // What waits stands on top.
  std::stable_sort(all_.begin(), all_.end(), [](const auto& a, const auto& b) {
    return (a.state == OutgoingState::Waiting) > (b.state == OutgoingState::Waiting);
  });
  waiting_ = 0;
  const QSignalBlocker quiet(list_);
  list_->clear();
  int row = all_.empty() ? -1 : 0;
  for (std::size_t i = 0; i < all_.size(); ++i) {
    const auto& o = all_[i];
    waiting_ += o.state == OutgoingState::Waiting ? 1 : 0;
    auto* item = new QListWidgetItem(tr("%1\n%2\n%3 · %4")
                                         .arg(o.to_name.empty() ? q(o.to_address) : q(o.to_name), q(o.subject),
                                              stateOf(o), q(library::spoken(o.made_on))),
                                     list_);
    if (o.state != OutgoingState::Waiting) item->setForeground(colours().faint);
    if (o.id.number == kept) row = static_cast<int>(i);
  }
  list_->setCurrentRow(row);
  showChosen();
}

// Saves what was typed into the letter that is on show. False when it could not be kept; it stays in the box then.
bool OutboxPage::keepWords() {
  if (!shown_ || !letter_->document()->isModified()) return true;
  const auto kept = exchange::reword(library_, *shown_, letter_->toPlainText().toStdString());
  status_->setText(kept ? tr("Saved.") : q(kept.error().sentence()));
  if (kept) letter_->document()->setModified(false);
  return kept.has_value();
}

bool OutboxPage::eventFilter(QObject* watched, QEvent* event) {
  if (watched == letter_ && event->type() == QEvent::FocusOut) keepWords();
  return QWidget::eventFilter(watched, event);
}

const library::Outgoing* OutboxPage::chosen() const {
  const int row = list_->currentRow();
  return row >= 0 && row < static_cast<int>(all_.size()) ? &all_[static_cast<std::size_t>(row)] : nullptr;
}

void OutboxPage::showChosen() {
  keepWords();
  clearLayout(parts_->layout());
  const auto* o = chosen();
  shown_.reset();
  const bool waits = o && o->state == OutgoingState::Waiting;
  hand_over_->setEnabled(waits);
  mark_->setEnabled(waits);
  back_->setEnabled(o);
  back_->setText(waits || !o                             ? tr("Undo")
                 : o->state == OutgoingState::HandedOver ? tr("It didn't go")
                                                         : tr("Put back"));
  copy_->setEnabled(o);
  about_->setEnabled(o && o->submission);
  if (!o) {
    reading_.cancel();
    head_->setText(tr("Nothing here yet. Replies wait here until you send them."));
    return letter_->clear();
  }
  head_->setText(tr("To %1 <%2>\n%3").arg(q(o->to_name), q(o->to_address), q(o->subject)));
  // With a reply's film in it a letter is megabytes: it is not read on the window's thread.
  letter_->clear();
  letter_->setReadOnly(true);
  reading_.start<QString>(
      {},
      [file = library_.outgoingFile(*o)](Task&) -> Result<QString> {
        auto bytes = FileSystem::real().read(file);
        if (!bytes) return fail(bytes.error());
        auto mail = exchange::readMail(*bytes);
        if (!mail) return fail(mail.error());
        return q(mail->text);
      },
      [this, outgoing = *o](Result<QString> words) {
        letter_->setPlainText(words ? *words : q(words.error().sentence()));
        letter_->document()->setModified(false);
        if (!words || outgoing.state != OutgoingState::Waiting) return;
        shown_ = outgoing;
        letter_->setReadOnly(false);
      });
  // A reply's film and report as they lie in the library: the same files that go along.
  if (o->kind != "reply" || !o->submission) {
    parts_->hide();
    return;
  }
  const QDir folder(q((library_.folder() / "replies" / std::to_string(o->submission->number)).string()));
  for (const QFileInfo& file : folder.entryInfoList(
           {QStringLiteral("*.mp4"), QStringLiteral("*.html"), QStringLiteral("*.pdf")}, QDir::Files, QDir::Name)) {
    const QString suffix = file.suffix();
    auto* look = new QPushButton(suffix == QStringLiteral("mp4")    ? tr("Play clip")
                                 : suffix == QStringLiteral("html") ? tr("Open page")
                                                                    : tr("Open PDF"));
    look->setObjectName(QStringLiteral("part_") + suffix);
    look->setToolTip(file.fileName());
    connect(look, &QPushButton::clicked, this, [this, path = file.absoluteFilePath()] { openPart(path); });
    parts_->layout()->addWidget(look);
  }
  static_cast<QHBoxLayout*>(parts_->layout())->addStretch();
  parts_->show();
}

void OutboxPage::openPart(const QString& file) {
  status_->clear();
  opener_(QStringLiteral("xdg-open"), {file},
          [this, file] { status_->setText(tr("Nothing on this computer opens it. It's in %1").arg(file)); });
}

void OutboxPage::handOver() {
  if (!keepWords()) return;
  const auto* o = chosen();
  if (!o) return;
  const QString file = q(library_.outgoingFile(*o).string());
  // A mail program opens an .eml with its attachments; what hands on only words could lose them.
  const library::OutgoingId id = o->id;
  setState(OutgoingState::HandedOver);
  status_->setText(tr("Opened in your mail app. Send it from there. If nothing opened, press “It didn't go”."));
  opener_(QStringLiteral("xdg-open"), {file}, [this, id, file] {
    // It waits again: nobody has taken it.
    if (auto back = library_.setOutgoingState(id, OutgoingState::Waiting, library::today()); !back)
      return status_->setText(q(back.error().sentence()));
    refresh();
    emit changed();
    status_->setText(tr("No mail app opened it. The message is in %1: open it there, or copy the text, then "
                        "mark it as sent.")
                         .arg(file));
  });
}

void OutboxPage::setState(OutgoingState state) {
  const auto* o = chosen();
  if (!o) return;
  // What is no longer waiting goes back to waiting: taken back before, or handed to a mail program that did nothing.
  if (o->state != OutgoingState::Waiting && state == OutgoingState::TakenBack) state = OutgoingState::Waiting;
  auto kept = library_.setOutgoingState(o->id, state, library::today());
  status_->setText(kept ? QString() : q(kept.error().sentence()));
  refresh();
  emit changed();
}

void OutboxPage::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return emit leaveRequested();
  QWidget::keyPressEvent(event);
}

void OutboxPage::showEvent(QShowEvent* event) {
  refresh();
  list_->setFocus();
  QWidget::showEvent(event);
}

}  // namespace jib::desk
