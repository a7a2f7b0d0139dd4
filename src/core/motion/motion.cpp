// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/motion.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/base/median.h"
#include "core/motion/low_pass.h"
#include "core/tracing/body/pin_correction.h"
#include "core/tracing/sightings/first_look.h"

namespace jib::motion {
namespace {

using tracing::at;
using tracing::ClipTrace;
using tracing::Landmark;
using tracing::SideCamera;

using Values = std::vector<std::optional<double>>;

std::vector<double> realTimes(const std::vector<double>& times_s, double slow_factor) {
  std::vector<double> real = times_s;
  for (double& t : real) t /= slow_factor;
  return real;
}

void filterPath(Path& path, const std::vector<double>& real_s, double cutoff_hz) {
  Values x(path.at.size()), z(path.at.size());
  for (std::size_t i = 0; i < path.at.size(); ++i)
    if (path.at[i]) {
      x[i] = path.at[i]->x;
      z[i] = path.at[i]->z;
    }
  x = lowPass(real_s, x, cutoff_hz);
  z = lowPass(real_s, z, cutoff_hz);
  for (std::size_t i = 0; i < path.at.size(); ++i)
    if (path.at[i]) path.at[i] = MetrePoint{*x[i], *z[i]};
}

constexpr double kBesideItsPlane_m = 0.03;  // by which a joint stands nearer or further than bodies usually have it

Path pathOf(const ClipTrace& clip, Landmark landmark) {
  const auto& trace = clip.trace;
  Path path;
  path.at.resize(trace.size());
  path.sigma_m.assign(trace.size(), 0.01);
  path.wander_m.assign(trace.size(), 0.005);
  const Landmark source = landmark == Landmark::Bar ? Landmark::Plate : landmark;
  const tracing::Wander wander = tracing::wanderOf(landmark, clip.body ? *clip.body : tracing::BodyTrack{});
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const auto& point = trace.frames[i][at(source)];
    if (!point) continue;
    const tracing::CameraMove move = trace.moveAt(i);
    const PixelPoint place = move.still(point->place);
    double knee_ahead = 0;
    if (landmark == Landmark::Knee || landmark == Landmark::KneeTop)
      if (const auto ankle = trace.place(i, Landmark::Ankle))
        knee_ahead = clip.camera.forward *
                     clip.camera.kneeAhead(move.still(*ankle).x, place.x,
                                           move.still(trace.place(i, Landmark::Hip).value_or(*ankle)).x) /
                     clip.camera.pixelsPerMetre(clip.camera.ankle_m);
    const double lateral = clip.camera.lateralOf(landmark, knee_ahead);
    const double px = clip.camera.pixelsPerMetre(lateral);
    path.at[i] = clip.camera.toPlane(place, lateral);
    path.sigma_m[i] = point->sigma_px / px;
    const bool of_bar = source == Landmark::Plate;
    // The bar's error is mostly the same from frame to frame.
    path.wander_m[i] =
        of_bar ? 0.35 * path.sigma_m[i] : std::min(path.sigma_m[i], wander.drift_m + 0.4 * wander.posture_m);
    // Seen at an angle, what stands nearer than it is taken to seems further along: a shift, the same in every frame.
    if (!of_bar)
      path.sigma_m[i] = std::hypot(path.sigma_m[i], kBesideItsPlane_m * std::tan(std::abs(clip.camera.yaw_rad)));
    // What is left of a hand's sway once it is taken off.
    constexpr double kSwayLeft_m = 0.005;
    if (!trace.camera_moves.empty()) {
      path.wander_m[i] = std::hypot(path.wander_m[i], kSwayLeft_m);
      path.sigma_m[i] = std::hypot(path.sigma_m[i], kSwayLeft_m);
    }
  }
  return path;
}

// The middle of each foot along the floor as the network sees it, frame by frame: rough, but there while the lifter
// walks, when no chain of limbs can be fitted to still feet.
std::vector<FeetAt> feetOf(const ClipTrace& clip) {
  using tracing::BodySide, tracing::PoseMark;
  constexpr double kSeen = 0.5;
  std::vector<FeetAt> feet;
  if (!clip.sightings || !clip.forward) return feet;
  const BodySide near = *clip.forward > 0 ? BodySide::Right : BodySide::Left;
  const BodySide far = near == BodySide::Right ? BodySide::Left : BodySide::Right;
  for (const auto& s : *clip.sightings) {
    const auto middle = [&](BodySide side, double lateral_m) -> std::optional<double> {
      if (s.reading.sure(PoseMark::Heel, side) < kSeen || s.reading.sure(PoseMark::Toe, side) < kSeen)
        return std::nullopt;
      const auto along = [&](PoseMark mark) {
        return clip.camera.toPlane(s.camera.still(s.reading.place(mark, side)), lateral_m).x;
      };
      return (along(PoseMark::Heel) + along(PoseMark::Toe)) / 2;
    };
    feet.push_back({clip.trace.times_s[s.frame], middle(near, clip.camera.ankle_m), middle(far, -clip.camera.ankle_m)});
  }
  return feet;
}

// A hand's sway is larger than what is looked for here.
std::vector<ShoeRise> shoeOf(const ClipTrace& clip) {
  std::vector<ShoeRise> rises;
  if (!clip.body || !clip.body->feet_seen || clip.body->shoe.empty() || !clip.trace.camera_moves.empty()) return rises;
  const double px = clip.camera.pixelsPerMetre(clip.camera.ankle_m);
  for (const auto& s : clip.body->shoe) rises.push_back(s ? ShoeRise{s->heel_px / px, s->toe_px / px} : ShoeRise{});
  return rises;
}

std::vector<std::optional<double>> seatOf(const ClipTrace& clip) {
  std::vector<std::optional<double>> rises;
  if (!clip.body || !clip.trace.camera_moves.empty()) return rises;
  const double px = clip.camera.pixelsPerMetre(clip.camera.hip_m);
  for (const auto& seen : clip.body->lying)
    rises.push_back(seen.hip_moved ? std::optional(-seen.hip_moved->y / px) : std::nullopt);
  return rises;
}

std::vector<std::optional<double>> hipBeforeOffOf(const ClipTrace& clip) {
  std::vector<std::optional<double>> heights;
  if (!clip.body || !clip.trace.camera_moves.empty()) return heights;
  const double px = clip.camera.pixelsPerMetre(clip.camera.hip_m);
  for (const auto& moved : clip.body->hip_before_off)
    heights.push_back(moved ? std::optional(-moved->y / px) : std::nullopt);
  return heights;
}

// Mid-foot on the floor while the feet stand: medians over the clip.
std::optional<MetrePoint> midFoot(const Motion& m) {
  std::vector<double> x, z;
  for (std::size_t i = 0; i < m.times_s.size(); ++i) {
    const auto &toe = m.path(Landmark::Toe).at[i], &heel = m.path(Landmark::Heel).at[i];
    if (!toe || !heel) continue;
    x.push_back((toe->x + heel->x) / 2);
    z.push_back(heel->z);
  }
  if (x.empty()) return std::nullopt;
  const auto middle = [](std::vector<double>& v) {
    std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
    return v[v.size() / 2];
  };
  // The heel may lift; the floor is where it is lowest for long.
  std::sort(z.begin(), z.end());
  return MetrePoint{middle(x), z[z.size() / 10]};
}

MetrePoint barOrigin(const Path& bar) {
  double x = 0, n = 0, lowest = 1e9;
  for (const auto& p : bar.at)
    if (p) {
      x += p->x;
      n += 1;
      lowest = std::min(lowest, p->z);
    }
  return n > 0 ? MetrePoint{x / n, lowest} : MetrePoint{};
}

// Height of the hip when it is lowest, or, without a body, of where it is under a bar that is lowest.
std::optional<double> hipAtItsLowest(const Motion& motion) {
  constexpr double kUnderTheBar_m = 0.35;
  std::optional<double> lowest;
  for (const auto& p : motion.path(Landmark::Hip).at)
    if (p) lowest = std::min(lowest.value_or(p->z), p->z);
  if (lowest) return lowest;
  for (const auto& p : motion.path(Landmark::Bar).at)
    if (p) lowest = std::min(lowest.value_or(p->z - kUnderTheBar_m), p->z - kUnderTheBar_m);
  return lowest;
}

// Of a lift whose body is not traced: the middle of the bar's way stands for the body.
std::optional<double> barHalfWay(const Motion& motion) {
  double low = 1e9, high = -1e9;
  for (const auto& p : motion.path(Landmark::Bar).at)
    if (p) {
      low = std::min(low, p->z);
      high = std::max(high, p->z);
    }
  return high < low ? std::nullopt : std::optional((low + high) / 2);
}

// The glance at hips and feet errs by some 10 degrees; a view 20 degrees from the side must not fall to it.
constexpr double kTooOblique_deg = 50;

// How far hands and shoulders are from the bar's height wherever both are seen. Heights, as these hold from every side.
void bodyAtBar(const ClipTrace& clip, Calibration& k) {
  using tracing::PoseMark;
  constexpr double kSeen = 0.5;
  constexpr std::size_t kEnough = 6;
  if (clip.body) k.stature_m = clip.body->skeleton.stature_m();
  // A body the coach placed is there, whatever the network sees.
  const bool placed = clip.body && clip.body->knowsPlacedFrame();
  k.looked_for_body = clip.sightings != nullptr && clip.sightings_trouble.empty() && !placed;
  if (!clip.sightings) return;
  k.looks_at_body = clip.sightings->size();
  std::vector<double> hands, shoulders, trunks;
  for (const auto& s : *clip.sightings) {
    for (const tracing::BodySide side : {tracing::BodySide::Left, tracing::BodySide::Right})
      if (s.reading.sure(PoseMark::Shoulder, side) >= kSeen && s.reading.sure(PoseMark::Hip, side) >= kSeen)
        trunks.push_back(length(clip.camera.toPlane(s.reading.place(PoseMark::Shoulder, side), clip.camera.hip_m) -
                                clip.camera.toPlane(s.reading.place(PoseMark::Hip, side), clip.camera.hip_m)));
    const auto& bar = s.frame < clip.bar->plate.size() ? clip.bar->plate[s.frame] : std::nullopt;
    if (!bar) continue;
    const double bar_z = clip.camera.toPlane(bar->place, clip.camera.plate_m).z;
    const auto off = [&](PoseMark mark, double lateral_m, std::vector<double>& all) {
      std::optional<double> least;
      for (const tracing::BodySide side : {tracing::BodySide::Left, tracing::BodySide::Right})
        if (s.reading.sure(mark, side) >= kSeen) {
          const double z = clip.camera.toPlane(s.reading.place(mark, side), lateral_m).z;
          least = std::min(least.value_or(1e9), std::abs(z - bar_z));
        }
      if (least) all.push_back(*least);
    };
    off(PoseMark::Wrist, clip.camera.elbow_m, hands);
    off(PoseMark::Shoulder, clip.camera.lateralOf(Landmark::Shoulder, 0), shoulders);
  }
  // Where no limbs were fitted the trunk's length tells, roughly: what a turn shortens of it is not held against it.
  if (!k.stature_m && trunks.size() >= kEnough) {
    constexpr double kOfStature = 0.288, kUsual_m = 1.75, kErrs = 1.2;
    std::sort(trunks.begin(), trunks.end());
    const double stature_m = trunks[trunks.size() * 3 / 4] / kOfStature;
    k.stature_m = stature_m > kUsual_m ? std::max(kUsual_m, stature_m / kErrs) : std::min(kUsual_m, stature_m * kErrs);
  }
  if (hands.size() >= kEnough) k.hands_off_bar_m = jib::median(std::move(hands));
  if (shoulders.size() >= kEnough) k.shoulders_off_bar_m = jib::median(std::move(shoulders));
}

Calibration calibrationOf(const ClipTrace& clip, const Motion& motion) {
  const SideCamera& c = clip.camera;
  Calibration k;
  // Where the bar is: a camera that is turned has one end of the picture nearer than the other.
  k.pixels_per_metre = c.pixelsPerMetre(c.plate_m);
  for (const auto& bar : clip.bar ? clip.bar->plate : std::vector<std::optional<tracing::TracedPoint>>{})
    if (bar) {
      const MetrePoint here = c.toPlane(bar->place, c.plate_m);
      constexpr double kApart_m = 0.05;
      k.pixels_per_metre = length(c.toPicture({here.x, here.z + kApart_m}, c.plate_m) -
                                  c.toPicture({here.x, here.z - kApart_m}, c.plate_m)) /
                           (2 * kApart_m);
      break;
    }
  k.scale_sigma_rel = c.scale_sigma_rel;
  // Turned away, what is across the picture is longer along the lifter: so is what a roll makes of a rise.
  constexpr double kLeastCos = 0.5;
  k.roll_sigma_rad = c.roll_sigma_rad / std::max(kLeastCos, std::cos(c.yaw_rad));
  k.yaw_rad = c.yaw_rad;
  k.yaw_sigma_rad = c.yaw_sigma_rad;
  k.forward_known = clip.forward.has_value();
  // Bar and foot are brought to one plane over `gap`; errors of focal length, of the gap itself and of yaw remain.
  const double distance = c.distance_m(), gap = c.plate_m - c.ankle_m;
  const MetrePoint origin = midFoot(motion).value_or(MetrePoint{});
  const double off_axis = std::abs(origin.x);
  k.bar_to_foot_sigma_m = std::hypot(off_axis * gap / distance * c.focal_sigma_rel,
                                     off_axis * c.lateral_sigma_m / distance, gap * c.yaw_sigma_rad);
  // The middle of the foot is no surer than its ends.
  const auto typical = [&](Landmark l) {
    std::vector<double> v;
    for (std::size_t i = 0; i < motion.times_s.size(); ++i)
      if (motion.path(l).at[i]) v.push_back(motion.path(l).sigma_m[i]);
    if (v.empty()) return 0.0;
    std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
    return v[v.size() / 2];
  };
  k.bar_to_foot_sigma_m = std::hypot(k.bar_to_foot_sigma_m, typical(Landmark::Toe) / 2, typical(Landmark::Heel) / 2);
  // Crease and knee stand about this far apart towards the camera; height over them and pitch shift one against the
  // other. Heights count from the camera's own here.
  const double apart_sigma = 1.4 * c.lateral_sigma_m, apart = 0.15;
  const auto hip = clip.model.lying && !clip.body ? barHalfWay(motion) : hipAtItsLowest(motion);
  if (hip) k.look_down_deg = degrees(std::atan(-*hip / distance));
  constexpr double kDownOnFeet_deg = 10;
  k.foot_from_above =
      clip.body && clip.body->source == tracing::BodySource::Network && k.look_down_deg > kDownOnFeet_deg;
  bodyAtBar(clip, k);
  k.height_sigma_m = std::hypot(hip.value_or(0) / distance * apart_sigma, apart * c.pitch_sigma_rad, 0.004);
  return k;
}

}  // namespace

