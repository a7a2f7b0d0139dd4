// SPDX-License-Identifier: GPL-3.0-or-later
// How the queue is put together: its rows of controls, table, keys and foot. What it does is in library_page.cpp.
#include "desk/library_page/library_page.h"

#include <QComboBox>
#include <QDate>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMimeData>
#include <QProcess>
#include <QProgressBar>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QSplitter>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/mail.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "core/library/unfinished_returns.h"
#include "core/lifts/which_lift.h"
#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/commands/change_submission.h"
#include "desk/library_page/due_films_dialog.h"
#include "desk/library_page/picture_delegate.h"
#include "desk/library_page/queue_filter.h"
#include "desk/library_page/submission_panel.h"
#include "desk/library_page/submissions_model.h"
#include "desk/library_page/two_line_delegate.h"
#include "desk/review/history_panel.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

using library::SubmissionState;

// What files may hold clips, for a file dialog.
QString filmFilter() {
  return LibraryPage::tr(
      "Clips (*.mp4 *.MP4 *.mov *.MOV *.m4v *.mkv *.webm *.avi *.3gp *.3g2 *.mts *.m2ts *.mpg *.wmv);;"
      "All files (*)");
}

}  // namespace

// Who writes back is asked once, before anything can go out.
QWidget* LibraryPage::buildWelcome() {
  welcome_ = new QFrame(this);
  welcome_->setObjectName(QStringLiteral("coachCard"));
  auto* row = new QHBoxLayout(welcome_);
  row->setContentsMargins(12, 6, 12, 6);
  row->addWidget(words(tr("Who are you? Replies are signed with it."), false), 1);
  auto* name = new QLineEdit;
  name->setObjectName(QStringLiteral("welcomeName"));
  name->setPlaceholderText(tr("your name"));
  fixTextWidth(name, 190);
  auto* address = new QLineEdit;
  address->setObjectName(QStringLiteral("welcomeAddress"));
  address->setPlaceholderText(tr("your e-mail address"));
  fixTextWidth(address, 230);
  auto* keep = new QPushButton(tr("Keep"));
  keep->setObjectName(QStringLiteral("welcomeKeep"));
  const auto save = [this, name, address] {
    auto card = library_.coach().value_or(library::CoachCard{});
    card.name = name->text().simplified().toStdString();
    card.address = address->text().trimmed().toStdString();
    if (card.name.empty()) return say(tr("Type your name; athletes see it under your replies."));
    if (!CoachDialog::isAddress(address->text())) return say(tr("An address looks like name@example.org."));
    if (auto kept = library_.setCoach(card); !kept) return say(QString::fromStdString(kept.error().sentence()));
    welcome_->hide();
    say(tr("Saved. You can change it under Settings."));
    table_->setFocus();
  };
  connect(keep, &QPushButton::clicked, this, save);
  connect(address, &QLineEdit::returnPressed, this, save);
  row->addWidget(name);
  row->addWidget(address);
  row->addWidget(keep);
  const auto coach = library_.coach();
  welcome_->setVisible(coach && coach->name.empty() && library_.readOnly().empty());
  return welcome_;
}

QWidget* LibraryPage::buildUnfinished() {
  unfinished_ = new QFrame(this);
  unfinished_->setObjectName(QStringLiteral("unfinishedCard"));
  auto* row = new QHBoxLayout(unfinished_);
  row->setContentsMargins(12, 6, 12, 6);
  unfinished_words_ = words({});
  unfinished_words_->setObjectName(QStringLiteral("unfinishedWords"));
  row->addWidget(unfinished_words_, 1);
  const auto button = [&](const QString& text, const char* name, const QString& tip, bool go_on) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, [this, go_on] {
      const auto left = library::unfinishedReturns(library_.folder());
      if (left.empty()) return showUnfinished();
      library::endReturn(library_.folder(), left.front());
      showUnfinished();
      if (go_on) emit returnAgainRequested(left.front().number);
    });
    row->addWidget(b);
  };
  button(tr("Send it now"), "unfinishedSend", tr("Opens the review and writes the reply again"), true);
  button(tr("Not now"), "unfinishedLeave", tr("The review stays as you left it"), false);
  unfinished_->hide();
  showUnfinished();
  return unfinished_;
}

