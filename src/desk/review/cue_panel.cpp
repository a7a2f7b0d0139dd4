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
#include <algorithm>

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
    column_->addWidget(
        words(placeholder_.isEmpty() ? tr("The reply appears here once the clip is tracked.") : placeholder_, true));
    column_->addStretch();
    return;
  }
  addGreeting();
  addKeep();
  const CueChoice& choice = document_.choice();
  column_->addWidget(heading(choice.change_nothing ? tr("No changes")
                             : choice.cues.empty() ? tr("Nothing chosen yet")
                                                   : tr("Work on")));
  if (choice.change_nothing)
    column_->addWidget(
        words(tr("Nothing to fix in what this clip shows. The reply says: keep doing what you're doing.")));
  else if (choice.cues.empty())
    column_->addWidget(
        words(!a->isTraced() ? tr("Say it in your own words below, on the frame that shows it.")
              : a->trace.body || a->trace.front
                  ? tr("Nothing is clear enough for a cue. Pick one under Findings, or choose “No changes”.")
                  : tr("Place the points first (P): most findings need them."),
              true));
  for (int i = 0; i < static_cast<int>(choice.cues.size()); ++i) addCue(i);
  addChangeWarning();
  addOwnRow();
  addPain();
  addWeek();
  addClosing();
  addRemarks();
  auto* nothing = new QCheckBox(tr("No changes: just say what's good"));
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
  auto* all = new QCheckBox(tr("Attach all numbers"));
  all->setObjectName(QStringLiteral("allNumbers"));
  all->setChecked(choice.all_numbers);
  all->setToolTip(tr("Folded away on the page; without it only the numbers behind the cues"));
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
  line->setPlaceholderText(tr("Opening line"));
  line->setCursorPosition(0);  // a long line shows its beginning
  line->setToolTip(tr("Goes at the top of the page"));
  connect(line, &QLineEdit::textEdited, this, [this, gesture = newGesture()](const QString& text) {
    CueChoice to = document_.choice();
    to.greeting = text.toStdString();
    changing_ = true;
    change(tr("word the greeting"), to, gesture);
    changing_ = false;
  });
  column_->addWidget(line);
}

// What goes out as praise, each line the coach's to reword, take out or write; what else is good waits unticked.
void CuePanel::addKeep() {
  const auto said = document_.session().praise();
  const auto& proposed = document_.analysis()->proposal.keep;
  std::vector<std::pair<QString, bool>> lines;
  for (const std::string& line : said) lines.emplace_back(q(line), true);
  for (const std::string& line : proposed)
    if (std::find(said.begin(), said.end(), line) == said.end()) lines.emplace_back(q(line), false);
  column_->addWidget(heading(tr("What's going well")));
  lines.emplace_back(QString(), true);  // an empty line to write one
  for (std::size_t i = 0; i < lines.size(); ++i) addPraise(lines, i);
}

void CuePanel::addPraise(const std::vector<std::pair<QString, bool>>& lines, std::size_t index) {
  const bool empty = lines[index].first.isEmpty();
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  auto* in = new QCheckBox;
  in->setObjectName(QStringLiteral("praiseIn_%1").arg(index));
  in->setChecked(lines[index].second && !empty);
  in->setEnabled(!empty);
  in->setToolTip(tr("In the reply"));
  in->setAccessibleName(tr("In the reply: %1").arg(lines[index].first));
  auto* edit = new QLineEdit(lines[index].first);
  edit->setObjectName(QStringLiteral("praise_%1").arg(index));
  edit->setPlaceholderText(tr("Write your own"));
  edit->setCursorPosition(0);
  const auto told = [lines, index](bool ticked, const QString& text) {
    std::vector<std::string> praise;
    for (std::size_t i = 0; i < lines.size(); ++i) {
      const bool here = i == index;
      const QString line = (here ? text : lines[i].first).trimmed();
      if ((here ? ticked : lines[i].second) && !line.isEmpty()) praise.push_back(line.toStdString());
    }
    return praise;
  };
  connect(in, &QCheckBox::toggled, this, [this, told, edit](bool on) {
    CueChoice to = document_.choice();
    to.praise = told(on, edit->text());
    change(on ? tr("add praise") : tr("leave praise out"), to, newGesture());
  });
  connect(edit, &QLineEdit::editingFinished, this, [this, told, edit, was = lines[index].first] {
    if (edit->text().trimmed() == was) return;
    CueChoice to = document_.choice();
    to.praise = told(true, edit->text());
    change(tr("word praise"), to, newGesture());
  });
  row->addWidget(in);
  row->addWidget(edit, 1);
  column_->addLayout(row);
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
