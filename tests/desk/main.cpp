// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <QApplication>
#include <QStandardPaths>

#include "desk/theme.h"
#include "desk/widgets/plain_tips.h"

int main(int argc, char** argv) {
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QStandardPaths::setTestModeEnabled(true);
  QApplication application(argc, argv);
  jib::desk::keepTipsPlain(application);
  jib::desk::applyTheme(application, jib::desk::Theme::Day);
  testing::InitGoogleTest(&argc, argv);
  return RUN_ALL_TESTS();
}
