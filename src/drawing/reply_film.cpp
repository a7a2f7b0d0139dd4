// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/reply_film.h"

#include <QObject>
#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/footage/clip_writer.h"
#include "core/footage/encoding_queue.h"

namespace jib::drawing {
namespace {

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
  bool hide_faces = false;
  ReplyFrame layout = ReplyFrame(a, sketch, shape, hide_faces);
  std::map<const coaching::Analysis*, ReplyFrame> other_layouts = {};  // of other films, once they are shown
  Stills stills = {};
  std::vector<std::optional<double>> cue_at_s = {};  // in the film
  std::vector<bool> announced = {};                  // of each stop: its chapter has begun
  long frames = 0;                                   // of the film, so far
  std::unique_ptr<SecondView> second = {};
  // One is painted while those before it wait or are encoded.
  std::array<Canvas, footage::EncodingQueue::kInUse + 1> canvases = {};
  std::size_t turn = 0;

  // What was painted last, to be shown for so many frames.
  Result<bool> put(int times) {
    const std::size_t painted = turn;
    turn = (turn + 1) % canvases.size();
    frames += times;
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
    auto reader = footage::FrameReader::open(of.clip);
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
                          wordsAt(a.motion.times_s[s.frame], &s), &of == &a ? second.get() : nullptr);
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
    ReplyFrame& other_layout = other_layouts.try_emplace(&other, other, kNothingDrawn, shape, hide_faces).first->second;
    if (auto known = facesKnown(other_layout, kNothingDrawn); !known) return known;
    const double t = a.motion.times_s[s.frame] + s.other->offset_s;
    const std::size_t at = other.motion.frameAt(t), from = other.motion.frameAt(t - kBefore_s);
    if (auto played = slowly(other, other_layout, s, from, at); !played) return played;
    auto reader = footage::FrameReader::open(other.clip);
    if (!reader) return fail(reader.error());
    if (auto set = reader->seekBefore(at); !set) return set;
    auto frame = reader->next(footage::Pixels::Colour, at);
    if (!frame) return fail(frame.error());
    if (!*frame) return true;
    canvases[turn].draw(other, kNothingDrawn, other_layout, **frame, &s, wordsAt(a.motion.times_s[s.frame], &s));
    stills.emplace_back(which, canvases[turn].still(other_layout.place()));
    return put(static_cast<int>(kFreeze_s * kRate_hz));
  }

  // A chapter begins where the film slows down for a stop, so that a tap on it shows how it came about.
  void announce(double t) {
    for (std::size_t i = 0; i < stops.size(); ++i) {
      if (announced[i] || a.motion.times_s[stops[i].frame] - t > kSlowAround_s * a.motion.slow_factor) continue;
      announced[i] = true;
      const QString title = stops[i].title.isEmpty() ? stops[i].text : stops[i].title;
      if (!title.isEmpty()) encoding.beginChapter(title.toStdString());
    }
  }

  // The last of the film stands while what to film next is read.
  Result<bool> endCard(footage::FrameReader& reader, std::size_t last, const std::string& next) {
    if (next.empty()) return true;
    if (auto set = reader.seekBefore(last); !set) return set;
    auto frame = reader.next(footage::Pixels::Colour, last);
    if (!frame) return fail(frame.error());
    if (!*frame) return true;
    PanelWords said = words;
    said.to_come.clear();
    said.title = QObject::tr("Film this next");
    said.below = QString::fromStdString(next);
    encoding.beginChapter(said.title.toStdString());
    canvases[turn].draw(a, kNothingDrawn, layout, **frame, nullptr, said);
    return put(static_cast<int>(kFreeze_s * kRate_hz));
  }

