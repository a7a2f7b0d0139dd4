// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/edge_plates.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/base/median.h"
#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

constexpr double kAlike = 0.03;  // heights of the columns of one plate

struct EdgePlates {
  struct Column {
    double x, middle_y, height;  // where the bar is high
  };
  std::array<std::vector<Column>, 2> side;  // the picture's left, right
};

// From what difference on something moved: in a dim room everything differs less, noise too.
double movedGrey(const cv::Mat& moved) {
  constexpr double kOfMost = 0.2, kLeast = 7, kMost = 16;
  constexpr float kTop_share = 0.02F;
  cv::Mat counts;
  const std::array<int, 1> channel{0}, bins{256};
  const std::array<float, 2> span{0, 256};
  const float* range = span.data();
  cv::calcHist(&moved, 1, channel.data(), {}, counts, 1, bins.data(), &range);
  float above = 0;
  int grey = 255;
  while (grey > 0 && above < kTop_share * static_cast<float>(moved.total())) above += counts.at<float>(grey--);
  return std::clamp(kOfMost * grey, kLeast, kMost);
}

// placeAt   where the bar's line is expected where the bar is high, by side and by metres from its middle
// went      from there to where it is low, by side
// reach_m   how far from that line an edge may be
// give      by how much of itself a plate may look larger or smaller than metre_px says
template <class PlaceAt, class Went>
EdgePlates edgePlates(const cv::Mat& high, const cv::Mat& low, PlaceAt placeAt, Went went, double metre_px,
                      double rim_m, double reach_m, double give) {
  constexpr double kFrom_m = 0.58, kTo_m = 0.97;
  constexpr int kRows = 3;
  const int reach = static_cast<int>(reach_m * metre_px);
  cv::Mat moved;
  cv::absdiff(high, low, moved);
  cv::blur(moved, moved, {3, 1});
  const double moved_grey = movedGrey(moved);
  // How far from `at` the outermost rows lie that moved, up (-1) or down; 0 where none did.
  const auto outermost = [&](PixelPoint at, int way) {
    const int x = static_cast<int>(at.x), y = static_cast<int>(std::lround(at.y - 0.5));
    const auto grey = [&](int k) { return static_cast<double>(moved.at<uchar>(y + way * k, x)); };
    for (int k = reach; k > kRows; --k) {
      bool edge = true;
      for (int j = 0; j < kRows; ++j) edge = edge && grey(k - j) > moved_grey;
      if (!edge) continue;
      // The edge is where the difference is half of what it is inside.
      const double level = grey(k - kRows) / 2;
      int last = k;
      while (last > k - kRows && grey(last) < level) --last;
      const double inside = grey(last), beyond = grey(last + 1);
      const double share = inside > beyond ? std::clamp((inside - level) / (inside - beyond), 0.0, 1.0) : 0.5;
      return last + share + way * (y + 0.5 - at.y);
    }
    return 0.0;
  };
  EdgePlates out;
  for (std::size_t k = 0; k < 2; ++k)
    for (double m = kFrom_m; m < kTo_m; m += 1 / metre_px) {
      const PixelPoint at = placeAt(k, m), then = at + went(k);
      const auto inside = [&](PixelPoint p) {
        return p.x > 3 && p.x < high.cols - 4 && p.y - reach > 3 && p.y + reach < high.rows - 4;
      };
      if (!inside(at) || !inside(then)) continue;
      const double up = outermost(at, -1);
      double down = outermost(then, 1);
      // Where the plate went further than it reaches, it is seen whole where the bar is high: a shadow on the floor, or
      // a way that is not known to the pixel, then adds nothing.
      if (length(went(k)) > reach + rim_m / 2 * metre_px)
        if (const double below = outermost(at, 1); below > 0) down = std::min(down, below);
      const double height = up + down;
      if (up > 0 && down > 0 && std::abs(height / (rim_m * metre_px) - 1) < give)
        out.side[k].push_back({at.x, at.y + (down - up) / 2, height});
    }
  return out;
}

