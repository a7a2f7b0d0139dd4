// SPDX-License-Identifier: GPL-3.0-or-later
// Encoding beside the painting of what comes next.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <opencv2/core.hpp>
#include <thread>

#include "core/base/result.h"
#include "core/footage/clip_writer.h"

namespace jib::footage {

// Pictures wait in a line and are encoded in its order by a thread of their own. A few wait, so that neither side
// stands idle while the other takes longer over one frame. Used by one thread. Ended without finish(), what still
// waits is dropped.
class EncodingQueue {
 public:
  static constexpr std::size_t kWaiting = 6;
  // A picture may be painted over once this many others were added after it.
  static constexpr std::size_t kInUse = kWaiting + 1;

  explicit EncodingQueue(ClipWriter writer);
  ~EncodingQueue();
  EncodingQueue(const EncodingQueue&) = delete;
  EncodingQueue& operator=(const EncodingQueue&) = delete;

  // Adds one frame, as ClipWriter::add; its pixels are not copied. Waits while the line is full. Errors are those of
  // any frame before.
  Result<bool> add(const cv::Mat& picture, int times = 1);
  // A chapter begins with the next picture that is added.
  void beginChapter(const std::string& title);
  // Encodes what waits and ends the file.
  Result<bool> finish();

 private:
  struct Waiting {
    cv::Mat picture;
    int times;
    std::string chapter = {};  // begins with it; empty: none does
  };
  void encode();
  void stop(bool drop);

  ClipWriter writer_;
  std::mutex mutex_;
  std::condition_variable changed_;
  std::deque<Waiting> line_;
  Result<bool> outcome_ = true;
  bool ended_ = false;
  std::string chapter_;  // that the next picture begins
  std::thread encoder_;  // last: it uses all of the above
};

}  // namespace jib::footage
