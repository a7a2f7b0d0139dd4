// SPDX-License-Identifier: GPL-3.0-or-later
// Holds clips of every lift and view against their exact truth, nothing placed, and writes one row a clip and a table
// of calls (Markdown, standard output). Arguments: spec files, after --off with what is more than
// 1.64 σ off named (standard error); the clip lies beside each under the same name.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>
#include <optional>

#include "core/base/files.h"
#include "core/base/median.h"
#include "core/coaching/analysis.h"
#include "core/footage/shots.h"
#include "core/simulate/pinhole.h"
#include "core/simulate/truth_file.h"
#include "core/tracing/sightings/first_look.h"

using namespace jib;
using tracing::at;
using tracing::BodySide;
using tracing::Landmark;

namespace {

// Errors of one kind: their sizes, and how many lie within 1.64 σ.
struct Errors {
  std::vector<double> sizes;
  int covered = 0;

  void add(double error, double sigma) {
    sizes.push_back(std::abs(error));
    covered += std::abs(error) < 1.64 * sigma ? 1 : 0;
  }
  double most(double share) const {
    std::vector<double> rising = sizes;
    std::sort(rising.begin(), rising.end());
    return rising[static_cast<std::size_t>(share * static_cast<double>(rising.size() - 1))];
  }
  std::string text(std::string_view name, double unit) const {
    return fmt::format("{} {:.1f} ({:.0f} %)", name, unit * most(0.9),
                       100.0 * covered / static_cast<double>(sizes.size()));
  }
};

struct Calls {
  int right = 0, open = 0, wrong = 0;
  std::vector<double> unsure, past;  // what is said to be unsure, 1.64 σ; how far the truth lies from the limit

