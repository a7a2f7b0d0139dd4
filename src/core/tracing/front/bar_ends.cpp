// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/bar_ends.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/median.h"
#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

constexpr double kWide_m = 0.12, kTall_m = 0.12;  // of an end's picture

}  // namespace

// The same place brought to the middle of the sleeve: across the bar, a band as thick as one that stands before the
// room more than what lies above and below it.
PixelPoint onTheSleeve(const cv::Mat& grey, const cv::Mat& room_grey, PixelPoint end, double inwards, double metre_px) {
  constexpr double kReach_m = 0.07, kLong_m = 0.10, kThin_m = 0.010, kThick_m = 0.030;  // half thicknesses
  const int reach = static_cast<int>(std::lround(kReach_m * metre_px)),
            room = reach + static_cast<int>(0.07 * metre_px);
  const int wide = std::max(5, static_cast<int>(kLong_m * metre_px)) | 1;
  const PixelPoint middle = end + PixelPoint{inwards * (wide / 2 + 2), 0};
  if (middle.x < wide || middle.x > grey.cols - wide || middle.y < room + 2 || middle.y > grey.rows - room - 2)
    return end;
  cv::Mat strip, rows;
  cv::absdiff(patch(grey, middle, wide, 2 * room + 1), patch(room_grey, middle, wide, 2 * room + 1), strip);
  cv::reduce(strip, rows, 1, cv::REDUCE_AVG, CV_32F);
  const auto mean = [&](double from, double to) {
    const int a = std::max(0, static_cast<int>(std::lround(from)) + room),
              b = std::min(rows.rows, static_cast<int>(std::lround(to)) + room);
    double sum = 0;
    for (int k = a; k < b; ++k) sum += rows.at<float>(k, 0);
    return b > a ? sum / (b - a) : 0.0;
  };
  double best = 6, at = 0;  // grey levels that a sleeve stands out by, at least
  for (double c = -reach; c <= reach; c += 0.5)
    for (double h = std::max(1.5, kThin_m * metre_px); h <= kThick_m * metre_px; h += 0.5) {
      const double in = mean(c - h, c + h), above = in - mean(c - 2.2 * h, c - h),
                   below = in - mean(c + h, c + 2.2 * h);
      const double stands = std::min(above, below);
      if (stands > best) {
        best = stands;
        at = c;
      }
    }
  return end + PixelPoint{0, at};
}

cv::Mat roomAbout(const cv::Mat& high, const cv::Mat& low, PixelPoint end, PixelPoint went) {
  const int half = std::clamp(static_cast<int>(std::lround(end.y + went.y / 2)), 1, high.rows - 1);
  cv::Mat room = high.clone();
  low.rowRange(0, half).copyTo(room.rowRange(0, half));
  return room;
}

// The same place brought half-way between the sleeve's upper and lower edge, where what stands before the room falls to
// half: light from above makes one edge stand out more than the other.
PixelPoint betweenItsEdges(const cv::Mat& grey, const cv::Mat& room, PixelPoint end, double inwards, double metre_px) {
  constexpr double kLong_m = 0.05, kReach_m = 0.07, kThin_m = 0.03, kThick_m = 0.075, kStands_grey = 8;
  const int wide = std::max(3, static_cast<int>(kLong_m * metre_px)) | 1,
            reach = std::max(3, static_cast<int>(kReach_m * metre_px)), tall = 2 * reach + 1;
  const PixelPoint middle = end + PixelPoint{inwards * (wide / 2 + 2), 0};
  if (middle.x < wide || middle.x > grey.cols - wide || middle.y < tall || middle.y > grey.rows - tall) return end;
  cv::Mat apart, rows;
  cv::absdiff(patch(grey, middle, wide, tall), patch(room, middle, wide, tall), apart);
  cv::reduce(apart, rows, 1, cv::REDUCE_AVG, CV_32F);
  const auto stands = [&](int k) { return static_cast<double>(rows.at<float>(k, 0)); };
  const double level =
      median({stands(reach - 2), stands(reach - 1), stands(reach), stands(reach + 1), stands(reach + 2)});
  if (level < kStands_grey) return end;
  const auto edge = [&](int step) -> std::optional<double> {
    for (int k = reach; k >= 0 && k < tall; k += step)
      if (stands(k) < level / 2) {
        const double inner = stands(k - step), share = (inner - level / 2) / std::max(1e-6, inner - stands(k));
        return k - step + step * share;
      }
    return std::nullopt;
  };
  const auto upper = edge(-1), lower = edge(1);
  if (!upper || !lower || *lower - *upper < kThin_m * metre_px || *lower - *upper > kThick_m * metre_px) return end;
  return end + PixelPoint{0, (*upper + *lower) / 2 - reach};
}

