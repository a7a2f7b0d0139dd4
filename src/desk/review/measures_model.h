// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <memory>

#include "core/coaching/analysis.h"

namespace jib::desk {

// Measures by rep, with the set's own below; every cell knows its frame. Never computes a measure.
class MeasuresModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Role { TimeRole = Qt::UserRole, DrawingRole, VerdictRole, IdRole };

  explicit MeasuresModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  void setAnalysis(std::shared_ptr<const coaching::Analysis> analysis);

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;

 private:
  const lifts::NamedMeasure* at(int row, int column) const;
  const lifts::MeasureKind& kind(int row) const;
  int repRows() const;
  std::optional<coaching::Verdict> verdict(int row, int column) const;

  std::shared_ptr<const coaching::Analysis> analysis_;
};

}  // namespace jib::desk
