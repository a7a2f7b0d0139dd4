// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/library/library.h"

namespace jib::desk {

// Before anything is deleted for good: what exactly goes, line by line, and two buttons.
class RemovalCard : public QFrame {
  Q_OBJECT

 public:
  RemovalCard(library::Library& library, const QString& title, library::Library::Removal removal,
              QWidget* parent = nullptr);

 signals:
  void removed();
  void said(const QString& sentence);
};

}  // namespace jib::desk
