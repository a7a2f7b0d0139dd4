// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>

#include "core/library/library.h"

class QFormLayout;
class QVBoxLayout;

namespace jib::desk {

// What is known of one athlete, to read and to change; empty is unknown. Everything is saved when a field is left.
class AthletePanel : public QScrollArea {
  Q_OBJECT

 public:
  explicit AthletePanel(library::Library& library, QWidget* parent = nullptr);
  void show(std::optional<library::AthleteId> id);

 signals:
  void changed();
  void said(const QString& sentence);

 private:
  void rebuild();
  void addForm(QFormLayout& form);
  void addBuild();
  void addLoadSpeed();
  void addAddresses();
  void addNamesake();
  void save();

  library::Library& library_;
  std::optional<library::Athlete> athlete_;
  QVBoxLayout* column_;
};

}  // namespace jib::desk
