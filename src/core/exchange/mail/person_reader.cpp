// SPDX-License-Identifier: GPL-3.0-or-later
// Who writes: height, age, years of training; gear, name, and their own sentences.
#include <algorithm>
#include <string>
#include <vector>

#include "core/base/quantity.h"
#include "core/exchange/mail/readings.h"

namespace jib::exchange {
namespace {

const Words kGoodbye{"cheers", "thanks",    "regards", "thank", "best", "greetings",
                     "yours",  "sincerely", "bye",     "thx",   "ty"};

class PersonReader {
 public:
  explicit PersonReader(Readings& out) : out_(out), t_(out.talk()) {}

  void read() {
    for (std::size_t i = 0; i < t_.size(); ++i) {
      height(i);
      age(i);
      school(i);
      years(i);
    }
  }
  void readWords() {
    equipment();
    sentences();
    name();
  }

 private:
  void years(std::size_t i) {
    const bool years = t_.numeric(i) && t_.in(i + 1, {"years", "year", "yrs", "yr"}) && t_.number(i) <= 60;
    if (!years || t_.is(i + 2, "old")) return;
    const std::size_t from = i > 0 && t_.in(i - 1, {"for", "about", "like"}) ? i - 1 : i;
    if (from > 0 && t_.in(from - 1, {"lifting", "training", "powerlifting"}))
      out_.takeNumber(Field::YearsTraining, t_.number(i), from - 1, i + 1);
    if (t_.is(i + 2, "of") && t_.in(i + 3, {"lifting", "training"}))
      out_.takeNumber(Field::YearsTraining, t_.number(i), i, i + 3);
  }

  void height(std::size_t i) {
    if (t_.numeric(i) && t_.is(i + 1, "cm") && t_.number(i) >= 130 && t_.number(i) <= 220 &&
        (t_.inSentence(i, {"tall", "height"}) || t_.before(i, {"am", "i'm"}, 1) ||
         (t_.in(i + 2, {",", "/"}) && t_.digits(i + 3) && isMassUnit(t_, i + 4))))
      out_.takeNumber(Field::Height_cm, t_.number(i), i, i + 1);
    if (t_.numeric(i) && t_.is(i + 1, "m") && t_.number(i) >= 1.3 && t_.number(i) <= 2.2 &&
        !t_.in(i + 2, {"away", "from", "back"}))
      out_.takeNumber(Field::Height_cm, 100 * t_.number(i), i, i + 1);
    const bool feet = t_.whole(i, 4, 7) && t_.in(i + 1, {"'", "foot", "ft", "feet"});
    if (feet && t_.whole(i + 2, 0, 11))
      out_.takeNumber(Field::Height_cm, (t_.number(i) * 12 + t_.number(i + 2)) * kCentimetresPerInch, i, i + 2);
  }

  void age(std::size_t i) {
    const bool said = t_.whole(i, 8, 90);
    if (!said) {
      const std::size_t at = t_.is(i + 1, ":") ? i + 2 : i + 1;
      if (t_.in(i, {"age", "aged"}) && t_.whole(at, 8, 90)) out_.takeNumber(Field::Age, t_.number(at), i, at);
      return;
    }
    const bool years = t_.in(i + 1, {"years", "year", "yr", "yrs"});
    if (years && t_.is(i + 2, "old")) return out_.takeNumber(Field::Age, t_.number(i), i, i + 2);
    if (t_.in(i + 1, {"yo", "yrs", "yr"}) && (t_.is(i + 1, "yo") || t_.is(i + 2, "old")))
      return out_.takeNumber(Field::Age, t_.number(i), i, i + 1);
    // "17 y/o", "15 y.o."
    if (t_.is(i + 1, "y") && t_.in(i + 2, {"/", "."}) && t_.is(i + 3, "o"))
      return out_.takeNumber(Field::Age, t_.number(i), i, i + 3);
    if (i > 0 && t_.is(i - 1, "turned")) return out_.takeNumber(Field::Age, t_.number(i), i - 1, i);
    // A birthday to come is one year off.
    if (i > 0 &&
        (t_.is(i - 1, "turning") || (t_.is(i - 1, "turn") && i > 1 && t_.in(i - 2, {"i", "i'll", "to", "will"}))))
      return out_.takeNumber(Field::Age, t_.number(i) - 1, i - 1, i);
    const bool ends = i + 1 >= t_.size() || t_.at(i + 1).kind == Token::Kind::Sign ||
                      t_.at(i + 1).kind == Token::Kind::LineEnd || t_.in(i + 1, {"and", "btw", "so", "now", "if"});
    const bool sign = t_.in(i + 1, {"'", "%", "@", "/", "\""});
    if (i == 0 || !ends || sign) return;
    if (t_.in(i - 1, {"am", "i'm", "she's", "he's"})) return out_.takeNumber(Field::Age, t_.number(i), i - 1, i);
    if (i > 1 && t_.is(i - 1, "is") && t_.in(i - 2, {"daughter", "son", "kid"}))
      out_.takeNumber(Field::Age, t_.number(i), i - 2, i);
  }
  // "sophomore in high school": an age nobody said, and young enough to be careful.
  void school(std::size_t i) {
    struct Year {
      std::string_view name;
      int age;
    };
    const bool high = t_.phrase(i, "high school");
    if (!high) return;
    for (const Year& y : {Year{"freshman", 14}, Year{"sophomore", 15}, Year{"junior", 16}, Year{"senior", 17}})
      if (t_.before(i, {y.name}, 4)) return out_.take(Field::Age, std::to_string(y.age), i, i + 1, false);
    if (t_.before(i, {"in"}, 2) && !t_.before(i, {"back", "was", "were", "since"}, 4))
      out_.take(Field::Age, "17", i, i + 1, false);
  }

