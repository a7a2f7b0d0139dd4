// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <gtest/gtest.h>

#include <random>

#include "core/tracing/body/body_fit.h"
#include "tests/core/analysed_clip.h"

namespace jib::tests {

using namespace tracing;

inline double shinPixels() {
  const auto& p = smallTruth().frames[20].pixels;
  return length(p[at(Landmark::Knee)]->place - p[at(Landmark::Ankle)]->place);
}

// Mean distance from the truth over the frames that are traced, in shins.
inline double missOf(const Trace& trace, Landmark landmark) {
  double sum = 0, n = 0;
  for (std::size_t i = 0; i < trace.size(); ++i)
    if (const auto p = trace.place(i, landmark)) {
      sum += length(*p - smallTruth().frames[i].pixels[at(landmark)]->place) / shinPixels();
      n += 1;
    }
  EXPECT_GT(n, 30);
  return sum / n;
}

// How far a track's joint is from the truth on a frame, in shins.
inline double missAt(const BodyTrack& track, std::size_t frame, PixelPoint BodyPoints::*joint, Landmark landmark) {
  const auto points = pointsOf(track.skeleton, *track.poses[frame], track.camera);
  return length(points.*joint - smallTruth().frames[frame].pixels[at(landmark)]->place) / shinPixels();
}

// Sightings as a perfect network would make them from the truth, each landmark a constant off.
inline std::vector<Sighting> perfectSightings(PixelPoint off, double noise_px) {
  std::mt19937 random(3);
  std::normal_distribution<double> noise(0, noise_px);
  std::vector<Sighting> sightings;
  const auto& truth = smallTruth();
  const bool right =
      truth.frames[0].pixels[at(Landmark::Toe)]->place.x > truth.frames[0].pixels[at(Landmark::Heel)]->place.x;
  const BodySide near = right ? BodySide::Right : BodySide::Left;
  for (std::size_t i = 0; i < truth.frames.size(); i += 3) {
    Sighting s;
    s.frame = i;
    s.reading.person = 1;
    s.reading.next = {truth.frames[i].pixels[at(Landmark::Hip)]->place, 4 * shinPixels(), 0};
    const std::pair<Landmark, PoseMark> all[] = {
        {Landmark::Toe, PoseMark::Toe},   {Landmark::Heel, PoseMark::Heel}, {Landmark::Ankle, PoseMark::Ankle},
        {Landmark::Knee, PoseMark::Knee}, {Landmark::Hip, PoseMark::Hip},   {Landmark::Shoulder, PoseMark::Shoulder}};
    for (const auto& [landmark, mark] : all) {
      const std::size_t k = s.reading.index(mark, near);
      s.reading.places[k] =
          truth.frames[i].pixels[at(landmark)]->place + off + PixelPoint{noise(random), noise(random)};
      s.reading.confidence[k] = 0.9;
    }
    sightings.push_back(s);
  }
  return sightings;
}

}  // namespace jib::tests
