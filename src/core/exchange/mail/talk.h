// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "core/exchange/mail/words.h"

namespace jib::exchange {

using Words = std::set<std::string_view>;

// One message as words to look around in: what stands at a place, before it, in its clause, in its sentence. Every
// reader of a message asks through this, so that "no", "last week" and "my brother" mean the same to all of them.
// Typographers' dots, dashes and quotes and the shortcuts of phones ("im", "dont") are read as what they stand for;
// places stay bytes of the text that was handed in.
class Talk {
 public:
  explicit Talk(std::string_view text);

  std::size_t size() const { return tokens_.size(); }
  const Token& at(std::size_t i) const { return tokens_[i]; }
  const std::vector<Sentence>& sentences() const { return sentences_; }
  const std::string& word(std::size_t i) const;
  bool is(std::size_t i, std::string_view word) const { return this->word(i) == word; }
  // Any of the words of a phrase in a row from i: "touch and go".
  bool phrase(std::size_t i, std::string_view words) const;
  bool in(std::size_t i, const Words& set) const { return set.count(word(i)) > 0; }

  bool numeric(std::size_t i) const { return i < tokens_.size() && tokens_[i].numeric; }
  bool digits(std::size_t i) const { return numeric(i) && tokens_[i].kind == Token::Kind::Number; }
  double number(std::size_t i) const { return tokens_[i].number; }
  bool whole(std::size_t i, double least, double most) const;
  bool endsSentence(std::size_t i) const;  // i is the last word of its sentence, or past the end

  bool sameSentence(std::size_t i, std::size_t k) const;
  bool sameClause(std::size_t i, std::size_t k) const;
  // Any word of the set within `reach` tokens before or after i, in the same sentence.
  bool before(std::size_t i, const Words& set, std::size_t reach) const;
  bool after(std::size_t i, const Words& set, std::size_t reach) const;
  bool inClause(std::size_t i, const Words& set) const;
  bool inSentence(std::size_t i, const Words& set) const;

  std::string said(std::size_t first, std::size_t last) const;  // as written, both ends included
  std::string sentenceOf(std::size_t i) const;                  // as written, trimmed

 private:
  std::string_view text_;
  std::string plain_;  // the same bytes with plain signs
  std::vector<Token> tokens_;
  std::vector<Sentence> sentences_;
};

}  // namespace jib::exchange
