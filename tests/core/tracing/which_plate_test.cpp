// SPDX-License-Identifier: GPL-3.0-or-later
// Off the side both plates of a bar are seen, on either side of whoever holds it.
#include "core/tracing/camera/which_plate.h"

#include <gtest/gtest.h>

namespace jib::tracing {
namespace {

constexpr double kRim_px = 40, kMiddle_x = 300;

// A lifter who holds a bar at `kMiddle_x`, filmed on eight frames, with a plate so far to the right of it.
struct Scene {
  BarTrace bar;
  std::vector<Sighting> sightings;
  ViewLook view;
  BodyModel model;

  explicit Scene(double plate_right_m) {
    model.contact = BarContact::Hands;
    view.seen = Seen::Oblique;
    view.turned_deg = 35;
    view.toward = 1;  // the camera sees more of the front
    bar.rim.radius_px = kRim_px;
    for (std::size_t i = 0; i < 8; ++i) {
      bar.times_s.push_back(0.1 * static_cast<double>(i));
      bar.plate.push_back(TracedPoint{{kMiddle_x + plate_right_m * kRim_px / 0.225, 200}, 0.5, Origin::Fitted});
      Sighting s;
      s.frame = i;
      for (const BodySide side : {BodySide::Left, BodySide::Right})
        for (const PoseMark mark : {PoseMark::Wrist, PoseMark::Shoulder}) {
          s.reading.places[s.reading.index(mark, side)] = {kMiddle_x + (side == BodySide::Left ? 8 : -8), 190};
          s.reading.confidence[s.reading.index(mark, side)] = 0.9;
        }
      sightings.push_back(s);
    }
  }
  bool far(double forward) const { return isFarPlate(bar, sightings, view, forward, model); }
};

TEST(WhichPlate, TheNearOneIsSeenBehindALifterWhoIsFilmedFromBefore) {
  // Who faces the picture's left edge has the near plate on the right.
  EXPECT_FALSE(Scene(0.4).far(-1));
  EXPECT_TRUE(Scene(-0.4).far(-1));
  EXPECT_TRUE(Scene(0.4).far(1));
  Scene from_behind(0.4);
  from_behind.view.toward = -1;
  EXPECT_TRUE(from_behind.far(-1));
  EXPECT_FALSE(from_behind.far(1));
}

TEST(WhichPlate, NothingIsSaidWhereTheViewOrThePlaceTellsNothing) {
  EXPECT_FALSE(Scene(-0.1).far(-1)) << "the plate is hardly to one side";
  Scene square(-0.4);
  square.view.turned_deg = 8;
  EXPECT_FALSE(square.far(-1));
  Scene lying(-0.4);
  lying.model.lying = true;
  EXPECT_FALSE(lying.far(-1));
  Scene torn(-0.4);  // it changed from one to the other
  for (std::size_t i = 0; i < 4; ++i) torn.bar.plate[i]->place.x = kMiddle_x + 70;
  EXPECT_FALSE(torn.far(-1));
  Scene unseen(-0.4);
  for (auto& s : unseen.sightings) s.reading.confidence[s.reading.index(PoseMark::Wrist, BodySide::Left)] = 0.2;
  EXPECT_FALSE(unseen.far(-1));
}

}  // namespace
}  // namespace jib::tracing
