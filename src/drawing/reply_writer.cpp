// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/reply_writer.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextDocument>
#include <algorithm>
#include <array>
#include <cmath>
#include <future>
#include <opencv2/imgproc.hpp>

#include "core/base/files.h"
#include "core/footage/clip_writer.h"
#include "core/footage/frame_reader.h"
#include "drawing/overlay.h"

namespace jib::drawing {
namespace fs = std::filesystem;

namespace {

constexpr double kFreeze_s = 3.5;      // long enough to read a cue twice
constexpr double kSlowAround_s = 0.5;  // before and after an evidence frame
constexpr int kSlowTimes = 3;          // each frame is shown this often there
constexpr int kRate_hz = 30;

struct Stop {
  std::size_t frame;
  QString title, text;
  lifts::Drawing drawing;
};

std::vector<Stop> stopsOf(const coaching::Analysis& a, const ReplyContent& content) {
  std::vector<Stop> stops;
  for (const coaching::Cue& cue : content.cues) {
    const lifts::MeasureKind* kind = lifts::squatKind(cue.measure);
    stops.push_back({a.motion.frameAt(cue.t_s), QString::fromStdString(cue.title), QString::fromStdString(cue.wording),
                     kind ? kind->drawing : lifts::Drawing::Chain});
  }
  if (content.cues.empty() && !a.reps.empty())
    stops.push_back({a.motion.frameAt(a.reps.front().bottom_t), QObject::tr("Keep this"),
                     content.change_nothing
                         ? QObject::tr("Change nothing.")
                         : QString::fromStdString(content.keep.empty() ? std::string() : content.keep.front()),
                     lifts::Drawing::Chain});
  std::sort(stops.begin(), stops.end(), [](const Stop& x, const Stop& y) { return x.frame < y.frame; });
  return stops;
}

// Paints a frame of the clip with what is to be seen on it, always into the same memory.
class Canvas {
 public:
  void draw(const coaching::Analysis& a, const footage::Frame& frame, const Stop* stop, bool caption) {
    cv::cvtColor(frame.picture, pixels_, cv::COLOR_BGR2BGRA);
    QImage image = still();
    QPainter painter(&image);
    const double scale = image.width() / 850.0;
    OverlayPainter overlay(painter, a, QTransform(), scale);
    if (stop)
      overlay.paintEvidence(frame.index, stop->drawing);
    else
      overlay.paint(frame.index, {.angles = false});
    if (stop && caption)
      paintCaption(painter, QRectF(QPointF(0, 0), QSizeF(image.size())), stop->title, stop->text, scale);
  }

  // 8-bit blue, green, red and one unused byte, which is Qt's 32-bit picture too.
  const cv::Mat& pixels() const { return pixels_; }
  // The same bytes seen as Qt's picture.
  QImage still() {
    return QImage(pixels_.data, pixels_.cols, pixels_.rows, static_cast<qsizetype>(pixels_.step), QImage::Format_RGB32);
  }

 private:
  cv::Mat pixels_;
};

std::string pngOf(const QImage& image) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  image.save(&buffer, "PNG");
  return bytes.toStdString();
}

// The frames worth showing: from a second before the first rep to a second after the last.
std::pair<double, double> stretchOf(const coaching::Analysis& a) {
  const double from = a.reps.empty() ? a.motion.times_s.front() : a.reps.front().start_t - 1;
  const double to = a.reps.empty() ? a.motion.times_s.back() : a.reps.back().end_t + 1;
  return {from, to};
}

struct Film {
  const coaching::Analysis& a;
  const std::vector<Stop>& stops;
  footage::ClipWriter writer;
  double due_s = 0;  // clip time that the next output frame stands for
  std::vector<QImage> stills = {};
  // One is painted while the other is encoded.
  std::array<Canvas, 2> canvases = {};
  std::size_t turn = 0;
  std::future<Result<bool>> encoding = {};  // last: it uses writer and canvases

  // Encodes what was painted last, beside what follows; the outcome of the one before.
  Result<bool> put(int times) {
    auto before = encoded();
    encoding = std::async(std::launch::async,
                          [this, &picture = canvases[turn].pixels(), times] { return writer.add(picture, times); });
    turn = 1 - turn;
    return before;
  }
  Result<bool> encoded() { return encoding.valid() ? encoding.get() : Result<bool>(true); }