  void add(const Calls& other) {
    right += other.right;
    open += other.open;
    wrong += other.wrong;
    unsure.insert(unsure.end(), other.unsure.begin(), other.unsure.end());
    past.insert(past.end(), other.past.begin(), other.past.end());
  }
};

// Both sides of the body, and both ends of the bar, at one moment.
struct BothSides {
  std::array<std::array<std::optional<simulate::Vec3>, tracing::kLandmarks>, 2> side;
};

BothSides bothSidesOf(const simulate::Body& body, double sleeve_end_m) {
  BothSides out;
  for (const BodySide s : tracing::kSides) {
    const bool left = s == BodySide::Left;
    const simulate::Leg& leg = left ? body.left : body.right;
    const simulate::Arm& arm = left ? body.left_arm : body.right_arm;
    auto& places = out.side[static_cast<std::size_t>(s)];
    for (const auto& [l, place] : {std::pair{Landmark::Toe, leg.toe},
                                   {Landmark::Heel, leg.heel},
                                   {Landmark::Ankle, leg.ankle},
                                   {Landmark::Knee, leg.knee},
                                   {Landmark::Hip, leg.hip},
                                   {Landmark::Shoulder, arm.shoulder},
                                   {Landmark::Elbow, arm.elbow},
                                   {Landmark::Wrist, arm.wrist},
                                   {Landmark::Bar, body.bar + body.bar_across * (left ? sleeve_end_m : -sleeve_end_m)}})
      places[at(l)] = place;
  }
  return out;
}

// The measures a view of both sides has, of the exact places.
lifts::SetMeasures trueAcross(const simulate::Truth& truth, const std::vector<motion::Rep>& reps) {
  constexpr double kEvery_s = 1.0 / 120;
  const auto script = simulate::scriptFor(truth.spec);
  std::vector<double> times;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> middle;
  motion::FrontMotion front;
  const lifts::LiftDefinition& lift = *lifts::liftNamed(truth.spec.lift);
  for (double t = 0; t < script->duration_s(); t += kEvery_s) {
    const simulate::Body body = script->at(t);
    const BothSides both = bothSidesOf(body, truth.spec.sleeve_end_m);
    times.push_back(t);
    middle.push_back({});
    middle.back()[at(Landmark::Bar)] = MetrePoint{body.bar.x, body.bar.z};
    for (const BodySide s : tracing::kSides)
      for (const Landmark l : tracing::kAllLandmarks) {
        const auto& p = both.side[static_cast<std::size_t>(s)][at(l)];
        auto& path = front.side[static_cast<std::size_t>(s)][at(l)];
        const double up = lift.body.lying ? body.mid_shoulder.z : 0;
        path.at.push_back(p ? std::optional(MetrePoint{p->y, p->z - up}) : std::nullopt);
        path.sigma_m.push_back(0);
        path.wander_m.push_back(0);
      }
  }
  motion::Motion m = motion::exactMotion(std::move(times), middle);
  m.front = std::move(front);
  return lifts::measureSet(lift, m, reps);
}

bool naming_what_is_off = false;
bool naming_every = false;  // with --every: all measures, right or not

struct Row {
  std::map<std::string, Errors> places, angles, events, measures;
  std::map<std::string, Calls> calls;
};

// Of a film cut together of several shots one is looked at: where it begins in the film.
std::size_t firstLookedAt(const simulate::Truth& truth, const coaching::Analysis& a) {
  const auto begins = std::find_if(truth.frames.begin(), truth.frames.end(),
                                   [&](const auto& f) { return f.t_s >= a.motion.times_s.front() - 1e-3; });
  return static_cast<std::size_t>(begins - truth.frames.begin());
}

void placesFromTheSide(const simulate::Truth& truth, const coaching::Analysis& a, Row& row) {
  const auto& camera = truth.spec.camera;
  const double focal = camera.width / 2.0 / std::tan(camera.hfov_deg * kPi / 360);
  const auto& reps = truth.reps;
  const std::size_t from = firstLookedAt(truth, a);
  for (std::size_t i = 0; i < std::min(truth.frames.size() - from, a.trace.trace.size()); ++i) {
    const auto& is = truth.frames[from + i];
    const double t = is.t_s;
    if (t < reps.front().start_s - 0.5 || t > reps.back().top_s + 0.3) continue;
    for (const Landmark l : tracing::kAllLandmarks) {
      const auto& p = a.trace.trace.frames[i][at(l)];
      const auto& wanted = is.pixels[at(l)];
      if (!p || !wanted || l == Landmark::HipCrease || l == Landmark::KneeTop || l == Landmark::Plate) continue;
      const double out_m = l == Landmark::Bar ? truth.spec.sleeve_end_m : 0.17;
      const double px = focal / (camera.distance_m - out_m);
      for (const double miss : {p->place.x - wanted->place.x, p->place.y - wanted->place.y})
        row.places[std::string(tracing::titleOf(l))].add(miss / px, p->sigma_px / px);
    }
  }
}

// Across the picture; of the bar's ends how high they are, as uprights hide where a sleeve ends.
void placesFromTheFront(const simulate::Truth& truth, const coaching::Analysis& a, Row& row) {
  const simulate::Pinhole camera = simulate::Pinhole::from(truth.spec.camera);
  const auto script = simulate::scriptFor(truth.spec);
  const auto& front = *a.trace.front;
  const std::size_t from = firstLookedAt(truth, a);
  for (std::size_t i = 0; i < std::min(truth.frames.size() - from, front.frames.size()); ++i) {
    const double t = truth.frames[from + i].t_s;
    if (t < truth.reps.front().start_s - 0.5 || t > truth.reps.back().top_s + 0.3) continue;
    const BothSides both = bothSidesOf(script->at(t), truth.spec.sleeve_end_m);
    for (const BodySide s : tracing::kSides)
      for (const Landmark l : tracing::kAllLandmarks) {
        const auto& seen = front.frames[i].at(s, l);
        const auto& place = both.side[static_cast<std::size_t>(s)][at(l)];
        if (!seen || !place) continue;
        const double px = camera.focal_px / camera.depth(*place);
        const PixelPoint miss = seen->place - camera.project(*place);
        row.places[std::string(tracing::titleOf(l))].add((l == Landmark::Bar ? miss.y : miss.x) / px,
                                                         seen->sigma_px / px);
      }
  }
}

void call(const coaching::Analysis& a, const lifts::NamedMeasure& m, const lifts::Measured& truth, Row& row) {
  static const coaching::Style kStyle = *coaching::shippedStyle("balanced");
  const std::string ours = std::string(lifts::definition(a.request.lift).name) + ".";
  for (const coaching::Limit& limit : kStyle.limits) {
    if (limit.measure != m.kind->id || !limit.finding.starts_with(ours) ||
        !lifts::isOf(a.request.variant, limit.variant))
      continue;
    const auto said = coaching::verdictOf(*m.measured(), limit), is = coaching::verdictOf({truth.value, 0, 0}, limit);
    Calls& calls = row.calls[limit.finding];
    ++(said == coaching::Verdict::TooClose ? calls.open : said == is ? calls.right : calls.wrong);
    calls.unsure.push_back(1.64 * m.measured()->sigma);
    calls.past.push_back(std::abs(truth.value - limit.limit));
  }
}

void compare(const simulate::Truth& truth, const coaching::Analysis& a, Row& row) {
  const simulate::TrueSet set = simulate::trueSet(truth);
  a.trace.front ? placesFromTheFront(truth, a, row) : placesFromTheSide(truth, a, row);
  const lifts::SetMeasures measures = a.trace.front ? trueAcross(truth, set.reps) : set.measures;
  if (!a.trace.front)
    for (std::size_t i = 0; i < std::min(a.motion.angles.size(), set.motion.angles.size()); ++i) {
      const auto angle = [&](const char* name, const std::optional<double>& got, const std::optional<double>& wanted) {
        if (got && wanted) row.angles[name].add(*got - *wanted, 2.5 / 1.64);
      };
      const auto &g = a.motion.angles[i], &w = set.motion.angles[i];
      angle("shin", g.shin_deg, w.shin_deg);
      angle("trunk", g.torso_deg, w.torso_deg);
    }
  for (const motion::Rep& rep : a.reps)
    for (std::size_t k = 0; k < set.reps.size(); ++k) {
      const motion::Rep& is = set.reps[k];
      constexpr double kSameRep_s = 1.0;
      if (std::abs(rep.lockout_t() - is.lockout_t()) > kSameRep_s) continue;
      for (const lifts::EventName& name : lifts::definition(a.request.lift).events)
        if (const auto got = rep.when(name.kind), wanted = is.when(name.kind); got && wanted) {
          if (naming_what_is_off && std::abs(*got - *wanted) > 0.1)
            fmt::print(stderr, "rep {}: {} at {:.3f} s, is {:.3f}\n", k + 1, name.title, *got, *wanted);
          row.events[std::string(name.title)].add(*got - *wanted, 1.5 / truth.spec.camera.rate_hz / 1.64);
        }
      const auto& found = a.measures.reps[static_cast<std::size_t>(&rep - a.reps.data())];
      for (const auto& m : found) {
        const auto* wanted = lifts::find(measures.reps[k], m.kind->id);
        if (!m.measured() || !wanted || !wanted->measured()) continue;
        if (naming_every || (naming_what_is_off &&
                             std::abs(m.measured()->value - wanted->measured()->value) > 1.64 * m.measured()->sigma))
          fmt::print(stderr, "rep {}: {} said {:.4g}, 1 σ {:.2g}, is {:.4g}\n", k + 1, m.kind->id, m.measured()->value,
                     m.measured()->sigma, wanted->measured()->value);
        row.measures[std::string(m.kind->id)].add(m.measured()->value - wanted->measured()->value, m.measured()->sigma);
        call(a, m, *wanted->measured(), row);
      }
    }
}

std::string joined(const std::map<std::string, Errors>& rows, double unit, bool worst = false) {
  std::string text;
  for (const auto& [name, errors] : rows) {
    if (!text.empty()) text += ", ";
    text += worst ? fmt::format("{} {:.0f}", name, unit * errors.most(1)) : errors.text(name, unit);
  }
  return text;
}

void add(std::map<std::string, Errors>& to, const std::map<std::string, Errors>& from) {
  for (const auto& [name, errors] : from) {
    Errors& all = to[name];
    all.sizes.insert(all.sizes.end(), errors.sizes.begin(), errors.sizes.end());
    all.covered += errors.covered;
  }
}

void printMeasures(const std::map<std::string, Errors>& rows) {
  fmt::print("\n| measure | n | 50 % | 90 % | within 1.64 σ |\n| --- | --- | --- | --- | --- |\n");
  for (const auto& [name, errors] : rows) {
    const auto shown = lifts::shown(*lifts::measureDefinition(name), {1, 0, 0});
    fmt::print("| `{}`{}{} | {} | {:.{}f} | {:.{}f} | {:.0f} % |\n", name, shown.unit.empty() ? "" : ", ", shown.unit,
               errors.sizes.size(), shown.value * errors.most(0.5), shown.decimals + 1, shown.value * errors.most(0.9),
               shown.decimals + 1, 100.0 * errors.covered / static_cast<double>(errors.sizes.size()));
  }
}

void printCalls(const std::map<std::string, Calls>& calls) {
  fmt::print(
      "\n| finding | right | left open | wrong | ± said | truth from the limit |\n"
      "| --- | --- | --- | --- | --- | --- |\n");
  Calls all;
  for (const auto& [finding, c] : calls) {
    fmt::print("| `{}` | {} | {} | {} | {:.3g} | {:.3g} |\n", finding, c.right, c.open, c.wrong, median(c.unsure),
               median(c.past));
    all.add(c);
  }
  fmt::print("| all | {} | {} | {} | | |\n", all.right, all.open, all.wrong);
}

// What is said of the camera's place, by each of those who may say something.
void nameCamera(const coaching::Analysis& a, const simulate::CameraSpec& is) {
  const auto& c = a.trace.camera;
  std::vector<tracing::PoseReading> readings;
  if (a.trace.sightings)
    for (const auto& s : *a.trace.sightings) readings.push_back(s.reading);
  fmt::print(
      stderr,
      "camera: yaw {:.1f} ± {:.1f} ({}), by the sightings {:.1f}, by the rim {:.1f} tilt {:.0f}, is {:.1f}; pitch "
      "{:.1f} ± {:.1f}, is {:.1f}; roll {:.1f} ± {:.1f}, is {:.1f}; {:.2f} m away ± {:.1f} %, is {:.2f}; tall {:.2f}; "
      "turned {:.1f}{}{}\n",
      degrees(c.yaw_rad), degrees(c.yaw_sigma_rad), a.trace.bar->vanishing ? "bar" : "no end seen",
      tracing::viewFrom(readings).turned_deg, degrees(std::acos(std::clamp(a.trace.bar->rim.aspect, 0.0, 1.0))),
      degrees(a.trace.bar->rim.tilt_rad), is.yaw_deg, degrees(c.pitch_rad), degrees(c.pitch_sigma_rad), is.pitch_deg,
      degrees(c.roll_rad), degrees(c.roll_sigma_rad), is.roll_deg, c.distance_m(), 100 * c.scale_sigma_rel,
      is.distance_m, a.trace.body ? a.trace.body->skeleton.stature_m() : 0.0, a.motion.calibration.turned_deg,
      a.motion.calibration.oblique ? ", oblique" : "", a.trace.turn.far_plate ? ", far plate" : "");
}

// "2 of 2", "1 of 1, 1 of 1 missed".
std::string counted(const coaching::Analysis& a, const simulate::Truth& truth) {
  const auto missed = std::count_if(truth.reps.begin(), truth.reps.end(), [](const auto& r) { return r.share_up < 1; });
  std::string text = fmt::format("{} of {}", a.reps.size(), static_cast<long>(truth.reps.size()) - missed);
  if (missed > 0) text += fmt::format(", {} of {} missed", a.misses.size(), missed);
  return text;
}

}  // namespace

