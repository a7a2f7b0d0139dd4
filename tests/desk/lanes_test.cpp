// SPDX-License-Identifier: GPL-3.0-or-later
// Jobs that must not cancel one another, replies that must not vanish, and words of strangers that stay words.
#include <gtest/gtest.h>

#include <QLabel>
#include <QPushButton>
#include <QSignalSpy>
#include <QStandardItemModel>
#include <QTableView>
#include <QTest>
#include <QToolTip>

#include "core/footage/frame_reader.h"
#include "desk/desk_window.h"
#include "desk/jobs/returns.h"
#include "desk/library_page/library_page.h"
#include "desk/outbox/outbox_page.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/review_page.h"
#include "desk/widgets/flow.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"

namespace jib::desk {
namespace {

using tests::must;

constexpr int kPatience_ms = 60000;

TEST(JobRunner, QueuesWhatIsWantedEachAndRefusesWhatMustNotBeDisturbed) {
  for (const Lane lane : {Lane::Queue, Lane::Refuse, Lane::Replace}) {
    JobRunner jobs(lane);
    QSignalSpy dropped(&jobs, &JobRunner::dropped), refused(&jobs, &JobRunner::refused);
    std::atomic<bool> go{false};
    std::vector<int> done;
    const auto job = [&](int which) {
      return jobs.start<int>(
          QString::number(which),
          [&go, which](Task& task) {
            while (!go && !task.cancelled()) QThread::yieldCurrentThread();
            return Result<int>(which);
          },
          [&](Result<int> r) { done.push_back(*r); });
    };
    EXPECT_TRUE(job(1));
    EXPECT_EQ(job(2), lane != Lane::Refuse);
    go = true;
    ASSERT_TRUE(QTest::qWaitFor([&] { return !jobs.busy(); }, kPatience_ms));
    EXPECT_EQ(done, lane == Lane::Queue ? (std::vector{1, 2}) : lane == Lane::Refuse ? std::vector{1} : std::vector{2});
    EXPECT_EQ(refused.size(), lane == Lane::Refuse ? 1 : 0);
    EXPECT_EQ(dropped.size(), lane == Lane::Replace ? 1 : 0) << "what is dropped is said";
  }
}

// The second of two films that were dropped one after the other was the only one that came in.
TEST(LibraryPage, TwoImportsOneAfterTheOtherBothComeIn) {
  tests::ScratchFolder folder;
  auto library = must(library::Library::open(folder / "lib"));
  LibraryPage page(library);
  page.show();
  QStringList films;
  for (int i = 0; i < 3; ++i)
    films << QString::fromStdString(
        folder.write("film" + std::to_string(i) + ".mp4", tests::bytesOf(JIB_MADE_CLIP) + std::string(i + 1, '\0'))
            .string());
  for (const QString& film : films) page.receive({film});
  ASSERT_TRUE(QTest::qWaitFor([&] { return !page.busy(); }, kPatience_ms));
  EXPECT_EQ(must(library.submissions()).size(), 3u);
}

TEST(LibraryPage, ARowWithoutAFilmIsNotPutToBeFilmedBetterNorAnAnsweredOneBackIntoTheQueue) {
  tests::ScratchFolder folder;
  auto library = must(library::Library::open(folder / "lib"));
  library::Submission question, answered;
  question.athlete = answered.athlete = must(library.addAthlete({library::AthleteId(0), "Ida", "", "balanced"}));
  question.received_on = answered.received_on = "2026-05-04";
  library::Library::Incoming in;
  in.message.key = "q";
  in.message.received_on = "2026-05-04";
  in.athlete_name = "Ida";
  in.original = folder.write("q.eml", "words");
  question.kind = library::SubmissionKind::Question;
  in.clips.push_back({question, {}, std::nullopt});
  Task task;
  must(library.addMessage(std::move(in), task));
  answered.state = library::SubmissionState::Returned;
  must(library.addSubmission(answered, folder.write("a.mp4", "film"), task));
  LibraryPage page(library);
  page.show();
  for (const auto& row : must(library.submissions())) {
    page.select(row.id);
    QTest::keyClick(page.findChild<QTableView*>(), Qt::Key_V);
    EXPECT_EQ(must(library.submission(row.id)).state, row.state) << row.id.number;
  }
}

struct Desk {
  tests::ScratchFolder folder;
  library::Library library = must(library::Library::open(folder / "lib"));
  library::SubmissionId id{0};
  std::unique_ptr<Returns> returns;
  std::unique_ptr<ReviewPage> page;

