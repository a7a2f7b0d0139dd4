// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/review_page.h"
#include "desk/review/approach_strip.h"
#include "desk/review/set_up_strip.h"

#include <QAction>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QTabWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/base/quantity.h"
#include "core/coaching/two_films.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/library/would_say.h"
#include "core/review/where_faults_lie.h"
#include "core/tracing/trace_store.h"
#include "desk/library_page/lift_card.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/commands/move_limit.h"
#include "desk/review/commands/place_point.h"
#include "desk/review/cue_panel.h"
#include "desk/review/findings_panel.h"
#include "desk/review/first_look_panel.h"
#include "desk/review/frame_source.h"
#include "desk/review/ghost_figure.h"
#include "desk/review/history_panel.h"
#include "desk/review/key_list.h"
#include "desk/review/key_strip.h"
#include "desk/review/measures_model.h"
#include "desk/review/measures_table.h"
#include "desk/review/other_view.h"
#include "desk/review/picture_window.h"
#include "desk/review/placing_guide.h"
#include "desk/review/plots.h"
#include "desk/review/rules_dialog.h"
#include "desk/review/scrubber.h"
#include "desk/review/set_films.h"
#include "desk/review/stage.h"
#include "desk/review/then_panel.h"
#include "desk/review/transport.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
ReviewPage::ReviewPage(library::Library& library, library::SubmissionId id, Returns* returns, QWidget* parent)
    : QWidget(parent),
      library_(library),
      returns_(returns ? returns : new Returns(library.folder(), this)),
      keeper_(returns_->keeperOf(id)) {
  setObjectName(QStringLiteral("page"));
  setFocusPolicy(Qt::ClickFocus);
  if (!load(id)) return;
  buildLayout();
  buildActions();
  connectDocument();
  save_timer_.setSingleShot(true);
  save_timer_.setInterval(0);  // after the event at hand: a drag saves once a mouse move at most
  connect(&save_timer_, &QTimer::timeout, this, &ReviewPage::saveAside);
  setFocusProxy(stage_);
  openClip();
}

ReviewPage::~ReviewPage() {
  // Where the coach left off is kept too, though nothing was edited.
  const bool moved = document_ && document_->analysis() &&
                     (deskState() != stored_desk_ || std::abs(player_.time() - stored_head_s_) > 1e-6);
  if (given_up_) return;
  if (document_ && (save_timer_.isActive() || saving_.busy() || (moved && library_.readOnly().empty()))) save();
}

bool ReviewPage::load(library::SubmissionId id) {
  auto submission = library_.submission(id);
  auto review = library_.review(id);
  if (const auto number = library_.reviewNumber(id); number && !returns_->isReturning(id)) keeper_->begin(*number);
  auto athlete =
      submission ? library_.athlete(submission->athlete) : Result<library::Athlete>(fail(submission.error()));
  auto book = coaching::CueBook::shipped();
  auto style = athlete ? exchange::styleOf(library_, *athlete) : Result<coaching::Style>(fail(athlete.error()));
  auto styles = coaching::StyleBook::forLibrary(library_.folder());
  for (const Error* e : {submission ? nullptr : &submission.error(), review ? nullptr : &review.error(),
                         athlete ? nullptr : &athlete.error(), book ? nullptr : &book.error(),
                         style ? nullptr : &style.error(), styles ? nullptr : &styles.error()})
    if (e) {
      auto* box = new QVBoxLayout(this);
      box->addWidget(words(q(e->sentence())));
      return false;
    }
  auto clip = library_.clipFile(*submission);
  document_ = std::make_unique<ReviewDocument>(*athlete, *submission, *review, clip, *style, *book);
  stored_desk_ = review->desk;
  stored_head_s_ = review->play_head_s;
  document_->setStyles(*styles, library_.coach().value_or(library::CoachCard{}).switches);
  if (auto before = exchange::sidesBefore(library_, *submission, *style)) document_->setSidesBefore(std::move(*before));
  if (auto threads = library_.threads(submission->athlete)) threads_ = *threads;
  learnWhoWrote();
  return true;
}

