// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/front/apart.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/median.h"

namespace jib::tracing {
namespace {

constexpr double kSeen = 0.5;
// By how much a metre may look larger or smaller than what it is told from says.
constexpr double kByArms = 0.32, kByPlatesApart = 0.2;

// A bar that is held, as one look has it.
struct Held {
  std::size_t frame;
  PixelPoint hands;  // as in Apart
  double sure, metre_px;
  double weight = 1;  // against others that are found again as often
};

constexpr std::size_t kTries = 4;

// Looks that show both arms up under a bar, the surest first. Many a look mistakes the arms, so one is only where to
// begin, and the bar is taken for level: two wrists are off by more than it is.
std::vector<Held> armsUp(const std::vector<Sighting>& sightings, double metre_px) {
  constexpr double kLevel_m = 0.14, kUp_m = 0.40, kSure = 0.7;  // of an arm of 0.57
  constexpr double kBarOverWrist_m = 0.06;
  std::vector<Held> held;
  for (const Sighting& s : sightings) {
    double sure = 0;
    bool up = true;
    for (const BodySide side : kSides) {
      const PixelPoint wrist = s.reading.place(PoseMark::Wrist, side),
                       shoulder = s.reading.place(PoseMark::Shoulder, side);
      sure += std::min(s.reading.sure(PoseMark::Wrist, side), s.reading.sure(PoseMark::Shoulder, side));
      up = up && shoulder.y - wrist.y > kUp_m * metre_px;
    }
    const PixelPoint a = s.reading.place(PoseMark::Wrist, BodySide::Right),
                     b = s.reading.place(PoseMark::Wrist, BodySide::Left);
    if (!up || std::abs(b.y - a.y) > kLevel_m * metre_px || sure < kSure) continue;
    held.push_back({s.frame, (a + b) * 0.5 - PixelPoint{0, kBarOverWrist_m * metre_px}, sure, metre_px});
  }
  std::sort(held.begin(), held.end(), [](const Held& a, const Held& b) { return a.sure > b.sure; });
  if (held.size() > kTries) held.resize(kTries);
  return held;
}

// Where no look has the arms up: the shoulders of one who lies stay where they are, and are seen in every look. Bars at
// heights that arms reach, a few times in the clip.
std::vector<Held> overTheShoulders(const std::vector<Sighting>& sightings, double metre_px) {
  constexpr double kHeights_m[]{0.50, 0.58, 0.66};
  constexpr std::size_t kTimes = 5;
  std::vector<double> x, y;
  for (const Sighting& s : sightings)
    if (const auto shoulders = middleOf(s, PoseMark::Shoulder)) {
      x.push_back(shoulders->x);
      y.push_back(shoulders->y);
    }
  std::vector<Held> held;
  if (x.empty()) return held;
  const PixelPoint shoulders{median(x), median(y)};
  for (std::size_t k = 0; k < kTimes; ++k)
    for (const double height : kHeights_m)
      held.push_back({sightings[(2 * k + 1) * sightings.size() / (2 * kTimes)].frame,
                      shoulders - PixelPoint{0, height * metre_px}, 0, metre_px});
  return held;
}

// Pictures in which the plates are looked for: five a second of the whole clip, and those of the looks.
struct Small {
  double shrunk;  // of the displayed picture
  struct Picture {
    std::size_t frame;
    cv::Mat grey;
  };
  std::vector<Picture> pictures;
};

Result<Small> smallPictures(footage::FrameReader& reader, const std::vector<Held>& held, double metre_px, Task& task) {
  constexpr double kEvery_s = 0.2, kMetre_px = 100;
  Small out{std::min(1.0, kMetre_px / metre_px), {}};
  double next_s = -1;
  const auto& times = reader.info().times_s;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  for (std::size_t i = 0; i < times.size(); ++i) {
    const bool asked = std::any_of(held.begin(), held.end(), [i](const Held& h) { return h.frame == i; });
    if (times[i] < next_s && !asked) continue;
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Gray, i);
    if (!next) return fail(next.error());
    if (!*next) break;
    Small::Picture small{i, {}};
    cv::resize((*next)->picture, small.grey, {}, out.shrunk, out.shrunk, cv::INTER_AREA);
    out.pictures.push_back(std::move(small));
    if (times[i] >= next_s) next_s = times[i] + kEvery_s;
  }
  return out;
}

// How far both ends of a bar went since one picture of it, told by what it carries there.
struct Moved {
  std::size_t frame;
  std::array<PixelPoint, 2> by;  // the picture's left, right; in displayed pixels
  PixelPoint middle() const { return (by[0] + by[1]) * 0.5; }
};

bool higher(const Moved& a, const Moved& b) {
  return a.middle().y < b.middle().y;
}

// Of the pictures in which both ends are found again; none where the plates would lie outside the picture.
std::vector<Moved> movedSince(const Held& held, const Small& small, double agree_m) {
  constexpr double kFrom_m = 0.60, kTo_m = 1.05, kHalfTall_m = 0.26, kAside_m = 0.06, kUp_m = 0.2, kDown_m = 0.7,
                   kAlike = 0.55;
  const auto at = std::find_if(small.pictures.begin(), small.pictures.end(),
                               [&](const Small::Picture& p) { return p.frame == held.frame; });
  if (at == small.pictures.end()) return {};
  const double metre_px = held.metre_px, m = small.shrunk * metre_px;
  const cv::Rect whole(0, 0, at->grey.cols, at->grey.rows);
  std::array<cv::Rect, 2> plates;
  for (std::size_t k = 0; k < 2; ++k) {
    const double way = k == 0 ? -1 : 1;
    const PixelPoint middle = held.hands * small.shrunk + PixelPoint{way * (kFrom_m + kTo_m) / 2 * m, 0};
    plates[k] = cv::Rect(cvRound(middle.x - (kTo_m - kFrom_m) / 2 * m), cvRound(middle.y - kHalfTall_m * m),
                         cvRound((kTo_m - kFrom_m) * m), cvRound(2 * kHalfTall_m * m)) &
                whole;
    if (plates[k].width < 8 || plates[k].height < 8) return {};
  }
  std::vector<Moved> moved;
  for (const Small::Picture& now : small.pictures) {
    Moved found{now.frame, {}};
    bool both = true;
    for (std::size_t k = 0; k < 2 && both; ++k) {
      const cv::Rect around =
          cv::Rect(plates[k].x - cvRound(kAside_m * m), plates[k].y - cvRound(kUp_m * m),
                   plates[k].width + cvRound(2 * kAside_m * m), plates[k].height + cvRound((kUp_m + kDown_m) * m)) &
          whole;
      cv::Mat score;
      cv::matchTemplate(now.grey(around), at->grey(plates[k]), score, cv::TM_CCOEFF_NORMED);
      double alike = 0;
      cv::Point by;
      cv::minMaxLoc(score, nullptr, &alike, nullptr, &by);
      by += around.tl() - plates[k].tl();
      both = alike >= kAlike;
      found.by[k] = PixelPoint{static_cast<double>(by.x), static_cast<double>(by.y)} * (1 / small.shrunk);
    }
    if (both && std::abs(found.by[0].y - found.by[1].y) <= agree_m * metre_px) moved.push_back(found);
  }
  return moved;
}

// Where it was highest and lowest; one picture in forty may be mistaken either way. Puts `moved` in order of height.
std::pair<const Moved*, const Moved*> ends(std::vector<Moved>& moved) {
  std::sort(moved.begin(), moved.end(), higher);
  const std::size_t few = moved.size() / 40;
  return {&moved[few], &moved[moved.size() - 1 - few]};
}

// The bar where it is highest, in a picture near the look that was begun with; nullopt where it hardly moves.
struct Highest {
  Held held;
  double sure;  // the more pictures show it, and the further it goes
};
std::optional<Highest> highestNear(const Held& begun, const Small& pictures) {
  constexpr double kAgree_m = 0.16, kLeast_m = 0.12, kAtTop_m = 0.04;
  auto moved = movedSince(begun, pictures, kAgree_m);
  if (moved.empty()) return std::nullopt;
  const double metre_px = begun.metre_px;
  const auto [top, bottom] = ends(moved);
  if (bottom->middle().y - top->middle().y < kLeast_m * metre_px) return std::nullopt;
  const Moved* nearest = nullptr;
  const auto away = [&](const Moved& m) { return std::max(m.frame, begun.frame) - std::min(m.frame, begun.frame); };
  for (const Moved& m : moved)
    if (m.middle().y - top->middle().y < kAtTop_m * metre_px && (!nearest || away(m) < away(*nearest))) nearest = &m;
  return Highest{{nearest->frame, begun.hands + nearest->middle(), begun.sure, metre_px, begun.weight},
                 begun.weight * static_cast<double>(moved.size()) * (bottom->middle().y - top->middle().y)};
}

}  // namespace