  explicit Desk(const std::string& address = "ida@tide.invalid") {
    library::CoachCard card;
    card.name = "Mara Quill";
    card.address = "mara@tide.invalid";
    must(library.setCoach(card));
    library::Submission s;
    s.received_on = "2026-05-04";
    s.lift = "squat";
    s.variant = "low-bar";
    s.details.lift_by = library::ToldBy::Coach;
    Task task;
    id = must(library.addSubmission(s, JIB_MADE_CLIP, task, "Ida Fenn"));
    must(library.addAddress(must(library.submission(id)).athlete, address));
    must(library.saveTracing(id, tests::keptTracing("squat", JIB_MADE_CLIP, {})));
    returns = std::make_unique<Returns>(library.folder());
    open();
  }
  void open() {
    page = std::make_unique<ReviewPage>(library, id, returns.get());
    page->resize(1280, 800);
    page->show();
    EXPECT_TRUE(QTest::qWaitFor([&] { return !page->busy() && page->document().analysis(); }, kPatience_ms));
  }
  void say(const std::string& words) {
    CueChoice choice = page->document().choice();
    coaching::Cue cue = coaching::ownCue(1.0);
    cue.title = "Depth";
    cue.wording = words;
    choice.cues = {cue};
    choice.change_nothing = false;
    page->document().undoStack().push(new ChangeCues(page->document(), "say", choice, newGesture()));
  }
  bool waitForReturn() {
    return QTest::qWaitFor([&] { return !returns->busy(); }, kPatience_ms);
  }
};

// V (preview), a drawing or a drag of the bar stopped the reply without a word; so did leaving the page.
TEST(Returns, AReplyOutlivesThePreviewAndThePageItWasAskedForOn) {
  Desk desk;
  desk.say("FIRST WORDS");
  ASSERT_TRUE(desk.page->returnByMail());
  EXPECT_FALSE(desk.page->returnByMail()) << "it is on its way already";
  desk.page->preview();
  desk.say("SECOND WORDS");
  QTest::qWait(0);
  desk.page.reset();
  ASSERT_TRUE(desk.waitForReturn());
  EXPECT_EQ(must(desk.library.submission(desk.id)).state, library::SubmissionState::Returned);
  const auto letters = must(desk.library.outgoing());
  ASSERT_EQ(letters.size(), 1u);
  EXPECT_EQ(must(desk.library.threads(must(desk.library.submission(desk.id)).athlete))[0].wording, "FIRST WORDS");
  const std::string page =
      tests::bytesOf(tests::fileWith(desk.folder / ("lib/replies/" + std::to_string(desk.id.number)), ".html"));
  EXPECT_NE(page.find("FIRST WORDS"), std::string::npos);
  EXPECT_EQ(page.find("SECOND WORDS"), std::string::npos);
  // What was typed meanwhile is kept all the same.
  EXPECT_EQ(must(desk.library.review(desk.id)).cues[0].wording, "SECOND WORDS");

  // Sent, and returned once more: asked first.
  must(desk.library.setOutgoingState(letters[0].id, library::OutgoingState::HandedOver, "2026-05-05"));
  desk.open();
  EXPECT_FALSE(desk.page->returnByMail());
  EXPECT_NE(desk.page->findChild<QLabel*>("status")->text().indexOf("was sent on"), -1);
  EXPECT_FALSE(desk.returns->busy());
  EXPECT_TRUE(desk.page->returnByMail());
  desk.returns->cancel();
}

TEST(Returns, OneThatWasOnItsWayWhenTheProgramWasKilledIsOfferedAgainAndGoesOut) {
  Desk desk;
  desk.say("FIRST WORDS");
  desk.page.reset();  // saved
  desk.returns.reset();
  // As a killed program leaves it: there is no process of that number.
  std::filesystem::create_directory(desk.folder / "lib/returning");
  const auto mark = desk.folder.write("lib/returning/" + std::to_string(desk.id.number), "0:1");
  DeskWindow window(must(library::Library::openAgain(desk.folder / "lib")));
  window.show();
  auto* told = window.findChild<QLabel*>("unfinishedWords");
  ASSERT_TRUE(told->isVisible());
  EXPECT_TRUE(told->text().startsWith("Your reply to Ida Fenn was still being written"));
  window.findChild<QPushButton*>("unfinishedSend")->click();
  EXPECT_FALSE(told->isVisible());
  ASSERT_TRUE(QTest::qWaitFor([&] { return !must(desk.library.outgoing()).empty(); }, kPatience_ms));
  EXPECT_EQ(must(desk.library.submission(desk.id)).state, library::SubmissionState::Returned);
  EXPECT_TRUE(QTest::qWaitFor([&] { return !std::filesystem::exists(mark); }, kPatience_ms)) << "and it is over";
}

TEST(ReviewPage, AnotherWindowsWordsAreNotWrittenOver) {
  Desk desk;
  library::Review other;
  other.greeting = "the other window's words";
  must(desk.library.saveReview(desk.id, other));
  desk.say("my words");
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return desk.page->findChild<QLabel*>("status")->text().contains("Another window"); }, kPatience_ms));
  EXPECT_FALSE(desk.page->returnByMail());
  desk.page.reset();
  EXPECT_EQ(must(desk.library.review(desk.id)).greeting, "the other window's words");
}

