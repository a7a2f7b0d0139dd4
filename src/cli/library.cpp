// SPDX-License-Identifier: GPL-3.0-or-later
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <memory>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "core/base/files.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/footage/frame_reader.h"
#include "core/library/backup.h"
#include "core/library/book_file.h"
#include "core/library/dates.h"
#include "core/library/demo.h"
#include "core/library/export.h"
#include "core/library/library.h"
#include "core/library/trend.h"
#include "core/lifts/which_lift.h"

namespace jib::cli {
namespace {

struct LibraryOptions {
  std::string folder, clip, athlete, date, message, out, scenario, lift, variant, backup, measure, json;
  double load_kg = 0;
  long long id = 0, submission = 0;
  bool yes = false;
};

// A terminal obeys control characters, and a name may hold them.
std::string printable(const std::string& text) {
  std::string out;
  for (const char c : text) out += static_cast<unsigned char>(c) < 0x20 || c == 0x7f ? ' ' : c;
  // So does it those of Latin-1, which are two bytes in UTF-8.
  for (std::size_t at = 0; (at = out.find('\xC2', at)) != std::string::npos; ++at)
    if (at + 1 < out.size() && static_cast<unsigned char>(out[at + 1]) < 0xA0) out.replace(at, 2, "  ");
  return out;
}

Result<int> list(library::Library& lib) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  auto submissions = lib.submissions();
  if (!submissions) return fail(submissions.error());
  for (const auto& s : *submissions)
    for (const auto& a : *athletes)
      if (a.id == s.athlete)
        std::printf(
            "%lld\t%s\t%s\t%s\t%s\t%s\n", static_cast<long long>(s.id.number), printable(s.received_on).c_str(),
            printable(a.name).c_str(), printable(s.lift).c_str(),
            printable(s.kind == library::SubmissionKind::Clip ? s.clip_name : std::string(nameOf(s.kind))).c_str(),
            std::string(titleOf(s.state)).c_str());
  return kDone;
}

Result<int> listAthletes(library::Library& lib) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  for (const auto& a : *athletes)
    std::printf("%lld\t%s\n", static_cast<long long>(a.id.number), printable(a.name).c_str());
  return kDone;
}

Result<int> add(library::Library& lib, const LibraryOptions& o) {
  constexpr double kHeaviest_kg = 1000;
  if (!library::isDate(o.date)) return fail(ErrorCode::WrongUse, o.date + " is no day.", "Write it as 2026-11-16.");
  if (!(o.load_kg >= 0 && o.load_kg <= kHeaviest_kg))
    return fail(ErrorCode::WrongUse, "That is no load.", "Write kilograms, between 0 and 1000.");
  if (auto film = footage::FrameReader::open(o.clip, footage::Workers::One); !film) return fail(film.error());
  library::Submission s;
  s.received_on = o.date;
  s.message = o.message;
  s.lift = o.lift;
  s.variant = lifts::usualVariant(o.lift);
  if (!o.lift.empty()) s.details.lift_by = library::ToldBy::Coach;
  if (!o.variant.empty()) {
    const auto* lift = lifts::liftNamed(o.lift);
    const auto known = lift ? lifts::variantsOf(*lift) : std::vector<std::string>();
    if (std::find(known.begin(), known.end(), o.variant) == known.end())
      return fail(ErrorCode::WrongUse, "No variation of that lift is called " + o.variant + ".",
                  known.empty() ? "Say the lift as well (--lift)." : fmt::format("It has {}.", fmt::join(known, ", ")));
    s.variant = o.variant;
    s.details.variant_by = library::ToldBy::Coach;
  }
  if (o.load_kg > 0) s.load_kg = o.load_kg;
  const auto task = terminalTask("Adding", false);
  auto added = lib.addSubmission(s, o.clip, *task, o.athlete);
  if (!added) return fail(added.error());
  std::printf("%lld\n", static_cast<long long>(added->number));
  return kDone;
}

// By number, or by name where only one is called so.
Result<library::Athlete> chosen(library::Library& lib, const LibraryOptions& o) {
  auto athletes = lib.athletes();
  if (!athletes) return fail(athletes.error());
  std::vector<library::Athlete> found;
  for (const auto& a : *athletes)
    if (o.id > 0 ? a.id.number == o.id : a.name == o.athlete) found.push_back(a);
  if (found.size() == 1) return found.front();
  if (found.empty()) return fail(ErrorCode::WrongUse, "No athlete is called that.", "See jib library FOLDER athletes.");
  std::string numbers;
  for (const auto& a : found) numbers += (numbers.empty() ? "" : ", ") + std::to_string(a.id.number);
  return fail(ErrorCode::WrongUse, "Several athletes are called " + o.athlete + ".",
              "Say which by --id: " + numbers + ".");
}

