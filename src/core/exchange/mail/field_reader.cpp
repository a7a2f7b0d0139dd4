// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/field_reader.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "core/base/quantity.h"
#include "core/exchange/mail/words.h"
#include "core/library/dates.h"
#include "core/lifts/lift.h"

namespace jib::exchange {
namespace {

constexpr double kBar_kg = 20, kPlate_kg = 20;
using Words = std::set<std::string_view>;

const Words kKilos{"kg", "kgs", "kilo", "kilos", "kilogram", "kilograms"};
const Words kPounds{"lb", "lbs", "pound", "pounds"};
const Words kBest{"best", "bests", "pr", "pb", "max", "rm", "record"};
const Words kBody{"weigh", "weighing", "bodyweight", "bw"};
const Words kPast{"last", "missed", "failed", "warm", "warmups", "warm-ups", "previous", "previously"};
const Words kToCome{"next", "goal",    "want",   "plan",    "planning", "hope",   "aim",
                    "soon", "opening", "opener", "openers", "can't",    "cannot", "couldn't"};
const Words kOthers{"partner", "friend", "brother", "sister", "he", "she", "his", "her", "they", "wife", "husband"};
const Words kHandHeld{"dumbbell", "dumbbells", "kettlebell", "kettlebells", "goblet"};
const Words kJoints{"shoulder", "shoulders", "knee",  "knees", "back",  "hip",  "hips",
                    "elbow",    "elbows",    "wrist", "neck",  "ankle", "groin"};
const Words kHurts{"hurts",      "hurt",       "hurting", "pain",    "pains",    "painful", "aches",
                   "ache",       "aching",     "injury",  "injured", "injuries", "strain",  "strained",
                   "tendinitis", "tendonitis", "surgery", "physio",  "torn",     "sprain",  "sciatica"};
const Words kMeet{"meet", "competition", "compete", "competing", "nationals", "championship", "championships", "comp"};
const Words kGoodbye{"cheers", "thanks", "regards", "thank", "best", "greetings", "yours", "sincerely", "bye"};
constexpr std::array<std::string_view, 12> kMonths{"january",   "february", "march",    "april",
                                                   "may",       "june",     "july",     "august",
                                                   "september", "october",  "november", "december"};

std::string numberText(double v) {
  std::string s = fmt::format("{:.1f}", v);
  if (s.ends_with(".0")) s.resize(s.size() - 2);
  return s;
}

class Reader {
 public:
  Reader(std::string_view text, std::string_view received_on)
      : text_(text), received_on_(received_on), t_(tokensOf(text)), sentences_(sentencesOf(text, t_)) {}

  std::vector<ReadField> read() {
    lift();
    variant();
    setsAndReps();
    effortAndShare();
    person();
    meet();
    masses();
    plates();
    equipment();
    pain();
    sentences();
    name();
    return std::move(out_);
  }

 private:
  using Kind = Token::Kind;

  const std::string& word(std::size_t i) const {
    static const std::string kNone;
    return i < t_.size() ? t_[i].text : kNone;
  }
  bool is(std::size_t i, std::string_view w) const { return word(i) == w; }
  bool in(std::size_t i, const Words& set) const { return set.count(word(i)) > 0; }
  bool numeric(std::size_t i) const { return i < t_.size() && t_[i].numeric; }
  double number(std::size_t i) const { return t_[i].number; }
  bool whole(std::size_t i, double least, double most) const {
    return numeric(i) && number(i) >= least && number(i) <= most && number(i) == std::floor(number(i));
  }
  bool mass(std::size_t i) const { return in(i, kKilos) || in(i, kPounds); }

