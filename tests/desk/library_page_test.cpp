// SPDX-License-Identifier: GPL-3.0-or-later
// The first page by mouse and keys: adding a clip under a new or known name, choosing an athlete, refusals in words.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QSignalSpy>
#include <QTableView>
#include <QTest>
#include <QUrl>

#include "core/library/dates.h"
#include "desk/library_page/library_page.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/history_panel.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

struct Page {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  LibraryPage page{library};

  Page() {
    page.resize(1100, 700);
    page.show();
  }
  QString status() { return page.findChild<QLabel*>("libraryStatus")->text(); }
  QComboBox* name() { return page.findChild<QComboBox*>("newAthlete"); }
  QTableView* table() { return page.findChild<QTableView*>("submissions"); }
  QListWidget* athletes() { return page.findChild<QListWidget*>("athletes"); }
  void add(const QString& athlete, const QString& load = {}, const QString& message = {}) {
    const auto before = library.submissions()->size();
    name()->setEditText(athlete);
    page.findChild<QLineEdit*>("newLoad")->setText(load);
    page.findChild<QLineEdit*>("newMessage")->setText(message);
    page.addClip(QStringLiteral(JIB_MADE_CLIP));
    // The row shows once the job's result has come back to the window.
    EXPECT_TRUE(QTest::qWaitFor([&] { return table()->model()->rowCount() == static_cast<int>(before) + 1; }, 60000));
    EXPECT_TRUE(status().startsWith("Added"));
  }
};

TEST(LibraryPage, AddsAClipUnderANewName) {
  Page p;
  p.add("Ola Marsh", "82,5", "my knees?");
  const auto submissions = *p.library.submissions();
  ASSERT_EQ(submissions.size(), 1u);
  EXPECT_EQ(submissions[0].load_kg, 82.5) << "a comma is a decimal point too";
  EXPECT_EQ(submissions[0].message, "my knees?");
  EXPECT_EQ(submissions[0].received_on, library::today());
  EXPECT_EQ(p.library.athletes()->at(0).name, "Ola Marsh");
  EXPECT_EQ(p.table()->model()->rowCount(), 1);
  EXPECT_TRUE(p.page.findChild<QLineEdit*>("newMessage")->text().isEmpty());
}

TEST(LibraryPage, KnowsAnAthleteByName) {
  Page p;
  p.add("Ola Marsh");
  p.add("Ola Marsh");
  EXPECT_EQ(p.library.athletes()->size(), 1u);
  EXPECT_EQ(p.library.submissions()->size(), 2u);
}

TEST(LibraryPage, AClipChosenBeforeItsAthleteWaitsForTheName) {
  Page p;
  p.name()->setEditText("  ");
  p.page.addClip(QStringLiteral(JIB_MADE_CLIP));
  EXPECT_TRUE(p.status().contains("Whose clip is"));
  EXPECT_TRUE(p.library.submissions()->empty());
  p.name()->setEditText("Ola Marsh");
  QTest::keyClick(p.name()->lineEdit(), Qt::Key_Return);
  ASSERT_TRUE(QTest::qWaitFor([&] { return !p.page.busy() && p.library.submissions()->size() == 1; }, 20000))
      << "the file chosen first is not forgotten";
}

TEST(LibraryPage, RefusesWhatIsNoFilmAndAddsNobody) {
  Page p;
  p.name()->setEditText("Ola Marsh");
  p.page.addClip(QString::fromStdString(p.folder.write("letter.mp4", "words").string()));
  ASSERT_TRUE(QTest::qWaitFor([&] { return p.status().contains("letter.mp4"); }, 60000));
  EXPECT_TRUE(p.library.submissions()->empty());
  EXPECT_TRUE(p.library.athletes()->empty());
}

TEST(LibraryPage, TakesAClipThatIsDroppedOnIt) {
  Page p;
  p.name()->setEditText("Ola Marsh");
  QMimeData data;
  data.setUrls({QUrl::fromLocalFile(QStringLiteral(JIB_MADE_CLIP))});
  QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&p.page, &enter);
  EXPECT_TRUE(enter.isAccepted());
  QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&p.page, &drop);
  EXPECT_TRUE(QTest::qWaitFor([&] { return p.library.submissions()->size() == 1; }, 60000));
}

TEST(LibraryPage, ShowsOneAthletesSubmissionsAndWhatWasAskedOfThem) {
  Page p;
  p.add("Ola Marsh");
  p.add("Ben Tarn");
  ASSERT_EQ(p.athletes()->count(), 3);
  p.athletes()->setCurrentRow(2);
  ASSERT_EQ(p.table()->model()->rowCount(), 1);
  EXPECT_EQ(p.table()->model()->index(0, SubmissionsModel::AthleteName).data().toString(),
            p.athletes()->item(2)->text());
  p.athletes()->setCurrentRow(0);
  EXPECT_EQ(p.table()->model()->rowCount(), 2);
}

TEST(LibraryPage, OpensByDoubleClickAndByReturn) {
  Page p;
  p.add("Ola Marsh");
  QSignalSpy asked(&p.page, &LibraryPage::openRequested);
  const QRect row = p.table()->visualRect(p.table()->model()->index(0, SubmissionsModel::AthleteName));
  QTest::mouseClick(p.table()->viewport(), Qt::LeftButton, {}, row.center());
  QTest::mouseDClick(p.table()->viewport(), Qt::LeftButton, {}, row.center());
  ASSERT_EQ(asked.count(), 1);
  EXPECT_EQ(asked.front().front().toLongLong(), p.library.submissions()->at(0).id.number);
}

}  // namespace
}  // namespace jib::desk
