// SPDX-License-Identifier: GPL-3.0-or-later
// How the clip is looked at: the first look, framing and following, lines, the mirror of the rep, and how the desk
// stood when it was closed.
#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QMenu>
#include <QStackedWidget>
#include <QTabWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <nlohmann/json.hpp>

#include "core/motion/key_moments.h"
#include "desk/review/commands/turn_picture.h"
#include "desk/review/first_look_panel.h"
#include "desk/review/key_strip.h"
#include "desk/review/measures_table.h"
#include "desk/review/other_view.h"
#include "desk/review/picture_window.h"
#include "desk/review/placing_guide.h"
#include "desk/review/plots.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "desk/review/then_panel.h"
#include "desk/review/transport.h"
#include "desk/review/upright_dialog.h"
#include "desk/text.h"
#include "drawing/lifter_extent.h"

namespace jib::desk {

using Json = nlohmann::json;

void ReviewPage::startFirstLook() {
  if (stage_->pad().on()) setDrawing(false);
  first_look_ = true;
  applyFirstLook();
  transport_->setLoop(LoopKind::Off);
  player_.goTo(player_.firstTime());
  say(tr("First look: Space plays, B drops a bookmark, “Show me” brings the numbers."), false);
  takeKeys();
}

void ReviewPage::startAt(double t_s) {
  start_at_ = t_s;
  if (first_look_) showMeasured();
  if (document_->analysis() && document_->analysis()->isTraced()) player_.goTo(t_s);
}

// Measures and findings, and what they say to the bookmarks.
void ReviewPage::showMeasured() {
  first_look_ = false;
  applyFirstLook();
  document_->setLooked(true);
  say({}, false);
  transport_->setLoop(LoopKind::Rep);
  tabs_->setCurrentIndex(0);
  takeKeys();
}

void ReviewPage::applyFirstLook() {
  side_->setCurrentIndex(first_look_ ? 1 : 0);
  stage_->setBare(first_look_);
  scrubber_->setBare(first_look_);
  camera_->setVisible(!first_look_ && !camera_->text().isEmpty());
  returning_->setVisible(!first_look_);  // one thing to press at a time
  for (QWidget* w : {static_cast<QWidget*>(draw_), static_cast<QWidget*>(place_)}) w->setEnabled(!first_look_);
  makeRoom();
}

void ReviewPage::askUpright() {
  if (as_it_came_.width == 0) return say(tr("This clip can't be read, so there's no picture to fix."), true);
  player_.pause();
  UprightDialog ask(stage_->picture(), upright_, as_it_came_, this);
  if (ask.exec() == QDialog::Accepted && ask.chosen() != upright_) setUpright(ask.chosen());
}

void ReviewPage::changeClip(const QString& title, const std::function<Result<bool>()>& change, const TakeBack& back) {
  for (JobRunner* jobs : lanes()) jobs->cancel();
  // A save on its way holds places of the picture as it was: all of it is written now, and that one is not.
  if ((save_timer_.isActive() || saving_.busy()) && !save()) return;
  keeper_->disown();
  if (auto kept = change(); !kept) return say(q(kept.error().sentence()), true);
  given_up_ = true;
  emit clipChanged(document_->submission().id.number, title, back);
}

void ReviewPage::setUpright(const footage::Upright& to) {
  changeClip(
      tr("Fix the picture"), [&] { return library_.setUpright(document_->submission().id, to, as_it_came_); },
      [before = upright_](ReviewPage& page) { page.setUpright(before); });
}

void ReviewPage::setSeenFrom(const std::string& view) {
  const auto& s = document_->submission();
  if (view == s.details.seen_from) return;
  changeClip(
      tr("Set the camera angle"), [&] { return library_.setSeenFrom(s.id, view); },
      [before = s.details.seen_from](ReviewPage& page) { page.setSeenFrom(before); });
}

void ReviewPage::setPicturesApart(bool on) {
  if (on == !apart_.isNull()) return;
  QWidget* pictures = pictures_->parentWidget();
  auto* column = static_cast<QVBoxLayout*>(left_->layout());
  if (on) {
    apart_ = new PictureWindow(pictures, left_->actions(), this);
    connect(apart_, &PictureWindow::closed, this, [this] { apart_on_->setChecked(false); });
    apart_->show();
  } else {
    column->insertWidget(column->indexOf(elsewhere_), pictures, 5);
    apart_->close();
    apart_->deleteLater();
    apart_.clear();
  }
  elsewhere_->setVisible(on);
  makeRoom();
  takeKeys();
}

void ReviewPage::setPointing(bool on) {
  if (on && stage_->pad().on()) setDrawing(false);
  if (on) guide_->stop();
  player_.pause();
  stage_->setPlacing(std::nullopt);
  stage_->setPointing(on);
}

void ReviewPage::pointAtLifter(PixelPoint at) {
  setPointing(false);
  setLifter(tracing::PointedAt{player_.time(), at});
}

void ReviewPage::setLifter(const std::optional<tracing::PointedAt>& lifter) {
  const auto& s = document_->submission();
  changeClip(
      lifter ? tr("Point at the lifter") : tr("Auto: find the lifter"),
      [&] { return library_.setLifter(s.id, lifter); },
      [before = s.details.lifter](ReviewPage& page) { page.setLifter(before); });
}

void ReviewPage::canTakeBack(const QString& title, const TakeBack& back) {
  document_->undoStack().push(new TurnPicture(title, [this, back] { back(*this); }));
}

void ReviewPage::setLines(bool on) {
  const QSignalBlocker quiet(lines_on_);
  lines_on_->setChecked(on);
  stage_->setEvidence(std::nullopt);
  stage_->setChoice(on ? lines_ : drawing::OverlayChoice{false, false, false, false, false, false});
}

// The last point that was placed by hand, else the bar; larger when the whole picture is shown, as then nothing could
// move.
void ReviewPage::followBar(bool on) {
  stage_->setFollowed(on ? std::optional(last_placed_.value_or(tracing::Landmark::Bar)) : std::nullopt);
  constexpr double kClose = 2;
  const auto& view = stage_->framing();
  if (on && view.zoom() < kClose) stage_->setOwnFraming(kClose, view.centre());
}

void ReviewPage::showMirror(bool on) {
  if (on && !mirror_->isOpen()) {
    mirror_->open(document_->clip(), tr("same bar height"), [this](double t) -> std::optional<double> {
      const auto a = document_->analysis();
      if (!a) return std::nullopt;
      for (const auto& rep : a->reps)
        if (rep.whole().holds(t)) return motion::sameHeight(rep, a->motion, t);
      return std::nullopt;
    });
  }
  if (const auto a = document_->analysis(); on && a) mirror_->setCrop(drawing::lifterExtent(*a));
  mirror_->setVisible(on && mirror_->isOpen());
  placeOtherView();
  mirror_->follow(player_.time());
}

// Beside the clip, or over it; the widest earlier film has no second camera next to it as well.
void ReviewPage::showThen(bool on) {
  if (on && !then_->open()) {
    const QSignalBlocker quiet(then_on_);
    then_on_->setChecked(false);
    return;
  }
  if (on && other_large_) setOtherLarge(false);
  then_->setVisible(on);
  then_->follow(player_.time());
}

void ReviewPage::refreshFraming() {
  const QSignalBlocker quiet(lifter_framed_);
  lifter_framed_->setChecked(stage_->framing().framing() == StageView::Framing::Lifter);
}

std::string ReviewPage::deskState() const {
  const auto& view = stage_->framing();
  return Json{{"speed", player_.speed()},
              {"loop", static_cast<int>(transport_->loop())},
              {"tab", tabs_->currentIndex()},
              {"framing", static_cast<int>(view.framing())},
              {"zoom", view.zoom()},
              {"centre", {view.centre().x(), view.centre().y()}},
              {"follow", follow_->isChecked()},
              {"lines_on", lines_on_->isChecked()},
              {"lines", {lines_.bar_path, lines_.mid_foot, lines_.segments, lines_.angles, lines_.depth, lines_.seen}}}
      .dump();
}

// As it was closed; what cannot be read stays as it is.
void ReviewPage::restoreDesk() {
  const Json j = Json::parse(stored_desk_, nullptr, false);
  if (!j.is_object()) return;
  try {
    auto* speed = findChild<QComboBox*>(QStringLiteral("speed"));
    if (const int at = speed->findData(j.at("speed").get<double>()); at >= 0) speed->setCurrentIndex(at);
    const int loop = j.at("loop").get<int>();
    if (loop >= 0 && loop <= static_cast<int>(LoopKind::Off)) transport_->setLoop(static_cast<LoopKind>(loop));
    tabs_->setCurrentIndex(j.at("tab").get<int>());
    using Framing = StageView::Framing;
    const auto framing = j.at("framing").get<int>();
    if (framing == static_cast<int>(Framing::Own))
      stage_->setOwnFraming(j.at("zoom").get<double>(),
                            {j.at("centre").at(0).get<double>(), j.at("centre").at(1).get<double>()});
    else
      stage_->setFraming(framing == static_cast<int>(Framing::Whole) ? Framing::Whole : Framing::Lifter);
    follow_->setChecked(j.at("follow").get<bool>());
    const auto lines = j.at("lines").get<std::vector<bool>>();
    bool* fields[] = {&lines_.bar_path, &lines_.mid_foot, &lines_.segments,
                      &lines_.angles,   &lines_.depth,    &lines_.seen};
    for (std::size_t i = 0; i < std::size(fields) && i < lines.size(); ++i) *fields[i] = lines[i];
    for (const auto& [entry, field] : line_entries_) {
      const QSignalBlocker quiet(entry);
      entry->setChecked(lines_.*field);
    }
    setLines(j.at("lines_on").get<bool>());
  } catch (const Json::exception&) {
    // A newer or damaged state: the desk opens as usual.
  }
}

}  // namespace jib::desk
