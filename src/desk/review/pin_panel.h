// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>

#include "desk/review/review_document.h"

class QVBoxLayout;

namespace jib::desk {

// Everything the coach placed by hand, frame by frame: go to it, take one point or a whole frame away, with undo.
class PinPanel : public QScrollArea {
  Q_OBJECT

 public:
  explicit PinPanel(ReviewDocument& document, QWidget* parent = nullptr);
  int count() const;  // of points

 signals:
  void timeRequested(double t_s);

 private:
  void rebuild();
  void addFrame(const tracing::PlacedFrame& frame);
  void takeAway(const std::vector<PinKey>& keys, const QString& text);

  ReviewDocument& document_;
  QVBoxLayout* column_;
};

}  // namespace jib::desk
