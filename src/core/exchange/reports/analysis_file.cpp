// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/analysis_file.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/library/review_store.h"
#include "core/tracing/trace_store.h"

namespace jib::exchange {
namespace {

using Json = nlohmann::ordered_json;
using coaching::Analysis;
using tracing::Landmark;

// Nothing was done to the picture but to cut its borders away.
bool cutOnly(const footage::Upright& upright) {
  return !upright.shown().whole() && upright == upright.asFound();
}

double rounded(double v, double step) {
  return std::round(v / step) * step;
}

Json numberOr(const std::optional<double>& v, double step) {
  return v ? Json(rounded(*v, step)) : Json();
}

Json measureToJson(const lifts::NamedMeasure& m) {
  if (const auto* measured = m.measured())
    return {{"value", measured->value}, {"sigma", measured->sigma}, {"t", measured->t_s}, {"unit", m.kind->unit}};
  return {{"absent", std::get<lifts::Absent>(m.measure).reason}};
}

Json listToJson(const lifts::MeasureList& list) {
  Json all = Json::object();
  for (const auto& m : list) all[std::string(m.kind->id)] = measureToJson(m);
  return all;
}

Json frameToJson(const Analysis& a, std::size_t i) {
  Json points = Json::object();
  const auto kept = [from = cutAway(a.clip)](const tracing::TracedPoint& p) {
    return Json{rounded(p.place.x + from.x, 1e-3), rounded(p.place.y + from.y, 1e-3), rounded(p.sigma_px, 1e-3)};
  };
  // From the front and the rear each side by name; the middle of the bar stands in no file.
  if (a.trace.front)
    for (const tracing::BodySide side : tracing::kSides)
      for (Landmark l : tracing::kAllLandmarks)
        if (const auto& p = a.trace.front->frames[i].at(side, l)) points[tracing::nameOf({l, side})] = kept(*p);
  for (Landmark l : tracing::kAllLandmarks) {
    const auto& p = a.trace.trace.frames[i][tracing::at(l)];
    if (p && !a.trace.front) points[std::string(tracing::nameOf(l))] = kept(*p);
  }
  const motion::Angles& angles = a.motion.angles[i];
  const auto& bar = a.motion.path(Landmark::Bar).at[i];
  return {{"t", a.motion.times_s[i]},
          {"points", points},
          {"angles",
           {{"shin_deg", numberOr(angles.shin_deg, 1e-3)},
            {"torso_deg", numberOr(angles.torso_deg, 1e-3)},
            {"thigh_deg", numberOr(angles.thigh_deg, 1e-3)},
            {"knee_deg", numberOr(angles.knee_deg, 1e-3)},
            {"hip_deg", numberOr(angles.hip_deg, 1e-3)},
            {"elbow_deg", numberOr(angles.elbow_deg, 1e-3)}}},
          {"bar_m", bar ? Json{rounded(bar->x, 1e-5), rounded(bar->z, 1e-5)} : Json()}};
}

// Every event under the name the lift has for it; those that all lifts are asked for under the common names as well,
// null where a rep has none.
Json eventsToJson(const lifts::LiftDefinition& lift, const motion::Rep& r) {
  Json events{{"type", nameOf(r.type)},   {"start_t", nullptr},   {"bottom_t", r.bottom_t()},
              {"ascent_t", r.ascent_t()}, {"lockout_t", nullptr}, {"end_t", nullptr}};
  Json sigmas = Json::object();
  for (const lifts::EventName& name : lift.events)
    if (const auto t = r.when(name.kind)) {
      events[std::string(name.key)] = *t;
      sigmas[std::string(name.key)] = r.sigma_s(name.kind);
    }
  events["sigma_s"] = std::move(sigmas);
  return events;
}

Json repToJson(const Analysis& a, std::size_t i) {
  const lifts::LiftDefinition& lift = lifts::definition(a.request.lift);
  const motion::Rep& r = a.reps[i];
  Json rep = eventsToJson(lift, r);
  if (lift.pattern == motion::RepPattern::DownFirst) {
    rep["eccentric_s"] = a.motion.real_s(r.start_t(), r.bottom_t());
    rep["pause_s"] = a.motion.real_s(r.bottom_t(), r.ascent_t());
  } else {
    const auto from = r.when(motion::EventKind::Lowering), to = r.when(motion::EventKind::End);
    rep["eccentric_s"] = from && to ? Json(a.motion.real_s(*from, *to)) : Json();
  }
  rep["concentric_s"] = a.motion.real_s(r.ascent_t(), r.lockout_t());
  rep["measures"] = listToJson(a.measures.reps[i]);
  return rep;
}

// Files of before held the number.
tracing::View viewOfRequest(const nlohmann::json& j) {
  if (j.is_number_integer()) return j == 1 ? tracing::View::Left : j == 2 ? tracing::View::Right : tracing::View::Auto;
  return tracing::viewNamed(j.get<std::string>()).value_or(tracing::View::Auto);
}

std::string_view nameOf(coaching::Standing standing) {
  return standing == coaching::Standing::Supported  ? "supported"
         : standing == coaching::Standing::Unlikely ? "unlikely"
                                                    : "open";
}

Json rivalsToJson(const std::vector<coaching::RivalCause>& rivals) {
  Json all = Json::array();
  const auto texts = [](const std::vector<coaching::Evidence>& evidence) {
    Json list = Json::array();
    for (const auto& e : evidence) list.push_back(coaching::textOf(e));
    return list;
  };
  for (const auto& r : rivals) {
    all.push_back({{"cause", r.cause},
                   {"standing", nameOf(r.standing)},
                   {"for", texts(r.speaking_for)},
                   {"against", texts(r.speaking_against)},
                   {"test", r.test}});
    if (r.helped) all.back()["helped"] = *r.helped;
  }
  return all;
}

Json findingToJson(const coaching::Finding& f) {
  if (f.by_eye)
    return {{"id", f.id},
            {"reps", f.reps},
            {"verdict", coaching::nameOf(f.verdict)},
            {"severity", f.severity},
            {"by_eye", true},
            {"t", f.worst.t_s},
            {"causes", f.causes}};
  return {{"id", f.id},
          {"reps", f.reps},
          {"verdict", coaching::nameOf(f.verdict)},
          {"severity", f.severity},
          {"measure", f.kind->id},
          {"value", f.worst.value},
          {"sigma", f.worst.sigma},
          {"limit", f.limit},
          {"unit", f.kind->unit},
          {"t", f.worst.t_s},
          {"causes", f.causes},
          {"rivals", rivalsToJson(f.rivals)},
          {"settle", f.verdict == coaching::Verdict::TooClose ? Json(f.settle) : Json()}};
}

// "width" and "height" are the whole picture's; "filmed" is the part inside the borders, "shot" the stretch that was
// looked at of a film cut together of several. "frames" and "duration_s" are that stretch's.
Json clipToJson(const Analysis& a) {
  const bool cut = cutOnly(a.clip.upright);
  const footage::PictureArea& area = a.clip.upright.filmed;
  Json clip{{"file", a.clip.file.string()},
            {"width", cut ? a.clip.as_it_came.width : a.clip.width},
            {"height", cut ? a.clip.as_it_came.height : a.clip.height},
            {"duration_s", a.clip.duration_s()},
            {"frames", a.clip.frames()},
            {"lift", lifts::definition(a.request.lift).name},
            {"variant", a.request.variant},
            {"view", coaching::viewName(a)},
            {"near_side", coaching::viewName(a)},
            {"slow_factor", a.request.slow_factor}};
  if (cut) clip["filmed"] = {area.x, area.y, area.width, area.height};
  if (const footage::Shot* shot = a.clip.upright.shownShot()) clip["shot"] = {shot->from_s, shot->to_s};
  return clip;
}

void clipFromJson(const nlohmann::json& clip, footage::ClipInfo& info) {
  info.file = clip.at("file").get<std::string>();
  info.width = clip.at("width");
  info.height = clip.at("height");
  info.upright = footage::uprightOf(info.file);
  if (clip.contains("filmed")) {
    const auto& area = clip.at("filmed");
    info.as_it_came = {info.width, info.height};
    info.upright = {};
    info.upright.filmed = {area.at(0), area.at(1), area.at(2), area.at(3)};
    info.width = area.at(2);
    info.height = area.at(3);
  }
  // Whoever opens the clip by this hands out that shot's frames, as they were counted.
  if (clip.contains("shot")) {
    info.upright.shots = {{clip.at("shot").at(0), clip.at("shot").at(1)}};
    info.upright.shot = 0;
  }
}

Json requestToJson(const coaching::AnalysisRequest& r) {
  const auto& c = r.trace.camera;
  return {{"lift", lifts::definition(r.lift).name},
          {"variant", r.variant},
          {"slow_factor", r.slow_factor},
          {"view", nameOf(r.trace.view)},
          {"plate_m", c.rim_m},
          {"marks", Json::parse(coaching::marksToJson(r.marks))},
          {"placed", tracing::placedToJson(r.trace.placed)}};
}

}  // namespace

PixelPoint cutAway(const footage::ClipInfo& clip) {
  if (!cutOnly(clip.upright)) return {};
  return {static_cast<double>(clip.upright.filmed.x), static_cast<double>(clip.upright.filmed.y)};
}

std::string analysisToJson(const Analysis& a) {
  // long because the file, top to bottom, as docs/formats.md lists it
  const auto& camera = a.trace.camera;
  Json frames = Json::array(), reps = Json::array(), findings = Json::array(), cues = Json::array(),
       notices = Json::array(), misses = Json::array();
  for (std::size_t i = 0; i < a.motion.times_s.size(); ++i) frames.push_back(frameToJson(a, i));
  for (std::size_t i = 0; i < a.reps.size(); ++i) reps.push_back(repToJson(a, i));
  for (const auto& f : a.findings) findings.push_back(findingToJson(f));
  cues = Json::parse(library::cuesToJson(a.proposal.cues));
  for (const auto& m : a.misses)
    misses.push_back(
        {{"start_t", m.start_t()}, {"bottom_t", m.bottom_t()}, {"highest_t", m.lockout_t()}, {"risen", m.risen}});
  for (const auto& n : a.notices) notices.push_back({{"id", n.id}, {"text", n.text}});
  Json parked = Json::array();
  for (const auto& p : a.proposal.parked) parked.push_back({{"finding", p.finding}, {"why", p.why}});
  const Json json{{"schema", "jagged-jib/analysis"},
                  {"version", 1},
                  {"clip", clipToJson(a)},
                  {"scale",
                   {{"pixels_per_metre", a.motion.calibration.pixels_per_metre},
                    {"sigma_rel", a.motion.calibration.scale_sigma_rel},
                    {"source", "rim"},
                    {"plate_m", a.request.trace.camera.rim_m}}},
                  {"camera",
                   {{"yaw_deg", degrees(camera.yaw_rad)},
                    {"pitch_deg", degrees(camera.pitch_rad)},
                    {"roll_deg", degrees(camera.roll_rad)},
                    {"distance_m", camera.distance_m()},
                    {"focal_px", camera.focal_px},
                    {"focal_sigma_rel", camera.focal_sigma_rel},
                    {"lens", a.trace.focal_35mm  ? "file"
                             : a.trace.far_plate ? "both plates"
                                                 : "assumed"},
                    {"bend_at_corner", camera.bend.per_px2 * dot(camera.middle, camera.middle)},
                    {"bend_at_corner_sigma", camera.bend.sigma_per_px2 * dot(camera.middle, camera.middle)},
                    {"moving", !a.trace.trace.camera_moves.empty()}}},
                  {"frames", frames},
                  {"reps", reps},
                  {"misses", misses},
                  {"measures", listToJson(a.measures.set)},
                  {"findings", findings},
                  {"proposed",
                   {{"keep", a.proposal.keep},
                    {"cues", cues},
                    {"parked", parked},
                    {"remarks", a.proposal.remarks},
                    {"change_nothing", a.proposal.change_nothing}}},
                  {"notices", notices},
                  {"style", a.style_id},
                  {"switches", a.switches},
                  {"request", requestToJson(a.request)},
                  {"tracing", tracing::traceToJson(a.trace)}};
  return json.dump(1);
}

StyleName styleNamedIn(const std::filesystem::path& file) {
  StyleName name;
  const auto bytes = FileSystem::real().read(file);
  const auto j = nlohmann::json::parse(bytes ? *bytes : std::string(), nullptr, false);
  if (!j.is_object()) return name;
  if (const auto it = j.find("style"); it != j.end() && it->is_string()) name.id = it->get<std::string>();
  if (const auto it = j.find("switches"); it != j.end() && it->is_object())
    for (const auto& [topic, choice] : it->items())
      if (choice.is_string()) name.switches[topic] = choice.get<std::string>();
  return name;
}

Result<Analysis> readAnalysis(const std::filesystem::path& file, const coaching::Style& style,
                              const coaching::CueBook& book) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  const auto wrong = [&](const std::string& what) {
    return fail(ErrorCode::BadData, file.filename().string() + " is not an analysis that can be used: " + what + ".",
                "Make it again with jib analyze.");
  };
  try {
    const nlohmann::json j = nlohmann::json::parse(*bytes);
    if (j.at("schema") != "jagged-jib/analysis") return wrong("another schema");
    Analysis a;
    const auto& request = j.at("request");
    const lifts::LiftDefinition* lift = lifts::liftNamed(request.at("lift").get<std::string>());
    if (!lift) return wrong("another lift");
    a.request.lift = lift->id;
    a.request.variant = request.at("variant");
    a.request.slow_factor = request.at("slow_factor");
    a.request.trace.view = viewOfRequest(request.at("view"));
    a.request.trace.body = lift->bodyOf(a.request.variant);
    a.request.trace.camera.rim_m = request.at("plate_m");
    for (const char* key : {"by_eye", "marks"})  // as older files have them, and as they are written now
      if (request.contains(key)) a.request.marks = coaching::marksFromJson(request.at(key).dump());
    auto placed = tracing::placedFromJson(request.at("placed"));
    if (!placed) return fail(placed.error());
    a.request.trace.placed = std::move(*placed);
    auto trace = tracing::traceFromJson(j.at("tracing"));
    if (!trace) return fail(trace.error());
    a.trace = std::move(*trace);
    clipFromJson(j.at("clip"), a.clip);
    a.clip.times_s = a.trace.bar->times_s;
    tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
    coaching::judgeAgain(a, style, book);
    return a;
  } catch (const std::exception& e) {
    return wrong(e.what());
  }
}

