// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
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

 signals:
  void dropRequested(qlonglong thread, const QString& why);
  void resumeRequested(qlonglong thread);

 private:
  void addWayOut(const library::CueThread& thread, QVBoxLayout& card);

  QVBoxLayout* column_;
};

}  // namespace jib::desk
