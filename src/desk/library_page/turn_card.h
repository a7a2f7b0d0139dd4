// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>

#include "core/library/library.h"

class QVBoxLayout;

namespace jib::desk {

// Among several coaches: who answers this clip, and what one asks another about it. Coaches alone see it.
class TurnCard : public QWidget {
  Q_OBJECT

 public:
  // `card` names the coaches, `seat` is the one who sits here.
  TurnCard(library::Submission submission, const library::Profile& athlete, library::CoachCard card, std::string seat,
           QWidget* parent = nullptr);

  // Puts into a row what changed between two states of this card, and nothing else: the other desk may have answered
  // meanwhile.
  static void put(library::SubmissionDetails& row, const library::SubmissionDetails& from,
                  const library::SubmissionDetails& to);

 signals:
  // The row is to be as `to` says in what this card shows.
  void changed(const QString& what, const library::Submission& to);

 private:
  void addWho(QVBoxLayout& column, const library::Profile& athlete);
  void addOpinion(QVBoxLayout& column);
  void addAsking(QVBoxLayout& column);
  void tell(const QString& what, const std::function<void(library::SubmissionDetails&)>& how);

  const library::Submission submission_;
  const library::CoachCard card_;
  const std::string seat_;
};

}  // namespace jib::desk
