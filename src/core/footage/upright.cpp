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

PictureSize cut(const Upright& u, PictureSize s) {
  const PictureArea area = u.shown();
  return area.whole() ? s : PictureSize{area.width, area.height};
}

// From a picture as it came to one set right.
PixelPoint setRight(PixelPoint p, const Upright& u, PictureSize whole) {
  const PictureSize s = cut(u, whole);
  p = {p.x - u.shown().x, p.y - u.shown().y};
  if (u.turn_deg == 90) p = {s.height - p.y, p.x};
  if (u.turn_deg == 180) p = {s.width - p.x, s.height - p.y};
  if (u.turn_deg == 270) p = {p.y, s.width - p.x};
  if (u.mirror) p.x = turned(u, s).width - p.x;
  return {p.x * u.stretch, p.y};
}

PixelPoint asItCame(PixelPoint p, const Upright& u, PictureSize whole) {
  const PictureSize s = cut(u, whole);
  p.x /= u.stretch;
  if (u.mirror) p.x = turned(u, s).width - p.x;
  if (u.turn_deg == 90)
    p = {p.y, s.height - p.x};
  else if (u.turn_deg == 180)
    p = {s.width - p.x, s.height - p.y};
  else if (u.turn_deg == 270)
    p = {s.width - p.y, p.x};
  return {p.x + u.shown().x, p.y + u.shown().y};
}

PictureArea areaFrom(const Json& j) {
  PictureArea area;
  if (!j.is_array() || j.size() != 4) return area;
  int* const to[4] = {&area.x, &area.y, &area.width, &area.height};
  constexpr int kLargest = 1 << 16;
  for (std::size_t i = 0; i < 4; ++i) {
    if (!j[i].is_number_integer()) return {};
    const auto n = j[i].get<std::int64_t>();
    if (n < (i < 2 ? 0 : 1) || n > kLargest) return {};
    *to[i] = static_cast<int>(n);
  }
  return area;
}

std::vector<Shot> shotsFrom(const Json& j) {
  std::vector<Shot> shots;
  if (!j.is_array()) return shots;
  for (const Json& one : j) {
    if (!one.is_array() || one.size() != 2 || !one[0].is_number() || !one[1].is_number()) return {};
    const Shot shot{one[0].get<double>(), one[1].get<double>()};
    if (!(shot.from_s < shot.to_s) || (!shots.empty() && shot.from_s <= shots.back().to_s)) return {};
    shots.push_back(shot);
  }
  return shots;
}

}  // namespace

const Shot* Upright::shownShot() const {
  return shot >= 0 && static_cast<std::size_t>(shot) < shots.size() ? &shots[static_cast<std::size_t>(shot)] : nullptr;
}

Upright Upright::asFound() const {
  Upright found;
  found.filmed = filmed;
  found.shots = shots;
  found.shot = shot;
  return found;
}

PictureSize sizeOf(const Upright& upright, PictureSize as_it_came) {
  PictureSize s = turned(upright, cut(upright, as_it_came));
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
  if (const auto it = j.find("filmed"); it != j.end()) u.filmed = areaFrom(*it);
  if (const auto it = j.find("with_borders"); it != j.end() && it->is_boolean()) u.with_borders = it->get<bool>();
  if (const auto it = j.find("shots"); it != j.end()) u.shots = shotsFrom(*it);
  if (const auto it = j.find("shot"); it != j.end() && it->is_number_integer()) u.shot = it->get<int>();
  if (!u.shownShot()) u.shot = Upright::kWholeFilm;
  const bool turns = u.turn_deg == 0 || u.turn_deg == 90 || u.turn_deg == 180 || u.turn_deg == 270;
  const bool stretches = u.stretch >= Upright::kLeast && u.stretch <= Upright::kMost;
  return turns && stretches ? u : Upright{};
}

Result<bool> keepUpright(const fs::path& clip, const Upright& upright) {
  const fs::path file = uprightFile(clip);
  if (upright == Upright{}) {
    FileSystem::real().remove(file);
    return true;
  }
  Json j = {{"turn_deg", upright.turn_deg}, {"mirror", upright.mirror}, {"stretch", upright.stretch}};
  const PictureArea& area = upright.filmed;
  if (!area.whole()) {
    j["filmed"] = {area.x, area.y, area.width, area.height};
    j["with_borders"] = upright.with_borders;
  }
  for (const Shot& shot : upright.shots) j["shots"].push_back({shot.from_s, shot.to_s});
  if (!upright.shots.empty()) j["shot"] = upright.shot;
  return writeWhole(FileSystem::real(), file, j.dump(2) + "\n");
}

}  // namespace jib::footage
