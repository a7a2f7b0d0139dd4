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

constexpr double kFeetStand_m = 0.15;  // the bar stays within this of its place while the feet stand

// Where a walk-out that ends in the stretch begins: with the bar still in its hooks, as far as the film goes back.
std::size_t walkOutBefore(const BarTrace& bar, std::size_t first) {
  constexpr double kLongest_s = 12;  // lifters who take longer are still being chalked
  std::size_t from = first;
  while (from > 0 && bar.plate[from - 1] && bar.times_s[first] - bar.times_s[from - 1] < kLongest_s) --from;
  return from;
}

// The stretch around the placed frame in which the feet stand: the bar does not wander off along the floor.
std::pair<std::size_t, std::size_t> standingStretch(const BarTrace& bar, std::size_t around, double rim_m) {
  const double most = kFeetStand_m * bar.rim.radius_px / (rim_m / 2);
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
  const auto placed =
      request.body.inHands() ? placedBody(*clip.bar, clip.camera, request.placed, request.body) : std::nullopt;
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
    const auto watched = watchLying(info, *clip.bar, quietFrame(*clip.bar), *body, task);
    // A clip that cannot be decoded to its end costs what watching adds, not the body.
    if (!watched && watched.error().code == ErrorCode::Cancelled) return fail(watched.error());
  }
  if (body && request.body.hangs() && request.parts.flow && clip.trace.camera_moves.empty()) {
    const auto watched = watchSets(info, *clip.bar, *clip.sightings, *body, task);
    if (!watched && watched.error().code == ErrorCode::Cancelled) return fail(watched.error());
  }
  if (body && request.parts.flow && !request.body.inHands()) {
    const auto stretches = stretchesOnTheWay(*clip.bar, clip.trace.camera_moves, request.camera.rim_m, first, last);
    const auto followed = followBody(info, *clip.bar, *body, clip.trace.camera_moves, stretches, task);
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
Result<bool> glanceOnce(footage::FrameReader& reader, const TraceRequest& request, Glance& glance, Task& task) {
  auto looked = glanceAt(reader, task, request.lifter, glance);
  if (!looked && looked.error().code == ErrorCode::Cancelled) return fail(looked.error());
  glance = looked ? *looked : nullptr;
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

std::optional<PixelPoint> ClipTrace::place(std::size_t frame, const PointName& point) const {
  if (!point.side) return frame < trace.size() ? trace.place(frame, point.landmark) : std::nullopt;
  if (!front || frame >= front->frames.size()) return std::nullopt;
  const auto& p = front->frames[frame].at(*point.side, point.landmark);
  return p ? std::optional(p->place) : std::nullopt;
}

namespace {

TraceRequest inShot(TraceRequest request, const footage::ClipInfo& info) {
  request.placed = placedWithin(std::move(request.placed), info.times_s);
  return request;
}

// One clip on its way from frames to a trace: the room, the bar, the body's sightings, the body. Each step either adds
// to `clip_` or fails; a view across has a trace of its own, which is found on the way.
class ClipTracing {
 public:
  ClipTracing(footage::FrameReader& reader, const TraceRequest& request, Task& task, KnownTrace known)
      : reader_(reader),
        info_(reader.info()),
        request_(inShot(request, info_)),
        task_(task),
        known_(std::move(known)),
        placed_(complete(request_.placed) && request.parts.flow && !request.body.inHands()),
        // Of several sets each is looked at when it is asked for.
        look_(request.parts.network && (!known_.sightings || request.around_s)) {
    // The parts' shares of the time they take together.
    bar_share_ = known_.bar ? 0.0 : look_ ? 0.2 : placed_ ? 0.4 : 0.9;
    seen_share_ = !look_ ? bar_share_ : placed_ ? 0.8 : request.parts.flow ? 0.85 : 1.0;
  }

  Result<ClipTrace> run() {
    clip_.focal_35mm = info_.focal_35mm;
    clip_.glance = known_.glance;
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
    if (isAcross(request_.view)) {
      const Facing facing = *seenAcross(reader_, request_, clip_.glance);
      task_.part(0, 1);  // nothing comes after
      return whole(request_.body.lying ? alongBench(facing)
                                       : traceAcross(reader_, request_, facing, std::move(clip_), task_));
    }
    // Along a bench things round as plates are hard to come by, and a trace from the side would be for nothing.
    if (known_.bar || !request_.body.lying || !viewIsLeftToTheFilm(request_)) return Across();
    if (auto looked = glanceOnce(reader_, request_, clip_.glance, task_); !looked) return fail(looked.error());
    if (const auto facing = clip_.glance ? facingAcross(*clip_.glance, request_.body) : std::nullopt)
      return whole(alongBench(*facing));
    return byThePlates();
  }

  // A bench seen from its end: the bar by its plates, and where they were mistaken by the arms that hold it.
  Result<ClipTrace> alongBench(Facing facing) {
    task_.part(0, kSearch_share);
    auto plates = platesTogether(reader_, task_);
    if (!plates) return fail(plates.error());
    task_.part(kSearch_share, 1);
    if (convince(*plates)) {
      auto traced = traceAcross(reader_, request_, facing, clip_, task_, *plates);
      if (traced || traced.error().code != ErrorCode::NoLiftFound) return traced;
    }
    return traceAcross(reader_, request_, facing, std::move(clip_), task_);
  }

  // Where a glance did not see who lies there, plates that go up and down together on both sides still tell it.
  Result<Across> byThePlates() {
    task_.part(0, kSearch_share * bar_share_);
    const auto under = seenUnderBar(reader_, request_.lifter, task_);
    if (!under) return fail(under.error());
    task_.part(kSearch_share * bar_share_, bar_share_);
    if (under->facing) {
      auto across = traceAcross(reader_, request_, *under->facing, clip_, task_, under->plates);
      if (across || across.error().code != ErrorCode::NoLiftFound) return whole(std::move(across));
    }
    if (auto set = reader_.seekBefore(0); !set) return fail(set.error());
    return Across();
  }

  // The bar from the side; where no plate is seen the view may be one across after all.
  Result<Across> tracedBar() {
    if (known_.bar) {
      clip_.bar = std::move(known_.bar);
    } else {
      auto bar = traceBar(reader_, request_, clip_.uprights, task_);
      if (!bar && bar.error().code == ErrorCode::NoLiftFound)
        if (const auto facing = seenAcross(reader_, request_, clip_.glance)) {
          task_.part(bar_share_, 1);
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
    return request_.body.lying ? barStretch(*clip_.bar) : standingStretch(*clip_.bar, frame, request_.camera.rim_m);
  }

  // What the network sees of the body in the set that is judged, and which way it faces.
  Result<bool> seeBody() {
    task_.part(bar_share_, seen_share_);
    clip_.sightings = std::move(known_.sightings);
    clip_.far_plate = known_.far_plate;
    clip_.facing = known_.facing;
    if (request_.parts.network && request_.body.inHands() && !clip_.facing) {
      task_.part(bar_share_, bar_share_);
      if (auto looked = glanceOnce(reader_, request_, clip_.glance, task_); !looked) return fail(looked.error());
      if (clip_.glance) clip_.facing = facingSeen(*clip_.glance, request_.body);
    }
    const bool seen_there =
        clip_.sightings && std::any_of(clip_.sightings->begin(), clip_.sightings->end(),
                                       [&](const Sighting& s) { return s.frame >= first_ && s.frame <= last_; });
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
  const TraceRequest request_;
  Task& task_;
  KnownTrace known_;
  const bool placed_, look_;
  static constexpr double kSearch_share = 0.3;  // of what it takes to trace both ends of a bar: looking for its plates
  double bar_share_ = 0, seen_share_ = 0;
  std::size_t first_ = 0, last_ = 0;  // of the set that is judged
  ClipTrace clip_;
};

}  // namespace

Result<ClipTrace> traceClip(footage::FrameReader& reader, const TraceRequest& request, Task& task, KnownTrace known) {
  return ClipTracing(reader, request, task, std::move(known)).run();
}

}  // namespace jib::tracing
