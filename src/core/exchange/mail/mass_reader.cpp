// SPDX-License-Identifier: GPL-3.0-or-later
// What is on the bar, the max and the body weight. A weight is a number with its unit, or a bare number where the words
// around it leave it no other meaning; whose unit nobody said is read with the best guess and marked as unsure.
#include <algorithm>
#include <cmath>

#include "core/base/quantity.h"
#include "core/exchange/mail/readings.h"

namespace jib::exchange {
namespace {

const Words kBest{"best", "bests", "pr", "prs", "pb", "max", "maxes", "rm", "record"};
const Words kBody{"weigh", "weighing", "weighin", "weighed", "bodyweight", "bw", "sitting", "sittin"};
const Words kPast{"missed", "failed", "warm", "warmed", "warmups", "warmup", "warm-ups", "previous", "previously"};
const Words kToCome{"goal",     "want",    "wanna",    "plan",     "planning", "hope",   "hoping", "aim",
                    "aiming",   "soon",    "opening",  "opener",   "openers",  "open",   "can't",  "cannot",
                    "couldn't", "attempt", "attempts", "tomorrow", "gonna",    "someday"};
const Words kOthers{"partner", "friend", "brother", "sister", "he",      "she",
                    "his",     "her",    "they",    "wife",   "husband", "buddy"};
const Words kHandHeld{"dumbbell", "dumbbells", "kettlebell", "kettlebells", "goblet", "dbs"};
const Words kLifting{"squat",      "squats",  "squatted", "bench",     "benched", "deadlift",     "deadlifts",
                     "deadlifted", "deads",   "dl",       "dls",       "sq",      "bp",           "pull",
                     "pulled",     "pulls",   "pressed",  "press",     "sumo",    "conventional", "conv",
                     "lowbar",     "highbar", "bar",      "squatting", "benching"};
const Words kDid{"hit", "did", "got", "moved", "made", "took", "lifted", "with", "w",
                 "at",  "@",   "had", "of",    "was",  "to",   ":",      "shows"};
const Words kDone{"single", "double", "triple",       "singles", "doubles", "triples",  "beltless",
                  "sumo",   "conv",   "conventional", "lowbar",  "highbar", "paused",   "tng",
                  "low",    "high",   "squat",        "squats",  "bench",   "deadlift", "dl"};

class MassReader {
 public:
  explicit MassReader(Readings& out) : out_(out), t_(out.talk()) {}

  void read() {
    for (std::size_t i = 0; i < t_.size(); ++i)
      if (weight(i)) sort(i);
    if (!doubtful_ && load_ < t_.size()) takeLoad(load_);
    for (std::size_t i = 0; i < t_.size(); ++i) plates(i);
  }

 private:
  enum class Means { Load, Body, Best, Other };

  // A number that can be a weight at all.
  bool weight(std::size_t i) const {
    if (!t_.digits(i)) return false;
    if (isMassUnit(t_, i + 1)) return true;
    static const Words kCounts{"%",        "percent", "cm",    "m",    "mm",    "in",  "inch",    "inches",
                               "seconds",  "sec",     "s",     "fps",  "ft",    "'",   "days",    "weeks",
                               "years",    "reps",    "rep",   "sets", "set",   "min", "minutes", "kcal",
                               "calories", "am",      "pm",    "st",   "nd",    "rd",  "th",      "years'",
                               "times",    "plates",  "plate", "yo",   "class", "deg", "°"};
    if (t_.in(i + 1, kCounts) && !(t_.is(i + 1, "in") && t_.is(i + 2, "the"))) return false;
    const double v = t_.number(i);
    const bool year = v >= 1990 && v <= 2100;
    const bool clock = t_.is(i + 1, ":") || (i > 0 && t_.is(i - 1, ":") && i > 1 && t_.digits(i - 2));
    const bool date = (t_.is(i + 1, "/") && t_.digits(i + 2) && v <= 31) ||
                      (i > 0 && t_.is(i - 1, "/") && i > 1 && t_.digits(i - 2)) ||
                      (i > 0 && t_.is(i - 1, "-") && i > 1 && t_.digits(i - 2) && t_.number(i - 2) > 1990);
    return v >= 30 && v <= 1200 && !year && !clock && !date;
  }
  bool united(std::size_t i) const { return isMassUnit(t_, i + 1); }
  std::optional<MassUnit> unitOf(std::size_t i) const { return massUnitAt(t_, i + 1); }
  double kilos(std::size_t i) const {
    return t_.number(i) * (unitOf(i).value_or(out_.unit()) == MassUnit::Pounds ? kKilogramsPerPound : 1);
  }
  std::size_t past(std::size_t i) const { return united(i) ? i + 2 : i + 1; }

