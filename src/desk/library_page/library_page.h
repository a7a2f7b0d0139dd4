// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFileSystemWatcher>
#include <QUndoStack>
#include <QWidget>
#include <optional>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"
#include "desk/library_page/watched_folders.h"

class QAction;
class QComboBox;
class QFrame;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QTabWidget;
class QTableView;
class QVBoxLayout;

namespace jib::desk {

class AthletePanel;
class ClipPictures;
class HistoryPanel;
class QueueFilter;
class SubmissionPanel;
class SubmissionsModel;
class TwoLineDelegate;

// Where the coach starts: the queue of submissions, what is known of the one chosen, and what comes in.
class LibraryPage : public QWidget {
  Q_OBJECT

 public:
  explicit LibraryPage(library::Library& library, QWidget* parent = nullptr);
  ~LibraryPage() override;

  void refresh();
  void chooseAthlete(std::optional<library::AthleteId> id);
  void showAthlete(library::AthleteId id);  // their rows, and their page beside them
  // Copies a clip in, under the athlete named above; what the file dialog and a drop end in.
  void addClip(const QString& file);
  // Takes in mail, films, folders of films.
  void receive(const QStringList& sources);
  // The Maildir that is watched, inside the library.
  QString inbox() const;
  // Shown beside what this page itself has to say.
  void say(const QString& sentence);
  bool busy() const { return jobs_.busy(); }
  void select(library::SubmissionId id);
  // What a coach would open after `id`: the next row below it, then from the top, whose film waits for an answer.
  std::optional<library::SubmissionId> nextAfter(library::SubmissionId id) const;
  // The chosen clip is somebody else's: it goes to them, with the other films of its set. Undoable.
  void giveTo(library::AthleteId athlete);
  // A clip was traced: it is pictured anew.
  void picture(library::SubmissionId id);
  bool picturing() const;
  // Clips kept as long as agreed are listed, and go only once the coach says so.
  void showDueFilms();
  // Chooses a row and begins an answer to it.
  void answer(library::SubmissionId id);
  // The same to a letter that asks for the view in which something shows, by the claim's id (coaching::Claim).
  void askToShow(library::SubmissionId id, const QString& claim);
  // What the keys here do, for the sheet that lists them.
  const QList<QAction*>& listedActions() const { return listed_; }
  QSize minimumSizeHint() const override { return {900, 480}; }  // the window never grows past the screen for it
  // Who the coach is, units, how clips open and how athletes are judged.
  void openSettings();
  void setBackground(const QString& text, double fraction);
  void setBackgroundStopped();

 signals:
  void openRequested(qlonglong submission);
  void openAtRequested(qlonglong submission, double t_s);
  void outboxRequested();
  void rosterRequested();
  void returnAgainRequested(qlonglong submission);  // a reply that was on its way when the program ended
  void nightRequested();
  void helpRequested();
  void settingsChanged();              // units may have, everywhere
  void somethingNew();                 // clips nobody has looked at
  void backgroundWanted(bool wanted);  // to go on looking at clips, or to stop

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void buildLayout();
  void connectHistory();
  QWidget* buildWelcome();
  QWidget* buildAddRow();
  QWidget* buildFilterRow();
  QWidget* buildTable();
  void buildKeys();
  void buildFoot(QVBoxLayout& column);
  void watchInbox();
  void receiveInbox();
  void afterCue(const Result<bool>& done, const QString& sentence);
  void receiveFound(const QString& folder, const std::vector<exchange::FoundFilm>& films);
  void tellReceived(const Result<exchange::Received>& received);
  void tellImported(const QString& text);
  void filter();
  void offerMine(bool several);  // of several coaches, one can see what waits for them alone
  void showChosen();
  void open(const QModelIndex& index);
  void setState(library::SubmissionState state, const QString& reason = {});
  static QString whyNot(const library::Submission& s, library::SubmissionState to);
  void showPictures(bool on);
  void chooseRow(int row);
  std::vector<library::SubmissionId> selected() const;  // at least the current one, in the order of the rows
  void skip();
  void askWhose();
  void countOutbox();
  void countDue();
  QWidget* buildDue();
  QWidget* buildUnfinished();
  void showUnfinished();
  bool readTyped(library::Submission& s) const;
  std::optional<library::AthleteId> chosen() const;
  std::optional<library::SubmissionId> current() const;

  library::Library& library_;
  JobRunner jobs_{Lane::Queue};
  QFileSystemWatcher watcher_;
  WatchedFolders watched_;
  QUndoStack undo_;
  ClipPictures* pictures_;
  SubmissionsModel* model_;
  QueueFilter* proxy_;
  std::vector<TwoLineDelegate*> two_lines_;  // that hold two columns while pictures are shown
  QComboBox* show_ = nullptr;
  QListWidget* athletes_ = nullptr;
  QTableView* table_ = nullptr;
  QTabWidget* side_ = nullptr;
  SubmissionPanel* submission_ = nullptr;
  AthletePanel* athlete_ = nullptr;
  HistoryPanel* history_ = nullptr;
  QLabel* status_ = nullptr;
  QLabel* empty_ = nullptr;
  QLabel* background_ = nullptr;
  QPushButton* stop_background_ = nullptr;
  QProgressBar* progress_ = nullptr;
  QPushButton* cancel_ = nullptr;
  QPushButton* outbox_ = nullptr;
  QFrame* welcome_ = nullptr;
  QFrame* due_ = nullptr;  // says how many clips are due to go
  QLabel* due_words_ = nullptr;
  QFrame* unfinished_ = nullptr;  // says which reply was on its way when the program ended
  QLabel* unfinished_words_ = nullptr;
  QList<QAction*> listed_;
  QString waiting_clip_;  // chosen, and its athlete not yet named
  QComboBox* new_athlete_ = nullptr;
  QComboBox* new_lift_ = nullptr;
  QComboBox* new_variant_ = nullptr;
  QLineEdit* new_load_ = nullptr;
  QLineEdit* new_message_ = nullptr;
  bool receiving_again_ = false;
  QString imported_;  // what the imports that run one after the other have said so far
  bool background_stopped_ = false;
};

}  // namespace jib::desk
