// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/findings_panel.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/coaching/reading.h"
#include "core/coaching/two_films.h"
#include "core/exchange/letters/letters.h"
#include "core/lifts/side_words.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/commands/reject_finding.h"
#include "desk/review/finding_scale.h"
#include "desk/review/limit_row.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

using coaching::Verdict;

QString repsText(const std::vector<int>& reps, std::size_t of) {
  QStringList numbers;
  for (int rep : reps) numbers << QString::number(rep);
  if (numbers.isEmpty()) return QObject::tr("over the set");
  if (reps.size() > 1 && reps.size() == of) return QObject::tr("every rep");
  return numbers.size() == 1 ? QObject::tr("rep %1").arg(numbers.front())
                             : QObject::tr("reps %1").arg(numbers.join(QStringLiteral(", ")));
}

// What the scale does not say by itself: the worst value, and which reps.
QString verdictText(const coaching::Finding& f, std::size_t reps) {
  if (f.by_eye)
    return f.reps.empty() ? QObject::tr("▲ seen by you") : QObject::tr("▲ seen by you, %1").arg(repsText(f.reps, 0));
  const QString value = q(lifts::textWithSigma(*f.kind, f.worst));
  if (f.verdict == Verdict::TooClose) return QObject::tr("≈ too close to call: %1").arg(value);
  if (f.verdict == Verdict::No) return QObject::tr("✓ %1").arg(value);
  const QString side = q(lifts::sideWords(f.kind->id, f.worst.value));
  return QObject::tr("▲ %1 · %2")
      .arg(side.isEmpty() ? value : value + QStringLiteral(", ") + side, repsText(f.reps, reps));
}

const char* toneOf(Verdict verdict) {
  return verdict == Verdict::Yes ? "bad" : verdict == Verdict::TooClose ? "warn" : "good";
}

}  // namespace

QStringList causeLines(const coaching::Finding& f) {
  QStringList lines;
  const auto joined = [](const std::vector<coaching::Evidence>& evidence) {
    QStringList all;
    for (const auto& e : evidence) all << q(coaching::textOf(e)).toHtmlEscaped();
    return all.join(QStringLiteral("; "));
  };
  for (const auto& r : f.rivals) {
    const QString mark = r.standing == coaching::Standing::Supported  ? QStringLiteral("▲")
                         : r.standing == coaching::Standing::Unlikely ? QStringLiteral("▽")
                                                                      : QStringLiteral("○");
    QString text = QObject::tr("%1 <b>%2</b>").arg(mark, q(r.cause).toHtmlEscaped());
    if (!r.speaking_for.empty()) text += QObject::tr("<br>points to it: %1").arg(joined(r.speaking_for));
    if (!r.speaking_against.empty()) text += QObject::tr("<br>speaks against it: %1").arg(joined(r.speaking_against));
    if (r.helped) text += *r.helped ? QObject::tr("<br>tried: it helped") : QObject::tr("<br>tried: it didn't help");
    if (r.standing == coaching::Standing::Open) text += QObject::tr("<br>can't tell from this clip");
    if (r.standing != coaching::Standing::Unlikely)
      text += QObject::tr("<br><i>test: %1</i>").arg(q(r.test).toHtmlEscaped());
    lines << text;
  }
  return lines;
}

FindingsPanel::FindingsPanel(ReviewDocument& document, QWidget* parent) : QScrollArea(parent), document_(document) {
  setObjectName(QStringLiteral("findingsPanel"));
  column_ = scrolledColumn(*this);
  connect(&document_, &ReviewDocument::analysisChanged, this, &FindingsPanel::rebuild);
  connect(&document_, &ReviewDocument::bookmarksChanged, this, &FindingsPanel::rebuild);
  connect(&document_, &ReviewDocument::choiceChanged, this, &FindingsPanel::refreshIfChosenChanged);
  rebuild();
}

void FindingsPanel::setShownBefore(std::map<std::string, QString> words) {
  if (words == shown_before_) return;
  shown_before_ = std::move(words);
  rebuild();
}

void FindingsPanel::setPlaceholder(const QString& sentence) {
  placeholder_ = sentence;
  rebuild();
}

QString FindingsPanel::lacking() const {
  for (const auto& claim : claims_)
    if (claim.can == coaching::Can::No && !document_.setUp().overruled.count(claim.id)) return q(claim.id);
  return {};
}

void FindingsPanel::setRules(coaching::RuleBook rules) {
  rules_ = std::move(rules);
  rebuild();
}

