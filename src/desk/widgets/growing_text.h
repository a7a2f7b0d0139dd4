// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPlainTextEdit>

namespace jib::desk {

// A few lines of text that are all in sight: the box grows with them, has no scroll bar, and leaves the wheel to what
// it stands in.
class GrowingText : public QPlainTextEdit {
  Q_OBJECT

 public:
  explicit GrowingText(const QString& text, QWidget* parent = nullptr);

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void changeEvent(QEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;

 private:
  void grow();
};

}  // namespace jib::desk
