// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/question_reader.h"

#include <algorithm>

namespace jib::exchange {
namespace {

const Words kAux{"should", "shall", "can",  "could", "would", "will", "do",    "does",  "did", "is",    "are",
                 "am",     "was",   "were", "has",   "have",  "must", "isn't", "don't", "may", "won't", "gonna"};
const Words kSubject{"i",   "you",  "we",    "it",   "this", "that", "these", "those", "my",
                     "the", "your", "there", "they", "he",   "she",  "a",     "any"};
const Words kAsk{"what", "how", "why", "when", "where", "which", "who", "what's", "how's", "whats", "where's", "whose"};
const Words kFiller{"also",    "and",   "so",   "but",      "oh",        "ok",   "okay",   "btw",    "ps",    "hey",
                    "hi",      "coach", "plus", "then",     "or",        "yo",   "lastly", "second", "first", "one",
                    "another", "quick", "q",    "question", "questions", "just", "well",   "p",      "s",     "-",
                    ",",       ":",     ".",    "(",        "um",        "lol",  "like"};

class QuestionReader {
 public:
  explicit QuestionReader(const Talk& talk) : t_(talk) {}

  std::vector<std::string> read() const {
    std::vector<std::string> all;
    for (const Sentence& s : t_.sentences()) {
      std::size_t from = s.first;
      for (std::size_t i = s.first; i < s.last; ++i) {
        const bool here = i > from && (startsPart(i, s.first) || asksAgain(i, from));
        if (!here) continue;
        add(all, from, i, false);
        from = i;
      }
      add(all, from, s.last, s.mark == '?');
    }
    return all;
  }

 private:
  bool number(std::size_t i) const {
    return t_.whole(i, 1, 9) && t_.digits(i) && (t_.is(i + 1, ")") || t_.is(i + 1, "."));
  }
  // "1) should i ...": a list within a line.
  bool startsPart(std::size_t i, std::size_t first) const {
    return (number(i) && i > first) || (t_.is(i, "-") && (opens(i + 1) || number(i + 1)));
  }
  // "is my back rounding and should I wear a belt": two questions in one breath.
  bool asksAgain(std::size_t i, std::size_t from) const {
    if (!t_.in(i, {"and", "or", ",", "also"}) || t_.is(i, "or") || i < from + 3) return false;
    return opens(i + 1) && asks(from, i);
  }
  std::size_t afterFiller(std::size_t i, std::size_t end) const {
    while (i < end && (t_.in(i, kFiller) || t_.is(i, ")") || number(i))) ++i;
    return i;
  }
  // Whether a question begins at i by its own words.
  bool opens(std::size_t i) const {
    if (t_.in(i, {"should", "shall", "can", "could", "would", "will", "do", "does", "is", "are", "am", "did", "was",
                  "isn't", "don't"}))
      return t_.in(i + 1, kSubject) ||
             (t_.in(i, {"is", "are", "does", "should"}) && t_.at(i).kind == Token::Kind::Word && i + 1 < t_.size() &&
              t_.at(i + 1).kind == Token::Kind::Word && !t_.in(i + 1, {"what", "good", "fine", "better", "ok"}));
    if (t_.in(i, {"what's", "how's", "whats", "where's"})) return true;
    if (!t_.in(i, kAsk)) return false;
    if (t_.in(i + 1, kAux)) return !t_.is(i + 1, "i");
    if (t_.is(i, "how") && t_.in(i + 1, {"much", "many", "long", "often", "far", "heavy", "low", "high", "wide", "deep",
                                         "about", "come", "close"}))
      return true;
    if (t_.is(i, "what") && t_.in(i + 1, {"about", "if"})) return true;
    // "what weight should i open with", "which stance is better"
    for (std::size_t k = i + 2; k <= i + 5; ++k)
      if (t_.in(k, kAux) && t_.sameSentence(k, i)) return !t_.in(i + 1, {"i", "we", "you", "it", "my"});
    return false;
  }
  bool wonders(std::size_t i) const {
    return t_.is(i, "wondering") || t_.phrase(i, "not sure if") || t_.phrase(i, "not sure whether") ||
           t_.phrase(i, "not sure how") || t_.phrase(i, "not sure what") || t_.phrase(i, "let me know if") ||
           t_.phrase(i, "let me know what") || t_.phrase(i, "any idea") || t_.phrase(i, "any tips") ||
           t_.phrase(i, "any thoughts") || t_.phrase(i, "any advice") || t_.phrase(i, "thoughts on") ||
           t_.phrase(i, "curious if") || t_.phrase(i, "curious what") || t_.phrase(i, "tell me if") ||
           t_.phrase(i, "tell me whether") || t_.phrase(i, "don't know if") || t_.phrase(i, "don't know whether") ||
           t_.phrase(i, "idk if");
  }
  bool asks(std::size_t first, std::size_t end) const {
    const std::size_t i = afterFiller(first, end);
    if (i >= end) return false;
    if (opens(i)) return true;
    const bool question_word =
        std::find_if(kFiller.begin(), kFiller.end(), [&](auto w) { return t_.is(first, w); }) != kFiller.end();
    for (std::size_t k = i; k < end && k < i + 5; ++k)
      if (wonders(k) || (question_word && k == i && opens(k))) return true;
    return false;
  }

