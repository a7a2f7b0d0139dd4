// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/encoding_queue.h"

#include <utility>

namespace jib::footage {

EncodingQueue::EncodingQueue(ClipWriter writer) : writer_(std::move(writer)), encoder_([this] { encode(); }) {}

EncodingQueue::~EncodingQueue() {
  stop(true);
}

Result<bool> EncodingQueue::add(const cv::Mat& picture, int times) {
  std::unique_lock lock(mutex_);
  changed_.wait(lock, [this] { return line_.size() < kWaiting || !outcome_; });
  if (!outcome_) return outcome_;
  line_.push_back({picture, times, std::exchange(chapter_, {})});
  changed_.notify_all();
  return true;
}

void EncodingQueue::beginChapter(const std::string& title) {
  chapter_ = title;  // of this thread alone until the picture is handed over
}

Result<bool> EncodingQueue::finish() {
  stop(false);
  return outcome_ ? writer_.finish() : outcome_;
}

void EncodingQueue::stop(bool drop) {
  if (!encoder_.joinable()) return;
  {
    const std::lock_guard lock(mutex_);
    ended_ = true;
    if (drop) line_.clear();
  }
  changed_.notify_all();
  encoder_.join();
}

void EncodingQueue::encode() {
  std::unique_lock lock(mutex_);
  for (;;) {
    changed_.wait(lock, [this] { return ended_ || !line_.empty(); });
    if (line_.empty() || !outcome_) return;
    const Waiting next = std::move(line_.front());
    line_.pop_front();
    lock.unlock();
    if (!next.chapter.empty()) writer_.beginChapter(next.chapter);
    auto added = writer_.add(next.picture, next.times);
    lock.lock();
    if (!added) outcome_ = std::move(added);
    changed_.notify_all();
  }
}

}  // namespace jib::footage
