// SPDX-License-Identifier: GPL-3.0-or-later
// A deadlift and a bench press, from the mail in the queue to the reply in the outbox, in the real window.
#include <QAction>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableView>
#include <QTest>
#include <QToolButton>

#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/mail.h"
#include "core/footage/frame_reader.h"
#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/finding_scale.h"
#include "desk/review/findings_panel.h"
#include "desk/review/measures_model.h"
#include "desk/review/other_view.h"
#include "desk/review/pin_panel.h"
#include "desk/review/review_page.h"
#include "desk/review/scrubber.h"
#include "desk/review/stage.h"
#include "drawing/reply_frame.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/kept_analysis.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

constexpr int kPatience_ms = 120000;  // how long a signal is waited for; nothing is timed

struct Sent {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  library::SubmissionId id{0};
  std::unique_ptr<DeskWindow> window;

  // `traced`: the film was looked at before, as it was while nobody was there.
  Sent(const std::string& lift, const std::string& words, bool traced = false) {
    EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
    const std::string film = tests::bytesOf(std::string(JIB_MADE_CLIPS) + "/small-" + lift + ".mp4");
    const auto eml =
        folder.write("kit.eml", tests::header("Kit Marlin <kit@tide.invalid>", "1@k", lift) +
                                    tests::multipart({tests::textPart(words), tests::filePart("set.mp4", film)}));
    Task task;
    EXPECT_TRUE(exchange::receive(library, eml, "2026-11-25", task));
    id = library.submissions()->front().id;
    if (traced) {
      const auto row = *library.submission(id);
      EXPECT_TRUE(
          library.saveTracing(id, tests::keptTracing(lift, library.clipFile(row), exchange::requestFor(row, {}, {}))));
    }
    window = std::make_unique<DeskWindow>(*library::Library::open(folder / "lib"));
    window->resize(1280, 760);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
  }
  // Enter on the row, and the clip is traced.
  ReviewPage& open() {
    auto* queue = window->findChild<QTableView*>("submissions");
    queue->setFocus();
    queue->selectRow(0);
    QTest::keyClick(queue, Qt::Key_Return);
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->reviewPage() != nullptr; }, kPatience_ms));
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return window->reviewPage()->settled() && window->reviewPage()->document().analysis() != nullptr; },
        kPatience_ms));
    return *window->reviewPage();
  }
  exchange::Mail reply(ReviewPage& page) {
    QSignalSpy posted(&page, &ReviewPage::replyPosted);
    page.findChild<QPushButton*>("primary")->click();
    EXPECT_TRUE(QTest::qWaitFor([&] { return posted.count() == 1; }, kPatience_ms));
    return *exchange::readMail(tests::bytesOf(posted.front().front().toString().toStdString()));
  }
};

QString shownOf(ReviewPage& page, const QString& title) {
  const auto* model = page.findChild<QTableView*>("measures")->model();
  for (int row = 0; row < model->rowCount(); ++row)
    if (model->index(row, 0).data().toString().startsWith(title)) return model->index(row, 1).data().toString();
  return {};
}

TEST(ThreeLifts, ADeadliftGoesFromTheQueueToTheReturnedReply) {
  Sent sent("deadlift", "Deadlift 120 kg x 2, conventional. How is the bar path?");
  auto& page = sent.open();
  const auto a = page.document().analysis();
  EXPECT_EQ(a->request.lift, lifts::LiftId::Deadlift);
  ASSERT_EQ(a->reps.size(), 2u);
  EXPECT_FALSE(shownOf(page, "Bar loops in front").isEmpty());
  EXPECT_TRUE(shownOf(page, "Hip crease").isEmpty()) << "no squat's measure";
  ASSERT_EQ(page.document().choice().cues.size(), 1u);
  EXPECT_EQ(page.document().choice().cues[0].title, "Bar swings around the knees");
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("Bar swings around the knees"), std::string::npos);
  EXPECT_EQ(mail.text.find("squat"), std::string::npos) << mail.text;
  ASSERT_EQ(mail.clips.size(), 1u);
  EXPECT_GT(mail.clips[0].bytes.size(), 10000u);
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
  const auto asked = *sent.library.threads(sent.library.submission(sent.id)->athlete);
  ASSERT_EQ(asked.size(), 1u) << "the cue is remembered for the next clip";
  EXPECT_EQ(asked[0].finding, "deadlift.bar_loops");
}

