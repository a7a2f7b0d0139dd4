// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/roster/roster_model.h"

#include <algorithm>

#include "core/base/quantity.h"
#include "core/library/dates.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/text.h"
#include "desk/theme.h"

namespace jib::desk {

namespace {

constexpr const char* kNobodyKnows = "–";

const lifts::LiftDefinition& liftAt(int column) {
  return lifts::contestedLifts()[static_cast<std::size_t>(column - RosterModel::FirstBest)];
}

}  // namespace

void RosterModel::set(std::vector<library::RosterRow> rows, const std::string& today_iso) {
  beginResetModel();
  rows_ = std::move(rows);
  today_ = today_iso;
  endResetModel();
}

bool RosterModel::anybodyHasACoach() const {
  return std::any_of(rows_.begin(), rows_.end(), [](const auto& row) { return !row.athlete.profile.coach.empty(); });
}

int RosterModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int RosterModel::columnCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : FirstBest + static_cast<int>(lifts::contestedLifts().size());
}

QString RosterModel::shown(const library::RosterRow& row, int column) const {
  const library::Profile& p = row.athlete.profile;
  switch (column) {
    case Name:
      return q(row.athlete.name);
    case Groups:
      return groupsText(p.groups);
    case Coach:
      return q(p.coach);
    case Waiting: {
      if (row.waiting == 0) return {};
      const int days = library::daysBetween(row.waiting_since, today_).value_or(0);
      const QString since = days <= 0 ? tr("today") : days == 1 ? tr("1 day") : tr("%1 days").arg(days);
      return row.waiting == 1 ? tr("1 clip, %1").arg(since) : tr("%1 clips, %2").arg(row.waiting).arg(since);
    }
    case Replies: {
      QStringList said;
      if (p.replies_a_week)
        said << tr("%1 of %2 this week").arg(row.answered_this_week).arg(*p.replies_a_week);
      else if (row.answered_this_week > 0)
        said << tr("%1 this week").arg(row.answered_this_week);
      if (row.usual_days)
        said << (*row.usual_days < 1 ? tr("same day") : tr("after %1 d").arg(*row.usual_days, 0, 'g', 2));
      return said.join(QStringLiteral(", "));
    }
    case LastClip:
      return row.last_on.empty() ? tr("no clip yet") : q(library::spoken(row.last_on));
    case Cues: {
      if (row.open_cues == 0) return {};
      const bool due = !row.due_on.empty() && row.due_on <= today_;
      const QString when = row.due_on.empty() ? QString()
                           : due              ? tr(", due")
                                              : tr(", %1").arg(q(library::spoken(row.due_on)));
      return tr("%1 open%2").arg(row.open_cues).arg(when);
    }
    case NextMeet:
      return p.meet_on.empty() || p.meet_on < today_ ? QString() : q(library::spoken(p.meet_on));
    default: {
      const auto best = p.best_kg[lifts::at(liftAt(column).id)];
      return best ? q(massText(*best)) : QString::fromUtf8(kNobodyKnows);
    }
  }
}

QVariant RosterModel::sorted(const library::RosterRow& row, int column) const {
  const library::Profile& p = row.athlete.profile;
  switch (column) {
    case Waiting:  // who has waited longest first, who does not wait last
      return row.waiting > 0 ? q(row.waiting_since) : QStringLiteral("9999");
    case Replies:  // who has got least of what was agreed first
      return p.replies_a_week ? row.answered_this_week - *p.replies_a_week : 1000 - row.answered_this_week;
    case LastClip:
      return q(row.last_on);
    case Cues:
      return row.open_cues > 0 ? q(row.due_on.empty() ? "9998" : row.due_on) : QStringLiteral("9999");
    case NextMeet:
      return p.meet_on.empty() || p.meet_on < today_ ? QStringLiteral("9999") : q(p.meet_on);
    case Name:
    case Groups:
    case Coach:
      return shown(row, column).toLower();
    default:
      return p.best_kg[lifts::at(liftAt(column).id)].value_or(-1);
  }
}

QString RosterModel::spelledOut(const library::RosterRow& row) const {
  QStringList lines{q(row.athlete.name)};
  const library::Profile& p = row.athlete.profile;
  if (p.membership != library::Membership::Active) lines << q(library::titleOf(p.membership));
  if (library::isMinor(p, today_).value_or(false)) lines << tr("Under 18");
  if (!p.pain.empty()) lines << tr("Pain: %1").arg(q(p.pain));
  if (!p.coach.empty()) lines << tr("Coach: %1").arg(q(p.coach));
  if (row.usual_days)
    lines << tr("Usually answered after %1 days, by the latest replies").arg(*row.usual_days, 0, 'g', 2);
  if (!p.goal.empty()) lines << tr("Goal: %1").arg(q(p.goal));
  if (!row.athlete.note.empty()) lines << q(row.athlete.note);
  return lines.join(QLatin1Char('\n')).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>"));
}

QVariant RosterModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const library::RosterRow& row = rows_[static_cast<std::size_t>(index.row())];
  switch (role) {
    case Qt::DisplayRole:
      return shown(row, index.column());
    case Qt::ToolTipRole:
      return spelledOut(row);
    case Qt::ForegroundRole: {
      const bool due = index.column() == Cues && row.open_cues > 0 && !row.due_on.empty() && row.due_on <= today_;
      const bool away = row.athlete.profile.membership != library::Membership::Active;
      if (due) return colours().warn;
      return away ? QVariant(colours().faint) : QVariant();
    }
    case Qt::TextAlignmentRole:
      return QVariant(index.column() >= FirstBest ? Qt::AlignRight | Qt::AlignVCenter
                                                  : Qt::AlignLeft | Qt::AlignVCenter);
    case IdRole:
      return static_cast<qlonglong>(row.athlete.id.number);
    case SortRole:
      return sorted(row, index.column());
    default:
      return {};
  }
}

QVariant RosterModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation == Qt::Horizontal && role == Qt::TextAlignmentRole && section >= FirstBest)
    return QVariant(Qt::AlignRight | Qt::AlignVCenter);
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  switch (section) {
    case Name:
      return tr("Athlete");
    case Groups:
      return tr("Groups");
    case Coach:
      return tr("Coach");
    case Waiting:
      return tr("Waiting");
    case Replies:
      return tr("Replies");
    case LastClip:
      return tr("Last clip");
    case Cues:
      return tr("Cues");
    case NextMeet:
      return tr("Next meet");
    default:
      return tr("Max %1").arg(q(liftAt(section).title));
  }
}

RosterFilter::RosterFilter(RosterModel& model, QObject* parent)
    : QSortFilterProxyModel(parent), model_(model), search_({}, displayUnits().mass) {
  setSourceModel(&model);
  setSortRole(RosterModel::SortRole);
  setDynamicSortFilter(true);
}

void RosterFilter::setTyped(const QString& typed) {
  search_ = library::RosterSearch(typed.toStdString(), displayUnits().mass);
  invalidateFilter();
}

void RosterFilter::setGroup(const QString& group) {
  group_ = group.toStdString();
  invalidateFilter();
}

void RosterFilter::setMembership(std::optional<library::Membership> membership) {
  membership_ = membership;
  invalidateFilter();
}

bool RosterFilter::filterAcceptsRow(int at, const QModelIndex&) const {
  const library::RosterRow& row = model_.row(at);
  const library::Profile& p = row.athlete.profile;
  if (membership_ && p.membership != *membership_) return false;
  if (!group_.empty() && std::find(p.groups.begin(), p.groups.end(), group_) == p.groups.end()) return false;
  return search_.finds(row);
}

}  // namespace jib::desk
