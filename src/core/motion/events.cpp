// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/events.h"

#include <algorithm>

#include "core/base/result.h"

namespace jib::motion {
namespace {

double firstOf(const Rep& rep, std::initializer_list<EventKind> kinds) {
  for (EventKind kind : kinds)
    if (const auto t = rep.when(kind)) return *t;
  return 0;
}

}  // namespace

std::optional<double> Rep::when(EventKind kind) const {
  for (const Event& e : events)
    if (e.kind == kind) return e.t_s;
  return std::nullopt;
}

double Rep::sigma_s(EventKind kind) const {
  for (const Event& e : events)
    if (e.kind == kind) return e.sigma_s;
  return 0;
}

void Rep::set(EventKind kind, double t_s, double sigma_s) {
  std::erase_if(events, [&](const Event& e) { return e.kind == kind; });
  const auto after = std::find_if(events.begin(), events.end(),
                                  [&](const Event& e) { return e.t_s > t_s || (e.t_s == t_s && e.kind > kind); });
  events.insert(after, {kind, t_s, sigma_s});
}

double Rep::start_t() const {
  return firstOf(*this, {EventKind::Start, EventKind::LiftOff, EventKind::Bottom});
}

double Rep::bottom_t() const {
  return firstOf(*this, {EventKind::Bottom, EventKind::LiftOff});
}

double Rep::ascent_t() const {
  return firstOf(*this, {EventKind::Ascent, EventKind::LiftOff, EventKind::Bottom});
}

double Rep::lockout_t() const {
  return firstOf(*this, {EventKind::Lockout, EventKind::Highest});
}

double Rep::end_t() const {
  return firstOf(*this, {EventKind::End, EventKind::Lockout, EventKind::Highest});
}

std::optional<Stretch> Rep::lowered() const {
  if (when(EventKind::Bottom)) return Stretch{start_t(), bottom_t()};
  const auto from = when(EventKind::Lowering), to = when(EventKind::End);
  return from && to ? std::optional(Stretch{*from, *to}) : std::nullopt;
}

Rep loweredAndRaised(double start_t, double bottom_t, double ascent_t, double lockout_t, double stroke_m) {
  JIB_ASSERT(start_t < bottom_t && bottom_t <= ascent_t && ascent_t < lockout_t);
  Rep rep;
  rep.set(EventKind::Start, start_t);
  rep.set(EventKind::Bottom, bottom_t);
  rep.set(EventKind::Ascent, ascent_t);
  rep.set(EventKind::Lockout, lockout_t);
  rep.set(EventKind::End, lockout_t);
  rep.stroke_m = stroke_m;
  return rep;
}

}  // namespace jib::motion
