// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/reply_writer.h"

#include <unistd.h>

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QTextDocument>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <opencv2/imgproc.hpp>

#include "core/base/files.h"
#include "core/coaching/two_films.h"
#include "core/footage/clip_writer.h"
#include "core/footage/encoding_queue.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/lifts/which_lift.h"
#include "drawing/overlay.h"
#include "drawing/reply_frame.h"
#include "drawing/shape_painter.h"

namespace jib::drawing {
namespace fs = std::filesystem;

namespace {

constexpr double kFreeze_s = 3.5;      // long enough to read a cue twice
constexpr double kSlowAround_s = 0.5;  // before and after an evidence frame
constexpr int kSlowTimes = 3;          // each frame is shown this often there
constexpr int kRate_hz = 30;

// "Squat"
std::string liftTitle(const coaching::Analysis& a) {
  std::string title(lifts::definition(a.request.lift).title);
  title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
  return title;
}

// Where the film stands still, and for what.
struct Stop {
  std::size_t frame;
  QString title, text, below;
  lifts::Drawing drawing;                      // of a measure; None: nothing but what the coach drew
  std::size_t cue;                             // its place among the cues
  std::optional<motion::Stretch> loop = {};    // played slowly, twice, before it stands
  const coaching::OtherFilm* other = nullptr;  // where it shows in another film of the set
};

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
    stops.push_back(stop);
    stop.loop.reset();
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

// Paints a frame of the clip with what is to be seen and said on it, always into the same memory.
class Canvas {
 public:
  void draw(const coaching::Analysis& a, const coaching::Sketch& sketch, ReplyFrame& layout,
            const footage::Frame& frame, const Stop* stop, const PanelWords& words) {
    const FilmLayout& film = layout.layout();
    pixels_.create(film.film.height(), film.film.width(), CV_8UC4);
    const QRect from = layout.shown(), to = layout.place(), room = film.picture;
    if (to.size() != room.size())
      pixels_(cv::Rect(room.x(), room.y(), room.width(), room.height())).setTo(cv::Scalar(45, 34, 22, 255));
    cv::Mat large;
    const bool smaller = to.width() < from.width();
    cv::resize(frame.picture(cv::Rect(from.x(), from.y(), from.width(), from.height())), large,
               {to.width(), to.height()}, 0, 0, smaller ? cv::INTER_AREA : cv::INTER_LINEAR);
    cv::Mat place = pixels_(cv::Rect(to.x(), to.y(), to.width(), to.height()));
    cv::cvtColor(large, place, cv::COLOR_BGR2BGRA);  // written where it stands
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

  // 8-bit blue, green, red and one unused byte, which is Qt's 32-bit picture too.
  const cv::Mat& pixels() const { return pixels_; }
  // The part with the lifter, as the report shows it.
  QImage still(const QRect& place) { return whole().copy(place); }

 private:
  // The same bytes seen as Qt's picture.
  QImage whole() {
    return QImage(pixels_.data, pixels_.cols, pixels_.rows, static_cast<qsizetype>(pixels_.step), QImage::Format_RGB32);
  }
  cv::Mat pixels_;
};

std::string pngOf(const QImage& image) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  image.save(&buffer, "PNG");
  return bytes.toStdString();
}

// The frames worth showing: from a second before the first rep to a second after the last, and what the stops are
// about. Of a clip without reps a little about the stops, else all of it.
std::pair<double, double> stretchOf(const coaching::Analysis& a, const std::vector<Stop>& stops) {
  constexpr double kAround_s = 1, kAboutAStop_s = 4;
  const double first = a.motion.times_s.front(), last = a.motion.times_s.back();
  double from = a.reps.empty() ? last : a.reps.front().start_t() - kAround_s;
  double to = a.reps.empty() ? first : a.reps.back().end_t() + kAround_s;
  const double about = a.reps.empty() ? kAboutAStop_s : kAround_s;
  for (const Stop& s : stops) {
    from = std::min(from, a.motion.times_s[s.frame] - about);
    to = std::max(to, a.motion.times_s[s.frame] + about);
  }
  return from < to ? std::pair(std::max(from, first), std::min(to, last)) : std::pair(first, last);
}

// What the coach drew is on the clip under review; other films are shown without.
const coaching::Sketch kNothingDrawn;

struct Film {
  const coaching::Analysis& a;
  const coaching::Sketch& sketch;
  const std::vector<Stop>& stops;
  PanelWords words;  // those that stay
  footage::EncodingQueue encoding;
  Task& task;
  std::vector<bool> stopped;  // at each of the stops
  double due_s = 0;           // clip time that the next output frame stands for
  review::FilmShape shape = review::FilmShape::Landscape;
  ReplyFrame layout = ReplyFrame(a, sketch, shape);
  std::map<const coaching::Analysis*, ReplyFrame> other_layouts = {};  // of other films, once they are shown
  std::vector<std::pair<std::size_t, QImage>> stills = {};             // each with its stop, by number
  // One is painted while those before it wait or are encoded.
  std::array<Canvas, footage::EncodingQueue::kInUse + 1> canvases = {};
  std::size_t turn = 0;