void FindingsPanel::setClaims(std::vector<coaching::Claim> claims) {
  claims_ = std::move(claims);
  rebuild();
}

// A word typed into a cue changes the choice at every key and nothing that stands here.
void FindingsPanel::refreshIfChosenChanged() {
  if (chosen() != chosen_) rebuild();
}

std::vector<std::string> FindingsPanel::chosen() const {
  std::vector<std::string> ids;
  for (const auto& c : document_.choice().cues) ids.push_back(c.finding);
  return ids;
}

bool FindingsPanel::isChosen(const coaching::Finding& f) const {
  return std::find(chosen_.begin(), chosen_.end(), f.id) != chosen_.end();
}

QString FindingsPanel::titleOf(const coaching::Finding& f) const {
  return q(coaching::isOwnCheck(f.id) ? coaching::titleOfOwnCheck(f.id) : document_.book().titleOf(f.id));
}

void FindingsPanel::rebuild() {
  clearLayout(column_);
  chosen_ = chosen();
  if (!document_.analysis()) {
    column_->addWidget(
        words(placeholder_.isEmpty() ? tr("Findings appear here once the clip is tracked.") : placeholder_, true));
    addClaims();
    column_->addStretch();
    return;
  }
  addAsked();
  addBookmarks();
  addFindings();
  addRejected();
  addByEye();
  addRules();
  addClaims();
  column_->addStretch();
}

// What was noticed at first look, each with what the numbers say to it.
void FindingsPanel::addBookmarks() {
  const auto a = document_.analysis();
  if (document_.bookmarks().empty()) return;
  column_->addWidget(heading(tr("What you noticed")));
  int number = 0;
  for (const auto& b : document_.bookmarks()) {
    const auto answer = coaching::echoOf(b, a->findings, a->measures, a->reps);
    QStringList about;
    for (const auto* f : answer.findings) about << titleOf(*f);
    using coaching::Echo;
    QString said;
    switch (answer.echo) {
      case Echo::Agrees:
        said = tr("▲ the numbers agree: %1").arg(verdictText(*answer.findings.front(), a->reps.size()).mid(2));
        break;
      case Echo::OtherRep:
        said = tr("▲ found, but in %1").arg(repsText(answer.findings.front()->reps, a->reps.size()));
        break;
      case Echo::TooClose:
        said = tr("≈ too close to call");
        break;
      case Echo::Disagrees:
        said = tr("– the numbers disagree: %1").arg(verdictText(*answer.findings.front(), a->reps.size()).mid(2));
        break;
      case Echo::Near:
        said = tr("▲ found there: %1").arg(about.join(QStringLiteral(", ")));
        break;
      case Echo::NotMeasured:
        said = b.finding.empty() ? tr("– nothing found there") : tr("– can't tell from this angle");
        break;
    }
    auto* row = new QHBoxLayout;
    auto* show = new QPushButton(b.word.empty() ? tr("at %1 s").arg(b.t_s, 0, 'f', 1) : q(b.word));
    show->setObjectName(QStringLiteral("quiet"));
    show->setToolTip(tr("Show the frame, at %1 s").arg(b.t_s, 0, 'f', 2));
    connect(show, &QPushButton::clicked, this,
            [this, t = b.t_s] { emit evidenceRequested(t, static_cast<int>(lifts::Drawing::None)); });
    auto* line = words(said);
    line->setObjectName(QStringLiteral("echo_%1").arg(number++));
    setTone(line, answer.echo == Echo::Agrees || answer.echo == Echo::Near || answer.echo == Echo::OtherRep ? "bad"
                  : answer.echo == Echo::TooClose                                                           ? "warn"
                  : answer.echo == Echo::Disagrees                                                          ? "good"
                                                                                                            : "");
    row->addWidget(show);
    row->addWidget(line, 1);
    column_->addLayout(row);
  }
}

void FindingsPanel::addFindings() {
  const auto a = document_.analysis();
  std::vector<const coaching::Finding*> settled;
  Verdict group = Verdict::No;
  bool any = false;
  for (const auto* f : coaching::byWorth(a->findings, chosen_, document_.style())) {
    if (f->verdict == Verdict::No) {
      settled.push_back(f);
      continue;
    }
    if (leadOf(*f)) continue;  // a sign on the card of its fault
    if (!any || (f->verdict != group && f->verdict == Verdict::TooClose))
      column_->addWidget(heading(f->verdict == Verdict::Yes ? tr("Needs work") : tr("Too close to call")));
    any = true;
    group = f->verdict;
    addFinding(*f);
  }
  if (!any)
    column_->addWidget(words(!a->proposal.no_praise.empty() ? q(a->proposal.no_praise)
                             : a->not_seen.empty()          ? tr("Nothing to fix in this set.")
                                                            : tr("Nothing to fix in what this clip shows.")));
  addSettled(settled);
}

