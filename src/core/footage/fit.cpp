// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/fit.h"

extern "C" {
#include <libavformat/avformat.h>
}

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/files.h"
#include "core/footage/clip_writer.h"
#include "core/footage/frame_reader.h"

namespace jib::footage {
namespace fs = std::filesystem;

namespace {

constexpr int kSound_bits_per_s = 100000;    // with its share of the container
constexpr double kLeast_bits_per_s = 60000;  // below this no size of picture shows a lifter
constexpr double kGood_bits_per_pixel = 0.035;
constexpr std::array kScales{1.0, 0.75, 0.5, 0.375};

struct Chapter {
  double start_s;
  std::string title;
};

std::vector<Chapter> chaptersOf(const fs::path& film) {
  std::vector<Chapter> all;
  AVFormatContext* format = nullptr;
  if (avformat_open_input(&format, ("file:" + film.string()).c_str(), nullptr, nullptr) < 0) return all;
  for (unsigned i = 0; i < format->nb_chapters; ++i) {
    const AVChapter& c = *format->chapters[i];
    const AVDictionaryEntry* title = av_dict_get(c.metadata, "title", nullptr, 0);
    all.push_back({static_cast<double>(c.start) * av_q2d(c.time_base), title ? title->value : ""});
  }
  avformat_close_input(&format);
  return all;
}

struct Original {
  int width, height, rate_hz;
  double length_s;
  std::shared_ptr<const Sound> sound;
  std::vector<Chapter> chapters;
};

Result<bool> writeAgain(const fs::path& from, const fs::path& to, const Original& o, double bits_per_s, Task& task) {
  auto reader = FrameReader::open(from);
  if (!reader) return fail(reader.error());
  const double good = bits_per_s / (kGood_bits_per_pixel * o.width * o.height * o.rate_hz);
  double scale = kScales.back();
  for (const double s : kScales)
    if (s * s <= good) {
      scale = s;
      break;
    }
  ClipFormat format;
  format.width = static_cast<int>(std::lround(o.width * scale)) & ~1;
  format.height = static_cast<int>(std::lround(o.height * scale)) & ~1;
  format.rate_hz = o.rate_hz;
  format.bits_per_s = static_cast<int>(bits_per_s);
  format.key_every = 4 * o.rate_hz;  // freezes cost nothing between key frames
  format.speed = "medium";
  format.sound = o.sound;
  auto writer = ClipWriter::create(to, format);
  if (!writer) return fail(writer.error());
  std::size_t chapter = 0;
  cv::Mat small;
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(Pixels::Colour);
    if (!next) return fail(next.error());
    if (!*next) break;
    const Frame& f = **next;
    while (chapter < o.chapters.size() && o.chapters[chapter].start_s <= f.t_s + 0.5 / o.rate_hz)
      writer->beginChapter(o.chapters[chapter++].title);
    cv::resize(f.picture, small, {format.width, format.height}, 0, 0, cv::INTER_AREA);
    if (auto added = writer->add(small); !added) return added;
    task.report(f.t_s / std::max(0.1, o.length_s));
  }
  return writer->finish();
}

}  // namespace

Result<bool> fitFilm(const fs::path& film, double most_bytes, Task& task) {
  std::error_code error;
  const auto weight = [&](const fs::path& file) { return static_cast<double>(fs::file_size(file, error)); };
  if (weight(film) <= most_bytes) return true;
  auto reader = FrameReader::open(film);
  if (!reader) return fail(reader.error());
  const auto& info = reader->info();
  Original o{info.width, info.height, 30, std::max(0.1, info.duration_s()), {}, chaptersOf(film)};
  if (auto sound = readSound(film); sound) o.sound = std::make_shared<Sound>(std::move(*sound));
  const double other = o.sound ? kSound_bits_per_s : 4000;  // the container's own
  double bits_per_s = 0.97 * 8 * most_bytes / o.length_s - other;
  fs::path again = film;
  again.replace_filename(".fit-" + film.filename().string());
  bool fits = false;
  // What the encoder makes of so many bits is known only afterwards.
  for (int go = 0; go < 3 && !fits; ++go) {
    const double bits = std::max(bits_per_s, kLeast_bits_per_s);
    if (auto written = writeAgain(film, again, o, bits, task); !written) {
      fs::remove(again, error);
      return written;
    }
    fits = weight(again) <= most_bytes;
    if (bits_per_s <= kLeast_bits_per_s) break;
    bits_per_s *= 0.95 * most_bytes / std::max(1.0, weight(again));
  }
  if (auto moved = FileSystem::real().rename(again, film); !moved) return moved;
  return fits;
}

}  // namespace jib::footage
