// SPDX-License-Identifier: GPL-3.0-or-later
// Any film can be answered: from the queue to the returned reply with a cue of the coach's own, a drawn line and a
// chosen frame, whether or not anything was traced. And what the program found can be put right.
#include <gtest/gtest.h>

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableView>
#include <QTest>
#include <QTextBrowser>
#include <QTimer>
#include <QToolButton>

#include <nlohmann/json.hpp>

#include "core/coaching/back_line.h"
#include "core/coaching/wanted_pose.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/mail.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "desk/review/upright_dialog.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/footage/made_clips.h"

namespace jib::desk {
namespace {

constexpr int kPatience_ms = 120000;  // how long a signal is waited for; nothing is timed

struct Office {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  std::unique_ptr<DeskWindow> window;

  Office() { EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false})); }

  library::SubmissionId send(const std::string& who, const std::string& film, const std::string& words) {
    const std::string address = who.substr(0, who.find(' ')) + "@tide.invalid";
    const auto eml = folder.write(
        who + ".eml", tests::header(who + " <" + address + ">", who + "@k", "a lift") +
                          tests::multipart({tests::textPart(words), tests::filePart("set.mp4", tests::bytesOf(film))}));
    Task task;
    EXPECT_TRUE(exchange::receive(library, eml, "2026-11-25", task));
    library::SubmissionId newest{0};
    const auto all = *library.submissions();
    for (const auto& s : all)
      if (s.id.number > newest.number) newest = s.id;
    return newest;
  }
  // What the background would have found out.
  void tell(library::SubmissionId id, const char* view) {
    coaching::ClipCheck check;
    check.view = view;
    ASSERT_TRUE(library.saveCheck(library.submission(id)->clip_hash, coaching::checkToJson(check)));
  }
  ReviewPage& open(library::SubmissionId id) {
    window = std::make_unique<DeskWindow>(*library::Library::open(folder / "lib"));
    window->resize(1280, 800);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
    window->openSubmission(id.number);
    EXPECT_TRUE(QTest::qWaitFor(
        [&] {
          auto* page = window->reviewPage();
          return page && page->settled() && page->document().analysis() && page->findChild<Stage*>()->hasPicture();
        },
        kPatience_ms));
    return *window->reviewPage();
  }
  void press(Qt::Key key, Qt::KeyboardModifiers with = {}) {
    window->reviewPage()->takeKeys();
    QTest::keyClick(window->reviewPage()->focusWidget(), key, with);
    QCoreApplication::processEvents();
  }
  std::filesystem::path replyFile(library::SubmissionId id, const char* kind) {
    return tests::fileWith(library.folder() / "replies" / std::to_string(id.number), kind);
  }
};

template <class W>
W* in(ReviewPage& page, const QString& name) {
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  auto* w = page.findChild<W*>(name);
  EXPECT_NE(w, nullptr) << name.toStdString();
  return w;
}

void clickOn(Stage& stage, PixelPoint p) {
  const QPoint at = stage.toStage(p).toPoint();
  QTest::mouseMove(&stage, at);
  QTest::mouseClick(&stage, Qt::LeftButton, {}, at);
}

void dragOn(Stage& stage, PixelPoint from, PixelPoint to) {
  const QPoint a = stage.toStage(from).toPoint(), b = stage.toStage(to).toPoint();
  QTest::mouseMove(&stage, a);
  QTest::mousePress(&stage, Qt::LeftButton, {}, a);
  QTest::mouseMove(&stage, (a + b) / 2);
  QTest::mouseMove(&stage, b);
  QTest::mouseRelease(&stage, Qt::LeftButton, {}, b);
}

// How many pixels of a film's frames have the coach's magenta, the most in one frame.
int magentaIn(const std::filesystem::path& film) {
  auto reader = footage::FrameReader::open(film);
  int most = 0;
  for (auto f = reader->next(footage::Pixels::Colour); f && *f; f = reader->next(footage::Pixels::Colour)) {
    // The picture's side only: the strip of words has the coach's colour anyway.
    const cv::Mat picture = (*f)->picture(cv::Rect(0, 0, 720, 800));
    cv::Mat mask;
    cv::inRange(picture, cv::Scalar(100, 0, 160), cv::Scalar(200, 90, 255), mask);
    most = std::max(most, cv::countNonZero(mask));
  }
  return most;
}

