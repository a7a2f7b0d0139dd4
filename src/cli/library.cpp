// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <cstdio>
#include <memory>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "core/exchange/importer.h"
#include "core/exchange/prepare.h"
#include "core/library/dates.h"
#include "core/library/demo.h"
#include "core/library/library.h"

namespace jib::cli {
namespace {

struct Options {
  std::string folder, clip, athlete, date, message, out, scenario;
  double load_kg = 0;
};

Result<int> list(library::Library& lib) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  auto submissions = lib.submissions();
  if (!submissions) return fail(submissions.error());
  for (const auto& s : *submissions)
    for (const auto& a : *athletes)
      if (a.id == s.athlete)
        std::printf("%lld\t%s\t%s\t%s\t%s\t%s\n", static_cast<long long>(s.id.number), s.received_on.c_str(),
                    a.name.c_str(), s.lift.c_str(), s.clip_name.c_str(), std::string(titleOf(s.state)).c_str());
  return kDone;
}

Result<int> add(library::Library& lib, const Options& o) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  std::optional<library::AthleteId> id;
  for (const auto& a : *athletes)
    if (a.name == o.athlete) id = a.id;
  if (!id) {
    library::Athlete fresh;
    fresh.name = o.athlete;
    auto added = lib.addAthlete(fresh);
    if (!added) return fail(added.error());
    id = *added;
  }
  library::Submission s;
  s.athlete = *id;
  s.received_on = o.date;
  s.message = o.message;
  if (o.load_kg > 0) s.load_kg = o.load_kg;
  const auto task = terminalTask("Adding", false);
  auto added = lib.addSubmission(s, o.clip, *task);
  if (!added) return fail(added.error());
  std::printf("%lld\n", static_cast<long long>(added->number));
  return kDone;
}

// Everything the library holds of one athlete, into a folder: clips and one JSON file.
Result<int> exportAthlete(library::Library& lib, const Options& o) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  for (const auto& a : *athletes)
    if (a.name == o.athlete) {
      if (auto done = library::exportAthlete(lib, a.id, o.out); !done) return fail(done.error());
      return kDone;
    }
  return fail(ErrorCode::WrongUse, "No athlete is called " + o.athlete + ".", "See jib library FOLDER list.");
}

Result<int> check(library::Library& lib) {
  auto troubles = lib.check();
  if (!troubles) return fail(troubles.error());
  for (const auto& t : *troubles) std::printf("%s\n", t.c_str());
  return troubles->empty() ? kDone : kSomethingNotJudged;
}

Result<int> receive(library::Library& lib, const Options& o) {
  const auto task = terminalTask("Receiving", false);
  auto received = exchange::receive(lib, o.clip, library::today(), *task);
  if (!received) return fail(received.error());
  std::printf("%d messages, %d clips; %d were there already\n", received->messages, received->clips, received->known);
  for (const auto& t : received->troubles) std::printf("%s\n", t.c_str());
  return received->troubles.empty() ? kDone : kSomethingNotJudged;
}

// Looks at every clip that is waiting for it.
Result<int> prepareAll(library::Library& lib) {
  auto waiting = exchange::unprepared(lib);
  if (!waiting) return fail(waiting.error());
  for (library::SubmissionId id : *waiting) {
    const auto task = terminalTask("Looking", false);
    if (auto done = exchange::prepare(lib, id, *task); !done) return fail(done.error());
  }
  return kDone;
}

}  // namespace

void addLibrary(CLI::App& app, int& status) {
  auto o = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("library", "The library the window uses");
  command->add_option("folder", o->folder, "The library's folder")->required();
  command->require_subcommand(1);
  const auto with = [o, &status](auto work) {
    return [o, &status, work] {
      auto lib = library::Library::open(o->folder);
      if (!lib) {
        status = complain(lib.error());
        return;
      }
      const Result<int> done = work(*lib);
      status = done ? *done : complain(done.error());
    };
  };
  command->add_subcommand("list", "Submissions, newest first")->callback(with([](auto& lib) { return list(lib); }));
  CLI::App* adding = command->add_subcommand("add", "Add a clip");
  adding->add_option("clip", o->clip)->required();
  adding->add_option("--athlete", o->athlete)->required();
  adding->add_option("--date", o->date, "When it came, YYYY-MM-DD")->required();
  adding->add_option("--load-kg", o->load_kg);
  adding->add_option("--message", o->message);
  adding->callback(with([o](auto& lib) { return add(lib, *o); }));
  CLI::App* exporting = command->add_subcommand("export", "Everything of one athlete");
  exporting->add_option("--athlete", o->athlete)->required();
  exporting->add_option("--out", o->out)->required();
  exporting->callback(with([o](auto& lib) { return exportAthlete(lib, *o); }));
  CLI::App* receiving = command->add_subcommand("receive", "Take in mail, films and folders of films");
  receiving->add_option("source", o->clip, "Maildir, .eml, .mbox, film or folder")->required();
  receiving->callback(with([o](auto& lib) { return receive(lib, *o); }));
  command->add_subcommand("prepare", "Look at the clips nobody has looked at")->callback(with([](auto& lib) {
    return prepareAll(lib);
  }));
  command->add_subcommand("check", "Look for damage")->callback(with([](auto& lib) { return check(lib); }));
  CLI::App* demo = command->add_subcommand("demo", "Fill an empty library with the demo scenario");
  demo->add_option("scenario", o->scenario, "demo/scenario.json")->required();
  demo->callback(with([o](auto& lib) -> Result<int> {
    const auto task = terminalTask("Preparing the demo", false);
    if (auto done = library::fillDemo(lib, o->scenario, *task); !done) return fail(done.error());
    return prepareAll(lib);
  }));
}

}  // namespace jib::cli
