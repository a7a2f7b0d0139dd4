// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/scrubber.h"

#include <QContextMenuEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "desk/review/commands/change_reps.h"
#include "desk/review/commands/change_set_up.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

constexpr double kMargin_px = 10, kCurve_px = 66;
constexpr double kTop_px = 20, kFoot_px = 18, kBand_px = 15, kFlag_px = 14;  // at the usual text size

}  // namespace

Scrubber::Scrubber(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("scrubber"));
  setMouseTracking(true);
  keepSized(this, [this] { setFixedHeight(sizeHint().height()); });
  setCursor(Qt::PointingHandCursor);
  connect(&document_, &ReviewDocument::analysisChanged, this, qOverload<>(&QWidget::update));
}

QSize Scrubber::sizeHint() const {
  return {600, static_cast<int>(kCurve_px + textPx(kTop_px) + textPx(kFoot_px))};
}

void Scrubber::setPlayHead(double t) {
  head_s_ = t;
  update();
}

void Scrubber::setBare(bool bare) {
  bare_ = bare;
  update();
}

void Scrubber::wheelEvent(QWheelEvent* event) {
  constexpr double kNotch = 120;  // of a wheel, by Qt's own measure
  jog_ += event->angleDelta().y() != 0 ? event->angleDelta().y() : event->angleDelta().x();
  const int frames = static_cast<int>(jog_ / kNotch);
  jog_ -= frames * kNotch;
  if (frames != 0) emit jogged(-frames);
}

void Scrubber::setDuration(double from, double to) {
  from_s_ = from;
  to_s_ = std::max(to, from + 0.01);
  update();
}

double Scrubber::timeAt(double x) const {
  return from_s_ + std::clamp((x - kMargin_px) / (width() - 2 * kMargin_px), 0.0, 1.0) * (to_s_ - from_s_);
}

double Scrubber::xAt(double t) const {
  return kMargin_px + (t - from_s_) / (to_s_ - from_s_) * (width() - 2 * kMargin_px);
}

void Scrubber::paintCurve(QPainter& painter, const QRectF& area) {
  const auto a = document_.analysis();
  double low = 1e9, high = -1e9;
  const auto& bar = a->motion.path(tracing::Landmark::Bar).at;
  for (const auto& p : bar)
    if (p) {
      low = std::min(low, p->z);
      high = std::max(high, p->z);
    }
  if (high <= low) return;
  const auto yAt = [&](double z) { return area.bottom() - 4 - (z - low) / (high - low) * (area.height() - 10); };
  QPainterPath line;
  QPainterPath water;
  bool open = false;
  double last_x = 0;
  const auto close = [&] {
    if (!open) return;
    water.lineTo(last_x, area.bottom());
    water.closeSubpath();
    open = false;
  };
  for (std::size_t i = 0; i < bar.size(); ++i) {
    if (!bar[i]) {
      close();
      continue;
    }
    const double x = xAt(a->motion.times_s[i]), y = yAt(bar[i]->z);
    if (!open) {
      line.moveTo(x, y);
      water.moveTo(x, area.bottom());
      water.lineTo(x, y);
      open = true;
    } else {
      line.lineTo(x, y);
      water.lineTo(x, y);
    }
    last_x = x;
  }
  close();
  painter.setPen(Qt::NoPen);
  painter.setBrush(colours().shallow);
  painter.drawPath(water);
  painter.setBrush(Qt::NoBrush);
  painter.setPen(QPen(colours().ink, 1.6));
  painter.drawPath(line);
  // Down and up of each rep in the colours the path has on the picture.
  for (const auto& rep : a->reps)
    for (std::size_t i = a->motion.frameAt(rep.start_t()); i < a->motion.frameAt(rep.end_t()); ++i)
      if (bar[i] && bar[i + 1]) {
        const double t = a->motion.times_s[i];
        const auto lowered = rep.lowered();
        const bool down = lowered && lowered->holds(t);
        if (!down && !rep.raised().holds(t)) continue;  // paused, or held at the top
        painter.setPen(QPen(down ? drawing::kDescentColour.darker(115) : drawing::kAscentColour.darker(110), 2.6));
        painter.drawLine(QPointF(xAt(a->motion.times_s[i]), yAt(bar[i]->z)),
                         QPointF(xAt(a->motion.times_s[i + 1]), yAt(bar[i + 1]->z)));
      }
}

