// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/library_page.h"

#include <QComboBox>
#include <QDate>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
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
#include <set>

#include "core/base/quantity.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/mail.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "core/lifts/which_lift.h"
#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/commands/change_submission.h"
#include "desk/library_page/queue_filter.h"
#include "desk/library_page/submission_panel.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/history_panel.h"
#include "desk/text.h"
#include "desk/widgets/deed.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

using library::SubmissionState;

// When something asked of an athlete is to be looked at again, as a second line under the name.
QString dueText(const std::map<std::int64_t, std::string>& due, library::AthleteId id) {
  const auto at = due.find(id.number);
  if (at == due.end()) return {};
  const auto to_go = library::daysBetween(library::today(), at->second);
  if (!to_go) return {};
  const int days = *to_go;
  return days > 0    ? LibraryPage::tr("\n⟳ due %1").arg(QString::fromStdString(library::spoken(at->second)))
         : days == 0 ? LibraryPage::tr("\n⟳ due today")
                     : LibraryPage::tr("\n⟳ %1 d overdue").arg(-days);
}

}  // namespace

LibraryPage::LibraryPage(library::Library& library, QWidget* parent)
    : QWidget(parent),
      library_(library),
      watched_(library.folder()),
      pictures_(new ClipPictures(library.folder(), this)),
      model_(new SubmissionsModel(this)),
      proxy_(new QueueFilter(this)) {
  setObjectName(QStringLiteral("page"));
  setAcceptDrops(true);
  setFocusPolicy(Qt::NoFocus);
  model_->setPictures(pictures_);
  proxy_->setSourceModel(model_);
  buildLayout();
  connect(&jobs_, &JobRunner::progressed, progress_,
          [this](double f) { progress_->setValue(static_cast<int>(1000 * f)); });
  refresh();
  countDue();
  setFocusProxy(table_);
  if (library_.readOnly().empty()) watchInbox();
}

void LibraryPage::countOutbox() {
  const auto all = library_.outgoing();
  const auto waiting = all ? std::count_if(all->begin(), all->end(),
                                           [](const auto& o) { return o.state == library::OutgoingState::Waiting; })
                           : 0;
  outbox_->setText(waiting > 0 ? tr("Outbox (%1)").arg(waiting) : tr("Outbox"));
}

LibraryPage::~LibraryPage() {
  // The stack tells once more when it goes; by then there is nobody here to listen.
  undo_.disconnect(this);
}

void LibraryPage::say(const QString& sentence) {
  status_->setText(sentence);
}

void LibraryPage::setBackground(const QString& text, double fraction) {
  background_stopped_ = false;
  background_->setText(text.isEmpty() ? text : tr("%1 %2 %").arg(text).arg(static_cast<int>(100 * fraction)));
  stop_background_->setText(tr("Stop"));
  stop_background_->setToolTip(tr("Stops analyzing in the background; nothing half-done is saved"));
  stop_background_->setVisible(!text.isEmpty());
}

void LibraryPage::setBackgroundStopped() {
  background_stopped_ = true;
  background_->setText(tr("Background analysis paused."));
  stop_background_->setText(tr("Resume"));
  stop_background_->setToolTip(tr("Analyzing clips that haven't been opened"));
  stop_background_->show();
}

std::optional<library::SubmissionId> LibraryPage::current() const {
  const QModelIndex index = table_->currentIndex();
  if (!index.isValid()) return std::nullopt;
  return library::SubmissionId(index.data(SubmissionsModel::IdRole).toLongLong());
}

void LibraryPage::open(const QModelIndex& index) {
  if (!index.isValid()) return;
  const library::SubmissionId id(index.data(SubmissionsModel::IdRole).toLongLong());
  auto s = library_.submission(id);
  if (!s) return say(QString::fromStdString(s.error().sentence()));
  if (!s->details.film_gone_on.empty()) return say(q(library::filmGone(*s)));
  if (s->clip_hash.empty()) return say(tr("No clip with this message yet. Ask for it on the right."));
  emit openRequested(id.number);
}

