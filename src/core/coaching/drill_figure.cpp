// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/drill_figure.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;
using Bar = DrillPosture::Bar;

constexpr double kFoot_m = 0.26, kAnkleUp_m = 0.08, kHead_m = 0.11, kNeck_m = 0.1;
constexpr double kPlate_m = 0.225;  // radius
constexpr double kSmallPlate_m = 0.025;
constexpr double kBlock_m = 0.08, kBench_m = 0.43;
constexpr double kPixels = 200;  // a metre, before it is fitted to its place
constexpr double kMargin_m = 0.12;

struct Point {
  double x = 0, z = 0;
};
Point from(Point base, double lean_deg, double length) {
  return {base.x + length * std::sin(radians(lean_deg)), base.z + length * std::cos(radians(lean_deg))};
}

// Everything in metres, z up; written as SVG, y down.
class Drawing {
 public:
  void line(Point a, Point b, double width_m, const char* colour, bool dashed = false) {
    see(a, width_m / 2);
    see(b, width_m / 2);
    parts_ += fmt::format(
        "<line x1='{:.0f}' y1='{:.0f}' x2='{:.0f}' y2='{:.0f}' stroke='{}' stroke-width='{:.0f}' "
        "stroke-linecap='round'{}/>",
        px(a.x), -px(a.z), px(b.x), -px(b.z), colour, std::max(2.0, px(width_m)),
        dashed ? " stroke-dasharray='8 8'" : "");
  }
  void disc(Point centre, double radius_m, const char* fill, const char* edge) {
    see(centre, radius_m);
    parts_ += fmt::format("<circle cx='{:.0f}' cy='{:.0f}' r='{:.0f}' fill='{}' stroke='{}' stroke-width='4'/>",
                          px(centre.x), -px(centre.z), px(radius_m), fill, edge);
  }
  void block(Point low_left, double width_m, double height_m, const char* fill) {
    see(low_left, 0);
    see({low_left.x + width_m, low_left.z + height_m}, 0);
    parts_ += fmt::format("<rect x='{:.0f}' y='{:.0f}' width='{:.0f}' height='{:.0f}' fill='{}'/>", px(low_left.x),
                          -px(low_left.z + height_m), px(width_m), px(height_m), fill);
  }
  std::string whole(const std::string& title) const {
    const double left = px(low_.x - kMargin_m), top = -px(high_.z + kMargin_m);
    const double width = px(high_.x - low_.x + 2 * kMargin_m), height = px(high_.z - low_.z + 2 * kMargin_m);
    std::string safe;
    for (const char c : title)
      if (c != '<' && c != '>' && c != '&' && c != '\'' && c != '"') safe += c;
    return fmt::format(
        "<svg viewBox='{:.0f} {:.0f} {:.0f} {:.0f}' role='img' "
        "aria-label='{}'>{}</svg>",
        left, top, width, height, safe, parts_);
  }
  double left() const { return low_.x; }
  double right() const { return high_.x; }

 private:
  static double px(double m) { return m * kPixels; }
  void see(Point p, double around) {
    low_ = {std::min(low_.x, p.x - around), std::min(low_.z, p.z - around)};
    high_ = {std::max(high_.x, p.x + around), std::max(high_.z, p.z + around)};
  }
  std::string parts_;
  Point low_{1e9, 1e9}, high_{-1e9, -1e9};
};

constexpr const char* kInk = "#162a4d";
constexpr const char* kLimb = "#46608c";
constexpr const char* kNear = "#5f7fb3";
constexpr const char* kRule = "#b01279";
constexpr const char* kWood = "#c9b98f";

// Elbow between a shoulder and a hand; the arm is straight where they are too far apart.
Point elbowOf(Point shoulder, Point hand, const Limbs& limbs, bool back) {
  const double dx = hand.x - shoulder.x, dz = hand.z - shoulder.z, d = std::hypot(dx, dz);
  if (d < 1e-6) return shoulder;
  const double along = std::clamp((limbs.upper_arm * limbs.upper_arm - limbs.forearm * limbs.forearm + d * d) / (2 * d),
                                  0.0, limbs.upper_arm);
  const double off = std::sqrt(std::max(0.0, limbs.upper_arm * limbs.upper_arm - along * along)) * (back ? 1 : -1);
  return {shoulder.x + along * dx / d + off * dz / d, shoulder.z + along * dz / d - off * dx / d};
}