// How sure the body points are, along the clip: full where they are within a centimetre and a half, thinner the less
// sure, nothing where there are none.
void Scrubber::paintCertainty(QPainter& painter, const QRectF& area) {
  const auto a = document_.analysis();
  if (!a->trace.body) return;
  const auto& trace = a->trace.trace;
  const double px = a->trace.camera.pixelsPerMetre(a->trace.camera.hip_m);
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.setPen(Qt::NoPen);
  painter.setBrush(colours().ink);
  for (std::size_t i = 0; i + 1 < trace.size(); ++i) {
    const auto &hip = trace.frames[i][tracing::at(tracing::Landmark::Hip)],
               &knee = trace.frames[i][tracing::at(tracing::Landmark::Knee)];
    if (!hip || !knee) continue;
    const double sigma_m = std::max(hip->sigma_px, knee->sigma_px) / px;
    const double thick = sigma_m < 0.015 ? 4 : sigma_m < 0.025 ? 3 : sigma_m < 0.04 ? 2 : 1;
    const double x0 = std::floor(xAt(trace.times_s[i])), x1 = std::ceil(xAt(trace.times_s[i + 1]));
    painter.drawRect(QRectF(x0, area.bottom() + 14 - thick, x1 - x0, thick));
  }
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setBrush(Qt::NoBrush);
}

void Scrubber::paintReps(QPainter& painter, const QRectF& area) {
  QFont small = font();
  small.setPixelSize(textPx(12));
  painter.setFont(small);
  const auto a = document_.analysis();
  int number = 0;
  std::size_t set = 0;
  for (const motion::HeldRep& held : document_.heldReps()) {
    const auto& rep = held.rep;
    const bool miss = rep.type == motion::RepType::Miss, counts = !held.left_out && !held.spotted && !miss;
    const bool opens = counts && a->sets.size() > 1 && opensSet(rep);
    if (opens) {  // reps are counted within their set, as everywhere else
      ++set;
      number = 0;
    }
    if (counts) ++number;
    const double x0 = xAt(rep.start_t()), x1 = xAt(rep.end_t());
    const QRectF band(x0, 2, x1 - x0, textPx(kBand_px));
    painter.fillRect(band, rep.whole().holds(head_s_) ? colours().shoal : colours().raised);
    if (!counts) painter.fillRect(band, QBrush(colours().line, Qt::BDiagPattern));
    painter.setPen(colours().ink);
    QString name = held.left_out ? tr("left out") : miss ? tr("miss") : tr("rep %1").arg(number);
    const QString kind = rep.type == motion::RepType::Paused    ? tr("paused")
                         : rep.type == motion::RepType::Partial ? tr("partial")
                                                                : QString();
    if (counts && !kind.isEmpty() && document_.repsEdited()) name += QStringLiteral(" · ") + kind;
    if (opens) name = tr("set %1 · %2").arg(set).arg(name);
    if (held.spotted) name = tr("spotter");
    painter.drawText(band, Qt::AlignCenter, painter.fontMetrics().elidedText(name, Qt::ElideRight, int(x1 - x0)));
    for (const auto& event : rep.events) paintEventMark(painter, area, event);
  }
}

// A set that begins with this rep, by the rest before it or by what the coach said.
bool Scrubber::opensSet(const motion::Rep& rep) const {
  const auto& sets = document_.analysis()->sets;
  return std::any_of(sets.begin(), sets.end(), [&](const motion::SetSpan& s) { return s.from_s == rep.start_t(); });
}

