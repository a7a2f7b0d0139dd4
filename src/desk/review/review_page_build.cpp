// SPDX-License-Identifier: GPL-3.0-or-later
// How the review page is put together: its header, transport, side and actions. What it does is in review_page.cpp.
#include <QAction>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QSplitter>
#include <QStackedWidget>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/base/quantity.h"
#include "core/library/dates.h"
#include "desk/library_page/lift_card.h"
#include "desk/library_page/turn_card.h"
#include "desk/review/approach_strip.h"
#include "desk/review/commands/change_approach.h"
#include "desk/review/cue_panel.h"
#include "desk/review/draw_strip.h"
#include "desk/review/findings_panel.h"
#include "desk/review/first_look_panel.h"
#include "desk/review/history_panel.h"
#include "desk/review/key_strip.h"
#include "desk/review/measures_model.h"
#include "desk/review/measures_table.h"
#include "desk/review/other_view.h"
#include "desk/review/pin_panel.h"
#include "desk/review/placing_guide.h"
#include "desk/review/plots.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/set_films.h"
#include "desk/review/set_up_strip.h"
#include "desk/review/stage.h"
#include "desk/review/then_panel.h"
#include "desk/review/transport.h"
#include "desk/talk/talk_strip.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/elided_button.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
QWidget* ReviewPage::buildHeader() {
  // long because a layout, one widget after the other
  auto* bar = new QFrame;
  bar->setObjectName(QStringLiteral("bar"));
  auto* row = new QHBoxLayout(bar);
  row->setContentsMargins(10, 5, 10, 5);
  auto* back = new QPushButton(tr("‹ Submissions"));
  back->setObjectName(QStringLiteral("back"));
  back->setToolTip(tr("Back to the queue; everything is saved"));
  connect(back, &QPushButton::clicked, this, &ReviewPage::leaveRequested);
  auto* name = plainLabel(q(document_->athlete().name));
  name->setObjectName(QStringLiteral("title"));
  meta_ = new ElidedButton;
  meta_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
  meta_->setObjectName(QStringLiteral("meta"));
  meta_->setCheckable(true);
  meta_->setToolTip(tr("Variation, load, plate size, slow motion: see and change (I)"));
  connect(meta_, &QToolButton::toggled, this, [this](bool on) {
    set_up_->setVisible(on);
    makeRoom();
  });
  refreshMeta();
  auto* style = new QComboBox;
  style->setObjectName(QStringLiteral("style"));
  style->setToolTip(tr("Coaching style: changes limits and calls, never the numbers"));
  for (const auto& one : document_->styles().styles()) {
    style->addItem(q(one.title), q(one.id));
    style->setItemData(style->count() - 1, q(one.why), Qt::ToolTipRole);
  }
  const auto shown = [this, style] {
    const QSignalBlocker quiet(style);
    style->setCurrentIndex(style->findData(q(document_->approach().style)));
  };
  shown();
  connect(document_.get(), &ReviewDocument::approachChanged, style, shown);
  connect(style, &QComboBox::currentIndexChanged, this, [this, style] {
    Approach to = document_->approach();
    to.style = style->currentData().toString().toStdString();
    document_->undoStack().push(new ChangeApproach(*document_, tr("change the style"), std::move(to)));
  });
  sides_ = new QToolButton;
  sides_->setObjectName(QStringLiteral("sides"));
  sides_->setCheckable(true);
  sides_->setToolTip(tr("What good coaches disagree about, and your choice for this athlete (Y)"));
  connect(sides_, &QToolButton::toggled, this, [this](bool on) {
    approach_->setVisible(on);
    makeRoom();
  });
  const auto counted = [this] {
    const auto count = document_->approach().sides.size();
    sides_->setText(count == 0   ? tr("Preferences  ✎")
                    : count == 1 ? tr("1 preference  ✎")
                                 : tr("%1 preferences  ✎").arg(count));
  };
  counted();
  connect(document_.get(), &ReviewDocument::approachChanged, sides_, counted);
  row->addWidget(back);
  row->addSpacing(8);
  row->addWidget(name);
  row->addWidget(meta_);
  row->addStretch();
  row->addWidget(words(tr("Style"), true));
  row->addWidget(style);
  row->addWidget(sides_);
  return bar;
}

