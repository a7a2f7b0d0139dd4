// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/film_parts.h"

#include <QObject>
#include <QPainter>
#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "core/library/dates.h"
#include "drawing/overlay.h"
#include "drawing/shape_painter.h"

namespace jib::drawing {
namespace {

// What the coach drew is on the clip under review; other films are shown without.
const coaching::Sketch kNothingDrawn;

// A frame on which the coach drew for nothing but this frame, and of which no cue speaks.
std::vector<std::size_t> drawnAlone(const coaching::Analysis& a, const ReplyContent& content,
                                    const std::vector<Stop>& stops) {
  std::vector<std::size_t> frames;
  for (const coaching::Shape& s : content.sketch.shapes) {
    const std::size_t frame = a.motion.frameAt(s.drawn_s);
    const bool known = std::any_of(stops.begin(), stops.end(), [&](const Stop& stop) { return stop.frame == frame; }) ||
                       std::find(frames.begin(), frames.end(), frame) != frames.end();
    if (s.from_s == s.to_s && !known) frames.push_back(frame);
  }
  return frames;
}

}  // namespace

std::string liftTitle(const coaching::Analysis& a) {
  std::string title(lifts::definition(a.request.lift).title);
  title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
  return title;
}

std::vector<Stop> stopsOf(const coaching::Analysis& a, const ReplyContent& content) {
  std::vector<Stop> stops;
  for (std::size_t i = 0; i < content.cues.size(); ++i) {
    const coaching::Cue& cue = content.cues[i];
    const lifts::MeasureDefinition* kind = lifts::measureDefinition(lifts::definition(a.request.lift), cue.measure);
    Stop stop{a.motion.frameAt(cue.t_s),
              QString::fromStdString(coaching::titleWithBasis(cue)),
              QString::fromStdString(cue.wording),
              cue.drill.empty() ? QString() : QObject::tr("Drill: %1").arg(QString::fromStdString(cue.drill)),
              kind      ? kind->drawing
              : cue.own ? lifts::Drawing::None
                        : lifts::Drawing::Chain,
              i,
              cue.loop,
              coaching::filmOf(a, cue.measure)};
    if (stop.other)
      stop.title = QObject::tr("%1, %2").arg(
          stop.title, QString::fromStdString(std::string(coaching::filmedFrom(*stop.other->analysis))));
    if (cue.before_s > 0 && !stop.other)
      stop.before = a.motion.frameAt(std::max(a.motion.times_s.front(), cue.t_s - cue.before_s * a.motion.slow_factor));
    stops.push_back(stop);
    stop.loop.reset();
    stop.before.reset();
    for (double t : cue.also_s) {
      stop.frame = a.motion.frameAt(t);
      stops.push_back(stop);
    }
  }
  for (std::size_t frame : drawnAlone(a, content, stops))
    stops.push_back({frame, {}, {}, {}, lifts::Drawing::None, content.cues.size()});
  if (content.cues.empty() && stops.empty() && !a.reps.empty())
    stops.push_back({a.motion.frameAt(a.reps.front().bottom_t()),
                     QObject::tr("Keep this"),
                     content.change_nothing
                         ? QObject::tr("No changes.")
                         : QString::fromStdString(content.keep.empty() ? std::string() : content.keep.front()),
                     {},
                     lifts::Drawing::Chain,
                     0});
  std::stable_sort(stops.begin(), stops.end(), [](const Stop& x, const Stop& y) { return x.frame < y.frame; });
  return stops;
}

QString headLine(const coaching::Analysis& a, const ReplyContent& content) {
  QStringList parts{QString::fromStdString(liftTitle(a))};
  if (!content.load.empty()) parts << QString::fromStdString(content.load);
  if (!content.filmed_on.empty()) parts << QString::fromStdString(library::spoken(content.filmed_on));
  return parts.join(QStringLiteral(" · "));
}

Result<bool> facesKnown(const ReplyFrame& layout, const coaching::Sketch& sketch) {
  // Over the whole clip: a ring on one frame hides nothing on the next.
  constexpr double kEnds_s = 0.1;
  const auto& times = layout.blurred().times_s();
  const bool ringed = std::any_of(sketch.shapes.begin(), sketch.shapes.end(), [&](const coaching::Shape& s) {
    return s.kind == coaching::ShapeKind::Blur && !times.empty() && s.from_s <= times.front() + kEnds_s &&
           s.to_s >= times.back() - kEnds_s;
  });
  if (!layout.blurred().blind() || ringed) return true;
  return fail(ErrorCode::CannotJudge, "This athlete's face is to be blurred, and it can't be found in the clip.",
              "Ring it with Blur (D) for the whole clip, or turn blurring off on the athlete's page.");
}

SecondView::SecondView(const ReplyContent& content, footage::FrameReader reader)
    : analysis_(content.second),
      offset_s_(content.second_offset_s),
      jog_(std::move(reader)),
      framed_(*analysis_, kNothingDrawn, review::FilmShape::Square, content.hide_faces) {}

Result<std::unique_ptr<SecondView>> SecondView::of(const ReplyContent& content) {
  if (!content.second) return std::unique_ptr<SecondView>();
  auto reader = footage::FrameReader::open(content.second->clip);
  if (!reader) return fail(reader.error());
  return std::unique_ptr<SecondView>(new SecondView(content, std::move(*reader)));
}

const footage::Frame* SecondView::at(double clip_t) {
  const auto& times = analysis_->clip.times_s;
  const double t = clip_t + offset_s_;
  constexpr double kBeyond_s = 0.1;
  if (times.empty() || t < times.front() - kBeyond_s || t > times.back() + kBeyond_s) return nullptr;
  const auto frame = jog_.at(t);
  return frame ? *frame : nullptr;
}

namespace {

// On a part of the film's picture that begins at `corner`.
void blurFaces(const ReplyFrame& layout, std::size_t frame, const QTransform& to_film, QPoint corner, cv::Mat& part) {
  std::vector<Blurred> circles = layout.blurred().on(frame);
  for (Blurred& c : circles) {
    const QPointF at = to_film.map(QPointF(c.x, c.y)) - corner;
    c = {at.x(), at.y(), c.radius * to_film.m11()};
  }
  blur(part, circles);
}

}  // namespace

void Canvas::draw(const coaching::Analysis& a, const coaching::Sketch& sketch, ReplyFrame& layout,
                  const footage::Frame& frame, const Stop* stop, const PanelWords& words, SecondView* second) {
  const FilmLayout& film = layout.layout();
  pixels_.create(film.film.height(), film.film.width(), CV_8UC4);
  const QRect from = layout.shown(), to = layout.place(), room = film.picture;
  if (to.size() != room.size())
    pixels_(cv::Rect(room.x(), room.y(), room.width(), room.height())).setTo(cv::Scalar(45, 34, 22, 255));
  cv::Mat large;
  const bool smaller = to.width() < from.width();
  cv::resize(frame.picture(cv::Rect(from.x(), from.y(), from.width(), from.height())), large, {to.width(), to.height()},
             0, 0, smaller ? cv::INTER_AREA : cv::INTER_LINEAR);
  cv::Mat place = pixels_(cv::Rect(to.x(), to.y(), to.width(), to.height()));
  blurFaces(layout, frame.index, layout.clipToFilm(), to.topLeft(), large);
  cv::cvtColor(large, place, cv::COLOR_BGR2BGRA);  // written where it stands
  {
    QImage image = whole();
    QPainter painter(&image);
    painter.setClipRect(to);
    // Lines a little finer than on the stage: the lifter is larger here.
    constexpr double kLines = 1.15;
    OverlayPainter overlay(painter, a, layout.clipToFilm(), kLines);
    if (a.isTraced() && !stop)
      overlay.paint(frame.index, {.angles = false});
    else if (a.isTraced() && stop->drawing != lifts::Drawing::None)
      overlay.paintEvidence(frame.index, stop->drawing);
    paintShapes(painter, sketch, a, frame.index, layout.clipToFilm(), kLines);
    painter.setClipping(false);
    painter.drawImage(film.words.topLeft(), layout.panel(words));
  }
  if (second) drawSecond(*second, frame.t_s, room);
}

void Canvas::drawPair(const coaching::Analysis& a, const coaching::Sketch& sketch, ReplyFrame& layout,
                      const footage::Frame& before, const footage::Frame& after, const PanelWords& words) {
  constexpr int kGap = 6;
  const FilmLayout& film = layout.layout();
  pixels_.create(film.film.height(), film.film.width(), CV_8UC4);
  const QRect room = film.picture;
  pixels_(cv::Rect(room.x(), room.y(), room.width(), room.height())).setTo(cv::Scalar(45, 34, 22, 255));
  const int width = (room.width() - kGap) / 2;
  const QRect left(room.left(), room.top(), width, room.height());
  const double earlier_s = (after.t_s - before.t_s) / a.motion.slow_factor;
  drawHalf(a, sketch, layout, before, left, QObject::tr("%1 s before").arg(earlier_s, 0, 'f', 1));
  drawHalf(a, sketch, layout, after, left.translated(width + kGap, 0), QObject::tr("now"));
  QImage image = whole();
  QPainter painter(&image);
  painter.drawImage(film.words.topLeft(), layout.panel(words));
}

void Canvas::drawHalf(const coaching::Analysis& a, const coaching::Sketch& sketch, const ReplyFrame& layout,
                      const footage::Frame& frame, const QRect& half, const QString& when) {
  // As high as the part that is shown at most, as wide as the half is against that, and about the bar.
  const QRect shown = layout.shown();
  const double shape = static_cast<double>(half.width()) / half.height();
  const double height = std::min<double>(shown.height(), shown.width() / shape), across = height * shape;
  const auto bar = a.trace.place(frame.index, {tracing::Landmark::Plate, std::nullopt});
  const QPointF about = bar ? QPointF(bar->x, bar->y) : QRectF(shown).center();
  const int wide = std::clamp(static_cast<int>(across), 1, shown.width()),
            high = std::clamp(static_cast<int>(height), 1, shown.height());
  const QRect from(std::clamp(static_cast<int>(about.x()) - wide / 2, shown.x(), shown.x() + shown.width() - wide),
                   std::clamp(static_cast<int>(about.y()) - high / 2, shown.y(), shown.y() + shown.height() - high),
                   wide, high);
  cv::Mat large;
  cv::resize(frame.picture(cv::Rect(from.x(), from.y(), from.width(), from.height())), large,
             {half.width(), half.height()}, 0, 0, half.width() < from.width() ? cv::INTER_AREA : cv::INTER_LINEAR);
  QTransform place_of;
  place_of.translate(half.left(), half.top());
  place_of.scale(static_cast<double>(half.width()) / from.width(), static_cast<double>(half.height()) / from.height());
  place_of.translate(-from.left(), -from.top());
  blurFaces(layout, frame.index, place_of, half.topLeft(), large);
  cv::Mat place = pixels_(cv::Rect(half.x(), half.y(), half.width(), half.height()));
  cv::cvtColor(large, place, cv::COLOR_BGR2BGRA);
  QImage image = whole();
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(half);
  paintShapes(painter, sketch, a, frame.index, place_of, 1.15);
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(24);
  font.setBold(true);
  painter.setFont(font);
  const QRect plate = QFontMetrics(font).boundingRect(when).adjusted(-10, -5, 10, 5);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor(0x0b, 0x12, 0x20, 205));
  const QRect at(half.left() + 12, half.top() + 12, plate.width(), plate.height());
  painter.drawRoundedRect(at, 5, 5);
  painter.setPen(QColor(0xf3, 0xec, 0xda));
  painter.drawText(at, Qt::AlignCenter, when);
}