void LibraryPage::showUnfinished() {
  const auto left = library::unfinishedReturns(library_.folder());
  unfinished_->setVisible(!left.empty() && library_.readOnly().empty());
  if (left.empty()) return;
  const auto row = library_.submission(left.front());
  const auto whose = row ? library_.athlete(row->athlete) : Result<library::Athlete>(fail(row.error()));
  // Deleted meanwhile: nothing is left to be sent.
  if (!whose) {
    library::endReturn(library_.folder(), left.front());
    return showUnfinished();
  }
  unfinished_words_->setText(
      tr("Your reply to %1 was still being written when the program closed. Send it now, or check the outbox first.")
          .arg(q(whose->name)));
}

QWidget* LibraryPage::buildDue() {
  due_ = new QFrame(this);
  due_->setObjectName(QStringLiteral("dueCard"));
  auto* row = new QHBoxLayout(due_);
  row->setContentsMargins(12, 6, 12, 6);
  due_words_ = words({});
  row->addWidget(due_words_, 1);
  auto* look = new QPushButton(tr("Show them…"));
  look->setObjectName(QStringLiteral("showDue"));
  connect(look, &QPushButton::clicked, this, &LibraryPage::showDueFilms);
  row->addWidget(look);
  due_->hide();
  return due_;
}

void LibraryPage::countDue() {
  const auto due = library::filmsDue(library_, library::today());
  const auto n = due ? due->size() : 0;
  due_->setVisible(n > 0 && library_.readOnly().empty());
  due_words_->setText(n == 1 ? tr("1 clip is due for deletion. Nothing is deleted until you say so.")
                             : tr("%1 clips are due for deletion. Nothing is deleted until you say so.").arg(n));
}

void LibraryPage::showDueFilms() {
  DueFilmsDialog dialog(library_, window());
  dialog.exec();
  if (dialog.changed()) undo_.clear();  // a step back would bring up rows as they were
  refresh();
  countDue();
}

void LibraryPage::openSettings() {
  if (CoachDialog(library_, window()).exec() != QDialog::Accepted) return;
  const auto coach = library_.coach();
  welcome_->setVisible(coach && coach->name.empty());
  if (library_.readOnly().empty()) watched_.start();
  refresh();
  countDue();
  emit settingsChanged();
}

QWidget* LibraryPage::buildAddRow() {
  // long because a layout, one widget after the other
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("card"));
  auto* row = new QHBoxLayout(card);
  row->setContentsMargins(10, 6, 10, 6);
  new_athlete_ = new QComboBox;
  new_athlete_->setObjectName(QStringLiteral("newAthlete"));
  new_athlete_->setEditable(true);
  leastTextWidth(new_athlete_, 170);
  new_athlete_->lineEdit()->setPlaceholderText(tr("athlete"));
  new_athlete_->setToolTip(tr("Choose an athlete or write a new name"));
  new_lift_ = new QComboBox;
  new_lift_->setObjectName(QStringLiteral("newLift"));
  new_lift_->setToolTip(tr("Which lift; left empty it's read from the message or the clip"));
  new_lift_->addItem(tr("lift"), QString());
  for (const auto& lift : lifts::allLifts()) new_lift_->addItem(q(lift.title), q(lift.name));
  new_variant_ = new QComboBox;
  new_variant_->setObjectName(QStringLiteral("newVariant"));
  new_variant_->setToolTip(tr("Which variation; left empty it's read from the message"));
  const auto offer_variants = [this] {
    new_variant_->clear();
    new_variant_->addItem(tr("variation"), QString());
    if (const auto* lift = lifts::liftNamed(new_lift_->currentData().toString().toStdString()))
      for (const auto& variant : lifts::variantsOf(*lift))
        new_variant_->addItem(q(lifts::titleOf(*lift, variant)), q(variant));
    new_variant_->setEnabled(new_variant_->count() > 1);
  };
  connect(new_lift_, &QComboBox::currentIndexChanged, this, offer_variants);
  offer_variants();
  new_load_ = new QLineEdit;
  new_load_->setObjectName(QStringLiteral("newLoad"));
  new_load_->setPlaceholderText(tr("3x5 @ 225"));
  new_load_->setToolTip(tr("As you'd write it: 100, 225 lb, 3x5 @ 100 kg"));
  fixTextWidth(new_load_, 140);
  new_message_ = new QLineEdit;
  new_message_->setObjectName(QStringLiteral("newMessage"));
  new_message_->setPlaceholderText(tr("message"));
  auto* choose = new QPushButton(tr("Add a clip…"));
  choose->setObjectName(QStringLiteral("addClip"));
  choose->setToolTip(tr("Copies the clip into the library (or drop it on this page)"));
  connect(choose, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getOpenFileName(this, tr("Add a clip"), QString(), filmFilter());
    if (!file.isEmpty()) addClip(file);
  });
  // A clip chosen before its athlete waits for the name.
  connect(new_athlete_->lineEdit(), &QLineEdit::returnPressed, this, [this] {
    if (const QString waiting = waiting_clip_; !waiting.isEmpty()) addClip(waiting);
  });
  row->addWidget(new_athlete_);
  row->addWidget(new_lift_);
  row->addWidget(new_variant_);
  row->addWidget(new_load_);
  row->addWidget(new_message_, 1);
  row->addWidget(choose);
  auto* take = new QPushButton(tr("Import mail…"));
  take->setObjectName(QStringLiteral("takeIn"));
  take->setToolTip(tr("Messages (.eml, .mbox) with their clips, several at once; folders can be dropped on this page"));
  connect(take, &QPushButton::clicked, this, [this] {
    const QStringList files = QFileDialog::getOpenFileNames(this, tr("Messages and clips"), QString(),
                                                            tr("Messages (*.eml *.mbox);;") + filmFilter());
    if (!files.isEmpty()) receive(files);
  });
  row->addWidget(take);
  return card;
}

