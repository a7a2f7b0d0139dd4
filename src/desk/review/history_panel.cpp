// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/history_panel.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// Then and now on one line, with their ± as bars.
class ThenNow : public QWidget {
 public:
  explicit ThenNow(const library::CueThread& thread) : thread_(thread) {
    setMinimumHeight(34);
    setToolTip(tr("Hollow: then. Filled: now. The bars are the ±."));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double now = thread_.value_now.value_or(thread_.value_then), now_s = thread_.sigma_now.value_or(0);
    double low = std::min({0.0, thread_.value_then - 2 * thread_.sigma_then, now - 2 * now_s});
    double high = std::max({0.0, thread_.value_then + 2 * thread_.sigma_then, now + 2 * now_s});
    if (high - low < 1e-9) high = low + 1;
    const auto x = [&](double v) { return 8 + (v - low) / (high - low) * (width() - 16); };
    p.setPen(QPen(colours().line, 1));
    p.drawLine(QPointF(8, 17), QPointF(width() - 8, 17));
    p.drawLine(QPointF(x(0), 4), QPointF(x(0), 30));
    const auto mark = [&](double v, double s, double y, bool filled) {
      p.setPen(QPen(colours().ink, 1.4));
      p.drawLine(QPointF(x(v - 1.64 * s), y), QPointF(x(v + 1.64 * s), y));
      p.setBrush(filled ? colours().ink : colours().panel);
      p.drawEllipse(QPointF(x(v), y), 4.5, 4.5);
    };
    mark(thread_.value_then, thread_.sigma_then, 10, false);
    if (thread_.value_now) mark(now, now_s, 24, true);
  }

 private:
  library::CueThread thread_;
};

// What was asked again and again is one card, the latest: of those before it that are settled a line is left.
bool isToldByALater(const library::CueThread& t, const std::vector<library::CueThread>& threads) {
  if (t.state != library::ThreadState::Met || t.finding == coaching::kPainThread) return false;
  return std::any_of(threads.begin(), threads.end(), [&](const library::CueThread& other) {
    return other.finding == t.finding &&
           std::pair(other.asked_on, other.id.number) > std::pair(t.asked_on, t.id.number);
  });
}

QString askedBefore(const library::CueThread& t, const std::vector<library::CueThread>& threads) {
  QStringList days;
  for (const auto& other : threads)
    if (other.finding == t.finding && isToldByALater(other, threads) &&
        std::pair(other.asked_on, other.id.number) < std::pair(t.asked_on, t.id.number))
      days << q(library::spoken(other.asked_on));
  return days.isEmpty() ? QString() : QObject::tr("Asked before, and met: %1").arg(days.join(QStringLiteral(", ")));
}

// How it stands, with its mark, in words.
QString standing(const library::CueThread& t) {
  const auto title = library::titleOf(t.state);
  const bool aside = t.state == library::ThreadState::Dropped || t.state == library::ThreadState::Paused;
  const std::string& why = aside ? t.dropped_why : t.why_not;
  const bool pain = t.finding == coaching::kPainThread;
  const QString name = !pain || aside                            ? q(title)
                       : t.state == library::ThreadState::Met    ? QObject::tr("Quiet now")
                       : t.state == library::ThreadState::Asked  ? QObject::tr("Not asked yet")
                       : t.state == library::ThreadState::Better ? QObject::tr("Better")
                                                                 : QObject::tr("Same or worse: time to refer");
  const QString state = name + (why.empty() ? QString() : QStringLiteral(": ") + q(why));
  const QString mark = t.state == library::ThreadState::Met      ? QStringLiteral("✓ ")
                       : t.state == library::ThreadState::Better ? QStringLiteral("↗ ")
                       : t.state == library::ThreadState::NotYet ? QStringLiteral("→ ")
                                                                 : QStringLiteral("○ ");
  return mark + state;
}

}  // namespace

HistoryPanel::HistoryPanel(QWidget* parent) : QScrollArea(parent) {
  setObjectName(QStringLiteral("historyPanel"));
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  column_ = new QVBoxLayout(content);
  column_->setContentsMargins(10, 8, 10, 10);
  setWidget(content);
  setThreads({});
}

