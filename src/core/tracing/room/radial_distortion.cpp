// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/room/radial_distortion.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <vector>

#include "core/base/angle.h"
#include "core/tracing/room/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kLeastPiece = 0.04;      // of the picture's height: what counts as a piece of an edge
constexpr double kLeastSpan = 0.30;       // of it: shorter edges do not bow visibly
constexpr double kLeastFilled = 0.5;      // of an edge's span that was seen
constexpr double kMostBend = 0.25;        // at the picture's corner; more is a fisheye, which this is not for
constexpr double kTurn_deg = 8;           // pieces of one edge turn by less from its longest
constexpr double kBow = 0.02;             // of the picture's height: how far they lie off its line
constexpr double kNotStraight_px = 0.25;  // how far posts and walls are from straight between their ends
constexpr double kAgree = 2;              // σ
constexpr int kFewestAgreeing = 4;
constexpr double kClear = 3;  // σ: less could as well be a straight lens

// A straight stretch of an edge, from the picture's middle. The detector gives all of one edge the bright side on the
// same hand.
struct Piece {
  PixelPoint from, to;
};

std::vector<Piece> piecesIn(const cv::Mat& gray, PixelPoint middle) {
  std::vector<cv::Vec4f> segments;
  cv::createLineSegmentDetector(cv::LSD_REFINE_STD)->detect(gray, segments);
  std::vector<Piece> pieces;
  for (const auto& s : segments) {
    const PixelPoint half{0.5, 0.5};  // it counts from the first pixel's centre
    const Piece piece{PixelPoint{s[0], s[1]} + half - middle, PixelPoint{s[2], s[3]} + half - middle};
    if (length(piece.to - piece.from) > kLeastPiece * gray.rows) pieces.push_back(piece);
  }
  std::sort(pieces.begin(), pieces.end(),
            [](const Piece& a, const Piece& b) { return length(a.to - a.from) > length(b.to - b.from); });
  return pieces;
}

// Where the brightness changes fastest across an edge within two pixels of `at`; nullopt when it does so at the end.
std::optional<PixelPoint> steepest(const cv::Mat& gray, PixelPoint at, PixelPoint across) {
  constexpr int kReach = 4;
  constexpr double kStep_px = 0.5;
  double steep[2 * kReach + 1];
  for (int k = -kReach; k <= kReach; ++k) {
    const PixelPoint here = at + across * (k * kStep_px);
    steep[k + kReach] = std::abs(sample<uchar>(gray, here + across) - sample<uchar>(gray, here - across));
  }
  const auto top = static_cast<int>(std::max_element(steep, steep + 2 * kReach + 1) - steep);
  if (top == 0 || top == 2 * kReach) return std::nullopt;
  const double a = steep[top - 1], b = steep[top], c = steep[top + 1];
  const double between = a - 2 * b + c < 0 ? 0.5 * (a - c) / (a - 2 * b + c) : 0;
  return at + across * ((top - kReach + between) * kStep_px);
}

// What one edge says of the bend, 1 σ with it.
struct Vote {
  double bend, sigma;
};

