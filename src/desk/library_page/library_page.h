// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QSortFilterProxyModel;
class QTableView;

namespace jib::desk {

class HistoryPanel;
class SubmissionsModel;

// Where the coach starts: athletes on the left, their submissions, and what was asked of the one chosen.
class LibraryPage : public QWidget {
  Q_OBJECT

 public:
  explicit LibraryPage(library::Library& library, QWidget* parent = nullptr);

  void refresh();
  void chooseAthlete(std::optional<library::AthleteId> id);
  // Copies a clip in, under the athlete named above; what the file dialog and a drop end in.
  void addClip(const QString& file);

 signals:
  void openRequested(qlonglong submission);

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void buildLayout();
  QWidget* buildAddRow();
  void filter();
  void showThreads();
  std::optional<library::AthleteId> chosen() const;

  library::Library& library_;
  JobRunner jobs_;
  SubmissionsModel* model_;
  QSortFilterProxyModel* proxy_;
  QListWidget* athletes_ = nullptr;
  QTableView* table_ = nullptr;
  HistoryPanel* history_ = nullptr;
  QLabel* history_title_ = nullptr;
  QLabel* status_ = nullptr;
  QProgressBar* progress_ = nullptr;
  QComboBox* new_athlete_ = nullptr;
  QLineEdit* new_load_ = nullptr;
  QLineEdit* new_message_ = nullptr;
};

}  // namespace jib::desk
