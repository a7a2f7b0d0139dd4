// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/clip_tracer.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/footage/lens.h"
#include "core/tracing/body/body_fit.h"
#include "core/tracing/body/body_follow.h"
#include "core/tracing/body/lying_body.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/body/placed_elbow.h"
#include "core/tracing/body/set_watch.h"
#include "core/tracing/camera/knee_out.h"
#include "core/tracing/camera/yaw_from_rim.h"
#include "core/tracing/clip_across.h"
#include "core/tracing/front/facing_across.h"
#include "core/tracing/room/vertical_vanishing_point.h"
#include "core/tracing/sightings/lift_look.h"

namespace jib::tracing {
namespace {

constexpr double kStanding_m = 0.15;  // the bar stays within this of its place while the feet stand
constexpr double kWalked_m = 0.12;    // a bar that moved this far along the floor was walked out

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

// Where a walk-out that ends in the stretch begins: with the bar still in its hooks, as far as the film goes back.
std::size_t walkOutBefore(const BarTrace& bar, std::size_t first) {
  constexpr double kLongest_s = 12;  // lifters who take longer are still being chalked
  std::size_t from = first;
  while (from > 0 && bar.plate[from - 1] && bar.times_s[first] - bar.times_s[from - 1] < kLongest_s) --from;
  return from;
}

// The stretch around the placed frame in which the feet stand: the bar does not wander off along the floor.
std::pair<std::size_t, std::size_t> standingStretch(const BarTrace& bar, std::size_t around, double rim_m) {
  const double most = kStanding_m * bar.rim.radius_px / (rim_m / 2);
  if (!bar.plate[around]) return {around, around};
  const double x = bar.plate[around]->place.x;
  const auto stands = [&](std::size_t i) { return !bar.plate[i] || std::abs(bar.plate[i]->place.x - x) < most; };
  std::size_t first = around, last = around;
  while (first > 0 && stands(first - 1)) --first;
  while (last + 1 < bar.plate.size() && stands(last + 1)) ++last;
  while (first < around && !bar.plate[first]) ++first;
  while (last > around && !bar.plate[last]) --last;
  return {first, last};
}

// All of the clip in which the bar is traced: who lies on a bench stays there.
std::pair<std::size_t, std::size_t> barStretch(const BarTrace& bar) {
  std::size_t first = 0, last = bar.plate.size() - 1;
  while (first < last && !bar.plate[first]) ++first;
  while (last > first && !bar.plate[last]) --last;
  return {first, last};
}

bool complete(const std::vector<PlacedFrame>& placed) {
  return std::any_of(placed.begin(), placed.end(), [](const PlacedFrame& p) {
    return std::all_of(kPlacedLandmarks.begin(), kPlacedLandmarks.end(),
                       [&](Landmark l) { return p.points[at(l)].has_value(); });
  });
}

// What the straight edges of the room tell of lens and camera, in the first frame.
Result<bool> lookAtEdges(footage::FrameReader& reader, ClipTrace& clip) {
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  auto frame = reader.next(footage::Pixels::Gray);
  if (!frame) return fail(frame.error());
  if (!*frame) return true;
  const cv::Mat& gray = (*frame)->picture;
  clip.bend = bendOfEdges(gray);
  const LensBend bend = clip.bend.value_or(LensBend{});
  clip.roll_rad = rollFromUprights(gray, bend);
  clip.uprights = convergenceOfUprights(gray, bend);
  return true;
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
bool canBeElbow(PixelPoint elbow, PixelPoint shoulder, PixelPoint plate, double metre_px) {
  constexpr double kLeast_m = 0.10, kMost_m = 0.42, kAbove_m = 0.06;
  const double upper_m = length(elbow - shoulder) / metre_px, fore_m = length(elbow - plate) / metre_px;
  return upper_m > kLeast_m && upper_m < kMost_m && fore_m < kMost_m && elbow.y > shoulder.y - kAbove_m * metre_px;
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
      if (canBeElbow(elbow, *shoulder, plate->place, px)) seen.emplace_back(s.frame, elbow);
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

// Once both plates have told how far away they are: a sleeve is 0.415 m long, so what leads the plate by more than a
// sleeve can stand out of it is no end, though it may lie on the bar's line. The direction is kept.
std::shared_ptr<const BarTrace> heldAgainstPlates(std::shared_ptr<const BarTrace> bar, const FarPlate& far,
                                                  const CameraPriors& priors) {
  constexpr double kSleeve_m = 0.415, kGiveOrTake = 0.10;
  if (bar->depth_ratio <= 0) return bar;
  const auto [focal_px, sigma] = focalFrom(far, bar->rim, priors.rim_m, priors.plate_m);
  const double distance = focal_px * priors.rim_m / 2 / (bar->rim.radius_px * std::sqrt(bar->rim.aspect));
  const double stands_out = bar->depth_ratio * distance / (1 + bar->depth_ratio);
  if (stands_out < kSleeve_m * (1 + kGiveOrTake + sigma)) return bar;
  auto without = std::make_shared<BarTrace>(*bar);
  without->depth_ratio = 0;
  without->end = without->plate;
  return without;
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
  const PixelPoint end = c.shifted(plate->place, c.plate_m, c.plate_m + kStandsOut_m);
  const double px = c.pixelsPerMetre(c.plate_m);
  const double sigma = std::hypot(plate->sigma_px, kStandsOut_m * c.yaw_sigma_rad * px,
                                  length(end - plate->place) * kGiveOrTake_m / kStandsOut_m);
  return TracedPoint{end, sigma, Origin::Fitted};
}

// What was watched of the shoe in each stretch, by frame.
std::vector<std::optional<ShoeLift>> shoesOf(const std::vector<Followed>& followed, std::size_t frames) {
  std::vector<std::optional<ShoeLift>> all(frames);
  for (const Followed& f : followed)
    std::copy(f.shoe.begin(), f.shoe.end(), all.begin() + static_cast<long>(f.stretch.first));
  return all;
}

// Sightings of several sets, by frame.
std::shared_ptr<const std::vector<Sighting>> together(const std::vector<Sighting>* before, std::vector<Sighting> more) {
  if (before) more.insert(more.end(), before->begin(), before->end());
  std::stable_sort(more.begin(), more.end(), [](const Sighting& a, const Sighting& b) { return a.frame < b.frame; });
  return std::make_shared<const std::vector<Sighting>>(std::move(more));
}

// The body from its sightings, then again with what was followed between them; null where it is not to be had.
Result<std::shared_ptr<const BodyTrack>> bodyWithoutAClick(const ClipTrace& clip, const TraceRequest& request,
                                                           const footage::ClipInfo& info, std::size_t first,
                                                           std::size_t last, Task& task) {
  // What squats told of the network's constants is another posture's.
  const KnownBuild* build = request.build && !request.body.inHands() ? &*request.build : nullptr;
  const auto placed = request.body.inHands() ? placedBody(*clip.bar, clip.camera, request.placed) : std::nullopt;
  const auto fitted = [&](const std::vector<Followed>& followed) {
    return fitBody({.sightings = *clip.sightings,
                    .bar = *clip.bar,
                    .picture_height = info.height,
                    .first = first,
                    .last = last,
                    .tie_to_bar = request.parts.bar_tie,
                    .outlines = request.parts.outlines,
                    .tracked = placed ? &*placed : nullptr,
                    .known = build,
                    .followed = followed,
                    .model = request.body},
                   clip.camera, &task);
  };
  auto body = fitted({});
  if (body && request.body.lying && request.parts.flow && clip.trace.camera_moves.empty()) {
    const auto watched = watchLying(info.file, *clip.bar, quietFrame(*clip.bar), *body, task);
    // A clip that cannot be decoded to its end costs what watching adds, not the body.
    if (!watched && watched.error().code == ErrorCode::Cancelled) return fail(watched.error());
  }
  if (body && request.body.hangs() && request.parts.flow && clip.trace.camera_moves.empty()) {
    const auto watched = watchSets(info.file, *clip.bar, *clip.sightings, *body, task);
    if (!watched && watched.error().code == ErrorCode::Cancelled) return fail(watched.error());
  }
  if (body && request.parts.flow && !request.body.inHands()) {
    const auto stretches = stretchesOnTheWay(*clip.bar, clip.trace.camera_moves, request.camera.rim_m, first, last);
    const auto followed = followBody(info.file, *clip.bar, *body, clip.trace.camera_moves, stretches, task);
    // A stretch that cannot be decoded costs what following adds, not the body.
    if (!followed && followed.error().code == ErrorCode::Cancelled) return fail(followed.error());
    if (followed)
      if (auto both = fitted(*followed)) body = std::move(both);
    if (followed) body->shoe = shoesOf(*followed, clip.bar->plate.size());
  }
  if (!body) return std::shared_ptr<const BodyTrack>();
  return std::make_shared<const BodyTrack>(std::move(*body));
}

// A glance at the clip, unless there was one; without the networks there is none. The reader begins anew.
Result<bool> glanceOnce(footage::FrameReader& reader, const TraceRequest& request, std::optional<FirstLook>& glance,
                        Task& task) {
  if (!glance) {
    auto looked = firstLook(reader, task, request.lifter);
    if (!looked && looked.error().code == ErrorCode::Cancelled) return fail(looked.error());
    if (looked) glance = std::move(*looked);
  }
  return reader.seekBefore(0);
}

Result<std::shared_ptr<const BarTrace>> traceBar(footage::FrameReader& reader, const TraceRequest& request,
                                                 const std::optional<Convergence>& uprights, Task& task) {
  auto bar = BarTracer({request.placed, uprights, request.lifter}).run(reader, task);
  if (!bar && bar.error().code == ErrorCode::NoLiftFound) {
    // A click that met nothing round must not cost the trace the program finds by itself.
    auto by_itself = BarTracer({{}, uprights, request.lifter}).run(reader, task);
    if (by_itself) bar = std::move(by_itself);
  }
  if (!bar) return fail(bar.error());
  return std::make_shared<const BarTrace>(std::move(*bar));
}

}  // namespace

std::string_view nameOf(View view) {
  constexpr std::string_view kNames[]{"auto", "left", "right", "front", "rear", "head", "oblique"};
  return kNames[static_cast<std::size_t>(view)];
}

std::string mirroredView(std::string_view name) {
  if (name == nameOf(View::Left)) return std::string(nameOf(View::Right));
  if (name == nameOf(View::Right)) return std::string(nameOf(View::Left));
  return std::string(name);
}

std::optional<View> viewNamed(std::string_view name) {
  for (int i = 0; i <= static_cast<int>(View::Oblique); ++i)
    if (name == nameOf(static_cast<View>(i))) return static_cast<View>(i);
  return std::nullopt;
}

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

std::optional<PixelPoint> ClipTrace::place(std::size_t frame, const PointName& point) const {
  if (!point.side) return frame < trace.size() ? trace.place(frame, point.landmark) : std::nullopt;
  if (!front || frame >= front->frames.size()) return std::nullopt;
  const auto& p = front->frames[frame].at(*point.side, point.landmark);
  return p ? std::optional(p->place) : std::nullopt;
}

void solveAgain(ClipTrace& clip, const TraceRequest& request, int width, int height) {
  clip.model = request.body;
  clip.oblique = request.view == View::Oblique;
  if (clip.front_seen) bendAcross(clip, request);
  clip.forward = clip.front ? std::optional(1.0) : forwardOf(request, clip);
  const CameraPriors priors = withLens(withStance(request.camera, request.body), clip, width, height);
  clip.camera = sideCamera(*clip.bar, width, height, clip.forward.value_or(1), priors, clip.roll_rad, clip.uprights,
                           clip.bend && request.parts.camera_turn ? *clip.bend : LensBend{});
  constexpr double kFlaredElbow_m = 0.42;  // of who presses, at the touch
  if (request.body.lying) clip.camera.elbow_m = kFlaredElbow_m;
  if (!clip.bar->vanishing && clip.sightings && clip.forward && !clip.front)
    if (const auto turn = turnFromRim(*clip.bar, *clip.sightings, clip.camera,
                                      quietFrame(*clip.bar, std::nullopt, request.body.starts_low)))
      clip.camera = turned(clip.camera, *clip.bar, priors, turn->yaw_rad, turn->sigma_rad);
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
    trace.frames[i][at(Landmark::Bar)] = clip.bar->depth_ratio > 0 ? foundEnd(clip, i) : expectedEnd(clip, i);
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

namespace {

// One clip on its way from frames to a trace: the room, the bar, the body's sightings, the body. Each step either adds to
// `clip_` or fails; a view across has a trace of its own, which is found on the way.
class ClipTracing {
 public:
  ClipTracing(footage::FrameReader& reader, const TraceRequest& request, Task& task, KnownTrace known)
      : reader_(reader),
        info_(reader.info()),
        request_(request),
        task_(task),
        known_(std::move(known)),
        placed_(complete(request.placed) && request.parts.flow && !request.body.inHands()),
        // Of several sets each is looked at when it is asked for.
        look_(request.parts.network && (!known_.sightings || request.around_s)) {
    // The parts' shares of the time they take together.
    bar_share_ = known_.bar ? 0.0 : look_ ? 0.2 : placed_ ? 0.4 : 0.9;
    seen_share_ = !look_ ? bar_share_ : placed_ ? 0.8 : request.parts.flow ? 0.85 : 1.0;
  }

  Result<ClipTrace> run() {
    clip_.focal_35mm = info_.focal_35mm;
    if (auto looked = lookAtEdges(reader_, clip_); !looked) return fail(looked.error());
    if (auto set = reader_.seekBefore(0); !set) return fail(set.error());
    task_.part(0, bar_share_);
    auto across = filmedAcross();
    if (!across) return fail(across.error());
    if (*across) return std::move(**across);
    across = tracedBar();
    if (!across) return fail(across.error());
    if (*across) return std::move(**across);
    if (auto seen = seeBody(); !seen) return fail(seen.error());
    solveAgain(clip_, request_, info_.width, info_.height);
    if (auto followed = placed_ ? followPlacedBody() : fitSeenBody(); !followed) return fail(followed.error());
    if (task_.cancelled()) return cancelled();
    if (clip_.body) solveAgain(clip_, request_, info_.width, info_.height);
    if (auto sound = check(clip_.trace); !sound) return fail(sound.error());
    return std::move(clip_);
  }

 private:
  using Across = std::optional<ClipTrace>;  // the whole trace, where both sides are seen

  static Result<Across> whole(Result<ClipTrace> traced) {
    if (!traced) return fail(traced.error());
    return Across(std::move(*traced));
  }

  // What is known, told, or seen at a glance, before any bar is looked for.
  Result<Across> filmedAcross() {
    if (known_.front) return whole(tracedAcross(std::move(clip_), request_, info_, std::move(known_)));
    if (isAcross(request_.view))
      return whole(traceAcross(reader_, request_, *seenAcross(reader_, request_), std::move(clip_), task_));
    // Along a bench things round as plates are hard to come by, and a trace from the side would be for nothing.
    if (known_.bar || !request_.body.lying || !viewIsLeftToTheFilm(request_)) return Across();
    if (auto looked = glanceOnce(reader_, request_, glance_, task_); !looked) return fail(looked.error());
    if (const auto facing = glance_ ? facingAcross(*glance_, request_.body) : std::nullopt)
      return whole(traceAcross(reader_, request_, *facing, std::move(clip_), task_));
    return Across();
  }

  // The bar from the side; where no plate is seen the view may be one across after all.
  Result<Across> tracedBar() {
    if (known_.bar) {
      clip_.bar = std::move(known_.bar);
    } else {
      auto bar = traceBar(reader_, request_, clip_.uprights, task_);
      if (!bar && bar.error().code == ErrorCode::NoLiftFound)
        if (const auto facing = seenAcross(reader_, request_)) {
          auto across = traceAcross(reader_, request_, *facing, clip_, task_);
          if (across || across.error().code != ErrorCode::NoLiftFound) return whole(std::move(across));
        }
      if (!bar) return fail(bar.error());
      clip_.bar = std::move(*bar);
    }
    const auto in_set = request_.around_s ? std::optional(info_.nearestFrame(*request_.around_s)) : std::nullopt;
    std::tie(first_, last_) = stretchAround(quietFrame(*clip_.bar, in_set, request_.body.starts_low));
    return Across();
  }

  std::pair<std::size_t, std::size_t> stretchAround(std::size_t frame) const {
    return request_.body.lying ? barStretch(*clip_.bar)
                               : standingStretch(*clip_.bar, frame, request_.camera.rim_m);
  }

  // What the network sees of the body in the set that is judged, and which way it faces.
  Result<bool> seeBody() {
    task_.part(bar_share_, seen_share_);
    clip_.sightings = std::move(known_.sightings);
    clip_.far_plate = known_.far_plate;
    clip_.facing = known_.facing;
    if (request_.parts.network && request_.body.inHands() && !clip_.facing) {
      task_.part(bar_share_, bar_share_);
      if (auto looked = glanceOnce(reader_, request_, glance_, task_); !looked) return fail(looked.error());
      if (glance_) clip_.facing = facingSeen(*glance_, request_.body);
    }
    const bool seen_there = clip_.sightings && std::any_of(clip_.sightings->begin(), clip_.sightings->end(),
                                                           [&](const Sighting& s) {
                                                             return s.frame >= first_ && s.frame <= last_;
                                                           });
    if (look_ && !seen_there)
      if (auto looked = lookAtBody(); !looked) return looked;
    if (clip_.sightings && !request_.parts.camera_motion) {
      auto still = *clip_.sightings;
      for (Sighting& s : still) s.camera = {};
      clip_.sightings = std::make_shared<const std::vector<Sighting>>(std::move(still));
    }
    return true;
  }

  Result<bool> lookAtBody() {
    FarPlateFinder far(*clip_.bar);
    auto seen = sightBody(
        reader_, *clip_.bar, request_.body.inHands() ? first_ : walkOutBefore(*clip_.bar, first_), last_, task_,
        [&](const footage::Frame& frame) { far.look(frame.index, frame.picture); }, request_.body);
    if (const auto both = far.found()) {
      clip_.far_plate = both;
      clip_.bar = heldAgainstPlates(clip_.bar, *both, request_.camera);
    }
    if (seen)
      clip_.sightings = together(clip_.sightings.get(), std::move(*seen));
    else if (seen.error().code == ErrorCode::Cancelled || seen.error().code == ErrorCode::ClipUnreadable)
      return fail(seen.error());
    else
      clip_.sightings_trouble = seen.error().sentence();
    return true;
  }

  // From a frame on which the coach placed all points.
  Result<bool> followPlacedBody() {
    task_.part(seen_share_, 1.0);
    const auto base = std::find_if(request_.placed.begin(), request_.placed.end(),
                                   [](const PlacedFrame& p) { return complete({p}); });
    const auto [from, to] = stretchAround(info_.nearestFrame(base->t_s));
    auto body = trackBody(reader_, *clip_.bar, clip_.camera, request_.placed, from, to, task_);
    // Points on a frame without the bar cannot be followed; what the bar tells is still worth having.
    if (!body && body.error().code != ErrorCode::CannotJudge) return fail(body.error());
    if (!body) return true;
    std::optional<BodyTrack> both;
    if (clip_.sightings && clip_.forward)
      both = fitBody({.sightings = *clip_.sightings,
                      .bar = *clip_.bar,
                      .picture_height = info_.height,
                      .first = from,
                      .last = to,
                      .tie_to_bar = request_.parts.bar_tie,
                      .outlines = request_.parts.outlines,
                      .tracked = &*body,
                      .model = request_.body},
                     clip_.camera, &task_);
    clip_.body = std::make_shared<const BodyTrack>(both ? std::move(*both) : std::move(*body));
    return true;
  }

  Result<bool> fitSeenBody() {
    if (!clip_.sightings || !clip_.forward) return true;
    task_.part(seen_share_, 1.0);
    auto body = bodyWithoutAClick(clip_, request_, info_, first_, last_, task_);
    if (!body) return fail(body.error());
    clip_.body = std::move(*body);
    return true;
  }

  footage::FrameReader& reader_;
  const footage::ClipInfo& info_;
  const TraceRequest& request_;
  Task& task_;
  KnownTrace known_;
  const bool placed_, look_;
  double bar_share_ = 0, seen_share_ = 0;
  std::optional<FirstLook> glance_;
  std::size_t first_ = 0, last_ = 0;  // of the set that is judged
  ClipTrace clip_;
};

}  // namespace

Result<ClipTrace> traceClip(footage::FrameReader& reader, const TraceRequest& request, Task& task, KnownTrace known) {
  return ClipTracing(reader, request, task, std::move(known)).run();
}

}  // namespace jib::tracing
