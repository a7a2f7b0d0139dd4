// SPDX-License-Identifier: GPL-3.0-or-later
// Takes the PNG of every main view at 1280x800 from a copy of the demo's library.
// Usage: jib-screenshots LIBRARY FOLDER
#include <QApplication>
#include <QDir>
#include <QDoubleSpinBox>
#include <QEventLoop>
#include <QFileInfo>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QTabWidget>
#include <QTableView>
#include <QTimer>
#include <QToolButton>
#include <cmath>
#include <cstdio>
#include <cstdlib>

#include "core/footage/frame_reader.h"
#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/progress_dialog.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/player.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "desk/theme.h"
#include "drawing/picture.h"

namespace jib::desk {
namespace {

// Lets the window live until it is quiet: decoding and painting are done elsewhere and later.
void settle(DeskWindow& window) {
  constexpr int kPatience_ms = 180000, kLook_ms = 100;
  QEventLoop loop;
  QTimer look;
  int waited_ms = 0;
  QObject::connect(&look, &QTimer::timeout, &loop, [&] {
    waited_ms += kLook_ms;
    const bool quiet = (!window.reviewPage() || window.reviewPage()->settled()) && !window.libraryPage().busy() &&
                       !window.libraryPage().picturing() && !window.preparing();
    if ((quiet && waited_ms > 2 * kLook_ms) || waited_ms > kPatience_ms) loop.quit();
  });
  look.start(kLook_ms);
  loop.exec();
}

qlonglong submissionOf(DeskWindow& window, const QString& athlete, const QString& received, const QString& clip = {}) {
  auto* table = window.findChild<QTableView*>(QStringLiteral("submissions"));
  auto* model = table->model();
  for (int row = 0; row < model->rowCount(); ++row)
    if (model->index(row, SubmissionsModel::AthleteName).data().toString().startsWith(athlete) &&
        model->index(row, SubmissionsModel::Received).data().toString().startsWith(received) &&
        model->index(row, SubmissionsModel::Clip).data().toString().contains(clip))
      return model->index(row, 0).data(SubmissionsModel::IdRole).toLongLong();
  return -1;
}

double greyDifference(const QImage& a, const QImage& b) {
  const QImage x = a.scaled(160, 90).convertToFormat(QImage::Format_Grayscale8);
  const QImage y = b.scaled(160, 90).convertToFormat(QImage::Format_Grayscale8);
  double sum = 0;
  for (int row = 0; row < x.height(); ++row)
    for (int column = 0; column < x.width(); ++column)
      sum += std::abs(x.constScanLine(row)[column] - y.constScanLine(row)[column]);
  return sum / (x.width() * x.height());
}

// The frame of the reply's film on which it stands still: the one that its successor repeats for long.
bool frameOfFilm(const QString& reply, const QString& png) {
  const QStringList films = QDir(reply).entryList({QStringLiteral("*.mp4")}, QDir::Files);
  if (films.isEmpty()) return false;
  auto reader = footage::FrameReader::open((reply + QLatin1Char('/') + films.front()).toStdString());
  if (!reader) return false;
  QImage before;
  for (int same = 0;;) {
    auto next = reader->next(footage::Pixels::Colour);
    if (!next || !*next) return !before.isNull() && before.save(png);
    const QImage now = drawing::toImage((*next)->picture).copy();
    // Compressed, a still is never quite one.
    constexpr double kStill = 0.4;  // grey levels, on average
    same = !before.isNull() && greyDifference(before, now) < kStill ? same + 1 : 0;
    before = now;
    if (same > 60) return before.save(png);
  }
}

// The window, and what its pictures are called.
class Photographer {
 public:
  Photographer(DeskWindow& window, const QString& folder) : window_(window), folder_(folder) {
    QDir().mkpath(folder);
    window_.resize(1280, 800);
    window_.show();
  }
  bool all() const { return all_; }

