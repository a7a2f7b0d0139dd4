// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/pose_sightings.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <future>
#include <opencv2/core.hpp>
#include <optional>

#include "core/base/angle.h"
#include "core/tracing/pose/shipped_readers.h"
#include "core/tracing/sightings/lifter_pointed.h"

namespace jib::tracing {
namespace {

using footage::Frame;
using footage::FrameReader;
using footage::Pixels;

constexpr double kQuickEvery_s = 0.2;
constexpr double kThoroughEvery_s = 0.125;  // neighbours err alike, and a look takes a tenth of a second
constexpr double kMovingWithin_s = 0.15;
constexpr double kStill_share = 0.05;  // of the rim's radius: a centimetre
constexpr double kSmooth_s = 1.0;      // the region's jitter is the landmarks' jitter
constexpr double kRetry_s = 0.5;       // the detector is asked again this long after it found nobody
constexpr std::size_t kWorkers = 2;
constexpr double kRim_m = 0.225;      // a smaller plate than usual makes people look larger, by a third at most
constexpr double kQuickShare = 0.25;  // of the time both passes take

struct Look {
  std::size_t frame;
  double t_s;
  PoseRegion region;
};

std::optional<PixelPoint> barAt(const BarTrace& bar, std::size_t frame) {
  if (!bar.plate[frame]) return std::nullopt;
  return bar.plate[frame]->place;
}

// Whether a region can be that of the person who has this bar: the rim gives the scale. The network, once it has lost
// the lifter, is content with a plate or a trunk for a whole body.
bool atBar(const PoseRegion& region, const BarTrace& bar, std::size_t frame, const BodyModel& body) {
  const double metre_px = bar.rim.radius_px / kRim_m;
  if (metre_px <= 0) return true;  // no bar was traced
  const double size_m = region.size_px / metre_px;
  if (size_m < 1.3 || size_m > 4.5) return false;
  const auto place = barAt(bar, frame);
  if (!place) return true;
  const PixelPoint below = (region.centre - *place) * (1 / metre_px);
  // A bar that is pulled is lower than the body's middle, and at lockout about level with it.
  if (body.hangs()) return below.y > -1.2 && below.y < 0.45 && std::abs(below.x) < 0.75;
  const double most = body.overhead ? 1.75 : 1.3;  // overhead it is an arm's length further off
  return below.y > 0.12 && below.y < most && std::abs(below.x) < 0.6;
}

// The likeliest person at the bar, the largest when there are several.
std::optional<PoseRegion> lifterAmong(const std::vector<Person>& people, const BarTrace& bar, std::size_t frame,
                                      const BodyModel& body) {
  std::optional<PoseRegion> best;
  for (const Person& p : people)
    if (atBar(p.region, bar, frame, body) && (!best || p.region.size_px > best->size_px)) best = p.region;
  return best;
}

// How surely trunk and legs are seen, near side or far.
double sureOfBody(const PoseReading& reading) {
  double best = 0;
  for (const BodySide side : {BodySide::Left, BodySide::Right}) {
    double sum = 0;
    for (const PoseMark mark : {PoseMark::Shoulder, PoseMark::Hip, PoseMark::Knee, PoseMark::Ankle, PoseMark::Toe})
      sum += reading.sure(mark, side);
    best = std::max(best, sum);
  }
  return best + reading.person;
}

// The detector tells a bent body's turn only roughly, and a network shown somebody at a wrong turn reads joints that
// confirm it. So a few turns about it are tried, and the surest reading is taken.
Result<PoseReading> bestTurned(PoseReader& reader, const cv::Mat& picture, const PoseRegion& region) {
  constexpr double kTurns_rad[] = {0, -0.45, 0.45};
  std::optional<PoseReading> best;
  for (const double turn_rad : kTurns_rad) {
    auto reading = reader.read(picture, {region.centre, region.size_px, region.turn_rad + turn_rad});
    if (!reading) return reading;
    if (!best || sureOfBody(*reading) > sureOfBody(*best)) best = std::move(*reading);
  }
  return std::move(*best);
}

// Where the lifter is in every fifth of a second, followed from look to look.
class QuickPass {
 public:
  QuickPass(FrameReader& reader, const BarTrace& bar, const BodyModel& body, const std::optional<PointedAt>& lifter)
      : reader_(reader), bar_(bar), body_(body), lifter_(lifter) {}

