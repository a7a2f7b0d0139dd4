// SPDX-License-Identifier: GPL-3.0-or-later
// In the window: how the test of a cause went is said and used; whether a change is worth it now.
#include <QLabel>
#include <QToolButton>

#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

const coaching::Finding* findingOf(const desk::ReviewPage& page, std::string_view id) {
  const auto a = const_cast<desk::ReviewPage&>(page).document().analysis();
  for (const coaching::Finding& f : a->findings)
    if (f.id == id) return &f;
  return nullptr;
}

QToolButton* buttonFor(desk::ReviewPage& page, const QString& name, const std::string& cause) {
  for (auto* b : page.findChildren<QToolButton*>(name))
    if (b->property("cause").toString().toStdString() == cause) return b;
  return nullptr;
}

TEST(TriedTest, WhatHelpedIsTheCauseUntilItIsTakenBack) {
  Desk t(Begin::Placed);
  auto& page = t.open();
  constexpr const char* kId = "squat.knees_slide_back";
  const auto* f = findingOf(page, kId);
  ASSERT_TRUE(f);
  ASSERT_GE(f->rivals.size(), 2u);
  const std::string cause = f->rivals.back().cause;
  auto* helped = buttonFor(page, "testHelped", cause);
  ASSERT_TRUE(helped);
  helped->click();
  EXPECT_EQ(findingOf(page, kId)->rivals.front().cause, cause);
  EXPECT_EQ(findingOf(page, kId)->rivals.front().helped, true);
  EXPECT_TRUE(buttonFor(page, "testHelped", cause)->isChecked());
  buttonFor(page, "testDidNot", cause)->click();
  EXPECT_EQ(findingOf(page, kId)->rivals.back().cause, cause);
  Desk::waitFor([&] { return page.settled(); });
  t.reopen();
  auto& again = t.open();
  EXPECT_EQ(findingOf(again, kId)->rivals.back().helped, false) << "kept with the review";
  buttonFor(again, "testDidNot", cause)->click();  // pressed again: open as before
  EXPECT_EQ(findingOf(again, kId)->rivals.back().helped, std::nullopt);
  again.document().undoStack().undo();
  EXPECT_EQ(findingOf(again, kId)->rivals.back().helped, false);
}

TEST(WorthChanging, TheMeetAndALongHabitAreHeldAgainstTheWeeks) {
  Desk t(Begin::Placed);
  t.window.reset();
  {
    auto library = *library::Library::open(t.folder / "lib");
    const auto ola = library.submission(t.id)->athlete;
    ASSERT_TRUE(library.edit(ola, [](library::Athlete& a) { a.profile.meet_on = "2099-01-01"; }));
  }
  t.window = std::make_unique<desk::DeskWindow>(*library::Library::open(t.folder / "lib"));
  t.present();
  auto& page = t.open();
  ASSERT_FALSE(page.document().choice().cues.empty());
  auto* worth = page.findChild<QToolButton*>("worth0");
  ASSERT_TRUE(worth);
  EXPECT_TRUE(worth->text().contains("Yes")) << worth->text().toStdString();
  auto* why = page.findChild<QLabel*>("worthWhy0");
  EXPECT_TRUE(why->isHidden());
  worth->click();
  EXPECT_FALSE(why->isHidden());
  EXPECT_TRUE(why->text().contains("weeks"));
}

}  // namespace
}  // namespace jib::tests