  void ofTheQueue();
  void ofTwoFilms();
  void ofAReview();
  void ofOlderReviews();
  void ofEverybody();

 private:
  void drawn(ReviewPage& page);
  void firstLook();
  void thenBesideNow();
  void withAChange(ReviewPage& page);
  void shoot(const QString& name) {
    settle(window_);
    all_ = window_.grab().save(folder_ + QLatin1Char('/') + name + QStringLiteral(".png")) && all_;
  }
  // The frame that shows what is wrong most, with the drawing that belongs to it.
  void atTheWorst() {
    settle(window_);
    ReviewPage& page = *window_.reviewPage();
    for (const coaching::Finding& f : page.document().analysis()->findings)
      if (f.verdict == coaching::Verdict::Yes && f.kind) return page.showEvidence(f.worst.t_s, f.kind->drawing);
  }
  void tab(int i) { window_.reviewPage()->findChild<QTabWidget*>(QStringLiteral("tabs"))->setCurrentIndex(i); }
  void choose(const QString& athlete) {
    auto* table = window_.findChild<QTableView*>(QStringLiteral("submissions"));
    for (int row = 0; row < table->model()->rowCount(); ++row)
      if (table->model()->index(row, SubmissionsModel::AthleteName).data().toString().startsWith(athlete))
        return table->selectRow(row);
  }
  void open(const char* athlete, const char* received, const char* clip = "") {
    window_.showLibrary();
    const qlonglong id = submissionOf(window_, QLatin1String(athlete), QLatin1String(received), QLatin1String(clip));
    if (id < 0) {
      std::fprintf(stderr, "jib-screenshots: no clip of %s of %s %s in the queue\n", athlete, received, clip);
      std::exit(4);
    }
    window_.openSubmission(id);
  }

