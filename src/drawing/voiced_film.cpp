// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/voiced_film.h"

#include <QObject>
#include <algorithm>
#include <array>
#include <cmath>

#include "core/footage/clip_writer.h"
#include "core/footage/encoding_queue.h"
#include "drawing/jog.h"

namespace jib::drawing {
namespace {

// A take with the frames of the film it fills.
struct Placed {
  const review::Take* take;
  long first = 0, frames = 0;
};

// All takes one after the other, and their sound in one. A take fills whole frames: what is left over of the last is
// silence.
struct Script {
  std::vector<Placed> takes;
  std::shared_ptr<footage::Sound> sound = std::make_shared<footage::Sound>();
  long frames = 0;
};

// Without what the coach cut off its ends; something is always left.
footage::Sound cut(footage::Sound heard, const review::Take& take) {
  constexpr double kLeast_s = 0.2;
  const double length = heard.length_s();
  const double from = std::clamp(take.cut_start_s, 0.0, std::max(0.0, length - kLeast_s));
  const double to = std::max(std::min(length, from + kLeast_s), length - take.cut_end_s);
  const auto at = [&](double s) {
    return std::min(heard.samples.size(), static_cast<std::size_t>(std::lround(s * footage::Sound::kRate_hz)));
  };
  return {{heard.samples.begin() + static_cast<std::ptrdiff_t>(at(from)),
           heard.samples.begin() + static_cast<std::ptrdiff_t>(at(to))}};
}

Result<Script> scriptOf(const std::vector<review::Take>& takes) {
  Script script;
  for (const review::Take& take : takes) {
    auto whole = footage::readSound(take.file);
    if (!whole) return fail(whole.error());
    auto heard = std::optional(cut(std::move(*whole), take));
    const long first = std::max(script.frames, std::lround(std::ceil(take.start_s * kRate_hz - 1e-6)));
    const long frames = std::max(1L, std::lround(std::ceil(heard->length_s() * kRate_hz - 1e-6)));
    const footage::Sound even = footage::evened(std::move(*heard));
    script.sound->lengthenTo(static_cast<double>(first) / kRate_hz);
    script.sound->samples.insert(script.sound->samples.end(), even.samples.begin(), even.samples.end());
    script.takes.push_back({&take, first, frames});
    script.frames = first + frames;
    script.sound->lengthenTo(static_cast<double>(script.frames) / kRate_hz);
  }
  return script;
}

// Under a take the clip is heard where it runs at its own speed; a picture that stands or is slowed has no sound.
void addOwn(footage::Sound& sound, const footage::Sound& own, const Placed& placed, float gain) {
  const review::Take& take = *placed.take;
  constexpr auto kRate = static_cast<double>(footage::Sound::kRate_hz);
  const double length = static_cast<double>(placed.frames) / kRate_hz;
  for (std::size_t i = 0; i < take.plays.size(); ++i) {
    const review::Play& play = take.plays[i];
    if (std::abs(play.rate - 1) > 1e-3) continue;
    const double from = std::max(0.0, play.at_s - take.cut_start_s);
    const double to = std::min(length, i + 1 < take.plays.size() ? take.plays[i + 1].at_s - take.cut_start_s : length);
    const long first = std::lround(from * kRate), last = std::lround(to * kRate);
    const long source = std::lround(review::clipTimeAt(take, from) * kRate);
    const long base = std::lround(static_cast<double>(placed.first) / kRate_hz * kRate);
    constexpr long kFade = footage::Sound::kRate_hz / 100;  // a cut would click
    for (long n = first; n < last; ++n) {
      const long at = source + n - first;
      if (at < 0 || at >= static_cast<long>(own.samples.size())) continue;
      const float fade = static_cast<float>(
          std::min({1.0, static_cast<double>(n - first) / kFade, static_cast<double>(last - n) / kFade}));
      float& out = sound.samples[static_cast<std::size_t>(base + n)];
      out = std::clamp(out + gain * fade * own.samples[static_cast<std::size_t>(at)], -1.0f, 1.0f);
    }
  }
}

// A clip without sound has nothing to add.
void addOwnSound(Script& script, const std::filesystem::path& clip, review::OwnSound how) {
  if (how == review::OwnSound::Off) return;
  auto own = footage::readSound(clip);
  if (!own) return;
  const footage::Sound even = footage::evened(std::move(*own));
  // Speech must stay the clearest thing there: 16 dB under it, or 6.
  const float gain = how == review::OwnSound::Low ? 0.16f : 0.5f;
  for (const Placed& placed : script.takes) addOwn(*script.sound, even, placed, gain);
}

// Which cue a chapter speaks of: "cue 2" is the second.
std::optional<std::size_t> cueOf(const std::string& chapter) {
  const auto digit = chapter.find_first_of("123456789");
  if (chapter.rfind("cue", 0) != 0 || digit == std::string::npos) return std::nullopt;
  return static_cast<std::size_t>(std::atoi(chapter.c_str() + digit)) - 1;
}

// Beside the picture stands what a chapter is about, for whoever watches without sound: the cue, what is good, or what
// to film next.
PanelWords wordsOf(const ReplyContent& content, const coaching::Analysis& a, const std::string& chapter,
                   const Stop* stop) {
  PanelWords words;
  words.head = QString::fromStdString(content.athlete);
  words.line = headLine(a, content);
  words.sign = QString::fromStdString(content.coach);
  if (stop) {
    words.title = stop->title;
    words.text = stop->text;
    words.below = stop->below;
  } else if (chapter == review::kNextChapter && !content.next.empty()) {
    words.title = QObject::tr("Film this next");
    words.below = QString::fromStdString(content.next);
  } else if (chapter == review::kGoodChapter && !content.keep.empty()) {
    words.title = QObject::tr("What's good");
    QStringList lines;
    for (const std::string& line : content.keep) lines << QString::fromStdString(line);
    words.below = lines.join(QLatin1Char(' '));
  } else {
    for (const coaching::Cue& cue : content.cues) words.to_come << QString::fromStdString(cue.wording);
  }
  return words;
}

}  // namespace

Result<WrittenFilm> voicedFilm(const coaching::Analysis& a, const ReplyContent& content, const std::vector<Stop>& stops,
                               const std::filesystem::path& file, Task& task) {
  // long because one frame after the other is painted with all that belongs to its take
  auto script = scriptOf(content.takes);
  if (!script) return fail(script.error());
  addOwnSound(*script, a.clip.file, content.own_sound);
  auto reader = footage::FrameReader::open(a.clip);
  if (!reader) return fail(reader.error());
  Jog clip(std::move(*reader));
  auto second = SecondView::of(content);
  if (!second) return fail(second.error());
  const coaching::Sketch nothing;
  if (*second)
    if (auto known = facesKnown((*second)->framed(), nothing); !known) return fail(known.error());
  ReplyFrame layout(a, content.sketch, content.shape, content.hide_faces);
  if (auto known = facesKnown(layout, content.sketch); !known) return fail(known.error());
  const QSize size = layout.layout().film;
  footage::ClipFormat format{.width = size.width(), .height = size.height(), .rate_hz = kRate_hz, .quality = 22};
  format.sound = script->sound;
  auto writer = footage::ClipWriter::create(file, format);
  if (!writer) return fail(writer.error());
  footage::EncodingQueue encoding(std::move(*writer));
  std::array<Canvas, footage::EncodingQueue::kInUse + 1> canvases;
  std::size_t turn = 0;
  WrittenFilm written;
  written.cue_at_s.resize(content.cues.size());
  long frame_of_film = 0;
  for (const Placed& placed : script->takes) {
    const auto cue = cueOf(placed.take->chapter);
    const auto stop = std::find_if(stops.begin(), stops.end(), [&](const Stop& s) { return cue && s.cue == *cue; });
    const Stop* about = stop == stops.end() || stop->other ? nullptr : &*stop;
    if (cue && *cue < written.cue_at_s.size() && !written.cue_at_s[*cue])
      written.cue_at_s[*cue] = static_cast<double>(placed.first) / kRate_hz;
    bool still_kept = false;
    const auto captions = review::captionLines(placed.take->caption, static_cast<double>(placed.first) / kRate_hz,
                                               static_cast<double>(placed.first + placed.frames) / kRate_hz);
    written.captions.insert(written.captions.end(), captions.begin(), captions.end());
    PanelWords words = wordsOf(content, a, placed.take->chapter, about);
    if (frame_of_film == placed.first) encoding.beginChapter(placed.take->chapter);
    // A pause before a take shows what it begins with.
    for (; frame_of_film < placed.first + placed.frames; ++frame_of_film) {
      if (task.cancelled()) return cancelled();
      const double at_s = std::max(0.0, static_cast<double>(frame_of_film - placed.first) / kRate_hz);
      if (frame_of_film == placed.first && frame_of_film > 0) encoding.beginChapter(placed.take->chapter);
      auto frame = clip.at(review::clipTimeAt(*placed.take, at_s));
      if (!frame) return fail(frame.error());
      // The evidence of a cue is drawn while the picture stands.
      const bool stands = about && review::frozenAt(*placed.take, at_s);
      Canvas& canvas = canvases[turn];
      words.caption =
          QString::fromStdString(review::captionAt(captions, static_cast<double>(frame_of_film) / kRate_hz));
      canvas.draw(a, content.sketch, layout, **frame, stands ? about : nullptr, words, second->get());
      if (about && !still_kept && (stands || frame_of_film + 1 == placed.first + placed.frames)) {
        still_kept = true;
        written.stills.emplace_back(static_cast<std::size_t>(about - stops.data()), canvas.still(layout.place()));
      }
      turn = (turn + 1) % canvases.size();
      if (auto added = encoding.add(canvas.pixels(), 1); !added) return fail(added.error());
      task.report(static_cast<double>(frame_of_film) / static_cast<double>(script->frames));
    }
  }
  if (auto finished = encoding.finish(); !finished) return fail(finished.error());
  written.length_s = static_cast<double>(frame_of_film) / kRate_hz;
  return written;
}

}  // namespace jib::drawing