// What the athlete asked about and this clip does not show: said before anything else, with where to look.
void FindingsPanel::addAsked() {
  const auto a = document_.analysis();
  const QString who = q(exchange::firstNameOf(document_.athlete().name));
  for (const coaching::NotSeen& n : a->not_seen) {
    if (!n.asked) continue;
    auto* row = new QHBoxLayout;
    auto* line = words(tr("%1 asked about “%2”. Can't tell from this clip: %3")
                           .arg(who, q(document_.book().titleOf(n.finding)), q(n.why)));
    line->setObjectName(QStringLiteral("askedUnseen_") + q(n.finding));
    setTone(line, "warn");
    auto* look = new QPushButton(tr("Look at %1 s").arg(n.t_s, 0, 'f', 1));
    look->setProperty("narrow", true);
    connect(look, &QPushButton::clicked, this,
            [this, t = n.t_s] { emit evidenceRequested(t, static_cast<int>(lifts::Drawing::None)); });
    row->addWidget(line, 1);
    row->addWidget(look, 0, Qt::AlignTop);
    column_->addLayout(row);
  }
}

// The finding on whose card this one is a sign; null: it has its own.
const coaching::Finding* FindingsPanel::leadOf(const coaching::Finding& f) const {
  if (isChosen(f)) return nullptr;
  const auto a = document_.analysis();
  for (const auto& p : a->proposal.parked) {
    if (p.finding != f.id || p.part_of.empty()) continue;
    for (const auto& lead : a->findings)
      if (lead.id == p.part_of && lead.verdict == Verdict::Yes) return &lead;
  }
  return nullptr;
}

// The other numbers in which a fault shows, each with its frame and, for who wants to say that instead, a button.
void FindingsPanel::addSigns(const coaching::Finding& f, QVBoxLayout& box) {
  const auto a = document_.analysis();
  for (const auto& sign : a->findings) {
    const auto* lead = sign.verdict == Verdict::Yes ? leadOf(sign) : nullptr;
    if (!lead || lead->id != f.id) continue;
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* show = new QPushButton(tr("also: %1").arg(titleOf(sign)));
    show->setObjectName(QStringLiteral("sign_") + q(sign.id));
    show->setProperty("quiet", true);
    show->setFlat(true);
    show->setToolTip(tr("Show the frame"));
    const int drawing = static_cast<int>(sign.kind ? sign.kind->drawing : lifts::Drawing::None);
    connect(show, &QPushButton::clicked, this,
            [this, t = sign.worst.t_s, drawing] { emit evidenceRequested(t, drawing); });
    row->addWidget(show, 0, Qt::AlignLeft);
    row->addWidget(words(verdictText(sign, a->reps.size()).mid(2), true), 1);
    auto* say = new QPushButton(tr("Say this instead"));
    say->setProperty("narrow", true);
    say->setObjectName(QStringLiteral("instead_") + q(sign.id));
    say->setEnabled(isChosen(f) || chosen_.size() < static_cast<std::size_t>(document_.style().cue_limit));
    connect(say, &QPushButton::clicked, this, [this, sign, id = f.id] { chooseInstead(sign, id); });
    row->addWidget(say);
    box.addLayout(row);
  }
}

void FindingsPanel::chooseInstead(const coaching::Finding& sign, const std::string& lead) {
  const auto* entry = document_.book().entry(sign.id);
  if (!entry) return;
  CueChoice to = document_.choice();
  to.change_nothing = false;
  const auto at = std::find_if(to.cues.begin(), to.cues.end(), [&](const auto& c) { return c.finding == lead; });
  coaching::Cue cue = document_.session().offered(sign, *entry);
  if (at != to.cues.end())
    *at = std::move(cue);
  else
    to.cues.push_back(std::move(cue));
  document_.undoStack().push(new ChangeCues(document_, tr("choose a cue"), std::move(to), newGesture()));
}