  DeskWindow& window_;
  QString folder_;
  bool all_ = true;
};

void Photographer::ofTheQueue() {
  // The demo's mail comes in, and its clips are looked at, as they would be on a morning.
  window_.prepareInBackground();
  settle(window_);
  choose(QStringLiteral("Kit"));
  shoot(QStringLiteral("submissions"));
  choose(QStringLiteral("Orla"));
  window_.findChild<QPushButton*>(QStringLiteral("reshoot"))->click();
  window_.findChild<QPushButton*>(QStringLiteral("putInOutbox"))->click();
  window_.showOutbox();
  shoot(QStringLiteral("outbox"));
  window_.showLibrary();
  choose(QStringLiteral("Ines"));
  window_.findChild<QTabWidget*>(QStringLiteral("side"))->setCurrentIndex(1);
  shoot(QStringLiteral("athlete"));
  window_.findChild<QTabWidget*>(QStringLiteral("side"))->setCurrentIndex(0);
}

void Photographer::ofEverybody() {
  window_.showRoster();
  auto* table = window_.findChild<QTableView*>(QStringLiteral("roster"));
  table->sortByColumn(2, Qt::AscendingOrder);
  table->selectRow(0);
  shoot(QStringLiteral("roster"));
  window_.showLibrary();
  // What an athlete gets after half a year.
  auto library = library::Library::openAgain(QFileInfo(window_.libraryPage().inbox()).dir().path().toStdString());
  const auto all = library ? library->athletes() : Result<std::vector<library::Athlete>>(fail(library.error()));
  for (const library::Athlete& a : all.value_or(std::vector<library::Athlete>{})) {
    if (!a.name.starts_with("Bram")) continue;
    ProgressDialog sheet(*library, a.id, &window_);
    sheet.show();
    for (int waited = 0; !sheet.ready() && waited < 100; ++waited) settle(window_);
    all_ = sheet.grab().save(folder_ + QStringLiteral("/progress.png")) && all_;
  }
}

void Photographer::ofTwoFilms() {
  choose(QStringLiteral("Ines"));
  settle(window_);
  if (auto* pair = window_.findChild<QPushButton*>(QStringLiteral("pair"))) {
    // Two films of one set, put together and shown at the same moment.
    pair->click();
    settle(window_);
    open("Ines", "21 Nov", "side");
    settle(window_);
    // What the side cannot show is judged from the front: the answer, on the frame that shows it.
    ReviewPage& page = *window_.reviewPage();
    tab(0);
    for (const coaching::Finding& f : page.document().analysis()->findings)
      if (f.id == "squat.knees_cave") page.showEvidence(f.worst.t_s, f.kind->drawing);
    shoot(QStringLiteral("two-films"));
  }
  open("Ines", "16 Nov");
  window_.reviewPage()->findChild<QAction*>(QStringLiteral("placeAction"))->trigger();
  shoot(QStringLiteral("placing"));
}

// The coach's lines on the first rep's bottom: what is, what is wanted, and a posture pulled from where it was.
void Photographer::drawn(ReviewPage& page) {
  const auto a = page.document().analysis();
  if (!a || a->reps.empty()) return;
  page.player().goTo(a->reps.front().bottom_t());
  settle(window_);
  page.findChild<QAction*>(QStringLiteral("drawAction"))->trigger();
  settle(window_);
  auto* stage = page.findChild<Stage*>();
  const auto at = [&](tracing::Landmark l) { return *a->trace.trace.place(stage->frame(), l); };
  const auto use = [&](const char* tool, std::initializer_list<PixelPoint> ends) {
    page.findChild<QToolButton*>(QStringLiteral("draw_") + QLatin1String(tool))->click();
    for (const PixelPoint end : ends) stage->pad().press(end, stage->frame(), 6);
    stage->pad().release({0, 0}, stage->frame(), 6);
  };
  using tracing::Landmark;
  use("plumb", {at(Landmark::Bar)});
  use("angle", {at(Landmark::Ankle), at(Landmark::Knee), at(Landmark::Hip)});
  stage->pad().cancel();  // what was drawn is put down, and stays as it is
  page.findChild<QToolButton*>(QStringLiteral("asWanted"))->click();
  use("pose", {at(Landmark::Hip)});
  const PixelPoint hip = at(Landmark::Hip);
  stage->pad().press(hip, stage->frame(), 6);
  stage->pad().move(hip + PixelPoint{-18, 4}, stage->frame(), 6);
  stage->pad().release(hip + PixelPoint{-18, 4}, stage->frame(), 6);
}

// The set as it is seen first, with what caught the eye.
void Photographer::firstLook() {
  ReviewPage& page = *window_.reviewPage();
  page.startFirstLook();
  const auto bookmark = [&](double t_s, const char* word) {
    page.player().goTo(t_s);
    page.findChild<QAction*>(QStringLiteral("bookmarkAction"))->trigger();
    page.findChild<QAction*>(QLatin1String(word))->trigger();
  };
  bookmark(6.1, "historyTab");
  bookmark(9.8, "cuesTab");
  shoot(QStringLiteral("first-look"));
  page.findChild<QPushButton*>(QStringLiteral("showMe"))->click();
}

// November beside October, at the bottom of the first rep, in step.
void Photographer::thenBesideNow() {
  open("Ines", "16 Nov");
  settle(window_);
  ReviewPage& page = *window_.reviewPage();
  tab(2);
  page.findChild<QAction*>(QStringLiteral("thenAction"))->trigger();
  settle(window_);
  page.player().goTo(page.document().analysis()->reps.front().bottom_t());
  shoot(QStringLiteral("then-now"));
  page.findChild<QAction*>(QStringLiteral("thenAction"))->trigger();
}

// The first cue with a number on what is to change, and what its load comes to.
void Photographer::withAChange(ReviewPage& page) {
  if (auto* add = page.findChild<QToolButton*>(QStringLiteral("addChange0")))
    for (QAction* entry : add->menu()->actions())
      if (entry->text() == QStringLiteral("Heel raise")) return entry->trigger();
}

void Photographer::ofAReview() {
  // Before anything is returned today: what was asked in September has been met in October.
  open("Ines", "5 Oct");
  tab(2);
  shoot(QStringLiteral("asked-before"));
  thenBesideNow();
  open("Ines", "7 Sep");
  tab(0);
  atTheWorst();
  if (auto* why = window_.findChild<QToolButton*>(QStringLiteral("why_squat.knees_slide_back"))) why->setChecked(true);
  shoot(QStringLiteral("review-findings"));
  firstLook();
  auto& page = *window_.reviewPage();
  // All reps over one another take the place of their key frames.
  const auto turnPlots = [&] {
    for (const char* name : {"stripAction", "plotsAction"})
      page.findChild<QAction*>(QString::fromLatin1(name))->trigger();
  };
  turnPlots();
  tab(4);
  shoot(QStringLiteral("review-measures"));
  turnPlots();
  tab(1);
  const auto a = page.document().analysis();
  if (a && !page.document().choice().cues.empty()) {
    const auto& cue = page.document().choice().cues.front();
    const auto* kind = lifts::measureDefinition(cue.measure);
    page.showEvidence(cue.t_s, kind ? kind->drawing : lifts::Drawing::Chain);
  }
  withAChange(page);
  if (auto* to = page.findChild<QDoubleSpinBox*>(QStringLiteral("changeTo"))) to->setValue(0.015);
  shoot(QStringLiteral("review-cues"));
  drawn(page);
  page.findChild<QAction*>(QStringLiteral("talkAction"))->trigger();
  shoot(QStringLiteral("drawing"));
  page.findChild<QToolButton*>(QStringLiteral("talk"))->click();
  page.findChild<QAction*>(QStringLiteral("drawAction"))->trigger();
  // What the athlete gets: a frame of the film where a cue is shown, and the page for whoever can paint it.
  const QString reply = folder_ + QStringLiteral("/reply");
  page.writeReplyTo(reply);
  settle(window_);
  all_ = frameOfFilm(reply, folder_ + QStringLiteral("/reply-film.png")) && all_;
}

void Photographer::ofOlderReviews() {
  open("Nell", "25 Nov", "side");
  tab(0);
  atTheWorst();
  shoot(QStringLiteral("bench-press"));
  open("Ines", "21 Nov", "front");
  tab(0);
  atTheWorst();
  shoot(QStringLiteral("from-the-front"));
  applyTheme(*static_cast<QApplication*>(QCoreApplication::instance()), Theme::Night);
  open("Ines", "7 Sep");
  tab(0);
  atTheWorst();
  shoot(QStringLiteral("night"));
}

}  // namespace
}  // namespace jib::desk

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("jib-screenshots"));
  if (argc < 3) {
    std::fprintf(stderr, "Usage: jib-screenshots LIBRARY FOLDER [queue|athletes|two|review|older ...]\n");
    return 2;
  }
  jib::desk::applyTheme(application, jib::desk::Theme::Day);
  auto library = jib::library::Library::open(argv[1]);
  if (!library) {
    std::fprintf(stderr, "jib-screenshots: %s\n", library.error().sentence().c_str());
    return 3;
  }
  jib::desk::DeskWindow window(std::move(*library));
  jib::desk::Photographer photographer(window, QString::fromLocal8Bit(argv[2]));
  const std::pair<const char*, void (jib::desk::Photographer::*)()> parts[]{
      {"queue", &jib::desk::Photographer::ofTheQueue},
      {"athletes", &jib::desk::Photographer::ofEverybody},
      {"two", &jib::desk::Photographer::ofTwoFilms},
      {"review", &jib::desk::Photographer::ofAReview},
      {"older", &jib::desk::Photographer::ofOlderReviews}};
  for (const auto& [name, take] : parts)
    if (argc == 3 ||
        std::any_of(argv + 3, argv + argc, [&](const char* only) { return only == std::string_view(name); }))
      (photographer.*take)();
  return photographer.all() ? 0 : 5;
}
