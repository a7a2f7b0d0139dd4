// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/small_frames.h"

#include "core/footage/frame_reader.h"
#include "drawing/picture.h"

namespace jib::drawing {

Result<std::vector<QImage>> smallFrames(const std::filesystem::path& clip, const std::vector<std::size_t>& at,
                                        int height_px, Task& task) {
  auto reader = footage::FrameReader::open(clip, footage::Workers::One);
  if (!reader) return fail(reader.error());
  std::vector<QImage> small;
  for (std::size_t i = 0; i < at.size(); ++i) {
    if (task.cancelled()) return fail(ErrorCode::Cancelled, "Stopped.");
    if (i > 0 && at[i] == at[i - 1]) {
      small.push_back(small.back());
      continue;
    }
    if (auto placed = reader->seekBefore(at[i]); !placed) return fail(placed.error());
    auto frame = reader->next(footage::Pixels::Colour, at[i]);
    if (!frame) return fail(frame.error());
    small.push_back(*frame ? lent((*frame)->picture).scaledToHeight(height_px, Qt::SmoothTransformation) : QImage());
    task.report(static_cast<double>(i + 1) / static_cast<double>(at.size()));
  }
  return small;
}

}  // namespace jib::drawing