void HistoryPanel::setThreads(const std::vector<library::CueThread>& threads) {
  clearLayout(column_);
  if (threads.empty())
    column_->addWidget(words(tr("Nothing asked of this athlete yet. What you ask in a reply is saved here and "
                                "measured again on every later clip."),
                             true));
  for (const auto& t : threads) {
    if (isToldByALater(t, threads)) continue;
    auto* card = new QFrame;
    card->setObjectName(QStringLiteral("card"));
    auto* box = new QVBoxLayout(card);
    box->setContentsMargins(10, 8, 10, 8);
    box->setSpacing(3);
    auto* head = heading(QString::fromStdString(t.title));
    box->addWidget(head);
    if (!t.wording.empty()) box->addWidget(words(QStringLiteral("“%1”").arg(QString::fromStdString(t.wording))));
    box->addWidget(words(tr("Asked on %1, check again on %2")
                             .arg(QString::fromStdString(library::spoken(t.asked_on)),
                                  QString::fromStdString(library::spoken(t.review_on))),
                         true));
    if (const QString before = askedBefore(t, threads); !before.isEmpty()) {
      auto* said = words(before, true);
      said->setObjectName(QStringLiteral("askedBefore"));
      box->addWidget(said);
    }
    if (const std::string change = library::changeText(t); !change.empty()) {
      auto* asked = words(q(change));
      asked->setObjectName(QStringLiteral("changeAsked"));
      box->addWidget(asked);
    }
    if (!t.measure.empty()) box->addWidget(new ThenNow(t));
    const QString on =
        t.measured_on.empty() ? QString() : tr(" (%1)").arg(QString::fromStdString(library::spoken(t.measured_on)));
    if (t.finding != coaching::kPainThread)
      box->addWidget(words(tr("Then %1 · now %2%3").arg(q(library::thenText(t)), q(library::nowText(t)), on)));
    auto* said = words(standing(t));
    said->setObjectName(QStringLiteral("threadState"));
    if (t.state == library::ThreadState::Met || t.state == library::ThreadState::Better) setTone(said, "good");
    box->addWidget(said);
    for (const std::string& finding : t.brought) {
      auto* brought = words(tr("May have come with it: %1. It wasn't there when this was asked.")
                                .arg(q(title_ ? title_(finding) : finding)));
      brought->setObjectName(QStringLiteral("brought"));
      setTone(brought, "warn");
      box->addWidget(brought);
    }
    addWayOut(t, *box);
    column_->addWidget(card);
  }
  column_->addStretch();
}

// A cue ends when it is met, or when the coach lets it go, with a reason that is read again when the fault is back.
void HistoryPanel::addWayOut(const library::CueThread& t, QVBoxLayout& card) {
  const qlonglong id = t.id.number;
  if (t.state == library::ThreadState::Met) return;
  if (t.finding == coaching::kPainThread && t.state != library::ThreadState::Dropped) {
    addHowItWent(id, card);
    return;
  }
  if (t.state == library::ThreadState::Dropped || t.state == library::ThreadState::Paused) {
    auto* resume = new QPushButton(tr("Take up again"));
    resume->setObjectName(QStringLiteral("resumeCue"));
    connect(resume, &QPushButton::clicked, this, [this, id] { emit resumeRequested(id); });
    card.addWidget(resume, 0, Qt::AlignLeft);
    return;
  }
  auto* row = new QHBoxLayout;
  auto* drop = new QPushButton(tr("Drop…"));
  drop->setObjectName(QStringLiteral("dropCue"));
  drop->setToolTip(tr("Stop following this cue; say why"));
  auto* pause = new QPushButton(sore_ ? tr("Pause while it's sore") : tr("Pause"));
  pause->setObjectName(QStringLiteral("pauseCue"));
  pause->setToolTip(tr("Set it aside for now; it comes back with “Take up again”"));
  connect(
      pause, &QPushButton::clicked, this,
      [this, id] { emit pauseRequested(id, sore_ ? tr("something hurts") : QString()); }, Qt::QueuedConnection);
  auto* why = new QLineEdit;
  why->setObjectName(QStringLiteral("dropWhy"));
  why->setPlaceholderText(tr("Why? Enter drops it"));
  why->hide();
  row->addWidget(pause);
  row->addWidget(drop);
  row->addWidget(why, 1);
  row->addStretch();
  card.addLayout(row);
  connect(drop, &QPushButton::clicked, why, [drop, pause, why] {
    drop->hide();
    pause->hide();
    why->show();
    why->setFocus();
  });
  connect(
      why, &QLineEdit::returnPressed, this, [this, id, why] { emit dropRequested(id, why->text().simplified()); },
      Qt::QueuedConnection);
}

// How training around something that hurts has gone is the athlete's to say; the coach notes it with this clip.
void HistoryPanel::addHowItWent(qlonglong thread, QVBoxLayout& card) {
  card.addWidget(words(tr("How did it go?"), true));
  auto* row = new QHBoxLayout;
  using State = library::ThreadState;
  const auto answer = [&](const QString& text, const char* name, State state) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    connect(
        b, &QPushButton::clicked, this,
        [this, thread, state] { emit settleRequested(thread, static_cast<int>(state)); }, Qt::QueuedConnection);
    row->addWidget(b);
  };
  answer(tr("Quiet now"), "painQuiet", State::Met);
  answer(tr("Better"), "painBetter", State::Better);
  answer(tr("Same or worse"), "painSame", State::NotYet);
  row->addStretch();
  card.addLayout(row);
}

}  // namespace jib::desk
