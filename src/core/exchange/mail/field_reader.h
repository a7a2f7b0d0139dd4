// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/exchange/mail/read_field.h"

namespace jib::exchange {

// Everything that is read from a message. Its questions and its pain stand in `fields`, too.
struct Reading {
  std::vector<ReadField> fields;
  bool pain = false;
  std::vector<std::string> pain_words;  // the sentences that say so
  std::vector<std::string> questions;
  bool film_expected = false;  // as far as the words tell
};

// Reads what a message says of itself. A number is taken only where its words leave no other meaning: what is doubtful
// is left unread, as a wrong reading costs more than a missing one. At most one reading a field, but for questions.
// `text`: UTF-8, without quoted older messages. `received_on`: ISO date, for days named without a year.
// `unit`: the one this athlete counts in, where it is known; bare numbers are then sure.
Reading readMessage(std::string_view text, std::string_view received_on, std::optional<MassUnit> unit = {});

const ReadField* find(const std::vector<ReadField>& fields, Field field);
const ReadField* find(std::vector<ReadField>&&, Field) = delete;  // it would point into what is gone

}  // namespace jib::exchange
