// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/spec.h"

#include <nlohmann/json.hpp>
#include <set>

#include "core/lifts/lift.h"

namespace jib::simulate {
namespace {

using Json = nlohmann::ordered_json;

// One description of the fields serves both directions, so that what is written can be read.
class Reader {
 public:
  explicit Reader(const Json& from, std::string place) : from_(from), place_(std::move(place)) {
    if (!from.is_object()) throw std::invalid_argument(place_ + " must be an object");
  }
  template <class T>
  void operator()(const char* key, T& value) {
    known_.insert(key);
    if (!from_.contains(key)) return;
    try {
      value = from_.at(key).get<T>();
    } catch (const std::exception&) {
      throw std::invalid_argument(place_ + "." + key + " has the wrong type");
    }
  }
  template <class Fields, class T>
  void inner(const char* key, Fields fields, T& value) {
    known_.insert(key);
    if (!from_.contains(key)) return;
    Reader reader(from_.at(key), place_ + "." + key);
    fields(reader, value);
    reader.refuseUnknown();
  }
  void refuseUnknown() const {
    for (const auto& [key, value] : from_.items())
      if (!known_.count(key)) throw std::invalid_argument(place_ + " knows no \"" + key + "\"");
  }

 private:
  const Json& from_;
  std::string place_;
  std::set<std::string> known_;
};

class Writer {
 public:
  template <class T>
  void operator()(const char* key, T& value) {
    to[key] = value;
  }
  template <class Fields, class T>
  void inner(const char* key, Fields fields, T& value) {
    Writer writer;
    fields(writer, value);
    to[key] = writer.to;
  }
  Json to = Json::object();
};

constexpr auto kFaults = [](auto& f, LiftFaults& s) {
  f("knee_slide_back_m", s.knee_slide_back_m);
  f("trunk_pitch_deg", s.trunk_pitch_deg);
  f("bar_drift_m", s.bar_drift_m);
  f("heel_lift_m", s.heel_lift_m);
  f("knee_cave_m", s.knee_cave_m);
  f("bar_tilt_deg", s.bar_tilt_deg);
  f("hands_left_m", s.hands_left_m);
  f("left_flare", s.left_flare);
  f("leg_drive_m", s.leg_drive_m);
  f("hip_rise_m", s.hip_rise_m);
  f("roll_m", s.roll_m);
  f("dip_m", s.dip_m);
  f("wander_m", s.wander_m);
  f("seat_lift_m", s.seat_lift_m);
  f("elbow_ahead_m", s.elbow_ahead_m);
  f("reach_m", s.reach_m);
  f("sink_m", s.sink_m);
  f("bounce", s.bounce);
};
constexpr auto kLifter = [](auto& f, LifterSpec& s) {
  f("stature_m", s.stature_m);
  f("thigh_factor", s.thigh_factor);
  f("trunk_factor", s.trunk_factor);
  f("girth_factor", s.girth_factor);
  f("stance_m", s.stance_m);
  f("toe_out_deg", s.toe_out_deg);
  f("grip_m", s.grip_m);
  f("crease_m", s.crease_m);
  f("knee_top_m", s.knee_top_m);
};
constexpr auto kSet = [](auto& f, SetSpec& s) {
  f("variant", s.variant);
  f("reps", s.reps);
  f("depth_m", s.depth_m);
  f("shin_bottom_deg", s.shin_bottom_deg);
  f("descent_s", s.descent_s);
  f("pause_s", s.pause_s);
  f("ascent_s", s.ascent_s);
  f("rest_s", s.rest_s);
  f("hold_s", s.hold_s);
  f("approach_s", s.approach_s);
  f("slack_s", s.slack_s);
  f("shaft_bend_m", s.shaft_bend_m);
  f("missed_at", s.missed_at);
  f("sticking", s.sticking);
  f("fade_ascent", s.fade_ascent);
  f("fade_depth_m", s.fade_depth_m);
  f("fade_fault", s.fade_fault);
  f("walk_out", s.walk_out);
  f.inner("faults", kFaults, s.faults);
};
constexpr auto kLook = [](auto& f, LookSpec& s) {
  f("skin", s.skin);
  f("shirt", s.shirt);
  f("shorts", s.shorts);
  f("shoes", s.shoes);
  f("socks", s.socks);
  f("hair", s.hair);
  f("plate", s.plate);
  f("wall", s.wall);
  f("floor", s.floor);
  f("light", s.light);
  f("cloth_pattern", s.cloth_pattern);
  f("safeties", s.safeties);
  f("spotter", s.spotter);
  f("stored_plates", s.stored_plates);
};
constexpr auto kCamera = [](auto& f, CameraSpec& s) {
  f("side", s.side);
  f("width", s.width);
  f("height", s.height);
  f("rate_hz", s.rate_hz);
  f("distance_m", s.distance_m);
  f("height_m", s.height_m);
  f("along_m", s.along_m);
  f("yaw_deg", s.yaw_deg);
  f("pitch_deg", s.pitch_deg);
  f("roll_deg", s.roll_deg);
  f("hfov_deg", s.hfov_deg);
  f("shake_deg", s.shake_deg);
  f("noise", s.noise);
  f("quality", s.quality);
  f("exposure_share", s.exposure_share);
};
constexpr auto kClip = [](auto& f, ClipSpec& s) {
  f("seed", s.seed);
  f("title", s.title);
  f("lift", s.lift);
  f("plate_mm", s.plate_mm);
  f("sleeve_end_m", s.sleeve_end_m);
  f("plate_face_m", s.plate_face_m);
  f("plates_each_side", s.plates_each_side);
  f("samples", s.samples);
  f.inner("lifter", kLifter, s.lifter);
  f.inner("set", kSet, s.set);
  f.inner("look", kLook, s.look);
  f.inner("camera", kCamera, s.camera);
};

tl::unexpected<Error> wrong(const std::string& what) {
  return fail(ErrorCode::BadData, "The simulation's description is wrong: " + what + ".",
              "Correct it; docs/formats.md lists the keys.");
}

}  // namespace

Result<ClipSpec> parseSpec(std::string_view json) {
  ClipSpec spec;
  try {
    const Json parsed = Json::parse(json);
    Reader reader(parsed, "spec");
    kClip(reader, spec);
    reader.refuseUnknown();
  } catch (const std::exception& e) {
    return wrong(e.what());
  }
  const CameraSpec& c = spec.camera;
  if (c.side != "left" && c.side != "right") return wrong("camera.side is \"left\" or \"right\"");
  if (c.width < 64 || c.height < 64 || c.width > 7680 || c.height > 4320) return wrong("camera.width or height");
  if (c.rate_hz < 1 || c.rate_hz > 240) return wrong("camera.rate_hz is 1 to 240");
  if (c.distance_m < 1.5 || c.hfov_deg < 10 || c.hfov_deg > 120) return wrong("camera.distance_m or hfov_deg");
  if (spec.set.reps < 0 || spec.set.reps > 50) return wrong("set.reps is 0 to 50");
  const lifts::LiftDefinition* lift = lifts::liftNamed(spec.lift);
  if (!lift) return wrong("lift is " + lifts::liftNames());
  if (!lift->body.inHands() && spec.set.variant != "low-bar" && spec.set.variant != "high-bar" &&
      spec.set.variant != "front")
    return wrong("set.variant is \"low-bar\", \"high-bar\" or \"front\"");
  if (lift->body.inHands() && spec.set.reps < 1) return wrong("set.reps is 1 to 50");
  if (spec.set.missed_at < 0 || spec.set.missed_at >= 1) return wrong("set.missed_at is 0 to less than 1");
  if (spec.lifter.stature_m < 1.2 || spec.lifter.stature_m > 2.3) return wrong("lifter.stature_m is 1.2 to 2.3");
  if (spec.samples < 1 || spec.samples > 16) return wrong("samples is 1 to 16");
  return spec;
}

std::string specToJson(const ClipSpec& spec) {
  Writer writer;
  ClipSpec copy = spec;
  kClip(writer, copy);
  return writer.to.dump(2);
}

}  // namespace jib::simulate
