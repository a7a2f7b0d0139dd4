// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/coaching/sketch.h"

namespace jib::coaching {

// The ends of a wanted pose, in this order.
enum PoseEnd : std::size_t { kPoseAnkle, kPoseKnee, kPoseHip, kPoseShoulder, kPoseBar };
// Of somebody who lies on a bench the legs tell nothing: hip, shoulder, the near arm, and the bar where it always is.
enum PressPoseEnd : std::size_t { kPressHip, kPressShoulder, kPressElbow, kPressWrist, kPressBar = kPoseBar };

// The athlete as a frame shows them, to be pulled from there: a shape of kind Pose, as wanted, on that frame. nullopt
// where no body is traced, or not on that frame.
std::optional<Shape> poseOn(const Analysis& analysis, std::size_t frame);

// One joint pulled towards a place, with the athlete's own segment lengths: the knee turns about the ankle and takes
// the hip along, the hip bends knee and ankle, the shoulder leans the trunk. The bar stays over mid-foot: the trunk
// leans as far as that needs, or the hip goes where it must. Ankle and bar are not pulled. Of who pulls the bar hangs
// from straight arms and lies where it lies: the shoulder is where arms and trunk meet, and the bar is pulled along the
// floor. Of who presses hip and shoulder lie where they lie; the bar takes the arm along as far as it reaches,
// and the elbow turns in and out about the line from shoulder to hand, which is tucking and flaring.
// Frame   displayed pixels of the frame the pose was drawn on
// Source  two-link inverse kinematics (Craig, Introduction to Robotics, 3rd ed., section 4.4); the swivel of an elbow:
//         Tolani, Goswami and Badler, Graphical Models 62, 2000
Shape pulled(const Shape& pose, std::size_t end, PixelPoint to, const Analysis& analysis);

}  // namespace jib::coaching
