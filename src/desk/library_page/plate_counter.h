// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/coaching/loading.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace jib::desk {

// One sleeve of the bar with the plates on it, collar side to the left. A plate is taken off by a click.
class SleeveView : public QWidget {
  Q_OBJECT

 public:
  explicit SleeveView(const QString& name, QWidget* parent = nullptr);
  void setPlates(std::vector<int> plates);
  void setActive(bool active);
  QSize sizeHint() const override { return {300, 74}; }
  // Where a plate is drawn.
  QRectF plateRect(std::size_t index) const;

 signals:
  void plateClicked(int index);
  void clicked();

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  std::vector<int> plates_;
  bool active_ = true;
};

// Counts what is on the bar: plates tapped onto a drawn sleeve, bar and collars added, one side or both.
class PlateCounter : public QFrame {
  Q_OBJECT

 public:
  explicit PlateCounter(QWidget* parent = nullptr);
  void setLoading(const coaching::Loading& loading);
  const coaching::Loading& loading() const { return loading_; }

 signals:
  void changed();
  void takenAsLoad(double kg);

 private:
  void add(int kind);
  void remove(bool far, int index);
  void refresh();
  void edit();

  coaching::Loading loading_;
  bool on_far_ = false;  // where the next plate goes
  bool refreshing_ = false;
  QComboBox* bar_;
  QCheckBox* collars_;
  QCheckBox* far_differs_;
  SleeveView* near_;
  SleeveView* far_;
  QLabel* total_;
  QPushButton* take_;
};

}  // namespace jib::desk
