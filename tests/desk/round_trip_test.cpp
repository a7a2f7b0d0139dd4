// SPDX-License-Identifier: GPL-3.0-or-later
// From a message to a reply in the outbox; what a view does not carry; the other side of a set; a huge queue.
#include <SQLiteCpp/SQLiteCpp.h>
#include <gtest/gtest.h>

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTabWidget>
#include <QTableView>
#include <QTest>
#include <QTimer>
#include <QToolButton>

#include <nlohmann/json.hpp>

#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/findings_panel.h"
#include "desk/review/other_view.h"
#include "desk/review/review_page.h"
#include "desk/review/set_up_strip.h"
#include "desk/review/stage.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/returned.h"

namespace jib::desk {
namespace {

constexpr int kPatience_ms = 120000;  // how long a signal is waited for; nothing is timed

// A library into which Kit, 16, has sent the small clip by mail.
struct Posted {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  library::SubmissionId id{0};

  Posted() {
    const auto eml =
        folder.write("kit.eml", tests::header("Kit Marlin <kit@tide.invalid>", "1@k", "squat") +
                                    tests::multipart({tests::textPart("Squat 60 kg x 2. I'm 16 and my knee hurts."),
                                                      tests::filePart("set.mp4", tests::filmNumber(0))}));
    Task task;
    EXPECT_TRUE(exchange::receive(library, eml, "2026-11-25", task));
    id = library.submissions()->front().id;
  }
  std::unique_ptr<ReviewPage> open() {
    auto page = std::make_unique<ReviewPage>(library, id);
    page->resize(1280, 760);
    page->show();
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return page->settled() && page->document().analysis() != nullptr; }, kPatience_ms));
    return page;
  }
  // As the background keeps a clip it has looked at.
  void traceAhead() {
    const auto& a = tests::smallAnalysis();
    ASSERT_TRUE(library.saveTracing(id, tracing::traceToJson(a.trace).dump()));
    ASSERT_TRUE(library.saveResults(id, a));
    // Traced without the network, so that nobody knows where the face is: the coach says that it may be seen.
    setHidden(false);
  }
  void setHidden(std::optional<bool> hide) {
    ASSERT_TRUE(
        library.edit(library.submission(id)->athlete, [&](library::Athlete& a) { a.profile.hide_faces = hide; }));
  }
};

