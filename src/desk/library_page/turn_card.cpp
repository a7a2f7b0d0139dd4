// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/turn_card.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

TurnCard::TurnCard(library::Submission submission, const library::Profile& athlete, library::CoachCard card,
                   std::string seat, QWidget* parent)
    : QWidget(parent), submission_(std::move(submission)), card_(std::move(card)), seat_(std::move(seat)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  column->addWidget(heading(tr("Coaches")));
  addWho(*column, athlete);
  if (submission_.details.second_opinion)
    addOpinion(*column);
  else
    addAsking(*column);
}

void TurnCard::put(library::SubmissionDetails& row, const library::SubmissionDetails& from,
                   const library::SubmissionDetails& to) {
  if (from.reviewer != to.reviewer) row.reviewer = to.reviewer;
  if (from.second_opinion != to.second_opinion) row.second_opinion = to.second_opinion;
}

void TurnCard::tell(const QString& what, const std::function<void(library::SubmissionDetails&)>& how) {
  library::Submission to = submission_;
  how(to.details);
  emit changed(what, to);
}

void TurnCard::addWho(QVBoxLayout& column, const library::Profile& athlete) {
  auto* row = new QHBoxLayout;
  row->addWidget(words(tr("Answered by"), true));
  auto* who = new QComboBox;
  who->setObjectName(QStringLiteral("reviewer"));
  who->setToolTip(tr("Who replies to this clip"));
  who->addItem(athlete.coach.empty() ? tr("whoever gets to it") : tr("%1, as usual").arg(q(athlete.coach)), QString());
  for (const std::string& name : library::coachesOf(card_)) who->addItem(q(name), q(name));
  const QString chosen = q(submission_.details.reviewer);
  // Somebody who coaches here no more is still named.
  if (who->findData(chosen) < 0) who->addItem(chosen, chosen);
  who->setCurrentIndex(who->findData(chosen));
  connect(who, &QComboBox::activated, this, [this, who] {
    const std::string name = who->currentData().toString().toStdString();
    if (name != submission_.details.reviewer)
      tell(tr("say who answers"), [&](library::SubmissionDetails& d) { d.reviewer = name; });
  });
  row->addWidget(who, 1);
  column.addLayout(row);
  const std::string named = submission_.details.reviewer.empty() ? athlete.coach : submission_.details.reviewer;
  const std::string turn = library::whoseTurn(submission_, athlete, card_, library::today());
  if (named.empty() || turn == named) return;
  auto* away = words(turn.empty() ? tr("%1 isn't here; anyone can answer.").arg(q(named))
                                  : tr("%1 is away; %2 is covering.").arg(q(named), q(turn)),
                     true);
  away->setObjectName(QStringLiteral("covering"));
  column.addWidget(away);
}

void TurnCard::addOpinion(QVBoxLayout& column) {
  const library::SecondOpinion& asked = *submission_.details.second_opinion;
  auto* question = words(tr("%1 to %2: %3").arg(q(asked.by), q(asked.of), q(asked.question)));
  question->setObjectName(QStringLiteral("opinionAsked"));
  column.addWidget(question);
  auto* row = new QHBoxLayout;
  if (!asked.answer.empty()) {
    auto* answer = words(tr("%1: %2").arg(q(asked.of), q(asked.answer)));
    answer->setObjectName(QStringLiteral("opinionGiven"));
    column.addWidget(answer);
  } else if (asked.of == seat_) {
    auto* answer = new QLineEdit;
    answer->setObjectName(QStringLiteral("opinionAnswer"));
    answer->setPlaceholderText(tr("what you think; Return sends it to %1").arg(q(asked.by)));
    const auto give = [this, answer] {
      const std::string text = answer->text().simplified().toStdString();
      if (!text.empty())
        tell(tr("second opinion"), [&](library::SubmissionDetails& d) { d.second_opinion->answer = text; });
    };
    connect(answer, &QLineEdit::returnPressed, this, give);
    column.addWidget(answer);
  } else {
    row->addWidget(words(tr("No answer yet."), true), 1);
  }
  // An open question is its asker's to take back.
  auto* done = new QPushButton(asked.answer.empty() ? tr("Take back") : tr("Done"));
  done->setVisible(!asked.answer.empty() || asked.of != seat_);
  done->setObjectName(QStringLiteral("opinionDone"));
  done->setToolTip(tr("Question and answer go; Ctrl+Z brings them back"));
  connect(done, &QPushButton::clicked, this, [this] {
    tell(tr("second opinion is done with"), [](library::SubmissionDetails& d) { d.second_opinion.reset(); });
  });
  row->addWidget(done);
  row->addStretch();
  column.addLayout(row);
  column.addWidget(words(tr("Only coaches see this."), true));
}

void TurnCard::addAsking(QVBoxLayout& column) {
  auto* row = new QHBoxLayout;
  auto* of = new QComboBox;
  of->setObjectName(QStringLiteral("opinionOf"));
  for (const std::string& name : library::coachesOf(card_))
    if (name != seat_) of->addItem(q(name), q(name));
  auto* question = new QLineEdit;
  question->setObjectName(QStringLiteral("opinionQuestion"));
  question->setPlaceholderText(tr("second opinion: what do you want to know?"));
  question->setToolTip(tr("Return asks. The clip shows up under “mine” at their desk; athletes never see this"));
  connect(question, &QLineEdit::returnPressed, this, [this, of, question] {
    const std::string text = question->text().simplified().toStdString();
    if (text.empty()) return;
    tell(tr("ask for a second opinion"), [&](library::SubmissionDetails& d) {
      d.second_opinion = library::SecondOpinion{seat_, of->currentData().toString().toStdString(), text, {}};
    });
  });
  row->addWidget(of);
  row->addWidget(question, 1);
  column.addLayout(row);
}

}  // namespace jib::desk
