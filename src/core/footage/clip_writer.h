// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <memory>
#include <opencv2/core/mat.hpp>
#include <optional>
#include <string>

#include "core/base/result.h"
#include "core/footage/sound.h"

namespace jib::footage {

struct ClipFormat {
  int width = 0;  // odd sizes lose their last column or row: H.264 in 4:2:0 has even sides
  int height = 0;
  int rate_hz = 30;                    // time stamps are multiples of 1/rate
  int quality = 23;                    // x264's constant rate factor: lower is better and larger
  std::string speed = "veryfast";      // x264's preset
  int key_every = 30;                  // frames between key frames, so that players seek quickly
  bool repeatable = false;             // the same file however many cores there are; slower
  std::optional<int> bits_per_s = {};  // of the picture, held over every two seconds; instead of `quality`
  // Goes along from the first frame on, as AAC; what is longer than the pictures is cut off.
  std::shared_ptr<const Sound> sound = {};
};

// Writes an H.264 MP4, with sound where there is one. The file appears under its name only when finish() has succeeded;
// a writer that is dropped before leaves nothing behind. Errors  CannotWrite
class ClipWriter {
 public:
  static Result<ClipWriter> create(const std::filesystem::path& file, const ClipFormat& format);
  ClipWriter(ClipWriter&&) noexcept;
  ClipWriter& operator=(ClipWriter&&) noexcept;
  ~ClipWriter();

  // Adds one frame, shown for times/rate; 8-bit blue-green-red, or the same with an unused fourth channel, of the
  // format's size.
  Result<bool> add(const cv::Mat& picture, int times = 1);
  // A chapter begins with the next frame; players list them by their titles.
  void beginChapter(const std::string& title);
  double length_s() const;  // of what was added
  Result<bool> finish();

 private:
  struct Impl;
  explicit ClipWriter(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace jib::footage
