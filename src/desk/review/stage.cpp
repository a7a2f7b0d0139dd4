// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/stage.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include <opencv2/core.hpp>

#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "desk/review/ghost_figure.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "drawing/face_blur.h"
#include "drawing/lifter_extent.h"
#include "drawing/shape_painter.h"

namespace jib::desk {
namespace {

using tracing::Landmark;
using tracing::PointName;

constexpr double kGrab_px = 12;
constexpr double kThenOpacity = 0.45;  // of an earlier figure: present, and never taken for this one
constexpr double kMagnifier_px = 150, kMagnified = 3.5;
constexpr double kNotch = 120;  // of a wheel, by Qt's own measure

}  // namespace

Stage::Stage(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document), pad_(document) {
  setObjectName(QStringLiteral("stage"));
  setMouseTracking(true);
  setMinimumSize(420, 260);
  setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
  setToolTip(QString());
  connect(&document_, &ReviewDocument::analysisChanged, this, [this] {
    const auto a = document_.analysis();
    // The picture does not move under the hand that corrects a point.
    if (!dragging_ && !placing_) framing_.setLifter(a ? drawing::lifterExtent(*a) : QRectF());
    refreshFraming();
  });
  connect(&document_, &ReviewDocument::pinsChanged, this, qOverload<>(&QWidget::update));
  connect(&document_, &ReviewDocument::sketchChanged, this, qOverload<>(&QWidget::update));
  connect(&pad_, &SketchPad::changed, this, [this] {
    setCursor(pad_.on() && pad_.tool() ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
  });
}

void Stage::showFrame(std::size_t frame, const QImage& picture) {
  frame_ = frame;
  picture_ = picture;
  if (placing_ != Landmark::Bar) message_.clear();
  refreshFraming();
}

void Stage::setChoice(const drawing::OverlayChoice& choice) {
  choice_ = choice;
  update();
}

void Stage::setEvidence(std::optional<lifts::Drawing> drawing) {
  evidence_ = drawing;
  update();
}

void Stage::setBare(bool bare) {
  bare_ = bare;
  update();
}

void Stage::setPlacing(std::optional<Landmark> landmark) {
  placing_ = landmark;
  setCursor(landmark ? Qt::CrossCursor : Qt::ArrowCursor);
  update();
}

void Stage::setMessage(const QString& text) {
  message_ = text;
  update();
}

void Stage::setFraming(StageView::Framing framing) {
  framing_.frame(framing);
  emit framingChanged();
  update();
}

void Stage::setOwnFraming(double zoom, QPointF centre) {
  framing_.setOwn(zoom, centre);
  emit framingChanged();
  update();
}

void Stage::setFollowed(std::optional<PointName> point) {
  followed_ = point;
  refreshFraming();
  emit framingChanged();
}

// The stage's size, the picture's, and where what is followed is on this frame.
void Stage::refreshFraming() {
  framing_.setStage(size());
  if (!picture_.isNull()) framing_.setPicture(picture_.size());
  const auto a = document_.analysis();
  std::optional<QPointF> place;
  if (followed_ && a && frame_ < a->trace.trace.size())
    if (const auto p = a->trace.place(frame_, *followed_)) place = QPointF(p->x, p->y);
  // Where it is lost for a moment the view stays where it was.
  if (place || !followed_) framing_.follow(place);
  update();
}

void Stage::resizeEvent(QResizeEvent*) {
  refreshFraming();
}

double Stage::lineScale() const {
  return std::max(0.8, width() / 850.0);
}

double Stage::reach() const {
  return kGrab_px / view().m11();
}

QTransform Stage::view() const {
  return framing_.transform();
}

PixelPoint Stage::toClip(QPointF at) const {
  const QPointF p = view().inverted().map(at);
  return {p.x(), p.y()};
}

std::optional<PointName> Stage::pointAt(QPointF at) const {
  const auto analysis = document_.analysis();
  if (bare_ || !analysis || frame_ >= analysis->trace.trace.size()) return std::nullopt;
  std::optional<PointName> nearest;
  double least = kGrab_px;
  const auto consider = [&](const PointName& name, const std::optional<PixelPoint>& p) {
    if (!p) return;
    const QPointF q = view().map(QPointF(p->x, p->y)) - at;
    const double d = std::hypot(q.x(), q.y());
    if (d < least) {
      least = d;
      nearest = name;
    }
  };
  // Where both sides are seen, theirs; the plate and the wrist of a view from the side are not drawn.
  const bool across = analysis->trace.front != nullptr;
  for (const PointName& name : tracing::allPointNames())
    if (name.side.has_value() == across &&
        (across || (name.landmark != Landmark::Plate && name.landmark != Landmark::Wrist)))
      consider(name, analysis->trace.place(frame_, name));
  if (across) return nearest;
  const double t = analysis->motion.times_s[frame_];
  for (Landmark l : tracing::kPlacedLandmarks) consider(l, document_.pin({t, l}));
  return nearest;
}

std::optional<Stage::Foot> Stage::footAt(QPointF at) const {
  const auto a = document_.analysis();
  if (bare_ || evidence_ || !choice_.mid_foot || !a || frame_ >= a->trace.trace.size()) return std::nullopt;
  const auto line = drawing::midFootLine(*a, frame_);
  if (!line) return std::nullopt;
  const QPointF foot = toStage(line->foot), top = toStage(line->top), up = top - foot, from = at - foot;
  const double tall = std::hypot(up.x(), up.y());
  if (tall < 1) return std::nullopt;
  const double along = (from.x() * up.x() + from.y() * up.y()) / tall;
  const double beside = std::abs(from.x() * up.y() - from.y() * up.x()) / tall;
  if (beside > kGrab_px / 2 || along < -kGrab_px || along > tall) return std::nullopt;
  const auto& trace = a->trace.trace;
  return Foot{*trace.place(frame_, Landmark::Heel), *trace.place(frame_, Landmark::Toe), toClip(at), along > kGrab_px};
}

void Stage::dragFoot(QPointF to, bool finished) {
  constexpr double kMeant_px = 3;  // a click on the line is no drag
  PixelPoint by = toClip(to) - foot_->taken_at;
  if (!foot_->moved && length(by) * view().m11() < kMeant_px) return;
  foot_->moved = true;
  if (foot_->along_only) by.y = 0;
  emit footDragged(foot_->heel + by, foot_->toe + by, finished);
}

void Stage::setPointing(bool on) {
  pointing_ = on;
  setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
  setMessage(on ? tr("Click the lifter. Nobody else is measured then.") : QString());
}

// What is under the pointer, and what can be done with it.
void Stage::hover(QPointF at) {
  const auto now = pointAt(at);
  const bool foot = !now && footAt(at);
  if (now == hovered_ && foot == foot_hovered_) return;
  hovered_ = now;
  foot_hovered_ = foot;
  setCursor(now ? Qt::OpenHandCursor : foot ? Qt::SizeHorCursor : Qt::ArrowCursor);
  setToolTip(now    ? tr("%1: drag to correct it").arg(q(tracing::titleOf(*now)))
             : foot ? tr("Mid-foot: drag it to fix it; drag its lower end to move the floor")
                    : QString());
}

void Stage::setThen(std::shared_ptr<const coaching::Analysis> then, std::size_t frame, const QTransform& onto_now) {
  if (!then && !then_) return;
  then_ = std::move(then);
  then_frame_ = frame;
  then_onto_ = onto_now;
  update();
}

void Stage::paintGhost(QPainter& painter) {
  const auto analysis = document_.analysis();
  if (!analysis || frame_ >= analysis->motion.times_s.size()) return;
  std::array<std::optional<PixelPoint>, tracing::kLandmarks> placed;
  const double t = analysis->motion.times_s[frame_];
  for (Landmark l : tracing::kPlacedLandmarks) placed[tracing::at(l)] = document_.pin({t, l});
  const auto ghost = ghostFigure(*analysis, frame_, placed);
  const QTransform v = view();
  const auto map = [&](Landmark l) {
    const auto& p = placed[tracing::at(l)] ? placed[tracing::at(l)] : ghost[tracing::at(l)];
    return p ? std::optional(v.map(QPointF(p->x, p->y))) : std::nullopt;
  };
  painter.setPen(QPen(QColor(255, 255, 255, 110), 2, Qt::DashLine));
  const Landmark chain[] = {Landmark::Ankle, Landmark::Knee, Landmark::Hip, Landmark::Shoulder};
  for (int i = 0; i < 3; ++i) {
    const auto a = map(chain[i]), b = map(chain[i + 1]);
    if (a && b) painter.drawLine(*a, *b);
  }
  const auto heel = map(Landmark::Heel), toe = map(Landmark::Toe);
  if (heel && toe) painter.drawLine(*heel, *toe);
  for (Landmark l : tracing::kPlacedLandmarks) {
    const auto p = map(l);
    if (!p) continue;
    const bool set = placed[tracing::at(l)].has_value(), next = placing_ == l;
    painter.setPen(QPen(set ? drawing::kCoachColour : QColor(255, 255, 255, next ? 255 : 140), next ? 2.5 : 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(*p, next ? 11 : 6, next ? 11 : 6);
    if (set) painter.drawEllipse(*p, 2, 2);
  }
}

void Stage::paintMagnifier(QPainter& painter) {
  const PixelPoint at = toClip(pointer_);
  const double r = kMagnifier_px / 2;
  // Beside the pointer, so that the hand does not hide it, and inside the stage.
  QPointF centre = pointer_ + QPointF(r + 26, -r - 26);
  if (centre.x() + r > width()) centre.setX(pointer_.x() - r - 26);
  if (centre.y() - r < 0) centre.setY(pointer_.y() + r + 26);
  QPainterPath circle;
  circle.addEllipse(centre, r, r);
  painter.save();
  painter.setClipPath(circle);
  const double s = view().m11() * kMagnified;
  QTransform v;
  v.translate(centre.x(), centre.y());
  v.scale(s, s);
  v.translate(-at.x, -at.y);
  painter.setTransform(v, true);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.drawImage(QPointF(0, 0), picture_);
  painter.restore();
  painter.setPen(QPen(drawing::kCoachColour, 1));
  painter.drawLine(centre - QPointF(14, 0), centre - QPointF(4, 0));
  painter.drawLine(centre + QPointF(4, 0), centre + QPointF(14, 0));
  painter.drawLine(centre - QPointF(0, 14), centre - QPointF(0, 4));
  painter.drawLine(centre + QPointF(0, 4), centre + QPointF(0, 14));
  painter.setPen(QPen(QColor(0xf7, 0xf1, 0xe1), 2));
  painter.setBrush(Qt::NoBrush);
  painter.drawEllipse(centre, r, r);
}

void Stage::paintClip(QPainter& painter, const QTransform& v, double scale, bool leaving) {
  const auto analysis = document_.analysis();
  painter.save();
  painter.setTransform(v);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.drawImage(QPointF(0, 0), leaving && analysis ? blurred(*analysis) : picture_);
  painter.restore();
  // While points are being placed only the figure they are placed on is drawn.
  const bool placing_body = placing_ && placing_ != Landmark::Bar;
  if (analysis && frame_ < analysis->trace.trace.size() && !placing_body && !bare_) {
    drawing::OverlayPainter overlay(painter, *analysis, v, scale);
    if (!analysis->isTraced()) {
      // Nothing to show but what the coach draws.
    } else if (evidence_) {
      overlay.paintEvidence(frame_, *evidence_);
    } else {
      overlay.paint(frame_, choice_);
    }
    if (then_ && then_frame_ < then_->trace.trace.size()) {
      painter.save();
      painter.setOpacity(kThenOpacity);
      drawing::OverlayPainter(painter, *then_, then_onto_ * v, 1.6 * scale)
          .paint(then_frame_, {.bar_path = false, .mid_foot = false, .angles = false, .depth = false});
      painter.restore();
    }
    drawing::paintShapes(painter, document_.sketch(), *analysis, frame_, v, scale,
                         leaving ? drawing::Blurs::Unseen : drawing::Blurs::Ringed);
    pad_.paint(painter, frame_, v, scale);
  }
}

QImage Stage::blurred(const coaching::Analysis& analysis) const {
  QImage seen = picture_.convertToFormat(QImage::Format_RGB32);
  const bool heads = library::hidesFaces(
      exchange::profileAsKnown(document_.session().athlete(), document_.session().care(), library::today()),
      library::today());
  cv::Mat same(seen.height(), seen.width(), CV_8UC4, seen.bits(), static_cast<std::size_t>(seen.bytesPerLine()));
  auto others = heads ? drawing::otherFacesOn(same, analysis, frame_) : nullptr;
  drawing::blur(same, drawing::FaceBlur(analysis, document_.sketch(), heads, std::move(others)).on(frame_));
  return seen;
}

QImage Stage::still() {
  QImage whole(picture_.size(), QImage::Format_RGB32);
  if (picture_.isNull()) return whole;
  constexpr double kStage_px = 850;  // a line's unit is that of a stage so wide
  QPainter painter(&whole);
  paintClip(painter, QTransform(), std::max(0.6, picture_.width() / kStage_px), true);
  return whole;
}

void Stage::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), QColor(0x0b, 0x12, 0x20));
  if (picture_.isNull()) {
    painter.setPen(QColor(0xe9, 0xe2, 0xcd));
    painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                     message_.isEmpty() ? tr("Opening the clip…") : message_);
    return;
  }
  paintClip(painter, view(), lineScale());
  painter.setRenderHint(QPainter::Antialiasing);
  if (placing_) paintGhost(painter);
  if (pointer_inside_ && (placing_ || dragging_)) paintMagnifier(painter);
  if (!message_.isEmpty()) {
    const int how = Qt::AlignTop | Qt::AlignLeft | Qt::TextWordWrap;
    const QRect room = rect().adjusted(18, 12, -18, -12);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x0b, 0x12, 0x20, 220));
    painter.drawRoundedRect(painter.boundingRect(room, how, message_).adjusted(-8, -5, 8, 5), 4, 4);
    painter.setPen(QColor(0xf7, 0xf1, 0xe1));
    painter.drawText(room, how, message_);
  }
}