void LibraryPage::offerMine(bool several) {
  const int mine = show_->findData(static_cast<int>(QueueFilter::Show::Mine));
  if (several == (mine >= 0)) return;
  if (!several) return show_->removeItem(mine);
  show_->insertItem(show_->findData(static_cast<int>(QueueFilter::Show::Open)) + 1, tr("mine"),
                    static_cast<int>(QueueFilter::Show::Mine));
}

QWidget* LibraryPage::buildFilterRow() {
  // long because a layout, one widget after the other
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  auto* title = plainLabel(tr("Submissions"));
  title->setObjectName(QStringLiteral("title"));
  auto* show = show_ = new QComboBox;
  show->setObjectName(QStringLiteral("show"));
  show->setToolTip(tr("What to show"));
  using Show = QueueFilter::Show;
  for (const auto& [text, value] :
       {std::pair(tr("all"), Show::All), std::pair(tr("to do"), Show::Open), std::pair(tr("pain"), Show::Pain),
        std::pair(tr("new"), Show::New), std::pair(tr("needs a new clip"), Show::NeedsVideo),
        std::pair(tr("in review"), Show::InReview), std::pair(tr("later"), Show::CarriedOver),
        std::pair(tr("waiting for a clip"), Show::AwaitingFilm), std::pair(tr("sent"), Show::Returned),
        std::pair(tr("skipped"), Show::Skipped)})
    show->addItem(text, static_cast<int>(value));
  connect(show, &QComboBox::currentIndexChanged, this, [this, show] {
    proxy_->setShow(static_cast<Show>(show->currentData().toInt()));
    filter();
  });
  auto* order = new QComboBox;
  order->setObjectName(QStringLiteral("order"));
  using Order = QueueFilter::Order;
  for (const auto& [text, value] :
       {std::pair(tr("due today, then newest"), Order::Today), std::pair(tr("longest waiting first"), Order::Oldest),
        std::pair(tr("next meet first"), Order::Meet), std::pair(tr("follow-up due first"), Order::Due),
        std::pair(tr("shuffled"), Order::Draw), std::pair(tr("newest first"), Order::Newest)})
    order->addItem(text, static_cast<int>(value));
  auto* seed = new QSpinBox;
  seed->setObjectName(QStringLiteral("seed"));
  seed->setRange(1, 999999);
  seed->setPrefix(tr("seed "));
  seed->setValue(static_cast<int>(QDate::currentDate().toJulianDay() % 100000));
  seed->setToolTip(tr("The seed: the same seed gives the same order"));
  seed->hide();
  const auto again = [this, order, seed] {
    const auto chosen = static_cast<Order>(order->currentData().toInt());
    seed->setVisible(chosen == Order::Draw);
    proxy_->setOrder(chosen, static_cast<quint32>(seed->value()));
  };
  connect(order, &QComboBox::currentIndexChanged, this, again);
  connect(seed, &QSpinBox::valueChanged, this, again);
  auto* find = new QLineEdit;
  find->setObjectName(QStringLiteral("find"));
  find->setPlaceholderText(tr("find (Ctrl+F)"));
  find->setClearButtonEnabled(true);
  keepSized(find, [find] {
    find->setMinimumWidth(textPx(110));
    find->setMaximumWidth(textPx(240));
  });
  connect(find, &QLineEdit::textChanged, this, [this](const QString& text) { proxy_->setWords(text); });
  row->addWidget(title);
  row->addSpacing(12);
  row->addWidget(show);
  row->addWidget(order);
  row->addWidget(seed);
  row->addStretch(1);
  row->addWidget(find, 4);
  auto* roster = new QPushButton(tr("Athletes"));
  roster->setObjectName(QStringLiteral("rosterButton"));
  roster->setToolTip(tr("All athletes in one table: who's waiting, what's due, groups (F4)"));
  connect(roster, &QPushButton::clicked, this, &LibraryPage::rosterRequested);
  row->addWidget(roster);
  outbox_ = new QPushButton;
  outbox_->setObjectName(QStringLiteral("outbox"));
  outbox_->setToolTip(tr("What's ready to send, and what's sent (Ctrl+O)"));
  connect(outbox_, &QPushButton::clicked, this, &LibraryPage::outboxRequested);
  row->addWidget(outbox_);
  auto* night = new QToolButton;
  night->setObjectName(QStringLiteral("nightColours"));
  night->setText(QStringLiteral("☾"));
  night->setToolTip(tr("Day or night colors (F9)"));
  connect(night, &QToolButton::clicked, this, &LibraryPage::nightRequested);
  row->addWidget(night);
  auto* help = new QToolButton;
  help->setObjectName(QStringLiteral("help"));
  help->setText(QStringLiteral("?"));
  help->setToolTip(tr("All keys (? or F1)"));
  connect(help, &QToolButton::clicked, this, &LibraryPage::helpRequested);
  row->addWidget(help);
  auto* you = new QPushButton(tr("Settings…"));
  you->setObjectName(QStringLiteral("coach"));
  you->setToolTip(tr("Your name and address, how you coach, receipts, backup"));
  connect(you, &QPushButton::clicked, this, &LibraryPage::openSettings);
  row->addWidget(you);
  return box;
}