// As it is done while nobody is there.
void traceAsAPress(Office& office, library::SubmissionId id) {
  const auto row = *office.library.submission(id);
  ASSERT_TRUE(office.library.saveTracing(
      id, tests::keptTracing("bench", office.library.clipFile(row), exchange::requestFor(row, {}, {}))));
}

struct Film {
  const char* name;
  const char* words;
  const char* view;  // nullptr: as the tracing says
  bool traced;
};
std::ostream& operator<<(std::ostream& out, const Film& f) {
  return out << f.name;
}

class AnyFilm : public testing::TestWithParam<Film> {};

TEST_P(AnyFilm, GoesFromTheQueueToAReplyWithAnOwnCueADrawnLineAndAChosenFrame) {
  const Film film = GetParam();
  Office office;
  const auto made = office.folder / "made.mp4";
  ASSERT_TRUE(tests::writeCountingClip(made, 60, 480, 360));
  const std::string clip = film.traced ? std::string(JIB_MADE_CLIPS) + "/small-bench.mp4" : made.string();
  const auto id = office.send("Kit Marlin", clip, film.words);
  if (film.view) office.tell(id, film.view);
  if (film.traced) traceAsAPress(office, id);
  {
    auto& page = office.open(id);
    EXPECT_EQ(page.document().analysis()->isTraced(), film.traced);
    const auto before = page.document().choice();
    const double t = page.document().analysis()->motion.times_s[30];

    // A cue of one's own, on a frame of one's choice.
    office.press(Qt::Key_N);
    const int index = static_cast<int>(page.document().choice().cues.size()) - 1;
    in<QComboBox>(page, QStringLiteral("wording%1").arg(index))->setEditText("Pack the shoulders, then unrack.");
    auto* title = in<QLineEdit>(page, QStringLiteral("ownTitle%1").arg(index));
    title->setFocus();
    QTest::keyClicks(title, "Loose shoulders");
    page.player().goTo(t);
    in<QPushButton>(page, QStringLiteral("useFrame%1").arg(index))->click();
    ASSERT_EQ(page.document().choice().cues.back().t_s, t);
    EXPECT_EQ(page.document().choice().cues.back().title, "Loose shoulders");

    // A line over the whole clip.
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
    auto& stage = *page.findChild<Stage*>();
    office.press(Qt::Key_D);
    in<QToolButton>(page, "draw_line")->click();
    clickOn(stage, {60, 60});
    clickOn(stage, {260, 200});
    ASSERT_EQ(page.document().sketch().shapes.size(), 1u);
    office.press(Qt::Key_D);

    // Undo walks all the way back, and redo forth.
    auto& undo = page.document().undoStack();
    while (undo.canUndo()) undo.undo();
    EXPECT_TRUE(page.document().choice() == before);
    EXPECT_TRUE(page.document().sketch().empty());
    while (undo.canRedo()) undo.redo();
    ASSERT_EQ(page.document().sketch().shapes.size(), 1u);

    auto* reply = in<QPushButton>(page, "primary");
    ASSERT_TRUE(reply->isEnabled());
    QSignalSpy posted(&page, &ReviewPage::replyPosted);
    reply->click();
    ASSERT_TRUE(QTest::qWaitFor([&] { return posted.count() == 1; }, kPatience_ms));
    const auto mail = exchange::readMail(tests::bytesOf(posted.front().front().toString().toStdString()));
    ASSERT_TRUE(mail);
    EXPECT_NE(mail->text.find("Loose shoulders.\n  Cue: Pack the shoulders, then unrack."), std::string::npos)
        << mail->text;
    EXPECT_EQ(mail->text.find("traced"), std::string::npos) << "what the program could not do is no matter of theirs";
  }
  EXPECT_EQ(office.library.submission(id)->state, library::SubmissionState::Returned);
  EXPECT_GT(magentaIn(office.replyFile(id, ".mp4")), 300) << "the line is in the film";
  const std::string html = tests::bytesOf(office.replyFile(id, ".html"));
  EXPECT_NE(html.find("Pack the shoulders, then unrack."), std::string::npos);
  EXPECT_NE(html.find("<img"), std::string::npos) << "with its still";
  {
    auto& page = office.open(id);
    EXPECT_EQ(page.document().sketch().shapes.size(), 1u) << "reopening restores all";
    EXPECT_EQ(page.document().choice().cues.back().wording, "Pack the shoulders, then unrack.");
  }
  // An own wording turns up for the next athlete.
  const auto next = office.send("Ines Calder", made.string(), film.words);
  office.tell(next, "side");
  auto& page = office.open(next);
  office.press(Qt::Key_N);
  const int index = static_cast<int>(page.document().choice().cues.size()) - 1;
  auto* wording = in<QComboBox>(page, QStringLiteral("wording%1").arg(index));
  EXPECT_GE(wording->findText("Pack the shoulders, then unrack."), 0);
}