void Stage::mousePressEvent(QMouseEvent* event) {
  pointer_ = event->position();
  if (event->button() == Qt::MiddleButton ||
      (event->button() == Qt::LeftButton && event->modifiers() & Qt::ShiftModifier)) {
    panning_from_ = event->position();
    return;
  }
  if (event->button() != Qt::LeftButton || picture_.isNull()) return;
  if (pointing_) {
    emit pointedAt(toClip(event->position()));
    return;
  }
  if (placing_) {
    emit placeRequested(*placing_, toClip(event->position()));
    return;
  }
  // With the pens out nothing else is moved.
  if (pad_.on()) {
    pad_.press(toClip(event->position()), frame_, reach());
    return;
  }
  dragging_ = pointAt(event->position());
  if (!dragging_) foot_ = footAt(event->position());
  update();
}

void Stage::mouseMoveEvent(QMouseEvent* event) {
  const QPointF was = pointer_;
  pointer_ = event->position();
  pointer_inside_ = true;
  if (panning_from_) {
    framing_.panBy(pointer_ - was);
    emit framingChanged();
  } else if (pad_.on()) {
    pad_.move(toClip(pointer_), frame_, reach());
  } else if (dragging_) {
    emit dragged(*dragging_, toClip(pointer_), false);
  } else if (foot_) {
    dragFoot(pointer_, false);
  } else if (!placing_ && !pointing_) {
    hover(pointer_);
  }
  if (placing_ || dragging_ || panning_from_) update();
}

