// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/camera/side_camera.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::tracing {
namespace {

// Directions in the room: along the sagittal plane towards the picture's right, up, and away from the camera.
struct Axes {
  double right[3], down[3], ahead[3];
};

Axes axesOf(const SideCamera& c) {
  Axes a{{1, 0, 0}, {0, -1, 0}, {0, 0, 1}};
  const auto turn = [](double* p, double* q, double angle) {
    for (int k = 0; k < 3; ++k) {
      const double p0 = p[k], q0 = q[k];
      p[k] = p0 * std::cos(angle) + q0 * std::sin(angle);
      q[k] = q0 * std::cos(angle) - p0 * std::sin(angle);
    }
  };
  turn(a.ahead, a.right, c.yaw_rad);
  turn(a.ahead, a.down, c.pitch_rad);
  turn(a.right, a.down, c.roll_rad);
  return a;
}

PixelPoint meanPlace(const BarTrace& bar, PixelPoint otherwise) {
  double x = 0, y = 0, n = 0;
  for (const auto& p : bar.plate)
    if (p) {
      x += p->place.x;
      y += p->place.y;
      n += 1;
    }
  return n > 0 ? PixelPoint{x / n, y / n} : otherwise;
}

// By what share of itself the outline of a stack of plates is larger than the face in front. The camera sees the last
// plate's edge past the first one's wherever it does not look straight along the bar: in the plane of the face the last
// one is a circle a little smaller, nearer to the point square before the lens, and the outline goes round both. That
// grows with how far the bar is above or below the lens, and with how far to the side. How many plates there are is not
// known.
struct StackOutline {
  double mean = 0;  // of the radius, round and round
  double tall = 0;  // of half its height
};
constexpr double kStack_m = 0.08, kStackUnsure = 0.5;  // thickness of the plates, and its 1 σ as a share of that

StackOutline stackOutline(const SideCamera& c, const BarTrace& bar, double distance_m, double rim_m) {
  constexpr std::size_t kEvery = 5;
  const Axes a = axesOf(c);
  const double radius_m = rim_m / 2, nearer = kStack_m / (distance_m + kStack_m);
  StackOutline sum;
  double places = 0;
  for (std::size_t i = 0; i < bar.plate.size(); i += kEvery) {
    if (!bar.plate[i]) continue;
    const PixelPoint straight = c.bend.straightened(bar.plate[i]->place - c.middle);
    const double u = straight.x / c.focal_px, v = straight.y / c.focal_px;
    const auto along = [&](std::size_t k) { return u * a.right[k] + v * a.down[k] + a.ahead[k]; };
    const double aside_m = distance_m * along(0) / along(2), up_m = distance_m * along(1) / along(2);
    const double off_m = std::hypot(aside_m, up_m);
    places += 1;
    if (off_m <= radius_m) continue;  // the front face hides the others
    // Two circles' outline, as the mean of a radius and its second harmonic see it.
    const double longer = nearer * (off_m - radius_m) / radius_m;
    sum.mean += longer / kPi;
    sum.tall += longer * (1 / kPi + 2 / (3 * kPi) * (up_m * up_m - aside_m * aside_m) / (off_m * off_m));
  }
  if (places > 0) sum = {sum.mean / places, sum.tall / places};
  return sum;
}

// The rim's radius as if seen square on. The larger half axis of a fitted ellipse is always on the large side, by what
// the fit's noise flattens; the mean of both axes is not. How far the view flattens it is known from the bar's own
// direction, when its end was seen; where it was not, a rim that looks nearly round is taken to be round. Seen well off
// the side the outline is that of all plates together: wider than one, so its height tells there.
double unflattened(const Rim& rim, const StackOutline& stack, const Axes& a, double u, double v, bool turn_known) {
  const double mean = rim.radius_px * std::sqrt(rim.aspect) / (1 + stack.mean);
  constexpr double kRound = 0.975;
  if (!turn_known) return rim.aspect > kRound ? mean : rim.radius_px / (1 + stack.tall);
  // The bar runs along the third of the room's directions.
  const double along = u * a.right[2] + v * a.down[2] + a.ahead[2];
  // A circle at a depth along the lens's axis has the area of one square on, times this (the projection's determinant).
  const double by_mean = mean / std::sqrt(std::max(0.5, std::abs(along)));
  const double flat = std::abs(along) / std::sqrt(u * u + v * v + 1);
  constexpr double kStillFlat = 0.95, kTurnedAway = 0.88;
  const double turned = std::clamp((kStillFlat - flat) / (kStillFlat - kTurnedAway), 0.0, 1.0);
  return (1 - turned) * by_mean + turned * rim.radius_px / (1 + stack.tall);
}

}  // namespace

