// SPDX-License-Identifier: GPL-3.0-or-later
// Which lift a message speaks of, and how it is done.
#include "core/exchange/mail/readings.h"
#include "core/lifts/lift.h"

namespace jib::exchange {
namespace {

class LiftReader {
 public:
  explicit LiftReader(Readings& out) : out_(out), t_(out.talk()) {}

  void read() {
    lift();
    variant();
  }

 private:
  // The lift that words from i on name; empty. The words of the gym beyond the lift's own are few and lie here.
  std::string_view liftAt(std::size_t i) const {
    constexpr std::size_t kShort = 2;  // an abbreviation stands alone; a word may have an ending
    const std::string& w = t_.word(i);
    for (const auto& lift : lifts::allLifts())
      for (std::string_view begins : lift.words)
        if (w == begins || w == std::string(begins) + "s" || (begins.size() > kShort && w.starts_with(begins)))
          return lift.name;
    static const Words kOverhead{"overhead", "strict", "military", "push", "shoulder", "standing"},
        kPresses{"press", "presses"};
    if ((t_.in(i, kOverhead) && t_.in(i + 1, kPresses)) || (i > 0 && t_.in(i - 1, kOverhead) && t_.in(i, kPresses)))
      return "overhead";
    static const Words kPulls{"deads", "dead", "pulls", "pull"};
    if (w == "dead" && t_.in(i + 1, {"tired", "bugs", "bug", "lift", "hang", "stop", "weight"}))
      return t_.is(i + 1, "lift") ? "deadlift" : "";
    if (t_.in(i, kPulls))
      return t_.in(i + 1, {"up", "ups", "-", "down", "downs", "over", "the", "feeling"}) ? "" : isPull(i);
    // "pulled 275": a muscle is pulled, and so are the shoulders back; a number is pulled off the floor.
    if (w == "pulled" && (t_.digits(i + 1) || (t_.in(i + 1, {"sumo", "conventional", "conv"})))) return "deadlift";
    return {};
  }
  std::string_view isPull(std::size_t i) const {
    if (t_.is(i, "deads") || t_.is(i, "dead")) return "deadlift";
    if (t_.is(i, "pulls")) return i > 0 && t_.in(i - 1, {"it", "he", "she", "which"}) ? "" : "deadlift";
    // "my pull", "conventional pull", "first pull"; "a slight pull" is no lift.
    return i > 0 && t_.in(i - 1, {"my", "conventional", "conv", "sumo", "deadlift", "this", "paused", "top"})
               ? "deadlift"
               : "";
  }
  // What only one lift has tells the lift.
  std::string_view toldBy(const std::string& variant) const {
    if (variant == "low-bar" || variant == "high-bar") return "squat";
    if (variant == "sumo" || variant == "conventional" || variant == "hex") return "deadlift";
    if (variant == "touch-and-go") return "bench";
    return {};
  }

  // A press that is named beside a lift of the platform is what was done after it.
  bool isBeside(std::string_view lift) const {
    if (lifts::liftNamed(lift)->contested) return false;
    for (std::size_t i = 0; i < t_.size(); ++i)
      if (const auto l = liftAt(i); !l.empty() && lifts::liftNamed(l)->contested) return true;
    return false;
  }

  // What is lifted: the lift named beside "clip" or "this", else the only one that is named, else what is done with a
  // number ("squat 140 x 3, and is that going to mess with my deadlift?").
  void lift() {
    std::set<std::string_view> named;
    std::size_t place = t_.size(), shown = t_.size(), loaded = t_.size();
    for (std::size_t i = 0; i < t_.size(); ++i) {
      const auto l = liftAt(i);
      if (l.empty() || t_.before(i, {"no", "not"}, 1) || isBeside(l)) continue;
      if (named.empty()) place = i;
      named.insert(l);
      if (shown == t_.size() && t_.inClause(i, {"clip", "video", "film", "attached", "vid"})) shown = i;
      const bool best = t_.inSentence(i, {"max", "best", "pr", "pb", "rm", "total"});
      if (loaded == t_.size() && !best && (t_.digits(i + 1) || (i > 0 && (t_.digits(i - 1) || isMassUnit(t_, i - 1)))))
        loaded = i;
    }
    if (named.empty()) return;
    if (named.size() > 1 && shown == t_.size() && (loaded == t_.size() || severalLoaded())) return;
    const std::size_t i = named.size() == 1 ? place : shown < t_.size() ? shown : loaded;
    out_.take(Field::Lift, std::string(liftAt(i)), i, i);
  }
  bool severalLoaded() const {
    std::set<std::string_view> all;
    for (std::size_t i = 0; i < t_.size(); ++i)
      if (const auto l = liftAt(i);
          !l.empty() && !isBeside(l) && (t_.digits(i + 1) || (i > 0 && (t_.digits(i - 1) || isMassUnit(t_, i - 1)))))
        all.insert(l);
    return all.size() > 1;
  }