bool Calibration::accepts(std::string_view claim) const {
  return std::find(accepted.begin(), accepted.end(), claim) != accepted.end();
}

Angles anglesOf(const std::array<std::optional<MetrePoint>, tracing::kLandmarks>& p) {
  const auto& ankle = p[at(Landmark::Ankle)];
  const auto& knee = p[at(Landmark::Knee)];
  const auto& hip = p[at(Landmark::Hip)];
  const auto& shoulder = p[at(Landmark::Shoulder)];
  Angles a;
  if (ankle && knee) a.shin_deg = lean_deg(*ankle, *knee);
  if (knee && hip) a.thigh_deg = lean_deg(*knee, *hip);
  if (hip && shoulder) a.torso_deg = lean_deg(*hip, *shoulder);
  if (ankle && knee && hip) a.knee_deg = included_deg(*ankle, *knee, *hip);
  if (knee && hip && shoulder) a.hip_deg = included_deg(*knee, *hip, *shoulder);
  const auto &elbow = p[at(Landmark::Elbow)], &wrist = p[at(Landmark::Wrist)];
  if (shoulder && elbow && wrist) a.elbow_deg = included_deg(*shoulder, *elbow, *wrist);
  return a;
}

std::size_t Motion::frameAt(double t) const {
  const auto after = std::lower_bound(times_s.begin(), times_s.end(), t);
  if (after == times_s.begin()) return 0;
  if (after == times_s.end()) return times_s.size() - 1;
  const auto before = std::prev(after);
  return static_cast<std::size_t>((t - *before <= *after - t ? before : after) - times_s.begin());
}

