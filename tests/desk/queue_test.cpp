// SPDX-License-Identifier: GPL-3.0-or-later
// From the athlete's message to a queue that can be judged, by mouse and keys in the page itself.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <set>

#include "core/coaching/clip_check.h"
#include "core/exchange/mail/mail.h"
#include "core/library/dates.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submission_panel.h"
#include "desk/library_page/submissions_model.h"
#include "tests/core/exchange/made_mail.h"

namespace jib::desk {
namespace {

using library::SubmissionState;
using tests::filePart;
using tests::filmNumber;
using tests::header;
using tests::multipart;
using tests::textPart;

coaching::ClipCheck checkFrom(const char* view, std::vector<coaching::ClipTrouble> troubles = {}) {
  coaching::ClipCheck check;
  check.view = view;
  check.reps = 3;
  check.claims = {{"depth", "Depth", troubles.empty() ? coaching::Can::Yes : coaching::Can::No,
                   troubles.empty() ? "" : troubles[0].what}};
  check.troubles = std::move(troubles);
  return check;
}

library::Library withACoach(const std::filesystem::path& folder) {
  auto library = *library::Library::open(folder);
  EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
  return library;
}

struct Queue {
  tests::ScratchFolder folder;
  library::Library library = withACoach(folder / "lib");
  LibraryPage page{library};