TEST(RoundTrip, AMessageIsAnsweredByMailWithFilmAndReport) {
  Posted posted;
  posted.traceAhead();
  ASSERT_TRUE(posted.library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
  const auto page = posted.open();
  const auto care = page->findChildren<QLabel*>("care");
  ASSERT_EQ(care.size(), 2) << "under 18, and pain: said before anything is judged";
  EXPECT_TRUE(care[1]->text().contains("nothing here is a diagnosis"));
  QSignalSpy posted_file(page.get(), &ReviewPage::replyPosted);
  auto* reply = page->findChild<QPushButton*>("primary");
  EXPECT_EQ(reply->text(), "Send reply") << "it came by mail";
  reply->click();
  ASSERT_TRUE(QTest::qWaitFor([&] { return posted_file.count() == 1; }, kPatience_ms));
  const std::string bytes = tests::bytesOf(posted_file.front().front().toString().toStdString());
  const auto mail = exchange::readMail(bytes);
  ASSERT_TRUE(mail);
  EXPECT_EQ(mail->to_address, "kit@tide.invalid");
  EXPECT_EQ(mail->from_address, "mara@quill.invalid");
  EXPECT_EQ(mail->text.find("Hi Kit,"), 0u);
  EXPECT_NE(mail->text.find("no max attempts"), std::string::npos);
  ASSERT_EQ(mail->clips.size(), 1u);
  EXPECT_GT(mail->clips[0].bytes.size(), 10000u);
  EXPECT_NE(bytes.find("application/pdf"), std::string::npos) << "a phone shows it";
  EXPECT_EQ(posted.library.submission(posted.id)->state, library::SubmissionState::Returned);
  const auto html =
      tests::bytesOf(tests::fileWith(posted.library.folder() / "replies" / std::to_string(posted.id.number), ".html"));
  EXPECT_NE(html.find("before you load it again"), std::string::npos) << "the report says it as well";
}

TEST(RoundTrip, AYoungFaceThatIsNotFoundGoesOutOnlyOnceItIsRinged) {
  Posted posted;
  posted.traceAhead();
  posted.setHidden({});
  ASSERT_TRUE(posted.library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
  const auto page = posted.open();
  QSignalSpy trouble(page.get(), &ReviewPage::trouble), sent(page.get(), &ReviewPage::replyWritten);
  page->writeReplyTo(QString::fromStdString((posted.folder / "reply").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() + sent.count() > 0; }, kPatience_ms));
  EXPECT_EQ(sent.count(), 0);
  EXPECT_TRUE(trouble.front().front().toString().contains("Blur")) << "and says what to do";
}

TEST(RoundTrip, WhereTheCreaseWasClickedIsKnownOfTheAthleteNextTime) {
  Posted posted;
  posted.traceAhead();
  library::Review review;
  review.placed = tests::smallAnalysis().request.trace.placed;  // with crease and knee's top at the bottom
  ASSERT_TRUE(posted.library.saveReview(posted.id, review));
  const auto athlete = posted.library.submission(posted.id)->athlete;
  {
    const auto page = posted.open();
    EXPECT_EQ(page->findChild<QTabWidget*>("tabs")->tabText(3), "Points (14)");
    page->takeKeys();
    QTest::keyClick(page->focusWidget(), Qt::Key_4);
    EXPECT_EQ(page->findChild<QTabWidget*>("tabs")->currentIndex(), 3);
    EXPECT_FALSE(posted.library.athlete(athlete)->profile.flesh) << "not before it is sent";
    QSignalSpy sent(page.get(), &ReviewPage::replyWritten);
    page->writeReplyTo(QString::fromStdString((posted.folder / "reply").string()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return sent.count() == 1; }, kPatience_ms));
  }
  const auto known = posted.library.athlete(athlete)->profile.flesh;
  ASSERT_TRUE(known);
  EXPECT_TRUE(known->crease_clicked);
  const auto request =
      exchange::requestFor(*posted.library.submission(posted.id), {}, posted.library.athlete(athlete)->profile);
  EXPECT_EQ(request.trace.flesh.crease_out_m, known->crease_out_m);
}

TEST(Letters, AnUnreadableCopyIsSaidAndTheShippedWordsServe) {
  Posted posted;
  posted.folder.write("lib/letters.toml", "[receipt]\nsubject = 3\n");
  LibraryPage page(posted.library);
  page.show();
  page.findChild<QPushButton*>("receipt")->click();
  EXPECT_TRUE(page.findChild<QLabel*>("libraryStatus")->text().contains("letters.toml"));
  EXPECT_TRUE(page.findChild<QPlainTextEdit*>("letter")->toPlainText().contains("has arrived"));
}

TEST(RoundTrip, WhatDoesNotReachTheOutboxIsNotCalledReturned) {
  Posted posted;
  posted.traceAhead();
  posted.folder.write("lib/outbox", "a file stands in the way");
  library::CoachCard coach;
  coach.name = "Mara Quill";
  coach.address = "mara@tide.invalid";
  ASSERT_TRUE(posted.library.setCoach(coach));
  const auto page = posted.open();
  QSignalSpy trouble(page.get(), &ReviewPage::trouble);
  page->returnByMail();
  ASSERT_TRUE(QTest::qWaitFor([&] { return trouble.count() == 1; }, kPatience_ms));
  EXPECT_FALSE(tests::fileWith(posted.library.folder() / "replies" / std::to_string(posted.id.number), ".pdf").empty())
      << "what was written is kept";
  EXPECT_NE(posted.library.submission(posted.id)->state, library::SubmissionState::Returned);
  EXPECT_TRUE(posted.library.threads(posted.library.submission(posted.id)->athlete)->empty()) << "nothing was asked";
}

TEST(RoundTrip, WithoutAnAddressTheFolderIsAsked) {
  Posted posted;
  const auto ola = *posted.library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.athlete = ola;
  s.received_on = "2026-11-20";
  Task task;
  posted.id = *posted.library.addSubmission(s, JIB_MADE_CLIP, task);
  posted.traceAhead();
  const auto page = posted.open();
  EXPECT_EQ(page->findChild<QPushButton*>("primary")->text(), "Save to folder…");
  EXPECT_TRUE(page->findChildren<QLabel*>("care").isEmpty());
  page->returnByMail();
  EXPECT_TRUE(page->findChild<QLabel*>("status")->text().contains("No address")) << "and nothing is written";
  EXPECT_FALSE(std::filesystem::exists(posted.library.folder() / "replies"));
}