std::optional<MetrePoint> Motion::placeAt(Landmark landmark, double t) const {
  const auto& p = path(landmark).at;
  const auto after = std::upper_bound(times_s.begin(), times_s.end(), t);
  const auto j = static_cast<std::size_t>(std::min(after, times_s.end() - 1) - times_s.begin());
  const std::size_t i = j > 0 && times_s[j] > t ? j - 1 : j;
  if (!p[i]) return std::nullopt;
  if (!p[j] || i == j) return p[i];
  const double share = std::clamp((t - times_s[i]) / (times_s[j] - times_s[i]), 0.0, 1.0);
  return *p[i] + (*p[j] - *p[i]) * share;
}

std::optional<double> Motion::speedAt(double t) const {
  return bar_vz_mps[frameAt(t)];
}

namespace {

void addRatesAndAngles(Motion& m) {
  const std::vector<double> real = realTimes(m.times_s, m.slow_factor);
  Values x(m.times_s.size()), z(m.times_s.size());
  m.angles.resize(m.times_s.size());
  for (std::size_t i = 0; i < m.times_s.size(); ++i) {
    if (const auto& bar = m.path(Landmark::Bar).at[i]) {
      x[i] = bar->x;
      z[i] = bar->z;
    }
    std::array<std::optional<MetrePoint>, tracing::kLandmarks> points;
    for (Landmark l : tracing::kAllLandmarks) points[at(l)] = m.path(l).at[i];
    m.angles[i] = anglesOf(points);
  }
  m.bar_vx_mps = rateOf(real, x);
  m.bar_vz_mps = rateOf(real, z);
}

}  // namespace

