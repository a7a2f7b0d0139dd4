// SPDX-License-Identifier: GPL-3.0-or-later
// Holds the tracing of made-up clips against their exact truth and writes the table of errors (Markdown, standard
// output). Arguments: spec files; the clip lies beside each under the same name.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>
#include <optional>

#include "core/base/files.h"
#include "core/coaching/analysis.h"
#include "core/simulate/truth_file.h"

using namespace jib;
using tracing::at;
using tracing::Landmark;

namespace {

struct Errors {
  std::vector<double> signed_errors;
  int covered = 0, judged = 0;

  void add(double error, double sigma) {
    signed_errors.push_back(error);
    ++judged;
    covered += std::abs(error) < 1.64 * sigma ? 1 : 0;
  }
  // The absolute error that this share of all stays under.
  double size(double share) const {
    std::vector<double> sizes;
    for (double e : signed_errors) sizes.push_back(std::abs(e));
    std::sort(sizes.begin(), sizes.end());
    return sizes[static_cast<std::size_t>(share * static_cast<double>(sizes.size() - 1))];
  }
  std::string row(const std::string& name, double unit, int decimals) const {
    double sum = 0;
    for (double e : signed_errors) sum += e * unit;
    const auto at_share = [&](double p) { return unit * size(p); };
    const auto count = signed_errors.size();
    return fmt::format("| {} | {} | {:+.{}f} | {:.{}f} | {:.{}f} | {:.{}f} | {:.0f} % |\n", name, count,
                       sum / static_cast<double>(count), decimals, at_share(0.5), decimals, at_share(0.9), decimals,
                       at_share(0.95), decimals, 100.0 * covered / judged);
  }
};

// How often a yes-or-no call came out as the truth has it, was left open, or was wrong.
struct Calls {
  int right = 0, open = 0, wrong = 0;
};

struct Tables {
  std::map<std::string, Errors> places, angles, events, measures;
  std::map<std::string, Calls> calls;  // by finding, over reps
  int reps_found = 0, reps_true = 0, clips = 0, bodies = 0;
};

tracing::PlacedFrame placedAt(const simulate::Truth& truth, double t, bool all) {
  const auto frame =
      std::min(truth.frames.size() - 1, static_cast<std::size_t>(std::lround(t * truth.spec.camera.rate_hz)));
  tracing::PlacedFrame p{truth.frames[frame].t_s, {}};
  for (Landmark l : tracing::kAllLandmarks) {
    const bool six = std::find(tracing::kPlacedLandmarks.begin(), tracing::kPlacedLandmarks.end(), l) !=
                     tracing::kPlacedLandmarks.end();
    const bool upper = l == Landmark::Knee || l == Landmark::Hip || l == Landmark::Shoulder ||
                       l == Landmark::HipCrease || l == Landmark::KneeTop;
    if (all ? six : upper) p.points[at(l)] = truth.frames[frame].pixels[at(l)]->place;
  }
  return p;
}

void call(Tables& tables, const coaching::Analysis& a, const lifts::NamedMeasure& m, const lifts::Measured& truth) {
  static const coaching::Style kStyle = *coaching::shippedStyle("balanced");
  const std::string ours = std::string(lifts::definition(a.request.lift).name) + ".";
  for (const coaching::Limit& limit : kStyle.limits) {
    if (limit.measure != m.kind->id || !limit.finding.starts_with(ours) || !limit.variant.empty()) continue;
    const auto said = coaching::verdictOf(*m.measured(), limit), is = coaching::verdictOf({truth.value, 0, 0}, limit);
    Calls& calls = tables.calls[limit.finding];
    ++(said == coaching::Verdict::TooClose ? calls.open : said == is ? calls.right : calls.wrong);
  }
}

void compare(const simulate::Truth& truth, const coaching::Analysis& a, Tables& tables) {
  const simulate::TrueSet set = simulate::trueSet(truth);
  const auto& camera = truth.spec.camera;
  const double focal = camera.width / 2.0 / std::tan(camera.hfov_deg * 3.14159265358979 / 360);
  for (std::size_t i = 0; i < std::min(truth.frames.size(), a.trace.trace.size()); ++i) {
    for (Landmark l : tracing::kAllLandmarks) {
      const auto& p = a.trace.trace.frames[i][at(l)];
      if (!p) continue;
      const double px = focal / (camera.distance_m - (l == Landmark::Bar     ? truth.spec.sleeve_end_m
                                                      : l == Landmark::Plate ? truth.spec.plate_face_m
                                                                             : 0.17));
      const PixelPoint miss = p->place - truth.frames[i].pixels[at(l)]->place;
      tables.places[std::string(tracing::titleOf(l))].add(miss.x / px, p->sigma_px / px);
      tables.places[std::string(tracing::titleOf(l))].add(miss.y / px, p->sigma_px / px);
    }
    const auto angle = [&](const char* name, const std::optional<double>& got, const std::optional<double>& wanted) {
      if (got && wanted) tables.angles[name].add(*got - *wanted, 2.5 / 1.64);
    };
    const auto &g = a.motion.angles[i], &w = set.motion.angles[i];
    angle("shin", g.shin_deg, w.shin_deg);
    angle("trunk", g.torso_deg, w.torso_deg);
    angle("thigh", g.thigh_deg, w.thigh_deg);
    angle("knee", g.knee_deg, w.knee_deg);
    angle("hip", g.hip_deg, w.hip_deg);
  }
  tables.reps_found += static_cast<int>(a.reps.size());
  tables.reps_true += static_cast<int>(set.reps.size());
  ++tables.clips;
  tables.bodies += a.trace.body ? 1 : 0;
  for (std::size_t i = 0; i < std::min(a.reps.size(), set.reps.size()); ++i) {
    const double frame_s = 1.0 / camera.rate_hz;
    tables.events["descent starts"].add(a.reps[i].start_t() - set.reps[i].start_t(), frame_s);
    tables.events["bottom"].add(a.reps[i].bottom_t() - set.reps[i].bottom_t(), frame_s);
    tables.events["lockout"].add(a.reps[i].lockout_t() - set.reps[i].lockout_t(), frame_s);
    for (const auto& m : a.measures.reps[i]) {
      const auto* wanted = lifts::find(set.measures.reps[i], m.kind->id);
      if (m.measured() && wanted && wanted->measured()) call(tables, a, m, *wanted->measured());
      if (m.measured() && wanted && wanted->measured())
        tables.measures[std::string(m.kind->id)].add(m.measured()->value - wanted->measured()->value,
                                                     m.measured()->sigma);
    }
  }
}

void print(const char* title, const std::map<std::string, Errors>& rows, double unit, const char* unit_name,
           int decimals) {
  fmt::print(
      "\n{}, in {}:\n\n| | n | bias | 50 % | 90 % | 95 % | within 1.64 σ |\n| --- | --- | --- | --- | --- | --- | --- "
      "|\n",
      title, unit_name);
  for (const auto& [name, errors] : rows) fmt::print("{}", errors.row(name, unit, decimals));
}

void printMeasures(const std::map<std::string, Errors>& rows) {
  fmt::print(
      "\nMeasures, each in its own unit (metres as centimetres):\n\n| | n | bias | 50 % | 90 % | 95 % | within 1.64 σ "
      "|\n| --- | --- | --- | --- | --- | --- | --- |\n");
  for (const auto& [name, errors] : rows) {
    const auto* kind = lifts::measureDefinition(name);
    const auto shown = lifts::shown(*kind, {1, 0, 0});
    fmt::print("{}", errors.row(fmt::format("`{}`{}{}", name, shown.unit.empty() ? "" : ", ", shown.unit), shown.value,
                                shown.decimals + 1));
  }
}

// One way of tracing, over all clips.
struct Way {
  const char* title;
  int placed = 0, bottoms = 0;
  tracing::TraceParts parts = {};
  bool one_plane = false;  // bar, plate and leg taken to stand at the same distance
};

// A clip with its truth; bar and sightings are found once and used by every way.
struct Clip {
  std::filesystem::path file;
  simulate::Truth truth;
  tracing::KnownTrace known;
};

Result<Tables> tablesOf(std::vector<Clip>& clips, const Way& way) {
  const auto style = coaching::shippedStyle("balanced");
  const auto book = coaching::CueBook::shipped();
  Tables tables;
  for (Clip& clip : clips) {
    auto reader = footage::FrameReader::open(std::filesystem::path(clip.file).replace_extension(".mp4"));
    if (!reader) return fail(reader.error());
    coaching::AnalysisRequest request;
    const lifts::LiftDefinition& lift = *lifts::liftNamed(clip.truth.spec.lift);
    request.lift = lift.id;
    request.variant = clip.truth.spec.set.variant;
    request.trace.parts = way.parts;
    if (way.one_plane) {
      auto& c = request.trace.camera;
      c.plate_m = c.hip_m = c.ankle_m = c.toe_out_rad = 0;
    }
    const auto& reps = clip.truth.reps;
    // Where a coach would place them: standing with the bar.
    const bool pulled = lift.pattern == motion::RepPattern::UpFirst;
    const double stands_s = pulled ? reps.front().top_s + 0.2 : reps.front().start_s - 0.2;
    if (way.placed > 0) request.trace.placed = {placedAt(clip.truth, stands_s, true)};
    for (int k = 0; k < way.bottoms && k < static_cast<int>(reps.size()); ++k)
      request.trace.placed.push_back(placedAt(clip.truth, reps[static_cast<std::size_t>(k)].bottom_s, false));
    Task task;
    tracing::KnownTrace known = clip.known;
    if (!way.parts.network) known.sightings = nullptr;
    const auto a = coaching::analyse(*reader, request, *style, *book, task, known);
    if (!a) return fail(a.error());
    if (way.parts.network && way.parts.camera_motion) clip.known = a->trace.known();
    compare(clip.truth, *a, tables);
  }
  return tables;
}

void printCalls(const Tables& tables) {
  fmt::print(
      "\nYes-or-no calls over reps, held against the truth:\n\n| finding | right | left open | wrong |\n| --- | "
      "--- | --- | --- |\n");
  Calls all;
  for (const auto& [finding, c] : tables.calls) {
    fmt::print("| `{}` | {} | {} | {} |\n", finding, c.right, c.open, c.wrong);
    all.right += c.right;
    all.open += c.open;
    all.wrong += c.wrong;
  }
  fmt::print("| all | {} | {} | {} |\n", all.right, all.open, all.wrong);
}

void printFull(const Way& way, const Tables& tables) {
  fmt::print("\n## {}\n\n{} clips; reps found {} of {}; the body found in {} of them.\n", way.title, tables.clips,
             tables.reps_found, tables.reps_true, tables.bodies);
  print("Places along each axis", tables.places, 100, "cm", 2);
  print("Angles of the body, all frames (the last column: share within 2.5°)", tables.angles, 1, "degrees", 1);
  print("Events (the last column: within 1.64 frames)", tables.events, 1000, "ms", 0);
  printMeasures(tables.measures);
  printCalls(tables);
}

// The 90th percentile of a few errors that decide verdicts.
void printWorth(const Way& way, const Tables& t) {
  const auto worst = [](const std::map<std::string, Errors>& rows, const char* name, double unit) {
    const auto row = rows.find(name);
    return row == rows.end() ? std::string("–") : fmt::format("{:.1f}", row->second.size(0.9) * unit);
  };
  fmt::print("| {} | {} | {} | {} | {} | {} | {} | {} | {} |\n", way.title, worst(t.places, "knee", 100),
             worst(t.places, "hip", 100), worst(t.angles, "shin", 1), worst(t.angles, "trunk", 1),
             worst(t.measures, "hip_crease_above_knee_m", 100), worst(t.measures, "knee_slide_back_m", 100),
             worst(t.measures, "trunk_lean_gain_deg", 1), worst(t.measures, "bar_to_midfoot_mean_m", 100));
}

}  // namespace

