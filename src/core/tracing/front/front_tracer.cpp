// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/front_tracer.h"

#include <algorithm>
#include <cmath>
#include <span>

#include "core/base/median.h"
#include "core/tracing/front/apart.h"
#include "core/tracing/front/bar_ends.h"
#include "core/tracing/front/bar_search.h"
#include "core/tracing/front/edge_plates.h"
#include "core/tracing/front/plate_pair.h"

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.5;
constexpr double kFocalShare = 0.83;  // of the longer side: a phone's main lens

struct SeenMark {
  Landmark landmark;
  PoseMark mark;
  double scatter_m;
};
constexpr SeenMark kMarks[]{{Landmark::Shoulder, PoseMark::Shoulder, 0.015}, {Landmark::Elbow, PoseMark::Elbow, 0.02},
                            {Landmark::Wrist, PoseMark::Wrist, 0.02},        {Landmark::Hip, PoseMark::Hip, 0.02},
                            {Landmark::Knee, PoseMark::Knee, 0.015},         {Landmark::Ankle, PoseMark::Ankle, 0.018},
                            {Landmark::Heel, PoseMark::Heel, 0.027},         {Landmark::Toe, PoseMark::Toe, 0.025}};

// From the head's end chest and plates hide everything else.
constexpr bool isOfArm(Landmark l) {
  return l == Landmark::Shoulder || l == Landmark::Elbow || l == Landmark::Wrist;
}

// From behind the network takes people for being seen from the front, in some looks. Sides are the picture's: the
// athlete's left is on its right from the front, and neither legs nor arms that are filmed so cross.
BodySide seenAs(const Sighting& s, BodySide side, Facing facing) {
  static constexpr PoseMark kLegs[]{PoseMark::Shoulder, PoseMark::Hip, PoseMark::Knee, PoseMark::Ankle},
      kArms[]{PoseMark::Shoulder, PoseMark::Elbow, PoseMark::Wrist};
  double left_on_right = 0;
  for (const PoseMark mark : facing == Facing::Head ? std::span<const PoseMark>(kArms) : kLegs)
    left_on_right += s.reading.place(mark, BodySide::Left).x > s.reading.place(mark, BodySide::Right).x ? 1 : -1;
  const bool swapped = left_on_right != 0 && (left_on_right > 0) != leftOnRight(facing);
  return !swapped ? side : side == BodySide::Left ? BodySide::Right : BodySide::Left;
}

// A landmark look by look, wild ones left out; between looks that are near in time straight on.
void fill(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s, BodySide side,
          const SeenMark& kind) {
  constexpr double kApart_s = 0.7, kJump_m = 0.10, kDistances_m = 0.035;
  std::vector<std::pair<std::size_t, PixelPoint>> seen;
  for (const Sighting& s : sightings) {
    const BodySide as = seenAs(s, side, front.facing);
    if (s.reading.sure(kind.mark, as) >= kSeen) seen.emplace_back(s.frame, s.reading.place(kind.mark, as));
  }
  std::vector<PixelPoint> calm(seen.size());
  for (std::size_t k = 0; k < seen.size(); ++k) {
    const std::size_t a = k > 0 ? k - 1 : k, c = std::min(k + 1, seen.size() - 1);
    // A knee comes in and goes out again within three looks; what jumps further than that is a mistake.
    const PixelPoint middle{median({seen[a].second.x, seen[k].second.x, seen[c].second.x}),
                            median({seen[a].second.y, seen[k].second.y, seen[c].second.y})};
    calm[k] = length(seen[k].second - middle) > kJump_m * front.metre_px ? middle : seen[k].second;
  }
  // Of one who lies every joint is at another distance from the camera than the bar.
  const double scatter_m = front.lies ? std::hypot(kind.scatter_m, kDistances_m) : kind.scatter_m;
  const double sigma_px = std::max(0.5, scatter_m * front.metre_px);
  for (std::size_t k = 0; k < seen.size(); ++k) {
    front.frames[seen[k].first].at(side, kind.landmark) = TracedPoint{calm[k], sigma_px, Origin::Optical};
    if (k == 0 || times_s[seen[k].first] - times_s[seen[k - 1].first] > kApart_s) continue;
    for (std::size_t i = seen[k - 1].first + 1; i < seen[k].first; ++i) {
      const double share =
          (times_s[i] - times_s[seen[k - 1].first]) / (times_s[seen[k].first] - times_s[seen[k - 1].first]);
      front.frames[i].at(side, kind.landmark) =
          TracedPoint{calm[k - 1] + (calm[k] - calm[k - 1]) * share, sigma_px, Origin::Fitted};
    }
  }
}

