// SPDX-License-Identifier: GPL-3.0-or-later
// A limit is moved where it is shown, and taken back.
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include "desk/review/findings_panel.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

TEST(Limits, OneIsMovedInItsCardAndUndone) {
  Desk d(Begin::Placed);
  desk::ReviewPage& page = d.open();
  auto* panel = page.findChild<desk::FindingsPanel*>();
  const auto button = [&]() -> QToolButton* {
    for (auto* b : panel->findChildren<QToolButton*>())
      if (b->objectName().startsWith("limit_") && b->isVisible()) return b;
    return nullptr;
  };
  ASSERT_NE(button(), nullptr);
  const std::string finding = button()->objectName().mid(6).toStdString();
  const double usual = page.document().style().limit(finding)->limit;
  button()->click();
  const auto visible = [&](const char* name) -> QWidget* {
    for (auto* w : panel->findChildren<QWidget*>(QString::fromLatin1(name)))
      if (w->isVisible()) return w;
    return nullptr;
  };
  auto* value = qobject_cast<QDoubleSpinBox*>(visible("limitValue"));
  ASSERT_NE(value, nullptr);
  EXPECT_FALSE(qobject_cast<QLabel*>(visible("limitWould"))->text().isEmpty()) << "what it would have said";
  value->setValue(value->value() * 1.5);
  qobject_cast<QPushButton*>(visible("keepLimit"))->click();
  Desk::waitFor([&] { return page.document().style().limit(finding)->moved_from.has_value(); });
  EXPECT_NEAR(page.document().style().limit(finding)->limit, 1.5 * usual, 0.06 * std::abs(usual));
  EXPECT_TRUE(std::filesystem::exists(d.folder / "lib/limits.json"));
  page.document().undoStack().undo();
  EXPECT_FALSE(page.document().style().limit(finding)->moved_from);
  EXPECT_EQ(page.document().style().limit(finding)->limit, usual);
}

}  // namespace
}  // namespace jib::tests
