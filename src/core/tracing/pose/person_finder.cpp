// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/person_finder.h"

#include <algorithm>
#include <array>
#include <opencv2/imgproc.hpp>

#include "core/tracing/pose/exposure.h"

namespace jib::tracing {
namespace {

constexpr int kSide = 224;
constexpr double kLeastScore = 0.5;
constexpr double kSamePerson = 0.3;  // overlap of two boxes, as share of what they cover together

struct Grid {
  int cells, anchors;
};
constexpr std::array<Grid, 3> kGrids{{{28, 2}, {14, 2}, {7, 6}}};
constexpr std::size_t kAnchors = 28 * 28 * 2 + 14 * 14 * 2 + 7 * 7 * 6;
constexpr std::size_t kNumbers = 12;  // centre, size, four points

// In shares of the letterboxed square.
struct Find {
  std::array<double, kNumbers> v;  // centre x, y; width, height; x, y of four points
  double score;
};

double overlap(const Find& a, const Find& b) {
  const auto shared = [](double ca, double sa, double cb, double sb) {
    return std::max(0.0, std::min(ca + sa / 2, cb + sb / 2) - std::max(ca - sa / 2, cb - sb / 2));
  };
  const double both = shared(a.v[0], a.v[2], b.v[0], b.v[2]) * shared(a.v[1], a.v[3], b.v[1], b.v[3]);
  const double all = a.v[2] * a.v[3] + b.v[2] * b.v[3] - both;
  return all > 0 ? both / all : 0;
}

std::vector<Find> decoded(std::span<const float> boxes, std::span<const float> scores) {
  std::vector<Find> finds;
  std::size_t k = 0;
  for (const Grid& grid : kGrids)
    for (int row = 0; row < grid.cells; ++row)
      for (int column = 0; column < grid.cells; ++column)
        for (int repeat = 0; repeat < grid.anchors; ++repeat, ++k) {
          const double score = 1 / (1 + std::exp(-static_cast<double>(scores[k])));
          if (!(score >= kLeastScore)) continue;
          Find f{{}, score};
          const double at[2] = {(column + 0.5) / grid.cells, (row + 0.5) / grid.cells};
          for (std::size_t i = 0; i < kNumbers; ++i)
            f.v[i] = boxes[k * kNumbers + i] / kSide + (i == 2 || i == 3 ? 0 : at[i % 2]);
          finds.push_back(f);
        }
  std::sort(finds.begin(), finds.end(), [](const Find& a, const Find& b) { return a.score > b.score; });
  return finds;
}

// One find a person: the mean of those that overlap with the best, weighted by score.
std::vector<Find> blended(std::vector<Find> finds) {
  std::vector<Find> people;
  while (!finds.empty()) {
    const Find best = finds.front();
    Find mean{{}, best.score};
    double weight = 0;
    std::vector<Find> rest;
    for (const Find& f : finds) {
      if (overlap(best, f) <= kSamePerson) {
        rest.push_back(f);
        continue;
      }
      for (std::size_t i = 0; i < kNumbers; ++i) mean.v[i] += f.score * f.v[i];
      weight += f.score;
    }
    if (rest.size() == finds.size()) rest.erase(rest.begin());  // a box without area overlaps not even itself
    if (weight > 0) {
      for (double& v : mean.v) v /= weight;
      people.push_back(mean);
    }
    finds = std::move(rest);
  }
  return people;
}

}  // namespace

Result<PersonFinder> PersonFinder::make(const NetworkFile& detector) {
  auto network = Network::make(detector, {"Identity", "Identity_1"});
  if (!network) return fail(network.error());
  if (network->input().size() != kSide * kSide * 3 || network->result(0).size() != kAnchors * kNumbers ||
      network->result(1).size() != kAnchors)
    return fail(ErrorCode::BadData, "This network does not find people.", "Place the points by hand.");
  return PersonFinder(std::move(*network));
}

Result<std::vector<Person>> PersonFinder::findIn(const cv::Mat& picture) {
  const int longer = std::max(picture.cols, picture.rows);
  const double scale = static_cast<double>(kSide) / longer;
  cv::Mat small;
  const cv::Size size(std::max(1, static_cast<int>(std::lround(picture.cols * scale))),
                      std::max(1, static_cast<int>(std::lround(picture.rows * scale))));
  cv::resize(picture, small, size, 0, 0, scale < 1 ? cv::INTER_AREA : cv::INTER_LINEAR);
  const int left = (kSide - size.width) / 2, top = (kSide - size.height) / 2;
  const auto in = network_.input();
  std::fill(in.begin(), in.end(), -1.0f);
  const auto per_level = static_cast<float>(brightening(small) / 127.5);
  for (int y = 0; y < size.height; ++y) {
    const auto* row = small.ptr<cv::Vec3b>(y);
    float* out = in.data() + (static_cast<std::size_t>(top + y) * kSide + static_cast<std::size_t>(left)) * 3;
    for (int x = 0; x < size.width; ++x)
      for (int c = 0; c < 3; ++c) *out++ = std::min(1.0f, per_level * static_cast<float>(row[x][2 - c]) - 1.0f);
  }
  if (auto ran = network_.run(); !ran) return fail(ran.error());
  std::vector<Person> people;
  const auto pixel = [&](double sx, double sy) {
    return PixelPoint{(sx * kSide - left) / scale, (sy * kSide - top) / scale};
  };
  for (const Find& f : blended(decoded(network_.result(0), network_.result(1)))) {
    const PoseRegion region = PoseRegion::around(pixel(f.v[4], f.v[5]), pixel(f.v[6], f.v[7]));
    if (std::isfinite(region.size_px) && region.size_px >= 8)
      people.push_back({region, f.score, pixel(f.v[0], f.v[1]), std::max(f.v[2], f.v[3]) * kSide / scale});
  }
  return people;
}

Result<bool> PersonFinder::addFromTiles(const cv::Mat& picture, std::vector<Person>& people) {
  // Squares of two thirds of the shorter side, overlapping by half, find who is small.
  const int side = std::max(16, std::min(picture.cols, picture.rows) * 2 / 3);
  for (int y = 0; y + side / 2 < picture.rows; y += side / 2)
    for (int x = 0; x + side / 2 < picture.cols; x += side / 2) {
      const cv::Rect tile = cv::Rect(x, y, side, side) & cv::Rect(0, 0, picture.cols, picture.rows);
      auto more = findIn(picture(tile));
      if (!more) return fail(more.error());
      for (Person& p : *more) {
        const PixelPoint corner{static_cast<double>(tile.x), static_cast<double>(tile.y)};
        p.region.centre = p.region.centre + corner;
        p.face = p.face + corner;
        const bool again = std::any_of(people.begin(), people.end(), [&](const Person& q) {
          return length(q.region.centre - p.region.centre) < 0.25 * q.region.size_px;
        });
        if (!again) people.push_back(p);
      }
    }
  std::sort(people.begin(), people.end(), [](const Person& a, const Person& b) { return a.score > b.score; });
  return true;
}

Result<std::vector<Person>> PersonFinder::find(const cv::Mat& picture) {
  JIB_ASSERT(picture.type() == CV_8UC3 && !picture.empty());
  auto people = findIn(picture);
  if (!people || !people->empty()) return people;
  if (auto tiled = addFromTiles(picture, *people); !tiled) return fail(tiled.error());
  return people;
}

Result<std::vector<Person>> PersonFinder::findAll(const cv::Mat& picture) {
  JIB_ASSERT(picture.type() == CV_8UC3 && !picture.empty());
  auto people = findIn(picture);
  if (!people) return people;
  if (auto tiled = addFromTiles(picture, *people); !tiled) return fail(tiled.error());
  return people;
}

}  // namespace jib::tracing
