// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/library/library.h"

namespace jib::desk {

// Somebody of the same name writes from another address: the same person, or another? Proposed, never done by itself.
class NamesakeCard : public QFrame {
  Q_OBJECT

 public:
  // The others of `athlete`'s name that nobody has told apart from them yet.
  static std::vector<library::Athlete> namesakes(library::Library& library, const library::Athlete& athlete);

  NamesakeCard(library::Library& library, library::Athlete athlete, library::Athlete other, QWidget* parent = nullptr);

 signals:
  void merged(library::AthleteId kept);
  void toldApart();
  void said(const QString& sentence);

 private:
  void putTogether();
  void tellApart();

  library::Library& library_;
  library::Athlete athlete_, other_;
};

}  // namespace jib::desk
