// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/plates_together.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <set>
#include <vector>

namespace jib::tracing {
namespace {

struct Small {
  std::size_t frame;
  double t_s;
  cv::Mat grey;
  PixelPoint shift;  // of the room since the first picture, small pixels; taken off `grey`
};
struct Pictures {
  double shrunk;  // of the displayed picture
  std::vector<Small> all;
};

double unlike(const cv::Mat& a, const cv::Mat& b) {
  cv::Mat d;
  cv::absdiff(a, b, d);
  return cv::mean(d)[0];
}

// Brought to where the room stood in the first one, so that a hand that shakes moves nothing but the bar.
Result<Pictures> smallPictures(footage::FrameReader& reader, Task& task) {
  constexpr double kEvery_s = 0.2, kLonger_px = 320, kMost = 600, kBetter = 0.9;
  const auto& info = reader.info();
  Pictures out{std::min(1.0, kLonger_px / std::max(info.width, info.height)), {}};
  const double every_s = std::max(kEvery_s, (info.times_s.back() - info.times_s.front()) / kMost);
  double next_s = -1;
  cv::Mat first, first_grey, window;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  for (std::size_t i = 0; i < info.frames(); ++i) {
    if (info.times_s[i] < next_s) continue;
    next_s = info.times_s[i] + every_s;
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Gray, i);
    if (!next) return fail(next.error());
    if (!*next) break;
    Small small{(*next)->index, (*next)->t_s, {}, {}};
    cv::resize((*next)->picture, small.grey, {}, out.shrunk, out.shrunk, cv::INTER_AREA);
    cv::Mat exact;
    small.grey.convertTo(exact, CV_32F);
    if (first.empty()) {
      first = exact;
      first_grey = small.grey;
      cv::createHanningWindow(window, exact.size(), CV_32F);
    } else {
      const cv::Point2d by = cv::phaseCorrelate(first, exact, window);
      const cv::Mat back = (cv::Mat_<double>(2, 3) << 1, 0, -by.x, 0, 1, -by.y);
      cv::Mat brought;
      cv::warpAffine(small.grey, brought, back, small.grey.size(), cv::INTER_LINEAR, cv::BORDER_REPLICATE);
      // Somebody who walks by, or a large plate, may be what was followed.
      if (unlike(first_grey, brought) < kBetter * unlike(first_grey, small.grey)) {
        small.shift = {by.x, by.y};
        small.grey = brought;
      }
    }
    out.all.push_back(std::move(small));
    task.report(static_cast<double>(i) / static_cast<double>(info.frames()));
  }
  return out;
}

// What differs between two pictures, as 0 and 1.
cv::Mat differs(const cv::Mat& a, const cv::Mat& b) {
  constexpr int kNoise_grey = 12;
  cv::Mat d;
  cv::absdiff(a, b, d);
  return (d > kNoise_grey) / 255;
}

struct Pair {
  std::size_t a, b;
  double differ;  // share of the picture
};

// Pictures a moment apart that differ most: in so short a time little else moves than a bar and who lifts it.
std::vector<Pair> farApart(const std::vector<Small>& pictures) {
  constexpr double kLeast_s = 0.5, kMost_s = 2.7, kOthers_s = 0.5;
  constexpr std::size_t kPairs = 10;
  std::vector<Pair> all;
  for (std::size_t a = 0; a < pictures.size(); ++a)
    for (std::size_t b = a + 1; b < pictures.size() && pictures[b].t_s - pictures[a].t_s <= kMost_s; ++b)
      if (pictures[b].t_s - pictures[a].t_s >= kLeast_s)
        all.push_back({a, b, cv::mean(differs(pictures[a].grey, pictures[b].grey))[0]});
  std::sort(all.begin(), all.end(), [](const Pair& x, const Pair& y) { return x.differ > y.differ; });
  std::vector<Pair> kept;
  for (const Pair& p : all) {
    const auto near = [&](std::size_t x, std::size_t y) {
      return std::abs(pictures[x].t_s - pictures[y].t_s) < kOthers_s;
    };
    if (kept.size() < kPairs &&
        std::none_of(kept.begin(), kept.end(), [&](const Pair& k) { return near(k.a, p.a) && near(k.b, p.b); }))
      kept.push_back(p);
  }
  return kept;
}

// A pair of plates as two pictures have it; small pixels. `top` is of the higher place.
struct Guess {
  std::size_t high, low;
  double left_x, right_x, left_top, right_top, tall, went;
  double score;
};

// How much a column of `wide` pixels about each x looks like one plate that went `went` down: rows that differ where it
// was and is, none just above and below. What it covers in both pictures may differ or not.
class PlateScore {
 public:
  PlateScore(const cv::Mat& sums, int tall, int went)
      : sums_(sums), tall_(tall), went_(went), wide_(std::max(2, tall / 9)), edge_(std::max(2, tall / 7)) {}
  int above() const { return edge_ + 1; }
  int below() const { return tall_ + went_ + edge_ + 1; }
  int half() const { return wide_ / 2 + 1; }
  double at(int x, int top) const {
    const int once = std::min(tall_, went_), second = std::max(tall_, went_);
    return std::min(mean(x, top, top + once), mean(x, top + second, top + second + once)) -
           std::max(mean(x, top - edge_ - 1, top - 1),
                    mean(x, top + tall_ + went_ + 1, top + tall_ + went_ + edge_ + 1));
  }