  // What the nearest telling word to the left says a weight is, within the clause.
  Means meansAt(std::size_t i) const {
    const std::size_t k = past(i);
    const bool load_follows = t_.is(k, "x") || t_.is(k, "@") || (t_.is(k, "for") && t_.numeric(k + 1));
    for (std::size_t b = i; b-- > 0 && t_.sameClause(b, i) && i - b <= 7;) {
      // A number with sets or reps behind it ends what an earlier word said.
      if (t_.in(b, kBody) || (t_.is(b, "weight") && b > 0 && t_.in(b - 1, {"body", "my"}))) return Means::Body;
      if (t_.is(b, "around") && b > 0 && t_.is(b - 1, "walking")) return Means::Body;
      if (t_.in(b, kBest)) {
        // "new PR 405x1": what is on the bar has become the best.
        if (b > 0 && t_.in(b - 1, {"new", "a", "lb", "kg", "huge"}) && i - b <= 3) return Means::Load;
        return load_follows && i - b > 2 ? Means::Load : Means::Best;
      }
      if (t_.in(b, {"weighs", "added", "lost", "gained", "add", "drop", "dropped", "cut", "down", "up"}) &&
          (united(i) || t_.number(i) < 60 || t_.in(b, {"lost", "gained", "weighs"})) && i - b <= 3 &&
          !t_.is(b + 1, "to"))
        return t_.is(i - 1, "to") ? Means::Body : Means::Other;
      if (i - b == 1 && t_.in(b, {"to"}) && b > 0 && t_.in(b - 1, {"cut", "cutting", "bulk", "down"}))
        return Means::Other;
    }
    // "105 kg body weight", "a 63 kg lifter", "181 bw", "405 max"
    if ((t_.is(k, "body") && t_.is(k + 1, "weight")) || t_.in(k, {"lifter", "athlete", "bodyweight", "bw"}))
      return Means::Body;
    if (t_.in(k, {"max", "pr", "pb", "best", "1rm"}) || (t_.is(k, "1") && t_.is(k + 1, "rm")))
      return t_.before(i, {"hit", "new", "for"}, 3) ? Means::Load : Means::Best;
    if (t_.in(k, {"plates", "bumpers", "plate", "bumper", "bar", "more", "class", "jump", "jumps"}) &&
        (united(i) || !t_.is(k, "bar")))
      return Means::Other;
    if (t_.before(i, {"which"}, 2) && t_.before(i, {"max", "best", "pr"}, 5)) return Means::Best;
    if (i > 1 && t_.is(i - 1, ",") && t_.numeric(i - 2) && i > 2 && t_.in(i - 3, {"am", "i'm"})) return Means::Body;
    if (united(i) && i > 0 && t_.in(i - 1, {"i'm", "am"})) return Means::Body;
    // "squat max 315, bench 225, dead 405": the list of maxes goes on.
    const bool listed = i > 0 && t_.in(i - 1, kLifting) && t_.before(i, kBest, 8) && !load_follows;
    if (listed) return Means::Other;
    return besideHeight(i) ? Means::Body : Means::Load;
  }
  // "5'10 190", "165 cm, 59 kg": after the height comes the weight.
  bool besideHeight(std::size_t i) const {
    if (!out_.has(Field::Height_cm) || out_.has(Field::BodyMass_kg) || kilos(i) > 190) return false;
    if (united(i) && t_.inSentence(i, {"'", "tall", "foot", "feet", "ft", "\""})) return true;
    std::size_t b = i;
    while (b > 0 && t_.in(b - 1, {",", "\"", "and", "at", "/"})) --b;
    if (b > 1 && t_.is(b - 1, "cm") && b < i) return true;
    return b > 2 && t_.numeric(b - 1) && t_.in(b - 2, {"'", "foot", "ft", "feet"});
  }

  bool past_or_to_come(std::size_t i) const {
    if (t_.inClause(i, kPast) || t_.inSentence(i, kHandHeld)) return true;
    const bool then =
        t_.inClause(i, {"last"}) && t_.inClause(i, {"week", "month", "time", "year", "block", "cycle", "meet",
                                                    "session", "comp", "summer", "spring", "winter", "fall"});
    if (then) return true;
    if (t_.inClause(i, {"next"}) && t_.inClause(i, {"week", "time", "month", "monday", "session", "block", "cycle"}))
      return true;
    if (t_.inClause(i, kToCome)) return true;
    if (t_.inSentence(i, kOthers) && !t_.inSentence(i, {"daughter", "son"})) return true;
    // "should I go 405 or 415?"
    return t_.inSentence(i, {"should", "or"}) && t_.inSentence(i, {"?", "should"}) && !united(i);
  }

