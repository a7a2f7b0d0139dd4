// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "desk/review/player.h"
#include "desk/review/review_document.h"

class QComboBox;
class QToolButton;

namespace jib::desk {

// What is played again and again.
enum class LoopKind { Rep, Set, Clip, Off };

// How the clip runs: play and pause, speed, what is looped; and where the play head jumps to.
class Transport : public QWidget {
  Q_OBJECT

 public:
  Transport(const ReviewDocument& document, Player& player, QWidget* parent = nullptr);

  LoopKind loop() const { return loop_; }
  void setLoop(LoopKind kind);
  void nextLoop();
  void nextSpeed();
  // The stretch about the play head that is looped, with a breath before and after.
  void loopHere();
  // To the next event or rep, or the one before (-1).
  void jumpEvent(int direction);
  void jumpRep(int direction);
  // To one kind of moment: of the rep at hand, and when the play head is there, or between reps, of the next.
  void jumpMoment(motion::EventKind kind);

 private:
  bool jumpTo(std::vector<double> times_s, int direction);

  const ReviewDocument& document_;
  Player& player_;
  LoopKind loop_ = LoopKind::Rep;
  QToolButton* play_;
  QComboBox* speed_;
  QToolButton* loop_button_;
};

}  // namespace jib::desk