// Rows high enough for a picture, or as low as words allow.
void LibraryPage::showPictures(bool on) {
  constexpr int kPlainRow = 30;
  table_->setColumnHidden(SubmissionsModel::Picture, !on);
  for (auto* delegate : two_lines_) delegate->setOn(on);
  for (int second : {SubmissionsModel::Received, SubmissionsModel::Load}) table_->setColumnHidden(second, on);
  table_->verticalHeader()->setDefaultSectionSize(on ? std::max(ClipPictures::kSize.height() + 8, textPx(58))
                                                     : textPx(kPlainRow));
}

QWidget* LibraryPage::buildTable() {
  table_ = new QTableView;
  table_->setObjectName(QStringLiteral("submissions"));
  table_->setModel(proxy_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);  // several are sorted at once
  table_->setContextMenuPolicy(Qt::ActionsContextMenu);            // all that the keys do
  table_->setShowGrid(false);
  table_->setItemDelegateForColumn(SubmissionsModel::Picture, new PictureDelegate(table_));
  for (const auto& [first, second] : {std::pair(SubmissionsModel::AthleteName, SubmissionsModel::Received),
                                      std::pair(SubmissionsModel::Lift, SubmissionsModel::Load)}) {
    two_lines_.push_back(new TwoLineDelegate(second, table_));
    table_->setItemDelegateForColumn(first, two_lines_.back());
  }
  table_->setTabKeyNavigation(false);  // Tab goes on to the next place; arrows go from row to row
  table_->setAlternatingRowColors(true);
  table_->verticalHeader()->hide();
  showPictures(QSettings().value(QStringLiteral("queuePictures"), true).toBool());
  table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  table_->horizontalHeader()->setHighlightSections(false);
  table_->horizontalHeader()->setResizeContentsPrecision(40);
  // What to do when there is nothing to show.
  empty_ = words({}, true);
  empty_->setObjectName(QStringLiteral("emptyQueue"));
  empty_->setAlignment(Qt::AlignCenter);
  auto* over = new QVBoxLayout(table_->viewport());
  over->addWidget(empty_);
  const auto refill = [this] {
    empty_->setVisible(proxy_->rowCount() == 0);
    empty_->setText(
        model_->rowCount() == 0
            ? tr("No submissions yet.\n\nDrop clips, messages (.eml, .mbox) or folders here,\nor write the "
                 "athlete's name above and add a clip.\n\nMail that is delivered to\n%1\ncomes in by itself.")
                  .arg(inbox())
            : tr("Nothing matches. Show “all”, pick “All athletes”, or clear the search."));
  };
  for (auto* model : {static_cast<QAbstractItemModel*>(proxy_), static_cast<QAbstractItemModel*>(model_)})
    connect(model, &QAbstractItemModel::modelReset, this, refill);
  connect(proxy_, &QAbstractItemModel::rowsInserted, this, refill);
  connect(proxy_, &QAbstractItemModel::rowsRemoved, this, refill);
  refill();
  connect(table_, &QTableView::doubleClicked, this, &LibraryPage::open);
  connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &LibraryPage::showChosen);
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] {
    const auto n = selected().size();
    if (n > 1) say(tr("%1 selected: V, C, X and N act on all of them.").arg(n));
  });
  return table_;
}

