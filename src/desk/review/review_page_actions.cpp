// SPDX-License-Identifier: GPL-3.0-or-later
// What the review page's keys do; the menus and the list of keys are made of these actions.
#include <QAction>
#include <QClipboard>
#include <QComboBox>
#include <QFileDialog>
#include <QGuiApplication>
#include <QPushButton>
#include <QStandardPaths>
#include <QTabWidget>
#include <QTableView>
#include <QToolButton>
#include <algorithm>

#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "desk/review/cue_panel.h"
#include "desk/review/draw_strip.h"
#include "desk/review/findings_panel.h"
#include "desk/review/first_look_panel.h"
#include "desk/review/measures_model.h"
#include "desk/review/measures_table.h"
#include "desk/review/other_view.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/set_films.h"
#include "desk/review/stage.h"
#include "desk/review/transport.h"
#include "desk/talk/talk_strip.h"
#include "desk/text.h"
#include "drawing/stretch_film.h"

namespace jib::desk {

QAction* ReviewPage::action(const QString& name, const QString& text, const QList<QKeySequence>& keys,
                            std::function<void()> run) {
  auto* a = new QAction(text, this);
  a->setObjectName(name);
  a->setShortcuts(keys);
  a->setShortcutContext(Qt::WidgetWithChildrenShortcut);
  a->setProperty("menu", menu_);
  connect(a, &QAction::triggered, this, std::move(run));
  // Plain letters act where the clip is; elsewhere a letter that misses its field does nothing.
  const bool plain = std::any_of(keys.begin(), keys.end(), [](const QKeySequence& k) {
    return (k[0].keyboardModifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier)) == 0;
  });
  if (plain)
    left_->addAction(a);
  else
    addAction(a);
  listed_ << a;
  return a;
}

void ReviewPage::buildActions() {
  buildPlayActions();
  buildReviewActions();
  nameMoments();
}

// How the clip runs, and from where to where.
void ReviewPage::buildPlayActions() {
  using K = QKeySequence;
  menu_ = tr("Play");
  action("playAction", tr("Play, pause"), {K(Qt::Key_Space)}, [this] { player_.toggle(); });
  action("stepForward", tr("One frame forward"), {K(Qt::Key_Period), K(Qt::Key_Right)}, [this] { player_.step(1); });
  action("stepBack", tr("One frame back"), {K(Qt::Key_Comma), K(Qt::Key_Left)}, [this] { player_.step(-1); });
  menu_ = tr("Go");
  action("nextEvent", tr("Next event"), {K(Qt::Key_E)}, [this] { transport_->jumpEvent(1); });
  action("previousEvent", tr("Previous event"), {K(Qt::Key_W)}, [this] { transport_->jumpEvent(-1); });
  action("nextRep", tr("Next rep"), {K(Qt::Key_R)}, [this] { transport_->jumpRep(1); });
  action("previousRep", tr("Previous rep"), {K(Qt::Key_Q)}, [this] { transport_->jumpRep(-1); });
  menu_ = tr("Play");
  action("speedAction", tr("Speed: 1, ½, ¼, ⅒"), {K(Qt::Key_S)}, [this] { transport_->nextSpeed(); });
  action("loopAction", tr("Loop the rep, the set, the clip, nothing"), {K(Qt::Key_L)},
         [this] { transport_->nextLoop(); });
  backward_ = toggle("backwardAction", tr("Play backward"), Qt::Key_Z, false, [this](bool on) {
    player_.setBackward(on);
    if (on && !player_.playing()) player_.toggle();
  });
}

