// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <functional>
#include <utility>

namespace jib {

// The line between a long piece of work and whoever started it: progress goes out, a wish to stop comes in.
// Thread  report() is called by the worker only; cancel() and cancelled() by anyone.
class Task {
 public:
  using Listener = std::function<void(double fraction)>;

  Task() = default;
  explicit Task(Listener listener) : listener_(std::move(listener)) {}
  Task(const Task&) = delete;
  Task& operator=(const Task&) = delete;

  // fraction is 0..1 of the present part.
  void report(double fraction) {
    if (listener_) listener_(from_ + (to_ - from_) * fraction);
  }
  // Says that what follows is the stretch from..to of the whole.
  void part(double from, double to) {
    from_ = from;
    to_ = to;
  }

  void cancel() { cancelled_ = true; }
  bool cancelled() const { return cancelled_; }

 private:
  Listener listener_;
  double from_ = 0;
  double to_ = 1;
  std::atomic<bool> cancelled_{false};
};

}  // namespace jib
