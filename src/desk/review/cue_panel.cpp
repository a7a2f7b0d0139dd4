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
#include "desk/review/commands/change_set_up.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

QString verdictText(const coaching::Finding& f, std::size_t reps) {
  QStringList numbers;
  for (int rep : f.reps) numbers << QString::number(rep);
  const QString which = numbers.isEmpty()     ? QObject::tr("over the set")
                        : numbers.size() == 1 ? QObject::tr("rep %1").arg(numbers.front())
                                              : QObject::tr("reps %1").arg(numbers.join(QStringLiteral(", ")));
  if (f.by_eye) return numbers.isEmpty() ? QObject::tr("▲ seen by you") : QObject::tr("▲ seen by you, %1").arg(which);
  const QString value = q(lifts::textWithSigma(*f.kind, f.worst));
  const QString limit =
      (f.side == coaching::Side::Beyond ? QStringLiteral("±") : QString()) + q(lifts::text(*f.kind, {f.limit, 0, 0}));
  const QString where = f.reps.size() > 1 && f.reps.size() == reps ? QObject::tr("every rep") : which;
  if (f.verdict == coaching::Verdict::TooClose)
    return QObject::tr("≈ too close to call: %1, limit %2").arg(value, limit);
  return QObject::tr("▲ %1, limit %2 · %3").arg(value, limit, where);
}

}  // namespace

CuePanel::CuePanel(ReviewDocument& document, QWidget* parent) : QScrollArea(parent), document_(document) {
  setObjectName(QStringLiteral("cuePanel"));
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  content_ = new QWidget;
  column_ = new QVBoxLayout(content_);
  column_->setContentsMargins(10, 8, 10, 10);
  column_->setSpacing(6);
  setWidget(content_);
  connect(&document_, &ReviewDocument::analysisChanged, this, &CuePanel::refreshUnlessTyping);
  connect(&document_, &ReviewDocument::choiceChanged, this, &CuePanel::refreshUnlessTyping);
  rebuild();
}

