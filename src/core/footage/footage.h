// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <list>
#include <optional>
#include <unordered_map>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"

namespace jib::footage {

// Any frame of a clip, by index, in colour. Keeps what it decoded within a budget of memory, so that stepping back
// and looping a rep cost nothing the second time.
// Errors  ClipUnreadable as FrameReader; a frame the decoder cannot make gives the nearest one before it
// Thread  one thread at a time
class Footage {
 public:
  static constexpr std::size_t kDefaultBudget_bytes = 400u << 20;
  static Result<Footage> open(const std::filesystem::path& file, std::size_t budget_bytes = kDefaultBudget_bytes);

  const ClipInfo& info() const { return reader_.info(); }
  Result<Frame> frame(std::size_t index);

 private:
  Footage(FrameReader reader, std::size_t budget_bytes);
  void keep(Frame frame);

  FrameReader reader_;
  std::optional<std::size_t> last_asked_;
  bool running_back_ = false;  // the last frame that had to be decoded was a step back
  std::size_t capacity_frames_;
  std::list<Frame> recent_;  // most recently used first
  std::unordered_map<std::size_t, std::list<Frame>::iterator> by_index_;
};

}  // namespace jib::footage