  // How plainly a weight stands there as what was lifted; 0: a bare number that may be anything.
  int plainness(std::size_t i) const {
    const std::size_t k = past(i);
    int score = united(i) ? 1 : 0;
    if ((t_.is(k, "x") && t_.whole(k + 1, 1, 30)) || t_.is(k, "@") || t_.is(k, "rpe") ||
        (t_.is(k, "for") && (t_.whole(k + 1, 1, 30) || t_.in(k + 1, {"a", "an", "reps", "1"}))) ||
        (i > 1 && t_.is(i - 1, "x") && t_.whole(i - 2, 1, 20)))
      score += 2;
    if (t_.is(k, "(") && t_.numeric(k + 1)) score += 1;
    // "225 3x5", "3x5 at 225", "5 sets of 3 with 315"
    if (t_.whole(k, 1, 20) && t_.is(k + 1, "x")) score += 2;
    std::size_t b = i;
    while (b > 0 && t_.in(b - 1, {"at", "@", "with", "w", "/", "of", ":", ",", "on", "was"})) --b;
    // "3x5 at 225"; in "185x1, 170x3" the x is of the weight before.
    const bool of_another = b > 2 && t_.digits(b - 3) && t_.number(b - 3) >= 30;
    if (b > 2 && t_.whole(b - 1, 1, 30) && t_.is(b - 2, "x") && !of_another) score += 2;
    if (b > 2 && b < i && t_.whole(b - 1, 1, 30) && t_.is(b - 2, "of")) score += 2;
    if (t_.in(k, kDone)) score += 1;
    if (b > 0 && t_.in(b - 1, {"set", "single", "double", "triple", "singles", "doubles", "triples", "reps"}) &&
        b < i + 1)
      score += 1;
    if (i > 1 && t_.in(i - 1, {"to", "with", "at"}) && t_.in(i - 2, {"worked", "up", "set", "work"})) score += 1;
    if (t_.before(i, {"had"}, 2) && t_.phrase(k, "on the bar")) score += 2;
    if (t_.before(i, {"top", "today", "clip", "this", "shows"}, 5)) score += 1;
    if (score > 0) return score;
    // Beside the lift's name or "hit" a bare number is a load, and no plainer one than any other.
    const bool named = i > 0 && (t_.in(i - 1, kLifting) || (i > 1 && t_.in(i - 1, kDid) && t_.in(i - 2, kLifting)));
    const bool did =
        i > 0 && t_.in(i - 1, {"hit", "did", "got", "moved", "lifted", "today", "up"}) && t_.number(i) >= 60;
    return named || did ? 1 : 0;
  }

  void sort(std::size_t i) {
    const Means means = meansAt(i);
    if (means == Means::Other) return;
    if (means == Means::Body) {
      const double kg = kilos(i);
      if (kg >= 30 && kg <= 220 && (united(i) || t_.number(i) >= 35) && !t_.inClause(i, {"want", "goal", "class"}))
        takeNumber(Field::BodyMass_kg, i);
      return;
    }
    if (means == Means::Best) {
      const bool counts = united(i) || (t_.number(i) >= 40 && !t_.in(i + 1, {"x"}));
      if (counts && !t_.inSentence(i, {"want", "goal"})) takeNumber(Field::Best_kg, i);
      return;
    }
    if (past_or_to_come(i)) return;
    if (i > 1 && t_.is(i - 1, "/") && isMassUnit(t_, i - 2)) return;  // the same in the other unit
    if (i > 1 && t_.is(i - 1, "(") && isMassUnit(t_, i - 2)) return;
    const int score = plainness(i);
    if (score == 0 || score < best_) return;
    if (score > best_) {
      load_ = i;
      doubtful_ = false;
    } else if (std::abs(kilos(load_) - kilos(i)) > 0.5) {
      doubtful_ = true;  // and stays so, however often one of them is named
    }
    best_ = score;
  }

  void takeNumber(Field field, std::size_t i) {
    out_.takeMass(field, fieldNumber(t_.number(i)), unitOf(i), i, united(i) ? i + 1 : i);
  }
  void takeLoad(std::size_t i) {
    const std::size_t k = past(i);
    const bool a_side =
        (t_.is(k, "/") && t_.is(k + 1, "side")) || (t_.in(k, {"per", "each", "a"}) && t_.is(k + 1, "side"));
    if (a_side)
      out_.takeMass(Field::Load_kg, fieldNumber(t_.number(i)) + " a side", unitOf(i), i, k + 1);
    else
      takeNumber(Field::Load_kg, i);
  }

  // "two plates", "one plate and a 10 each side". A colour in between says another size.
  void plates(std::size_t i) {
    if (t_.is(i, "empty") && t_.is(i + 1, "bar")) out_.takeMass(Field::Load_kg, "bar", std::nullopt, i, i + 1);
    if (!t_.whole(i, 1, 10) || !t_.in(i + 1, {"plates", "plate"}) || past_or_to_come(i)) return;
    if (t_.before(i, kBest, 4)) return;
    std::string said = fieldNumber(t_.number(i)) + (t_.number(i) > 1 ? " plates" : " plate");
    std::size_t last = i + 1;
    if (t_.is(i + 2, "and") && t_.in(i + 3, {"a", "an"})) {
      if (!t_.numeric(i + 4) || t_.number(i + 4) > 45) return;
      said += " and " + fieldNumber(t_.number(i + 4));
      last = i + 4;
    }
    out_.takeMass(Field::Load_kg, std::move(said), std::nullopt, i, last);
  }

  Readings& out_;
  const Talk& t_;
  std::size_t load_ = static_cast<std::size_t>(-1);
  int best_ = 0;
  bool doubtful_ = false;
};

}  // namespace

void readMasses(Readings& out) {
  MassReader(out).read();
}

}  // namespace jib::exchange
