// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPointer>
#include <QTimer>
#include <QWidget>
#include <array>
#include <memory>

#include "core/coaching/clip_check.h"
#include "core/exchange/intake/care.h"
#include "desk/jobs/returns.h"
#include "desk/review/player.h"
#include "desk/review/review_document.h"
#include "drawing/overlay.h"
#include "drawing/reply_writer.h"

class QAction;
class QLabel;
class QProgressBar;
class QPushButton;
class QMenu;
class QStackedWidget;
class QTabWidget;
class QHBoxLayout;
class QVBoxLayout;
class QToolButton;

namespace jib::desk {

class CuePanel;
class FindingsPanel;
class FirstLookPanel;
class KeyStrip;
class MeasuresTable;
class DrawStrip;
class FrameSource;
class HistoryPanel;
class OtherView;
class PictureWindow;
class PinPanel;
class PlacingGuide;
class Plots;
class Scrubber;
class ApproachStrip;
class SetFilms;
class SetUpStrip;
class Stage;
class TalkStrip;
class ThenPanel;
class Transport;

// The review desk for one submission: the clip, its time line and plots, the measures, what to say, what was asked
// before, and the reply. Saves after every change.
class ReviewPage : public QWidget {
  Q_OBJECT

 public:
  // `returns`: the window's, which outlive the page; without them the page has its own, which end with it.
  ReviewPage(library::Library& library, library::SubmissionId id, Returns* returns = nullptr,
             QWidget* parent = nullptr);
  ~ReviewPage() override;

  ReviewDocument& document() { return *document_; }
  Player& player() { return player_; }
  // What a reply would say and show now.
  drawing::ReplyContent replyContent() const;
  bool busy() const;
  bool settled() const;  // no job runs, and the frame under the play head is on show
  // Shows a frame with a measure's drawing on it.
  void showEvidence(double t_s, lifts::Drawing drawing);
  // The whole set without lines and numbers, until the coach asks for them.
  void startFirstLook();
  // Opens at the frame of that time rather than where the coach left off.
  void startAt(double t_s);
  bool firstLook() const { return first_look_; }
  // Writes the reply without asking for a folder.
  void writeReplyTo(const QString& folder);
  // Writes the reply into the library and a ready message with it into the outbox.
  bool returnByMail();
  // The same, and the next submission is asked for as soon as it is on its way.
  void returnAndNext();
  // Writes the reply aside and shows it as the athlete will see it.
  void preview();
  // How the clip's picture is set right, and from where it is filmed, decide what is traced in it: it is opened anew.
  void setUpright(const footage::Upright& to);
  void setSeenFrom(const std::string& view);
  // Takes such a change back, on the page that was opened for it.
  using TakeBack = std::function<void(ReviewPage&)>;
  void canTakeBack(const QString& title, const TakeBack& back);  // by undo
  // The frame on show as a picture; where to is asked, unless it is told.
  void saveStill(const QString& to = {});
  // The rep under the play head as a clip of its own, as it is on the stage.
  void saveStretch(const QString& to = {});
  // What the keys here do, for the sheet that lists them.
  const QList<QAction*>& listedActions() const { return listed_; }
  void say(const QString& sentence, bool trouble);
  // The wordings to choose from are read again: the coach's own book has changed.
  void offerWordings();
  // The stage gets the keys.
  void takeKeys();
  // The window never grows past the screen for what is opened here.
  QSize minimumSizeHint() const override { return {1040, 520}; }

 signals:
  void leaveRequested();
  void outboxRequested();
  void answerRequested(qlonglong submission);
  void viewRequested(qlonglong submission, const QString& claim);  // a film that shows what this one doesn't
  void reopenRequested(qlonglong submission);
  void clipChanged(qlonglong submission, const QString& title, const jib::desk::ReviewPage::TakeBack& back);
  void nextRequested(qlonglong after);
  void ready();  // traced, judged, first frame shown
  void replyWritten(const QString& folder);
  void replyPosted(const QString& file);
  void trouble(const QString& sentence);

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void changeClip(const QString& title, const std::function<Result<bool>()>& change, const TakeBack& back);
  bool load(library::SubmissionId id);
  void buildActions();
  void buildPlayActions();
  void buildReviewActions();
  void buildPictures(QVBoxLayout& column);
  void buildLayout();
  QWidget* buildHeader();
  QWidget* buildTransport();
  QWidget* buildSide();
  void buildReturning(QVBoxLayout& column);
  void connectDocument();
  QAction* action(const QString& name, const QString& text, const QList<QKeySequence>& keys, std::function<void()> run);