  void take(Field field, std::string value, std::size_t first, std::size_t last) {
    if (find(out_, field)) return;
    last = std::min(last, t_.size() - 1);
    out_.push_back({field, std::move(value), std::string(text_.substr(t_[first].at, t_[last].end - t_[first].at))});
  }
  // Any word of a set within `reach` tokens before i, in the same sentence.
  bool before(std::size_t i, const Words& set, std::size_t reach) const {
    for (std::size_t k = 1; k <= reach && k <= i && t_[i - k].sentence == t_[i].sentence; ++k)
      if (in(i - k, set)) return true;
    return false;
  }
  bool inClause(std::size_t i, const Words& set) const {
    return around(i, set, [&](std::size_t k) { return t_[k].clause == t_[i].clause; });
  }
  bool inSentence(std::size_t i, const Words& set) const {
    return around(i, set, [&](std::size_t k) { return t_[k].sentence == t_[i].sentence; });
  }
  // Any word of a set near i, out to where `within` ends. Nobody's sentence is longer than the reach; a file of
  // brackets is.
  template <class Within>
  bool around(std::size_t i, const Words& set, Within within) const {
    constexpr std::size_t kReach = 60;
    for (std::size_t k = i; k < t_.size() && k - i <= kReach && within(k); ++k)
      if (in(k, set)) return true;
    for (std::size_t k = i; k-- > 0 && i - k <= kReach && within(k);)
      if (in(k, set)) return true;
    return false;
  }

  // The lift a word names; empty.
  static std::string_view liftOf(const std::string& w) {
    constexpr std::size_t kShort = 2;  // an abbreviation stands alone; a word may have an ending
    for (const auto& lift : lifts::allLifts())
      for (std::string_view begins : lift.words)
        if (w == begins || (begins.size() > kShort && w.starts_with(begins))) return lift.name;
    return {};
  }

  // What is lifted: the lift named beside "clip" or "this", else the only one that is named.
  void lift() {
    std::set<std::string_view> named;
    std::size_t place = t_.size(), shown = t_.size();
    for (std::size_t i = 0; i < t_.size(); ++i) {
      const auto l = liftOf(word(i));
      if (l.empty() || before(i, {"no", "not"}, 1)) continue;
      if (named.empty()) place = i;
      named.insert(l);
      if (shown == t_.size() && inClause(i, {"clip", "video", "film", "attached"})) shown = i;
    }
    if (named.empty()) return;
    if (named.size() > 1 && shown == t_.size()) return;
    const std::size_t i = named.size() > 1 ? shown : place;
    take(Field::Lift, std::string(liftOf(word(i))), i, i);
  }

  // How it is lifted: where the bar or the feet are, and how the bar is brought down or set down. Both may be said.
  void variant() {
    struct Said {
      std::string what;
      std::size_t from = 0, to = 0;
    };
    std::optional<Said> position, tempo;
    for (std::size_t i = 0; i < t_.size(); ++i) {
      const std::size_t next = is(i + 1, "-") ? i + 2 : i + 1;
      const auto say = [](std::optional<Said>& to, Said said) {
        if (!to) to = std::move(said);
      };
      if (is(next, "bar") && (is(i, "low") || is(i, "high"))) say(position, {word(i) + "-bar", i, next});
      if (is(next, "bar") && (is(i, "hex") || is(i, "trap"))) say(position, {"hex", i, next});
      if (is(i, "front") && !liftOf(word(next)).empty()) say(position, {"front", i, next});
      if (is(i, "sumo") || is(i, "conventional")) say(position, {word(i), i, i});
      if (is(i, "paused")) say(tempo, {"paused", i, i});
      if (is(i, "touch") && is(i + 1, "and") && is(i + 2, "go")) say(tempo, {"touch-and-go", i, i + 2});
    }
    if (position && tempo)
      take(Field::Variant, position->what + " " + tempo->what, std::min(position->from, tempo->from),
           std::max(position->to, tempo->to));
    else if (position || tempo)
      take(Field::Variant, (position ? position : tempo)->what, (position ? position : tempo)->from,
           (position ? position : tempo)->to);
  }