// In the upper corner, where neither feet nor floor are, with lines of its own.
void Canvas::drawSecond(SecondView& second, double clip_t, const QRect& room) {
  const footage::Frame* frame = second.at(clip_t);
  if (!frame) return;
  constexpr double kShare = 0.34;  // of the picture's width
  constexpr int kEdge = 3, kOff = 12;
  const QRect from = second.framed().shown();
  const int width = static_cast<int>(kShare * room.width());
  const QRect to(room.right() - width - kOff, room.top() + kOff, width,
                 std::min(width * from.height() / std::max(1, from.width()), room.height() / 2));
  cv::Mat small;
  cv::resize(frame->picture(cv::Rect(from.x(), from.y(), from.width(), from.height())), small,
             {to.width(), to.height()}, 0, 0, cv::INTER_AREA);
  const QRect edge = to.adjusted(-kEdge, -kEdge, kEdge, kEdge);
  pixels_(cv::Rect(edge.x(), edge.y(), edge.width(), edge.height())).setTo(cv::Scalar(218, 236, 243, 255));
  QTransform place_of;
  place_of.translate(to.left(), to.top());
  place_of.scale(static_cast<double>(to.width()) / from.width(), static_cast<double>(to.height()) / from.height());
  place_of.translate(-from.left(), -from.top());
  blurFaces(second.framed(), frame->index, place_of, to.topLeft(), small);
  cv::Mat place = pixels_(cv::Rect(to.x(), to.y(), to.width(), to.height()));
  cv::cvtColor(small, place, cv::COLOR_BGR2BGRA);
  if (!second.analysis().isTraced()) return;
  QImage image = whole();
  QPainter painter(&image);
  painter.setClipRect(to);
  OverlayPainter(painter, second.analysis(), place_of, 0.7).paint(frame->index, {.angles = false});
}

QImage Canvas::whole() {
  return QImage(pixels_.data, pixels_.cols, pixels_.rows, static_cast<qsizetype>(pixels_.step), QImage::Format_RGB32);
}

}  // namespace jib::drawing
