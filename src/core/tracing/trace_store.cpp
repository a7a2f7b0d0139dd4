// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/trace_store.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

namespace jib::tracing {
namespace {

using Json = nlohmann::json;

Json pointsToJson(const std::vector<std::optional<TracedPoint>>& points) {
  Json all = Json::array();
  for (const auto& p : points) all.push_back(p ? Json{p->place.x, p->place.y, p->sigma_px} : Json());
  return all;
}

std::vector<std::optional<TracedPoint>> pointsFromJson(const Json& json) {
  std::vector<std::optional<TracedPoint>> all;
  for (const Json& p : json) {
    if (p.is_null())
      all.emplace_back();
    else
      all.emplace_back(TracedPoint{{p.at(0), p.at(1)}, p.at(2), Origin::Optical});
  }
  return all;
}

Json barToJson(const BarTrace& bar) {
  return {{"times_s", bar.times_s},
          {"plate", pointsToJson(bar.plate)},
          {"end", pointsToJson(bar.end)},
          {"rim", {bar.rim.radius_px, bar.rim.aspect, bar.rim.tilt_rad, bar.rim.sigma_rel}},
          {"depth_ratio", bar.depth_ratio},
          {"vanishing", bar.vanishing ? Json{bar.vanishing->x, bar.vanishing->y, bar.vanishing_sigma_px} : Json()}};
}

BarTrace barFromJson(const Json& j) {
  BarTrace bar;
  bar.times_s = j.at("times_s").get<std::vector<double>>();
  bar.plate = pointsFromJson(j.at("plate"));
  bar.end = pointsFromJson(j.at("end"));
  const Json& rim = j.at("rim");
  bar.rim = {rim.at(0), rim.at(1), rim.at(2), rim.at(3)};
  bar.depth_ratio = j.at("depth_ratio");
  if (const Json& v = j.at("vanishing"); !v.is_null()) {
    bar.vanishing = PixelPoint{v.at(0), v.at(1)};
    bar.vanishing_sigma_px = v.size() > 2 ? v.at(2).get<double>() : 1.5 / std::max(0.03, bar.depth_ratio);
  }
  if (bar.plate.size() != bar.times_s.size() || bar.end.size() != bar.times_s.size())
    throw std::invalid_argument("the bar's places and times differ in number");
  return bar;
}

Json cameraToJson(const SideCamera& c) {
  return {{"middle", {c.middle.x, c.middle.y}},
          {"focal_px", c.focal_px},
          {"forward", c.forward},
          {"turned_rad", {c.yaw_rad, c.pitch_rad, c.roll_rad}},
          {"plate_distance_m", c.plate_distance_m},
          {"lateral_m", {c.plate_m, c.hip_m, c.ankle_m}},
          {"toe_out_rad", c.toe_out_rad},
          {"splay_rad", c.splay_rad},
          {"wide_stance", c.wide_stance},
          {"bend_per_px2", c.bend.per_px2}};
}

// Only what places points: the camera's uncertainties are those of the one made anew.
SideCamera cameraFromJson(const Json& j) {
  SideCamera c;
  c.middle = {j.at("middle").at(0), j.at("middle").at(1)};
  c.focal_px = j.at("focal_px");
  c.forward = j.at("forward");
  c.yaw_rad = j.at("turned_rad").at(0);
  c.pitch_rad = j.at("turned_rad").at(1);
  c.roll_rad = j.at("turned_rad").at(2);
  c.plate_distance_m = j.at("plate_distance_m");
  c.plate_m = j.at("lateral_m").at(0);
  c.hip_m = j.at("lateral_m").at(1);
  c.ankle_m = j.at("lateral_m").at(2);
  c.toe_out_rad = j.at("toe_out_rad");
  c.splay_rad = j.value("splay_rad", c.toe_out_rad);
  c.wide_stance = j.value("wide_stance", false);
  c.bend.per_px2 = j.value("bend_per_px2", 0.0);
  return c;
}

}  // namespace

Json buildToJson(const KnownBuild& b) {
  Json off = Json::array();
  for (const auto& o : b.sight_off) off.push_back({o.across_m, o.along_m});
  Json stays = Json::array(), reach = Json::array();
  for (const auto& o : b.sight_stays) stays.push_back({o.across_m, o.along_m});
  for (const auto& r : b.edge_reach_m) reach.push_back(r ? Json(*r) : Json());
  return {{"shin_m", b.shin_m}, {"thigh_m", b.thigh_m},   {"trunk_m", b.trunk_m},
          {"sight_off_m", off}, {"sight_stays_m", stays}, {"edge_reach_m", reach}};
}

std::optional<KnownBuild> buildFromJson(const Json& j) {
  try {
    KnownBuild b;
    b.shin_m = j.at("shin_m");
    b.thigh_m = j.at("thigh_m");
    b.trunk_m = j.at("trunk_m");
    using Offs = std::array<std::array<double, 2>, kPlacedLandmarks.size()>;
    const Offs off = j.at("sight_off_m"), stays = j.value("sight_stays_m", Offs{});
    for (std::size_t k = 0; k < off.size(); ++k) {
      b.sight_off[k] = {off[k][0], off[k][1]};
      b.sight_stays[k] = {stays[k][0], stays[k][1]};
    }
    if (const auto reach = j.find("edge_reach_m"); reach != j.end())
      for (std::size_t k = 0; k < kEdges; ++k)
        if (const Json& r = reach->at(k); !r.is_null()) b.edge_reach_m[k] = r.get<double>();
    return b;
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

namespace {

// Heel and toe, to a hundredth of a pixel; null where they were not found.
Json shoeToJson(const std::vector<std::optional<ShoeLift>>& shoe) {
  Json all = Json::array();
  for (const auto& s : shoe) all.push_back(s ? Json{s->heel_px, s->toe_px} : Json());
  return all;
}

// Hip and elbow of a body on a bench; null where neither was seen.
Json lyingToJson(const std::vector<LyingSeen>& lying) {
  const auto place = [](const std::optional<PixelPoint>& p) { return p ? Json{p->x, p->y} : Json(); };
  Json all = Json::array();
  for (const LyingSeen& s : lying)
    all.push_back(s.hip_moved || s.elbow ? Json{place(s.hip_moved), place(s.elbow)} : Json());
  return all;
}

std::vector<LyingSeen> lyingFromJson(const Json& j) {
  const auto place = [](const Json& p) {
    return p.is_array() ? std::optional(PixelPoint{p.at(0), p.at(1)}) : std::nullopt;
  };
  std::vector<LyingSeen> all;
  for (const Json& s : j) all.push_back(s.is_array() ? LyingSeen{place(s.at(0)), place(s.at(1))} : LyingSeen{});
  return all;
}

Json placesToJson(const std::vector<std::optional<PixelPoint>>& places) {
  Json all = Json::array();
  for (const auto& p : places) all.push_back(p ? Json{p->x, p->y} : Json());
  return all;
}

std::vector<std::optional<PixelPoint>> placesFromJson(const Json& j) {
  std::vector<std::optional<PixelPoint>> all;
  for (const Json& p : j) all.push_back(p.is_array() ? std::optional(PixelPoint{p.at(0), p.at(1)}) : std::nullopt);
  return all;
}

Json bodyToJson(const BodyTrack& body) {
  Json poses = Json::array();
  for (const auto& q : body.poses) poses.push_back(q ? Json(q->vector()) : Json());
  const Skeleton& s = body.skeleton;
  return {{"source", body.source == BodySource::Network ? "network" : "placed"},
          {"feet_seen", body.feet_seen},
          {"placed_frame", body.placed_frame},
          {"fitted_to_placed", body.fitted_to_placed},
          {"camera", cameraToJson(body.camera)},
          {"skeleton",
           {s.heel_from_ankle.x, s.heel_from_ankle.z, s.toe_from_ankle.x, s.toe_from_ankle.z, s.shin_m, s.thigh_m,
            s.trunk_m, s.bar_along_m, s.bar_ahead_m}},
          {"poses", poses},
          {"doubt_px", body.doubt_px},
          {"shoe_px", shoeToJson(body.shoe)},
          {"lying_px", lyingToJson(body.lying)},
          {"hip_before_off_px", placesToJson(body.hip_before_off)},
          {"build", body.build ? buildToJson(*body.build) : Json()},
          {"began_with_build", body.began_with_build},
          {"bar_hangs", body.bar_hangs},
          {"shoe_outlined", body.shoe_outlined},
          {"hip_outlined", body.hip_outlined}};
}

BodyTrack bodyFromJson(const Json& j, std::size_t frames) {
  BodyTrack body;
  body.source = j.value("source", "placed") == "network" ? BodySource::Network : BodySource::Placed;
  body.feet_seen = j.value("feet_seen", true);
  body.placed_frame = j.at("placed_frame");
  body.fitted_to_placed = j.value("fitted_to_placed", false);
  body.camera = cameraFromJson(j.at("camera"));
  const auto s = j.at("skeleton").get<std::array<double, 9>>();
  body.skeleton = {{s[0], s[1]}, {s[2], s[3]}, s[4], s[5], s[6], s[7], s[8]};
  for (const Json& q : j.at("poses")) {
    if (q.is_null())
      body.poses.emplace_back();
    else
      body.poses.emplace_back(BodyPose::from(q.get<std::array<double, BodyPose::kUnknowns>>()));
  }
  body.doubt_px = j.at("doubt_px").get<std::vector<double>>();
  if (const auto shoe = j.find("shoe_px"); shoe != j.end() && shoe->size() == frames) {
    body.shoe.resize(frames);
    for (std::size_t i = 0; i < frames; ++i)
      if (shoe->at(i).is_array()) body.shoe[i] = ShoeLift{shoe->at(i).at(0), shoe->at(i).at(1)};
  }
  if (const auto lying = j.find("lying_px"); lying != j.end() && lying->size() == frames)
    body.lying = lyingFromJson(*lying);
  if (const auto hip = j.find("hip_before_off_px"); hip != j.end() && hip->size() == frames)
    body.hip_before_off = placesFromJson(*hip);
  if (const auto build = j.find("build"); build != j.end()) body.build = buildFromJson(*build);
  body.began_with_build = j.value("began_with_build", false);
  body.bar_hangs = j.value("bar_hangs", false);
  body.shoe_outlined = j.value("shoe_outlined", false);
  body.hip_outlined = j.value("hip_outlined", false);
  if (body.poses.size() != frames || body.doubt_px.size() != frames)
    throw std::invalid_argument("the body's postures and the bar's times differ in number");
  return body;
}

// Of a front or rear view the ends of the bar, left and right, to a hundredth of a pixel; the joints are in the
// sightings.
Json frontToJson(const FrontTrace& front) {
  const auto end = [](const std::optional<TracedPoint>& p) {
    return p ? Json{std::round(p->place.x * 100) / 100, std::round(p->place.y * 100) / 100, p->sigma_px} : Json();
  };
  Json ends = Json::array();
  for (const FrontPoints& f : front.frames)
    ends.push_back({end(f.at(BodySide::Left, Landmark::Bar)), end(f.at(BodySide::Right, Landmark::Bar))});
  return {{"facing", nameOf(front.facing)},
          {"lies", front.lies},
          {"metre_px", front.metre_px},
          {"scale_sigma_rel", front.scale_sigma_rel},
          {"scale_from_plate", front.scale_from_plate},
          {"focal_px", front.focal_px},
          {"ends", ends}};
}

FrontTrace frontFromJson(const Json& j, std::size_t frames) {
  FrontTrace front;
  const auto facing = facingNamed(j.at("facing").get<std::string>());
  if (!facing) throw std::invalid_argument("nobody is seen from there");
  front.facing = *facing;
  front.lies = j.value("lies", false);
  front.metre_px = j.at("metre_px");
  front.scale_sigma_rel = j.at("scale_sigma_rel");
  front.scale_from_plate = j.at("scale_from_plate");
  front.focal_px = j.at("focal_px");
  front.frames.resize(frames);
  const Json& ends = j.at("ends");
  if (ends.size() != frames) throw std::invalid_argument("the bar's ends and the times differ in number");
  for (std::size_t i = 0; i < frames; ++i)
    for (std::size_t side : {0u, 1u})
      if (const Json& p = ends.at(i).at(side); p.is_array())
        front.frames[i].at(static_cast<BodySide>(side), Landmark::Bar) =
            TracedPoint{{p.at(0), p.at(1)}, p.at(2), Origin::Optical};
  return front;
}

// Of the network's landmarks only those that are used: x, y and confidence, left then right.
// The last two came later: older tracings end before them.
constexpr std::array<PoseMark, 9> kKeptMarks{PoseMark::Toe,   PoseMark::Heel,  PoseMark::Ankle,
                                             PoseMark::Knee,  PoseMark::Hip,   PoseMark::Shoulder,
                                             PoseMark::Wrist, PoseMark::Elbow, PoseMark::Ear};

// Whole tenths of a pixel, one after the other: there are many, and they are not that exact.
Json outlineToJson(const Outline& outline) {
  Json j = Json::array();
  for (const PixelPoint& p : outline) {
    j.push_back(std::lround(10 * p.x));
    j.push_back(std::lround(10 * p.y));
  }
  return j;
}

Outline outlineFromJson(const Json& j) {
  Outline outline;
  for (std::size_t k = 0; k + 1 < j.size(); k += 2)
    outline.push_back({j.at(k).get<double>() / 10, j.at(k + 1).get<double>() / 10});
  return outline;
}

Json sightingsToJson(const std::vector<Sighting>& sightings) {
  Json all = Json::array();
  for (const Sighting& s : sightings) {
    const PoseReading& r = s.reading;
    Json marks = Json::array();
    for (PoseMark mark : kKeptMarks)
      for (BodySide side : {BodySide::Left, BodySide::Right}) {
        const PixelPoint p = r.place(mark, side);
        marks.insert(marks.end(), {p.x, p.y, r.sure(mark, side)});
      }
    all.push_back({{"frame", s.frame},
                   {"person", r.person},
                   {"camera", {s.camera.along, s.camera.across, s.camera.shift.x, s.camera.shift.y}},
                   {"region", {r.next.centre.x, r.next.centre.y, r.next.size_px, r.next.turn_rad}},
                   {"marks", marks},
                   {"outline", outlineToJson(r.outline)}});
  }
  return all;
}

std::vector<Sighting> sightingsFromJson(const Json& j, std::size_t frames) {
  std::vector<Sighting> sightings;
  for (const Json& one : j) {
    Sighting s;
    s.frame = one.at("frame");
    if (s.frame >= frames || (!sightings.empty() && s.frame <= sightings.back().frame))
      throw std::invalid_argument("the sightings are out of order");
    s.reading.person = one.at("person");
    if (const auto shift = one.find("shift"); shift != one.end()) s.camera.shift = {shift->at(0), shift->at(1)};
    if (const auto move = one.find("camera"); move != one.end())
      s.camera = {move->at(0), move->at(1), {move->at(2), move->at(3)}};
    const auto region = one.at("region").get<std::array<double, 4>>();
    s.reading.next = {{region[0], region[1]}, region[2], region[3]};
    const auto marks = one.at("marks").get<std::vector<double>>();
    std::size_t k = 0;
    for (PoseMark mark : kKeptMarks)
      for (BodySide side : {BodySide::Left, BodySide::Right}) {
        if ((mark == PoseMark::Elbow || mark == PoseMark::Ear) && k >= marks.size()) break;
        s.reading.places[s.reading.index(mark, side)] = {marks.at(k), marks.at(k + 1)};
        s.reading.confidence[s.reading.index(mark, side)] = marks.at(k + 2);
        k += 3;
      }
    if (const auto outline = one.find("outline"); outline != one.end()) s.reading.outline = outlineFromJson(*outline);
    sightings.push_back(std::move(s));
  }
  return sightings;
}

}  // namespace

namespace {

Json uprightsToJson(const Convergence& c) {
  Json j{c.per_px, c.sigma_per_px};
  if (c.roll_rad) j.insert(j.end(), {*c.roll_rad, c.roll_sigma_rad});
  return j;
}

Convergence uprightsFromJson(const Json& j) {
  Convergence c{j.at(0), j.at(1)};
  if (j.size() >= 4) {
    c.roll_rad = j.at(2).get<double>();
    c.roll_sigma_rad = j.at(3);
  }
  return c;
}

}  // namespace

Json traceToJson(const ClipTrace& clip) {
  JIB_ASSERT(clip.bar != nullptr);
  return {{"schema", "jagged-jib/tracing"},
          {"version", 1},
          {"width", clip.trace.width},
          {"height", clip.trace.height},
          {"bar", barToJson(*clip.bar)},
          {"uprights", clip.uprights ? uprightsToJson(*clip.uprights) : Json()},
          {"roll_rad", clip.roll_rad ? Json(*clip.roll_rad) : Json()},
          {"far_plate", clip.far_plate ? Json{clip.far_plate->share, clip.far_plate->sigma} : Json()},
          {"bend", clip.bend ? Json{clip.bend->per_px2, clip.bend->sigma_per_px2} : Json()},
          {"facing", clip.facing ? Json(*clip.facing) : Json()},
          {"focal_35mm", clip.focal_35mm ? Json(*clip.focal_35mm) : Json()},
          {"sightings", clip.sightings ? sightingsToJson(*clip.sightings) : Json()},
          {"front", clip.front_seen ? frontToJson(*clip.front_seen) : Json()},
          {"body", clip.body ? bodyToJson(*clip.body) : Json()}};
}

Result<ClipTrace> traceFromJson(const Json& j) {
  try {
    if (j.at("schema") != "jagged-jib/tracing") throw std::invalid_argument("it is not a tracking");
    ClipTrace clip;
    clip.bar = std::make_shared<const BarTrace>(barFromJson(j.at("bar")));
    if (const Json& roll = j.at("roll_rad"); !roll.is_null()) clip.roll_rad = roll.get<double>();
    if (const auto far = j.find("far_plate"); far != j.end() && far->is_array())
      clip.far_plate = FarPlate{far->at(0), far->at(1)};
    if (const auto facing = j.find("facing"); facing != j.end() && facing->is_number())
      clip.facing = facing->get<double>();
    if (const auto lens = j.find("focal_35mm"); lens != j.end() && lens->is_number())
      clip.focal_35mm = lens->get<double>();
    if (const auto bend = j.find("bend"); bend != j.end() && bend->is_array())
      clip.bend = LensBend{bend->at(0), bend->at(1)};
    if (const auto up = j.find("uprights"); up != j.end() && !up->is_null()) clip.uprights = uprightsFromJson(*up);
    if (const auto seen = j.find("sightings"); seen != j.end() && !seen->is_null())
      clip.sightings =
          std::make_shared<const std::vector<Sighting>>(sightingsFromJson(*seen, clip.bar->times_s.size()));
    if (const auto across = j.find("front"); across != j.end() && !across->is_null()) {
      FrontTrace front = frontFromJson(*across, clip.bar->times_s.size());
      if (clip.sightings) addJoints(front, *clip.sightings, clip.bar->times_s);
      clip.front_seen = std::make_shared<const FrontTrace>(std::move(front));
    }
    if (const Json& body = j.at("body"); !body.is_null())
      clip.body = std::make_shared<const BodyTrack>(bodyFromJson(body, clip.bar->times_s.size()));
    clip.trace.width = j.at("width");
    clip.trace.height = j.at("height");
    return clip;
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, std::string("The stored tracking is damaged: ") + e.what() + ".",
                "Trace the clip again.");
  }
}

Json placedToJson(const std::vector<PlacedFrame>& placed) {
  Json all = Json::array();
  for (const PlacedFrame& p : placed) {
    Json points = Json::object();
    for (const PointName& name : allPointNames())
      if (const auto& place = p.at(name)) points[nameOf(name)] = {place->x, place->y};
    all.push_back({{"t", p.t_s}, {"points", points}});
  }
  return all;
}

Result<std::vector<PlacedFrame>> placedFromJson(const Json& json) {
  const auto wrong = [](const std::string& what) {
    return fail(ErrorCode::BadData, "The points file is wrong: " + what + ".",
                "It holds {\"t\": seconds, \"points\": {name: [x, y]}} or a list of such.");
  };
  std::vector<PlacedFrame> placed;
  try {
    for (const Json& one : json.is_array() ? json : Json::array({json})) {
      PlacedFrame frame;
      frame.t_s = one.at("t");
      for (const auto& [name, place] : one.at("points").items()) {
        if (place.is_null()) continue;
        const auto point = pointNamed(name);
        if (!point) continue;  // of a newer version
        const PixelPoint p{place.at(0), place.at(1)};
        if (!std::isfinite(p.x) || !std::isfinite(p.y)) return wrong("a place is not a number");
        frame.at(*point) = p;
      }
      placed.push_back(frame);
    }
  } catch (const std::exception& e) {
    return wrong(e.what());
  }
  return placed;
}

}  // namespace jib::tracing