  // A stop's own frame, beside the one before it where that is asked for.
  Result<bool> stand(const Stop& s, const footage::Frame& f) {
    const PanelWords said = wordsAt(f.t_s, &s);
    if (s.before && *s.before < f.index) {
      auto reader = footage::FrameReader::open(a.clip);
      if (!reader) return fail(reader.error());
      if (auto set = reader->seekBefore(*s.before); !set) return set;
      auto before = reader->next(footage::Pixels::Colour, *s.before);
      if (!before) return fail(before.error());
      if (*before && (*before)->index < f.index) {
        canvases[turn].drawPair(a, sketch, layout, **before, f, said);
        return true;
      }
    }
    canvases[turn].draw(a, sketch, layout, f, &s, said, second.get());
    return true;
  }

  // Adds one frame of the clip as often as its time and the slow parts ask for.
  Result<bool> frame(const footage::Frame& f, double next_s) {
    const double t = f.t_s;
    const bool slow = std::any_of(stops.begin(), stops.end(), [&](const Stop& s) {
      return std::abs(a.motion.times_s[s.frame] - t) < kSlowAround_s * a.motion.slow_factor;
    });
    announce(t);
    int times = 0;
    while (due_s < next_s - 1e-9) {
      due_s += 1.0 / kRate_hz;
      ++times;
    }
    if (times > 0) {
      canvases[turn].draw(a, sketch, layout, f, nullptr, wordsAt(t, nullptr), second.get());
      if (auto added = put(slow ? times * kSlowTimes : times); !added) return added;
    }
    for (std::size_t i = 0; i < stops.size(); ++i) {
      const Stop& s = stops[i];
      // A frame that cannot be decoded is passed over: the stop is made at the next that can.
      if (stopped[i] || s.frame > f.index) continue;
      stopped[i] = true;
      if (s.cue < cue_at_s.size() && !cue_at_s[s.cue]) cue_at_s[s.cue] = static_cast<double>(frames) / kRate_hz;
      if (s.other) {
        if (auto shown = otherStop(i); !shown) return shown;
        continue;
      }
      if (auto looped = loop(s); !looped) return looped;
      if (auto drawn = stand(s, f); !drawn) return drawn;
      stills.emplace_back(i, canvases[turn].still(s.before ? layout.layout().picture : layout.place()));
      if (auto added = put(static_cast<int>(kFreeze_s * kRate_hz)); !added) return added;
    }
    return true;
  }
};

}  // namespace

Result<WrittenFilm> replyFilm(const coaching::Analysis& a, const ReplyContent& content, const std::vector<Stop>& stops,
                              const std::filesystem::path& file, Task& task) {
  auto reader = footage::FrameReader::open(a.clip);
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
           content.shape,
           content.hide_faces};
  if (auto known = facesKnown(out.layout, content.sketch); !known) return fail(known.error());
  out.cue_at_s.resize(content.cues.size());
  out.announced.resize(stops.size());
  auto second = SecondView::of(content);
  if (!second) return fail(second.error());
  out.second = std::move(*second);
  if (out.second)
    if (auto known = facesKnown(out.second->framed(), kNothingDrawn); !known) return fail(known.error());
  out.encoding.beginChapter(liftTitle(a));
  if (auto placed = reader->seekBefore(reader->info().nearestFrame(from)); !placed) return fail(placed.error());
  std::size_t last = 0;
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(footage::Pixels::Colour);
    if (!next) return fail(next.error());
    if (!*next || (*next)->t_s > to) break;
    const footage::Frame& f = **next;
    if (f.t_s < from || f.index >= a.motion.times_s.size()) continue;
    last = f.index;
    if (f.index == 0 || out.due_s < f.t_s) out.due_s = f.t_s;
    const double next_s =
        f.index + 1 < a.motion.times_s.size() ? a.motion.times_s[f.index + 1] : f.t_s + 1.0 / kRate_hz;
    if (auto added = out.frame(f, next_s); !added) return fail(added.error());
    task.report((f.t_s - from) / std::max(to - from, 0.1));
  }
  if (auto ended = out.endCard(*reader, last, content.next); !ended) return fail(ended.error());
  if (auto finished = out.encoding.finish(); !finished) return fail(finished.error());
  return WrittenFilm{std::move(out.stills), std::move(out.cue_at_s), static_cast<double>(out.frames) / kRate_hz};
}

}  // namespace jib::drawing
