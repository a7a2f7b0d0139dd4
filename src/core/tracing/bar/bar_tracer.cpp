// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/bar_tracer.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/tracing/bar/bar_end.h"
#include "core/tracing/bar/plate_finder.h"
#include "core/tracing/bar/rim_track.h"
#include "core/tracing/bar/second_rim.h"
#include "core/tracing/bar/stray_rims.h"

namespace jib::tracing {
namespace {

using footage::Frame;
using footage::FrameReader;
using footage::Pixels;

constexpr double kLookEvery_s = 0.7;        // how often new round things are looked for
constexpr double kLookAgain_s = 2.0;        // the same, once something travels like a bar
constexpr std::size_t kRestStep = 3;        // a rim that rests is looked at in every third frame
constexpr double kGiveUp_s = 0.5;           // a track not found for this long is closed
constexpr double kLeastStroke = 0.55;       // in rim radii: 12 cm with a 450 mm plate
constexpr std::ptrdiff_t kMostTracks = 13;  // at a time
constexpr double kLeastSeen = 0.55;         // of the rim, on average
constexpr double kNarrowest = 0.6;          // width over height of a plate seen at an angle

tl::unexpected<Error> noLift() {
  return fail(
      ErrorCode::NoLiftFound, "No plate that moves up and down was found.",
      "Click the middle of the near plate on any frame, or check that the plate is in the picture from the side.");
}

// Nobody moves a bar by more than four times the radius of a full plate or so. A head, a shoulder or the print on a
// shirt that goes up with the lifter is round too, and small against its way. Small plates alone are not ruled out.
double likelyWay(double radii) {
  constexpr double kUsual = 4.2, kTooFar = 5.6, kLeast = 0.05;
  return std::clamp((kTooFar - radii) / (kTooFar - kUsual), kLeast, 1.0);
}

// How much a track looks like the lifter's bar: tall travel of a large, well seen rim.
double liftScore(const RimTrack& track) {
  const auto& seen = track.seen();
  if (seen.size() < 8) return 0;
  std::vector<double> heights;
  double radius = 0, inliers = 0, oval = 0;
  for (const auto& s : seen) {
    heights.push_back(s.fit.centre.y);
    oval += std::hypot(s.fit.shape.oval_cos_px, s.fit.shape.oval_sin_px);
    radius += s.fit.shape.radius_px;
    inliers += s.fit.inliers;
  }
  radius /= static_cast<double>(seen.size());
  inliers /= static_cast<double>(seen.size());
  oval /= static_cast<double>(seen.size());
  std::sort(heights.begin(), heights.end());
  const double stroke = heights[heights.size() * 98 / 100] - heights[heights.size() * 2 / 100];
  if (stroke < kLeastStroke * radius) return 0;
  // A rim is seen nearly all round; limbs, racks and shadows make arcs.
  if (inliers < kLeastSeen) return 0;
  // A room has more ovals than circles, and a plate this narrow is filmed from the front.
  const double aspect = (radius - oval) / (radius + oval);
  if (aspect < kNarrowest) return 0;
  // Ovals of the scene are seen for two thirds at best, rims of plates for more.
  constexpr double kNotSeen = 0.52, kSeenAsARimIs = 0.77;
  const double seen_as_rim = std::clamp((inliers - kNotSeen) / (kSeenAsARimIs - kNotSeen), 0.0, 1.0);
  return stroke * radius * std::pow(inliers, 4) * seen_as_rim * std::sqrt(static_cast<double>(seen.size())) *
         likelyWay(stroke / radius);
}

// How much of a track's score counts for the lifter who was pointed at: all of it on them, less and less with the
// distance, none out of their reach. The rim gives the scale.
double besides(const PointedAt& lifter, const RimTrack& track, const std::vector<double>& times_s) {
  constexpr double kRim_m = 0.225, kHalf_m = 0.4, kReach_m = 1.1, kTall_m = 2.2;
  const auto nearest = std::min_element(track.seen().begin(), track.seen().end(), [&](const auto& a, const auto& b) {
    return std::abs(times_s[a.frame] - lifter.t_s) < std::abs(times_s[b.frame] - lifter.t_s);
  });
  const PixelPoint apart_m = (nearest->fit.centre - lifter.at) * (kRim_m / nearest->fit.shape.radius_px);
  if (std::abs(apart_m.x) > kReach_m || std::abs(apart_m.y) > kTall_m) return 0;
  return 1 / (1 + std::pow(apart_m.x / kHalf_m, 2));
}

std::optional<RimTrack> started(const Frame& frame, const RoundThing& thing) {
  const RimShape found{thing.radius_px, -thing.radius_px * (1 - thing.aspect) / (1 + thing.aspect), 0};
  auto fit = fitRim(frame.picture, thing.centre, found, {.window_rel = 0.2, .shape_free = true});
  // An oval is found in steps of a seventh: fitted once more from where the first fit came to, it is what it is.
  if (fit && thing.aspect < 1) fit = fitRim(frame.picture, fit->centre, fit->shape, {.shape_free = true});
  if (!fit || fit->inliers < kLeastSeen) return std::nullopt;
  return RimTrack(frame.index, frame.picture, *fit);
}

double radiusOf(const RimTrack& track) {
  return track.last().shape.radius_px;
}

// Width over height, or height over width where the rim is wider than tall.
double aspectOf(const RimTrack& track) {
  const RimShape& s = track.last().shape;
  const double oval = std::hypot(s.oval_cos_px, s.oval_sin_px);
  return (s.radius_px - oval) / (s.radius_px + oval);
}

// Of all frames: the first may have taken two plates of one colour for one.
double usualRadius(const RimTrack& track) {
  std::vector<double> all;
  for (const auto& s : track.seen()) all.push_back(s.fit.shape.radius_px);
  return median(std::move(all));
}

// The first frame on which a track's rim is as large as it is all along, and seen well.
const RimTrack::Seen& settledIn(const RimTrack& track) {
  constexpr double kAsUsual = 0.02, kSeenWell = 0.6;
  const double usual = usualRadius(track);
  for (const auto& s : track.seen())
    if (std::abs(s.fit.shape.radius_px - usual) < kAsUsual * usual && s.fit.inliers > kSeenWell) return s;
  return track.seen().front();
}

constexpr double kSameMiddle = 0.35;  // of the smaller circle's radius, while both are followed

// Whether a larger circle can be the rim of the plate a ring is painted on: about the same middle and as round. The far
// plate peeps out on one side, and what goes round both plates is no circle.
bool goesRound(const RimFit& outer, const RimFit& ring) {
  constexpr double kAsRound = 0.05, kConcentric = 0.12;  // of the radius
  const RimShape &a = ring.shape, &b = outer.shape;
  const double oval = std::hypot(a.oval_cos_px / a.radius_px - b.oval_cos_px / b.radius_px,
                                 a.oval_sin_px / a.radius_px - b.oval_sin_px / b.radius_px);
  return oval < kAsRound && length(ring.centre - outer.centre) < kConcentric * a.radius_px;
}

struct Follower {
  FrameReader& reader;
  Task& task;
  int give_up;

