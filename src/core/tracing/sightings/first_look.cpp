// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/first_look.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include "core/tracing/pose/shipped_readers.h"
#include "core/tracing/sightings/bench_end.h"
#include "core/tracing/sightings/lifter_pointed.h"

namespace jib::tracing {
namespace {

constexpr std::size_t kLooks = 12;
constexpr double kSeen = 0.5;
// Between the network's hips, between its shoulders, and along the foot, each over the length of the trunk.
constexpr double kHipsOverTrunk = 0.43;
constexpr double kShouldersOverTrunk = 0.72;
constexpr double kFootOverTrunk = 0.42;
constexpr double kSideWithin_deg = 33, kFrontBeyond_deg = 65;
constexpr double kRimErrs_deg = 10;  // a rim flattened by 2 % is one turned by 11 degrees
constexpr double kEdge_share = 0.012;
constexpr double kStrays_share = 0.02;  // of the picture's width

double medianOf(std::vector<double> v) {
  std::nth_element(v.begin(), v.begin() + static_cast<long>(v.size() / 2), v.end());
  return v[v.size() / 2];
}

PixelPoint middle(const PoseReading& r, PoseMark mark) {
  return (r.place(mark, BodySide::Left) + r.place(mark, BodySide::Right)) * 0.5;
}

double trunkOf(const PoseReading& r) {
  return length(middle(r, PoseMark::Shoulder) - middle(r, PoseMark::Hip));
}

// From the left to the right one, across the picture.
double apart(const PoseReading& r, PoseMark mark) {
  return r.place(mark, BodySide::Left).x - r.place(mark, BodySide::Right).x;
}

bool bothSeen(const PoseReading& r, PoseMark mark) {
  return r.sure(mark, BodySide::Left) >= kSeen && r.sure(mark, BodySide::Right) >= kSeen;
}

// Of several people the largest; nobody when the network does not think it is a person.
Result<std::optional<PoseReading>> largestPerson(PersonFinder& finder, PoseReader& reader, const cv::Mat& picture,
                                                 const std::optional<PointedAt>& lifter = {}) {
  auto people = peopleAt(finder, picture, lifter);
  if (!people) return fail(people.error());
  const auto largest = std::max_element(people->begin(), people->end(), [](const Person& a, const Person& b) {
    return a.region.size_px < b.region.size_px;
  });
  std::optional<PoseReading> reading;
  if (largest == people->end()) return reading;
  PoseRegion region = largest->region;
  for (int look = 0; look < 2; ++look) {
    auto read = reader.read(picture, region);
    if (!read) return fail(read.error());
    if (!read->somebody()) return std::optional<PoseReading>();
    region = read->next;
    reading = std::move(*read);
  }
  return reading;
}

// A trunk further from upright than this lies, from either end.
constexpr double kLies_deg = 58;

// From upright, 0 to 180.
double leanOf(const PoseReading& r) {
  const PixelPoint d = middle(r, PoseMark::Shoulder) - middle(r, PoseMark::Hip);
  return std::abs(degrees(std::atan2(d.x, -d.y)));
}

bool lies(double lean_deg) {
  return lean_deg > kLies_deg && lean_deg < 180 - kLies_deg;
}

double seenOf(const PoseReading& r) {
  double all = 0;
  for (PoseMark mark : {PoseMark::Shoulder, PoseMark::Hip, PoseMark::Knee, PoseMark::Ankle})
    all += std::max(r.sure(mark, BodySide::Left), r.sure(mark, BodySide::Right));
  return r.person * all;
}

// The networks were made for people who stand: one who lies is looked for in turned pictures too, and the reading that
// is seen best tells.
Result<std::optional<bool>> liesIn(PersonFinder& finder, PoseReader& reader, const cv::Mat& picture,
                                   const std::optional<PoseReading>& upright) {
  double best = upright ? seenOf(*upright) : 0;
  std::optional<bool> lying = upright ? std::optional(lies(leanOf(*upright))) : std::nullopt;
  for (const int turn : {cv::ROTATE_90_CLOCKWISE, cv::ROTATE_90_COUNTERCLOCKWISE}) {
    cv::Mat turned;
    cv::rotate(picture, turned, turn);
    auto read = largestPerson(finder, reader, turned);
    if (!read) return fail(read.error());
    if (!*read || seenOf(**read) <= best) continue;
    best = seenOf(**read);
    // Lying in the picture is standing, or on its head, in the turned one.
    const double lean = leanOf(**read);
    lying = lean < 90 - kLies_deg || lean > 90 + kLies_deg;
  }
  return lying;
}

// Whether a reading leaves open that somebody lies along the view: who stands or is seen from the side is seen well,
// and shows a trunk.
bool mayLieAlong(const std::optional<PoseReading>& upright) {
  constexpr double kWell = 2, kTrunk = 1;  // of 4; in widths of the shoulders
  if (!upright || seenOf(*upright) < kWell) return true;
  const PixelPoint shoulders =
      upright->place(PoseMark::Shoulder, BodySide::Left) - upright->place(PoseMark::Shoulder, BodySide::Right);
  return trunkOf(*upright) < kTrunk * length(shoulders);
}

// Whether the quick network sees arms from either end of a bench: the careful one takes ten times as long.
Result<bool> armsFromAnEnd(PersonFinder& finder, PoseReader& quick, const cv::Mat& picture,
                           const std::optional<PointedAt>& lifter) {
  constexpr double kSome = 1.7;  // of 6
  for (const bool from_head : {true, false}) {
    auto look = lookFromBenchEnd(finder, quick, picture, from_head, lifter);
    if (!look) return fail(look.error());
    if (*look && (*look)->reading.somebody() && sureOfArms((*look)->reading) > kSome) return true;
  }
  return false;
}

struct EndSeen {
  Seen seen = Seen::Nobody;
  Along lies = Along::No;
};

// Whether somebody lies along the view, from the end of the bench whose reading shows the arms best.
Result<EndSeen> endOfBench(PersonFinder& finder, PoseReader& reader, const cv::Mat& picture,
                           const std::optional<PointedAt>& lifter) {
  constexpr double kSure = 3;  // of 6: shoulders, elbows and wrists
  EndSeen best;
  double surest = kSure;
  for (const bool from_head : {true, false}) {
    auto look = lookFromBenchEnd(finder, reader, picture, from_head, lifter);
    if (!look) return fail(look.error());
    if (!*look) continue;
    const double sure = sureOfArms((*look)->reading);
    const Along lies = liesAlongTheView((*look)->reading, from_head);
    if (lies == Along::No || lies < best.lies || sure < (lies > best.lies ? kSure : surest)) continue;
    surest = sure;
    best = {from_head ? Seen::Head : Seen::Front, lies};
  }
  return best;
}

cv::Mat greyOf(const cv::Mat& colour) {
  cv::Mat grey;
  cv::cvtColor(colour, grey, cv::COLOR_BGR2GRAY);
  return grey;
}

// A step edge smeared by a Gaussian of 1 σ s has its steepest slope 1 / (s sqrt(2 pi)) of its height: of the strongest
// edges, the height is what the grey levels span within a few pixels.
double blurOf(const cv::Mat& grey) {
  cv::Mat gx, gy, steep, high, low;
  cv::Sobel(grey, gx, CV_32F, 1, 0, 3, 0.125);
  cv::Sobel(grey, gy, CV_32F, 0, 1, 3, 0.125);
  cv::magnitude(gx, gy, steep);
  const cv::Mat around = cv::getStructuringElement(cv::MORPH_RECT, {13, 13});
  cv::dilate(grey, high, around);
  cv::erode(grey, low, around);
  std::vector<double> sigmas;
  for (int y = 6; y < grey.rows - 6; y += 2)
    for (int x = 6; x < grey.cols - 6; x += 2) {
      const double span = high.at<uchar>(y, x) - low.at<uchar>(y, x);
      const double slope = static_cast<double>(steep.at<float>(y, x));
      if (span > 60 && slope > 0.08 * span) sigmas.push_back(span / (slope * std::sqrt(2 * 3.14159265)));
    }
  if (sigmas.size() < 50) return 0;
  const auto place = sigmas.begin() + static_cast<long>(sigmas.size() / 10);
  std::nth_element(sigmas.begin(), place, sigmas.end());
  return *place;
}

// By how much the room stands elsewhere in the last look than in the first, as a share of the width.
bool roomStrays(const std::vector<cv::Mat>& greys, const std::vector<PoseReading>& bodies) {
  if (greys.size() < 3) return false;
  cv::Mat outside(greys.front().size(), CV_8U, cv::Scalar(255));
  const double scale = static_cast<double>(greys.front().cols);
  for (const PoseReading& r : bodies) {
    const double half = 0.35 * r.next.size_px;
    cv::rectangle(outside, cv::Point2d(r.next.centre.x - half, r.next.centre.y - 1.4 * half),
                  cv::Point2d(r.next.centre.x + half, r.next.centre.y + 1.4 * half), cv::Scalar(0), -1);
  }
  std::vector<cv::Point2f> corners;
  cv::goodFeaturesToTrack(greys.front(), corners, 120, 0.02, 10, outside);
  if (corners.size() < 12) return false;
  for (std::size_t k = 1; k < greys.size(); ++k) {
    std::vector<cv::Point2f> now;
    std::vector<unsigned char> found;
    cv::calcOpticalFlowPyrLK(greys.front(), greys[k], corners, now, found, cv::noArray(), {21, 21}, 4);
    std::vector<double> dx, dy;
    for (std::size_t i = 0; i < corners.size(); ++i)
      if (found[i]) {
        dx.push_back(static_cast<double>(now[i].x - corners[i].x));
        dy.push_back(static_cast<double>(now[i].y - corners[i].y));
      }
    if (dx.size() >= 12 && std::hypot(medianOf(dx), medianOf(dy)) > kStrays_share * scale) return true;
  }
  return false;
}

}  // namespace

std::string_view nameOf(Seen seen) {
  switch (seen) {
    case Seen::Nobody:
      return "nobody";
    case Seen::Side:
      return "side";
    case Seen::Oblique:
      return "oblique";
    case Seen::Front:
      return "front";
    case Seen::Rear:
      return "rear";
    case Seen::Head:
      return "head";
  }
  return "nobody";
}

ViewLook viewFrom(const std::vector<PoseReading>& readings) {
  const auto standing = [](const PoseReading* r) {
    return middle(*r, PoseMark::Ankle).y - middle(*r, PoseMark::Hip).y;
  };
  std::vector<const PoseReading*> upright;
  for (const PoseReading& r : readings) upright.push_back(&r);
  std::sort(upright.begin(), upright.end(), [&](const auto* a, const auto* b) { return standing(a) > standing(b); });
  if (upright.empty()) return {};
  upright.resize((upright.size() + 1) / 2);
  std::vector<double> wide, ahead;
  for (const PoseReading* r : upright) {
    const double trunk = trunkOf(*r);
    if (trunk <= 0) continue;
    wide.push_back(apart(*r, PoseMark::Hip) / trunk / kHipsOverTrunk);
    // Shoulders hide behind the plates; where they are guessed they say nothing.
    if (bothSeen(*r, PoseMark::Shoulder)) wide.push_back(apart(*r, PoseMark::Shoulder) / trunk / kShouldersOverTrunk);
    double feet = 0;
    for (BodySide side : {BodySide::Left, BodySide::Right})
      feet += (r->place(PoseMark::Toe, side).x - r->place(PoseMark::Heel, side).x) / trunk / 2;
    ahead.push_back(feet / kFootOverTrunk);
  }
  if (wide.empty()) return {};
  const double across = medianOf(wide), along = medianOf(ahead);
  ViewLook look;
  look.turned_deg = degrees(std::atan2(std::abs(across), std::abs(along)));
  if (look.turned_deg < kSideWithin_deg) {
    look.seen = Seen::Side;
    look.forward = along > 0 ? 1.0 : -1.0;
  } else if (look.turned_deg > kFrontBeyond_deg) {
    // Who faces the camera has the left shoulder on the picture's right.
    look.seen = across > 0 ? Seen::Front : Seen::Rear;
  } else {
    look.seen = Seen::Oblique;
  }
  return look;
}

ViewLook heldAgainstRim(ViewLook look, double rim_aspect) {
  const double most_deg = degrees(std::acos(std::clamp(rim_aspect, 0.0, 1.0))) + kRimErrs_deg;
  if (look.seen == Seen::Nobody || look.turned_deg <= most_deg) return look;
  look.turned_deg = most_deg;
  if (most_deg < kSideWithin_deg)
    look.seen = Seen::Side;
  else if (most_deg < kFrontBeyond_deg)
    look.seen = Seen::Oblique;
  return look;
}

Result<FirstLook> firstLook(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter) {
  // long because the looks share readers and readings; each question is a few lines
  auto finder = shippedFinder();
  if (!finder) return fail(finder.error());
  auto pose = shippedReader(Care::Quick);
  if (!pose) return fail(pose.error());
  std::optional<PoseReader> thorough;  // made when it is needed: a look with it takes a tenth of a second
  FirstLook out;
  std::vector<PoseReading> bodies;
  std::vector<cv::Mat> greys;
  const std::size_t frames = reader.info().frames(), looks = std::min(kLooks, frames);
  double sharpest = 1e9, lie = 0, stand = 0;
  std::size_t heads = 0, perhaps_heads = 0, feet = 0, tries = 0;
  for (std::size_t k = 0; k < looks; ++k) {
    if (task.cancelled()) return cancelled();
    const std::size_t index = (2 * k + 1) * frames / (2 * looks);
    if (auto set = reader.seekBefore(index); !set) return fail(set.error());
    auto frame = reader.next(footage::Pixels::Colour, index);
    if (!frame) return fail(frame.error());
    if (!*frame) continue;  // of a film that was cut off, later pictures are missing
    out.looked += 1;
    auto body = largestPerson(*finder, *pose, (*frame)->picture, lifter);
    if (!body) return fail(body.error());
    greys.push_back(greyOf((*frame)->picture));
    out.light += cv::mean(greys.back())[0] / 255;
    if (const double blur = blurOf(greys.back()); blur > 0) sharpest = std::min(sharpest, blur);
    constexpr std::size_t kTurnEvery = 3;
    auto lying = k % kTurnEvery == 1
                     ? liesIn(*finder, *pose, (*frame)->picture, *body)
                     : Result<std::optional<bool>>(*body ? std::optional(lies(leanOf(**body))) : std::nullopt);
    if (!lying) return fail(lying.error());
    // Every third look, and the next ones too while it looks as if somebody lay along the view but no hands are up.
    const bool tries_end = k % kTurnEvery == 1 || (perhaps_heads > 0 && heads == 0);
    if (tries_end) tries += 1;
    auto arms = tries_end && mayLieAlong(*body) ? armsFromAnEnd(*finder, *pose, (*frame)->picture, lifter)
                                                : Result<bool>(false);
    if (!arms) return fail(arms.error());
    if (*arms) {
      if (!thorough) {
        auto made = shippedReader(Care::Thorough);
        if (!made) return fail(made.error());
        thorough = std::move(*made);
      }
      auto end = endOfBench(*finder, *thorough, (*frame)->picture, lifter);
      if (!end) return fail(end.error());
      if (end->lies == Along::Perhaps) perhaps_heads += 1;
      if (end->lies == Along::Yes) (end->seen == Seen::Head ? heads : feet) += 1;
    }
    if (*lying) (**lying ? lie : stand) += k % kTurnEvery == 1 ? kTurnEvery : 1;
    if (*body) out.bodies.push_back({index, **body});
    if (*body) bodies.push_back(std::move(**body));
    task.report(static_cast<double>(k + 1) / static_cast<double>(looks));
  }
  if (out.looked == 0)
    return fail(ErrorCode::ClipUnreadable, "None of its pictures can be decoded; it was cut off or damaged on its way.",
                "Ask for the original file to be sent again.");
  out.light /= out.looked;
  out.blur = sharpest < 1e9 ? sharpest : 0;
  out.found = static_cast<double>(bodies.size());
  if (lie + stand > 0) out.lying = lie / (lie + stand);
  out.moving = roomStrays(greys, bodies);
  constexpr double kSquare_deg = 90;
  const std::size_t from_head = heads > 0 ? heads + perhaps_heads : 0;
  if (tries > 1 && 2 * std::max(from_head, feet) >= tries) {
    out.view = {from_head > feet ? Seen::Head : Seen::Front, kSquare_deg, {}};
    out.lying = 1;
    out.along_bench = true;
    return out;
  }
  if (bodies.empty() || 2 * out.found < out.looked) return out;
  // Readings the network itself doubts mix up left and right; they count only where there are no others.
  std::vector<PoseReading> sure;
  for (const PoseReading& r : bodies)
    if (r.person >= 0.5) sure.push_back(r);
  out.view = viewFrom(sure.size() >= 3 ? sure : bodies);
  // Widths say little of a body that lies; along the bench it would have been told.
  constexpr double kLies = 0.6;
  if (out.lying >= kLies && (out.view.seen == Seen::Front || out.view.seen == Seen::Rear))
    out.view = {Seen::Side, 0, {}};
  const double height = reader.info().height;
  std::vector<double> tall, lowest;
  for (const PoseReading& r : bodies) {
    double foot = 0;
    bool seen = false;
    for (PoseMark mark : {PoseMark::Heel, PoseMark::Toe})
      for (BodySide side : {BodySide::Left, BodySide::Right}) {
        foot = std::max(foot, r.place(mark, side).y);
        seen = seen || r.sure(mark, side) >= kSeen;
      }
    lowest.push_back(seen ? foot : height);
    tall.push_back(foot - middle(r, PoseMark::Shoulder).y);
  }
  // From shoulders to soles is 0.82 of stature.
  out.body_share = *std::max_element(tall.begin(), tall.end()) / 0.82 / height;
  out.feet_in_picture = medianOf(lowest) < (1 - kEdge_share) * height;
  return out;
}

}  // namespace jib::tracing