// What is found on a page that shows these claims.
TEST(NotCarried, IsGreyWithItsReasonUntilTheCoachOverrulesAndUndoes) {
  Posted posted;
  posted.traceAhead();
  coaching::ClipCheck check;
  check.view = "side";
  check.claims = {{"depth", "Depth", coaching::Can::No, "The camera looks down on the hip by about 21 degrees."},
                  {"lean", "Lean", coaching::Can::Yes, ""}};
  ASSERT_TRUE(posted.library.saveCheck(posted.library.submission(posted.id)->clip_hash, coaching::checkToJson(check)));
  const auto page = posted.open();
  auto* panel = page->findChild<FindingsPanel*>();
  const auto find = [&](const char* name) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return panel->findChild<QWidget*>(QString::fromLatin1(name));
  };
  auto* text = qobject_cast<QLabel*>(find("notCarried_depth"));
  ASSERT_NE(text, nullptr);
  EXPECT_TRUE(text->text().contains("21 degrees"));
  EXPECT_EQ(find("notCarried_lean"), nullptr) << "what is carried is not listed";
  qobject_cast<QPushButton*>(find("overrule_depth"))->click();
  const auto today = library::today();
  EXPECT_EQ(posted.library.submission(posted.id)->details.overruled.at("depth"), today) << "recorded at once";
  EXPECT_TRUE(qobject_cast<QLabel*>(find("notCarried_depth"))->text().contains(QString::fromStdString(today)));
  const auto& notices = page->document().analysis()->notices;
  EXPECT_TRUE(std::any_of(notices.begin(), notices.end(), [](const auto& n) {
    return n.id == "overruled" && n.text.find("Depth is judged although") == 0;
  })) << "the reply says so";
  page->document().undoStack().undo();
  EXPECT_TRUE(posted.library.submission(posted.id)->details.overruled.empty());
}

TEST(NotCarried, OverrulingLetsTheMeasureThrough) {
  coaching::Analysis a = tests::smallAnalysis();
  // The same clip as if seen from high above.
  const auto depth = [&](bool overruled) -> const lifts::NamedMeasure* {
    a.motion.calibration.look_down_deg = 25;
    a.motion.calibration.accepted.clear();
    if (overruled) a.motion.calibration.accepted.push_back("depth");
    a.measures = lifts::measureSet(lifts::definition(a.request.lift), a.motion, a.reps);
    return lifts::find(a.measures.reps.at(0), "hip_crease_above_knee_m");
  };
  EXPECT_FALSE(depth(false)->measured());
  EXPECT_TRUE(depth(true)->measured());
  // A view too far from the side: only what the coach asked for comes back.
  a.motion.calibration.look_down_deg = 0;
  a.motion.calibration.oblique = true;
  a.motion.calibration.accepted = {"lean"};
  a.measures = lifts::measureSet(lifts::definition(a.request.lift), a.motion, a.reps);
  EXPECT_TRUE(lifts::find(a.measures.reps.at(0), "trunk_lean_bottom_deg")->measured());
  EXPECT_FALSE(lifts::find(a.measures.reps.at(0), "hip_crease_above_knee_m")->measured());
}

