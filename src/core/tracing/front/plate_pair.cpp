// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/plate_pair.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/median.h"
#include "core/tracing/room/patch.h"

namespace jib::tracing {
namespace {

constexpr double kAside_m = 0.09, kUp_m = 0.3,
                 kDown_m = 0.65;  // from where they are high, in which they are looked for
constexpr double kSeen = 0.75;    // of how alike they are on the whole

// How much both plates look like themselves so far below where they are high, in one frame, and where they are then.
struct Row {
  float alike = -1;
  std::array<cv::Point, 2> at;  // in the score of each
};

// Small pictures do for telling how far down it is; where it is there, the picture as it is.
class Pair {
 public:
  Pair(const cv::Mat& high, const cv::Mat& low, const std::array<PlateSeen, 2>& plates, double rim_m)
      : plates_(plates), metre_px_(std::max(plates[0].metre_px, plates[1].metre_px)) {
    constexpr double kBeyond = 1.12, kSmall_px = 110;  // the edge is seen against what is behind it
    shrunk_ = std::min(1.0, kSmall_px / metre_px_);
    aside_ = std::max(2, cvRound(kAside_m * metre_px_ * shrunk_));
    up_ = std::max(2, cvRound(kUp_m * metre_px_ * shrunk_));
    down_ = std::max(2, cvRound(kDown_m * metre_px_ * shrunk_));
    const cv::Mat small_high = small(high), small_low = small(low);
    for (std::size_t k = 0; k < 2; ++k) {
      const int across = cvRound(wide(plates[k])) | 1, tall = cvRound(kBeyond * rim_m * plates[k].metre_px) | 1;
      full_[k] = patch(high, plates[k].hub, across, tall);
      const cv::Size size(cvRound(across * shrunk_) | 1, cvRound(tall * shrunk_) | 1);
      looks_[k] = patch(small_high, plates[k].hub * shrunk_, size.width, size.height);
      mask_[k] = plateOnly(looks_[k], patch(small_low, plates[k].hub * shrunk_, size.width, size.height));
    }
  }
  std::size_t rows() const { return static_cast<std::size_t>(up_ + down_ + 1); }
  double rowsAMetre() const { return metre_px_ * shrunk_; }

  std::vector<Row> look(const cv::Mat& grey) const {
    constexpr double kTilts_m = 0.15;   // six degrees of a bar's length between the plates
    constexpr float kCrooked = 0.012F;  // a row: a bar is level rather than not
    const int tilts = std::max(1, cvRound(kTilts_m * rowsAMetre() / 2));
    const cv::Mat now = small(grey);
    const std::array<cv::Mat, 2> score{alikeIn(now, 0), alikeIn(now, 1)};
    std::vector<Row> out(rows());
    for (int row = tilts; row < score[0].rows - tilts; ++row)
      for (int tilt = -tilts; tilt <= tilts; ++tilt)  // the left one may be a little higher than the right, or lower
        for (int column = 0; column < score[0].cols; ++column) {
          const float sum = (score[0].at<float>(row + tilt, column) + score[1].at<float>(row - tilt, column)) / 2 -
                            kCrooked * static_cast<float>(std::abs(tilt));
          if (Row& best = out[static_cast<std::size_t>(row)]; sum > best.alike)
            best = {sum, {cv::Point(column, row + tilt), cv::Point(column, row - tilt)}};
        }
    return out;
  }

  // To a fraction of a pixel.
  std::array<PixelPoint, 2> hubs(const cv::Mat& grey, const Row& row) const {
    const int give = 1 + cvCeil(1 / shrunk_);
    const cv::Mat now = small(grey);
    std::array<PixelPoint, 2> out;
    for (std::size_t k = 0; k < 2; ++k) {
      const cv::Point at_k = byItself(alikeIn(now, k), row.at[k]);
      const PixelPoint about =
          plates_[k].hub +
          PixelPoint{static_cast<double>(at_k.x - aside_), static_cast<double>(at_k.y - up_)} * (1 / shrunk_);
      cv::Mat score;
      cv::matchTemplate(patch(grey, about, full_[k].cols + 2 * give, full_[k].rows + 2 * give), full_[k], score,
                        cv::TM_CCOEFF_NORMED);
      cv::Point at;
      cv::minMaxLoc(score, nullptr, nullptr, nullptr, &at);
      out[k] = about + peakNear(score, at) - PixelPoint{static_cast<double>(give), static_cast<double>(give)};
    }
    return out;
  }

