// SPDX-License-Identifier: GPL-3.0-or-later
// How a sketch is written down; declared in sketch.h.
#include <nlohmann/json.hpp>

#include "core/coaching/sketch.h"

namespace jib::coaching {
namespace {

using Json = nlohmann::json;

Json toJson(PixelPoint p) {
  return {p.x, p.y};
}

std::optional<PixelPoint> pointFrom(const Json& j) {
  if (!j.is_array() || j.size() != 2 || !j[0].is_number() || !j[1].is_number()) return std::nullopt;
  return PixelPoint{j[0].get<double>(), j[1].get<double>()};
}

Json toJson(const Anchor& a) {
  Json j{{"at", toJson(a.place)}};
  if (a.rides) j["rides"] = tracing::nameOf(*a.rides);
  if (!a.followed.empty()) {
    j["followed_from"] = a.followed_from;
    for (const auto& p : a.followed) j["followed"].push_back(p ? toJson(*p) : Json());
  }
  return j;
}

// nullopt: something in it is not understood.
std::optional<Anchor> anchorFrom(const Json& j) {
  const auto place = j.contains("at") ? pointFrom(j["at"]) : std::nullopt;
  if (!place) return std::nullopt;
  Anchor a{*place, std::nullopt, 0, {}};
  if (j.contains("rides")) {
    if (!j["rides"].is_string()) return std::nullopt;
    a.rides = tracing::pointNamed(j["rides"].get<std::string>());
    if (!a.rides) return std::nullopt;
  }
  if (j.contains("followed") && j["followed"].is_array()) {
    a.followed_from = j.value("followed_from", std::size_t{0});
    for (const Json& p : j["followed"]) a.followed.push_back(pointFrom(p));
  }
  return a;
}

Json toJson(const Shape& s) {
  Json j{{"kind", nameOf(s.kind)}, {"drawn", s.drawn_s}, {"from", s.from_s}, {"to", s.to_s}};
  if (s.sense == Sense::AsWanted) j["wanted"] = true;
  if (s.proposed) j["proposed"] = true;
  if (!s.text.empty()) j["text"] = s.text;
  for (const Anchor& a : s.anchors) j["anchors"].push_back(toJson(a));
  return j;
}

std::optional<Shape> shapeFrom(const Json& j) {
  if (!j.is_object()) return std::nullopt;
  try {
    const auto kind = shapeKindNamed(j.at("kind").get<std::string>());
    if (!kind) return std::nullopt;
    Shape s;
    s.kind = *kind;
    s.sense = j.value("wanted", false) ? Sense::AsWanted : Sense::AsItIs;
    s.proposed = j.value("proposed", false);
    s.text = j.value("text", std::string());
    s.drawn_s = j.at("drawn").get<double>();
    s.from_s = j.at("from").get<double>();
    s.to_s = j.at("to").get<double>();
    for (const Json& a : j.at("anchors")) {
      auto anchor = anchorFrom(a);
      if (!anchor) return std::nullopt;
      s.anchors.push_back(std::move(*anchor));
    }
    return s.anchors.size() == anchorsOf(s.kind) ? std::optional(std::move(s)) : std::nullopt;
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

}  // namespace

std::string sketchToJson(const Sketch& sketch) {
  Json all = Json::array();
  for (const Shape& s : sketch.shapes) all.push_back(toJson(s));
  for (const std::string& other : sketch.unread)
    if (Json j = Json::parse(other, nullptr, false); !j.is_discarded()) all.push_back(std::move(j));
  return all.dump(-1, ' ', false, Json::error_handler_t::replace);
}

Sketch sketchFromJson(std::string_view text) {
  Sketch sketch;
  const Json all = Json::parse(text, nullptr, false);
  if (!all.is_array()) return sketch;
  for (const Json& one : all) {
    if (auto shape = shapeFrom(one))
      sketch.shapes.push_back(std::move(*shape));
    else
      sketch.unread.push_back(one.dump());
  }
  return sketch;
}

}  // namespace jib::coaching