  // What was painted last, to be shown for so many frames.
  Result<bool> put(int times) {
    const std::size_t painted = turn;
    turn = (turn + 1) % canvases.size();
    return encoding.add(canvases[painted].pixels(), times);
  }

  PanelWords wordsAt(double t, const Stop* stop) const {
    PanelWords now = words;
    for (std::size_t i = 0; i < a.reps.size(); ++i)
      if (a.reps[i].start_t() <= t + 0.01) now.counter = QObject::tr("Rep %1 of %2").arg(i + 1).arg(a.reps.size());
    if (!stop) return now;
    now.title = stop->title;
    now.text = stop->text;
    now.below = stop->below;
    return now;
  }

  // Frames `first` to `last` of one of the films, slowly, with a stop's words beside them.
  Result<bool> slowly(const coaching::Analysis& of, ReplyFrame& in, const Stop& s, std::size_t first,
                      std::size_t last) {
    auto reader = footage::FrameReader::open(of.clip.file);
    if (!reader) return fail(reader.error());
    const auto& times = of.clip.times_s;
    const double rate = times.size() > 1 ? (times.size() - 1) / (times.back() - times.front()) : kRate_hz;
    if (auto set = reader->seekBefore(first); !set) return set;
    double due = 0;
    for (;;) {
      if (task.cancelled()) return cancelled();
      auto next = reader->next(footage::Pixels::Colour, first);
      if (!next) return fail(next.error());
      if (!*next || (*next)->index > last) return true;
      due += kSlowTimes * kRate_hz / rate;
      const int shown = static_cast<int>(due);
      due -= shown;
      if (shown == 0) continue;
      canvases[turn].draw(of, &of == &a ? sketch : kNothingDrawn, in, **next, nullptr,
                          wordsAt(a.motion.times_s[s.frame], &s));
      if (auto added = put(shown); !added) return added;
    }
  }

  // A stop's stretch, slowly and twice over, with its words beside it.
  Result<bool> loop(const Stop& s) {
    constexpr double kMost_s = 6;
    if (!s.loop) return true;
    const std::size_t first = a.motion.frameAt(s.loop->from_t),
                      last = a.motion.frameAt(std::min(s.loop->to_t, s.loop->from_t + kMost_s));
    for (int go = 0; go < 2; ++go)
      if (auto played = slowly(a, layout, s, first, last); !played) return played;
    return true;
  }