// Escape goes back, one step at a time: out of placing, out of a field, out of evidence, out of the review.
void ReviewPage::keyPressEvent(QKeyEvent* event) {
  if (event->key() != Qt::Key_Escape) return QWidget::keyPressEvent(event);
  if (!document_) return emit leaveRequested();
  if (guide_->active()) return guide_->stop();
  if (stage_->pad().on()) {
    if (!stage_->pad().cancel()) setDrawing(false);
    return takeKeys();
  }
  if (stage_->pointing()) return setPointing(false);
  if (stage_->placing()) {  // a plate is asked for: it can be left
    stage_->setPlacing(std::nullopt);
    return stage_->setMessage(QString());
  }
  // What was opened last closes first.
  if (approach_->isVisible()) return sides_->setChecked(false), takeKeys();
  if (set_up_->isVisible()) return meta_->setChecked(false), takeKeys();
  const QWidget* at = focusWidget();
  if (at && at != this && !left_->isAncestorOf(at)) return takeKeys();
  if (stage_->showsEvidence()) return stage_->setEvidence(std::nullopt);
  emit leaveRequested();
}

void ReviewPage::takeKeys() {
  if (!stage_)
    setFocus();
  else if (stage_->window() == window())
    stage_->setFocus();
  else
    scrubber_->setFocus();  // the picture is in another window
}

// What does not fit goes: the plots first, as everything in them stands elsewhere too, then the key frames.
void ReviewPage::makeRoom() {
  if (!plots_ || !strip_) return;
  constexpr int kSpacing = 6;
  const auto height_of = [](const QWidget* w) { return std::max(w->minimumHeight(), w->minimumSizeHint().height()); };
  int room = height() - layout()->totalMinimumSize().height();
  for (const QWidget* w : {static_cast<QWidget*>(strip_), static_cast<QWidget*>(plots_)})
    if (w->isVisibleTo(this)) room += height_of(w) + kSpacing;
  const auto show = [&](QWidget* w, bool wanted) {
    const bool fits = wanted && height_of(w) + kSpacing <= room;
    if (fits) room -= height_of(w) + kSpacing;
    if (fits != w->isVisibleTo(this)) w->setVisible(fits);
  };
  show(strip_, strip_on_->isChecked() && !first_look_ && place_->isVisibleTo(this));
  // With the picture in another window there is room for them.
  show(plots_, (plots_on_->isChecked() || apart_) && !first_look_ && place_->isVisibleTo(this));
}

void ReviewPage::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  makeRoom();
}

