// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/front_pins.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace jib::tracing {
namespace {

constexpr double kAlikeWithin_m = 0.12;  // of the bar's height: a body that is further down or up stands otherwise
constexpr double kDriftTime_s = 2.5;
constexpr double kMomentTime_s = 0.25;
constexpr double kSlipTime_s = 0.12;

// How far a point may be from the true one, in metres.
struct Errors {
  double constant_m;
  double posture_m;
  double drift_m;
  double moment_m;   // a joint that moves fast is seen late, and rounded off
  double placing_m;  // how exactly a coach can place it
  double all_m() const {
    return std::sqrt(constant_m * constant_m + posture_m * posture_m + drift_m * drift_m + moment_m * moment_m);
  }
};

constexpr Errors errorsOf(Landmark landmark) {
  switch (landmark) {
    case Landmark::Bar:
      return {0.010, 0.004, 0.004, 0.005, 0.003};
    case Landmark::Hip:
    case Landmark::Shoulder:
      return {0.022, 0.010, 0.006, 0.012, 0.010};
    default:
      return {0.012, 0.006, 0.005, 0.015, 0.006};
  }
}

struct Moment {
  double t_s;
  double height_m;
};

struct Pin {
  std::size_t frame;
  Moment moment;
  PixelPoint where;
  std::optional<PixelPoint> off_px;  // by how much the traced point is to move
  bool slip = false;
};

double covariance(const Errors& e, const Moment& a, const Moment& b) {
  const double apart = (a.height_m - b.height_m) / kAlikeWithin_m;
  return e.constant_m * e.constant_m + e.posture_m * e.posture_m * std::exp(-0.5 * apart * apart) +
         e.drift_m * e.drift_m * std::exp(-std::abs(a.t_s - b.t_s) / kDriftTime_s) +
         e.moment_m * e.moment_m * std::exp(-0.5 * std::pow((a.t_s - b.t_s) / kMomentTime_s, 2));
}

// Bends one point of one side in every frame.
class Bend {
 public:
  Bend(const Errors& errors, double metre_px, const std::vector<Pin>& pins) : errors_(errors) {
    for (const Pin& pin : pins) (pin.slip ? slips_ : pins_).push_back(pin);
    const auto n = static_cast<Eigen::Index>(pins_.size());
    Eigen::MatrixXd known(n, n);
    Eigen::MatrixXd off(n, 2);
    for (Eigen::Index i = 0; i < n; ++i) {
      const Pin& pin = pins_[static_cast<std::size_t>(i)];
      off.row(i) << pin.off_px->x, pin.off_px->y;
      for (Eigen::Index j = 0; j < n; ++j)
        known(i, j) = covariance(errors, pin.moment, pins_[static_cast<std::size_t>(j)].moment);
      known(i, i) += errors.placing_m * errors.placing_m;
    }
    if (n == 0) return;
    solved_.compute(known);
    weights_ = solved_.solve(off);
    placing_px_ = errors.placing_m * metre_px;
  }

  TracedPoint at(TracedPoint p, const Moment& moment) const {
    if (!pins_.empty()) {
      Eigen::VectorXd like(static_cast<Eigen::Index>(pins_.size()));
      for (Eigen::Index i = 0; i < like.size(); ++i)
        like(i) = covariance(errors_, moment, pins_[static_cast<std::size_t>(i)].moment);
      const Eigen::Vector2d off = (like.transpose() * weights_).transpose();
      const double before = errors_.all_m() * errors_.all_m(), left = before - like.dot(solved_.solve(like));
      p.place = p.place + PixelPoint{off(0), off(1)};
      p.sigma_px = std::max(placing_px_, p.sigma_px * std::sqrt(std::max(0.0, left) / before));
    }
    const Pin* nearest = nullptr;
    for (const Pin& slip : slips_)
      if (!nearest || std::abs(slip.moment.t_s - moment.t_s) < std::abs(nearest->moment.t_s - moment.t_s))
        nearest = &slip;
    if (nearest)
      p.place = p.place + *nearest->off_px * std::exp(-std::pow((nearest->moment.t_s - moment.t_s) / kSlipTime_s, 2));
    return p;
  }

 private:
  Errors errors_;
  std::vector<Pin> pins_, slips_;
  Eigen::LDLT<Eigen::MatrixXd> solved_;
  Eigen::MatrixXd weights_;
  double placing_px_ = 0;
};

}  // namespace

FrontTrace withPins(const FrontTrace& seen, const BarTrace& bar, const std::vector<PlacedFrame>& placed) {
  constexpr double kSlips = 3;  // of the errors that are usual
  FrontTrace front = seen;
  double height_m = 0;
  std::vector<Moment> moments;
  for (std::size_t i = 0; i < front.frames.size(); ++i) {
    if (bar.plate[i]) height_m = -bar.plate[i]->place.y / front.metre_px;
    moments.push_back({bar.times_s[i], height_m});
  }
  const auto frameAt = [&](double t_s) -> std::optional<std::size_t> {
    const auto after = std::lower_bound(bar.times_s.begin(), bar.times_s.end(), t_s - 1e-3);
    if (after == bar.times_s.end()) return std::nullopt;
    return static_cast<std::size_t>(after - bar.times_s.begin());
  };
  for (const BodySide side : kSides)
    for (const Landmark landmark : kAllLandmarks) {
      const Errors errors = errorsOf(landmark);
      std::vector<Pin> pins, alone;
      for (const PlacedFrame& p : placed) {
        const auto& where = p.at({landmark, side});
        const auto frame = where ? frameAt(p.t_s) : std::nullopt;
        if (!frame) continue;
        Pin pin{*frame, moments[*frame], *where, std::nullopt};
        if (const auto& traced = seen.frames[*frame].at(side, landmark)) {
          pin.off_px = *where - traced->place;
          pin.slip = length(*pin.off_px) > kSlips * errors.all_m() * front.metre_px;
        }
        (pin.off_px ? pins : alone).push_back(pin);
      }
      if (!pins.empty()) {
        const Bend bend(errors, front.metre_px, pins);
        for (std::size_t i = 0; i < front.frames.size(); ++i)
          if (auto& p = front.frames[i].at(side, landmark)) p = bend.at(*p, moments[i]);
      }
      for (const auto* kind : {&pins, &alone})
        for (const Pin& pin : *kind)
          front.frames[pin.frame].at(side, landmark) =
              TracedPoint{pin.where, errors.placing_m * front.metre_px, Origin::Pinned};
    }
  return front;
}

}  // namespace jib::tracing
