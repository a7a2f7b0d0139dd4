// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <filesystem>
#include <set>

#include "desk/jobs/job_runner.h"

namespace jib::desk {

// Looks at new clips while the coach does something else, one after the other, so that they open ready. Steps aside
// while a review is open: both would fight for the same two cores.
class Preparer : public QObject {
  Q_OBJECT

 public:
  explicit Preparer(std::filesystem::path library_folder, QObject* parent = nullptr);

  void wake();   // something may be new; does nothing when at work already
  void pause();  // stops at once; what is half-done is not kept
  bool busy() const { return jobs_.busy(); }

 signals:
  void began(int left);
  void progressed(double fraction);
  void prepared(qlonglong submission);
  void idle();
  void trouble(const QString& sentence);

 private:
  void next();

  std::filesystem::path folder_;
  JobRunner jobs_{Lane::Replace};
  std::set<qlonglong> failed_;  // not tried again before the program starts anew
  bool awake_ = false;
};

}  // namespace jib::desk
