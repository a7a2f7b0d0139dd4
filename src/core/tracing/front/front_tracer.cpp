// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/front_tracer.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/median.h"

namespace jib::tracing {
namespace {

constexpr BodySide kSides[]{BodySide::Left, BodySide::Right};
constexpr double kSeen = 0.5;
constexpr double kFocalShare = 0.83;  // of the longer side: a phone's main lens

struct SeenMark {
  Landmark landmark;
  PoseMark mark;
  double scatter_m;
};
constexpr SeenMark kMarks[]{{Landmark::Shoulder, PoseMark::Shoulder, 0.015}, {Landmark::Elbow, PoseMark::Elbow, 0.02},
                            {Landmark::Wrist, PoseMark::Wrist, 0.02},        {Landmark::Hip, PoseMark::Hip, 0.02},
                            {Landmark::Knee, PoseMark::Knee, 0.015},         {Landmark::Ankle, PoseMark::Ankle, 0.012},
                            {Landmark::Heel, PoseMark::Heel, 0.02},          {Landmark::Toe, PoseMark::Toe, 0.02}};

// From behind the network takes people for being seen from the front, in some looks. Sides are the picture's: the
// athlete's left is on its right from the front, and legs that are filmed so do not cross.
BodySide seenAs(const Sighting& s, BodySide side, Facing facing) {
  double left_on_right = 0;
  for (const PoseMark mark : {PoseMark::Shoulder, PoseMark::Hip, PoseMark::Knee, PoseMark::Ankle})
    left_on_right += s.reading.place(mark, BodySide::Left).x > s.reading.place(mark, BodySide::Right).x ? 1 : -1;
  const bool swapped = left_on_right != 0 && (left_on_right > 0) != (facing == Facing::Front);
  return !swapped ? side : side == BodySide::Left ? BodySide::Right : BodySide::Left;
}

// A landmark look by look, wild ones left out; between looks that are near in time straight on.
void fill(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s, BodySide side,
          const SeenMark& kind) {
  constexpr double kApart_s = 0.7, kJump_m = 0.10;
  std::vector<std::pair<std::size_t, PixelPoint>> seen;
  for (const Sighting& s : sightings) {
    const BodySide as = seenAs(s, side, front.facing);
    if (s.reading.sure(kind.mark, as) >= kSeen) seen.emplace_back(s.frame, s.reading.place(kind.mark, as));
  }
  std::vector<PixelPoint> calm(seen.size());
  for (std::size_t k = 0; k < seen.size(); ++k) {
    const std::size_t a = k > 0 ? k - 1 : k, c = std::min(k + 1, seen.size() - 1);
    // A knee comes in and goes out again within three looks; what jumps further than that is a mistake.
    const PixelPoint middle{median({seen[a].second.x, seen[k].second.x, seen[c].second.x}),
                            median({seen[a].second.y, seen[k].second.y, seen[c].second.y})};
    calm[k] = length(seen[k].second - middle) > kJump_m * front.metre_px ? middle : seen[k].second;
  }
  const double sigma_px = std::max(0.5, kind.scatter_m * front.metre_px);
  for (std::size_t k = 0; k < seen.size(); ++k) {
    front.frames[seen[k].first].at(side, kind.landmark) = TracedPoint{calm[k], sigma_px, Origin::Optical};
    if (k == 0 || times_s[seen[k].first] - times_s[seen[k - 1].first] > kApart_s) continue;
    for (std::size_t i = seen[k - 1].first + 1; i < seen[k].first; ++i) {
      const double share =
          (times_s[i] - times_s[seen[k - 1].first]) / (times_s[seen[k].first] - times_s[seen[k - 1].first]);
      front.frames[i].at(side, kind.landmark) =
          TracedPoint{calm[k - 1] + (calm[k] - calm[k - 1]) * share, sigma_px, Origin::Fitted};
    }
  }
}

std::optional<PixelPoint> middleOf(const Sighting& s, PoseMark mark) {
  if (s.reading.sure(mark, BodySide::Left) < kSeen || s.reading.sure(mark, BodySide::Right) < kSeen)
    return std::nullopt;
  return (s.reading.place(mark, BodySide::Left) + s.reading.place(mark, BodySide::Right)) * 0.5;
}

// How large a metre looks, from the standing body. Source  segment shares: Drillis and Contini 1966
double metreFromBody(const std::vector<Sighting>& sightings) {
  constexpr double kStature_m = 1.72, kShoulderToAnkle = 0.779;
  std::vector<double> tall;
  for (const Sighting& s : sightings) {
    const auto shoulder = middleOf(s, PoseMark::Shoulder), ankle = middleOf(s, PoseMark::Ankle);
    if (shoulder && ankle) tall.push_back(ankle->y - shoulder->y);
  }
  if (tall.size() < 8) return 0;
  std::sort(tall.begin(), tall.end());
  return tall[tall.size() * 9 / 10] / (kStature_m * kShoulderToAnkle);
}

// Two frames that show the bar at different heights, and how the middle of the hands went from one to the other.
struct Apart {
  std::size_t high = 0, low = 0;
  PixelPoint hands;    // their middle on the high one
  PixelPoint line;     // from the athlete's hand on the picture's left to that on its right, length 1
  double half_px = 0;  // from that middle to a hand
  PixelPoint went;     // from high to low
};

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

double alike(const cv::Mat& a, const cv::Mat& b) {
  cv::Mat score;
  cv::matchTemplate(a, b, score, cv::TM_CCOEFF_NORMED);
  return score.at<float>(0, 0);
}

cv::Mat patch(const cv::Mat& grey, PixelPoint middle, int width, int height) {
  cv::Mat out;
  cv::getRectSubPix(grey, {width, height}, {static_cast<float>(middle.x - 0.5), static_cast<float>(middle.y - 0.5)},
                    out);
  return out;
}

// What of the bar's line moves with the hands, outwards from them, on one side (way: -1 to the picture's left). The
// line through two wrists leans by a degree or two for nothing, so each side is looked for by itself.
class BarSearch {
 public:
  BarSearch(const cv::Mat& high, const cv::Mat& low, const Apart& apart, double metre_px, double way)
      : apart_(apart), metre_px_(metre_px), way_(way) {
    // Only what is not the room: whatever stands still is black here, whatever moved shows where it was and where it
    // is.
    constexpr double kNoise_grey = 8;
    cv::absdiff(high, low, moved_);
    cv::subtract(moved_, cv::Scalar(kNoise_grey), moved_);
  }