  Result<std::vector<Look>> run(std::size_t first, std::size_t last, Task& task) {
    // Who pulls unfolds by a right angle within a second. A region that is still turned as the trunk was shows the
    // network somebody who lies, and it stays turned from then on: the detector, which takes no turn for granted, is
    // asked every time. What it finds in a frame hangs on no other, so two are looked at side by side.
    for (int k = 0; k < (body_.hangs() ? 2 : 1); ++k) {
      auto finder = shippedFinder();
      if (!finder) return fail(finder.error());
      auto quick = shippedReader(Care::Quick);
      if (!quick) return fail(quick.error());
      eyes_.push_back({std::move(*finder), std::move(*quick)});
    }
    if (auto set = reader_.seekBefore(first); !set) return fail(set.error());
    std::vector<Look> looks;
    std::optional<PoseRegion> region;
    for (std::size_t from = first; from <= last;) {
      if (task.cancelled()) return cancelled();
      auto next = nextLook(from, last, region.has_value());
      if (!next) return fail(next.error());
      if (!*next) break;
      const Glimpse& now = **next;
      auto seen = follow(now, region);
      if (!seen) return fail(seen.error());
      region = *seen;
      if (region) looks.push_back({now.frame.index, now.frame.t_s, *region});
      from = after(now.frame, region ? kQuickEvery_s : kRetry_s);
      task.report(kQuickShare * static_cast<double>(now.frame.index - first) / static_cast<double>(last - first + 1));
    }
    return looks;
  }

 private:
  struct Eyes {
    PersonFinder finder;
    PoseReader quick;
  };
  // A frame, and what the detector and two looks make of it where it was asked.
  struct Glimpse {
    Frame frame;
    bool asked = false, detected = false;
    std::optional<PoseRegion> region;
  };

  std::size_t after(const Frame& frame, double gap_s) const {
    const auto& times = reader_.info().times_s;
    std::size_t from = frame.index + 1;
    while (from < times.size() && times[from] < frame.t_s + gap_s - 1e-6) ++from;
    return from;
  }

  // The frame to be looked at next; nullopt at the end.
  Result<std::optional<Glimpse>> nextLook(std::size_t from, std::size_t last, bool followed) {
    while (!ahead_.empty() && ahead_.front().frame.index < from) ahead_.pop_front();
    if (ahead_.empty()) {
      for (std::size_t at = from; ahead_.size() < eyes_.size() && at <= last;) {
        auto next = reader_.next(Pixels::Colour, at);
        if (!next) return fail(next.error());
        if (!*next || (*next)->index > last) break;
        at = after(**next, kQuickEvery_s);
        ahead_.push_back({std::move(**next), body_.hangs() || !followed, false, {}});
      }
      if (auto asked = askDetector(); !asked) return fail(asked.error());
    }
    if (ahead_.empty()) return std::optional<Glimpse>();
    std::optional<Glimpse> now = std::move(ahead_.front());
    ahead_.pop_front();
    return now;
  }

  Result<bool> askDetector() {
    const auto ask = [&](std::size_t k) -> Result<bool> {
      Glimpse& g = ahead_[k];
      if (!g.asked) return true;
      auto people = peopleAt(eyes_[k].finder, g.frame.picture, lifter_);
      if (!people) return fail(people.error());
      const auto detected = lifterAmong(*people, bar_, g.frame.index, body_);
      g.detected = detected.has_value();
      if (!detected) return true;
      auto seen = lookedAt(eyes_[k].quick, g.frame, *detected, true);
      if (!seen) return fail(seen.error());
      g.region = *seen;
      return true;
    };
    std::future<Result<bool>> other;
    if (ahead_.size() > 1) other = std::async(std::launch::async, ask, 1);
    auto asked = ahead_.empty() ? Result<bool>(true) : ask(0);
    if (other.valid())
      if (auto second = other.get(); !second) return second;
    return asked;
  }

  // Where the lifter is in a frame, `before` in the one before it.
  Result<std::optional<PoseRegion>> follow(const Glimpse& now, const std::optional<PoseRegion>& before) {
    if (now.detected) return now.region;
    const auto begin = before ? before : regionUnder(bar_, now.frame.index, body_);
    if (!begin) return std::optional<PoseRegion>();
    return lookedAt(eyes_.front().quick, now.frame, *begin, !before);
  }

