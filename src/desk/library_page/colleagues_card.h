// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/records.h"

class QComboBox;
class QPushButton;
class QTableWidget;

namespace jib::desk {

// The coaches who share a library: names and addresses, who is away until when and who stands in, and which of them
// sits at this desk.
class ColleaguesCard : public QWidget {
  Q_OBJECT

 public:
  // `seat`: who sits here, by name.
  ColleaguesCard(const library::CoachCard& card, const std::string& seat, QWidget* parent = nullptr);
  // The first row is whoever the library belongs to; their name is typed elsewhere.
  void setOwner(const QString& name);
  // What cannot be kept as it was typed, a sentence; empty: all of it can.
  QString trouble() const;
  void into(library::CoachCard& card) const;
  // Who was called something else when the card was shown: the name then, and the one now.
  std::vector<std::pair<std::string, std::string>> renamed() const;
  std::string seat() const;
  void add(const QString& name = {}, const QString& address = {});

 private:
  enum Column { Name, Address, AwayUntil, CoveredBy, Signature, Columns };
  void addRow(const library::Colleague& coach);
  void remove();
  void offerNames();
  QString cell(int row, int column) const;

  QComboBox* seat_;
  QTableWidget* table_;
  QPushButton* remove_;
};

}  // namespace jib::desk