// How large a metre looks, from the standing body. Source  segment shares: Drillis and Contini 1966
double metreFromBody(const std::vector<Sighting>& sightings) {
  constexpr double kStature_m = 1.72, kShoulderToAnkle = 0.779;
  std::vector<double> tall;
  for (const Sighting& s : sightings) {
    const auto shoulder = middleOf(s, PoseMark::Shoulder), ankle = middleOf(s, PoseMark::Ankle);
    if (shoulder && ankle) tall.push_back(ankle->y - shoulder->y);
  }
  if (tall.size() < 8) return 0;
  std::sort(tall.begin(), tall.end());
  return tall[tall.size() * 9 / 10] / (kStature_m * kShoulderToAnkle);
}

// How large a metre looks, from the arms of somebody who lies under a bar: at their longest they are straight, and
// stand square to the view. Source  segment shares: Drillis and Contini 1966
double metreFromArms(const std::vector<Sighting>& sightings) {
  constexpr double kStature_m = 1.72, kArm = 0.186 + 0.146;
  std::vector<double> tall;
  for (const Sighting& s : sightings)
    for (const BodySide side : kSides)
      if (s.reading.sure(PoseMark::Shoulder, side) >= kSeen && s.reading.sure(PoseMark::Wrist, side) >= kSeen)
        tall.push_back(length(s.reading.place(PoseMark::Shoulder, side) - s.reading.place(PoseMark::Wrist, side)));
  if (tall.size() < 8) return 0;
  std::sort(tall.begin(), tall.end());
  return tall[tall.size() * 9 / 10] / (kStature_m * kArm);
}

// The same from the shoulders, which are seen in every look from the head's end, where arms are mistaken. The network
// puts its shoulders nearer to each other than the joints are.
double metreFromShoulders(const std::vector<Sighting>& sightings) {
  constexpr double kApart_m = 0.40;
  std::vector<double> wide;
  for (const Sighting& s : sightings)
    if (middleOf(s, PoseMark::Shoulder))
      wide.push_back(length(s.reading.place(PoseMark::Shoulder, BodySide::Left) -
                            s.reading.place(PoseMark::Shoulder, BodySide::Right)));
  return wide.size() < 8 ? 0 : median(wide) / kApart_m;
}