  void add(std::vector<std::string>& all, std::size_t first, std::size_t end, bool marked) const {
    while (first < end && (t_.at(first).kind == Token::Kind::LineEnd || t_.in(first, {",", "-", "and", "also"})))
      ++first;
    if (first >= end) return;
    if (!marked && !asks(first, end)) return;
    const std::size_t core = afterFiller(first, end);
    std::size_t words = 0, numbers = 0;
    for (std::size_t i = core; i < end; ++i) {
      words += t_.at(i).kind == Token::Kind::Word ? 1 : 0;
      numbers += t_.digits(i) ? 1 : 0;
    }
    // "RPE like 9?", "365?", "5x3?"
    if (numbers > 0 && words <= 3 && !opens(core)) return;
    if (words == 0 || (words == 1 && t_.in(core, {"right", "ok", "okay", "lol", "maybe"}))) return;
    std::size_t last = end - 1;
    while (last > first && t_.in(last, {",", "-", "and"})) --last;
    if (t_.at(last).kind == Token::Kind::LineEnd && last > first) --last;
    // The number in front of it is the list's, not the question's.
    std::size_t begin = first;
    while (begin < last && (number(begin) || t_.is(begin, ")"))) begin += number(begin) ? 2 : 1;
    all.push_back(t_.said(begin, last));
  }

  const Talk& t_;
};

}  // namespace

std::vector<std::string> questionsIn(const Talk& talk) {
  return QuestionReader(talk).read();
}

bool expectsFilm(const Talk& t) {
  static const Words kFilm{"clip",    "clips",    "video",      "videos",    "vid",    "vids",     "film",      "films",
                           "footage", "attached", "attachment", "recording", "upload", "uploaded", "uploading", "link"};
  static const Words kWithout{"no",    "forgot", "without", "didn't", "couldn't", "can't", "don't",   "not",
                              "never", "none",   "last",    "next",   "send",     "your",  "haven't", "phone"};
  bool numbers = false, reports = false;
  std::size_t words = 0;
  for (std::size_t i = 0; i < t.size(); ++i) {
    words += t.at(i).kind == Token::Kind::Word ? 1 : 0;
    if (t.digits(i)) numbers = true;
    if (t.in(i, {"hit", "got", "did", "went", "had", "made", "was", "moved", "today", "yesterday", "last"}))
      reports = true;
    if (t.in(i, kFilm)) {
      const bool coming = t.before(i, {"will", "i'll", "gonna", "sending"}, 4) || t.is(i + 1, "yet") ||
                          t.in(i + 1, {"coming", "below", "attached"});
      const bool absent = t.before(i, kWithout, 5);
      if (coming && !t.inClause(i, {"you"})) return true;
      if (!absent) return true;
      if (t.is(i, "attached") && !t.before(i, kWithout, 2)) return true;
    }
    if (t.in(i, {"here's", "here"}) && t.in(i + 1, {"my", "is", "are", "the", "are", "today's"})) return true;
    const bool looks = t.in(i, {"look", "looks"}) && (t.before(i, {"this", "that", "it", "these", "does"}, 3));
    if (looks || t.phrase(i, "form check") || t.phrase(i, "check my form") || t.phrase(i, "filmed from") ||
        t.phrase(i, "think of this"))
      return true;
    if (t.in(i, {"forgot", "didn't", "couldn't"}) && t.after(i, {"film", "record", "filming", "video"}, 3))
      return false;
  }
  // The caption of a set: a lift, its numbers, and hardly a word more.
  static const Words kLifts{"squat", "squats", "bench", "deadlift", "deadlifts", "press",
                            "sq",    "dl",     "bp",    "deads",    "pull"};
  bool lift = false;
  for (std::size_t i = 0; i < t.size(); ++i) lift = lift || t.in(i, kLifts);
  constexpr std::size_t kCaption = 14;
  return lift && numbers && words <= kCaption && !reports && questionsIn(t).empty() &&
         std::none_of(t.sentences().begin(), t.sentences().end(), [&](const Sentence& s) {
           return t.in(s.first, {"no", "didn't", "forgot"});
         });
}

}  // namespace jib::exchange