void LibraryPage::afterCue(const Result<bool>& done, const QString& sentence) {
  say(done ? sentence : QString::fromStdString(done.error().sentence()));
  showChosen();
}

std::vector<library::SubmissionId> LibraryPage::selected() const {
  QModelIndexList rows = table_->selectionModel()->selectedRows();
  if (rows.isEmpty() && table_->currentIndex().isValid()) rows << table_->currentIndex();
  std::sort(rows.begin(), rows.end(), [](const QModelIndex& a, const QModelIndex& b) { return a.row() < b.row(); });
  std::vector<library::SubmissionId> ids;
  for (const QModelIndex& row : rows) ids.emplace_back(row.data(SubmissionsModel::IdRole).toLongLong());
  return ids;
}

// A film that never came cannot be filmed better, and what was answered is not put back by one key.
QString LibraryPage::whyNot(const library::Submission& s, SubmissionState to) {
  if (!s.details.film_gone_on.empty()) return q(library::filmGone(s));
  if (to == SubmissionState::NeedsVideo && s.clip_hash.empty()) return tr("No clip came with this one. Answer it (A).");
  if (s.state == SubmissionState::Returned && (to == SubmissionState::NeedsVideo || to == SubmissionState::CarriedOver))
    return tr("Already answered. Open it to write again.");
  return {};
}

// Of all that are chosen, as one step of undo.
void LibraryPage::setState(SubmissionState state, const QString& reason) {
  const auto ids = selected();
  if (ids.empty()) return;
  if (ids.size() > 1) undo_.beginMacro(tr("sort the queue"));
  for (const auto id : ids) {
    auto s = library_.submission(id);
    if (!s) {
      say(QString::fromStdString(s.error().sentence()));
      continue;
    }
    if (const QString why = whyNot(*s, state); !why.isEmpty()) {
      say(why);
      continue;
    }
    library::Submission to = *s;
    to.state = state;
    to.reason = reason.toStdString();
    undo_.push(new ChangeSubmission(library_, tr("sort the queue"), *s, to,
                                    [this](library::SubmissionId of, const QString& trouble) {
                                      refresh();
                                      if (!trouble.isEmpty()) say(trouble);
                                      select(of);
                                    }));
  }
  if (ids.size() > 1) {
    undo_.endMacro();
    say(tr("%1 clips: %2. Ctrl+Z undoes it.").arg(ids.size()).arg(q(library::titleOf(state)).toLower()));
  }
}

std::optional<library::SubmissionId> LibraryPage::nextAfter(library::SubmissionId id) const {
  std::optional<library::SubmissionId> first;
  bool past = false;
  for (int row = 0; row < proxy_->rowCount(); ++row) {
    const QModelIndex at = proxy_->index(row, 0);
    const library::SubmissionId here(at.data(SubmissionsModel::IdRole).toLongLong());
    if (here == id) {
      past = true;
      continue;
    }
    const auto state = static_cast<SubmissionState>(at.data(SubmissionsModel::StateRole).toInt());
    if (state != SubmissionState::New && state != SubmissionState::InReview && state != SubmissionState::CarriedOver)
      continue;
    const auto s = library_.submission(here);
    if (!s || s->clip_hash.empty()) continue;
    if (past) return here;
    if (!first) first = here;
  }
  return first;
}

void LibraryPage::picture(library::SubmissionId id) {
  if (const auto s = library_.submission(id)) pictures_->forget(QString::fromStdString(s->clip_hash));
}

bool LibraryPage::picturing() const {
  return pictures_->busy();
}

// That row and no other, whatever was chosen before.
void LibraryPage::chooseRow(int row) {
  table_->selectionModel()->setCurrentIndex(proxy_->index(row, SubmissionsModel::AthleteName),
                                            QItemSelectionModel::ClearAndSelect | QItemSelectionModel::Rows);
}

