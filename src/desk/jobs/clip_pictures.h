// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QCache>
#include <QObject>
#include <QPixmap>
#include <deque>
#include <set>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"

namespace jib::desk {

// A small picture of a clip: where the first rep turns, cut to the lifter; of a clip that is not traced, its middle,
// whole. Frame   the size of ClipPictures::kSize
// Errors   ClipUnreadable; Cancelled
Result<QImage> pictureOf(library::Library& library, const library::Submission& submission, Task& task);

// Small pictures of clips for lists. They are made and read in the background, the newest wish first, and kept as files
// beside the clips; whoever asks for one that is not there yet is told when it has come.
class ClipPictures : public QObject {
  Q_OBJECT

 public:
  static constexpr QSize kSize{88, 60};

  explicit ClipPictures(std::filesystem::path library_folder, QObject* parent = nullptr);

  // Null while it is on its way, or where there is no clip.
  QPixmap of(const library::Submission& submission);
  // What was seen of a clip has changed: it was traced.
  void forget(const QString& clip_hash);
  bool busy() const { return jobs_.busy(); }

 signals:
  void arrived(const QString& clip_hash);

 private:
  void next();

  std::filesystem::path folder_;
  JobRunner jobs_{Lane::Replace};
  QCache<QString, QPixmap> known_;  // an empty one: it cannot be made
  std::deque<library::Submission> wanted_;
  std::set<std::string> under_way_;  // hashes
};

}  // namespace jib::desk
