// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/submissions_model.h"

#include <QFont>

#include "desk/theme.h"

namespace jib::desk {
namespace {

QString stateText(library::SubmissionState state) {
  const auto title = library::titleOf(state);
  const QString mark = state == library::SubmissionState::New        ? QStringLiteral("● ")
                       : state == library::SubmissionState::InReview ? QStringLiteral("◐ ")
                                                                     : QStringLiteral("○ ");
  return mark + QString::fromUtf8(title.data(), static_cast<qsizetype>(title.size()));
}

}  // namespace

void SubmissionsModel::set(std::vector<library::Submission> submissions,
                           const std::vector<library::Athlete>& athletes) {
  beginResetModel();
  submissions_ = std::move(submissions);
  names_.clear();
  for (const auto& a : athletes) names_[a.id.number] = QString::fromStdString(a.name);
  endResetModel();
}

int SubmissionsModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() ? 0 : static_cast<int>(submissions_.size());
}

QVariant SubmissionsModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const auto& s = submissions_[static_cast<std::size_t>(index.row())];
  const auto name = names_.find(s.athlete.number);
  switch (role) {
    case IdRole:
      return QVariant::fromValue<qlonglong>(s.id.number);
    case AthleteRole:
      return QVariant::fromValue<qlonglong>(s.athlete.number);
    case Qt::ToolTipRole:
      return QString::fromStdString(s.message);
    case Qt::FontRole: {
      QFont font;
      font.setBold(s.state == library::SubmissionState::New &&
                   (index.column() == AthleteName || index.column() == State));
      return font;
    }
    case Qt::ForegroundRole:
      return s.state == library::SubmissionState::Returned ? QVariant(colours().faint) : QVariant();
    case Qt::DisplayRole:
      break;
    default:
      return {};
  }
  switch (index.column()) {
    case Received:
      return QString::fromStdString(s.received_on);
    case AthleteName:
      return name == names_.end() ? QString() : name->second;
    case Lift:
      return QStringLiteral("%1, %2").arg(QString::fromStdString(s.lift), QString::fromStdString(s.variant));
    case Load:
      return s.load_kg ? tr("%1 kg").arg(*s.load_kg) : tr("unknown");
    case Message:
      return QString::fromStdString(s.message).simplified();
    case State:
      return stateText(s.state);
    default:
      return {};
  }
}

QVariant SubmissionsModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QString names[] = {tr("Received"), tr("Athlete"), tr("Lift"), tr("Load"), tr("Message"), tr("State")};
  return section < Columns ? names[section] : QString();
}

}  // namespace jib::desk