void LibraryPage::select(library::SubmissionId id) {
  for (int row = 0; row < proxy_->rowCount(); ++row)
    if (proxy_->index(row, 0).data(SubmissionsModel::IdRole).toLongLong() == id.number) chooseRow(row);
}

void LibraryPage::answer(library::SubmissionId id) {
  chooseAthlete(std::nullopt);
  select(id);
  side_->setCurrentWidget(submission_);
  submission_->writeAnswer();
}

void LibraryPage::askToShow(library::SubmissionId id, const QString& claim) {
  chooseAthlete(std::nullopt);
  select(id);
  side_->setCurrentWidget(submission_);
  submission_->writeAskToShow(claim.toStdString());
}

void LibraryPage::skip() {
  if (!current()) return;
  // In place of a dialog: the reasons coaches give.
  QMenu menu(this);
  menu.setObjectName(QStringLiteral("skipMenu"));
  for (const QString& reason :
       {tr("Not about lifting"), tr("Duplicate"), tr("Can't be used"), tr("Answered elsewhere")})
    menu.addAction(reason, this, [this, reason] { setState(SubmissionState::Skipped, reason); });
  const QRect row = table_->visualRect(table_->currentIndex());
  menu.exec(table_->viewport()->mapToGlobal(QPoint(row.left() + 40, row.bottom())));
}

QString LibraryPage::inbox() const {
  return QString::fromStdString((library_.folder() / "inbox").string());
}

void LibraryPage::watchInbox() {
  for (const char* part : {"/new", "/cur", "/tmp"}) QDir().mkpath(inbox() + QString::fromLatin1(part));
  watcher_.addPath(inbox() + QStringLiteral("/new"));
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, &LibraryPage::receiveInbox);
  connect(&watched_, &WatchedFolders::found, this, &LibraryPage::receiveFound);
  // What came while the program was closed.
  QMetaObject::invokeMethod(this, &LibraryPage::receiveInbox, Qt::QueuedConnection);
  if (library_.readOnly().empty()) watched_.start();
}

void LibraryPage::receiveInbox() {
  if (QDir(inbox() + QStringLiteral("/new")).isEmpty()) return;
  if (jobs_.busy())
    receiving_again_ = true;
  else
    receive({inbox()});
}

void LibraryPage::receive(const QStringList& sources) {
  const std::filesystem::path folder = library_.folder();
  jobs_.start<exchange::Received>(
      tr("Importing…"),
      [folder, sources](Task& task) -> Result<exchange::Received> {
        auto lib = library::Library::openAgain(folder);
        if (!lib) return fail(lib.error());
        exchange::Received all;
        const auto n = static_cast<double>(sources.size());
        for (int i = 0; i < sources.size(); ++i) {
          task.part(i / n, (i + 1) / n);
          auto one = exchange::receive(*lib, sources[i].toStdString(), library::today(), task);
          if (!one) {
            if (one.error().code == ErrorCode::Cancelled) return fail(one.error());
            all.troubles.push_back(one.error().sentence());
            continue;
          }
          all.messages += one->messages;
          all.clips += one->clips;
          all.known += one->known;
          all.receipts += one->receipts;
          all.troubles.insert(all.troubles.end(), one->troubles.begin(), one->troubles.end());
          all.accounts.insert(all.accounts.end(), one->accounts.begin(), one->accounts.end());
        }
        return all;
      },
      [this](Result<exchange::Received> r) { tellReceived(r); });
}

void LibraryPage::receiveFound(const QString& folder, const std::vector<exchange::FoundFilm>& films) {
  if (jobs_.busy()) return;  // they are found again with the next look
  const std::filesystem::path records = library_.folder();
  jobs_.start<exchange::Received>(
      tr("Importing from %1…").arg(QDir(folder).dirName()),
      [records, films](Task& task) -> Result<exchange::Received> {
        auto lib = library::Library::openAgain(records);
        if (!lib) return fail(lib.error());
        return exchange::receiveFilms(*lib, films, library::today(), task);
      },
      [this, folder, films](Result<exchange::Received> r) {
        if (r) WatchList(library_.folder()).keepAsSeen(folder, films);
        tellReceived(r);
      });
}