// A dotted line where a movement begins or ends, and below it what it is: the bar lowest or leaving the floor points
// down, lockout points up, the slowest moment is a ring.
void Scrubber::paintEventMark(QPainter& painter, const QRectF& area, const motion::Event& event) {
  using motion::EventKind;
  const double x = xAt(event.t_s), y = area.bottom() + 5;
  if (event.kind == EventKind::Sticking) {
    painter.setPen(QPen(colours().ink, 1.4));
    painter.drawEllipse(QPointF(x, y), 3, 3);
    return;
  }
  if (event.kind == EventKind::Ascent) return;  // of most reps it all but falls on the bottom
  painter.setPen(QPen(colours().faint, 1, Qt::DotLine));
  painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
  const bool low = event.kind == EventKind::Bottom || event.kind == EventKind::LiftOff;
  if (!low && event.kind != EventKind::Lockout) return;
  painter.setPen(Qt::NoPen);
  painter.setBrush(colours().ink);
  const double tip = low ? 3 : -3;
  painter.drawPolygon(QPolygonF{QPointF(x - 4, y - tip), QPointF(x + 4, y - tip), QPointF(x, y + tip)});
  painter.setBrush(Qt::NoBrush);
}

void Scrubber::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), colours().panel);
  const QRectF area(kMargin_px, textPx(kTop_px), width() - 2 * kMargin_px,
                    height() - textPx(kTop_px) - textPx(kFoot_px));
  painter.fillRect(area, colours().deep);
  if (bare_) {
    // Only time.
  } else if (document_.analysis()) {
    paintCurve(painter, area);
    paintCertainty(painter, area);
    paintReps(painter, area);
    paintSignals(painter, area);
  } else {
    painter.setPen(colours().faint);
    painter.drawText(area, Qt::AlignCenter, tr("The bar's height appears here once the clip is tracked."));
  }
  for (const auto& p : document_.placed()) {
    if (bare_) break;
    painter.setPen(QPen(drawing::kCoachColour, 2));
    painter.drawLine(QPointF(xAt(p.t_s), area.top()), QPointF(xAt(p.t_s), area.top() + 7));
  }
  if (!bare_) paintLeftOut(painter, area);
  paintBookmarks(painter, area);
  const double x = xAt(head_s_);
  painter.setPen(QPen(colours().ink, 2));
  const double flag_height = textPx(kFlag_px);
  painter.drawLine(QPointF(x, 0), QPointF(x, height() - flag_height));
  QFont small = font();
  small.setPixelSize(textPx(11));
  painter.setFont(small);
  const QString time = QStringLiteral("%1 s").arg(head_s_, 0, 'f', 2);
  const double wide = QFontMetricsF(small).horizontalAdvance(time) + 8;
  const QRectF flag(std::clamp(x - wide / 2, 0.0, width() - wide), height() - flag_height, wide, flag_height);
  painter.fillRect(flag, colours().ink);
  painter.setPen(colours().panel);
  painter.drawText(flag, Qt::AlignCenter, time);
}

std::vector<Scrubber::Signal> Scrubber::signalsHeard() const {
  std::vector<Signal> all;
  const auto a = document_.analysis();
  if (!a || !a->isTraced() || bare_) return all;
  for (const auto& s : motion::signalsOf(a->reps, a->motion, document_.lift().pattern))
    for (const lifts::SignalName& name : document_.lift().referee_signals)
      if (name.place == s.place) all.push_back({s.t_s, q(name.title)});
  return all;
}

// A small open square under the curve.
void Scrubber::paintSignals(QPainter& painter, const QRectF& area) {
  painter.setPen(QPen(colours().ink, 1.4));
  for (const Signal& s : signalsHeard()) painter.drawRect(QRectF(xAt(s.t_s) - 3, area.bottom() + 2, 6, 6));
}

