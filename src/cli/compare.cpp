// SPDX-License-Identifier: GPL-3.0-or-later
// Two analyses: then and now.
#include <CLI/CLI.hpp>
#include <memory>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "core/base/files.h"
#include "core/exchange/reports/comparison.h"

namespace jib::cli {
namespace {

struct CompareOptions {
  std::string a, b, at, out;
};

Result<int> run(const CompareOptions& o) {
  auto a = FileSystem::real().read(o.a);
  if (!a) return fail(a.error());
  auto b = FileSystem::real().read(o.b);
  if (!b) return fail(b.error());
  auto made = exchange::comparisonOf(*a, *b, o.at);
  if (!made) return fail(made.error());
  if (auto kept = writeWhole(FileSystem::real(), o.out, *made); !kept) return fail(kept.error());
  return kDone;
}

}  // namespace

void addCompare(CLI::App& app, int& status) {
  auto o = std::make_shared<CompareOptions>();
  CLI::App* command = app.add_subcommand("compare", "Two analyses: then and now");
  command->add_option("a", o->a, "The earlier analysis (JSON)")->required();
  command->add_option("b", o->b, "The later one")->required();
  command->add_option("--at", o->at, "One event only, as bottom");
  command->add_option("--out", o->out, "The comparison (JSON)")->required();
  command->callback([o, &status] {
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