void ReviewPage::connectDocument() {
  // long because a list of connections
  connect(&player_, &Player::frameChanged, this, &ReviewPage::showFrame);
  connect(&player_, &Player::playingChanged, this, [this](bool on) {
    if (on) stage_->setEvidence(std::nullopt);
  });
  const auto jump = [this](double t) {
    stage_->setEvidence(std::nullopt);
    player_.goTo(t);
    transport_->loopHere();
  };
  connect(scrubber_, &Scrubber::timeRequested, this, jump);
  connect(plots_, &Plots::timeRequested, this, jump);
  const auto evidence = [this](double t, int d) { showEvidence(t, static_cast<lifts::Drawing>(d)); };
  connect(cues_, &CuePanel::evidenceRequested, this, evidence);
  connect(findings_, &FindingsPanel::evidenceRequested, this, evidence);
  findings_->setWouldSay([this](const coaching::Limit& limit, double to) {
    const auto said = library::wouldSay(library_, limit, to);
    if (!said || said->sets == 0) return tr("No other sets to try it on yet.");
    return tr("Flags %1 of your last %2 sets; as it was: %3.").arg(said->as_moved).arg(said->sets).arg(said->as_it_is);
  });
  findings_->setRules(coaching::RuleBook::forLibrary(library_.folder()));
  connect(findings_, &FindingsPanel::viewRequested, this,
          [this](const QString& claim) { emit viewRequested(document_->submission().id.number, claim); });
  connect(findings_, &FindingsPanel::rulesEditRequested, this, &ReviewPage::editRules);
  connect(findings_, &FindingsPanel::limitMoved, this, [this](const QString& finding, std::optional<double> to) {
    const std::string id = finding.toStdString();
    const coaching::Limit* now = document_->style().limit(id);
    const std::optional<double> before = now && now->moved_from ? std::optional(now->limit) : std::nullopt;
    document_->undoStack().push(new MoveLimit(tr("move a limit"), before, to,
                                              [this, id](std::optional<double> there) { moveLimit(id, there); }));
  });
  connect(findings_, &FindingsPanel::byEyeRequested, this, [this] {
    measures_->setShow(MeasuresTable::Show::ByEye);
    tabs_->setCurrentWidget(measures_);
  });
  connect(measures_, &MeasuresTable::evidenceRequested, this, evidence);
  connect(measures_, &MeasuresTable::markRequested, this, &ReviewPage::markByEye);
  connect(measures_, &MeasuresTable::done, this, &ReviewPage::takeKeys);
  connect(strip_, &KeyStrip::timeRequested, this, [this, jump](double t) {
    player_.pause();
    jump(t);
  });
  connect(stage_, &Stage::jogged, &player_, &Player::step);
  connect(scrubber_, &Scrubber::jogged, &player_, &Player::step);
  connect(stage_, &Stage::framingChanged, this, &ReviewPage::refreshFraming);
  connect(first_, &FirstLookPanel::showRequested, this, &ReviewPage::showMeasured);
  connect(first_, &FirstLookPanel::timeRequested, this, jump);
  connect(first_, &FirstLookPanel::doneWithWord, this, &ReviewPage::takeKeys);
  connect(document_.get(), &ReviewDocument::bookmarksChanged, scrubber_, qOverload<>(&QWidget::update));
  connect(document_.get(), &ReviewDocument::analysisChanged, this, &ReviewPage::refreshNumbers);
  connect(document_.get(), &ReviewDocument::approachChanged, this, [this] {
    const auto kept = library_.edit(document_->athlete().id, [now = document_->approach()](library::Athlete& a) {
      a.style = now.style;
      a.profile.switches = now.sides;
    });
    if (!kept) say(q(kept.error().sentence()), true);
  });
  connect(document_.get(), &ReviewDocument::analysisChanged, this, &ReviewPage::traceSetIfMissing);
  connect(document_.get(), &ReviewDocument::setUpChanged, this, [this] {
    refreshMeta();
    playTrimmed();
    keepSubmission();
  });
  connect(document_.get(), &ReviewDocument::pinsChanged, scrubber_, qOverload<>(&QWidget::update));
  connect(document_.get(), &ReviewDocument::edited, this, &ReviewPage::saveSoon);
  connect(document_.get(), &ReviewDocument::edited, this, &ReviewPage::refreshReply);
  connect(document_.get(), &ReviewDocument::edited, this, &ReviewPage::traceAgainIfBarMoved);
  connect(guide_, &PlacingGuide::nextChanged, stage_, &Stage::setPlacing);
  connect(guide_, &PlacingGuide::completed, this, [this] {
    if (document_->bodyCanBeTraced()) traceBody();
  });
  connect(stage_, &Stage::placeRequested, this,
          [this](tracing::Landmark l, PixelPoint p) { placeAt(l, p, newGesture()); });
  connect(stage_, &Stage::dragged, this, [this](const tracing::PointName& point, PixelPoint p, bool finished) {
    // From the side the bar is looked for anew from where it is let go, so the way there does not matter.
    if (point == tracing::Landmark::Bar && !finished) return;
    if (drag_gesture_ == 0) drag_gesture_ = newGesture();
    placeAt(point, p, drag_gesture_);
    if (finished) drag_gesture_ = 0;
  });
  connect(stage_, &Stage::footDragged, this, &ReviewPage::moveFoot);
  connect(stage_, &Stage::pointedAt, this, &ReviewPage::pointAtLifter);
  for (JobRunner* jobs : lanes()) {
    connect(jobs, &JobRunner::started, this, [this](const QString& title) {
      status_->setText(title);
      progress_->setValue(0);
      progress_->show();
      cancel_->show();
    });
    connect(jobs, &JobRunner::progressed, this, [this](double f) { progress_->setValue(static_cast<int>(1000 * f)); });
    connect(jobs, &JobRunner::finished, this, &ReviewPage::refreshBusy);
  }
  connectReturns();
}

