// SPDX-License-Identifier: GPL-3.0-or-later
// What follows from a clip's bar, sightings and body with the camera as it is told now: the part of a tracing that is
// done again whenever the coach says something.
#include "core/tracing/clip_tracer.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/base/median.h"
#include "core/footage/lens.h"
#include "core/tracing/body/body_fit.h"
#include "core/tracing/body/body_follow.h"
#include "core/tracing/body/lying_body.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/body/placed_elbow.h"
#include "core/tracing/body/set_watch.h"
#include "core/tracing/camera/knee_out.h"
#include "core/tracing/camera/which_plate.h"
#include "core/tracing/camera/yaw_from_rim.h"
#include "core/tracing/clip_across.h"
#include "core/tracing/front/facing_across.h"
#include "core/tracing/room/vertical_vanishing_point.h"
#include "core/tracing/sightings/lift_look.h"

namespace jib::tracing {
namespace {

constexpr double kWalked_m = 0.12;  // a bar that moved this far along the floor was walked out

struct Heights {
  double highest_y = 1e9, lowest_y = -1e9;
};

Heights heightsOf(const BarTrace& bar) {
  Heights h;
  for (const auto& p : bar.plate)
    if (p) {
      h.highest_y = std::min(h.highest_y, p->place.y);
      h.lowest_y = std::max(h.lowest_y, p->place.y);
    }
  return h;
}

// Lifters walk out backwards: where the bar came from is where they look.
std::optional<double> forwardFromWalkOut(const BarTrace& bar, double rim_m) {
  const double px = bar.rim.radius_px / (rim_m / 2);
  const Heights h = heightsOf(bar);
  const double deep = h.lowest_y - 0.35 * (h.lowest_y - h.highest_y);
  std::optional<double> first, at_bottom;
  for (const auto& p : bar.plate) {
    if (!p) continue;
    if (!first) first = p->place.x;
    if (p->place.y > deep) {
      at_bottom = p->place.x;
      break;
    }
  }
  if (!first || !at_bottom || std::abs(*first - *at_bottom) < kWalked_m * px) return std::nullopt;
  return *first > *at_bottom ? 1.0 : -1.0;
}

std::optional<double> forwardOf(const TraceRequest& request, const ClipTrace& clip) {
  for (const PlacedFrame& p : request.placed)
    if (p.points[at(Landmark::Toe)] && p.points[at(Landmark::Heel)])
      return p.points[at(Landmark::Toe)]->x > p.points[at(Landmark::Heel)]->x ? 1.0 : -1.0;
  if (request.view == View::Left) return -1.0;
  if (request.view == View::Right) return 1.0;
  if (clip.sightings)
    if (const auto seen = forwardFrom(*clip.sightings)) return seen;
  if (request.body.inHands()) return clip.facing;
  return forwardFromWalkOut(*clip.bar, request.camera.rim_m);
}

// A foot is followed where it stands. Where the network sees it elsewhere for two looks in a row before the first or
// after the last descent, it was walked out or is walked back: the leg is left out from there on.
void leaveOutWalking(Trace& trace, const ClipTrace& clip) {
  constexpr double kStepped_m = 0.07, kSure = 0.5;
  if (!clip.sightings || !clip.forward || clip.body->source != BodySource::Network || !clip.body->feet_seen) return;
  const BodySide side = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
  struct Look {
    std::size_t frame;
    double apart_px;
  };
  std::vector<Look> looks;
  std::vector<double> all;
  for (const Sighting& s : *clip.sightings) {
    const auto toe = trace.place(s.frame, Landmark::Toe), heel = trace.place(s.frame, Landmark::Heel);
    if (!toe || !heel || s.reading.sure(PoseMark::Toe, side) < kSure || s.reading.sure(PoseMark::Heel, side) < kSure)
      continue;
    const double seen = (s.reading.place(PoseMark::Toe, side).x + s.reading.place(PoseMark::Heel, side).x) / 2;
    looks.push_back({s.frame, seen - (toe->x + heel->x) / 2});
    all.push_back(looks.back().apart_px);
  }
  if (looks.size() < 8) return;
  const double usual = median(all), most = kStepped_m * clip.camera.pixelsPerMetre(clip.camera.ankle_m);
  const auto away = [&](std::size_t k) { return std::abs(looks[k].apart_px - usual) > most; };
  const std::size_t middle = looks.size() / 2;
  std::size_t from = 0, to = trace.size();
  for (std::size_t k = 1; k < middle; ++k)
    if (away(k) && away(k - 1)) from = looks[k].frame + 1;
  for (std::size_t k = looks.size() - 1; k-- > middle;)
    if (away(k) && away(k + 1)) to = looks[k].frame;
  for (std::size_t i = 0; i < trace.size(); ++i) {
    if (i >= from && i < to) continue;
    for (Landmark l : {Landmark::Toe, Landmark::Heel, Landmark::Ankle, Landmark::Knee, Landmark::KneeTop})
      trace.frames[i][at(l)].reset();
  }
}

// Where nothing is to be measured, nothing is traced either.
void leaveOut(ClipTrace& clip, const LeftOuts& parts) {
  if (parts.empty()) return;
  std::optional<FrontTrace> front;
  if (clip.front) front = *clip.front;
  const auto& times_s = clip.trace.times_s;
  for (std::size_t i = 0; i < times_s.size(); ++i) {
    if (std::none_of(parts.begin(), parts.end(), [&](const LeftOut& p) { return p.holds(times_s[i]); })) continue;
    clip.trace.frames[i] = {};
    if (front) front->frames[i] = {};
  }
  if (front) clip.front = std::make_shared<const FrontTrace>(std::move(*front));
}

// People seen from above are not what the network knows best, and the plate hides their hips: what it proposes there is
// off by more than its usual scatter. On a clip filmed 18 degrees from above knees and hips were 6 to 10 cm off; where
// the outline told of them too, on another from 15 degrees above, by 2.
void doubtFromAbove(Trace& trace, const SideCamera& camera, bool outlined) {
  constexpr double kLevel_rad = 0.14;
  const double loss_m = outlined ? 0.12 : 0.5;  // metres a radian beyond it
  const double steep = std::abs(camera.pitch_rad) - kLevel_rad;
  if (steep <= 0) return;
  const double doubt_px = loss_m * steep * camera.pixelsPerMetre(camera.hip_m);
  for (FramePoints& points : trace.frames)
    for (Landmark l : kAllLandmarks)
      if (auto& p = points[at(l)]; p && l != Landmark::Bar && l != Landmark::Plate && p->origin != Origin::Pinned)
        p->sigma_px = std::hypot(p->sigma_px, doubt_px);
}

// Whether an elbow can be there: an upper arm from the shoulder and a forearm from the bar, as they look from the side,
// where they may point at the camera in part but are never longer than an arm; and below the shoulder, as nobody holds
// a bar on the back with elbows above it. The network is at times as sure of a knee or of somebody behind.
bool canBeElbow(PixelPoint elbow, PixelPoint shoulder, PixelPoint plate, double metre_px, bool overhead) {
  constexpr double kLeast_m = 0.10, kMost_m = 0.42, kOnBack_m = 0.06;
  const double above_m = overhead ? kMost_m : kOnBack_m;
  const double upper_m = length(elbow - shoulder) / metre_px, fore_m = length(elbow - plate) / metre_px;
  return upper_m > kLeast_m && upper_m < kMost_m && fore_m < kMost_m && elbow.y > shoulder.y - above_m * metre_px;
}

// The elbow where the network sees it beside the plate in look after look, straight on between two, and where the coach
// placed it. Behind the plate it is guessed, and left out.
void addElbow(Trace& trace, const ClipTrace& clip, const std::vector<PlacedFrame>& placed) {
  constexpr double kSeen = 0.5, kBesidePlate = 1.05, kScatter_m = 0.03, kApart_s = 0.35;
  constexpr double kJump_m = 0.12;
  const double px = clip.camera.pixelsPerMetre(clip.camera.lateralOf(Landmark::Elbow, 0));
  std::vector<std::pair<std::size_t, PixelPoint>> seen;
  if (clip.sightings && clip.forward) {
    const BodySide side = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
    for (const Sighting& s : *clip.sightings) {
      const auto& plate = clip.bar->plate[s.frame];
      const auto shoulder = trace.place(s.frame, Landmark::Shoulder);
      const PixelPoint elbow = s.reading.place(PoseMark::Elbow, side);
      if (!plate || !shoulder || s.reading.sure(PoseMark::Elbow, side) < kSeen) continue;
      if (length(elbow - plate->place) < kBesidePlate * clip.bar->rim.radius_px) continue;
      if (canBeElbow(elbow, *shoulder, plate->place, px, clip.model.overhead)) seen.emplace_back(s.frame, elbow);
    }
  }
  // What fewer than three looks in a row agree about is a mistake.
  constexpr std::size_t kFewest = 3;
  const auto agree = [&](std::size_t a, std::size_t b) {
    return trace.times_s[seen[b].first] - trace.times_s[seen[a].first] <= kApart_s &&
           length(seen[b].second - seen[a].second) < kJump_m * px;
  };
  std::vector<std::size_t> known;
  for (std::size_t from = 0, end = 0; from < seen.size(); from = end) {
    for (end = from + 1; end < seen.size() && agree(end - 1, end);) ++end;
    for (std::size_t k = from; k < end && end - from >= kFewest; ++k) {
      const auto& [frame, elbow] = seen[k];
      known.push_back(frame);
      trace.frames[frame][at(Landmark::Elbow)] = TracedPoint{elbow, kScatter_m * px, Origin::Optical};
    }
  }
  for (std::size_t k = 1; k < known.size(); ++k) {
    const std::size_t a = known[k - 1], b = known[k];
    if (trace.times_s[b] - trace.times_s[a] > kApart_s) continue;
    const PixelPoint from = *trace.place(a, Landmark::Elbow), to = *trace.place(b, Landmark::Elbow);
    for (std::size_t i = a + 1; i < b; ++i) {
      const double share = (trace.times_s[i] - trace.times_s[a]) / (trace.times_s[b] - trace.times_s[a]);
      trace.frames[i][at(Landmark::Elbow)] = TracedPoint{from + (to - from) * share, kScatter_m * px, Origin::Fitted};
    }
  }
  placeElbow(trace, placed, px);
}

// The lens the file tells, else a phone's usual one, averaged with what the two plates tell where both are seen. A lens
// the plates contradict is another lens: a zoom, a film cut out of a larger one. Films are cut out of the picture a
// still would have, most of all where they are steadied: by up to a tenth.
CameraPriors withLens(CameraPriors priors, const ClipTrace& clip, int width, int height) {
  constexpr double kCut = 0.06;
  if (clip.focal_35mm) {
    priors.focal_share = footage::focalShare(*clip.focal_35mm, width, height);
    priors.focal_sigma_rel = kCut;
  }
  constexpr double kApart_m = 0.3;  // plates said to stand nearer together than that are not a bar's
  if (clip.far_plate && priors.plate_m > kApart_m) {
    const auto [focal_px, sigma] = focalFrom(*clip.far_plate, clip.bar->rim, priors.rim_m, priors.plate_m);
    constexpr double kContradict = 2;
    const double seen = std::log(focal_px / std::max(width, height)), told = std::log(priors.focal_share);
    const bool other = std::abs(seen - told) > kContradict * std::hypot(sigma, priors.focal_sigma_rel);
    const double w = 1 / (sigma * sigma), v = other ? 0 : 1 / (priors.focal_sigma_rel * priors.focal_sigma_rel);
    priors.focal_share = std::exp((w * seen + v * told) / (w + v));
    priors.focal_sigma_rel = 1 / std::sqrt(w + v);
  }
  return priors;
}

// The end as it was made out. How sharp it is says little of whether the sharpest thing is the end itself or the hub a
// little behind it: on films of the second room it was steady, and off by a centimetre.
std::optional<TracedPoint> foundEnd(const ClipTrace& clip, std::size_t frame) {
  constexpr double kWhichPart_m = 0.005;
  auto end = clip.bar->end[frame];
  if (end) end->sigma_px = std::hypot(end->sigma_px, kWhichPart_m * clip.camera.pixelsPerMetre(clip.camera.plate_m));
  return end;
}

// Where the end of the bar must be when it is not made out: straight out of the plate, by what a sleeve usually stands
// out, along the bar's own direction.
std::optional<TracedPoint> expectedEnd(const ClipTrace& clip, std::size_t frame) {
  constexpr double kStandsOut_m = 0.23, kGiveOrTake_m = 0.09;  // of a sleeve of 0.415 m, with one to four plates on it
  const auto& plate = clip.bar->plate[frame];
  if (!plate) return std::nullopt;
  const SideCamera& c = clip.camera;
  // A far plate's sleeve points away.
  const PixelPoint end = c.shifted(plate->place, c.plate_m, c.plate_m + std::copysign(kStandsOut_m, c.plate_m));
  const double px = c.pixelsPerMetre(c.plate_m);
  const double sigma = std::hypot(plate->sigma_px, kStandsOut_m * c.yaw_sigma_rad * px,
                                  length(end - plate->place) * kGiveOrTake_m / kStandsOut_m);
  return TracedPoint{end, sigma, Origin::Fitted};
}

}  // namespace

std::size_t quietFrame(const BarTrace& bar, std::optional<std::size_t> in_set, bool starts_low) {
  // The last still stretch at rest before the bar first goes a third of its travel away from there. Of several sets, a
  // long rest apart, the last is meant: it is the one that is judged unless the coach says otherwise.
  constexpr double kRest_s = 20;
  const Heights h = heightsOf(bar);
  const double travel = h.lowest_y - h.highest_y;
  const auto away = [&](std::size_t i) {
    return starts_low ? h.lowest_y - bar.plate[i]->place.y : bar.plate[i]->place.y - h.highest_y;
  };
  std::size_t down = bar.plate.size(), from = 0;
  std::optional<std::size_t> low;  // the last frame on which the bar was away
  for (std::size_t i = 0; i < bar.plate.size(); ++i) {
    if (!bar.plate[i] || away(i) <= travel / 3) continue;
    if (!low) down = i;
    if (low && bar.times_s[i] - bar.times_s[*low] > kRest_s) {
      if (in_set && *in_set < i) break;
      from = *low + 1;
      down = i;
    }
    low = i;
  }
  std::size_t best = from;
  double least = 1e9;
  constexpr std::size_t kHalf = 5;
  for (std::size_t i = from + kHalf; i + kHalf < down; ++i) {
    const auto &a = bar.plate[i - kHalf], &b = bar.plate[i], &c = bar.plate[i + kHalf];
    if (!a || !b || !c) continue;
    const double motion = length(a->place - b->place) + length(c->place - b->place);
    const double height = away(i) / std::max(travel, 1.0);
    // Later is better: after the walk-out, just before the descent.
    const double cost = motion + 8 * height + 3.0 * static_cast<double>(down - i) / static_cast<double>(down);
    if (cost < least) {
      least = cost;
      best = i;
    }
  }
  return best;
}

namespace {

// The camera from the bar, turned as everything together tells.
void solveCamera(ClipTrace& clip, const TraceRequest& request, CameraPriors priors, int width, int height) {
  const LensBend bend = clip.bend && request.parts.camera_turn ? *clip.bend : LensBend{};
  const auto cameraFrom = [&](const BarTrace& bar) {
    return sideCamera(bar, width, height, clip.forward.value_or(1), priors, clip.roll_rad, clip.uprights, bend);
  };
  clip.camera = cameraFrom(*clip.bar);
  constexpr double kFlaredElbow_m = 0.42;  // of who presses, at the touch
  if (request.body.lying) clip.camera.elbow_m = kFlaredElbow_m;
  if (clip.front) return;
  // How wide a body that lies is seen says little of the camera, nor do shoulders between raised arms and plates.
  const bool body_tells = clip.sightings && !request.body.lying && !request.body.overhead;
  const ViewLook view = body_tells ? viewFrom(readingsOf(*clip.sightings)) : ViewLook{};
  const bool far_plate =
      clip.forward && clip.sightings && isFarPlate(*clip.bar, *clip.sightings, view, *clip.forward, request.body);
  // What was taken for the end of the bar is none, on the far side.
  BarTrace without = *clip.bar;
  without.vanishing.reset();
  if (far_plate) {
    priors.plate_m = -priors.plate_m;
    clip.camera = cameraFrom(without);
  }
  const BarTrace& bar = far_plate ? without : *clip.bar;
  clip.turn = cameraTurn(bar, clip.camera, view);
  clip.turn.far_plate = far_plate;
  if (clip.turn.bar_disputed) {
    clip.camera = cameraFrom(without);
    if (request.body.lying) clip.camera.elbow_m = kFlaredElbow_m;
  }
  if (!clip.forward) return;
  if (clip.turn.by_body) {
    clip.camera = turned(clip.camera, *clip.bar, priors, clip.turn.by_body->yaw_rad, clip.turn.by_body->sigma_rad);
    return;
  }
  if (!clip.sightings || clip.turn.settled) return;
  // Hips and shoulders err by so much; what they say beyond it is a turn that nobody has placed.
  constexpr double kLooksErr_deg = 12;
  clip.camera.yaw_sigma_rad =
      std::max(clip.camera.yaw_sigma_rad, radians(std::max(0.0, clip.turn.turned_deg - kLooksErr_deg)));
  // A bar whose end was misread is no help to the rim either: feet and rim alone were tried, and put bodies wrong.
  if (bar.vanishing) return;
  const auto turn =
      turnFromRim(bar, *clip.sightings, clip.camera, quietFrame(bar, std::nullopt, request.body.starts_low));
  if (!turn) return;
  clip.camera = turned(clip.camera, *clip.bar, priors, turn->yaw_rad, turn->sigma_rad);
  clip.turn.turned_deg = std::abs(degrees(turn->yaw_rad));
  clip.turn.sigma_deg = degrees(turn->sigma_rad);
  clip.turn.settled = true;
}

}  // namespace

void solveAgain(ClipTrace& clip, const TraceRequest& asked, int width, int height) {
  TraceRequest request = asked;
  request.placed = placedWithin(asked.placed, clip.bar->times_s);
  clip.model = request.body;
  clip.oblique = request.view == View::Oblique;
  if (clip.front_seen) bendAcross(clip, request);
  clip.forward = clip.front ? std::optional(1.0) : forwardOf(request, clip);
  const CameraPriors priors = withLens(withStance(request.camera, request.body), clip, width, height);
  solveCamera(clip, request, priors, width, height);
  if (clip.body) clip.camera.splay_rad = clip.body->camera.splay_rad;
  if (!request.parts.camera_turn) clip.camera.yaw_rad = clip.camera.pitch_rad = clip.camera.roll_rad = 0;
  Trace trace;
  trace.width = width;
  trace.height = height;
  trace.times_s = clip.bar->times_s;
  trace.frames.resize(trace.times_s.size());
  trace.rim = clip.bar->rim;
  if (clip.front) {
    clip.camera.yaw_rad = clip.camera.pitch_rad = 0;
    clip.camera.plate_m = 0;
    clip.camera.scale_sigma_rel = clip.front->scale_sigma_rel;
  }
  if (clip.sightings) trace.camera_moves = cameraMoves(*clip.sightings, trace.times_s);
  for (std::size_t i = 0; i < trace.size(); ++i) {
    trace.frames[i][at(Landmark::Plate)] = clip.bar->plate[i];
    trace.frames[i][at(Landmark::Bar)] = clip.bar->depth_ratio > 0 && !clip.turn.bar_disputed && !clip.turn.far_plate
                                             ? foundEnd(clip, i)
                                             : expectedEnd(clip, i);
  }
  if (clip.body) {
    applyPins(trace, *clip.body, clip.camera, request.placed);
    if (clip.body->source == BodySource::Network) doubtFromAbove(trace, clip.camera, clip.body->hip_outlined);
    clip.flesh = fleshFrom(trace, clip.camera, request.placed, request.flesh);
    for (const PlacedFrame& p : request.placed)
      for (Landmark landmark : {Landmark::HipCrease, Landmark::KneeTop})
        if (p.points[at(landmark)]) {
          const auto after = std::lower_bound(trace.times_s.begin(), trace.times_s.end(), p.t_s - 1e-3);
          if (after == trace.times_s.end()) continue;
          const double sigma = 0.005 * clip.camera.pixelsPerMetre(clip.camera.ankle_m);
          trace.frames[static_cast<std::size_t>(after - trace.times_s.begin())][at(landmark)] =
              TracedPoint{*p.points[at(landmark)], sigma, Origin::Pinned};
        }
    addFlesh(trace, clip.camera, clip.flesh);
    if (request.body.lying) {
      moveHip(trace, *clip.body);
      addPressingArm(trace, *clip.body, *clip.bar, clip.camera,
                     clip.sightings ? *clip.sightings : std::vector<Sighting>{}, request.placed);
    } else {
      addElbow(trace, clip, request.placed);
      leaveOutWalking(trace, clip);
    }
  }
  clip.trace = std::move(trace);
  leaveOut(clip, request.left_out);
}

}  // namespace jib::tracing
