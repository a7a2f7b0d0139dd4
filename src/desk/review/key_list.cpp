// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/key_list.h"

#include <QGridLayout>
#include <QLabel>

#include "desk/widgets/flow.h"

namespace jib::desk {

KeyList::KeyList(const QList<QAction*>& actions, QWidget* parent) : QFrame(parent) {
  setObjectName(QStringLiteral("card"));
  setAutoFillBackground(true);
  setFocusPolicy(Qt::StrongFocus);
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(24, 18, 24, 18);
  grid->setHorizontalSpacing(18);
  grid->addWidget(heading(tr("Keys")), 0, 0, 1, 4);
  const int rows = (static_cast<int>(actions.size()) + 1) / 2;
  for (int i = 0; i < static_cast<int>(actions.size()); ++i) {
    QStringList keys;
    for (const QKeySequence& k : actions[i]->shortcuts()) keys << k.toString(QKeySequence::NativeText);
    auto* key = new QLabel(QStringLiteral("<b>%1</b>").arg(keys.join(QStringLiteral("  or  ")).toHtmlEscaped()));
    const int row = 1 + i % rows, column = 2 * (i / rows);
    grid->addWidget(key, row, column);
    grid->addWidget(new QLabel(actions[i]->text()), row, column + 1);
  }
  grid->addWidget(
      words(tr("Wheel zooms, Shift-drag moves the picture, double click shows it whole. Drag a point to correct it."),
            true),
      rows + 1, 0, 1, 4);
  adjustSize();
  move((parent->width() - width()) / 2, std::max(10, (parent->height() - height()) / 2));
}

void KeyList::mousePressEvent(QMouseEvent*) {
  hide();
}

void KeyList::keyPressEvent(QKeyEvent*) {
  hide();
}

}  // namespace jib::desk