std::vector<JobRunner*> ReviewPage::lanes() {
  return {&jobs_, &following_, &previewing_, &keeping_stretch_, &films_->jobs(), &then_->jobs()};
}

bool ReviewPage::busy() const {
  return jobs_.busy() || following_.busy() || previewing_.busy() || keeping_stretch_.busy() || keeping_.busy() ||
         saving_.busy() || films_->jobs().busy() || then_->jobs().busy() ||
         (document_ && returns_->isReturning(document_->submission().id));
}

void ReviewPage::refreshBusy() {
  progress_->setVisible(busy());
  cancel_->setVisible(busy());
}

// A fault may show from a load on: the lightest at which it was sure, and the heaviest at which it surely was not.
void ReviewPage::showWhatShowedBefore() {
  std::map<std::string, QString> lines;
  for (const auto& f : document_->analysis()->findings) {
    auto shown = library_.firstShown(document_->submission().athlete, f.id);
    if (!shown || !shown->shown_kg) continue;
    // That it shows in this very clip is said by the finding itself.
    const bool lighter_was_clean = shown->clean_kg && *shown->clean_kg < *shown->shown_kg;
    if (shown->shown_on >= document_->submission().received_on && !lighter_was_clean) continue;
    QString line = tr("Lightest load it has shown at: %1, %2")
                       .arg(q(massText(*shown->shown_kg)), q(library::spoken(shown->shown_on)));
    if (shown->rep > 0) line += tr(", from rep %1").arg(shown->rep);
    if (lighter_was_clean) line += tr("; clean at %1").arg(q(massText(*shown->clean_kg)));
    lines[f.id] = line;
  }
  findings_->setShownBefore(std::move(lines));
  findings_->setLies(review::whereFaultsLie(library_, document_->session()));
}

