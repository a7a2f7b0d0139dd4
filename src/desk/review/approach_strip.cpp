// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/approach_strip.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

#include "desk/review/commands/change_approach.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

constexpr int kColumns = 3;
constexpr int kShownLetters = 16;

}  // namespace

ApproachStrip::ApproachStrip(ReviewDocument& document, QWidget* parent) : QFrame(parent), document_(document) {
  setObjectName(QStringLiteral("coachCard"));
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(12, 6, 12, 6);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(4);
  int place = 0;
  for (const auto& topic : document.styles().topics().all()) {
    if (!topic.concerns(document.lift().id)) continue;
    auto* title = words(q(topic.title), true);
    title->setWordWrap(false);
    auto* box = new QComboBox;
    box->setObjectName(QStringLiteral("topic_") + q(topic.id));
    box->setToolTip(q(topic.about));
    // A long choice is cut, and the window stays as wide as it is.
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(kShownLetters);
    box->addItem(QString(), QString());
    for (const auto& choice : topic.choices) {
      box->addItem(q(choice.title), q(choice.id));
      box->setItemData(box->count() - 1, q(choice.text), Qt::ToolTipRole);
    }
    connect(box, &QComboBox::currentIndexChanged, this, [this, box, id = topic.id] {
      if (!refreshing_) choose(id, box->currentData().toString().toStdString());
    });
    const int row = place / kColumns, column = 2 * (place % kColumns);
    grid->addWidget(title, row, column);
    grid->addWidget(box, row, column + 1);
    grid->setColumnStretch(column + 1, 1);
    boxes_[topic.id] = box;
    ++place;
  }
  grid->addWidget(words(tr("The numbers are the same either way; limits, calls and words differ. Saved with the "
                           "athlete."),
                        true),
                  (place + kColumns - 1) / kColumns, 0, 1, 2 * kColumns);
  connect(&document_, &ReviewDocument::approachChanged, this, &ApproachStrip::refresh);
  refresh();
  hide();
}

// The first entry says what holds without a choice for this athlete.
void ApproachStrip::refresh() {
  refreshing_ = true;
  const auto usual = document_.usualSides();
  for (const auto& topic : document_.styles().topics().all()) {
    const auto shown = boxes_.find(topic.id);
    if (shown == boxes_.end()) continue;
    QComboBox* box = shown->second;
    const auto without = usual.find(topic.id);
    const coaching::Choice* choice = without == usual.end() ? nullptr : topic.choice(without->second);
    box->setItemText(
        0, choice ? tr("as usual: %1").arg(q(choice->title)) : tr("as in “%1”").arg(q(document_.style().title)));
    const auto& sides = document_.approach().sides;
    const auto own = sides.find(topic.id);
    const int index = own == sides.end() ? 0 : box->findData(q(own->second));
    box->setCurrentIndex(std::max(0, index));
  }
  refreshing_ = false;
}

void ApproachStrip::choose(const std::string& topic, const std::string& choice) {
  Approach to = document_.approach();
  if (choice.empty())
    to.sides.erase(topic);
  else
    to.sides[topic] = choice;
  if (to == document_.approach()) return;
  document_.undoStack().push(new ChangeApproach(document_, tr("change preference"), std::move(to)));
}

}  // namespace jib::desk