// A plate's edge is a bow seen edge on, and smaller plates lie outside: the tallest columns are its height. nullopt
// where too few agree.
std::optional<double> heightOf(const std::vector<EdgePlates::Column>& columns) {
  constexpr std::ptrdiff_t kFewest = 5;
  if (static_cast<std::ptrdiff_t>(columns.size()) < kFewest) return std::nullopt;
  std::vector<double> tall;
  for (const auto& c : columns) tall.push_back(c.height);
  std::sort(tall.begin(), tall.end());
  const double height = tall[tall.size() * 3 / 4];
  const auto alike =
      std::count_if(tall.begin(), tall.end(), [&](double h) { return std::abs(h / height - 1) < kAlike; });
  return alike >= kFewest ? std::optional(height) : std::nullopt;
}

// The middle of the columns that are as high as the plate.
std::optional<PlateSeen> plateIn(const std::vector<EdgePlates::Column>& columns, double rim_m) {
  const auto height = heightOf(columns);
  if (!height) return std::nullopt;
  std::vector<double> x, y;
  for (const auto& c : columns)
    if (std::abs(c.height / *height - 1) < kAlike) {
      x.push_back(c.x);
      y.push_back(c.middle_y);
    }
  const auto [left, right] = std::minmax_element(x.begin(), x.end());
  const double metre_px = *height / rim_m, wide_m = (*right - *left + 1) / metre_px;
  return PlateSeen{{median(x), median(y)}, metre_px, wide_m};
}

}  // namespace

std::optional<double> levelByPlates(Apart& apart, const cv::Mat& high, const cv::Mat& low, double metre_px,
                                    double rim_m) {
  constexpr double kReach_m = 0.45;
  const EdgePlates plates = edgePlates(
      high, low, [&](std::size_t k, double m) { return apart.hands + apart.line * ((k == 0 ? -m : m) * metre_px); },
      [&](std::size_t) { return apart.went; }, metre_px, rim_m, kReach_m, apart.metre_off);
  const auto left = plateIn(plates.side[0], rim_m), right = plateIn(plates.side[1], rim_m);
  if (!left || !right) return std::nullopt;
  const PixelPoint along = right->hub - left->hub, off = apart.hands - left->hub;
  apart.line = along * (1 / length(along));
  apart.hands = left->hub + apart.line * (off.x * apart.line.x + off.y * apart.line.y);
  return (left->metre_px + right->metre_px) / 2;
}

std::optional<PlatesSeen> platesAlong(const std::array<BarSearch, 2>& search, const cv::Mat& high, const cv::Mat& low,
                                      double metre_px, double rim_m) {
  constexpr double kReach_m = 0.32, kGive = 0.2;
  const EdgePlates plates = edgePlates(
      high, low, [&](std::size_t k, double m) { return search[k].placeAt(m); },
      [&](std::size_t k) { return search[k].went(); }, metre_px, rim_m, kReach_m, kGive);
  std::vector<EdgePlates::Column> both = plates.side[0];
  both.insert(both.end(), plates.side[1].begin(), plates.side[1].end());
  const auto height = heightOf(both);
  if (!height) return std::nullopt;
  PlatesSeen out{*height / rim_m, {plateIn(plates.side[0], rim_m), plateIn(plates.side[1], rim_m)}};
  // Something behind a plate that has its colour cuts it short: one that looks much smaller than both together say is
  // as large as the other and, as high as that goes, level with it.
  constexpr double kShort = 0.94;
  for (std::size_t k = 0; k < 2; ++k)
    if (auto& one = out.side[k], &other = out.side[1 - k]; one && other && one->metre_px < kShort * other->metre_px)
      one = PlateSeen{{one->hub.x, other->hub.y}, other->metre_px, other->wide_m};
  return out;
}

}  // namespace jib::tracing