void ReviewPage::refreshNumbers() {
  const auto a = document_->analysis();
  // What is looked for by eye goes with the variant, and is everything where nothing is measured.
  const auto lift = document_->lift().id;
  measures_->model().setByEye(coaching::asLookedAt(
      a->untraced.empty() ? document_->book().byEye(lift) : document_->book().all(lift), document_->style()));
  measures_->setAnalysis(a);
  nameMoments();
  first_->setReady(true);
  const bool placed = a->trace.body && a->trace.body->knowsPlacedFrame();
  place_->setText(placed ? tr("Correct here") : tr("Place points"));
  const auto unread = document_->sketch().unread.size();
  const QString newer = unread == 0 ? QString()
                        : unread == 1
                            ? tr("One drawing is from a newer Jagged Jib. It's saved but not shown.")
                            : tr("%1 drawings are from a newer Jagged Jib. They're saved but not shown.").arg(unread);
  if (!a->isTraced()) {
    camera_->setText(newer.isEmpty() ? q(a->untraced) : q(a->untraced) + QLatin1Char('\n') + newer);
    camera_->setToolTip(QString());
    camera_->setVisible(!first_look_);
    return refreshFollowUp();
  }
  QStringList notes;
  const auto& camera = a->trace.camera;
  if (!newer.isEmpty()) notes << newer;
  // What was told and what was found are held against each other.
  const std::size_t counted = a->reps.size() + a->misses.size();
  if (reps_said_ && counted > 0 && static_cast<std::size_t>(*reps_said_) != counted)
    notes << tr("The message says %1, the clip shows %2. Fix the reps with T.")
                 .arg(*reps_said_ == 1 ? tr("1 rep") : tr("%1 reps").arg(*reps_said_))
                 .arg(counted);
  for (const auto& n : a->notices)
    if (n.id != "body_not_placed") notes << q(n.text);
  camera_->setText(notes.join(QLatin1Char('\n')));
  camera_->setVisible(!notes.isEmpty() && !first_look_);
  // How the clip was filmed is for whoever asks.
  const int turned = static_cast<int>(std::lround(std::abs(degrees(camera.yaw_rad))));
  const QString stood = a->trace.front ? QString()
                                       : tr("Camera about %1 m away, %2° off square; 1 m = %3 px ± %4 %.")
                                             .arg(camera.distance_m(), 0, 'f', 1)
                                             .arg(turned)
                                             .arg(a->motion.calibration.pixels_per_metre, 0, 'f', 0)
                                             .arg(100 * a->motion.calibration.scale_sigma_rel, 0, 'f', 1);
  const QString doubt = QString::number(100 * camera.focal_sigma_rel, 'f', 0);
  const double corner_px2 = dot(camera.middle, camera.middle), bend = camera.bend.per_px2 * corner_px2;
  const QString bends = bend == 0 ? QString()
                                  : tr(". Lens distortion corrected: %1 ± %2 % at the corners")
                                        .arg(100 * std::abs(bend), 0, 'f', 1)
                                        .arg(100 * camera.bend.sigma_per_px2 * corner_px2, 0, 'f', 1);
  const QString lens =
      (a->trace.focal_35mm
           ? tr("Lens from the file: %1 mm equivalent, ± %2 %").arg(*a->trace.focal_35mm, 0, 'f', 0).arg(doubt)
       : a->trace.far_plate ? tr("Lens estimated from the two plates, ± %1 %").arg(doubt)
                            : tr("Lens assumed to be a phone's, 62° along the longer side, ± %1 %").arg(doubt)) +
      bends;
  const QString filmed = stood.isEmpty() ? lens : stood + QLatin1Char('\n') + lens;
  camera_->setToolTip(filmed);
  meta_->setToolTip(tr("Variation, load, plate size, slow motion: see and change (I)\n%1").arg(filmed));
  refreshFollowUp();
}

void ReviewPage::refreshFollowUp() {
  const auto now = library::measuredNow(threads_, document_->submission(), *document_->analysis(), document_->style());
  // What is asked in this very reply was not asked before.
  std::vector<library::CueThread> earlier;
  for (const auto& t : now)
    if (t.asked_in != document_->submission().id) earlier.push_back(t);
  history_->setSore(document_->session().care().pain);
  history_->setThreads(earlier);
  const auto due = static_cast<qlonglong>(earlier.size());
  tabs_->setTabText(2, due > 0 ? tr("Previous cues (%1)").arg(due) : tr("Previous cues"));
}

std::vector<library::CueThread> ReviewPage::earlierThreads() const {
  std::vector<library::CueThread> earlier;
  for (const auto& t : threads_)
    if (t.asked_in != document_->submission().id) earlier.push_back(t);
  return earlier;
}

bool ReviewPage::settled() const {
  return !busy() && !strip_->busy() && stage_->hasPicture() && stage_->frame() == player_.frame();
}

void ReviewPage::showFrame(std::size_t frame) {
  if (frames_) frames_->request(frame);
  followPlayHead();
}

// For every clip that is judged in this style from now on, and this one at once.
void ReviewPage::moveLimit(const std::string& finding, std::optional<double> to) {
  auto kept = coaching::StyleBook::moveLimit(library_.folder(), document_->style().id, finding, to);
  if (!kept) return say(q(kept.error().sentence()), true);
  auto styles = coaching::StyleBook::forLibrary(library_.folder());
  if (!styles) return say(q(styles.error().sentence()), true);
  document_->restyle(std::move(*styles));
  say(to ? tr("Limit moved for your style “%1”. Ctrl+Z puts it back.").arg(q(document_->style().title))
         : tr("Limit back where the style has it."),
      false);
}

