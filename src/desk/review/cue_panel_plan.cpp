// SPDX-License-Identifier: GPL-3.0-or-later
// What follows from the cues of the cue panel in kilos, centimetres and days: a change to the setup, the load, what a
// meet leaves room for, training around pain, the week.
#include <QGridLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QToolButton>

#include "core/coaching/week.h"
#include "core/coaching/worth.h"
#include "core/library/dates.h"
#include "core/review/load_basis.h"
#include "desk/library_page/gym_plates.h"
#include "desk/review/change_row.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/cue_panel.h"
#include "desk/review/load_sheet.h"
#include "desk/review/pain_card.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/growing_text.h"

namespace jib::desk {
namespace {

coaching::Cue* cueAt(CueChoice& choice, int index) {
  return index < static_cast<int>(choice.cues.size()) ? &choice.cues[static_cast<std::size_t>(index)] : nullptr;
}

}  // namespace

// What the change may bring is what to watch for, unless the coach has words of their own for it.
void CuePanel::putChange(int index, const std::optional<coaching::Change>& to_be, const QString& what, bool rebuilt,
                         int gesture) {
  CueChoice to = document_.choice();
  coaching::Cue* c = cueAt(to, index);
  if (!c) return;
  const auto effect = [&](const std::optional<coaching::Change>& of) {
    return of ? coaching::sideEffectOf(*of, document_.lift()).words : std::string();
  };
  const std::string before = effect(c->change), now = effect(to_be);
  c->change = to_be;
  const auto* entry = document_.book().entry(c->finding);
  const bool of_the_book = entry && c->side_effect == entry->side_effect && !now.empty();
  if (c->side_effect.empty() || c->side_effect == before || of_the_book)
    c->side_effect = !now.empty() ? now : entry ? entry->side_effect : std::string();
  changing_ = !rebuilt;
  change(what, to, gesture);
  changing_ = false;
}

// What is set up differently, from what the clip shows. The book's idea comes first in the menu.
void CuePanel::addChange(int index, const coaching::Cue& cue, QGridLayout& grid, int row) {
  const lifts::LiftDefinition& lift = document_.lift();
  const auto put = [this, index](const std::optional<coaching::Change>& change, const QString& what, bool rebuilt,
                                 int gesture) { putChange(index, change, what, rebuilt, gesture); };
  grid.addWidget(words(tr("Change"), true), row, 0, Qt::AlignTop);
  if (cue.change) {
    auto* editor = new ChangeRow(lift, *cue.change);
    editor->setObjectName(QStringLiteral("change%1").arg(index));
    connect(editor, &ChangeRow::changed, this, [put, gesture = newGesture()](const coaching::Change& to) {
      put(to, tr("edit a change"), false, gesture);
    });
    connect(editor, &ChangeRow::removed, this,
            [put] { put(std::nullopt, tr("take a change out"), true, newGesture()); });
    grid.addWidget(editor, row, 1);
    return;
  }
  auto* add = new QToolButton;
  add->setObjectName(QStringLiteral("addChange%1").arg(index));
  add->setText(tr("+ From … to …"));
  add->setToolTip(tr("Something to set up or time differently, as a number the next clip is checked for"));
  add->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(add);
  const auto a = document_.analysis();
  const auto offer = [&](const coaching::Change& change, const QString& text) {
    connect(menu->addAction(text), &QAction::triggered, this,
            [put, change] { put(change, tr("add a change"), true, newGesture()); });
  };
  const auto* entry = document_.book().entry(cue.finding);
  if (entry && entry->idea) {
    const coaching::Change idea = coaching::changeFrom(*entry->idea, a->measures);
    offer(idea, q(coaching::textOf(idea)));
    menu->addSeparator();
  }
  for (const coaching::ChangeKind kind : coaching::changesFor(lift)) {
    coaching::Change fresh = coaching::changeOf(kind, a->measures);
    if (kind == coaching::ChangeKind::Load && document_.submission().load_kg)
      fresh.from = document_.submission().load_kg;
    if (kind == coaching::ChangeKind::HeelRaise) fresh.from = 0;
    // From the side nobody sees how wide the feet stand: so much more or less.
    if (kind == coaching::ChangeKind::Stance && !fresh.from) fresh.by = 0;
    offer(fresh, q(coaching::definitionOf(kind).title));
  }
  add->setMenu(menu);
  grid.addWidget(add, row, 1, Qt::AlignLeft);
}

// One thing changed at a time can be read; two cannot.
void CuePanel::addChangeWarning() {
  int changes = 0;
  for (const coaching::Cue& cue : document_.choice().cues) changes += cue.change && !cue.after_meet ? 1 : 0;
  if (changes < 2) return;
  auto* line =
      words(tr("%1 changes at once: the next clip can't tell which one did it. Keep the main one, park the rest.")
                .arg(changes));
  line->setObjectName(QStringLiteral("twoChanges"));
  setTone(line, "warn");
  column_->addWidget(line);
}

// Below the words for the load: what they come to in kilos for this athlete, and the sheet that works it out.
void CuePanel::addLoadHelp(int index, const coaching::Cue& cue, QGridLayout& grid, int row) {
  auto* line = new QHBoxLayout;
  line->setSpacing(4);
  const std::string kilos =
      coaching::inKilos(cue.load, review::loadBasisOf(document_.session()), gymRack(displayUnits().mass));
  auto* told = words(kilos.empty() ? QString() : QStringLiteral("= ") + q(kilos), true);
  told->setObjectName(QStringLiteral("loadInKilos%1").arg(index));
  told->setToolTip(tr("Goes into the reply with it"));
  line->addWidget(told, 1);
  auto* sheet = new QPushButton(tr("Loads…"));
  sheet->setObjectName(QStringLiteral("quiet"));
  sheet->setProperty("does", QStringLiteral("loads"));
  sheet->setToolTip(tr("Sets, percentages, warm-ups and the plates for them (Shift+L: first cue)"));
  connect(sheet, &QPushButton::clicked, this, [this, index] { openLoads(index); });
  line->addWidget(sheet);
  grid.addLayout(line, row, 1);
}

void CuePanel::openLoads(int index) {
  auto* sheet = new LoadSheet(document_.session(), this);
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  connect(sheet, &LoadSheet::taken, this, [this, index](const QString& sets) {
    CueChoice to = document_.choice();
    coaching::Cue* cue = cueAt(to, index);
    if (!cue) return;
    cue->load = sets.toStdString();
    change(tr("set the load"), to, newGesture());
  });
  sheet->open();
}

// Is it worth changing now: a short answer, its reasons on a click. The coach decides.
void CuePanel::addWorth(int index, const coaching::Cue& cue, QGridLayout& grid, int row) {
  const auto a = document_.analysis();
  if (!a || cue.own) return;
  coaching::WorthAsked asked;
  asked.cue = &cue;
  asked.entry = document_.book().entry(cue.finding);
  asked.reps = a->reps.size();
  for (const coaching::Finding& f : a->findings)
    if (f.id == cue.finding && f.verdict == coaching::Verdict::Yes) {
      asked.severity = f.severity;
      asked.reps_with = f.reps.empty() ? asked.reps : f.reps.size();
    }
  const library::Profile& profile = document_.athlete().profile;
  if (library::isDate(profile.meet_on)) asked.days_to_meet = library::daysBetween(library::today(), profile.meet_on);
  asked.years_training = profile.years_training;
  asked.careful = document_.session().care().any();
  const coaching::WorthAnswer worth = coaching::worthChanging(asked);
  QStringList reasons;
  for (const std::string& reason : worth.reasons) reasons << q(reason);
  auto* answer = new QToolButton;
  answer->setObjectName(QStringLiteral("worth%1").arg(index));
  answer->setProperty("quiet", true);
  answer->setCheckable(true);
  auto* why = words(reasons.join(QLatin1Char('\n')), true);
  why->setObjectName(QStringLiteral("worthWhy%1").arg(index));
  const auto turn = [answer, why, text = q(worth.answer)](bool on) {
    answer->setText((on ? QStringLiteral("▾ ") : QStringLiteral("▸ ")) + text);
    why->setVisible(on);
  };
  grid.addWidget(words(tr("Worth it?"), true), row, 0);
  grid.addWidget(answer, row, 1, Qt::AlignLeft);
  grid.addWidget(why, row + 1, 0, 1, 2);
  turn(false);
  connect(answer, &QToolButton::toggled, this, turn);
}

// An experiment that runs past a meet costs kilos on the day.
void CuePanel::addMeetWarning(int index, const coaching::Cue& cue, QGridLayout& grid, int row) {
  const std::string& meet = document_.athlete().profile.meet_on;
  const std::string today = library::today();
  const bool ahead = library::isDate(meet) && meet >= today;
  if (!cue.after_meet && (!ahead || library::reviewDay(today, cue.weeks) <= meet)) return;
  auto* column = new QVBoxLayout;
  auto* line = words(cue.after_meet ? tr("Saved for after the meet%1: not in this reply.")
                                          .arg(ahead ? tr(" on %1").arg(q(library::spoken(meet))) : QString())
                                    : tr("Runs past the meet on %1, in %2 days: shorten it, or save it for after.")
                                          .arg(q(library::spoken(meet)))
                                          .arg(library::daysBetween(today, meet).value_or(0)));
  line->setObjectName(cue.after_meet ? QStringLiteral("afterMeet") : QStringLiteral("pastMeet"));
  setTone(line, "warn");
  column->addWidget(line);
  auto* button = new QPushButton(cue.after_meet ? tr("Say it now") : tr("Save it for after"));
  button->setObjectName(QStringLiteral("laterCue%1").arg(index));
  connect(button, &QPushButton::clicked, this, [this, index] {
    CueChoice to = document_.choice();
    coaching::Cue* c = cueAt(to, index);
    if (!c) return;
    c->after_meet = !c->after_meet;
    change(c->after_meet ? tr("save a cue for after the meet") : tr("say a cue now"), to, newGesture());
  });
  column->addWidget(button, 0, Qt::AlignLeft);
  grid.addLayout(column, row, 0, 1, 2);
}

// Only where something hurts, or once it has been opened: nobody else needs to read about pain.
void CuePanel::addPain() {
  const auto put = [this](std::optional<coaching::PainPlan> plan, bool rebuilt, int gesture) {
    CueChoice to = document_.choice();
    to.pain = std::move(plan);
    changing_ = !rebuilt;
    change(tr("plan around pain"), to, gesture);
    changing_ = false;
  };
  const auto& plan = document_.choice().pain;
  if (!plan) {
    if (!document_.session().care().pain) return;
    auto* add = new QPushButton(tr("+ Train around the pain"));
    add->setObjectName(QStringLiteral("addPain"));
    add->setToolTip(tr("Just under what brings it on, hold it, then small steps"));
    connect(add, &QPushButton::clicked, this, [put, this] {
      coaching::PainPlan fresh;
      if (const auto& load = document_.submission().load_kg) fresh.trigger_kg = load;
      put(fresh, true, newGesture());
    });
    column_->addWidget(add, 0, Qt::AlignLeft);
    return;
  }
  auto* card = new PainCard(*plan);
  connect(card, &PainCard::changed, this,
          [put, gesture = newGesture()](const coaching::PainPlan& to) { put(to, false, gesture); });
  connect(card, &PainCard::removed, this, [put] { put(std::nullopt, true, newGesture()); });
  column_->addWidget(card);
}

void CuePanel::addWeek() {
  const CueChoice& choice = document_.choice();
  const auto put = [this](const QString& week, bool rebuilt, int gesture) {
    CueChoice to = document_.choice();
    to.week = week.toStdString();
    changing_ = !rebuilt;
    change(tr("edit the week"), to, gesture);
    changing_ = false;
  };
  if (choice.week.empty()) {
    // Somebody in pain has the plan above.
    if (choice.cues.empty() || choice.pain || document_.session().care().pain) return;
    auto* add = new QPushButton(tr("+ Week"));
    add->setObjectName(QStringLiteral("addWeek"));
    add->setToolTip(tr("Three days with the same aim, and what stays the same"));
    connect(add, &QPushButton::clicked, this, [this, put] {
      std::vector<coaching::Cue> cues = document_.choice().cues;
      std::erase_if(cues, [](const coaching::Cue& cue) { return cue.after_meet; });
      QStringList lines;
      for (const std::string& line : coaching::weekOf(cues, document_.book(), document_.lift(),
                                                      document_.submission().variant, document_.session().care().any()))
        lines << q(line);
      put(lines.join(QLatin1Char('\n')), true, newGesture());
    });
    column_->addWidget(add, 0, Qt::AlignLeft);
    return;
  }
  column_->addWidget(heading(tr("Their week")));
  auto* lines = new GrowingText(q(choice.week));
  lines->setObjectName(QStringLiteral("week"));
  lines->setToolTip(tr("A line a day; empty it to leave it out"));
  connect(lines, &QPlainTextEdit::textChanged, this,
          [put, lines, gesture = newGesture()] { put(lines->toPlainText(), false, gesture); });
  column_->addWidget(lines);
}

}  // namespace jib::desk
