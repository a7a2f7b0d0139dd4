// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/exchange/mail/read_field.h"
#include "core/exchange/mail/talk.h"

namespace jib::exchange {

// What has been read of one message so far. The first reading of a field stands; of questions all do.
class Readings {
 public:
  // `known`: the unit this athlete counts in, where somebody has said it.
  Readings(const Talk& talk, std::optional<MassUnit> known);

  void take(Field field, std::string value, std::size_t first, std::size_t last, bool sure = true);
  void takeNumber(Field field, double value, std::size_t first, std::size_t last, bool sure = true) {
    take(field, fieldNumber(value), first, last, sure);
  }
  // `said` as of kilogramsOf; `unit` where the words name it.
  void takeMass(Field field, std::string said, std::optional<MassUnit> unit, std::size_t first, std::size_t last);
  void takeWords(Field field, std::string sentence);
  bool has(Field field) const;

  const Talk& talk() const { return talk_; }
  MassUnit unit() const { return unit_; }  // of a number whose unit is not said: the best guess
  bool unitKnown() const { return unit_known_; }
  std::vector<ReadField> done() { return std::move(all_); }

 private:
  const Talk& talk_;
  MassUnit unit_;
  bool unit_known_;
  std::vector<ReadField> all_;
};

bool isMassUnit(const Talk& talk, std::size_t i);
std::optional<MassUnit> massUnitAt(const Talk& talk, std::size_t i);

// The readers, in the order in which they are asked: what one has read another may lean on.
void readLift(Readings& out);
void readSets(Readings& out);
void readPerson(Readings& out);
void readMeet(Readings& out, std::string_view received_on);
void readMasses(Readings& out);
void readWords(Readings& out);  // gear, what was tried, own diagnosis, name

}  // namespace jib::exchange
