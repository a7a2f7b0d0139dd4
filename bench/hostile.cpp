// SPDX-License-Identifier: GPL-3.0-or-later
// jib-hostile FOLDER_OF_FILMS MAILDIR SCRATCH: everything a stranger may send, through intake, preparing and opening in
// the window, in one process: a crash is a crash. Prints what became of each, and what is unaccounted for.
#include <fmt/format.h>

#include <QApplication>
#include <QSettings>
#include <QTest>
#include <chrono>
#include <filesystem>
#include <map>

#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "desk/desk_window.h"
#include "desk/review/review_page.h"
#include "desk/theme.h"

namespace fs = std::filesystem;
using namespace jib;

namespace {

int filesIn(const fs::path& folder) {
  std::error_code error;
  return static_cast<int>(std::distance(fs::directory_iterator(folder, error), fs::directory_iterator()));
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 4) return 2;
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication application(argc, argv);
  QCoreApplication::setOrganizationName(QStringLiteral("jib-hostile"));
  desk::applyTheme(application, desk::Theme::Day);
  const fs::path films = argv[1], maildir = argv[2], scratch = argv[3];
  fs::remove_all(scratch);
  auto library = library::Library::open(scratch / "library");
  if (!library) return fmt::print("{}\n", library.error().sentence()), 1;
  int unaccounted = 0;
  Task task;

  // Films, each added by hand to its own athlete; what is no film is refused there, and taken in through a folder.
  const auto received = exchange::receive(*library, films, "2026-11-27", task);
  if (!received) return fmt::print("{}\n", received.error().sentence()), 1;
  const int left_aside = static_cast<int>(received->troubles.size());
  fmt::print("films: {} given, {} taken in, {} left aside with a reason\n", filesIn(films), received->clips,
             left_aside);
  unaccounted += std::abs(filesIn(films) - received->clips - left_aside);

  const int mails = filesIn(maildir / "new");
  const auto mailed = exchange::receive(*library, maildir, "2026-11-27", task);
  if (!mailed) return fmt::print("{}\n", mailed.error().sentence()), 1;
  const int refused = filesIn(maildir / "refused"), waiting = filesIn(maildir / "new");
  fmt::print("mails: {} given, {} taken in with {} clips, {} known, {} no messages, {} still waiting\n", mails,
             mailed->messages, mailed->clips, mailed->known, refused, waiting);
  unaccounted += std::abs(mails - mailed->messages - mailed->known - refused);

  std::map<std::string, int> ends;
  const auto todo = *exchange::unprepared(*library);
  double slowest_s = 0;
  for (const auto id : todo) {
    const auto before = std::chrono::steady_clock::now();
    const auto check = exchange::prepare(*library, id, task);
    const double took = std::chrono::duration<double>(std::chrono::steady_clock::now() - before).count();
    slowest_s = std::max(slowest_s, took);
    ++ends[!check                   ? "error"
           : !check->failed.empty() ? "marked unusable"
           : check->reps > 0        ? "reps found"
                                    : "looked at"];
    if (!check) fmt::print("  {}: {}\n", id.number, check.error().sentence());
  }
  for (const auto& [end, n] : ends) fmt::print("prepared: {} {}\n", n, end);
  fmt::print("slowest look: {:.1f} s\n", slowest_s);
  unaccounted += ends["error"] + static_cast<int>(exchange::unprepared(*library)->size());

  const auto all = *library->submissions();
  desk::DeskWindow window(std::move(*library));
  window.show();
  int opened = 0, stuck = 0;
  for (const auto& s : all) {
    if (s.clip_hash.empty()) continue;
    window.openSubmission(s.id.number);
    // Settled, or says why nothing can be shown.
    const bool quiet = QTest::qWaitFor([&] { return !window.reviewPage()->busy(); }, 60000);
    stuck += quiet ? 0 : 1;
    ++opened;
    window.showLibrary();
  }
  fmt::print("window: {} clips opened, {} stuck\n", opened, stuck);
  auto again = library::Library::open(scratch / "library");
  const auto damage = again ? *again->check() : std::vector<std::string>{again.error().sentence()};
  for (const auto& line : damage) fmt::print("  {}\n", line);
  fmt::print("library: {} rows, {} of damage; unaccounted for: {}\n", all.size(), damage.size(), unaccounted);
  fs::remove_all(scratch);
  return unaccounted + stuck + static_cast<int>(damage.size()) == 0 ? 0 : 1;
}
