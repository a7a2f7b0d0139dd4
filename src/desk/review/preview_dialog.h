// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTemporaryDir>
#include <memory>

#include "desk/review/player.h"
#include "drawing/reply_writer.h"

class QLabel;
class QSlider;
class QToolButton;

namespace jib::desk {

class FrameSource;

// What the athlete will get, before it goes: the film, playing here, and the page beside it.
class PreviewDialog : public QDialog {
  Q_OBJECT

 public:
  // `scratch` holds the reply's files and goes with the dialog.
  PreviewDialog(std::unique_ptr<QTemporaryDir> scratch, const drawing::ReplyFiles& files, QWidget* parent = nullptr);
  ~PreviewDialog() override;

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  QWidget* buildFilm(const std::filesystem::path& film);
  void show(const QImage& picture);

  std::unique_ptr<QTemporaryDir> scratch_;
  std::unique_ptr<FrameSource> frames_;
  Player player_;
  QImage picture_;
  QLabel* screen_ = nullptr;
  QSlider* time_ = nullptr;
  QToolButton* play_ = nullptr;
};

}  // namespace jib::desk
