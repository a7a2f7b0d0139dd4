// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/bar_end.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/base/result.h"

namespace jib::tracing {
namespace {

// A sleeve is 50 mm thick and the rim 450 mm, so the end's radius is 0.111 rims, a little more as it is nearer.
constexpr double kSleeveOverRim = 50.0 / 450.0;
constexpr double kRing = kSleeveOverRim * RimTrack::kHubRadius * 1.1;  // px of a hub picture
// The sleeve stands out of the outermost plate by a hand's breadth at least: less is a mark on the plate itself.
constexpr double kLeastLead = 0.03;
constexpr double kLeastCollar = 0.015;  // a collar is some 5 cm thick
constexpr double kMostTurned = 0.45;   // tangent of the camera's turn away from the bar: beyond this it is no side view
constexpr double kUsualFocal = 0.83;   // over the picture's longer side
constexpr double kWidestFocal = 0.58;  // of the wide lens a phone has as well
constexpr std::size_t kMostFrames = 160;
constexpr std::size_t kLaidOver = 55;  // of them are enough to see which lead is sharp
constexpr std::size_t kFewest = 12;
constexpr int kMargin = static_cast<int>(kRing) + 4;

struct Spot {
  PixelPoint offset;  // px in the clip, from the rim's centre
  PixelPoint plate;   // the rim's centre relative to the middle of the picture
  double weight;
};

constexpr std::size_t kRays = 24;

// A ring of one size in a hub picture: the slope of brightness across it, ray by ray, at a place.
class Ring {
 public:
  explicit Ring(double radius) {
    for (std::size_t i = 0; i < kRays; ++i) {
      const double a = 2 * kPi * static_cast<double>(i) / kRays;
      way_[i] = {std::cos(a), std::sin(a)};
      inner_[i] = tap(way_[i] * (radius - 1.2));
      outer_[i] = tap(way_[i] * (radius + 1.2));
    }
  }

  // Strong when a disc of that size, darker or brighter than its surroundings, sits there. One-signed rings only: a
  // straight edge through the place has both signs and cancels. `outward`: only that side of the ring counts, the more
  // the longer it is; where the sleeve itself runs on there is no edge, at its end there is.
  float score(const cv::Mat_<float>& picture, int x, int y, PixelPoint outward = {}) const {
    const float* at = picture[y] + x;
    const double directed = std::min(1.0, length(outward) / kDirected);
    const PixelPoint way = directed > 0 ? outward * (1 / length(outward)) : PixelPoint{};
    double sum = 0, weights = 0;
    for (std::size_t i = 0; i < kRays; ++i) {
      const double w = 1 - directed + directed * std::max(0.0, dot(way, way_[i]));
      sum += w * std::clamp(value(at, inner_[i]) - value(at, outer_[i]), -kMostSlope, kMostSlope);
      weights += w;
    }
    return static_cast<float>(std::abs(sum) / weights);
  }

 private:
  static constexpr double kDirected = 1.2 * kRing;  // px off the plate's middle from which the end shows its side
  static constexpr float kMostSlope = 80;
  struct Tap {
    int offset;
    float weight[4];
  };
  static Tap tap(PixelPoint p) {
    const double fx = std::floor(p.x), fy = std::floor(p.y);
    const auto tx = static_cast<float>(p.x - fx), ty = static_cast<float>(p.y - fy);
    return {static_cast<int>(fy) * RimTrack::kHubSide + static_cast<int>(fx),
            {(1 - tx) * (1 - ty), tx * (1 - ty), (1 - tx) * ty, tx * ty}};
  }
  static float value(const float* at, const Tap& t) {
    const float* p = at + t.offset;
    constexpr int kRow = RimTrack::kHubSide;
    return p[0] * t.weight[0] + p[1] * t.weight[1] + p[kRow] * t.weight[2] + p[kRow + 1] * t.weight[3];
  }

