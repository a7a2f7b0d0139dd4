// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/rep_edits.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/motion/bar_height.h"

namespace jib::motion {
namespace {

using Json = nlohmann::json;

constexpr double kLeastRep_s = 0.2;     // shorter is a slip of the mouse
constexpr double kLeastApart_s = 0.01;  // moments of a rep stay in order
constexpr double kTogether_s = 0.03;    // a bottom and the first motion up, a lockout and the end of the rep

constexpr std::array<std::string_view, 7> kTypes{"plain",        "paused", "partial", "dead_stop",
                                                 "touch_and_go", "reset",  "miss"};
constexpr std::array<std::string_view, 10> kKinds{"hands_on", "start",    "bottom",  "lift_off", "ascent",
                                                  "highest",  "sticking", "lockout", "lowering", "end"};

// Samples of the bar between two moments: [first, last).
struct Span {
  std::size_t first, last;
};
Span between(const BarHeight& s, double from_s, double to_s) {
  const auto first = std::lower_bound(s.t.begin(), s.t.end(), from_s);
  const auto last = std::upper_bound(first, s.t.end(), to_s);
  return {static_cast<std::size_t>(first - s.t.begin()), static_cast<std::size_t>(last - s.t.begin())};
}

void measureStroke(Rep& rep, const BarHeight& s) {
  const Span span = between(s, rep.start_t(), rep.end_t());
  if (span.last - span.first < 2) return;
  const auto [low, high] =
      std::minmax_element(s.z.begin() + static_cast<long>(span.first), s.z.begin() + static_cast<long>(span.last));
  rep.stroke_m = *high - *low;
}

Rep lowered(const BarHeight& s, double from_s, double to_s) {
  Rep rep;
  const Span span = between(s, from_s + kLeastApart_s, to_s - kLeastApart_s);
  double bottom_s = (from_s + to_s) / 2;
  if (span.last > span.first + 2)
    bottom_s = s.t[static_cast<std::size_t>(
        std::min_element(s.z.begin() + static_cast<long>(span.first), s.z.begin() + static_cast<long>(span.last)) -
        s.z.begin())];
  bottom_s = std::clamp(bottom_s, from_s + kLeastApart_s, to_s - 2 * kLeastApart_s);
  rep.set(EventKind::Start, from_s);
  rep.set(EventKind::Bottom, bottom_s);
  rep.set(EventKind::Ascent, bottom_s + kLeastApart_s);
  rep.set(EventKind::Lockout, to_s);
  rep.set(EventKind::End, to_s);
  return rep;
}

Rep pulled(const BarHeight& s, double from_s, double to_s) {
  Rep rep;
  const double part = (to_s - from_s) / 10;
  double off_s = from_s + part, lockout_s = from_s + 5 * part, lowering_s = from_s + 6 * part;
  const Span span = between(s, from_s + kLeastApart_s, to_s - kLeastApart_s);
  if (span.last > span.first + 4) {
    const auto top = static_cast<std::size_t>(
        std::max_element(s.z.begin() + static_cast<long>(span.first), s.z.begin() + static_cast<long>(span.last)) -
        s.z.begin());
    std::size_t off = span.first, up = top, down = top;
    while (off + 1 < top && s.z[off] < s.z[span.first] + kOff_m) ++off;
    while (up > off && s.z[up - 1] > s.z[top] - kOff_m) --up;
    while (down + 1 < span.last && s.z[down] > s.z[top] - kOff_m) ++down;
    off_s = s.t[off];
    lockout_s = s.t[up];
    lowering_s = s.t[down];
  }
  rep.set(EventKind::Start, from_s);
  rep.set(EventKind::LiftOff, std::max(off_s, from_s + kLeastApart_s));
  rep.set(EventKind::Lockout, std::max(lockout_s, *rep.when(EventKind::LiftOff) + kLeastApart_s));
  rep.set(EventKind::Lowering, std::max(lowering_s, *rep.when(EventKind::Lockout) + kLeastApart_s));
  rep.set(EventKind::End, to_s);
  return rep;
}

Rep repBetween(const Motion& motion, RepPattern pattern, double from_s, double to_s) {
  const BarHeight s = barHeight(motion);
  Rep rep = pattern == RepPattern::DownFirst ? lowered(s, from_s, to_s) : pulled(s, from_s, to_s);
  measureStroke(rep, s);
  if (const auto slowest = stickingTime(s, rep.ascent_t(), rep.lockout_t())) rep.set(EventKind::Sticking, *slowest);
  return rep;
}

bool isJudged(const HeldRep& h) {
  return !h.left_out && !h.spotted && h.rep.type != RepType::Miss;
}

}  // namespace

HeldReps heldFrom(const std::vector<Rep>& found) {
  HeldReps held;
  for (const Rep& rep : found) held.push_back({rep});
  return held;
}

std::vector<Rep> judged(const HeldReps& held) {
  std::vector<Rep> reps;
  for (const HeldRep& h : held)
    if (isJudged(h)) reps.push_back(h.rep);
  return reps;
}

std::vector<std::optional<bool>> setsTold(const HeldReps& held) {
  std::vector<std::optional<bool>> told;
  bool opened = false;  // by one that is not judged
  for (const HeldRep& h : held) {
    opened = opened || h.opens_set.value_or(false);
    if (!isJudged(h)) continue;
    told.push_back(opened ? true : h.opens_set);
    opened = false;
  }
  return told;
}

HeldReps withRep(const HeldReps& held, const Motion& motion, RepPattern pattern, double from_s, double to_s) {
  if (to_s - from_s < kLeastRep_s) return held;
  HeldReps out;
  for (const HeldRep& h : held) {
    const double start = h.rep.start_t(), end = h.rep.end_t();
    if (end <= from_s || start >= to_s) {
      out.push_back(h);
      continue;
    }
    // What is left of one that is overlapped, the longer part.
    const double before = from_s - start, after = end - to_s;
    const double from = before >= after ? start : to_s, to = before >= after ? from_s : end;
    if (to - from >= kLeastRep_s)
      out.push_back({repBetween(motion, pattern, from, to), h.spotted, h.left_out, h.opens_set});
  }
  out.push_back({repBetween(motion, pattern, from_s, to_s)});
  std::sort(out.begin(), out.end(),
            [](const HeldRep& a, const HeldRep& b) { return a.rep.start_t() < b.rep.start_t(); });
  return out;
}

HeldReps without(const HeldReps& held, std::size_t rep) {
  HeldReps out = held;
  if (rep >= out.size()) return out;
  if (out[rep].opens_set == true && rep + 1 < out.size()) out[rep + 1].opens_set = true;
  out.erase(out.begin() + static_cast<long>(rep));
  return out;
}

HeldReps split(const HeldReps& held, const Motion& motion, RepPattern pattern, std::size_t rep, double at_s) {
  if (rep >= held.size()) return held;
  const double from = held[rep].rep.start_t(), to = held[rep].rep.end_t();
  if (at_s - from < kLeastRep_s || to - at_s < kLeastRep_s) return held;
  HeldReps out = held;
  out[rep].rep = repBetween(motion, pattern, from, at_s);
  out.insert(out.begin() + static_cast<long>(rep) + 1, {repBetween(motion, pattern, at_s, to)});
  return out;
}

HeldReps joined(const HeldReps& held, const Motion& motion, RepPattern pattern, std::size_t rep) {
  if (rep + 1 >= held.size()) return held;
  HeldReps out = held;
  out[rep].rep = repBetween(motion, pattern, held[rep].rep.start_t(), held[rep + 1].rep.end_t());
  out.erase(out.begin() + static_cast<long>(rep) + 1);
  return out;
}

HeldReps withEvent(const HeldReps& held, const Motion& motion, std::size_t rep, EventKind kind, double t_s) {
  if (rep >= held.size()) return held;
  HeldReps out = held;
  Rep& r = out[rep].rep;
  const auto now = std::find_if(r.events.begin(), r.events.end(), [&](const Event& e) { return e.kind == kind; });
  if (now == r.events.end()) return held;
  const double was_s = now->t_s;
  // Moments that all but fall together move as one.
  double least = motion.times_s.front(), most = motion.times_s.back();
  double ahead = 0, behind = 0;  // how far those that move along stand from it
  for (const Event& e : r.events) {
    if (std::abs(e.t_s - was_s) < kTogether_s) {
      ahead = std::max(ahead, e.t_s - was_s);
      behind = std::max(behind, was_s - e.t_s);
      continue;
    }
    (e.t_s < was_s ? least : most) =
        e.t_s < was_s ? std::max(least, e.t_s + kLeastApart_s) : std::min(most, e.t_s - kLeastApart_s);
  }
  if (rep > 0) least = std::max(least, out[rep - 1].rep.end_t());
  if (rep + 1 < out.size()) most = std::min(most, out[rep + 1].rep.start_t());
  least += behind;
  most -= ahead;
  if (least > most) return held;
  const double to_s = std::clamp(t_s, least, most);
  for (Event& e : r.events)
    if (std::abs(e.t_s - was_s) < kTogether_s) e = {e.kind, e.t_s + to_s - was_s, 0};
  measureStroke(r, barHeight(motion));
  return out;
}

std::string_view nameOf(RepType type) {
  return kTypes[static_cast<std::size_t>(type)];
}
std::string_view nameOf(EventKind kind) {
  return kKinds[static_cast<std::size_t>(kind)];
}

std::string heldToJson(const HeldReps& held) {
  Json all = Json::array();
  for (const HeldRep& h : held) {
    Json j{{"type", nameOf(h.rep.type)}, {"stroke_m", h.rep.stroke_m}, {"risen", h.rep.risen}};
    if (h.spotted) j["spotted"] = true;
    if (h.left_out) j["left_out"] = true;
    if (h.opens_set) j["opens_set"] = *h.opens_set;
    for (const Event& e : h.rep.events) j["events"][std::string(nameOf(e.kind))] = {e.t_s, e.sigma_s};
    all.push_back(std::move(j));
  }
  return all.dump();
}

HeldReps heldFromJson(std::string_view text) {
  HeldReps held;
  const Json all = Json::parse(text, nullptr, false);
  if (!all.is_array()) return held;
  for (const Json& j : all) {
    if (!j.is_object() || !j.contains("events") || !j["events"].is_object()) continue;
    HeldRep h;
    const std::string type = j.value("type", std::string("plain"));
    for (std::size_t k = 0; k < kTypes.size(); ++k)
      if (kTypes[k] == type) h.rep.type = static_cast<RepType>(k);
    h.rep.stroke_m = j.value("stroke_m", 0.0);
    h.rep.risen = j.value("risen", 1.0);
    h.spotted = j.value("spotted", false);
    h.left_out = j.value("left_out", false);
    if (const auto opens = j.find("opens_set"); opens != j.end() && opens->is_boolean())
      h.opens_set = opens->get<bool>();
    for (std::size_t k = 0; k < kKinds.size(); ++k)
      if (const auto e = j["events"].find(kKinds[k]);
          e != j["events"].end() && e->is_array() && e->size() == 2 && (*e)[0].is_number() && (*e)[1].is_number())
        h.rep.events.push_back({static_cast<EventKind>(k), (*e)[0].get<double>(), (*e)[1].get<double>()});
    std::stable_sort(h.rep.events.begin(), h.rep.events.end(),
                     [](const Event& a, const Event& b) { return a.t_s < b.t_s; });
    if (h.rep.events.size() >= 2) held.push_back(std::move(h));
  }
  return held;
}

}  // namespace jib::motion
