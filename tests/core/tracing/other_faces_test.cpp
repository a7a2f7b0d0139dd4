// SPDX-License-Identifier: GPL-3.0-or-later
// The heads of people besides the lifter, for what must not show them.
#include "core/tracing/sightings/other_faces.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "tests/core/must.h"

namespace jib::tracing {
namespace {

bool covered(const std::vector<Head>& heads, PixelPoint face) {
  return std::any_of(heads.begin(), heads.end(), [&](const Head& h) { return length(h.centre - face) <= h.radius_px; });
}

TEST(OtherFaces, AHeadOnItsWayIsMetAndOneThatComesOrGoesStaysCovered) {
  OtherFaces faces;
  faces.looks = {{10, {{{100, 50}, 20}, {{300, 60}, 18}}}, {20, {{{120, 50}, 20}, {{500, 80}, 25}}}};
  EXPECT_EQ(faces.most(), 2u);
  for (std::size_t frame = 10; frame <= 20; ++frame)
    EXPECT_TRUE(covered(faces.on(frame), {100 + 2.0 * static_cast<double>(frame - 10), 50})) << frame;
  const auto half_way = faces.on(15);
  EXPECT_EQ(half_way.size(), 3u);
  EXPECT_TRUE(covered(half_way, {300, 60})) << "they may still be there";
  EXPECT_TRUE(covered(half_way, {500, 80})) << "they may be there already";
  EXPECT_FALSE(covered(half_way, {400, 70}));
  EXPECT_TRUE(covered(faces.on(2), {300, 60})) << "before the first look";
  EXPECT_TRUE(covered(faces.on(99), {500, 80})) << "after the last";
  EXPECT_TRUE(OtherFaces{}.on(3).empty());
}

// A real film, of people who walk across a yard, that comes with Debian's opencv-doc; where their faces are was looked
// up in the picture by eye.
TEST(OtherFaces, FindsThePeopleOfARealFilmAndLeavesTheLifterAlone) {
  auto reader = tests::must(footage::FrameReader::open("/usr/share/doc/opencv-doc/examples/data/vtest.avi"));
  ASSERT_TRUE(reader.seekBefore(200));
  const cv::Mat picture = tests::must(reader.next(footage::Pixels::Colour, 200))->picture.clone();
  auto finder = tests::must(OtherFaceFinder::make());
  const auto heads = tests::must(finder.in(picture, std::nullopt));
  constexpr PixelPoint kWalkers[]{{638, 270}, {726, 258}};
  for (const PixelPoint face : kWalkers) EXPECT_TRUE(covered(heads, face)) << face.x << ", " << face.y;
  for (const Head& h : heads) EXPECT_LT(h.radius_px, 60) << "a head, not half the yard";
  // Were the nearest of them the lifter, they would be left to the lifter's own blur.
  const auto others = tests::must(finder.in(picture, OtherFaceFinder::Lifter{{643, 319}, {640, 288}}));
  EXPECT_EQ(others.size() + 1, heads.size());
  EXPECT_FALSE(covered(others, {638, 270}));
  // Who stands right behind a lifter that squats has the hips where the lifter has them, and the shoulders higher.
  EXPECT_EQ(tests::must(finder.in(picture, OtherFaceFinder::Lifter{{643, 319}, {668, 306}})).size(), heads.size());
}

}  // namespace
}  // namespace jib::tracing
