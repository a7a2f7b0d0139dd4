// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/library.h"

namespace jib::desk {

// What a set was done with and in what state: shoes, bar, belt, sore or fresh, who filmed. Folded until wanted; what is
// chosen is kept at once and decides what later sets can be compared with.
class KitCard : public QWidget {
  Q_OBJECT

 public:
  KitCard(library::Library& library, library::Submission submission, bool open, QWidget* parent = nullptr);

 signals:
  void openChanged(bool open);
  void said(const QString& sentence);

 private:
  QString summary() const;
  void keep(std::string_view field, const std::string& choice);

  library::Library& library_;
  library::Submission submission_;
};

}  // namespace jib::desk
