// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_follow.h"

#include <algorithm>
#include <atomic>
#include <future>
#include <mutex>

namespace jib::tracing {
namespace {

constexpr double kAtRest_m = 0.015;  // the bar this near to where it stood has not left yet
constexpr double kLeast_m = 0.10;    // what the bar must go down by for the stretch to be worth following
constexpr double kAround_s = 0.25;
constexpr std::size_t kWorkers = 2;

PlacedFrame placedFrom(const BodyTrack& track, std::size_t frame, double t_s, const CameraMove& move) {
  const BodyPoints p = pointsOf(track.skeleton, *track.poses[frame], track.camera);
  PlacedFrame placed{t_s, {}};
  const std::pair<Landmark, PixelPoint> points[] = {{Landmark::Toe, p.toe},     {Landmark::Heel, p.heel},
                                                    {Landmark::Ankle, p.ankle}, {Landmark::Knee, p.knee},
                                                    {Landmark::Hip, p.hip},     {Landmark::Shoulder, p.shoulder}};
  for (const auto& [landmark, place] : points) placed.points[at(landmark)] = move.moved(place);
  return placed;
}

}  // namespace

std::vector<Stretch> stretchesOnTheWay(const BarTrace& bar, const std::vector<CameraMove>& moves, double rim_m,
                                       std::size_t first, std::size_t last) {
  JIB_ASSERT(first <= last && last < bar.plate.size());
  const double px = bar.rim.radius_px / (rim_m / 2);
  double highest_y = 1e9;
  const auto height = [&](std::size_t k) {
    return moves.empty() ? bar.plate[k]->place.y : moves[k].still(bar.plate[k]->place).y;
  };
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i]) highest_y = std::min(highest_y, height(i));
  std::vector<Stretch> stretches;
  for (std::size_t i = first; i <= last;) {
    const auto below = [&](std::size_t k) { return bar.plate[k] ? (height(k) - highest_y) / px : 0.0; };
    if (below(i) < kAtRest_m) {
      ++i;
      continue;
    }
    std::size_t end = i;
    double deepest = 0;
    while (end <= last && below(end) >= kAtRest_m) deepest = std::max(deepest, below(end++));
    Stretch s{i, std::min(end, last)};
    while (s.first > first && bar.plate[s.first - 1] && bar.times_s[i] - bar.times_s[s.first] < kAround_s) --s.first;
    while (s.last < last && bar.plate[s.last + 1] && bar.times_s[s.last] - bar.times_s[end - 1] < kAround_s) ++s.last;
    if (deepest > kLeast_m) stretches.push_back(s);
    i = end;
  }
  return stretches;
}

Result<std::vector<Followed>> followBody(const footage::ClipInfo& clip, const BarTrace& bar, const BodyTrack& fitted,
                                         const std::vector<CameraMove>& moves, const std::vector<Stretch>& stretches,
                                         Task& task) {
  std::vector<std::optional<Followed>> found(stretches.size());
  std::atomic<std::size_t> next{0}, done{0};
  std::mutex trouble_guard;
  std::optional<Error> trouble;
  const auto stop = [&](Error e) {
    const std::lock_guard hold(trouble_guard);
    if (!trouble) trouble = std::move(e);
    next = stretches.size();
  };
  const auto work = [&](bool reports) {
    auto reader = footage::FrameReader::open(clip, footage::Workers::One);
    if (!reader) return stop(reader.error());
    for (std::size_t k = next++; k < stretches.size(); k = next++) {
      const Stretch& s = stretches[k];
      if (!fitted.poses[s.first] || !bar.plate[s.first]) continue;
      const PlacedFrame begun =
          placedFrom(fitted, s.first, bar.times_s[s.first], moves.empty() ? CameraMove{} : moves[s.first]);
      // One Task serves one thread: this one only hands the wish to stop on.
      Task own([&own, &task](double) {
        if (task.cancelled()) own.cancel();
      });
      auto track = trackBody(*reader, bar, fitted.camera, {begun}, s.first, s.last, own);
      if (!track) return stop(track.error());
      const auto from = track->poses.begin() + static_cast<long>(s.first);
      found[k] = Followed{s, {from, from + static_cast<long>(s.last - s.first + 1)}, {}};
      if (!track->shoe.empty())
        found[k]->shoe.assign(track->shoe.begin() + static_cast<long>(s.first),
                              track->shoe.begin() + static_cast<long>(s.last + 1));
      ++done;
      if (reports) task.report(static_cast<double>(done) / static_cast<double>(stretches.size()));
    }
  };
  std::vector<std::future<void>> others;
  for (std::size_t k = 1; k < std::min(kWorkers, stretches.size()); ++k)
    others.push_back(std::async(std::launch::async, work, false));
  work(true);
  for (auto& other : others) other.get();
  if (trouble) return fail(*trouble);
  std::vector<Followed> followed;
  for (auto& f : found)
    if (f) followed.push_back(std::move(*f));
  return followed;
}

}  // namespace jib::tracing