// Hatched in the coach's colour, like all that is the coach's; the one being marked reaches to the play head.
void Scrubber::paintLeftOut(QPainter& painter, const QRectF& area) {
  auto parts = document_.submission().details.left_out;
  if (leaving_from_) parts.push_back({std::min(*leaving_from_, head_s_), std::max(*leaving_from_, head_s_)});
  QFont small = font();
  small.setPixelSize(textPx(11));
  painter.setFont(small);
  for (const auto& part : parts) {
    const QRectF block(QPointF(xAt(part.from_s), area.top()), QPointF(xAt(part.to_s), area.bottom()));
    painter.fillRect(block, QBrush(drawing::kCoachColour, Qt::BDiagPattern));
    painter.setPen(QPen(drawing::kCoachColour, 1.4));
    painter.drawLine(block.topLeft(), block.bottomLeft());
    painter.drawLine(block.topRight(), block.bottomRight());
    const QString name = painter.fontMetrics().elidedText(tr("left out"), Qt::ElideRight, int(block.width()) - 8);
    if (name.size() < 4) continue;
    const double wide = painter.fontMetrics().horizontalAdvance(name) + 8, tall = painter.fontMetrics().height();
    const QRectF plate(block.center().x() - wide / 2, block.center().y() - tall / 2, wide, tall);
    painter.fillRect(plate, colours().panel);
    painter.setPen(colours().ink);
    painter.drawText(plate, Qt::AlignCenter, name);
  }
}

void Scrubber::changeLeftOut(const QString& text, tracing::LeftOuts to) {
  SetUp set_up = document_.setUp();
  set_up.left_out = std::move(to);
  document_.undoStack().push(new ChangeSetUp(document_, text, set_up, newGesture()));
  update();
}

bool Scrubber::mayLeaveOut() {
  const auto a = document_.analysis();
  if (a && a->isTraced() && !bare_) return true;
  emit said(tr("Nothing is measured in this clip yet."));
  return false;
}

void Scrubber::trimBefore(double t) {
  if (!mayLeaveOut()) return;
  changeLeftOut(tr("trim the start"),
                tracing::with(document_.setUp().left_out, {document_.analysis()->motion.times_s.front(), t}));
  emit said(tr("The clip starts here now; the file stays whole. Ctrl+Z undoes it."));
}

void Scrubber::trimAfter(double t) {
  if (!mayLeaveOut()) return;
  changeLeftOut(tr("trim the end"),
                tracing::with(document_.setUp().left_out, {t, document_.analysis()->motion.times_s.back()}));
  emit said(tr("The clip ends here now; the file stays whole. Ctrl+Z undoes it."));
}

void Scrubber::leaveOutAt(double t) {
  const auto a = document_.analysis();
  if (!mayLeaveOut()) return;
  const auto parts = document_.setUp().left_out;
  if (leaving_from_) {
    const double from = *leaving_from_;
    leaving_from_.reset();
    if (std::abs(t - from) > 0.5 * a->clip.frameInterval_s())
      changeLeftOut(tr("leave a part out"), tracing::with(parts, {from, t}));
    else
      emit said({});
    update();
  } else if (const auto fewer = tracing::without(parts, t); fewer != parts) {
    changeLeftOut(tr("measure a part again"), fewer);
  } else {
    leaving_from_ = t;
    emit said(tr("Nothing is measured from %1 s on. Go to where it should start again and press J.").arg(t, 0, 'f', 2));
    update();
  }
}

// A flag in the coach's colour for each bookmark.
void Scrubber::paintBookmarks(QPainter& painter, const QRectF& area) {
  for (const auto& b : document_.bookmarks()) {
    const double x = xAt(b.t_s);
    painter.setPen(QPen(drawing::kCoachColour, 1.6));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    painter.setPen(Qt::NoPen);
    painter.setBrush(drawing::kCoachColour);
    painter.drawPolygon(QPolygonF{QPointF(x, area.top()), QPointF(x + 10, area.top() + 4), QPointF(x, area.top() + 8)});
    painter.setBrush(Qt::NoBrush);
  }
}

QString Scrubber::eventNear(double x) const {
  for (const auto& b : document_.bookmarks())
    if (std::abs(xAt(b.t_s) - x) < 6 && !b.word.empty()) return q(b.word);
  const auto a = document_.analysis();
  if (!a || bare_) return {};
  for (const Signal& s : signalsHeard())
    if (std::abs(xAt(s.t_s) - x) < 4)
      return tr("“%1” could come here, %2 s: the bar has rested for %3 s. The rule book and the referees decide.")
          .arg(s.title)
          .arg(s.t_s, 0, 'f', 2)
          .arg(motion::kStill_s, 0, 'f', 1);
  for (std::size_t i = 0; i < a->reps.size(); ++i) {
    const auto& r = a->reps[i];
    for (const auto& event : r.events) {
      const auto title = document_.lift().titleOf(event.kind);
      if (title.empty() || std::abs(xAt(event.t_s) - x) >= 6) continue;
      return tr("Rep %1: %2, %3 s").arg(i + 1).arg(q(title).toLower()).arg(event.t_s, 0, 'f', 2);
    }
  }
  return a->trace.body ? tr("The line below shows how certain the body points are: thicker = more certain.")
                       : QString();
}

