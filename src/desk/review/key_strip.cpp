// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/key_strip.h"

#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "core/library/dates.h"
#include "core/lifts/measure_set.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/text_sized.h"
#include "drawing/lifter_extent.h"
#include "drawing/small_frames.h"

namespace jib::desk {
namespace {

constexpr int kDecoded_px = 260;  // height of the pictures that are kept
constexpr double kTop_px = 17, kFoot_px = 14, kGap_px = 3, kRepGap_px = 12, kMargin_px = 4;
constexpr double kNarrowest = 0.55, kWidest = 1.5;  // of a shot's width to its height
// How far behind the best rep, in usual faults, still looks like it, and where it no longer does.
constexpr double kLikeBest = 0.35, kFarOff = 1.2;

}  // namespace

KeyStrip::KeyStrip(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("keyStrip"));
  setMouseTracking(true);
  setCursor(Qt::PointingHandCursor);
  keepSized(this, [this] { setFixedHeight(sizeHint().height()); });
  setAccessibleName(tr("Key frames of every rep"));
  connect(&document_, &ReviewDocument::analysisChanged, this, &KeyStrip::refresh);
}

QSize KeyStrip::sizeHint() const {
  constexpr int kPictures_px = 81;
  return {600, kPictures_px + static_cast<int>(textPx(kTop_px) + textPx(kFoot_px))};
}

QString KeyStrip::nameOf(motion::KeyMoment moment) const {
  using motion::KeyMoment;
  const auto title = [this](motion::EventKind kind, const QString& otherwise) {
    const auto name = document_.lift().titleOf(kind);
    return name.empty() ? otherwise : q(name).toLower();
  };
  switch (moment) {
    case KeyMoment::Before:
      return tr("ready");
    case KeyMoment::HalfWay:
      return tr("halfway");
    case KeyMoment::Turn:
      return document_.lift().pattern == motion::RepPattern::DownFirst ? title(motion::EventKind::Bottom, tr("hole"))
                                                                       : title(motion::EventKind::LiftOff, tr("floor"));
    case KeyMoment::Sticking:
      return tr("sticking point");
    case KeyMoment::Lockout:
      return tr("lockout");
  }
  return {};
}

void KeyStrip::setOwnBest(std::optional<library::OwnBest> best) {
  own_best_ = std::move(best);
  refresh();
}

void KeyStrip::refresh() {
  const auto a = document_.analysis();
  std::vector<Shot> wanted;
  off_best_.clear();
  behind_own_.clear();
  if (a && a->isTraced()) {
    for (std::size_t r = 0; r < a->reps.size(); ++r)
      for (const auto& key : motion::keyFramesOf(a->reps[r], a->motion, document_.lift().pattern))
        wanted.push_back({r, key, {}});
    if (a->reps.size() > 1 && !a->trace.front)
      for (const auto& rep : a->measures.reps) off_best_.push_back(lifts::rankCost(rep, document_.lift().ranking));
    if (own_best_ && !a->trace.front)
      for (const auto& rep : a->measures.reps)
        behind_own_.push_back(library::behind(rep, *own_best_, document_.lift()));
    if (!off_best_.empty()) {
      const double best = *std::min_element(off_best_.begin(), off_best_.end());
      for (double& cost : off_best_) cost -= best;
    }
    lifter_ = drawing::lifterExtent(*a) & QRectF(0, 0, a->clip.width, a->clip.height);
  }
  const bool same = wanted.size() == shots_.size() &&
                    std::equal(wanted.begin(), wanted.end(), shots_.begin(), [](const Shot& w, const Shot& s) {
                      return w.rep == s.rep && w.key.moment == s.key.moment && w.key.t_s == s.key.t_s;
                    });
  if (!same) {
    // What was decoded for the same moment stays.
    for (Shot& w : wanted)
      for (const Shot& s : shots_)
        if (s.key.t_s == w.key.t_s) w.picture = s.picture;
    shots_ = std::move(wanted);
    decode();
  }
  update();
}