TEST(OtherSide, ShowsTheSameMomentAndFollowsTheCoachsShift) {
  Posted posted;
  posted.traceAhead();
  // A second film of the set: the small clip with a second of nothing before it would do; here the very clip, shifted.
  library::Submission other = *posted.library.submission(posted.id);
  other.message_id.reset();
  other.details = {};
  Task task;
  const auto second = *posted.library.addSubmission(other, JIB_MADE_CLIP, task);
  ASSERT_TRUE(posted.library.joinSet(posted.id, second, 0.5));
  const auto page = posted.open();
  auto* view = page->findChild<OtherView*>();
  ASSERT_TRUE(view->isOpen());
  EXPECT_FALSE(view->isVisible()) << "until it is asked for";
  page->setFocus();
  QTest::keyClick(page.get(), Qt::Key_O);
  EXPECT_TRUE(view->isVisible());
  page->player().goTo(1.0);
  ASSERT_TRUE(QTest::qWaitFor([&] { return std::abs(view->shownTime() - 1.5) < 0.02; }, kPatience_ms));
  EXPECT_FALSE(view->picture().isNull());
  auto* shift = view->findChild<QDoubleSpinBox*>("pairShift");
  EXPECT_EQ(shift->value(), 0.5);
  shift->setValue(0.2);
  ASSERT_TRUE(QTest::qWaitFor([&] { return std::abs(view->shownTime() - 1.2) < 0.02; }, kPatience_ms));
  EXPECT_EQ(posted.library.submission(second)->details.pair_offset_s, -0.2) << "kept for both";
  QTest::keyClick(page.get(), Qt::Key_O);
  EXPECT_FALSE(view->isVisible());
}

TEST(AthletePanel, ShowsTheBuildTheNewestFilmTells) {
  Posted posted;
  AthletePanel panel(posted.library);
  const auto athlete = posted.library.submission(posted.id)->athlete;
  const auto build = [&]() -> QString {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    panel.show(athlete);
    auto* label = panel.findChild<QLabel*>("build");
    return label ? label->text() : QString();
  };
  EXPECT_TRUE(build().isEmpty()) << "nothing is traced yet";
  posted.traceAhead();
  EXPECT_TRUE(build().contains("thigh to torso")) << build().toStdString();
  EXPECT_TRUE(build().contains("±"));
}

// A front view shows no plate as a disc: nothing is wrong with it, and nothing is there to be clicked.
TEST(FrontView, IsLookedAtByEyeAndSaysWhereTheNumbersAre) {
  Posted posted;
  const auto still = posted.folder / "front.mp4";
  ASSERT_TRUE(tests::writeCountingClip(still, 20, 160, 120));
  library::Submission s = *posted.library.submission(posted.id);
  s.message_id.reset();
  s.clip_name.clear();
  Task task;
  const auto side = posted.id;
  posted.id = *posted.library.addSubmission(s, still, task);
  coaching::ClipCheck check;
  check.view = "front";
  check.claims = {{"depth", "Depth", coaching::Can::No, "Not seen from the front."}};
  ASSERT_TRUE(posted.library.saveCheck(posted.library.submission(posted.id)->clip_hash, coaching::checkToJson(check)));
  const auto open = [&] {
    auto page = std::make_unique<ReviewPage>(posted.library, posted.id);
    page->resize(1280, 760);
    page->show();
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return page->findChild<QLabel*>("status")->text().startsWith("Filmed from the front"); }, kPatience_ms));
    return page;
  };
  {
    const auto page = open();
    auto* status = page->findChild<QLabel*>("status");
    EXPECT_TRUE(status->text().contains("pair it with a side view"));
    EXPECT_NE(status->property("tone").toString(), "bad") << "it is no trouble";
    EXPECT_NE(page->findChild<QLabel*>("notCarried_depth"), nullptr);
    EXPECT_FALSE(page->findChild<Stage*>("stage")->placing()) << "and nothing is to be clicked";
    EXPECT_FALSE(page->findChild<QPushButton*>("primary")->isEnabled()) << "there is nothing to return yet";
  }
  auto front = *posted.library.submission(posted.id);
  front.pair = side;
  ASSERT_TRUE(posted.library.edit(front.id, [&](auto& row_now) { row_now = front; }));
  EXPECT_TRUE(open()->findChild<QLabel*>("status")->text().contains("measured in its other clip"));
}

