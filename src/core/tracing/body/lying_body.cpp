// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/lying_body.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/tracing/body/placed_elbow.h"

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.7;          // the network's confidence of an elbow
constexpr double kLow = 0.65;          // of the stroke, from the top: what stands out below the plate is the elbow
constexpr double kStraight = 0.08;     // and above this the arm is about straight
constexpr double kElbowAlong = 0.50;   // of a straight arm, from shoulder to hand
constexpr double kBesidePlate = 1.05;  // of the rim's radius
constexpr double kScatter_m = 0.02, kBetween_m = 0.025;
constexpr double kStrays = 0.3;   // of the way between two sightings, half-way
constexpr double kApart_s = 1.5;  // between two sightings an elbow is known, if they are no further apart
constexpr double kHand_m = 0.05;  // from the bar in the palm to the wrist
constexpr double kGrip_m = 0.38;  // a hand from the middle of the bar
constexpr double kUpperArm_m = 0.42, kForearm_m = 0.38, kLeastForearm_m = 0.14;  // as they look from the side

// An upper arm from the shoulder and a forearm from the hand, seen from the side: never longer than an arm; and an
// elbow is below the hand.
bool canBeElbow(PixelPoint elbow, PixelPoint shoulder, PixelPoint hand, double metre_px) {
  const double fore_m = length(elbow - hand) / metre_px;
  return length(elbow - shoulder) < kUpperArm_m * metre_px && fore_m > kLeastForearm_m && fore_m < kForearm_m &&
         elbow.y > hand.y;
}

struct Found {
  std::size_t frame;
  PixelPoint place;
};

// Of neighbours in time the middle one: a single look that differs is a mistake.
std::vector<Found> agreed(const std::vector<Found>& all, const std::vector<double>& times_s) {
  constexpr double kWithin_s = 0.2;
  std::vector<Found> calm;
  for (std::size_t k = 0; k < all.size(); ++k) {
    std::vector<double> x, y;
    const auto near = [&](std::size_t j) {
      return std::abs(times_s[all[j].frame] - times_s[all[k].frame]) <= kWithin_s;
    };
    for (std::size_t j = k; j < all.size() && near(j); ++j) x.push_back(all[j].place.x), y.push_back(all[j].place.y);
    for (std::size_t j = k; j-- > 0 && near(j);) x.push_back(all[j].place.x), y.push_back(all[j].place.y);
    if (x.size() >= 3) calm.push_back({all[k].frame, {median(x), median(y)}});
  }
  return calm;
}

}  // namespace

Result<bool> watchLying(const std::filesystem::path& clip, const BarTrace& bar, std::size_t quiet, BodyTrack& track,
                        Task& task) {
  const std::size_t frames = bar.plate.size();
  if (!bar.plate[quiet] || !track.poses[quiet]) return false;
  auto reader = footage::FrameReader::open(clip);
  if (!reader) return fail(reader.error());
  const BodyPoints begun = pointsOf(track.skeleton, *track.poses[quiet], track.camera);
  const double px = track.camera.pixelsPerMetre(track.camera.hip_m);
  std::optional<ShoeWatch> shoe;
  std::optional<LyingWatch> watch;
  if (auto set = reader->seekBefore(quiet); !set) return fail(set.error());
  auto still = reader->next(footage::Pixels::Gray, quiet);
  if (!still) return fail(still.error());
  if (!*still) return false;
  shoe = ShoeWatch::begin((*still)->picture, begun.heel, begun.toe, track.camera.pixelsPerMetre(track.camera.ankle_m));
  const SideCamera& camera = track.camera;
  const PixelPoint elbow = bar.plate[quiet]->place + PixelPoint{0, bar.rim.radius_px};
  const double far_px = camera.shifted(elbow, camera.elbow_m, -camera.elbow_m).x - elbow.x;
  watch.emplace((*still)->picture,
                LyingWatch::Begin{bar.plate[quiet]->place, bar.rim.radius_px, begun.hip, camera.forward, px, far_px});
  track.shoe.assign(shoe ? frames : 0, std::nullopt);
  track.lying.assign(frames, {});
  const auto in_stretch = [&](std::size_t i) { return track.poses[i] && bar.plate[i]; };
  std::size_t first = 0, last = frames;
  while (first < frames && !in_stretch(first)) ++first;
  while (last > first && !in_stretch(last - 1)) --last;
  if (auto set = reader->seekBefore(first); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader->next(footage::Pixels::Gray, first);
    if (!next) return fail(next.error());
    if (!*next || (*next)->index >= last) break;
    const std::size_t i = (*next)->index;
    if (!in_stretch(i)) continue;
    if (shoe) track.shoe[i] = shoe->look((*next)->picture);
    track.lying[i] = watch->look((*next)->picture, bar.plate[i]->place);
    task.report(static_cast<double>(i - first) / static_cast<double>(last - first));
  }
  return true;
}

