// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/bench_end.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/tracing/sightings/lifter_pointed.h"

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.5;

bool shouldersSeen(const PoseReading& r) {
  return r.sure(PoseMark::Shoulder, BodySide::Left) >= kSeen && r.sure(PoseMark::Shoulder, BodySide::Right) >= kSeen;
}

PixelPoint middle(const PoseReading& r, PoseMark mark) {
  return (r.place(mark, BodySide::Left) + r.place(mark, BodySide::Right)) * 0.5;
}

double shouldersApart(const PoseReading& r) {
  return length(r.place(PoseMark::Shoulder, BodySide::Left) - r.place(PoseMark::Shoulder, BodySide::Right));
}

// With the head towards the camera: shoulders and hands in the middle of a picture on its head. Nothing where the
// shoulders are not made out.
std::optional<PoseRegion> regionAfter(const PoseReading& reading, bool from_head) {
  constexpr double kAbove = 0.65, kSize = 5;  // widths of the shoulders
  if (!from_head) return PoseRegion{reading.next.centre, reading.next.size_px, 0};
  if (!shouldersSeen(reading)) return std::nullopt;
  const double wide = shouldersApart(reading);
  return PoseRegion{middle(reading, PoseMark::Shoulder) - PixelPoint{0, kAbove * wide}, kSize * wide, kPi};
}

// Where to begin looking below a bar that is known: about the hips from the feet's end, about the chest from the
// head's.
std::vector<PoseRegion> below(const BarOverhead& bar, bool from_head) {
  constexpr double kHips_m = 0.75, kChest_m = 0.3, kSizes_m[]{1.7, 2.3};
  std::vector<PoseRegion> out;
  for (const double size_m : kSizes_m)
    out.push_back({bar.middle + PixelPoint{0, (from_head ? kChest_m : kHips_m) * bar.metre_px}, size_m * bar.metre_px,
                   from_head ? kPi : 0});
  return out;
}

bool liesUnder(const BarOverhead& bar, const PoseReading& reading) {
  constexpr double kAside_m = 0.25, kNearest_m = 0.35, kFarthest_m = 0.85;
  const PixelPoint from_bar = (middle(reading, PoseMark::Shoulder) - bar.middle) * (1 / bar.metre_px);
  return std::abs(from_bar.x) < kAside_m && from_bar.y > kNearest_m && from_bar.y < kFarthest_m;
}

}  // namespace

cv::Mat withoutWhoStandsBehind(const cv::Mat& picture, const BarOverhead& bar) {
  constexpr double kAbove_m = 0.1;
  const int rows = std::clamp(cvRound(bar.middle.y - kAbove_m * bar.metre_px), 0, picture.rows);
  cv::Mat out = picture.clone();
  if (rows > 0) out.rowRange(0, rows).setTo(cv::mean(picture));
  return out;
}

double sureOfArms(const PoseReading& reading) {
  double sum = 0;
  for (const BodySide side : {BodySide::Left, BodySide::Right})
    for (const PoseMark mark : {PoseMark::Shoulder, PoseMark::Elbow, PoseMark::Wrist}) sum += reading.sure(mark, side);
  return sum;
}

Along liesAlongTheView(const PoseReading& reading, bool from_head) {
  // Of the width of the shoulders; of one who stands the trunk is 1.3 of it. A camera at the head looks down on it.
  constexpr double kGone = 0.75, kGoneFromAbove = 0.9;
  if (!shouldersSeen(reading)) return Along::No;
  const double wide = shouldersApart(reading);
  const PixelPoint hips = middle(reading, PoseMark::Hip), trunk = hips - middle(reading, PoseMark::Shoulder);
  if (length(trunk) > (from_head ? kGoneFromAbove : kGone) * wide) return Along::No;
  // Hands that hold a bar up are above the elbows; those of one who bends to a bar on the floor are not.
  const bool hands_up = middle(reading, PoseMark::Wrist).y <= middle(reading, PoseMark::Elbow).y;
  if (from_head) return trunk.y >= 0 ? Along::No : hands_up ? Along::Yes : Along::Perhaps;
  constexpr double kLegs = 1.2;  // widths of the shoulders
  const bool knees =
      reading.sure(PoseMark::Knee, BodySide::Left) >= kSeen && reading.sure(PoseMark::Knee, BodySide::Right) >= kSeen;
  return hands_up && knees && middle(reading, PoseMark::Ankle).y - hips.y > kLegs * wide ? Along::Yes : Along::No;
}

Result<std::optional<BenchEndLook>> lookFromBenchEnd(PersonFinder& finder, PoseReader& reader, const cv::Mat& picture,
                                                     bool from_head, const std::optional<PointedAt>& lifter,
                                                     const std::optional<BarOverhead>& bar) {
  constexpr double kLeast_share = 0.4;   // of the picture's height
  constexpr double kLarger[]{1.3, 2.2};  // than the detector says
  std::vector<PoseRegion> begin;
  if (bar) {
    begin = below(*bar, from_head);
  } else {
    auto people = peopleAt(finder, picture, lifter);
    if (!people) return fail(people.error());
    for (const Person& person : *people)
      for (const double larger : kLarger)
        begin.push_back({person.region.centre, std::max(larger * person.region.size_px, kLeast_share * picture.rows),
                         from_head ? kPi : 0});
  }
  std::optional<BenchEndLook> best;
  double surest = 0;
  const cv::Mat shown = bar ? withoutWhoStandsBehind(picture, *bar) : picture;
  for (const PoseRegion& where : begin) {
    auto first = reader.read(shown, where);
    if (!first) return fail(first.error());
    const auto region = regionAfter(*first, from_head);
    if (!region) continue;
    auto second = reader.read(shown, *region);
    if (!second) return fail(second.error());
    const auto after = regionAfter(*second, from_head);
    if (const double sure = sureOfArms(*second);
        after && sure > surest && mayBe(*after, lifter) && (!bar || liesUnder(*bar, *second))) {
      surest = sure;
      best = BenchEndLook{std::move(*second), *after};
    }
  }
  return best;
}

}  // namespace jib::tracing