std::optional<PixelPoint> middleOf(const Sighting& s, PoseMark mark) {
  if (s.reading.sure(mark, BodySide::Left) < kSeen || s.reading.sure(mark, BodySide::Right) < kSeen)
    return std::nullopt;
  return (s.reading.place(mark, BodySide::Left) + s.reading.place(mark, BodySide::Right)) * 0.5;
}

std::optional<Apart> farthestApart(const std::vector<Sighting>& sightings, double metre_px) {
  struct Look {
    const Sighting* s;
    PixelPoint hands;
  };
  std::vector<Look> looks;
  for (const Sighting& s : sightings)
    if (const auto hands = middleOf(s, PoseMark::Wrist)) looks.push_back({&s, *hands});
  if (looks.size() < 8) return std::nullopt;
  std::sort(looks.begin(), looks.end(), [](const Look& a, const Look& b) { return a.hands.y < b.hands.y; });
  const Look &high = looks[looks.size() / 12], &low = looks[looks.size() - 1 - looks.size() / 12];
  constexpr double kLeast_m = 0.2;
  if (low.hands.y - high.hands.y < kLeast_m * metre_px) return std::nullopt;
  PixelPoint a = high.s->reading.place(PoseMark::Wrist, BodySide::Right),
             b = high.s->reading.place(PoseMark::Wrist, BodySide::Left);
  if (a.x > b.x) std::swap(a, b);
  const double apart = length(b - a);
  if (apart < 0.2 * metre_px) return std::nullopt;
  return Apart{high.s->frame,          low.s->frame, high.hands, (b - a) * (1 / apart),
               low.hands - high.hands, metre_px,     kByArms};
}