// Frames of a reply's film in which two pictures stand beside each other: the seam between them is of one dark tone.
int framesInPairs(const std::filesystem::path& film) {
  const QRect room = drawing::layoutOf(review::FilmShape::Portrait).picture;  // as phones show it
  auto reader = tests::must(footage::FrameReader::open(film));
  int pairs = 0;
  while (const auto frame = tests::must(reader.next(footage::Pixels::Gray))) {
    cv::Scalar mean, spread;
    cv::meanStdDev(frame->picture(cv::Rect(room.center().x(), room.top() + 4, 1, room.height() - 8)), mean, spread);
    pairs += mean[0] > 20 && mean[0] < 50 && spread[0] < 4 ? 1 : 0;
  }
  return pairs;
}

// The commonest talk about a pull: does the bar bend and wait, or is it jerked? Seen by the coach, it goes out as the
// frame before beside the frame on which it was marked.
TEST(ThreeLifts, SlackMarkedByEyeGoesOutAsBeforeBesideAfter) {
  Sent sent("deadlift", "Deadlift 120 kg x 2, conventional.", true);
  auto& page = sent.open();
  auto& document = page.document();
  const double off_t = document.analysis()->reps[0].bottom_t();
  document.undoStack().push(
      new MarkByEye(document, "mark", {{"deadlift.slack_not_taken", coaching::MarkState::Seen, 1, off_t}}));
  const auto cues = document.choice().cues;
  const auto slack = std::find_if(cues.begin(), cues.end(),
                                  [](const coaching::Cue& c) { return c.finding == "deadlift.slack_not_taken"; });
  ASSERT_NE(slack, cues.end()) << "set-up comes first";
  EXPECT_DOUBLE_EQ(slack->before_s, 0.4);
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("Slack not pulled"), std::string::npos);
  ASSERT_EQ(mail.clips.size(), 1u);
  const auto film = sent.folder.write("reply.mp4", mail.clips[0].bytes);
  constexpr int kFreezeFrames = 105;
  const int pairs = framesInPairs(film);
  EXPECT_GE(pairs, kFreezeFrames - 2);
  EXPECT_LE(pairs, kFreezeFrames + 2) << "and nothing else stands in pairs";
}

// Four weeks after a conventional pull whose bar looped, the same athlete pulls sumo.
TEST(ThreeLifts, ACueIsFollowedFromAConventionalPullToASumoOne) {
  Sent sent("deadlift", "Deadlift 120 kg x 2, conventional.", true);
  {
    auto& first = sent.open();
    ASSERT_EQ(first.document().choice().cues.size(), 1u);
    sent.reply(first);
  }
  const auto athlete = sent.library.submission(sent.id)->athlete;
  std::string head = tests::header("Kit Marlin <kit@tide.invalid>", "2@k", "sumo");
  head.replace(head.find("Fri, 20 Nov"), 11, "Wed, 23 Dec");
  const auto later = sent.folder.write(
      "kit-later.eml", head + tests::multipart({tests::textPart("Deadlift 120 kg x 1, sumo this time."),
                                                tests::filePart("sumo.mp4", tests::bytesOf(std::string(JIB_MADE_CLIPS) +
                                                                                           "/small-sumo.mp4"))}));
  Task task;
  ASSERT_TRUE(exchange::receive(sent.library, later, "2026-12-23", task));
  const auto row = sent.library.submissions()->front();
  ASSERT_EQ(row.athlete, athlete);
  EXPECT_EQ(row.variant, "sumo");
  ASSERT_TRUE(sent.library.saveTracing(
      row.id, tests::keptTracing("sumo", sent.library.clipFile(row), exchange::requestFor(row, {}, {}))));
  sent.window->openSubmission(row.id.number);
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        const auto* page = sent.window->reviewPage();
        return page && page->settled() && sent.window->reviewPage()->document().submission().id == row.id &&
               sent.window->reviewPage()->document().analysis();
      },
      kPatience_ms));
  ReviewPage& page = *sent.window->reviewPage();
  const auto a = page.document().analysis();
  ASSERT_EQ(a->reps.size(), 1u) << "bending down to the bar is no rep";
  EXPECT_GT(a->reps[0].bottom_t(), 2.5) << "the lifter stands over the bar first";
  page.findChild<QAction*>("historyTab")->trigger();
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  const auto* said = page.findChild<QLabel*>("threadState");
  ASSERT_NE(said, nullptr);
  EXPECT_TRUE(said->text().contains("conventional then, sumo now")) << said->text().toStdString();
  const auto mail = sent.reply(page);
  EXPECT_EQ(mail.text.find("Bar swings around the knees"), std::string::npos) << "this bar does not";
  const auto threads = *sent.library.threads(athlete);
  const auto loop =
      std::find_if(threads.begin(), threads.end(), [](const auto& t) { return t.finding == "deadlift.bar_loops"; });
  ASSERT_NE(loop, threads.end());
  ASSERT_TRUE(loop->value_now);
  EXPECT_GT(loop->value_then, 0.04);
  EXPECT_LT(*loop->value_now, 0.03);
  EXPECT_EQ(loop->measured_in, row.id);
  EXPECT_EQ(loop->state, library::ThreadState::NotComparable);
}

