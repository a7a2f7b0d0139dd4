// SPDX-License-Identifier: GPL-3.0-or-later
// Everybody in one table, by keys and typing: found, sorted into groups, written to; meets kept; a clip given to whose
// it is; a set held against the rules of a meet.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTimer>

#include "desk/library_page/meet_card.h"
#include "desk/review/rules_dialog.h"
#include "desk/roster/roster_page.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

struct Roster : Desk {
  Roster() : Desk(Begin::Traced) {
    window.reset();
    auto library = *library::Library::open(folder / "lib");
    EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
    for (const auto& [name, address] : {std::pair{"Tam Reed", "tam@example.invalid"}, {"Una Vale", ""}}) {
      library::Athlete a;
      a.name = name;
      const auto made = *library.addAthlete(a);
      if (*address) {
        EXPECT_TRUE(library.addAddress(made, address));
      }
    }
    window = std::make_unique<desk::DeskWindow>(std::move(library));
    present();
    QTest::keyClick(window.get(), Qt::Key_F4);
  }
  desk::RosterPage& page() { return window->rosterPage(); }
  QTableView* table() { return page().findChild<QTableView*>("roster"); }
  QString status() { return page().findChild<QLabel*>("rosterStatus")->text(); }
  void find(const QString& typed) { page().findChild<QLineEdit*>("rosterFind")->setText(typed); }
  QStringList names() {
    QStringList all;
    for (int at = 0; at < table()->model()->rowCount(); ++at) all << table()->model()->index(at, 0).data().toString();
    return all;
  }
  library::Athlete athlete(const char* name) {
    auto library = *library::Library::openAgain(folder / "lib");
    const auto all = *library.athletes();
    for (const auto& a : all)
      if (a.name == name) return a;
    ADD_FAILURE() << name << " is nobody";
    return {};
  }
};