  // Adds one frame of the clip as often as its time and the slow parts ask for.
  Result<bool> frame(const footage::Frame& f, double next_s) {
    const double t = f.t_s;
    const bool slow = std::any_of(stops.begin(), stops.end(), [&](const Stop& s) {
      return std::abs(a.motion.times_s[s.frame] - t) < kSlowAround_s * a.motion.slow_factor;
    });
    int times = 0;
    while (due_s < next_s - 1e-9) {
      due_s += 1.0 / kRate_hz;
      ++times;
    }
    if (times > 0) {
      canvases[turn].draw(a, f, nullptr, false);
      if (auto added = put(slow ? times * kSlowTimes : times); !added) return added;
    }
    for (const Stop& s : stops) {
      if (s.frame != f.index) continue;
      canvases[turn].draw(a, f, &s, false);
      stills.push_back(canvases[turn].still().copy());
      canvases[turn].draw(a, f, &s, true);
      if (auto added = put(static_cast<int>(kFreeze_s * kRate_hz)); !added) return added;
    }
    return true;
  }
};

Result<std::vector<QImage>> film(const coaching::Analysis& a, const std::vector<Stop>& stops, const fs::path& file,
                                 Task& task) {
  auto reader = footage::FrameReader::open(a.clip.file);
  if (!reader) return fail(reader.error());
  auto writer = footage::ClipWriter::create(
      file, {.width = reader->info().width, .height = reader->info().height, .rate_hz = kRate_hz, .quality = 22});
  if (!writer) return fail(writer.error());
  const auto [from, to] = stretchOf(a);
  Film out{a, stops, std::move(*writer), from};
  if (auto placed = reader->seekBefore(reader->info().nearestFrame(from)); !placed) return fail(placed.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(footage::Pixels::Colour);
    if (!next) return fail(next.error());
    if (!*next || (*next)->t_s > to) break;
    const footage::Frame& f = **next;
    if (f.t_s < from || f.index >= a.motion.times_s.size()) continue;
    if (f.index == 0 || out.due_s < f.t_s) out.due_s = f.t_s;
    const double next_s =
        f.index + 1 < a.motion.times_s.size() ? a.motion.times_s[f.index + 1] : f.t_s + 1.0 / kRate_hz;
    if (auto added = out.frame(f, next_s); !added) return fail(added.error());
    task.report((f.t_s - from) / std::max(to - from, 0.1));
  }
  if (auto last = out.encoded(); !last) return fail(last.error());
  if (auto finished = out.writer.finish(); !finished) return fail(finished.error());
  return std::move(out.stills);
}

// The page's style sheet is for browsers; Qt's rich text takes a small one of its own, and lists of terms as lines.
QString forPaper(QString text) {
  const qsizetype from = text.indexOf(QStringLiteral("<style>")), to = text.indexOf(QStringLiteral("</style>"));
  if (from >= 0 && to > from)
    text.replace(from, to - from,
                 QStringLiteral("<style>body{color:#162a4d;font-size:9pt} h1,h2{font-family:Vollkorn;font-style:italic;"
                                "font-weight:normal} h1{font-size:20pt} h2{font-size:13pt} .say{font-size:12pt;"
                                "font-weight:bold} td{padding-right:14px} .meta,figcaption,th{color:#525e74}"));
  const std::pair<const char*, const char*> lines[] = {{"<figure>", "<p>"},
                                                       {"</figure>", "</p>"},
                                                       {"<figcaption>", "<br>"},
                                                       {"</figcaption>", ""},
                                                       {"<dl>", ""},
                                                       {"</dl>", ""},
                                                       {"<dt>", "<div><span style='color:#525e74'>"},
                                                       {"</dt>", ":</span> "},
                                                       {"<dd>", ""},
                                                       {"</dd>", "</div>"}};
  for (const auto& [tag, line] : lines) text.replace(QLatin1String(tag), QLatin1String(line));
  return text;
}

std::string pdfOf(const std::string& html) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  {
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(16, 16, 16, 16), QPageLayout::Millimeter);
    writer.setResolution(150);
    writer.setTitle(QStringLiteral("Lift review"));
    QTextDocument document;
    document.setDefaultFont(QFont(QStringLiteral("Cabin"), 10));
    const QSizeF page = writer.pageLayout().paintRectPixels(writer.resolution()).size();
    document.documentLayout()->setPaintDevice(&writer);
    document.setPageSize(page);
    // Qt's rich text knows no "width:100%" for pictures, and counts their pixels at 96 to the inch.
    QString text = QString::fromStdString(html);
    text.replace(
        QStringLiteral("<img "),
        QStringLiteral("<img width=%1 ").arg(static_cast<int>(0.75 * page.width() * 96 / writer.resolution())));
    document.setHtml(forPaper(text));
    document.print(&writer);
  }
  return bytes.toStdString();
}

