// SPDX-License-Identifier: GPL-3.0-or-later
// How long the window does not answer: the longest handling of one event while a coach works, by what they did.
// Usage: jib-event-loop CLIP [SUBMISSIONS]   CLIP is put into a library of its own, beside so many rows of made-up
// people
#include <fmt/format.h>

#include <QElapsedTimer>
#include <QEventLoop>
#include <QLineEdit>
#include <QListWidget>
#include <QTableView>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <cstdlib>
#include <map>

#include "core/simulate/film.h"
#include "desk/desk_window.h"
#include "desk/guarded_application.h"
#include "desk/library_page/library_page.h"
#include "desk/review/commands/place_point.h"
#include "desk/review/review_page.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

// Times every event from outside all others: while one is handled nothing else is.
class TimedApplication : public GuardedApplication {
 public:
  using GuardedApplication::GuardedApplication;
  bool notify(QObject* receiver, QEvent* event) override {
    if (inside_) return GuardedApplication::notify(receiver, event);
    inside_ = true;
    QElapsedTimer taken;
    taken.start();
    const bool done = GuardedApplication::notify(receiver, event);
    inside_ = false;
    const double ms = 1e-6 * static_cast<double>(taken.nsecsElapsed());
    auto& [worst, total, n] = all_[what_];
    total += ms;
    ++n;
    worst = std::max(worst, ms);
    return done;
  }
  void now(const std::string& what) { what_ = what; }
  // What is called and not sent: as an event of its own.
  void call(const std::string& what, const std::function<void()>& work) {
    now(what);
    QElapsedTimer taken;
    taken.start();
    work();
    const double ms = 1e-6 * static_cast<double>(taken.nsecsElapsed());
    auto& [worst, total, n] = all_[what];
    worst = std::max(worst, ms);
    total += ms;
    ++n;
  }
  void print() const {
    for (const auto& [what, gap] : all_)
      fmt::print("{:<34} {:>8.1f} ms at the worst, {:>8.1f} in all\n", what, gap.worst, gap.total);
  }

 private:
  struct Gap {
    double worst = 0, total = 0;
    int n = 0;
  };
  std::map<std::string, Gap> all_;
  std::string what_ = "start";
  bool inside_ = false;
};

void live(int ms) {
  QEventLoop loop;
  QTimer::singleShot(ms, &loop, &QEventLoop::quit);
  loop.exec();
}

template <class Quiet>
void until(Quiet quiet) {
  for (int waited_ms = 0; !quiet() && waited_ms < 600000; waited_ms += 50) live(50);
}

void fill(library::Library& library, int rows) {
  Task task;
  const std::filesystem::path words = library.folder() / "words.eml";
  if (!FileSystem::real().write(words, "words")) std::exit(5);
  for (int i = 0; i < rows; ++i) {
    library::Library::Incoming in;
    in.message.key = "made-up " + std::to_string(i);
    in.message.received_on = fmt::format("2026-{:02}-{:02}", 1 + i % 11, 1 + i % 28);
    in.message.body = "Top set today.";
    in.athlete_name = in.message.from_name = fmt::format("Athlete {}", i % 300);
    in.by_name = true;
    in.original = words;
    library::Submission s;
    s.received_on = in.message.received_on;
    s.lift = "";
    s.kind = library::SubmissionKind::Question;
    in.clips.push_back({s, {}, std::nullopt});
    if (!library.addMessage(std::move(in), task)) std::exit(5);
  }
}

void review(TimedApplication& application, DeskWindow& window, qlonglong id) {
  application.call("open a clip", [&] { window.openSubmission(id); });
  until([&] { return window.reviewPage()->settled() && window.reviewPage()->document().analysis(); });
  auto& page = *window.reviewPage();
  const auto a = page.document().analysis();
  const double t = a->reps.empty() ? 0.5 : a->reps.front().bottom_t();
  const auto at = a->trace.place(a->motion.frameAt(t), tracing::Landmark::Hip);
  const int gesture = newGesture();
  for (int i = 0; i < 60; ++i) {
    application.call("drag a point", [&] {
      page.document().undoStack().push(new PlacePoint(page.document(), {t, tracing::Landmark::Hip},
                                                      at.value_or(PixelPoint{500, 500}) + PixelPoint{0.2 * i, 0},
                                                      gesture));
    });
    live(1);
  }
  until([&] { return !page.busy(); });
  application.now("play and step");
  for (int i = 0; i < 40; ++i) {
    page.player().step(1);
    live(15);
  }
  application.call("return", [&] { page.returnByMail(); });
  until([&] { return !page.busy(); });
  application.call("back to the queue", [&] { window.showLibrary(); });
  live(500);
}

void queue(TimedApplication& application, DeskWindow& window) {
  auto* table = window.findChild<QTableView*>(QStringLiteral("submissions"));
  for (int i = 0; i < 30; ++i) {
    application.call("choose a row", [&] { table->selectRow(i); });
    live(5);
  }
  const auto lists = window.findChildren<QListWidget*>();  // the athletes' is the long one
  auto* athletes = *std::max_element(lists.begin(), lists.end(),
                                     [](const auto* a, const auto* b) { return a->count() < b->count(); });
  if (athletes->count() < 6) std::fprintf(stderr, "There are too few athletes to choose from.\n");
  for (int i = 1; i < 6; ++i) {
    application.call("choose an athlete", [&] { athletes->setCurrentRow(i); });
    live(400);  // what is put off while somebody goes through the list counts too
  }
  athletes->setCurrentRow(0);
  live(400);
  if (auto* find = window.findChild<QLineEdit*>(QStringLiteral("find")))
    for (const char* typed : {"a", "at", "ath", "athlete 1", ""}) {
      application.call("type in find", [&] { find->setText(QString::fromLatin1(typed)); });
      live(400);
    }
}

int run(TimedApplication& application, const std::filesystem::path& clip, int rows) {
  QTemporaryDir scratch;
  const std::filesystem::path folder = scratch.path().toStdString();
  qlonglong id = 0;
  {
    auto library = library::Library::open(folder);
    if (!library) return 5;
    fill(*library, rows);
    library::CoachCard card;
    card.name = "Mara Quill";
    card.address = "mara@kelpstone.invalid";
    library::Submission s;
    s.received_on = "2026-11-29";
    Task task;
    auto added = library->addSubmission(s, clip, task, "Ida Fenn");
    if (!library->setCoach(card) || !added) return 5;
    auto row = library->submission(*added);
    if (!row || !library->addAddress(row->athlete, "ida@kelpstone.invalid")) return 5;
    id = added->number;
  }
  auto library = library::Library::open(folder);
  if (!library) return 5;
  std::unique_ptr<DeskWindow> window;
  application.call("make the window", [&] { window = std::make_unique<DeskWindow>(std::move(*library)); });
  application.now("start");
  window->resize(1280, 800);
  window->show();
  live(1000);
  queue(application, *window);
  review(application, *window, id);
  application.call("close the window", [&] { window->close(); });
  application.print();
  return 0;
}

}  // namespace
}  // namespace jib::desk

int main(int argc, char** argv) {
  if (argc < 2) {
    std::fprintf(stderr, "jib-event-loop CLIP [SUBMISSIONS]\n");
    return 2;
  }
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
  jib::desk::TimedApplication application(argc, argv);
  QApplication::setOrganizationName(QStringLiteral("jagged-jib-bench"));
  jib::desk::applyTheme(application, jib::desk::Theme::Day);
  return jib::desk::run(application, argv[1], argc > 2 ? std::atoi(argv[2]) : 0);
}