void LibraryPage::tellReceived(const Result<exchange::Received>& r) {
  if (!r) {
    if (r.error().code != ErrorCode::Cancelled) tellImported(QString::fromStdString(r.error().sentence()));
  } else {
    QString text = tr("%1 new messages, %2 clips.").arg(r->messages).arg(r->clips);
    if (r->known > 0) text += tr(" %1 were already here.").arg(r->known);
    if (r->receipts > 0) text += tr(" %1 receipts are in the outbox.").arg(r->receipts);
    for (const auto& t : r->accounts) text += QLatin1Char(' ') + QString::fromStdString(t) + QLatin1Char('.');
    for (const auto& t : r->troubles) text += QLatin1Char(' ') + QString::fromStdString(t);
    tellImported(text);
  }
  refresh();
  emit somethingNew();
  if (std::exchange(receiving_again_, false)) receiveInbox();
}

// What several imports, one after the other, have to say stands together.
void LibraryPage::tellImported(const QString& text) {
  imported_ = imported_.isEmpty() ? text : imported_ + QLatin1Char('\n') + text;
  say(imported_);
  if (!jobs_.busy()) imported_.clear();
}

std::optional<library::AthleteId> LibraryPage::chosen() const {
  const auto* item = athletes_->currentItem();
  if (!item || !item->data(Qt::UserRole).isValid()) return std::nullopt;
  return library::AthleteId(item->data(Qt::UserRole).toLongLong());
}

void LibraryPage::chooseAthlete(std::optional<library::AthleteId> id) {
  for (int i = 0; i < athletes_->count(); ++i) {
    const QVariant held = athletes_->item(i)->data(Qt::UserRole);
    if (id ? held.isValid() && held.toLongLong() == id->number : !held.isValid()) athletes_->setCurrentRow(i);
  }
}

void LibraryPage::showAthlete(library::AthleteId id) {
  chooseAthlete(id);
  side_->setCurrentWidget(athlete_);
  athlete_->show(id);
}

void LibraryPage::giveTo(library::AthleteId athlete) {
  const auto id = current();
  const auto row = id ? library_.submission(*id) : Result<library::Submission>(fail(ErrorCode::WrongUse, "", ""));
  const auto to = library_.athlete(athlete);
  if (!row || !to) return;
  const auto move = [this, id = *id](library::AthleteId whose, const QString& done) {
    auto moved = library_.giveTo(id, whose);
    chooseAthlete(std::nullopt);
    refresh();
    select(id);
    say(moved ? done : QString::fromStdString(moved.error().sentence()));
  };
  undo_.push(new Deed(
      tr("whose clip it is"),
      [move, athlete, name = QString::fromStdString(to->name)] {
        move(athlete, tr("Now it's %1's. Ctrl+Z undoes it.").arg(name));
      },
      [move, from = row->athlete] { move(from, tr("Back where it was.")); }));
}

// In place of a dialog: everybody else, by name.
void LibraryPage::askWhose() {
  const auto id = current();
  if (!id) return;
  const auto row = library_.submission(*id);
  auto all = library_.athletes();
  if (!row || !all) return;
  QStringList names;
  std::vector<library::AthleteId> ids;
  for (const auto& a : *all)
    if (a.id != row->athlete) {
      names << QString::fromStdString(a.name);
      ids.push_back(a.id);
    }
  if (names.isEmpty()) return say(tr("No other athletes yet. Add one first: F4, then Ctrl+N."));
  bool said = false;
  const QString name = QInputDialog::getItem(this, tr("Whose clip is it?"),
                                             tr("It goes there with its review, and the other clips of the set too."),
                                             names, 0, false, &said);
  if (said) giveTo(ids[static_cast<std::size_t>(names.indexOf(name))]);
}