// What is done with it, and what is on show on the right.
void ReviewPage::buildReviewActions() {
  // long because a list of actions
  using K = QKeySequence;
  menu_ = tr("Review");
  action("bookmarkAction", tr("Drop a bookmark; the clip plays on"), {K(Qt::Key_B)}, [this] {
    first_->drop(player_.time());
    if (!first_look_) say(tr("Bookmark at %1 s. It's under Findings.").arg(player_.time(), 0, 'f', 2), false);
  });
  action("replayAction", tr("Replay the last second in slow motion"), {K(Qt::Key_A)}, [this] {
    findChild<QComboBox*>(QStringLiteral("speed"))->setCurrentIndex(2);
    player_.goTo(player_.time() - 1.0);
    if (!player_.playing()) player_.toggle();
  });
  action("setUpAction", tr("Variation, load, plate, slow motion"), {K(Qt::Key_I)}, [this] { meta_->toggle(); });
  action("sidesAction", tr("Coaching preferences"), {K(Qt::Key_Y)}, [this] { sides_->toggle(); });
  action("placeAction", tr("Place body points"), {K(Qt::Key_P)}, [this] { startPlacing(); });
  action("acceptAction", tr("Accept the suggested point"), {K(Qt::Key_Return), K(Qt::Key_Enter)},
         [this] { first_look_ ? first_->showIfReady() : acceptProposal(); });
  measures_->table().addAction(
      action("markAction", tr("Mark by eye: seen, fine, couldn't see"), {K(Qt::Key_M)}, [this] {
        const QModelIndex at = measures_->table().currentIndex();
        const QString check = at.data(MeasuresModel::ByEyeRole).toString();
        const int column = std::max(1, at.column());
        check.isEmpty() ? say(tr("Pick a row under “Check by eye” first."), false)
                        : markByEye(check, measures_->model().repOf(column));
      }));
  action("repsAction", tr("Fix reps: split, join, add, leave out"), {K(Qt::Key_T)}, [this] {
    scrubber_->offerRepEdits(player_.time(),
                             scrubber_->mapToGlobal(QPoint(static_cast<int>(scrubber_->xAt(player_.time())), 20)));
  });
  action("leaveOutAction", tr("Ignore from here; again: to here"), {K(Qt::Key_J)},
         [this] { scrubber_->leaveOutAt(player_.time()); });
  action("trimStartAction", tr("Trim: the clip starts here"), {K(Qt::Key_BracketLeft)},
         [this] { scrubber_->trimBefore(player_.time()); });
  action("trimEndAction", tr("Trim: the clip ends here"), {K(Qt::Key_BracketRight)},
         [this] { scrubber_->trimAfter(player_.time()); });
  action("ownCheckAction", tr("Own check, marked on this frame"), {K(Qt::Key_K)}, [this] { addOwnCheck(); });
  action("drawAction", tr("Draw on the clip"), {K(Qt::Key_D)}, [this] { setDrawing(!stage_->pad().on()); });
  action("talkAction", tr("Talk it through: record, stop"), {K(Qt::SHIFT | Qt::Key_V)}, [this] {
    if (talk_->isHidden()) return setTalking(true);
    talk_->toggleRecording();
  });
  action("verticalAction", tr("This line is vertical"), {K(Qt::SHIFT | Qt::Key_D)}, [this] {
    if (!draw_strip_->sayVertical())
      say(tr("Draw a line along a post or a door frame first, and leave it selected."), false);
  });
  action("removeDrawingAction", tr("Remove the selected drawing"), {K(Qt::Key_Delete)},
         [this] { stage_->pad().remove(); });
  action("ownCueAction", tr("Own cue, on this frame"), {K(Qt::Key_N)}, [this] {
    tabs_->setCurrentIndex(1);
    cues_->addOwn(player_.time());
  });
  action("askForViewAction", tr("Ask for the angle this clip lacks"), {K(Qt::SHIFT | Qt::Key_A)}, [this] {
    const QString claim = findings_->lacking();
    if (claim.isEmpty()) return say(tr("Nothing here needs another angle."), false);
    emit viewRequested(document_->submission().id.number, claim);
  });
  action("loadsAction", tr("Loads for the first cue: sets, percentages, plates"), {K(Qt::SHIFT | Qt::Key_L)}, [this] {
    if (document_->choice().cues.empty()) return say(tr("Choose a cue first: the loads go with it."), false);
    tabs_->setCurrentIndex(1);
    cues_->openLoads(0);
  });
  action("otherAction", tr("Second camera of this set"), {K(Qt::Key_O)}, [this] {
    other_view_->isOpen() ? other_->toggle() : say(tr("No other clip of this set yet. Pair them in the queue."), false);
  });
  action("otherLargeAction", tr("Second camera: small / side by side"), {K(Qt::SHIFT | Qt::Key_O)}, [this] {
    if (!other_view_->isOpen()) return say(tr("No other clip of this set yet. Pair them in the queue."), false);
    other_->setChecked(true);
    setOtherLarge(!other_large_);
  });
  action("nextFilmAction", tr("Next clip of this set"), {K(Qt::ALT | Qt::Key_O)}, [this] {
    if (films_->films().size() > 1) other_->setChecked(true);
    films_->showNext();
  });
  action("copyStillAction", tr("Copy this frame, lines included"), {K(Qt::CTRL | Qt::SHIFT | Qt::Key_C)}, [this] {
    if (!stage_->hasPicture()) return;
    QGuiApplication::clipboard()->setImage(stage_->still());
    say(tr("This frame is on the clipboard, lines and drawings included."), false);
  });
  action("saveStretchAction", tr("Save this rep as a clip…"), {K(Qt::CTRL | Qt::SHIFT | Qt::Key_R)},
         [this] { saveStretch(); });
  action("saveStillAction", tr("Save this frame…"), {K(Qt::CTRL | Qt::SHIFT | Qt::Key_S)}, [this] { saveStill(); });
  menu_ = tr("Edit");
  action("undo", tr("Undo"), {K::Undo}, [this] { document_->undoStack().undo(); });
  action("redo", tr("Redo"), {K::Redo}, [this] { document_->undoStack().redo(); });
  menu_ = tr("Go");
  const std::pair<const char*, QString> tabs[] = {{"findingsTab", tr("Findings")},
                                                  {"cuesTab", tr("Reply")},
                                                  {"historyTab", tr("Previous cues")},
                                                  {"pinsTab", tr("Points placed by hand")},
                                                  {"measuresTab", tr("Every measure")}};
  for (int i = 0; i < static_cast<int>(std::size(tabs)); ++i)
    action(QString::fromLatin1(tabs[i].first), tabs[i].second, {K(Qt::Key_1 + i)},
           [this, i] { first_look_ ? first_->pick(i + 1, player_.time()) : tabs_->setCurrentIndex(i); });
  // One key for each kind of moment; what they are called is the lift's to say (nameMoments).
  for (int i = 0; i < kMoments; ++i)
    moments_[static_cast<std::size_t>(i)] = action(QStringLiteral("moment_%1").arg(i + 1), QString(),
                                                   {K(Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i))}, [this, i] {
                                                     const auto events = document_->lift().events;
                                                     if (static_cast<std::size_t>(i) < events.size())
                                                       transport_->jumpMoment(events[static_cast<std::size_t>(i)].kind);
                                                   });
  action("findMeasureAction", tr("Find a measure"), {K::Find}, [this] {
    tabs_->setCurrentWidget(measures_);
    measures_->focusSearch();
  });
  menu_ = tr("Edit");
  action("nudgeLeft", tr("Nudge the last point or the selected drawing"), {K(Qt::SHIFT | Qt::Key_Left)},
         [this] { nudge(-1, 0); });
  const auto silent = [this](const char* name, QKeySequence key, std::function<void()> run) {
    action(QString::fromLatin1(name), QString(), {std::move(key)}, std::move(run));
    listed_.removeLast();
  };
  for (int i = static_cast<int>(std::size(tabs)); i < FirstLookPanel::kQuickWords; ++i)
    silent(qPrintable(QStringLiteral("word_%1").arg(i + 1)), K(Qt::Key_1 + i), [this, i] {
      if (first_look_) first_->pick(i + 1, player_.time());
    });
  silent("nudgeRight", K(Qt::SHIFT | Qt::Key_Right), [this] { nudge(1, 0); });
  silent("nudgeUp", K(Qt::SHIFT | Qt::Key_Up), [this] { nudge(0, -1); });
  silent("nudgeDown", K(Qt::SHIFT | Qt::Key_Down), [this] { nudge(0, 1); });
  menu_ = tr("Review");
  action("previewAction", tr("Preview the reply"), {K(Qt::Key_V)}, [this] { preview_->click(); });
  action("replyNextAction", tr("Send reply and open the next"), {K(Qt::CTRL | Qt::SHIFT | Qt::Key_Return)},
         [this] { then_next_button_->click(); });
  action("replyAction", tr("Send reply"), {K(Qt::CTRL | Qt::Key_Return)}, [this] { reply_->click(); });
}