// Hands that hold a bar stay where they took it: the middle of where they are seen along it while it is high, where the
// network is right about them. Elbows that no arm from there could reach are left out.
void holdHands(FrontTrace& front) {
  constexpr double kHigh_share = 0.3, kForearm_m = 0.33, kUpperArm_m = 0.38, kScatter_m = 0.02, kAtBar_m = 0.18;
  constexpr std::size_t kFewest = 3;
  struct Bar {
    PixelPoint middle, along;  // along: to the athlete's left, length 1
  };
  const auto barIn = [](const FrontPoints& f) -> std::optional<Bar> {
    const auto &l = f.at(BodySide::Left, Landmark::Bar), &r = f.at(BodySide::Right, Landmark::Bar);
    if (!l || !r) return std::nullopt;
    const PixelPoint d = l->place - r->place;
    return Bar{(l->place + r->place) * 0.5, d * (1 / length(d))};
  };
  double highest = 1e9, lowest = -1e9;
  for (const FrontPoints& f : front.frames)
    if (const auto bar = barIn(f)) {
      highest = std::min(highest, bar->middle.y);
      lowest = std::max(lowest, bar->middle.y);
    }
  for (const BodySide side : kSides) {
    std::vector<double> along, below;
    std::size_t first = front.frames.size(), last = 0;  // of the frames on which the hand is seen at the bar
    for (std::size_t i = 0; i < front.frames.size(); ++i) {
      const FrontPoints& f = front.frames[i];
      const auto bar = barIn(f);
      const auto& wrist = f.at(side, Landmark::Wrist);
      if (!bar || !wrist || wrist->origin != Origin::Optical ||
          bar->middle.y > highest + kHigh_share * (lowest - highest))
        continue;
      const PixelPoint off = wrist->place - bar->middle;
      // A foot under the bench is taken for a hand at times.
      if (std::abs(off.y) > kAtBar_m * front.metre_px) continue;
      first = std::min(first, i);
      last = i;
      along.push_back(off.x * bar->along.x + off.y * bar->along.y);
      below.push_back(off.y - along.back() * bar->along.y);
    }
    if (along.size() < kFewest) {
      for (FrontPoints& f : front.frames) f.at(side, Landmark::Wrist).reset();
      continue;
    }
    const double out = median(along), down = median(below);
    for (std::size_t i = 0; i < front.frames.size(); ++i) {
      FrontPoints& f = front.frames[i];
      const auto bar = barIn(f);
      auto& wrist = f.at(side, Landmark::Wrist);
      if (!bar) wrist.reset();
      if (!bar || (!wrist && (i < first || i > last))) continue;
      wrist = TracedPoint{bar->middle + bar->along * out + PixelPoint{0, down}, kScatter_m * front.metre_px,
                          Origin::Fitted};
      auto& elbow = f.at(side, Landmark::Elbow);
      const auto& shoulder = f.at(side, Landmark::Shoulder);
      if (elbow && (length(elbow->place - wrist->place) > kForearm_m * front.metre_px ||
                    (shoulder && length(elbow->place - shoulder->place) > kUpperArm_m * front.metre_px)))
        elbow.reset();
    }
  }
}

// Both ends of the bar where it is high, on the picture's left and on its right, and what they are followed by.
struct EndsFound {
  std::array<EndFollower, 2> follow;
  LooksLong looks_long;
  std::array<PixelPoint, 2> from_hand;  // from the middle of the hands to each end
  bool by_plates = false;               // found by plates that go up and down together
  std::vector<Hubs> hubs;               // of a bar that is pressed, frame by frame; empty where plates are not made out
  std::array<double, 2> from_hub{};     // from each plate's hub to the end, across, where the bar is high
};

// A grey sleeve before a grey wall seems to end early, and none ends late: what stands further out from its plate on
// one side does so on the other, each as large as it looks there.
void evenOut(std::array<PixelPoint, 2>& ends, const std::array<std::optional<PlateSeen>, 2>& plates, PixelPoint line) {
  constexpr double kUneven_m = 0.03;
  const double left_m = (plates[0]->hub.x - ends[0].x) / plates[0]->metre_px,
               right_m = (ends[1].x - plates[1]->hub.x) / plates[1]->metre_px;
  if (std::abs(left_m - right_m) < kUneven_m) return;
  if (left_m < right_m)
    ends[0] = ends[0] - line * ((right_m - left_m) * plates[0]->metre_px);
  else
    ends[1] = ends[1] + line * ((left_m - right_m) * plates[1]->metre_px);
}

// A bar is straight: its ends lie on the line through both plates, which say more of it than a sleeve of which the
// light shows one edge.
double onTheLine(PixelPoint left, PixelPoint right, double x) {
  return left.y + (right.y - left.y) * (x - left.x) / (right.x - left.x);
}