 private:
  double mean(int x, int from, int to) const {
    const int left = x - wide_ / 2, right = left + wide_;
    return static_cast<double>(sums_.at<int>(to, right) - sums_.at<int>(from, right) - sums_.at<int>(to, left) +
                               sums_.at<int>(from, left)) /
           (wide_ * (to - from));
  }
  const cv::Mat& sums_;
  int tall_, went_, wide_, edge_;
};

// Adds what two pictures show of plates of one size that went as far.
void guess(const cv::Mat& sums, const Pair& pair, int tall, int went, std::vector<Guess>& out) {
  constexpr double kSure = 0.5, kLeastApart = 2.9, kMostApart = 3.7, kTilts = 0.1;
  constexpr std::size_t kMost = 160;
  struct Seen {
    int x, top;
    double score;
  };
  const PlateScore score(sums, tall, went);
  std::vector<Seen> seen;
  for (int top = score.above(); top + score.below() < sums.rows; ++top)
    for (int x = score.half(); x + score.half() < sums.cols; ++x)
      if (const double s = score.at(x, top); s >= kSure) seen.push_back({x, top, s});
  std::sort(seen.begin(), seen.end(), [](const Seen& a, const Seen& b) { return a.score > b.score; });
  if (seen.size() > kMost) seen.resize(kMost);
  std::optional<Guess> best;
  for (const Seen& l : seen)
    for (const Seen& r : seen) {
      const double apart = r.x - l.x;
      if (apart < kLeastApart * tall || apart > kMostApart * tall || std::abs(l.top - r.top) > kTilts * apart) continue;
      const double sum = std::min(l.score, r.score);
      if (!best || sum > best->score)
        best = Guess{pair.a,
                     pair.b,
                     static_cast<double>(l.x),
                     static_cast<double>(r.x),
                     static_cast<double>(l.top),
                     static_cast<double>(r.top),
                     static_cast<double>(tall),
                     static_cast<double>(went),
                     sum};
    }
  if (best) out.push_back(*best);
}

struct Ranked {
  double rank;
  Guess guess;
};
// The best of those that are of other plates than the ones before. What several pairs of pictures show at the same
// places across is hardly chance, and a large plate is harder to come by than a small one.
std::vector<Ranked> likeliest(const std::vector<Guess>& all, std::size_t most) {
  constexpr double kSame = 0.3;  // of the plate
  const auto same = [](const Guess& a, const Guess& b) {
    const double near = kSame * std::min(a.tall, b.tall);
    return std::abs(a.left_x - b.left_x) < near && std::abs(a.right_x - b.right_x) < near &&
           std::abs(a.tall - b.tall) < near;
  };
  std::vector<Ranked> ranked;
  for (const Guess& g : all) {
    std::set<std::pair<std::size_t, std::size_t>> pairs;
    for (const Guess& o : all)
      if (same(g, o)) pairs.insert({o.high, o.low});
    ranked.push_back({g.score * g.tall * static_cast<double>(pairs.size()), g});
  }
  std::sort(ranked.begin(), ranked.end(), [](const Ranked& a, const Ranked& b) { return a.rank > b.rank; });
  std::vector<Ranked> kept;
  for (const Ranked& one : ranked)
    if (kept.size() < most && std::none_of(kept.begin(), kept.end(), [&](const Ranked& k) {
          return same(one.guess, k.guess) && std::abs(one.guess.left_top - k.guess.left_top) < kSame * k.guess.tall;
        }))
      kept.push_back(one);
  return kept;
}

double alike(const cv::Mat& a, const cv::Mat& b) {
  cv::Mat score;
  cv::matchTemplate(a, b, score, cv::TM_CCOEFF_NORMED);
  return static_cast<double>(score.at<float>(0, 0));
}

// The box about one of a guess's plates where it is high.
cv::Rect boxOf(const Guess& g, bool right, double down = 0) {
  const double wide = std::max(8.0, 0.55 * g.tall), margin = 0.12 * g.tall;
  return {cvRound((right ? g.right_x : g.left_x) - wide / 2),
          cvRound((right ? g.right_top : g.left_top) + down - margin), cvRound(wide), cvRound(g.tall + 2 * margin)};
}

// Which of both pictures shows the plates high.
void tellHigh(Guess& g, const std::vector<Small>& pictures) {
  const cv::Rect whole(0, 0, pictures[g.high].grey.cols, pictures[g.high].grey.rows);
  double as_said = 0, other = 0;
  for (const bool right : {false, true}) {
    const cv::Rect up = boxOf(g, right), down = boxOf(g, right, g.went);
    if ((up & whole) != up || (down & whole) != down) continue;
    as_said += alike(pictures[g.high].grey(up), pictures[g.low].grey(down));
    other += alike(pictures[g.low].grey(up), pictures[g.high].grey(down));
  }
  if (other > as_said) std::swap(g.high, g.low);
}

// Where both plates are in each picture against where the guess has them, in which they are found and agree.
struct Found {
  std::size_t picture;
  double down, aside;
};
std::vector<Found> foundAgain(const Guess& g, const std::vector<Small>& pictures) {
  constexpr double kAlike = 0.6, kAgree = 0.14;
  const cv::Rect whole(0, 0, pictures[g.high].grey.cols, pictures[g.high].grey.rows);
  const int aside = std::max(2, cvRound(0.1 * g.tall)), up = cvRound(0.45 * g.tall), down = cvRound(1.5 * g.tall);
  std::vector<Found> found;
  for (std::size_t k = 0; k < pictures.size(); ++k) {
    std::array<cv::Point, 2> by;
    bool both = true;
    for (std::size_t side = 0; side < 2 && both; ++side) {
      const cv::Rect plate = boxOf(g, side == 1) & whole;
      const cv::Rect around =
          cv::Rect(plate.x - aside, plate.y - up, plate.width + 2 * aside, plate.height + up + down) & whole;
      cv::Mat score;
      cv::matchTemplate(pictures[k].grey(around), pictures[g.high].grey(plate), score, cv::TM_CCOEFF_NORMED);
      double best = 0;
      cv::minMaxLoc(score, nullptr, &best, nullptr, &by[side]);
      by[side] += around.tl() - plate.tl();
      both = best >= kAlike;
    }
    if (both && std::abs(by[0].y - by[1].y) <= std::max(2.0, kAgree * g.tall))
      found.push_back({k, (by[0].y + by[1].y) / 2.0, (by[0].x + by[1].x) / 2.0});
  }
  return found;
}

}  // namespace

