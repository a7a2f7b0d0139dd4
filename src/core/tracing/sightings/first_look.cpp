// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/first_look.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <future>
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

// Networks of one thread.
struct Eyes {
  PersonFinder finder;
  PoseReader quick;
  std::optional<PoseReader> thorough;  // made when it is needed: a look with it takes a tenth of a second
};
using TwoEyes = std::vector<Eyes>;  // the frames are looked at two at a time, and so are a bench's two ends

Result<TwoEyes> twoEyes() {
  TwoEyes eyes;
  for (int k = 0; k < 2; ++k) {
    auto finder = shippedFinder();
    if (!finder) return fail(finder.error());
    auto quick = shippedReader(Care::Quick);
    if (!quick) return fail(quick.error());
    eyes.push_back({std::move(*finder), std::move(*quick), std::nullopt});
  }
  return eyes;
}

// Somebody seen from the head's end, and from the feet's.
using Ends = std::array<std::optional<BenchEndLook>, 2>;
Result<Ends> lookFromEnds(TwoEyes& eyes, Care care, const cv::Mat& picture, const std::optional<PointedAt>& lifter) {
  for (Eyes& e : eyes)
    if (care == Care::Thorough && !e.thorough) {
      auto made = shippedReader(Care::Thorough);
      if (!made) return fail(made.error());
      e.thorough = std::move(*made);
    }
  const auto look = [&](std::size_t end) {
    Eyes& e = eyes[end];
    return lookFromBenchEnd(e.finder, care == Care::Quick ? e.quick : *e.thorough, picture, end == 0, lifter);
  };
  auto feet = std::async(std::launch::async, look, 1);
  auto head = look(0);
  auto other = feet.get();
  if (!head) return fail(head.error());
  if (!other) return fail(other.error());
  return Ends{std::move(*head), std::move(*other)};
}

// Whether the quick network sees arms from either end of a bench: the careful one takes ten times as long.
bool showArms(const Ends& ends) {
  constexpr double kSome = 1.7;  // of 6
  for (const auto& look : ends)
    if (look && look->reading.somebody() && sureOfArms(look->reading) > kSome) return true;
  return false;
}

struct EndSeen {
  Seen seen = Seen::Nobody;
  Along lies = Along::No;
};

