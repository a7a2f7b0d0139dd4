// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/picture_area.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace jib::footage {
namespace {

using Frames = std::vector<cv::Mat>;

constexpr double kLeastLeft = 0.22;    // of width and height: less is no film of a lift
constexpr double kThinnest = 0.012;    // a border is at least so wide, as a share of the picture
constexpr double kStep = 6;            // grey levels between border and picture, where they can be told apart
constexpr double kLevel = 4;           // grey levels: as much as the coding adds to one colour
constexpr double kPlain = 0.97;        // of a border without writing has one colour
constexpr double kWithWriting = 0.72;  // of one with writing, which is black or white
constexpr double kBlack = 32, kWhite = 226;
constexpr double kMostChanges = 0.02;  // of it from frame to frame
constexpr double kEdgeShown = 0.6;     // of the edge's length shows it
constexpr double kStillBorder = 0.25;  // of the border's last columns shows something else
constexpr double kCopyAgrees = 0.88;   // correlation of a blurred border with what it has to hold, writing left out
constexpr double kSharpEdge = 0.7;     // of the edges' length: then it may have more writing on it, and agree less
constexpr double kWrittenAgrees = 0.62;
constexpr double kCopyAtLeast = 0.2;  // with the writing
constexpr double kWriting = 0.3;      // of a border may be written on
constexpr double kCopyEdgeShown = 0.35;

// Two columns between which the picture lies: [left, right).
struct Span {
  int left = 0, right = 0;
};

// What one colour a strip has: its level, and how much of the strip has it.
struct Plain {
  double level = 0, share = 0;
};

Plain plainOf(const Frames& frames, int from, int to) {
  std::array<double, 256> count{};
  double all = 0;
  for (const cv::Mat& frame : frames)
    for (int y = 0; y < frame.rows; y += 2) {
      const uchar* row = frame.ptr<uchar>(y);
      for (int x = from; x < to; ++x, ++all) ++count[row[x]];
    }
  const int mode = static_cast<int>(std::max_element(count.begin(), count.end()) - count.begin());
  double near = 0;
  for (int level = 0; level < 256; ++level)
    if (std::abs(level - mode) <= kLevel) near += count[static_cast<std::size_t>(level)];
  return {static_cast<double>(mode), all > 0 ? near / all : 0};
}

// How much of its length a column differs from a level, in the frame that shows it best.
double differs(const Frames& frames, int x, double level) {
  double best = 0;
  for (const cv::Mat& frame : frames) {
    int rows = 0;
    for (int y = 0; y < frame.rows; ++y) rows += std::abs(frame.at<uchar>(y, x) - level) > kStep ? 1 : 0;
    best = std::max(best, static_cast<double>(rows) / frame.rows);
  }
  return best;
}

// The share of a strip's pixels that change from frame to frame: a clock does, an athlete on a dark floor much more.
double changing(const Frames& frames, int from, int to) {
  constexpr int kChange = 12;
  int changes = 0, all = 0;
  for (int y = 0; y < frames.front().rows; y += 2)
    for (int x = from; x < to; ++x, ++all) {
      int least = 255, most = 0;
      for (const cv::Mat& frame : frames) {
        least = std::min<int>(least, frame.at<uchar>(y, x));
        most = std::max<int>(most, frame.at<uchar>(y, x));
      }
      changes += most - least > kChange ? 1 : 0;
    }
  return all > 0 ? static_cast<double>(changes) / all : 0;
}

// The innermost column up to which everything from the left is one colour, writing aside; 0 where there is none.
int plainUpTo(const Frames& frames, int most) {
  const Plain edge = plainOf(frames, 0, 2);
  if (edge.share < kWithWriting) return 0;
  const bool screen = edge.level <= kBlack || edge.level >= kWhite;
  int up_to = 0;
  for (int x = 3; x < most; ++x) {
    if (up_to > 0 && x - up_to <= 3) continue;  // the same edge
    // The first column of the picture. Coding smears it by one or two, so the next one shows it too, and the third one
    // before it does not.
    if (differs(frames, x, edge.level) < kEdgeShown || differs(frames, x - 3, edge.level) > kStillBorder) continue;
    if (x + 2 < frames.front().cols && differs(frames, x + 2, edge.level) < kEdgeShown) continue;
    const Plain outside = plainOf(frames, 0, x);
    if (std::abs(outside.level - edge.level) <= kLevel && outside.share >= (screen ? kWithWriting : kPlain)) up_to = x;
    if (outside.share < kWithWriting) break;
  }
  return up_to;
}

Frames mirrored(const Frames& frames) {
  Frames all;
  for (const cv::Mat& frame : frames) {
    all.emplace_back();
    cv::flip(frame, all.back(), 1);
  }
  return all;
}

std::optional<Span> plainBorders(const Frames& frames) {
  const int width = frames.front().cols, most = static_cast<int>(width * (1 - kLeastLeft));
  const int left = plainUpTo(frames, most);
  if (left < kThinnest * width) return {};
  const Frames other_way = mirrored(frames);
  const int right = plainUpTo(other_way, most);
  if (right < kThinnest * width || width - left - right < kLeastLeft * width) return {};
  const double one = plainOf(frames, 0, left).level, other = plainOf(other_way, 0, right).level;
  const bool alike = std::abs(one - other) <= kStep || (one <= kBlack && other <= kBlack);
  if (!alike || changing(frames, 0, left) > kMostChanges || changing(other_way, 0, right) > kMostChanges) return {};
  return Span{left, width - right};
}

// How much of its length a line between two columns is an edge, over all frames.
std::vector<double> edgeShare(const Frames& frames) {
  const cv::Mat& first = frames.front();
  std::vector<double> share(static_cast<std::size_t>(first.cols), 0);
  for (int x = 2; x + 2 < first.cols; ++x) {
    int edge = 0, all = 0;
    for (const cv::Mat& frame : frames)
      for (int y = 0; y < frame.rows; y += 2, ++all) {
        const uchar* row = frame.ptr<uchar>(y);
        edge += std::abs(row[x] + row[x + 1] - row[x - 1] - row[x - 2]) > 2 * kStep ? 1 : 0;
      }
    share[static_cast<std::size_t>(x)] = all > 0 ? static_cast<double>(edge) / all : 0;
  }
  return share;
}

cv::Mat blurredSmall(const cv::Mat& picture, cv::Size size) {
  cv::Mat small, blurred;
  cv::resize(picture, small, size, 0, 0, cv::INTER_AREA);
  cv::GaussianBlur(small, blurred, {}, size.width / 40.0);
  blurred.convertTo(blurred, CV_32F);
  return blurred;
}

double correlation(const std::vector<float>& a, const std::vector<float>& b) {
  cv::Mat score;
  cv::matchTemplate(cv::Mat(a), cv::Mat(b), score, cv::TM_CCOEFF_NORMED);
  return score.at<float>(0, 0);
}

// Drops the share of places at which two pictures differ most, once brightness and contrast are made alike.
void leaveOutWriting(std::vector<float>& a, std::vector<float>& b) {
  cv::Scalar mean_a, mean_b, sigma_a, sigma_b;
  cv::meanStdDev(cv::Mat(a), mean_a, sigma_a);
  cv::meanStdDev(cv::Mat(b), mean_b, sigma_b);
  const double scale = sigma_a[0] / std::max(sigma_b[0], 1e-3);
  std::vector<std::pair<double, std::size_t>> off;
  for (std::size_t i = 0; i < a.size(); ++i)
    off.emplace_back(std::abs(a[i] - mean_a[0] - scale * (b[i] - mean_b[0])), i);
  std::sort(off.begin(), off.end());
  off.resize(static_cast<std::size_t>((1 - kWriting) * static_cast<double>(off.size())));
  std::vector<float> kept_a, kept_b;
  for (const auto& [_, i] : off) kept_a.push_back(a[i]), kept_b.push_back(b[i]);
  a = std::move(kept_a);
  b = std::move(kept_b);
}

// How well what lies outside of `span` is the picture between it, enlarged until it covers all and blurred.
double agreement(const Frames& frames, const Span& span) {
  double sum = 0;
  for (const cv::Mat& frame : frames) {
    const cv::Mat inside = frame.colRange(span.left, span.right);
    const double scale = static_cast<double>(frame.cols) / inside.cols;
    const int tall = static_cast<int>(frame.rows / scale);
    const cv::Mat middle = inside.rowRange((inside.rows - tall) / 2, (inside.rows - tall) / 2 + tall);
    const cv::Size small(160, std::max(8, 160 * frame.rows / frame.cols));
    const cv::Mat seen = blurredSmall(frame, small), copy = blurredSmall(middle, small);
    // The blur of the whole frame smears the picture into the border: that much is left out.
    const double to_small = 160.0 / frame.cols;
    const int left = static_cast<int>(span.left * to_small * 0.75);
    const int right = 160 - static_cast<int>((frame.cols - span.right) * to_small * 0.75);
    std::vector<float> a, b;
    for (int y = 0; y < small.height; ++y)
      for (int x = 0; x < 160; ++x)
        if (x < left || x >= right) a.push_back(seen.at<float>(y, x)), b.push_back(copy.at<float>(y, x));
    if (a.size() < 40) return 0;
    if (correlation(a, b) < kCopyAtLeast) return 0;
    leaveOutWriting(a, b);
    sum += correlation(a, b);
  }
  return sum / static_cast<double>(frames.size());
}

// Mean grey step from one pixel to the next along a row: much in a picture, little in a blur.
double detail(const Frames& frames, int from, int to) {
  double sum = 0, all = 0;
  for (const cv::Mat& frame : frames)
    for (int y = 0; y < frame.rows; y += 3) {
      const uchar* row = frame.ptr<uchar>(y);
      for (int x = from + 1; x < to; ++x, ++all) sum += std::abs(row[x] - row[x - 1]);
    }
  return all > 0 ? sum / all : 0;
}

std::optional<Span> blurredBorders(const Frames& frames) {
  const int width = frames.front().cols;
  const std::vector<double> edges = edgeShare(frames);
  const auto edgeAt = [&](int x) {
    double most = 0;
    for (int near = std::max(0, x - 1); near <= std::min(width - 1, x + 1); ++near)
      most = std::max(most, edges[static_cast<std::size_t>(near)]);
    return most;
  };
  std::optional<Span> best;
  double best_edge = kCopyEdgeShown;
  constexpr double kBlurred = 0.5;
  for (int left = static_cast<int>(std::ceil(3 * kThinnest * width)); left < width * (1 - kLeastLeft) / 2; ++left) {
    const double edge = std::min(edgeAt(left), edgeAt(width - left));
    if (edge <= best_edge) continue;
    const Span span{left, width - left};
    const double outside = std::max(detail(frames, 0, left - 2), detail(frames, width - left + 2, width));
    if (outside > kBlurred * detail(frames, span.left, span.right)) continue;
    if (agreement(frames, span) < (edge >= kSharpEdge ? kWrittenAgrees : kCopyAgrees)) continue;
    best = span;
    best_edge = edge;
  }
  return best;
}

std::optional<Span> bordersAcross(const Frames& frames) {
  if (auto plain = plainBorders(frames)) return plain;
  return blurredBorders(frames);
}

Frames turnedOnSide(const Frames& frames) {
  Frames all;
  for (const cv::Mat& frame : frames) {
    all.emplace_back();
    cv::transpose(frame, all.back());
  }
  return all;
}

Frames cutTo(const Frames& frames, const cv::Rect& area) {
  Frames all;
  for (const cv::Mat& frame : frames) all.push_back(frame(area));
  return all;
}

}  // namespace

