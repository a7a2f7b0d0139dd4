// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/set_notation.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>

#include "core/base/ascii.h"
#include "core/base/quantity.h"

namespace jib::coaching {
namespace {

constexpr double kLeastLoad = 20;  // a bare number from here on is a load: nobody does twenty sets
constexpr double kMostRpe = 10, kLeastRpe = 4;
constexpr int kMostSets = 20, kMostReps = 50;

enum class Unit { None, Kilograms, Pounds, Percent };

// "70/80/90 %": numbers with one unit behind them.
struct Numbers {
  std::vector<double> all;
  Unit unit = Unit::None;
  bool loads(double least) const {
    return unit == Unit::Kilograms || unit == Unit::Pounds || (unit == Unit::None && !all.empty() && all[0] >= least);
  }
  bool shares() const { return unit == Unit::Percent; }
};

// One part of what was typed: numbers joined by x, numbers behind an @, numbers that stand alone behind them.
struct Part {
  std::vector<Numbers> times, at, alone;
  std::optional<double> rpe;
  std::string words;  // as typed

  bool onlyNumbers() const { return times.size() == 1 && at.empty() && alone.empty() && !rpe; }
};

tl::unexpected<Error> refused(const std::string& words, const std::string& why) {
  return fail(ErrorCode::WrongUse, fmt::format("\"{}\": {}.", words, why),
              "Type sets as 4x5, 5x3 @ 80%, 140kg x 2 @8 or 5/3/1 @ 100/110/120.");
}

class Reader {
 public:
  explicit Reader(std::string_view text) {
    for (const char c : text) text_ += asciiLower(c);
    for (const std::string_view sign : {"\xC3\x97", "\xE2\x9C\x95"})  // ×, ✕
      for (auto at = text_.find(sign); at != std::string::npos; at = text_.find(sign))
        text_.replace(at, sign.size(), "x");
  }

  Result<std::vector<Part>> parts() {
    std::vector<Part> all;
    while (skip(), !atEnd()) {
      const std::size_t from = at_;
      auto part = onePart();
      if (!part) return fail(part.error());
      part->words = text_.substr(from, at_ - from);
      while (!part->words.empty() && part->words.back() == ' ') part->words.pop_back();
      all.push_back(std::move(*part));
      skip();
      while (sign(',') || sign(';') || sign('\n') || word("and") || word("then")) skip();
    }
    return all;
  }

 private:
  Result<Part> onePart() {
    Part part;
    const std::size_t from = at_;
    bool times = true;  // the next number belongs to those that are joined by x
    bool behind_at = false;
    while (skip(), !atEnd() && !ends()) {
      if (word("x") || sign('*') || word("of")) {
        times = true;
      } else if (sign('@') || word("at")) {
        behind_at = true;
      } else if (word("rpe")) {
        const auto n = skip().number();
        if (!n) return refused(text_.substr(from), "no number behind RPE");
        part.rpe = *n;
      } else if (const auto reps = repsWord()) {
        part.times.push_back({{1}, Unit::None});
        part.times.push_back({{*reps}, Unit::None});
        times = false;
      } else if (word("sets") || word("set") || word("reps") || word("rep") || word("top") || word("with")) {
        continue;
      } else if (auto numbers = list()) {
        (behind_at ? part.at : times ? part.times : part.alone).push_back(*numbers);
        times = behind_at = false;
      } else {
        return refused(text_.substr(from), "\"" + nextWord() + "\" can't be read");
      }
    }
    return part;
  }

