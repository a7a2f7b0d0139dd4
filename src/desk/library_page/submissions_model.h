// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <map>
#include <vector>

#include "core/library/records.h"

namespace jib::desk {

// All submissions, newest first, with what matters when choosing the next one.
class SubmissionsModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Column { Received, AthleteName, Lift, Load, Message, State, Columns };
  enum Role { IdRole = Qt::UserRole, AthleteRole };

  explicit SubmissionsModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  void set(std::vector<library::Submission> submissions, const std::vector<library::Athlete>& athletes);

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override { return parent.isValid() ? 0 : Columns; }
  QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;

 private:
  std::vector<library::Submission> submissions_;
  std::map<std::int64_t, QString> names_;
};

}  // namespace jib::desk
