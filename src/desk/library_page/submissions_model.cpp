// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/submissions_model.h"

#include <QFont>

#include "core/base/quantity.h"
#include "core/coaching/clip_check.h"
#include "core/coaching/loading.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/dates.h"
#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/lift_card.h"
#include "desk/text.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

using library::SubmissionState;

}  // namespace

QString stateText(SubmissionState state) {
  const auto title = library::titleOf(state);
  const auto mark = [&] {
    switch (state) {
      case SubmissionState::New:
        return QStringLiteral("● ");
      case SubmissionState::NeedsVideo:
        return QStringLiteral("▲ ");
      case SubmissionState::InReview:
        return QStringLiteral("◐ ");
      case SubmissionState::CarriedOver:
        return QStringLiteral("↷ ");
      case SubmissionState::Returned:
        return QStringLiteral("○ ");
      case SubmissionState::AwaitingFilm:
        return QStringLiteral("… ");
      case SubmissionState::Skipped:
        return QStringLiteral("– ");
    }
    return QString();
  }();
  return mark + q(title);
}

QString rowStateText(const library::Submission& s) {
  if (s.kind == library::SubmissionKind::Clip) return stateText(s.state);
  if (s.state == SubmissionState::New)
    return s.kind == library::SubmissionKind::Question ? SubmissionsModel::tr("● Question")
                                                       : SubmissionsModel::tr("● Message");
  if (s.state == SubmissionState::Returned) return SubmissionsModel::tr("○ Answered");
  if (s.state == SubmissionState::Skipped) return SubmissionsModel::tr("– Read");
  return stateText(s.state);
}

QString loadText(const library::Submission& s) {
  if (!s.details.load_said.empty()) return SubmissionsModel::tr("%1 ?").arg(q(s.details.load_said));
  return s.load_kg ? q(massText(*s.load_kg)) : QStringLiteral("–");
}

void SubmissionsModel::set(std::vector<library::Submission> submissions, const std::vector<library::Athlete>& athletes,
                           const std::map<std::string, std::string>& checks, const std::string& today_iso,
                           const std::map<std::int64_t, std::string>& due_on,
                           const std::map<std::int64_t, std::string>& pain) {
  beginResetModel();
  submissions_ = std::move(submissions);
  // Read once here and not at every stroke of paint.
  clips_.clear();
  for (const auto& s : submissions_) clips_.push_back(clipText(s, checks));
  today_ = today_iso;
  std::map<std::int64_t, const library::Profile*> profiles;
  for (const auto& a : athletes) profiles[a.id.number] = &a.profile;
  static const library::Profile kUnknown;
  turns_.clear();
  for (const auto& s : submissions_) {
    const auto it = profiles.find(s.athlete.number);
    turns_.push_back(turnOf(s, it == profiles.end() ? kUnknown : *it->second));
  }
  pain_.clear();
  for (const auto& [id, words] : pain) pain_[id] = q(words);
  who_.clear();
  for (const auto& a : athletes) {
    const auto due = due_on.find(a.id.number);
    who_[a.id.number] = {q(a.name), q(a.profile.meet_on), due == due_on.end() ? QString() : q(due->second)};
  }
  whose_.clear();
  keys_.clear();
  for (const auto& s : submissions_) {
    whose_.push_back(&who(s));
    const Who& of = *whose_.back();
    const std::string meet = of.meet_on.toStdString();
    keys_.push_back({s.id.number, s.athlete.number, s.state, s.received_on, meet >= today_ ? meet : std::string(),
                     of.due_on.toStdString(),
                     s.message_id ? std::optional<qlonglong>(s.message_id->number) : std::nullopt,
                     pain_.count(s.id.number) > 0, dueNow(s), turns_[keys_.size()].mine,
                     QString(of.name + QLatin1Char(' ') + q(s.lift) + QLatin1Char(' ') + q(s.variant) +
                             QLatin1Char(' ') + q(s.message))
                         .toLower()});
  }
  endResetModel();
}

void SubmissionsModel::setPictures(ClipPictures* pictures) {
  pictures_ = pictures;
  connect(pictures, &ClipPictures::arrived, this, [this](const QString& hash) {
    const std::string of = hash.toStdString();
    for (std::size_t row = 0; row < submissions_.size(); ++row)
      if (submissions_[row].clip_hash == of) {
        const QModelIndex at = index(static_cast<int>(row), Picture);
        emit dataChanged(at, at, {Qt::DecorationRole});
      }
  });
}

void SubmissionsModel::setCoaches(library::CoachCard card, const std::string& seat) {
  card_ = std::move(card);
  seat_ = seat;
}

SubmissionsModel::Turn SubmissionsModel::turnOf(const library::Submission& s, const library::Profile& athlete) const {
  if (card_.colleagues.empty()) return {};
  const auto& asked = s.details.second_opinion;
  const bool answered = s.state == SubmissionState::Returned;
  Turn turn{library::waitsFor(seat_, s, athlete, card_, today_), {}};
  if (asked && asked->answer.empty())
    turn.text = asked->of == seat_ ? tr("? %1 asks you").arg(q(asked->by)) : tr("? %1 is asked").arg(q(asked->of));
  else if (asked && asked->by == seat_ && !answered)
    turn.text = tr("✓ %1 answered").arg(q(asked->of));
  else if (answered && !s.details.answered_by.empty() && s.details.answered_by != seat_)
    turn.text = tr("by %1").arg(q(s.details.answered_by));
  else if (!turn.mine && !answered && s.state != SubmissionState::Skipped)
    turn.text = QStringLiteral("→ ") + q(library::whoseTurn(s, athlete, card_, today_));
  return turn;
}