void LibraryPage::buildKeys() {
  // long because a list of keys
  const auto key = [this](const QString& text, const QList<QKeySequence>& keys, auto run) {
    auto* action = new QAction(text, table_);
    action->setShortcuts(keys);
    // Letters act on the queue and nowhere else; whatever else has the keys keeps them.
    action->setShortcutContext(Qt::WidgetShortcut);
    action->setProperty("menu", tr("Queue"));
    connect(action, &QAction::triggered, this, run);
    table_->addAction(action);
    listed_ << action;
  };
  using K = QKeySequence;
  key(tr("Open for review"), {K(Qt::Key_Return), K(Qt::Key_Enter)}, [this] { open(table_->currentIndex()); });
  // A table takes Home and End sideways, along the row.
  const auto row = [this](int to) {
    if (proxy_->rowCount() > 0)
      table_->setCurrentIndex(proxy_->index(to, std::max(0, table_->currentIndex().column())));
  };
  key(tr("First row"), {K(Qt::Key_Home), K(Qt::CTRL | Qt::Key_Home)}, [row] { row(0); });
  key(tr("Last row"), {K(Qt::Key_End), K(Qt::CTRL | Qt::Key_End)}, [this, row] { row(proxy_->rowCount() - 1); });
  key(tr("Needs a new clip: asks for one"), {K(Qt::Key_V)}, [this] {
    setState(SubmissionState::NeedsVideo, tr("The clip can't be judged as it is."));
    submission_->writeReshoot(false);
    say(tr("A letter is ready on the right: Tab goes there, or move on to the next."));
  });
  table_->actions().back()->setObjectName(QStringLiteral("reshootAction"));
  key(tr("Later"), {K(Qt::Key_C)}, [this] { setState(SubmissionState::CarriedOver); });
  key(tr("Skip, with a reason"), {K(Qt::Key_X)}, [this] { skip(); });
  key(tr("New again"), {K(Qt::Key_N)}, [this] { setState(SubmissionState::New); });
  key(tr("Answer by letter"), {K(Qt::Key_A)}, [this] { submission_->writeAnswer(); });
  key(tr("It's another athlete's…"), {K(Qt::Key_W)}, [this] { askWhose(); });
  key(tr("Delete… (shows what goes first)"), {K(Qt::Key_Delete)}, [this] {
    side_->setCurrentWidget(submission_);
    submission_->askToDelete();
  });
  const auto everywhere = [this](const QString& menu, const QString& text, const QKeySequence& keys, auto run) {
    auto* action = new QAction(text, this);
    action->setShortcut(keys);
    action->setProperty("menu", menu);
    action->setShortcutContext(Qt::WidgetWithChildrenShortcut);
    connect(action, &QAction::triggered, this, run);
    addAction(action);
    listed_ << action;
  };
  auto* pictures = new QAction(tr("Pictures in the queue"), this);
  pictures->setObjectName(QStringLiteral("queuePictures"));
  pictures->setShortcut(K(Qt::CTRL | Qt::Key_P));
  pictures->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  pictures->setProperty("menu", tr("View"));
  pictures->setCheckable(true);
  pictures->setChecked(!table_->isColumnHidden(SubmissionsModel::Picture));
  connect(pictures, &QAction::toggled, this, [this](bool on) {
    QSettings().setValue(QStringLiteral("queuePictures"), on);
    showPictures(on);
  });
  addAction(pictures);
  listed_ << pictures;
  everywhere(tr("Edit"), tr("Undo, letters in the outbox included"), K::Undo, [this] { undo_.undo(); });
  everywhere(tr("Edit"), tr("Redo"), K::Redo, [this] { undo_.redo(); });
  everywhere(tr("Edit"), tr("Find"), K::Find, [this] {
    auto* find = findChild<QLineEdit*>(QStringLiteral("find"));
    find->setFocus(Qt::ShortcutFocusReason);
    find->selectAll();
  });
  const auto press = [this](const QString& text, const char* button) {
    auto* action = new QAction(text, this);
    action->setProperty("menu", tr("File"));
    connect(action, &QAction::triggered, this,
            [this, name = QString::fromLatin1(button)] { findChild<QAbstractButton*>(name)->click(); });
    listed_ << action;
  };
  press(tr("Add a clip…"), "addClip");
  press(tr("Import mail…"), "takeIn");
  auto* due = new QAction(tr("Clips due for deletion…"), this);
  due->setProperty("menu", tr("File"));
  connect(due, &QAction::triggered, this, &LibraryPage::showDueFilms);
  listed_ << due;
}