Result<bool> writeAll(const coaching::Analysis& a, const ReplyContent& content, ReplyFiles& files,
                      const fs::path& folder, Task& task) {
  const std::vector<Stop> stops = stopsOf(a, content);
  files.clip = folder / "reply.mp4";
  task.part(0, 0.9);
  auto stills = film(a, stops, files.clip, task);
  if (!stills) return fail(stills.error());
  task.part(0.9, 1.0);
  exchange::Report report{content.athlete,   content.date,           a.request.lift + ", " + a.request.variant,
                          content.load,      content.greeting,       content.keep,
                          content.cues,      content.change_nothing, {},
                          content.follow_up, content.cautions,       content.style_title};
  for (auto& caution : exchange::cautionsFor(a)) report.cautions.push_back(std::move(caution));
  for (std::size_t i = 0; i < stills->size(); ++i) {
    const std::string png = pngOf((*stills)[i]);
    const fs::path file = folder / ("still-" + std::to_string(i + 1) + ".png");
    if (auto written = writeWhole(FileSystem::real(), file, png); !written) return written;
    files.stills.push_back(file);
    report.stills.push_back({(stops[i].title + QStringLiteral(": ") + stops[i].text).toStdString(), png});
  }
  const std::string html = exchange::reportToHtml(report, a);
  files.html = folder / "report.html";
  files.pdf = folder / "report.pdf";
  if (auto written = writeWhole(FileSystem::real(), files.html, html); !written) return written;
  if (task.cancelled()) return cancelled();
  task.report(0.5);
  return writeWhole(FileSystem::real(), files.pdf, pdfOf(html));
}

// From the unfinished folder into its parent. Stills an earlier, longer reply left behind go.
Result<bool> moveIn(ReplyFiles& files, const fs::path& folder) {
  std::error_code error;
  for (std::size_t i = files.stills.size() + 1; fs::remove(folder / ("still-" + std::to_string(i) + ".png"), error);)
    ++i;
  std::vector<fs::path*> all{&files.clip, &files.html, &files.pdf};
  for (fs::path& still : files.stills) all.push_back(&still);
  for (fs::path* file : all) {
    const fs::path to = folder / file->filename();
    if (auto moved = FileSystem::real().rename(*file, to); !moved) return moved;
    *file = to;
  }
  return true;
}

}  // namespace

Result<ReplyFiles> writeReply(const coaching::Analysis& a, const ReplyContent& content, const fs::path& folder,
                              Task& task) {
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite, "The folder " + folder.string() + " cannot be made: " + error.message() + ".",
                "Choose another folder.");
  // Written beside and moved in as a whole: an earlier reply stays until the new one is complete.
  const fs::path unfinished = folder / ".unfinished";
  fs::remove_all(unfinished, error);  // of a run that was killed
  fs::create_directories(unfinished, error);
  ReplyFiles files;
  auto written = error
                     ? Result<bool>(fail(ErrorCode::CannotWrite,
                                         "Nothing can be written in " + folder.string() + ": " + error.message() + ".",
                                         "Choose another folder."))
                     : writeAll(a, content, files, unfinished, task);
  if (written) written = moveIn(files, folder);
  fs::remove_all(unfinished, error);
  if (!written) return fail(written.error());
  task.report(1);
  return files;
}

}  // namespace jib::drawing
