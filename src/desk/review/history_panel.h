// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <functional>
#include <vector>

#include "core/library/records.h"

class QVBoxLayout;

namespace jib::desk {

// What this athlete was asked before, and how the number behind each has moved.
class HistoryPanel : public QScrollArea {
  Q_OBJECT

 public:
  explicit HistoryPanel(QWidget* parent = nullptr);
  void setThreads(const std::vector<library::CueThread>& threads);
  // What people call a finding, for those that came with a cue.
  void setTitles(std::function<std::string(const std::string& finding)> title) { title_ = std::move(title); }
  // Something hurts: cues are paused for that.
  void setSore(bool sore) { sore_ = sore; }

 signals:
  void dropRequested(qlonglong thread, const QString& why);
  void resumeRequested(qlonglong thread);
  void pauseRequested(qlonglong thread, const QString& why);
  // How it went, as a library::ThreadState.
  void settleRequested(qlonglong thread, int state);

 private:
  void addWayOut(const library::CueThread& thread, QVBoxLayout& card);

  void addHowItWent(qlonglong thread, QVBoxLayout& card);

  QVBoxLayout* column_;
  std::function<std::string(const std::string&)> title_;
  bool sore_ = false;
};

}  // namespace jib::desk