// A bar that is pressed comes down a hand's breadth nearer to the feet, and looks that much shorter from the head's
// end, longer from theirs. Where high and low it seems of another length than that, one of them was cut short.
void sameLength(std::array<PixelPoint, 2>& high, std::array<PixelPoint, 2>& low, bool from_head, double distance_m) {
  constexpr double kTowardsFeet_m = 0.12, kDiffer = 0.03;
  const double shrinks = distance_m / (distance_m + (from_head ? kTowardsFeet_m : -kTowardsFeet_m));
  const double high_px = high[1].x - high[0].x, low_px = low[1].x - low[0].x;
  const auto stretch = [](std::array<PixelPoint, 2>& ends, double by) {
    const PixelPoint middle = (ends[0] + ends[1]) * 0.5;
    for (PixelPoint& end : ends) end = middle + (end - middle) * by;
  };
  if (low_px > high_px * shrinks * (1 + kDiffer)) stretch(high, low_px / shrinks / high_px);
  if (low_px < high_px * shrinks * (1 - kDiffer)) stretch(low, high_px * shrinks / low_px);
}

// Plates stand at the collars, whose places on a bar are the same everywhere.
bool onOneBar(const PlatesSeen& plates) {
  constexpr double kLeast_m = 1.27, kMost_m = 1.64;
  if (!plates.side[0] || !plates.side[1]) return true;
  const double apart_m = length(plates.side[1]->hub - plates.side[0]->hub) / plates.metre_px;
  return apart_m > kLeast_m && apart_m < kMost_m;
}

// Where the edges of the plates are not made out, what was seen to go up and down together stands for them, or does
// not.
enum class EdgeCare { Edges, PlatesTogether };
PlatesSeen platesAsTheyWent(const Apart& apart) {
  constexpr double kWide_m = 0.1;
  const PixelPoint half = apart.line * (kHubsApart_m / 2 * apart.metre_px);
  return {
      apart.metre_px,
      {PlateSeen{apart.hands - half, apart.metre_px, kWide_m}, PlateSeen{apart.hands + half, apart.metre_px, kWide_m}}};
}

