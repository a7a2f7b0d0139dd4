// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/renderer.h"

#include <algorithm>
#include <opencv2/core.hpp>
#include <opencv2/core/utility.hpp>
#include <opencv2/imgproc.hpp>

#include "core/base/angle.h"
#include "core/simulate/figure.h"

namespace jib::simulate {
namespace {

constexpr int kTile_px = 8;
constexpr float kCell_m = 0.045f;
constexpr int kCells = 60;  // the shaded square of floor is kCells * kCell_m wide
constexpr float kFar_m = 1e6f;

PixelPoint jitterOf(int sample, int samples) {
  if (samples == 1) return {0.5, 0.5};
  // Each sample has its own column and its own row, so that both means are the pixel's centre.
  const int stride = samples % 3 == 0 ? 2 : 3;
  const int row = samples < 4 ? sample : (sample * stride + samples / 2) % samples;
  return {(sample + 0.5) / samples, (row + 0.5) / samples};
}

Paint colourOf(const Colour& c) {
  return {static_cast<float>(c[0]) / 255, static_cast<float>(c[1]) / 255, static_cast<float>(c[2]) / 255};
}

}  // namespace

struct Renderer::FloorShade {
  cv::Mat_<float> dark = cv::Mat_<float>::zeros(kCells, kCells);
  float at(float x, float y) const {
    const float cx = x / kCell_m + kCells / 2.0f, cy = y / kCell_m + kCells / 2.0f;
    const int ix = static_cast<int>(std::floor(cx)), iy = static_cast<int>(std::floor(cy));
    if (ix < 0 || iy < 0 || ix + 1 >= kCells || iy + 1 >= kCells) return 0;
    const float tx = cx - static_cast<float>(ix), ty = cy - static_cast<float>(iy);
    return (dark(iy, ix) * (1 - tx) + dark(iy, ix + 1) * tx) * (1 - ty) +
           (dark(iy + 1, ix) * (1 - tx) + dark(iy + 1, ix + 1) * tx) * ty;
  }
};

Renderer::Renderer(const ClipSpec& spec, const LiftScript& script)
    : spec_(spec), script_(script), room_(spec), camera_(spec) {
  if (!camera_.still()) return;
  for (int s = 0; s < spec.samples; ++s) still_.push_back(backgroundFor(camera_.at(0), jitterOf(s, spec.samples)));
}

Renderer::Background Renderer::backgroundFor(const Pinhole& camera, PixelPoint jitter) const {
  const int w = spec_.camera.width, h = spec_.camera.height;
  Background b{cv::Mat_<cv::Vec3f>(h, w), cv::Mat_<float>(h, w), cv::Mat_<float>(h, w), cv::Mat_<float>(h, w)};
  const Vec3f from = toFloat(camera.place);
  cv::parallel_for_({0, h}, [&](const cv::Range& rows) {
    for (int y = rows.start; y < rows.end; ++y)
      for (int x = 0; x < w; ++x) {
        const Room::Hit hit = room_.look(from, toFloat(camera.ray({x + jitter.x, y + jitter.y})));
        b.colour(y, x) = {hit.colour.b, hit.colour.g, hit.colour.r};
        b.distance(y, x) = hit.distance;
        b.floor_x(y, x) = hit.floor ? hit.place.x : kFar_m;
        b.floor_y(y, x) = hit.floor ? hit.place.y : kFar_m;
      }
  });
  return b;
}

Renderer::FloorShade Renderer::floorShade(const std::vector<Solid>& solids) const {
  FloorShade shade;
  std::vector<int> all(solids.size());
  for (std::size_t i = 0; i < all.size(); ++i) all[i] = static_cast<int>(i);
  cv::parallel_for_({0, kCells}, [&](const cv::Range& rows) {
    for (int j = rows.start; j < rows.end; ++j)
      for (int i = 0; i < kCells; ++i) {
        const Vec3f p{(static_cast<float>(i) - kCells / 2.0f) * kCell_m,
                      (static_cast<float>(j) - kCells / 2.0f) * kCell_m, 0};
        float dark = 0;
        for (float up : {0.02f, 0.06f, 0.14f, 0.30f, 0.55f}) {
          const float d = nearest(solids, all, p + Vec3f{0.12f * up, 0.1f * up, up}).distance;
          dark += std::clamp((0.9f * up - d) / up, 0.0f, 1.0f) * 0.16f;
        }
        shade.dark(j, i) = std::min(dark, 0.75f);
      }
  });
  return shade;
}

Paint Renderer::shade(const std::vector<Solid>& solids, const std::vector<int>& among, int which, Vec3f p,
                      Vec3f ray) const {
  const Solid& solid = solids[static_cast<std::size_t>(which)];
  const float e = 0.0015f;
  const auto field = [&](Vec3f q) { return nearest(solids, among, q).distance; };
  // The gradient from the four corners of a tetrahedron.
  Vec3f n;
  for (const Vec3f k : {Vec3f{e, -e, -e}, Vec3f{-e, -e, e}, Vec3f{-e, e, -e}, Vec3f{e, e, e}}) n = n + k * field(p + k);
  n = n * (1 / std::max(length(n), 1e-9f));
  const Vec3f d = p - solid.a;
  const Vec3f local{dot(d, solid.u), dot(d, solid.v), dot(d, solid.w)};
  const float cloth = static_cast<float>(spec_.look.cloth_pattern);
  const float coarse = noise(local * 22.0f + Vec3f{3, 1, 8}) - 0.5f, fine = noise(local * 75.0f) - 0.5f;
  Paint c;
  float shine = 0.04f;
  switch (solid.material) {
    case Material::Skin:
      c = colourOf(spec_.look.skin) * (1 + 0.12f * coarse + 0.05f * fine);
      break;
    case Material::Shirt:
      c = colourOf(spec_.look.shirt) * (1 + cloth * (0.9f * coarse + 0.35f * fine));
      break;
    case Material::Shorts:
      c = colourOf(spec_.look.shorts) * (1 + cloth * (1.1f * coarse + 0.5f * fine)) + Paint{0.02f, 0.02f, 0.02f};
      break;
    case Material::Shoe:
      c = colourOf(spec_.look.shoes) * (1 + 0.3f * coarse);
      if (std::abs(std::fmod(local.x + local.z * 0.6f + 1.0f, 0.05f) - 0.025f) < 0.006f) c = Paint{0.85f, 0.85f, 0.85f};
      break;
    case Material::Sole:
      c = Paint{0.80f, 0.79f, 0.76f};
      break;
    case Material::Sock:
      c = colourOf(spec_.look.socks) * (0.94f + 0.1f * noise({local.x * 160, 0, 0}));
      break;
    case Material::Hair:
      c = colourOf(spec_.look.hair) * (0.8f + 0.5f * noise(local * 60.0f));
      break;
    case Material::Belt:
      c = Paint{0.16f, 0.11f, 0.08f};
      break;
    case Material::Steel:
      c = Paint{0.52f, 0.53f, 0.55f};
      shine = 0.5f;
      break;
    case Material::Plate:
    case Material::PlateMark: {
      const float radius = std::hypot(local.y, local.z);
      const float turn = std::atan2(local.z, local.y);
      c = colourOf(spec_.look.plate);
      const float rim = solid.r1;
      if (radius > rim * 0.86f)
        c = c * 1.25f + Paint{0.02f, 0.02f, 0.02f};
      else if (radius > rim * 0.58f && radius < rim * 0.74f && std::sin(turn * 9) > 0.2f &&
               std::sin(turn) * std::sin(turn) > 0.35f)
        c = Paint{0.72f, 0.72f, 0.70f};
      else if (radius < rim * 0.36f)
        c = c * 0.85f;
      shine = 0.12f;
      break;
    }
  }
  const float camera_side = spec_.camera.side == "left" ? 1.0f : -1.0f;
  const Vec3f key{0.30f, 0.42f * camera_side, 0.856f}, fill{-0.5f, 0.85f * camera_side, 0.15f};
  float open = 1;
  for (float step : {0.03f, 0.09f}) open -= std::clamp((step - field(p + n * step)) / step, 0.0f, 1.0f) * 0.32f;
  const float lit = 0.34f + 0.62f * std::max(0.0f, dot(n, key)) + 0.24f * std::max(0.0f, dot(n, fill));
  const Vec3f half = key - ray;
  const float glint = std::pow(std::max(0.0f, dot(n, half) / std::max(length(half), 1e-6f)), 24.0f) * shine;
  return c * (static_cast<float>(spec_.look.light) * lit * open) + Paint{glint, glint, glint};
}

void Renderer::renderSample(cv::Mat_<cv::Vec3f>& sum, const std::vector<Solid>& solids, const FloorShade& floor,
                            const Pinhole& camera, PixelPoint jitter, const Background& background) const {
  const int w = sum.cols, h = sum.rows;
  const int tiles_x = (w + kTile_px - 1) / kTile_px, tiles_y = (h + kTile_px - 1) / kTile_px;
  std::vector<std::vector<int>> touching(static_cast<std::size_t>(tiles_x) * static_cast<std::size_t>(tiles_y));
  for (std::size_t i = 0; i < solids.size(); ++i) {
    // Every solid lies within `fat` of its axis; so does its picture of the projected axis.
    const Solid& s = solids[i];
    const Vec3 a{s.a.x, s.a.y, s.a.z}, b{s.b.x, s.b.y, s.b.z};
    const float fat = s.kind == Solid::Kind::Ellipsoid ? s.bound_r : std::max(s.r1, s.r2);
    const double depth = std::min(camera.depth(a), camera.depth(b)) - fat;
    if (depth < 0.2) continue;
    const PixelPoint pa = camera.project(a), pb = camera.project(b), axis = pb - pa;
    const double r = (fat + 0.02) * camera.focal_px / depth + 1;
    const auto tileOf = [](double px, int most) { return std::clamp(static_cast<int>(px / kTile_px), 0, most - 1); };
    for (int ty = tileOf(std::min(pa.y, pb.y) - r, tiles_y); ty <= tileOf(std::max(pa.y, pb.y) + r, tiles_y); ++ty)
      for (int tx = tileOf(std::min(pa.x, pb.x) - r, tiles_x); tx <= tileOf(std::max(pa.x, pb.x) + r, tiles_x); ++tx) {
        const PixelPoint middle{(tx + 0.5) * kTile_px, (ty + 0.5) * kTile_px};
        const double share = std::clamp(dot(middle - pa, axis) / std::max(dot(axis, axis), 1e-9), 0.0, 1.0);
        if (length(middle - pa - axis * share) < r + 0.71 * kTile_px)
          touching[static_cast<std::size_t>(ty * tiles_x + tx)].push_back(static_cast<int>(i));
      }
  }
  const Vec3f from = toFloat(camera.place);
  cv::parallel_for_({0, tiles_x * tiles_y}, [&](const cv::Range& range) {
    for (int tile = range.start; tile < range.end; ++tile) {
      const std::vector<int>& among = touching[static_cast<std::size_t>(tile)];
      float start = 1e9f;
      for (int i : among)
        start = std::min(start, length(solids[static_cast<std::size_t>(i)].bound - from) -
                                    solids[static_cast<std::size_t>(i)].bound_r);
      const int x1 = std::min(w, (tile % tiles_x + 1) * kTile_px), y1 = std::min(h, (tile / tiles_x + 1) * kTile_px);
      for (int y = tile / tiles_x * kTile_px; y < y1; ++y)
        for (int x = tile % tiles_x * kTile_px; x < x1; ++x) {
          cv::Vec3f colour = background.colour(y, x);
          if (background.floor_x(y, x) < kFar_m)
            colour *= 1 - floor.at(background.floor_x(y, x), background.floor_y(y, x));
          if (!among.empty()) {
            const Vec3f ray = toFloat(camera.ray({x + jitter.x, y + jitter.y}));
            float t = std::max(start - 0.02f, 0.1f);
            for (int step = 0; step < 90 && t < background.distance(y, x); ++step) {
              const Vec3f p = from + ray * t;
              const Nearest near = nearest(solids, among, p);
              if (near.distance < 0.0006f) {
                const Paint c = shade(solids, among, near.solid, p, ray);
                colour = {c.b, c.g, c.r};
                break;
              }
              if (near.distance > 5) break;
              t += std::max(near.distance * 0.95f, 0.0005f);
            }
          }
          sum(y, x) += colour;
        }
    }
  });
}

cv::Mat Renderer::render(double t, int frame_number) const {
  const CameraSpec& c = spec_.camera;
  cv::Mat_<cv::Vec3f> sum(c.height, c.width, cv::Vec3f(0, 0, 0));
  const auto solidsAt = [&](double moment) {
    const auto helper = script_.helperAt(moment);
    return figure(spec_, script_.build(), script_.at(moment), helper ? &*helper : nullptr);
  };
  const FloorShade floor = floorShade(solidsAt(t));
  const double exposure_s = c.exposure_share / c.rate_hz;
  for (int s = 0; s < spec_.samples; ++s) {
    const double moment = t + exposure_s * ((s + 0.5) / spec_.samples - 0.5);
    const std::vector<Solid> solids = solidsAt(moment);
    const Pinhole camera = camera_.at(moment);
    const PixelPoint jitter = jitterOf(s, spec_.samples);
    if (still_.empty())
      renderSample(sum, solids, floor, camera, jitter, backgroundFor(camera, jitter));
    else
      renderSample(sum, solids, floor, camera, jitter, still_[static_cast<std::size_t>(s)]);
  }
  cv::Mat_<cv::Vec3f> noisy = sum * (255.0 / spec_.samples);
  if (c.noise > 0) {
    cv::RNG random(spec_.seed * 7919u + static_cast<unsigned>(frame_number) * 104729u + 1);
    cv::Mat_<cv::Vec3f> grain(noisy.size());
    random.fill(grain, cv::RNG::NORMAL, 0, c.noise);
    noisy += grain;
  }
  cv::Mat picture;
  noisy.convertTo(picture, CV_8UC3);
  return picture;
}

}  // namespace jib::simulate
