// SPDX-License-Identifier: GPL-3.0-or-later
// Sets, reps, percent of a max and RPE, as lifters write them: "5x3", "365 x2", "for a double", "@8", "2 left".
#include <set>

#include "core/exchange/mail/readings.h"

namespace jib::exchange {
namespace {

constexpr double kLeastLoad = 30;  // a bare number in front of "x" from here on is a load, below it a number of sets

class SetReader {
 public:
  explicit SetReader(Readings& out) : out_(out), t_(out.talk()) {}

  void read() {
    if (!twoSchemes())
      for (std::size_t i = 0; i < t_.size(); ++i) scheme(i);
    for (std::size_t i = 0; i < t_.size(); ++i) {
      share(i);
      effort(i);
    }
  }

 private:
  bool percent(std::size_t i) const { return t_.is(i, "%") || t_.is(i, "percent"); }
  bool sets(std::size_t i) const { return t_.whole(i, 1, 20) && !(i > 0 && t_.is(i - 1, "x")); }
  // Of another day, or of what is only hoped for.
  bool elsewhere(std::size_t i) const {
    return t_.inClause(i, {"goal", "missed", "failed"}) ||
           (t_.inClause(i, {"last"}) && t_.inClause(i, {"week", "month", "time", "year", "block", "meet"}));
  }

  void scheme(std::size_t i) {
    if (elsewhere(i)) return;
    times(i);
    inWords(i);
    named(i);
  }

  // "3 x 5 x 105 kg": sets, reps and load, as the unit tells.
  bool threeWithUnit(std::size_t i) {
    if (!t_.is(i + 1, "x") || !t_.is(i + 3, "x") || !t_.digits(i + 4) || !isMassUnit(t_, i + 5)) return false;
    if (!sets(i) || !t_.whole(i + 2, 1, 30)) return false;
    out_.takeNumber(Field::Sets, t_.number(i), i, i + 2);
    out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    return true;
  }
  // "185x1, 170x3": which of them was filmed is not known.
  bool severalLoads() const {
    std::set<double> reps;
    for (std::size_t i = 0; i + 2 < t_.size(); ++i)
      if (t_.digits(i) && t_.number(i) >= kLeastLoad && t_.is(i + 1, "x") && t_.whole(i + 2, 1, 30) && !elsewhere(i))
        reps.insert(t_.number(i + 2));
    return reps.size() > 1;
  }
  // "5x3", "365 x2", "140kg x 2", "2x405"; of "405 x 1 x 3" nobody can say which are the sets.
  void times(std::size_t i) {
    if (threeWithUnit(i)) return;
    if (t_.is(i, ")") && t_.is(i + 1, "x") && t_.whole(i + 2, 1, 30))  // "305 (85 %) x 2"
      return out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    if (!t_.is(i + 1, "x") || t_.is(i + 3, "x")) {
      const bool after_unit = (isMassUnit(t_, i) || t_.in(i, {"plates", "plate"})) && t_.is(i + 1, "x");
      if (!after_unit || t_.is(i + 3, "x")) return;
    }
    if (isMassUnit(t_, i) || t_.in(i, {"plates", "plate"})) {
      if (t_.whole(i + 2, 1, 30)) out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
      return;
    }
    if (sets(i) && t_.whole(i + 2, 1, 20) && !isMassUnit(t_, i + 3)) {
      out_.takeNumber(Field::Sets, t_.number(i), i, i + 2);
      out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    } else if (!severalLoads() && t_.digits(i) && t_.number(i) >= kLeastLoad && t_.whole(i + 2, 1, 30) &&
               !(i > 0 && t_.is(i - 1, "x"))) {
      out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    }
  }

