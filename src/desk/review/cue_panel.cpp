// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/cue_panel.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/review/commands/change_cues.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
CuePanel::CuePanel(ReviewDocument& document, QWidget* parent) : QScrollArea(parent), document_(document) {
  setObjectName(QStringLiteral("cuePanel"));
  column_ = scrolledColumn(*this);
  connect(&document_, &ReviewDocument::analysisChanged, this, &CuePanel::refreshUnlessTyping);
  connect(&document_, &ReviewDocument::choiceChanged, this, &CuePanel::refreshUnlessTyping);
  rebuild();
}

void CuePanel::refreshUnlessTyping() {
  if (!changing_) rebuild();
}

void CuePanel::change(const QString& text, CueChoice to, int gesture) {
  document_.undoStack().push(new ChangeCues(document_, text, std::move(to), gesture));
}

void CuePanel::rebuild() {
  clearLayout(column_);
  const auto a = document_.analysis();
  if (!a) {
    column_->addWidget(words(
        placeholder_.isEmpty() ? tr("The reply is put together here once the clip is traced.") : placeholder_, true));
    column_->addStretch();
    return;
  }
  addGreeting();
  addKeep();
  const CueChoice& choice = document_.choice();
  column_->addWidget(heading(choice.change_nothing ? tr("Change nothing")
                             : choice.cues.empty() ? tr("Nothing chosen yet")
                                                   : tr("What to try")));
  if (choice.change_nothing)
    column_->addWidget(words(tr("Every check that could be made passes. The reply says: keep going as you are.")));
  else if (choice.cues.empty())
    column_->addWidget(words(
        !a->isTraced() ? tr("Say it in your own words below, on the frame that shows it.")
        : a->trace.body || a->trace.front
            ? tr("No finding is sure enough to be worth a cue. Choose one under Findings, or say “change nothing”.")
            : tr("Place the body points first: most findings need them."),
        true));
  for (int i = 0; i < static_cast<int>(choice.cues.size()); ++i) addCue(i);
  addOwnRow();
  addClosing();
  addRemarks();
  auto* nothing = new QCheckBox(tr("Change nothing: say what is right and stop"));
  nothing->setObjectName(QStringLiteral("changeNothing"));
  nothing->setChecked(choice.change_nothing);
  nothing->setToolTip(tr("Advice on a good lift can make it worse"));
  connect(nothing, &QCheckBox::toggled, this, [this](bool on) {
    CueChoice to = document_.choice();
    to.change_nothing = on;
    if (on) to.cues.clear();
    change(tr("change nothing"), to, newGesture());
  });
  column_->addWidget(nothing);
  auto* all = new QCheckBox(tr("Send the whole table of numbers along"));
  all->setObjectName(QStringLiteral("allNumbers"));
  all->setChecked(choice.all_numbers);
  all->setToolTip(tr("Folded away in the report; without it the three to five numbers that carry the cues"));
  connect(all, &QCheckBox::toggled, this, [this](bool on) {
    CueChoice to = document_.choice();
    to.all_numbers = on;
    change(tr("send all numbers"), to, newGesture());
  });
  column_->addWidget(all);
  column_->addStretch();
}

void CuePanel::setPlaceholder(const QString& sentence) {
  placeholder_ = sentence;
  refreshUnlessTyping();
}

void CuePanel::addGreeting() {
  auto* line = new QLineEdit(q(document_.choice().greeting));
  line->setObjectName(QStringLiteral("greeting"));
  line->setPlaceholderText(tr("First words of the reply"));
  line->setCursorPosition(0);  // a long line shows its beginning
  line->setToolTip(tr("Stands at the top of the report"));
  connect(line, &QLineEdit::textEdited, this, [this, gesture = newGesture()](const QString& text) {
    CueChoice to = document_.choice();
    to.greeting = text.toStdString();
    changing_ = true;
    change(tr("word the greeting"), to, gesture);
    changing_ = false;
  });
  column_->addWidget(line);
}

void CuePanel::addKeep() {
  const auto a = document_.analysis();
  if (a->proposal.keep.empty()) return;
  column_->addWidget(heading(tr("What is good")));
  QStringList lines;
  for (const auto& k : a->proposal.keep) lines << QStringLiteral("✓ ") + q(k);
  column_->addWidget(words(lines.join(QLatin1Char('\n'))));
}

// An experiment that runs past a meet costs kilos on the day.
void CuePanel::addMeetWarning(QGridLayout& grid, int weeks) {
  const std::string& meet = document_.athlete().profile.meet_on;
  const std::string today = library::today();
  if (!library::isDate(meet) || meet < today || library::reviewDay(today, weeks) <= meet) return;
  const int days = library::daysBetween(today, meet).value_or(0);
  auto* line = words(tr("Runs past the meet on %1, in %2 days: shorten it, or keep it for after.")
                         .arg(q(library::spoken(meet)))
                         .arg(days));
  line->setObjectName(QStringLiteral("pastMeet"));
  setTone(line, "warn");
  grid.addWidget(line, 9, 0, 1, 2);
}

// How firmly any of it may be said, and what to look at before.
void CuePanel::addRemarks() {
  for (const auto& remark : document_.analysis()->proposal.remarks) {
    auto* line = words(QStringLiteral("· ") + q(remark), true);
    line->setObjectName(QStringLiteral("remark"));
    column_->addWidget(line);
  }
}

}  // namespace jib::desk
