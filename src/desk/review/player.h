// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <algorithm>
#include <limits>
#include <vector>

namespace jib::desk {

// Moves the play head: plays at a speed, on or back, loops within a span, steps. Knows times, not pictures.
class Player : public QObject {
  Q_OBJECT

 public:
  explicit Player(QObject* parent = nullptr);

  void setTimes(std::vector<double> times_s);
  void setLoop(double from_s, double to_s);  // from == to: play to the end and stop
  // Playing begins and ends there; single steps and jumps reach everywhere.
  void setSpan(double from_s, double to_s);
  void setSpeed(double times);
  // Which way time runs while it plays.
  void setBackward(bool backward);
  bool backward() const { return backward_; }
  double speed() const { return speed_; }
  bool playing() const { return timer_.isActive(); }
  std::size_t frame() const { return frame_; }
  double firstTime() const { return times_.empty() ? 0 : std::max(times_.front(), span_from_); }
  double lastTime() const { return times_.empty() ? 0 : std::min(times_.back(), span_to_); }
  double time() const { return times_.empty() ? 0 : times_[frame_]; }

  void toggle();
  void pause();
  void step(int frames);
  void goTo(double t_s);

 signals:
  void frameChanged(std::size_t frame);
  void playingChanged(bool playing);

 private:
  void tick();
  void restartClock();
  void show(std::size_t frame);
  std::size_t nearest(double t_s) const;

  std::vector<double> times_;
  std::size_t frame_ = 0;
  double loop_from_ = 0, loop_to_ = 0;
  double span_from_ = std::numeric_limits<double>::lowest(), span_to_ = std::numeric_limits<double>::max();
  double speed_ = 1;
  bool backward_ = false;
  QTimer timer_;
  QElapsedTimer since_;
  double started_at_s_ = 0;
};

}  // namespace jib::desk