  // How far below the hands' line the bar runs, and how much lower it really came: where most of the line moves.
  bool settle() {
    constexpr double kOff_m = 0.07, kMore_m = 0.08;
    double best = 0;
    for (double off = -kOff_m * metre_px_; off <= kOff_m * metre_px_; off += 1)
      for (double more = -kMore_m * metre_px_; more <= kMore_m * metre_px_; more += 1) {
        double sum = 0;
        for (double out_m : {0.50, 0.58, 0.66, 0.74, 0.80, 0.86, 0.92}) sum += std::max(0.0, moves(out_m, off, more));
        if (sum > best) {
          best = sum;
          off_ = off;
          more_ = more;
        }
      }
    return best > 1.2;
  }

  // How surely the bar's line at `out_m` from its middle moves as the hands did, -1 to 1.
  double moves(double out_m) const { return moves(out_m, off_, more_); }

  PixelPoint placeAt(double out_m) const {
    return apart_.hands + apart_.line * (way_ * out_m * metre_px_) + PixelPoint{0, off_};
  }
  PixelPoint went() const { return apart_.went + PixelPoint{0, more_}; }

 private:
  double moves(double out_m, double off, double more) const {
    constexpr double kTall_m = 0.11, kWide_m = 0.05, kPlain_grey = 2.5;
    const PixelPoint at = apart_.hands + apart_.line * (way_ * out_m * metre_px_) + PixelPoint{0, off};
    const PixelPoint then = at + apart_.went + PixelPoint{0, more};
    const double margin = kTall_m * metre_px_;
    if (at.x < margin || then.x < margin || at.x > moved_.cols - margin || then.x > moved_.cols - margin ||
        at.y < margin || then.y > moved_.rows - margin)
      return 0;
    const int wide = std::max(5, static_cast<int>(kWide_m * metre_px_)) | 1,
              tall = std::max(9, static_cast<int>(kTall_m * metre_px_)) | 1;
    const cv::Mat now = patch(moved_, at, wide, tall), later = patch(moved_, then, wide, tall);
    for (const cv::Mat& one : {now, later}) {
      cv::Scalar mean, spread;
      cv::meanStdDev(one, mean, spread);
      if (spread[0] < kPlain_grey) return 0;
    }
    return alike(now, later);
  }

