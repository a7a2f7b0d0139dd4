// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace jib::exchange {

// Bytes that are not UTF-8 become the replacement sign; carriage returns and zeros go.
std::string validUtf8(std::string_view bytes);

// What a page says, without its marks: paragraphs and line breaks kept, scripts and styles left out. The lines of a
// quotation (blockquote) begin with "> ", as in a plain message.
std::string htmlToText(const std::string& html);

// A message's own words, and what it quotes of older ones. Nothing is thrown away: each line stands in one of the two.
struct OwnAndQuoted {
  std::string own;
  std::string quoted;
  // The part of `quoted` that bears no marks: what an older message is introduced by stands before it, but an answer
  // may have been written into it.
  std::string unmarked;
};

// Lines that begin with ">" are quoted, wherever they stand; answers between and below them are own. What follows the
// line that introduces an older message ("On ... wrote:", a block of headers) without such marks is quoted when own
// words stand above it, and own when there are none: then the answer is in it.
OwnAndQuoted splitQuotes(std::string_view text);

// Web addresses in a text, in order.
std::vector<std::string> linksIn(std::string_view text);

}  // namespace jib::exchange
