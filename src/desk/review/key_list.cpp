// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/key_list.h"

#include <QGridLayout>
#include <QLabel>

#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

QLabel* keysLabel(const QString& keys) {
  auto* label = plainLabel(keys);
  QFont bold = label->font();
  bold.setBold(true);
  label->setFont(bold);
  return label;
}

}  // namespace

KeyList::KeyList(const QList<QAction*>& actions, QWidget* parent) : QFrame(parent) {
  setObjectName(QStringLiteral("card"));
  setAutoFillBackground(true);
  setFocusPolicy(Qt::StrongFocus);
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(24, 18, 24, 18);
  grid->setHorizontalSpacing(18);
  // Under the headings of the menus, down one column and then the next.
  struct Entry {
    QString group;
    const QAction* action = nullptr;  // null: the group's heading
  };
  QStringList groups;
  for (const QAction* a : actions)
    if (const QString group = a->property("menu").toString(); !groups.contains(group)) groups << group;
  std::vector<Entry> entries;
  for (const QString& group : groups) {
    const std::size_t before = entries.size();
    entries.push_back({group, nullptr});
    for (const QAction* a : actions)
      if (a->property("menu").toString() == group && !a->text().isEmpty() && !a->shortcuts().isEmpty())
        entries.push_back({group, a});
    if (entries.size() == before + 1) entries.pop_back();
  }
  constexpr int kColumns = 3;
  const int rows = (static_cast<int>(entries.size()) + kColumns - 1) / kColumns;
  int row = 0, column = 0;
  for (const Entry& entry : entries) {
    if (row >= rows && column + 1 < kColumns) {
      row = 0;
      ++column;
    }
    if (!entry.action) {
      grid->addWidget(heading(entry.group), row++, 2 * column, 1, 2);
      continue;
    }
    QStringList keys;
    for (const QKeySequence& k : entry.action->shortcuts()) keys << k.toString(QKeySequence::NativeText);
    grid->addWidget(keysLabel(keys.join(tr(" or "))), row, 2 * column);
    auto* what = plainLabel(entry.action->text());
    what->setWordWrap(true);
    leastTextWidth(what, 210);
    grid->addWidget(what, row++, 2 * column + 1);
  }
  const bool of_clip = std::any_of(actions.begin(), actions.end(),
                                   [](const QAction* a) { return a->objectName() == QLatin1String("playAction"); });
  if (of_clip)
    grid->addWidget(
        words(tr("The wheel zooms, over the time line it steps; Shift-drag moves the picture, over the time line "
                 "it leaves a part out; a double click frames the lifter or shows all of it. Drag a point, "
                 "or the mid-foot line, to correct it."),
              true),
        rows + 2, 0, 1, 2 * kColumns);
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