void LibraryPage::buildFoot(QVBoxLayout& column) {
  auto* foot = new QHBoxLayout;
  status_ = words({}, true);
  status_->setObjectName(QStringLiteral("libraryStatus"));
  background_ = words({}, true);
  background_->setObjectName(QStringLiteral("background"));
  background_->setWordWrap(false);
  stop_background_ = new QPushButton;
  stop_background_->setObjectName(QStringLiteral("stopBackground"));
  stop_background_->hide();
  connect(stop_background_, &QPushButton::clicked, this, [this] { emit backgroundWanted(background_stopped_); });
  auto* review = new QPushButton(tr("Review"));
  review->setObjectName(QStringLiteral("primary"));
  review->setToolTip(tr("Open the selected clip (Return)"));
  connect(review, &QPushButton::clicked, this, [this] { open(table_->currentIndex()); });
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  fixTextWidth(progress_, 160);
  progress_->hide();
  cancel_ = new QPushButton(tr("Cancel"));
  cancel_->hide();
  connect(cancel_, &QPushButton::clicked, this, [this] {
    jobs_.cancel();
    imported_.clear();
    say(tr("Stopped. Completed imports are saved."));
    refresh();
  });
  connect(&jobs_, &JobRunner::started, this, [this](const QString& title) {
    say(imported_.isEmpty() ? title : imported_ + QLatin1Char('\n') + title);
    progress_->setValue(0);
    progress_->show();
    cancel_->show();
  });
  connect(&jobs_, &JobRunner::finished, this, [this] {
    progress_->hide();
    cancel_->hide();
  });
  auto* keys = words(tr("Return opens · V new clip · C later · X skip · A answer · Ctrl+Z undo · ? keys"), true);
  keys->setWordWrap(false);
  foot->addWidget(status_, 1);
  foot->addWidget(keys);
  foot->addWidget(background_);
  foot->addWidget(stop_background_);
  foot->addWidget(progress_);
  foot->addWidget(cancel_);
  foot->addWidget(review);
  column.addLayout(foot);
}

