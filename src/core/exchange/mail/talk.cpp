// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/talk.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace jib::exchange {
namespace {

// Nobody's sentence is longer than this; a file of brackets is.
constexpr std::size_t kReach = 60;

// Signs that a phone or a typographer puts for plain ones, byte for byte, so that places stay what they are.
std::string plainSigns(std::string_view text) {
  static constexpr std::array<std::pair<std::string_view, std::string_view>, 8> kSigns{{{"\xE2\x80\xA6", "..."},
                                                                                        {"\xE2\x80\x93", " - "},
                                                                                        {"\xE2\x80\x94", " - "},
                                                                                        {"\xE2\x80\x9C", " \" "},
                                                                                        {"\xE2\x80\x9D", " \" "},
                                                                                        {"\xE2\x80\xA2", " - "},
                                                                                        {"\xE2\x89\x88", " ~ "},
                                                                                        {"\xC2\xBD", ".5"}}};
  std::string out(text);
  for (const auto& [fine, plain] : kSigns)
    for (std::size_t at = 0; (at = out.find(fine, at)) != std::string::npos; at += plain.size())
      out.replace(at, fine.size(), plain);
  // A face, a flexed arm: four bytes that are no word.
  for (std::size_t i = 0; i + 3 < out.size(); ++i)
    if (static_cast<unsigned char>(out[i]) >= 0xF0)
      for (std::size_t k = 0; k < 4; ++k) out[i + k] = ' ';
  return out;
}

// What thumbs leave out.
void spellOut(Token& t) {
  static constexpr std::array<std::pair<std::string_view, std::string_view>, 22> kShort{
      {{"im", "i'm"},           {"ive", "i've"},       {"dont", "don't"},       {"doesnt", "doesn't"},
       {"didnt", "didn't"},     {"isnt", "isn't"},     {"wasnt", "wasn't"},     {"cant", "can't"},
       {"couldnt", "couldn't"}, {"wont", "won't"},     {"wouldnt", "wouldn't"}, {"hasnt", "hasn't"},
       {"havent", "haven't"},   {"arent", "aren't"},   {"thats", "that's"},     {"whats", "what's"},
       {"hows", "how's"},       {"wheres", "where's"}, {"shes", "she's"},       {"hes", "he's"},
       {"theres", "there's"},   {"ain't", "isn't"}}};
  for (const auto& [typed, meant] : kShort)
    if (t.text == typed) t.text = meant;
}

}  // namespace

Talk::Talk(std::string_view text) : text_(text), plain_(plainSigns(text)), tokens_(tokensOf(plain_)) {
  for (Token& t : tokens_) spellOut(t);
  sentences_ = sentencesOf(text_, tokens_);
}

const std::string& Talk::word(std::size_t i) const {
  static const std::string kNone;
  return i < tokens_.size() ? tokens_[i].text : kNone;
}

bool Talk::phrase(std::size_t i, std::string_view words) const {
  while (!words.empty()) {
    const auto space = words.find(' ');
    if (!is(i++, words.substr(0, space))) return false;
    words = space == std::string_view::npos ? std::string_view() : words.substr(space + 1);
  }
  return true;
}

bool Talk::whole(std::size_t i, double least, double most) const {
  return numeric(i) && number(i) >= least && number(i) <= most && number(i) == std::floor(number(i));
}

bool Talk::endsSentence(std::size_t i) const {
  return i + 1 >= tokens_.size() || tokens_[i + 1].sentence != tokens_[i].sentence ||
         tokens_[i + 1].kind == Token::Kind::LineEnd || is(i + 1, ".") || is(i + 1, "!") || is(i + 1, "?");
}

bool Talk::sameSentence(std::size_t i, std::size_t k) const {
  return i < tokens_.size() && k < tokens_.size() && tokens_[i].sentence == tokens_[k].sentence;
}
bool Talk::sameClause(std::size_t i, std::size_t k) const {
  return i < tokens_.size() && k < tokens_.size() && tokens_[i].clause == tokens_[k].clause;
}

bool Talk::before(std::size_t i, const Words& set, std::size_t reach) const {
  for (std::size_t k = 1; k <= reach && k <= i && sameSentence(i - k, i); ++k)
    if (in(i - k, set)) return true;
  return false;
}
bool Talk::after(std::size_t i, const Words& set, std::size_t reach) const {
  for (std::size_t k = 1; k <= reach && sameSentence(i + k, i); ++k)
    if (in(i + k, set)) return true;
  return false;
}

bool Talk::inClause(std::size_t i, const Words& set) const {
  for (std::size_t k = i; k - i <= kReach && sameClause(k, i); ++k)
    if (in(k, set)) return true;
  for (std::size_t k = i; k-- > 0 && i - k <= kReach && sameClause(k, i);)
    if (in(k, set)) return true;
  return false;
}
bool Talk::inSentence(std::size_t i, const Words& set) const {
  return (i < tokens_.size() && in(i, set)) || before(i, set, kReach) || after(i, set, kReach);
}

std::string Talk::said(std::size_t first, std::size_t last) const {
  last = std::min(last, tokens_.size() - 1);
  // A sign of several bytes was read as plain ones: it is given back whole.
  std::size_t end = tokens_[last].end;
  while (end < text_.size() && (static_cast<unsigned char>(text_[end]) & 0xC0) == 0x80) ++end;
  return std::string(text_.substr(tokens_[first].at, end - tokens_[first].at));
}

std::string Talk::sentenceOf(std::size_t i) const {
  for (const Sentence& s : sentences_)
    if (i >= s.first && i < s.last) return s.text;
  return {};
}

}  // namespace jib::exchange