  bool alive(const RimTrack& t) const {
    return t.missing() < give_up && (t.seen().size() < 15 || t.recentlySeen() > 0.5);
  }

  // A ring within a rim that is followed is; a circle well outside one is not.
  bool alreadyFollowed(const std::vector<RimTrack>& tracks, const RoundThing& thing) const {
    return std::any_of(tracks.begin(), tracks.end(), [&](const RimTrack& t) {
      // A circle and an oval about one middle are two: near and far plate together make an oval of their own.
      constexpr double kAsRound = 0.09;
      return alive(t) && length(t.expected() - thing.centre) < kSameMiddle * thing.radius_px &&
             thing.radius_px < kAnotherCircle * radiusOf(t) && std::abs(aspectOf(t) - thing.aspect) < kAsRound;
    });
  }

  // Rings within a rim that is seen as well, and has travelled like a bar, tell nothing more.
  void dropRings(std::vector<RimTrack>& tracks) const {
    constexpr double kSeenWell = 0.7, kAsLong = 0.8;
    std::vector<bool> ring(tracks.size(), false);
    for (std::size_t i = 0; i < tracks.size(); ++i)
      for (std::size_t j = 0; j < tracks.size(); ++j) {
        const RimTrack &inner = tracks[i], &outer = tracks[j];
        if (!alive(inner) || !alive(outer) || radiusOf(outer) < kAnotherCircle * radiusOf(inner)) continue;
        if (!goesRound(outer.last(), inner.last())) continue;
        const auto as_long = kAsLong * static_cast<double>(inner.seen().size());
        if (static_cast<double>(outer.seen().size()) < as_long || outer.recentlySeen() < kSeenWell) continue;
        if (liftScore(outer) > 0) ring[i] = true;
      }
    std::size_t k = 0;
    std::erase_if(tracks, [&](const RimTrack&) { return ring[k++]; });
  }

