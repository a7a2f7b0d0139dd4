// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "desk/review/review_document.h"

class QComboBox;
class QDoubleSpinBox;
class QLabel;

namespace jib::desk {

// The facts the film cannot tell: variant, load, the size of the largest plate, slow motion. Shown on demand under the
// header; each change is an edit that can be undone, and the numbers follow at once.
class SetUpStrip : public QFrame {
  Q_OBJECT

 public:
  explicit SetUpStrip(ReviewDocument& document, QWidget* parent = nullptr);

 signals:
  // From where the clip is filmed, as the coach says; empty: as the film tells. The clip has to be traced anew.
  void seenFromChosen(const QString& view);

 private:
  void refresh();
  void refreshSets();
  void chooseSet(int set);
  void change(const QObject* field, const QString& text, const SetUp& to);

  ReviewDocument& document_;
  QComboBox* variant_;
  QDoubleSpinBox* load_;
  QComboBox* plate_;
  QComboBox* slow_;
  QComboBox* seen_from_;
  QLabel* sets_title_;
  QComboBox* sets_;  // shown when the clip holds several
  bool refreshing_ = false;
  int gesture_ = 0;  // turning one field's wheel is one edit
  const QObject* gesture_of_ = nullptr;
};

}  // namespace jib::desk