TEST(OneSetOfSeveral, IsChosenInTheSetUpStripWithItsLoad) {
  coaching::Analysis parted = tests::smallAnalysis();
  const double middle = (parted.reps.at(0).lockout_t() + parted.reps.at(1).start_t()) / 2;
  auto bar = std::make_shared<tracing::BarTrace>(*parted.trace.bar);
  for (double& t : bar->times_s)
    if (t > middle) t += 60;
  parted.trace.bar = bar;
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.load_kg = 100;
  s.details.set_loads_kg = {100, 120};
  ReviewDocument document({library::AthleteId(1), "Ola", "", "balanced"}, s, {}, JIB_MADE_CLIP,
                          *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  parted.request = document.request();
  tracing::solveAgain(parted.trace, parted.request.trace, parted.clip.width, parted.clip.height);
  coaching::judgeAgain(parted, document.style(), document.book());
  SetUpStrip strip(document);
  strip.show();
  document.setAnalysis(parted);
  auto* sets = strip.findChild<QComboBox*>("set");
  ASSERT_TRUE(sets->isVisible());
  EXPECT_EQ(sets->count(), 2);
  EXPECT_EQ(document.analysis()->set, 1u) << "the heavier";
  sets->setCurrentIndex(0);
  EXPECT_EQ(document.analysis()->set, 0u);
  EXPECT_EQ(document.submission().details.top_set, 0);
  EXPECT_EQ(document.submission().load_kg, 100);
  strip.findChild<QDoubleSpinBox*>("load")->setValue(105);
  EXPECT_EQ(document.submission().details.set_loads_kg[0], 105) << "the load of the set that is judged";
  document.undoStack().undo();
  document.undoStack().undo();
  EXPECT_EQ(document.analysis()->set, 1u);
}

TEST(CoachDialog, KeepsWhoWritesBackAndRefusesWhatIsNoAddress) {
  Posted posted;
  CoachDialog dialog(posted.library);
  dialog.show();
  dialog.findChild<QLineEdit*>("coachName")->setText("  Mara   Quill ");
  auto* address = dialog.findChild<QLineEdit*>("coachAddress");
  address->setText("mara");
  dialog.accept();
  EXPECT_TRUE(dialog.isVisible()) << "answers would not find the coach";
  address->setText("mara@quill.invalid");
  auto* style = dialog.findChild<QComboBox*>("coachStyle");
  style->setCurrentIndex(style->findData("upright"));
  auto* foot = dialog.findChild<QComboBox*>("coachTopic_foot");
  foot->setCurrentIndex(foot->findData("heel"));
  dialog.accept();
  EXPECT_FALSE(dialog.isVisible());
  EXPECT_EQ(posted.library.coach()->style, "upright");
  EXPECT_EQ(posted.library.coach()->switches, (coaching::Switches{{"foot", "heel"}}));
  EXPECT_EQ(posted.library.coach()->name, "Mara Quill");
  EXPECT_EQ(posted.library.coach()->address, "mara@quill.invalid");
}

TEST(Background, IsStoppedAndGoesOnWhenTheCoachSaysSo) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  library::Submission s;
  s.lift = "squat";
  s.variant = "low-bar";
  s.athlete = *library.addAthlete({library::AthleteId(0), "Ola", "", "balanced"});
  s.received_on = "2026-11-20";
  Task task;
  ASSERT_TRUE(library.addSubmission(s, JIB_MADE_CLIP, task));
  DeskWindow window(std::move(library));
  window.show();
  window.prepareInBackground();
  auto* button = window.findChild<QPushButton*>("stopBackground");
  ASSERT_TRUE(QTest::qWaitFor([&] { return button->isVisible(); }, kPatience_ms));
  EXPECT_EQ(button->text(), "Stop");
  button->click();
  ASSERT_TRUE(QTest::qWaitFor([&] { return button->text() == "Resume"; }, kPatience_ms));
  EXPECT_FALSE(window.preparing());
  auto kept = *library::Library::open(folder / "lib");
  EXPECT_EQ(exchange::unprepared(kept)->size(), 1u) << "nothing half-done is kept";
  button->click();
  EXPECT_TRUE(window.preparing());
  ASSERT_TRUE(QTest::qWaitFor([&] { return !window.preparing(); }, kPatience_ms));
  EXPECT_TRUE(exchange::unprepared(kept)->empty());
  EXPECT_FALSE(button->isVisible());
}