void ReviewPage::editRules(const QString& id) {
  RulesDialog dialog(library_.folder(), id, window());
  if (dialog.exec() != QDialog::Accepted) return takeKeys();
  findings_->setRules(coaching::RuleBook::forLibrary(library_.folder()));
  say(tr("Rules saved. They count for every clip from now on."), false);
  takeKeys();
}

void ReviewPage::followPlayHead() {
  other_view_->follow(player_.time());
  mirror_->follow(player_.time());
  then_->follow(player_.time());
  strip_->setPlayHead(player_.time());
  scrubber_->setPlayHead(player_.time());
  plots_->setPlayHead(player_.time());
}

void ReviewPage::showEvidence(double t, lifts::Drawing drawing) {
  player_.pause();
  player_.goTo(t);
  const bool there = films_->showEvidence(drawing);
  stage_->setEvidence(there || drawing == lifts::Drawing::None ? std::nullopt : std::optional(drawing));
  if (!there) return;
  other_->setChecked(true);
  setOtherLarge(true);
}

// Small, in a corner of the stage; large, beside it.
void ReviewPage::setOtherLarge(bool large) {
  other_large_ = large;
  if (large) {
    pictures_->addWidget(other_view_, 2);
  } else {
    pictures_->removeWidget(other_view_);
    other_view_->setParent(stage_);
  }
  other_view_->setVisible(other_->isChecked());
  placeOtherView();
  other_view_->follow(player_.time());
}

void ReviewPage::startPlacing() {
  const auto a = document_->analysis();
  if (!a) return;
  if (!a->isTraced()) return askForPlate();
  if (stage_->pad().on()) setDrawing(false);
  if (a->trace.front)
    return say(
        tr("From this angle both sides are tracked on their own: nothing to place. Drag a point that is off; the "
           "numbers follow."),
        false);
  player_.pause();
  stage_->setEvidence(std::nullopt);
  if (!a->trace.body || !a->trace.body->knowsPlacedFrame()) {
    // A frame begun earlier is gone on with; else the program proposes one.
    const double t =
        document_->placed().empty()
            ? a->motion.times_s[tracing::quietFrame(*a->trace.bar, std::nullopt, document_->lift().body.starts_low)]
            : document_->placed().front().t_s;
    player_.goTo(t);
  }
  guide_->start(player_.time());
  stage_->setFocus();
}

void ReviewPage::acceptProposal() {
  const auto landmark = guide_->next();
  const auto a = document_->analysis();
  if (!landmark || !a) return;
  std::array<std::optional<PixelPoint>, tracing::kLandmarks> placed;
  for (tracing::Landmark l : tracing::kPlacedLandmarks) placed[tracing::at(l)] = document_->pin({player_.time(), l});
  if (const auto p = ghostFigure(*a, player_.frame(), placed)[tracing::at(*landmark)])
    placeAt(*landmark, *p, newGesture());
}

void ReviewPage::placeAt(const tracing::PointName& point, PixelPoint at, int gesture) {
  last_placed_ = point;
  document_->undoStack().push(new PlacePoint(*document_, {player_.time(), point}, at, gesture));
}

// Heel and toe together, from where they were when they were taken hold of: mid-foot is half-way between them.
void ReviewPage::moveFoot(PixelPoint heel, PixelPoint toe, bool finished) {
  if (drag_gesture_ == 0) drag_gesture_ = newGesture();
  const double t_s = player_.time();
  document_->undoStack().push(
      new PlacePoint(*document_, tr("move mid-foot"),
                     {{{t_s, tracing::Landmark::Heel}, heel}, {{t_s, tracing::Landmark::Toe}, toe}}, drag_gesture_));
  if (finished) drag_gesture_ = 0;
}

void ReviewPage::nudge(int dx, int dy) {
  if (stage_->pad().nudge(dx, dy)) return;
  const auto a = document_->analysis();
  if (!a || !last_placed_) return;
  auto at = document_->pin({player_.time(), *last_placed_});
  if (!at) at = a->trace.place(player_.frame(), *last_placed_);
  if (at) placeAt(*last_placed_, *at + PixelPoint{0.5 * dx, 0.5 * dy}, newGesture());
}

