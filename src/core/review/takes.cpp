// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/takes.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/files.h"

namespace jib::review {
namespace {

const Play& playAt(const Take& take, double at_s) {
  const auto after = std::upper_bound(take.plays.begin(), take.plays.end(), at_s + 1e-9,
                                      [](double s, const Play& p) { return s < p.at_s; });
  return after == take.plays.begin() ? take.plays.front() : *std::prev(after);
}

}  // namespace

double clipTimeAt(const Take& take, double at_s) {
  JIB_ASSERT(!take.plays.empty());
  at_s += take.cut_start_s;
  const Play& play = playAt(take, at_s);
  return play.clip_t + std::max(0.0, at_s - play.at_s) * play.rate;
}

bool frozenAt(const Take& take, double at_s) {
  return playAt(take, at_s + take.cut_start_s).rate == 0;
}

Result<std::vector<Take>> takesFrom(const std::filesystem::path& file) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  const auto wrong = [&](const std::string& what) {
    return fail(
        ErrorCode::BadData, file.string() + ": " + what,
        R"(Write it as {"takes": [{"file": "cue1.wav", "chapter": "cue 1", "plays": [{"at_s": 0, "clip_t": 5, "rate": 0.25}]}]}.)");
  };
  const auto j = nlohmann::json::parse(*bytes, nullptr, false);
  if (!j.is_object() || !j.contains("takes") || !j["takes"].is_array() || j["takes"].empty())
    return wrong("it holds no takes.");
  std::vector<Take> takes;
  for (const auto& one : j["takes"]) {
    if (!one.is_object() || !one.contains("file") || !one["file"].is_string()) return wrong("a take has no \"file\".");
    Take take;
    take.file = one["file"].get<std::string>();
    if (take.file.is_relative()) take.file = file.parent_path() / take.file;
    take.chapter = one.value("chapter", "take " + std::to_string(takes.size() + 1));
    const auto number = [](const nlohmann::json& of, const char* key) {
      const auto it = of.find(key);
      return it != of.end() && it->is_number() ? it->get<double>() : 0.0;
    };
    take.start_s = std::max(0.0, number(one, "start_s"));
    take.cut_start_s = std::max(0.0, number(one, "cut_start_s"));
    take.cut_end_s = std::max(0.0, number(one, "cut_end_s"));
    if (const auto said = one.find("caption"); said != one.end() && said->is_string()) take.caption = *said;
    if (one.contains("plays") && one["plays"].is_array())
      for (const auto& p : one["plays"]) {
        if (!p.is_object() || !p.contains("clip_t") || !p["clip_t"].is_number())
          return wrong("a play of \"" + take.chapter + "\" has no \"clip_t\".");
        const Play play{number(p, "at_s"), number(p, "clip_t"), number(p, "rate")};
        if (!std::isfinite(play.at_s) || std::abs(play.rate) > 16)
          return wrong("a play of \"" + take.chapter + "\" runs at no sensible rate.");
        take.plays.push_back(play);
      }
    if (take.plays.empty()) return wrong("\"" + take.chapter + "\" plays nothing.");
    std::stable_sort(take.plays.begin(), take.plays.end(),
                     [](const Play& a, const Play& b) { return a.at_s < b.at_s; });
    takes.push_back(std::move(take));
  }
  return takes;
}

std::string takesToJson(const std::vector<Take>& takes) {
  nlohmann::ordered_json all = nlohmann::ordered_json::array();
  for (const Take& take : takes) {
    nlohmann::ordered_json plays = nlohmann::ordered_json::array();
    for (const Play& p : take.plays) plays.push_back({{"at_s", p.at_s}, {"clip_t", p.clip_t}, {"rate", p.rate}});
    all.push_back({{"file", take.file.filename().string()},
                   {"chapter", take.chapter},
                   {"start_s", take.start_s},
                   {"plays", plays}});
    if (take.cut_start_s > 0) all.back()["cut_start_s"] = take.cut_start_s;
    if (take.cut_end_s > 0) all.back()["cut_end_s"] = take.cut_end_s;
    if (!take.caption.empty()) all.back()["caption"] = take.caption;
  }
  return nlohmann::ordered_json{{"takes", all}}.dump(1, ' ', false, nlohmann::json::error_handler_t::replace);
}

}  // namespace jib::review
