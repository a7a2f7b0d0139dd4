// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/desk_window.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QDialogButtonBox>
#include <QFile>
#include <QMenuBar>
#include <QMessageBox>
#include <QScreen>
#include <QSettings>
#include <QStackedWidget>
#include <QTextBrowser>
#include <QTimer>
#include <QVBoxLayout>
#include <set>

#include "core/base/resources.h"
#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "desk/jobs/preparer.h"
#include "desk/library_page/book_dialog.h"
#include "desk/library_page/drills_dialog.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/lift_card.h"
#include "desk/outbox/outbox_page.h"
#include "desk/review/key_list.h"
#include "desk/review/review_page.h"
#include "desk/roster/roster_page.h"
#include "desk/seat.h"
#include "desk/theme.h"

namespace jib::desk {

DeskWindow::DeskWindow(library::Library library, QWidget* parent)
    : QMainWindow(parent), library_(std::move(library)), stack_(new QStackedWidget(this)) {
  setWindowTitle(tr("Jagged Jib"));
  takeSeat(library_);
  returns_ = new Returns(library_.folder(), this);
  library_page_ = new LibraryPage(library_);
  outbox_page_ = new OutboxPage(library_);
  stack_->addWidget(library_page_);
  roster_page_ = new RosterPage(library_);
  stack_->addWidget(outbox_page_);
  stack_->addWidget(roster_page_);
  setCentralWidget(stack_);
  connect(library_page_, &LibraryPage::openRequested, this, &DeskWindow::openSubmission);
  connect(library_page_, &LibraryPage::openAtRequested, this, &DeskWindow::openSubmissionAt);
  connect(library_page_, &LibraryPage::outboxRequested, this, &DeskWindow::showOutbox);
  connect(library_page_, &LibraryPage::nightRequested, this, &DeskWindow::toggleNight);
  connect(library_page_, &LibraryPage::helpRequested, this, &DeskWindow::showKeys);
  connect(outbox_page_, &OutboxPage::leaveRequested, this, &DeskWindow::showLibrary);
  connect(outbox_page_, &OutboxPage::openSubmissionRequested, this, [this](qlonglong id) {
    showLibrary();
    library_page_->chooseAthlete(std::nullopt);
    library_page_->select(library::SubmissionId(id));
  });
  connect(library_page_, &LibraryPage::returnAgainRequested, this, &DeskWindow::returnAgain);
  connect(library_page_, &LibraryPage::rosterRequested, this, &DeskWindow::showRoster);
  connect(roster_page_, &RosterPage::leaveRequested, this, &DeskWindow::showLibrary);
  connect(roster_page_, &RosterPage::athleteRequested, this, [this](qlonglong id) {
    showLibrary();
    library_page_->showAthlete(library::AthleteId(id));
  });
  buildActions();
  refreshMenus();
  connect(library_page_, &LibraryPage::settingsChanged, this, [this] {
    if (review_page_) review_page_->document().sayAgain();
  });
  connectReturns();
  QSettings settings;
  if (!restoreGeometry(settings.value(QStringLiteral("geometry")).toByteArray())) resize(1280, 800);
  fitScreen();
  library_page_->setFocus();
}

// What becomes of a reply whose page was left is said wherever the coach is now.
void DeskWindow::connectReturns() {
  const auto elsewhere = [this](qlonglong id) {
    return !review_page_ || review_page_->document().submission().id.number != id;
  };
  connect(returns_, &Returns::posted, this, [this, elsewhere](qlonglong id, int, const QString& address) {
    library_page_->refresh();
    if (elsewhere(id)) say(tr("Ready in the outbox, to %1 (Ctrl+O).").arg(address), false);
  });
  connect(returns_, &Returns::written, this, [this](qlonglong, int, const QString&) { library_page_->refresh(); });
  connect(returns_, &Returns::failed, this, [this, elsewhere](qlonglong id, const QString& sentence) {
    library_page_->refresh();
    if (elsewhere(id)) say(tr("A reply didn't go out: %1").arg(sentence));
  });
  connect(returns_, &Returns::idle, this, [this] {
    if (close_when_returned_) close();
  });
}

DeskWindow::~DeskWindow() {
  // The pages use the library; they must go first, a review that is leaving already among them.
  qDeleteAll(findChildren<ReviewPage*>());
  delete returns_;
  delete outbox_page_;
  delete roster_page_;
  delete library_page_;
}

void DeskWindow::buildActions() {
  const auto action = [this](const QString& menu, const QString& text, const QList<QKeySequence>& keys, auto run) {
    auto* a = new QAction(text, this);
    a->setShortcuts(keys);
    a->setProperty("menu", menu);
    connect(a, &QAction::triggered, this, run);
    addAction(a);
    return a;
  };
  using K = QKeySequence;
  action(tr("File"), tr("Settings…"), {K(Qt::CTRL | Qt::Key_Comma)}, [this] {
    library_page_->openSettings();
  })->setObjectName(QStringLiteral("settingsAction"));
  action(tr("File"), tr("Your own cues…"), {K(Qt::CTRL | Qt::Key_B)}, [this] {
    BookDialog(library_, this).exec();
    if (review_page_) review_page_->offerWordings();
  })->setObjectName(QStringLiteral("bookAction"));
  action(tr("File"), tr("Drill cards…"), {K(Qt::CTRL | Qt::SHIFT | Qt::Key_B)}, [this] {
    DrillsDialog(library_.folder(), this).exec();
  })->setObjectName(QStringLiteral("drillsAction"));
  action(tr("File"), tr("Outbox"), {K(Qt::CTRL | Qt::Key_O)}, [this] {
    showOutbox();
  })->setObjectName(QStringLiteral("outboxAction"));
  action(tr("File"), tr("Athletes"), {K(Qt::Key_F4)}, [this] {
    showRoster();
  })->setObjectName(QStringLiteral("rosterAction"));
  action(tr("File"), tr("Back, or close"), {K(Qt::CTRL | Qt::Key_W)}, [this] { goBack(); });
  action(tr("File"), tr("Quit"), {K(Qt::CTRL | Qt::Key_Q)}, [this] { close(); });
  action(tr("View"), tr("Day or night colors"), {K(Qt::Key_F9)}, [this] { toggleNight(); });
  action(tr("View"), tr("Full screen"), {K(Qt::Key_F11)}, [this] {
    setWindowState(windowState() ^ Qt::WindowFullScreen);
  })->setObjectName(QStringLiteral("fullScreenAction"));
  action(tr("Help"), tr("Manual"), {K(Qt::Key_F1)}, [this] {
    showHelp();
  })->setObjectName(QStringLiteral("helpAction"));
  // The sign by itself, where no text is being typed.
  action(tr("Help"), tr("These keys"), {K(Qt::Key_Question), K(Qt::SHIFT | Qt::Key_Question)}, [this] { showKeys(); });
  action(tr("Help"), tr("About Jagged Jib"), {}, [this] { showAbout(); })->setObjectName(QStringLiteral("aboutAction"));
}

QList<QAction*> DeskWindow::listedHere() const {
  const QWidget* page = stack_->currentWidget();
  if (page == library_page_) return library_page_->listedActions();
  if (page == roster_page_) return roster_page_->listedActions();
  return review_page_ && page == review_page_ ? review_page_->listedActions() : QList<QAction*>();
}

// What the page on show can do and what the window can, each under the heading it carries, with its keys.
void DeskWindow::refreshMenus() {
  for (auto* list : findChildren<KeyList*>()) list->deleteLater();  // of the page before
  menuBar()->clear();
  QList<QAction*> all = listedHere();
  all += actions();
  QStringList order{tr("File"), tr("Edit")};
  for (const QAction* a : all)
    if (const QString menu = a->property("menu").toString(); !order.contains(menu)) order << menu;
  order.removeAll(tr("Help"));
  order << tr("Help");
  for (const QString& title : order) {
    if (title.isEmpty()) continue;
    auto* menu = menuBar()->addMenu(title);
    for (QAction* a : all)
      if (a->property("menu").toString() == title && !a->text().isEmpty()) menu->addAction(a);
    if (menu->isEmpty()) menuBar()->removeAction(menu->menuAction());
  }
}

void DeskWindow::showHelp() {
  auto* dialog = new QDialog(this);
  dialog->setObjectName(QStringLiteral("helpDialog"));
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->setWindowTitle(tr("Manual"));
  dialog->resize(std::min(980, width() - 40), std::min(760, height() - 40));
  auto* column = new QVBoxLayout(dialog);
  auto* page = new QTextBrowser;
  // Installed it lies among the program's data, while it is built beside them.
  std::filesystem::path manual = resource("docs/manual.md");
  if (std::error_code none; !std::filesystem::exists(manual, none)) manual = resource("../docs/manual.md");
  page->setSearchPaths({QString::fromStdString(manual.parent_path().string())});
  QFile words(QString::fromStdString(manual.string()));
  page->setMarkdown(words.open(QIODevice::ReadOnly) ? QString::fromUtf8(words.readAll())
                                                    : tr("The manual is missing: %1").arg(words.errorString()));
  auto* close = new QDialogButtonBox(QDialogButtonBox::Close);
  connect(close, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
  column->addWidget(page);
  column->addWidget(close);
  dialog->open();
}

void DeskWindow::showAbout() {
  auto* box = new QMessageBox(this);
  box->setObjectName(QStringLiteral("aboutBox"));
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->setWindowTitle(tr("About Jagged Jib"));
  box->setTextFormat(Qt::PlainText);
  box->setText(tr("Jagged Jib %1").arg(QCoreApplication::applicationVersion()));
  box->setInformativeText(
      tr("Reviews squat, bench and deadlift clips. It measures what the clip shows; you have the last word.\n\n"
         "Free software under the GNU General Public License, version 3 or later.\n\n"
         "It never diagnoses. Pain is for a doctor or physical therapist; on the platform the federation's rule "
         "book decides.\n\nYour library: %1")
          .arg(QString::fromStdString(library_.folder().string())));
  box->open();
}

void DeskWindow::openNext(qlonglong after) {
  // One whose reply is on its way waits for nobody, though its row does not say so yet.
  std::set<std::int64_t> passed{after};
  auto next = library_page_->nextAfter(library::SubmissionId(after));
  while (next && returns_->isReturning(*next) && passed.insert(next->number).second)
    next = library_page_->nextAfter(*next);
  if (next && !passed.count(next->number)) return openSubmission(next->number);
  showLibrary();
  say(tr("Nothing else is waiting for review."));
}

void DeskWindow::fitScreen() {
  // Without a monitor the screen's size means nothing.
  if (screen() && QGuiApplication::platformName() != QStringLiteral("offscreen"))
    fitInto(screen()->availableGeometry());
}

void DeskWindow::fitInto(const QRect& free) {
  const QSize frame = frameGeometry().size() - size();
  // Before it is on show the frame is not known yet.
  const QSize edges = frame.isEmpty() ? QSize(4, 34) : frame;
  const QSize most = free.size() - edges;
  if (width() > most.width() || height() > most.height()) resize(size().boundedTo(most));
  const QRect framed(pos(), size() + edges);
  if (!free.contains(framed))
    move(std::clamp(x(), free.left(), std::max(free.left(), free.right() - framed.width() + 1)),
         std::clamp(y(), free.top(), std::max(free.top(), free.bottom() - framed.height() + 1)));
}

void DeskWindow::showEvent(QShowEvent* event) {
  QMainWindow::showEvent(event);
  QTimer::singleShot(0, this, [this] {
    if (!isMaximized() && !isFullScreen()) fitScreen();
  });
}

void DeskWindow::toggleNight() {
  QSettings settings;
  const bool night = !settings.value(QStringLiteral("night"), false).toBool();
  settings.setValue(QStringLiteral("night"), night);
  applyTheme(*static_cast<QApplication*>(QCoreApplication::instance()), night ? Theme::Night : Theme::Day);
}

void DeskWindow::showKeys() {
  QList<QAction*> listed = listedHere();
  for (QAction* a : actions())
    if (std::none_of(listed.begin(), listed.end(), [&](const QAction* b) { return b->text() == a->text(); }))
      listed << a;
  auto* list = new KeyList(listed, this);
  list->setAttribute(Qt::WA_DeleteOnClose);
  list->show();
  list->raise();
  list->setFocus();
}

void DeskWindow::goBack() {
  if (stack_->currentWidget() == library_page_)
    close();
  else
    showLibrary();
}

void DeskWindow::prepareInBackground() {
  if (!library_.readOnly().empty()) return;
  if (!preparer_) {
    preparer_ = new Preparer(library_.folder(), this);
    connect(library_page_, &LibraryPage::somethingNew, this, [this] {
      if (!stopped_by_coach_) preparer_->wake();
    });
    const auto tell = [this](double f) { library_page_->setBackground(tr("Analyzing new clips…"), f); };
    connect(preparer_, &Preparer::began, this, [tell] { tell(0); });
    connect(preparer_, &Preparer::progressed, this, tell);
    connect(preparer_, &Preparer::prepared, this, [this](qlonglong id) {
      library_page_->picture(library::SubmissionId(id));
      library_page_->refresh();
    });
    connect(preparer_, &Preparer::trouble, library_page_, &LibraryPage::say);
    connect(preparer_, &Preparer::idle, this, [this] { library_page_->setBackground({}, 0); });
    connect(library_page_, &LibraryPage::backgroundWanted, this, [this](bool wanted) {
      stopped_by_coach_ = !wanted;
      if (wanted) return preparer_->wake();
      preparer_->pause();
      library_page_->setBackgroundStopped();
    });
  }
  preparer_->wake();
}

bool DeskWindow::preparing() const {
  return preparer_ && preparer_->busy();
}

void DeskWindow::say(const QString& sentence, bool is_trouble) {
  if (review_page_ && stack_->currentWidget() == review_page_)
    review_page_->say(sentence, is_trouble);
  else
    library_page_->say(sentence);
}

void DeskWindow::openSubmissionAt(qlonglong id, double t_s) {
  openSubmission(id);
  if (review_page_) review_page_->startAt(t_s);
}

void DeskWindow::returnAgain(qlonglong id) {
  openSubmission(id);
  if (!review_page_) return;
  // Goes with the page, should the coach leave it before it stands.
  auto* look = new QTimer(review_page_);
  connect(look, &QTimer::timeout, review_page_, [page = review_page_, look] {
    if (!page->settled() || !page->document().analysis()) return;
    look->stop();
    look->deleteLater();
    page->returnByMail();
  });
  constexpr int kEvery_ms = 200;
  look->start(kEvery_ms);
}

void DeskWindow::openSubmission(qlonglong id) {
  // A point of a trend, or an earlier cue, may lead to a film that was let go.
  if (const auto s = library_.submission(library::SubmissionId(id)); s && !s->details.film_gone_on.empty()) {
    showLibrary();
    return say(QString::fromStdString(library::filmGone(*s)));
  }
  if (preparer_) preparer_->pause();
  delete review_page_;
  review_page_ = new ReviewPage(library_, library::SubmissionId(id), returns_);
  stack_->addWidget(review_page_);
  stack_->setCurrentWidget(review_page_);
  connect(review_page_, &ReviewPage::leaveRequested, this, &DeskWindow::showLibrary);
  connect(review_page_, &ReviewPage::outboxRequested, this, &DeskWindow::showOutbox);
  connect(review_page_, &ReviewPage::answerRequested, this, [this](qlonglong of) {
    showLibrary();
    library_page_->answer(library::SubmissionId(of));
  });
  connect(
      review_page_, &ReviewPage::viewRequested, this,
      [this](qlonglong of, const QString& claim) {
        showLibrary();
        library_page_->askToShow(library::SubmissionId(of), claim);
      },
      Qt::QueuedConnection);
  connect(review_page_, &ReviewPage::nextRequested, this, &DeskWindow::openNext, Qt::QueuedConnection);
  connect(review_page_, &ReviewPage::reopenRequested, this, &DeskWindow::openSubmission, Qt::QueuedConnection);
  connect(
      review_page_, &ReviewPage::clipChanged, this,
      [this](qlonglong changed, const QString& title, const ReviewPage::TakeBack& back) {
        openSubmission(changed);
        review_page_->canTakeBack(title, back);
      },
      Qt::QueuedConnection);
  if (auto s = library_.submission(library::SubmissionId(id)))
    if (auto a = library_.athlete(s->athlete))
      setWindowTitle(tr("%1 · %2 · %3 – Jagged Jib")
                         .arg(QString::fromStdString(a->name), liftText(*s),
                              QString::fromStdString(library::spoken(s->received_on))));
  refreshMenus();
  review_page_->takeKeys();
}

void DeskWindow::showLibrary() {
  stack_->setCurrentWidget(library_page_);
  if (review_page_) {
    review_page_->deleteLater();
    review_page_ = nullptr;
  }
  setWindowTitle(tr("Jagged Jib"));
  library_page_->refresh();
  library_page_->setFocus();
  refreshMenus();
  if (preparer_ && !stopped_by_coach_) preparer_->wake();
}

void DeskWindow::showOutbox() {
  if (review_page_) showLibrary();
  stack_->setCurrentWidget(outbox_page_);
  setWindowTitle(tr("Outbox – Jagged Jib"));
  refreshMenus();
}

void DeskWindow::showRoster() {
  if (review_page_) showLibrary();
  stack_->setCurrentWidget(roster_page_);
  roster_page_->setFocus();
  setWindowTitle(tr("Athletes – Jagged Jib"));
  refreshMenus();
}

void DeskWindow::closeEvent(QCloseEvent* event) {
  QSettings().setValue(QStringLiteral("geometry"), saveGeometry());
  // A reply that was returned goes out: the window stays until it is written, unless it is closed once more.
  if (returns_->busy() && !std::exchange(close_when_returned_, true)) {
    event->ignore();
    return say(
        tr("A reply is still being written. The window closes when it's done; close it again to stop "
           "the reply."));
  }
  event->accept();
}

}  // namespace jib::desk