// Takes the pieces that continue pieces[0] off the list, and asks them together.
std::optional<Vote> voteOfLongest(std::vector<Piece>& pieces, const cv::Mat& gray, PixelPoint middle) {
  const Piece seed = pieces.front();
  const PixelPoint along = (seed.to - seed.from) * (1 / length(seed.to - seed.from));
  const PixelPoint across{-along.y, along.x};
  const double off = dot(seed.from, across), most_off = kBow * gray.rows;
  const auto continues = [&](const Piece& p) {
    const PixelPoint way = p.to - p.from;
    return dot(way, along) > std::cos(radians(kTurn_deg)) * length(way) &&
           std::abs(dot(p.from, across) - off) < most_off && std::abs(dot(p.to, across) - off) < most_off;
  };
  const auto rest = std::stable_partition(pieces.begin(), pieces.end(), continues);
  const std::vector<Piece> edge(pieces.begin(), rest);
  pieces.erase(pieces.begin(), rest);

  std::vector<PixelPoint> points;
  constexpr double kEvery_px = 3;
  for (const Piece& p : edge) {
    const double l = length(p.to - p.from);
    for (double s = kEvery_px; s < l - kEvery_px; s += kEvery_px)
      if (const auto q = steepest(gray, p.from + (p.to - p.from) * (s / l) + middle, across))
        points.push_back(*q - middle);
  }
  if (points.size() < 12) return std::nullopt;
  const auto [first, last] = std::minmax_element(
      points.begin(), points.end(), [&](PixelPoint a, PixelPoint b) { return dot(a, along) < dot(b, along); });
  const double span = dot(*last - *first, along);
  if (span < kLeastSpan * gray.rows || static_cast<double>(points.size()) * kEvery_px < kLeastFilled * span)
    return std::nullopt;

  // A straight line n p = c is seen as n q = c + c bend |q|²: how far its points lie across is linear in 1, how far
  // they lie along, and |q|² (in units of the span). Points off by more than a pixel count little.
  Eigen::Matrix3d normal;
  Eigen::Vector3d solved = Eigen::Vector3d::Zero();
  double residual = 1;
  for (int round = 0; round < 6; ++round) {
    normal.setZero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    double square = 0, weights = 0;
    for (const PixelPoint q : points) {
      const Eigen::Vector3d row(1, dot(q, along) / span, dot(q, q) / (span * span));
      const double miss = dot(q, across) - row.dot(solved);
      const double w = round == 0 ? 1 : 1 / (1 + miss * miss);
      normal += w * row * row.transpose();
      right += w * dot(q, across) * row;
      square += w * miss * miss;
      weights += w;
    }
    solved = normal.ldlt().solve(right);
    residual = std::sqrt(square / weights);
  }
  constexpr double kClean_px = 1;
  if (residual > kClean_px) return std::nullopt;
  // Neighbouring points share their error: an edge tells as much as a dozen of them.
  const double dozen = static_cast<double>(points.size()) / 12;
  const double bow = std::sqrt(residual * residual * dozen * normal.inverse()(2, 2));
  const double c = solved[0] * span * span;
  if (std::abs(solved[0]) < 1) return std::nullopt;  // through the middle: stays straight under any lens
  return Vote{solved[2] / c, std::hypot(bow, 4 * kNotStraight_px) / std::abs(c)};
}

}  // namespace

PixelPoint LensBend::straightened(PixelPoint seen) const {
  return seen * (1 / (1 + per_px2 * dot(seen, seen)));
}

PixelPoint LensBend::bent(PixelPoint straight) const {
  // |q| / (1 + bend |q|²) = |p|: the smaller root, written so that no bend is no trouble.
  const double inside = std::max(0.0, 1 - 4 * per_px2 * dot(straight, straight));
  return straight * (2 / (1 + std::sqrt(inside)));
}

double LensBend::growth(PixelPoint seen) const {
  const double b = per_px2 * dot(seen, seen);
  // Along the radius (1 - b) / (1 + b)², across it 1 / (1 + b).
  return ((1 - b) / ((1 + b) * (1 + b)) + 1 / (1 + b)) / 2;
}

std::optional<LensBend> bendOfEdges(const cv::Mat& gray) {
  const PixelPoint middle{gray.cols / 2.0, gray.rows / 2.0};
  const double most = kMostBend / dot(middle, middle);
  std::vector<Vote> votes;
  for (auto pieces = piecesIn(gray, middle); !pieces.empty();)
    if (const auto vote = voteOfLongest(pieces, gray, middle); vote && std::abs(vote->bend) < most)
      votes.push_back(*vote);
  // The vote most others agree with, then the mean of those.
  const auto agrees = [](const Vote& v, double bend) { return std::abs(v.bend - bend) < kAgree * v.sigma; };
  const auto supportOf = [&](double bend) {
    double sum = 0;
    for (const Vote& v : votes)
      if (agrees(v, bend)) sum += 1 / v.sigma;
    return sum;
  };
  double bend = 0, best = supportOf(0);
  for (const Vote& v : votes)
    if (const double support = supportOf(v.bend); support > best) {
      best = support;
      bend = v.bend;
    }
  double weight = 0;
  int agreeing = 0;
  for (int round = 0; round < 4; ++round) {
    double sum = 0;
    weight = 0;
    agreeing = 0;
    for (const Vote& v : votes)
      if (agrees(v, bend)) {
        sum += v.bend / (v.sigma * v.sigma);
        weight += 1 / (v.sigma * v.sigma);
        ++agreeing;
      }
    if (weight > 0) bend = sum / weight;
  }
  // Edges come in pairs, the two sides of one post: half of them tell something new.
  const double sigma = weight > 0 ? std::sqrt(2 / weight) : 0;
  if (agreeing < kFewestAgreeing || std::abs(bend) < kClear * sigma) return std::nullopt;
  return LensBend{bend, sigma};
}

}  // namespace jib::tracing
