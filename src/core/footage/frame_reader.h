// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <opencv2/core/mat.hpp>
#include <optional>

#include "core/base/result.h"
#include "core/footage/clip_info.h"

namespace jib::footage {

enum class Workers { One, Many };
enum class Pixels { Gray, Colour };  // 8-bit luma, or 8-bit blue-green-red

struct Frame {
  std::size_t index = 0;  // into ClipInfo::times_s
  double t_s = 0;
  cv::Mat picture;  // owns its bytes; displayed orientation, square pixels
};

// Reads a clip from front to back, and can be set to start anywhere. The only place that talks to the decoder;
// rotation, pixel aspect and odd time stamps are dealt with here and nowhere else.
// Time    presentation time of the file in s
// Errors  ClipUnreadable with what is wrong (missing, empty, no picture track, cut off, unknown codec)
// Thread  one thread at a time
class FrameReader {
 public:
  // `workers`: decoder threads. Many decode a whole clip faster; one gives a single frame sooner.
  static Result<FrameReader> open(const std::filesystem::path& file, Workers workers = Workers::Many);
  // The picture set right as `upright` says, whatever is kept beside the file.
  static Result<FrameReader> open(const std::filesystem::path& file, const Upright& upright,
                                  Workers workers = Workers::Many);
  // The same clip once more, its picture set right in the same way.
  static Result<FrameReader> open(const ClipInfo& clip, Workers workers = Workers::Many);
  FrameReader(FrameReader&&) noexcept;
  FrameReader& operator=(FrameReader&&) noexcept;
  ~FrameReader();

  const ClipInfo& info() const;
  // The next frame in order of presentation; nullopt at the end. Frames that cannot be decoded are passed over.
  // Frames before `from` are decoded but not handed out.
  Result<std::optional<Frame>> next(Pixels pixels, std::size_t from = 0);
  // Makes next() start at the last key frame at or before `index`, or leaves the place as it is when reading on
  // gets there sooner.
  Result<bool> seekBefore(std::size_t index);

 private:
  struct Impl;
  explicit FrameReader(std::unique_ptr<Impl> impl);
  static Result<FrameReader> opened(const std::filesystem::path& file, const std::optional<Upright>& upright,
                                    Workers workers);
  std::unique_ptr<Impl> impl_;
};

// An error about `file` told of the name its sender gave it: files of ours are called after their content.
Error toldOf(const std::string& name, const std::filesystem::path& file, Error error);

// Hands out the frames from `from` down to the first, in falling order. Holds at most 48 of them at a time.
// `visit` returns false to stop.
Result<bool> readBackward(FrameReader& reader, std::size_t from, Pixels pixels,
                          const std::function<bool(const Frame&)>& visit);

}  // namespace jib::footage
