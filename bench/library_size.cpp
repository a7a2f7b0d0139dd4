// SPDX-License-Identifier: GPL-3.0-or-later
// How long a coach waits on a library of many years: opening it, the queue, the athletes' table, a letter in the
// search, an athlete's page, a trend, a thread. Usage: jib-library-size [ATHLETES] [SUBMISSIONS]   10,000 and 100,000
// unless said otherwise
#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>

#include <QApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QLineEdit>
#include <QTableView>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdlib>

#include "core/library/dates.h"
#include "core/library/library.h"
#include "core/library/roster.h"
#include "core/library/trend.h"
#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/roster/roster_page.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

void timed(const char* what, const std::function<void()>& work) {
  QElapsedTimer taken;
  taken.start();
  work();
  fmt::print("{:<44} {:>8.1f} ms\n", what, 1e-6 * static_cast<double>(taken.nsecsElapsed()));
  std::fflush(stdout);
}

void turn() {
  QEventLoop loop;
  QTimer::singleShot(300, &loop, &QEventLoop::quit);
  loop.exec();
}

// Rows as the library writes them, ten years of them; clips have a hash and no file, as nothing here opens one.
void fill(const std::filesystem::path& folder, int athletes, int submissions) {
  SQLite::Database db((folder / "library.sqlite").string(), SQLite::OPEN_READWRITE);
  SQLite::Transaction whole(db);
  SQLite::Statement person(db, "INSERT INTO athlete(name, note, style, profile) VALUES(?, '', 'balanced', ?)");
  for (int i = 0; i < athletes; ++i) {
    person.bind(1, fmt::format("Athlete {:05}", i));
    person.bind(2, fmt::format(R"({{"birth_year":{},"best_squat_kg":{},"groups":["group {}"],"replies_a_week":2{}}})",
                               1970 + i % 40, 80 + i % 150, i % 30, i % 4 ? R"(,"membership":"former")" : ""));
    person.exec();
    person.reset();
  }
  const std::string today = library::today();
  SQLite::Statement row(db,
                        "INSERT INTO submission(athlete, received_on, message, lift, variant, load_kg, plate_mm, "
                        "slow_factor, clip_name, clip_hash, state, reason, details, kind) VALUES(?, ?, 'Top set today, "
                        "felt ok. Is the depth there?', ?, '', ?, 450, 1, 'set.mp4', ?, ?, '', ?, 'clip')");
  SQLite::Statement number(
      db, "INSERT INTO measured(submission, measure, rep, value, sigma, t_s) VALUES(?, ?, ?, ?, ?, 1)");
  SQLite::Statement finding(db, "INSERT INTO finding_seen(submission, finding, verdict, rep) VALUES(?, ?, ?, 1)");
  SQLite::Statement asked(
      db,
      "INSERT INTO cue_thread(athlete, asked_in, asked_on, review_on, finding, title, wording, "
      "measure, value_then, sigma_then, state, drill, change, watch) VALUES(?, ?, ?, ?, "
      "'squat.chest_drops', 'Chest falls', 'Chest to the wall.', 'trunk_lean_bottom_deg', 40, 2, ?, "
      "'', '', '[]')");
  for (int i = 0; i < submissions; ++i) {
    const int who = 1 + (i * 7919) % athletes;
    const std::string on = library::daysLater(today, -3650 * (submissions - 1 - i) / submissions);
    const bool waits = i >= submissions - 60;
    row.bind(1, who);
    row.bind(2, on);
    row.bind(3, i % 3 == 0 ? "squat" : i % 3 == 1 ? "bench" : "deadlift");
    row.bind(4, 60.0 + i % 120);
    row.bind(5, fmt::format("{:064x}", i));
    row.bind(6, waits ? "new" : "returned");
    row.bind(7, waits ? std::string("{}")
                      : fmt::format(
                            R"({{"lift_by":"words","kit":{{"shoes":"flat"}},"answered_by":"Mara","answered_on":"{}"}})",
                            library::daysLater(on, 2)));
    row.exec();
    row.reset();
    const auto id = db.getLastInsertRowid();
    if (i % 3 == 0) {
      for (const char* measure : {"trunk_lean_bottom_deg", "depth_m", "knee_slide_back_m"})
        for (int rep = 1; rep <= 3; ++rep) {
          number.bind(1, id);
          number.bind(2, measure);
          number.bind(3, rep);
          number.bind(4, 30.0 + i % 20);
          number.bind(5, 2.0);
          number.exec();
          number.reset();
        }
      finding.bind(1, id);
      finding.bind(2, "squat.chest_drops");
      finding.bind(3, i % 2 ? "yes" : "no");
      finding.exec();
      finding.reset();
      asked.bind(1, who);
      asked.bind(2, id);
      asked.bind(3, on);
      asked.bind(4, library::daysLater(on, 21));
      asked.bind(5, i % 6 ? "met" : "asked");
      asked.exec();
      asked.reset();
    }
  }
  whole.commit();
}

