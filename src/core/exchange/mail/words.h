// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace jib::exchange {

// A word, a number or a sign of a message, with its place in it.
struct Token {
  enum class Kind { Word, Number, Sign, LineEnd };
  Kind kind = Kind::Word;
  std::string text;   // words in lower case; signs as written ("×" as "x")
  double number = 0;  // of numbers, and of words that are numbers ("five")
  bool numeric = false;
  bool capital = false;         // the word begins with a capital letter
  std::size_t at = 0, end = 0;  // bytes of the message
  std::size_t sentence = 0, clause = 0;
};

// Cuts a message into tokens, sentences and clauses. "92,5" and "92.5" are one number, "kg" after a number is a word of
// its own, and so is the "x" of "5x3". A clause ends at a comma, at "then", "but" and "today".
std::vector<Token> tokensOf(std::string_view text);

// The sentences as written, trimmed.
struct Sentence {
  std::string text;
  std::size_t first = 0, last = 0;  // tokens, [first, last)
  char mark = 0;                    // what ended it: . ! ? or 0
};
std::vector<Sentence> sentencesOf(std::string_view text, const std::vector<Token>& tokens);

}  // namespace jib::exchange
