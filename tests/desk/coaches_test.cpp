// SPDX-License-Identifier: GPL-3.0-or-later
// Two coaches on one library, in the real window: who sits here, whose turn a clip is, a second opinion, and whose name
// stands under what goes out.
#include <QComboBox>
#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableView>
#include <QTableWidget>
#include <QTimer>

#include "core/library/dates.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/colleagues_card.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submissions_model.h"
#include "desk/library_page/turn_card.h"
#include "desk/roster/roster_model.h"
#include "desk/roster/roster_page.h"
#include "desk/seat.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

library::Library withTwoCoaches(const std::filesystem::path& folder) {
  auto library = must(library::Library::open(folder));
  library::CoachCard card;
  card.name = "Mara Quill";
  card.address = "mara@quill.invalid";
  card.colleagues = {{"Tom Reeve", "tom@reeve.invalid"}};
  must(library.setCoach(card));
  return library;
}

struct House {
  ScratchFolder folder;
  library::Library library = withTwoCoaches(folder / "lib");
  library::AthleteId kit{0}, odo{0};
  library::SubmissionId kits{0}, odos{0};
  std::unique_ptr<desk::LibraryPage> page;

  House() {
    kits = clip("Kit Lunde", kit);
    odos = clip("Odo Marsh", odo);
    sit("Mara Quill");
  }
  library::SubmissionId clip(const char* name, library::AthleteId& whose) {
    library::Athlete athlete;
    athlete.name = name;
    whose = must(library.addAthlete(athlete));
    library::Submission row;
    row.athlete = whose;
    row.received_on = library::today();
    row.lift = "squat";
    Task task;
    return must(library.addSubmission(row, folder.write(std::string(name) + ".mp4", name), task));
  }
  // The other desk on the same folder.
  void sit(const char* coach) {
    desk::keepSeat(library, coach);
    page.reset();
    page = std::make_unique<desk::LibraryPage>(library);
    page->resize(1280, 760);
    page->show();
    page->activateWindow();
    page->refresh();
    QCoreApplication::processEvents();
  }
  template <class Widget>
  Widget* find(const char* name) {
    QCoreApplication::processEvents();  // what is told by an event of its own
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return page->findChild<Widget*>(QString::fromLatin1(name));
  }
  QStringList shown(const QString& what) {
    auto* show = find<QComboBox>("show");
    show->setCurrentIndex(show->findText(what));
    QStringList names;
    auto* model = find<QTableView>("submissions")->model();
    for (int row = 0; row < model->rowCount(); ++row)
      names << model->index(row, desk::SubmissionsModel::AthleteName).data().toString();
    names.sort();
    return names;
  }
  QString state(const char* athlete) {
    auto* model = find<QTableView>("submissions")->model();
    for (int row = 0; row < model->rowCount(); ++row)
      if (model->index(row, desk::SubmissionsModel::AthleteName).data().toString() == athlete)
        return model->index(row, desk::SubmissionsModel::State).data().toString();
    return {};
  }
  void choose(library::SubmissionId id) { page->select(id); }
};

TEST(Coaches, MineIsWhatWaitsForWhoSitsHereAndNothingSaysSoWhereOneCoachesAlone) {
  House h;
  must(h.library.edit(h.kit, [](library::Athlete& a) { a.profile.coach = "Tom Reeve"; }));
  h.page->refresh();
  EXPECT_EQ(h.shown("mine"), QStringList{"Odo Marsh"});
  EXPECT_EQ(h.shown("all").size(), 2);
  EXPECT_TRUE(h.state("Kit Lunde").endsWith("→ Tom Reeve")) << h.state("Kit Lunde").toStdString();
  h.sit("Tom Reeve");
  EXPECT_EQ(h.shown("mine").size(), 2) << "Kit is theirs, and Odo is whoever's gets to it";
  EXPECT_FALSE(h.state("Kit Lunde").contains("→"));
  auto card = must(h.library.coach());
  card.colleagues.clear();
  must(h.library.setCoach(card));
  h.sit("");
  EXPECT_LT(h.find<QComboBox>("show")->findText("mine"), 0);
  h.choose(h.kits);
  EXPECT_EQ(h.find<QComboBox>("reviewer"), nullptr);
}

