// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/lying_body.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "core/base/median.h"
#include "core/tracing/body/placed_elbow.h"
#include "core/tracing/body/pressing_arm.h"

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.7;          // the network's confidence of an elbow
constexpr double kLow = 0.65;          // of the stroke, from the top: what stands out below the plate may be the elbow
constexpr double kAtTheChest = 0.90;   // and here it is
constexpr double kBent = 0.35;         // from here on the arm is bent enough to tell how it is turned
constexpr double kStraight = 0.08;     // and above this the arm is about straight
constexpr double kElbowAlong = 0.50;   // of a straight arm, from shoulder to hand
constexpr double kBesidePlate = 1.05;  // of the rim's radius
constexpr double kScatter_m = 0.03, kBetween_m = 0.03, kWrist_m = 0.018;
constexpr double kStrays = 0.3;   // of the way between two sightings, half-way
constexpr double kApart_s = 1.5;  // between two sightings an elbow is known, if they are no further apart
constexpr double kSwivelWithin_m = 0.06, kElsewhere_m = 0.05;
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

// The arm in depth, frame by frame: its ends where shoulder and bar are, its lengths from where it is straight.
class BentArm {
 public:
  // down   how far the bar is down on a frame that shows it, as a share of the stroke
  BentArm(const Trace& trace, const BarTrace& bar, const SideCamera& camera,
          const std::function<double(std::size_t)>& down)
      : trace_(trace), camera_(camera), down_(down), ends_(trace.size()) {
    std::vector<double> straight_m;
    for (std::size_t i = 0; i < trace.size(); ++i) {
      const auto shoulder = trace.place(i, Landmark::Shoulder);
      if (!shoulder || !bar.plate[i]) continue;
      const CameraMove move = trace.moveAt(i);
      ends_[i] = armEnds(move.still(*shoulder), move.still(bar.plate[i]->place), camera);
      if (!lowest_ || down(i) > down(*lowest_)) lowest_ = i;
      if (down(i) < kStraight) straight_m.push_back((ends_[i]->hand - ends_[i]->shoulder).norm());
    }
    constexpr std::size_t kFewest = 5;
    if (straight_m.size() < kFewest) return;
    const double all_m = median(straight_m);
    lengths_ = {kElbowAlong * all_m, (1 - kElbowAlong) * all_m};
    known_ = true;
  }

  // Whether its lengths are.
  bool known() const { return known_; }
  std::optional<double> swivelAt(std::size_t i, PixelPoint elbow) const {
    if (!known_ || !ends_[i] || down_(i) < kBent) return std::nullopt;
    const MetrePoint e = camera_.toPlane(trace_.moveAt(i).still(elbow), camera_.lateralOf(Landmark::Elbow, 0));
    return swivelOf(*ends_[i], lengths_, {e.x, e.z}, kSwivelWithin_m);
  }
  void learn(const std::vector<SwivelSeen>& seen) {
    if (known_) usual_ = usualSwivel(*ends_[*lowest_], lengths_, seen);
  }
  const UsualSwivel& usual() const { return usual_; }
  std::optional<TracedPoint> elbow(std::size_t i, double swivel_rad) const {
    if (!known_ || !ends_[i]) return std::nullopt;
    const Eigen::Vector3d e = elbowOf(*ends_[i], lengths_, swivel_rad);
    const double sigma_m = std::hypot(kBetween_m, usual_.sigma_rad * elbowOff(*ends_[i], lengths_));
    return TracedPoint{trace_.moveAt(i).moved(camera_.toPicture({e.x(), e.y()}, e.z())),
                       sigma_m * camera_.pixelsPerMetre(e.z()), Origin::Fitted};
  }

 private:
  const Trace& trace_;
  const SideCamera& camera_;
  const std::function<double(std::size_t)>& down_;
  std::vector<std::optional<ArmEnds>> ends_;
  std::optional<std::size_t> lowest_;
  ArmLengths lengths_;
  UsualSwivel usual_;
  bool known_ = false;
};

}  // namespace

Result<bool> watchLying(const footage::ClipInfo& clip, const BarTrace& bar, std::size_t quiet, BodyTrack& track,
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
  std::vector<bool> by_network(trace.size(), false);
  for (const Sighting& s : sightings) {
    const PixelPoint elbow = s.reading.place(PoseMark::Elbow, side);
    if (!bar.plate[s.frame] || s.reading.sure(PoseMark::Elbow, side) < kSeen ||
        length(elbow - bar.plate[s.frame]->place) <= kBesidePlate * bar.rim.radius_px)
      continue;
    consider(s.frame, elbow);
    by_network[s.frame] = seen[s.frame].has_value();
  }
  for (std::size_t i = 0; i < track.lying.size(); ++i)
    if (track.lying[i].elbow && bar.plate[i] && down(i) > kLow) {
      by_network[i] = false;
      consider(i, *track.lying[i].elbow);
    }
  const std::function<double(std::size_t)> bar_down = down;
  BentArm arm(trace, bar, camera, bar_down);
  std::vector<SwivelSeen> votes;
  for (std::size_t i = 0; i < seen.size(); ++i)
    if (seen[i])
      if (const auto turn = arm.swivelAt(i, *seen[i])) votes.push_back({*turn, by_network[i] || down(i) > kAtTheChest});
  arm.learn(votes);
  // What stands out below the plate on its way is the far arm or the bench, unless the arm can be bent so.
  for (std::size_t i = 0; i < seen.size(); ++i)
    if (seen[i] && !by_network[i] && down(i) < kAtTheChest)
      if (const auto likely = arm.elbow(i, arm.usual().rad);
          likely && length(likely->place - *seen[i]) > kElsewhere_m * px)
        seen[i].reset();
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
  // Between two sightings the arm bends as its lengths have it, turned about the line from shoulder to hand as where it
  // was seen last and is seen next, else as usual.
  std::vector<std::pair<double, double>> turned;  // moment, swivel
  for (const Found& f : known)
    if (const auto swivel = arm.swivelAt(f.frame, f.place)) turned.emplace_back(trace.times_s[f.frame], *swivel);
  const auto turnedAt = [&](double t) {
    if (turned.empty()) return arm.usual().rad;
    const auto after = std::lower_bound(turned.begin(), turned.end(), std::pair(t, -1e9));
    if (after == turned.end()) return turned.back().second;
    if (after == turned.begin()) return after->second;
    const auto before = after - 1;
    return before->second + (after->second - before->second) * (t - before->first) / (after->first - before->first);
  };
  for (std::size_t k = 0; k < known.size(); ++k) {
    put(known[k].frame, known[k].place, down(known[k].frame) < kStraight ? kBetween_m : kScatter_m, Origin::Optical);
    if (k == 0) continue;
    const Found &a = known[k - 1], &b = known[k];
    const double apart_s = trace.times_s[b.frame] - trace.times_s[a.frame];
    const double gap_m = length(b.place - a.place) / px;
    for (std::size_t i = a.frame + 1; i < b.frame; ++i) {
      if (const auto elbow = arm.elbow(i, turnedAt(trace.times_s[i]))) {
        trace.frames[i][at(Landmark::Elbow)] = elbow;
        continue;
      }
      if (apart_s > kApart_s) break;
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
          TracedPoint{hand + along * (kHand_m * px / forearm), kWrist_m * px, Origin::Fitted};
  }
}

}  // namespace jib::tracing