TEST(ThreeLifts, ABenchPressGoesFromTheQueueToTheReturnedReply) {
  Sent sent("bench", "Bench press 80 kg x 2, paused.", true);
  auto& page = sent.open();
  ASSERT_EQ(page.document().analysis()->reps.size(), 2u);
  EXPECT_FALSE(shownOf(page, "Pause on the chest").isEmpty());
  auto* scrubber = page.findChild<Scrubber*>("scrubber");
  const double x = scrubber->xAt(page.document().analysis()->reps[0].bottom_t());
  QTest::mouseMove(scrubber, QPoint(static_cast<int>(std::lround(x)), 40));
  EXPECT_TRUE(QTest::qWaitFor([&] { return scrubber->toolTip().contains("touch"); }, kPatience_ms))
      << "a bench press has no bottom: " << scrubber->toolTip().toStdString();
  EXPECT_FALSE(shownOf(page, "Elbow ahead of bar").isEmpty()) << "the body that lies is traced";
  ASSERT_FALSE(page.document().choice().cues.empty());
  EXPECT_EQ(page.document().choice().cues[0].title, "Butt comes up");
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("The descent is controlled"), std::string::npos) << mail.text;
  EXPECT_NE(mail.text.find("the phone at bench height"), std::string::npos) << "not where a squat's belongs";
  EXPECT_EQ(mail.text.find("deep enough"), std::string::npos);
  EXPECT_NE(mail.text.find("Butt comes up"), std::string::npos) << mail.text;
  EXPECT_EQ(mail.text.find("squat"), std::string::npos) << mail.text;
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
}

TEST(ThreeLifts, APressFromBehindTheHeadGoesFromTheQueueToTheReturnedReply) {
  Sent sent("head", "Bench press 80 kg x 1, paused. Is the bar level?", true);
  auto& page = sent.open();
  const auto a = page.document().analysis();
  ASSERT_TRUE(a->trace.front) << "nobody said from where it is filmed";
  ASSERT_EQ(a->reps.size(), 1u);
  EXPECT_FALSE(shownOf(page, "Bar tilt").isEmpty());
  EXPECT_TRUE(shownOf(page, "Hips off the pad").isEmpty()) << "they are not seen from here";
  EXPECT_TRUE(page.document().choice().cues.empty()) << "left against right in one set is no cue by itself";
  auto* findings = page.findChild<FindingsPanel*>();
  const auto* waits = findings->findChild<QLabel*>("parked_bench.bar_tilts");
  ASSERT_NE(waits, nullptr);
  EXPECT_TRUE(waits->text().contains("once it comes back"));
  // The athlete asked, so the coach says it all the same.
  findings->findChild<QPushButton*>("say_bench.bar_tilts")->click();
  ASSERT_EQ(page.document().choice().cues.size(), 1u);
  EXPECT_EQ(page.document().choice().cues[0].title, "Bar uneven");
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("Bar uneven, left end higher"), std::string::npos) << mail.text;
  EXPECT_NE(mail.text.find("straight from behind the head"), std::string::npos) << mail.text;
  EXPECT_EQ(mail.text.find("whole body"), std::string::npos) << "nor do they have to be";
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
}

