// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/screenshots.h"

#include <QApplication>
#include <QDir>
#include <QEventLoop>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QTabWidget>
#include <QTableView>
#include <QTimer>
#include <cmath>

#include "core/footage/frame_reader.h"
#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/cue_panel.h"
#include "desk/review/measures_model.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "desk/theme.h"
#include "drawing/picture.h"

namespace jib::desk {
namespace {

// Lets the window live until it is quiet: decoding and painting are done elsewhere and later.
void settle(DeskWindow& window) {
  constexpr int kPatience_ms = 60000, kLook_ms = 100;
  QEventLoop loop;
  QTimer look;
  int waited_ms = 0;
  QObject::connect(&look, &QTimer::timeout, &loop, [&] {
    waited_ms += kLook_ms;
    const bool quiet =
        (!window.reviewPage() || window.reviewPage()->settled()) && !window.libraryPage().busy() && !window.preparing();
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

}  // namespace

int takeScreenshots(DeskWindow& window, const QString& folder) {
  QDir().mkpath(folder);
  window.resize(1280, 800);
  window.show();
  bool all = true;
  const auto shoot = [&](const QString& name) {
    settle(window);
    all = window.grab().save(folder + QLatin1Char('/') + name + QStringLiteral(".png")) && all;
  };
  const auto tab = [&](int i) {
    window.reviewPage()->findChild<QTabWidget*>(QStringLiteral("tabs"))->setCurrentIndex(i);
  };
  // The demo's mail comes in, and its clips are looked at, as they would be on a morning.
  window.prepareInBackground();
  settle(window);
  const auto choose = [&](const QString& athlete) {
    auto* table = window.findChild<QTableView*>(QStringLiteral("submissions"));
    for (int row = 0; row < table->model()->rowCount(); ++row)
      if (table->model()->index(row, SubmissionsModel::AthleteName).data().toString().startsWith(athlete))
        return table->selectRow(row);
  };
  choose(QStringLiteral("Kit"));
  shoot(QStringLiteral("submissions"));
  choose(QStringLiteral("Suki"));
  shoot(QStringLiteral("question"));
  choose(QStringLiteral("Orla"));
  window.findChild<QPushButton*>(QStringLiteral("reshoot"))->click();
  shoot(QStringLiteral("film-again"));
  window.findChild<QPushButton*>(QStringLiteral("putInOutbox"))->click();
  window.showOutbox();
  shoot(QStringLiteral("outbox"));
  window.showLibrary();
  choose(QStringLiteral("Orla"));
  // Orla's 92.5 kg as a coach would count it on the film: a pair of 25, of 10 and of 1.25, with the small ones missed.
  window.findChild<QPushButton*>(QStringLiteral("countPlates"))->click();
  for (int plate : {0, 3}) window.findChild<QPushButton*>(QStringLiteral("plate_%1").arg(plate))->click();
  settle(window);
  window.findChild<QScrollArea*>(QStringLiteral("submissionPanel"))
      ->ensureWidgetVisible(window.findChild<QWidget*>(QStringLiteral("takeLoad")), 0, 20);
  shoot(QStringLiteral("load"));
  choose(QStringLiteral("Ines"));
  window.findChild<QTabWidget*>(QStringLiteral("side"))->setCurrentIndex(1);
  shoot(QStringLiteral("athlete"));
  window.findChild<QTabWidget*>(QStringLiteral("side"))->setCurrentIndex(0);
  const qlonglong ines_now = submissionOf(window, QStringLiteral("Ines"), QStringLiteral("16 Nov"));
  const qlonglong ines_then = submissionOf(window, QStringLiteral("Ines"), QStringLiteral("7 Sep"));
  const qlonglong bram = submissionOf(window, QStringLiteral("Bram"), QStringLiteral("20 Oct"));
  const qlonglong suki_high = submissionOf(window, QStringLiteral("Suki"), QStringLiteral("9 Nov"));
  if (auto* pair = window.findChild<QPushButton*>(QStringLiteral("pair"))) {
    // Two films of one set, put together and shown at the same moment.
    pair->click();
    settle(window);
    window.openSubmission(
        submissionOf(window, QStringLiteral("Ines"), QStringLiteral("21 Nov"), QStringLiteral("side")));
    settle(window);
    window.reviewPage()->findChild<QAction*>(QStringLiteral("otherAction"))->trigger();
    tab(0);
    shoot(QStringLiteral("other-side"));
    window.showLibrary();
  }
  window.openSubmission(ines_now);
  window.reviewPage()->findChild<QAction*>(QStringLiteral("placeAction"))->trigger();
  shoot(QStringLiteral("placing"));
  window.showLibrary();
  window.openSubmission(ines_then);
  tab(0);
  shoot(QStringLiteral("review-measures"));
  window.reviewPage()->findChild<QAction*>(QStringLiteral("sidesAction"))->trigger();
  tab(1);
  shoot(QStringLiteral("sides"));
  window.reviewPage()->findChild<QAction*>(QStringLiteral("sidesAction"))->trigger();
  auto& page = *window.reviewPage();
  tab(1);
  const auto a = page.document().analysis();
  if (a && !page.document().choice().cues.empty()) {
    const auto& cue = page.document().choice().cues.front();
    const auto* kind = lifts::measureDefinition(cue.measure);
    page.showEvidence(cue.t_s, kind ? kind->drawing : lifts::Drawing::Chain);
  }
  shoot(QStringLiteral("review-cues"));
  if (auto* rival = page.findChild<QLabel*>(QStringLiteral("rival"))) {
    page.findChild<CuePanel*>()->ensureWidgetVisible(rival, 0, 300);
    shoot(QStringLiteral("rival-causes"));
  }
  // What the athlete gets: a frame of the film where a cue is shown, and the page for whoever can paint it.
  const QString reply = folder + QStringLiteral("/reply");
  page.writeReplyTo(reply);
  settle(window);
  all = frameOfFilm(reply, folder + QStringLiteral("/reply-film.png")) && all;
  window.showKeys();
  shoot(QStringLiteral("keys"));
  window.showLibrary();
  window.openSubmission(submissionOf(window, QStringLiteral("Ines"), QStringLiteral("5 Oct")));
  tab(2);
  shoot(QStringLiteral("asked-before"));
  window.showLibrary();
  window.openSubmission(bram);
  tab(1);
  shoot(QStringLiteral("change-nothing"));
  window.showLibrary();
  window.openSubmission(suki_high);
  tab(1);
  shoot(QStringLiteral("camera-too-high"));
  window.showLibrary();
  applyTheme(*static_cast<QApplication*>(QCoreApplication::instance()), Theme::Night);
  window.openSubmission(ines_then);
  tab(0);
  shoot(QStringLiteral("night"));
  return all ? 0 : 5;
}

}  // namespace jib::desk