INSTANTIATE_TEST_SUITE_P(OfAnyLiftAndView, AnyFilm,
                         testing::Values(Film{"front squat", "Squat 100 kg x 3", "front", false},
                                         Film{"bench", "Bench press 80 kg x 2, paused.", nullptr, true},
                                         Film{"nothing round", "Squat 100 kg x 3", "side", false}));

// The dialog is answered while it is open.
void setRight(Office& office, const std::function<void(UprightDialog&)>& answer) {
  QTimer::singleShot(0, [&] {
    auto* dialog = office.window->findChild<UprightDialog*>();
    ASSERT_NE(dialog, nullptr);
    answer(*dialog);
    dialog->findChild<QPushButton*>("useUpright")->click();
  });
  office.window->reviewPage()->findChild<QAction*>("uprightAction")->trigger();
}

TEST(PictureSetRight, IsTurnedAndMirroredWithItsDrawingsAndTakenBackWithUndo) {
  Office office;
  const auto film = office.folder / "sideways.mp4";
  ASSERT_TRUE(tests::writeCountingClip(film, 40, 480, 360));
  const auto id = office.send("Kit Marlin", film, "Squat 100 kg x 3");
  office.tell(id, "side");
  office.open(id);
  const auto size = [&] { return office.window->reviewPage()->findChild<Stage*>()->picture().size(); };
  const auto anchor = [&] { return office.window->reviewPage()->document().sketch().shapes.at(0).anchors.at(0).place; };
  const auto settle = [&](const QSize& wanted) {
    return QTest::qWaitFor(
        [&] {
          auto* page = office.window->reviewPage();
          return page && page->settled() && page->document().analysis() && size() == wanted;
        },
        kPatience_ms);
  };
  ASSERT_EQ(size(), QSize(480, 360));
  office.press(Qt::Key_D);
  in<QToolButton>(*office.window->reviewPage(), "draw_line")->click();
  auto& stage = *office.window->reviewPage()->findChild<Stage*>();
  clickOn(stage, {60, 60});
  clickOn(stage, {260, 200});
  office.press(Qt::Key_D);
  const PixelPoint drawn = anchor();

  setRight(office, [](UprightDialog& d) {
    d.findChild<QPushButton*>("turnRight")->click();
    d.findChild<QCheckBox*>("mirrorPicture")->click();
    EXPECT_EQ(d.chosen(), (footage::Upright{90, true, 1}));
    const QPixmap seen = d.findChild<QLabel*>("uprightScreen")->pixmap();
    EXPECT_GT(seen.height(), seen.width()) << "it shows what will be";
  });
  ASSERT_TRUE(settle({360, 480}));
  EXPECT_NEAR(anchor().x, drawn.y, 1e-6) << "the drawing went with the picture";
  EXPECT_NEAR(anchor().y, drawn.x, 1e-6);

  office.window->activateWindow();  // the dialog had been
  ASSERT_TRUE(QTest::qWaitForWindowActive(office.window.get()));
  QTest::keyClick(office.window->reviewPage(), Qt::Key_Z, Qt::ControlModifier);
  ASSERT_TRUE(settle({480, 360}));
  EXPECT_NEAR(anchor().x, drawn.x, 1e-6);
}

// The small squat, traced ahead.
struct Squat : Office {
  library::SubmissionId id{0};
  Squat() {
    id = send("Kit Marlin", JIB_MADE_CLIP, "Squat 60 kg x 3.");
    const auto& a = tests::smallAnalysis();
    EXPECT_TRUE(library.saveTracing(id, tracing::traceToJson(a.trace).dump()));
    tell(id, "side");
  }
};