TEST(ThreeLifts, AFrontSquatIsJudgedAndSpokenOfAsOne) {
  Sent sent("racked", "Front squat 60 kg x 1. Do my elbows drop?", true);
  EXPECT_EQ(sent.library.submission(sent.id)->variant, "front");
  auto& page = sent.open();
  const auto a = page.document().analysis();
  ASSERT_EQ(a->reps.size(), 1u);
  EXPECT_FALSE(shownOf(page, "Hip crease").isEmpty());
  const auto by_eye = page.document().book().byEye(lifts::LiftId::Squat);
  const auto looks_for = [&](const char* finding) {
    return std::any_of(by_eye.begin(), by_eye.end(), [&](const auto* e) { return e->finding == finding; });
  };
  EXPECT_TRUE(looks_for("squat.elbows_drop"));
  EXPECT_FALSE(looks_for("squat.wrists_bent"));
  // Said to be a back squat it is spoken of as one, at once, and back again.
  const auto shown = [&](const char* finding) {
    auto* model = page.findChild<QTableView*>("measures")->model();
    for (int row = 0; row < model->rowCount(); ++row)
      if (model->index(row, 0).data(MeasuresModel::ByEyeRole).toString() == finding) return true;
    return false;
  };
  EXPECT_TRUE(shown("squat.elbows_drop"));
  auto* variant = page.findChild<QComboBox*>("variant");
  variant->setCurrentIndex(variant->findData("high-bar"));
  EXPECT_FALSE(shown("squat.elbows_drop"));
  EXPECT_TRUE(shown("squat.wrists_bent"));
  page.document().undoStack().undo();
  EXPECT_TRUE(shown("squat.elbows_drop"));
  const auto mail = sent.reply(page);
  EXPECT_EQ(mail.text.find("into the bar"), std::string::npos) << mail.text;
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
}

TEST(ThreeLifts, AnOverheadPressGoesFromTheQueueToTheReturnedReply) {
  Sent sent("overhead", "Strict press 45 kg x 2, from the side. Is the bar going straight up?", true);
  auto& page = sent.open();
  const auto a = page.document().analysis();
  EXPECT_EQ(a->request.lift, lifts::LiftId::Overhead);
  EXPECT_EQ(a->reps.size(), 2u);
  EXPECT_FALSE(shownOf(page, "Bar drift forward").isEmpty());
  EXPECT_TRUE(shownOf(page, "Hip crease").isEmpty()) << "no squat's measure";
  // It is close to the limit: the coach decides.
  const std::string finding = "overhead.drifts_forward";
  auto* say = page.findChild<QPushButton*>("say_overhead.drifts_forward");
  ASSERT_NE(say, nullptr);
  say->click();
  ASSERT_EQ(page.document().choice().cues.size(), 1u);
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find(page.document().choice().cues[0].wording), std::string::npos) << mail.text;
  EXPECT_EQ(mail.text.find("squat"), std::string::npos) << mail.text;
  ASSERT_EQ(mail.clips.size(), 1u);
  const auto asked = *sent.library.threads(sent.library.submission(sent.id)->athlete);
  ASSERT_FALSE(asked.empty()) << "the cue is remembered for the next clip";
  EXPECT_EQ(asked[0].finding, finding);
}

TEST(FilmedFromWhere, TheCoachSaysItAndTakesItBack) {
  Sent sent("bench", "Bench press 80 kg x 2, paused.");
  sent.window->openSubmission(sent.id.number);
  const auto asked = [&](tracing::View view) {
    return QTest::qWaitFor(
        [&] {
          auto* page = sent.window->reviewPage();
          return page && page->document().request().trace.view == view;
        },
        kPatience_ms);
  };
  ASSERT_TRUE(asked(tracing::View::Auto));
  auto* from = sent.window->reviewPage()->findChild<QComboBox*>("seenFrom");
  EXPECT_EQ(from->findData("rear"), -1) << "nobody lies with the back to a camera";
  EXPECT_GE(from->findData("head"), 0);
  from->setCurrentIndex(from->findData("right"));
  ASSERT_TRUE(asked(tracing::View::Right)) << "it is opened anew, to be traced so";
  EXPECT_EQ(sent.library.submission(sent.id)->details.seen_from, "right");
  from = sent.window->reviewPage()->findChild<QComboBox*>("seenFrom");
  EXPECT_EQ(from->currentData().toString(), "right") << "it is kept";
  sent.window->reviewPage()->document().undoStack().undo();
  ASSERT_TRUE(asked(tracing::View::Auto));
  EXPECT_EQ(sent.library.submission(sent.id)->details.seen_from, "");
}