MetrePoint SideCamera::toPlane(PixelPoint pixel, double lateral) const {
  const Axes a = axesOf(*this);
  const PixelPoint straight = bend.straightened(pixel - middle);
  const double u = straight.x / focal_px, v = straight.y / focal_px;
  double way[3];
  for (int k = 0; k < 3; ++k) way[k] = u * a.right[k] + v * a.down[k] + a.ahead[k];
  const double reach = (plate_distance_m + plate_m - lateral) / way[2];
  return {forward * way[0] * reach, way[1] * reach};
}

PixelPoint SideCamera::toPicture(MetrePoint place, double lateral) const {
  const Axes a = axesOf(*this);
  const double p[3] = {forward * place.x, place.z, plate_distance_m + plate_m - lateral};
  const auto along = [&](const double* axis) { return p[0] * axis[0] + p[1] * axis[1] + p[2] * axis[2]; };
  const double depth = along(a.ahead);
  return middle + bend.bent({focal_px * along(a.right) / depth, focal_px * along(a.down) / depth});
}

double SideCamera::pixelsPerMetre(double lateral) const {
  return focal_px / (plate_distance_m + plate_m - lateral);
}

double SideCamera::lateralOf(Landmark landmark, double knee_ahead_m) const {
  constexpr double kToeAhead_m = 0.20, kHeelBehind_m = 0.06;  // of the ankle, along the foot
  switch (landmark) {
    case Landmark::Bar:
    case Landmark::Plate:
      return plate_m;
    case Landmark::Toe:
      return ankle_m + kToeAhead_m * std::sin(toe_out_rad);
    case Landmark::Heel:
      return ankle_m - kHeelBehind_m * std::sin(toe_out_rad);
    case Landmark::Ankle:
      return ankle_m;
    case Landmark::Knee:
    case Landmark::KneeTop:
      return straightKnee_m() + std::max(0.0, knee_ahead_m) * std::tan(splay_rad);
    case Landmark::Shoulder:
      return 2.2 * hip_m;
    case Landmark::Elbow:
    case Landmark::Wrist:
      return elbow_m;
    case Landmark::Hip:
    case Landmark::HipCrease:
      break;
  }
  return hip_m;
}

namespace {

// Two ways to the camera's pitch, from the bar and from the room. They are averaged by what they are sure of; where
// they contradict each other the room is right: a bar's end can be taken for something else, the posts of a rack
// cannot.
void pitchFromUprights(SideCamera& c, const Convergence& uprights) {
  const double pitch = std::atan(uprights.per_px * c.focal_px);
  // A pitch of the posts' own: racks stand askew by half a degree.
  const double sigma = std::hypot(uprights.sigma_per_px * c.focal_px, pitch * c.focal_sigma_rel, 0.01);
  const double apart = std::abs(pitch - c.pitch_rad), doubt = std::hypot(sigma, c.pitch_sigma_rad);
  constexpr double kContradict = 2.5;
  if (apart > kContradict * doubt) {
    c.pitch_rad = pitch;
    c.pitch_sigma_rad = std::hypot(sigma, 0.02);
    return;
  }
  const double w = 1 / (sigma * sigma), v = 1 / (c.pitch_sigma_rad * c.pitch_sigma_rad);
  c.pitch_rad = (w * pitch + v * c.pitch_rad) / (w + v);
  c.pitch_sigma_rad = 1 / std::sqrt(w + v);
}

// Where the bar's line vanishes in the picture of a straight lens, from the picture's middle. The point was worked out
// from where plate and end are seen; these are what the lens bends.
PixelPoint straightVanishing(const BarTrace& bar, PixelPoint middle, const LensBend& bend) {
  if (bar.depth_ratio <= 0) return *bar.vanishing - middle;
  const PixelPoint plate = meanPlace(bar, middle), end = plate + (plate - *bar.vanishing) * bar.depth_ratio;
  const PixelPoint straight = bend.straightened(plate - middle);
  return straight - (bend.straightened(end - middle) - straight) * (1 / bar.depth_ratio);
}

// Returns how unsure the stack of plates leaves it, as a share.
double setDistance(SideCamera& c, const BarTrace& bar, const CameraPriors& priors, bool turn_known) {
  // Depth along the optical axis from the larger half axis, then square to the plane.
  const PixelPoint seen = meanPlace(bar, c.middle) - c.middle, mean = c.bend.straightened(seen);
  const Axes a = axesOf(c);
  const double u = mean.x / c.focal_px, v = mean.y / c.focal_px;
  const auto distance = [&](const StackOutline& stack) {
    const double radius_px = unflattened(bar.rim, stack, a, u, v, turn_known) * c.bend.growth(seen);
    return c.focal_px * priors.rim_m / 2 / radius_px * (u * a.right[2] + v * a.down[2] + a.ahead[2]);
  };
  const double without = distance({});
  c.plate_distance_m = distance(stackOutline(c, bar, without, priors.rim_m));
  return kStackUnsure * (c.plate_distance_m / without - 1);
}

}  // namespace

