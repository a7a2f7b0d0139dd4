// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/footage/frame_reader.h"

namespace jib::drawing {

// Frames of a clip in whatever order a film asks for them: onward by reading, back and far on by seeking.
class Jog {
 public:
  explicit Jog(footage::FrameReader reader) : reader_(std::move(reader)) {}

  // The nearest frame that can be decoded; it lives until the next call. Errors  ClipUnreadable
  Result<const footage::Frame*> at(double t_s);

 private:
  footage::FrameReader reader_;
  std::optional<footage::Frame> frame_;
};

}  // namespace jib::drawing