void ReviewPage::refreshMeta() {
  const auto& s = document_->submission();
  const QString load = s.load_kg ? q(massText(*s.load_kg)) : tr("load missing");
  QString text = tr("%1 · %2 · received %3").arg(liftText(s), load, q(library::spoken(s.received_on)));
  if (s.plate_mm != 450) text += tr(" · plate %1 mm").arg(s.plate_mm);
  if (s.slow_factor != 1) text += tr(" · %1 × slow").arg(s.slow_factor);
  meta_->setText(text + QStringLiteral("  ✎"));
}

// A line of the picture that can be left out, as an entry of the menu of lines.
void ReviewPage::addLine(const QString& text, const QString& tip, bool drawing::OverlayChoice::*field) {
  // Who lies on a bench has no mid-foot to be over, and no lean.
  const bool standing = field == &drawing::OverlayChoice::mid_foot || field == &drawing::OverlayChoice::angles;
  if (standing && document_->lift().body.lying) return;
  if (field == &drawing::OverlayChoice::depth && !document_->lift().draws(lifts::Drawing::Depth)) return;
  QAction* line = lines_menu_->addAction(text);
  line->setObjectName(QStringLiteral("line_") + text);
  line->setToolTip(tip);
  line->setCheckable(true);
  line->setChecked(lines_.*field);
  // From the front both sides are drawn as one; nothing else is there to switch.
  line->setProperty("ofSideView", field != &drawing::OverlayChoice::segments);
  line_entries_.emplace_back(line, field);
  connect(line, &QAction::toggled, this, [this, field](bool on) {
    lines_.*field = on;
    setLines(true);
  });
}

QWidget* ReviewPage::buildTransport() {
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  transport_ = new Transport(*document_, player_);
  row->addWidget(transport_);
  row->addSpacing(8);
  buildMenus(*row);
  other_ = new QToolButton;
  other_->setObjectName(QStringLiteral("otherView"));
  other_->setText(tr("Second camera"));
  other_->setProperty("narrow", true);
  other_->setToolTip(tr("The second camera at the same moment (O)"));
  other_->setCheckable(true);
  other_->hide();
  connect(other_, &QToolButton::toggled, this, [this](bool on) {
    other_view_->setVisible(on);
    placeOtherView();
    other_view_->follow(player_.time());
  });
  row->addWidget(other_);
  row->addStretch();
  draw_ = new QToolButton;
  draw_->setObjectName(QStringLiteral("draw"));
  draw_->setText(tr("✎ Draw"));
  draw_->setProperty("narrow", true);
  draw_->setToolTip(tr("Lines, angles, arrows, rings, words on the clip (D)"));
  draw_->setCheckable(true);
  connect(draw_, &QToolButton::clicked, this, &ReviewPage::setDrawing);
  row->addWidget(draw_);
  talk_button_ = new QToolButton;
  talk_button_->setObjectName(QStringLiteral("talk"));
  talk_button_->setProperty("narrow", true);
  talk_button_->setToolTip(tr("Record what you say over the clip, a chapter at a time (Shift+V)"));
  talk_button_->setCheckable(true);
  connect(talk_button_, &QToolButton::clicked, this, &ReviewPage::setTalking);
  row->addWidget(talk_button_);
  countTakes();
  place_ = new QPushButton(tr("Place points"));
  place_->setObjectName(QStringLiteral("place"));
  place_->setToolTip(tr("Toe, heel, ankle, knee, hip and shoulder, once, on a still frame (P)"));
  connect(place_, &QPushButton::clicked, this, &ReviewPage::startPlacing);
  row->addWidget(place_);
  return box;
}

QAction* ReviewPage::toggle(const QString& name, const QString& text, QKeySequence key, bool on,
                            std::function<void(bool)> run) {
  auto* a = action(name, text, {std::move(key)}, [] {});
  a->setCheckable(true);
  a->setChecked(on);
  connect(a, &QAction::toggled, this, std::move(run));
  return a;
}