void KeyStrip::decode() {
  std::vector<std::size_t> frames;
  std::vector<double> times;
  for (const Shot& s : shots_)
    if (s.picture.isNull()) times.push_back(s.key.t_s);
  if (times.empty()) return;
  std::sort(times.begin(), times.end());
  for (double t : times) frames.push_back(document_.analysis()->motion.frameAt(t));
  const auto clip = document_.clip();
  jobs_.start<std::vector<QImage>>(
      {}, [clip, frames](Task& task) { return drawing::smallFrames(clip, frames, kDecoded_px, task); },
      [this, times](Result<std::vector<QImage>> made) {
        if (!made) return;  // the stage says what is wrong with the clip
        for (std::size_t i = 0; i < times.size() && i < made->size(); ++i)
          for (Shot& s : shots_)
            if (s.key.t_s == times[i]) s.picture = (*made)[i];
        update();
      });
}

double KeyStrip::shotWidth() const {
  const double high = height() - textPx(kTop_px) - textPx(kFoot_px);
  const double shape = std::clamp(lifter_.isEmpty() ? 1 : lifter_.width() / lifter_.height(), kNarrowest, kWidest);
  // A short set leaves room for more of the picture.
  const double reps = shots_.empty() ? 0 : static_cast<double>(shots_.back().rep);
  const double n = static_cast<double>(std::max<std::size_t>(shots_.size(), 1));
  const double room = (width() - 2 * kMargin_px - reps * kRepGap_px) / n - kGap_px;
  return high * std::clamp(room / high, shape, kWidest);
}

QRectF KeyStrip::place(std::size_t shot) const {
  const double wide = shotWidth();
  const double x = kMargin_px + static_cast<double>(shot) * (wide + kGap_px) +
                   static_cast<double>(shots_[shot].rep) * kRepGap_px - slid_;
  return {x, textPx(kTop_px), wide, height() - textPx(kTop_px) - textPx(kFoot_px)};
}

double KeyStrip::wholeWidth() const {
  return shots_.empty() ? 0 : place(shots_.size() - 1).right() + slid_ + kMargin_px;
}

void KeyStrip::slideTo(double x) {
  slid_ = std::clamp(x, 0.0, std::max(0.0, wholeWidth() - width()));
  update();
}

std::size_t KeyStrip::shown() const {
  std::size_t nearest = 0;
  for (std::size_t i = 1; i < shots_.size(); ++i)
    if (std::abs(shots_[i].key.t_s - head_s_) < std::abs(shots_[nearest].key.t_s - head_s_)) nearest = i;
  return nearest;
}

void KeyStrip::setPlayHead(double t) {
  head_s_ = t;
  if (!shots_.empty()) {
    const QRectF at = place(shown());
    if (at.left() < 0 || at.right() > width()) slideTo(slid_ + at.center().x() - width() / 2.0);
  }
  update();
}

std::optional<std::size_t> KeyStrip::shotAt(QPointF at) const {
  for (std::size_t i = 0; i < shots_.size(); ++i)
    if (place(i).adjusted(0, -textPx(kTop_px), kGap_px, textPx(kFoot_px)).contains(at)) return i;
  return std::nullopt;
}

QString KeyStrip::wordsOver(std::size_t rep) const {
  QString text = tr("rep %1").arg(rep + 1);
  if (rep < off_best_.size()) {
    const double off = off_best_[rep];
    text += off <= 0          ? tr(" · best of the set")
            : off < kLikeBest ? tr(" · as good as the best rep")
            : off < kFarOff   ? tr(" · below the best rep")
                              : tr(" · far below their best rep");
  }
  if (rep < behind_own_.size() && behind_own_[rep]) {
    const auto& own = *behind_own_[rep];
    if (own.value > coaching::kSureSigmas * own.sigma)
      text += tr(" · below their own best");
    else if (own.value < -coaching::kSureSigmas * own.sigma)
      text += tr(" · better than ever");
  }
  return text;
}

// What the words over a rep are held against, with the ±.
QString KeyStrip::ownBestTip(std::size_t rep) const {
  if (rep >= behind_own_.size() || !behind_own_[rep]) return {};
  const auto& own = *behind_own_[rep];
  return tr("Best rep so far: rep %1 on %2. This one is off it by %3 ± %4 of a typical fault.")
      .arg(own_best_->rep)
      .arg(q(library::spoken(own_best_->submission.received_on)))
      .arg(own.value, 0, 'f', 1)
      .arg(coaching::kSureSigmas * own.sigma, 0, 'f', 1);
}