namespace {

// Metres of a front or rear view. Knees that go forward come nearer to the camera, hips further away, and look larger
// and smaller for it: by how much the thigh looks shorter than it is, half to each. Toes and heels stand before and
// behind the ankles.
FrontMotion frontMotionOf(const ClipTrace& clip, const std::vector<double>& real_s) {
  using tracing::BodySide;
  constexpr double kThigh_m = 0.42;
  const tracing::FrontTrace& front = *clip.front;
  const double distance_m = front.focal_px / front.metre_px;
  const bool rear = front.facing == tracing::Facing::Rear, lies = clip.model.lying;
  const double left = tracing::leftOnRight(front.facing) ? 1.0 : -1.0;
  const PixelPoint middle{clip.trace.width / 2.0, clip.trace.height / 2.0};
  // A phone that is not level shows everything tilted, the bar too.
  const double cosine = std::cos(clip.camera.roll_rad), sine = std::sin(clip.camera.roll_rad);
  FrontMotion out;
  out.rear = rear;
  for (BodySide s : {BodySide::Left, BodySide::Right})
    for (Landmark l : tracing::kAllLandmarks) {
      Path& path = out.side[static_cast<std::size_t>(s)][at(l)];
      path.at.resize(front.frames.size());
      path.sigma_m.assign(front.frames.size(), 0.02);
      path.wander_m.assign(front.frames.size(), 0.005);
      for (std::size_t i = 0; i < front.frames.size(); ++i) {
        const auto& p = front.frames[i].at(s, l);
        if (!p) continue;
        const tracing::CameraMove move = clip.trace.moveAt(i);
        double nearer_m = 0;
        const auto &hip = front.frames[i].at(s, Landmark::Hip), &knee = front.frames[i].at(s, Landmark::Knee);
        if ((l == Landmark::Knee || l == Landmark::Hip) && hip && knee && !lies) {
          const double seen_m = length(hip->place - knee->place) / front.metre_px;
          const double ahead = 0.5 * std::sqrt(std::max(0.0, kThigh_m * kThigh_m - seen_m * seen_m));
          nearer_m = (l == Landmark::Knee) != rear ? ahead : -ahead;
        }
        constexpr double kToeAhead_m = 0.18, kHeelBehind_m = 0.06;  // of the ankle
        if (l == Landmark::Toe || l == Landmark::Heel)
          nearer_m = (l == Landmark::Toe ? kToeAhead_m : -kHeelBehind_m) * (rear ? -1 : 1);
        const double px = front.metre_px * distance_m / (distance_m - nearer_m);
        const PixelPoint off = move.still(p->place) - middle;
        path.at[i] = MetrePoint{left * (cosine * off.x - sine * off.y) / px, -(sine * off.x + cosine * off.y) / px};
        path.sigma_m[i] = p->sigma_px / front.metre_px;
        if (l == Landmark::Bar) path.wander_m[i] = 0.4 * path.sigma_m[i];
      }
      filterPath(path, real_s, l == Landmark::Bar ? kBarCutoff_hz : kBodyCutoff_hz);
    }
  // From mid-feet on the floor, where both ankles are; from the shoulders of one who lies.
  const Landmark from = lies ? Landmark::Shoulder : Landmark::Ankle;
  std::vector<double> x, z;
  for (std::size_t i = 0; i < front.frames.size(); ++i) {
    const auto &a = out.path(BodySide::Left, from).at[i], &b = out.path(BodySide::Right, from).at[i];
    if (!a || !b) continue;
    x.push_back((a->x + b->x) / 2);
    z.push_back(std::min(a->z, b->z));
  }
  constexpr double kAnkle_m = 0.09;
  const MetrePoint origin = x.empty() ? MetrePoint{} : MetrePoint{median(x), median(z) - (lies ? 0 : kAnkle_m)};
  for (auto& side : out.side)
    for (Path& path : side)
      for (auto& p : path.at)
        if (p) p = *p - origin;
  return out;
}

}  // namespace