  void openClip();
  void clipOpened(const footage::ClipInfo& info);
  void showOpinion();  // what one coach asked another about this clip
  void playTrimmed();  // what the coach trimmed off the ends is not played
  QString placeFor(const QString& told, const QString& title, const QString& ending, const QString& kinds);
  void askUpright();
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
  // `fresh`: it was traced now, and not read from the library.
  void analysisArrived(Result<coaching::Analysis> result, bool fresh = true);
  void keepAnalysis(std::shared_ptr<const coaching::Analysis> a, bool fresh);
  void showFrame(std::size_t frame);
  void followPlayHead();
  void refreshMeta();
  void refreshNumbers();
  void nameMoments();  // after the events of the lift
  void showWhatShowedBefore();
  void refreshFollowUp();
  std::vector<library::CueThread> earlierThreads() const;
  void showMeasured();
  void applyFirstLook();
  void buildMeasures();
  void buildMenus(QHBoxLayout& row);
  void addLine(const QString& text, const QString& tip, bool drawing::OverlayChoice::*field);
  QAction* toggle(const QString& name, const QString& text, QKeySequence key, bool on, std::function<void(bool)> run);
  void setLines(bool on);
  void followBar(bool on);
  void showMirror(bool on);
  void showThen(bool on);
  void editRules(const QString& id);
  void moveLimit(const std::string& finding, std::optional<double> to);
  void refreshFraming();
  std::string deskState() const;
  void restoreDesk();
  void markByEye(const QString& check, int rep);
  void addOwnCheck();
  void setDrawing(bool on);
  void setTalking(bool on);
  void countTakes();
  void followDrawn(const coaching::Shape& shape);
  void watchOnly(const QString& why);
  void refreshReply();
  void startPlacing();
  void acceptProposal();
  void takeAsVertical(const coaching::Shape& line);
  void setRoll(std::optional<double> roll_deg);
  void moveFoot(PixelPoint heel, PixelPoint toe, bool finished);
  void setPointing(bool on);
  void setPicturesApart(bool on);
  void pointAtLifter(PixelPoint at);
  void setLifter(const std::optional<tracing::PointedAt>& lifter);
  void placeAt(const tracing::PointName& point, PixelPoint at, int gesture);
  void nudge(int dx, int dy);
  void askFolderAndReply();
  review::Surroundings surroundings() const;
  std::optional<review::ReplyDraft> draft();
  bool askBeforeStrain();
  bool askBeforeSecond();
  void returning();
  void returned(qlonglong submission, int revision, const QString& what);
  void connectReturns();
  void refreshBusy();
  std::vector<JobRunner*> lanes();
  void learnWhoWrote();
  void showClaims();
  std::optional<coaching::ClipCheck> storedCheck();
  bool filmedAcross();
  void setOtherLarge(bool large);
  void placeOtherView();
  void keepSubmission();
  void notKept(const Error& why);
  void saveSoon();
  bool save();
  void saveAside();
  library::Review reviewNow() const;

