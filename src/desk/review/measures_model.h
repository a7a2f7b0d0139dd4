// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <memory>

#include "core/coaching/analysis.h"
#include "core/library/last_time.h"

namespace jib::desk {

// Measures by rep under the headings a coach thinks in, with the set's own last; every cell knows its frame. Never
// computes a measure.
class MeasuresModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Role { TimeRole = Qt::UserRole, DrawingRole, VerdictRole, IdRole, ByEyeRole, ChangedRole };
  // A row that is a heading and spans all columns.
  bool isHeading(int row) const { return rows_.at(static_cast<std::size_t>(row)).heading; }

  explicit MeasuresModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  void setAnalysis(std::shared_ptr<const coaching::Analysis> analysis);
  // What only a person can judge: rows of their own, under the measured ones.
  void setByEye(const std::vector<const coaching::CueEntry*>& checks);
  // Checks of the coach's own that this athlete was asked about before: they are looked at again.
  void setAsked(std::vector<std::string> own_checks);

  // What the set is held against.
  void setLastTime(std::optional<library::LastTime> last) { last_ = std::move(last); }

  // The rep a column is about, counted from 1; 0 where the clip has none.
  int repOf(int column) const;

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override;
  QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;

 private:
  struct Row {
    bool heading = false;
    bool of_set = false;
    std::size_t measure = 0;  // of a heading: the first below it; by eye: place in the list of checks
    bool by_eye = false;
  };
  QVariant byEyeData(const Row& row, int column, int role) const;
  QString checkAt(const Row& row) const;
  std::vector<std::string> ownChecks(const coaching::Marks& marks) const;
  void layRows();
  const lifts::NamedMeasure* at(int row, int column) const;
  const lifts::MeasureDefinition& kind(int row) const;
  std::optional<coaching::Verdict> verdict(int row, int column) const;
  // A row's mean over the reps, and the same of last time; nullopt where one of them is not known.
  std::optional<std::pair<lifts::Measured, lifts::Measured>> nowAndThen(int row) const;

  std::shared_ptr<const coaching::Analysis> analysis_;
  std::optional<library::LastTime> last_;
  std::vector<std::string> own_checks_, asked_;
  std::vector<coaching::CueEntry> checks_;
  std::vector<Row> rows_;
};

}  // namespace jib::desk