  // "5x3", "140kg x 2", "three sets of five", "for 5", "4 reps", "a triple".
  void setsAndReps() {
    if (twoSchemes()) return;
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (whole(i, 1, 20) && is(i + 1, "x") && whole(i + 2, 1, 20) && !mass(i + 3) && !(i > 0 && is(i - 1, "x"))) {
        take(Field::Sets, numberText(number(i)), i, i + 2);
        take(Field::Reps, numberText(number(i + 2)), i, i + 2);
      }
      if ((mass(i) || in(i, {"plates", "plate"})) && is(i + 1, "x") && whole(i + 2, 1, 30) && !is(i + 3, "x"))
        take(Field::Reps, numberText(number(i + 2)), i, i + 2);
      if (numeric(i) && number(i) >= 40 && is(i + 1, "x") && whole(i + 2, 1, 30) && t_[i].kind == Kind::Number &&
          !is(i + 3, "x"))
        take(Field::Reps, numberText(number(i + 2)), i, i + 2);
      if (whole(i, 1, 15) && (is(i + 1, "sets") || is(i + 1, "set")) && is(i + 2, "of") && whole(i + 3, 1, 30)) {
        take(Field::Sets, numberText(number(i)), i, i + 3);
        take(Field::Reps, numberText(number(i + 3)), i, i + 3);
      }
      if ((is(i, "set") || is(i, "sets")) && is(i + 1, "of") && whole(i + 2, 1, 30) &&
          !numeric(i == 0 ? t_.size() : i - 1))
        take(Field::Reps, numberText(number(i + 2)), i, i + 2);
      if (whole(i, 1, 50) && (is(i + 1, "reps") || is(i + 1, "rep")) && !is(i + 2, "in"))
        take(Field::Reps, numberText(number(i)), i, i + 1);
      if (is(i, "reps") && is(i + 1, ":") && whole(i + 2, 1, 50))
        take(Field::Reps, numberText(number(i + 2)), i, i + 2);
      if (whole(i, 1, 12) && is(i + 1, "@") && numeric(i + 2) && (is(i + 3, "%") || is(i + 3, "percent")))
        take(Field::Reps, numberText(number(i)), i, i + 3);
      const bool loaded = i > 0 && (mass(i - 1) || in(i - 1, {"plates", "plate", "dumbbells"}) || numeric(i - 1) ||
                                    (i > 1 && mass(i - 2)));
      if (is(i, "for") && loaded && whole(i + 1, 1, 30) &&
          !in(i + 2, {"weeks", "years", "months", "days", "minutes", "kg"}))
        take(Field::Reps, numberText(number(i + 1)), i, i + 1);
      names(i);
    }
  }
  // "1x1, then 3x3": two sets are told of, and which one was filmed is not known.
  bool twoSchemes() const {
    std::set<std::pair<double, double>> all;
    for (std::size_t i = 0; i < t_.size(); ++i)
      if (whole(i, 1, 20) && is(i + 1, "x") && whole(i + 2, 1, 20) && !mass(i + 3) && !(i > 0 && is(i - 1, "x")))
        all.emplace(number(i), number(i + 2));
    return all.size() > 1;
  }
  void names(std::size_t i) {
    struct Named {
      std::string_view one, many;
      int reps;
    };
    for (const Named& n :
         {Named{"single", "singles", 1}, Named{"double", "doubles", 2}, Named{"triple", "triples", 3}}) {
      if (is(i, n.one) && !in(i + 1, {"leg", "arm"})) take(Field::Reps, std::to_string(n.reps), i, i);
      if (!is(i, n.many)) continue;
      if (i > 0 && whole(i - 1, 1, 20)) take(Field::Sets, numberText(number(i - 1)), i - 1, i);
      take(Field::Reps, std::to_string(n.reps), i, i);
    }
  }

  void effortAndShare() {
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (numeric(i) && (is(i + 1, "%") || is(i + 1, "percent")) && number(i) >= 30 && number(i) <= 110)
        take(Field::Share_pct, numberText(number(i)), i, i + 1);
      const auto outOfTen = [&](std::size_t k) {
        return numeric(k) && number(k) >= 4 && number(k) <= 10 && !is(k + 1, "%") && !is(k + 1, "percent") &&
               !mass(k + 1);
      };
      if (is(i, "@") && outOfTen(i + 1)) take(Field::Effort, numberText(number(i + 1)), i, i + 1);
      const std::size_t after = is(i + 1, ":") ? i + 2 : i + 1;
      if (is(i, "rpe") && outOfTen(after)) take(Field::Effort, numberText(number(after)), i, after);
      if (is(i, "felt") && is(i + 1, "like") && (is(i + 2, "a") || is(i + 2, "an")) && outOfTen(i + 3) &&
          t_[i + 3].kind == Kind::Number)
        take(Field::Effort, numberText(number(i + 3)), i, i + 3);
      const bool reserve =
          is(i + 1, "rir") || ((is(i + 1, "reps") || is(i + 1, "rep")) && is(i + 2, "in") && is(i + 3, "reserve"));
      if (whole(i, 0, 6) && reserve)
        take(Field::Effort, numberText(10 - number(i)), i, is(i + 1, "rir") ? i + 1 : i + 3);
    }
  }

