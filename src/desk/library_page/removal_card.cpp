// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/removal_card.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "desk/widgets/flow.h"

namespace jib::desk {

RemovalCard::RemovalCard(library::Library& library, const QString& title, library::Library::Removal removal,
                         QWidget* parent)
    : QFrame(parent) {
  setObjectName(QStringLiteral("card"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 8, 10, 8);
  auto* head = words(title);
  setTone(head, "bad");
  column->addWidget(head);
  for (const auto& line : removal.lines) {
    auto* label = words(QStringLiteral("– ") + QString::fromStdString(line));
    label->setObjectName(QStringLiteral("goes"));
    column->addWidget(label);
  }
  column->addWidget(words(tr("This can't be undone. Backups you made elsewhere still have it."), true));
  auto* row = new QHBoxLayout;
  auto* keep = new QPushButton(tr("Cancel"));
  keep->setObjectName(QStringLiteral("keepIt"));
  connect(keep, &QPushButton::clicked, this, &QWidget::hide);
  auto* go = new QPushButton(tr("Delete permanently"));
  go->setObjectName(QStringLiteral("deleteForGood"));
  connect(go, &QPushButton::clicked, this, [this, &library, removal = std::move(removal)] {
    auto done = library.remove(removal);
    if (!done) return emit said(QString::fromStdString(done.error().sentence()));
    hide();
    emit removed();
  });
  row->addStretch();
  row->addWidget(keep);
  row->addWidget(go);
  column->addLayout(row);
}

}  // namespace jib::desk