// The same place brought to where the sleeve ends: along it, what stands before the room falls to half. The search
// above looks at patches, and the last patch that still moves reaches beyond the end.
PixelPoint atTheTip(const cv::Mat& grey, const cv::Mat& room, PixelPoint end, double inwards, double metre_px) {
  constexpr double kInside_m = 0.09, kOutside_m = 0.05, kSure_m = 0.04, kHalfTall_m = 0.012, kStands_grey = 8;
  const int inside = static_cast<int>(kInside_m * metre_px), outside = static_cast<int>(kOutside_m * metre_px);
  const int tall = std::max(3, static_cast<int>(2 * kHalfTall_m * metre_px)) | 1, wide = inside + outside + 1;
  constexpr int kFewest = 8;  // columns; a bar that small has no end to speak of
  if (wide < kFewest) return end;
  const PixelPoint middle = end + PixelPoint{inwards * (inside - outside) / 2.0, 0};
  if (middle.x < wide || middle.x > grey.cols - wide || middle.y < tall || middle.y > grey.rows - tall) return end;
  cv::Mat apart, columns;
  cv::absdiff(patch(grey, middle, wide, tall), patch(room, middle, wide, tall), apart);
  cv::reduce(apart, columns, 0, cv::REDUCE_AVG, CV_32F);
  // From the inside out, whichever way that is in the picture.
  std::vector<double> stands(static_cast<std::size_t>(wide));
  for (int k = 0; k < wide; ++k)
    stands[static_cast<std::size_t>(k)] = columns.at<float>(0, inwards > 0 ? wide - 1 - k : k);
  const auto sure = static_cast<std::ptrdiff_t>(kSure_m * metre_px);
  const double level = median(std::vector<double>(stands.begin(), stands.begin() + std::max<std::ptrdiff_t>(sure, 3)));
  if (level < kStands_grey) return end;
  constexpr std::size_t kStaysLow = 3;
  for (std::size_t k = 1; k + kStaysLow < stands.size(); ++k) {
    const auto low = [&](std::size_t j) { return stands[j] < level / 2; };
    bool falls = true;
    for (std::size_t j = k; j < k + kStaysLow; ++j) falls = falls && low(j);
    if (!falls || low(k - 1)) continue;
    const double share = (stands[k - 1] - level / 2) / std::max(1e-6, stands[k - 1] - stands[k]);
    // Column k - 1 + share, counted from the inside; the end itself is column `inside`.
    return end - PixelPoint{inwards * (static_cast<double>(k) - 1 + share - inside), 0};
  }
  return end;
}

EndFollower::EndFollower(const cv::Mat& grey, cv::Mat room, PixelPoint end, double inwards, double metre_px)
    : inwards_(inwards), metre_px_(metre_px), room_(std::move(room)) {
  wide_ = std::max(9, static_cast<int>(kWide_m * metre_px)) | 1;
  tall_ = std::max(9, static_cast<int>(kTall_m * metre_px)) | 1;
  alsoLooksLike(grey, end);
}

void EndFollower::alsoLooksLike(const cv::Mat& grey, PixelPoint end) {
  looks_.push_back(before(grey, end + middle(), wide_, tall_));
}

std::optional<EndFollower::Found> EndFollower::find(const cv::Mat& grey, PixelPoint expected) const {
  constexpr double kAside_m = 0.05, kUp_m = 0.07, kAlike = 0.6;
  const int x = std::max(2, static_cast<int>(kAside_m * metre_px_)),
            y = std::max(2, static_cast<int>(kUp_m * metre_px_));
  const PixelPoint about = expected + middle();
  if (about.x < wide_ || about.y < tall_ || about.x > grey.cols - wide_ || about.y > grey.rows - tall_)
    return std::nullopt;
  const cv::Mat now = before(grey, about, wide_ + 2 * x, tall_ + 2 * y);
  cv::Mat score;
  double best = 0;
  cv::Point at;
  for (const cv::Mat& look : looks_) {
    cv::Mat by_look;
    double peak = 0;
    cv::Point there;
    cv::matchTemplate(now, look, by_look, cv::TM_CCOEFF_NORMED);
    cv::minMaxLoc(by_look, nullptr, &peak, nullptr, &there);
    if (peak <= best) continue;
    best = peak;
    at = there;
    score = by_look;
  }
  if (best < kAlike) return std::nullopt;
  const PixelPoint off = peakNear(score, at) - PixelPoint{static_cast<double>(x), static_cast<double>(y)};
  return Found{expected + off, best};
}

PixelPoint EndFollower::middle() const {
  return {inwards_ * 0.3 * kWide_m * metre_px_, 0};
}

// What differs from the room by more than a film's noise.
cv::Mat EndFollower::before(const cv::Mat& grey, PixelPoint about, int width, int height) const {
  constexpr double kNoise_grey = 8;
  cv::Mat apart;
  cv::absdiff(patch(grey, about, width, height), patch(room_, about, width, height), apart);
  cv::subtract(apart, cv::Scalar(kNoise_grey), apart);
  return apart;
}

void holdApart(std::array<std::optional<PixelPoint>, 2>& ends, const std::array<double, 2>& alike,
               const LooksLong& looks_long, double give_px) {
  if (!ends[0] || !ends[1]) return;
  const double apart_px = looks_long.at((ends[0]->y + ends[1]->y) / 2);
  if (std::abs(ends[1]->x - ends[0]->x - apart_px) <= give_px) return;
  if (alike[0] > alike[1])
    ends[1]->x = ends[0]->x + apart_px;
  else
    ends[0]->x = ends[1]->x - apart_px;
}

}  // namespace jib::tracing