// Which lines are drawn, and what is on show beside the clip.
void ReviewPage::buildMenus(QHBoxLayout& row) {
  // long because one entry after the other
  menu_ = tr("View");
  const auto button = [&](const char* name, const QString& text, const QString& tip) {
    auto* b = new QToolButton;
    b->setObjectName(QString::fromLatin1(name));
    b->setText(text);
    b->setToolTip(tip);
    b->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(b);
    menu->setToolTipsVisible(true);
    b->setMenu(menu);
    row.addWidget(b);
    return menu;
  };
  lines_ = stage_->choice();
  using C = drawing::OverlayChoice;
  lines_menu_ = button("lines", tr("Lines"), tr("Which lines are drawn on the clip (X: all or none)"));
  lines_on_ = toggle("linesAction", tr("Lines on the clip"), Qt::Key_X, true, [this](bool on) { setLines(on); });
  lines_menu_->addAction(lines_on_);
  lines_menu_->addSeparator();
  addLine(tr("Path"), tr("Bar path: blue down, amber up"), &C::bar_path);
  addLine(tr("Mid-foot"), tr("Vertical line through mid-foot"), &C::mid_foot);
  addLine(tr("Body"), tr("Foot, shin, thigh, torso"), &C::segments);
  addLine(tr("Angles"), tr("Shin and torso angle"), &C::angles);
  addLine(tr("Depth"), tr("Hip crease against the top of the knee, in the hole"), &C::depth);
  addLine(tr("Raw"), tr("What was seen frame by frame, before fitting: joints as crosses, and the outline"), &C::seen);
  auto* view = button("view", tr("View"), tr("Framing, and what's next to the clip"));
  lifter_framed_ = toggle("framingAction", tr("Zoom on lifter"), Qt::Key_F, true, [this](bool on) {
    stage_->setFraming(on ? StageView::Framing::Lifter : StageView::Framing::Whole);
  });
  follow_ = toggle("followAction", tr("Follow the bar, or the last point placed"), Qt::Key_H, false,
                   [this](bool on) { followBar(on); });
  mirror_on_ = toggle("mirrorAction", tr("Down beside up, at the same bar height"), Qt::Key_G, false,
                      [this](bool on) { showMirror(on); });
  then_on_ = toggle("thenAction", tr("Then beside now: an earlier clip of theirs"), QKeySequence(Qt::SHIFT | Qt::Key_G),
                    false, [this](bool on) { showThen(on); });
  QSettings settings;
  strip_on_ = toggle("stripAction", tr("Key frames of every rep"), Qt::Key_C,
                     settings.value(QStringLiteral("keyFrames"), true).toBool(), [this](bool on) {
                       QSettings().setValue(QStringLiteral("keyFrames"), on);
                       makeRoom();
                     });
  plots_on_ = toggle("plotsAction", tr("Plots: speed, torso angle, all reps over one another"), Qt::Key_U,
                     settings.value(QStringLiteral("plots"), false).toBool(), [this](bool on) {
                       QSettings().setValue(QStringLiteral("plots"), on);
                       makeRoom();
                     });
  first_on_ = action("firstLookAction", tr("First look again: no lines, no numbers"), {QKeySequence(Qt::Key_0)},
                     [this] { startFirstLook(); });
  auto* upright = action("uprightAction", tr("Fix the picture: turn, mirror, stretch, pick a shot"),
                         {QKeySequence(Qt::CTRL | Qt::Key_T)}, [this] { askUpright(); });
  apart_on_ = toggle("apartAction", tr("Clip in its own window, for a second monitor"), Qt::Key_F8, false,
                     [this](bool on) { setPicturesApart(on); });
  auto* point = action("pointAction", tr("Point at the lifter among others"), {QKeySequence(Qt::CTRL | Qt::Key_L)},
                       [this] { stage_->hasPicture() ? setPointing(!stage_->pointing()) : void(); });
  for (QAction* a :
       {lifter_framed_, follow_, mirror_on_, then_on_, strip_on_, plots_on_, first_on_, apart_on_, upright, point})
    view->addAction(a);
  if (document_->submission().details.lifter)
    view->addAction(action("anybodyAction", tr("Auto: find the lifter"), {}, [this] { setLifter({}); }));
}