  void inWords(std::size_t i) {
    if (t_.whole(i, 1, 15) && t_.in(i + 1, {"sets", "set"}) && t_.is(i + 2, "of") && t_.whole(i + 3, 1, 30)) {
      out_.takeNumber(Field::Sets, t_.number(i), i, i + 3);
      out_.takeNumber(Field::Reps, t_.number(i + 3), i, i + 3);
    }
    if (t_.in(i, {"set", "sets"}) && t_.is(i + 1, "of") && t_.whole(i + 2, 1, 30) && !(i > 0 && t_.numeric(i - 1)))
      out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    if (t_.whole(i, 1, 50) && t_.in(i + 1, {"reps", "rep"}) && !t_.is(i + 2, "in") &&
        !(i > 0 && t_.in(i - 1, {"on", "#"})))
      out_.takeNumber(Field::Reps, t_.number(i), i, i + 1);
    if (t_.is(i, "reps") && t_.is(i + 1, ":") && t_.whole(i + 2, 1, 50))
      out_.takeNumber(Field::Reps, t_.number(i + 2), i, i + 2);
    if (t_.whole(i, 1, 12) && t_.is(i + 1, "@") && t_.numeric(i + 2) && percent(i + 3))
      out_.takeNumber(Field::Reps, t_.number(i), i, i + 3);
    const bool loaded = i > 0 && (isMassUnit(t_, i - 1) || percent(i - 1) || t_.numeric(i - 1) ||
                                  t_.in(i - 1, {"plates", "plate", "dumbbells", "side", "bench", "squat"}) ||
                                  (i > 1 && isMassUnit(t_, i - 2)));
    static const Words kTimes{"weeks", "years", "months", "days",    "minutes", "kg",
                              "yrs",   "wks",   "mins",   "seconds", "weeks'"};
    if (t_.is(i, "for") && loaded && t_.whole(i + 1, 1, 30) && !t_.in(i + 2, kTimes))
      out_.takeNumber(Field::Reps, t_.number(i + 1), i, i + 1);
  }

  void named(std::size_t i) {
    struct Named {
      std::string_view one, many;
      int reps;
    };
    for (const Named& n :
         {Named{"single", "singles", 1}, Named{"double", "doubles", 2}, Named{"triple", "triples", 3}}) {
      const bool of_lift = !t_.in(i + 1, {"leg", "arm", "check", "day", "ply"}) && !t_.before(i, {"every"}, 1);
      if (t_.is(i, n.one) && of_lift) out_.take(Field::Reps, std::to_string(n.reps), i, i);
      if (!t_.is(i, n.many)) continue;
      if (i > 0 && t_.whole(i - 1, 1, 20)) out_.takeNumber(Field::Sets, t_.number(i - 1), i - 1, i);
      out_.take(Field::Reps, std::to_string(n.reps), i, i);
    }
  }

  // "1x1, then 3x3": two sets are told of, and which one was filmed is not known.
  bool twoSchemes() const {
    std::set<std::pair<double, double>> all;
    for (std::size_t i = 0; i < t_.size(); ++i)
      if (sets(i) && t_.is(i + 1, "x") && t_.whole(i + 2, 1, 20) && !isMassUnit(t_, i + 3))
        all.emplace(t_.number(i), t_.number(i + 2));
    return all.size() > 1;
  }

  void share(std::size_t i) {
    if (t_.numeric(i) && percent(i + 1) && t_.number(i) >= 30 && t_.number(i) <= 110)
      out_.takeNumber(Field::Share_pct, t_.number(i), i, i + 1);
  }