  // What shows in another film: the moments up to it, slowly, and then the stop itself, in that film.
  Result<bool> otherStop(std::size_t which) {
    const Stop& s = stops[which];
    constexpr double kBefore_s = 1.2;
    const coaching::Analysis& other = *s.other->analysis;
    ReplyFrame& other_layout = other_layouts.try_emplace(&other, other, kNothingDrawn, shape).first->second;
    const double t = a.motion.times_s[s.frame] + s.other->offset_s;
    const std::size_t at = other.motion.frameAt(t), from = other.motion.frameAt(t - kBefore_s);
    if (auto played = slowly(other, other_layout, s, from, at); !played) return played;
    auto reader = footage::FrameReader::open(other.clip.file);
    if (!reader) return fail(reader.error());
    if (auto set = reader->seekBefore(at); !set) return set;
    auto frame = reader->next(footage::Pixels::Colour, at);
    if (!frame) return fail(frame.error());
    if (!*frame) return true;
    canvases[turn].draw(other, kNothingDrawn, other_layout, **frame, &s, wordsAt(a.motion.times_s[s.frame], &s));
    stills.emplace_back(which, canvases[turn].still(other_layout.place()));
    return put(static_cast<int>(kFreeze_s * kRate_hz));
  }

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
      canvases[turn].draw(a, sketch, layout, f, nullptr, wordsAt(t, nullptr));
      if (auto added = put(slow ? times * kSlowTimes : times); !added) return added;
    }
    for (std::size_t i = 0; i < stops.size(); ++i) {
      const Stop& s = stops[i];
      // A frame that cannot be decoded is passed over: the stop is made at the next that can.
      if (stopped[i] || s.frame > f.index) continue;
      stopped[i] = true;
      if (s.other) {
        if (auto shown = otherStop(i); !shown) return shown;
        continue;
      }
      if (auto looped = loop(s); !looped) return looped;
      canvases[turn].draw(a, sketch, layout, f, &s, wordsAt(t, &s));
      stills.emplace_back(i, canvases[turn].still(layout.place()));
      if (auto added = put(static_cast<int>(kFreeze_s * kRate_hz)); !added) return added;
    }
    return true;
  }
};

Result<std::vector<std::pair<std::size_t, QImage>>> film(const coaching::Analysis& a, const ReplyContent& content,
                                                         const std::vector<Stop>& stops, const fs::path& file,
                                                         Task& task) {
  auto reader = footage::FrameReader::open(a.clip.file);
  if (!reader) return fail(reader.error());
  const QSize size = layoutOf(content.shape).film;
  auto writer = footage::ClipWriter::create(
      file, {.width = size.width(), .height = size.height(), .rate_hz = kRate_hz, .quality = 22});
  if (!writer) return fail(writer.error());
  const auto [from, to] = stretchOf(a, stops);
  PanelWords words;
  words.head = QString::fromStdString(content.athlete);
  words.line = headLine(a, content);
  words.sign = QString::fromStdString(content.coach);
  for (const coaching::Cue& cue : content.cues) words.to_come << QString::fromStdString(cue.wording);
  Film out{a,
           content.sketch,
           stops,
           words,
           footage::EncodingQueue(std::move(*writer)),
           task,
           std::vector<bool>(stops.size()),
           from,
           content.shape};
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
  if (auto finished = out.encoding.finish(); !finished) return fail(finished.error());
  return std::move(out.stills);
}

// Two stills and all words find room on one page.
constexpr double kStillOnPaper = 0.42;

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
    // Pixels are counted at 96 to the inch.
    document.setHtml(forPaper(html, static_cast<int>(kStillOnPaper * page.width() * 96 / writer.resolution())));
    document.print(&writer);
  }
  return bytes.toStdString();
}

// "ines-calder-squat-2026-11-16"
std::string stemOf(const coaching::Analysis& a, const ReplyContent& content) {
  std::string stem = library::folderNameFor(content.athlete) + "-" +
                     library::folderNameFor(std::string(lifts::definition(a.request.lift).name));
  if (!content.filmed_on.empty()) stem += "-" + library::folderNameFor(content.filmed_on);
  std::transform(stem.begin(), stem.end(), stem.begin(),
                 [](unsigned char c) { return static_cast<char>(c < 0x80 ? std::tolower(c) : c); });
  return stem;
}

exchange::Report reportOf(const coaching::Analysis& a, const ReplyContent& content) {
  exchange::Report r;
  r.athlete = content.athlete;
  r.coach = content.coach;
  r.filmed_on = library::spoken(content.filmed_on);
  r.written_on = library::spoken(content.written_on);
  r.lift = liftTitle(a);
  r.load = content.load;
  r.greeting = content.greeting;
  r.closing = content.closing;
  r.keep = content.keep;
  r.cues = content.cues;
  r.change_nothing = content.change_nothing;
  r.follow_up = content.follow_up;
  r.next = content.next;
  r.cautions = content.cautions;
  r.all_numbers = content.all_numbers;
  return r;
}