void FindingsPanel::addHead(const coaching::Finding& f, QVBoxLayout& box) {
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  auto* show = new QPushButton(titleOf(f));
  show->setObjectName(QStringLiteral("quiet"));
  show->setToolTip(tr("Show the frame"));
  const double t = f.worst.t_s;
  const int drawing = static_cast<int>(f.kind ? f.kind->drawing : lifts::Drawing::None);
  connect(show, &QPushButton::clicked, this, [this, t, drawing] { emit evidenceRequested(t, drawing); });
  row->addWidget(show, 0, Qt::AlignLeft);
  const auto& asked = document_.analysis()->asked;
  if (std::find(asked.begin(), asked.end(), f.id) != asked.end()) {
    auto* mark = words(tr("asked about"), true);
    mark->setObjectName(QStringLiteral("asked_") + q(f.id));
    mark->setWordWrap(false);
    row->addWidget(mark);
  }
  row->addStretch(1);
  if (isChosen(f)) {
    auto* in = words(tr("in the reply"), true);
    in->setWordWrap(false);
    in->setObjectName(QStringLiteral("inReply_") + q(f.id));
    row->addWidget(in);
  } else {
    auto* say = new QPushButton(tr("Add to reply"));
    say->setProperty("narrow", true);
    say->setObjectName(QStringLiteral("say_") + q(f.id));
    const bool full = chosen_.size() >= static_cast<std::size_t>(document_.style().cue_limit);
    say->setEnabled(!full);
    say->setToolTip(full ? tr("Your style “%1” allows %2 cues: remove one first")
                               .arg(q(document_.style().title))
                               .arg(document_.style().cue_limit)
                         : tr("Add this as a cue"));
    connect(say, &QPushButton::clicked, this, [this, f] { choose(f); });
    row->addWidget(say);
  }
  auto* not_so = new QPushButton(tr("Dismiss"));
  not_so->setProperty("narrow", true);
  not_so->setObjectName(QStringLiteral("reject_") + q(f.id));
  not_so->setToolTip(tr("Takes it out of the reply and the records, with your reason. You can undo it"));
  connect(not_so, &QPushButton::clicked, this, [this, f] { reject(f); });
  row->addWidget(not_so);
  box.addLayout(row);
}

void FindingsPanel::addScale(const coaching::Finding& f, QVBoxLayout& box) {
  auto readings = coaching::readingsOf(document_.analysis()->measures, f);
  if (readings.empty()) return;
  auto* scale = new FindingScale(f, std::move(readings));
  const int drawing = static_cast<int>(f.kind->drawing);
  connect(scale, &FindingScale::timeRequested, this, [this, drawing](double t) { emit evidenceRequested(t, drawing); });
  box.addWidget(scale);
}

void FindingsPanel::addFinding(const coaching::Finding& f) {
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("card"));
  auto* box = new QVBoxLayout(card);
  box->setContentsMargins(10, 5, 8, 5);
  box->setSpacing(2);
  addHead(f, *box);
  addScale(f, *box);
  auto* row = new QHBoxLayout;
  const auto a = document_.analysis();
  QString said = verdictText(f, a->reps.size());
  if (const auto* film = f.kind ? coaching::filmOf(*a, f.kind->id) : nullptr)
    said += tr(" · %1").arg(q(coaching::filmedFrom(*film->analysis)));
  auto* verdict = words(said);
  verdict->setObjectName(QStringLiteral("verdict_") + q(f.id));
  setTone(verdict, toneOf(f.verdict));
  row->addWidget(verdict, 1);
  box->addLayout(row);
  if (const auto* parked = !isChosen(f) && f.verdict == Verdict::Yes ? whyParked(f.id) : nullptr) {
    auto* line = words(q(*parked), true);
    line->setObjectName(QStringLiteral("parked_") + q(f.id));
    box->addWidget(line);
  }
  if (const auto before = shown_before_.find(f.id); before != shown_before_.end()) {
    auto* line = words(before->second, true);
    line->setObjectName(QStringLiteral("shownBefore"));
    box->addWidget(line);
  }
  if (f.verdict == Verdict::TooClose && !f.settle.empty())
    box->addWidget(words(tr("To be sure: %1").arg(q(f.settle)), true));
  addLimit(f, *row, *box);
  addSigns(f, *box);
  if (f.verdict == Verdict::Yes) {
    addWhy(f, *box);
    addLies(f, *box);
  }
  column_->addWidget(card);
}