// Finds both ends, and how large a metre looks by the plates. nullopt where not enough of the bar's line moves.
Result<std::optional<EndsFound>> findEnds(footage::FrameReader& reader, FrontTrace& front, const cv::Mat& high,
                                          const cv::Mat& low, Apart apart, double rim_m, EdgeCare care, Task& task) {
  double metre_px = front.metre_px;
  if (front.lies) metre_px = levelByPlates(apart, high, low, metre_px, rim_m).value_or(metre_px);
  std::array<BarSearch, 2> search{BarSearch(high, low, apart, metre_px, -1), BarSearch(high, low, apart, metre_px, 1)};
  if (!search[0].settle() || !search[1].settle()) return std::optional<EndsFound>();
  auto plates = platesAlong(search, high, low, metre_px, rim_m);
  if (front.lies && plates && !plates->side[0] && !plates->side[1]) plates.reset();
  if (apart.by_plates && plates)
    for (std::size_t k = 0; k < 2; ++k)
      if (auto& one = plates->side[k], &other = plates->side[1 - k]; !one && other)
        one = PlateSeen{{2 * apart.hands.x - other->hub.x, other->hub.y}, other->metre_px, other->wide_m};
  const bool by_edges = plates.has_value();
  if (apart.by_plates && !plates && care == EdgeCare::PlatesTogether) plates = platesAsTheyWent(apart);
  if (plates && front.lies && !onOneBar(*plates)) return std::optional<EndsFound>();
  if (plates) {
    front.metre_px = plates->metre_px;
    front.scale_sigma_rel = by_edges ? 0.02 : 0.07;
    front.scale_from_plate = true;
  }
  const std::array<std::optional<double>, 2> out{search[0].end(), search[1].end()};
  if (!out[0] || !out[1]) return std::optional<EndsFound>();
  constexpr std::array<double, 2> kInwards{1, -1};
  std::array<PixelPoint, 2> ends;
  std::array<cv::Mat, 2> room;
  for (std::size_t k = 0; k < 2; ++k) {
    const PixelPoint line = search[k].placeAt(*out[k]);
    const PixelPoint about =
        onTheSleeve(high, roomAbout(high, low, line, search[k].went()), line, kInwards[k], metre_px);
    room[k] = roomAbout(high, low, about, search[k].went());
    ends[k] =
        betweenItsEdges(high, room[k], atTheTip(high, room[k], about, kInwards[k], metre_px), kInwards[k], metre_px);
  }
  const bool hubs = plates && plates->side[0] && plates->side[1];
  if (hubs) {
    evenOut(ends, plates->side, apart.line);
    if (front.lies)
      for (PixelPoint& end : ends) end.y = onTheLine(plates->side[0]->hub, plates->side[1]->hub, end.x);
  }
  std::array<PixelPoint, 2> below;
  for (std::size_t k = 0; k < 2; ++k) {
    below[k] = atTheTip(low, room[k], ends[k] + search[k].went(), kInwards[k], metre_px);
    below[k] = betweenItsEdges(low, room[k], below[k], kInwards[k], metre_px);
  }
  if (front.lies) sameLength(ends, below, front.facing == Facing::Head, front.focal_px / front.metre_px);
  const double long_px = ends[1].x - ends[0].x, high_y = (ends[0].y + ends[1].y) / 2,
               down = (below[0].y + below[1].y) / 2 - high_y;
  // Ends that hardly came down were taken for something else; how the bar shortens on its way would be told by noise.
  constexpr double kLeast_m = 0.05;
  if (front.lies && down < kLeast_m * metre_px) return std::optional<EndsFound>();
  EndsFound found{{EndFollower(high, room[0], ends[0], kInwards[0], metre_px),
                   EndFollower(high, room[1], ends[1], kInwards[1], metre_px)},
                  {long_px, front.lies ? (below[1].x - below[0].x - long_px) / down : 0, high_y},
                  {ends[0] - apart.hands, ends[1] - apart.hands},
                  {},
                  {}};
  found.by_plates = apart.by_plates;
  if (!front.lies) return std::optional(std::move(found));
  Hubs hub_below;
  if (hubs) {
    auto followed = followPlates(reader, high, low, {*plates->side[0], *plates->side[1]}, rim_m, task);
    if (!followed) return fail(followed.error());
    found.hubs = std::move(*followed);
    hub_below = found.hubs[apart.low];
    for (std::size_t k = 0; k < 2; ++k) found.from_hub[k] = ends[k].x - plates->side[k]->hub.x;
  }
  for (std::size_t k = 0; k < 2; ++k) {
    // Where it is still known by how it looks high up, both pictures must mean the same place.
    if (const auto known = found.follow[k].find(low, below[k])) below[k] = known->place;
    if (hub_below) below[k].y = onTheLine((*hub_below)[0], (*hub_below)[1], below[k].x);
    found.follow[k].alsoLooksLike(low, below[k]);
  }
  return std::optional(std::move(found));
}

// A sleeve slides along itself, and a plate behind a post is taken for part of it: of both ends as their plates and as
// their own pictures have them, the two that are as far apart as the bar is long; by their plates where that is as
// good.
std::array<std::optional<PixelPoint>, 2> likeliest(const std::array<std::optional<PixelPoint>, 2>& by_plate,
                                                   const std::array<std::optional<PixelPoint>, 2>& by_end,
                                                   const std::array<std::optional<PixelPoint>, 2>& before,
                                                   const LooksLong& looks_long) {
  constexpr double kAsGood = 0.01;  // of its length
  std::array<std::optional<PixelPoint>, 2> best;
  double least = 1e9;
  for (const auto* left : {&by_plate[0], &by_end[0]})
    for (const auto* right : {&by_plate[1], &by_end[1]}) {
      if (!*left || !*right) continue;
      const double wanted = looks_long.at(((*left)->y + (*right)->y) / 2);
      const double off = std::abs((*right)->x - (*left)->x - wanted) / wanted;
      if (off + kAsGood >= least) continue;
      least = off;
      best = {*left, *right};
    }
  // Where none are, the end that jumped aside is put that far from the other.
  constexpr double kWrong = 0.025;
  if (best[0] && least > kWrong && before[0] && before[1]) {
    const double wanted = looks_long.at((best[0]->y + best[1]->y) / 2);
    if (std::abs(best[0]->x - before[0]->x) > std::abs(best[1]->x - before[1]->x))
      best[0]->x = best[1]->x - wanted;
    else
      best[1]->x = best[0]->x + wanted;
  }
  if (best[0]) return best;
  for (std::size_t k = 0; k < 2; ++k) best[k] = by_plate[k] ? by_plate[k] : by_end[k];
  return best;
}

