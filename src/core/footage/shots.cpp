// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/shots.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/footage/picture_area.h"

namespace jib::footage {
namespace {

using Pictures = std::vector<cv::Mat>;

// Over 110 films without a cut the largest step between two pictures was 0.066, among others nearly as large; the
// smallest at a cut was 0.069, where the next largest was 0.002.
constexpr double kPlainCut = 0.3;   // of 1: no camera moves so fast from one picture to the next
constexpr double kSmallCut = 0.03;  // a closer look at the same room
constexpr double kOverOthers = 8;   // times the largest step nearby
constexpr double kNearby_s = 0.35;
constexpr double kGlitch_s = 0.5;    // what is over sooner is a flash, or a picture that was damaged
constexpr double kShownAgain = 0.1;  // unlikeness of the pictures before and after such a one
constexpr double kLeastShare_s = 2;  // more shots than one in so long are none
constexpr double kBlank = 3;         // grey levels of standard deviation: nothing to be seen
constexpr double kStill = 1.2;       // grey levels: a card, or a frame that stands
constexpr double kStill_s = 0.4, kLongestFade_s = 1.2;
constexpr double kFadeChanges = 0.35;  // unlikeness of what is before a fade and after it

double spread(const cv::Mat& picture) {
  cv::Scalar mean, sigma;
  cv::meanStdDev(picture, mean, sigma);
  return sigma[0];
}

// 0: the same view, even if it has moved a little; 1: nothing in common.
double unlikeness(const cv::Mat& a, const cv::Mat& b) {
  const auto [less, more] = std::minmax({spread(a), spread(b)});
  if (less < kBlank) return more < 2 * kBlank ? 0 : 1;
  constexpr int kAcross = 4, kDown = 3;  // so far it may have moved
  cv::Mat score;
  cv::matchTemplate(b, a(cv::Rect(kAcross, kDown, a.cols - 2 * kAcross, a.rows - 2 * kDown)), score,
                    cv::TM_CCOEFF_NORMED);
  double most = 0;
  cv::minMaxLoc(score, nullptr, &most);
  return 1 - most;
}

std::vector<double> stepsOf(const Pictures& small) {
  std::vector<double> steps;
  for (std::size_t i = 1; i < small.size(); ++i) steps.push_back(unlikeness(small[i - 1], small[i]));
  return steps;
}

double largestNear(const std::vector<double>& steps, const std::vector<double>& times_s, std::size_t at) {
  double largest = 0;
  for (std::size_t i = at; i-- > 0 && times_s[at] - times_s[i] <= kNearby_s;) largest = std::max(largest, steps[i]);
  for (std::size_t i = at + 1; i < steps.size() && times_s[i] - times_s[at] <= kNearby_s; ++i)
    largest = std::max(largest, steps[i]);
  return largest;
}

// First frames of what comes after a cut.
std::vector<std::size_t> hardCuts(const Pictures& small, const std::vector<double>& times_s) {
  const std::vector<double> steps = stepsOf(small);
  std::vector<std::size_t> cuts;
  for (std::size_t i = 0; i < steps.size(); ++i) {
    const bool stands_out = steps[i] > kSmallCut && steps[i] > kOverOthers * largestNear(steps, times_s, i);
    if (steps[i] > kPlainCut || stands_out) cuts.push_back(i + 1);
  }
  // What was there before comes back: a flash, a smeared picture.
  std::vector<std::size_t> kept;
  for (std::size_t k = 0; k < cuts.size(); ++k) {
    std::size_t back = k;
    for (std::size_t j = k + 1; j < cuts.size() && times_s[cuts[j]] - times_s[cuts[k]] <= kGlitch_s; ++j)
      if (unlikeness(small[cuts[k] - 1], small[cuts[j]]) < kShownAgain) back = j;
    if (back == k)
      kept.push_back(cuts[k]);
    else
      k = back;
  }
  return kept;
}

double largestDifference(const cv::Mat& a, const cv::Mat& b) {
  return cv::norm(a, b, cv::NORM_INF);
}

// How many frames from the first on stand quite still.
std::size_t stillFrom(const Pictures& small, std::size_t from, std::size_t to) {
  std::size_t n = 1;
  while (from + n < to && largestDifference(small[from], small[from + n]) < kStill) ++n;
  return n;
}

// The first frame of the film after a card that fades into it; 0 where none does. Frames [0, count).
std::size_t afterFade(const Pictures& small, const std::vector<double>& times_s) {
  if (small.size() < 3) return 0;
  const std::size_t still = stillFrom(small, 0, small.size());
  if (still == small.size() || times_s[still - 1] - times_s[0] < kStill_s) return 0;
  const double over_s = times_s[still] + kLongestFade_s;
  std::size_t end = still;
  while (end + 1 < small.size() && times_s[end] < over_s) ++end;
  if (unlikeness(small[0], small[end]) < kFadeChanges) return 0;
  // The fade is over where the picture is like what follows it: what is left of the card there is a shadow.
  std::size_t first = end;
  while (first > still && unlikeness(small[first - 1], small[end]) < kShownAgain) --first;
  return first;
}

Pictures backward(const Pictures& small) {
  return {small.rbegin(), small.rend()};
}

std::vector<double> backwardTimes(const std::vector<double>& times_s) {
  std::vector<double> times;
  for (std::size_t i = times_s.size(); i-- > 0;) times.push_back(times_s.back() - times_s[i]);
  return times;
}

}  // namespace

cv::Mat smallPicture(const cv::Mat& gray) {
  cv::Mat small, exact;
  cv::resize(gray, small, {kSmallWidth, kSmallHeight}, 0, 0, cv::INTER_AREA);
  small.convertTo(exact, CV_32F);
  return exact;
}

std::vector<Shot> shotsOf(const Pictures& small, const std::vector<double>& times_s) {
  if (small.size() != times_s.size() || small.size() < 3) return {};
  std::vector<std::size_t> cuts = hardCuts(small, times_s);
  if (const std::size_t first = afterFade(small, times_s); first > 0 && (cuts.empty() || cuts.front() > first))
    cuts.insert(cuts.begin(), first);
  if (const std::size_t first = afterFade(backward(small), backwardTimes(times_s)); first > 0)
    if (const std::size_t last = small.size() - first; cuts.empty() || cuts.back() < last) cuts.push_back(last);
  const double length_s = times_s.back() - times_s.front();
  if (cuts.empty()) return {};
  std::vector<Shot> shots;
  std::size_t from = 0;
  cuts.push_back(small.size());
  for (const std::size_t cut : cuts) {
    // What is over at once is a flash between two shots, or a phone that is picked up.
    if (times_s[cut - 1] - times_s[from] >= kGlitch_s) shots.push_back({times_s[from], times_s[cut - 1]});
    from = cut;
  }
  double kept_s = 0;
  for (const Shot& shot : shots) kept_s += shot.to_s - shot.from_s;
  const bool jumps = static_cast<double>(shots.size()) > std::max(3.0, length_s / kLeastShare_s);
  return jumps || kept_s < length_s / 2 ? std::vector<Shot>() : shots;
}

int mainShot(const std::vector<Shot>& shots, const Pictures& small, const std::vector<double>& times_s) {
  int best = Upright::kWholeFilm;
  double best_s = 0;
  for (std::size_t k = 0; k < shots.size(); ++k) {
    const auto frame = [&](double t_s) {
      return static_cast<std::size_t>(std::lower_bound(times_s.begin(), times_s.end(), t_s) - times_s.begin());
    };
    const std::size_t from = frame(shots[k].from_s), to = std::min(frame(shots[k].to_s) + 1, small.size());
    const bool moves = stillFrom(small, from, to) < to - from;
    const double length_s = (shots[k].to_s - shots[k].from_s) * (moves ? 1 : 1e-3);
    if (length_s <= best_s) continue;
    best = static_cast<int>(k);
    best_s = length_s;
  }
  return best;
}

Result<Upright> whatWasFilmed(FrameReader& reader, Task& task) {
  Pictures small;
  std::vector<double> times_s;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto frame = reader.next(Pixels::Gray);
    if (!frame) return fail(frame.error());
    if (!*frame) break;
    small.push_back(smallPicture((*frame)->picture));
    times_s.push_back((*frame)->t_s);
    task.report(static_cast<double>(small.size()) / static_cast<double>(reader.info().frames()));
  }
  Upright found;
  found.shots = shotsOf(small, times_s);
  found.shot = mainShot(found.shots, small, times_s);
  // Borders are looked for in what is shown: a card may fill the whole picture.
  std::optional<FrameReader> shown;
  if (!found.shots.empty()) {
    auto again = FrameReader::open(reader.info().file, found);
    if (!again) return fail(again.error());
    shown = std::move(*again);
  }
  const auto filmed = filmedArea(shown ? *shown : reader);
  if (!filmed) return fail(filmed.error());
  found.filmed = *filmed;
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  return found;
}

Result<FrameReader> openFilmed(const std::filesystem::path& clip, Task& task) {
  auto reader = FrameReader::open(clip);
  if (!reader || reader->info().upright != Upright{}) return reader;
  const auto filmed = whatWasFilmed(*reader, task);
  if (!filmed) return fail(filmed.error());
  if (*filmed == Upright{}) return reader;
  return FrameReader::open(clip, *filmed);
}

}  // namespace jib::footage