// Where the style draws the line, moved here; with what that would have said of the latest sets.
void FindingsPanel::addLimit(const coaching::Finding& f, QHBoxLayout& beside, QVBoxLayout& box) {
  const coaching::Limit* limit = document_.style().limit(f.id);
  if (!limit || !f.kind || f.by_eye) return;
  auto* row = new LimitRow(*limit, *f.kind, q(document_.style().title), would_say_);
  beside.addWidget(row->opener(), 0, Qt::AlignTop);
  row->setOpen(limit_open_ == f.id);
  connect(row, &LimitRow::opened, this, [this, id = f.id](bool on) { limit_open_ = on ? id : std::string(); });
  connect(
      row, &LimitRow::moved, this,
      [this, id = f.id](std::optional<double> to) {
        limit_open_.clear();
        emit limitMoved(q(id), to);
      },
      Qt::QueuedConnection);
  box.addWidget(row);
}

// How the test of a cause went: what helped is the cause, what did not is not. Pressed again it is open as before.
void FindingsPanel::addTried(const coaching::Finding& f, const coaching::RivalCause& rival, QVBoxLayout& box) {
  if (rival.test.empty()) return;
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  const auto button = [&](const QString& text, const char* name, bool helped) {
    auto* b = new QToolButton;
    b->setObjectName(QString::fromLatin1(name));
    b->setText(text);
    b->setProperty("narrow", true);
    b->setCheckable(true);
    b->setChecked(rival.helped == helped);
    b->setProperty("cause", q(f.id + ": " + rival.cause));
    b->setToolTip(tr("You tried the test: say how it went, and the causes are ordered by it"));
    connect(b, &QToolButton::clicked, this, [this, id = f.id, cause = rival.cause, helped](bool on) {
      coaching::Marks to = document_.marks();
      coaching::setMark(
          to, {coaching::causeCheck(id, cause), helped ? coaching::MarkState::Seen : coaching::MarkState::Fine, 0, 0},
          on);
      document_.undoStack().push(new MarkByEye(document_, tr("say how a test went"), std::move(to)));
    });
    row->addWidget(b);
  };
  row->addWidget(words(tr("Tried it?"), true));
  button(tr("Helped"), "testHelped", true);
  button(tr("Didn't help"), "testDidNot", false);
  row->addStretch();
  box.addLayout(row);
}

// Several causes may fit one fault. One line says which the film speaks for; the rest opens on a click.
void FindingsPanel::addWhy(const coaching::Finding& f, QVBoxLayout& box) {
  if (f.rivals.empty() && f.causes.empty()) return;
  if (f.rivals.empty()) {
    QStringList causes;
    for (const auto& c : f.causes) causes << q(c);
    box.addWidget(words(tr("Possible causes: %1").arg(causes.join(QStringLiteral(", "))), true));
    return;
  }
  auto* all = new QWidget;
  auto* lines = new QVBoxLayout(all);
  lines->setContentsMargins(10, 0, 0, 2);
  lines->setSpacing(3);
  lines->addWidget(words(tr("Easiest test first:"), true));
  const QStringList causes = causeLines(f);
  for (qsizetype i = 0; i < causes.size(); ++i) {
    auto* line = words(causes[i], f.rivals[static_cast<std::size_t>(i)].standing == coaching::Standing::Unlikely);
    line->setTextFormat(Qt::RichText);
    line->setObjectName(QStringLiteral("rival"));
    lines->addWidget(line);
    addTried(f, f.rivals[static_cast<std::size_t>(i)], *lines);
  }
  auto* open = new QToolButton;
  open->setObjectName(QStringLiteral("why_") + q(f.id));
  open->setProperty("quiet", true);
  open->setCheckable(true);
  // Likely is what the numbers point to; where they point nowhere, all of them are possible.
  const auto likely = std::find_if(f.rivals.begin(), f.rivals.end(), [](const coaching::RivalCause& r) {
    return r.standing == coaching::Standing::Supported;
  });
  const auto& named = likely != f.rivals.end() ? *likely : f.rivals.front();
  const QString lead = likely != f.rivals.end() ? tr("Likely cause: %1") : tr("Possible cause: %1");
  auto* first = words(
      lead.arg(q(named.cause)) + (f.rivals.size() > 1 ? tr(" (+%1 more)").arg(f.rivals.size() - 1) : QString()), true);
  open->setAccessibleName(first->text());
  open->setToolTip(tr("What points to each cause, and how to test it"));
  const auto turn = [open, all](bool on) {
    open->setText(on ? QStringLiteral("▾") : QStringLiteral("▸"));
    all->setVisible(on);
  };
  const bool on = opened_.count(f.id) > 0;
  open->setChecked(on);
  turn(on);
  connect(open, &QToolButton::toggled, this, [this, turn, id = f.id](bool show) {
    show ? static_cast<void>(opened_.insert(id)) : static_cast<void>(opened_.erase(id));
    turn(show);
  });
  auto* row = new QHBoxLayout;
  row->setSpacing(2);
  row->addWidget(open, 0, Qt::AlignTop);
  row->addWidget(first, 1);
  box.addLayout(row);
  box.addWidget(all);
}

