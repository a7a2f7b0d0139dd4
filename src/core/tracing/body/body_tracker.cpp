// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_tracker.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/angle.h"
#include "core/tracing/body/chain_solver.h"

namespace jib::tracing {
namespace {

using footage::Frame;
using footage::FrameReader;
using footage::Pixels;

// A new anchor is laid where a part has turned this far from the nearest one.
constexpr double kAnchorEvery_rad = 0.12;
constexpr double kAnchorReach_rad = 0.40;  // beyond this a patch no longer looks like itself
constexpr double kBarTie_m = 0.006;        // soft tissue and spine between hip and bar give about this much
constexpr double kHopDoubt_px = 0.25;      // what one alignment was seen to be off by
constexpr double kPlateMargin = 1.06;

double turnBetween(double a, double b) {
  return std::abs(std::remainder(a - b, 2 * kPi));
}

// A frame whose posture is taken as known, to align others with.
struct Anchor {
  BodyPose pose;
  double doubt_px = 0;
  std::array<std::vector<Patch>, kParts> patches;
};

double partTurn(const BodyPose& q, std::size_t part) {
  return q.vector()[2 + part];
}

std::optional<PlacedBody> bodyFrom(const PlacedFrame& placed) {
  const auto get = [&](Landmark l) { return placed.points[at(l)]; };
  for (Landmark l : kPlacedLandmarks)
    if (!get(l)) return std::nullopt;
  return PlacedBody{*get(Landmark::Toe),  *get(Landmark::Heel), *get(Landmark::Ankle),
                    *get(Landmark::Knee), *get(Landmark::Hip),  *get(Landmark::Shoulder)};
}

struct Tracker {
  const BarTrace& bar;
  const SideCamera& camera;
  BodyTrack track;
  std::vector<Anchor> anchors;
  double plate_px = 0;
  std::optional<ShoeWatch> shoe = {};

  BodyPoints points(const BodyPose& pose) const { return pointsOf(track.skeleton, pose, camera); }

  std::optional<PixelPoint> barInHipPlane(std::size_t frame) const {
    const auto& p = bar.plate[frame];
    if (!p) return std::nullopt;
    return camera.shifted(p->place, camera.plate_m, camera.hip_m);
  }

  // The near plate, and the far one that peeps out beside it when the bar is off the camera's axis.
  std::vector<HidingDisc> platesIn(std::size_t frame) const {
    const auto& near = bar.plate[frame];
    if (!near) return {};
    const double far_share = camera.pixelsPerMetre(-camera.plate_m) / camera.pixelsPerMetre(camera.plate_m);
    return {{near->place, plate_px},
            {camera.shifted(near->place, camera.plate_m, -camera.plate_m), plate_px * far_share}};
  }

  BodyPicture pictureOf(const Frame& frame, const BodyPose& about) const {
    const BodyPoints p = points(about);
    double x0 = 1e9, x1 = -1e9, y0 = 1e9, y1 = -1e9;
    for (PixelPoint q : {p.heel, p.toe, p.ankle, p.knee, p.hip, p.shoulder}) {
      x0 = std::min(x0, q.x);
      x1 = std::max(x1, q.x);
      y0 = std::min(y0, q.y);
      y1 = std::max(y1, q.y);
    }
    const double margin = 0.55 * length(p.knee - p.ankle);
    const cv::Rect region(static_cast<int>(x0 - margin), static_cast<int>(y0 - margin),
                          static_cast<int>(x1 - x0 + 2 * margin), static_cast<int>(y1 - y0 + 2 * margin));
    return prepared(frame.picture, region, platesIn(frame.index), length(p.knee - p.ankle));
  }

  void layAnchor(const BodyPicture& picture, const BodyPose& pose, double doubt) {
    Anchor anchor{pose, doubt, {}};
    for (Patch& patch : patchesOf(picture, points(pose))) anchor.patches[patch.part].push_back(patch);
    anchors.push_back(std::move(anchor));
  }

  // For each part the anchor that looked most alike: near in angle, and little in doubt.
  std::array<const Anchor*, kParts> anchorsFor(const BodyPose& pose) const {
    std::array<const Anchor*, kParts> chosen{};
    for (std::size_t part = 0; part < kParts; ++part) {
      double least = kAnchorReach_rad;
      for (const Anchor& a : anchors) {
        const double cost = turnBetween(partTurn(a.pose, part), partTurn(pose, part)) + 0.02 * a.doubt_px;
        if (cost < least) {
          least = cost;
          chosen[part] = &a;
        }
      }
    }
    return chosen;
  }

