// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/comparison.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/lifts/alike.h"
#include "core/lifts/measure.h"

namespace jib::exchange {
namespace {

using Json = nlohmann::ordered_json;

using lifts::Alike;

class Comparison {
 public:
  Comparison(Json a, Json b, std::string at) : a_(std::move(a)), b_(std::move(b)), at_(std::move(at)) {}

  Result<std::string> made() {
    alike_ = lifts::alikeOf(filmedAs(a_), filmedAs(b_));
    Json out{{"schema", "jagged-jib/comparison"}, {"version", 1}};
    Json differs = Json::array();
    for (const lifts::Difference& d : alike_.differs)
      differs.push_back({{"what", d.what},
                         {"a", d.a_number ? Json(*d.a_number) : Json(d.a)},
                         {"b", d.b_number ? Json(*d.b_number) : Json(d.b)}});
    out["alike"] = {{"label", nameOf(alike_.label)}, {"differs", differs}};
    auto all = events();
    if (!at_.empty() && all.empty())
      return fail(ErrorCode::WrongUse, "Neither clip has an event \"" + at_ + "\".",
                  "Events are start, bottom, lockout …");
    out["events"] = std::move(all);
    out["measures"] = measures();
    return out.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
  }

 private:
  static std::string text(const Json& j, const char* part, const char* key) {
    const auto it = j.find(part);
    if (it == j.end() || !it->is_object()) return {};
    const auto value = it->find(key);
    if (value == it->end() || value->is_null()) return {};
    return value->is_string() ? value->get<std::string>() : value->dump();
  }
  static std::optional<double> number(const Json& j, const char* part, const char* key) {
    const auto it = j.find(part);
    if (it == j.end() || !it->is_object()) return std::nullopt;
    const auto value = it->find(key);
    return value != it->end() && value->is_number() ? std::optional(value->get<double>()) : std::nullopt;
  }

  // What an analysis tells of itself; load and gear only where somebody put them in.
  static lifts::FilmedAs filmedAs(const Json& j) {
    lifts::FilmedAs as;
    as.lift = text(j, "clip", "lift");
    as.variant = text(j, "clip", "variant");
    if (const std::string view = text(j, "clip", "view"); view != "unknown") as.view = view;
    // Towards the lifter's front, as both sides have it.
    if (const auto yaw = number(j, "camera", "yaw_deg"); yaw && (as.view == "left" || as.view == "right"))
      as.turned_deg = as.view == "right" ? -*yaw : *yaw;
    as.look_down_deg = number(j, "camera", "look_down_deg");
    if (!as.look_down_deg) as.look_down_deg = number(j, "camera", "pitch_deg");
    as.load_kg = number(j, "clip", "load_kg");
    as.scale = text(j, "scale", "source");
    if (const auto clip = j.find("clip"); clip != j.end() && clip->is_object())
      if (const auto kit = clip->find("kit"); kit != clip->end() && kit->is_object())
        for (const auto& [field, choice] : kit->items())
          if (choice.is_string()) as.kit[field] = choice.get<std::string>();
    return as;
  }

  std::size_t reps() const {
    const auto count = [](const Json& j) { return j.contains("reps") && j["reps"].is_array() ? j["reps"].size() : 0; };
    return std::min(count(a_), count(b_));
  }

  Json events() const {
    Json all = Json::array();
    for (std::size_t rep = 0; rep < reps(); ++rep)
      for (const auto& [key, a_t] : a_["reps"][rep].items()) {
        if (!key.ends_with("_t") || !a_t.is_number()) continue;
        const std::string name = key.substr(0, key.size() - 2);
        const auto b_t = b_["reps"][rep].find(key);
        if (b_t == b_["reps"][rep].end() || !b_t->is_number() || (!at_.empty() && at_ != name)) continue;
        all.push_back({{"name", name}, {"rep_a", rep + 1}, {"rep_b", rep + 1}, {"a_t", a_t}, {"b_t", *b_t}});
      }
    return all;
  }

  static bool known(const Json& m) { return m.is_object() && m.contains("value") && m["value"].is_number(); }
  static std::string absence(const Json& m) {
    return m.is_object() && m.contains("absent") ? m["absent"].get<std::string>() : std::string("It was not measured.");
  }
  void compare(Json& all, const Json& a, const Json& b, const Json& rep) const {
    for (const auto& [id, then] : a.items()) {
      const auto it = b.find(id);
      const Json now = it == b.end() ? Json() : *it;
      if (!known(then) && !known(now)) continue;
      Json one{{"id", id}, {"rep", rep}};
      one["a"] = known(then) ? Json{{"value", then["value"]}, {"sigma", then.value("sigma", 0.0)}} : Json();
      one["b"] = known(now) ? Json{{"value", now["value"]}, {"sigma", now.value("sigma", 0.0)}} : Json();
      if (!known(then) || !known(now)) {
        notComparable(one, absence(known(then) ? now : then));
      } else if (alike_.label == Alike::Unlike) {
        notComparable(one, alike_.why());
      } else {
        const double difference = now["value"].get<double>() - then["value"].get<double>();
        const double sigma = std::hypot(then.value("sigma", 0.0), now.value("sigma", 0.0)) * alike_.widening();
        one["difference"] = difference;
        one["sigma"] = sigma;
        const bool sure = std::abs(difference) > lifts::kSureSigmas * sigma && sigma > 0;
        one["verdict"] = !sure ? "no_change_seen" : difference > 0 ? "more" : "less";
        one["why"] = alike_.why();
      }
      all.push_back(std::move(one));
    }
  }
  static void notComparable(Json& one, const std::string& why) {
    one["difference"] = nullptr;
    one["sigma"] = nullptr;
    one["verdict"] = "not_comparable";
    one["why"] = why;
  }
  Json measures() const {
    Json all = Json::array();
    for (std::size_t rep = 0; rep < reps(); ++rep)
      compare(all, a_["reps"][rep].value("measures", Json::object()), b_["reps"][rep].value("measures", Json::object()),
              rep + 1);
    compare(all, a_.value("measures", Json::object()), b_.value("measures", Json::object()), "set");
    return all;
  }

  Json a_, b_;
  std::string at_;
  lifts::Likeness alike_;
};

Result<Json> analysisIn(std::string_view text, const char* which) {
  Json j = Json::parse(text, nullptr, false);
  if (!j.is_object() || j.value("schema", "") != "jagged-jib/analysis")
    return fail(ErrorCode::BadData, std::string("The ") + which + " file is no analysis.",
                "Make one with jib analyze.");
  return j;
}

}  // namespace

Result<std::string> comparisonOf(std::string_view a_json, std::string_view b_json, const std::string& at) {
  auto a = analysisIn(a_json, "first");
  if (!a) return fail(a.error());
  auto b = analysisIn(b_json, "second");
  if (!b) return fail(b.error());
  try {
    return Comparison(std::move(*a), std::move(*b), at).made();
  } catch (const Json::exception& e) {
    return fail(ErrorCode::BadData, std::string("One of the analyses is damaged: ") + e.what() + ".",
                "Make it again with jib analyze.");
  }
}

}  // namespace jib::exchange
