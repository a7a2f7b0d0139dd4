// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "desk/review/sketch_pad.h"

class QBoxLayout;
class QButtonGroup;
class QComboBox;
class QLineEdit;
class QToolButton;

namespace jib::desk {

// The pens: which shape is drawn next, as it is or as it is wanted, for how long it shows, and the words on it.
class DrawStrip : public QFrame {
  Q_OBJECT

 public:
  explicit DrawStrip(SketchPad& pad, QWidget* parent = nullptr);
  void takeWords();                 // the cursor goes into the words
  void setVerticalTold(bool told);  // the coach has said what is vertical
  // Says so of the chosen line, or with none chosen takes it back. False when there is nothing to say or take back.
  bool sayVertical();
  // Pens and what they draw with stand in two rows where one is too narrow.
  QSize minimumSizeHint() const override;

 signals:
  void closeRequested();
  void verticalSaid(const coaching::Shape& line);  // the chosen line is a vertical of the room
  void verticalTakenBack();
  void doneWithWords();  // the stage has the keys again

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void buildPens();
  void buildOptions();
  void refresh();
  void arrange();

  QBoxLayout* both_;
  QWidget *pens_, *options_;

  SketchPad& pad_;
  QButtonGroup* tools_;
  QToolButton *as_is_, *wanted_, *remove_, *vertical_;
  bool vertical_told_ = false;
  QComboBox* hold_;
  QLineEdit* words_;
};

}  // namespace jib::desk