Result<cv::Mat> greyAt(footage::FrameReader& reader, std::size_t frame) {
  if (auto set = reader.seekBefore(frame); !set) return fail(set.error());
  auto next = reader.next(footage::Pixels::Gray, frame);
  if (!next) return fail(next.error());
  return *next ? (*next)->picture.clone() : cv::Mat();
}

// Where its plates told of it from the first, the ends were seen to be off by more: by up to 12 cm along the bar.
double endsSigma_px(const FrontTrace& front, bool by_plates) {
  const double sigma_m = !front.lies ? 0.011 : by_plates ? 0.04 : 0.016;
  return std::max(0.4, sigma_m * front.metre_px);
}

// Puts the ends into every frame in which they are made out.
Result<bool> followEnds(footage::FrameReader& reader, FrontTrace& front, EndsFound& ends, Task& task) {
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  const std::array<BodySide, 2> shown = leftOnRight(front.facing) ? std::array{BodySide::Right, BodySide::Left}
                                                                  : std::array{BodySide::Left, BodySide::Right};
  std::array<std::optional<PixelPoint>, 2> last;
  // Of a bar that goes along the view, how its ends look changes on the way.
  const double sigma_px = endsSigma_px(front, ends.by_plates);
  constexpr double kGive_m = 0.012;  // a bar that turns or comes nearer looks a little shorter or longer
  constexpr double kJitters_m = 0.1, kOffLine_m = 0.045;
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Gray);
    if (!next) return fail(next.error());
    if (!*next) return true;
    const std::size_t i = (*next)->index;
    const auto &l = front.frames[i].at(BodySide::Left, Landmark::Wrist),
               &r = front.frames[i].at(BodySide::Right, Landmark::Wrist);
    std::array<double, 2> alike{};
    const auto before = last;
    for (std::size_t k = 0; k < 2; ++k) {
      std::optional<PixelPoint> expected;
      if (l && r) expected = (l->place + r->place) * 0.5 + ends.from_hand[k];
      // What was found in the frame before is a better guess than hands the network jitters about. Of one who presses
      // the other end is too: folded arms are taken for legs.
      if (last[k] && (!expected || front.lies || length(*last[k] - *expected) < kJitters_m * front.metre_px))
        expected = last[k];
      else if (front.lies && last[1 - k])
        expected = *last[1 - k] + PixelPoint{(k == 0 ? -1 : 1) * ends.looks_long.at(last[1 - k]->y), 0};
      last[k].reset();
      if (!expected) continue;
      if (const auto found = ends.follow[k].find((*next)->picture, *expected)) {
        last[k] = found->place;
        alike[k] = found->alike;
      }
    }
    if (ends.hubs.empty()) holdApart(last, alike, ends.looks_long, kGive_m * front.metre_px);
    std::array<std::optional<PixelPoint>, 2> by_plate;
    const Hubs hub = ends.hubs.empty() ? std::nullopt : ends.hubs[i];
    for (std::size_t k = 0; hub && k < 2; ++k) {
      // A bar is straight: what was found well off the line through both plates is a line on the wall.
      const auto y = [&](double x) { return onTheLine((*hub)[0], (*hub)[1], x); };
      if (last[k] && std::abs(last[k]->y - y(last[k]->x)) > kOffLine_m * front.metre_px) last[k].reset();
      const double hub_x = (*hub)[k].x;
      const double x = hub_x + ends.from_hub[k] * ends.looks_long.at((*hub)[k].y) / ends.looks_long.high_px;
      by_plate[k] = PixelPoint{x, y(x)};
    }
    if (!ends.hubs.empty()) last = likeliest(by_plate, last, before, ends.looks_long);
    for (std::size_t k = 0; hub && k < 2; ++k)
      if (last[k]) last[k]->y = onTheLine((*hub)[0], (*hub)[1], last[k]->x);
    // No bar is held as crooked as that: one of them was lost, and it is not known which.
    constexpr double kMostCrooked = 0.21;  // 12 degrees
    if (last[0] && last[1] && std::abs(last[1]->y - last[0]->y) > kMostCrooked * (last[1]->x - last[0]->x)) {
      last = before;
      continue;
    }
    for (std::size_t k = 0; k < 2; ++k)
      if (last[k]) front.frames[i].at(shown[k], Landmark::Bar) = TracedPoint{*last[k], sigma_px, Origin::Optical};
    task.report(static_cast<double>(i) / static_cast<double>(front.frames.size()));
  }
}

}  // namespace