TEST(Coaches, AClipIsHandedOverAndTakenBack) {
  House h;
  h.choose(h.kits);
  auto* who = h.find<QComboBox>("reviewer");
  ASSERT_NE(who, nullptr);
  who->setCurrentIndex(who->findText("Tom Reeve"));
  emit who->activated(who->currentIndex());
  EXPECT_EQ(must(h.library.submission(h.kits)).details.reviewer, "Tom Reeve");
  EXPECT_EQ(h.shown("mine"), QStringList{"Odo Marsh"});
  h.shown("all");
  h.find<QTableView>("submissions")->setFocus();
  QTest::keyClick(h.find<QTableView>("submissions"), Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(must(h.library.submission(h.kits)).details.reviewer, "");
}

TEST(Coaches, ASecondOpinionIsAskedAnsweredAndReadByWhoAsked) {
  House h;
  h.choose(h.odos);
  h.find<QLineEdit>("opinionQuestion")->setText("Is rep 2 deep?");
  QTest::keyClick(h.find<QLineEdit>("opinionQuestion"), Qt::Key_Return);
  EXPECT_TRUE(h.state("Odo Marsh").contains("Tom Reeve is asked"));
  EXPECT_EQ(h.find<QLineEdit>("opinionAnswer"), nullptr) << "the answer is Tom's";
  must(h.library.edit(h.odo, [](library::Athlete& a) { a.profile.coach = "Mara Quill"; }));
  h.sit("Tom Reeve");
  EXPECT_EQ(h.shown("mine").size(), 2) << "Odo is Mara's, and yet it waits for Tom";
  h.choose(h.odos);
  EXPECT_TRUE(h.find<QLabel>("opinionAsked")->text().contains("Is rep 2 deep?"));
  h.find<QLineEdit>("opinionAnswer")->setText("By a thumb.");
  QTest::keyClick(h.find<QLineEdit>("opinionAnswer"), Qt::Key_Return);
  EXPECT_EQ(h.shown("mine"), QStringList{"Kit Lunde"});
  h.sit("Mara Quill");
  h.shown("all");
  EXPECT_TRUE(h.state("Odo Marsh").contains("Tom Reeve answered"));
  h.choose(h.odos);
  EXPECT_TRUE(h.find<QLabel>("opinionGiven")->text().contains("By a thumb."));
}

TEST(Coaches, ACardThatIsOlderThanAnAnswerDoesNotTakeItAway) {
  library::SubmissionDetails row, from, to;
  from.second_opinion = library::SecondOpinion{"Mara Quill", "Tom Reeve", "Deep?", ""};
  to = from;
  to.reviewer = "Tom Reeve";
  row = from;
  row.second_opinion->answer = "By a thumb.";  // meanwhile, at the other desk
  desk::TurnCard::put(row, from, to);
  EXPECT_EQ(row.reviewer, "Tom Reeve");
  EXPECT_EQ(row.second_opinion->answer, "By a thumb.");
  desk::TurnCard::put(row, to, from);
  EXPECT_EQ(row.reviewer, "");
  EXPECT_EQ(row.second_opinion->answer, "By a thumb.");
}

TEST(Coaches, WhoCoversStaysSoWhenTheyAreCalledSomethingElse) {
  library::CoachCard card;
  card.name = "Mara Quill";
  card.absence = {"2027-01-06", "Tom Reeve"};
  card.colleagues = {{"Tom Reeve", "tom@reeve.invalid"}};
  desk::ColleaguesCard shown(card, "Tom Reeve");
  auto* table = shown.findChild<QTableWidget*>("colleagues");
  table->item(1, 0)->setText("");
  table->item(1, 0)->setText("Tom Dahl");
  shown.into(card);
  EXPECT_EQ(card.absence.covered, "Tom Dahl");
  EXPECT_EQ(shown.seat(), "Tom Dahl");
  EXPECT_EQ(shown.renamed(), (std::vector<std::pair<std::string, std::string>>{{"Tom Reeve", "Tom Dahl"}}));
}

TEST(Coaches, TheirCardIsKeptFromSettingsAndWrongOnesAreSaid) {
  House h;
  desk::CoachDialog dialog(h.library);
  auto* card = dialog.findChild<desk::ColleaguesCard*>();
  ASSERT_NE(card, nullptr);
  auto* table = card->findChild<QTableWidget*>("colleagues");
  ASSERT_EQ(table->rowCount(), 2);
  card->add("tom reeve", "x@y.invalid");
  EXPECT_TRUE(card->trouble().startsWith("Two coaches are called"));
  table->item(2, 0)->setText("Ines Dahl");
  table->item(2, 1)->setText("no address");
  EXPECT_TRUE(card->trouble().contains("Ines Dahl"));
  table->item(2, 1)->setText("ines@dahl.invalid");
  table->item(1, 2)->setText("next week");
  EXPECT_TRUE(card->trouble().contains("not a date"));
  table->item(1, 2)->setText("2027-01-06");
  auto* covered = qobject_cast<QComboBox*>(table->cellWidget(1, 3));
  covered->setCurrentIndex(covered->findText("Ines Dahl"));
  card->findChild<QComboBox*>("coachSeat")->setCurrentIndex(2);
  table->item(2, 4)->setText("I answer on weekends.");
  dialog.findChild<QPlainTextEdit*>("coachSignature")->setPlainText("Kelpstone Barbell\n");
  dialog.accept();
  const auto kept = must(h.library.coach());
  ASSERT_EQ(kept.colleagues.size(), 2u);
  EXPECT_EQ(kept.colleagues[0].absence, (library::Absence{"2027-01-06", "Ines Dahl"}));
  EXPECT_EQ(kept.name, "Mara Quill");
  EXPECT_EQ(kept.signature, "Kelpstone Barbell");
  EXPECT_EQ(library::signatureOf(must(h.library.signer())), "Ines Dahl\nI answer on weekends.");
  EXPECT_EQ(must(h.library.signer()).name, "Ines Dahl");
  auto again = must(library::Library::open(h.folder / "lib"));
  desk::takeSeat(again);
  EXPECT_EQ(must(again.signer()).address, "ines@dahl.invalid") << "the desk remembers who sits at it";
}

TEST(Coaches, SeveralAthletesGetTheirCoachAtOnceAndTheirRepliesAreCounted) {
  House h;
  must(h.library.edit(h.kits, [](library::Submission& s) {
    s.state = library::SubmissionState::Returned;
    s.details.answered_on = library::today();
  }));
  must(h.library.edit(h.kit, [](library::Athlete& a) { a.profile.replies_a_week = 1; }));
  h.page.reset();
  desk::RosterPage roster(h.library);
  roster.show();
  roster.activateWindow();
  QTest::qWait(1);
  auto* table = roster.findChild<QTableView*>("roster");
  table->selectAll();
  EXPECT_TRUE(table->isColumnHidden(desk::RosterModel::Coach)) << "nobody has one yet";
  roster.setCoach("Tom Reeve");
  QCoreApplication::processEvents();
  EXPECT_FALSE(table->isColumnHidden(desk::RosterModel::Coach));
  EXPECT_EQ(table->model()->index(0, desk::RosterModel::Coach).data().toString(), "Tom Reeve");
  for (const auto id : {h.kit, h.odo}) EXPECT_EQ(must(h.library.athlete(id)).profile.coach, "Tom Reeve");
  QStringList replies;
  for (int row = 0; row < table->model()->rowCount(); ++row)
    replies << table->model()->index(row, desk::RosterModel::Replies).data().toString();
  EXPECT_TRUE(replies.contains("1 of 1 this week, same day")) << replies.join("|").toStdString();
  QTest::keyClick(&roster, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(must(h.library.athlete(h.kit)).profile.coach, "");
}

}  // namespace
}  // namespace jib::tests
