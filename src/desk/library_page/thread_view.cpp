// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/thread_view.h"

#include <QToolButton>
#include <QVBoxLayout>

#include "core/exchange/mail/mail.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// A line that opens what lies below it.
void addFold(QVBoxLayout& column, const QString& line, const char* name, QWidget* below) {
  auto* fold = new QToolButton;
  fold->setObjectName(QString::fromLatin1(name));
  fold->setText(QStringLiteral("▸ ") + line);
  fold->setProperty("quiet", true);
  fold->setCheckable(true);
  fold->setToolTip(ThreadView::tr("Show or hide it"));
  below->hide();
  QObject::connect(fold, &QToolButton::toggled, below, [fold, below, line](bool open) {
    fold->setText((open ? QStringLiteral("▾ ") : QStringLiteral("▸ ")) + line);
    below->setVisible(open);
  });
  column.addWidget(fold, 0, Qt::AlignLeft);
  column.addWidget(below);
}

QWidget* bodyOf(const library::Message& m) {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  const QString own = q(m.body).trimmed();
  auto* said =
      words(own.isEmpty() ? ThreadView::tr("No words of their own.") : QStringLiteral("“%1”").arg(own), own.isEmpty());
  said->setObjectName(QStringLiteral("ownWords"));
  said->setTextInteractionFlags(Qt::TextSelectableByMouse);
  column->addWidget(said);
  if (!m.quoted.empty()) {
    auto* quoted = words(q(m.quoted), true);
    quoted->setTextInteractionFlags(Qt::TextSelectableByMouse);
    addFold(*column, ThreadView::tr("Quoted from earlier messages"), "quoted", quoted);
  }
  if (const auto parts = exchange::contentsText(m.contents); !parts.empty()) {
    auto* held = words(q(parts), true);
    held->setObjectName(QStringLiteral("contents"));
    column->addWidget(held);
  }
  for (const auto& trouble : m.troubles) {
    auto* line = words(q(trouble));
    setTone(line, "warn");
    column->addWidget(line);
  }
  return box;
}

}  // namespace

ThreadView::ThreadView(const std::vector<library::Message>& thread, library::MessageId at_hand, QWidget* parent)
    : QWidget(parent) {
  setObjectName(QStringLiteral("thread"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  for (const auto& m : thread) {
    if (m.id == at_hand) {
      column->addWidget(bodyOf(m));
      continue;
    }
    const QString line = tr("%1: %2").arg(q(library::spoken(m.received_on)), q(m.body).simplified().left(42));
    addFold(*column, line, "earlier", bodyOf(m));
  }
}

}  // namespace jib::desk
