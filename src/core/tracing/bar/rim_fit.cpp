// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/rim_fit.h"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "core/base/angle.h"
#include "core/base/result.h"
#include "core/tracing/room/sampling.h"

namespace jib::tracing {
namespace {

constexpr double kLeastInliers = 0.33;
constexpr double kFinest_px = 0.5, kCoarsest_px = 0.9;  // steps along a ray: coarse while the window is wide
constexpr float kLeastEdge = 2.5f;  // grey levels a pixel; sensor noise after the smoothing stays below

constexpr int kMostRays = 96;
// Passes end when the centre moves less than this: a tenth of what the spread of the edges leaves open.
constexpr double kSettled_px = 0.02;

// Cosine and sine of a ray's angle and of twice it: asked for some ten thousand times a frame.
struct Ray {
  double cos1, sin1, cos2, sin2;
};

struct Rays {
  std::array<Ray, kMostRays> ray;
  int count = 0;
};

const Rays& raysOf(int count) {
  thread_local Rays rays;
  if (rays.count == count) return rays;
  rays.count = count;
  for (int i = 0; i < count; ++i) {
    const double a = 2 * kPi * i / count;
    rays.ray[static_cast<std::size_t>(i)] = {std::cos(a), std::sin(a), std::cos(2 * a), std::sin(2 * a)};
  }
  return rays;
}

double along(const RimShape& shape, const Ray& ray) {
  return shape.radius_px + shape.oval_cos_px * ray.cos2 + shape.oval_sin_px * ray.sin2;
}

struct RayEdge {
  const Ray* ray;
  double radius_px;
};

// Whether the picture shows where the rim is expected on a ray. Where its edge cuts a plate, the last thing to be seen
// on the ray is no rim.
bool shows(const cv::Mat& gray, PixelPoint p) {
  constexpr double kMargin_px = 2;
  return p.x > kMargin_px && p.y > kMargin_px && p.x < gray.cols - kMargin_px && p.y < gray.rows - kMargin_px;
}

// The strongest edge along one ray, with a preference for the expected radius.
std::optional<double> edgeOnRay(const cv::Mat& gray, PixelPoint centre, const Ray& ray, double expected,
                                double window) {
  const PixelPoint way{ray.cos1, ray.sin1};
  const double step = std::clamp(window / 10, kFinest_px, kCoarsest_px);
  const int half = static_cast<int>(std::ceil(window / step)) + 3;
  std::array<float, 257> values, sums;
  const int n = std::min(2 * half + 1, static_cast<int>(values.size()));
  const double from = expected - (n / 2) * step;
  for (int i = 0; i < n; ++i)
    values[static_cast<std::size_t>(i)] = sample<unsigned char>(gray, centre + way * (from + i * step));
  for (int i = 1; i + 1 < n; ++i) {
    const auto k = static_cast<std::size_t>(i);
    sums[k] = values[k - 1] + values[k] + values[k + 1];
  }
  // Central difference of a 3-tap mean over two steps either way, a pixel.
  const auto per_pixel = static_cast<float>(1 / (12 * step));
  const auto slope = [&](int i) {
    return std::abs(sums[static_cast<std::size_t>(i) + 2] - sums[static_cast<std::size_t>(i) - 2]) * per_pixel;
  };
  double best = 0;
  int where = -1;
  for (int i = 3; i + 3 < n; ++i) {
    const float s = slope(i);
    if (s < kLeastEdge || s <= best) continue;
    const double off = (from + i * step - expected) / window;
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
  return from + (where + shift) * step;
}

}  // namespace

double RimShape::at(double angle) const {
  return radius_px + oval_cos_px * std::cos(2 * angle) + oval_sin_px * std::sin(2 * angle);
}

std::optional<RimFit> fitRim(const cv::Mat& gray, PixelPoint about, const RimShape& start, const RimSearch& search) {
  // long because one Gauss-Newton step after the other, with the sums of all of them
  JIB_ASSERT(search.rays <= kMostRays);
  const Rays& rays = raysOf(search.rays);
  RimFit fit{about, start, 1, 0};
  double window = std::max(2.5, search.window_rel * start.radius_px);
  std::vector<RayEdge> edges;
  std::vector<double> residuals, sorted;
  for (int pass = 0; pass < 4; ++pass) {
    edges.clear();
    for (int i = 0; i < search.rays; ++i) {
      const Ray& ray = rays.ray[static_cast<std::size_t>(i)];
      const double expected = along(fit.shape, ray);
      if (!shows(gray, fit.centre + PixelPoint{ray.cos1, ray.sin1} * expected)) continue;
      if (const auto r = edgeOnRay(gray, fit.centre, ray, expected, window)) edges.push_back({&ray, *r});
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
        row << e.ray->cos1, e.ray->sin1, 1, e.ray->cos2, e.ray->sin2;
        const double measured = e.radius_px - along(fit.shape, *e.ray);
        const double residual = measured - row.dot(x);
        residuals.push_back(std::abs(residual));
        const double u = residual / (4.685 * scale);
        if (std::abs(u) >= 1) continue;
        const double weight = (1 - u * u) * (1 - u * u) / (scale * scale);
        normal += weight * row * row.transpose();
        right += weight * measured * row;
      }
      const Eigen::Matrix<double, 5, 1> before = x;
      x = normal.ldlt().solve(right);
      sorted = residuals;
      std::nth_element(sorted.begin(), sorted.begin() + static_cast<long>(sorted.size() / 2), sorted.end());
      const double was = scale;
      scale = std::clamp(1.4826 * sorted[sorted.size() / 2], 0.15, window * 0.5);
      if ((x - before).norm() < 0.2 * kSettled_px && std::abs(scale - was) < 0.05 * scale) break;
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
    // One pass more after the window has shrunk once: far edges pull in the first.
    if (pass > 0 && std::hypot(x(0), x(1)) < kSettled_px) break;
    window = std::max(2.5, window * 0.6);
  }
  // A plate on the floor may have its middle below the picture: what of its rim is seen tells where.
  constexpr double kOutside = 0.35;  // of the radius
  const double out = kOutside * start.radius_px;
  const bool inside =
      fit.centre.x > -out && fit.centre.y > -out && fit.centre.x < gray.cols + out && fit.centre.y < gray.rows + out;
  if (!inside || fit.inliers < kLeastInliers || length(fit.centre - about) > 0.6 * start.radius_px) return std::nullopt;
  return fit;
}

double rimScore(const cv::Mat& gray, PixelPoint centre, const RimShape& shape) {
  constexpr int kRays = 40;
  double sum = 0;
  for (int i = 0; i < kRays; ++i) {
    const Ray& ray = raysOf(kRays).ray[static_cast<std::size_t>(i)];
    const PixelPoint way{ray.cos1, ray.sin1};
    const double r = along(shape, ray);
    sum += std::min(30.0f, std::abs(sample<unsigned char>(gray, centre + way * (r + 1.5)) -
                                    sample<unsigned char>(gray, centre + way * (r - 1.5))));
  }
  return sum / kRays;
}

}  // namespace jib::tracing
