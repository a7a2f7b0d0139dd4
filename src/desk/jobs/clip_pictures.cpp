// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/jobs/clip_pictures.h"

#include <QSaveFile>

#include "core/base/files.h"
#include "core/exchange/intake/prepare.h"
#include "core/footage/frame_reader.h"
#include "drawing/lifter_extent.h"
#include "drawing/small_frames.h"

namespace jib::desk {
namespace {

constexpr int kKept = 600;        // pictures held in memory
constexpr int kAtOnce = 8;        // wishes one job serves before it tells
constexpr int kDecoded_px = 300;  // height a frame is reduced to before it is cut

struct Made {
  std::string clip_hash;
  QImage picture;  // empty: none can be made
};

// Cut to a shape about a place, inside the picture.
QImage cutTo(const QImage& whole, QRectF lifter) {
  const double shape = static_cast<double>(ClipPictures::kSize.width()) / ClipPictures::kSize.height();
  if (lifter.isEmpty()) lifter = whole.rect();
  QSizeF size = lifter.size();
  size.width() < size.height() * shape ? size.setWidth(size.height() * shape) : size.setHeight(size.width() / shape);
  size = size.boundedTo(whole.size());
  QRectF part(QPointF(), size);
  part.moveCenter(lifter.center());
  part.moveLeft(std::clamp(part.left(), 0.0, whole.width() - size.width()));
  part.moveTop(std::clamp(part.top(), 0.0, whole.height() - size.height()));
  return whole.copy(part.toRect())
      .scaled(2 * ClipPictures::kSize, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
}

// The stored tracing, if there is one that can be read.
std::optional<coaching::Analysis> analysisOf(library::Library& library, const library::Submission& s,
                                             const footage::ClipInfo& clip) {
  auto stored = library.tracing(s.id);
  if (!stored || stored->empty()) return std::nullopt;
  auto athlete = library.athlete(s.athlete);
  auto review = library.review(s.id);
  auto book = coaching::CueBook::shipped();
  if (!athlete || !review || !book) return std::nullopt;
  auto style = exchange::styleOf(library, *athlete);
  if (!style) return std::nullopt;
  auto a = exchange::restored(clip, exchange::requestFor(s, *review, athlete->profile), *stored, *style, *book);
  return a ? std::optional(std::move(*a)) : std::nullopt;
}

// Kept beside the clip, unless the clip went meanwhile.
void keep(library::Library& library, const library::Submission& s, const QImage& picture) {
  const auto file = library.pictureFile(s.clip_hash);
  if (!makePrivateFolder(file.parent_path())) return;
  QSaveFile out(QString::fromStdString(file.string()));
  if (!out.open(QIODevice::WriteOnly) || !picture.save(&out, "PNG") || !out.commit()) return;
  if (!library.submission(s.id)) {
    std::error_code ignored;
    std::filesystem::remove(file, ignored);
  }
}

}  // namespace

Result<QImage> pictureOf(library::Library& library, const library::Submission& s, Task& task) {
  const auto file = library.clipFile(s);
  auto reader = footage::FrameReader::open(file, footage::Workers::One);
  if (!reader) return fail(reader.error());
  const auto analysis = analysisOf(library, s, reader->info());
  const bool turns = analysis && !analysis->reps.empty();
  const std::size_t at =
      turns ? analysis->motion.frameAt(analysis->reps.front().bottom_t()) : reader->info().frames() / 2;
  auto frames = drawing::smallFrames(file, {at}, kDecoded_px, task);
  if (!frames) return fail(frames.error());
  if (frames->front().isNull()) return QImage();
  const double scale = static_cast<double>(frames->front().height()) / reader->info().height;
  QRectF lifter;
  if (turns) {
    const double t = analysis->reps.front().bottom_t();
    const QRectF extent = drawing::lifterExtent(*analysis, motion::Stretch{t, t});
    lifter = QRectF(extent.topLeft() * scale, extent.size() * scale);
  }
  return cutTo(frames->front(), lifter);
}

ClipPictures::ClipPictures(std::filesystem::path library_folder, QObject* parent)
    : QObject(parent), folder_(std::move(library_folder)), known_(kKept) {}

QPixmap ClipPictures::of(const library::Submission& s) {
  if (s.clip_hash.empty()) return {};
  if (const QPixmap* known = known_.object(QString::fromStdString(s.clip_hash))) return *known;
  if (under_way_.insert(s.clip_hash).second) {
    wanted_.push_front(s);
    // What was asked for long ago has been scrolled past; it is asked for again when it comes back into sight.
    constexpr std::size_t kMostWaiting = 60;
    if (wanted_.size() > kMostWaiting) {
      under_way_.erase(wanted_.back().clip_hash);
      wanted_.pop_back();
    }
    if (!jobs_.busy()) QMetaObject::invokeMethod(this, &ClipPictures::next, Qt::QueuedConnection);
  }
  return {};
}

void ClipPictures::forget(const QString& clip_hash) {
  known_.remove(clip_hash);
  under_way_.erase(clip_hash.toStdString());
  std::error_code ignored;
  std::filesystem::remove(folder_ / "pictures" / (clip_hash.toStdString() + ".png"), ignored);
}

void ClipPictures::next() {
  if (jobs_.busy() || wanted_.empty()) return;
  std::vector<library::Submission> turn;
  while (!wanted_.empty() && turn.size() < kAtOnce) {
    turn.push_back(wanted_.front());
    wanted_.pop_front();
  }
  jobs_.start<std::vector<Made>>(
      {},
      [folder = folder_, turn](Task& task) -> Result<std::vector<Made>> {
        std::vector<Made> made;
        std::optional<library::Library> library;  // only where one has to be made
        for (const auto& s : turn) {
          if (task.cancelled()) break;
          const auto file = folder / "pictures" / (s.clip_hash + ".png");
          QImage picture(QString::fromStdString(file.string()));
          if (picture.isNull() && !library) {
            auto opened = library::Library::openAgain(folder);
            if (!opened) return fail(opened.error());
            library = std::move(*opened);
          }
          if (picture.isNull()) {
            auto fresh = pictureOf(*library, s, task);
            if (fresh && !fresh->isNull()) {
              picture = *fresh;
              // One that is not traced yet will look better: it is not kept.
              if (auto stored = library->tracing(s.id); stored && !stored->empty()) keep(*library, s, picture);
            }
          }
          made.push_back({s.clip_hash, picture});
        }
        return made;
      },
      [this, turn](Result<std::vector<Made>> made) {
        for (const auto& s : turn) under_way_.erase(s.clip_hash);
        if (made)
          for (const Made& one : *made) {
            const QString hash = QString::fromStdString(one.clip_hash);
            auto* picture = new QPixmap(QPixmap::fromImage(one.picture));
            picture->setDevicePixelRatio(2);
            known_.insert(hash, picture);
            emit arrived(hash);
          }
        next();
      });
}

}  // namespace jib::desk
