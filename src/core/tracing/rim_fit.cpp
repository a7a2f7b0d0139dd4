// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/rim_fit.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "core/base/angle.h"
#include "core/tracing/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kLeastInliers = 0.33;
constexpr double kStep_px = 0.5;
constexpr float kLeastEdge = 2.5f;  // grey levels a pixel; sensor noise after the smoothing stays below

struct RayEdge {
  double angle_rad;
  double radius_px;
};

// The strongest edge along one ray, with a preference for the expected radius.
std::optional<double> edgeOnRay(const cv::Mat& gray, PixelPoint centre, double angle, double expected, double window) {
  const PixelPoint way{std::cos(angle), std::sin(angle)};
  const int half = static_cast<int>(std::ceil(window / kStep_px)) + 3;
  std::array<float, 257> values;
  const int n = std::min(2 * half + 1, static_cast<int>(values.size()));
  const double from = expected - (n / 2) * kStep_px;
  for (int i = 0; i < n; ++i)
    values[static_cast<std::size_t>(i)] = sample<unsigned char>(gray, centre + way * (from + i * kStep_px));
  double best = 0;
  int where = -1;
  const auto slope = [&](int i) {
    // Central difference over ±1 px of a 3-tap mean.
    const auto v = [&](int k) { return values[static_cast<std::size_t>(k)]; };
    return std::abs((v(i + 1) + v(i + 2) + v(i + 3) - v(i - 1) - v(i - 2) - v(i - 3)) / 6.0f);
  };
  for (int i = 3; i + 3 < n; ++i) {
    const float s = slope(i);
    if (s < kLeastEdge) continue;
    const double off = (from + i * kStep_px - expected) / window;
    const double weighed = s * std::exp(-1.2 * off * off);
    if (weighed > best) {
      best = weighed;
      where = i;
    }
  }
  if (where < 4 || where + 4 >= n) return std::nullopt;
  const float a = slope(where - 1), b = slope(where), c = slope(where + 1);
  const float curve = a - 2 * b + c;
  const double shift = curve < -1e-6f ? std::clamp(0.5 * (a - c) / curve, -1.0, 1.0) : 0.0;
  return from + (where + shift) * kStep_px;
}

}  // namespace

double RimShape::at(double angle) const {
  return radius_px + oval_cos_px * std::cos(2 * angle) + oval_sin_px * std::sin(2 * angle);
}

std::optional<RimFit> fitRim(const cv::Mat& gray, PixelPoint about, const RimShape& start, const RimSearch& search) {
  RimFit fit{about, start, 1, 0};
  double window = std::max(2.5, search.window_rel * start.radius_px);
  std::vector<RayEdge> edges;
  std::vector<double> residuals;
  for (int pass = 0; pass < 4; ++pass) {
    edges.clear();
    for (int i = 0; i < search.rays; ++i) {
      const double angle = 2 * kPi * i / search.rays;
      if (const auto r = edgeOnRay(gray, fit.centre, angle, fit.shape.at(angle), window)) edges.push_back({angle, *r});
    }
    if (edges.size() < static_cast<std::size_t>(search.rays * kLeastInliers)) return std::nullopt;
    // Unknowns: shift of the centre, change of radius, and of the two oval terms when they are free. Priors keep what
    // the rim cannot tell (half of it hidden) where it was.
    Eigen::Matrix<double, 5, 1> x = Eigen::Matrix<double, 5, 1>::Zero();
    double scale = window * 0.5;
    Eigen::Matrix<double, 5, 5> normal;
    for (int iteration = 0; iteration < 8; ++iteration) {
      normal.setZero();
      Eigen::Matrix<double, 5, 1> right = Eigen::Matrix<double, 5, 1>::Zero();
      const double size_sigma = search.shape_free ? 0.10 * start.radius_px : 0.003 * start.radius_px;
      const double oval_sigma = search.shape_free ? 0.05 * start.radius_px : 1e-3;
      normal(2, 2) = 1 / (size_sigma * size_sigma);
      normal(3, 3) = normal(4, 4) = 1 / (oval_sigma * oval_sigma);
      residuals.clear();
      for (const RayEdge& e : edges) {
        Eigen::Matrix<double, 5, 1> row;
        row << std::cos(e.angle_rad), std::sin(e.angle_rad), 1, std::cos(2 * e.angle_rad), std::sin(2 * e.angle_rad);
        const double measured = e.radius_px - fit.shape.at(e.angle_rad);
        const double residual = measured - row.dot(x);
        residuals.push_back(std::abs(residual));
        const double u = residual / (4.685 * scale);
        if (std::abs(u) >= 1) continue;
        const double weight = (1 - u * u) * (1 - u * u) / (scale * scale);
        normal += weight * row * row.transpose();
        right += weight * measured * row;
      }
      x = normal.ldlt().solve(right);
      std::vector<double> sorted = residuals;
      std::nth_element(sorted.begin(), sorted.begin() + static_cast<long>(sorted.size() / 2), sorted.end());
      scale = std::clamp(1.4826 * sorted[sorted.size() / 2], 0.15, window * 0.5);
    }
    fit.centre = fit.centre + PixelPoint{x(0), x(1)};
    fit.shape.radius_px += x(2);
    fit.shape.oval_cos_px += x(3);
    fit.shape.oval_sin_px += x(4);
    // An absolute bound as well: on noise the spread is wide, and everything would agree with it.
    const double accepted = std::clamp(3 * scale, 1.0, std::max(1.5, 0.025 * start.radius_px));
    const auto agreeing = std::count_if(residuals.begin(), residuals.end(), [&](double r) { return r < accepted; });
    fit.inliers = static_cast<double>(agreeing) / search.rays;
    const Eigen::Matrix<double, 5, 5> covariance = normal.inverse();
    fit.sigma_px = std::sqrt(std::max(covariance(0, 0), covariance(1, 1)) + 0.05 * 0.05);
    window = std::max(2.5, window * 0.6);
  }
  const bool inside = fit.centre.x > 0 && fit.centre.y > 0 && fit.centre.x < gray.cols && fit.centre.y < gray.rows;
  if (!inside || fit.inliers < kLeastInliers || length(fit.centre - about) > 0.6 * start.radius_px) return std::nullopt;
  return fit;
}

double rimScore(const cv::Mat& gray, PixelPoint centre, const RimShape& shape) {
  constexpr int kRays = 40;
  double sum = 0;
  for (int i = 0; i < kRays; ++i) {
    const double angle = 2 * kPi * i / kRays;
    const PixelPoint way{std::cos(angle), std::sin(angle)};
    const double r = shape.at(angle);
    sum += std::min(30.0f, std::abs(sample<unsigned char>(gray, centre + way * (r + 1.5)) -
                                    sample<unsigned char>(gray, centre + way * (r - 1.5))));
  }
  return sum / kRays;
}

}  // namespace jib::tracing
