// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/comparison.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/lifts/measure.h"

namespace jib::exchange {
namespace {

using Json = nlohmann::ordered_json;

constexpr double kTurned_deg = 12;     // between the two cameras: more changes what an angle looks like
constexpr double kFarTurned_deg = 30;  // and more still shows another side
constexpr double kHigher_deg = 5;      // how much more one looks down
constexpr double kWithCare = 1.5;      // sigma where something differs that may count

enum class Alike { Like, WithCare, Unlike };

class Comparison {
 public:
  Comparison(Json a, Json b, std::string at) : a_(std::move(a)), b_(std::move(b)), at_(std::move(at)) {}

  Result<std::string> made() {
    weighLikeness();
    Json out{{"schema", "jagged-jib/comparison"}, {"version", 1}};
    out["alike"] = {{"label", alike_ == Alike::Like       ? "like"
                              : alike_ == Alike::WithCare ? "with_care"
                                                          : "unlike"},
                    {"differs", differs_}};
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

  void differ(const char* what, const Json& a, const Json& b, Alike how, const std::string& why) {
    differs_.push_back({{"what", what}, {"a", a}, {"b", b}});
    if (how > alike_) {
      alike_ = how;
      why_ = why;
    }
  }
  void weighWords(const char* what, const char* key, Alike how, const std::string& why) {
    const std::string a = text(a_, "clip", key), b = text(b_, "clip", key);
    if (a != b && !a.empty() && !b.empty()) differ(what, a, b, how, why);
  }
  void weighLikeness() {
    weighWords("lift", "lift", Alike::Unlike, "They show different lifts.");
    weighWords("variant", "variant", Alike::Unlike, "They show different variations.");
    const std::string a = text(a_, "clip", "view"), b = text(b_, "clip", "view");
    const auto turn_a = number(a_, "camera", "yaw_deg"), turn_b = number(b_, "camera", "yaw_deg");
    if (a != b) {
      const bool sides = (a == "left" || a == "right") && (b == "left" || b == "right");
      differ("view", a, b, sides ? Alike::WithCare : Alike::Unlike, "They are filmed from different angles.");
    } else if (turn_a && turn_b && std::abs(*turn_a - *turn_b) > kTurned_deg) {
      differ("view", *turn_a, *turn_b, std::abs(*turn_a - *turn_b) > kFarTurned_deg ? Alike::Unlike : Alike::WithCare,
             "They are filmed from different angles.");
    }
    const auto down_a = number(a_, "camera", "pitch_deg"), down_b = number(b_, "camera", "pitch_deg");
    if (down_a && down_b && std::abs(*down_a - *down_b) > kHigher_deg)
      differ("lens_height", *down_a, *down_b, Alike::WithCare, "The phone was at different heights.");
    const std::string scale_a = text(a_, "scale", "source"), scale_b = text(b_, "scale", "source");
    if (scale_a != scale_b) differ("scale", scale_a, scale_b, Alike::WithCare, "Lengths come from different scales.");
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
      } else if (alike_ == Alike::Unlike) {
        notComparable(one, why_);
      } else {
        const double difference = now["value"].get<double>() - then["value"].get<double>();
        const double sigma = std::hypot(then.value("sigma", 0.0), now.value("sigma", 0.0)) *
                             (alike_ == Alike::WithCare ? kWithCare : 1.0);
        one["difference"] = difference;
        one["sigma"] = sigma;
        const bool sure = std::abs(difference) > lifts::kSureSigmas * sigma && sigma > 0;
        one["verdict"] = !sure ? "no_change_seen" : difference > 0 ? "more" : "less";
        one["why"] = alike_ == Alike::WithCare ? why_ : "";
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
  Json differs_ = Json::array();
  Alike alike_ = Alike::Like;
  std::string why_;
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
