// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTemporaryDir>
#include <optional>

#include "desk/jobs/job_runner.h"
#include "drawing/progress_sheet.h"

class QLabel;
class QProgressBar;
class QPushButton;
class QTextBrowser;

namespace jib::desk {

// An athlete's progress sheet: made while the dialog is open, looked at, then saved or put into the outbox.
class ProgressDialog : public QDialog {
  Q_OBJECT

 public:
  ProgressDialog(library::Library& library, library::AthleteId athlete, QWidget* parent = nullptr);
  bool ready() const { return files_.has_value(); }
  // Copies page and PDF there.
  void saveTo(const QString& folder);
  void putInOutbox();

 signals:
  void changed();  // something waits in the outbox

 private:
  void present(const drawing::ProgressFiles& files);
  void tell(const QString& sentence, bool is_trouble = false);

  library::Library& library_;
  const library::AthleteId athlete_;
  QTemporaryDir scratch_;
  JobRunner jobs_{Lane::Replace};
  std::optional<drawing::ProgressFiles> files_;
  QTextBrowser* page_;
  QProgressBar* progress_;
  QLabel* told_;
  QPushButton *save_, *send_;
};

}  // namespace jib::desk