TEST(PutRight, ARepIsSplitAndAnEventMovedAndTheNumbersFollow) {
  Squat office;
  auto& page = office.open(office.id);
  auto& document = page.document();
  const auto reps = document.analysis()->reps;
  ASSERT_EQ(reps.size(), 2u);
  EXPECT_TRUE(in<QLabel>(page, "camera")->text().contains("The message says 3 reps, the clip shows 2"));
  const auto tempo = [&] {
    return lifts::find(document.analysis()->measures.reps.at(0), "descent_s")->measured()->value;
  };
  const double was = tempo();

  // The bottom of the first rep is dragged half a second later, on the time line.
  auto& scrubber = *page.findChild<Scrubber*>();
  const auto at = [&](double t, int y) { return QPoint(static_cast<int>(std::lround(scrubber.xAt(t))), y); };
  const double bottom = reps[0].bottom_t();
  QTest::mousePress(&scrubber, Qt::LeftButton, {}, at(bottom, scrubber.height() - 6));
  QTest::mouseMove(&scrubber, at(bottom + 0.2, scrubber.height() - 6));
  QTest::mouseMove(&scrubber, at(bottom + 0.4, scrubber.height() - 6));
  QTest::mouseRelease(&scrubber, Qt::LeftButton, {}, at(bottom + 0.4, scrubber.height() - 6));
  EXPECT_GT(document.analysis()->reps[0].bottom_t(), bottom + 0.2);
  EXPECT_GT(tempo(), was + 0.2) << "the descent takes longer now";
  EXPECT_EQ(document.analysis()->found.size(), 2u) << "what was found is known all the same";
  document.undoStack().undo();
  EXPECT_NEAR(tempo(), was, 1e-9) << "one drag is one edit";

  const auto choose = [&](double t, const char* what) {
    scrubber.offerRepEdits(t, QPoint(200, 200));
    auto* menu = scrubber.findChild<QMenu*>("repMenu");
    ASSERT_NE(menu, nullptr);
    menu->findChild<QAction*>(what)->trigger();
    menu->close();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  };
  choose((reps[0].start_t() + reps[0].lockout_t()) / 2, "splitRep");
  EXPECT_EQ(document.analysis()->reps.size(), 3u);
  EXPECT_EQ(page.findChild<QTableView*>("measures")->model()->columnCount(), 4);
  document.undoStack().undo();
  // The bar was put back and taken again: two sets, the last of which is judged.
  choose(reps[1].bottom_t(), "opensSet");
  ASSERT_EQ(document.analysis()->sets.size(), 2u);
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  EXPECT_EQ(document.analysis()->set, 1u);
  EXPECT_EQ(in<QComboBox>(page, "set")->count(), 2) << "either can be chosen";
  choose(reps[1].bottom_t(), "opensSet");
  EXPECT_EQ(document.analysis()->sets.size(), 1u) << "and they are one again";
  choose(bottom, "spotted");
  EXPECT_EQ(document.analysis()->reps.size(), 1u) << "what a spotter lifted is nobody's number";
  document.undoStack().undo();
  choose(bottom, "leaveOut");
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  choose(bottom, "foundReps");
  EXPECT_EQ(document.analysis()->reps.size(), 2u);
  choose(bottom, "type_miss");
  EXPECT_EQ(document.analysis()->reps.size(), 1u);
  ASSERT_EQ(document.analysis()->misses.size(), 1u);
  page.findChild<QAction*>("repsAction")->trigger();
  EXPECT_NE(scrubber.findChild<QMenu*>("repMenu"), nullptr) << "by key as well";
}

TEST(PutRight, AFindingThatIsNotSharedLeavesTheReplyAndTheRecords) {
  Squat office;
  const auto send = [&](ReviewPage& page) {
    QSignalSpy sent(&page, &ReviewPage::replyWritten);
    page.writeReplyTo(QString::fromStdString((office.folder / "reply").string()));
    EXPECT_TRUE(QTest::qWaitFor([&] { return sent.count() == 1; }, kPatience_ms));
  };
  auto& page = office.open(office.id);
  const auto& findings = page.document().analysis()->findings;
  const auto sure =
      std::find_if(findings.begin(), findings.end(), [](const auto& f) { return f.verdict == coaching::Verdict::Yes; });
  ASSERT_NE(sure, findings.end()) << "the small clip shows a fault";
  const std::string id = sure->id;
  const std::string title = page.document().book().titleOf(id);
  QTimer::singleShot(0, [&] {
    auto* ask = QApplication::activeModalWidget()->findChild<QComboBox*>();
    ask->setEditText("It belongs to this athlete's build");
    qobject_cast<QInputDialog*>(QApplication::activeModalWidget())->accept();
  });
  in<QPushButton>(page, "reject_" + QString::fromStdString(id))->click();
  EXPECT_EQ(page.document().rejected().at(id), "It belongs to this athlete's build");
  for (const auto& cue : page.document().choice().cues) EXPECT_NE(cue.finding, id);
  send(page);
  const std::string html = tests::bytesOf(tests::fileWith(office.folder / "reply", ".html"));
  EXPECT_EQ(html.find(title), std::string::npos);
  EXPECT_EQ(office.library.findingsOf(office.id)->count(id), 0u);
  const auto asked = *office.library.threads(page.document().athlete().id);
  for (const auto& thread : asked) EXPECT_NE(thread.finding, id);
  in<QPushButton>(page, "unreject_" + QString::fromStdString(id))->click();
  EXPECT_TRUE(page.document().rejected().empty());
}

