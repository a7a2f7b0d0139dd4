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
          {"limit", c.limit},
          {"known", c.known},
          {"t", c.t_s},
          {"frame_chosen", c.frame_chosen},
          {"basis", kBases.at(static_cast<std::size_t>(c.basis))},
          {"after_meet", c.after_meet},
          {"own", c.own},
          {"also", c.also_s},
          {"change", c.change ? Json::parse(coaching::changeToJson(*c.change)) : Json()},
          {"watch", c.watch},
          {"loop", c.loop ? Json{c.loop->from_t, c.loop->to_t} : Json()}};
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
  // What is no number was written as null.
  const auto number = [&](const char* key) {
    const auto it = j.find(key);
    return it != j.end() && it->is_number() ? it->get<double>() : 0.0;
  };
  c.value = number("value");
  c.sigma = number("sigma");
  c.limit = number("limit");
  c.known = j.value("known", j.contains("value") && !c.measure.empty());
  c.t_s = number("t");
  // Reviews of older versions do not say whose choice the frame is: it stays.
  c.frame_chosen = j.value("frame_chosen", j.contains("t"));
  c.own = j.value("own", false);
  c.after_meet = j.value("after_meet", false);
  if (j.contains("also") && j["also"].is_array())
    for (const Json& t : j["also"])
      if (t.is_number()) c.also_s.push_back(t.get<double>());
  if (const auto change = j.find("change"); change != j.end() && change->is_object())
    c.change = coaching::changeFromJson(change->dump());
  if (const auto watch = j.find("watch"); watch != j.end() && watch->is_array())
    for (const Json& finding : *watch)
      if (finding.is_string()) c.watch.push_back(finding.get<std::string>());
  if (const auto loop = j.find("loop"); loop != j.end() && loop->is_array() && loop->size() == 2)
    c.loop = motion::Stretch{loop->at(0).get<double>(), loop->at(1).get<double>()};
  const std::string basis = text("basis");
  for (std::size_t i = 0; i < kBases.size(); ++i)
    if (basis == kBases[i]) c.basis = static_cast<coaching::Basis>(i);
  return c;
}

tl::unexpected<Error> damaged(const std::string& what, const std::string& why) {
  return fail(ErrorCode::BadData, what + " can't be read: " + why + ".", "Correct it, or restore a copy.");
}

}  // namespace

std::string cuesToJson(const std::vector<coaching::Cue>& cues) {
  Json all = Json::array();
  for (const auto& c : cues) all.push_back(toJson(c));
  return all.dump(1, ' ', false, Json::error_handler_t::replace);
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
              {"praise", r.praise ? Json(*r.praise) : Json()},
              {"marks", Json::parse(coaching::marksToJson(r.marks))},
              {"sketch", Json::parse(coaching::sketchToJson(r.sketch))},
              {"rejected", std::map<std::string, std::string>(r.rejected.begin(), r.rejected.end())},
              {"reps", r.held ? Json::parse(motion::heldToJson(*r.held)) : Json()},
              {"greeting", r.greeting},
              {"closing", r.closing},
              {"pain", r.pain ? Json::parse(coaching::painPlanToJson(*r.pain)) : Json()},
              {"week", r.week},
              {"bookmarks", Json::parse(coaching::bookmarksToJson(r.bookmarks))},
              {"looked", r.looked},
              {"play_head_s", r.play_head_s},
              {"desk", r.desk}}
      .dump(-1, ' ', false, Json::error_handler_t::replace);
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
    if (const auto praise = j.find("praise"); praise != j.end() && praise->is_array()) {
      r.praise.emplace();
      for (const Json& line : *praise)
        if (line.is_string()) r.praise->push_back(line.get<std::string>());
    }
    for (const char* key : {"by_eye", "marks"})  // as older reviews kept them, and as they are kept now
      if (j.contains(key)) r.marks = coaching::marksFromJson(j.at(key).dump());
    if (j.contains("sketch")) r.sketch = coaching::sketchFromJson(j.at("sketch").dump());
    if (const auto rejected = j.find("rejected"); rejected != j.end() && rejected->is_object())
      for (const auto& [finding, why] : rejected->items())
        if (why.is_string()) r.rejected[finding] = why.get<std::string>();
    if (const auto reps = j.find("reps"); reps != j.end() && reps->is_array())
      r.held = motion::heldFromJson(reps->dump());
    r.greeting = j.value("greeting", std::string());
    r.closing = j.value("closing", std::string());
    if (const auto pain = j.find("pain"); pain != j.end() && pain->is_object())
      r.pain = coaching::painPlanFromJson(pain->dump());
    r.week = j.value("week", std::string());
    if (j.contains("bookmarks")) r.bookmarks = coaching::bookmarksFromJson(j.at("bookmarks").dump());
    r.looked = j.value("looked", false);
    r.play_head_s = j.value("play_head_s", 0.0);
    r.desk = j.value("desk", std::string());
    return r;
  } catch (const std::exception& e) {
    return damaged("The review", e.what());
  }
}

}  // namespace jib::library