  cv::Mat moved_;
  const Apart& apart_;
  double metre_px_, way_, off_ = 0, more_ = 0;
};

// The outermost place on one side where the line still moves.
std::optional<double> endOf(const BarSearch& search) {
  constexpr double kFrom_m = 0.70, kTo_m = 1.35, kStep_m = 0.01, kMoves = 0.45;
  std::optional<double> last;
  double agreeing = 0;
  for (double out = kFrom_m; out <= kTo_m; out += kStep_m) {
    if (search.moves(out) > kMoves) {
      agreeing += 1;
      last = out;
    }
  }
  return agreeing >= 4 ? last : std::nullopt;
}

// The same place brought to the middle of the sleeve: across the bar, a band as thick as one that is all lighter or all
// darker than what lies above and below it.
PixelPoint onTheSleeve(const cv::Mat& grey, PixelPoint end, double inwards, double metre_px) {
  constexpr double kReach_m = 0.07, kLong_m = 0.10, kThin_m = 0.010, kThick_m = 0.030;  // half thicknesses
  const int reach = static_cast<int>(std::lround(kReach_m * metre_px)),
            room = reach + static_cast<int>(0.07 * metre_px);
  const int wide = std::max(5, static_cast<int>(kLong_m * metre_px)) | 1;
  const PixelPoint middle = end + PixelPoint{inwards * (wide / 2 + 2), 0};
  if (middle.x < wide || middle.x > grey.cols - wide || middle.y < room + 2 || middle.y > grey.rows - room - 2)
    return end;
  const cv::Mat strip = patch(grey, middle, wide, 2 * room + 1);
  cv::Mat rows;
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
      const double stands = above * below > 0 ? std::min(std::abs(above), std::abs(below)) : 0;
      if (stands > best) {
        best = stands;
        at = c;
      }
    }
  return end + PixelPoint{0, at};
}

// The room without the bar about one of its ends: of two pictures that show the bar high and low, each gives the half
// in which the bar is not.
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

// Follows one end by its own picture, about where the hands say it is: by what stands before the room, so that a line
// on the wall is never taken for the bar.
class EndFollower {
 public:
  EndFollower(const cv::Mat& grey, cv::Mat room, PixelPoint end, double inwards, double metre_px)
      : inwards_(inwards), metre_px_(metre_px), room_(std::move(room)) {
    wide_ = std::max(9, static_cast<int>(kWide_m * metre_px)) | 1;
    tall_ = std::max(9, static_cast<int>(kTall_m * metre_px)) | 1;
    looks_ = before(grey, end + middle(), wide_, tall_);
  }
  struct Found {
    PixelPoint place;
    double alike;  // to how it looked first, up to 1
  };
  std::optional<Found> find(const cv::Mat& grey, PixelPoint expected) const {
    constexpr double kAside_m = 0.05, kUp_m = 0.07, kAlike = 0.6;
    const int x = std::max(2, static_cast<int>(kAside_m * metre_px_)),
              y = std::max(2, static_cast<int>(kUp_m * metre_px_));
    const PixelPoint about = expected + middle();
    if (about.x < wide_ || about.y < tall_ || about.x > grey.cols - wide_ || about.y > grey.rows - tall_)
      return std::nullopt;
    cv::Mat score;
    cv::matchTemplate(before(grey, about, wide_ + 2 * x, tall_ + 2 * y), looks_, score, cv::TM_CCOEFF_NORMED);
    double best = 0;
    cv::Point at;
    cv::minMaxLoc(score, nullptr, &best, nullptr, &at);
    if (best < kAlike) return std::nullopt;
    const auto peak = [&](double before, double after) {
      const double bend = before - 2 * best + after;
      return bend < -1e-9 ? std::clamp(0.5 * (before - after) / bend, -0.5, 0.5) : 0.0;
    };
    PixelPoint off{static_cast<double>(at.x - x), static_cast<double>(at.y - y)};
    if (at.x > 0 && at.x + 1 < score.cols)
      off.x += peak(score.at<float>(at.y, at.x - 1), score.at<float>(at.y, at.x + 1));
    if (at.y > 0 && at.y + 1 < score.rows)
      off.y += peak(score.at<float>(at.y - 1, at.x), score.at<float>(at.y + 1, at.x));
    return Found{expected + off, best};
  }

