// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/player.h"

#include <algorithm>
#include <cmath>

namespace jib::desk {

Player::Player(QObject* parent) : QObject(parent) {
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(8);  // finer than any frame interval; frames are chosen by the clock, not counted
  connect(&timer_, &QTimer::timeout, this, &Player::tick);
}

void Player::setTimes(std::vector<double> times) {
  times_ = std::move(times);
  frame_ = std::min(frame_, times_.empty() ? 0 : times_.size() - 1);
}

void Player::setLoop(double from, double to) {
  loop_from_ = from;
  loop_to_ = to;
}

void Player::setSpan(double from, double to) {
  span_from_ = from;
  span_to_ = to;
}

void Player::restartClock() {
  started_at_s_ = time();
  since_.restart();
}

void Player::setSpeed(double times) {
  speed_ = times;
  if (playing()) restartClock();
}

void Player::setBackward(bool backward) {
  backward_ = backward;
  if (playing()) restartClock();
}

std::size_t Player::nearest(double t) const {
  const auto after = std::lower_bound(times_.begin(), times_.end(), t);
  if (after == times_.begin()) return 0;
  if (after == times_.end()) return times_.size() - 1;
  const auto before = std::prev(after);
  return static_cast<std::size_t>((t - *before <= *after - t ? before : after) - times_.begin());
}

void Player::show(std::size_t frame) {
  if (times_.empty()) return;
  frame_ = std::min(frame, times_.size() - 1);
  emit frameChanged(frame_);
}

void Player::toggle() {
  if (times_.empty()) return;
  if (playing()) {
    pause();
    return;
  }
  // From an end, or from beyond it, playing begins at the other.
  const std::size_t first = nearest(firstTime()), last = nearest(lastTime());
  if (backward_ ? frame_ <= first || frame_ > last : frame_ >= last || frame_ < first) show(backward_ ? last : first);
  restartClock();
  timer_.start();
  emit playingChanged(true);
}

void Player::pause() {
  if (!playing()) return;
  timer_.stop();
  emit playingChanged(false);
}

void Player::step(int frames) {
  pause();
  const auto to = static_cast<long long>(frame_) + frames;
  show(static_cast<std::size_t>(std::clamp<long long>(to, 0, static_cast<long long>(times_.size()) - 1)));
}

void Player::goTo(double t) {
  if (times_.empty()) return;
  show(nearest(t));
  restartClock();
}

void Player::tick() {
  const double run = speed_ * static_cast<double>(since_.elapsed()) / 1000.0;
  const double t = started_at_s_ + (backward_ ? -run : run);
  constexpr double kEdge_s = 0.05;
  const bool looping =
      loop_to_ > loop_from_ && started_at_s_ >= loop_from_ - kEdge_s && started_at_s_ <= loop_to_ + kEdge_s;
  if (looping && (backward_ ? t < loop_from_ : t > loop_to_)) {
    goTo(backward_ ? loop_to_ : loop_from_);
    return;
  }
  if (backward_ ? t <= firstTime() : t >= lastTime()) {
    show(nearest(backward_ ? firstTime() : lastTime()));
    pause();
    return;
  }
  // The frame on show at t is the last whose time has come.
  const auto after = std::upper_bound(times_.begin(), times_.end(), t);
  const auto frame = after == times_.begin() ? 0 : static_cast<std::size_t>(after - times_.begin()) - 1;
  if (frame != frame_) show(frame);
}

}  // namespace jib::desk