std::string tracksToCsv(const Analysis& a) {
  std::string csv = "t_s";
  for (Landmark l : tracing::kAllLandmarks) csv += fmt::format(",{0}_x_px,{0}_y_px", tracing::nameOf(l));
  csv += ",bar_x_m,bar_z_m,bar_vz_mps,shin_deg,torso_deg,thigh_deg,knee_deg,hip_deg,elbow_deg\n";
  const PixelPoint from = cutAway(a.clip);
  const auto cell = [&](const std::optional<double>& v) { csv += v ? fmt::format(",{:.4f}", *v) : ","; };
  for (std::size_t i = 0; i < a.motion.times_s.size(); ++i) {
    csv += fmt::format("{:.6f}", a.motion.times_s[i]);
    for (Landmark l : tracing::kAllLandmarks) {
      const auto p = a.trace.trace.place(i, l);
      cell(p ? std::optional(p->x + from.x) : std::nullopt);
      cell(p ? std::optional(p->y + from.y) : std::nullopt);
    }
    const auto& bar = a.motion.path(Landmark::Bar).at[i];
    cell(bar ? std::optional(bar->x) : std::nullopt);
    cell(bar ? std::optional(bar->z) : std::nullopt);
    cell(a.motion.bar_vz_mps[i]);
    const motion::Angles& angles = a.motion.angles[i];
    for (const auto& angle :
         {angles.shin_deg, angles.torso_deg, angles.thigh_deg, angles.knee_deg, angles.hip_deg, angles.elbow_deg})
      cell(angle);
    csv += '\n';
  }
  return csv;
}

}  // namespace jib::exchange
