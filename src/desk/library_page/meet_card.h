// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <array>
#include <optional>
#include <vector>

#include "core/coaching/rule_book.h"
#include "core/library/records.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace jib::desk {

// The meets an athlete has lifted in, a line each with bests and total; one is added or put right in a form in which
// attempts are typed as coaches write them: "170, 180, 190x".
class MeetCard : public QWidget {
  Q_OBJECT

 public:
  MeetCard(std::vector<library::Meet> meets, std::string usual_rules, const coaching::RuleBook& book,
           QWidget* parent = nullptr);

 signals:
  void changed(const std::vector<library::Meet>& meets);  // all of them, oldest first

 private:
  void addLine(std::size_t at);
  void buildForm(const coaching::RuleBook& book);
  void edit(std::optional<std::size_t> at);  // nullopt: a new one
  void save();
  void remove();

  std::vector<library::Meet> meets_;
  std::optional<std::size_t> editing_;
  const std::string usual_rules_;
  QWidget* form_ = nullptr;
  QLineEdit *on_ = nullptr, *name_ = nullptr, *kit_ = nullptr, *class_ = nullptr, *mass_ = nullptr;
  QComboBox* rules_ = nullptr;
  std::array<QLineEdit*, lifts::kLifts> attempts_{};
  QLabel* trouble_ = nullptr;
};

// "12 Mar · Spring Open · 180 / 110 / 210, total 500 kg (1102 lb)"
QString meetText(const library::Meet& meet);

}  // namespace jib::desk