TEST(Drawing, ALineRidesOnTheKneeThroughTheFilm) {
  Squat office;
  auto& page = office.open(office.id);
  const auto a = page.document().analysis();
  const double t = a->reps[0].start_t() + 0.2;
  page.player().goTo(t);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  auto& stage = *page.findChild<Stage*>();
  const std::size_t frame = stage.frame();
  const PixelPoint knee = *a->trace.trace.place(frame, tracing::Landmark::Knee);
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_ring")->click();
  in<QComboBox>(page, "hold")->setCurrentIndex(2);
  emit in<QComboBox>(page, "hold")->activated(2);
  clickOn(stage, knee + PixelPoint{2, 1});  // near it is on it
  clickOn(stage, knee + PixelPoint{30, -60});
  ASSERT_EQ(page.document().sketch().shapes.size(), 1u);
  const auto& ring = page.document().sketch().shapes[0];
  EXPECT_EQ(ring.anchors[0].rides, tracing::Landmark::Knee);
  EXPECT_LT(ring.from_s, 0.1);
  EXPECT_GT(ring.to_s, a->motion.times_s.back() - 0.1);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms)) << "its free end is followed";
  const std::size_t bottom = a->motion.frameAt(a->reps[0].bottom_t());
  // The rim was put on a patch that is followed where it can be; the middle is the knee wherever both are seen.
  for (const auto& here : coaching::shapesOn(page.document().sketch(), *a, frame + 3))
    EXPECT_LT(length(here.anchors[0] - *a->trace.trace.place(frame + 3, tracing::Landmark::Knee)), 0.5);
  EXPECT_GT(length(*a->trace.trace.place(bottom, tracing::Landmark::Knee) - knee), 10) << "the knee does move";

  office.press(Qt::Key_Delete);
  EXPECT_TRUE(page.document().sketch().empty());
  page.document().undoStack().undo();
  EXPECT_EQ(page.document().sketch().shapes.size(), 1u);
  office.press(Qt::Key_Escape);
  office.press(Qt::Key_Escape);
  EXPECT_FALSE(stage.pad().on()) << "Escape puts the pens away";
}

TEST(Drawing, BackLinesAreProposedPulledIntoPlaceAndCompared) {
  Squat office;
  auto& page = office.open(office.id);
  const auto a = page.document().analysis();
  auto& stage = *page.findChild<Stage*>();
  const auto goTo = [&](double t) {
    page.player().goTo(t);
    ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  };
  goTo(a->reps[0].start_t());
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_back")->click();
  clickOn(stage, {10, 10});
  const auto& shapes = page.document().sketch().shapes;
  ASSERT_EQ(shapes.size(), 3u);
  EXPECT_TRUE(shapes[0].proposed);
  // Taken hold of where it is: right as it stands. Pulled: right from then on.
  clickOn(stage, shapes[0].anchors[coaching::kLowBack].place);
  EXPECT_FALSE(shapes[0].proposed);
  goTo(shapes[1].drawn_s);
  const PixelPoint low = shapes[1].anchors[coaching::kLowBack].place;
  const PixelPoint behind{-a->trace.camera.forward * 0.12 * a->trace.camera.pixelsPerMetre(0), 0};
  dragOn(stage, low, low + behind);
  EXPECT_FALSE(shapes[1].proposed);
  EXPECT_GT(length(shapes[1].anchors[coaching::kLowBack].place - low), 10);
  EXPECT_NE(coaching::backLabel(shapes[1], page.document().sketch(), *a).find("rounder"), std::string::npos);
  // What nobody put right is not in the reply.
  EXPECT_TRUE(shapes[2].proposed);
  EXPECT_EQ(page.replyContent().sketch.shapes.size(), 2u);
  for (int i = 0; i < 3; ++i) page.document().undoStack().undo();
  EXPECT_TRUE(page.document().sketch().empty());
}