// The course of one measure, one row a clip, oldest first.
Result<int> trend(library::Library& lib, const LibraryOptions& o) {
  if (!lifts::measureDefinition(o.measure))
    return fail(ErrorCode::WrongUse, "There is no measure " + o.measure + ".", "docs/formats.md lists them.");
  auto athlete = chosen(lib, o);
  if (!athlete) return fail(athlete.error());
  auto points = library::trendOf(lib, athlete->id, o.measure,
                                 o.lift.empty() ? std::nullopt : std::optional<std::string_view>(o.lift));
  if (!points) return fail(points.error());
  if (o.json == "-")
    std::fputs(library::trendToJson(o.measure, *points).c_str(), stdout);
  else if (!o.json.empty()) {
    if (auto written = writeWhole(FileSystem::real(), o.json, library::trendToJson(o.measure, *points)); !written)
      return fail(written.error());
  } else
    std::fputs(library::trendToText(*points).c_str(), stdout);
  return points->empty() ? kSomethingNotJudged : kDone;
}

// Everything the library holds of one athlete, into a folder.
Result<int> writeBook(library::Library& lib, const LibraryOptions& o) {
  auto book = lib.book();
  if (!book) return fail(book.error());
  if (isInside(lib.folder(), o.out))
    return fail(ErrorCode::WrongUse, o.out + " lies in the library itself.", "Choose a place outside of it.");
  if (auto written = writeWhole(FileSystem::real(), o.out, library::bookToToml(*book)); !written)
    return fail(written.error());
  return kDone;
}

Result<int> exportAthlete(library::Library& lib, const LibraryOptions& o) {
  auto athlete = chosen(lib, o);
  if (!athlete) return fail(athlete.error());
  const auto task = terminalTask("Exporting", false);
  if (auto done = library::exportAthlete(lib, athlete->id, o.out, *task); !done) return fail(done.error());
  return kDone;
}

// Says what goes; does it only with --yes.
Result<int> forget(library::Library& lib, const LibraryOptions& o) {
  Result<library::Library::Removal> removal = fail(ErrorCode::WrongUse, "");
  if (o.submission > 0) {
    removal = lib.removalOf(library::SubmissionId(o.submission));
    if (!removal) return fail(ErrorCode::WrongUse, removal.error().what, "See jib library FOLDER list.");
  } else {
    auto athlete = chosen(lib, o);
    if (!athlete) return fail(athlete.error());
    removal = lib.removalOf(athlete->id);
  }
  if (!removal) return fail(removal.error());
  for (const auto& line : removal->lines) std::printf("%s\n", printable(line).c_str());
  if (!o.yes) {
    std::printf("Nothing was forgotten yet; --yes does it. It can't be undone.\n");
    return kDone;
  }
  if (auto done = lib.remove(*removal); !done) return fail(done.error());
  return kDone;
}

Result<int> backUp(library::Library& lib, const LibraryOptions& o) {
  const auto task = terminalTask("Backing up", false);
  auto done = library::backUp(lib, o.backup, *task);
  if (!done) return fail(done.error());
  std::printf("%zu files, %.1f MB, read back and %s\n", done->files, static_cast<double>(done->bytes) / 1e6,
              done->missing.empty() ? "whole" : "checked");
  for (const auto& lost : done->missing) std::printf("%s\n", printable(lost).c_str());
  if (done->missing.empty()) return kDone;
  std::fprintf(
      stderr,
      "jib: Files missing from the library: %zu. The rest is backed up. Look for them in an older backup, or ask "
      "for the clips again.\n",
      done->missing.size());
  return kSomethingNotJudged;
}

Result<int> check(library::Library& lib) {
  auto troubles = lib.check();
  if (!troubles) return fail(troubles.error());
  for (const auto& t : *troubles) std::printf("%s\n", printable(t).c_str());
  return troubles->empty() ? kDone : kSomethingNotJudged;
}

Result<int> receive(library::Library& lib, const LibraryOptions& o) {
  const auto task = terminalTask("Receiving", false);
  auto received = exchange::receive(lib, o.clip, library::today(), *task);
  if (!received) return fail(received.error());
  std::printf("%d messages, %d clips; %d were there already\n", received->messages, received->clips, received->known);
  for (const auto& t : received->accounts) std::printf("%s\n", printable(t).c_str());
  for (const auto& t : received->troubles) std::printf("%s\n", printable(t).c_str());
  return received->troubles.empty() ? kDone : kSomethingNotJudged;
}

// Looks at every clip that is waiting for it.
Result<int> prepareAll(library::Library& lib) {
  auto waiting = exchange::unprepared(lib);
  if (!waiting) return fail(waiting.error());
  for (library::SubmissionId id : *waiting) {
    const auto task = terminalTask("Looking", false);
    auto done = exchange::prepare(lib, id, *task);
    if (!done && (done.error().code == ErrorCode::Cancelled || done.error().code == ErrorCode::CannotWrite))
      return fail(done.error());
    if (!done && done.error().code == ErrorCode::Conflict) continue;  // another program is at it
    // One clip that cannot be looked at keeps no other from its turn; why is kept with it.
    if (!done) std::fprintf(stderr, "jib: %s\n", printable(done.error().sentence()).c_str());
  }
  return kDone;
}

}  // namespace

