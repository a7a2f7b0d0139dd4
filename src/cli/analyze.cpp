// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <algorithm>
#include <memory>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "cli/sides.h"
#include "core/coaching/style_book.h"
#include "core/exchange/analysis_file.h"
#include "core/tracing/first_look.h"
#include "core/tracing/trace_store.h"

namespace jib::cli {
namespace {

struct Options {
  std::string clip, lift = "squat", variant = "low-bar", view = "auto", points, style = "balanced", out, csv;
  double plate_mm = 450, slow_factor = 1;
  std::vector<std::string> sides;
  bool quiet = false;
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

// From the front or from behind no plate is seen round: then that is what is wrong, and not a missing plate.
Error filmedAcross(footage::FrameReader& reader, const coaching::AnalysisRequest& request, Error error) {
  if (error.code != ErrorCode::NoLiftFound || request.trace.view != tracing::View::Auto) return error;
  Task quiet;
  const auto look = tracing::firstLook(reader, quiet);
  if (!look || (look->view.seen != tracing::Seen::Front && look->view.seen != tracing::Seen::Rear)) return error;
  return {ErrorCode::CannotJudge,
          "The clip is filmed from the " + std::string(tracing::nameOf(look->view.seen)) +
              "; only squats filmed from the side can be judged so far.",
          "Ask for a side view of the same set with the lens level with the hip."};
}

Result<int> run(const Options& o) {
  coaching::AnalysisRequest request;
  request.lift = o.lift;
  request.variant = o.variant;
  request.slow_factor = o.slow_factor;
  request.trace.camera.rim_m = o.plate_mm / 1000;
  if (o.view == "front" || o.view == "rear" || o.view == "oblique")
    return fail(ErrorCode::CannotJudge, "Only clips filmed from the side can be judged so far.",
                "Ask for a side view with the lens level with the hip.");
  request.trace.view = o.view == "left"    ? tracing::View::Left
                       : o.view == "right" ? tracing::View::Right
                                           : tracing::View::Auto;
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
  auto reader = footage::FrameReader::open(o.clip);
  if (!reader) return fail(reader.error());
  const auto task = terminalTask("Tracing", o.quiet);
  auto analysis = coaching::analyse(*reader, request, *style, *book, *task);
  if (!analysis) return fail(filmedAcross(*reader, request, analysis.error()));
  if (auto written = writeWhole(FileSystem::real(), o.out, exchange::analysisToJson(*analysis)); !written)
    return fail(written.error());
  if (!o.csv.empty())
    if (auto written = writeWhole(FileSystem::real(), o.csv, exchange::tracksToCsv(*analysis)); !written)
      return fail(written.error());
  const bool all = std::none_of(analysis->notices.begin(), analysis->notices.end(), [](const coaching::Notice& n) {
    return n.id == "body_not_placed" || n.id == "facing_unknown";
  });
  return all ? kDone : kSomethingNotJudged;
}

}  // namespace

void addAnalyze(CLI::App& app, int& status) {
  auto o = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("analyze", "Trace and judge a clip");
  command->add_option("clip", o->clip, "The clip")->required();
  command->add_option("--lift", o->lift, "squat, bench or deadlift")
      ->check(CLI::IsMember({"squat", "bench", "deadlift"}));
  command->add_option("--variant", o->variant, "high-bar, low-bar, ...");
  command->add_option("--view", o->view, "The athlete's side that faces the camera")
      ->check(CLI::IsMember({"auto", "left", "right", "front", "rear", "oblique"}));
  command->add_option("--plate-mm", o->plate_mm, "Diameter of the largest plate")->check(CLI::Range(100.0, 600.0));
  command->add_option("--points", o->points, "What a coach placed by hand (JSON)");
  command->add_option("--slow-factor", o->slow_factor, "How many times slower than life the clip plays")
      ->check(CLI::Range(0.1, 20.0));
  command->add_option("--style", o->style, "Coaching style");
  command->add_option("--side", o->sides, "A side taken on a topic of resources/topics.toml, as depth=full");
  command->add_option("--out", o->out, "Where the analysis goes (JSON)")->required();
  command->add_option("--csv", o->csv, "Where the tracks go, one line a frame");
  command->add_flag("--quiet", o->quiet, "No progress");
  command->callback([o, &status] {
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