  std::array<PixelPoint, kRays> way_;
  std::array<Tap, kRays> inner_, outer_;
};

// The two sizes an end is looked for in.
const std::array<Ring, 2>& rings() {
  static const std::array<Ring, 2> kRings{Ring(0.92 * kRing), Ring(1.08 * kRing)};
  return kRings;
}

struct Hub {
  cv::Mat_<float> picture;
  cv::Mat_<float> moving;  // without what is painted on the plate: that stays in place over the clip, an end does not
  PixelPoint plate;        // the rim's centre relative to the middle of the clip's picture, in px of the hub picture
  double step;             // px of the clip to a px of the hub picture
};

// Hub pictures spread evenly over the heights the plate was seen at: a lifter stands most of the time, and what is
// painted on the plate and what stands before it look alike there.
std::vector<Hub> hubsOf(const std::vector<RimTrack::Seen>& seen, PixelPoint middle) {
  std::vector<const RimTrack::Seen*> with;
  for (const auto& s : seen)
    if (!s.hub.empty()) with.push_back(&s);
  if (with.empty()) return {};
  std::stable_sort(with.begin(), with.end(),
                   [](const auto* a, const auto* b) { return a->fit.centre.y < b->fit.centre.y; });
  const double lowest = with.front()->fit.centre.y;
  const double apart = (with.back()->fit.centre.y - lowest) / static_cast<double>(kMostFrames);
  std::vector<Hub> hubs;
  cv::Mat_<float> mean(RimTrack::kHubSide, RimTrack::kHubSide, 0.0f);
  double next = lowest;
  for (const auto* s : with) {
    if (s->fit.centre.y < next) continue;
    next = std::max(next + apart, s->fit.centre.y);
    const double step = s->fit.shape.radius_px / RimTrack::kHubRadius;
    Hub hub{{}, {}, (s->fit.centre - middle) * (1 / step), step};
    s->hub.convertTo(hub.picture, CV_32F);
    mean += hub.picture;
    hubs.push_back(std::move(hub));
  }
  mean /= static_cast<float>(hubs.size());
  for (Hub& hub : hubs) hub.moving = hub.picture - mean;
  return hubs;
}

// Where an end may be, for one lead: all hub pictures laid over each other as if shifted by it. What leads by so much
// is sharp there, everything else is smeared.
struct Focus {
  double ratio = 0;
  PixelPoint place;  // in the hub picture, from its middle, where the plate is at its mean place
  double score = 0;
};

// Where the bar's vanishing point may lie above or below the middle of the clip's picture, px, y down.
struct Heights {
  double least_px = -1e9, most_px = 1e9;
};

Heights heightsFrom(const std::optional<Convergence>& uprights, PixelPoint middle) {
  if (!uprights) return {};
  // Focal lengths spread by a seventh, and the height goes with their square; bars and floors are not quite level.
  constexpr double kLens = 0.28, kLevel = 0.05, kSigmas = 2.0;
  const double focal = kUsualFocal * 2 * std::max(middle.x, middle.y);
  const double height = -focal * focal * uprights->per_px;
  const double sigma = std::hypot(kLens * height, focal * focal * uprights->sigma_per_px, kLevel * focal);
  return {height - kSigmas * sigma, height + kSigmas * sigma};
}

// No end leads by more: a sleeve is 0.415 m long with its collar's groove, and how far away the plate is follows from
// its rim and the widest lens.
double mostLead(double rim_px, PixelPoint middle) {
  constexpr double kRim_m = 0.225, kSleeve_m = 0.42, kMost = 0.30;
  const double plate_m = kWidestFocal * 2 * std::max(middle.x, middle.y) * kRim_m / rim_px;
  const double end_m = plate_m - kSleeve_m;
  return end_m > 0 ? std::min(kMost, kSleeve_m / end_m) : kMost;
}

// `reach_px`: how far from the plate's middle. `whole`: the ring counts on all its sides.
struct Search {
  double least_ratio, most_ratio;
  double reach_px;
  bool whole;
  Heights heights;