void CuePanel::setShownBefore(std::map<std::string, QString> words) {
  if (words == shown_before_) return;
  shown_before_ = std::move(words);
  refreshUnlessTyping();
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
        words(placeholder_.isEmpty() ? tr("Findings appear here once the clip is traced.") : placeholder_, true));
    addClaims();
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
    column_->addWidget(
        words(!a->isTraced() ? tr("Say it in your own words below, on the frame that shows it.")
              : a->trace.body || a->trace.front
                  ? tr("No finding is sure enough to be worth a cue. Choose one below, or say “change nothing”.")
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
  addFindings();
  addRejected();
  addClaims();
  column_->addStretch();
}

void CuePanel::setPlaceholder(const QString& sentence) {
  placeholder_ = sentence;
  refreshUnlessTyping();
}

void CuePanel::setClaims(std::vector<coaching::Claim> claims) {
  claims_ = std::move(claims);
  refreshUnlessTyping();
}

// What the view does not carry stays grey, with its reason. The coach may judge it all the same; that is recorded, and
// the reply says so.
void CuePanel::addClaims() {
  bool any = false;
  for (const auto& claim : claims_) {
    if (claim.can != coaching::Can::No) continue;
    if (!any) column_->addWidget(heading(tr("Can't be judged from this clip")));
    any = true;
    auto* row = new QHBoxLayout;
    const auto& overruled = document_.setUp().overruled;
    const auto day = overruled.find(claim.id);
    const bool judged = day != overruled.end();
    auto* text = words(judged ? tr("%1: judged all the same, by you on %2").arg(q(claim.title), q(day->second))
                              : tr("– %1: %2").arg(q(claim.title), q(claim.why)),
                       !judged);
    text->setObjectName(QStringLiteral("notCarried_") + q(claim.id));
    if (judged) setTone(text, "warn");
    auto* overrule = new QPushButton(judged ? tr("Undo override") : tr("Judge anyway"));
    overrule->setObjectName(QStringLiteral("overrule_") + q(claim.id));
    overrule->setToolTip(tr("Your decision, kept with the date; its ± does not cover what the view hides"));
    connect(overrule, &QPushButton::clicked, this, [this, id = claim.id, judged] {
      SetUp to = document_.setUp();
      if (judged)
        to.overruled.erase(id);
      else
        to.overruled[id] = library::today();
      document_.undoStack().push(
          new ChangeSetUp(document_, judged ? tr("leave a claim open") : tr("judge all the same"), to, newGesture()));
    });
    row->addWidget(text, 1);
    row->addWidget(overrule, 0, Qt::AlignTop);
    column_->addLayout(row);
  }
}

void CuePanel::addGreeting() {
  auto* line = new QLineEdit(document_.choice().greeting);
  line->setObjectName(QStringLiteral("greeting"));
  line->setPlaceholderText(tr("First words of the reply"));
  line->setCursorPosition(0);  // a long line shows its beginning
  line->setToolTip(tr("Stands at the top of the report"));
  connect(line, &QLineEdit::textEdited, this, [this, gesture = newGesture()](const QString& text) {
    CueChoice to = document_.choice();
    to.greeting = text;
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

void CuePanel::addFindings() {
  const auto a = document_.analysis();
  std::vector<const coaching::Finding*> seen, close;
  for (const auto& f : a->findings) {
    if (f.verdict == coaching::Verdict::Yes) seen.push_back(&f);
    if (f.verdict == coaching::Verdict::TooClose) close.push_back(&f);
  }
  if (!seen.empty()) column_->addWidget(heading(tr("Found")));
  for (const auto* f : seen) addFinding(*f);
  if (!close.empty()) column_->addWidget(heading(tr("Too close to call")));
  for (const auto* f : close) addFinding(*f);
}

void CuePanel::addFinding(const coaching::Finding& f) {
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("card"));
  auto* box = new QVBoxLayout(card);
  box->setContentsMargins(10, 5, 10, 5);
  box->setSpacing(2);
  auto* row = new QHBoxLayout;
  auto* show =
      new QPushButton(q(coaching::isOwnCheck(f.id) ? coaching::titleOfOwnCheck(f.id) : document_.book().titleOf(f.id)));
  show->setObjectName(QStringLiteral("quiet"));
  show->setToolTip(tr("Show the frame"));
  const double t = f.worst.t_s;
  const int drawing = static_cast<int>(f.kind ? f.kind->drawing : lifts::Drawing::None);
  connect(show, &QPushButton::clicked, this, [this, t, drawing] { emit evidenceRequested(t, drawing); });
  // A long title has the line to itself; what can be done with it stands beside the number.
  box->addWidget(show, 0, Qt::AlignLeft);
  auto* verdict = words(verdictText(f, repCount()));
  setTone(verdict, f.verdict == coaching::Verdict::Yes ? "bad" : "warn");
  row->addWidget(verdict, 1);
  const auto& cues = document_.choice().cues;
  const bool chosen = std::any_of(cues.begin(), cues.end(), [&](const auto& c) { return c.finding == f.id; });
  if (!chosen) {
    auto* say = new QPushButton(tr("Say this"));
    say->setProperty("narrow", true);
    say->setObjectName(QStringLiteral("say_") + q(f.id));
    const bool full = cues.size() >= static_cast<std::size_t>(document_.style().cue_limit);
    say->setEnabled(!full);
    say->setToolTip(full ? tr("The style “%1” allows %2: take one away first")
                               .arg(q(document_.style().title))
                               .arg(document_.style().cue_limit)
                         : tr("Make this one of the cues"));
    connect(say, &QPushButton::clicked, this, [this, f] { choose(f); });
    row->addWidget(say);
  }
  auto* not_so = new QPushButton(tr("Not so"));
  not_so->setProperty("narrow", true);
  not_so->setObjectName(QStringLiteral("reject_") + q(f.id));
  not_so->setToolTip(tr("Take it out of the reply and the records, with your reason; it can be taken back"));
  connect(not_so, &QPushButton::clicked, this, [this, f] { reject(f); });
  row->addWidget(not_so);
  box->addLayout(row);
  if (const auto* parked = !chosen && f.verdict == coaching::Verdict::Yes ? whyParked(f.id) : nullptr) {
    auto* line = words(q(*parked), true);
    line->setObjectName(QStringLiteral("parked_") + q(f.id));
    box->addWidget(line);
  }
  if (const auto before = shown_before_.find(f.id); before != shown_before_.end()) {
    auto* line = words(before->second, true);
    line->setObjectName(QStringLiteral("shownBefore"));
    box->addWidget(line);
  }
  if (f.verdict == coaching::Verdict::TooClose && !f.settle.empty())
    box->addWidget(words(tr("To settle it: %1").arg(q(f.settle)), true));
  if (f.verdict == coaching::Verdict::Yes && !f.rivals.empty()) {
    addRivals(f, *box);
  } else if (f.verdict == coaching::Verdict::Yes && !f.causes.empty()) {
    QStringList causes;
    for (const auto& c : f.causes) causes << q(c);
    box->addWidget(words(tr("May come from: %1").arg(causes.join(QStringLiteral(", "))), true));
  }
  column_->addWidget(card);
}

// Several causes fit one fault: what speaks for and against each, and the cheapest test first.
void CuePanel::addRivals(const coaching::Finding& f, QVBoxLayout& box) {
  box.addWidget(words(tr("May come from, cheapest test first:"), true));
  const auto joined = [](const std::vector<coaching::Evidence>& evidence) {
    QStringList all;
    for (const auto& e : evidence) all << q(coaching::textOf(e)).toHtmlEscaped();
    return all.join(QStringLiteral("; "));
  };
  for (const auto& r : f.rivals) {
    const QString mark = r.standing == coaching::Standing::Supported  ? QStringLiteral("▲")
                         : r.standing == coaching::Standing::Unlikely ? QStringLiteral("▽")
                                                                      : QStringLiteral("○");
    QString text = tr("%1 <b>%2</b>").arg(mark, q(r.cause).toHtmlEscaped());
    if (!r.speaking_for.empty()) text += tr("<br>for: %1").arg(joined(r.speaking_for));
    if (!r.speaking_against.empty()) text += tr("<br>against: %1").arg(joined(r.speaking_against));
    if (r.standing == coaching::Standing::Open) text += tr("<br>the film cannot tell");
    if (r.standing != coaching::Standing::Unlikely) text += tr("<br><i>test: %1</i>").arg(q(r.test).toHtmlEscaped());
    auto* line = words(text, r.standing == coaching::Standing::Unlikely);
    line->setTextFormat(Qt::RichText);
    line->setObjectName(QStringLiteral("rival"));
    line->setContentsMargins(10, 2, 0, 2);
    box.addWidget(line);
  }
}

// Why a finding is not said this time, as long as the coach has not chosen otherwise.
const std::string* CuePanel::whyParked(const std::string& finding) const {
  for (const auto& p : document_.analysis()->proposal.parked)
    if (p.finding == finding && !document_.chosen()) return &p.why;
  return nullptr;
}

// How firmly any of it may be said, and what to look at before.
void CuePanel::addRemarks() {
  for (const auto& remark : document_.analysis()->proposal.remarks) {
    auto* line = words(QStringLiteral("· ") + q(remark), true);
    line->setObjectName(QStringLiteral("remark"));
    column_->addWidget(line);
  }
}

std::size_t CuePanel::repCount() const {
  return document_.analysis() ? document_.analysis()->reps.size() : 0;
}

void CuePanel::choose(const coaching::Finding& f) {
  const auto* entry = document_.book().entry(f.id);
  CueChoice to = document_.choice();
  to.change_nothing = false;
  if (entry) {
    to.cues.push_back(coaching::cueFor(f, *entry, document_.style()));
  } else {
    coaching::Cue cue = coaching::ownCue(f.worst.t_s);
    cue.finding = f.id;
    cue.title = coaching::titleOfOwnCheck(f.id);
    to.cues.push_back(std::move(cue));
  }
  change(tr("choose a cue"), to, newGesture());
}

}  // namespace jib::desk