  bool atEnd() const { return at_ >= text_.size(); }
  bool ends() {
    const char c = text_[at_];
    if (c == ',' || c == ';' || c == '\n') return true;
    const std::size_t here = at_;
    const bool joins = word("and") || word("then");
    at_ = here;
    return joins;
  }
  Reader& skip() {
    while (!atEnd() && (text_[at_] == ' ' || text_[at_] == '\t')) ++at_;
    return *this;
  }
  bool sign(char c) {
    if (atEnd() || text_[at_] != c) return false;
    ++at_;
    return true;
  }
  bool letter(std::size_t i) const { return i < text_.size() && isAsciiLetter(text_[i]); }
  bool digit(std::size_t i) const { return i < text_.size() && text_[i] >= '0' && text_[i] <= '9'; }
  bool word(std::string_view w) {
    if (text_.compare(at_, w.size(), w) != 0 || letter(at_ + w.size())) return false;
    at_ += w.size();
    return true;
  }
  std::string nextWord() const {
    std::size_t end = at_;
    while (end < text_.size() && text_[end] != ' ' && text_[end] != ',' && text_[end] != '\n') ++end;
    return text_.substr(at_, std::max<std::size_t>(1, end - at_));
  }
  std::optional<double> repsWord() {
    static constexpr std::pair<std::string_view, double> kCalled[]{{"singles", 1}, {"single", 1},  {"doubles", 2},
                                                                   {"double", 2},  {"triples", 3}, {"triple", 3}};
    for (const auto& [name, reps] : kCalled)
      if (word(name)) return reps;
    return std::nullopt;
  }
  std::optional<double> number() {
    if (!digit(at_)) return std::nullopt;
    double value = 0;
    auto [end, error] =
        std::from_chars(text_.data() + at_, text_.data() + text_.size(), value, std::chars_format::fixed);
    if (error != std::errc()) return std::nullopt;
    at_ = static_cast<std::size_t>(end - text_.data());
    // "102,5" is one number where the comma is the point; "100,110" are two.
    for (const std::string_view part : {"5", "25", "75"})
      if (!atEnd() && text_[at_] == ',' && text_.compare(at_ + 1, part.size(), part) == 0 &&
          !digit(at_ + 1 + part.size())) {
        value += *numberFrom("0." + std::string(part));
        at_ += 1 + part.size();
        break;
      }
    return value;
  }
  Unit unit() {
    if (sign('%') || word("percent")) return Unit::Percent;
    for (const std::string_view kg : {"kg", "kgs", "kilos", "kilo"})
      if (word(kg)) return Unit::Kilograms;
    for (const std::string_view lb : {"lb", "lbs", "pounds", "pound"})
      if (word(lb)) return Unit::Pounds;
    return Unit::None;
  }
  std::optional<Numbers> list() {
    Numbers n;
    do {
      const auto one = skip().number();
      if (!one) return std::nullopt;
      n.all.push_back(*one);
      skip();
      if (const Unit u = unit(); u != Unit::None) n.unit = u;
      skip();
    } while (sign('/') || sign('-'));
    return n;
  }

