// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/upright.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/files.h"

namespace jib::footage {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

PictureSize turned(const Upright& u, PictureSize s) {
  return u.turn_deg % 180 == 0 ? s : PictureSize{s.height, s.width};
}

// From a picture as it came to one set right.
PixelPoint setRight(PixelPoint p, const Upright& u, PictureSize s) {
  if (u.turn_deg == 90) p = {s.height - p.y, p.x};
  if (u.turn_deg == 180) p = {s.width - p.x, s.height - p.y};
  if (u.turn_deg == 270) p = {p.y, s.width - p.x};
  if (u.mirror) p.x = turned(u, s).width - p.x;
  return {p.x * u.stretch, p.y};
}

PixelPoint asItCame(PixelPoint p, const Upright& u, PictureSize s) {
  p.x /= u.stretch;
  if (u.mirror) p.x = turned(u, s).width - p.x;
  if (u.turn_deg == 90) return {p.y, s.height - p.x};
  if (u.turn_deg == 180) return {s.width - p.x, s.height - p.y};
  if (u.turn_deg == 270) return {s.width - p.y, p.x};
  return p;
}

}  // namespace

PictureSize sizeOf(const Upright& upright, PictureSize as_it_came) {
  PictureSize s = turned(upright, as_it_came);
  s.width = std::max(1, static_cast<int>(std::lround(s.width * upright.stretch)));
  return s;
}

PixelPoint carried(PixelPoint p, const Upright& from, const Upright& to, PictureSize as_it_came) {
  return setRight(asItCame(p, from, as_it_came), to, as_it_came);
}

fs::path uprightFile(const fs::path& clip) {
  return clip.string() + ".upright.json";
}

Upright uprightOf(const fs::path& clip) {
  std::error_code error;
  const fs::path file = uprightFile(clip);
  if (!fs::exists(file, error)) return {};
  const auto text = FileSystem::real().read(file);
  const Json j = text ? Json::parse(*text, nullptr, false) : Json();
  if (!j.is_object()) return {};
  Upright u;
  if (const auto it = j.find("turn_deg"); it != j.end() && it->is_number_integer()) u.turn_deg = it->get<int>();
  if (const auto it = j.find("mirror"); it != j.end() && it->is_boolean()) u.mirror = it->get<bool>();
  if (const auto it = j.find("stretch"); it != j.end() && it->is_number()) u.stretch = it->get<double>();
  const bool turns = u.turn_deg == 0 || u.turn_deg == 90 || u.turn_deg == 180 || u.turn_deg == 270;
  const bool stretches = u.stretch >= Upright::kLeast && u.stretch <= Upright::kMost;
  return turns && stretches ? u : Upright{};
}

Result<bool> keepUpright(const fs::path& clip, const Upright& upright) {
  const fs::path file = uprightFile(clip);
  if (upright.asItCame()) {
    FileSystem::real().remove(file);
    return true;
  }
  const Json j = {{"turn_deg", upright.turn_deg}, {"mirror", upright.mirror}, {"stretch", upright.stretch}};
  return writeWhole(FileSystem::real(), file, j.dump(2) + "\n");
}

}  // namespace jib::footage