std::optional<std::size_t> Scrubber::repAt(double t_s) const {
  const auto held = document_.heldReps();
  for (std::size_t i = 0; i < held.size(); ++i)
    if (held[i].rep.whole().holds(t_s)) return i;
  return std::nullopt;
}

// The marks under the curve, and the edges of the bands over it.
std::optional<Scrubber::Grip> Scrubber::gripAt(QPointF at) const {
  constexpr double kReach_px = 5;
  if (bare_) return std::nullopt;
  const bool band = at.y()<textPx(kBand_px) + 3, marks = at.y()> height() - textPx(kFoot_px);
  if (!band && !marks) return std::nullopt;
  const auto held = document_.heldReps();
  for (std::size_t i = 0; i < held.size(); ++i)
    for (const auto& event : held[i].rep.events) {
      using motion::EventKind;
      const bool edge = event.t_s == held[i].rep.start_t() || event.t_s == held[i].rep.end_t();
      if (band != edge || event.kind == EventKind::Ascent || std::abs(xAt(event.t_s) - at.x()) > kReach_px) continue;
      return Grip{i, event.kind};
    }
  return std::nullopt;
}

void Scrubber::put(const QString& text, std::optional<motion::HeldReps> to, int gesture) {
  document_.undoStack().push(new ChangeReps(document_, text, std::move(to), gesture));
}

void Scrubber::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  const auto a = document_.analysis();
  if (event->modifiers() & Qt::ShiftModifier && a && a->isTraced() && !bare_) {
    leaving_from_ = timeAt(event->position().x());
    leaving_by_drag_ = true;
    return emit timeRequested(*leaving_from_);
  }
  held_ = gripAt(event->position());
  gesture_ = newGesture();
  if (!held_) emit timeRequested(timeAt(event->position().x()));
}

void Scrubber::mouseMoveEvent(QMouseEvent* event) {
  const auto a = document_.analysis();
  if (held_ && a && event->buttons() & Qt::LeftButton) {
    const double t = timeAt(event->position().x());
    put(tr("move an event"), motion::withEvent(document_.heldReps(), a->motion, held_->rep, held_->kind, t), gesture_);
    emit timeRequested(t);
  } else if (event->buttons() & Qt::LeftButton) {
    emit timeRequested(timeAt(event->position().x()));
  } else {
    const bool grip = gripAt(event->position()).has_value();
    setCursor(grip ? Qt::SizeHorCursor : Qt::PointingHandCursor);
    const QString name = eventNear(event->position().x());
    setToolTip(grip ? tr("%1: drag to put it right").arg(name) : name);
  }
}

void Scrubber::mouseReleaseEvent(QMouseEvent* event) {
  held_.reset();
  if (leaving_by_drag_) leaveOutAt(timeAt(event->position().x()));
  leaving_by_drag_ = false;
}

void Scrubber::contextMenuEvent(QContextMenuEvent* event) {
  const bool by_mouse = event->reason() == QContextMenuEvent::Mouse;
  offerRepEdits(by_mouse ? timeAt(event->pos().x()) : head_s_, event->globalPos());
}