  Queue() {
    page.resize(1280, 760);
    page.show();
    QTest::qWait(1);
  }
  // The way mail programs deliver: written aside, then moved in.
  void deliver(const std::string& name, const std::string& bytes) {
    const auto aside = folder.write(name, bytes);
    std::filesystem::rename(aside, std::filesystem::path(page.inbox().toStdString()) / "new" / name);
  }
  bool waitForRows(int rows) {
    return QTest::qWaitFor([&] { return table()->model()->rowCount() == rows; }, 60000);
  }
  QTableView* table() { return page.findChild<QTableView*>("submissions"); }
  QString cell(int row, int column) { return table()->model()->index(row, column).data().toString(); }
  SubmissionPanel* panel() { return page.findChild<SubmissionPanel*>(); }
  library::Submission only() { return library.submissions()->front(); }
  template <class Widget>
  Widget* find(const char* name) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return page.findChild<Widget*>(QString::fromLatin1(name));
  }
  // By mouse, in the real widget.
  void click(const char* name) {
    auto* button = find<QAbstractButton>(name);
    ASSERT_NE(button, nullptr) << name;
    button->click();
    QCoreApplication::processEvents();
  }
  void key(Qt::Key k, Qt::KeyboardModifiers with = {}) {
    table()->setFocus();
    QTest::keyClick(table(), k, with);
    QCoreApplication::processEvents();
  }
  std::vector<exchange::Mail> outbox() {
    std::vector<exchange::Mail> all;
    std::error_code none;
    for (const auto& e : std::filesystem::directory_iterator(library.folder() / "outbox", none))
      all.push_back(*exchange::readMail(tests::bytesOf(e.path())));
    return all;
  }
  void addFor(library::AthleteId athlete, const std::string& on, int film, const coaching::ClipCheck& check) {
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = athlete;
    s.received_on = on;
    Task task;
    const auto clip = folder.write("film" + std::to_string(film) + ".mp4", filmNumber(film));
    const auto id = library.addSubmission(s, clip, task);
    ASSERT_TRUE(id);
    ASSERT_TRUE(library.saveCheck(library.submission(*id)->clip_hash, coaching::checkToJson(check)));
  }
};

const std::string kFrom = "Ines Calder <ines@tide.invalid>";

TEST(QueuePage, WhatArrivesInTheWatchedFolderIsInTheQueue) {
  Queue q;
  q.deliver("one.eml", header(kFrom, "1@q", "squats") + multipart({textPart("Squat 140 kg x 3 @8, is my depth ok?"),
                                                                   filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  EXPECT_EQ(q.cell(0, SubmissionsModel::AthleteName), "Ines Calder");
  EXPECT_EQ(q.cell(0, SubmissionsModel::Load), "140 kg (309 lb)");
  EXPECT_EQ(q.cell(0, SubmissionsModel::Clip), "not analyzed yet");
  q.deliver("two.eml", header(kFrom, "2@q", "link") + textPart("squat 145 kg: https://share.invalid/x"));
  ASSERT_TRUE(q.waitForRows(2)) << "the folder goes on being watched";
  EXPECT_EQ(q.library.athletes()->size(), 1u) << "a returning sender is known by the address";
}

TEST(QueuePage, AConfirmedReadingIsKnownOfTheSetAndOfTheAthlete) {
  Queue q;
  q.deliver("one.eml",
            header(kFrom, "1@q", "squats") +
                multipart({textPart("Squat 140 kg x 3. My best is 165 kg, I weigh 67 kg and I'm 31 years old."),
                           filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  auto* load = q.find<QLineEdit>("field_load_kg");
  ASSERT_NE(load, nullptr);
  EXPECT_TRUE(load->toolTip().contains("140 kg")) << "the words it came from";
  load->setText("142,5");
  QTest::keyClick(load, Qt::Key_Return);
  QCoreApplication::processEvents();
  EXPECT_EQ(q.only().load_kg, 142.5);
  EXPECT_EQ(q.find<QToolButton>("confirm_load_kg")->text(), "✓");
  q.click("confirm_best_kg");
  q.click("confirm_body_mass_kg");
  q.click("confirm_age");
  const auto profile = q.library.athlete(q.only().athlete)->profile;
  EXPECT_EQ(profile.best_kg[0], 165);
  EXPECT_EQ(profile.body_mass_kg, 67);
  EXPECT_EQ(profile.birth_year, 2026 - 31);
  EXPECT_EQ(q.find<QLineEdit>("field_height_cm"), nullptr) << "unknown stays unknown";
}

TEST(QueuePage, WhatIsMissingIsAskedForWithOneClickAndGoesToTheOutbox) {
  Queue q;
  q.deliver("one.eml", header(kFrom, "1@q", "squats") +
                           multipart({textPart("here is my squat"), filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  q.click("askFields");
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("- Load"));
  q.click("putInOutbox");
  ASSERT_EQ(q.outbox().size(), 1u);
  EXPECT_EQ(q.outbox()[0].to_address, "ines@tide.invalid");
  EXPECT_NE(q.outbox()[0].text.find("- Age"), std::string::npos);
}

TEST(QueuePage, YoungOrHurtAthletesAreSaidSoAndReferred) {
  Queue q;
  q.deliver("one.eml", header("Kit <kit@tide.invalid>", "1@q", "squats") +
                           multipart({textPart("I'm 16 years old, squat 60kg x 3. My knee hurts at the bottom."),
                                      filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  const auto care = q.panel()->findChildren<QLabel*>("care");
  ASSERT_EQ(care.size(), 2);
  EXPECT_TRUE(care[0]->text().contains("no maxing out"));
  EXPECT_TRUE(care[1]->text().contains("refer"));
  q.click("refer");
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("doctor or physical therapist"));
}

TEST(QueuePage, TriageByKeysIsUndone) {
  Queue q;
  const auto ines = *q.library.addAthlete({library::AthleteId(0), "Ines", "", "balanced"});
  q.addFor(ines, "2026-11-20", 1,
           checkFrom("side", {{"camera_high", "The camera looks down.", "put the lens level with your hip"}}));
  q.page.refresh();
  q.key(Qt::Key_C);
  EXPECT_EQ(q.only().state, SubmissionState::CarriedOver);
  q.key(Qt::Key_V);
  EXPECT_EQ(q.only().state, SubmissionState::NeedsVideo);
  EXPECT_FALSE(q.only().reason.empty());
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("level with your hip"))
      << "the re-shoot words are ready";
  q.key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(q.only().state, SubmissionState::CarriedOver);
  q.key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(q.only().state, SubmissionState::New);
  // X asks why, in a menu of the usual reasons.
  QTimer::singleShot(0, [&] {
    auto* menu = q.page.findChild<QMenu*>("skipMenu");
    ASSERT_NE(menu, nullptr);
    QTest::keyClick(menu, Qt::Key_Down);
    QTest::keyClick(menu, Qt::Key_Return);
  });
  q.key(Qt::Key_X);
  EXPECT_EQ(q.only().state, SubmissionState::Skipped);
  EXPECT_EQ(q.only().reason, "Not about lifting");
}

TEST(QueuePage, TheReshootRequestNamesWhatFailedAndGoesToTheOutbox) {
  Queue q;
  q.deliver("one.eml", header(kFrom, "1@q", "squats") +
                           multipart({textPart("squat 100kg x 3"), filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  ASSERT_TRUE(q.library.saveCheck(q.only().clip_hash,
                                  coaching::checkToJson(checkFrom("side", {{"feet_cut", "The feet are cut off.",
                                                                            "keep your whole body in the picture"}}))));
  q.page.refresh();
  EXPECT_EQ(q.find<QLabel>("claim_depth")->text(), "– Depth: The feet are cut off.");
  q.click("reshoot");
  q.find<QPlainTextEdit>("letter")->appendPlainText("See you soon.");
  q.click("putInOutbox");
  ASSERT_EQ(q.outbox().size(), 1u);
  EXPECT_NE(q.outbox()[0].text.find("keep your whole body in the picture"), std::string::npos);
  EXPECT_NE(q.outbox()[0].text.find("See you soon."), std::string::npos) << "the coach's own words go along";
}

TEST(QueuePage, TwoViewsOfADayAreProposedAsOneSetAndLinkedByAClick) {
  Queue q;
  const auto ines = *q.library.addAthlete({library::AthleteId(0), "Ines", "", "balanced"});
  q.addFor(ines, "2026-11-20", 1, checkFrom("side"));
  q.addFor(ines, "2026-11-20", 2, checkFrom("front"));
  q.addFor(ines, "2026-11-21", 3, checkFrom("front"));
  q.page.refresh();
  q.page.findChild<QTableView*>("submissions")->selectRow(2);
  QCoreApplication::processEvents();
  ASSERT_NE(q.find<QPushButton>("pair"), nullptr);
  EXPECT_EQ(q.page.findChildren<QPushButton*>("pair").size(), 1) << "another day's clip is not offered";
  q.click("pair");
  const auto all = *q.library.submissions();
  EXPECT_EQ(all[1].pair, all[2].id);
  EXPECT_EQ(all[2].pair, all[1].id);
  EXPECT_FALSE(all[0].pair);
  q.click("unpair");
  EXPECT_FALSE(q.library.submissions()->at(1).pair);
}

TEST(QueuePage, AThirdViewJoinsASetAndOneOfAViewItHasIsNotOffered) {
  Queue q;
  const auto ines = *q.library.addAthlete({library::AthleteId(0), "Ines", "", "balanced"});
  q.addFor(ines, "2026-11-20", 1, checkFrom("side"));
  q.addFor(ines, "2026-11-20", 2, checkFrom("front"));
  q.addFor(ines, "2026-11-20", 3, checkFrom("rear"));
  q.addFor(ines, "2026-11-20", 4, checkFrom("front"));
  const auto newest_first = *q.library.submissions();
  const auto side = newest_first[3].id, front = newest_first[2].id, rear = newest_first[1].id;
  ASSERT_TRUE(q.library.joinSet(side, front, std::nullopt));
  q.page.refresh();
  q.page.findChild<QTableView*>("submissions")->selectRow(3);
  QCoreApplication::processEvents();
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  ASSERT_EQ(q.page.findChildren<QPushButton*>("pair").size(), 1);
  EXPECT_TRUE(q.find<QPushButton>("pair")->text().contains("rear"));
  q.click("pair");
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  EXPECT_EQ(q.library.filmsOfSet(front)->size(), 2u) << "of the front too";
  EXPECT_EQ(q.page.findChildren<QPushButton*>("unpair").size(), 2);
  EXPECT_EQ(q.library.submission(rear)->pair, side);
}

TEST(QueuePage, SaysWhenAnAthleteWasLastHeardOf) {
  Queue q;
  const auto ines = *q.library.addAthlete({library::AthleteId(0), "Ines", "", "balanced"});
  q.addFor(ines, "2026-11-02", 1, checkFrom("side"));
  q.page.refresh();
  EXPECT_TRUE(q.find<QLabel>("when")->text().contains("first message"));
  q.addFor(ines, "2026-11-20", 2, checkFrom("side"));
  q.page.refresh();
  q.table()->selectRow(0);
  QCoreApplication::processEvents();
  EXPECT_TRUE(q.find<QLabel>("when")->text().contains("last: 2 Nov 2026, not answered"));
  auto old = q.library.submissions()->back();
  old.state = SubmissionState::Returned;
  ASSERT_TRUE(q.library.edit(old.id, [&](auto& row_now) { row_now = old; }));
  q.page.refresh();
  EXPECT_TRUE(q.find<QLabel>("when")->text().contains("2 Nov 2026, answered"));
}

TEST(QueuePage, SaysWhatToDoWhereNothingIsShown) {
  Queue q;
  auto* empty = q.find<QLabel>("emptyQueue");
  EXPECT_TRUE(empty->isVisible());
  EXPECT_TRUE(empty->text().contains("Drop clips"));
  EXPECT_TRUE(empty->text().contains(q.page.inbox())) << "where mail is waited for";
  q.addFor(*q.library.addAthlete({library::AthleteId(0), "Ines", "", "balanced"}), "2026-11-20", 1, checkFrom("side"));
  q.page.refresh();
  EXPECT_FALSE(empty->isVisible());
  q.find<QLineEdit>("find")->setText("nobody writes this");
  EXPECT_TRUE(empty->isVisible());
  EXPECT_TRUE(empty->text().contains("matches"));
  q.find<QLineEdit>("find")->clear();
  EXPECT_FALSE(empty->isVisible());
}

TEST(QueuePage, AFilmingRequestIsWrittenForTheQuestion) {
  Queue q;
  q.deliver("one.eml", header(kFrom, "1@q", "squats") +
                           multipart({textPart("squat 100kg x 3"), filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  auto* menu = q.find<QMenu>("filmQuestions");
  ASSERT_NE(menu, nullptr);
  ASSERT_GE(menu->actions().size(), 3);
  menu->actions()[0]->trigger();
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("straight from the side"));
  menu->actions()[1]->trigger();
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("straight from the front"));
  q.click("putInOutbox");
  ASSERT_EQ(q.outbox().size(), 1u);
  EXPECT_NE(q.outbox()[0].text.find("both knees"), std::string::npos);
}

TEST(QueuePage, FiltersFindsAndDrawsFairly) {
  Queue q;
  for (int i = 0; i < 6; ++i) {
    library::Athlete a;
    a.name = "Athlete " + std::to_string(i);
    if (i == 3) a.profile.meet_on = library::daysLater(library::today(), 10);
    q.addFor(*q.library.addAthlete(a), "2026-11-1" + std::to_string(i), 10 + i, checkFrom("side"));
  }
  q.page.refresh();
  const auto names = [&] {
    QStringList all;
    for (int r = 0; r < q.table()->model()->rowCount(); ++r) all << q.cell(r, SubmissionsModel::AthleteName);
    return all;
  };
  auto* order = q.find<QComboBox>("order");
  EXPECT_EQ(names().front(), "Athlete 5") << "newest first";
  order->setCurrentIndex(1);
  EXPECT_EQ(names().front(), "Athlete 0");
  order->setCurrentIndex(2);
  EXPECT_EQ(names().front(), "Athlete 3") << "the one with a meet ahead";
  order->setCurrentIndex(order->findText("shuffled"));
  auto* seed = q.find<QSpinBox>("seed");
  EXPECT_TRUE(seed->isVisible());
  std::set<QString> firsts;
  for (int s = 1; s <= 30; ++s) {
    seed->setValue(s);
    firsts.insert(names().front());
  }
  EXPECT_EQ(firsts.size(), 6u) << "everyone comes first under some seed";
  seed->setValue(7);
  const QStringList drawn = names();
  seed->setValue(8);
  seed->setValue(7);
  EXPECT_EQ(names(), drawn) << "and the same seed draws the same";
  q.find<QLineEdit>("find")->setText("athlete 4");
  EXPECT_EQ(names(), QStringList{"Athlete 4"});
  q.find<QLineEdit>("find")->clear();
  q.find<QComboBox>("show")->setCurrentIndex(q.find<QComboBox>("show")->findText("waiting for a clip"));
  EXPECT_TRUE(names().isEmpty());
}

TEST(QueuePage, WithoutAFilmThereIsNothingToOpenAndItSaysSo) {
  Queue q;
  q.deliver("one.eml", header(kFrom, "1@q", "link") + textPart("squat 145 kg: https://share.invalid/x"));
  ASSERT_TRUE(q.waitForRows(1));
  bool opened = false;
  QObject::connect(&q.page, &LibraryPage::openRequested, [&] { opened = true; });
  q.key(Qt::Key_Return);
  EXPECT_FALSE(opened);
  EXPECT_TRUE(q.find<QLabel>("libraryStatus")->text().contains("No clip"));
  q.click("reshoot");
  EXPECT_TRUE(q.find<QPlainTextEdit>("letter")->toPlainText().contains("the original file attached"));
}

TEST(AthletePanel, KeepsWhatIsWrittenAndProposesANamesake) {
  Queue q;
  library::Athlete one, two;
  one.name = two.name = "Kim Dale";
  const auto first = *q.library.addAthlete(one), second = *q.library.addAthlete(two);
  ASSERT_TRUE(q.library.addAddress(second, "kim@two.invalid"));
  AthletePanel panel(q.library);
  panel.show(first);
  auto* best = panel.findChild<QLineEdit*>("best_squat");
  best->setText("152,5");
  QTest::keyClick(best, Qt::Key_Return);
  panel.findChild<QLineEdit*>("birthYear")->setText("2010");
  QTest::keyClick(panel.findChild<QLineEdit*>("birthYear"), Qt::Key_Return);
  EXPECT_EQ(q.library.athlete(first)->profile.best_kg[0], 152.5);
  EXPECT_EQ(q.library.athlete(first)->profile.birth_year, 2010);
  panel.show(first);
  const auto labels = panel.findChildren<QLabel*>();
  EXPECT_TRUE(std::any_of(labels.begin(), labels.end(), [](QLabel* l) { return l->text().startsWith("Under 18"); }));
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  panel.findChild<QPushButton*>("merge")->click();
  EXPECT_EQ(q.library.athletes()->size(), 1u);
  EXPECT_EQ(q.library.addresses(first)->size(), 1u);
}

TEST(AthletePanel, DrawsSpeedAgainstLoadAndSaysWhatItPointsAt) {
  Queue q;
  library::Athlete one;
  one.name = "Kim Dale";
  one.profile.best_kg[0] = 150;
  const auto id = *q.library.addAthlete(one);
  AthletePanel panel(q.library);
  panel.show(id);
  EXPECT_FALSE(panel.findChild<QWidget*>("loadSpeed")) << "nothing to draw";
  tests::ScratchFolder films;
  for (double load : {100.0, 120.0, 140.0}) {
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = id;
    s.received_on = "2026-10-01";
    s.load_kg = load;
    Task task;
    const std::string name = std::to_string(load) + ".mp4";
    const auto added = *q.library.addSubmission(s, films.write(name, name), task);
    ASSERT_TRUE(q.library.saveSpeed(added, 1.3 - 0.005 * load, 0.01));
  }
  panel.show(id);
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  EXPECT_TRUE(panel.findChild<QWidget*>("loadSpeed"));
  const QString text = panel.findChild<QLabel*>("loadSpeedText")->text();
  EXPECT_TRUE(text.contains("0.05 m/s")) << text.toStdString();
  EXPECT_TRUE(text.contains("an old one?")) << "150 kg lies under the line's band: " << text.toStdString();
}

// The row falls out of the list while the coach types: the words stay with the athlete they were typed for.
TEST(AthletePanel, HalfTypedWordsStayWithTheirAthlete) {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  const auto ola = *library.addAthlete({library::AthleteId{0}, "Ola", {}, "balanced", {}});
  const auto kim = *library.addAthlete({library::AthleteId{0}, "Kim", {}, "balanced", {}});
  AthletePanel panel(library);
  panel.resize(400, 800);
  panel.QWidget::show();
  panel.activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(&panel));
  panel.show(ola);
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  auto* goal = panel.findChild<QLineEdit*>("goal");
  goal->setFocus();
  QTest::keyClicks(goal, "a total at the spring meet");
  panel.show(kim);
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  EXPECT_EQ(library.athlete(ola)->profile.goal, "a total at the spring meet");
  EXPECT_EQ(library.athlete(kim)->profile.goal, "");
  EXPECT_EQ(panel.findChild<QLineEdit*>("goal")->text(), "");
  panel.findChild<QLineEdit*>("goal")->setFocus();
  QTest::keyClicks(panel.focusWidget(), "half");
  panel.show(std::nullopt);
  EXPECT_EQ(library.athlete(kim)->profile.goal, "half") << "and nothing is written where nobody is shown";
}

TEST(QueuePage, WhoIsInPainIsOnTopSaidInTheRowAndFiltered) {
  Queue q;
  const auto from = [](const char* who, const char* id, const char* words, int film) {
    return header(std::string(who) + " <" + id + "@tide.invalid>", std::string(id) + "@p", "squat") +
           multipart({textPart(words), filePart("set.mp4", filmNumber(film))});
  };
  q.deliver("1.eml", from("Sore Sam", "sam", "squat 100 kg x 3, low back is fried, like real tight", 1));
  ASSERT_TRUE(q.waitForRows(1));
  q.deliver("2.eml", from("Well Wim", "wim", "squat 120 kg x 3, felt great", 2));
  ASSERT_TRUE(q.waitForRows(2));
  EXPECT_TRUE(q.cell(0, SubmissionsModel::AthleteName).contains("Sam")) << "though the other is newer";
  EXPECT_TRUE(q.cell(0, SubmissionsModel::State).contains("pain"));
  EXPECT_FALSE(q.cell(1, SubmissionsModel::State).contains("pain"));
  auto* show = q.find<QComboBox>("show");
  show->setCurrentIndex(show->findText("pain"));
  EXPECT_EQ(q.table()->model()->rowCount(), 1);
}

TEST(QueuePage, ABareNumberIsAskedAboutOnceAndTypedInEitherUnit) {
  Queue q;
  q.deliver("1.eml", header("Dale Rucker <dale@tide.invalid>", "1@u", "squat") +
                         multipart({textPart("365 x2 low bar, best is still 415"), filePart("a.mp4", filmNumber(1))}));
  ASSERT_TRUE(q.waitForRows(1));
  EXPECT_EQ(q.cell(0, SubmissionsModel::Load), "365 ?");
  ASSERT_NE(q.find<QLabel>("unitQuestion"), nullptr);
  q.click("confirm_load_kg");
  EXPECT_EQ(q.cell(0, SubmissionsModel::Load), "365 ?") << "a number without a unit cannot be confirmed";
  q.click("unit_lb");
  EXPECT_EQ(q.cell(0, SubmissionsModel::Load), "165.6 kg (365 lb)");
  EXPECT_EQ(q.find<QLabel>("unitQuestion"), nullptr) << "asked once";
  auto* load = q.find<QLineEdit>("field_load_kg");
  load->setText("375 lb");
  QTest::keyClick(load, Qt::Key_Return);
  QCoreApplication::processEvents();
  EXPECT_NEAR(*q.only().load_kg, 170.1, 0.05);
}

TEST(QueuePage, EachQuestionIsTickedOffByItself) {
  Queue q;
  q.deliver("1.eml", header(kFrom, "1@t", "hi") +
                         textPart("no vid this week. 1) should i cut to 74s 2) is that gonna mess with my deadlift"));
  ASSERT_TRUE(q.waitForRows(1));
  EXPECT_EQ(q.cell(0, SubmissionsModel::State), "\u25CF Question") << "no film is waited for";
  EXPECT_TRUE(q.only().reason.empty());
  const auto fields = [&] { return q.library.message(*q.only().message_id)->fields; };
  const auto asked = [&] {
    int open = 0, done = 0;
    for (const auto& f : fields())
      if (f.field == "question") ++(f.confirmed ? done : open);
    return std::pair(open, done);
  };
  EXPECT_EQ(asked(), std::pair(2, 0));
  q.click("confirm_question");
  EXPECT_EQ(asked(), std::pair(1, 1));
}

TEST(QueuePage, ItsPrintedKeysWork) {
  Queue q;
  const auto athlete = *q.library.addAthlete({library::AthleteId(0), "Ola Marsh", "", "balanced"});
  for (int n = 1; n <= 3; ++n) q.addFor(athlete, "2026-11-0" + std::to_string(n), n, checkFrom("side"));
  q.page.refresh();
  q.page.activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(&q.page));
  q.key(Qt::Key_End);
  EXPECT_EQ(q.table()->currentIndex().row(), 2);
  q.key(Qt::Key_Home);
  EXPECT_EQ(q.table()->currentIndex().row(), 0);
  q.key(Qt::Key_End, Qt::ControlModifier);
  EXPECT_EQ(q.table()->currentIndex().row(), 2);
  q.key(Qt::Key_F, Qt::ControlModifier);
  EXPECT_TRUE(q.find<QLineEdit>("find")->hasFocus());
}

}  // namespace
}  // namespace jib::desk
