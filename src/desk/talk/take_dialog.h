// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "core/review/takes.h"

class QAudioSink;
class QBuffer;
class QDoubleSpinBox;
class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace jib::desk {

// One recording put right without saying it again: what is cut off its ends, and its words for whoever watches without
// sound. The recording itself stays whole.
class TakeDialog : public QDialog {
  Q_OBJECT

 public:
  // `length_s` of its sound.
  TakeDialog(review::Take take, double length_s, QWidget* parent = nullptr);
  // The take as the coach wants it.
  review::Take wanted() const;

 private:
  void listen();
  void showLength();

  const review::Take take_;
  const double length_s_;
  QAudioSink* sink_ = nullptr;
  QBuffer* heard_ = nullptr;
  QDoubleSpinBox *start_, *end_;
  QPlainTextEdit* caption_;
  QPushButton* listen_;
  QLabel* length_;
};

}  // namespace jib::desk
