// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/library.h"
#include "core/library/trend.h"

class QComboBox;
class QLabel;

namespace jib::desk {

class ClipPictures;
class TrendPlot;

// What has become of an athlete: what they were last asked and where it stands, what has worked, the course of any
// measure, by date or by load, and their clips in pictures. It says nothing where there is nothing yet.
class AthleteStory : public QWidget {
  Q_OBJECT

 public:
  AthleteStory(library::Library& library, const library::Athlete& athlete, ClipPictures* pictures,
               QWidget* parent = nullptr);

 signals:
  void openAtRequested(qlonglong submission, double t_s);

 private:
  void addOpenCues(class QVBoxLayout& column);
  void addWorked(QVBoxLayout& column);
  void addTrend(class QVBoxLayout& column);
  void addPictures(QVBoxLayout& column, ClipPictures* pictures);
  void addSheet(QVBoxLayout& column);
  void showTrend();

  library::Library& library_;
  library::Athlete athlete_;
  std::vector<library::CueThread> threads_;
  std::vector<library::TrendChoice> choices_;
  QComboBox *measure_ = nullptr, *across_ = nullptr;
  QLabel* change_ = nullptr;
  TrendPlot* plot_ = nullptr;
};

}  // namespace jib::desk