SideCamera sideCamera(const BarTrace& bar, int width, int height, double forward, const CameraPriors& priors,
                      std::optional<double> roll_rad, const std::optional<Convergence>& uprights,
                      const LensBend& bend) {
  SideCamera c;
  c.bend = bend;
  c.middle = {width / 2.0, height / 2.0};
  c.focal_px = priors.focal_share * std::max(width, height);
  c.focal_sigma_rel = priors.focal_sigma_rel;
  c.forward = forward;
  c.plate_m = priors.plate_m;
  c.hip_m = priors.hip_m;
  c.ankle_m = priors.ankle_m;
  c.toe_out_rad = c.splay_rad = priors.toe_out_rad;
  c.wide_stance = priors.wide_stance;
  c.lateral_sigma_m = priors.lateral_sigma_m;
  const PixelPoint plate = meanPlace(bar, c.middle) - c.middle;
  c.scale_sigma_rel = std::hypot(bar.rim.sigma_rel, 2 * bend.sigma_per_px2 * dot(plate, plate));
  if (bar.vanishing) {
    const PixelPoint vanishing = straightVanishing(bar, c.middle, bend);
    c.yaw_rad = std::atan(-vanishing.x / c.focal_px);
    c.pitch_rad = std::atan(-vanishing.y / c.focal_px);
    const double sigma = std::min(0.06, bar.vanishing_sigma_px / c.focal_px);
    c.yaw_sigma_rad = c.pitch_sigma_rad = sigma;
  } else {
    // The rim's flatness gives the angle to the bar but not its sign, and is blunt near square-on: to the side it
    // widens the yaw and does not turn it. A rim flattened from above and below is a camera that looks down (nobody
    // films from the floor up at a squat), and beyond some 14 degrees it is surer than any other cue.
    const double angle = std::acos(std::clamp(bar.rim.aspect, 0.5, 1.0));
    const bool from_above = std::abs(std::cos(bar.rim.tilt_rad)) > 0.8;  // the larger axis lies level
    c.yaw_sigma_rad = from_above ? 0.06 : std::max(0.06, angle);
    constexpr double kClear_rad = 0.24;
    if (from_above && angle > kClear_rad) {
      c.pitch_rad = angle - std::atan((meanPlace(bar, c.middle).y - c.middle.y) / c.focal_px);
      c.pitch_sigma_rad = 0.06;
    }
  }
  if (uprights) pitchFromUprights(c, *uprights);
  // A tilted view shortens heights; how much is as unsure as the tilt.
  c.scale_sigma_rel = std::hypot(c.scale_sigma_rel, std::tan(std::abs(c.pitch_rad)) * c.pitch_sigma_rad);
  constexpr double kPostsAskew_rad = 0.006;
  constexpr double kSaid_rad = 0.006;  // as exactly as a line is drawn along a post
  if (priors.told_roll_rad) {
    c.roll_rad = *priors.told_roll_rad;
    c.roll_sigma_rad = kSaid_rad;
  } else if (uprights && uprights->roll_rad) {
    c.roll_rad = *uprights->roll_rad;
    c.roll_sigma_rad = std::hypot(kPostsAskew_rad, uprights->roll_sigma_rad);
  } else if (roll_rad) {
    c.roll_rad = *roll_rad;
    c.roll_sigma_rad = kPostsAskew_rad;
  } else {
    constexpr double kPropped_rad =
        0.022;  // of a phone that leans against something, with no post in the picture to tell
    c.roll_sigma_rad = kPropped_rad;
  }
  c.scale_sigma_rel = std::hypot(c.scale_sigma_rel, setDistance(c, bar, priors, bar.vanishing.has_value()));
  return c;
}

SideCamera turned(const SideCamera& camera, const BarTrace& bar, const CameraPriors& priors, double yaw_rad,
                  double yaw_sigma_rad) {
  constexpr double kOutlineErrs = 0.015;  // of the scale: how tall a stack of plates looks at an angle
  SideCamera c = camera;
  c.scale_sigma_rel = std::hypot(c.scale_sigma_rel, kOutlineErrs);
  c.yaw_rad = yaw_rad;
  c.yaw_sigma_rad = yaw_sigma_rad;
  setDistance(c, bar, priors, true);
  return c;
}

}  // namespace jib::tracing
