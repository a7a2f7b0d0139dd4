// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace jib::exchange {

// Words ready to send; `first_name` may be empty.
std::string receiptWords(std::string_view first_name);
std::string missingFilmWords(std::string_view first_name, std::string_view reason);
std::string askForFieldsWords(std::string_view first_name, const std::vector<std::string>& titles);
std::string referralWords(std::string_view first_name);
std::string firstNameOf(std::string_view name);

}  // namespace jib::exchange