int main(int argc, char** argv) {
  const auto style = coaching::shippedStyle("balanced");
  const auto book = coaching::CueBook::shipped();
  Row all;
  fmt::print(
      "\n| clip | view said | reps | places, cm: 90 % (share within 1.64 σ) | angles, °: 90 % (share within 2.5) | "
      "events, "
      "ms: worst | calls: right, open, wrong |\n| --- | --- | --- | --- | --- | --- | --- |\n");
  for (int i = 1; i < argc; ++i) {
    const std::filesystem::path file = argv[i];
    if (file == "--off") {
      naming_what_is_off = true;
      continue;
    }
    if (file == "--every") {
      naming_every = true;
      continue;
    }
    if (naming_what_is_off || naming_every) fmt::print(stderr, "{}\n", file.stem().string());
    auto bytes = FileSystem::real().read(file);
    auto spec = bytes ? simulate::parseSpec(*bytes) : Result<simulate::ClipSpec>(fail(bytes.error()));
    if (!spec) {
      fmt::print(stderr, "{}: {}\n", argv[i], spec.error().sentence());
      return 2;
    }
    const simulate::Truth truth = simulate::truthOf(*spec);
    Task looking;
    auto reader = footage::openFilmed(std::filesystem::path(file).replace_extension(".mp4"), looking);
    coaching::AnalysisRequest request;
    request.lift = lifts::liftNamed(spec->lift)->id;
    request.variant = spec->set.variant;
    request.trace.camera.rim_m = spec->plate_mm / 1000;
    Task task;
    const auto a = reader ? coaching::analyse(*reader, request, *style, *book, task)
                          : Result<coaching::Analysis>(fail(reader.error()));
    if (!a) {
      fmt::print("| {} | – | 0 of {} | {} | | | |\n", file.stem().string(), truth.reps.size(), a.error().sentence());
      continue;
    }
    Row row;
    if (naming_what_is_off) nameCamera(*a, spec->camera);
    compare(truth, *a, row);
    Calls calls;
    for (const auto& [finding, c] : row.calls) {
      calls.add(c);
      all.calls[finding].add(c);
      if (c.wrong > 0) fmt::print(stderr, "{}: {} wrong {} times\n", file.stem().string(), finding, c.wrong);
    }
    const std::string view = a->trace.front ? std::string(tracing::nameOf(a->trace.front->facing)) : "side";
    fmt::print("| {} | {} | {} | {} | {} | {} | {}, {}, {} |\n", file.stem().string(), view, counted(*a, truth),
               joined(row.places, 100), joined(row.angles, 1), joined(row.events, 1000, true), calls.right, calls.open,
               calls.wrong);
    std::fflush(stdout);
    add(all.measures, row.measures);
  }
  printMeasures(all.measures);
  printCalls(all.calls);
  return 0;
}
