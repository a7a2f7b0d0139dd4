// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/jog.h"

namespace jib::drawing {

Result<const footage::Frame*> Jog::at(double t_s) {
  const std::size_t wanted = reader_.info().nearestFrame(t_s);
  constexpr std::size_t kReadOn = 60;  // further on it is quicker to seek
  if (!frame_ || wanted < frame_->index || wanted > frame_->index + kReadOn) {
    frame_.reset();
    if (auto set = reader_.seekBefore(wanted); !set) return fail(set.error());
  }
  while (!frame_ || frame_->index < wanted) {
    auto next = reader_.next(footage::Pixels::Colour, wanted);
    if (!next) return fail(next.error());
    if (!*next) break;
    frame_ = std::move(**next);
  }
  if (!frame_) return fail(ErrorCode::ClipUnreadable, "The clip has no frame there.", "Send the original file again.");
  return &*frame_;
}

}  // namespace jib::drawing
