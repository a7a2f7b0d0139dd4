// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <map>

#include "core/library/library.h"

class QHBoxLayout;
class QToolButton;

namespace jib::desk {

class ClipPictures;

// An athlete's clips as pictures in a row, oldest first, with what was asked on each and what was met; the meets they
// lifted in stand between. A click opens a clip.
class StoryStrip : public QScrollArea {
  Q_OBJECT

 public:
  static constexpr std::size_t kShown = 16;  // the latest

  // `pictures` may be null: then there are none.
  StoryStrip(std::vector<library::Submission> clips, const std::vector<library::CueThread>& threads,
             const std::vector<library::Meet>& meets, ClipPictures* pictures, QWidget* parent = nullptr);

 signals:
  void openRequested(qlonglong submission);

 protected:
  void showEvent(QShowEvent* event) override;

 private:
  void addClip(QHBoxLayout& row, const library::Submission& clip, const std::vector<library::CueThread>& threads);
  static void addMeet(QHBoxLayout& row, const library::Meet& meet);
  void paint(const QString& clip_hash);

  ClipPictures* pictures_;
  std::multimap<QString, std::pair<QToolButton*, library::Submission>> tiles_;  // by the clip's hash
};

}  // namespace jib::desk