void drawStanding(Drawing& d, const DrillPosture& p, const Limbs& limbs) {
  const double heel_up = p.plate_under_heels ? kSmallPlate_m : 0, toe_up = p.plate_under_toes ? kSmallPlate_m : 0;
  const Point heel{-0.07, heel_up}, toe{heel.x + kFoot_m, toe_up};
  const Point ankle{0, kAnkleUp_m + heel_up};
  const Point knee = from(ankle, p.shin_deg, limbs.shin), hip = from(knee, p.thigh_deg, limbs.thigh);
  const Point shoulder = from(hip, p.torso_deg, limbs.trunk);
  const double mid_foot = (heel.x + toe.x) / 2;
  Point bar = shoulder;
  if (p.bar == Bar::Back) bar = from(from(shoulder, p.torso_deg - 90, 0.09), p.torso_deg, -0.02);
  if (p.bar == Bar::Front) bar = from(from(shoulder, p.torso_deg + 90, 0.1), p.torso_deg, 0.02);
  if (p.bar == Bar::Hands) bar = {mid_foot, shoulder.z - limbs.upper_arm - limbs.forearm};
  if (p.blocks) {
    d.block({mid_foot - 0.25, 0}, 0.5, kBlock_m, kWood);
    bar.z = std::max(bar.z, kBlock_m + kPlate_m);
  }
  if (p.box) d.block({hip.x - 0.28, 0}, 0.36, std::max(0.1, hip.z - 0.1), kWood);
  if (heel_up > 0) d.block({heel.x - 0.02, 0}, 0.12, kSmallPlate_m, kWood);
  if (toe_up > 0) d.block({toe.x - 0.1, 0}, 0.12, kSmallPlate_m, kWood);
  d.line({mid_foot, 0}, {mid_foot, std::max(shoulder.z, bar.z) + 0.1}, 0.012, kRule, true);
  if (p.bar != Bar::None) d.disc(bar, kPlate_m, "none", kInk);
  d.line(heel, toe, 0.06, kInk);
  d.line(ankle, knee, 0.09, kNear);
  d.line(knee, hip, 0.13, kNear);
  d.line(hip, shoulder, 0.16, kLimb);
  d.disc(from(shoulder, std::min(p.torso_deg, 25.0), kNeck_m + kHead_m), kHead_m, kLimb, kLimb);
  if (p.bar != Bar::None) {
    if (p.bar == Bar::Hands) {
      d.line(shoulder, bar, 0.06, kNear);
    } else {
      const Point hanging = p.bar == Bar::Front ? from(shoulder, 75, limbs.upper_arm)
                                                : from(shoulder, p.torso_deg + 172, limbs.upper_arm * 0.8);
      d.line(shoulder, hanging, 0.06, kNear);
      d.line(hanging, bar, 0.05, kNear);
    }
    d.disc(bar, 0.022, kInk, kInk);
  }
  if (p.band) d.line({knee.x - 0.07, knee.z + 0.06}, {knee.x + 0.08, knee.z + 0.06}, 0.04, kRule);
}

// On the bench, head to the left, feet to the right.
void drawLying(Drawing& d, const DrillPosture& p, const Limbs& limbs) {
  d.block({-0.15, 0}, 1.2, kBench_m, kWood);
  const double back = kBench_m + 0.1;
  const Point shoulder{0.25, back}, hip{shoulder.x + limbs.trunk, back - 0.02};
  const Point foot{hip.x + 0.42, 0.03}, ankle{foot.x - 0.03, kAnkleUp_m};
  const Point knee{hip.x + 0.38, 0.47};
  const Point chest{shoulder.x + 0.12, back + 0.12};
  const Point bar{chest.x, chest.z + std::max(0.0, p.above_chest_m)};
  const Point elbow = elbowOf(shoulder, bar, limbs, false);
  d.disc(bar, kPlate_m, "none", kInk);
  d.line(knee, ankle, 0.09, kNear);
  d.line({foot.x - 0.12, 0.02}, {foot.x + 0.14, 0.02}, 0.06, kInk);
  d.line(hip, knee, 0.13, kNear);
  d.line(shoulder, hip, 0.18, kLimb);
  d.disc({shoulder.x - kNeck_m - kHead_m, back}, kHead_m, kLimb, kLimb);
  d.line(shoulder, elbow, 0.07, kNear);
  d.line(elbow, bar, 0.06, kNear);
  d.disc(bar, 0.022, kInk, kInk);
  if (p.above_chest_m > 0) d.line(chest, bar, 0.012, kRule, true);
}

}  // namespace

Limbs limbsOf(const Analysis& a) {
  Limbs limbs;
  if (!a.trace.body || a.motion.front) return limbs;
  const auto middle = [&](Landmark low, Landmark high, double otherwise) {
    std::vector<double> all;
    const auto &from = a.motion.path(low).at, &to = a.motion.path(high).at;
    for (std::size_t i = 0; i < from.size() && i < to.size(); ++i)
      if (from[i] && to[i]) all.push_back(std::hypot(to[i]->x - from[i]->x, to[i]->z - from[i]->z));
    if (all.size() < 5) return otherwise;
    std::nth_element(all.begin(), all.begin() + static_cast<long>(all.size() / 2), all.end());
    return all[all.size() / 2];
  };
  limbs.shin = middle(Landmark::Ankle, Landmark::Knee, limbs.shin);
  limbs.thigh = middle(Landmark::Knee, Landmark::Hip, limbs.thigh);
  limbs.trunk = middle(Landmark::Hip, Landmark::Shoulder, limbs.trunk);
  return limbs;
}

std::string drillSvg(const DrillPosture& posture, const Limbs& limbs, const std::string& title) {
  // A posture that says nothing would be somebody who stands about.
  const bool told = posture.bar != Bar::None || posture.shin_deg != 0 || posture.thigh_deg != 0 ||
                    posture.torso_deg != 0 || posture.box || posture.blocks || posture.band ||
                    posture.plate_under_heels || posture.plate_under_toes;
  if (!told) return {};
  Drawing body;
  posture.bar == Bar::Chest ? drawLying(body, posture, limbs) : drawStanding(body, posture, limbs);
  body.line({body.left() - 0.05, 0}, {body.right() + 0.05, 0}, 0.012, kInk);
  return body.whole(title);
}

}  // namespace jib::coaching