// What is as it should be says so in one line, and shows its scales to whoever wants to see how near it came.
void FindingsPanel::addSettled(const std::vector<const coaching::Finding*>& settled) {
  if (settled.empty()) return;
  auto* open = new QToolButton;
  open->setObjectName(QStringLiteral("settled"));
  open->setProperty("quiet", true);
  open->setCheckable(true);
  open->setChecked(settled_open_);
  auto* all = new QWidget;
  auto* box = new QVBoxLayout(all);
  box->setContentsMargins(0, 0, 0, 0);
  box->setSpacing(3);
  for (const auto* f : settled) {
    auto* row = new QHBoxLayout;
    row->addWidget(words(titleOf(*f)), 1);
    auto* said = words(f->by_eye ? tr("✓ fine, by eye") : verdictText(*f, 0));
    said->setWordWrap(false);
    setTone(said, "good");
    row->addWidget(said);
    box->addLayout(row);
    if (settled_open_) addScale(*f, *box);
  }
  all->setVisible(settled_open_);
  open->setText(settled_open_ ? tr("▾ Looks good: %1").arg(settled.size())
                              : tr("▸ Looks good: %1").arg(settled.size()));
  connect(open, &QToolButton::toggled, this, [this](bool show) {
    settled_open_ = show;
    rebuild();
  });
  column_->addWidget(open, 0, Qt::AlignLeft);
  column_->addWidget(all);
}

void FindingsPanel::addByEye() {
  const auto checks = document_.book().byEye(document_.lift().id).size();
  if (checks == 0) return;
  const auto& marks = document_.marks();
  std::set<std::string> looked;
  for (const auto& m : marks)
    if (!coaching::isCauseCheck(m.check)) looked.insert(m.check);
  auto* go = new QPushButton(looked.empty() ? tr("Check by eye: %1 things only you can see  ›").arg(checks)
                                            : tr("Check by eye: %1 of %2 looked at  ›").arg(looked.size()).arg(checks));
  go->setObjectName(QStringLiteral("quiet"));
  go->setToolTip(tr("They're at the end of the table of measures"));
  connect(go, &QPushButton::clicked, this, &FindingsPanel::byEyeRequested);
  column_->addWidget(go, 0, Qt::AlignLeft);
}

// Why a finding is not said this time, as long as the coach has not chosen otherwise.
const std::string* FindingsPanel::whyParked(const std::string& finding) const {
  for (const auto& p : document_.analysis()->proposal.parked)
    if (p.finding == finding && !document_.chosen()) return &p.why;
  return nullptr;
}

void FindingsPanel::choose(const coaching::Finding& f) {
  const auto* entry = document_.book().entry(f.id);
  CueChoice to = document_.choice();
  to.change_nothing = false;
  if (entry) {
    to.cues.push_back(document_.session().offered(f, *entry));
  } else {
    coaching::Cue cue = coaching::ownCue(f.worst.t_s);
    cue.finding = f.id;
    cue.title = coaching::titleOfOwnCheck(f.id);
    to.cues.push_back(std::move(cue));
  }
  document_.undoStack().push(new ChangeCues(document_, tr("choose a cue"), std::move(to), newGesture()));
}

void FindingsPanel::reject(const coaching::Finding& f) {
  bool sure = false;
  const QStringList reasons{tr("The clip is misleading here"), tr("It's this athlete's build"),
                            tr("We want it this way"), tr("It costs nothing")};
  const QString why =
      QInputDialog::getItem(this, tr("Dismiss"), tr("Why? (for your own records)"), reasons, 0, true, &sure);
  if (!sure) return;
  auto to = document_.rejected();
  to[f.id] = why.trimmed().toStdString();
  auto& stack = document_.undoStack();
  stack.beginMacro(tr("reject a finding"));
  CueChoice cues = document_.choice();
  std::erase_if(cues.cues, [&](const coaching::Cue& c) { return c.finding == f.id; });
  if (cues != document_.choice())
    stack.push(new ChangeCues(document_, tr("take a cue away"), std::move(cues), newGesture()));
  stack.push(new RejectFinding(document_, tr("reject a finding"), std::move(to)));
  stack.endMacro();
}

}  // namespace jib::desk
