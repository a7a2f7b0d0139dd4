// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/desk_window.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QSettings>
#include <QStackedWidget>

#include "desk/jobs/preparer.h"
#include "desk/library_page/library_page.h"
#include "desk/review/review_page.h"
#include "desk/theme.h"

namespace jib::desk {

DeskWindow::DeskWindow(library::Library library, QWidget* parent)
    : QMainWindow(parent), library_(std::move(library)), stack_(new QStackedWidget(this)) {
  setWindowTitle(tr("Jagged Jib"));
  library_page_ = new LibraryPage(library_);
  stack_->addWidget(library_page_);
  setCentralWidget(stack_);
  connect(library_page_, &LibraryPage::openRequested, this, &DeskWindow::openSubmission);
  auto* theme = new QAction(tr("Day or night colours"), this);
  theme->setShortcut(QKeySequence(Qt::Key_F9));
  connect(theme, &QAction::triggered, this, [] {
    QSettings settings;
    const bool night = !settings.value(QStringLiteral("night"), false).toBool();
    settings.setValue(QStringLiteral("night"), night);
    applyTheme(*static_cast<QApplication*>(QCoreApplication::instance()), night ? Theme::Night : Theme::Day);
  });
  addAction(theme);
  QSettings settings;
  if (!restoreGeometry(settings.value(QStringLiteral("geometry")).toByteArray())) resize(1280, 800);
}

DeskWindow::~DeskWindow() {
  // The page uses the library; it must go first.
  delete review_page_;
}

void DeskWindow::prepareInBackground() {
  if (!preparer_) {
    preparer_ = new Preparer(library_.folder(), this);
    connect(library_page_, &LibraryPage::somethingNew, this, [this] {
      if (!stopped_by_coach_) preparer_->wake();
    });
    const auto tell = [this](double f) { library_page_->setBackground(tr("Looking at new clips…"), f); };
    connect(preparer_, &Preparer::began, this, [tell] { tell(0); });
    connect(preparer_, &Preparer::progressed, this, tell);
    connect(preparer_, &Preparer::prepared, library_page_, &LibraryPage::refresh);
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

void DeskWindow::openSubmission(qlonglong id) {
  if (preparer_) preparer_->pause();
  delete review_page_;
  review_page_ = new ReviewPage(library_, library::SubmissionId(id));
  stack_->addWidget(review_page_);
  stack_->setCurrentWidget(review_page_);
  connect(review_page_, &ReviewPage::leaveRequested, this, &DeskWindow::showLibrary);
  review_page_->setFocus();
}

void DeskWindow::showLibrary() {
  stack_->setCurrentWidget(library_page_);
  if (review_page_) {
    review_page_->deleteLater();
    review_page_ = nullptr;
  }
  library_page_->refresh();
  if (preparer_ && !stopped_by_coach_) preparer_->wake();
}

void DeskWindow::closeEvent(QCloseEvent* event) {
  QSettings().setValue(QStringLiteral("geometry"), saveGeometry());
  event->accept();
}

}  // namespace jib::desk