  std::string text_;
  std::size_t at_ = 0;
};

// What a part says, by kind.
struct Said {
  std::optional<Numbers> loads, shares;
  std::vector<double> reps;
  std::optional<int> sets;
  std::optional<double> rpe;
};

// A number that is joined by x: a load or a share by its unit or size, else what is left in the order sets, reps.
Result<Said> saidBy(const Part& part) {
  Said s;
  s.rpe = part.rpe;
  std::vector<Numbers> counts;
  const auto weight = [&](const Numbers& n) {
    auto& place = n.shares() ? s.shares : s.loads;
    if (s.loads || s.shares) return false;
    place = n;
    return true;
  };
  const std::size_t joined = part.times.size();
  for (const Numbers& n : part.times) {
    if (!n.shares() && !n.loads(kLeastLoad)) {
      counts.push_back(n);
    } else if (!weight(n)) {
      return refused(part.words, "two loads for one set");
    }
  }
  for (const Numbers& n : part.at) {
    const bool rpe = n.unit == Unit::None && n.all.size() == 1 && n.all[0] >= kLeastRpe && n.all[0] <= kMostRpe;
    if (!rpe && !n.shares() && !n.loads(kLeastLoad))
      return refused(part.words, fmt::format("{:g} is neither a load nor an RPE", n.all[0]));
    if (rpe)
      s.rpe = n.all[0];
    else if (!weight(n))
      return refused(part.words, "two loads for one set");
  }
  for (const Numbers& n : part.alone)
    if (!n.shares() && !n.loads(kLeastLoad))
      return refused(part.words, fmt::format("the {:g} at the end is no load", n.all[0]));
    else if (!weight(n))
      return refused(part.words, "two loads for one set");
  if (counts.size() > 2) return refused(part.words, "more than sets and reps");
  const bool weighed = s.loads || s.shares;
  if (counts.size() == 2) {
    if (counts[0].all.size() != 1) return refused(part.words, "several numbers of sets");
    s.sets = static_cast<int>(counts[0].all[0]);
    s.reps = counts[1].all;
  } else if (counts.size() == 1) {
    if (joined == 1 && !weighed && !s.rpe) return refused(part.words, "sets or reps of what");
    s.reps = counts[0].all;
  }
  if (!weighed && s.reps.empty() && !s.rpe) return refused(part.words, "no sets");
  const auto whole = [](double v) { return v == std::floor(v); };
  if ((s.sets && (*s.sets < 1 || *s.sets > kMostSets)) || (counts.size() == 2 && !whole(counts[0].all[0])))
    return refused(part.words, "no number of sets");
  for (const double r : s.reps)
    if (!whole(r) || r < 1 || r > kMostReps) return refused(part.words, "no number of reps");
  if (s.rpe && (*s.rpe < kLeastRpe || *s.rpe > kMostRpe)) return refused(part.words, "RPE goes from 4 to 10");
  return s;
}

Result<bool> expand(const Part& part, const Said& s, MassUnit bare, std::vector<TypedSet>& out) {
  const Numbers* weights = s.loads ? &*s.loads : s.shares ? &*s.shares : nullptr;
  const std::size_t many = weights ? weights->all.size() : 1, reps = std::max<std::size_t>(1, s.reps.size());
  std::size_t sets = std::max(many, reps);
  if (many > 1 && reps > 1 && many != reps) return refused(part.words, fmt::format("{} loads for {} sets", many, reps));
  if (s.sets) {
    const auto wanted = static_cast<std::size_t>(*s.sets);
    if (sets > 1 && wanted > 1 && wanted != sets)
      return refused(part.words, fmt::format("{} sets, but {} loads", wanted, sets));
    sets = std::max(sets, wanted);
  }
  for (std::size_t i = 0; i < sets; ++i) {
    TypedSet one;
    if (weights) {
      const double v = weights->all[many > 1 ? i : 0];
      const bool pounds = weights->unit == Unit::Pounds || (weights->unit == Unit::None && bare == MassUnit::Pounds);
      (s.loads ? one.load_kg : one.share_pct) = s.loads && pounds ? v * kKilogramsPerPound : v;
    }
    if (!s.reps.empty()) one.reps = static_cast<int>(s.reps[reps > 1 ? i : 0]);
    one.rpe = s.rpe;
    out.push_back(one);
  }
  return true;
}

// "70, 80, 90 % x 3": the unit and the reps after the last number count for the bare ones before it.
void inheritBackward(std::vector<Part>& parts) {
  for (std::size_t i = parts.size(); i-- > 1;) {
    Part& before = parts[i - 1];
    const Part& after = parts[i];
    if (!before.onlyNumbers() || before.times[0].unit != Unit::None || after.times.empty()) continue;
    const bool bare_load = after.times[0].loads(kLeastLoad) || after.times[0].shares();
    if (!bare_load || before.times[0].all[0] < kLeastLoad) continue;
    before.times[0].unit = after.times[0].unit;
    before.times.insert(before.times.end(), after.times.begin() + 1, after.times.end());
    before.at = after.at;
    before.rpe = after.rpe;
  }
}

}  // namespace

Result<std::vector<TypedSet>> setsTyped(std::string_view text, MassUnit bare) {
  auto parts = Reader(text).parts();
  if (!parts) return fail(parts.error());
  if (parts->empty()) return refused(std::string(text), "no sets");
  inheritBackward(*parts);
  std::vector<TypedSet> sets;
  for (const Part& part : *parts) {
    auto said = saidBy(part);
    if (!said) return fail(said.error());
    if (auto done = expand(part, *said, bare, sets); !done) return fail(done.error());
  }
  if (sets.size() > static_cast<std::size_t>(2 * kMostSets)) return refused(std::string(text), "too many sets");
  return sets;
}

Result<Plan> planTyped(std::string_view text, std::optional<double> max_kg, const Rack& rack) {
  const auto typed = setsTyped(text, rack.unit);
  if (!typed) return fail(typed.error());
  Plan plan;
  bool shares_stay = false;
  for (const TypedSet& t : *typed) {
    PlannedSet set;
    set.reps = t.reps;
    set.rpe = t.rpe;
    set.share_pct = t.share_pct;
    if (t.share_pct && (*t.share_pct < 1 || *t.share_pct > 120))
      return fail(ErrorCode::WrongUse, fmt::format("{:g} % is no share of a max.", *t.share_pct), "Take 1 to 120.");
    const bool weighed = t.load_kg || (t.share_pct && max_kg);
    shares_stay = shares_stay || (t.share_pct && !max_kg);
    if (weighed) {
      auto one = t.load_kg ? platesFor(*t.load_kg, rack) : percentOf(*t.share_pct, *max_kg, rack);
      if (!one) return fail(one.error());
      set.load_kg = one->sets[0].load_kg;
      set.plates_per_side = one->sets[0].plates_per_side;
      if (max_kg)
        set.share_pct = t.share_pct ? t.share_pct : std::optional(std::round(1000 * set.load_kg / *max_kg) / 10);
      for (const std::string& note : one->notes)
        if (std::find(plan.notes.begin(), plan.notes.end(), note) == plan.notes.end()) plan.notes.push_back(note);
    }
    plan.sets.push_back(std::move(set));
  }
  if (shares_stay) plan.notes.push_back("No max is known, so the shares stay shares.");
  return plan;
}

std::string typedText(const Plan& plan, MassUnit unit) {
  const auto one = [&](const PlannedSet& set) {
    // What is no half pound was meant in kilos, as a meet's plates are.
    const double halves = set.load_kg * kPoundsPerKilogram * 2;
    const bool pounds = unit == MassUnit::Pounds && std::abs(halves - std::round(halves)) < 0.02;
    std::string text;
    if (set.load_kg > 0)
      text = pounds ? fmt::format("{:g} lb", std::round(halves) / 2)
                    : fmt::format("{:g} kg", std::round(set.load_kg * 100) / 100);
    else if (set.share_pct)
      text = fmt::format("{:g} %", *set.share_pct);
    if (set.reps) text += text.empty() ? fmt::format("1x{}", *set.reps) : fmt::format(" x {}", *set.reps);
    if (set.rpe) text += fmt::format(" @{:g}", *set.rpe);
    return text;
  };
  std::string all;
  for (const PlannedSet& set : plan.sets) all += (all.empty() ? "" : ", ") + one(set);
  return all;
}

}  // namespace jib::coaching
