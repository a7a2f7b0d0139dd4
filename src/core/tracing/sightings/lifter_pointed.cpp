// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/lifter_pointed.h"

#include <cmath>

namespace jib::tracing {

bool mayBe(const PoseRegion& region, const std::optional<PointedAt>& lifter) {
  constexpr double kAcross = 0.25, kHigh = 0.6;  // of the region's size
  return !lifter || (std::abs(region.centre.x - lifter->at.x) < kAcross * region.size_px &&
                     std::abs(region.centre.y - lifter->at.y) < kHigh * region.size_px);
}

Result<std::vector<Person>> peopleAt(PersonFinder& finder, const cv::Mat& picture,
                                     const std::optional<PointedAt>& lifter) {
  if (!lifter) return finder.find(picture);
  constexpr double kCloser[]{1.0, 0.6};  // the crop's side, of the picture's height
  for (const double share : kCloser) {
    const double side = share * picture.rows;
    const cv::Rect about =
        cv::Rect(cv::Point(static_cast<int>(lifter->at.x - side / 2), static_cast<int>(lifter->at.y - side / 2)),
                 cv::Size(static_cast<int>(side), static_cast<int>(side))) &
        cv::Rect(0, 0, picture.cols, picture.rows);
    if (about.width < 32 || about.height < 32) continue;
    auto people = finder.find(picture(about));
    if (!people) return fail(people.error());
    for (Person& p : *people) p.region.centre = p.region.centre + PixelPoint(about.x, about.y);
    std::erase_if(*people, [&](const Person& p) { return !mayBe(p.region, lifter); });
    if (!people->empty()) return people;
  }
  return std::vector<Person>{};
}

}  // namespace jib::tracing