TEST(Queue, SaysWhatIsDueAndPutsItFirst) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  const auto add = [&](const char* name, const char* received, int due_in_days) {
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = *library.addAthlete({library::AthleteId(0), name, "", "balanced"});
    s.received_on = received;
    Task task;
    const auto id = *library.addSubmission(s, folder.write(std::string(name) + ".mp4", name), task);
    library::CueThread t;
    t.athlete = s.athlete;
    t.review_on = library::daysLater(library::today(), due_in_days);
    if (due_in_days != 0) {
      ASSERT_TRUE(tests::returned(library, id, {t}));
    }
  };
  add("Ola", "2026-11-03", 20);
  add("Pim", "2026-11-02", -3);
  add("Quin", "2026-11-04", 0);
  LibraryPage page(library);
  page.resize(1280, 760);
  page.show();
  auto* athletes = page.findChild<QListWidget*>("athletes");
  QStringList shown;
  for (int i = 0; i < athletes->count(); ++i) shown << athletes->item(i)->text();
  EXPECT_TRUE(
      shown[1].contains("due " + QString::fromStdString(library::spoken(library::daysLater(library::today(), 20)))));
  EXPECT_TRUE(shown[2].contains("3 d overdue"));
  EXPECT_EQ(shown[3], "Quin") << "nothing was asked";
  auto* order = page.findChild<QComboBox*>("order");
  auto* model = page.findChild<QTableView*>("submissions")->model();
  const auto names = [&] {
    QStringList all;
    for (int r = 0; r < model->rowCount(); ++r) all << model->index(r, SubmissionsModel::AthleteName).data().toString();
    return all;
  };
  EXPECT_EQ(names(), (QStringList{"Quin", "Ola", "Pim"})) << "what was returned waits for nobody: the newest first";
  order->setCurrentIndex(order->findText("follow-up due first"));
  EXPECT_EQ(names(), (QStringList{"Pim", "Ola", "Quin"}));
  // A new film of who is overdue stands on top, though others are newer.
  library::Submission film;
  const auto all = *library.athletes();
  for (const auto& a : all)
    if (a.name == "Pim") film.athlete = a.id;
  film.lift = "squat";
  film.received_on = "2026-11-01";
  Task task;
  ASSERT_TRUE(library.addSubmission(film, folder.write("again.mp4", "again"), task));
  page.refresh();
  order->setCurrentIndex(order->findText("due today, then newest"));
  EXPECT_EQ(names(), (QStringList{"Pim", "Quin", "Ola", "Pim"}));
  EXPECT_TRUE(model->index(0, SubmissionsModel::Received).data().toString().contains("follow-up due"));
}

TEST(Queue, HoldsTenThousandSubmissions) {
  tests::ScratchFolder folder;
  auto library = *library::Library::open(folder / "lib");
  {
    SQLite::Database db((folder / "lib/library.sqlite").string(), SQLite::OPEN_READWRITE);
    SQLite::Transaction whole(db);
    for (int a = 1; a <= 200; ++a)
      db.exec("INSERT INTO athlete(name, note) VALUES('Athlete " + std::to_string(a) + "', '')");
    SQLite::Statement s(db,
                        "INSERT INTO submission(athlete, received_on, message, lift, variant, plate_mm, slow_factor, "
                        "clip_name, clip_hash, state) VALUES(?, ?, ?, 'squat', 'low-bar', 450, 1, 'a.mp4', ?, ?)");
    for (int k = 0; k < 10000; ++k) {
      s.reset();
      s.bind(1, 1 + k % 200);
      s.bind(2, "2026-" + std::string(k % 12 < 9 ? "0" : "") + std::to_string(1 + k % 12) + "-11");
      s.bind(3, "message " + std::to_string(k));
      s.bind(4, "hash" + std::to_string(k));
      s.bind(5, k % 3 == 0 ? "new" : "returned");
      s.exec();
    }
    whole.commit();
  }
  LibraryPage page(library);
  page.resize(1280, 760);
  page.show();
  auto* model = page.findChild<QTableView*>("submissions")->model();
  EXPECT_EQ(model->rowCount(), 10000);
  page.findChild<QLineEdit*>("find")->setText("message 4242");
  ASSERT_EQ(model->rowCount(), 1);
  EXPECT_EQ(model->index(0, SubmissionsModel::Message).data().toString(), "message 4242");
  page.findChild<QLineEdit*>("find")->clear();
  page.chooseAthlete(library::AthleteId(7));
  EXPECT_EQ(model->rowCount(), 50);
}

}  // namespace
}  // namespace jib::desk
