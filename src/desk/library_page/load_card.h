// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/coaching/clip_check.h"
#include "core/library/library.h"

class QGridLayout;
class QVBoxLayout;

namespace jib::desk {

class PlateCounter;

// What is known of the load of a submission: stated, counted on the bar, held against the best and against repetition
// tables; and the sets of a clip that holds several, each with its own load, one of them the top set.
class LoadCard : public QWidget {
  Q_OBJECT

 public:
  // `counting`: whether the drawn bar is open.
  LoadCard(library::Library& library, library::Submission submission, const library::Athlete& athlete,
           const std::vector<library::MessageField>& fields, const coaching::ClipCheck* check, bool counting,
           QWidget* parent = nullptr);

 signals:
  void changed();  // the queue shows something else now
  void countingChanged(bool open);
  void said(const QString& sentence);

 private:
  void addSets(const coaching::ClipCheck& check, QVBoxLayout& column);
  void refreshLines();
  bool save();

  library::Library& library_;
  library::Submission submission_;
  coaching::LoadFacts facts_;
  QVBoxLayout* lines_;
};

}  // namespace jib::desk