  // A region found anew is looked at twice: the detector's own is coarse.
  Result<std::optional<PoseRegion>> lookedAt(PoseReader& quick, const Frame& frame, PoseRegion region,
                                             bool found_anew) {
    for (int look = 0; look < (found_anew ? 2 : 1); ++look) {
      auto reading = look == 0 && found_anew && body_.hangs() ? bestTurned(quick, frame.picture, region)
                                                              : quick.read(frame.picture, region);
      if (!reading) return fail(reading.error());
      if (!reading->somebody() || !atBar(reading->next, bar_, frame.index, body_) || !mayBe(reading->next, lifter_))
        return std::optional<PoseRegion>();
      region = reading->next;
    }
    return std::optional(region);
  }

  FrameReader& reader_;
  const BarTrace& bar_;
  const BodyModel& body_;
  const std::optional<PointedAt>& lifter_;
  std::vector<Eyes> eyes_;
  std::deque<Glimpse> ahead_;
};

// The middle half's mean is as calm as a mean and as deaf to a wild value as a median.
double middleOf(std::vector<double>& values) {
  std::sort(values.begin(), values.end());
  const std::size_t cut = values.size() / 4;
  double sum = 0;
  for (std::size_t i = cut; i < values.size() - cut; ++i) sum += values[i];
  return sum / static_cast<double>(values.size() - 2 * cut);
}

// Where a body lies under the bar, its head this way (+1: towards the right edge): hips and knees are on the other side
// of the bar at its highest.
PoseRegion regionLying(PixelPoint highest, double metre_px, double head) {
  constexpr double kTowardsFeet_m = 0.45, kBelow_m = 0.5, kSize_m = 2.2;
  return {highest + PixelPoint{-head * kTowardsFeet_m, kBelow_m} * metre_px, kSize_m * metre_px, head * kPi / 2};
}

// Who spots stands behind the head of who lies, and the network takes their joints for the lifter's: what is further
// that way than a head reaches, `from_x` on, is not shown to it.
cv::Mat withoutSpotter(const cv::Mat& picture, double from_x, double head) {
  const int edge = std::clamp(static_cast<int>(std::lround(from_x)), 0, picture.cols);
  const cv::Range beyond = head > 0 ? cv::Range(edge, picture.cols) : cv::Range(0, edge);
  if (beyond.empty()) return picture;
  cv::Mat shown = picture.clone();
  shown.colRange(beyond).setTo(cv::mean(picture));
  return shown;
}

// Where that begins, by where the bar is at its highest: over the shoulders.
double behindTheHead(PixelPoint highest, double metre_px, double head) {
  // By the near plate, which stands nearer and looks larger: half a metre of the lifter.
  constexpr double kHeadReaches_m = 0.42;
  return highest.x + head * kHeadReaches_m * metre_px;
}

std::optional<PixelPoint> highestOf(const BarTrace& bar, std::size_t first, std::size_t last) {
  std::optional<PixelPoint> highest;
  for (std::size_t i = first; i <= last; ++i)
    if (const auto at = barAt(bar, i); at && (!highest || at->y < highest->y)) highest = at;
  return highest;
}

// Who lies on a bench stays there: one region for the clip, turned by exactly a quarter. Which quarter is tried: upside
// down the network finds no legs. The two ways are held against each other on a few frames, then the better one's
// region is looked for from frame to frame.
Result<std::vector<Look>> lyingPass(FrameReader& reader, const BarTrace& bar, std::size_t first, std::size_t last,
                                    Task& task) {
  constexpr int kTries = 8;
  const double metre_px = bar.rim.radius_px / kRim_m;
  const auto highest = highestOf(bar, first, last);
  std::vector<Look> looks;
  if (!highest || metre_px <= 0) return looks;
  auto quick = shippedReader(Care::Quick);
  if (!quick) return fail(quick.error());
  struct Way {
    double head;
    PoseRegion begin;
    double sure = 0;
    std::array<std::vector<double>, 3> seen{};  // middle across, down, size
  };
  std::array<Way, 2> ways{{{1, regionLying(*highest, metre_px, 1)}, {-1, regionLying(*highest, metre_px, -1)}}};
  if (auto set = reader.seekBefore(first); !set) return fail(set.error());
  const std::size_t step = std::max<std::size_t>(1, (last - first) / kTries);
  for (std::size_t from = first; from <= last; from += step) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(Pixels::Colour, from);
    if (!next) return fail(next.error());
    if (!*next || (*next)->index > last) break;
    for (Way& way : ways) {
      const cv::Mat shown = withoutSpotter((*next)->picture, behindTheHead(*highest, metre_px, way.head), way.head);
      PoseRegion region = way.begin;
      // Twice: where it begins is a guess.
      for (int look = 0; look < 2; ++look) {
        auto reading = quick->read(shown, region);
        if (!reading) return fail(reading.error());
        if (look == 1) way.sure += sureOfBody(*reading);
        const double size_m = reading->next.size_px / metre_px;
        if (std::abs(std::remainder(reading->next.turn_rad - way.begin.turn_rad, 2 * kPi)) > 0.5 || size_m < 1.4 ||
            size_m > 3.2)
          break;
        region = {reading->next.centre, reading->next.size_px, way.begin.turn_rad};
        if (look == 0) continue;
        way.seen[0].push_back(region.centre.x);
        way.seen[1].push_back(region.centre.y);
        way.seen[2].push_back(region.size_px);
      }
    }
    task.report(kQuickShare * static_cast<double>(from - first) / static_cast<double>(last - first + 1));
  }
  Way& way = ways[0].sure > ways[1].sure ? ways[0] : ways[1];
  if (way.seen[0].empty()) return looks;
  const PoseRegion region{{middleOf(way.seen[0]), middleOf(way.seen[1])}, middleOf(way.seen[2]), way.begin.turn_rad};
  for (std::size_t i = first; i <= last; i += step) looks.push_back({i, bar.times_s[i], region});
  return looks;
}

// Who lies on a bench stays there, and so does the region: the middle of what a few looks over the clip settle on.
Result<std::vector<Look>> benchEndPass(FrameReader& reader, bool from_head, Task& task,
                                       const std::optional<PointedAt>& lifter, const std::optional<BarOverhead>& bar) {
  constexpr std::size_t kTries = 6;
  auto finder = shippedFinder();
  if (!finder) return fail(finder.error());
  auto pose = shippedReader(Care::Thorough);
  if (!pose) return fail(pose.error());
  const std::size_t frames = reader.info().frames(), tries = std::min(kTries, frames);
  std::array<std::vector<double>, 3> seen;  // middle across, down, size
  for (std::size_t k = 0; k < tries; ++k) {
    if (task.cancelled()) return cancelled();
    const std::size_t index = (2 * k + 1) * frames / (2 * tries);
    if (auto set = reader.seekBefore(index); !set) return fail(set.error());
    auto frame = reader.next(Pixels::Colour, index);
    if (!frame) return fail(frame.error());
    if (!*frame) continue;
    auto look = lookFromBenchEnd(*finder, *pose, (*frame)->picture, from_head, lifter, bar);
    if (!look) return fail(look.error());
    if (*look) {
      seen[0].push_back((*look)->region.centre.x);
      seen[1].push_back((*look)->region.centre.y);
      seen[2].push_back((*look)->region.size_px);
    }
    task.report(kQuickShare * static_cast<double>(k + 1) / static_cast<double>(tries));
  }
  const double turn = from_head ? kPi : 0.0;
  std::vector<Look> looks;
  if (seen[0].empty()) return looks;
  const PoseRegion region{{middleOf(seen[0]), middleOf(seen[1])}, middleOf(seen[2]), turn};
  constexpr double kEvery_s = 0.3;
  for (std::size_t i = 0; i < frames; ++i)
    if (const double t = reader.info().times_s[i]; looks.empty() || t - looks.back().t_s >= kEvery_s)
      looks.push_back({i, t, region});
  return looks;
}

// Where to look in a frame: smoothed over about a second around it. Where the quick look lost the lifter, the bar
// leads: the body is as large and as far below it as in all other looks.
std::optional<PoseRegion> smoothed(const std::vector<Look>& looks, const BarTrace& bar, std::size_t frame,
                                   const BodyModel& body) {
  const double reach = kSmooth_s / 2 + 1e-6;
  const auto near = [&](const Look& l) { return std::abs(l.t_s - bar.times_s[frame]) <= reach; };
  const bool led = std::none_of(looks.begin(), looks.end(), near);
  const auto place = barAt(bar, frame);
  if (led && !place) return std::nullopt;
  std::array<std::vector<double>, 4> v;
  std::optional<double> about;
  for (const Look& l : looks) {
    if (!led && !near(l)) continue;
    const auto then = barAt(bar, l.frame);
    if (led && !then) continue;
    // A body with the bar in its hands stays where it is while the bar goes up.
    const PixelPoint centre = led && !body.inHands() ? l.region.centre - *then + *place : l.region.centre;
    if (!about) about = l.region.turn_rad;
    v[0].push_back(centre.x);
    v[1].push_back(centre.y);
    v[2].push_back(l.region.size_px);
    v[3].push_back(*about + std::remainder(l.region.turn_rad - *about, 2 * kPi));
  }
  if (v[0].empty()) return std::nullopt;
  return PoseRegion{{middleOf(v[0]), middleOf(v[1])}, middleOf(v[2]), middleOf(v[3])};
}

// Where the lifter is in all looks: what moves there is not the camera.
// `across`: the bar lies across the picture and reaches out further.
std::vector<RoomWatch::Lifter> lifterIn(const std::vector<Look>& looks, bool across) {
  std::vector<RoomWatch::Lifter> lifter;
  for (const Look& l : looks)
    lifter.push_back({l.region.centre, (across ? 0.6 : 0.4) * l.region.size_px, 0.56 * l.region.size_px});
  return lifter;
}

// Frames for the thorough look: eight a second while the bar moves, few while it rests.
std::vector<std::size_t> worthLooking(const BarTrace& bar, std::size_t first, std::size_t last) {
  const double still_px = kStill_share * bar.rim.radius_px;
  const auto moves = [&](std::size_t i) {
    for (std::size_t k = i; k <= last && bar.times_s[k] < bar.times_s[i] + kMovingWithin_s; ++k)
      if (!bar.plate[i] || !bar.plate[k] || length(bar.plate[k]->place - bar.plate[i]->place) > still_px) return true;
    for (std::size_t k = i + 1; k-- > first && bar.times_s[k] > bar.times_s[i] - kMovingWithin_s;)
      if (!bar.plate[k] || length(bar.plate[k]->place - bar.plate[i]->place) > still_px) return true;
    return false;
  };
  std::vector<std::size_t> frames;
  for (std::size_t i = first; i <= last; ++i) {
    if (!frames.empty()) {
      const double since = bar.times_s[i] - bar.times_s[frames.back()] + 1e-6;
      if (since < kThoroughEvery_s || (since < kRestingLooks_s && !moves(i))) continue;
    }
    frames.push_back(i);
  }
  return frames;
}

// The thorough look at the frames worth it, where the quick one said.
Result<std::vector<Sighting>> thoroughPass(FrameReader& reader, const std::vector<Look>& looks, const BarTrace& bar,
                                           std::size_t first, std::size_t last, Task& task,
                                           const std::function<void(const Frame&)>& also, const BodyModel& body,
                                           const std::optional<BarOverhead>& overhead = {}) {
  std::vector<Sighting> sightings;
  if (looks.empty()) return sightings;
  std::vector<PoseReader> readers;
  for (std::size_t k = 0; k < kWorkers; ++k) {
    auto made = shippedReader(Care::Thorough, PoseReader::Outlines::Yes);
    if (!made) return fail(made.error());
    readers.push_back(std::move(*made));
  }
  const std::vector<std::size_t> wanted = worthLooking(bar, first, last);
  if (auto set = reader.seekBefore(wanted.front()); !set) return fail(set.error());
  std::size_t decoded = 0;
  const bool across = bar.rim.radius_px <= 0;  // nobody traced one
  RoomWatch room(lifterIn(looks, across));
  struct Wanted {
    Frame frame;
    CameraMove camera;
  };
  const auto highest = body.lying && !across ? highestOf(bar, first, last) : std::nullopt;
  const auto shownOf = [&](const cv::Mat& picture, const PoseRegion& region) {
    if (overhead) return withoutWhoStandsBehind(picture, *overhead);
    if (!highest) return picture;
    const double head = region.turn_rad > 0 ? 1 : -1;
    return withoutSpotter(picture, behindTheHead(*highest, bar.rim.radius_px / kRim_m, head), head);
  };
  // The next frames are decoded, and held against the room, while the network looks at these.
  const auto decode = [&]() -> Result<std::vector<Wanted>> {
    std::vector<Wanted> frames;
    while (frames.size() < kWorkers && decoded < wanted.size()) {
      auto next = reader.next(Pixels::Colour, wanted[decoded]);
      if (!next) return fail(next.error());
      if (!*next) {
        decoded = wanted.size();
        break;
      }
      while (decoded < wanted.size() && wanted[decoded] <= (*next)->index) ++decoded;
      const CameraMove camera = room.look((*next)->picture);
      if (also) also(**next);
      frames.push_back({std::move(**next), camera});
    }
    return frames;
  };
  auto frames = decode();
  while (frames && !frames->empty()) {
    if (task.cancelled()) return cancelled();
    auto upcoming = std::async(std::launch::async, decode);
    std::vector<std::optional<Result<PoseReading>>> readings(frames->size());
    cv::parallel_for_(
        {0, static_cast<int>(frames->size())},
        [&](const cv::Range& range) {
          for (int i = range.start; i < range.end; ++i) {
            const auto k = static_cast<std::size_t>(i);
            const Frame& frame = (*frames)[k].frame;
            if (const auto region = smoothed(looks, bar, frame.index, body))
              readings[k] = readers[k].read(shownOf(frame.picture, *region), *region);
          }
        },
        static_cast<double>(frames->size()));
    for (std::size_t k = 0; k < readings.size(); ++k) {
      if (!readings[k]) continue;
      if (!*readings[k]) return fail(readings[k]->error());
      if ((*readings[k])->somebody())
        sightings.push_back({(*frames)[k].frame.index, std::move(**readings[k]), (*frames)[k].camera});
    }
    task.report(kQuickShare + (1 - kQuickShare) * static_cast<double>(frames->back().frame.index - first) /
                                  static_cast<double>(last - first + 1));
    frames = upcoming.get();
  }
  if (!frames) return fail(frames.error());
  return sightings;
}

}  // namespace