void ReviewPage::nameMoments() {
  const auto events = document_->lift().events;
  for (std::size_t i = 0; i < moments_.size(); ++i) {
    moments_[i]->setVisible(i < events.size());
    moments_[i]->setText(i < events.size() ? tr("Moment: %1").arg(q(events[i].title)) : QString());
  }
}

// Where something of the clip is to be kept: named after athlete, lift and moment, unless that is told.
QString ReviewPage::placeFor(const QString& told, const QString& title, const QString& ending, const QString& kinds) {
  if (!told.isEmpty()) return told;
  const auto where =
      ending == QStringLiteral("mp4") ? QStandardPaths::MoviesLocation : QStandardPaths::PicturesLocation;
  const QString name = q(library::folderNameFor(document_->athlete().name)) + QLatin1Char('-') +
                       q(document_->lift().name) + QStringLiteral("-%1s.%2").arg(player_.time(), 0, 'f', 2).arg(ending);
  return QFileDialog::getSaveFileName(
      this, title, QStandardPaths::writableLocation(where) + QLatin1Char('/') + name.toLower(), kinds);
}

// The rep under the play head with a breath before and after; between reps the whole set.
void ReviewPage::saveStretch(const QString& to) {
  const auto a = document_->analysis();
  if (!a || a->reps.empty()) return say(tr("There is no rep here yet."), false);
  const QString file = placeFor(to, tr("Save this rep as a clip"), QStringLiteral("mp4"), tr("Clips (*.mp4)"));
  if (file.isEmpty()) return;
  constexpr double kBreath_s = 0.5;
  drawing::StretchLook look;
  look.part = {a->reps.front().start_t() - kBreath_s, a->reps.back().end_t() + kBreath_s};
  for (const motion::Rep& rep : a->reps)
    if (player_.time() >= rep.start_t() - kBreath_s && player_.time() <= rep.end_t() + kBreath_s)
      look.part = {rep.start_t() - kBreath_s, rep.end_t() + kBreath_s};
  look.part.from_t = std::max(look.part.from_t, a->clip.times_s.front());
  look.lines = lines_on_->isChecked();
  look.choice = stage_->choice();
  look.hide_faces = library::hidesFaces(
      exchange::profileAsKnown(document_->athlete(), document_->session().care(), library::today()), library::today());
  keeping_stretch_.start<bool>(
      tr("Writing the clip…"),
      [a, sketch = document_->sketch(), look, path = file.toStdString()](Task& task) {
        return drawing::stretchFilm(*a, sketch, look, path, task);
      },
      [this, file](Result<bool> written) {
        if (!written && written.error().code == ErrorCode::Cancelled) return;
        say(written ? tr("Saved: %1").arg(file) : q(written.error().sentence()), !written);
      });
}

void ReviewPage::saveStill(const QString& to) {
  if (!stage_->hasPicture()) return;
  const QString file = placeFor(to, tr("Save this frame"), QStringLiteral("png"), tr("Pictures (*.png *.jpg)"));
  if (file.isEmpty()) return;
  if (stage_->still().save(file)) return say(tr("Saved: %1").arg(file), false);
  say(tr("%1 can't be written. Choose another folder.").arg(file), true);
}

}  // namespace jib::desk