 private:
  static constexpr double kWide_m = 0.12, kTall_m = 0.12;
  PixelPoint middle() const { return {inwards_ * 0.3 * kWide_m * metre_px_, 0}; }
  // What differs from the room by more than a film's noise.
  cv::Mat before(const cv::Mat& grey, PixelPoint about, int width, int height) const {
    constexpr double kNoise_grey = 8;
    cv::Mat apart;
    cv::absdiff(patch(grey, about, width, height), patch(room_, about, width, height), apart);
    cv::subtract(apart, cv::Scalar(kNoise_grey), apart);
    return apart;
  }
  double inwards_, metre_px_;
  cv::Mat room_;
  int wide_ = 0, tall_ = 0;
  cv::Mat looks_;
};

// The height of the plate's edge in the picture, where it moves with the bar: rows of a column beside the collar.
std::optional<double> rimHeight(const cv::Mat& high, const cv::Mat& low, const std::array<BarSearch, 2>& sides,
                                double metre_px, double rim_m) {
  constexpr double kFrom_m = 0.66, kTo_m = 0.95, kGive = 0.14;
  constexpr int kNew_grey = 16, kSame_grey = 12;
  std::vector<double> tall;
  for (const BarSearch& search : sides)
    for (double out = kFrom_m; out < kTo_m; out += 0.006) {
      const PixelPoint at = search.placeAt(out), then = at + search.went();
      const int reach = static_cast<int>(0.32 * metre_px);
      const auto inside = [&](PixelPoint p) {
        return p.x > 3 && p.x < high.cols - 4 && p.y - reach > 3 && p.y + reach < high.rows - 4;
      };
      if (!inside(at) || !inside(then)) continue;
      const auto grey = [](const cv::Mat& of, PixelPoint p, int k) {
        return static_cast<int>(of.at<uchar>(static_cast<int>(p.y) + k, static_cast<int>(p.x)));
      };
      // A run of rows that look alike where the bar is, in both pictures, and unlike the room behind it.
      int up = 0, down = 0;
      const auto moved = [&](int k) {
        return std::abs(grey(high, at, k) - grey(low, then, k)) < kSame_grey &&
               (std::abs(grey(high, at, k) - grey(low, at, k)) > kNew_grey ||
                std::abs(grey(low, then, k) - grey(high, then, k)) > kNew_grey);
      };
      int missed = 0;
      for (int k = 1; k < reach && missed < 4; ++k) moved(-k) ? (up = k, missed = 0) : ++missed;
      missed = 0;
      for (int k = 1; k < reach && missed < 4; ++k) moved(k) ? (down = k, missed = 0) : ++missed;
      const double height = up + down + 1.0;
      if (std::abs(height / (rim_m * metre_px) - 1) < kGive && std::abs(up - down) < 0.12 * height)
        tall.push_back(height);
    }
  if (tall.size() < 4) return std::nullopt;
  // The plate's edge is a bow seen edge on: its tallest columns are its height.
  std::sort(tall.begin(), tall.end());
  return tall[tall.size() * 3 / 4];
}

// A sleeve looks the same all along, so where the room behind it changes a patch may slide inwards on it. The bar is as
// long as it was: the end that looks less like itself is put that far from the other.
void holdApart(std::array<std::optional<PixelPoint>, 2>& ends, const std::array<double, 2>& alike, double apart_px,
               double give_px) {
  if (!ends[0] || !ends[1] || std::abs(ends[1]->x - ends[0]->x - apart_px) <= give_px) return;
  if (alike[0] > alike[1])
    ends[1]->x = ends[0]->x + apart_px;
  else
    ends[0]->x = ends[1]->x - apart_px;
}

}  // namespace

