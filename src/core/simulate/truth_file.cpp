// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/truth_file.h"

#include <nlohmann/json.hpp>

namespace jib::simulate {
namespace {

using Json = nlohmann::ordered_json;

motion::Motion motionOfTruth(const std::vector<TrueFrame>& frames) {
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  for (const TrueFrame& f : frames) {
    times.push_back(f.t_s);
    metres.push_back(f.metres);
  }
  return motion::exactMotion(std::move(times), metres);
}

Json numberOr(const std::optional<double>& v) {
  return v ? Json(*v) : Json();
}

}  // namespace

TrueSet trueSet(const Truth& truth) {
  // Events between frames: the same script, sampled twenty times as finely as a phone does.
  ClipSpec fine = truth.spec;
  fine.camera.rate_hz = 600;
  fine.camera.shake_deg = 0;
  TrueSet set;
  const motion::Motion dense = motionOfTruth(truthOf(fine).frames);
  const lifts::LiftDefinition& lift = *lifts::liftNamed(truth.spec.lift);
  set.reps = motion::findReps(dense, lift.pattern);
  // When a rest begins and ends was scripted: that is not for the code that is held against it to say.
  if (lift.pattern == motion::RepPattern::DownFirst)
    for (motion::Rep& rep : set.reps)
      for (const ScriptedRep& is : truth.reps)
        if (rep.bottom_t() > is.start_s && rep.bottom_t() < is.top_s) {
          rep.set(motion::EventKind::Bottom, is.bottom_s);
          rep.set(motion::EventKind::Ascent, is.ascent_s);
          if (is.ascent_s > is.bottom_s) rep.type = motion::RepType::Paused;
        }
  set.measures = lifts::measureSet(lift, dense, set.reps);
  set.motion = motionOfTruth(truth.frames);
  return set;
}

std::string truthToJson(const Truth& truth) {
  const TrueSet set = trueSet(truth);
  Json frames = Json::array(), reps = Json::array();
  for (std::size_t i = 0; i < truth.frames.size(); ++i) {
    Json points = Json::object();
    for (tracing::Landmark l : tracing::kAllLandmarks)
      if (const auto& p = truth.frames[i].pixels[tracing::at(l)])
        points[std::string(tracing::nameOf(l))] = {p->place.x, p->place.y};
    const motion::Angles& a = set.motion.angles[i];
    const auto& bar = set.motion.path(tracing::Landmark::Bar).at[i];
    frames.push_back({{"t", truth.frames[i].t_s},
                      {"points", points},
                      {"angles",
                       {{"shin_deg", numberOr(a.shin_deg)},
                        {"torso_deg", numberOr(a.torso_deg)},
                        {"thigh_deg", numberOr(a.thigh_deg)},
                        {"knee_deg", numberOr(a.knee_deg)},
                        {"hip_deg", numberOr(a.hip_deg)}}},
                      {"bar_m", bar ? Json{bar->x, bar->z} : Json()}});
  }
  const auto list = [](const lifts::MeasureList& measures) {
    Json all = Json::object();
    for (const auto& m : measures)
      if (const auto* measured = m.measured())
        all[std::string(m.kind->id)] = {{"value", measured->value}, {"t", measured->t_s}, {"unit", m.kind->unit}};
    return all;
  };
  for (std::size_t i = 0; i < set.reps.size(); ++i) {
    const motion::Rep& r = set.reps[i];
    Json rep{{"bottom_t", r.bottom_t()}, {"ascent_t", r.ascent_t()}, {"measures", list(set.measures.reps[i])}};
    for (const lifts::EventName& name : lifts::liftNamed(truth.spec.lift)->events)
      if (const auto t = r.when(name.kind)) rep[std::string(name.key)] = *t;
    reps.push_back(std::move(rep));
  }
  const Json json{{"schema", "jagged-jib/truth"},
                  {"version", 1},
                  {"spec", Json::parse(specToJson(truth.spec))},
                  {"frames", frames},
                  {"reps", reps},
                  {"measures", list(set.measures.set)}};
  return json.dump(1);
}

}  // namespace jib::simulate