Motion motionOf(const ClipTrace& clip, double slow_factor) {
  JIB_ASSERT(slow_factor > 0);
  Motion m;
  m.times_s = clip.trace.times_s;
  m.slow_factor = slow_factor;
  const std::vector<double> real = realTimes(m.times_s, slow_factor);
  for (Landmark l : tracing::kAllLandmarks) {
    m.paths[at(l)] = pathOf(clip, l);
    filterPath(m.paths[at(l)], real, l == Landmark::Bar || l == Landmark::Plate ? kBarCutoff_hz : kBodyCutoff_hz);
  }
  m.calibration = calibrationOf(clip, m);
  if (clip.front) {
    m.front = frontMotionOf(clip, real);
    m.calibration.forward_known = false;
  } else if (clip.sightings) {
    m.calibration.turned_deg = clip.turn.turned_deg;
    m.calibration.far_plate = clip.turn.far_plate;
    m.calibration.oblique = clip.turn.turned_deg > kTooOblique_deg;
  }
  m.calibration.oblique = m.calibration.oblique || clip.oblique;
  const auto foot = midFoot(m);
  m.calibration.floor_known = foot.has_value();
  const MetrePoint origin = foot ? *foot : barOrigin(m.path(Landmark::Bar));
  m.chest = chestOf(clip, m.path(Landmark::Bar).at);
  for (ChestAt& c : m.chest) c.z_m -= origin.z;
  for (Path& path : m.paths)
    for (auto& p : path.at)
      if (p) p = *p - origin;
  if (!clip.front) m.feet = feetOf(clip);
  m.shoe = shoeOf(clip);
  m.seat_rise_m = seatOf(clip);
  m.hip_before_off_m = hipBeforeOffOf(clip);
  addRatesAndAngles(m);
  return m;
}

Motion exactMotion(std::vector<double> times,
                   const std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>>& metres) {
  JIB_ASSERT(times.size() == metres.size());
  Motion m;
  m.times_s = std::move(times);
  for (Landmark l : tracing::kAllLandmarks) {
    Path& path = m.paths[at(l)];
    path.sigma_m.assign(metres.size(), 1e-6);
    path.wander_m.assign(metres.size(), 1e-6);
    for (const auto& frame : metres) path.at.push_back(frame[at(l)]);
  }
  m.calibration.pixels_per_metre = 1000;
  m.calibration.scale_sigma_rel = m.calibration.roll_sigma_rad = 1e-6;
  m.calibration.bar_to_foot_sigma_m = m.calibration.height_sigma_m = 1e-6;
  m.calibration.forward_known = m.calibration.floor_known = true;
  addRatesAndAngles(m);
  return m;
}

}  // namespace jib::motion