std::string_view nameOf(Facing facing) {
  return facing == Facing::Front ? "front" : facing == Facing::Rear ? "rear" : "head";
}

std::optional<Facing> facingNamed(std::string_view name) {
  for (const Facing facing : {Facing::Front, Facing::Rear, Facing::Head})
    if (nameOf(facing) == name) return facing;
  return std::nullopt;
}

void addJoints(FrontTrace& front, const std::vector<Sighting>& sightings, const std::vector<double>& times_s) {
  for (BodySide side : kSides)
    for (const SeenMark& kind : kMarks)
      if (front.facing != Facing::Head || isOfArm(kind.landmark)) fill(front, sightings, times_s, side, kind);
}

BarTrace barAcross(const FrontTrace& front, const std::vector<double>& times_s, double rim_m) {
  BarTrace bar;
  bar.times_s = times_s;
  bar.plate.resize(times_s.size());
  bar.end.resize(times_s.size());
  bar.rim.radius_px = front.metre_px * rim_m / 2;
  bar.rim.sigma_rel = front.scale_sigma_rel;
  const auto middle = [&](std::size_t i, Landmark l) -> std::optional<TracedPoint> {
    const auto &a = front.frames[i].at(BodySide::Left, l), &b = front.frames[i].at(BodySide::Right, l);
    if (!a || !b) return std::nullopt;
    return TracedPoint{(a->place + b->place) * 0.5, a->sigma_px, a->origin};
  };
  std::vector<double> x, y;  // of the bar against the hands
  for (std::size_t i = 0; i < times_s.size(); ++i)
    if (const auto ends = middle(i, Landmark::Bar), hands = middle(i, Landmark::Wrist); ends && hands) {
      x.push_back(ends->place.x - hands->place.x);
      y.push_back(ends->place.y - hands->place.y);
    }
  const PixelPoint off = x.empty() ? PixelPoint{} : PixelPoint{median(x), median(y)};
  // Of one end that is lost the other tells.
  std::vector<double> half_x, half_y;
  for (const FrontPoints& f : front.frames)
    if (const auto& l = f.at(BodySide::Left, Landmark::Bar), &r = f.at(BodySide::Right, Landmark::Bar); l && r) {
      half_x.push_back((l->place.x - r->place.x) / 2);
      half_y.push_back((l->place.y - r->place.y) / 2);
    }
  const PixelPoint half = half_x.empty() ? PixelPoint{} : PixelPoint{median(half_x), median(half_y)};
  const auto barAt = [&](std::size_t i) -> std::optional<TracedPoint> {
    if (const auto both = middle(i, Landmark::Bar)) return both;
    constexpr double kTilts = 0.02;  // of half a bar
    for (const BodySide side : kSides)
      if (const auto& end = front.frames[i].at(side, Landmark::Bar); end && !half_x.empty())
        return TracedPoint{side == BodySide::Left ? end->place - half : end->place + half,
                           std::hypot(end->sigma_px, kTilts * length(half)), Origin::Fitted};
    return std::nullopt;
  };
  std::optional<std::size_t> first, last;
  for (std::size_t i = 0; i < times_s.size(); ++i)
    if ((bar.plate[i] = barAt(i))) {
      last = i;
      if (!first) first = i;
    }
  // Hands that have not taken the bar yet, or let go of it, tell nothing of it.
  constexpr double kSeen_share = 0.3;
  const bool followed = static_cast<double>(x.size()) > kSeen_share * static_cast<double>(times_s.size());
  for (std::size_t i = 0; i < times_s.size(); ++i) {
    if (bar.plate[i] || (followed && (i < *first || i > *last))) continue;
    bar.plate[i] = middle(i, Landmark::Wrist);
    if (bar.plate[i]) bar.plate[i]->place = bar.plate[i]->place + off;
  }
  bar.end = bar.plate;
  return bar;
}