void ReviewPage::offerWordings() {
  if (!document_ || !cues_) return;
  if (auto said = library_.saidBefore(document_->athlete().id)) cues_->setSaidBefore(std::move(*said));
}

QWidget* ReviewPage::buildSide() {
  // long because a layout, one widget after the other
  auto* side = new QWidget;
  leastTextWidth(side, 340);
  side->setFocusPolicy(Qt::ClickFocus);  // a click that misses a field takes the keys off the stage
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  const QString message = q(document_->submission().message);
  if (!message.isEmpty()) {
    auto* card = new QFrame;
    card->setObjectName(QStringLiteral("card"));
    auto* box = new QVBoxLayout(card);
    box->setContentsMargins(10, 6, 10, 6);
    // A long message scrolls in its place.
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* text = words(QStringLiteral("“%1”").arg(message));
    scroll->setWidget(text);
    constexpr int kLines = 4;
    const int lines = static_cast<int>(message.size()) / 52 + static_cast<int>(message.count(QLatin1Char('\n'))) + 1;
    // Whole lines only: half of the next one would look like a fault of the print.
    const int spare = lines > kLines ? 0 : 4;
    scroll->setFixedHeight(std::min(lines, kLines) * text->fontMetrics().lineSpacing() + spare);
    box->addWidget(scroll);
    column->addWidget(card);
  }
  lift_place_ = new QVBoxLayout;
  column->addLayout(lift_place_);
  for (const auto& sentence :
       exchange::careForCoach(document_->session().care(), exchange::firstNameOf(document_->athlete().name))) {
    auto* label = words(q(sentence));
    label->setObjectName(QStringLiteral("care"));
    setTone(label, "bad");
    column->addWidget(label);
  }
  opinion_place_ = new QVBoxLayout;
  column->addLayout(opinion_place_);
  showOpinion();
  tabs_ = new QTabWidget;
  tabs_->setObjectName(QStringLiteral("tabs"));
  tabs_->setDocumentMode(true);
  findings_ = new FindingsPanel(*document_);
  buildMeasures();
  cues_ = new CuePanel(*document_);
  cues_->setClock([this] { return player_.time(); });
  offerWordings();
  history_ = new HistoryPanel;
  const auto afterCue = [this](const Result<bool>& done, const QString& sentence) {
    if (!done) return say(q(done.error().sentence()), true);
    if (auto fresh = library_.threads(document_->submission().athlete)) threads_ = *fresh;
    document_->analysis() && document_->analysis()->isTraced() ? refreshFollowUp()
                                                               : history_->setThreads(earlierThreads());
    say(sentence, false);
  };
  connect(history_, &HistoryPanel::dropRequested, this, [this, afterCue](qlonglong thread, const QString& why) {
    afterCue(library_.dropThread(library::CueThreadId(thread), why.toStdString()),
             tr("Dropped. It can be taken up again."));
  });
  connect(
      history_, &HistoryPanel::resumeRequested, this,
      [this, afterCue](qlonglong thread) {
        afterCue(library_.resumeThread(library::CueThreadId(thread)), tr("Back on the list."));
      },
      Qt::QueuedConnection);
  connect(
      history_, &HistoryPanel::pauseRequested, this,
      [this, afterCue](qlonglong thread, const QString& why) {
        afterCue(library_.pauseThread(library::CueThreadId(thread), why.toStdString()),
                 tr("Paused. “Take up again” brings it back."));
      },
      Qt::QueuedConnection);
  connect(history_, &HistoryPanel::settleRequested, this, [this, afterCue](qlonglong thread, int state) {
    const auto to = static_cast<library::ThreadState>(state);
    afterCue(library_.settleThread(library::CueThreadId(thread), to, document_->submission().id),
             to == library::ThreadState::NotYet
                 ? tr("Noted. Time for a doctor or physical therapist: the letter is under “Answer” in the queue.")
                 : tr("Noted."));
  });
  history_->setTitles([this](const std::string& finding) { return document_->book().titleOf(finding); });
  tabs_->addTab(findings_, tr("Findings"));
  tabs_->addTab(cues_, tr("Reply"));
  tabs_->addTab(history_, tr("Previous cues"));
  pins_ = new PinPanel(*document_);
  tabs_->addTab(pins_, tr("Points"));
  tabs_->addTab(measures_, tr("Measures"));
  const auto count_cues = [this] {
    const auto n = document_->choice().cues.size();
    tabs_->setTabText(1, n > 0 ? tr("Reply (%1)").arg(n) : tr("Reply"));
  };
  connect(document_.get(), &ReviewDocument::choiceChanged, this, count_cues);
  count_cues();
  connect(pins_, &PinPanel::timeRequested, this, [this](double t) {
    player_.pause();
    stage_->setEvidence(std::nullopt);
    player_.goTo(t);
  });
  const auto count_pins = [this] {
    tabs_->setTabText(3, pins_->count() > 0 ? tr("Points (%1)").arg(pins_->count()) : tr("Points"));
  };
  connect(document_.get(), &ReviewDocument::pinsChanged, this, count_pins);
  count_pins();
  first_ = new FirstLookPanel(*document_);
  side_ = new QStackedWidget;
  side_->addWidget(tabs_);
  side_->addWidget(first_);
  column->addWidget(side_, 1);
  buildReturning(*column);
  return side;
}

