// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <filesystem>
#include <memory>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "core/base/files.h"
#include "core/simulate/truth_file.h"

namespace jib::cli {
namespace {

struct SimulateOptions {
  std::string spec, out;
  bool quiet = false, truth_only = false;
};

Result<int> run(const SimulateOptions& o) {
  auto bytes = FileSystem::real().read(o.spec);
  if (!bytes) return fail(bytes.error());
  auto spec = simulate::parseSpec(*bytes);
  if (!spec) return fail(spec.error());
  if (!o.truth_only) {
    const auto task = terminalTask("Filming", o.quiet);
    if (auto filmed = simulate::film(*spec, o.out, *task); !filmed) return fail(filmed.error());
  }
  const auto truth = std::filesystem::path(o.out).replace_extension(".truth.json");
  if (auto written = writeWhole(FileSystem::real(), truth, simulate::truthToJson(simulate::truthOf(*spec))); !written)
    return fail(written.error());
  return kDone;
}

}  // namespace

void addSimulate(CLI::App& app, int& status) {
  auto o = std::make_shared<SimulateOptions>();
  CLI::App* command = app.add_subcommand("simulate", "Film a made-up athlete; writes the clip and its truth");
  command->add_option("spec", o->spec, "Description of athlete, set and camera (JSON)")->required();
  command->add_option("--out", o->out, "The clip (MP4); the truth goes beside it")->required();
  command->add_flag("--truth-only", o->truth_only, "Write only the truth");
  command->add_flag("--quiet", o->quiet, "No progress");
  command->callback([o, &status] {
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