void addJoints(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s) {
  for (BodySide side : kSides)
    for (const SeenMark& kind : kMarks) fill(front, sightings, times_s, side, kind);
}

BarTrace barAcross(const FrontTrace& front, const std::vector<double>& times_s, double rim_m) {
  BarTrace bar;
  bar.times_s = times_s;
  bar.plate.resize(times_s.size());
  bar.end.resize(times_s.size());
  bar.rim.radius_px = front.metre_px * rim_m / 2;
  bar.rim.sigma_rel = front.scale_sigma_rel;
  const auto middle = [&](std::size_t i, Landmark l) -> std::optional<TracedPoint> {
    const auto &a = front.frames[i].at(BodySide::Left, l), &b = front.frames[i].at(BodySide::Right, l);
    if (!a || !b) return std::nullopt;
    return TracedPoint{(a->place + b->place) * 0.5, a->sigma_px, a->origin};
  };
  std::vector<double> x, y;  // of the bar against the hands
  for (std::size_t i = 0; i < times_s.size(); ++i)
    if (const auto ends = middle(i, Landmark::Bar), hands = middle(i, Landmark::Wrist); ends && hands) {
      x.push_back(ends->place.x - hands->place.x);
      y.push_back(ends->place.y - hands->place.y);
    }
  const PixelPoint off = x.empty() ? PixelPoint{} : PixelPoint{median(x), median(y)};
  std::optional<std::size_t> first, last;
  for (std::size_t i = 0; i < times_s.size(); ++i)
    if ((bar.plate[i] = middle(i, Landmark::Bar))) {
      last = i;
      if (!first) first = i;
    }
  // Hands that have not taken the bar yet, or let go of it, tell nothing of it.
  constexpr double kSeen_share = 0.3;
  const bool followed = static_cast<double>(x.size()) > kSeen_share * static_cast<double>(times_s.size());
  for (std::size_t i = 0; i < times_s.size(); ++i) {
    if (bar.plate[i] || (followed && (i < *first || i > *last))) continue;
    bar.plate[i] = middle(i, Landmark::Wrist);
    if (bar.plate[i]) bar.plate[i]->place = bar.plate[i]->place + off;
  }
  bar.end = bar.plate;
  return bar;
}