void moveHip(Trace& trace, const BodyTrack& track) {
  constexpr double kLies_m = 0.008;
  const double lies_px = kLies_m * track.camera.pixelsPerMetre(track.camera.hip_m);
  std::vector<double> x, y;
  for (std::size_t i = 0; i < track.lying.size(); ++i)
    if (const auto& moved = track.lying[i].hip_moved; moved && length(*moved) < lies_px)
      if (const auto hip = trace.place(i, Landmark::Hip)) {
        x.push_back(hip->x);
        y.push_back(hip->y);
      }
  constexpr std::size_t kFewest = 10;
  if (x.size() < kFewest) return;
  const PixelPoint lay{median(x), median(y)};
  for (std::size_t i = 0; i < track.lying.size(); ++i) {
    auto& hip = trace.frames[i][at(Landmark::Hip)];
    if (hip && hip->origin != Origin::Pinned && track.lying[i].hip_moved) hip->place = lay + *track.lying[i].hip_moved;
  }
}

void addPressingArm(Trace& trace, const BodyTrack& track, const BarTrace& bar, const SideCamera& camera,
                    const std::vector<Sighting>& sightings, const std::vector<PlacedFrame>& placed) {
  const double px = camera.pixelsPerMetre(camera.lateralOf(Landmark::Elbow, 0));
  const BodySide side = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  const auto handAt = [&](std::size_t i) {
    return trace.moveAt(i).moved(camera.shifted(trace.moveAt(i).still(bar.plate[i]->place), camera.plate_m, kGrip_m));
  };
  std::vector<std::optional<PixelPoint>> seen(trace.size());
  const auto consider = [&](std::size_t i, PixelPoint elbow) {
    const auto shoulder = trace.place(i, Landmark::Shoulder);
    if (bar.plate[i] && shoulder && canBeElbow(elbow, *shoulder, handAt(i), px)) seen[i] = elbow;
  };
  double highest_y = 1e9, lowest_y = -1e9;
  for (const auto& p : bar.plate)
    if (p) {
      highest_y = std::min(highest_y, p->place.y);
      lowest_y = std::max(lowest_y, p->place.y);
    }
  const auto down = [&](std::size_t i) { return (bar.plate[i]->place.y - highest_y) / (lowest_y - highest_y); };
  for (std::size_t i = 0; i < track.lying.size(); ++i)
    if (track.lying[i].elbow && bar.plate[i] && down(i) > kLow) consider(i, *track.lying[i].elbow);
  for (const Sighting& s : sightings) {
    const PixelPoint elbow = s.reading.place(PoseMark::Elbow, side);
    if (!seen[s.frame] && bar.plate[s.frame] && s.reading.sure(PoseMark::Elbow, side) >= kSeen &&
        length(elbow - bar.plate[s.frame]->place) > kBesidePlate * bar.rim.radius_px)
      consider(s.frame, elbow);
  }
  for (std::size_t i = 0; i < seen.size(); ++i)
    if (const auto shoulder = trace.place(i, Landmark::Shoulder);
        shoulder && bar.plate[i] && !seen[i] && down(i) < kStraight)
      seen[i] = *shoulder + (handAt(i) - *shoulder) * kElbowAlong;
  std::vector<Found> all;
  for (std::size_t i = 0; i < seen.size(); ++i)
    if (seen[i]) all.push_back({i, *seen[i]});
  const auto known = agreed(all, trace.times_s);
  const auto put = [&](std::size_t i, PixelPoint place, double sigma_m, Origin origin) {
    trace.frames[i][at(Landmark::Elbow)] = TracedPoint{place, sigma_m * px, origin};
  };
  for (std::size_t k = 0; k < known.size(); ++k) {
    put(known[k].frame, known[k].place, down(known[k].frame) < kStraight ? kBetween_m : kScatter_m, Origin::Optical);
    if (k == 0) continue;
    const Found &a = known[k - 1], &b = known[k];
    const double apart_s = trace.times_s[b.frame] - trace.times_s[a.frame];
    if (apart_s > kApart_s) continue;
    const double gap_m = length(b.place - a.place) / px;
    for (std::size_t i = a.frame + 1; i < b.frame; ++i) {
      const double share = (trace.times_s[i] - trace.times_s[a.frame]) / apart_s;
      put(i, a.place + (b.place - a.place) * share, std::hypot(kBetween_m, kStrays * gap_m * 4 * share * (1 - share)),
          Origin::Fitted);
    }
  }
  placeElbow(trace, placed, px);
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const auto& elbow = trace.frames[i][at(Landmark::Elbow)];
    if (!elbow || !bar.plate[i]) continue;
    const PixelPoint hand = handAt(i), along = elbow->place - hand;
    const double forearm = length(along);
    if (forearm > kHand_m * px)
      trace.frames[i][at(Landmark::Wrist)] =
          TracedPoint{hand + along * (kHand_m * px / forearm), kScatter_m * px, Origin::Fitted};
  }
}

}  // namespace jib::tracing