// Down, aside and up, as a hand does it. The numbers follow, for both are one press of undo away.
void dragTheLeftKnee(ReviewPage& page) {
  auto& document = page.document();
  const tracing::PointName knee{tracing::Landmark::Knee, tracing::BodySide::Left};
  page.player().goTo(lifts::find(document.analysis()->measures.reps[0], "knee_cave_left_m")->measured()->t_s);
  auto* stage = page.findChild<Stage*>();
  ASSERT_TRUE(QTest::qWaitFor([&] { return stage->frame() == page.player().frame(); }, kPatience_ms));
  const auto inwards = [&] {
    return lifts::find(document.analysis()->measures.reps[0], "knee_cave_left_m")->measured()->value;
  };
  const auto place = *document.analysis()->trace.place(page.player().frame(), knee);
  const double was = inwards();
  const QPoint from = stage->toStage(place).toPoint();
  QTest::mouseMove(stage, from);
  EXPECT_TRUE(stage->toolTip().startsWith("left knee")) << stage->toolTip().toStdString();
  QTest::mousePress(stage, Qt::LeftButton, {}, from);
  for (int step = 1; step <= 3; ++step) QTest::mouseMove(stage, from - QPoint(5 * step, 0));
  QTest::mouseRelease(stage, Qt::LeftButton, {}, from - QPoint(15, 0));
  ASSERT_TRUE(document.pin({page.player().time(), knee}));
  EXPECT_EQ(page.findChild<PinPanel*>()->count(), 1);
  const double dragged = inwards();
  EXPECT_GT(dragged, was + 0.01) << "the athlete's left is on the right of the picture";
  QTest::keyClick(stage, Qt::Key_Left, Qt::ControlModifier | Qt::ShiftModifier);
  document.undoStack().undo();
  EXPECT_FALSE(document.pin({page.player().time(), knee}));
  EXPECT_DOUBLE_EQ(inwards(), was);
}

// The question of the demo: do my knees cave in?
TEST(ThreeLifts, ASquatFromTheFrontGoesFromTheQueueToTheReturnedReply) {
  Sent sent("front", "Squat 90 kg x 2, high bar. Do my knees cave in?", true);
  auto& page = sent.open();
  ASSERT_TRUE(page.document().analysis()->isTraced());
  ASSERT_TRUE(page.document().analysis()->trace.front);
  EXPECT_FALSE(shownOf(page, "Left knee in").isEmpty());
  for (const char* line : {"line_Depth", "line_Mid-foot"})
    EXPECT_FALSE(page.findChild<QAction*>(line)->isVisible()) << "it would switch nothing from here";
  EXPECT_TRUE(shownOf(page, "Hip crease").isEmpty()) << "not seen from here";
  dragTheLeftKnee(page);
  ASSERT_FALSE(page.document().choice().cues.empty());
  EXPECT_EQ(page.document().choice().cues[0].title, "Knees cave");
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("Knees cave"), std::string::npos) << mail.text;
  EXPECT_NE(mail.text.find("straight from the front"), std::string::npos) << "filmed again from where it shows";
  ASSERT_EQ(mail.clips.size(), 1u);
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
}

