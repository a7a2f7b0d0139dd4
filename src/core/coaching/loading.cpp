// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/loading.h"
#include "core/base/quantity.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/display_units.h"

namespace jib::coaching {
namespace {

using Json = nlohmann::json;

constexpr double kLeastStep_kg = 1.25;  // half the smallest pair of plates: less is rounding between kg and lb
constexpr double kShareApart_pct = 4;   // people say "about 80 %"
constexpr double kBestApart = 1.05;     // a set may speak for a little more than the best without a word
constexpr int kMostReps = 12;

// 20 and 142.5, not 20.0.
std::string plain(double value) {
  return fmt::format("{:g}", std::round(value * 100) / 100);
}

Json sideToJson(const std::vector<int>& plates) {
  Json all = Json::array();
  for (int p : plates) all.push_back(kPlateKinds[static_cast<std::size_t>(p)].name);
  return all;
}

std::vector<int> sideFromJson(const Json& all) {
  std::vector<int> plates;
  if (!all.is_array()) return plates;
  for (const Json& name : all)
    for (std::size_t k = 0; k < kPlateKinds.size(); ++k)
      if (name.is_string() && name.get<std::string>() == kPlateKinds[k].name) plates.push_back(static_cast<int>(k));
  return plates;
}

}  // namespace

double sideKilos(const std::vector<int>& plates) {
  double sum = 0;
  for (int p : plates) sum += kPlateKinds[static_cast<std::size_t>(p)].kg;
  return sum;
}

double totalKilos(const Loading& l) {
  return l.bar_kg + l.collars_kg + sideKilos(l.near) + sideKilos(l.far.value_or(l.near));
}

std::string loadingToJson(const Loading& l) {
  Json j{{"bar_kg", l.bar_kg}, {"collars_kg", l.collars_kg}, {"near", sideToJson(l.near)}};
  if (l.far) j["far"] = sideToJson(*l.far);
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

Loading loadingFromJson(std::string_view text) {
  Loading l;
  const Json j = Json::parse(text, nullptr, false);
  if (!j.is_object()) return l;
  const auto number = [&](const char* key, double& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_number()) to = it->get<double>();
  };
  number("bar_kg", l.bar_kg);
  number("collars_kg", l.collars_kg);
  if (j.contains("near")) l.near = sideFromJson(j["near"]);
  if (j.contains("far")) l.far = sideFromJson(j["far"]);
  return l;
}

std::optional<BestRange> bestFrom(double load_kg, int reps, double reps_left) {
  const double able = reps + std::max(0.0, reps_left);
  if (load_kg <= 0 || reps < 1 || able > kMostReps) return std::nullopt;
  if (able <= 1) return BestRange{load_kg, load_kg};
  const double epley = load_kg * (1 + able / 30), brzycki = load_kg * 36 / (37 - able);
  return BestRange{std::min(epley, brzycki), std::max(epley, brzycki)};
}

std::vector<LoadLine> aboutLoad(const LoadFacts& f) {
  std::vector<LoadLine> lines;
  const bool counted = f.counted && !f.counted->empty();
  if (counted) {
    const double total = totalKilos(*f.counted);
    lines.push_back({"counted", fmt::format("Plates counted: {}{}.", massText(total),
                                            f.counted->far ? "" : ", assuming the far side matches")});
    if (f.counted->far) {
      const double apart = sideKilos(f.counted->near) - sideKilos(*f.counted->far);
      if (std::abs(apart) >= 0.5)
        lines.push_back({"uneven",
                         fmt::format("The {} side has {} kg more than the other. Is that right, or is a plate hidden?",
                                     apart > 0 ? "near" : "far", plain(std::abs(apart))),
                         true});
    }
    if (f.stated_kg && std::abs(total - *f.stated_kg) >= kLeastStep_kg)
      lines.push_back({"stated",
                       fmt::format("The plates add up to {}, the message says {}. Which is it?", massText(total),
                                   massText(*f.stated_kg)),
                       true});
  }
  const std::optional<double> load = f.stated_kg ? f.stated_kg
                                     : counted   ? std::optional(totalKilos(*f.counted))
                                                 : std::nullopt;
  if (!load || *load <= 0) return lines;
  if (f.best_kg && *f.best_kg > 0) {
    const double share = 100 * *load / *f.best_kg;
    const bool apart = f.share_pct && std::abs(*f.share_pct - share) > kShareApart_pct;
    std::string text =
        fmt::format("{} is {:.0f} % of the recorded max, {}", massText(*load), share, massText(*f.best_kg));
    text += apart ? fmt::format("; the message says {} %. Of which max?", plain(*f.share_pct)) : std::string(".");
    lines.push_back({"share", std::move(text), apart});
  } else if (f.share_pct && *f.share_pct > 0 && *f.share_pct <= 100) {
    lines.push_back({"share", fmt::format("If that was {} %, the max is about {}.", plain(*f.share_pct),
                                          massText(std::round(*load * 100 / *f.share_pct)))});
  }
  if (!f.reps) return lines;
  const double left = f.effort ? std::clamp(10 - *f.effort, 0.0, 6.0) : 0;
  const auto range = bestFrom(*load, *f.reps, left);
  if (!range || (*f.reps == 1 && left == 0)) return lines;
  const std::string set = *f.reps == 1 ? std::string("a single") : fmt::format("{} reps", *f.reps);
  std::string text =
      fmt::format("Estimated max from {} at {}{}: {} to {}{}", set, massText(*load),
                  f.effort ? fmt::format(", RPE {}", plain(*f.effort)) : "", massText(std::round(range->least_kg)),
                  massText(std::round(range->most_kg)), f.effort ? "" : " or more");
  const bool beyond = f.best_kg && range->least_kg > kBestApart * *f.best_kg;
  // Short of the best only says something when the set is said to have gone near the limit.
  const bool short_of = f.best_kg && f.effort && *f.effort >= 9 && range->most_kg * kBestApart < *f.best_kg;
  text += beyond     ? ". That beats the recorded max: has it gone up, or was it harder than it felt?"
          : short_of ? ". That is below the recorded max: is it recent, or was today a hard day?"
                     : ".";
  lines.push_back({"best", std::move(text), beyond || short_of});
  return lines;
}

}  // namespace jib::coaching
