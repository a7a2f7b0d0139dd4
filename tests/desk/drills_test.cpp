// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's own drill cards, written in the real dialog and sent with a reply.
#include <QCheckBox>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTest>

#include "desk/library_page/drills_dialog.h"
#include "drawing/drill_picture.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {
namespace {

struct Cards {
  ScratchFolder folder;
  desk::DrillsDialog dialog{folder.path()};

  Cards() { dialog.show(); }
  template <class W>
  W* find(const char* name) {
    return dialog.findChild<W*>(QString::fromLatin1(name));
  }
  void press(const char* name) { QTest::mouseClick(find<QPushButton>(name), Qt::LeftButton); }
  QString told() { return find<QLabel>("drillTold")->text(); }
  void type(const char* title, const char* words) {
    press("drillNew");
    find<QLineEdit>("drillTitle")->setText(title);
    find<QLineEdit>("drillWords")->setText(words);
    find<QCheckBox>("drillLift_squat")->setChecked(true);
    find<QPlainTextEdit>("drillSetup")->setPlainText("Toes a hand from the wall.");
  }
  coaching::DrillBook book() const { return coaching::DrillBook::forLibrary(folder.path()); }
};

TEST(DrillCards, OneOfYourOwnIsWrittenWithYourPictureAndFoundByItsWords) {
  Cards c;
  c.type("Wall squat", " Wall squat ,face the wall");
  QImage photo(2400, 1200, QImage::Format_RGB32);
  photo.fill(Qt::darkGreen);
  ASSERT_TRUE(photo.save(QString::fromStdString((c.folder / "photo.png").string())));
  c.dialog.takePicture(QString::fromStdString((c.folder / "photo.png").string()));
  c.press("drillSave");
  EXPECT_TRUE(c.told().startsWith("Saved.")) << c.told().toStdString();
  EXPECT_EQ(c.find<QListWidget>("drillList")->item(0)->text(), "Wall squat (yours)");
  const auto book = c.book();
  const auto* card = book.cardFor("Face the wall, 2 x 8", lifts::LiftId::Squat);
  ASSERT_NE(card, nullptr);
  EXPECT_EQ(card->words, (std::vector<std::string>{"wall squat", "face the wall"}));
  const QImage kept = QImage::fromData(QByteArray::fromStdString(card->jpeg));
  EXPECT_EQ(kept.size(), QSize(drawing::kCardPixels, drawing::kCardPixels / 2)) << "as small as a page needs it";
  c.press("drillNoPicture");
  c.press("drillSave");
  EXPECT_TRUE(c.book().cards().front().jpeg.empty());
}

TEST(DrillCards, WhatIsMissingIsSaidAndNothingIsKept) {
  Cards c;
  c.press("drillNew");
  c.press("drillSave");
  EXPECT_EQ(c.told(), "Give the drill a name.");
  c.type("Wall squat", " , ");
  c.press("drillSave");
  EXPECT_TRUE(c.told().startsWith("Say which words")) << c.told().toStdString();
  c.dialog.takePicture(QString::fromStdString(c.folder.write("song.png", "la la la").string()));
  EXPECT_TRUE(c.told().contains("isn't a picture")) << c.told().toStdString();
  EXPECT_FALSE(std::filesystem::exists(c.folder / "drills.toml"));
}

TEST(DrillCards, OursIsChangedAndGivenBackAndYoursCanBeSavedAgainAfterDeleting) {
  Cards c;
  c.dialog.choose("pause_squat");
  const QString ours = c.find<QPlainTextEdit>("drillDose")->toPlainText();
  c.find<QPlainTextEdit>("drillDose")->setPlainText("5 x 2");
  c.press("drillSave");
  EXPECT_EQ(c.book().cardFor("pause squat", lifts::LiftId::Squat)->dose, "5 x 2");
  EXPECT_EQ(c.find<QPushButton>("drillGiveBack")->text(), "Back to the original");
  c.press("drillGiveBack");
  EXPECT_EQ(c.find<QPlainTextEdit>("drillDose")->toPlainText(), ours);
  c.type("Wall squat", "wall squat");
  c.press("drillSave");
  EXPECT_EQ(c.find<QPushButton>("drillGiveBack")->text(), "Delete this card");
  c.press("drillGiveBack");
  EXPECT_EQ(c.book().cardFor("wall squat", lifts::LiftId::Squat), nullptr);
  c.press("drillSave");
  ASSERT_NE(c.book().cardFor("wall squat", lifts::LiftId::Squat), nullptr);
  EXPECT_EQ(c.book().cardFor("wall squat", lifts::LiftId::Squat)->setup, "Toes a hand from the wall.");
}

TEST(DrillCards, WhatIsHalfTypedIsNotLostToOneEscape) {
  Cards c;
  c.type("Wall squat", "wall squat");
  QTest::keyClick(&c.dialog, Qt::Key_Escape);
  EXPECT_TRUE(c.dialog.isVisible());
  EXPECT_TRUE(c.told().startsWith("You changed this card."));
  QTest::keyClick(&c.dialog, Qt::Key_Escape);
  EXPECT_FALSE(c.dialog.isVisible());
}

TEST(DrillCards, EveryShippedFigureIsDrawn) {
  const auto book = must(coaching::DrillBook::shipped());
  for (const auto& card : book.cards()) {
    const QImage picture = drawing::drillPicture(card, {}, {200, 160});
    ASSERT_FALSE(picture.isNull()) << card.id;
    int dark = 0;
    for (int y = 0; y < picture.height(); ++y)
      for (int x = 0; x < picture.width(); ++x) dark += qGray(picture.pixel(x, y)) < 200;
    EXPECT_GT(dark, 100) << card.id << " is an empty sheet";
  }
}

}  // namespace
}  // namespace jib::tests