TEST(RosterPage, FindsGroupsAndPutsPeopleAway) {
  Roster d;
  ASSERT_TRUE(d.page().isVisible());
  EXPECT_EQ(d.names(), (QStringList{"Ola Marsh", "Tam Reed", "Una Vale"}));
  EXPECT_EQ(d.page().findChild<QLabel*>("rosterCount")->text(), "3 athletes · 1 clip waiting");
  d.find("low-bar");
  EXPECT_EQ(d.names(), QStringList{"Ola Marsh"}) << "by the variant of a clip";
  d.find("");
  d.table()->selectRow(1);
  d.page().setGroups("Juniors,  Tuesdays ,");
  EXPECT_EQ(d.athlete("Tam Reed").profile.groups, (std::vector<std::string>{"Juniors", "Tuesdays"}));
  auto* group = d.page().findChild<QComboBox*>("rosterGroup");
  group->setCurrentIndex(group->findData("Tuesdays"));
  EXPECT_EQ(d.names(), QStringList{"Tam Reed"});
  group->setCurrentIndex(0);
  d.table()->selectRow(1);
  d.table()->setFocus();
  QTest::keyClick(d.table(), Qt::Key_3);
  EXPECT_EQ(d.athlete("Tam Reed").profile.membership, library::Membership::Former);
  EXPECT_EQ(d.names(), (QStringList{"Ola Marsh", "Una Vale"})) << "who has left leaves the table";
  QTest::keyClick(&d.page(), Qt::Key_Z, Qt::ControlModifier);
  QTest::keyClick(&d.page(), Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(d.athlete("Tam Reed").profile.membership, library::Membership::Active);
  EXPECT_TRUE(d.athlete("Tam Reed").profile.groups.empty());
}

TEST(RosterPage, AnAthleteIsMadeBeforeTheirFirstClipAndOpened) {
  Roster d;
  d.page().add("  Wil   Ash ", "Juniors");
  EXPECT_EQ(d.athlete("Wil Ash").profile.groups, std::vector<std::string>{"Juniors"});
  d.page().add("   ", "");
  EXPECT_EQ(d.status(), "Type a name first.");
  EXPECT_EQ(d.names().size(), 4);
  d.table()->selectRow(static_cast<int>(d.names().indexOf("Wil Ash")));
  d.table()->setFocus();
  QTest::keyClick(d.table(), Qt::Key_Return);
  EXPECT_TRUE(d.window->libraryPage().isVisible());
  Desk::waitFor([&] { return d.window->findChild<QLineEdit*>("athleteName")->text() == "Wil Ash"; });
}

TEST(RosterPage, OneLetterToEachByNameAndWhoHasNoAddressIsNamed) {
  Roster d;
  d.table()->selectAll();
  EXPECT_EQ(d.page().writeToChosen("Rack times", "The hall is closed on Friday."), 1);
  EXPECT_TRUE(d.status().contains("No address for Ola Marsh, Una Vale")) << d.status().toStdString();
  auto library = *library::Library::openAgain(d.folder / "lib");
  const auto out = *library.outgoing();
  ASSERT_EQ(out.size(), 1u);
  EXPECT_EQ(out[0].to_address, "tam@example.invalid");
  const std::string mail = bytesOf(library.outgoingFile(out[0]));
  EXPECT_NE(mail.find("Hi Tam,"), std::string::npos);
  EXPECT_NE(mail.find("The hall is closed on Friday."), std::string::npos);
  EXPECT_NE(mail.find("Mara Quill"), std::string::npos);
  QTest::keyClick(&d.page(), Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ((*library.outgoing())[0].state, library::OutgoingState::TakenBack);
}

TEST(LibraryPage, AClipIsGivenToWhoseItIsAndBack) {
  Roster d;
  d.window->showLibrary();
  d.window->libraryPage().select(d.id);
  d.window->libraryPage().giveTo(d.athlete("Tam Reed").id);
  auto library = *library::Library::openAgain(d.folder / "lib");
  EXPECT_EQ(library.submission(d.id)->athlete, d.athlete("Tam Reed").id);
  QTest::keyClick(d.window->findChild<QTableView*>("submissions"), Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(library.submission(d.id)->athlete, d.athlete("Ola Marsh").id);
}

TEST(AthletePanel, AMeetIsTypedAndKept) {
  Roster d;
  d.window->showLibrary();
  d.window->libraryPage().showAthlete(d.athlete("Una Vale").id);
  const auto field = [&](const char* name) { return d.window->findChild<QLineEdit*>(name); };
  d.window->findChild<QPushButton*>("addMeet")->click();
  field("meetDate")->setText("2026-03-14");
  field("meetName")->setText("Spring Open");
  field("meet_squat")->setText("100, 110 heavy");
  d.window->findChild<QPushButton*>("saveMeet")->click();
  EXPECT_TRUE(d.window->findChild<QLabel*>("meetTrouble")->text().contains("is not an attempt"));
  EXPECT_TRUE(d.athlete("Una Vale").profile.meets.empty());
  field("meet_squat")->setText("100, 110, 115x");
  field("meet_bench")->setText("60, 65");
  field("meet_deadlift")->setText("120, 130");
  d.window->findChild<QPushButton*>("saveMeet")->click();
  Desk::waitFor([&] { return d.window->findChild<QLabel*>("meet") != nullptr; });
  const auto meets = d.athlete("Una Vale").profile.meets;
  ASSERT_EQ(meets.size(), 1u);
  EXPECT_EQ(meets[0].total_kg(), 305);
  EXPECT_TRUE(d.window->findChild<QLabel*>("meet")->text().contains("total 305 kg"));
}

TEST(AthletePanel, AYoungAthletesPageHasNoAttempts) {
  Roster d;
  const auto una = d.athlete("Una Vale").id;
  {
    auto library = *library::Library::openAgain(d.folder / "lib");
    EXPECT_TRUE(library.edit(una, [](library::Athlete& a) { a.profile.birth_year = 2012; }));
  }
  d.window->showLibrary();
  d.window->libraryPage().showAthlete(una);
  Desk::waitFor([&] { return d.window->findChild<QLineEdit*>("birthYear")->text() == "2012"; });
  EXPECT_EQ(d.window->findChild<desk::MeetCard*>(), nullptr);
}

TEST(AskForAView, OneKeyLeadsFromWhatAClipLacksToTheLetterThatAsksForIt) {
  Desk d;
  coaching::ClipCheck check;
  check.view = "side";
  check.claims = {{"depth", "Depth", coaching::Can::Yes, ""},
                  {"knee_line", "Knees in line", coaching::Can::No, "Only a view from the front shows it."}};
  {
    auto library = *library::Library::openAgain(d.folder / "lib");
    ASSERT_TRUE(library.saveCheck(library.submission(d.id)->clip_hash, coaching::checkToJson(check)));
  }
  auto& page = d.open();
  ASSERT_NE(page.findChild<QPushButton*>("askFor_knee_line"), nullptr);
  QTest::keyClick(&page, Qt::Key_A, Qt::ShiftModifier);
  Desk::waitFor([&] { return !d.window->reviewPage() && d.window->findChild<QPlainTextEdit*>("letter")->isVisible(); });
  const QString letter = d.window->findChild<QPlainTextEdit*>("letter")->toPlainText();
  EXPECT_TRUE(letter.contains("straight from the front")) << letter.toStdString();
  EXPECT_TRUE(letter.contains("both knees"));
  EXPECT_FALSE(letter.contains("Only a view")) << "what the coach is told is no matter of theirs";
}

TEST(FindingsPanel, HoldsTheSetAgainstTheRulesOfAMeet) {
  Roster d;
  d.window->showLibrary();
  auto& page = d.open();
  auto* which = page.findChild<QComboBox*>("ruleSet");
  ASSERT_NE(which, nullptr);
  EXPECT_EQ(which->currentText(), "Open Lakes Lifting");
  ASSERT_NE(page.findChild<QLabel*>("rule_hip_crease_above_knee_m"), nullptr);
  const QString strict = page.findChild<QLabel*>("rule_hip_crease_above_knee_m")->text();
  EXPECT_FALSE(strict.contains("legal"));
  which->setCurrentIndex(which->findData("granite-coast"));
  emit which->activated(which->currentIndex());
  Desk::waitFor([&] {
    auto* now = page.findChild<QComboBox*>("ruleSet");
    return now && now != which && now->currentText() == "Granite Coast Union";
  });
  // A limit is changed where it is read, in the unit people read, and counts at once.
  const auto inDialog = [&](const std::function<void(desk::RulesDialog&)>& answer) {
    bool answered = false;
    QTimer look;
    QObject::connect(&look, &QTimer::timeout, &look, [&] {
      auto* dialog = d.window->findChild<desk::RulesDialog*>();
      if (!dialog || !dialog->isVisible()) return;
      look.stop();
      answered = true;
      answer(*dialog);
    });
    look.start(0);
    page.findChild<QPushButton*>("editRules")->click();
    Desk::waitFor([&] { return answered && !d.window->findChild<desk::RulesDialog*>(); });
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  };
  inDialog([](desk::RulesDialog& dialog) {
    auto* depth = dialog.findChild<QDoubleSpinBox*>("ruleLimit_squat_hip_crease_above_knee_m");
    ASSERT_NE(depth, nullptr);
    EXPECT_EQ(depth->suffix(), " cm");
    EXPECT_DOUBLE_EQ(depth->value(), 2.5);
    depth->setValue(-20);
    auto* pause = dialog.findChild<QCheckBox*>("asks_bench_touch_pause_s");
    pause->setChecked(false);
    dialog.accept();
  });
  EXPECT_TRUE(page.findChild<QLabel*>("rule_hip_crease_above_knee_m")->text().contains("Not likely"));
  EXPECT_TRUE(page.findChild<QLabel*>("rulesVersion")->text().contains("2026, edited"));
  const auto book = coaching::RuleBook::forLibrary(d.folder / "lib");
  const auto& kept = book.setOf("granite-coast");
  EXPECT_TRUE(std::none_of(kept.checks.begin(), kept.checks.end(),
                           [](const auto& c) { return c.limit.measure == "touch_pause_s"; }));
  EXPECT_DOUBLE_EQ(kept.checks.back().limit.limit, 160) << "what was not touched stays as it was";
  inDialog([](desk::RulesDialog& dialog) { dialog.findChild<QPushButton*>("rulesBack")->click(); });
  EXPECT_FALSE(page.findChild<QLabel*>("rulesVersion")->text().contains("edited"));
}

}  // namespace
}  // namespace jib::tests