bool SubmissionsModel::dueNow(const library::Submission& s) const {
  const bool open = s.state == SubmissionState::New || s.state == SubmissionState::InReview ||
                    s.state == SubmissionState::CarriedOver;
  const QString& due = who(s).due_on;
  return open && !due.isEmpty() && due <= q(today_);
}

int SubmissionsModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(submissions_.size());
}

const SubmissionsModel::Who& SubmissionsModel::who(const library::Submission& s) const {
  static const Who kNobody;
  const auto it = who_.find(s.athlete.number);
  return it == who_.end() ? kNobody : it->second;
}

// From where it was filmed, and how much of what a coach asks it carries.
QString SubmissionsModel::clipText(const library::Submission& s, const std::map<std::string, std::string>& checks) {
  if (!s.details.film_gone_on.empty()) return tr("clip deleted %1").arg(q(library::spoken(s.details.film_gone_on)));
  if (s.clip_hash.empty()) return s.kind == library::SubmissionKind::Clip ? tr("no clip yet") : tr("message");
  const auto json = checks.find(s.clip_hash);
  if (json == checks.end()) return s.state == SubmissionState::Returned ? QString() : tr("not analyzed yet");
  const auto check = coaching::checkFromJson(json->second);
  if (!check) return {};
  if (!check->failed.empty()) return tr("▲ can't be used");
  const auto lift = exchange::liftOf(s, &*check);
  if (!lift.question.empty()) return tr("▲ which lift?");
  if (!lift.judge) return tr("– by eye only");
  const auto* depth = check->claim("depth");
  const QString mark = check->troubles.empty()                    ? QStringLiteral("✓ ")
                       : depth && depth->can == coaching::Can::No ? QStringLiteral("▲ ")
                                                                  : QStringLiteral("≈ ");
  return check->reps > 0
             ? tr("%1%2, %3").arg(mark, q(check->view), check->reps == 1 ? tr("1 rep") : tr("%1 reps").arg(check->reps))
             : mark + q(check->view);
}

QVariant SubmissionsModel::data(const QModelIndex& index, int role) const {
  // long because one case a role and column
  if (!index.isValid()) return {};
  const auto& s = submissions_[static_cast<std::size_t>(index.row())];
  switch (role) {
    case IdRole:
      return QVariant::fromValue<qlonglong>(s.id.number);
    case StateRole:
      return static_cast<int>(s.state);
    case MessageRole:
      return s.message_id ? QVariant::fromValue<qlonglong>(s.message_id->number) : QVariant();
    case Qt::DecorationRole:
      return index.column() == Picture && pictures_ ? QVariant(pictures_->of(s)) : QVariant();
    case Qt::AccessibleTextRole:
      if (index.column() == Picture) return tr("picture of the clip");
      return {};
    case Qt::ToolTipRole:
      if (const auto sore = pain_.find(s.id.number); sore != pain_.end())
        return tr("Pain: %1").arg(sore->second) + QStringLiteral("\n") + q(s.message);
      return s.reason.empty() ? q(s.message) : q(s.reason) + QStringLiteral("\n") + q(s.message);
    case Qt::FontRole: {
      QFont font;
      font.setBold(s.state == SubmissionState::New && (index.column() == AthleteName || index.column() == State));
      return font;
    }
    case Qt::ForegroundRole:
      if (s.state == SubmissionState::Returned || s.state == SubmissionState::Skipped) return colours().faint;
      if (index.column() == State && pain_.count(s.id.number) > 0) return colours().bad;
      return index.column() == State && s.state == SubmissionState::NeedsVideo ? QVariant(colours().warn) : QVariant();
    case Qt::DisplayRole:
      break;
    default:
      return {};
  }
  switch (index.column()) {
    case Picture:
      return s.details.film_gone_on.empty() && s.clip_hash.empty() ? QStringLiteral("✉") : QString();
    case Received: {
      const bool open = s.state != SubmissionState::Returned && s.state != SubmissionState::Skipped;
      const int days = today_.empty() || !open ? 0 : library::daysBetween(s.received_on, today_).value_or(0);
      // The year says something only where it is another.
      QString day = q(library::spoken(s.received_on));
      if (today_.size() >= 4 && day.endsWith(q(today_.substr(0, 4)))) day.chop(5);
      if (days > 0) day = tr("%1 · %2 d").arg(day).arg(days);
      return dueNow(s) ? tr("%1\n⟳ follow-up due").arg(day) : day;
    }
    case AthleteName:
      return whose_[static_cast<std::size_t>(index.row())]->name;
    case Lift:
      return liftText(s);
    case Load:
      return s.kind == library::SubmissionKind::Clip ? loadText(s) : QString();
    case Clip:
      return clips_[static_cast<std::size_t>(index.row())];
    case Message:
      return q(s.message).simplified();
    case State: {
      QStringList lines{rowStateText(s)};
      if (pain_.count(s.id.number) > 0) lines << tr("✚ pain");
      if (const QString& turn = turns_[static_cast<std::size_t>(index.row())].text; !turn.isEmpty()) lines << turn;
      return lines.join(QLatin1Char('\n'));
    }
    default:
      return {};
  }
}

QVariant SubmissionsModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QString names[] = {QString(),  tr("Received"), tr("Athlete"), tr("Lift"),
                           tr("Load"), tr("Clip"),     tr("Message"), tr("State")};
  return section < Columns ? names[section] : QString();
}

}  // namespace jib::desk
