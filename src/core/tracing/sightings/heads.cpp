// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/heads.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::tracing {
namespace {

PixelPoint middleOf(const PoseReading& r, PoseMark mark) {
  return (r.place(mark, BodySide::Left) + r.place(mark, BodySide::Right)) * 0.5;
}

// Trunks that lean towards the camera look short: the ninth of ten over the clip is what a trunk measures.
double trunkPx(const std::vector<Sighting>& sightings) {
  std::vector<double> all;
  for (const Sighting& s : sightings)
    all.push_back(length(middleOf(s.reading, PoseMark::Shoulder) - middleOf(s.reading, PoseMark::Hip)));
  std::sort(all.begin(), all.end());
  return all[all.size() * 9 / 10];
}

double sureOf(const PoseReading& r, PoseMark mark) {
  return std::max(r.sure(mark, BodySide::Left), r.sure(mark, BodySide::Right));
}

// Between the ears where they are surely seen; nullopt where they are not.
std::optional<Head> byEars(const PoseReading& r, double trunk_px) {
  constexpr double kSure = 0.65;     // of a landmark's weight
  constexpr double kOfTrunk = 0.42;  // radius: crown, cap, chin and room
  const PixelPoint ears = middleOf(r, PoseMark::Ear);
  // Ears that are nowhere near the shoulders are somebody else's.
  const bool own = length(ears - middleOf(r, PoseMark::Shoulder)) < trunk_px;
  if (sureOf(r, PoseMark::Ear) < kSure || !own) return std::nullopt;
  return Head{ears, kOfTrunk * trunk_px};
}

// Plate and arms hide ears more than shoulders: the head is where the trunk points, and anywhere about there.
Head byTrunk(PixelPoint shoulder, PixelPoint hip, double trunk_px) {
  constexpr double kAbove = 0.34, kAbout = 0.64;  // of the trunk: from the shoulders to the head's middle; radius
  const PixelPoint up = shoulder - hip;
  return Head{shoulder + up * (kAbove * trunk_px / std::max(1.0, length(up))), kAbout * trunk_px};
}

constexpr double kShouldersSeen = 0.25;

struct Look {
  std::size_t frame;
  Head head;
};

// Who lies on a bench keeps the head where it is, and arms and plates pass over it: the middle of all looks is surer
// than each. nullopt of who does not lie, and where no look found the ears.
std::optional<Head> lyingStill(const std::vector<Sighting>& sightings, double trunk_px) {
  std::size_t flat = 0;
  std::vector<double> x, y;
  for (const Sighting& s : sightings) {
    const PixelPoint up = middleOf(s.reading, PoseMark::Shoulder) - middleOf(s.reading, PoseMark::Hip);
    flat += std::abs(up.x) > 2 * std::abs(up.y) ? 1 : 0;
    if (const auto ears = byEars(s.reading, trunk_px)) {
      x.push_back(ears->centre.x);
      y.push_back(ears->centre.y);
    }
  }
  if (2 * flat < sightings.size() || x.empty()) return std::nullopt;
  constexpr double kMoves = 0.5;  // radius, of the trunk: a chin that lifts
  return Head{{median(std::move(x)), median(std::move(y))}, kMoves * trunk_px};
}

// Straight on between two looks. On its way a head may be anywhere about that line: as far as it goes is added
// half-way.
Head between(const Look& a, const Look& b, std::size_t frame) {
  const double share = static_cast<double>(frame - a.frame) / static_cast<double>(b.frame - a.frame);
  const double way_px = length(b.head.centre - a.head.centre) * 4 * share * (1 - share);
  return {a.head.centre + (b.head.centre - a.head.centre) * share,
          std::max(a.head.radius_px, b.head.radius_px) + way_px};
}

}  // namespace

std::optional<Head> headOf(const PoseReading& reading) {
  const PixelPoint shoulders = middleOf(reading, PoseMark::Shoulder), hips = middleOf(reading, PoseMark::Hip);
  const double trunk_px = length(shoulders - hips);
  if (const auto ears = byEars(reading, trunk_px)) return ears;
  if (sureOf(reading, PoseMark::Shoulder) < kShouldersSeen) return std::nullopt;
  return byTrunk(shoulders, hips, trunk_px);
}

std::vector<Head> headsOf(const std::vector<Sighting>& sightings, const Trace& trace) {
  if (sightings.empty()) return {};
  constexpr double kNear_s = 0.3;
  const double trunk_px = trunkPx(sightings);
  if (const auto lies = lyingStill(sightings, trunk_px)) return std::vector<Head>(trace.size(), *lies);
  std::vector<Look> looks;
  for (const Sighting& s : sightings) {
    const PoseReading& r = s.reading;
    if (const auto ears = byEars(r, trunk_px)) {
      looks.push_back({s.frame, *ears});
      continue;
    }
    // The traced body is surer than one look at it.
    auto shoulder = trace.place(s.frame, Landmark::Shoulder), hip = trace.place(s.frame, Landmark::Hip);
    if ((!shoulder || !hip) && sureOf(r, PoseMark::Shoulder) >= kShouldersSeen) {
      shoulder = middleOf(r, PoseMark::Shoulder);
      hip = middleOf(r, PoseMark::Hip);
    }
    if (shoulder && hip) looks.push_back({s.frame, byTrunk(*shoulder, *hip, trunk_px)});
  }
  if (looks.empty()) return {};
  std::vector<Head> heads(trace.size());
  std::size_t next = 0;
  for (std::size_t i = 0; i < heads.size(); ++i) {
    while (next < looks.size() && looks[next].frame < i) ++next;
    const Look& nearest =
        looks[next == looks.size() || (next > 0 && i - looks[next - 1].frame < looks[next].frame - i) ? next - 1
                                                                                                      : next];
    const auto shoulder = trace.place(i, Landmark::Shoulder), hip = trace.place(i, Landmark::Hip);
    const bool far = std::abs(trace.times_s[i] - trace.times_s[nearest.frame]) > kNear_s;
    if (nearest.frame == i || next == 0 || next == looks.size())
      heads[i] = far && shoulder && hip ? byTrunk(*shoulder, *hip, trunk_px) : nearest.head;
    else
      heads[i] = between(looks[next - 1], looks[next], i);
  }
  return heads;
}

}  // namespace jib::tracing
