// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/words.h"

#include <array>

#include "core/base/ascii.h"
#include "core/base/quantity.h"

namespace jib::exchange {
namespace {

constexpr std::array<std::string_view, 21> kNumbers{
    "zero",     "one",     "two",     "three",     "four",     "five",     "six",
    "seven",    "eight",   "nine",    "ten",       "eleven",   "twelve",   "thirteen",
    "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen", "twenty"};

bool isDigit(char c) {
  return c >= '0' && c <= '9';
}
// Letters of any alphabet: bytes of UTF-8 beyond ASCII belong to words.
bool isLetter(char c) {
  return isAsciiLetter(c) || static_cast<unsigned char>(c) >= 0x80;
}

void numberWord(Token& t) {
  for (std::size_t n = 0; n < kNumbers.size(); ++n)
    if (t.text == kNumbers[n]) {
      t.number = static_cast<double>(n);
      t.numeric = true;
    }
}

bool endsClause(const Token& t) {
  return t.text == "," || t.text == ";" || t.text == "then" || t.text == "but" || t.text == "today";
}

}  // namespace

std::vector<Token> tokensOf(std::string_view text) {
  // long because one state machine over the characters
  std::vector<Token> out;
  std::size_t sentence = 0, clause = 0;
  const auto at = [&](std::size_t i) { return i < text.size() ? text[i] : '\0'; };
  for (std::size_t i = 0; i < text.size();) {
    Token t;
    t.at = i;
    // The multiplication sign of UTF-8, as a letter x.
    if (text.substr(i, 2) == "\xC2\xA0") {  // a space that does not break
      i += 2;
      continue;
    }
    if (text.substr(i, 2) == "\xC3\x97") {
      t.kind = Token::Kind::Word;
      t.text = "x";
      i += 2;
    } else if (isDigit(text[i])) {
      std::string digits;
      while (isDigit(at(i))) digits += text[i++];
      // One decimal mark between digits; two make a date, whose parts stay apart.
      if ((at(i) == '.' || at(i) == ',') && isDigit(at(i + 1))) {
        std::size_t k = i + 1;
        while (isDigit(at(k))) ++k;
        const bool date = at(k) == '.' && isDigit(at(k + 1));
        const bool part = !out.empty() && out.back().text == "." && out.back().end == t.at;
        if (!date && !part && k - i <= 3) {
          digits += '.';
          ++i;
          while (isDigit(at(i))) digits += text[i++];
        }
      }
      t.kind = Token::Kind::Number;
      t.text = digits;
      t.number = numberFrom(digits).value_or(0);
      t.numeric = true;
    } else if (isLetter(text[i])) {
      t.capital = isAsciiUpper(text[i]);
      while (isLetter(at(i)) || (at(i) == '\'' && isLetter(at(i + 1)))) {
        // "5x3": the x is a word of its own, also between digits.
        t.text += asciiLower(text[i++]);
        if (t.text == "x" && isDigit(at(i))) break;
        // "160kgx2": the unit ends where the x begins.
        const bool unit = t.text == "kg" || t.text == "kgs" || t.text == "lb" || t.text == "lbs";
        if (unit && asciiLower(at(i)) == 'x' && (isDigit(at(i + 1)) || at(i + 1) == ' ')) break;
      }
      // The apostrophe of a phone's keyboard.
      for (std::size_t k; (k = t.text.find("\xE2\x80\x99")) != std::string::npos;) t.text.replace(k, 3, "'");
      numberWord(t);
    } else if (text[i] == '\n') {
      t.kind = Token::Kind::LineEnd;
      t.text = "\n";
      ++i;
    } else if (text[i] == ' ' || text[i] == '\t' || text[i] == '\r') {
      ++i;
      continue;
    } else {
      t.kind = Token::Kind::Sign;
      t.text = text[i++];
    }
    t.end = i;
    t.sentence = sentence;
    t.clause = clause;
    const bool stop = t.text == "!" || t.text == "?" || t.kind == Token::Kind::LineEnd ||
                      (t.text == "." && (i >= text.size() || !isDigit(at(i))));
    if (stop) {
      ++sentence;
      ++clause;
    } else if (endsClause(t)) {
      t.clause = ++clause;
    }
    out.push_back(std::move(t));
  }
  return out;
}

std::vector<Sentence> sentencesOf(std::string_view text, const std::vector<Token>& tokens) {
  std::vector<Sentence> out;
  for (std::size_t i = 0; i < tokens.size();) {
    std::size_t k = i;
    while (k < tokens.size() && tokens[k].sentence == tokens[i].sentence) ++k;
    Sentence s;
    s.first = i;
    s.last = k;
    const Token& end = tokens[k - 1];
    if (end.kind == Token::Kind::Sign && (end.text == "." || end.text == "!" || end.text == "?")) s.mark = end.text[0];
    const std::size_t to = end.kind == Token::Kind::LineEnd ? end.at : end.end;
    s.text = std::string(text.substr(tokens[i].at, to - tokens[i].at));
    i = k;
    if (!s.text.empty()) out.push_back(std::move(s));
  }
  return out;
}

}  // namespace jib::exchange