Result<bool> writeAll(const coaching::Analysis& a, const ReplyContent& content, ReplyFiles& files,
                      const fs::path& folder, Task& task) {
  const std::vector<Stop> stops = stopsOf(a, content);
  const std::string stem = stemOf(a, content);
  files.clip = folder / (stem + ".mp4");
  task.part(0, 0.9);
  auto stills = film(a, content, stops, files.clip, task);
  if (!stills) return fail(stills.error());
  makePrivate(files.clip);
  task.part(0.9, 1.0);
  exchange::Report report = reportOf(a, content);
  // The film stops where a cue shows, in time; the report follows the cues.
  for (const auto& [which, still] : *stills) {
    const Stop& stop = stops[which];
    QString caption = stop.title;
    if (!stop.text.isEmpty()) caption += (caption.isEmpty() ? QString() : QStringLiteral(": ")) + stop.text;
    report.stills.push_back({caption.toStdString(), pngOf(still), stop.cue});
  }
  std::stable_sort(report.stills.begin(), report.stills.end(),
                   [](const exchange::ReportStill& x, const exchange::ReportStill& y) { return x.cue < y.cue; });
  for (std::size_t i = 0; i < report.stills.size(); ++i) {
    const fs::path file = folder / (stem + "-" + std::to_string(i + 1) + ".png");
    if (auto written = writeWhole(FileSystem::real(), file, report.stills[i].png); !written) return written;
    files.stills.push_back(file);
  }
  const std::string html = exchange::reportToHtml(report, a);
  files.html = folder / (stem + ".html");
  files.pdf = folder / (stem + ".pdf");
  if (auto written = writeWhole(FileSystem::real(), files.html, html); !written) return written;
  if (task.cancelled()) return cancelled();
  task.report(0.5);
  return writeWhole(FileSystem::real(), files.pdf, pdfOf(html));
}

// From the unfinished folder into its parent. Stills an earlier, longer reply left behind go.
Result<bool> moveIn(ReplyFiles& files, const fs::path& folder) {
  std::error_code error;
  const std::string stem = files.clip.stem().string();
  for (std::size_t i = files.stills.size() + 1; fs::remove(folder / (stem + "-" + std::to_string(i) + ".png"), error);)
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

QString forPaper(const std::string& html, int picture_px) {
  QString text = QString::fromStdString(html);
  // Qt's rich text knows no "width:100%" for pictures.
  text.replace(QStringLiteral("<img "), QStringLiteral("<img width=%1 ").arg(picture_px));
  const qsizetype from = text.indexOf(QStringLiteral("<style>")), to = text.indexOf(QStringLiteral("</style>"));
  if (from >= 0 && to > from)
    text.replace(
        from, to - from,
        QStringLiteral("<style>body{color:#162a4d;font-size:9.5pt} h1,h2{font-family:Vollkorn;font-style:italic;"
                       "font-weight:normal} h1{font-size:20pt} h2{font-size:13pt;margin-top:9px} "
                       ".say{font-size:13pt;font-weight:bold;margin-bottom:0} td,th{padding:2px 16px 2px 0} "
                       ".meta,.why,th{color:#525e74} .doubt{color:#805205} .small{font-size:8pt;color:#525e74}"));
  for (const auto& [tag, line] :
       {std::pair{"<details><summary>", "<h2>"}, std::pair{"</summary>", "</h2>"}, std::pair{"</details>", ""}})
    text.replace(QLatin1String(tag), QLatin1String(line));
  return text;
}

Result<ReplyFiles> writeReply(const coaching::Analysis& a, const ReplyContent& content, const fs::path& folder,
                              Task& task) {
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite, "The folder " + folder.string() + " can't be made: " + error.message() + ".",
                "Choose another folder.");
  // Written beside and moved in as a whole: an earlier reply stays until the new one is complete.
  // Named after this program: what one that was killed left is swept when the library is opened next.
  const fs::path unfinished = folder / (".unfinished." + std::to_string(::getpid()));
  fs::remove_all(unfinished, error);
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