std::optional<PoseRegion> regionUnder(const BarTrace& bar, std::size_t frame, const BodyModel& body) {
  constexpr double kHipBelow_m = 0.42, kSize_m = 2.3, kFeetStand_m = 0.15;
  const auto place = barAt(bar, frame);
  const double metre_px = bar.rim.radius_px / kRim_m;
  if (!place || metre_px <= 0) return std::nullopt;
  double highest_y = place->y, lowest_y = place->y;
  for (const auto& p : bar.plate)
    if (p) {
      highest_y = std::min(highest_y, p->place.y);
      lowest_y = std::max(lowest_y, p->place.y);
    }
  const double from_rest_px = body.overhead ? lowest_y - place->y : place->y - highest_y;
  if (from_rest_px > kFeetStand_m * metre_px) return std::nullopt;
  constexpr double kHipAbove_m = 0.1;  // of a bar at lockout, in hanging hands
  const double below_m = body.hangs() ? -kHipAbove_m : kHipBelow_m;
  return PoseRegion{*place + PixelPoint{0, below_m * metre_px}, kSize_m * metre_px, 0};
}

Result<std::vector<Sighting>> sightBody(FrameReader& reader, const BarTrace& bar, std::size_t first, std::size_t last,
                                        Task& task, const std::function<void(const Frame&)>& also,
                                        const BodyModel& body, const std::optional<PointedAt>& lifter) {
  JIB_ASSERT(first <= last && last < reader.info().frames() && bar.plate.size() == reader.info().frames());
  // The bar is the lifter's; only without one are they told from others by where they are.
  const bool bar_tells = bar.rim.radius_px > 0;
  const std::optional<PointedAt> nobody;
  auto looks = body.lying ? lyingPass(reader, bar, first, last, task)
                          : QuickPass(reader, bar, body, bar_tells ? nobody : lifter).run(first, last, task);
  if (!looks) return fail(looks.error());
  return thoroughPass(reader, *looks, bar, first, last, task, also, body);
}

Result<std::vector<Sighting>> sightFromBenchEnd(FrameReader& reader, bool from_head, Task& task,
                                                const std::optional<PointedAt>& lifter,
                                                const std::optional<BarOverhead>& bar) {
  auto looks = benchEndPass(reader, from_head, task, lifter, bar);
  if (!looks) return fail(looks.error());
  BodyModel body;
  body.lying = true;
  const std::size_t frames = reader.info().frames();
  BarTrace nowhere;
  nowhere.times_s = reader.info().times_s;
  nowhere.plate.resize(frames);
  nowhere.end.resize(frames);
  return thoroughPass(reader, *looks, nowhere, 0, frames - 1, task, {}, body, bar);
}

}  // namespace jib::tracing
