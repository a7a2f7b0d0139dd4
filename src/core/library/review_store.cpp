// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/review_store.h"

#include <array>
#include <nlohmann/json.hpp>

#include "core/tracing/trace_store.h"

namespace jib::library {
namespace {

using Json = nlohmann::json;

constexpr std::array<const char*, 3> kBases{"measured", "too_close", "by_eye"};

Json toJson(const coaching::Cue& c) {
  return {{"finding", c.finding},
          {"title", c.title},
          {"wording", c.wording},
          {"drill", c.drill},
          {"load", c.load},
          {"weeks", c.weeks},
          {"proof", c.proof},
          {"side_effect", c.side_effect},
          {"price", c.price},
          {"why_first", c.why_first},
          {"measure", c.measure},
          {"value", c.value},
          {"sigma", c.sigma},
          {"t", c.t_s},
          {"basis", kBases.at(static_cast<std::size_t>(c.basis))}};
}

coaching::Cue cueFrom(const Json& j) {
  coaching::Cue c;
  const auto text = [&](const char* key) { return j.value(key, std::string()); };
  c.finding = text("finding");
  c.title = text("title");
  c.wording = j.at("wording").get<std::string>();
  c.drill = text("drill");
  c.load = text("load");
  c.weeks = j.value("weeks", 4);
  c.proof = text("proof");
  c.side_effect = text("side_effect");
  c.price = text("price");
  c.why_first = text("why_first");
  c.measure = text("measure");
  c.value = j.value("value", 0.0);
  c.sigma = j.value("sigma", 0.0);
  c.t_s = j.value("t", 0.0);
  const std::string basis = text("basis");
  for (std::size_t i = 0; i < kBases.size(); ++i)
    if (basis == kBases[i]) c.basis = static_cast<coaching::Basis>(i);
  return c;
}

tl::unexpected<Error> damaged(const std::string& what, const std::string& why) {
  return fail(ErrorCode::BadData, what + " cannot be read: " + why + ".", "Correct it, or restore a copy.");
}

}  // namespace

std::string cuesToJson(const std::vector<coaching::Cue>& cues) {
  Json all = Json::array();
  for (const auto& c : cues) all.push_back(toJson(c));
  return all.dump(1);
}

Result<std::vector<coaching::Cue>> cuesFromJson(std::string_view text) {
  try {
    const Json j = Json::parse(text);
    std::vector<coaching::Cue> cues;
    for (const Json& one : j.is_object() ? j.at("cues") : j) cues.push_back(cueFrom(one));
    return cues;
  } catch (const std::exception& e) {
    return damaged("The cues", e.what());
  }
}

std::string reviewToJson(const Review& r) {
  return Json{{"placed", tracing::placedToJson(r.placed)},
              {"cues", Json::parse(cuesToJson(r.cues))},
              {"cues_chosen", r.cues_chosen},
              {"change_nothing", r.change_nothing},
              {"all_numbers", r.all_numbers},
              {"by_eye", r.by_eye},
              {"greeting", r.greeting},
              {"play_head_s", r.play_head_s}}
      .dump();
}

Result<Review> reviewFromJson(std::string_view text) {
  try {
    const Json j = Json::parse(text);
    Review r;
    auto placed = tracing::placedFromJson(j.at("placed"));
    if (!placed) return fail(placed.error());
    r.placed = std::move(*placed);
    auto cues = cuesFromJson(j.at("cues").dump());
    if (!cues) return fail(cues.error());
    r.cues = std::move(*cues);
    r.cues_chosen = j.value("cues_chosen", false);
    r.change_nothing = j.value("change_nothing", false);
    r.all_numbers = j.value("all_numbers", false);
    if (j.contains("by_eye")) r.by_eye = j.at("by_eye").get<coaching::ByEye>();
    r.greeting = j.value("greeting", std::string());
    r.play_head_s = j.value("play_head_s", 0.0);
    return r;
  } catch (const std::exception& e) {
    return damaged("The review", e.what());
  }
}

}  // namespace jib::library
