// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFileSystemWatcher>
#include <QObject>
#include <QStringList>
#include <QTimer>
#include <filesystem>
#include <set>
#include <string>
#include <vector>

#include "core/exchange/intake/watched_folder.h"
#include "desk/jobs/job_runner.h"

namespace jib::desk {

// The coach's own folders that new clips come into for one library: which they are, and what in them was taken in
// already. Kept with the settings, since a folder belongs to a machine. What was seen is never forgotten: a shared
// drive that is away for a while would otherwise come back full of news.
class WatchList {
 public:
  explicit WatchList(const std::filesystem::path& library);

  QStringList folders() const;
  void keep(const QStringList& folders);
  // Whether anybody has looked into it, and what was seen then and since.
  bool lookedInto(const QString& folder) const;
  std::set<std::string> seen(const QString& folder) const;
  void keepAsSeen(const QString& folder, const std::vector<exchange::FoundFilm>& films);

 private:
  QString keyOf(const QString& folder) const;

  QString group_;
};

// Looks into them when something changes there, and now and then where nobody says so (shared drives). What a folder
// holds when it is first watched stays where it is: only what comes later is new.
class WatchedFolders : public QObject {
  Q_OBJECT

 public:
  explicit WatchedFolders(const std::filesystem::path& library, QObject* parent = nullptr);

  void start();  // at once, and anew when the settings have changed
  void look();

 signals:
  void found(const QString& folder, const std::vector<exchange::FoundFilm>& films);

 private:
  void watch(const QStringList& folders);

  WatchList list_;
  QFileSystemWatcher watcher_;
  QTimer soon_, now_and_then_;
  JobRunner jobs_{Lane::Refuse};
};

}  // namespace jib::desk
