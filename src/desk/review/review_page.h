// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTimer>
#include <QWidget>
#include <memory>

#include "core/coaching/clip_check.h"
#include "core/exchange/intake/care.h"
#include "desk/jobs/job_runner.h"
#include "desk/review/player.h"
#include "desk/review/review_document.h"
#include "drawing/reply_writer.h"

class QAction;
class QLabel;
class QProgressBar;
class QPushButton;
class QTableView;
class QTabWidget;
class QVBoxLayout;
class QToolButton;

namespace jib::desk {

class CuePanel;
class DrawStrip;
class FrameSource;
class HistoryPanel;
class MeasuresModel;
class OtherView;
class PinPanel;
class PlacingGuide;
class Plots;
class Scrubber;
class ApproachStrip;
class SetUpStrip;
class Stage;

// The review desk for one submission: the clip, its time line and plots, the measures, what to say, what was asked
// before, and the reply. Saves after every change.
class ReviewPage : public QWidget {
  Q_OBJECT

 public:
  ReviewPage(library::Library& library, library::SubmissionId id, QWidget* parent = nullptr);
  ~ReviewPage() override;

  ReviewDocument& document() { return *document_; }
  Player& player() { return player_; }
  bool busy() const { return jobs_.busy(); }
  bool settled() const;  // no job runs, and the frame under the play head is on show
  // Shows a frame with a measure's drawing on it.
  void showEvidence(double t_s, lifts::Drawing drawing);
  // Writes the reply without asking for a folder.
  void writeReplyTo(const QString& folder);
  // Writes the reply into the library and a ready message with it into the outbox.
  void returnByMail();
  // Writes the reply aside and shows it as the athlete will see it.
  void preview();
  // What the keys here do, for the sheet that lists them.
  const QList<QAction*>& listedActions() const { return listed_; }
  void say(const QString& sentence, bool trouble);
  // The stage gets the keys.
  void takeKeys();
  // The window never grows past the screen for what is opened here.
  QSize minimumSizeHint() const override { return {1040, 520}; }

 signals:
  void leaveRequested();
  void outboxRequested();
  void answerRequested(qlonglong submission);
  void reopenRequested(qlonglong submission);
  void ready();  // traced, judged, first frame shown
  void replyWritten(const QString& folder);
  void replyPosted(const QString& file);
  void trouble(const QString& sentence);

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  bool load(library::SubmissionId id);
  void buildActions();
  void buildLayout();
  QWidget* buildHeader();
  QWidget* buildTransport();
  QWidget* buildSide();
  void buildReturning(QVBoxLayout& column);
  void connectDocument();
  QAction* action(const QString& name, const QString& text, const QList<QKeySequence>& keys, std::function<void()> run);

  void openClip();
  void lookFirst();
  void openTraced();
  bool judges();
  void showNotJudged();
  void makeRoom();
  void traceBar();
  void traceBody();
  void traceAgainIfBarMoved();
  void askForPlate();
  void traceSetIfMissing();
  void analysisArrived(Result<coaching::Analysis> result);
  void showFrame(std::size_t frame);
  void followPlayHead();
  void refreshMeta();
  void refreshNumbers();
  void showWhatShowedBefore();
  void refreshFollowUp();
  std::vector<library::CueThread> earlierThreads() const;
  void jumpEvent(int direction);
  void jumpRep(int direction);
  void loopCurrentRep();
  void markByEye(const QString& check, int rep);
  void addOwnCheck();
  void setDrawing(bool on);
  void followDrawn(const coaching::Shape& shape);
  void watchOnly(const QString& why);
  void refreshReply();
  void startPlacing();
  void acceptProposal();
  void placeAt(tracing::Landmark landmark, PixelPoint at, int gesture);
  void nudge(int dx, int dy);
  void askFolderAndReply();
  void writeReply(const QString& folder, std::function<void(const drawing::ReplyFiles&)> then);
  bool recordReply();
  Result<bool> rememberBody();
  void post(const drawing::ReplyFiles& files);
  void learnWhoWrote();
  void showClaims();
  std::optional<coaching::ClipCheck> storedCheck();
  bool filmedAcross();
  void openPair();
  void placeOtherView();
  void keepSubmission();
  void saveSoon();
  void save();
  drawing::ReplyContent replyContent() const;
  std::string filmNext() const;

  library::Library& library_;
  std::unique_ptr<ReviewDocument> document_;
  std::unique_ptr<FrameSource> frames_;
  Player player_;
  JobRunner jobs_;
  QTimer save_timer_;
  std::vector<library::CueThread> threads_;
  std::string address_;  // of the athlete; empty when none is known
  exchange::Care care_;
  int drag_gesture_ = 0;
  bool loop_rep_ = true;
  std::optional<std::size_t> looked_for_set_;  // whose body was traced or asked for
  std::optional<tracing::Landmark> last_placed_;
  std::vector<double> bar_pins_;  // times and places the bar was last traced from, one after the other

  Stage* stage_ = nullptr;
  Scrubber* scrubber_ = nullptr;
  Plots* plots_ = nullptr;
  PlacingGuide* guide_ = nullptr;
  DrawStrip* draw_strip_ = nullptr;
  QPushButton* preview_ = nullptr;
  std::optional<int> reps_said_;  // by the message or by the coach
  QToolButton* draw_ = nullptr;
  SetUpStrip* set_up_ = nullptr;
  ApproachStrip* approach_ = nullptr;
  QToolButton* meta_ = nullptr;
  QToolButton* sides_ = nullptr;
  QTabWidget* tabs_ = nullptr;
  QTableView* table_ = nullptr;
  MeasuresModel* measures_ = nullptr;
  CuePanel* cues_ = nullptr;
  HistoryPanel* history_ = nullptr;
  PinPanel* pins_ = nullptr;
  QLabel* status_ = nullptr;
  QLabel* camera_ = nullptr;
  QProgressBar* progress_ = nullptr;
  QPushButton* cancel_ = nullptr;
  QPushButton* place_ = nullptr;
  QPushButton* reply_ = nullptr;
  QPushButton* to_folder_ = nullptr;
  QLabel* why_not_ = nullptr;  // why nothing can be returned yet
  QVBoxLayout* lift_place_ = nullptr;
  QWidget* left_ = nullptr;  // stage, time line and plots: where plain letters act
  QToolButton* other_ = nullptr;
  OtherView* other_view_ = nullptr;
  QToolButton* play_ = nullptr;
  QList<QAction*> listed_;  // those "?" shows
};

}  // namespace jib::desk