  void person() {
    for (std::size_t i = 0; i < t_.size(); ++i) {
      height(i);
      age(i);
      const bool years = numeric(i) && (is(i + 1, "years") || is(i + 1, "year")) && number(i) <= 60;
      if (years && i > 1 && is(i - 1, "for") && in(i - 2, {"lifting", "training"}))
        take(Field::YearsTraining, numberText(number(i)), i - 2, i + 1);
      if (years && is(i + 2, "of") && in(i + 3, {"lifting", "training"}))
        take(Field::YearsTraining, numberText(number(i)), i, i + 3);
    }
  }
  void height(std::size_t i) {
    if (numeric(i) && is(i + 1, "cm") && number(i) >= 130 && number(i) <= 220 &&
        (inSentence(i, {"tall", "height"}) || before(i, {"am", "i'm"}, 1)))
      take(Field::Height_cm, numberText(number(i)), i, i + 1);
    if (numeric(i) && is(i + 1, "m") && number(i) >= 1.3 && number(i) <= 2.2 && !in(i + 2, {"away", "from", "back"}))
      take(Field::Height_cm, numberText(100 * number(i)), i, i + 1);
    const bool feet = whole(i, 4, 7) && (is(i + 1, "'") || is(i + 1, "foot") || is(i + 1, "ft") || is(i + 1, "feet"));
    if (feet && whole(i + 2, 0, 11))
      take(Field::Height_cm, numberText((number(i) * 12 + number(i + 2)) * 2.54), i, i + 2);
  }
  void age(std::size_t i) {
    if (!whole(i, 8, 90)) {
      const std::size_t at = is(i + 1, ":") ? i + 2 : i + 1;
      if (in(i, {"age", "aged"}) && whole(at, 8, 90)) take(Field::Age, numberText(number(at)), i, at);
      return;
    }
    const bool years = is(i + 1, "years") || is(i + 1, "year");
    if (years && is(i + 2, "old")) take(Field::Age, numberText(number(i)), i, i + 2);
    if (is(i + 1, "yo") || is(i + 1, "y.o")) take(Field::Age, numberText(number(i)), i, i + 1);
    if (i > 0 && is(i - 1, "turned")) take(Field::Age, numberText(number(i)), i - 1, i);
    const bool ends =
        i + 1 >= t_.size() || t_[i + 1].kind == Kind::Sign || t_[i + 1].kind == Kind::LineEnd || is(i + 1, "and");
    const bool sign = is(i + 1, "'") || is(i + 1, "%") || is(i + 1, "@") || is(i + 1, "/") || is(i + 1, "\"");
    if (i > 0 && ends && !sign && in(i - 1, {"am", "i'm"})) take(Field::Age, numberText(number(i)), i - 1, i);
    if (i > 1 && ends && !sign && is(i - 1, "is") && in(i - 2, {"daughter", "son"}))
      take(Field::Age, numberText(number(i)), i - 2, i);
  }

