// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/watched_folders.h"

#include <QDir>
#include <QSettings>

namespace jib::desk {
namespace {

constexpr int kSoon_ms = 3500;  // a film that is being copied has settled by then, or is looked at again
constexpr int kNowAndThen_ms = 60'000;

QString hexOf(const QString& path) {
  return QString::fromLatin1(path.toUtf8().toHex());
}

std::filesystem::path pathOf(const QString& folder) {
  return folder.toStdString();
}

// What lies in it now: of one folder, or of those inside it.
struct Held {
  QString folder;
  exchange::LookInto in;
  QStringList inner;
  bool first = false;  // nobody looked into it before
};

}  // namespace

WatchList::WatchList(const std::filesystem::path& library)
    : group_(QStringLiteral("watched/") + hexOf(QString::fromStdString(library.string())) + QLatin1Char('/')) {}

QString WatchList::keyOf(const QString& folder) const {
  return group_ + QStringLiteral("seen/") + hexOf(folder);
}

QStringList WatchList::folders() const {
  return QSettings().value(group_ + QStringLiteral("folders")).toStringList();
}

void WatchList::keep(const QStringList& folders) {
  QSettings settings;
  for (const QString& was : this->folders())
    if (!folders.contains(was)) settings.remove(keyOf(was));
  settings.setValue(group_ + QStringLiteral("folders"), folders);
}

bool WatchList::lookedInto(const QString& folder) const {
  return QSettings().contains(keyOf(folder));
}

std::set<std::string> WatchList::seen(const QString& folder) const {
  std::set<std::string> seen;
  for (const QString& sign : QSettings().value(keyOf(folder)).toStringList()) seen.insert(sign.toStdString());
  return seen;
}

void WatchList::keepAsSeen(const QString& folder, const std::vector<exchange::FoundFilm>& films) {
  QStringList signs;
  for (const QString& known : QSettings().value(keyOf(folder)).toStringList())
    signs << QString::fromStdString(exchange::hiddenSign(known.toStdString()));
  for (const auto& film : films) signs << QString::fromStdString(film.sign);
  QSettings().setValue(keyOf(folder), signs);
}

WatchedFolders::WatchedFolders(const std::filesystem::path& library, QObject* parent)
    : QObject(parent), list_(library) {
  soon_.setSingleShot(true);
  soon_.setInterval(kSoon_ms);
  now_and_then_.setInterval(kNowAndThen_ms);
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, &soon_, qOverload<>(&QTimer::start));
  connect(&soon_, &QTimer::timeout, this, &WatchedFolders::look);
  connect(&now_and_then_, &QTimer::timeout, this, &WatchedFolders::look);
}

void WatchedFolders::start() {
  if (const QStringList was = watcher_.directories(); !was.isEmpty()) watcher_.removePaths(was);
  if (list_.folders().isEmpty()) return now_and_then_.stop();
  now_and_then_.start();
  look();
}

void WatchedFolders::look() {
  const QStringList folders = list_.folders();
  if (folders.isEmpty()) return;
  if (jobs_.busy()) return soon_.start();
  std::vector<std::pair<QString, std::set<std::string>>> known;
  QStringList first;
  for (const QString& folder : folders) {
    known.emplace_back(folder, list_.seen(folder));
    if (!list_.lookedInto(folder)) first << folder;
  }
  // A folder may lie on a drive that sleeps: not on the window's thread.
  jobs_.start<std::vector<Held>>(
      {},
      [known, first](Task&) -> Result<std::vector<Held>> {
        std::vector<Held> all;
        for (const auto& [folder, seen] : known) {
          if (!QDir(folder).exists()) continue;  // a drive that is away has not been looked into
          const bool is_first = first.contains(folder);
          // Of one nobody looked into before, what is still being written came before it was watched as well.
          const auto now =
              is_first ? std::filesystem::file_time_type::min() : std::filesystem::file_time_type::clock::now();
          Held held{folder, exchange::newFilms(pathOf(folder), seen, now), {folder}, is_first};
          for (const QString& inner : QDir(folder).entryList(QDir::Dirs | QDir::NoDotAndDotDot))
            held.inner << folder + QLatin1Char('/') + inner;
          all.push_back(std::move(held));
        }
        return all;
      },
      [this](Result<std::vector<Held>> looked) {
        if (!looked) return;
        for (const Held& held : *looked) {
          if (!list_.folders().contains(held.folder)) continue;  // taken off the list meanwhile
          watch(held.inner);
          if (held.first)
            list_.keepAsSeen(held.folder, held.in.films);
          else if (!held.in.films.empty())
            emit found(held.folder, held.in.films);
          if (held.in.growing) soon_.start();
        }
      });
}

void WatchedFolders::watch(const QStringList& folders) {
  const QStringList was = watcher_.directories();
  for (const QString& folder : folders)
    if (!was.contains(folder) && QDir(folder).exists()) watcher_.addPath(folder);
}

}  // namespace jib::desk