void ReviewPage::buildMeasures() {
  measures_ = new MeasuresTable(*document_);
  measures_->model().setByEye(document_->book().byEye(document_->lift().id));
  std::vector<std::string> asked;
  for (const auto& t : earlierThreads())
    if (coaching::isOwnCheck(t.finding) && t.measure.empty() && t.state != library::ThreadState::Dropped &&
        std::find(asked.begin(), asked.end(), t.finding) == asked.end())
      asked.push_back(t.finding);
  measures_->model().setAsked(std::move(asked));
  if (auto last = library::lastTime(library_, document_->submission())) measures_->setLastTime(std::move(*last));
}

void ReviewPage::buildReturning(QVBoxLayout& column) {
  camera_ = words(QString(), true);
  camera_->setObjectName(QStringLiteral("camera"));
  column.addWidget(camera_);
  const bool by_mail = !address_.empty();
  reply_ = new QPushButton(by_mail ? tr("Send reply") : tr("Save to folder…"));
  reply_->setObjectName(QStringLiteral("primary"));
  reply_->setToolTip(by_mail ? tr("Annotated clip and page to %1, ready in the outbox (Ctrl+Return)").arg(q(address_))
                             : tr("Annotated clip, stills and page, into a folder you choose (Ctrl+Return)"));
  connect(reply_, &QPushButton::clicked, this, [this, by_mail] {
    if (by_mail)
      returnByMail();
    else
      askFolderAndReply();
  });
  to_folder_ = new QPushButton(tr("Save to folder…"));
  to_folder_->setObjectName(QStringLiteral("toFolder"));
  to_folder_->setToolTip(tr("Annotated clip, stills and page, into a folder you choose"));
  connect(to_folder_, &QPushButton::clicked, this, &ReviewPage::askFolderAndReply);
  preview_ = new QPushButton(tr("Preview"));
  preview_->setObjectName(QStringLiteral("previewReply"));
  preview_->setToolTip(tr("The clip and page as the athlete will see them (V)"));
  connect(preview_, &QPushButton::clicked, this, &ReviewPage::preview);
  then_next_button_ = new QPushButton(tr("Send and next ›"));
  then_next_button_->setObjectName(QStringLiteral("returnNext"));
  then_next_button_->setProperty("narrow", true);
  then_next_button_->setToolTip(tr("Send by mail and open the next one waiting (Ctrl+Shift+Return)"));
  connect(then_next_button_, &QPushButton::clicked, this, &ReviewPage::returnAndNext);
  for (auto* button : {reply_, then_next_button_, to_folder_, preview_}) button->setEnabled(false);
  why_not_ = words({}, true);
  why_not_->setObjectName(QStringLiteral("whyNot"));
  why_not_->setText(tr("You can send once the clip is tracked."));
  column.addWidget(why_not_);
  returning_ = new QWidget;
  auto* returning = new QHBoxLayout(returning_);
  returning->setContentsMargins(0, 0, 0, 0);
  returning->setSpacing(4);
  returning->addWidget(reply_, 1);
  returning->addWidget(then_next_button_);
  returning->addWidget(preview_);
  returning->addWidget(to_folder_);
  column.addWidget(returning_);
  // Only once it has its place: shown without one it would be a window of its own for a moment.
  for (auto* button : {to_folder_, then_next_button_}) button->setVisible(by_mail);
}