void ReviewPage::placeOtherView() {
  constexpr int kMargin = 8;
  const int height = std::clamp(stage_->height() * 45 / 100, 120, 320), width = std::min(stage_->width() * 2 / 5, 280);
  if (!other_large_) other_view_->setGeometry(stage_->width() - width - kMargin, kMargin, width, height);
  // As wide as the lifter is, with room for the frame and the line above.
  constexpr int kFrame = 14, kLine = 28;
  const int tall = std::clamp(stage_->height() * 3 / 5, 140, 420);
  const double shape = mirror_->shape();
  const int wide = std::clamp(static_cast<int>((tall - kLine) * shape) + kFrame, 130, stage_->width() / 2);
  mirror_->setGeometry(kMargin, kMargin, wide, tall);
}

bool ReviewPage::eventFilter(QObject* watched, QEvent* event) {
  if (watched == stage_ && event->type() == QEvent::Resize) placeOtherView();
  return QWidget::eventFilter(watched, event);
}

// Only what is edited here: import, pairing and the queue write into the same row.
void ReviewPage::keepSubmission() {
  const auto& ours = document_->submission();
  const auto kept = library_.edit(ours.id, [&](library::Submission& row) {
    row.variant = ours.variant;
    row.load_kg = ours.load_kg;
    row.details.load_said = ours.details.load_said;
    row.plate_mm = ours.plate_mm;
    row.slow_factor = ours.slow_factor;
    row.details.variant_by = ours.details.variant_by;
    row.details.top_set = ours.details.top_set;
    row.details.set_loads_kg = ours.details.set_loads_kg;
    row.details.overruled = ours.details.overruled;
    row.details.roll_deg = ours.details.roll_deg;
    row.details.left_out = ours.details.left_out;
  });
  if (!kept) notKept(kept.error());
}

// A review that was begun is in review.
void ReviewPage::saveSoon() {
  if (document_->submission().state == library::SubmissionState::New) {
    const auto kept = library_.edit(document_->submission().id, [](library::Submission& row) {
      if (row.state == library::SubmissionState::New) row.state = library::SubmissionState::InReview;
    });
    if (!kept) return notKept(kept.error());
    document_->setState(kept->state);
  }
  save_timer_.start();
}

library::Review ReviewPage::reviewNow() const {
  auto review = document_->review();
  review.play_head_s = player_.time();
  review.desk = deskState();
  return review;
}

// Before something that needs it kept. After every edit saveAside() does it off the window's thread: a save waits for
// the disk.
bool ReviewPage::save() {
  save_timer_.stop();
  if (given_up_) return false;
  const auto kept = keeper_->keep(library_, reviewNow(), document_->session().revision());
  if (!kept) notKept(kept.error());
  return kept.has_value();
}

void ReviewPage::saveAside() {
  if (given_up_) return;
  if (saving_.busy()) {
    save_again_ = true;
    return;
  }
  save_again_ = false;
  saving_.start<bool>(
      {},
      [keeper = keeper_, review = reviewNow(), revision = document_->session().revision(), ticket = keeper_->ticket(),
       folder = library_.folder()](Task&) -> Result<bool> {
        auto library = library::Library::openAgain(folder);
        if (!library) return fail(library.error());
        return keeper->keep(*library, review, revision, ticket);
      },
      [this](Result<bool> kept) {
        if (!kept) return notKept(kept.error());
        if (save_again_) saveAside();
      });
}

// Another window, or the coach in another window, has the last word then: nothing of this page is written any more.
void ReviewPage::notKept(const Error& why) {
  if (why.code == ErrorCode::Conflict || why.code == ErrorCode::CannotRead) given_up_ = true;
  say(q(why.sentence()), true);
}

void ReviewPage::say(const QString& sentence, bool is_trouble) {
  status_->setText(sentence);
  setTone(status_, is_trouble ? "bad" : "");
  if (is_trouble) emit trouble(sentence);
}

}  // namespace jib::desk