  bool farFromAnchors(const BodyPose& pose) const {
    for (std::size_t part = kShin; part <= kThigh; ++part) {
      double least = 1e9;
      for (const Anchor& a : anchors)
        least = std::min(least, turnBetween(partTurn(a.pose, part), partTurn(pose, part)));
      if (least > kAnchorEvery_rad) return true;
    }
    return false;
  }

  // State of one walk through the clip, forward or backward.
  struct Walk {
    BodyPose last;
    std::array<double, BodyPose::kUnknowns> step{};
    std::vector<Patch> patches;  // of the frame before
  };

  PosePrior expected(const Walk& walk) const {
    auto q = walk.last.vector();
    for (std::size_t k = 3; k < 6; ++k) q[k] += 0.9 * walk.step[k];  // shin, thigh and trunk go on turning
    PosePrior prior{BodyPose::from(q), {0.003, 0.003, 0.020, 0.2, 0.2, 0.2, 0.002, 0.003}};
    // What looks longer or shorter than knees over the toes explain comes back to it when the picture is silent.
    prior.mean.shin_share += 0.10 * (1 - prior.mean.shin_share);
    prior.mean.thigh_share += 0.10 * (1 - prior.mean.thigh_share);
    return prior;
  }

  void visit(const Frame& frame, Walk& walk) {
    if (shoe) track.shoe[frame.index] = shoe->look(frame.picture);
    const PosePrior prior = expected(walk);
    const BodyPicture picture = pictureOf(frame, prior.mean);
    const auto chosen = anchorsFor(prior.mean);
    std::vector<const std::vector<Patch>*> sets{&walk.patches};
    double doubt = 0;
    for (std::size_t part = 0; part < kParts; ++part)
      if (chosen[part]) {
        sets.push_back(&chosen[part]->patches[part]);
        doubt = std::max(doubt, chosen[part]->doubt_px);
      }
    const double tie_px = kBarTie_m * camera.pixelsPerMetre(camera.hip_m);
    const ChainSolution solved =
        solveChain(track.skeleton, camera, picture, sets, prior, barInHipPlane(frame.index), tie_px);
    const auto was = walk.last.vector(), now = solved.pose.vector();
    for (std::size_t k = 0; k < now.size(); ++k) walk.step[k] = now[k] - was[k];
    walk.last = solved.pose;
    walk.patches = patchesOf(picture, points(solved.pose));
    const BodyPoints p = points(solved.pose);
    const auto slope = pointSlope(p, camera.forward, kTrunk, p.hip, 0);
    const Eigen::Matrix2d spread = slope * solved.information.inverse() * slope.transpose();
    const double undecided = std::sqrt(std::max(spread(0, 0), spread(1, 1)));
    track.poses[frame.index] = solved.pose;
    track.doubt_px[frame.index] = std::hypot(doubt + kHopDoubt_px, undecided);
    if (farFromAnchors(solved.pose)) layAnchor(picture, solved.pose, doubt + kHopDoubt_px);
  }
};

}  // namespace

Result<BodyTrack> trackBody(FrameReader& reader, const BarTrace& bar, const SideCamera& camera,
                            const std::vector<PlacedFrame>& placed, std::size_t first, std::size_t last, Task& task) {
  const std::size_t frames = reader.info().frames();
  JIB_ASSERT(first <= last && last < frames);
  const auto whole = [](const PlacedFrame& p) { return bodyFrom(p).has_value(); };
  const auto base = std::find_if(placed.begin(), placed.end(), whole);
  if (base == placed.end())
    return fail(ErrorCode::WrongUse, "Toe, heel, ankle, knee, hip and shoulder are not all placed on one frame.",
                "Place the missing ones on the same frame.");
  Tracker tracker{bar, camera, {}, {}, bar.rim.radius_px * kPlateMargin};
  tracker.track.camera = camera;
  tracker.track.poses.resize(frames);
  tracker.track.doubt_px.assign(frames, 1.0);
  const std::size_t start = reader.info().nearestFrame(base->t_s);
  tracker.track.placed_frame = start;
  if (!bar.plate[start])
    return fail(ErrorCode::CannotJudge, "The bar is not tracked on the frame where the points were placed.",
                "Place the points on a frame where the bar is tracked.");
  const MetrePoint bar_m = camera.toPlane(bar.plate[start]->place, camera.plate_m);
  tracker.track.skeleton = skeletonOf(*bodyFrom(*base), bar_m, camera);
  first = std::min(first, start);
  last = std::max(last, start);

  // Frames the coach placed in full are anchors from the start.
  std::optional<BodyPicture> start_picture;
  for (const PlacedFrame& p : placed) {
    if (!whole(p)) continue;
    const std::size_t index = reader.info().nearestFrame(p.t_s);
    if (auto set = reader.seekBefore(index); !set) return fail(set.error());
    for (;;) {
      auto next = reader.next(Pixels::Gray);
      if (!next) return fail(next.error());
      if (!*next) break;
      if ((*next)->index < index) continue;
      if ((*next)->index > index) break;
      const BodyPose pose = poseOf(tracker.track.skeleton, *bodyFrom(p), camera);
      BodyPicture picture = tracker.pictureOf(**next, pose);
      tracker.layAnchor(picture, pose, 0);
      if (index == start) {
        start_picture = std::move(picture);
        const BodyPoints begun = tracker.points(pose);
        tracker.shoe = ShoeWatch::begin((*next)->picture, begun.heel, begun.toe, camera.pixelsPerMetre(camera.ankle_m));
        if (tracker.shoe) {
          tracker.track.shoe.resize(frames);
          tracker.track.shoe[start] = ShoeLift{};
        }
      }
      break;
    }
  }
  if (!start_picture)
    return fail(ErrorCode::ClipUnreadable, "The placed frame can't be decoded.", "Place the points on another frame.");
  const BodyPose start_pose = poseOf(tracker.track.skeleton, *bodyFrom(*base), camera);
  tracker.track.poses[start] = start_pose;
  tracker.track.doubt_px[start] = kHopDoubt_px;
  const double total = static_cast<double>(last - first + 1);

  Tracker::Walk walk{start_pose, {}, patchesOf(*start_picture, tracker.points(start_pose))};
  if (auto set = reader.seekBefore(start); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(Pixels::Gray);
    if (!next) return fail(next.error());
    if (!*next || (*next)->index > last) break;
    if ((*next)->index <= start) continue;
    tracker.visit(**next, walk);
    task.report(static_cast<double>((*next)->index - start) / total);
  }
  if (start > first) {
    walk = {start_pose, {}, patchesOf(*start_picture, tracker.points(start_pose))};
    auto read = footage::readBackward(reader, start - 1, Pixels::Gray, [&](const Frame& frame) {
      tracker.visit(frame, walk);
      task.report(static_cast<double>(last - frame.index) / total);
      return frame.index > first && !task.cancelled();
    });
    if (!read) return fail(read.error());
    if (task.cancelled()) return cancelled();
  }
  return std::move(tracker.track);
}

std::optional<BodyTrack> placedBody(const BarTrace& bar, const SideCamera& camera,
                                    const std::vector<PlacedFrame>& placed, const BodyModel& model) {
  for (const PlacedFrame& p : placed) {
    const auto body = bodyFrom(p);
    if (!body) continue;
    const auto after = std::lower_bound(bar.times_s.begin(), bar.times_s.end(), p.t_s - 1e-3);
    if (after == bar.times_s.end()) continue;
    const auto frame = static_cast<std::size_t>(after - bar.times_s.begin());
    if (!bar.plate[frame]) continue;
    BodyTrack track;
    track.source = BodySource::Placed;
    track.camera = camera;
    track.placed_frame = frame;
    const MetrePoint bar_m = camera.toPlane(bar.plate[frame]->place, camera.plate_m);
    track.skeleton = skeletonOf(*body, bar_m, camera);
    const MetrePoint shoulder = camera.toPlane(body->shoulder, camera.lateralOf(Landmark::Shoulder, 0));
    if (!model.overhead) track.skeleton.bar_along_m = length(bar_m - shoulder);
    track.poses.resize(bar.plate.size());
    track.poses[frame] = poseOf(track.skeleton, *body, camera);
    if (!model.overhead)
      track.skeleton.bar_ahead_m = bar_m.x - shoulder.x - kUprightAhead_m * std::cos(track.poses[frame]->trunk_rad);
    track.doubt_px.assign(bar.plate.size(), 1.0);
    track.feet_seen = true;
    return track;
  }
  return std::nullopt;
}

}  // namespace jib::tracing