  // A number that can be an RPE and nothing else that follows it.
  bool outOfTen(std::size_t k) const {
    static const Words kCounts{"reps", "rep",   "sets", "set",   "weeks",  "plates", "plate",  "x",
                               "days", "am",    "pm",   "years", "more",   "times",  "inches", "inch",
                               "cm",   "hours", "each", "yo",    "months", "in"};
    return t_.digits(k) && t_.number(k) >= 4 && t_.number(k) <= 10 && !percent(k + 1) && !isMassUnit(t_, k + 1) &&
           !t_.in(k + 1, kCounts) && !(t_.is(k + 1, "/") && !t_.is(k + 2, "10"));
  }
  void takeEffort(double rpe, std::size_t first, std::size_t last, bool sure = true) {
    const bool range = t_.in(last + 1, {"-", "or", "to", "/"}) && outOfTen(last + 2);
    static const Words kHedges{"prob", "probably", "maybe", "around", "about", "like", "roughly"};
    const bool hedged = t_.in(first, kHedges) || t_.before(first, kHedges, 3);
    out_.takeNumber(Field::Effort, rpe, first, last, sure && !range && !hedged && !t_.is(last + 1, "ish"));
  }
  void effort(std::size_t i) {
    const double none = -1;
    if (t_.is(i, "@")) {
      const std::size_t k = t_.is(i + 1, "rpe") ? i + 2 : i + 1;
      if (outOfTen(k)) takeEffort(t_.number(k), i, k);
    }
    if (t_.is(i, "rpe")) {
      std::size_t k = i + 1;
      while (k < i + 4 && t_.in(k, {":", "was", "like", "about", "of", "around", "is", "maybe", "an", "a", "~"})) ++k;
      if (t_.numeric(k) && t_.number(k) >= 4 && t_.number(k) <= 10 && !percent(k + 1) && !isMassUnit(t_, k + 1))
        takeEffort(t_.number(k), i, k, k == i + 1 || t_.is(i + 1, ":") || t_.is(i + 1, "was"));
      else if (i > 0 && outOfTen(i - 1))
        takeEffort(t_.number(i - 1), i - 1, i);
    }
    if (t_.is(i, "felt") || t_.is(i, "feels") || t_.is(i, "called") || t_.is(i, "call")) {
      std::size_t k = i + 1;
      while (k < i + 4 && t_.in(k, {"like", "a", "an", "it", "about", "maybe", "easy", "solid"})) ++k;
      if (k > i + 1 && outOfTen(k)) takeEffort(t_.number(k), i, k);
    }
    static const Words kJudged{"easy", "hard",     "solid", "tough", "honest",     "strong", "clean",
                               "prob", "probably", "maybe", "was",   "definitely", "legit",  "true",
                               "like", "roughly",  "real",  "low",   "high",       "an",     "smooth"};
    const bool article = t_.in(i, {"a", "an"}) && i > 0 && t_.in(i - 1, kJudged);
    if ((article || (t_.in(i, kJudged) && !t_.in(i, {"was", "like", "low", "high"}))) && outOfTen(i + 1) &&
        !t_.before(i, {"at", "for"}, 2) && t_.number(i + 1) >= 5)
      takeEffort(t_.number(i + 1), article ? i - 1 : i, i + 1);
    if (outOfTen(i) && t_.is(i + 1, "/") && t_.is(i + 2, "10") && t_.number(i) >= 5 && !t_.is(i + 3, "/") &&
        !t_.inSentence(i, {"pain", "hurts", "meet", "comp"}))
      takeEffort(t_.number(i), i, i + 2);
    if (outOfTen(i) && t_.phrase(i + 1, "out of 10") && !t_.inSentence(i, {"pain", "hurts"}))
      takeEffort(t_.number(i), i, i + 3);
    if (const double left = leftAt(i); left > none) {
      const double rpe = 10 - left;
      std::size_t last = i;
      while (last < i + 4 && !t_.endsSentence(last) && !t_.in(last, {"rir", "tank", "reserve", "me", "left"})) ++last;
      takeEffort(rpe, i, last);
    }
    if (t_.is(i, "rir") && t_.whole(i + 1, 0, 5)) takeEffort(10 - t_.number(i + 1), i, i + 1);
  }
  // Reps in reserve at i; -1 where none are told.
  double leftAt(std::size_t i) const {
    if (!t_.whole(i, 0, 6)) return -1;
    const std::size_t k = t_.in(i + 1, {"reps", "rep"}) ? i + 2 : i + 1;
    if (t_.is(k, "rir") || t_.phrase(k, "in reserve") || t_.phrase(k, "in the tank") || t_.phrase(k, "left in") ||
        t_.phrase(k, "more in"))
      return t_.number(i);
    if (t_.is(k, "left") && (t_.endsSentence(k) || t_.is(k + 1, ",")) &&
        t_.before(i, {"had", "maybe", "got", "have", "about"}, 3))
      return t_.number(i);
    if (t_.is(k, "more") && (t_.endsSentence(k) || t_.is(k + 1, ",") || t_.is(k + 1, "for")) &&
        t_.before(i, {"had", "done", "could've", "got", "gotten", "hit"}, 3) &&
        t_.before(i, {"could", "could've", "had", "maybe", "have"}, 4))
      return t_.number(i);
    return -1;
  }

  Readings& out_;
  const Talk& t_;
};

}  // namespace

void readSets(Readings& out) {
  SetReader(out).read();
}

}  // namespace jib::exchange
