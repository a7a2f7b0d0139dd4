// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_steady.h"

namespace jib::tracing {
namespace {

// All limbs lean by the picture's turn more than they did, all angles being against the picture's upright.
void turn(BodyPose& pose, double by_rad) {
  pose.foot_rad += by_rad;
  pose.shin_rad += by_rad;
  pose.thigh_rad += by_rad;
  pose.trunk_rad += by_rad;
}

}  // namespace

std::vector<Sighting> steadied(std::vector<Sighting> sightings) {
  for (Sighting& s : sightings) {
    for (PixelPoint& p : s.reading.places) p = s.camera.still(p);
    for (PixelPoint& p : s.reading.outline) p = s.camera.still(p);
    s.camera = {};
  }
  return sightings;
}

BarTrace steadied(BarTrace bar, const std::vector<CameraMove>& moves) {
  for (std::size_t i = 0; i < bar.plate.size(); ++i)
    if (bar.plate[i]) bar.plate[i]->place = moves[i].still(bar.plate[i]->place);
  return bar;
}

BodyTrack steadied(BodyTrack track, const std::vector<CameraMove>& moves) {
  const SideCamera& camera = track.camera;
  for (std::size_t i = 0; i < track.poses.size(); ++i) {
    auto& pose = track.poses[i];
    if (!pose) continue;
    pose->ankle = camera.toPlane(moves[i].still(camera.toPicture(pose->ankle, camera.ankle_m)), camera.ankle_m);
    turn(*pose, -camera.forward * moves[i].turn_rad());
  }
  return track;
}

std::vector<Followed> steadied(std::vector<Followed> followed, double forward, const std::vector<CameraMove>& moves) {
  for (Followed& f : followed)
    for (std::size_t k = 0; k < f.poses.size(); ++k)
      if (f.poses[k]) turn(*f.poses[k], -forward * moves[f.stretch.first + k].turn_rad());
  return followed;
}

BodyTrack swayed(BodyTrack track, const BodyTrack& followed, const std::vector<CameraMove>& moves) {
  for (std::size_t i = 0; i < track.poses.size(); ++i) {
    auto& pose = track.poses[i];
    if (!pose) continue;
    turn(*pose, track.camera.forward * moves[i].turn_rad());
    pose->ankle = followed.poses[i]->ankle;
    pose->foot_rad = followed.poses[i]->foot_rad;
  }
  return track;
}

}  // namespace jib::tracing
