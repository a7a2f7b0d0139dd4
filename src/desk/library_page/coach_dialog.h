// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <map>
#include <string>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"

class QCheckBox;
class QComboBox;
class QFormLayout;
class QSpinBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QProgressBar;
class QPushButton;
class QTabWidget;
class QVBoxLayout;

namespace jib::desk {

class ColleaguesCard;
class GymPlates;

// Who the coach is: the name and address letters come from, whether every message is acknowledged by itself, and how
// athletes are judged for whom nothing else is chosen; units, and how a clip opens; the folders that are watched for
// new clips; backup and restore.
class CoachDialog : public QDialog {
  Q_OBJECT

 public:
  explicit CoachDialog(library::Library& library, QWidget* parent = nullptr);
  void accept() override;
  static bool isAddress(const QString& text);
  // What the buttons end in once a place was chosen.
  void backUpTo(const QString& file);
  void restoreInto(const QString& file, const QString& folder);
  void watchFolder(const QString& folder);
  // How this coach coaches, in one file, and another one's.
  void exportCoaching(const QString& file);
  void importCoaching(const QString& file);
  bool busy() const { return jobs_.busy(); }

 private:
  void buildYou(QVBoxLayout& column, const library::CoachCard& card);
  void buildDesk(QVBoxLayout& column);
  void addFilm(QFormLayout& form);
  void buildCoaching(QVBoxLayout& column, const library::CoachCard& card);
  void buildFolders(QVBoxLayout& column, const library::CoachCard& card);
  void buildHandOn(QVBoxLayout& column);
  void buildBackup(QVBoxLayout& column);
  void tell(const QString& sentence, bool is_trouble);

  library::Library& library_;
  JobRunner jobs_{Lane::Refuse};
  QTabWidget* tabs_;
  QProgressBar* progress_;
  QPushButton* cancel_;
  QLineEdit* name_;
  QLineEdit* address_;
  QPlainTextEdit* signature_;
  QCheckBox* receipts_;
  QComboBox *mass_unit_, *length_unit_, *spelling_;
  QComboBox* film_shape_;
  QCheckBox* second_;
  QComboBox* own_sound_;
  QSpinBox* most_mb_;
  QDoubleSpinBox* text_size_ = nullptr;
  QCheckBox* first_look_;
  ColleaguesCard* colleagues_ = nullptr;
  GymPlates* plates_ = nullptr;
  QListWidget* folders_ = nullptr;
  QComboBox* keep_films_ = nullptr;
  QComboBox* styles_;
  std::map<std::string, QComboBox*> topics_;
  QLabel* trouble_;
};

}  // namespace jib::desk
