// SPDX-License-Identifier: GPL-3.0-or-later
// A clip that somebody cut together: the shot with the set is measured, and the coach can look at all of it.
#include <QComboBox>
#include <QPushButton>
#include <QTimer>

#include "desk/review/upright_dialog.h"
#include "tests/desk/office.h"

namespace jib::desk {
namespace {

// A title card before the set, longer than it takes to walk out.
std::string withCard(const Office& office) {
  const auto film = office.folder / "edited.mp4";
  EXPECT_TRUE(tests::run("ffmpeg -y -v error -i " JIB_MADE_CLIP
                         " -vf \"tpad=start_duration=2:start_mode=add:color=0x203050\" "
                         "-c:v libx264 -crf 20 -preset veryfast " +
                         film.string()));
  return film.string();
}

TEST(CutTogether, TheSetIsMeasuredWithoutTheCardAndTheWholeClipIsAChoiceAway) {
  Office office;
  const auto id = office.send("Kit Marlin", withCard(office), "Squat 60 kg x 2.");
  Task task;
  const auto check = exchange::prepare(office.library, id, task);
  ASSERT_TRUE(check) << check.error().sentence();
  EXPECT_EQ(check->reps, 2);
  {
    auto& page = office.open(id);
    const auto& a = *page.document().analysis();
    EXPECT_NEAR(a.motion.times_s.front(), 2, 0.1) << "the card is not in it";
    const auto told =
        std::find_if(a.notices.begin(), a.notices.end(), [](const auto& n) { return n.id == "several_shots"; });
    ASSERT_NE(told, a.notices.end());
    EXPECT_NE(told->text.find("2 shots"), std::string::npos) << told->text;
  }
  QTimer::singleShot(0, [&] {
    auto* dialog = office.window->findChild<UprightDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* shots = dialog->findChild<QComboBox*>("shot");
    EXPECT_EQ(shots->count(), 3);
    EXPECT_EQ(shots->currentIndex(), 1);
    shots->setCurrentIndex(2);
    EXPECT_EQ(dialog->chosen().shot, footage::Upright::kWholeFilm);
    dialog->findChild<QPushButton*>("useUpright")->click();
  });
  office.window->reviewPage()->findChild<QAction*>("uprightAction")->trigger();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] {
        auto* page = office.window->reviewPage();
        return page && page->settled() && page->document().analysis() &&
               page->document().analysis()->motion.times_s.front() < 0.1;
      },
      kPatience_ms));
}

}  // namespace
}  // namespace jib::desk
