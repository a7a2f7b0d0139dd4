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
  // One that has a card of its own.
  std::string id, cause;
  for (const coaching::Finding& f : page.document().analysis()->findings)
    if (f.rivals.size() >= 2 && buttonFor(page, "testHelped", f.id + ": " + f.rivals.back().cause)) {
      id = f.id;
      cause = f.rivals.back().cause;
    }
  ASSERT_FALSE(id.empty());
  const auto press = [&](desk::ReviewPage& on, const QString& name) {
    auto* button = buttonFor(on, name, id + ": " + cause);
    ASSERT_TRUE(button) << cause;
    button->click();
    // The panel is put together anew.
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  };
  press(page, "testHelped");
  EXPECT_EQ(findingOf(page, id)->rivals.front().cause, cause);
  EXPECT_EQ(findingOf(page, id)->rivals.front().helped, true);
  EXPECT_TRUE(buttonFor(page, "testHelped", id + ": " + cause)->isChecked());
  press(page, "testDidNot");
  EXPECT_EQ(findingOf(page, id)->rivals.back().cause, cause);
  Desk::waitFor([&] { return page.settled(); });
  t.reopen();
  auto& again = t.open();
  EXPECT_EQ(findingOf(again, id)->rivals.back().helped, false) << "kept with the review";
  press(again, "testDidNot");  // pressed again: open as before
  const auto untried = [&] {
    for (const auto& rival : findingOf(again, id)->rivals)
      if (rival.helped) return false;
    return true;
  };
  EXPECT_TRUE(untried());
  again.document().undoStack().undo();
  EXPECT_FALSE(untried());
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
  EXPECT_FALSE(worth->text().contains("After the meet")) << "it is far away";
  auto* why = page.findChild<QLabel*>("worthWhy0");
  EXPECT_TRUE(why->isHidden());
  worth->click();
  EXPECT_FALSE(why->isHidden());
  EXPECT_FALSE(why->text().isEmpty());
}

}  // namespace
}  // namespace jib::tests