  struct Said {
    std::string what;
    std::size_t from = 0, to = 0;
  };
  static void say(std::optional<Said>& to, Said said) {
    if (!to) to = std::move(said);
  }
  // Of the best, or of what is to come, and not of this set.
  bool elsewhere(std::size_t i) const {
    return t_.before(i, {"best", "max", "pr", "pb", "next", "hate", "not", "no"}, 5) || t_.phrase(i + 1, "or") ||
           t_.before(i, {"or", "to"}, 1) || t_.before(i, {"than", "between"}, 2);
  }

  void position(std::size_t i, std::optional<Said>& position) const {
    const std::size_t next = t_.is(i + 1, "-") ? i + 2 : i + 1;
    if (t_.is(next, "bar") && t_.in(i, {"low", "high"})) say(position, {t_.word(i) + "-bar", i, next});
    if (t_.in(i, {"lowbar", "highbar"})) say(position, {t_.is(i, "lowbar") ? "low-bar" : "high-bar", i, i});
    const bool squats = t_.in(i + 1, {"squat", "squats", "squatted"});
    if (t_.in(i, {"hb", "lb"}) && squats && (i == 0 || !t_.numeric(i - 1)))
      say(position, {t_.is(i, "hb") ? "high-bar" : "low-bar", i, i});
    if (t_.is(next, "bar") && t_.in(i, {"hex", "trap"})) say(position, {"hex", i, next});
    if (t_.is(i, "front") && !liftAt(next).empty()) say(position, {"front", i, next});
    if (t_.is(i, "sumo")) say(position, {"sumo", i, i});
    if (t_.in(i, {"strict", "push"}) && liftAt(i) == "overhead") say(position, {t_.word(i), i, i});
    if (t_.in(i, {"conventional", "conv"})) say(position, {"conventional", i, i});
  }
  void tempo(std::size_t i, std::optional<Said>& tempo) const {
    const bool stop = t_.is(i, "pause") && (!liftAt(i + 1).empty() || t_.before(i, {"comp", "with", "w"}, 2));
    if (t_.is(i, "paused") || stop) say(tempo, {"paused", i, i});
    if (t_.in(i, {"tng", "tng"})) say(tempo, {"touch-and-go", i, i});
    if (t_.is(i, "t") && t_.in(i + 1, {"&", "n"}) && t_.is(i + 2, "g")) say(tempo, {"touch-and-go", i, i + 2});
    if (t_.is(i, "touch")) {
      std::size_t k = t_.is(i + 1, "-") ? i + 2 : i + 1;
      if (!t_.in(k, {"and", "n", "&"})) return;
      k = t_.is(k + 1, "-") ? k + 2 : k + 1;
      if (t_.in(k, {"go", "goes"})) say(tempo, {"touch-and-go", i, k});
    }
  }

  // Where the bar or the feet are, and how the bar is brought down or set down. Both may be said.
  void variant() {
    std::optional<Said> where, how;
    for (std::size_t i = 0; i < t_.size(); ++i) {
      if (elsewhere(i)) continue;
      position(i, where);
      tempo(i, how);
    }
    if (!where && !how) return;
    std::string what = where ? where->what : how->what;
    if (where && how) what += " " + how->what;
    const std::size_t from = where && how ? std::min(where->from, how->from) : (where ? where : how)->from;
    const std::size_t to = where && how ? std::max(where->to, how->to) : (where ? where : how)->to;
    out_.take(Field::Variant, what, from, to);
    if (!out_.has(Field::Lift))
      if (const auto lift = toldBy((where ? where : how)->what); !lift.empty())
        out_.take(Field::Lift, std::string(lift), from, to);
  }

  Readings& out_;
  const Talk& t_;
};

}  // namespace

void readLift(Readings& out) {
  LiftReader(out).read();
}

}  // namespace jib::exchange
