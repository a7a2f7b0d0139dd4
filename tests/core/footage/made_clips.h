// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <functional>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <string>

#include "core/footage/clip_writer.h"

namespace jib::tests {

// Writes a clip whose frames come from `paint`.
inline Result<bool> writeClip(const std::filesystem::path& file, footage::ClipFormat format, int frames,
                              const std::function<void(cv::Mat&, int)>& paint) {
  auto writer = footage::ClipWriter::create(file, format);
  if (!writer) return fail(writer.error());
  for (int i = 0; i < frames; ++i) {
    cv::Mat picture(format.height, format.width, CV_8UC3, cv::Scalar(120, 120, 120));
    paint(picture, i);
    if (auto added = writer->add(picture); !added) return added;
  }
  return writer->finish();
}

// Frame i is grey of this level, told apart after compression.
inline int levelOf(int frame) {
  return 40 + 6 * (frame % 30);
}

inline Result<bool> writeCountingClip(const std::filesystem::path& file, int frames, int width = 96, int height = 64) {
  return writeClip(file, {.width = width, .height = height, .rate_hz = 30, .quality = 10}, frames,
                   [](cv::Mat& m, int i) { m.setTo(cv::Scalar::all(levelOf(i))); });
}

inline double meanLevel(const cv::Mat& picture) {
  return cv::mean(picture)[0];
}

inline bool run(const std::string& command) {
  return std::system((command + " >/dev/null 2>&1").c_str()) == 0;
}

// A disc drawn with exact area coverage at its edge.
inline void drawDisc(cv::Mat& picture, double cx, double cy, double rx, double ry, const cv::Vec3b& colour) {
  for (int y = std::max(0, static_cast<int>(cy - ry) - 2); y < std::min(picture.rows, static_cast<int>(cy + ry) + 3);
       ++y)
    for (int x = std::max(0, static_cast<int>(cx - rx) - 2); x < std::min(picture.cols, static_cast<int>(cx + rx) + 3);
         ++x) {
      int inside = 0;
      constexpr int kSide = 6;
      for (int k = 0; k < kSide * kSide; ++k) {
        const double px = (x + (k % kSide + 0.5) / kSide - cx) / rx, py = (y + (k / kSide + 0.5) / kSide - cy) / ry;
        inside += px * px + py * py <= 1 ? 1 : 0;
      }
      const double share = inside / static_cast<double>(kSide * kSide);
      for (int c = 0; c < picture.channels(); ++c) {
        unsigned char& v = picture.ptr(y)[x * picture.channels() + c];
        v = static_cast<unsigned char>(std::lround(v + (colour[c] - v) * share));
      }
    }
}

}  // namespace jib::tests