TEST(ReviewPage, OfASubmissionThatWasDeletedSaysSo) {
  Desk desk;
  must(desk.library.remove(must(desk.library.removalOf(desk.id))));
  desk.say("my words");
  EXPECT_TRUE(QTest::qWaitFor([&] { return desk.page->findChild<QLabel*>("status")->text().contains("deleted"); },
                              kPatience_ms));
  EXPECT_FALSE(std::filesystem::exists(desk.folder / ("lib/replies/" + std::to_string(desk.id.number))));
}

// As a page this would open the picture it names; /dev/zero never ends.
const QString kStranger = QStringLiteral("<img src='/dev/zero'>");

TEST(PlainWords, ANameWithATagIsANameInLabelsAndTips) {
  EXPECT_EQ(heading(kStranger)->textFormat(), Qt::PlainText);
  EXPECT_EQ(words(kStranger)->textFormat(), Qt::PlainText);
  EXPECT_EQ(plainLabel(kStranger)->textFormat(), Qt::PlainText);
  QWidget widget;
  widget.show();
  QToolTip::showText(widget.mapToGlobal(QPoint(1, 1)), kStranger, &widget);
  const auto tips = QApplication::topLevelWidgets();
  const auto tip = std::find_if(tips.begin(), tips.end(), [](QWidget* w) { return w->inherits("QTipLabel"); });
  ASSERT_NE(tip, tips.end());
  EXPECT_EQ(static_cast<QLabel*>(*tip)->textFormat(), Qt::PlainText);
  EXPECT_EQ(static_cast<QLabel*>(*tip)->text(), kStranger);
  QToolTip::hideText();
}

TEST(PlainWords, AQueueWhoseNewestRowIsAStrangersTagOpens) {
  tests::ScratchFolder folder;
  auto library = must(library::Library::open(folder / "lib"));
  library::Library::Incoming in;
  in.message.key = "z";
  in.message.from_address = "zero@x.invalid";
  in.message.from_name = in.athlete_name = kStranger.toStdString();
  in.message.received_on = "2026-05-04";
  in.message.body = kStranger.toStdString();
  in.original = folder.write("z.eml", "words");
  library::Submission s;
  s.received_on = "2026-05-04";
  s.message = kStranger.toStdString();
  in.clips.push_back({s, {}, std::nullopt});
  Task task;
  must(library.addMessage(std::move(in), task));
  DeskWindow window(std::move(library));
  window.show();
  QTest::qWait(0);
  int named = 0;
  for (const auto* label : window.findChildren<QLabel*>()) {
    if (!label->text().contains(kStranger)) continue;
    ++named;
    EXPECT_EQ(label->textFormat(), Qt::PlainText);
  }
  EXPECT_GE(named, 1);
  QPixmap drawn = window.grab();  // lays every label out
  EXPECT_FALSE(drawn.isNull());
}

}  // namespace
}  // namespace jib::desk