  void equipment() {
    struct Item {
      Words words;
      std::string_view name;
    };
    static const std::vector<Item> kItems{{{"belt"}, "belt"},     {{"sleeves"}, "sleeves"}, {{"wraps"}, "wraps"},
                                          {{"straps"}, "straps"}, {{"socks"}, "socks"},     {{"barefoot"}, "barefoot"},
                                          {{"chalk"}, "chalk"}};
    std::string all;
    std::size_t first = t_.size(), last = 0;
    const auto add = [&](std::string_view name, std::size_t i, std::size_t k) {
      if (all.find(name) != std::string::npos) return;
      all += (all.empty() ? "" : ", ") + std::string(name);
      first = std::min(first, i);
      last = std::max(last, k);
    };
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (t_.before(i, {"no", "without"}, 2) || t_.before(i, {"should", "new", "buy", "or"}, 3) || t_.is(i + 1, "or"))
        continue;
      for (const Item& item : kItems)
        if (t_.in(i, item.words)) add(item.name, i, i);
      if (t_.is(i, "flat") && t_.is(i + 1, "shoes")) add("flat shoes", i, i + 1);
      if (t_.in(i, {"raised", "heeled"}) && t_.in(i + 1, {"heel", "heels", "shoes"})) add("raised heels", i, i + 1);
      if (t_.is(i, "safety") && t_.is(i + 1, "bar")) add("safety bar", i, i + 1);
    }
    if (!all.empty()) out_.take(Field::Equipment, all, first, last);
  }

  void sentences() {
    for (const Sentence& s : t_.sentences()) {
      const auto starts = [&](std::string_view words) { return t_.phrase(s.first, words); };
      if (starts("i think") || starts("i feel") || starts("i believe") || starts("i guess") || starts("it feels"))
        out_.takeWords(Field::OwnDiagnosis, s.text);
      for (std::size_t i = s.first; i < s.last; ++i)
        if (t_.is(i, "tried") && s.mark != '?') out_.takeWords(Field::Tried, s.text);
    }
  }

  // One to three capitalised words from i; their end, or i when there is none.
  bool nameWord(std::size_t i) const { return i < t_.size() && t_.at(i).kind == Token::Kind::Word && t_.at(i).capital; }
  std::size_t nameEnd(std::size_t i) const {
    std::size_t k = i;
    while (k < i + 3 && nameWord(k)) ++k;
    return k;
  }
  void takeName(std::size_t i, std::size_t end) { out_.take(Field::Name, t_.said(i, end - 1), i, end - 1); }
  void name() {
    for (std::size_t i = 0; i + 2 < t_.size(); ++i)
      if ((t_.phrase(i, "name is") || t_.phrase(i, "this is")) && nameEnd(i + 2) > i + 2)
        return takeName(i + 2, nameEnd(i + 2));
    for (std::size_t i = 1; i < t_.size(); ++i)
      if (t_.is(i, "here") && t_.in(i + 1, {".", "!", ",", "\n", ""})) {
        std::size_t first = i;
        while (first > 0 && nameWord(first - 1) && i - first < 3) --first;
        if (first < i && (first == 0 || t_.at(first - 1).kind != Token::Kind::Word)) return takeName(first, i);
      }
    closing();
  }
  // The last line, when it closes a letter: alone after a goodbye, or behind one.
  void closing() {
    std::size_t last = t_.size();
    while (last > 0 && (t_.at(last - 1).kind == Token::Kind::LineEnd || t_.is(last - 1, "."))) --last;
    std::size_t first = last;
    while (first > 0 && nameWord(first - 1) && last - first < 3) --first;
    while (first < last && t_.in(first, kGoodbye)) ++first;
    if (first == last || first == 0) return;
    const bool line = t_.at(first - 1).kind == Token::Kind::LineEnd;
    std::size_t before_line = first - 1;
    while (line && before_line > 0 && t_.at(before_line).kind == Token::Kind::LineEnd) --before_line;
    const bool closes = t_.inSentence(before_line, kGoodbye);
    if (closes && (line || t_.is(first - 1, ","))) takeName(first, last);
  }

  Readings& out_;
  const Talk& t_;
};

}  // namespace

void readPerson(Readings& out) {
  PersonReader(out).read();
}
void readWords(Readings& out) {
  PersonReader(out).readWords();
}

}  // namespace jib::exchange
