// SPDX-License-Identifier: GPL-3.0-or-later
// The cards of the cue panel: a cue with every word editable, its frames and its place; cues of the coach's own; the
// last words; findings the coach does not share.
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>
#include <algorithm>

#include "core/library/dates.h"
#include "core/library/progress.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/commands/reject_finding.h"
#include "desk/review/cue_panel.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/growing_text.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

QString againOn(int weeks) {
  return QObject::tr(" weeks, then %1").arg(q(library::spoken(library::reviewDay(library::today(), weeks))));
}

// "said 3 times, helped twice": beside a wording that was used before.
QString useOf(const library::Library::SaidBefore& said) {
  if (said.times == 0) return QObject::tr("from another coach");
  QString use = said.times == 1 ? QObject::tr("said once") : QObject::tr("said %1 times").arg(said.times);
  if (said.helped > 0)
    use += said.helped == 1 ? QObject::tr(", helped once") : QObject::tr(", helped %1 times").arg(said.helped);
  if (said.times_here > 0) use += QObject::tr(", to this athlete as well");
  return use;
}

}  // namespace

// What an editor of one field does: one gesture a field, so that typing undoes as one edit.
template <class Set>
auto CuePanel::editor(int index, const QString& name, Set set) {
  return [this, index, name, set, gesture = newGesture()](const auto& value) {
    CueChoice to = document_.choice();
    if (index >= static_cast<int>(to.cues.size())) return;
    set(to.cues[static_cast<std::size_t>(index)], value);
    changing_ = true;
    change(name, to, gesture);
    changing_ = false;
  };
}

void CuePanel::move(int index, int by) {
  CueChoice to = document_.choice();
  const int other = index + by;
  if (other < 0 || other >= static_cast<int>(to.cues.size())) return;
  std::swap(to.cues[static_cast<std::size_t>(index)], to.cues[static_cast<std::size_t>(other)]);
  change(tr("change the order"), to, newGesture());
}

void CuePanel::addCueTop(int index, const coaching::Cue& cue, QGridLayout& grid) {
  auto* top = new QHBoxLayout;
  const auto quiet = [&](const QString& text, const char* name, const QString& tip, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("quiet"));
    b->setProperty("does", QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    top->addWidget(b);
    return b;
  };
  if (cue.own) {
    auto* title = new QLineEdit(q(cue.title));
    title->setObjectName(QStringLiteral("ownTitle%1").arg(index));
    title->setPlaceholderText(tr("What it's about (optional)"));
    connect(title, &QLineEdit::textEdited, this,
            editor(index, tr("name a cue"), [](coaching::Cue& c, const QString& v) {
              c.title = v.toStdString();
              // Followed by eye under its own name.
              c.finding = v.trimmed().isEmpty() ? std::string() : coaching::ownCheck(v.simplified().toStdString());
            }));
    top->addWidget(title, 1);
  } else {
    // The doubt goes along into what the athlete reads.
    const lifts::MeasureDefinition* kind = lifts::measureDefinition(document_.lift(), cue.measure);
    quiet(q(coaching::titleWithBasis(cue)), "show", tr("Show the frame it was seen on"), [this, cue, kind] {
      emit evidenceRequested(cue.t_s, static_cast<int>(kind ? kind->drawing : lifts::Drawing::Chain));
    });
    top->addStretch();
  }
  if (index > 0) quiet(QStringLiteral("↑"), "up", tr("Move up"), [this, index] { move(index, -1); });
  quiet(tr("Remove"), "remove", tr("Take this cue out of the reply (Ctrl+Z brings it back)"), [this, index] {
    CueChoice to = document_.choice();
    to.cues.erase(to.cues.begin() + index);
    change(tr("take a cue away"), to, newGesture());
  });
  grid.addLayout(top, 0, 0, 1, 2);
}

void CuePanel::addWording(int index, const coaching::Cue& cue, QGridLayout& grid) {
  auto* wording = new QComboBox;
  wording->setObjectName(QStringLiteral("wording%1").arg(index));
  wording->setEditable(true);
  wording->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  wording->setToolTip(tr("Choose a wording or write your own; yours are offered again, with how often they helped"));
  // The coach's own words first, those that helped most on top; then the book's.
  QStringList offered;
  for (const auto& said : said_before_) {
    const bool about_this =
        cue.own ? coaching::isOwnCheck(said.finding) || said.finding.empty() : said.finding == cue.finding;
    if (!about_this) continue;
    wording->addItem(q(said.wording));
    wording->setItemData(wording->count() - 1, useOf(said), Qt::ToolTipRole);
    offered << q(said.wording);
  }
  if (const auto* entry = document_.book().entry(cue.finding))
    for (const auto& w : entry->wordings)
      if (!offered.contains(q(w))) wording->addItem(q(w));
  wording->setEditText(q(cue.wording));
  wording->lineEdit()->setPlaceholderText(tr("Say it as you would across the rack"));
  wording->lineEdit()->setCursorPosition(0);  // a long line shows its beginning
  QFont big = wording->font();
  big.setPixelSize(textPx(16));
  big.setBold(true);
  wording->setFont(big);
  connect(wording, &QComboBox::editTextChanged, this,
          editor(index, tr("word a cue"), [](coaching::Cue& c, const QString& v) { c.wording = v.toStdString(); }));
  // One picked from the book brings the drill that went with it.
  connect(wording, &QComboBox::activated, this, [this, index, wording](int) {
    const std::string words = wording->currentText().toStdString();
    CueChoice to = document_.choice();
    auto& c = to.cues[static_cast<std::size_t>(index)];
    for (const auto& said : said_before_)
      if (said.wording == words && !said.drill.empty() && (c.own ? c.drill.empty() : said.finding == c.finding)) {
        c.drill = said.drill;
        if (c.own && c.title.empty() && said.title != said.wording) {
          c.title = said.title;
          c.finding = said.finding;
        }
        change(tr("word a cue"), to, newGesture());
        return;
      }
  });
  grid.addWidget(wording, 1, 0, 1, 2);
}

