// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Dense>
#include <array>
#include <optional>
#include <vector>

#include "core/tracing/body/body_picture.h"

namespace jib::tracing {

using PoseVector = Eigen::Matrix<double, BodyPose::kUnknowns, 1>;
using PoseMatrix = Eigen::Matrix<double, BodyPose::kUnknowns, BodyPose::kUnknowns>;

// What is expected of a posture before the picture is looked at: a value and 1 σ for each unknown.
struct PosePrior {
  BodyPose mean;
  std::array<double, BodyPose::kUnknowns> sigma;
};

struct ChainSolution {
  BodyPose pose;
  PoseMatrix information;  // inverse covariance
  double agreement = 0;    // share of patches that fit
};

// The posture that best explains one picture: patches (from other frames) against the picture, the bar where it was
// traced, and the prior. Gauss-Newton, coarse level first, Tukey's weight.
ChainSolution solveChain(const Skeleton& skeleton, const SideCamera& camera, const BodyPicture& picture,
                         const std::vector<const std::vector<Patch>*>& patches, const PosePrior& prior,
                         std::optional<PixelPoint> bar, double bar_sigma_px);

// How a point of the chain moves with the unknowns; rows x and y. To first order: the small change of perspective
// along the way is left to the next iteration.
Eigen::Matrix<double, 2, BodyPose::kUnknowns> pointSlope(const BodyPoints& points, double forward, Part part,
                                                         PixelPoint place, double along);

}  // namespace jib::tracing