Result<FrontTrace> traceFront(footage::FrameReader& reader, const std::vector<Sighting>& sightings, Facing facing,
                              double rim_m, Task& task) {
  const auto& info = reader.info();
  const auto nothing = [] {
    return fail(ErrorCode::NoLiftFound, "Hands, shoulders and feet are not seen moving together in this clip.",
                "Film from straight ahead, with the whole body and both ends of the bar in the picture.");
  };
  FrontTrace front;
  front.facing = facing;
  front.frames.resize(info.frames());
  front.focal_px = kFocalShare * std::max(info.width, info.height);
  front.metre_px = metreFromBody(sightings);
  if (front.metre_px <= 0) return nothing();
  const auto apart = farthestApart(sightings, front.metre_px);
  std::optional<std::array<EndFollower, 2>> ends;  // on the picture's left, on its right
  double apart_px = 0;                             // the ends, across the picture
  std::array<PixelPoint, 2> from_hand;             // from the middle of the hands to each end, on the high frame
  if (apart) {
    const auto greyAt = [&](std::size_t frame) -> Result<cv::Mat> {
      if (auto set = reader.seekBefore(frame); !set) return fail(set.error());
      auto next = reader.next(footage::Pixels::Gray, frame);
      if (!next) return fail(next.error());
      return *next ? (*next)->picture.clone() : cv::Mat();
    };
    const auto high = greyAt(apart->high), low = greyAt(apart->low);
    if (!high) return fail(high.error());
    if (!low) return fail(low.error());
    std::array<BarSearch, 2> search{BarSearch(*high, *low, *apart, front.metre_px, -1),
                                    BarSearch(*high, *low, *apart, front.metre_px, 1)};
    if (!high->empty() && !low->empty() && search[0].settle() && search[1].settle()) {
      const auto left = endOf(search[0]), right = endOf(search[1]);
      if (left && right) {
        PixelPoint a = onTheSleeve(*high, search[0].placeAt(*left), 1, front.metre_px),
                   b = onTheSleeve(*high, search[1].placeAt(*right), -1, front.metre_px);
        const cv::Mat about_a = roomAbout(*high, *low, a, search[0].went()),
                      about_b = roomAbout(*high, *low, b, search[1].went());
        a = betweenItsEdges(*high, about_a, atTheTip(*high, about_a, a, 1, front.metre_px), 1, front.metre_px);
        b = betweenItsEdges(*high, about_b, atTheTip(*high, about_b, b, -1, front.metre_px), -1, front.metre_px);
        ends = {EndFollower(*high, about_a, a, 1, front.metre_px), EndFollower(*high, about_b, b, -1, front.metre_px)};
        apart_px = b.x - a.x;
        from_hand = {a - apart->hands, b - apart->hands};
      }
      if (const auto rim = rimHeight(*high, *low, search, front.metre_px, rim_m)) {
        front.metre_px = *rim / rim_m;
        front.scale_sigma_rel = 0.025;
        front.scale_from_plate = true;
      }
    }
  }
  addJoints(front, sightings, info.times_s);
  if (!ends) return front;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  // The athlete's left is on the picture's right from the front.
  const std::array<BodySide, 2> shown = facing == Facing::Front ? std::array{BodySide::Right, BodySide::Left}
                                                                : std::array{BodySide::Left, BodySide::Right};
  std::array<std::optional<PixelPoint>, 2> last;
  const double sigma_px = std::max(0.4, 0.006 * front.metre_px);
  constexpr double kGive_m = 0.012;  // a bar that turns or comes nearer looks a little shorter or longer
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Gray);
    if (!next) return fail(next.error());
    if (!*next) break;
    const std::size_t i = (*next)->index;
    const auto &l = front.frames[i].at(BodySide::Left, Landmark::Wrist),
               &r = front.frames[i].at(BodySide::Right, Landmark::Wrist);
    std::array<double, 2> alike{};
    for (std::size_t k = 0; k < 2; ++k) {
      std::optional<PixelPoint> expected;
      if (l && r) expected = (l->place + r->place) * 0.5 + from_hand[k];
      // What was found in the frame before is a better guess than hands the network jitters about.
      if (last[k] && (!expected || length(*last[k] - *expected) < 0.1 * front.metre_px)) expected = last[k];
      last[k].reset();
      if (!expected) continue;
      if (const auto found = (*ends)[k].find((*next)->picture, *expected)) {
        last[k] = found->place;
        alike[k] = found->alike;
      }
    }
    holdApart(last, alike, apart_px, kGive_m * front.metre_px);
    for (std::size_t k = 0; k < 2; ++k)
      if (last[k]) front.frames[i].at(shown[k], Landmark::Bar) = TracedPoint{*last[k], sigma_px, Origin::Optical};
    task.report(static_cast<double>(i) / static_cast<double>(info.frames()));
  }
  return front;
}

}  // namespace jib::tracing