  // A place that leads by `ratio` and lies `constant_y` below the plate's middle where that is the picture's.
  bool allows(double constant_y_px, double ratio) const {
    constexpr double kRead_px = 3;
    return -constant_y_px > heights.least_px * ratio - kRead_px && -constant_y_px < heights.most_px * ratio + kRead_px;
  }
};

Focus sharpest(const std::vector<Hub>& hubs, PixelPoint mean_plate, double ratio, double farthest,
               const Search& search) {
  constexpr int kSide = RimTrack::kHubSide;
  cv::Mat_<float> sum(kSide, kSide, 0.0f);
  const std::size_t every = std::max<std::size_t>(1, hubs.size() / kLaidOver);
  std::size_t laid = 0;
  for (std::size_t i = 0; i < hubs.size(); i += every, ++laid) {
    const Hub& hub = hubs[i];
    const PixelPoint shift = (hub.plate - mean_plate) * ratio;
    const cv::Matx23d map(1, 0, shift.x, 0, 1, shift.y);
    cv::Mat moved;
    cv::warpAffine(hub.moving, moved, map, {kSide, kSide}, cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_CONSTANT,
                   0);
    sum += moved;
  }
  sum /= static_cast<float>(laid);
  Focus best{ratio, {}, 0};
  for (int y = kMargin; y < kSide - kMargin; ++y)
    for (int x = kMargin; x < kSide - kMargin; ++x) {
      const PixelPoint place{x + 0.5 - kSide / 2.0, y + 0.5 - kSide / 2.0};
      if (length(place - mean_plate * ratio) > ratio * farthest || length(place) > search.reach_px) continue;
      if (!search.allows((place.y - mean_plate.y * ratio) * hubs.front().step, ratio)) continue;
      for (const Ring& ring : rings())
        if (const double score = ring.score(sum, x, y, search.whole ? PixelPoint{} : place); score > best.score) {
          best.score = score;
          best.place = place;
        }
    }
  return best;
}

// The best place in one hub picture near where the end should be.
std::optional<Spot> spotIn(const Hub& hub, const BarEndOffset& end, bool moving, bool whole) {
  constexpr int kReach = 4, kSide = RimTrack::kHubSide;
  constexpr double kLeastScore = 2;
  const PixelPoint expected = end.constant * (1 / hub.step) + hub.plate * end.ratio;
  const int cx = static_cast<int>(std::floor(expected.x + kSide / 2.0));
  const int cy = static_cast<int>(std::floor(expected.y + kSide / 2.0));
  if (cx < kMargin + kReach || cy < kMargin + kReach || cx >= kSide - kMargin - kReach ||
      cy >= kSide - kMargin - kReach)
    return std::nullopt;
  constexpr int kPatch = 2 * kReach + 1;
  std::array<double, kPatch * kPatch> scores{};
  double most = 0;
  for (int dy = -kReach; dy <= kReach; ++dy)
    for (int dx = -kReach; dx <= kReach; ++dx) {
      double score = 0;
      for (const Ring& ring : rings())
        score = std::max<double>(
            score, ring.score(moving ? hub.moving : hub.picture, cx + dx, cy + dy, whole ? PixelPoint{} : expected));
      scores[static_cast<std::size_t>((dy + kReach) * kPatch + dx + kReach)] = score;
      most = std::max(most, score);
    }
  if (most < kLeastScore) return std::nullopt;
  // Sub-pixel: centroid of the score's square above its foot.
  double sx = 0, sy = 0, sum = 0;
  for (int dy = -kReach; dy <= kReach; ++dy)
    for (int dx = -kReach; dx <= kReach; ++dx) {
      const double above =
          std::max(0.0, scores[static_cast<std::size_t>((dy + kReach) * kPatch + dx + kReach)] - 0.6 * most);
      sx += above * above * (cx + dx + 0.5);
      sy += above * above * (cy + dy + 0.5);
      sum += above * above;
    }
  const PixelPoint place{sx / sum - kSide / 2.0, sy / sum - kSide / 2.0};
  return Spot{place * hub.step, hub.plate * hub.step, most};
}

BarEndOffset fitted(const std::vector<Spot>& spots, const BarEndOffset& start, double reach_px) {
  BarEndOffset fit = start;
  for (int pass = 0; pass < 6; ++pass) {
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    double squares = 0;
    fit.frames = 0;
    for (const Spot& s : spots) {
      const PixelPoint miss = s.offset - fit.constant - s.plate * fit.ratio;
      if (length(miss) > reach_px) continue;
      ++fit.frames;
      squares += dot(miss, miss) / 2;
      const double w = s.weight;
      const Eigen::Vector3d jx(s.plate.x, 1, 0), jy(s.plate.y, 0, 1);
      normal += w * (jx * jx.transpose() + jy * jy.transpose());
      right += w * (jx * s.offset.x + jy * s.offset.y);
    }
    if (fit.frames < 4) return fit;
    const Eigen::Vector3d x = normal.ldlt().solve(right);
    fit.ratio = x(0);
    fit.constant = {x(1), x(2)};
    fit.sigma_px = std::sqrt(squares / fit.frames) / std::sqrt(fit.frames / 4.0) + 0.15;
  }
  return fit;
}

// Whether something elsewhere is as sharp: of a small or noisy plate no end can be told from its holes and letters
// then. Over 76 simulated films the best place was the end, or near it, wherever the next was below 0.8 of it, and
// something else wherever that was above 0.9.
bool isMatched(const Focus& best, const std::vector<Focus>& focuses, PixelPoint mean_plate) {
  constexpr double kElsewhere = 0.2, kMatches = 0.85;  // of the rim's radius; of the score
  const auto at = [&](const Focus& f) { return f.place - mean_plate * f.ratio; };
  return std::any_of(focuses.begin(), focuses.end(), [&](const Focus& f) {
    return length(at(f) - at(best)) > kElsewhere * RimTrack::kHubRadius && f.score > kMatches * best.score;
  });
}

// The best disc on the bar's line before the plate, measured over the clip.
std::optional<BarEndOffset> found(const std::vector<Hub>& hubs, double farthest, const Search& search) {
  PixelPoint mean_plate;
  double lowest = 1e9, highest = -1e9;
  for (const Hub& hub : hubs) {
    mean_plate = mean_plate + hub.plate * (1 / static_cast<double>(hubs.size()));
    lowest = std::min(lowest, hub.plate.y);
    highest = std::max(highest, hub.plate.y);
  }
  if (highest - lowest < 0.8 * RimTrack::kHubRadius) return std::nullopt;
  // Leads closer than this cannot be told apart over the bar's travel.
  const double apart = std::max(0.003, 1.0 / (highest - lowest));
  const int leads = static_cast<int>(std::ceil((search.most_ratio - search.least_ratio) / apart));
  std::vector<Focus> focuses(static_cast<std::size_t>(std::max(leads, 0)));
  cv::parallel_for_(cv::Range(0, leads), [&](const cv::Range& range) {
    for (int k = range.start; k < range.end; ++k)
      focuses[static_cast<std::size_t>(k)] =
          sharpest(hubs, mean_plate, search.least_ratio + k * apart, farthest, search);
  });
  Focus best;
  for (const Focus& f : focuses)
    if (f.score > best.score) best = f;
  if (best.score <= 0 || isMatched(best, focuses, mean_plate)) return std::nullopt;
  const double step = hubs.front().step, reach = std::max(1.0, 0.03 * RimTrack::kHubRadius * step);
  const int fewest = static_cast<int>(0.4 * static_cast<double>(hubs.size()));
  // On a plain plate its picture as it is tells the place best, on a lettered one the picture without the letters.
  std::optional<BarEndOffset> surest;
  for (bool moving : {false, true}) {
    BarEndOffset end;
    end.ratio = best.ratio;
    end.constant = (best.place - mean_plate * best.ratio) * step;
    // Twice: the first fit may start from a lead a step off.
    for (double wider : {2.0, 1.0}) {
      std::vector<Spot> spots;
      for (const Hub& hub : hubs)
        if (const auto spot = spotIn(hub, end, moving, search.whole)) spots.push_back(*spot);
      end = fitted(spots, end, wider * reach);
    }
    if (end.frames < fewest || end.ratio < search.least_ratio || end.ratio > search.most_ratio ||
        length(end.constant) > end.ratio * farthest * step || !search.allows(end.constant.y, end.ratio))
      continue;
    if (!surest || end.sigma_px < surest->sigma_px) surest = end;
  }
  return surest;
}

}  // namespace

std::optional<BarEndOffset> findBarEnd(const std::vector<RimTrack::Seen>& seen, PixelPoint middle,
                                       const std::optional<Convergence>& uprights) {
  const std::vector<Hub> hubs = hubsOf(seen, middle);
  if (hubs.size() < kFewest) return std::nullopt;
  const double farthest = kMostTurned * kUsualFocal * 2 * std::max(middle.x, middle.y) / hubs.front().step;
  const Heights heights = heightsFrom(uprights, middle);
  const double most = mostLead(hubs.front().step * RimTrack::kHubRadius, middle);
  if (auto end = found(hubs, farthest, {kLeastLead, most, RimTrack::kHubSide, false, heights})) return end;
  // An end that hides among the letters, or has the plate's own grey: what else lies on the bar's line, as the face of
  // a collar, tells the direction all the same.
  auto on_axis = found(hubs, farthest, {kLeastCollar, most, 0.5 * RimTrack::kHubRadius, true, heights});
  if (on_axis) on_axis->is_end = false;
  return on_axis;
}

}  // namespace jib::tracing
