// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/pin_panel.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "desk/review/commands/place_point.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

QString wordFor(const tracing::PointName& point) {
  return q(tracing::titleOf(point));
}

}  // namespace

PinPanel::PinPanel(ReviewDocument& document, QWidget* parent) : QScrollArea(parent), document_(document) {
  setObjectName(QStringLiteral("pinPanel"));
  column_ = scrolledColumn(*this);
  connect(&document_, &ReviewDocument::pinsChanged, this, &PinPanel::rebuild);
  connect(&document_, &ReviewDocument::analysisChanged, this, [this] {
    if (count() == 0) rebuild();  // what it proposes goes by the view
  });
  rebuild();
}

int PinPanel::count() const {
  const auto all = tracing::allPointNames();
  std::ptrdiff_t points = 0;
  for (const auto& frame : document_.placed())
    points += std::count_if(all.begin(), all.end(), [&](const auto& name) { return frame.at(name).has_value(); });
  return static_cast<int>(points);
}

void PinPanel::rebuild() {
  clearLayout(column_);
  if (count() == 0) {
    const bool across = document_.analysis() && document_.analysis()->trace.front;
    column_->addWidget(words(across ? tr("No points placed by hand yet. Drag a point that is off: what you set here "
                                         "stays, and the frames around it follow.")
                                    : tr("No points placed by hand yet. Drag a point that is off, or place all six "
                                         "once on a still frame (P): what you set here stays, and everything else is "
                                         "fitted to it."),
                             true));
    column_->addStretch();
    return;
  }
  column_->addWidget(words(tr("Placed by you. Tracking uses these; remove one to let tracking decide."), true));
  auto frames = document_.placed();
  std::sort(frames.begin(), frames.end(), [](const auto& a, const auto& b) { return a.t_s < b.t_s; });
  for (const auto& frame : frames) addFrame(frame);
  column_->addStretch();
}

void PinPanel::addFrame(const tracing::PlacedFrame& frame) {
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("coachCard"));
  auto* box = new QVBoxLayout(card);
  box->setContentsMargins(10, 4, 10, 6);
  box->setSpacing(2);
  auto* head = new QHBoxLayout;
  const QString when = tr("%1 s").arg(frame.t_s, 0, 'f', 2);
  auto* go = new QPushButton(when);
  go->setObjectName(QStringLiteral("quiet"));
  go->setToolTip(tr("Show this frame"));
  connect(go, &QPushButton::clicked, this, [this, t = frame.t_s] { emit timeRequested(t); });
  head->addWidget(go);
  head->addStretch();
  std::vector<PinKey> all;
  auto* points = new QVBoxLayout;
  for (const tracing::PointName& name : tracing::allPointNames()) {
    if (!frame.at(name)) continue;
    const PinKey key{frame.t_s, name};
    all.push_back(key);
    auto* row = new QHBoxLayout;
    row->addWidget(words(wordFor(name)));
    auto* off = new QPushButton(tr("Remove"));
    off->setObjectName(QStringLiteral("unpin"));
    off->setToolTip(tr("Removes this point (Ctrl+Z brings it back)"));
    connect(off, &QPushButton::clicked, this, [this, key] { takeAway({key}, tr("unpin %1").arg(wordFor(key.point))); });
    row->addWidget(off);
    points->addLayout(row);
  }
  if (all.size() > 1) {
    auto* whole = new QPushButton(tr("Remove this frame"));
    whole->setObjectName(QStringLiteral("unpinFrame"));
    connect(whole, &QPushButton::clicked, this,
            [this, all, when] { takeAway(all, tr("unpin the frame at %1").arg(when)); });
    head->addWidget(whole);
  }
  box->addLayout(head);
  box->addLayout(points);
  column_->addWidget(card);
}

void PinPanel::takeAway(const std::vector<PinKey>& keys, const QString& text) {
  // One step of undo, however many points. The buttons that asked are on the stack still, and go with the rebuild.
  document_.undoStack().beginMacro(text);
  for (const PinKey& key : keys) document_.undoStack().push(new PlacePoint(document_, key, std::nullopt, newGesture()));
  document_.undoStack().endMacro();
}

}  // namespace jib::desk
