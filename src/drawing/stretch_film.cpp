// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/stretch_film.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/footage/clip_writer.h"
#include "core/footage/encoding_queue.h"
#include "core/footage/frame_reader.h"
#include "drawing/film_parts.h"
#include "drawing/shape_painter.h"

namespace jib::drawing {
namespace {

constexpr double kLine_px = 850;  // a line's unit is that of a stage so wide

// Between 30 and 60 frames a second, as the clip has them: half as many of a slow-motion one show the same.
int rateOf(const footage::ClipInfo& clip) {
  const auto& t = clip.times_s;
  const double rate =
      t.size() > 1 && t.back() > t.front() ? static_cast<double>(t.size() - 1) / (t.back() - t.front()) : kRate_hz;
  return rate > 1.5 * kRate_hz ? 2 * kRate_hz : kRate_hz;
}

void paintOn(cv::Mat& picture, const coaching::Analysis& a, const coaching::Sketch& sketch, const StretchLook& look,
             std::size_t frame) {
  QImage image(picture.data, picture.cols, picture.rows, static_cast<qsizetype>(picture.step), QImage::Format_RGB32);
  QPainter painter(&image);
  const double scale = std::max(0.6, picture.cols / kLine_px);
  if (look.lines && a.isTraced()) OverlayPainter(painter, a, QTransform(), scale).paint(frame, look.choice);
  paintShapes(painter, sketch, a, frame, QTransform(), scale);
}

}  // namespace

Result<bool> stretchFilm(const coaching::Analysis& traced, const coaching::Sketch& sketch, const StretchLook& look,
                         const std::filesystem::path& file, Task& task) {
  auto hidden = std::make_shared<const coaching::Analysis>(traced);
  constexpr double kLooking = 0.3;  // of the time it takes, where faces are looked for
  if (look.hide_faces) {
    task.part(0, kLooking);
    auto found = withOtherFaces(hidden, task);
    if (!found) return fail(found.error());
    hidden = std::move(*found);
    task.part(kLooking, 1);
  }
  const coaching::Analysis& a = *hidden;
  const ReplyFrame known(a, sketch, review::FilmShape::Landscape, look.hide_faces);
  if (auto faces = facesKnown(known, sketch); !faces) return faces;
  auto reader = footage::FrameReader::open(a.clip);
  if (!reader) return fail(reader.error());
  const int rate = rateOf(a.clip), width = a.clip.width & ~1,
            height = a.clip.height & ~1;  // the codec wants even sizes
  auto writer = footage::ClipWriter::create(file, {.width = width, .height = height, .rate_hz = rate, .quality = 20});
  if (!writer) return fail(writer.error());
  footage::EncodingQueue encoding(std::move(*writer));
  std::array<cv::Mat, footage::EncodingQueue::kInUse + 1> pictures;
  std::size_t turn = 0;
  double due_s = look.part.from_t;
  if (auto set = reader->seekBefore(reader->info().nearestFrame(look.part.from_t)); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(footage::Pixels::Colour);
    if (!next) return fail(next.error());
    if (!*next || (*next)->t_s > look.part.to_t) break;
    const footage::Frame& f = **next;
    const double next_s = f.index + 1 < a.clip.times_s.size() ? a.clip.times_s[f.index + 1] : f.t_s + 1.0 / rate;
    int times = 0;
    for (; due_s < next_s - 1e-9; due_s += 1.0 / rate) ++times;
    if (times == 0 || f.t_s < look.part.from_t - 1.0 / rate) continue;
    cv::Mat& picture = pictures[turn];
    turn = (turn + 1) % pictures.size();
    cv::cvtColor(f.picture(cv::Rect(0, 0, width, height)), picture, cv::COLOR_BGR2BGRA);
    blur(picture, known.blurred().on(f.index));
    paintOn(picture, a, sketch, look, f.index);
    if (auto added = encoding.add(picture, times); !added) return added;
    task.report((f.t_s - look.part.from_t) / std::max(0.1, look.part.to_t - look.part.from_t));
  }
  return encoding.finish();
}

}  // namespace jib::drawing