Result<std::vector<Apart>> farthestApartByPlates(footage::FrameReader& reader,
                                                 const std::vector<PlatesTogether>& together,
                                                 const std::vector<Sighting>& sightings, double metre_px, Task& task) {
  constexpr double kAgree_m = 0.08, kLeast_m = 0.12;
  std::vector<Held> held;
  for (const PlatesTogether& plates : together)
    held.push_back({plates.high, plates.middle(), 0, plates.metre_px, plates.sure});
  if (held.empty() && metre_px > 0) {
    held = armsUp(sightings, metre_px);
    for (const Held& more : overTheShoulders(sightings, metre_px)) held.push_back(more);
  }
  if (held.empty()) return std::vector<Apart>();
  const auto pictures = smallPictures(reader, held, held.front().metre_px, task);
  if (!pictures) return fail(pictures.error());
  std::vector<Highest> highest;
  for (const Held& one : held) {
    if (task.cancelled()) return cancelled();
    if (const auto high = highestNear(one, *pictures)) highest.push_back(*high);
  }
  std::sort(highest.begin(), highest.end(), [](const Highest& a, const Highest& b) { return a.sure > b.sure; });
  if (highest.size() > kTries) highest.resize(kTries);
  // What was taken for the bar by mistake does not come down alike on both sides, seen from where it seemed highest.
  struct Likely {
    double sure;
    Apart apart;
  };
  std::vector<Likely> likely;
  for (const auto& [high, sure] : highest) {
    auto moved = movedSince(high, *pictures, kAgree_m);
    if (moved.empty()) continue;
    const Moved* lowest = ends(moved).second;
    if (lowest->middle().y < kLeast_m * high.metre_px) continue;
    likely.push_back({high.weight * static_cast<double>(moved.size()) * lowest->middle().y,
                      {high.frame,
                       lowest->frame,
                       high.hands,
                       {1, 0},
                       lowest->middle(),
                       high.metre_px,
                       together.empty() ? kByArms : kByPlatesApart,
                       !together.empty()}});
  }
  std::stable_sort(likely.begin(), likely.end(), [](const Likely& a, const Likely& b) { return a.sure > b.sure; });
  std::vector<Apart> out;
  for (const PlatesTogether& plates : together) {
    const PixelPoint along = plates.hub[1] - plates.hub[0];
    out.push_back({plates.high, plates.low, plates.middle(), along * (1 / length(along)), plates.went, plates.metre_px,
                   kByPlatesApart, true});
  }
  for (const Likely& one : likely) out.push_back(one.apart);
  return out;
}

}  // namespace jib::tracing