// On which frames it is shown, and whether a stretch is played for it.
void CuePanel::addFrames(int index, const coaching::Cue& cue, QGridLayout& grid) {
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  const auto at = [&](const QString& text, double t) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("frame%1").arg(index));
    b->setToolTip(tr("Show this frame"));
    b->setProperty("narrow", true);
    connect(b, &QPushButton::clicked, this,
            [this, t] { emit evidenceRequested(t, static_cast<int>(lifts::Drawing::None)); });
    row->addWidget(b);
  };
  at(tr("%1 s").arg(cue.t_s, 0, 'f', 2), cue.t_s);
  for (double t : cue.also_s) at(tr("%1 s").arg(t, 0, 'f', 2), t);
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto set) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name) + QString::number(index));
    b->setToolTip(tip);
    b->setProperty("narrow", true);
    connect(b, &QPushButton::clicked, this, [this, index, set] {
      CueChoice to = document_.choice();
      set(to.cues[static_cast<std::size_t>(index)]);
      change(tr("choose a frame"), to, newGesture());
    });
    row->addWidget(b);
  };
  button(tr("Set"), "useFrame", tr("Use the current frame"), [this](coaching::Cue& c) {
    c.t_s = now_();
    c.frame_chosen = true;
    c.also_s.clear();
  });
  button(QStringLiteral("+"), "addFrame", tr("Add the current frame"),
         [this](coaching::Cue& c) { c.also_s.push_back(now_()); });
  auto* loop = new QComboBox;
  loop->setObjectName(QStringLiteral("loop%1").arg(index));
  loop->setToolTip(tr("What the clip does before it freezes"));
  loop->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  loop->setMinimumContentsLength(6);
  loop->addItem(tr("freeze"));
  loop->addItem(tr("loop ½ s around"));
  loop->addItem(tr("loop the rep"));
  const auto a = document_.analysis();
  loop->setCurrentIndex(!cue.loop ? 0 : cue.loop->to_t - cue.loop->from_t < 1.01 ? 1 : 2);
  connect(loop, &QComboBox::activated, this, [this, index, a](int how) {
    CueChoice to = document_.choice();
    auto& c = to.cues[static_cast<std::size_t>(index)];
    c.loop.reset();
    if (how > 0) c.loop = motion::Stretch{std::max(0.0, c.t_s - 0.5), c.t_s + 0.5};
    if (how == 2)
      for (const auto& rep : a->reps)
        if (rep.whole().holds(c.t_s)) c.loop = rep.whole();
    change(tr("choose a loop"), to, newGesture());
  });
  row->addWidget(loop, 1);
  grid.addWidget(words(tr("Frame"), true), 2, 0);
  grid.addLayout(row, 2, 1);
}

// By which number, or by eye, it will be seen whether a cue of the coach's own has worked.
void CuePanel::addFollowedBy(int index, const coaching::Cue& cue, QGridLayout& grid) {
  auto* box = new QComboBox;
  box->setObjectName(QStringLiteral("followedBy%1").arg(index));
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  box->setToolTip(tr("The number the next clip is compared on"));
  box->addItem(tr("by eye"), QString());
  const auto a = document_.analysis();
  for (const auto& row : document_.lift().rep_measures)
    if (const auto now = lifts::meanOf(row.kind.id, a->measures))
      box->addItem(tr("%1: now %2").arg(q(row.kind.title), q(lifts::textWithSigma(row.kind, *now))), q(row.kind.id));
  box->setCurrentIndex(std::max(0, box->findData(q(cue.measure))));
  connect(box, &QComboBox::activated, this, [this, index, box](int) {
    CueChoice to = document_.choice();
    auto& c = to.cues[static_cast<std::size_t>(index)];
    c.measure = box->currentData().toString().toStdString();
    change(tr("choose how a cue is followed"), to, newGesture());
  });
  grid.addWidget(words(tr("Followed by"), true), 13, 0);
  grid.addWidget(box, 13, 1);
}

