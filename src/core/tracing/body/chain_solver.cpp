// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/chain_solver.h"

#include <algorithm>
#include <cmath>

#include "core/tracing/room/sampling.h"

namespace jib::tracing {
namespace {

using Slope = Eigen::Matrix<double, 2, BodyPose::kUnknowns>;

// Neighbouring patches see the same blurred pixels; this many of them count as one look.
constexpr double kPatchesALook = 10;
// The trunk bends and its cloth shifts more than a limb's, arms cross it, and the bar tells its direction better.
constexpr double kTrunkTrust = 0.15;

enum Unknown { kAnkleX, kAnkleY, kFootTurn, kShinTurn, kThighTurn, kTrunkTurn, kShinShare, kThighShare };

void turn(Slope& slope, int unknown, PixelPoint arm) {
  slope(0, unknown) = -arm.y;
  slope(1, unknown) = arm.x;
}

void stretch(Slope& slope, int unknown, PixelPoint way) {
  slope(0, unknown) = way.x;
  slope(1, unknown) = way.y;
}

// Adds the picture's equations at one level; returns how many patches fit.
struct PictureEquations {
  const Skeleton& skeleton;
  const SideCamera& camera;
  const BodyPicture& picture;
  const std::vector<const std::vector<Patch>*>& patches;
  std::vector<float> residuals;

  struct Row {
    const Patch* patch;
    PixelPoint place;
    float residual;
  };
  std::vector<Row> rows;

  double collect(const BodyPose& pose, std::size_t level, PoseMatrix& normal, PoseVector& right) {
    const BodyPicture::Level& l = picture.levels[level];
    const BodyPoints points = pointsOf(skeleton, pose, camera);
    rows.clear();
    residuals.clear();
    for (const auto* set : patches)
      for (const Patch& patch : *set) {
        const PixelPoint p = placeOf(patch, points);
        const PixelPoint inside = p - picture.corner;
        if (inside.x < 2 || inside.y < 2 || inside.x > l.value.cols - 2 || inside.y > l.value.rows - 2) continue;
        if (picture.hidden(p)) continue;
        const float residual = patch.value[level] - sample<float>(l.value, inside);
        rows.push_back({&patch, p, residual});
        residuals.push_back(std::abs(residual));
      }
    if (rows.size() < 60) return 0;
    std::nth_element(residuals.begin(), residuals.begin() + static_cast<long>(residuals.size() / 2), residuals.end());
    const double scale = std::max(0.05, 1.4826 * static_cast<double>(residuals[residuals.size() / 2]));
    const double per_row = 1 / (scale * scale * kPatchesALook);
    std::size_t fitting = 0;
    for (const Row& row : rows) {
      const double u = row.residual / (4.685 * scale);
      if (std::abs(u) >= 1) continue;
      if (std::abs(u) < 0.5) ++fitting;
      const PixelPoint inside = row.place - picture.corner;
      const double gx = sample<float>(l.slope_x, inside), gy = sample<float>(l.slope_y, inside);
      const double trust = row.patch->part == kTrunk ? kTrunkTrust : 1.0;
      const double weight = (1 - u * u) * (1 - u * u) * per_row * trust;
      const Slope slope = pointSlope(points, camera.forward, row.patch->part, row.place, row.patch->along);
      const PoseVector j = gx * slope.row(0).transpose() + gy * slope.row(1).transpose();
      normal.noalias() += weight * j * j.transpose();
      right.noalias() += weight * row.residual * j;
    }
    return static_cast<double>(fitting) / static_cast<double>(rows.size());
  }
};

}  // namespace

Slope pointSlope(const BodyPoints& points, double forward, Part part, PixelPoint place, double share) {
  Slope slope = Slope::Zero();
  slope(0, kAnkleX) = forward * points.metre_px;
  slope(1, kAnkleY) = -points.metre_px;
  const auto turned = [&](int unknown, PixelPoint arm) { turn(slope, unknown, arm * forward); };
  if (part == kFoot) {
    turned(kFootTurn, place - points.ankle);
    return slope;
  }
  const PixelPoint shin = points.knee - points.ankle;
  if (part == kShin) {
    turned(kShinTurn, place - points.ankle);
    stretch(slope, kShinShare, shin * share);
    return slope;
  }
  turned(kShinTurn, shin);
  stretch(slope, kShinShare, shin);
  const PixelPoint thigh = points.hip - points.knee;
  if (part == kThigh) {
    turned(kThighTurn, place - points.knee);
    stretch(slope, kThighShare, thigh * share);
    return slope;
  }
  turned(kThighTurn, thigh);
  stretch(slope, kThighShare, thigh);
  turned(kTrunkTurn, place - points.hip);
  return slope;
}

ChainSolution solveChain(const Skeleton& skeleton, const SideCamera& camera, const BodyPicture& picture,
                         const std::vector<const std::vector<Patch>*>& patches, const PosePrior& prior,
                         std::optional<PixelPoint> bar, double bar_sigma_px) {
  ChainSolution solution{prior.mean, PoseMatrix::Zero(), 0};
  PictureEquations equations{skeleton, camera, picture, patches, {}, {}};
  constexpr int kCoarse = 6, kFine = 7;
  const auto mean = prior.mean.vector();
  for (int iteration = 0; iteration < kCoarse + kFine; ++iteration) {
    PoseMatrix normal = PoseMatrix::Zero();
    PoseVector right = PoseVector::Zero();
    solution.agreement = equations.collect(solution.pose, iteration < kCoarse ? 1 : 0, normal, right);
    auto q = solution.pose.vector();
    for (std::size_t k = 0; k < q.size(); ++k) {
      const double w = 1 / (prior.sigma[k] * prior.sigma[k]);
      const auto e = static_cast<Eigen::Index>(k);
      normal(e, e) += w;
      right(e) += w * (mean[k] - q[k]);
    }
    if (bar) {
      const BodyPoints points = pointsOf(skeleton, solution.pose, camera);
      const PixelPoint at = points.bar;
      const Slope slope = pointSlope(points, camera.forward, kTrunk, at, 1);
      const double w = 1 / (bar_sigma_px * bar_sigma_px);
      const Eigen::Vector2d miss(bar->x - at.x, bar->y - at.y);
      normal.noalias() += w * slope.transpose() * slope;
      right.noalias() += w * slope.transpose() * miss;
    }
    const PoseVector step = normal.ldlt().solve(right);
    double size = 0;
    for (std::size_t k = 0; k < q.size(); ++k) {
      // A step of more than some degrees or centimetres means the linear model has left its ground.
      const double most = k < 2 ? 0.015 : k < 6 ? 0.12 : 0.05;
      const double d = std::clamp(step(static_cast<Eigen::Index>(k)), -most, most);
      q[k] += d;
      size = std::max(size, std::abs(d) / most);
    }
    solution.pose = BodyPose::from(q);
    solution.information = normal;
    if (size < 1e-3 && iteration >= kCoarse) break;
    if (size < 3e-3 && iteration < kCoarse - 1) iteration = kCoarse - 1;
  }
  return solution;
}

}  // namespace jib::tracing
