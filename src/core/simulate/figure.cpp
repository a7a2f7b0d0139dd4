// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/figure.h"

#include "core/base/angle.h"

namespace jib::simulate {
namespace {

constexpr double kShaftHalf_m = 0.655, kShaft_m = 0.0142, kTube_m = 0.019;

enum Group { kHard = 0, kSkinLeft = 1, kSkinRight = 2, kTorso = 3, kShorts = 4, kHead = 5, kShoes = 6 };

struct Dresser {
  const ClipSpec& spec;
  const Build& build;
  const Body& body;
  std::vector<Solid> solids;
  double girth;  // radii are for 1.75 m at girth factor 1
  Vec3 hinge;    // of the limb being dressed

  void cone(Material m, int group, Vec3 a, Vec3 b, double ra, double rb) {
    solids.push_back(Solid::roundCone(m, group, a, b, ra * girth, rb * girth, hinge));
  }

  void leg(const Leg& leg, int skin) {
    const Vec3 up = unit(leg.hip - leg.knee);
    const Vec3 shin_up = unit(leg.knee - leg.ankle);
    const Vec3 ahead = unit(Vec3{leg.toe.x - leg.heel.x, leg.toe.y - leg.heel.y, 0});
    hinge = cross({0, 0, 1}, ahead);
    const Vec3 calf_back = unit(ahead * -1.0 + shin_up * dot(ahead, shin_up));
    const Vec3 front = unit(ahead - up * dot(ahead, up));
    // Thigh: thick and a little to the front above, narrow at the knee.
    cone(Material::Skin, skin, leg.hip + up * -0.05, between(leg.knee, leg.hip, 0.08), 0.082, 0.058);
    cone(Material::Skin, skin, between(leg.hip, leg.knee, 0.35) + front * 0.02,
         between(leg.hip, leg.knee, 0.75) + front * 0.012, 0.076, 0.058);
    cone(Material::Skin, skin, leg.knee + front * 0.006, leg.knee + shin_up * -0.02, 0.056, 0.052);
    // Lower leg with its calf.
    cone(Material::Skin, skin, between(leg.knee, leg.ankle, 0.05), between(leg.knee, leg.ankle, 0.9), 0.050, 0.036);
    cone(Material::Skin, skin, between(leg.knee, leg.ankle, 0.2) + calf_back * 0.022,
         between(leg.knee, leg.ankle, 0.5) + calf_back * 0.014, 0.046, 0.042);
    cone(Material::Sock, kHard, between(leg.ankle, leg.knee, 0.02), between(leg.ankle, leg.knee, 0.34), 0.042, 0.049);
    // Shorts to above the knee, a little wider than the leg.
    cone(Material::Shorts, kShorts, leg.hip, between(leg.hip, leg.knee, 0.58), 0.100, 0.083);
    cone(Material::Shorts, kShorts, between(leg.hip, leg.knee, 0.18) + front * 0.022,
         between(leg.hip, leg.knee, 0.58) + front * 0.018, 0.094, 0.078);
    const Vec3 seat = leg.hip - front * 0.035 + up * 0.01;
    cone(Material::Shorts, kShorts, seat, between(seat, leg.hip, 0.6), 0.098, 0.09);
    shoe(leg, ahead);
    hinge = {0, 1, 0};
  }

  void shoe(const Leg& leg, Vec3 ahead) {
    const double r = 0.036;
    const Vec3 lift{0, 0, r};
    const Vec3 heel = leg.heel + ahead * r + lift;
    const Vec3 ball = leg.ball + Vec3{0, 0, r * 0.9};
    // The tip is rounded; the truth's toe is the foremost point of the shoe.
    const Vec3 tip = leg.toe - ahead * 0.026 + Vec3{0, 0, 0.004};
    solids.push_back(Solid::roundCone(Material::Shoe, kShoes, heel, ball, r, r * 0.98));
    solids.push_back(Solid::roundCone(Material::Shoe, kShoes, ball, tip, r * 0.98, 0.026));
    solids.push_back(Solid::roundCone(Material::Shoe, kShoes, heel + Vec3{0, 0, 0.03}, leg.ankle + Vec3{0, 0, -0.005},
                                      0.036, 0.038));
    solids.push_back(Solid::roundCone(Material::Sole, kHard, leg.heel + ahead * 0.02 + Vec3{0, 0, 0.012},
                                      leg.ball + Vec3{0, 0, 0.012}, 0.0125, 0.0125));
  }

