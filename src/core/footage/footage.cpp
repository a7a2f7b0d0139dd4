// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/footage.h"

#include <algorithm>

namespace jib::footage {
namespace {

// Turning a frame into colour costs as much as decoding it. On a jump only the frame asked for and the one before are
// turned and kept; whoever steps back once will do so again.
// Who has run out of those kept is playing backward: then more are kept, so that the run seldom stops to seek.
constexpr std::size_t kStepsBack = 12, kRunBack = 36, kJumpBack = 1;

}  // namespace

Footage::Footage(FrameReader reader, std::size_t budget_bytes) : reader_(std::move(reader)) {
  const std::size_t one = static_cast<std::size_t>(info().width) * static_cast<std::size_t>(info().height) * 3;
  capacity_frames_ = std::max<std::size_t>(4, budget_bytes / std::max<std::size_t>(one, 1));
}

Result<Footage> Footage::open(const std::filesystem::path& file, std::size_t budget_bytes) {
  auto reader = FrameReader::open(file, Workers::One);
  if (!reader) return fail(reader.error());
  return Footage(std::move(*reader), budget_bytes);
}

void Footage::keep(Frame frame) {
  if (by_index_.count(frame.index)) return;
  recent_.push_front(std::move(frame));
  by_index_[recent_.front().index] = recent_.begin();
  while (recent_.size() > capacity_frames_) {
    by_index_.erase(recent_.back().index);
    recent_.pop_back();
  }
}

Result<Frame> Footage::frame(std::size_t index) {
  JIB_ASSERT(index < info().frames());
  if (const auto known = by_index_.find(index); known != by_index_.end()) {
    recent_.splice(recent_.begin(), recent_, known->second);
    last_asked_ = index;
    return recent_.front();
  }
  if (auto placed = reader_.seekBefore(index); !placed) return fail(placed.error());
  const bool steps_back = last_asked_ && index < *last_asked_ && *last_asked_ - index <= 2;
  const std::size_t most_back = running_back_ ? std::min(kRunBack, capacity_frames_ / 2) : kStepsBack;
  const std::size_t kept = steps_back ? most_back : kJumpBack;
  running_back_ = steps_back;
  const std::size_t from = index > kept ? index - kept : 0;
  last_asked_ = index;
  std::optional<Frame> before;
  for (;;) {
    auto next = reader_.next(Pixels::Colour, from);
    if (!next) return fail(next.error());
    if (!*next) break;
    Frame decoded = std::move(**next);
    const bool reached = decoded.index >= index;
    const bool exact = decoded.index == index;
    keep(decoded);
    if (exact) return decoded;
    if (reached) break;
    before = std::move(decoded);
  }
  if (before) return std::move(*before);
  return fail(ErrorCode::ClipUnreadable,
              info().file.filename().string() + ": frame " + std::to_string(index + 1) + " can't be decoded.",
              "Step on to the next frame.");
}

}  // namespace jib::footage
