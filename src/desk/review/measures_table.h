// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>

#include "core/library/last_time.h"
#include "desk/review/review_document.h"

class QComboBox;
class QLineEdit;
class QModelIndex;
class QTableView;

namespace jib::desk {

class MeasuresModel;

// Every number of the set, with a search and a choice of which rows are shown: all, what is out of range or near it,
// what has changed since last time, what only a person can judge.
class MeasuresTable : public QWidget {
  Q_OBJECT

 public:
  explicit MeasuresTable(ReviewDocument& document, QWidget* parent = nullptr);

  enum class Show { All, OutOfRange, Changed, ByEye };
  void setShow(Show show);
  void setLastTime(std::optional<library::LastTime> last);
  void setAnalysis(std::shared_ptr<const coaching::Analysis> analysis);
  void focusSearch();

  MeasuresModel& model() { return *model_; }
  QTableView& table() { return *table_; }

 signals:
  void evidenceRequested(double t_s, int drawing);
  void markRequested(const QString& check, int rep);
  void done();  // the keys go back to the clip

 private:
  bool wanted(int row) const;
  void showRows();
  void showCell(const QModelIndex& index);

  ReviewDocument& document_;
  MeasuresModel* model_;
  QTableView* table_;
  QLineEdit* search_;
  QComboBox* show_;
};

}  // namespace jib::desk