  void trunk() {
    const Vec3 up = unit(body.mid_shoulder - body.mid_hip);
    const Vec3 across{0, 1, 0};
    const Vec3 front = cross(across, up);
    const double w = build.hip_half;
    for (double side : {-1.0, 1.0}) {
      cone(Material::Shorts, kShorts, body.mid_hip + across * (side * w * 0.7),
           body.mid_hip + across * (side * w * 0.6) + up * 0.10, 0.108, 0.110);
      const Vec3 waist = body.mid_hip + up * 0.14 + across * (side * w * 0.55);
      const Vec3 chest = body.mid_shoulder - up * 0.14 + across * (side * build.shoulder_half * 0.36) + front * 0.01;
      cone(Material::Shirt, kTorso, waist, chest, 0.106, 0.118);
      cone(Material::Shirt, kTorso, chest, body.mid_shoulder + across * (side * build.shoulder_half * 0.62) - up * 0.03,
           0.116, 0.070);
      cone(Material::Shirt, kTorso, body.mid_shoulder + across * (side * build.shoulder_half * 0.55),
           body.mid_shoulder + across * (side * build.shoulder_half), 0.07, 0.068);
    }
    for (double side : {-1.0, 1.0})
      cone(Material::Belt, kHard, body.mid_hip + up * 0.145 + across * (side * w * 0.5),
           body.mid_hip + up * 0.155 + across * (side * w * 0.5), 0.116, 0.116);
  }

  void head() {
    const Vec3 up = unit(body.crown - body.neck);
    const Vec3 across{0, 1, 0};
    const Vec3 face = cross(across, up);
    const double h = build.head;
    cone(Material::Skin, kHead, body.neck - up * 0.03, body.neck + up * (0.35 * h), 0.058, 0.056);
    const Vec3 centre = body.neck + up * (0.62 * h) + face * 0.012;
    solids.push_back(Solid::ellipsoid(Material::Skin, kHead, centre, up, face, 0.122, 0.096, 0.076));
    solids.push_back(Solid::roundCone(Material::Skin, kHead, centre + face * 0.085 - up * 0.015,
                                      centre + face * 0.105 - up * 0.025, 0.014, 0.012));
    solids.push_back(
        Solid::ellipsoid(Material::Hair, kHard, centre + up * 0.030 - face * 0.014, up, face, 0.104, 0.098, 0.081));
    for (double side : {-1.0, 1.0})
      solids.push_back(Solid::ellipsoid(Material::Skin, kHead, centre + across * (side * 0.076) - face * 0.012, up,
                                        face, 0.030, 0.018, 0.010));
  }

  void arm(const Arm& arm, int skin) {
    cone(Material::Shirt, kTorso, arm.shoulder, between(arm.shoulder, arm.elbow, 0.42), 0.066, 0.060);
    cone(Material::Skin, skin, between(arm.shoulder, arm.elbow, 0.3), arm.elbow, 0.050, 0.040);
    cone(Material::Skin, skin, arm.elbow, arm.wrist, 0.042, 0.028);
    cone(Material::Skin, skin, arm.wrist, arm.wrist + unit(arm.wrist - arm.elbow) * 0.05, 0.034, 0.036);
  }

  void person() {
    leg(body.left, kSkinLeft);
    leg(body.right, kSkinRight);
    trunk();
    head();
    arm(body.left_arm, kSkinLeft);
    arm(body.right_arm, kSkinRight);
  }