void Stage::mouseReleaseEvent(QMouseEvent* event) {
  panning_from_.reset();
  if (pad_.on() && event->button() == Qt::LeftButton) pad_.release(toClip(event->position()), frame_, reach());
  if (dragging_) {
    emit dragged(*dragging_, toClip(event->position()), true);
    dragging_.reset();
  }
  if (foot_) {
    dragFoot(event->position(), true);
    foot_.reset();
  }
  update();
}

void Stage::mouseDoubleClickEvent(QMouseEvent*) {
  using Framing = StageView::Framing;
  if (!placing_ && !pointing_ && !pad_.on())
    setFraming(framing_.framing() == Framing::Lifter ? Framing::Whole : Framing::Lifter);
}

void Stage::wheelEvent(QWheelEvent* event) {
  if (event->modifiers() & Qt::AltModifier) {
    // With Alt held a wheel turns sideways on some desktops.
    jog_ += event->angleDelta().y() != 0 ? event->angleDelta().y() : event->angleDelta().x();
    const int frames = static_cast<int>(jog_ / kNotch);
    jog_ -= frames * kNotch;
    if (frames != 0) emit jogged(-frames);
    return;
  }
  framing_.zoomAt(event->position(), std::pow(1.0015, event->angleDelta().y()));
  emit framingChanged();
  update();
}

void Stage::leaveEvent(QEvent*) {
  pointer_inside_ = false;
  update();
}

}  // namespace jib::desk
