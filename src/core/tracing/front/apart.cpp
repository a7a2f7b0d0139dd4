// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/apart.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.5;

// A look that shows both straight arms under a level bar, the surest of them.
const Sighting* armsUp(const std::vector<Sighting>& sightings, double metre_px) {
  constexpr double kLevel_m = 0.12, kStraight_m = 0.50;  // of an arm of 0.57
  const Sighting* best = nullptr;
  double surest = 0;
  for (const Sighting& s : sightings) {
    double sure = 0;
    bool straight = true;
    for (const BodySide side : kSides) {
      const PixelPoint wrist = s.reading.place(PoseMark::Wrist, side),
                       shoulder = s.reading.place(PoseMark::Shoulder, side);
      sure += std::min(s.reading.sure(PoseMark::Wrist, side), s.reading.sure(PoseMark::Shoulder, side));
      straight = straight && shoulder.y - wrist.y > kStraight_m * metre_px;
    }
    const double tilt =
        s.reading.place(PoseMark::Wrist, BodySide::Left).y - s.reading.place(PoseMark::Wrist, BodySide::Right).y;
    if (!straight || std::abs(tilt) > kLevel_m * metre_px || sure <= surest || sure < 2 * kSeen) continue;
    surest = sure;
    best = &s;
  }
  return best;
}

}  // namespace

std::optional<PixelPoint> middleOf(const Sighting& s, PoseMark mark) {
  if (s.reading.sure(mark, BodySide::Left) < kSeen || s.reading.sure(mark, BodySide::Right) < kSeen)
    return std::nullopt;
  return (s.reading.place(mark, BodySide::Left) + s.reading.place(mark, BodySide::Right)) * 0.5;
}

std::optional<Apart> farthestApart(const std::vector<Sighting>& sightings, double metre_px) {
  struct Look {
    const Sighting* s;
    PixelPoint hands;
  };
  std::vector<Look> looks;
  for (const Sighting& s : sightings)
    if (const auto hands = middleOf(s, PoseMark::Wrist)) looks.push_back({&s, *hands});
  if (looks.size() < 8) return std::nullopt;
  std::sort(looks.begin(), looks.end(), [](const Look& a, const Look& b) { return a.hands.y < b.hands.y; });
  const Look &high = looks[looks.size() / 12], &low = looks[looks.size() - 1 - looks.size() / 12];
  constexpr double kLeast_m = 0.2;
  if (low.hands.y - high.hands.y < kLeast_m * metre_px) return std::nullopt;
  PixelPoint a = high.s->reading.place(PoseMark::Wrist, BodySide::Right),
             b = high.s->reading.place(PoseMark::Wrist, BodySide::Left);
  if (a.x > b.x) std::swap(a, b);
  const double apart = length(b - a);
  if (apart < 0.2 * metre_px) return std::nullopt;
  return Apart{high.s->frame, low.s->frame, high.hands, (b - a) * (1 / apart), apart / 2, low.hands - high.hands};
}

Result<std::optional<Apart>> farthestApartByPlates(footage::FrameReader& reader, const std::vector<Sighting>& sightings,
                                                   double metre_px, Task& task) {
  constexpr double kFrom_m = 0.60, kTo_m = 1.05, kHalfTall_m = 0.26, kAside_m = 0.06, kUp_m = 0.12, kDown_m = 0.7;
  constexpr double kAlike = 0.55, kAgree_m = 0.08, kLeast_m = 0.12, kEvery_s = 0.2, kShrunk = 0.5;
  const Sighting* high = armsUp(sightings, metre_px);
  if (!high) return std::optional<Apart>();
  const auto small = [&](std::size_t frame) -> Result<cv::Mat> {
    auto next = reader.next(footage::Pixels::Gray, frame);
    if (!next) return fail(next.error());
    cv::Mat out;
    if (*next) cv::resize((*next)->picture, out, {}, kShrunk, kShrunk, cv::INTER_AREA);
    return out;
  };
  if (auto set = reader.seekBefore(high->frame); !set) return fail(set.error());
  const auto up = small(high->frame);
  if (!up) return fail(up.error());
  if (up->empty()) return std::optional<Apart>();
  PixelPoint a = high->reading.place(PoseMark::Wrist, BodySide::Right),
             b = high->reading.place(PoseMark::Wrist, BodySide::Left);
  if (a.x > b.x) std::swap(a, b);
  const PixelPoint hands = (a + b) * 0.5;
  const double m = kShrunk * metre_px;
  const cv::Rect whole(0, 0, up->cols, up->rows);
  std::array<cv::Rect, 2> plates;
  for (std::size_t k = 0; k < 2; ++k) {
    const double from = k == 0 ? kShrunk * hands.x - kTo_m * m : kShrunk * hands.x + kFrom_m * m;
    plates[k] = cv::Rect(cvRound(from), cvRound(kShrunk * hands.y - kHalfTall_m * m), cvRound((kTo_m - kFrom_m) * m),
                         cvRound(2 * kHalfTall_m * m)) &
                whole;
    if (plates[k].width < 8 || plates[k].height < 8) return std::optional<Apart>();
  }
  const auto shifts = [&](const cv::Mat& now) -> std::optional<PixelPoint> {
    std::array<cv::Point, 2> by;
    for (std::size_t k = 0; k < 2; ++k) {
      const cv::Rect around =
          cv::Rect(plates[k].x - cvRound(kAside_m * m), plates[k].y - cvRound(kUp_m * m),
                   plates[k].width + cvRound(2 * kAside_m * m), plates[k].height + cvRound((kUp_m + kDown_m) * m)) &
          whole;
      cv::Mat score;
      cv::matchTemplate(now(around), (*up)(plates[k]), score, cv::TM_CCOEFF_NORMED);
      double alike = 0;
      cv::minMaxLoc(score, nullptr, &alike, nullptr, &by[k]);
      if (alike < kAlike) return std::nullopt;
      by[k] += around.tl() - plates[k].tl();
    }
    if (std::abs(by[0].y - by[1].y) > kAgree_m * m) return std::nullopt;
    return PixelPoint{(by[0].x + by[1].x) / 2.0, (by[0].y + by[1].y) / 2.0} * (1 / kShrunk);
  };
  std::optional<Apart> most;
  double next_s = -1;
  const auto& times = reader.info().times_s;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  for (std::size_t i = 0; i < times.size(); ++i) {
    if (times[i] < next_s) continue;
    if (task.cancelled()) return cancelled();
    const auto now = small(i);
    if (!now) return fail(now.error());
    if (now->empty()) break;
    next_s = times[i] + kEvery_s;
    const auto by = shifts(*now);
    if (by && by->y > kLeast_m * metre_px && (!most || by->y > most->went.y))
      most = Apart{high->frame, i, hands, (b - a) * (1 / length(b - a)), length(b - a) / 2, *by};
  }
  return most;
}

}  // namespace jib::tracing
