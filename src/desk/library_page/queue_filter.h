// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QSortFilterProxyModel>
#include <optional>

#include "desk/library_page/submissions_model.h"

namespace jib::desk {

// Which submissions the queue shows, and in what order. Its source is a SubmissionsModel.
class QueueFilter : public QSortFilterProxyModel {
  Q_OBJECT

 public:
  enum class Show { Open, Mine, Pain, All, New, NeedsVideo, InReview, CarriedOver, AwaitingFilm, Returned, Skipped };
  // Draw: a shuffled by a seed that is shown, so that nobody can say it was not.
  // Today: who is sore on top, then who has a follow-up due, then the newest.
  enum class Order { Today, Newest, Oldest, Meet, Due, Draw };

  explicit QueueFilter(QObject* parent = nullptr);

  void setAthlete(std::optional<qlonglong> athlete);
  void setShow(Show show);
  void setWords(const QString& words);
  void setOrder(Order order, quint32 seed = 0);

 protected:
  bool filterAcceptsRow(int row, const QModelIndex& parent) const override;
  bool lessThan(const QModelIndex& left, const QModelIndex& right) const override;

 private:
  const SubmissionsModel::Key& key(int row) const;

  std::optional<qlonglong> athlete_;
  Show show_ = Show::All;
  Order order_ = Order::Today;
  quint32 seed_ = 0;
  QString words_;
};

}  // namespace jib::desk
