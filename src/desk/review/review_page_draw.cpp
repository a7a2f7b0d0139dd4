// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach adds to a clip by hand: marks by eye, drawings, and a clip in which nothing can be traced.
#include <QInputDialog>
#include <QPushButton>
#include <QTabWidget>
#include <QTableView>
#include <algorithm>

#include "core/base/angle.h"
#include "core/tracing/room/point_follow.h"
#include "desk/review/commands/change_set_up.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/cue_panel.h"
#include "desk/review/draw_strip.h"
#include "desk/review/measures_model.h"
#include "desk/review/measures_table.h"
#include "desk/review/placing_guide.h"
#include "desk/review/plots.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "desk/talk/talk_strip.h"
#include "desk/text.h"

namespace jib::desk {

// Round: not looked at, seen, fine, could not be seen. The frame on the stage is the evidence where it is of that rep.
void ReviewPage::markByEye(const QString& check, int rep) {
  const auto a = document_->analysis();
  if (!a) return;
  coaching::Marks to = document_->marks();
  const std::string id = check.toStdString();
  const auto* now = coaching::markOf(to, id, rep);
  if (!now && rep == 1) now = coaching::markOf(to, id, 0);
  coaching::Mark mark{id, coaching::MarkState::Seen, now ? now->rep : rep, player_.time()};
  if (rep > 0 && static_cast<std::size_t>(rep) <= a->reps.size()) {
    const auto& r = a->reps[static_cast<std::size_t>(rep) - 1];
    constexpr double kNear_s = 1.0;  // the set-up before it belongs to it
    if (mark.t_s < r.start_t() - kNear_s || mark.t_s > r.end_t() + kNear_s) mark.t_s = r.bottom_t();
  }
  bool there = true;
  if (now && now->state == coaching::MarkState::Seen) {
    mark.state = coaching::MarkState::Fine;
  } else if (now && now->state == coaching::MarkState::Fine) {
    mark.state = coaching::MarkState::CouldNotSee;
  } else if (now) {
    there = false;
  }
  coaching::setMark(to, mark, there);
  document_->undoStack().push(new MarkByEye(*document_, tr("mark by eye"), std::move(to)));
}

// A check the book does not have: the coach names it once and marks it like the others.
void ReviewPage::addOwnCheck() {
  const auto a = document_->analysis();
  if (!a) return;
  bool sure = false;
  const QString title =
      QInputDialog::getText(this, tr("A check of your own"), tr("What do you look at?"), QLineEdit::Normal, {}, &sure)
          .simplified();
  if (!sure || title.isEmpty()) return;
  int rep = 0;
  for (std::size_t i = 0; i < a->reps.size(); ++i)
    if (a->reps[i].whole().holds(player_.time())) rep = static_cast<int>(i) + 1;
  if (rep == 0 && !a->reps.empty()) rep = 1;
  coaching::Marks to = document_->marks();
  coaching::setMark(to, {coaching::ownCheck(title.toStdString()), coaching::MarkState::Seen, rep, player_.time()},
                    true);
  document_->undoStack().push(new MarkByEye(*document_, tr("mark by eye"), std::move(to)));
  measures_->setShow(MeasuresTable::Show::ByEye);
  tabs_->setCurrentWidget(measures_);
  measures_->table().scrollToBottom();
}

void ReviewPage::setDrawing(bool on) {
  if (on && !document_->analysis()) return say(tr("You can draw once the clip is tracked."), false);
  if (on) {
    player_.pause();
    guide_->stop();
    stage_->setPlacing(std::nullopt);
    stage_->setMessage(QString());
  }
  stage_->pad().setOn(on);
  draw_strip_->setVisible(on);
  draw_->setChecked(on);
  makeRoom();
  if (on)
    say(tr("Pick a pen and click its ends on the picture. Esc puts it down, Delete removes, Ctrl+Z undoes."), false);
  takeKeys();
}

void ReviewPage::setTalking(bool on) {
  if (on && !document_->analysis()) return say(tr("You can talk it through once the clip is tracked."), false);
  if (!on && talk_->busy()) talk_->toggleRecording();
  talk_->setVisible(on);
  talk_button_->setChecked(on);
  makeRoom();
  if (on) say(tr("Shift+V records and stops. The reply's clip does what you did while you talked."), false);
  takeKeys();
}

void ReviewPage::countTakes() {
  const auto takes = talk_->takesForReply().size();
  talk_button_->setText(takes == 0 ? tr("Talk") : tr("Talk (%1)").arg(takes));
}

// What lies free on the picture is followed as long as it shows, so that it rides on what it was put on.
void ReviewPage::followDrawn(const coaching::Shape& shape) {
  const auto a = document_->analysis();
  if (!a || shape.from_s == shape.to_s) return;
  const bool free = std::any_of(shape.anchors.begin(), shape.anchors.end(), [](const coaching::Anchor& anchor) {
    return !anchor.rides && anchor.followed.empty();
  });
  // A text, a plumb line or a level line without a landmark belongs to the room and not to a patch of it.
  const bool of_room = shape.kind == coaching::ShapeKind::Pose || shape.kind == coaching::ShapeKind::Text ||
                       shape.kind == coaching::ShapeKind::Plumb || shape.kind == coaching::ShapeKind::Level;
  if (!free || of_room) return;
  const std::size_t first = a->motion.frameAt(shape.from_s), last = a->motion.frameAt(shape.to_s),
                    drawn = a->motion.frameAt(shape.drawn_s);
  following_.start<coaching::Shape>(
      tr("Following your drawing…"),
      [shape, first, last, drawn, clip = document_->clip()](Task& task) -> Result<coaching::Shape> {
        coaching::Shape followed = shape;
        for (coaching::Anchor& anchor : followed.anchors) {
          if (anchor.rides || !anchor.followed.empty()) continue;
          auto way = tracing::followPoint(clip, anchor.place, drawn, first, last, task);
          if (!way) return fail(way.error());
          anchor.followed_from = way->first;
          anchor.followed = std::move(way->places);
        }
        return followed;
      },
      [this, shape](Result<coaching::Shape> followed) {
        if (!followed) {
          if (followed.error().code != ErrorCode::Cancelled) say(q(followed.error().sentence()), true);
          return;
        }
        document_->setFollowed(shape, *followed);
        std::size_t lost = 0;
        for (const auto& anchor : followed->anchors)
          lost += static_cast<std::size_t>(std::count(anchor.followed.begin(), anchor.followed.end(), std::nullopt));
        if (lost > 0)
          say(tr("What you drew on is out of sight in part of the clip. The drawing is left out there."), false);
      });
}

// Nothing is traced, and everything else goes on: marks, drawings, cues of one's own and the reply.
void ReviewPage::watchOnly(const QString& why) {
  if (!clip_info_) {
    watch_once_opened_ = why;
    return;
  }
  document_->takeAnalysis(
      coaching::watched(*clip_info_, document_->request(), document_->style(), document_->book(), why.toStdString()));
  why_not_->setText(why);
  refreshReply();
  place_->hide();
  makeRoom();
  measures_->setShow(MeasuresTable::Show::ByEye);
  tabs_->setCurrentWidget(measures_);
  emit ready();
}

// A reply about a clip without numbers needs something in it.
void ReviewPage::refreshReply() {
  const auto a = document_->analysis();
  if (!a) return;
  const CueChoice& choice = document_->choice();
  const bool said = a->isTraced() || !choice.cues.empty() || choice.change_nothing || !choice.greeting.empty() ||
                    !choice.closing.empty() || !document_->sketch().empty();
  reply_->setEnabled(said);
  to_folder_->setEnabled(said);
  then_next_button_->setEnabled(said);
  preview_->setEnabled(said);
  why_not_->setVisible(!said);
}

void ReviewPage::takeAsVertical(const coaching::Shape& line) {
  const auto a = document_->analysis();
  if (!a || !a->isTraced()) return say(tr("This clip isn't tracked, so there's no angle to correct."), false);
  const auto roll_rad = coaching::rollByVertical(line, *a);
  if (!roll_rad) return say(tr("That line is too short or too tilted to be a vertical."), true);
  setRoll(degrees(*roll_rad));
  say(tr("Lean and tilt are now measured from that line. Remove the line if it shouldn't be in the reply; Ctrl+Z takes "
         "it "
         "back."),
      false);
}

void ReviewPage::setRoll(std::optional<double> roll_deg) {
  SetUp to = document_->setUp();
  if (to.roll_deg == roll_deg) return;
  to.roll_deg = roll_deg;
  document_->undoStack().push(new ChangeSetUp(
      *document_, roll_deg ? tr("say what is vertical") : tr("the vertical as filmed"), to, newGesture()));
}

}  // namespace jib::desk