Result<FrontTrace> traceFront(footage::FrameReader& reader, const std::vector<Sighting>& sightings, Facing facing,
                              double rim_m, const BodyModel& body, Task& task,
                              const std::vector<PlatesTogether>& together) {
  const auto& info = reader.info();
  const auto nothing = [&body] {
    return fail(ErrorCode::NoLiftFound,
                body.lying ? "Hands and shoulders are not seen moving together in this clip."
                           : "Hands, shoulders and feet are not seen moving together in this clip.",
                "Film from straight ahead, with the whole body and both ends of the bar in the picture.");
  };
  FrontTrace front;
  front.facing = facing;
  front.lies = body.lying;
  front.frames.resize(info.frames());
  front.focal_px = kFocalShare * std::max(info.width, info.height);
  if (facing == Facing::Head) front.metre_px = metreFromShoulders(sightings);
  if (front.metre_px <= 0) front.metre_px = front.lies ? metreFromArms(sightings) : metreFromBody(sightings);
  if (front.metre_px <= 0 && together.empty()) return nothing();
  std::vector<Apart> likely;
  if (body.lying) {
    auto found = farthestApartByPlates(reader, together, sightings, front.metre_px, task);
    if (!found) return fail(found.error());
    likely = std::move(*found);
  } else if (const auto apart = farthestApart(sightings, front.metre_px)) {
    likely.push_back(*apart);
  }
  std::optional<EndsFound> ends;
  for (const EdgeCare care : {EdgeCare::Edges, EdgeCare::PlatesTogether})
    for (const Apart& apart : likely) {
      if (front.scale_from_plate) break;
      const auto high = greyAt(reader, apart.high), low = greyAt(reader, apart.low);
      if (!high) return fail(high.error());
      if (!low) return fail(low.error());
      if (high->empty() || low->empty()) continue;
      FrontTrace now = front;
      now.metre_px = apart.metre_px;
      auto found = findEnds(reader, now, *high, *low, apart, rim_m, care, task);
      if (!found) return fail(found.error());
      // One whose plates are made out is worth more than one whose line moves.
      if (!*found || (ends && !now.scale_from_plate)) continue;
      front = std::move(now);
      ends = std::move(*found);
    }
  // Hands under a bar that is pressed are the worst seen of all: they would tell of pauses that were none.
  if (!ends && front.lies)
    return fail(
        ErrorCode::NoLiftFound, "The plates on both sides of the bar could not be followed in this clip.",
        "Film in line with the bench, from further off, with both plates and the ends of the bar in the picture.");
  addJoints(front, sightings, info.times_s);
  if (!ends) return front;
  if (auto followed = followEnds(reader, front, *ends, task); !followed) return fail(followed.error());
  if (front.lies) holdHands(front);
  return front;
}

}  // namespace jib::tracing