Result<std::vector<PlatesTogether>> platesTogether(footage::FrameReader& reader, Task& task) {
  constexpr double kSmallest = 0.05, kLargest = 0.34, kGrows = 1.09;   // plates, of the longer side
  constexpr double kLeastWay = 0.3, kMostWay = 1.25, kWayGrows = 1.1;  // of the plate
  constexpr std::size_t kFollowed = 10, kKept = 4;
  const auto pictures = smallPictures(reader, task);
  if (!pictures) return fail(pictures.error());
  const auto& all = pictures->all;
  std::vector<PlatesTogether> out;
  if (all.size() < 6) return out;
  const double longer = std::max(all[0].grey.cols, all[0].grey.rows);
  std::vector<Guess> guesses;
  for (const Pair& pair : farApart(all)) {
    if (task.cancelled()) return cancelled();
    cv::Mat sums;
    cv::integral(differs(all[pair.a].grey, all[pair.b].grey), sums, CV_32S);
    for (double tall = kSmallest * longer; tall <= kLargest * longer; tall *= kGrows)
      for (double way = kLeastWay * tall; way <= kMostWay * tall; way = std::max(way * kWayGrows, way + 1))
        guess(sums, pair, cvRound(tall), cvRound(way), guesses);
  }
  for (auto& [rank, g] : likeliest(guesses, kFollowed)) {
    tellHigh(g, all);
    auto found = foundAgain(g, all);
    if (found.empty()) continue;
    // One picture in twenty may be mistaken either way.
    std::sort(found.begin(), found.end(), [](const Found& a, const Found& b) { return a.down < b.down; });
    const Found &top = found[found.size() / 20], &bottom = found[found.size() - 1 - found.size() / 20];
    const double way = bottom.down - top.down;
    if (way < kLeastWay * g.tall) continue;
    const auto place = [&](const Found& f, double x, double y) {
      return (PixelPoint{x + f.aside, y + f.down} + all[f.picture].shift) * (1 / pictures->shrunk);
    };
    const Found as_guessed{g.high, 0, 0};
    PlatesTogether p;
    p.high = all[g.high].frame;
    p.low = all[bottom.picture].frame;
    p.hub = {place(as_guessed, g.left_x, g.left_top + g.tall / 2),
             place(as_guessed, g.right_x, g.right_top + g.tall / 2)};
    p.went = place(bottom, g.left_x, g.left_top + g.tall / 2) - p.hub[0];
    p.metre_px = length(p.hub[1] - p.hub[0]) / kHubsApart_m;
    p.share = static_cast<double>(found.size()) / static_cast<double>(all.size());
    p.sure = rank * p.share * way * g.tall / (longer * longer) * 8;
    out.push_back(p);
  }
  std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.sure > b.sure; });
  if (out.size() > kKept) out.resize(kKept);
  return out;
}

}  // namespace jib::tracing