void LibraryPage::refresh() {
  auto athletes = library_.athletes();
  auto submissions = library_.submissions();
  if (!athletes || !submissions) {
    say(QString::fromStdString((athletes ? submissions.error() : athletes.error()).sentence()));
    return;
  }
  auto checks = library_.checks();
  const auto due = library_.dueOn().value_or(std::map<std::int64_t, std::string>{});
  const auto pain =
      exchange::openPain(library_, *submissions, *athletes).value_or(std::map<std::int64_t, std::string>{});
  const auto was = chosen();
  const auto kept = current();
  const auto card = library_.coach().value_or(library::CoachCard{});
  model_->setCoaches(card, library_.signer().value_or(card).name);
  offerMine(!card.colleagues.empty());
  model_->set(*submissions, *athletes, checks ? *checks : std::map<std::string, std::string>(), library::today(), due,
              pain);
  athletes_->blockSignals(true);
  athletes_->clear();
  const QString typed = new_athlete_->currentText();
  new_athlete_->clear();
  athletes_->addItem(tr("All athletes"));
  std::set<std::int64_t> with_work;
  for (const auto& s : *submissions)
    if (s.state != SubmissionState::Returned && s.state != SubmissionState::Skipped) with_work.insert(s.athlete.number);
  for (const auto& a : *athletes) {
    // Who has left is found among all athletes (F4), unless something of theirs waits.
    const bool former = a.profile.membership == library::Membership::Former && !with_work.count(a.id.number);
    if (former && was != a.id) continue;
    auto* item = new QListWidgetItem(QString::fromStdString(a.name) + dueText(due, a.id), athletes_);
    item->setData(Qt::UserRole, QVariant::fromValue<qlonglong>(a.id.number));
    item->setToolTip(QString::fromStdString(a.note));
    new_athlete_->addItem(QString::fromStdString(a.name));
  }
  new_athlete_->setCurrentIndex(-1);
  new_athlete_->setEditText(typed);
  athletes_->blockSignals(false);
  chooseAthlete(was);
  auto* header = table_->horizontalHeader();
  for (int c = 0; c < SubmissionsModel::Columns; ++c)
    header->setSectionResizeMode(c, c == SubmissionsModel::Message   ? QHeaderView::Stretch
                                    : c == SubmissionsModel::Picture ? QHeaderView::Fixed
                                                                     : QHeaderView::ResizeToContents);
  header->resizeSection(SubmissionsModel::Picture, ClipPictures::kSize.width() + 18);
  if (kept) select(*kept);
  if (!table_->currentIndex().isValid() && proxy_->rowCount() > 0) chooseRow(0);
  showChosen();
  countOutbox();
}

void LibraryPage::filter() {
  const auto id = chosen();
  proxy_->setAthlete(id ? std::optional<qlonglong>(id->number) : std::nullopt);
  if (proxy_->rowCount() > 0 && !table_->currentIndex().isValid()) chooseRow(0);
  showChosen();
}

void LibraryPage::showChosen() {
  const auto id = current();
  submission_->show(id);
  std::optional<library::AthleteId> whose = chosen();
  if (id)
    if (auto s = library_.submission(*id)) whose = s->athlete;
  athlete_->show(whose);
  auto threads =
      whose ? library_.threads(*whose) : Result<std::vector<library::CueThread>>(std::vector<library::CueThread>{});
  if (threads) history_->setThreads(*threads);
}