// "Do my knees cave in?", asked with a film from the side and one from the front.
TEST(TwoFilms, OfOneSetAreOneReviewAndOneReply) {
  Sent sent("squat", "Squat 90 kg x 2. Do my knees cave in?", true);
  const auto side = *sent.library.submission(sent.id);
  library::Submission s = side;
  s.clip_name = "front.mp4";
  s.message_id.reset();
  Task task;
  const auto front_id = *sent.library.addSubmission(s, std::string(JIB_MADE_CLIPS) + "/small-front.mp4", task);
  // The turn of the first rep, as the simulator has it, brings both into one time.
  ASSERT_TRUE(sent.library.joinSet(sent.id, front_id, 0));
  // A third that tells nothing more, linked by way of the second: it can be looked at.
  s.clip_name = "third.mp4";
  const auto third_id = *sent.library.addSubmission(s, std::string(JIB_MADE_CLIPS) + "/small-squat.mp4", task);
  ASSERT_TRUE(sent.library.joinSet(front_id, third_id, 0.5));
  ASSERT_TRUE(sent.library.saveTracing(third_id, *sent.library.tracing(sent.id)));
  sent.window->libraryPage().refresh();
  sent.window->libraryPage().select(sent.id);

  sent.window->openSubmission(sent.id.number);
  ReviewPage& page = *sent.window->reviewPage();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return page.settled() && page.document().analysis() && page.document().analysis()->others.size() == 2; },
      kPatience_ms));
  EXPECT_FALSE(shownOf(page, "Hip crease").isEmpty()) << "from the side";
  EXPECT_FALSE(shownOf(page, "Left knee in").isEmpty()) << "from the front";
  EXPECT_EQ(sent.library.tracing(front_id)->empty(), false) << "it need not be traced again";

  // The answer, with its causes, on the frame of the film that shows it.
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  auto* verdict = page.findChild<QLabel*>("verdict_squat.knees_cave");
  ASSERT_NE(verdict, nullptr);
  EXPECT_TRUE(verdict->text().contains("from the front")) << verdict->text().toStdString();
  EXPECT_NE(page.findChild<QToolButton*>("why_squat.knees_cave"), nullptr);
  auto* beside = page.findChild<OtherView*>("card");
  EXPECT_FALSE(beside->isVisible());
  const auto scale = page.findChild<FindingScale*>("scale_squat.knees_cave");
  ASSERT_NE(scale, nullptr);
  QTest::mouseClick(scale, Qt::LeftButton, {}, scale->place(0).toPoint());
  EXPECT_TRUE(beside->isVisible());
  EXPECT_TRUE(beside->showsEvidence());
  EXPECT_FALSE(page.findChild<Stage*>()->isAncestorOf(beside)) << "large, beside the clip";
  const auto shown = [&] { return beside->findChild<QLabel*>()->text().toStdString(); };
  EXPECT_EQ(shown(), "front.mp4 (1 of 2)");
  QTest::keyClick(page.findChild<Stage*>(), Qt::Key_O, Qt::AltModifier);
  EXPECT_EQ(shown(), "third.mp4 (2 of 2)");
  EXPECT_FALSE(beside->showsEvidence());
  QTest::mouseClick(scale, Qt::LeftButton, {}, scale->place(0).toPoint());
  EXPECT_EQ(shown(), "front.mp4 (1 of 2)") << "what shows the knees";
  // The third hangs on the second: moved, they move together.
  beside->findChild<QDoubleSpinBox*>("pairShift")->setValue(0.1);
  EXPECT_EQ(page.document().analysis()->others[0].offset_s, 0.1);
  EXPECT_EQ(page.document().analysis()->others[1].offset_s, 0.6);
  beside->findChild<QDoubleSpinBox*>("pairShift")->setValue(0);
  page.findChild<QAction*>("otherLargeAction")->trigger();
  EXPECT_TRUE(page.findChild<Stage*>()->isAncestorOf(beside)) << "small again, in its corner";

  // One reply for both, and neither waits any more.
  auto* say = page.findChild<QPushButton*>("say_squat.knees_cave");
  if (say) say->click();
  const auto mail = sent.reply(page);
  EXPECT_NE(mail.text.find("Knees cave"), std::string::npos) << mail.text;
  EXPECT_NE(mail.text.find("once more straight from the front"), std::string::npos) << mail.text;
  ASSERT_EQ(mail.clips.size(), 1u);
  EXPECT_EQ(sent.library.submission(sent.id)->state, library::SubmissionState::Returned);
  EXPECT_EQ(sent.library.submission(front_id)->state, library::SubmissionState::Returned);
  EXPECT_EQ(sent.library.submission(third_id)->state, library::SubmissionState::New) << "of which nothing was said";
  EXPECT_NE(sent.library.submission(front_id)->reason.find("together with"), std::string::npos);
}

}  // namespace
}  // namespace jib::desk