TEST(Drawing, AWantedPoseOnTheBenchIsPulledByBarAndElbow) {
  Office office;
  const auto id = office.send("Kit Marlin", JIB_MADE_CLIPS "/small-bench.mp4", "Bench press 80 kg x 2, paused.");
  traceAsAPress(office, id);
  auto& page = office.open(id);
  const auto a = page.document().analysis();
  auto& stage = *page.findChild<Stage*>();
  page.player().goTo(a->reps[0].bottom_t());
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  office.press(Qt::Key_D);
  in<QToolButton>(page, "draw_pose")->click();
  clickOn(stage, {10, 10});
  const auto& shapes = page.document().sketch().shapes;
  ASSERT_EQ(shapes.size(), 1u);
  const coaching::Shape as_is = shapes[0];
  const double px = a->trace.camera.pixelsPerMetre(a->trace.camera.plate_m);
  const PixelPoint lower{a->trace.camera.forward * 0.06 * px, 0};  // towards the feet
  const PixelPoint bar = as_is.anchors[coaching::kPressBar].place;
  dragOn(stage, bar, bar + lower);
  EXPECT_LT(length(shapes[0].anchors[coaching::kPressBar].place - (bar + lower)), 2);
  const PixelPoint elbow = shapes[0].anchors[coaching::kPressElbow].place;
  dragOn(stage, elbow, elbow - lower);
  EXPECT_GT(length(shapes[0].anchors[coaching::kPressElbow].place - elbow), 0.015 * px);
  EXPECT_EQ(shapes[0].anchors[coaching::kPressShoulder], as_is.anchors[coaching::kPressShoulder]);
  page.document().undoStack().undo();
  EXPECT_LT(length(shapes[0].anchors[coaching::kPressElbow].place - elbow), 1e-6);
}

TEST(Drawing, ALineAlongAPostSaysWhatIsVertical) {
  Squat office;
  auto& page = office.open(office.id);
  auto& document = page.document();
  const auto leans = [&] {
    return lifts::find(document.analysis()->measures.reps[0], "trunk_lean_start_deg")->measured()->value;
  };
  const double was = leans();
  auto& stage = *page.findChild<Stage*>();
  office.press(Qt::Key_D);
  auto& says = *in<QToolButton>(page, "saysVertical");
  EXPECT_FALSE(says.isVisible()) << "no line is chosen";
  in<QToolButton>(page, "draw_line")->click();
  clickOn(stage, {60, 60});
  clickOn(stage, {75, 260});
  ASSERT_EQ(document.sketch().shapes.size(), 1u);
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled(); }, kPatience_ms));
  ASSERT_TRUE(says.isVisible());
  office.press(Qt::Key_D, Qt::ShiftModifier);
  ASSERT_TRUE(document.setUp().roll_deg);
  EXPECT_GT(std::abs(leans() - was), 1);
  EXPECT_TRUE(office.library.submission(office.id)->details.roll_deg) << "it is kept";
  document.undoStack().undo();
  EXPECT_FALSE(document.setUp().roll_deg);
  EXPECT_DOUBLE_EQ(leans(), was);
  document.undoStack().redo();
  // Taken back without undo, as on another day: with no line chosen the film tells again.
  office.press(Qt::Key_Delete);
  EXPECT_TRUE(says.isVisible() && says.isChecked());
  says.click();
  EXPECT_FALSE(office.library.submission(office.id)->details.roll_deg);
  EXPECT_DOUBLE_EQ(leans(), was);
  EXPECT_FALSE(says.isVisible());
}