  std::string iso(int y, int m, int d) const { return fmt::format("{:04}-{:02}-{:02}", y, m, d); }
  int monthOf(std::size_t i) const {
    for (std::size_t m = 0; m < kMonths.size(); ++m)
      if (word(i) == kMonths[m] || (word(i).size() == 3 && kMonths[m].starts_with(word(i))))
        return static_cast<int>(m + 1);
    return 0;
  }
  // A year that is not said is the next in which the day comes.
  std::string withYear(std::size_t i, int m, int d) const {
    if (is(i, ",")) ++i;
    if (whole(i, 2000, 2100)) return iso(static_cast<int>(number(i)), m, d);
    const int year = std::atoi(std::string(received_on_.substr(0, 4)).c_str());
    const std::string day = iso(year, m, d);
    return day >= received_on_ ? day : iso(year + 1, m, d);
  }
  void meet() {
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (!inSentence(i, kMeet)) continue;
      const auto take_day = [&](const std::string& day, std::size_t from, std::size_t to) {
        if (library::isDate(day)) take(Field::MeetOn, day, from, to);  // there is no 31 February
      };
      if (whole(i, 2000, 2100) && is(i + 1, "-") && whole(i + 2, 1, 12) && is(i + 3, "-") && whole(i + 4, 1, 31))
        return take_day(
            iso(static_cast<int>(number(i)), static_cast<int>(number(i + 2)), static_cast<int>(number(i + 4))), i,
            i + 4);
      if (whole(i, 1, 31) && is(i + 1, ".") && whole(i + 2, 1, 12) && is(i + 3, ".") && whole(i + 4, 2000, 2100))
        return take_day(
            iso(static_cast<int>(number(i + 4)), static_cast<int>(number(i + 2)), static_cast<int>(number(i))), i,
            i + 4);
      const int month = monthOf(i);
      if (month == 0) continue;
      if (whole(i + 1, 1, 31))
        return take_day(
            withYear(i + (in(i + 2, {"st", "nd", "rd", "th"}) ? 3 : 2), month, static_cast<int>(number(i + 1))), i,
            i + 3);
      std::size_t day = i;
      while (day > 0 && in(day - 1, {"of", "st", "nd", "rd", "th"})) --day;
      if (day > 0 && whole(day - 1, 1, 31))
        return take_day(withYear(i + 1, month, static_cast<int>(number(day - 1))), day - 1, i + 1);
    }
  }

  double kilos(std::size_t i) const { return in(i + 1, kPounds) ? number(i) * kKilogramsPerPound : number(i); }
  enum class Means { Load, Body, Best, Other };
  // What the nearest telling word to the left says a weight is, within the clause.
  Means meansAt(std::size_t i) const {
    for (std::size_t k = i; k-- > 0 && t_[k].clause == t_[i].clause && i - k <= 7;) {
      if (in(k, kBody) || (is(k, "weight") && k > 0 && is(k - 1, "body"))) return Means::Body;
      if (in(k, kBest)) return Means::Best;
      if (in(k, {"weighs", "added", "lost", "gained"})) return Means::Other;
    }
    // "105 kg body weight", "a 63 kg lifter", "I'm 19, 72 kg"
    if ((is(i + 2, "body") && is(i + 3, "weight")) || in(i + 2, {"lifter", "athlete", "bodyweight"}))
      return Means::Body;
    if (in(i + 2, {"plates", "bumpers"})) return Means::Other;
    if (i > 2 && is(i - 1, ",") && numeric(i - 2) && in(i - 3, {"am", "i'm"})) return Means::Body;
    return Means::Load;
  }
  // What kind of weight a number with its unit is: the lifter's, the best, or what is on the bar. Two that could both
  // be the load are none.
  void masses() {
    std::size_t load = t_.size();
    int best = 0;
    bool doubtful = false;
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (!numeric(i) || t_[i].kind != Kind::Number) continue;
      bare(i);
      if (!mass(i + 1)) continue;
      const double kg = kilos(i);
      const Means means = meansAt(i);
      const bool beside_height =
          find(out_, Field::Height_cm) && inSentence(i, {"'", "tall", "foot", "feet", "ft", "\""}) && kg < 180;
      if (means == Means::Body || beside_height) {
        if (kg >= 30 && kg <= 220) take(Field::BodyMass_kg, numberText(kg), i, i + 1);
        continue;
      }
      if (means == Means::Best) {
        take(Field::Best_kg, numberText(kg), i, i + 1);
        continue;
      }
      if (means == Means::Other || inClause(i, kPast) || inSentence(i, kToCome) || inSentence(i, kHandHeld)) continue;
      if (inSentence(i, kOthers) && !inSentence(i, {"daughter", "son"})) continue;
      if (i > 1 && is(i - 1, "/") && mass(i - 2)) continue;  // the same in the other unit
      int score = 1;
      if (is(i + 2, "x") || is(i + 2, "for") || is(i + 2, "@") || (i > 0 && is(i - 1, "x"))) score += 2;
      if (before(i, {"top", "today", "clip", "this", "shows"}, 5)) score += 1;
      if (score < best) continue;
      if (score > best) {
        load = i;
        doubtful = false;
      } else if (std::abs(kilos(load) - kg) > 0.5) {
        doubtful = true;  // and stays so, however often one of them is named
      }
      best = score;
    }
    if (load == t_.size() || doubtful) return;
    const std::size_t i = load;
    const bool a_side = (is(i + 2, "/") && is(i + 3, "side")) || (in(i + 2, {"per", "each", "a"}) && is(i + 3, "side"));
    if (a_side)
      take(Field::Load_kg, numberText(kBar_kg + 2 * kilos(i)), i, i + 3);
    else if (kilos(i) >= kBar_kg && kilos(i) <= 600)
      take(Field::Load_kg, numberText(kilos(i)), i, i + 1);
  }
  // Numbers without a unit that can be nothing else.
  void bare(std::size_t i) {
    if (mass(i + 1) || is(i + 1, "%") || is(i + 1, "percent") || is(i + 1, "cm") || is(i + 1, "m")) return;
    const double v = number(i);
    if (v >= 30 && v <= 200 && before(i, {"bw", "bodyweight"}, 2)) return take(Field::BodyMass_kg, numberText(v), i, i);
    if (v >= 40 && v <= 400 && before(i, kBest, 4) && inClause(i, kBest) && !in(i + 1, {"x", "years", "weeks"}))
      return take(Field::Best_kg, numberText(v), i, i);
    // Kilograms come in steps of 2.5; whole numbers above 200 may be pounds.
    const bool step = std::abs(std::remainder(v, 2.5)) < 1e-9;
    if (step && v >= 40 && v <= 200 && is(i + 1, "x") && whole(i + 2, 1, 30) && !is(i + 3, "x"))
      return take(Field::Load_kg, numberText(v), i, i + 2);
    if (step && v != std::floor(v) && v >= 40 && before(i, {"top"}, 4) &&
        inSentence(i, {"set", "single", "double", "triple"}))
      take(Field::Load_kg, numberText(v), i, i);
  }

  // "two plates", "one plate and a 10 each side": 20 kg plates on a 20 kg bar. A colour in between says another size.
  void plates() {
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (is(i, "empty") && is(i + 1, "bar")) take(Field::Load_kg, numberText(kBar_kg), i, i + 1);
      if (!whole(i, 1, 10) || !(is(i + 1, "plates") || is(i + 1, "plate"))) continue;
      double each = kPlate_kg * number(i);
      std::size_t last = i + 1;
      if (is(i + 2, "and") && (is(i + 3, "a") || is(i + 3, "an"))) {
        if (!numeric(i + 4) || number(i + 4) > 25) continue;
        each += number(i + 4);
        last = i + 4;
      }
      take(Field::Load_kg, numberText(kBar_kg + 2 * each), i, last);
    }
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
      if (before(i, {"no", "without"}, 2)) continue;
      for (const Item& item : kItems)
        if (in(i, item.words)) add(item.name, i, i);
      if (is(i, "flat") && is(i + 1, "shoes")) add("flat shoes", i, i + 1);
      if (in(i, {"raised", "heeled"}) && in(i + 1, {"heel", "heels", "shoes"})) add("raised heels", i, i + 1);
      if (is(i, "safety") && is(i + 1, "bar")) add("safety bar", i, i + 1);
    }
    if (!all.empty()) take(Field::Equipment, all, first, last);
  }

  void pain() {
    std::optional<std::size_t> yes, no;
    for (std::size_t i = 0; i < t_.size(); ++i) {
      const bool sore = is(i, "sore") && inSentence(i, kJoints);
      if ((!in(i, kHurts) && !sore) || is(i + 1, "nothing") || inSentence(i, {"ego", "pride"})) continue;
      const bool free = is(i + 1, "free") || (is(i + 1, "-") && is(i + 2, "free"));
      const bool denied = before(i, {"no", "not", "without", "doesn't", "don't", "never", "isn't", "any"}, 2) &&
                          !before(i, {"know"}, 3);
      if (free || denied)
        no = no.value_or(i);
      else
        yes = yes.value_or(i);
    }
    if (yes || no) {
      const std::size_t i = yes ? *yes : *no;
      take(Field::Pain, yes ? "yes" : "no", i > 0 && t_[i - 1].sentence == t_[i].sentence ? i - 1 : i, i);
    }
  }

  void sentences() {
    for (const Sentence& s : sentences_) {
      const auto starts = [&](std::string_view a, std::string_view b) { return is(s.first, a) && is(s.first + 1, b); };
      const auto whole_sentence = [&](Field field) { take(field, s.text, s.first, s.last - 1); };
      if (s.mark == '?') whole_sentence(Field::Question);
      if (starts("i", "think") || starts("i", "feel") || starts("i", "believe") || starts("i", "guess") ||
          starts("it", "feels"))
        whole_sentence(Field::OwnDiagnosis);
      for (std::size_t i = s.first; i < s.last; ++i)
        if (is(i, "tried") && s.mark != '?') whole_sentence(Field::Tried);
    }
  }

  // One to three capitalised words from i; their end, or i when there is none.
  std::size_t nameEnd(std::size_t i) const {
    std::size_t k = i;
    while (k < t_.size() && k < i + 3 && t_[k].kind == Kind::Word && t_[k].capital) ++k;
    return k;
  }
  void takeName(std::size_t i, std::size_t end) {
    take(Field::Name, std::string(text_.substr(t_[i].at, t_[end - 1].end - t_[i].at)), i, end - 1);
  }
  void name() {
    for (std::size_t i = 0; i + 2 < t_.size(); ++i) {
      if (is(i, "name") && is(i + 1, "is") && nameEnd(i + 2) > i + 2) return takeName(i + 2, nameEnd(i + 2));
      if (is(i, "this") && is(i + 1, "is") && nameEnd(i + 2) > i + 2) return takeName(i + 2, nameEnd(i + 2));
    }
    for (std::size_t i = 1; i < t_.size(); ++i)
      if (is(i, "here") && in(i + 1, {".", "!", ",", "\n", ""})) {
        std::size_t first = i;
        while (first > 0 && t_[first - 1].capital && t_[first - 1].kind == Kind::Word && i - first < 3) --first;
        if (first < i && (first == 0 || t_[first - 1].kind != Kind::Word)) return takeName(first, i);
      }
    // The last line, when it closes a letter: alone after a goodbye, or behind one.
    std::size_t last = t_.size();
    while (last > 0 && (t_[last - 1].kind == Kind::LineEnd || is(last - 1, "."))) --last;
    std::size_t first = last;
    while (first > 0 && t_[first - 1].capital && t_[first - 1].kind == Kind::Word && last - first < 3) --first;
    while (first < last && in(first, kGoodbye)) ++first;
    if (first == last || first == 0) return;
    const bool line = t_[first - 1].kind == Kind::LineEnd;
    std::size_t before_line = first - 1;
    while (line && before_line > 0 && t_[before_line].kind == Kind::LineEnd) --before_line;
    const bool closes = inSentence(before_line, kGoodbye) || (line && inSentence(before_line, kGoodbye));
    if (closes && (line || is(first - 1, ","))) takeName(first, last);
  }

  std::string_view text_, received_on_;
  std::vector<Token> t_;
  std::vector<Sentence> sentences_;
  std::vector<ReadField> out_;
};