void Scrubber::offerRepEdits(double t, QPoint at) {
  // long because a list of menu entries
  const auto a = document_.analysis();
  if (!a) return;
  const auto pattern = document_.lift().pattern;
  const motion::HeldReps held = document_.heldReps();
  const auto here = repAt(t);
  auto* menu = new QMenu(this);
  menu->setObjectName(QStringLiteral("repMenu"));
  menu->setAttribute(Qt::WA_DeleteOnClose);
  const auto add = [&](const QString& text, const char* name, bool possible, auto edit) {
    auto* action = menu->addAction(text);
    action->setObjectName(QString::fromLatin1(name));
    action->setEnabled(possible);
    connect(action, &QAction::triggered, this, [this, text, edit] { put(text, edit(), newGesture()); });
    return action;
  };
  if (!here) {
    constexpr double kHalf_s = 1.5;
    add(tr("Add a rep here"), "addRep", true, [=, &motion = a->motion] {
      double from = std::max(motion.times_s.front(), t - kHalf_s), to = std::min(motion.times_s.back(), t + kHalf_s);
      for (const auto& h : held) {
        if (h.rep.end_t() <= t) from = std::max(from, h.rep.end_t());
        if (h.rep.start_t() >= t) to = std::min(to, h.rep.start_t());
      }
      return std::optional(motion::withRep(held, motion, pattern, from, to));
    });
  } else {
    const std::size_t i = *here;
    const auto changed = [=](auto change) {
      motion::HeldReps to = held;
      change(to[i]);
      return std::optional(to);
    };
    add(tr("Split it here"), "splitRep", true,
        [=] { return std::optional(motion::split(held, a->motion, pattern, i, t)); });
    add(tr("Join it with the next"), "joinRep", i + 1 < held.size(),
        [=] { return std::optional(motion::joined(held, a->motion, pattern, i)); });
    add(tr("Remove it"), "removeRep", true, [=] { return std::optional(motion::without(held, i)); });
    menu->addSeparator();
    using motion::RepType;
    const bool down = pattern == motion::RepPattern::DownFirst;
    const std::vector<std::pair<RepType, QString>> types =
        down ? std::vector<std::pair<RepType, QString>>{{RepType::Plain, tr("An ordinary rep")},
                                                        {RepType::Paused, tr("Paused")},
                                                        {RepType::Partial, tr("Partial")},
                                                        {RepType::Miss, tr("A miss")}}
             : std::vector<std::pair<RepType, QString>>{{RepType::DeadStop, tr("From a dead stop")},
                                                        {RepType::TouchAndGo, tr("Touch and go")},
                                                        {RepType::Reset, tr("After a reset")},
                                                        {RepType::Miss, tr("A miss")}};
    for (const auto& [type, title] : types) {
      auto* action = add(title, ("type_" + std::string(motion::nameOf(type))).c_str(), true,
                         [=, type = type] { return changed([type](motion::HeldRep& h) { h.rep.type = type; }); });
      action->setCheckable(true);
      action->setChecked(held[i].rep.type == type);
    }
    menu->addSeparator();
    const bool opens = opensSet(held[i].rep);
    auto* set = add(tr("A new set starts with it"), "opensSet", i > 0,
                    [=] { return changed([opens](motion::HeldRep& h) { h.opens_set = !opens; }); });
    set->setCheckable(true);
    set->setChecked(opens);
    auto* spotted = add(tr("A spotter touched the bar"), "spotted", true,
                        [=] { return changed([](motion::HeldRep& h) { h.spotted = !h.spotted; }); });
    spotted->setCheckable(true);
    spotted->setChecked(held[i].spotted);
    auto* out = add(tr("Leave it out of the numbers"), "leaveOut", true,
                    [=] { return changed([](motion::HeldRep& h) { h.left_out = !h.left_out; }); });
    out->setCheckable(true);
    out->setChecked(held[i].left_out);
  }
  menu->addSeparator();
  const auto parts = document_.setUp().left_out;
  const bool inside = std::any_of(parts.begin(), parts.end(), [t](const auto& part) { return part.holds(t); });
  auto* leave = menu->addAction(inside          ? tr("Measure this part again")
                                : leaving_from_ ? tr("Measure nothing up to here")
                                                : tr("Measure nothing from here on…"));
  leave->setObjectName(QStringLiteral("leavePartOut"));
  leave->setEnabled(a->isTraced());
  connect(leave, &QAction::triggered, this, [this, t] { leaveOutAt(t); });
  menu->addSeparator();
  add(tr("Back to the reps that were found (%1)").arg(a->found.size()), "foundReps", document_.repsEdited(),
      [] { return std::optional<motion::HeldReps>(); });
  menu->popup(at);
}

}  // namespace jib::desk
