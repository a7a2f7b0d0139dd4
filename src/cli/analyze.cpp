// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <memory>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "cli/sides.h"
#include "core/base/quantity.h"
#include "core/coaching/style_book.h"
#include "core/exchange/reports/analysis_file.h"
#include "core/footage/shots.h"
#include "core/lifts/which_lift.h"
#include "core/tracing/sightings/first_look.h"
#include "core/tracing/sightings/lift_look.h"
#include "core/tracing/trace_store.h"

namespace jib::cli {
namespace {

// CLI::Range takes "nan": nothing is smaller or larger than that.
CLI::Validator within(double least, double most) {
  const std::string range = fmt::format("between {:g} and {:g}", least, most);
  return CLI::Validator(
      [=](const std::string& text) {
        const auto n = numberFrom(text);
        return n && *n >= least && *n <= most ? std::string() : text + " is not a number " + range;
      },
      range);
}

struct AnalyzeOptions {
  std::string clip, lift, variant, view = "auto", points, style = "balanced", out, csv;
  double plate_mm = 450, slow_factor = 1;
  std::vector<std::string> sides;
  bool quiet = false, lift_said = false;
};

Result<std::vector<tracing::PlacedFrame>> readPoints(const std::string& file) {
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  try {
    return tracing::placedFromJson(nlohmann::json::parse(*bytes));
  } catch (const nlohmann::json::exception& e) {
    return fail(ErrorCode::BadData, file + " is not JSON: " + e.what() + ".", "Correct the points file.");
  }
}

// Before any work: what is written must not be what is read, and there must be somewhere to write it.
Result<bool> checkOutputs(const AnalyzeOptions& o) {
  std::vector<std::pair<std::string, std::string>> in{{"the clip", o.clip}}, out{{"--out", o.out}};
  if (!o.points.empty()) in.emplace_back("the points file", o.points);
  if (!o.csv.empty()) out.emplace_back("--csv", o.csv);
  if (!o.csv.empty() && sameFile(o.out, o.csv))
    return fail(ErrorCode::WrongUse, "--out and --csv are the same file.", "Give each a name of its own.");
  for (const auto& [option, file] : out) {
    for (const auto& [what, source] : in)
      if (sameFile(file, source))
        return fail(ErrorCode::WrongUse, option + " would overwrite " + what + ".", "Give it another name.");
    const auto folder = std::filesystem::absolute(file).parent_path();
    std::error_code error;
    if (!std::filesystem::is_directory(folder, error))
      return fail(ErrorCode::CannotWrite, "The folder " + folder.string() + " is not there.", "Make it first.");
    if (::access(folder.c_str(), W_OK) != 0)
      return fail(ErrorCode::CannotWrite, "Nothing may be written in " + folder.string() + ".",
                  "Choose another folder, or change its permissions.");
  }
  return true;
}

// A film of another lift is not judged as this one, unless whoever asks has said which it is.
Result<std::optional<coaching::Notice>> heldAgainstFilm(footage::FrameReader& reader, const AnalyzeOptions& o,
                                                        const coaching::Analysis& a) {
  if (a.trace.front) return std::optional<coaching::Notice>();  // from there it cannot be told
  Task quiet;
  const auto look = tracing::glanceAt(reader, quiet, a.request.trace.lifter, a.trace.glance);
  if (!look) return std::optional<coaching::Notice>();  // without the networks it cannot be told
  const std::string seen = lifts::looksLike(tracing::liftSeen(**look, a.trace.bar.get()));
  const lifts::LiftDefinition& asked = lifts::definition(a.request.lift);
  if (seen.empty() || seen == asked.name) return std::optional<coaching::Notice>();
  const std::string what = "The clip looks like a " + std::string(lifts::liftNamed(seen)->title) + ", not a " +
                           std::string(asked.title) + ".";
  if (o.lift_said) return std::optional<coaching::Notice>({"another_lift", what});
  return fail(ErrorCode::CannotJudge, what, "Say --lift if it is the lift you mean all the same.");
}

Result<int> run(const AnalyzeOptions& o) {
  if (auto fine = checkOutputs(o); !fine) return fail(fine.error());
  coaching::AnalysisRequest request;
  const lifts::LiftDefinition& lift = o.lift.empty() ? lifts::allLifts().front() : *lifts::liftNamed(o.lift);
  request.lift = lift.id;
  request.variant = o.variant.empty() ? std::string(lift.usual) : o.variant;
  request.slow_factor = o.slow_factor;
  request.trace.camera.rim_m = o.plate_mm / 1000;
  request.trace.view = *tracing::viewNamed(o.view);
  if (request.trace.view == tracing::View::Head && !lift.body.lying)
    return fail(ErrorCode::WrongUse, "Only who lies on a bench is filmed from the head's end.",
                "Say --view front or rear.");
  if (!o.points.empty()) {
    auto placed = readPoints(o.points);
    if (!placed) return fail(placed.error());
    request.trace.placed = std::move(*placed);
  }
  auto chosen = sidesFrom(o.sides);
  if (!chosen) return fail(chosen.error());
  auto styles = coaching::StyleBook::shipped();
  if (!styles) return fail(styles.error());
  auto style = styles->style(o.style, *chosen);
  if (!style) return fail(style.error());
  auto book = coaching::CueBook::shipped();
  if (!book) return fail(book.error());
  const auto task = terminalTask("Tracing", o.quiet);
  task->part(0, 0.08);
  auto reader = footage::openFilmed(o.clip, *task);
  if (!reader) return fail(reader.error());
  task->part(0.08, 1);
  for (tracing::PlacedFrame& placed : request.trace.placed)
    for (const tracing::PointName& name : tracing::allPointNames())
      if (auto& point = placed.at(name)) *point = *point - exchange::cutAway(reader->info());
  auto analysis = coaching::analyse(*reader, request, *style, *book, *task);
  if (!analysis) return fail(analysis.error());
  auto other = heldAgainstFilm(*reader, o, *analysis);
  if (!other) return fail(other.error());
  if (*other) analysis->notices.push_back(**other);
  if (auto written = writeWhole(FileSystem::real(), o.out, exchange::analysisToJson(*analysis)); !written)
    return fail(written.error());
  if (!o.csv.empty())
    if (auto written = writeWhole(FileSystem::real(), o.csv, exchange::tracksToCsv(*analysis)); !written)
      return fail(written.error());
  const bool all = !analysis->motion.calibration.oblique &&
                   std::none_of(analysis->notices.begin(), analysis->notices.end(), [](const coaching::Notice& n) {
                     return n.id == "body_not_placed" || n.id == "facing_unknown" || n.id == "another_lift";
                   });
  return all ? kDone : kSomethingNotJudged;
}

}  // namespace

void addAnalyze(CLI::App& app, int& status) {
  auto o = std::make_shared<AnalyzeOptions>();
  CLI::App* command = app.add_subcommand("analyze", "Trace and judge a clip");
  command->add_option("clip", o->clip, "The clip")->required();
  command->add_option("--lift", o->lift, lifts::liftNames())->check(CLI::IsMember(lifts::liftNameList()));
  command->add_option("--variant", o->variant, "high-bar, low-bar, ...");
  command->add_option("--view", o->view, "The athlete's side that faces the camera")
      ->check(CLI::IsMember({"auto", "left", "right", "front", "rear", "head", "oblique"}));
  command->add_option("--plate-mm", o->plate_mm, "Diameter of the largest plate")->check(within(100, 600));
  command->add_option("--points", o->points, "What a coach placed by hand (JSON)");
  command->add_option("--slow-factor", o->slow_factor, "How many times slower than life the clip plays")
      ->check(within(0.1, 20));
  command->add_option("--style", o->style, "Coaching style");
  command->add_option("--side", o->sides, "A side taken on a topic of resources/topics.toml, as depth=full");
  command->add_option("--out", o->out, "Where the analysis goes (JSON)")->required();
  command->add_option("--csv", o->csv, "Where the tracks go, one line a frame");
  command->add_flag("--quiet", o->quiet, "No progress");
  command->callback([o, &status, command] {
    o->lift_said = command->count("--lift") > 0;
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