  void rod(Vec3 a, Vec3 b, double radius) {
    solids.push_back(Solid::disc(Material::Steel, kHard, a, b, radius, 0.001));
  }

  void shaft() {
    const Vec3 half = body.bar_across * kShaftHalf_m;
    if (body.shaft_bend_m == 0) return rod(body.bar - half, body.bar + half, kShaft_m);
    // Straight between the hands, down to the sleeves from there.
    const Vec3 raised = body.bar + Vec3{0, 0, body.shaft_bend_m}, hand = body.bar_across * body.left_arm.wrist.y;
    rod(body.bar - half, raised - hand, kShaft_m);
    rod(raised - hand, raised + hand, kShaft_m);
    rod(raised + hand, body.bar + half, kShaft_m);
  }

  // Round the lifter from sleeve to sleeve, with a handle on either side.
  void hexFrame() {
    constexpr double kAhead_m = 0.34, kCorner_m = 0.30, kHandle_m = 0.31;
    for (double end : {1.0, -1.0}) {
      const Vec3 ahead{end * kAhead_m, 0, 0};
      rod(body.bar + ahead - body.bar_across * kCorner_m, body.bar + ahead + body.bar_across * kCorner_m, kTube_m);
      for (double side : {1.0, -1.0}) {
        rod(body.bar + body.bar_across * (side * kShaftHalf_m), body.bar + ahead + body.bar_across * (side * kCorner_m),
            kTube_m);
        if (end > 0) continue;
        const Vec3 handle = body.bar + body.bar_across * (side * kHandle_m);
        rod(handle - Vec3{0.26, 0, 0}, handle + Vec3{0.26, 0, 0}, kShaft_m);
      }
    }
  }

  void barbell() {
    const Vec3 across = body.bar_across;
    const double end = spec.sleeve_end_m;
    if (spec.set.variant == "hex")
      hexFrame();
    else
      shaft();
    const double rim = spec.plate_mm / 2000.0;
    for (double side : {-1.0, 1.0}) {
      solids.push_back(Solid::disc(Material::Steel, kHard, body.bar + across * (side * 0.655),
                                   body.bar + across * (side * end), 0.025, 0.002));
      solids.push_back(Solid::disc(Material::Steel, kHard, body.bar + across * (side * 0.645),
                                   body.bar + across * (side * 0.66), 0.039, 0.003));
      const double thick = 0.032;
      double outer = spec.plate_face_m;
      for (int i = 0; i < spec.plates_each_side; ++i, outer -= thick + 0.002) {
        const Vec3 face = body.bar + across * (side * outer);
        solids.push_back(Solid::disc(Material::Plate, kHard, face - across * (side * thick), face, rim, 0.006));
        if (i > 0) continue;
        // Raised hub and a thin light ring on the outer face.
        solids.push_back(Solid::disc(Material::Steel, kHard, face, face + across * (side * 0.004), 0.048, 0.002));
      }
      const Vec3 face = body.bar + across * (side * spec.plate_face_m);
      solids.push_back(Solid::disc(Material::Steel, kHard, face + across * (side * 0.004),
                                   face + across * (side * 0.045), 0.034, 0.004));
    }
  }
};

}  // namespace

std::vector<Solid> figure(const ClipSpec& spec, const Build& build, const Body& body, const Body* helper) {
  Dresser dresser{spec, build, body, {}, spec.lifter.girth_factor * spec.lifter.stature_m / 1.75, {0, 1, 0}};
  dresser.person();
  dresser.barbell();
  if (!helper) return std::move(dresser.solids);
  Dresser other{spec, build, *helper, {}, dresser.girth, {0, 1, 0}};
  other.person();
  dresser.solids.insert(dresser.solids.end(), other.solids.begin(), other.solids.end());
  return std::move(dresser.solids);
}

}  // namespace jib::simulate