 private:
  // A bar that is pressed crooked: one plate clearly looks more like itself a little higher or lower than both do
  // together.
  cv::Point byItself(const cv::Mat& score, cv::Point together) const {
    constexpr double kCrooked_m = 0.08;
    constexpr int kAside = 2;
    constexpr double kClearly = 0.03;
    const int reach = cvRound(kCrooked_m * rowsAMetre());
    const cv::Rect near = cv::Rect(together.x - kAside, together.y - reach, 2 * kAside + 1, 2 * reach + 1) &
                          cv::Rect({0, 0}, score.size());
    double best = 0;
    cv::Point at;
    cv::minMaxLoc(score(near), nullptr, &best, nullptr, &at);
    return best > static_cast<double>(score.at<float>(together)) + kClearly ? at + near.tl() : together;
  }
  static double wide(const PlateSeen& plate) {
    constexpr double kBeside_m = 0.03;
    return (plate.wide_m + 2 * kBeside_m) * plate.metre_px;
  }
  cv::Mat small(const cv::Mat& grey) const {
    if (shrunk_ >= 1) return grey;
    cv::Mat out;
    cv::resize(grey, out, {}, shrunk_, shrunk_, cv::INTER_AREA);
    return out;
  }
  // What was there where the bar is high and is gone where it is low: the posts of a rack behind it stay.
  static cv::Mat plateOnly(const cv::Mat& high, const cv::Mat& low) {
    constexpr double kDiffers_grey = 12, kLeast_share = 0.12;
    cv::Mat differs;
    cv::absdiff(high, low, differs);
    cv::Mat mask = differs > kDiffers_grey;
    if (cv::countNonZero(mask) < kLeast_share * static_cast<double>(mask.total())) mask.setTo(255);
    return mask;
  }
  // 1 where every grey is as it was, 0 where they differ as two things do.
  cv::Mat alikeIn(const cv::Mat& now, std::size_t k) const {
    constexpr double kOther_grey = 45;
    // The middle of what is looked through lies below the hub where it may go further down than up.
    const PixelPoint middle = plates_[k].hub * shrunk_ + PixelPoint{0, (down_ - up_) / 2.0};
    cv::Mat score;
    cv::matchTemplate(patch(now, middle, looks_[k].cols + 2 * aside_, looks_[k].rows + up_ + down_), looks_[k], score,
                      cv::TM_SQDIFF, mask_[k]);
    score = cv::max(score, 0) / cv::countNonZero(mask_[k]);
    cv::sqrt(score, score);
    return 1 - score / kOther_grey;
  }

  std::array<PlateSeen, 2> plates_;
  double metre_px_, shrunk_ = 1;
  std::array<cv::Mat, 2> full_, looks_, mask_;
  int aside_ = 0, up_ = 0, down_ = 0;  // small pixels
};

// The way through all frames that looks most like the plates, no faster than a bar goes.
std::vector<std::size_t> likeliestWay(const std::vector<std::vector<Row>>& frames, const std::vector<double>& times_s,
                                      double rows_a_metre) {
  constexpr double kFastest_mps = 2.5, kCost_a_m = 0.6;
  const std::size_t rows = frames.front().size();
  std::vector<std::vector<std::size_t>> from(frames.size(), std::vector<std::size_t>(rows, 0));
  std::vector<double> sum(rows), before(rows);
  for (std::size_t r = 0; r < rows; ++r) before[r] = static_cast<double>(frames[0][r].alike);
  for (std::size_t i = 1; i < frames.size(); ++i) {
    const auto reach =
        static_cast<std::size_t>(2 + kFastest_mps * rows_a_metre * std::max(0.0, times_s[i] - times_s[i - 1]));
    for (std::size_t r = 0; r < rows; ++r) {
      double best = -1e9;
      for (std::size_t p = r > reach ? r - reach : 0; p < std::min(rows, r + reach + 1); ++p) {
        const double way_m = std::abs(static_cast<double>(p) - static_cast<double>(r)) / rows_a_metre;
        if (const double now = before[p] - kCost_a_m * way_m; now > best) {
          best = now;
          from[i][r] = p;
        }
      }
      sum[r] = best + static_cast<double>(frames[i][r].alike);
    }
    std::swap(sum, before);
  }
  std::vector<std::size_t> way(frames.size());
  way.back() = static_cast<std::size_t>(std::max_element(before.begin(), before.end()) - before.begin());
  for (std::size_t i = frames.size() - 1; i > 0; --i) way[i - 1] = from[i][way[i]];
  return way;
}

}  // namespace

Result<std::vector<Hubs>> followPlates(footage::FrameReader& reader, const cv::Mat& high, const cv::Mat& low,
                                       const std::array<PlateSeen, 2>& plates, double rim_m, Task& task) {
  const auto& info = reader.info();
  const Pair pair(high, low, plates, rim_m);
  std::vector<std::vector<Row>> seen;
  std::vector<double> times_s;
  std::vector<std::size_t> index;
  const auto each = [&](const auto& visit) -> Result<bool> {
    if (auto set = reader.seekBefore(0); !set) return fail(set.error());
    for (;;) {
      if (task.cancelled()) return cancelled();
      auto next = reader.next(footage::Pixels::Gray);
      if (!next) return fail(next.error());
      if (!*next) return true;
      visit(**next);
    }
  };
  const auto looked = each([&](const footage::Frame& frame) {
    seen.push_back(pair.look(frame.picture));
    times_s.push_back(frame.t_s);
    index.push_back(frame.index);
  });
  if (!looked) return fail(looked.error());
  std::vector<Hubs> out(info.frames());
  if (seen.empty()) return out;
  const auto way = likeliestWay(seen, times_s, pair.rowsAMetre());
  std::vector<double> alike;
  for (std::size_t i = 0; i < seen.size(); ++i) alike.push_back(static_cast<double>(seen[i][way[i]].alike));
  const double least = kSeen * median(alike);
  std::size_t k = 0;
  const auto placed = each([&](const footage::Frame& frame) {
    if (k >= index.size() || index[k] != frame.index) return;
    const Row& row = seen[k][way[k]];
    if (static_cast<double>(row.alike) >= least) out[frame.index] = pair.hubs(frame.picture, row);
    ++k;
  });
  if (!placed) return fail(placed.error());
  return out;
}

}  // namespace jib::tracing