struct FieldName {
  std::string_view id, title;
};
constexpr std::array<FieldName, kFields> kNames{{{"name", "Name"},
                                                 {"lift", "Lift"},
                                                 {"variant", "Variant"},
                                                 {"load_kg", "Load, kg"},
                                                 {"sets", "Sets"},
                                                 {"reps", "Reps"},
                                                 {"share_pct", "Share of best, %"},
                                                 {"rpe", "Effort out of ten"},
                                                 {"best_kg", "Best, kg"},
                                                 {"body_mass_kg", "Body mass, kg"},
                                                 {"height_cm", "Height, cm"},
                                                 {"age", "Age"},
                                                 {"years_training", "Years of training"},
                                                 {"meet_on", "Meet"},
                                                 {"equipment", "Equipment"},
                                                 {"pain", "Pain mentioned"},
                                                 {"tried", "Already tried"},
                                                 {"own_diagnosis", "Own diagnosis"},
                                                 {"question", "Question"}}};

}  // namespace

std::string_view nameOf(Field field) {
  return kNames[static_cast<std::size_t>(field)].id;
}
std::string_view titleOf(Field field) {
  return kNames[static_cast<std::size_t>(field)].title;
}

const ReadField* find(const std::vector<ReadField>& fields, Field field) {
  for (const ReadField& f : fields)
    if (f.field == field) return &f;
  return nullptr;
}

std::vector<ReadField> readFields(std::string_view text, std::string_view received_on) {
  return Reader(text, received_on).read();
}

}  // namespace jib::exchange