// Whether somebody lies along the view, from the end of the bench whose reading shows the arms best.
EndSeen endOfBench(const Ends& ends) {
  constexpr double kSure = 3;  // of 6: shoulders, elbows and wrists
  EndSeen best;
  double surest = kSure;
  for (std::size_t end = 0; end < ends.size(); ++end) {
    if (!ends[end]) continue;
    const bool from_head = end == 0;
    const double sure = sureOfArms(ends[end]->reading);
    const Along lies = liesAlongTheView(ends[end]->reading, from_head);
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
  look.toward = across > 0 ? 1.0 : across < 0 ? -1.0 : 0.0;
  // Where the camera were at the side: which way the toes point there.
  look.seen = Seen::Side;
  look.forward = along > 0 ? 1.0 : -1.0;
  return turnedBy(look, look.turned_deg);
}

ViewLook turnedBy(ViewLook look, double turned_deg) {
  if (look.seen == Seen::Nobody) return look;
  look.turned_deg = turned_deg;
  if (turned_deg < kSideWithin_deg) {
    look.seen = Seen::Side;
    return look;
  }
  look.forward.reset();
  // Who faces the camera has the left shoulder on the picture's right.
  look.seen = turned_deg <= kFrontBeyond_deg ? Seen::Oblique : look.toward > 0 ? Seen::Front : Seen::Rear;
  return look;
}

ViewLook heldAgainstRim(ViewLook look, double rim_aspect) {
  const double most_deg = degrees(std::acos(std::clamp(rim_aspect, 0.0, 1.0))) + kRimErrs_deg;
  if (look.seen == Seen::Nobody || look.turned_deg <= most_deg) return look;
  return turnedBy(look, most_deg);
}

namespace {

constexpr std::size_t kTurnEvery = 3;  // of the looks, one in so many asks whether somebody lies

// What one frame shows by itself.
struct FrameLook {
  std::size_t index = 0;
  cv::Mat picture, grey;
  std::optional<PoseReading> body;
  std::optional<bool> lies;
  double blur = 0;
};

// A dozen looks over a clip, and what they come to.
class FirstLooker {
 public:
  FirstLooker(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter, TwoEyes eyes)
      : reader_(reader), task_(task), lifter_(lifter), eyes_(std::move(eyes)) {
    out_.lifter = lifter;
  }

  Result<FirstLook> run() {
    const std::size_t frames = reader_.info().frames(), looks = std::min(kLooks, frames);
    for (std::size_t k = 0; k < looks; k += eyes_.size()) {
      if (task_.cancelled()) return cancelled();
      std::vector<FrameLook> some;
      std::vector<std::size_t> which;
      for (std::size_t i = k; i < std::min(k + eyes_.size(), looks); ++i) {
        auto frame = frameAt((2 * i + 1) * frames / (2 * looks));
        if (!frame) return fail(frame.error());
        if (!*frame) continue;  // of a film that was cut off, later pictures are missing
        some.push_back(std::move(**frame));
        which.push_back(i);
      }
      if (auto looked = lookAt(some, which); !looked) return fail(looked.error());
      for (std::size_t i = 0; i < some.size(); ++i)
        if (auto counted = count(some[i], which[i]); !counted) return fail(counted.error());
      task_.report(static_cast<double>(std::min(k + eyes_.size(), looks)) / static_cast<double>(looks));
    }
    if (out_.looked == 0)
      return fail(ErrorCode::ClipUnreadable,
                  "None of its pictures can be decoded; it was cut off or damaged on its way.",
                  "Ask for the original file to be sent again.");
    return conclude();
  }

 private:
  Result<std::optional<FrameLook>> frameAt(std::size_t index) {
    if (auto set = reader_.seekBefore(index); !set) return fail(set.error());
    auto frame = reader_.next(footage::Pixels::Colour, index);
    if (!frame) return fail(frame.error());
    if (!*frame) return std::optional<FrameLook>();
    return FrameLook{index, (*frame)->picture, {}, {}, {}, 0};
  }

  // Each frame by itself, side by side.
  Result<bool> lookAt(std::vector<FrameLook>& frames, const std::vector<std::size_t>& which) {
    const auto look = [&](std::size_t i) -> Result<bool> {
      FrameLook& f = frames[i];
      Eyes& eyes = eyes_[i];
      auto body = largestPerson(eyes.finder, eyes.quick, f.picture, lifter_);
      if (!body) return fail(body.error());
      f.body = std::move(*body);
      f.grey = greyOf(f.picture);
      f.blur = blurOf(f.grey);
      if (f.body) f.lies = lies(leanOf(*f.body));
      if (which[i] % kTurnEvery != 1) return true;
      auto lying = liesIn(eyes.finder, eyes.quick, f.picture, f.body);
      if (!lying) return fail(lying.error());
      f.lies = *lying;
      return true;
    };
    std::vector<std::future<Result<bool>>> others;
    for (std::size_t i = 1; i < frames.size(); ++i) others.push_back(std::async(std::launch::async, look, i));
    Result<bool> all = frames.empty() ? Result<bool>(true) : look(0);
    for (auto& other : others)
      if (auto looked = other.get(); all && !looked) all = std::move(looked);
    return all;
  }

  // What a frame adds to those before it.
  Result<bool> count(FrameLook& f, std::size_t k) {
    out_.looked += 1;
    greys_.push_back(f.grey);
    out_.light += cv::mean(f.grey)[0] / 255;
    if (f.blur > 0) sharpest_ = std::min(sharpest_, f.blur);
    // Every third look, and the next ones too while it looks as if somebody lay along the view but no hands are up.
    if (k % kTurnEvery == 1 || (perhaps_heads_ > 0 && heads_ == 0)) {
      tries_ += 1;
      if (mayLieAlong(f.body))
        if (auto ended = countEnd(f.picture); !ended) return ended;
    }
    if (f.lies) (*f.lies ? lie_ : stand_) += k % kTurnEvery == 1 ? kTurnEvery : 1;
    if (f.body) out_.bodies.push_back({f.index, std::move(*f.body)});
    return true;
  }

  Result<bool> countEnd(const cv::Mat& picture) {
    auto glimpsed = lookFromEnds(eyes_, Care::Quick, picture, lifter_);
    if (!glimpsed) return fail(glimpsed.error());
    if (!showArms(*glimpsed)) return true;
    auto seen = lookFromEnds(eyes_, Care::Thorough, picture, lifter_);
    if (!seen) return fail(seen.error());
    const EndSeen end = endOfBench(*seen);
    if (end.lies == Along::Perhaps) perhaps_heads_ += 1;
    if (end.lies == Along::Yes) (end.seen == Seen::Head ? heads_ : feet_) += 1;
    return true;
  }

  FirstLook conclude() {
    std::vector<PoseReading> bodies;
    for (const FirstLook::Body& b : out_.bodies) bodies.push_back(b.reading);
    out_.light /= out_.looked;
    out_.blur = sharpest_ < 1e9 ? sharpest_ : 0;
    out_.found = static_cast<double>(bodies.size());
    if (lie_ + stand_ > 0) out_.lying = lie_ / (lie_ + stand_);
    out_.moving = roomStrays(greys_, bodies);
    constexpr double kSquare_deg = 90;
    const std::size_t from_head = heads_ > 0 ? heads_ + perhaps_heads_ : 0;
    if (tries_ > 1 && 2 * std::max(from_head, feet_) >= tries_) {
      out_.view = {from_head > feet_ ? Seen::Head : Seen::Front, kSquare_deg, 0, {}};
      out_.lying = 1;
      out_.along_bench = true;
      return std::move(out_);
    }
    if (bodies.empty() || 2 * out_.found < out_.looked) return std::move(out_);
    // Readings the network itself doubts mix up left and right; they count only where there are no others.
    std::vector<PoseReading> sure;
    for (const PoseReading& r : bodies)
      if (r.person >= 0.5) sure.push_back(r);
    out_.view = viewFrom(sure.size() >= 3 ? sure : bodies);
    // Widths say little of a body that lies; along the bench it would have been told.
    constexpr double kLies = 0.6;
    if (out_.lying >= kLies && (out_.view.seen == Seen::Front || out_.view.seen == Seen::Rear))
      out_.view = {Seen::Side, 0, 0, {}};
    measureBody(bodies);
    return std::move(out_);
  }

  // How large the body is in the picture, and whether its feet are.
  void measureBody(const std::vector<PoseReading>& bodies) {
    const double height = reader_.info().height;
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
    out_.body_share = *std::max_element(tall.begin(), tall.end()) / 0.82 / height;
    out_.feet_in_picture = medianOf(lowest) < (1 - kEdge_share) * height;
  }

  footage::FrameReader& reader_;
  Task& task_;
  const std::optional<PointedAt> lifter_;
  TwoEyes eyes_;
  FirstLook out_;
  std::vector<cv::Mat> greys_;
  double sharpest_ = 1e9, lie_ = 0, stand_ = 0;
  std::size_t heads_ = 0, perhaps_heads_ = 0, feet_ = 0, tries_ = 0;
};

}  // namespace

Result<FirstLook> firstLook(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter) {
  auto eyes = twoEyes();
  if (!eyes) return fail(eyes.error());
  return FirstLooker(reader, task, lifter, std::move(*eyes)).run();
}

Result<Glance> glanceAt(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter,
                        const Glance& known) {
  if (known && known->lifter == lifter) return known;
  auto look = firstLook(reader, task, lifter);
  if (!look) return fail(look.error());
  return std::make_shared<const FirstLook>(std::move(*look));
}

}  // namespace jib::tracing