void LibraryPage::addClip(const QString& file) {
  const QString name = new_athlete_->currentText().trimmed();
  if (name.isEmpty()) {
    waiting_clip_ = file;
    say(tr("Whose clip is %1? Write the athlete's name above and press Return.").arg(QFileInfo(file).fileName()));
    new_athlete_->setFocus();
    return;
  }
  waiting_clip_.clear();
  library::Submission s;
  s.received_on = library::today();
  s.message = new_message_->text().toStdString();
  if (!readTyped(s)) {
    new_load_->setFocus();
    new_load_->selectAll();
    return say(tr("Can't read “%1”. Type 100, 225 lb or 3x5 @ 100 kg.").arg(new_load_->text().trimmed()));
  }
  const std::filesystem::path folder = library_.folder(), clip = file.toStdString();
  const std::string athlete_name = name.toStdString();
  // Taken: what is typed from now on is of the next one.
  new_message_->clear();
  new_load_->clear();
  new_lift_->setCurrentIndex(0);
  new_athlete_->setEditText({});
  // A connection of the job's own: SQLite's belong to a thread.
  jobs_.start<library::SubmissionId>(
      tr("Adding the clip…"),
      [folder, clip, s, athlete_name](Task& task) -> Result<library::SubmissionId> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        auto lib = library::Library::openAgain(folder);
        if (!lib) return fail(lib.error());
        return lib->addSubmission(s, clip, task, athlete_name);
      },
      [this](Result<library::SubmissionId> added) {
        if (!added) return tellImported(QString::fromStdString(added.error().sentence()));
        tellImported(tr("Added. Double click or Return opens it."));
        refresh();
        select(*added);
        table_->setFocus();
        emit somethingNew();
        if (std::exchange(receiving_again_, false)) receiveInbox();
      });
}

// What the coach chose and typed tells lift, variant, sets and load. False when what stands for the set is not
// understood: it must not be lost in silence.
bool LibraryPage::readTyped(library::Submission& s) const {
  using exchange::Field;
  const std::string set = new_load_->text().trimmed().toStdString();
  const auto said = exchange::proposedFields(s.message, s.received_on);
  const auto typed = exchange::proposedFields(set, s.received_on, displayUnits().mass);
  const auto told = [&](Field f) {
    const auto* by_coach = exchange::fieldNamed(typed, exchange::nameOf(f));
    return by_coach ? by_coach : exchange::fieldNamed(said, exchange::nameOf(f));
  };
  const auto number = [&](Field f) { return told(f) ? numberFrom(told(f)->value).value_or(0) : 0.0; };
  s.load_kg = kilogramsFrom(set, displayUnits().mass);
  if (!set.empty() && !s.load_kg && typed.empty()) return false;
  if (!s.load_kg && number(Field::Load_kg) > 0) {
    s.load_kg = number(Field::Load_kg);
    if (!told(Field::Load_kg)->sure) s.details.load_said = told(Field::Load_kg)->said;
  }
  if (number(Field::Sets) >= 1) s.details.sets_said = static_cast<int>(number(Field::Sets));
  if (number(Field::Reps) >= 1) s.details.reps_said = static_cast<int>(number(Field::Reps));
  if (number(Field::Effort) > 0) s.details.effort_said = number(Field::Effort);

  const std::string chosen_lift = new_lift_->currentData().toString().toStdString();
  const auto* lift = told(Field::Lift);
  s.lift = !chosen_lift.empty() ? chosen_lift : lift ? lift->value : std::string();
  s.details.lift_by = !chosen_lift.empty() ? library::ToldBy::Coach
                      : lift               ? library::ToldBy::Words
                                           : library::ToldBy::Nobody;
  s.variant = lifts::usualVariant(s.lift);
  if (const QString chosen = new_variant_->currentData().toString(); !chosen.isEmpty()) {
    s.variant = chosen.toStdString();
    s.details.variant_by = library::ToldBy::Coach;
  } else if (const auto* variant = told(Field::Variant); variant && !s.lift.empty()) {
    s.variant = variant->value;
    s.details.variant_by = library::ToldBy::Words;
  }
  return true;
}

void LibraryPage::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void LibraryPage::dropEvent(QDropEvent* event) {
  QStringList files;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) files << url.toLocalFile();
  if (files.isEmpty()) return;
  // One film under the name that is written above; everything else says itself whose it is.
  if (files.size() == 1 && exchange::looksLikeClip(files.front().toStdString(), {}) &&
      !new_athlete_->currentText().trimmed().isEmpty())
    return addClip(files.front());
  receive(files);
}

}  // namespace jib::desk