// A cue is let go or taken up again beside the queue, too.
void LibraryPage::connectHistory() {
  connect(history_, &HistoryPanel::dropRequested, this, [this](qlonglong thread, const QString& why) {
    afterCue(library_.dropThread(library::CueThreadId(thread), why.toStdString()),
             tr("Dropped. It can be taken up again."));
  });
  connect(
      history_, &HistoryPanel::resumeRequested, this,
      [this](qlonglong thread) {
        afterCue(library_.resumeThread(library::CueThreadId(thread)), tr("Back on the list."));
      },
      Qt::QueuedConnection);
  connect(
      history_, &HistoryPanel::pauseRequested, this,
      [this](qlonglong thread, const QString& why) {
        afterCue(library_.pauseThread(library::CueThreadId(thread), why.toStdString()),
                 tr("Paused. “Take up again” brings it back."));
      },
      Qt::QueuedConnection);
  connect(history_, &HistoryPanel::settleRequested, this, [this](qlonglong thread, int state) {
    if (const auto id = current())
      afterCue(library_.settleThread(library::CueThreadId(thread), static_cast<library::ThreadState>(state), *id),
               tr("Noted."));
  });
  if (auto book = coaching::CueBook::shipped())
    history_->setTitles([book = std::move(*book)](const std::string& finding) { return book.titleOf(finding); });
}

void LibraryPage::buildLayout() {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 10, 14, 8);
  column->setSpacing(8);
  if (!library_.readOnly().empty()) {
    auto* warning = words(QString::fromStdString(library_.readOnly()) +
                          tr(" You can look at everything, but nothing is saved until that's fixed."));
    warning->setObjectName(QStringLiteral("readOnly"));
    setTone(warning, "bad");
    column->addWidget(warning);
  }
  for (QWidget* row : {buildWelcome(), buildUnfinished(), buildDue(), buildFilterRow(), buildAddRow()})
    column->addWidget(row);
  auto* row = new QSplitter;
  row->setObjectName(QStringLiteral("queueSplit"));
  row->setChildrenCollapsible(false);
  athletes_ = new QListWidget;
  athletes_->setObjectName(QStringLiteral("athletes"));
  leastTextWidth(athletes_, 110);
  connect(athletes_, &QListWidget::currentRowChanged, this, &LibraryPage::filter);
  side_ = new QTabWidget;
  side_->setObjectName(QStringLiteral("side"));
  side_->setDocumentMode(true);
  leastTextWidth(side_, 345);
  submission_ = new SubmissionPanel(library_, undo_);
  athlete_ = new AthletePanel(library_);
  athlete_->setPictures(pictures_);
  history_ = new HistoryPanel;
  side_->addTab(submission_, tr("Submission"));
  side_->addTab(athlete_, tr("Athlete"));
  side_->addTab(history_, tr("Previous cues"));
  row->addWidget(athletes_);
  row->addWidget(buildTable());
  row->addWidget(side_);
  row->setStretchFactor(1, 1);
  row->setSizes({150, 700, 380});
  QSettings settings;
  row->restoreState(settings.value(QStringLiteral("queueSplit")).toByteArray());
  connect(row, &QSplitter::splitterMoved, row,
          [row] { QSettings().setValue(QStringLiteral("queueSplit"), row->saveState()); });
  column->addWidget(row, 1);
  buildFoot(*column);
  buildKeys();
  connect(submission_, &SubmissionPanel::said, this, &LibraryPage::say);
  connectHistory();
  connect(athlete_, &AthletePanel::said, this, &LibraryPage::say);
  // The panel that changed something is still on the stack.
  connect(submission_, &SubmissionPanel::changed, this, &LibraryPage::refresh, Qt::QueuedConnection);
  connect(athlete_, &AthletePanel::changed, this, &LibraryPage::refresh, Qt::QueuedConnection);
  connect(athlete_, &AthletePanel::changed, this, &LibraryPage::countDue, Qt::QueuedConnection);
  // The panel goes on handling the click that asked for it.
  connect(athlete_, &AthletePanel::openAtRequested, this, &LibraryPage::openAtRequested, Qt::QueuedConnection);
  connect(athlete_, &AthletePanel::removed, &undo_, &QUndoStack::clear);
  connect(submission_, &SubmissionPanel::keysWanted, table_, qOverload<>(&QWidget::setFocus));
  connect(submission_, &SubmissionPanel::lookAgainRequested, this, &LibraryPage::somethingNew, Qt::QueuedConnection);
  connect(submission_, &SubmissionPanel::openReplyRequested, this, [this](const QString& folder) {
    if (!QProcess::startDetached(QStringLiteral("xdg-open"), {folder})) say(tr("It's in %1").arg(folder));
  });
  connect(&undo_, &QUndoStack::indexChanged, this, &LibraryPage::countOutbox);
}

}  // namespace jib::desk