void CuePanel::addCue(int index) {
  const coaching::Cue cue = document_.choice().cues[static_cast<std::size_t>(index)];
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("coachCard"));
  auto* grid = new QGridLayout(card);
  grid->setContentsMargins(10, 8, 10, 8);
  grid->setVerticalSpacing(4);
  addCueTop(index, cue, *grid);
  if (cue.after_meet) {  // nothing of it goes out now
    addMeetWarning(index, cue, *grid, 1);
    column_->addWidget(card);
    return;
  }
  addWording(index, cue, *grid);
  addFrames(index, cue, *grid);
  const auto field = [&](int row, const QString& name, const std::string& value, auto set) {
    auto* lines = new GrowingText(q(value));
    lines->setObjectName(name + QString::number(index));
    const auto changed = editor(index, tr("edit a cue"), set);
    connect(lines, &QPlainTextEdit::textChanged, this, [lines, changed] { changed(lines->toPlainText()); });
    grid->addWidget(words(name, true), row, 0, Qt::AlignTop);
    grid->addWidget(lines, row, 1);
  };
  addChange(index, cue, *grid, 3);
  field(4, tr("Drill"), cue.drill, [](coaching::Cue& c, const QString& v) { c.drill = v.toStdString(); });
  field(5, tr("Load"), cue.load, [](coaching::Cue& c, const QString& v) { c.load = v.toStdString(); });
  addLoadHelp(index, cue, *grid, 6);
  auto* weeks = new QSpinBox;
  weeks->setRange(1, 26);
  weeks->setValue(cue.weeks);
  weeks->setSuffix(againOn(cue.weeks));
  weeks->setToolTip(tr("When to check again"));
  connect(weeks, &QSpinBox::valueChanged, this,
          editor(index, tr("change the weeks"), [](coaching::Cue& c, int v) { c.weeks = v; }));
  connect(weeks, &QSpinBox::valueChanged, weeks, [weeks](int v) { weeks->setSuffix(againOn(v)); });
  grid->addWidget(words(tr("Check again in"), true), 7, 0);
  grid->addWidget(weeks, 7, 1);
  field(8, tr("It worked if"), cue.proof, [](coaching::Cue& c, const QString& v) { c.proof = v.toStdString(); });
  field(9, tr("Watch for"), cue.side_effect,
        [](coaching::Cue& c, const QString& v) { c.side_effect = v.toStdString(); });
  field(10, tr("Trade-off"), cue.price, [](coaching::Cue& c, const QString& v) { c.price = v.toStdString(); });
  addMeetWarning(index, cue, *grid, 11);
  if (cue.own) addFollowedBy(index, cue, *grid);
  addWorth(index, cue, *grid, 14);
  if (!cue.why_first.empty()) {
    auto* why = words(tr("Why: %1").arg(q(cue.why_first)), true);
    why->setObjectName(QStringLiteral("why%1").arg(index));
    grid->addWidget(why, 12, 0, 1, 2);
  }
  grid->setColumnStretch(1, 1);
  column_->addWidget(card);
}

void CuePanel::setSaidBefore(std::vector<library::Library::SaidBefore> said) {
  said_before_ = std::move(said);
  refreshUnlessTyping();
}

void CuePanel::addOwn(double t_s) {
  if (!document_.analysis()) return;
  CueChoice to = document_.choice();
  to.change_nothing = false;
  to.cues.push_back(coaching::ownCue(t_s));
  const auto index = to.cues.size() - 1;
  change(tr("add a cue of your own"), to, newGesture());
  if (auto* wording = findChild<QComboBox*>(QStringLiteral("wording%1").arg(index))) {
    wording->setFocus();
    // Once the new card has its place; before that there is nowhere to scroll to.
    QTimer::singleShot(0, wording, [this, wording] { ensureWidgetVisible(wording); });
  }
}

void CuePanel::addOwnRow() {
  auto* own = new QPushButton(tr("+ Own cue, on this frame"));
  own->setObjectName(QStringLiteral("ownCue"));
  own->setToolTip(tr("An own cue about the current frame (N)"));
  connect(own, &QPushButton::clicked, this, [this] { addOwn(now_()); });
  column_->addWidget(own, 0, Qt::AlignLeft);
}

void CuePanel::addClosing() {
  auto* line = new QLineEdit(q(document_.choice().closing));
  line->setObjectName(QStringLiteral("closing"));
  line->setPlaceholderText(tr("Closing line"));
  line->setCursorPosition(0);
  connect(line, &QLineEdit::textEdited, this, [this, gesture = newGesture()](const QString& text) {
    CueChoice to = document_.choice();
    to.closing = text.toStdString();
    changing_ = true;
    change(tr("word the last words"), to, gesture);
    changing_ = false;
  });
  column_->addWidget(line);
}

}  // namespace jib::desk
