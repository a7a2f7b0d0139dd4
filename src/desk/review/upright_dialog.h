// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QImage>

#include "core/footage/upright.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QSpinBox;

namespace jib::desk {

// Turns, mirrors or stretches a clip's picture while the coach looks at it.
class UprightDialog : public QDialog {
  Q_OBJECT

 public:
  // `picture`: a frame as it shows now, set right as `now`.
  UprightDialog(QImage picture, const footage::Upright& now, footage::PictureSize as_it_came,
                QWidget* parent = nullptr);

  const footage::Upright& chosen() const { return to_; }

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  QComboBox* buildShots();
  void turn(int clockwise_deg);
  void choose(const footage::Upright& to);
  void showPicture();

  const QImage picture_;
  const footage::Upright now_;
  const footage::PictureSize as_it_came_;
  footage::Upright to_;
  QLabel* screen_ = nullptr;
  QCheckBox* mirror_ = nullptr;
  QCheckBox* borders_ = nullptr;  // hidden where there are none
  QComboBox* shots_ = nullptr;    // hidden where the clip is one piece
  QSpinBox* width_ = nullptr;
};

}  // namespace jib::desk