  // Frames a resting track was not asked about, newest last: followed after all when it turns out to have moved.
  std::vector<Frame> passed_over = {};

  void followOn(RimTrack& track, const Frame& frame) const {
    const bool rested = track.resting();
    if (rested && frame.index % kRestStep != 0) return;
    if (rested && track.stillRests(frame.index, frame.picture)) return;
    for (const Frame& f : passed_over)
      if (f.index > track.seen().back().frame && track.missing() == 0) track.follow(f.index, f.picture);
    track.follow(frame.index, frame.picture);
  }

  bool somethingLifts(const std::vector<RimTrack>& tracks) const {
    return std::any_of(tracks.begin(), tracks.end(), [&](const RimTrack& t) { return alive(t) && liftScore(t) > 0; });
  }

  // Lost ones that travelled like a bar are kept, as parts of the trace, but cost nothing more.
  std::ptrdiff_t followed(const std::vector<RimTrack>& tracks) const {
    return std::count_if(tracks.begin(), tracks.end(), [this](const RimTrack& t) { return alive(t); });
  }

  // All round things of the clip, followed forward in one pass.
  Result<std::vector<RimTrack>> everything() {
    std::vector<RimTrack> tracks;
    double looked_s = -1e9;
    if (auto placed = reader.seekBefore(0); !placed) return fail(placed.error());
    for (;;) {
      if (task.cancelled()) return cancelled();
      auto next = reader.next(Pixels::Gray);
      if (!next) return fail(next.error());
      if (!*next) break;
      const Frame& frame = **next;
      for (RimTrack& track : tracks)
        if (alive(track)) followOn(track, frame);
      passed_over.push_back(frame);
      if (passed_over.size() >= kRestStep) passed_over.erase(passed_over.begin());
      const double since_s = frame.t_s - looked_s;
      if (since_s >= kLookAgain_s || (since_s >= kLookEvery_s && !somethingLifts(tracks))) {
        looked_s = frame.t_s;
        dropRings(tracks);
        for (const RoundThing& thing : findRoundThings(frame.picture)) {
          if (followed(tracks) >= kMostTracks) dropDullest(tracks);
          if (followed(tracks) < kMostTracks && !alreadyFollowed(tracks, thing))
            if (auto track = started(frame, thing)) tracks.push_back(std::move(*track));
        }
      }
      task.report(static_cast<double>(frame.index + 1) / static_cast<double>(reader.info().frames()));
    }
    return tracks;
  }

  // Makes room: a round thing that has stood still for two seconds is scenery, a lost one without travel was nothing.
  void dropDullest(std::vector<RimTrack>& tracks) const {
    std::erase_if(tracks, [&](const RimTrack& t) {
      const bool lost = !alive(t);
      const bool old = static_cast<int>(t.seen().size()) > 4 * give_up;
      return (lost || old) && liftScore(t) == 0;
    });
  }

  // From one frame on, or back, until the track is lost or `until` is reached.
  Result<bool> forward(RimTrack& track, std::size_t until) {
    const std::size_t from = track.seen().back().frame;
    if (from >= until) return true;
    if (auto placed = reader.seekBefore(from); !placed) return placed;
    for (;;) {
      if (task.cancelled()) return cancelled();
      auto next = reader.next(Pixels::Gray);
      if (!next) return fail(next.error());
      if (!*next || (*next)->index > until) return true;
      if ((*next)->index > from) track.follow((*next)->index, (*next)->picture);
    }
  }