// The stage, with room for the other film beside it, and what stands in their place while they are in another window.
void ReviewPage::buildPictures(QVBoxLayout& column) {
  auto* pictures = new QWidget;
  pictures_ = new QHBoxLayout(pictures);
  pictures_->setContentsMargins(0, 0, 0, 0);
  pictures_->setSpacing(6);
  pictures_->addWidget(stage_, 3);
  column.addWidget(pictures, 5);
  elsewhere_ = words(tr("The clip is in its own window. F8 brings it back."), true);
  elsewhere_->setAlignment(Qt::AlignCenter);
  elsewhere_->hide();
  column.addWidget(elsewhere_, 1);
}

void ReviewPage::buildLayout() {
  // long because a layout, one widget after the other
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  set_up_ = new SetUpStrip(*document_);
  connect(set_up_, &SetUpStrip::seenFromChosen, this, [this](const QString& view) { setSeenFrom(view.toStdString()); });
  approach_ = new ApproachStrip(*document_);
  column->addWidget(buildHeader());
  column->addWidget(set_up_);
  column->addWidget(approach_);
  auto* body = new QHBoxLayout;
  body->setContentsMargins(10, 8, 10, 4);
  body->setSpacing(10);
  left_ = new QWidget;
  auto* left = new QVBoxLayout(left_);
  left->setContentsMargins(0, 0, 0, 0);
  left->setSpacing(6);
  stage_ = new Stage(*document_);
  stage_->setFocusPolicy(Qt::StrongFocus);
  stage_->setMinimumHeight(160);
  stage_->installEventFilter(this);
  other_view_ = new OtherView(stage_);
  connect(other_view_, &OtherView::sizeWanted, this, [this] { setOtherLarge(!other_large_); });
  films_ = new SetFilms(library_, *document_, *other_view_, this);
  connect(films_, &SetFilms::shown, this, [this] { other_view_->follow(player_.time()); });
  connect(films_, &SetFilms::joined, this, &ReviewPage::showClaims);
  connect(films_, &SetFilms::said, this, &ReviewPage::say);
  then_ = new ThenPanel(library_, *document_, *stage_);
  connect(then_, &ThenPanel::said, this, &ReviewPage::say);
  mirror_ = new OtherView(stage_);
  mirror_->setObjectName(QStringLiteral("mirror"));
  scrubber_ = new Scrubber(*document_);
  connect(scrubber_, &Scrubber::said, this, [this](const QString& sentence) { say(sentence, false); });
  plots_ = new Plots(*document_);
  guide_ = new PlacingGuide(*document_);
  left->addWidget(guide_);
  buildPictures(*left);
  pictures_->addWidget(then_, 2);
  draw_strip_ = new DrawStrip(stage_->pad());
  draw_strip_->hide();
  connect(draw_strip_, &DrawStrip::closeRequested, this, [this] { setDrawing(false); });
  connect(draw_strip_, &DrawStrip::doneWithWords, this, &ReviewPage::takeKeys);
  connect(draw_strip_, &DrawStrip::verticalSaid, this, &ReviewPage::takeAsVertical);
  connect(draw_strip_, &DrawStrip::verticalTakenBack, this, [this] { setRoll(std::nullopt); });
  const auto told = [this] { draw_strip_->setVerticalTold(document_->setUp().roll_deg.has_value()); };
  connect(document_.get(), &ReviewDocument::setUpChanged, this, told);
  told();
  connect(&stage_->pad(), &SketchPad::said, this, [this](const QString& sentence) { say(sentence, false); });
  connect(&stage_->pad(), &SketchPad::wordsWanted, draw_strip_, &DrawStrip::takeWords);
  connect(&stage_->pad(), &SketchPad::drawn, this, &ReviewPage::followDrawn);
  left->addWidget(draw_strip_);
  talk_ = new TalkStrip(*document_, player_, library_.folder());
  talk_->hide();
  connect(talk_, &TalkStrip::said, this, &ReviewPage::say);
  connect(talk_, &TalkStrip::closeRequested, this, [this] { setTalking(false); });
  connect(talk_, &TalkStrip::changed, this, [this] {
    countTakes();
    refreshReply();
  });
  left->addWidget(talk_);
  left->addWidget(buildTransport());
  strip_ = new KeyStrip(*document_);
  if (auto best = library::ownBest(library_, document_->submission())) strip_->setOwnBest(std::move(*best));
  left->addWidget(strip_);
  left->addWidget(scrubber_);
  left->addWidget(plots_, 1);
  auto* split = new QSplitter;
  split->setObjectName(QStringLiteral("reviewSplit"));
  split->setChildrenCollapsible(false);
  split->addWidget(left_);
  split->addWidget(buildSide());
  split->setStretchFactor(0, 1);
  split->setSizes({820, textPx(430)});
  split->restoreState(QSettings().value(QStringLiteral("reviewSplit")).toByteArray());
  connect(split, &QSplitter::splitterMoved, split,
          [split] { QSettings().setValue(QStringLiteral("reviewSplit"), split->saveState()); });
  body->addWidget(split, 1);
  column->addLayout(body, 1);
  // The mouse leaves the keys where they are; Tab still comes to every button.
  for (auto* button : left_->findChildren<QAbstractButton*>()) button->setFocusPolicy(Qt::TabFocus);
  for (QWidget* strip : {static_cast<QWidget*>(set_up_), static_cast<QWidget*>(approach_)})
    strip->setFocusPolicy(Qt::ClickFocus);
  auto* foot = new QFrame;
  auto* row = new QHBoxLayout(foot);
  row->setContentsMargins(10, 2, 10, 6);
  status_ = words(QString(), true);
  status_->setObjectName(QStringLiteral("status"));
  progress_ = new QProgressBar;
  fixTextWidth(progress_, 220);
  progress_->setRange(0, 1000);
  cancel_ = new QPushButton(tr("Cancel"));
  cancel_->setObjectName(QStringLiteral("cancel"));
  connect(cancel_, &QPushButton::clicked, this, [this] {
    for (JobRunner* jobs : lanes()) jobs->cancel();
    if (returns_->isReturning(document_->submission().id)) return returns_->cancel();
    say(tr("Stopped. Nothing was saved."), false);
  });
  row->addWidget(status_, 1);
  row->addWidget(progress_);
  row->addWidget(cancel_);
  progress_->hide();
  cancel_->hide();
  column->addWidget(foot);
}

// Read anew: it may be asked or answered at another desk while this page is open.
void ReviewPage::showOpinion() {
  clearLayout(opinion_place_);
  const auto row = library_.submission(document_->submission().id);
  const auto card = library_.coach();
  const auto seat = library_.signer();
  if (!row || !card || !seat || card->colleagues.empty() || !row->details.second_opinion) return;
  auto* turn = new TurnCard(*row, document_->athlete().profile, *card, seat->name);
  connect(
      turn, &TurnCard::changed, this,
      [this, from = row->details](const QString&, const library::Submission& to) {
        const auto kept =
            library_.edit(to.id, [&](library::Submission& now) { TurnCard::put(now.details, from, to.details); });
        if (!kept) say(q(kept.error().sentence()), true);
        showOpinion();
      },
      Qt::QueuedConnection);
  opinion_place_->addWidget(turn);
}

}  // namespace jib::desk
