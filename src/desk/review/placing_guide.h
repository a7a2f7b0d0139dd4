// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <optional>

#include "desk/review/review_document.h"

class QLabel;
class QPushButton;

namespace jib::desk {

// Leads through the six points on one frame, from the floor up: says what to click next and where it lies on the body.
class PlacingGuide : public QFrame {
  Q_OBJECT

 public:
  explicit PlacingGuide(ReviewDocument& document, QWidget* parent = nullptr);

  void start(double t_s);
  void stop();
  bool active() const { return active_; }
  std::optional<tracing::Landmark> next() const;

 signals:
  void nextChanged(std::optional<tracing::Landmark> landmark);
  void completed();

 private:
  void refresh();

  ReviewDocument& document_;
  QLabel* what_;
  QLabel* where_;
  double t_s_ = 0;
  bool active_ = false;
};

}  // namespace jib::desk
