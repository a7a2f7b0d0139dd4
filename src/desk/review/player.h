// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <vector>

namespace jib::desk {

// Moves the play head: plays at a speed, loops within a span, steps. Knows times, not pictures.
class Player : public QObject {
  Q_OBJECT

 public:
  explicit Player(QObject* parent = nullptr);

  void setTimes(std::vector<double> times_s);
  void setLoop(double from_s, double to_s);  // from == to: play to the end and stop
  void setSpeed(double times);
  double speed() const { return speed_; }
  bool playing() const { return timer_.isActive(); }
  std::size_t frame() const { return frame_; }
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
  void show(std::size_t frame);
  std::size_t nearest(double t_s) const;

  std::vector<double> times_;
  std::size_t frame_ = 0;
  double loop_from_ = 0, loop_to_ = 0;
  double speed_ = 1;
  QTimer timer_;
  QElapsedTimer since_;
  double started_at_s_ = 0;
};

}  // namespace jib::desk