// --calls SPEC...: only how often each call is right, open and wrong, with nothing placed and with one frame; --short
// SPEC...: everything, of these two.
int main(int argc, char** argv) {
  const bool calls_only = argc > 1 && std::string_view(argv[1]) == "--calls";
  const bool two_ways = argc > 1 && std::string_view(argv[1]) == "--short";
  if (calls_only || two_ways) {
    --argc;
    ++argv;
  }
  if (!calls_only && !two_ways)
    fmt::print(
        "# Accuracy\n\nWritten by `scripts/accuracy`: clips of simulated lifters (`bench/accuracy`), held against the "
        "exact "
        "truth. No test uses these clips. \"Placed\" points are the truth's own pixels. σ is what the program itself "
        "says. "
        "What is not blind: the clips were looked at while faults were repaired (the end of the bar, where the lifter "
        "is "
        "looked for, the hand-held camera, the turn from rim and feet), and the σ of bar and lockout were widened "
        "after "
        "looking at them; how far edges of the outline lie from joints, the bar from the shoulder, and the network's "
        "constants may reach, was set on them and on the second room's later five. The "
        "simulator is ours; real lifters and "
        "other "
        "generators will do worse.\n");
  std::vector<Clip> clips;
  for (int i = 1; i < argc; ++i) {
    auto bytes = FileSystem::real().read(argv[i]);
    auto spec = bytes ? simulate::parseSpec(*bytes) : Result<simulate::ClipSpec>(fail(bytes.error()));
    if (!spec) {
      fmt::print(stderr, "{}: {}\n", argv[i], spec.error().sentence());
      return 2;
    }
    clips.push_back({argv[i], simulate::truthOf(*spec), {}});
  }
  const std::vector<Way> ways{{"Nothing placed"},
                              {"One placed frame", 1},
                              {"One placed frame and two bottoms corrected", 1, 2},
                              {"Nothing placed, network only", 0, 0, {.flow = false, .outlines = false}},
                              {"Nothing placed, no outlines", 0, 0, {.outlines = false}},
                              {"Nothing placed, no flow", 0, 0, {.flow = false}},
                              {"Nothing placed, no tie to the bar", 0, 0, {.bar_tie = false}},
                              {"Nothing placed, camera taken for square and level", 0, 0, {.camera_turn = false}},
                              {"Nothing placed, a hand's camera taken for still", 0, 0, {.camera_motion = false}},
                              {"Nothing placed, everything in one plane", 0, 0, {}, true},
                              {"Placed frame, network only", 1, 0, {.flow = false, .outlines = false}},
                              {"Placed frame, flow only", 1, 0, {.network = false}},
                              {"Placed frame, no outlines", 1, 0, {.outlines = false}},
                              {"Placed frame, camera taken for square and level", 1, 0, {.camera_turn = false}},
                              {"Placed frame, everything in one plane", 1, 0, {}, true}};
  constexpr std::size_t kInFull = 3;
  std::vector<Tables> done;
  for (const Way& way : ways) {
    auto tables = tablesOf(clips, way);
    if (!tables) {
      fmt::print(stderr, "{}: {}\n", way.title, tables.error().sentence());
      return 4;
    }
    done.push_back(std::move(*tables));
    if (calls_only) {
      fmt::print("\n## {}\n", way.title);
      printCalls(done.back());
      if (done.size() == 2) return 0;
    } else if (done.size() <= kInFull) {
      printFull(way, done.back());
      if (two_ways && done.size() == 2) return 0;
    }
  }
  fmt::print(
      "\n## What each part is worth\n\nThe 90th percentile of the absolute error over the same clips, with parts "
      "switched "
      "off. What pins are worth is the difference between the first three rows.\n\n| | knee, cm | hip, cm | shin, ° | "
      "trunk, ° | depth, cm | knee slide, cm | lean added, ° | bar to "
      "mid-foot, "
      "cm |\n| --- | --- | --- | --- | --- | --- | --- | --- | --- |\n");
  for (std::size_t k = 0; k < ways.size(); ++k) printWorth(ways[k], done[k]);
  return 0;
}
