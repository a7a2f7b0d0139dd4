// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <array>
#include <filesystem>

#include "core/coaching/drill.h"

class QCheckBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;
class QVBoxLayout;

namespace jib::desk {

// Drill cards, the coach's own and those that come with the program: read, changed, made anew with a picture of the
// coach's own. A card goes out with every cue whose drill says its words.
class DrillsDialog : public QDialog {
  Q_OBJECT

 public:
  // `library`: the library's folder.
  explicit DrillsDialog(std::filesystem::path library, QWidget* parent = nullptr);
  void choose(const QString& id);
  void beginNew();
  // What the file dialog ends in.
  void takePicture(const QString& file);
  void reject() override;

 private:
  QWidget* buildForm();
  void addPictureRow(QFormLayout& form);
  void addButtons(QVBoxLayout& column);
  void reload(const std::string& then);
  void showCard(const coaching::DrillCard& card);
  coaching::DrillCard typed() const;
  bool edited() const;
  void showPicture();
  void save();
  void giveBack();
  void tell(const QString& sentence, bool is_trouble);

  const std::filesystem::path library_;
  coaching::DrillBook book_;
  coaching::DrillCard shown_;  // as it is kept; without an id: a new one
  std::string jpeg_;           // of the form
  QListWidget* list_ = nullptr;
  QLineEdit *title_ = nullptr, *words_ = nullptr;
  QPlainTextEdit *purpose_ = nullptr, *setup_ = nullptr, *dose_ = nullptr, *must_not_ = nullptr;
  std::array<QCheckBox*, lifts::kLifts> lifts_{};
  QLabel *picture_ = nullptr, *told_ = nullptr;
  QPushButton *save_ = nullptr, *give_back_ = nullptr, *no_picture_ = nullptr;
};

}  // namespace jib::desk