PictureArea filmedArea(const Frames& frames) {
  if (frames.empty() || std::min(frames.front().cols, frames.front().rows) < 64) return {};
  const cv::Size size = frames.front().size();
  cv::Rect area({0, 0}, size);
  // Controls stand round bars, and bars round a picture: what is left is looked at again.
  for (int round = 0; round < 3; ++round) {
    const cv::Rect before = area;
    if (const auto columns = bordersAcross(cutTo(frames, area)))
      area = {area.x + columns->left, area.y, columns->right - columns->left, area.height};
    if (const auto rows = bordersAcross(turnedOnSide(cutTo(frames, area))))
      area = {area.x, area.y + rows->left, area.width, rows->right - rows->left};
    if (area == before) break;
  }
  if (area.size() == size) return {};
  if (area.width < kLeastLeft * size.width || area.height < kLeastLeft * size.height) return {};
  return {area.x, area.y, area.width, area.height};
}

Result<PictureArea> filmedArea(FrameReader& reader) {
  constexpr std::size_t kLooks = 8, kFewest = 4, kApart = 15;
  const std::size_t count = reader.info().frames();
  Frames frames;
  std::vector<std::size_t> seen;
  const auto take = [&](std::size_t from, bool exactly) -> Result<bool> {
    if (auto set = reader.seekBefore(from); !set) return set;
    auto frame = reader.next(Pixels::Gray, exactly ? from : 0);
    if (!frame) return fail(frame.error());
    if (!*frame || std::find(seen.begin(), seen.end(), (*frame)->index) != seen.end()) return true;
    seen.push_back((*frame)->index);
    frames.push_back((*frame)->picture.clone());
    return true;
  };
  for (std::size_t k = 0; k < kLooks && count > 0; ++k)
    if (auto taken = take(k * (count - 1) / kLooks, false); !taken) return fail(taken.error());
  // A film with one key frame: some of what follows it.
  for (std::size_t at = kApart; frames.size() < kFewest && at < count && at < kLooks * kApart; at += kApart)
    if (auto taken = take(at, true); !taken) return fail(taken.error());
  if (auto set = reader.seekBefore(0); !set) return fail(set.error());
  return filmedArea(frames);
}

}  // namespace jib::footage