TEST(Drawing, IsInTheExportedFramesWhereTheKneeIs) {
  Squat office;
  library::Review review;
  const auto& a = tests::smallAnalysis();
  coaching::Shape line;
  line.kind = coaching::ShapeKind::Line;
  const std::size_t drawn = a.motion.frameAt(a.reps[0].start_t());
  const PixelPoint knee = *a.trace.trace.place(drawn, tracing::Landmark::Knee);
  line.anchors = {{knee, tracing::Landmark::Knee, 0, {}}, {knee + PixelPoint{0, -40}, tracing::Landmark::Knee, 0, {}}};
  line.drawn_s = a.motion.times_s[drawn];
  line.from_s = 0;
  line.to_s = a.motion.times_s.back();
  review.sketch.shapes = {line};
  coaching::Cue bottom = coaching::ownCue(a.reps[0].bottom_t()), top = coaching::ownCue(a.reps[0].start_t());
  bottom.wording = "Here.";
  bottom.also_s = {a.reps[1].bottom_t()};
  top.wording = "There.";
  review.cues = {top, bottom};
  review.cues_chosen = true;
  ASSERT_TRUE(office.library.saveReview(office.id, review));
  auto& page = office.open(office.id);
  QSignalSpy sent(&page, &ReviewPage::replyWritten);
  const auto folder = office.folder / "reply";
  page.writeReplyTo(QString::fromStdString(folder.string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return sent.count() == 1; }, kPatience_ms));
  // The stills are the film's own frames. Where the magenta is tells where the knee is drawn.
  std::vector<QPointF> middles;
  for (const auto& entry : std::filesystem::directory_iterator(folder)) {
    if (entry.path().extension() != ".png") continue;
    const QImage still(QString::fromStdString(entry.path().string()));
    QPointF sum;
    int n = 0;
    for (int y = 0; y < still.height(); ++y)
      for (int x = 0; x < still.width(); ++x) {
        const QColor c = still.pixelColor(x, y);
        if (c.red() > 190 && c.green() < 60 && c.blue() > 120 && c.blue() < 175) {
          sum += QPointF(x, y);
          ++n;
        }
      }
    ASSERT_GT(n, 50) << entry.path();
    middles.push_back(sum / n);
  }
  ASSERT_EQ(middles.size(), 3u) << "one for the first cue, two frames for the second";
  double spread = 0;
  for (const QPointF& m : middles)
    spread = std::max(spread, std::hypot(m.x() - middles[0].x(), m.y() - middles[0].y()));
  EXPECT_GT(spread, 15) << "it goes with the knee";
}

TEST(Drawing, OfANewerProgramIsKeptAndSaid) {
  Squat office;
  library::Review review;
  review.sketch = coaching::sketchFromJson(R"([{"kind": "spiral", "turns": 3}])");
  ASSERT_TRUE(office.library.saveReview(office.id, review));
  auto& page = office.open(office.id);
  EXPECT_TRUE(in<QLabel>(page, "camera")->text().contains("One drawing is from a newer Jagged Jib"));
  office.press(Qt::Key_N);  // something is saved
  EXPECT_TRUE(QTest::qWaitFor([&] { return office.library.review(office.id)->cues.size() > 0; }, kPatience_ms));
  EXPECT_NE(coaching::sketchToJson(office.library.review(office.id)->sketch).find("spiral"), std::string::npos);
}

TEST(Preview, ShowsFilmAndPageBeforeAnythingIsReturned) {
  Squat office;
  auto& page = office.open(office.id);
  in<QPushButton>(page, "previewReply")->click();
  QDialog* dialog = nullptr;
  ASSERT_TRUE(QTest::qWaitFor([&] { return (dialog = page.findChild<QDialog*>("preview")) != nullptr; }, kPatience_ms));
  auto* film = dialog->findChild<QLabel*>("previewFilm");
  EXPECT_TRUE(QTest::qWaitFor([&] { return !film->pixmap().isNull(); }, kPatience_ms));
  const QString text = dialog->findChild<QTextBrowser*>("previewPage")->toPlainText();
  EXPECT_TRUE(text.contains("Kit Marlin")) << text.toStdString();
  EXPECT_NE(office.library.submission(office.id)->state, library::SubmissionState::Returned);
  dialog->reject();
}

TEST(OwnChecks, AreNamedOnceMarkedLikeTheOthersAndBecomeACue) {
  Squat office;
  auto& page = office.open(office.id);
  QTimer::singleShot(0, [&] {
    auto* ask = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
    ask->setTextValue("Wrists bend back");
    ask->accept();
  });
  office.press(Qt::Key_K);
  ASSERT_EQ(page.document().marks().size(), 1u);
  const auto& findings = page.document().analysis()->findings;
  ASSERT_TRUE(
      std::any_of(findings.begin(), findings.end(), [](const auto& f) { return f.id == "own.Wrists bend back"; }));
  in<QPushButton>(page, "say_own.Wrists bend back")->click();
  EXPECT_EQ(page.document().choice().cues.back().title, "Wrists bend back");
}

}  // namespace
}  // namespace jib::desk