int run(int athletes, int submissions) {
  QTemporaryDir scratch;
  const std::filesystem::path folder = scratch.path().toStdString();
  {
    auto library = library::Library::open(folder);
    library::CoachCard card;
    card.name = "Mara Quill";
    card.address = "mara@quill.invalid";
    card.colleagues = {{"Tom Reeve", "tom@reeve.invalid"}};
    if (!library || !library->setCoach(card)) return 5;
  }
  fill(folder, athletes, submissions);
  fmt::print("{} athletes, {} submissions\n", athletes, submissions);
  std::optional<library::Library> library;
  timed("open the library", [&] { library.emplace(*library::Library::open(folder)); });
  timed("read all submissions", [&] { (void)library->submissions(); });
  timed("read the athletes' table", [&] { (void)library->roster(library::today()); });
  const library::AthleteId who(1 + ((submissions - 1) * 7919) % athletes);
  timed("one athlete's threads", [&] { (void)library->threads(who); });
  timed("one athlete's trend", [&] { (void)library::trendOf(*library, who, "trunk_lean_bottom_deg", "squat"); });
  std::unique_ptr<DeskWindow> window;
  timed("make the window", [&] {
    window = std::make_unique<DeskWindow>(std::move(*library));
    window->resize(1280, 800);
    window->show();
  });
  turn();
  auto* queue = window->findChild<QTableView*>(QStringLiteral("submissions"));
  auto* find = window->findChild<QLineEdit*>(QStringLiteral("find"));
  for (const char* typed : {"a", "at", "athlete 1", ""})
    timed(fmt::format("queue: find \"{}\"", typed).c_str(), [&] {
      find->setText(QString::fromLatin1(typed));
      QCoreApplication::processEvents();
    });
  turn();
  timed("choose a row", [&] {
    queue->selectRow(3);
    QCoreApplication::processEvents();
  });
  timed("an athlete's page", [&] {
    window->findChild<LibraryPage*>()->showAthlete(who);
    QCoreApplication::processEvents();
  });
  timed("the athletes' table", [&] {
    window->findChild<QAction*>(QStringLiteral("rosterAction"))->trigger();
    QCoreApplication::processEvents();
  });
  auto* roster = window->findChild<QLineEdit*>(QStringLiteral("rosterFind"));
  for (const char* typed : {"a", "at", "chest", "squat>180", ""})
    timed(fmt::format("athletes: find \"{}\"", typed).c_str(), [&] {
      roster->setText(QString::fromLatin1(typed));
      QCoreApplication::processEvents();
    });
  return 0;
}

}  // namespace
}  // namespace jib::desk

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication application(argc, argv);
  QApplication::setOrganizationName(QStringLiteral("jagged-jib-bench"));
  jib::desk::applyTheme(application, jib::desk::Theme::Day);
  return jib::desk::run(argc > 1 ? std::max(1, std::atoi(argv[1])) : 10000,
                        argc > 2 ? std::max(1, std::atoi(argv[2])) : 100000);
}