void addLibrary(CLI::App& app, int& status) {
  // long because a list of commands and their options
  auto o = std::make_shared<LibraryOptions>();
  CLI::App* command = app.add_subcommand("library", "The library the window uses");
  command->add_option("folder", o->folder, "The library's folder")->required();
  command->require_subcommand(1);
  // A mistyped path makes no library: only what fills one may begin it.
  const auto with = [o, &status](auto work, bool begins = false) {
    return [o, &status, work, begins] {
      if (!begins && !library::Library::isIn(o->folder)) {
        status = complain({ErrorCode::CannotRead, "There is no library in " + o->folder + ".", "Check the path."});
        return;
      }
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
  command->add_subcommand("athletes", "Athletes and their numbers")->callback(with([](auto& lib) {
    return listAthletes(lib);
  }));
  CLI::App* adding = command->add_subcommand("add", "Add a clip");
  adding->add_option("clip", o->clip)->required();
  adding->add_option("--athlete", o->athlete)->required();
  adding->add_option("--date", o->date, "When it came, YYYY-MM-DD")->required();
  adding->add_option("--lift", o->lift, lifts::liftNames() + "; else it is looked for in the clip")
      ->check(CLI::IsMember(lifts::liftNameList()));
  adding->add_option("--variant", o->variant, "sumo, paused, high-bar …; else the lift's usual one");
  adding->add_option("--load-kg", o->load_kg);
  adding->add_option("--message", o->message);
  adding->callback(with([o](auto& lib) { return add(lib, *o); }, true));
  const auto whose = [o](CLI::App* sub) {
    auto* name = sub->add_option("--athlete", o->athlete, "By name");
    auto* id = sub->add_option("--id", o->id, "By number (see athletes)")->check(CLI::PositiveNumber);
    name->excludes(id);
  };
  CLI::App* trending = command->add_subcommand("trend", "The course of one measure: one row a clip, oldest first");
  whose(trending);
  trending->add_option("--measure", o->measure, "A measure's name, as in docs/formats.md")->required();
  trending->add_option("--lift", o->lift, lifts::liftNames() + "; else every lift that has it")
      ->check(CLI::IsMember(lifts::liftNameList()));
  trending->add_option("--json", o->json, "Into a file (JSON); - for standard output");
  trending->callback(with([o](auto& lib) { return trend(lib, *o); }));
  CLI::App* book = command->add_subcommand("book", "Your own words of cues, as TOML");
  book->add_option("--out", o->out, "A TOML file")->required();
  book->callback(with([o](auto& lib) { return writeBook(lib, *o); }));
  CLI::App* exporting = command->add_subcommand("export", "Everything of one athlete, into a folder");
  whose(exporting);
  exporting->add_option("--out", o->out, "A folder that is empty or not there")->required();
  exporting->callback(with([o](auto& lib) { return exportAthlete(lib, *o); }));
  CLI::App* forgetting =
      command->add_subcommand("forget", "Delete an athlete, or one submission: says what goes first");
  whose(forgetting);
  auto* one = forgetting->add_option("--submission", o->submission, "One submission, by number (see list)");
  one->check(CLI::PositiveNumber);
  // Two ways to say what goes would leave open which was meant.
  for (const char* other : {"--athlete", "--id"}) one->excludes(forgetting->get_option(other));
  forgetting->add_flag("--yes", o->yes, "Do it");
  forgetting->callback(with([o](auto& lib) { return forget(lib, *o); }));
  CLI::App* backing = command->add_subcommand("backup", "The whole library in one zip file, read back and checked");
  backing->add_option("file", o->backup)->required();
  backing->callback(with([o](auto& lib) { return backUp(lib, *o); }));
  CLI::App* restoring =
      command->add_subcommand("restore", "Put a backup into FOLDER, which must be empty or not there");
  restoring->add_option("file", o->backup)->required();
  restoring->callback([o, &status] {
    const auto task = terminalTask("Restoring", false);
    const auto done = library::restore(o->backup, o->folder, *task);
    status = done ? kDone : complain(done.error());
  });
  CLI::App* receiving = command->add_subcommand("receive", "Take in mail, clips and folders of clips");
  receiving->add_option("source", o->clip, "Maildir, .eml, .mbox, clip or folder")->required();
  receiving->callback(with([o](auto& lib) { return receive(lib, *o); }, true));
  command->add_subcommand("prepare", "Look at the clips nobody has looked at")->callback(with([](auto& lib) {
    return prepareAll(lib);
  }));
  command->add_subcommand("check", "Look for damage")->callback(with([](auto& lib) { return check(lib); }));
  CLI::App* demo = command->add_subcommand("demo", "Fill an empty library with the demo scenario");
  demo->add_option("scenario", o->scenario, "demo/scenario.json")->required();
  demo->callback(with(
      [o](auto& lib) -> Result<int> {
        const auto task = terminalTask("Preparing the demo", false);
        if (auto done = library::fillDemo(lib, o->scenario, *task); !done) return fail(done.error());
        return prepareAll(lib);
      },
      true));
}

}  // namespace jib::cli
