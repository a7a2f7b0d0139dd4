// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/set_watch.h"

#include <algorithm>
#include <cmath>

#include "core/footage/frame_reader.h"
#include "core/tracing/bar/lift_offs.h"
#include "core/tracing/sightings/hip_watch.h"

namespace jib::tracing {
namespace {

constexpr double kBefore_s = 2.0;
constexpr double kStirs = 0.03;   // of the rim's radius: a bar that moved by less lies where it lay
constexpr double kLost_s = 0.15;  // a hip not made out for so long is lost

// The outline of the look that is nearest in time.
const Outline* outlineNear(const std::vector<Sighting>& looks, const std::vector<double>& times_s, std::size_t frame) {
  constexpr double kNear_s = 0.35;
  const Outline* best = nullptr;
  double least = kNear_s;
  for (const Sighting& s : looks) {
    const double away = std::abs(times_s[s.frame] - times_s[frame]);
    if (away > least || s.reading.outline.empty()) continue;
    least = away;
    best = &s.reading.outline;
  }
  return best;
}

PixelPoint rounded(PixelPoint p) {
  return {std::round(p.x * 100) / 100, std::round(p.y * 100) / 100};  // to what is kept in files
}

// The frames of one set in the order in which they are shown, the lift-off last.
Result<std::vector<footage::Frame>> framesOf(footage::FrameReader& reader, std::size_t first, std::size_t last,
                                             Task& task) {
  std::vector<footage::Frame> frames;
  if (auto set = reader.seekBefore(first); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Gray, first);
    if (!next) return fail(next.error());
    if (!*next || (*next)->index > last) return frames;
    if ((*next)->index >= first) frames.push_back(std::move(**next));
  }
}

// Back from the lift-off, each frame looked for about where the hip stood on the one after it.
void watchBack(const std::vector<footage::Frame>& frames, const HipWatch& watch, const BarTrace& bar,
               std::vector<std::optional<PixelPoint>>& moved) {
  PixelPoint near{};
  double seen_s = bar.times_s[frames.back().index];
  for (auto f = frames.rbegin(); f != frames.rend(); ++f) {
    const double t = bar.times_s[f->index];
    if (seen_s - t > kLost_s) return;
    const auto at = watch.moved(f->picture, near);
    if (!at) continue;
    near = *at;
    seen_s = t;
    moved[f->index] = rounded(*at);
  }
}

}  // namespace

Result<bool> watchSets(const footage::ClipInfo& clip, const BarTrace& bar, const std::vector<Sighting>& sightings,
                       BodyTrack& track, Task& task) {
  const std::vector<std::size_t> offs = liftOffFrames(bar);
  track.hip_before_off.assign(bar.plate.size(), std::nullopt);
  auto reader = footage::FrameReader::open(clip);
  if (!reader) return fail(reader.error());
  const double px = track.camera.pixelsPerMetre(track.camera.hip_m);
  for (std::size_t k = 0; k < offs.size(); ++k) {
    const std::size_t off = offs[k];
    if (off >= track.poses.size() || !track.poses[off]) continue;
    std::size_t first = off;
    while (first > 0 && track.poses[first - 1] && bar.plate[first - 1] &&
           bar.times_s[off] - bar.times_s[first - 1] < kBefore_s &&
           std::abs(bar.plate[first - 1]->place.y - bar.plate[off]->place.y) < kStirs * bar.rim.radius_px)
      --first;
    if (first == off) continue;
    auto frames = framesOf(*reader, first, off, task);
    if (!frames) return fail(frames.error());
    if (frames->empty() || frames->back().index != off) continue;
    const auto watch =
        HipWatch::begin(frames->back().picture,
                        {pointsOf(track.skeleton, *track.poses[off], track.camera).hip, track.camera.forward, px,
                         bar.plate[off]->place, bar.rim.radius_px, outlineNear(sightings, bar.times_s, off)});
    if (watch) watchBack(*frames, *watch, bar, track.hip_before_off);
    task.report(static_cast<double>(k + 1) / static_cast<double>(offs.size()));
  }
  return true;
}

}  // namespace jib::tracing