  library::Library& library_;
  std::unique_ptr<ReviewDocument> document_;
  std::unique_ptr<FrameSource> frames_;
  Player player_;
  JobRunner jobs_{Lane::Replace};     // looking at the clip and tracing it: the newest is wanted
  JobRunner following_{Lane::Queue};  // drawings, each of them
  JobRunner previewing_{Lane::Replace};
  JobRunner keeping_{Lane::Queue};  // what was traced
  JobRunner keeping_stretch_{Lane::Queue};
  Returns* returns_;
  std::shared_ptr<review::Keeper> keeper_;  // of the review in this window
  JobRunner saving_{Lane::Queue};
  bool save_again_ = false;  // something changed while it was being saved
  QTimer save_timer_;
  std::vector<library::CueThread> threads_;
  std::string address_;   // of the athlete; empty when none is known
  QString strain_asked_;  // the question about a cue that strains, once it has been put
  int drag_gesture_ = 0;
  bool first_look_ = false;
  bool given_up_ = false;  // the clip is opened anew: what is here must not be kept over what is stored
  footage::Upright upright_;
  footage::PictureSize as_it_came_;  // empty until the clip could be read
  std::optional<footage::ClipInfo> clip_info_;
  std::optional<QString> watch_once_opened_;  // nothing is traced, and why; the clip is not opened yet
  bool second_asked_ = false;                 // whether to send a second reply
  drawing::OverlayChoice lines_;              // those that are on while lines are shown
  std::string stored_desk_;                   // how the desk stood when this was closed last
  double stored_head_s_ = 0;
  std::optional<double> start_at_;
  std::optional<std::size_t> looked_for_set_;  // whose body was traced or asked for
  std::optional<tracing::PointName> last_placed_;
  std::vector<double> bar_pins_;  // times and places the bar was last traced from, one after the other

  Stage* stage_ = nullptr;
  Scrubber* scrubber_ = nullptr;
  Plots* plots_ = nullptr;
  PlacingGuide* guide_ = nullptr;
  DrawStrip* draw_strip_ = nullptr;
  TalkStrip* talk_ = nullptr;
  QPushButton* preview_ = nullptr;
  std::optional<int> reps_said_;  // by the message or by the coach
  QToolButton *draw_ = nullptr, *talk_button_ = nullptr;
  SetUpStrip* set_up_ = nullptr;
  ApproachStrip* approach_ = nullptr;
  QToolButton* meta_ = nullptr;
  QToolButton* sides_ = nullptr;
  QTabWidget* tabs_ = nullptr;
  QStackedWidget* side_ = nullptr;  // the tabs, or the first look
  FindingsPanel* findings_ = nullptr;
  FirstLookPanel* first_ = nullptr;
  MeasuresTable* measures_ = nullptr;
  KeyStrip* strip_ = nullptr;
  OtherView* mirror_ = nullptr;  // the other half of the rep, at the same height of the bar
  QMenu* lines_menu_ = nullptr;
  std::vector<std::pair<QAction*, bool drawing::OverlayChoice::*>> line_entries_;
  QAction *lines_on_ = nullptr, *lifter_framed_ = nullptr, *follow_ = nullptr, *mirror_on_ = nullptr,
          *then_on_ = nullptr, *strip_on_ = nullptr, *plots_on_ = nullptr, *backward_ = nullptr, *first_on_ = nullptr;
  Transport* transport_ = nullptr;
  QPushButton* then_next_button_ = nullptr;
  QWidget* returning_ = nullptr;  // the buttons that send
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
  QVBoxLayout* opinion_place_ = nullptr;
  QWidget* left_ = nullptr;  // stage, time line and plots: where plain letters act
  QToolButton* other_ = nullptr;
  OtherView* other_view_ = nullptr;
  bool other_large_ = false;
  ThenPanel* then_ = nullptr;      // an earlier film beside this one
  SetFilms* films_ = nullptr;      // the same set from other sides
  QPointer<PictureWindow> apart_;  // the picture's own, on a second monitor
  QLabel* elsewhere_ = nullptr;    // in its place meanwhile
  QAction* apart_on_ = nullptr;
  QHBoxLayout* pictures_ = nullptr;   // the stage, and the other film beside it when that is large
  QString menu_;                      // heading under which the actions made now stand
  QList<QAction*> listed_;            // those "?" shows
  static constexpr int kMoments = 8;  // kinds that a lift names, at most
  std::array<QAction*, kMoments> moments_{};
};

}  // namespace jib::desk
