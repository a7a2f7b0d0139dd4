// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <QSortFilterProxyModel>
#include <optional>
#include <vector>

#include "core/library/roster.h"

namespace jib::desk {

// All athletes with what waits, what is due and what they have lifted.
class RosterModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Column { Name, Groups, Coach, Waiting, Replies, LastClip, Cues, NextMeet, FirstBest };
  enum Role { IdRole = Qt::UserRole, SortRole };

  explicit RosterModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  void set(std::vector<library::RosterRow> rows, const std::string& today_iso);
  bool anybodyHasACoach() const;  // of several who share the library
  const library::RosterRow& row(int at) const { return rows_[static_cast<std::size_t>(at)]; }

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;

 private:
  QString shown(const library::RosterRow& row, int column) const;
  QVariant sorted(const library::RosterRow& row, int column) const;
  QString spelledOut(const library::RosterRow& row) const;

  std::vector<library::RosterRow> rows_;
  std::string today_;
};

// Which of them are shown: by what is typed, by group, and by whether they train at the moment.
class RosterFilter : public QSortFilterProxyModel {
  Q_OBJECT

 public:
  explicit RosterFilter(RosterModel& model, QObject* parent = nullptr);
  void setTyped(const QString& typed);
  void setGroup(const QString& group);                                // empty: any
  void setMembership(std::optional<library::Membership> membership);  // nullopt: everybody

 protected:
  bool filterAcceptsRow(int row, const QModelIndex& parent) const override;

 private:
  RosterModel& model_;
  library::RosterSearch search_;
  std::string group_;
  std::optional<library::Membership> membership_ = library::Membership::Active;
};

}  // namespace jib::desk