  Result<RimTrack> backward(const RimFit& fit, const Frame& first, std::size_t until) {
    RimTrack back(first.index, first.picture, fit);
    if (first.index == 0 || first.index <= until) return back;
    auto read = footage::readBackward(reader, first.index - 1, Pixels::Gray, [&](const Frame& frame) {
      back.follow(frame.index, frame.picture);
      return frame.index > until && back.missing() < give_up && !task.cancelled();
    });
    if (!read) return fail(read.error());
    if (task.cancelled()) return cancelled();
    return back;
  }

  Result<Frame> grayFrame(std::size_t index) {
    if (auto placed = reader.seekBefore(index); !placed) return fail(placed.error());
    for (;;) {
      auto next = reader.next(Pixels::Gray);
      if (!next) return fail(next.error());
      if (!*next) return fail(ErrorCode::ClipUnreadable, "A frame can't be decoded.", "Choose another frame.");
      if ((*next)->index >= index) return std::move(**next);
    }
  }
};

using SeenByFrame = std::vector<const RimTrack::Seen*>;

// One track may have been lost behind an upright and found again as another: later ones of the same size continue it.
SeenByFrame joined(const std::vector<const RimTrack*>& parts, std::size_t frames) {
  SeenByFrame by_frame(frames, nullptr);
  for (const RimTrack* part : parts)
    for (const auto& seen : part->seen())
      if (!by_frame[seen.frame]) by_frame[seen.frame] = &seen;
  return by_frame;
}

// Whether `later` is the rim of `earlier`, found again.
bool continues(const RimTrack& earlier, const RimTrack& later, double radius_px) {
  constexpr double kAsLarge = 0.05;  // it may come nearer or go away a little
  for (const RimTrack* t : {&earlier, &later})
    if (std::abs(usualRadius(*t) - radius_px) > kAsLarge * radius_px) return false;
  // The middle of an oval round both plates is not the middle of one.
  constexpr double kAsRound = 0.07;
  if (std::abs(aspectOf(earlier) - aspectOf(later)) > kAsRound) return false;
  const PixelPoint gap = later.seen().front().fit.centre - earlier.seen().back().fit.centre;
  return length(gap) < 3.5 * radius_px && std::abs(gap.x) < 1.5 * radius_px;
}

// The best track and those it was found again as, before and after: link by link, as a long clip may lose it often.
std::vector<const RimTrack*> chainOf(const RimTrack& best, const std::vector<RimTrack>& all) {
  std::vector<const RimTrack*> by_time;
  for (const RimTrack& t : all) by_time.push_back(&t);
  std::stable_sort(by_time.begin(), by_time.end(), [](const RimTrack* a, const RimTrack* b) {
    return a->seen().front().frame < b->seen().front().frame;
  });
  const double radius_px = usualRadius(best);
  const auto own = std::find(by_time.begin(), by_time.end(), &best);
  std::vector<const RimTrack*> chain{&best};
  const RimTrack* last = &best;
  for (auto next = own + 1; next != by_time.end(); ++next) {
    if ((*next)->seen().front().frame <= last->seen().back().frame || !continues(*last, **next, radius_px)) continue;
    last = *next;
    chain.push_back(last);
  }
  const RimTrack* first = &best;
  for (auto before = std::make_reverse_iterator(own); before != by_time.rend(); ++before) {
    if ((*before)->seen().back().frame >= first->seen().front().frame || !continues(**before, *first, radius_px))
      continue;
    first = *before;
    chain.push_back(first);
  }
  return chain;
}

// The largest circle that went round the best track nearly all the way and is seen well enough: the plate's rim, where
// the best is a ring painted on it. nullptr when there is none.
const RimTrack* rimAround(const RimTrack& best, const std::vector<RimTrack>& all) {
  constexpr double kShare = 0.5, kRound = 0.7;  // of the frames; of those seen together
  const RimTrack* rim = nullptr;
  for (const RimTrack& t : all) {
    if (radiusOf(t) < kAnotherCircle * radiusOf(rim ? *rim : best) || liftScore(t) <= 0) continue;
    std::size_t common = 0, together = 0;
    auto other = best.seen().begin();
    for (const RimTrack::Seen& s : t.seen()) {
      while (other != best.seen().end() && other->frame < s.frame) ++other;
      if (other == best.seen().end()) break;
      if (other->frame != s.frame) continue;
      ++common;
      together += goesRound(s.fit, other->fit) ? 1 : 0;
    }
    if (static_cast<double>(common) > kShare * static_cast<double>(best.seen().size()) &&
        static_cast<double>(together) > kRound * static_cast<double>(common))
      rim = &t;
  }
  return rim;
}

Rim rimOf(const std::vector<RimTrack::Seen>& seen) {
  const auto median = [&](auto value) {
    std::vector<double> all;
    for (const auto& s : seen)
      if (s.fit.inliers > 0.5) all.push_back(value(s.fit.shape));
    if (all.empty())
      for (const auto& s : seen) all.push_back(value(s.fit.shape));
    std::nth_element(all.begin(), all.begin() + static_cast<long>(all.size() / 2), all.end());
    return all[all.size() / 2];
  };
  const double r = median([](const RimShape& s) { return s.radius_px; });
  const double c = median([](const RimShape& s) { return s.oval_cos_px; });
  const double d = median([](const RimShape& s) { return s.oval_sin_px; });
  const double oval = std::hypot(c, d);
  // 0.6 px: what edges of blurred, compressed rims were seen to be off by.
  return {r + oval, (r - oval) / (r + oval), 0.5 * std::atan2(d, c), 0.6 / r + 0.003};
}

BarTrace assembled(const FrameReader& reader, const SeenByFrame& by_frame, const std::optional<Convergence>& uprights) {
  const auto& info = reader.info();
  BarTrace trace;
  trace.times_s = info.times_s;
  trace.plate.resize(info.frames());
  trace.end.resize(info.frames());
  std::vector<RimTrack::Seen> seen;
  for (const auto* s : by_frame)
    if (s) seen.push_back(*s);
  dropStrayEnds(seen);
  dropAroundJumps(seen, info.frameInterval_s());
  trace.rim = rimOf(seen);
  const double usual = usualInliers(seen);
  constexpr double kOfApart = 0.6;
  if (const auto larger = secondRim(seen))
    trace.rim.sigma_rel = std::hypot(trace.rim.sigma_rel, kOfApart * (*larger - 1));
  for (const auto& s : seen) {
    // The outline is that of all plates on the sleeve together, blurred and compressed: its centre was seen to be off
    // by up to a hundredth of the radius, the same way for many frames, which the spread round the fit does not show.
    // Seen at an angle it is the outline of a stack, whose sides show or hide with what is behind them.
    constexpr double kRound = 0.95, kOfStack = 0.06;
    const double stack = kOfStack * std::max(0.0, kRound - trace.rim.aspect);
    const double systematic = std::hypot(0.3, (0.008 + stack) * s.fit.shape.radius_px);
    const double hidden = unsureWhereHidden(s.fit, usual);
    trace.plate[s.frame] = TracedPoint{
        s.fit.centre, std::hypot(std::hypot(s.fit.sigma_px, hidden), 0.04 * s.travel_px, systematic), Origin::Optical};
  }
  trace.end = trace.plate;
  const PixelPoint middle{info.width / 2.0, info.height / 2.0};
  if (const auto end = findBarEnd(seen, middle, uprights)) {
    // A pixel and a half of the place, divided by the lead that magnifies it.
    trace.vanishing_sigma_px = 1.5 / end->ratio;
    trace.vanishing = middle - end->constant * (1 / end->ratio);
    if (!end->is_end) return trace;
    trace.depth_ratio = end->ratio;
    for (auto& point : trace.end) {
      if (!point) continue;
      point->place = point->place + end->constant + (point->place - middle) * end->ratio;
      point->sigma_px = std::hypot(point->sigma_px, end->sigma_px);
    }
  }
  return trace;
}

}  // namespace

Result<BarTrace> BarTracer::run(FrameReader& reader, Task& task) const {
  // long because one pass over the clip: every step needs what the steps before it found
  const std::size_t frames = reader.info().frames();
  Follower follower{reader, task, std::max(5, static_cast<int>(kGiveUp_s / reader.info().frameInterval_s()))};
  std::vector<RimTrack> kept;
  std::vector<const RimTrack*> parts;

  std::vector<PlacedFrame> placed = options_.placed;
  std::erase_if(placed, [](const PlacedFrame& p) { return !p.points[at(Landmark::Bar)]; });
  std::sort(placed.begin(), placed.end(), [](const auto& a, const auto& b) { return a.t_s < b.t_s; });
  if (!placed.empty()) {
    kept.reserve(2 * placed.size());
    for (std::size_t i = 0; i < placed.size(); ++i) {
      const std::size_t index = reader.info().nearestFrame(placed[i].t_s);
      const auto half = [&](std::size_t a, std::size_t b) {
        return reader.info().nearestFrame((placed[a].t_s + placed[b].t_s) / 2);
      };
      const std::size_t from = i == 0 ? 0 : half(i - 1, i) + 1;
      const std::size_t until = i + 1 == placed.size() ? frames - 1 : half(i, i + 1);
      auto frame = follower.grayFrame(index);
      if (!frame) return fail(frame.error());
      const PixelPoint clicked = *placed[i].points[at(Landmark::Bar)];
      std::optional<RimTrack> track;
      for (const RoundThing& thing : findRoundThings(frame->picture, clicked)) {
        // One frame has to tell a rim round a ring from what lies behind: it must be seen better than usual.
        constexpr double kClearly = 0.6;
        if (track && thing.radius_px < kAnotherCircle * radiusOf(*track)) continue;
        auto found = started(*frame, thing);
        if (found && (!track || (found->last().inliers > kClearly && goesRound(found->last(), track->last()))))
          track = std::move(found);
      }
      if (!track)
        return fail(ErrorCode::NoLiftFound, "No round plate was found where you clicked.",
                    "Click nearer to its middle, or on a frame where the rim is not hidden.");
      auto back = follower.backward(track->seen().front().fit, *frame, from);
      if (!back) return fail(back.error());
      if (auto on = follower.forward(*track, until); !on) return fail(on.error());
      kept.push_back(std::move(*track));
      kept.push_back(std::move(*back));
      task.report(static_cast<double>(i + 1) / static_cast<double>(placed.size()));
    }
    for (const RimTrack& t : kept) parts.push_back(&t);
  } else {
    auto tracks = follower.everything();
    if (!tracks) return fail(tracks.error());
    kept = std::move(*tracks);
    const auto& lifter = options_.lifter;
    const RimTrack* best = nullptr;
    double highest = 0;
    for (const RimTrack& t : kept) {
      const double score = liftScore(t) * (lifter ? besides(*lifter, t, reader.info().times_s) : 1);
      if (score > highest) {
        highest = score;
        best = &t;
      }
    }
    if (!best && lifter)
      return fail(ErrorCode::NoLiftFound, "No plate goes up and down beside the lifter you pointed at.",
                  "Point at them again on a frame that shows their plate.");
    if (!best) return noLift();
    if (const RimTrack* rim = rimAround(*best, kept)) best = rim;
    parts = chainOf(*best, kept);
    auto by_frame = joined(parts, frames);
    const std::size_t first = best->seen().front().frame;
    const RimTrack::Seen& settled = settledIn(*best);
    std::optional<RimTrack> back;
    if (settled.frame > static_cast<std::size_t>(follower.give_up)) {
      auto frame = follower.grayFrame(settled.frame);
      if (!frame) return fail(frame.error());
      auto followed = follower.backward(settled.fit, *frame, 0);
      if (!followed) return fail(followed.error());
      back = std::move(*followed);
      for (const RimTrack::Seen& seen : back->seen())
        if (!by_frame[seen.frame] || (seen.frame >= first && seen.frame < settled.frame)) by_frame[seen.frame] = &seen;
    }
    return assembled(reader, by_frame, options_.uprights);
  }
  return assembled(reader, joined(parts, frames), options_.uprights);
}

}  // namespace jib::tracing
