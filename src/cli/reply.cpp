// SPDX-License-Identifier: GPL-3.0-or-later
#include <CLI/CLI.hpp>
#include <QGuiApplication>
#include <cstdio>
#include <memory>
#include <optional>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "cli/progress.h"
#include "cli/sides.h"
#include "core/coaching/cue_numbers.h"
#include "core/coaching/style_book.h"
#include "core/coaching/two_films.h"
#include "core/exchange/reports/analysis_file.h"
#include "core/library/review_store.h"
#include "drawing/reply_writer.h"

namespace jib::cli {
namespace {

struct ReplyOptions {
  std::string analysis, cues = "auto", out, athlete = "Athlete", coach, date, style, shape, second, voice;
  std::optional<double> max_mb;
  std::vector<std::string> sides;
  bool quiet = false;
};

// The second view, what the coach said, and how heavy all of it may be.
Result<bool> addFilms(const ReplyOptions& o, const coaching::Analysis& a, const coaching::Style& style,
                      const coaching::CueBook& book, drawing::ReplyContent& content) {
  if (!o.second.empty()) {
    auto second = exchange::readAnalysis(o.second, style, book);
    if (!second) return fail(second.error());
    const bool same_lift = second->request.lift == a.request.lift;
    const auto offset = same_lift ? coaching::offsetByReps(a, *second) : std::nullopt;
    if (!offset)
      return fail(ErrorCode::WrongUse, o.second + " shows other reps than " + o.analysis + ".",
                  "Give the analysis of another view of the same set.");
    content.second = std::make_shared<const coaching::Analysis>(std::move(*second));
    content.second_offset_s = *offset;
  }
  if (!o.voice.empty()) {
    auto takes = review::takesFrom(o.voice);
    if (!takes) return fail(takes.error());
    content.takes = std::move(*takes);
  }
  content.most_mb = o.max_mb;
  return true;
}

Result<int> run(const ReplyOptions& o) {
  // As it was judged, unless another style is asked for.
  auto judged = exchange::styleNamedIn(o.analysis);
  if (judged.id.empty()) judged.id = "balanced";
  if (!o.style.empty()) judged = {o.style, {}};
  auto chosen = sidesFrom(o.sides);
  if (!chosen) return fail(chosen.error());
  for (const auto& [topic, choice] : *chosen) judged.switches[topic] = choice;
  auto styles = coaching::StyleBook::shipped();
  if (!styles) return fail(styles.error());
  auto style = styles->style(judged.id, judged.switches);
  if (!style) return fail(style.error());
  auto book = coaching::CueBook::shipped();
  if (!book) return fail(book.error());
  auto analysis = exchange::readAnalysis(o.analysis, *style, *book);
  if (!analysis) return fail(analysis.error());
  drawing::ReplyContent content;
  if (auto drills = coaching::DrillBook::shipped()) content.drills = std::move(*drills);
  content.athlete = o.athlete;
  content.filmed_on = o.date;
  content.coach = o.coach;
  if (o.shape == "portrait") content.shape = review::FilmShape::Portrait;
  if (o.shape == "square") content.shape = review::FilmShape::Square;
  content.keep = coaching::praiseToSay(analysis->proposal);
  content.cues = analysis->proposal.cues;
  content.change_nothing = analysis->proposal.change_nothing;
  if (o.cues != "auto") {
    auto bytes = FileSystem::real().read(o.cues);
    if (!bytes) return fail(bytes.error());
    auto cues = library::cuesFromJson(*bytes);
    if (!cues) return fail(cues.error());
    // What the numbers leave open stays open, whoever wrote the cue.
    content.cues = coaching::lookedUp(std::move(*cues), *analysis, *book);
    content.change_nothing = content.cues.empty();
  }
  if (auto extra = addFilms(o, *analysis, *style, *book, content); !extra) return fail(extra.error());
  // Painting text needs Qt's fonts, not a screen.
  qputenv("QT_QPA_PLATFORM", "offscreen");
  qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {});  // ours are one line
  int argc = 1;
  char name[] = "jib";
  char* argv[] = {name, nullptr};
  const QGuiApplication application(argc, argv);
  const auto task = terminalTask("Replying", o.quiet);
  auto files = drawing::writeReply(*analysis, content, o.out, *task);
  if (!files) return fail(files.error());
  if (!files->too_heavy) return kDone;
  std::fprintf(stderr,
               "jib: it can't be made as light as %g MB; this is the lightest that can be watched. Leave "
               "something out, or send a link.\n",
               *o.max_mb);
  return kSomethingNotJudged;
}

}  // namespace

void addReply(CLI::App& app, int& status) {
  auto o = std::make_shared<ReplyOptions>();
  CLI::App* command = app.add_subcommand("reply", "Write the annotated clip, stills and report for an analysis");
  command->add_option("analysis", o->analysis, "The analysis (JSON)")->required();
  command->add_option("--cues", o->cues, "A cues file, or auto for what is proposed");
  command->add_option("--out", o->out, "The folder")->required();
  command->add_option("--athlete", o->athlete, "The athlete's name in the report");
  command->add_option("--coach", o->coach, "Who signs it");
  command->add_option("--date", o->date, "The day of the clip, YYYY-MM-DD");
  command->add_option("--style", o->style, "Coaching style; without it the one the analysis was judged in");
  command->add_option("--side", o->sides, "A side taken on a topic of resources/topics.toml, as depth=full");
  command->add_option("--shape", o->shape, "landscape, portrait (words below the picture) or square")
      ->check(CLI::IsMember({"landscape", "portrait", "square"}));
  command->add_option("--second", o->second, "The analysis of another view of the set, shown in a corner");
  command->add_option("--voice", o->voice, "Your voice-over (JSON): sound files, and what the picture shows meanwhile");
  command->add_option("--max-mb", o->max_mb, "What film, page and stills may weigh together, in MB")
      ->check(CLI::Range(0.1, 10000.0));
  command->add_flag("--quiet", o->quiet, "No progress");
  command->callback([o, &status] {
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