void KeyStrip::paintRep(QPainter& painter, std::size_t rep, const QRectF& over) const {
  const QString text = wordsOver(rep);
  QColor colour = colours().faint;
  if (rep < off_best_.size())
    colour = off_best_[rep] < kLikeBest ? colours().good : off_best_[rep] < kFarOff ? colours().warn : colours().bad;
  painter.fillRect(QRectF(over.left(), over.bottom() - 2, over.width(), 2), colour);
  painter.setPen(colours().ink);
  painter.drawText(over.adjusted(0, 0, 0, -2), Qt::AlignLeft | Qt::AlignVCenter,
                   painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(over.width())));
}

void KeyStrip::paintShot(QPainter& painter, std::size_t i) const {
  const QRectF at = place(i);
  painter.fillRect(at, QColor(0x0b, 0x12, 0x20));
  const Shot& shot = shots_[i];
  const auto a = document_.analysis();
  if (!shot.picture.isNull() && a && !lifter_.isEmpty()) {
    // The lifter, in the shot's own shape, as far as the picture goes.
    const double scale = static_cast<double>(shot.picture.height()) / a->clip.height;
    QSizeF size = lifter_.size();
    const double shape = at.width() / at.height();
    size.width() < size.height() * shape ? size.setWidth(size.height() * shape) : size.setHeight(size.width() / shape);
    QRectF part(QPointF(), size);
    part.moveCenter(lifter_.center());
    const QRectF whole(0, 0, a->clip.width, a->clip.height);
    if (part.left() < 0) part.moveLeft(0);
    if (part.right() > whole.right()) part.moveRight(whole.right());
    if (part.top() < 0) part.moveTop(0);
    if (part.bottom() > whole.bottom()) part.moveBottom(whole.bottom());
    painter.drawImage(at, shot.picture, QRectF(part.topLeft() * scale, part.size() * scale));
  }
  const QString name = nameOf(shot.key.moment);
  painter.setPen(shown() == i ? colours().ink : colours().faint);
  painter.drawText(QRectF(at.left() - kGap_px, at.bottom(), at.width() + 2 * kGap_px, textPx(kFoot_px)),
                   Qt::AlignCenter, name);
  if (shown() == i) {
    painter.setPen(QPen(colours().ink, 2.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(at.adjusted(1, 1, -1, -1));
  }
}

void KeyStrip::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.fillRect(rect(), colours().panel);
  QFont small = font();
  small.setPixelSize(textPx(11));
  painter.setFont(small);
  if (shots_.empty()) {
    painter.setPen(colours().faint);
    painter.drawText(rect(), Qt::AlignCenter, tr("The key frames of every rep appear here once the clip is tracked."));
    return;
  }
  for (std::size_t i = 0; i < shots_.size(); ++i) {
    const bool first = i == 0 || shots_[i - 1].rep != shots_[i].rep;
    if (first) {
      std::size_t last = i;
      while (last + 1 < shots_.size() && shots_[last + 1].rep == shots_[i].rep) ++last;
      paintRep(painter, shots_[i].rep,
               QRectF(place(i).left(), 0, place(last).right() - place(i).left(), textPx(kTop_px) - 1));
    }
    paintShot(painter, i);
  }
}

void KeyStrip::mousePressEvent(QMouseEvent* event) {
  if (const auto at = shotAt(event->position()); at && event->button() == Qt::LeftButton)
    emit timeRequested(shots_[*at].key.t_s);
}

void KeyStrip::mouseMoveEvent(QMouseEvent* event) {
  const auto at = shotAt(event->position());
  if (!at) return setToolTip(QString());
  const Shot& shot = shots_[*at];
  const QString own = ownBestTip(shot.rep);
  setToolTip(tr("Rep %1: %2, %3 s").arg(shot.rep + 1).arg(nameOf(shot.key.moment)).arg(shot.key.t_s, 0, 'f', 2) +
             (own.isEmpty() ? own : QStringLiteral("\n") + own));
}

void KeyStrip::wheelEvent(QWheelEvent* event) {
  const QPoint by = event->angleDelta();
  slideTo(slid_ - (by.y() != 0 ? by.y() : by.x()) * 0.5);
}

void KeyStrip::resizeEvent(QResizeEvent*) {
  slideTo(slid_);
}

}  // namespace jib::desk
