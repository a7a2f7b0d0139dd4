// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace jib::exchange {

// Bytes that are not UTF-8 become the replacement sign; carriage returns and zeros go.
std::string validUtf8(std::string_view bytes);

// What a page says, without its marks: paragraphs and line breaks kept, scripts and styles left out.
std::string htmlToText(const std::string& html);

// Without lines quoted from older messages, and without what follows the line that introduces them.
std::string withoutQuotes(std::string_view text);

// Web addresses in a text, in order.
std::vector<std::string> linksIn(std::string_view text);

}  // namespace jib::exchange
