// SPDX-License-Identifier: GPL-3.0-or-later
// Speed as ratios in one run: tracing, stepping and replying against the FFmpeg of the same machine on the same clip.
// Arguments: a clip and, to have the body tracked and a whole reply written, the points file of one placed frame.
#include <fmt/format.h>

#include <QGuiApplication>
#include <QPainter>
#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "core/base/files.h"
#include "core/footage/footage.h"
#include "core/tracing/body/body_fit.h"
#include "core/tracing/trace_store.h"
#include "drawing/overlay.h"
#include "drawing/picture.h"
#include "drawing/reply_writer.h"
#include "drawing/shape_painter.h"

using namespace jib;

namespace {

template <class Work>
double seconds(Work work) {
  const auto from = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
}

double middle(std::vector<double> all) {
  std::sort(all.begin(), all.end());
  return all[all.size() / 2];
}

template <class Work>
double median(int times, Work work) {
  std::vector<double> all;
  for (int i = 0; i < times; ++i) all.push_back(seconds([&] { work(i); }));
  return middle(std::move(all));
}

int complain(const Error& error) {
  fmt::print(stderr, "{}\n", error.sentence());
  return 3;
}

double ffmpegDecode(const std::string& clip) {
  const std::string command = "ffmpeg -v error -i '" + clip + "' -f null - >/dev/null 2>&1";
  return median(5, [&](int) { (void)!std::system(command.c_str()); });
}

int stepping(const std::string& clip) {
  auto footage = footage::Footage::open(clip);
  if (!footage) return complain(footage.error());
  const auto frames = footage->info().frames();
  const double step = median(60, [&](int i) { (void)footage->frame(static_cast<std::size_t>(i) + 10); });
  // Backward from a place never seen, so that nothing is in the cache: the slowest of every dozen pays for the rest.
  const std::size_t far = frames - 5;
  (void)footage->frame(far);
  const double back = seconds([&] {
                        for (std::size_t i = 1; i <= 36; ++i) (void)footage->frame(far - i);
                      }) /
                      36;
  // A cache too small to help, so that every seek decodes.
  auto cold = footage::Footage::open(clip, 1);
  const double seek =
      median(25, [&](int i) { (void)cold->frame((static_cast<std::size_t>(i) * 7919 + 100) % frames); });
  fmt::print(
      "step forward (median):    {:.1f} ms\nstep back (mean of 36):   {:.1f} ms\nrandom seek (median):     {:.1f} ms\n",
      1000 * step, 1000 * back, 1000 * seek);
  return 0;
}

// Two clips of 1080p side by side, as then and now are watched: each pair of frames decoded and painted.
int inStep(const std::string& clip) {
  const auto large = std::filesystem::temp_directory_path() / "jib-bench-1080p.mp4";
  const std::string make = "ffmpeg -v error -y -i '" + clip + "' -vf scale=1920:1080 -c:v libx264 -preset veryfast '" +
                           large.string() + "' >/dev/null 2>&1";
  if (std::system(make.c_str()) != 0) return 0;
  auto then = footage::Footage::open(large.string()), now = footage::Footage::open(large.string());
  if (!then || !now) return complain(then ? now.error() : then.error());
  QImage stage(1280, 640, QImage::Format_RGB32);
  std::vector<double> pairs;
  const std::size_t frames = std::min<std::size_t>(180, then->info().frames());
  for (std::size_t i = 0; i < frames; ++i)
    pairs.push_back(seconds([&] {
      QPainter painter(&stage);
      int x = 0;
      for (footage::Footage* film : {&*then, &*now}) {
        const auto picture = film->frame(i);
        if (picture) painter.drawImage(QRectF(x, 0, 640, 360), drawing::toImage((*picture).picture));
        x += 640;
      }
    }));
  const double due_s = then->info().duration_s() / static_cast<double>(then->info().frames());
  const auto late = std::count_if(pairs.begin(), pairs.end(), [&](double s) { return s > due_s; });
  fmt::print("two of 1080p in step:     {:.1f} ms a pair, the slowest {:.1f}; {} of {} later than the next is due\n",
             1000 * middle(pairs), 1000 * *std::max_element(pairs.begin(), pairs.end()), late, pairs.size());
  std::filesystem::remove(large);
  return 0;
}

int automatic(const std::string& clip, double ffmpeg) {
  const auto style = coaching::shippedStyle("balanced");
  const auto book = coaching::CueBook::shipped();
  std::optional<coaching::Analysis> analysis;
  const double whole = median(3, [&](int) {
    auto reader = footage::FrameReader::open(clip);
    Task task;
    auto a = coaching::analyse(*reader, {}, *style, *book, task);
    if (a) analysis = std::move(*a);
  });
  if (!analysis) return complain(Error{ErrorCode::CannotJudge, "No lift was traced.", "Take another clip."});
  fmt::print("nothing placed, judged:   {:.2f} s = {:.1f} x ffmpeg, {:.2f} x the clip's length{}\n", whole,
             whole / ffmpeg, whole / analysis->clip.duration_s(), analysis->trace.body ? "" : " (no body was found)");
  const auto& trace = analysis->trace;
  const double fit = median(3, [&](int) {
    (void)tracing::fitBody({*trace.sightings, *trace.bar, analysis->clip.height, 0, analysis->clip.frames() - 1},
                           trace.camera);
  });
  fmt::print("the fit alone:            {:.0f} ms\n", 1000 * fit);
  return 0;
}

// Ten shapes of every kind over the whole clip, on landmarks and on the picture.
coaching::Sketch tenShapes(const coaching::Analysis& a) {
  using tracing::Landmark;
  const std::size_t drawn = a.motion.frameAt(a.reps.front().start_t());
  const auto on = [&](Landmark l) { return coaching::Anchor{*a.trace.trace.place(drawn, l), l, 0, {}}; };
  coaching::Sketch sketch;
  for (int i = 0; i < 10; ++i) {
    coaching::Shape s;
    s.kind = static_cast<coaching::ShapeKind>(i % static_cast<int>(coaching::kShapeKinds));
    s.sense = i % 2 ? coaching::Sense::AsWanted : coaching::Sense::AsItIs;
    constexpr Landmark kFromTheFloor[] = {Landmark::Ankle, Landmark::Knee, Landmark::Hip, Landmark::Shoulder};
    for (std::size_t k = 0; k < coaching::anchorsOf(s.kind); ++k)
      s.anchors.push_back(on(kFromTheFloor[k % std::size(kFromTheFloor)]));
    s.text = "here";
    s.drawn_s = a.motion.times_s[drawn];
    s.from_s = a.motion.times_s.front();
    s.to_s = a.motion.times_s.back();
    sketch.shapes.push_back(s);
  }
  return sketch;
}

// A frame decoded and painted as the stage does it, with all overlays and ten shapes.
void drawingStep(const coaching::Analysis& a, const coaching::Sketch& sketch) {
  auto footage = footage::Footage::open(a.clip.file);
  if (!footage) return;
  QImage stage(1280, 720, QImage::Format_RGB32);
  QTransform view;
  view.scale(1280.0 / a.clip.width, 720.0 / a.clip.height);
  // From the first rep on, where every landmark is seen and so every shape is shown.
  const std::size_t first = a.motion.frameAt(a.reps.front().start_t());
  const double step = median(60, [&](int i) {
    const std::size_t frame = first + static_cast<std::size_t>(i);
    const auto picture = footage->frame(frame);
    if (!picture) return;
    QPainter painter(&stage);
    painter.setTransform(view);
    painter.drawImage(QPointF(0, 0), drawing::toImage((*picture).picture));
    painter.resetTransform();
    drawing::OverlayPainter(painter, a, view, 1.2).paint(frame, {});
    drawing::paintShapes(painter, sketch, a, frame, view, 1.2);
  });
  fmt::print("step with ten shapes:     {:.1f} ms\n", 1000 * step);
}

int replying(const std::string& clip, const std::string& points, double ffmpeg) {
  auto bytes = FileSystem::real().read(points);
  if (!bytes) return complain(bytes.error());
  auto placed = tracing::placedFromJson(nlohmann::json::parse(*bytes, nullptr, false));
  if (!placed) return complain(placed.error());
  const auto style = coaching::shippedStyle("balanced");
  const auto book = coaching::CueBook::shipped();
  coaching::AnalysisRequest request;
  request.trace.placed = *placed;
  request.trace.parts.network = false;
  std::optional<coaching::Analysis> analysis;
  const double whole = median(3, [&](int) {
    auto reader = footage::FrameReader::open(clip);
    Task task;
    auto a = coaching::analyse(*reader, request, *style, *book, task);
    if (a) analysis = std::move(*a);
  });
  if (!analysis) return complain(Error{ErrorCode::CannotJudge, "No lift was traced.", "Take another clip."});
  const double length_s = analysis->clip.duration_s();
  fmt::print("followed from a frame:    {:.2f} s = {:.1f} x ffmpeg, {:.2f} x the clip's length\n", whole,
             whole / ffmpeg, whole / length_s);
  const double again = median(9, [&](int) {
    tracing::solveAgain(analysis->trace, request.trace, analysis->clip.width, analysis->clip.height);
    coaching::judgeAgain(*analysis, *style, *book);
  });
  fmt::print("solved again after a pin: {:.0f} ms\n", 1000 * again);

  const auto folder = std::filesystem::temp_directory_path() / "jib-bench-reply";
  drawing::ReplyContent content;
  content.cues = analysis->proposal.cues;
  std::filesystem::path written_clip;
  const coaching::Sketch ten = tenShapes(*analysis);
  const auto replyWith = [&](const coaching::Sketch& sketch) {
    content.sketch = sketch;
    return seconds([&] {
      Task task;
      if (const auto files = drawing::writeReply(*analysis, content, folder, task)) written_clip = files->clip;
    });
  };
  // By turns: a machine that is shared slows down and speeds up by more than what is measured here.
  std::vector<double> without, with;
  for (int turn = 0; turn < 5; ++turn) {
    without.push_back(replyWith({}));
    with.push_back(replyWith(ten));
  }
  const double reply = middle(without), drawn = middle(with);
  (void)replyWith({});  // the one that is held against ffmpeg below
  fmt::print("reply with ten shapes:    {:.2f} s = {:.2f} x the reply without\n", drawn, drawn / reply);
  drawingStep(*analysis, ten);
  // As many frames of the same size through the same encoder settings.
  const std::string transcode = "ffmpeg -v error -y -i '" + written_clip.string() +
                                "' -c:v libx264 -preset veryfast -crf 22 -g 30 -movflags +faststart '" +
                                (folder / "again.mp4").string() + "' >/dev/null 2>&1";
  const double own = median(3, [&](int) { (void)!std::system(transcode.c_str()); });
  fmt::print("reply, report and all:    {:.2f} s = {:.2f} x ffmpeg transcoding the reply ({:.2f} s)\n", reply,
             reply / own, own);
  std::filesystem::remove_all(folder);
  return 0;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2 && argc != 3) {
    fmt::print(stderr, "usage: jib-bench CLIP [POINTS]\n");
    return 2;
  }
  qputenv("QT_QPA_PLATFORM", "offscreen");
  const QGuiApplication application(argc, argv);
  const std::string clip = argv[1];
  const double ffmpeg = ffmpegDecode(clip);
  auto reader = footage::FrameReader::open(clip);
  if (!reader) return complain(reader.error());
  const double length_s = reader->info().duration_s();
  fmt::print("clip: {} frames, {:.1f} s, {}x{}\n", reader->info().frames(), length_s, reader->info().width,
             reader->info().height);
  fmt::print("ffmpeg decode to nothing: {:.2f} s\n", ffmpeg);
  const double bar = median(5, [&](int) {
    auto again = footage::FrameReader::open(clip);
    Task task;
    (void)tracing::BarTracer().run(*again, task);
  });
  fmt::print("bar tracing:              {:.2f} s = {:.1f} x ffmpeg, {:.2f} x the clip's length\n", bar, bar / ffmpeg,
             bar / length_s);
  if (const int status = stepping(clip); status != 0) return status;
  if (const int status = inStep(clip); status != 0) return status;
  if (const int status = automatic(clip, ffmpeg); status != 0) return status;
  return argc == 3 ? replying(clip, argv[2], ffmpeg) : 0;
}
