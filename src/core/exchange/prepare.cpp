// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/prepare.h"

#include <nlohmann/json.hpp>

#include "core/coaching/style_book.h"
#include "core/tracing/lift_pulse.h"
#include "core/tracing/trace_store.h"

namespace jib::exchange {
namespace {

using coaching::Analysis;
using library::Library;
using library::Submission;
using library::SubmissionState;

bool mustStop(const Error& e) {
  return e.code == ErrorCode::Cancelled || e.code == ErrorCode::CannotWrite;
}

// The stored tracing judged again, or the clip traced now.
Result<Analysis> analysed(Library& library, const Submission& s, footage::FrameReader& reader, Task& task) {
  auto review = library.review(s.id);
  if (!review) return fail(review.error());
  auto athlete = library.athlete(s.athlete);
  if (!athlete) return fail(athlete.error());
  auto style = styleOf(library, *athlete);
  if (!style) return fail(style.error());
  auto book = coaching::CueBook::shipped();
  if (!book) return fail(book.error());
  const auto request = requestFor(s, *review, athlete->profile);
  auto stored = library.tracing(s.id);
  if (!stored) return fail(stored.error());
  if (!stored->empty()) {
    // A damaged one is no loss: the clip is traced again.
    if (auto a = restored(reader.info(), request, *stored, *style, *book)) return a;
  }
  auto a = coaching::analyse(reader, request, *style, *book, task);
  if (a && !task.cancelled())
    if (auto kept = library.saveTracing(s.id, tracing::traceToJson(a->trace).dump()); !kept) return fail(kept.error());
  return a;
}

}  // namespace

coaching::AnalysisRequest requestFor(const Submission& s, const library::Review& review,
                                     const library::Profile& profile) {
  coaching::AnalysisRequest request;
  request.lift = s.lift;
  request.variant = s.variant;
  request.slow_factor = s.slow_factor;
  request.trace.camera.rim_m = s.plate_mm / 1000;
  request.trace.placed = review.placed;
  if (profile.flesh) request.trace.flesh = tracing::remembered(*profile.flesh);
  request.trace.build = profile.build;
  request.by_eye = review.by_eye;
  request.one_set = coaching::SetChoice{s.details.top_set, s.details.set_loads_kg};
  request.overruled = s.details.overruled;
  if (s.load_kg && profile.best_squat_kg && *profile.best_squat_kg > 0 && s.lift == "squat")
    request.share_of_best = *s.load_kg / *profile.best_squat_kg;
  return request;
}

Result<coaching::Style> styleOf(Library& library, const library::Athlete& athlete) {
  auto book = coaching::StyleBook::forLibrary(library.folder());
  if (!book) return fail(book.error());
  auto coach = library.coach();
  if (!coach) return fail(coach.error());
  coaching::Switches chosen = coach->switches;
  for (const auto& [topic, choice] : athlete.profile.switches) chosen[topic] = choice;
  // A style of the coach's own that is gone or cannot be read must not keep the athlete's films from being reviewed.
  if (auto own = book->style(athlete.style, chosen)) return own;
  return book->style("balanced", chosen);
}

Result<Analysis> restored(const footage::ClipInfo& clip, const coaching::AnalysisRequest& request,
                          std::string_view json, const coaching::Style& style, const coaching::CueBook& book) {
  const auto parsed = nlohmann::json::parse(json, nullptr, false);
  auto trace = tracing::traceFromJson(parsed);
  if (!trace) return fail(trace.error());
  Analysis a;
  a.request = request;
  a.clip = clip;
  a.trace = std::move(*trace);
  tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  coaching::judgeAgain(a, style, book);
  return a;
}

Result<std::vector<library::SubmissionId>> unprepared(Library& library) {
  auto all = library.submissions();
  if (!all) return fail(all.error());
  auto checks = library.checks();
  if (!checks) return fail(checks.error());
  std::vector<library::SubmissionId> ids;
  for (const Submission& s : *all) {
    if (s.clip_hash.empty() || s.state == SubmissionState::Skipped || s.state == SubmissionState::Returned) continue;
    if (!checks->count(s.clip_hash)) ids.push_back(s.id);
  }
  return ids;
}

Result<coaching::ClipCheck> prepare(Library& library, library::SubmissionId id, Task& task) {
  auto submission = library.submission(id);
  if (!submission) return fail(submission.error());
  coaching::ClipCheck check;
  const auto keep = [&]() -> Result<coaching::ClipCheck> {
    if (task.cancelled()) return cancelled();
    if (auto kept = library.saveCheck(submission->clip_hash, coaching::checkToJson(check)); !kept)
      return fail(kept.error());
    return check;
  };
  const auto unusable = [&](const Error& why) -> Result<coaching::ClipCheck> {
    submission->state = SubmissionState::NeedsVideo;
    submission->reason = why.what;
    if (auto kept = library.updateSubmission(*submission); !kept) return fail(kept.error());
    check.view = "nobody";
    check.troubles.push_back({"unreadable", why.what, "send the original file again"});
    return keep();
  };
  auto reader = footage::FrameReader::open(library.clipFile(*submission));
  if (!reader) return unusable(reader.error());
  task.part(0, 0.1);
  auto look = tracing::firstLook(*reader, task);
  task.part(0.1, 1);
  if (!look) {
    if (mustStop(look.error())) return fail(look.error());
    if (look.error().code == ErrorCode::ClipUnreadable) return unusable(look.error());
    look = tracing::FirstLook{};  // without the networks the tracing still tells something
  }
  if (task.cancelled()) return cancelled();
  task.part(0.1, 0.25);
  auto pulse = tracing::liftPulse(*reader, task);
  if (!pulse && pulse.error().code == ErrorCode::Cancelled) return fail(pulse.error());
  task.part(0.25, 1);
  if (pulse && !task.cancelled())
    if (auto kept = library.savePulse(submission->clip_hash, pulse->up); !kept) return fail(kept.error());
  if (submission->lift != "squat") {
    check = coaching::checkClip(reader->info(), *look, nullptr, "Only squats can be measured so far.");
    return keep();
  }
  auto a = analysed(library, *submission, *reader, task);
  if (!a && mustStop(a.error())) return fail(a.error());
  coaching::lookAgain(*look, a ? &*a : nullptr);
  check = coaching::checkClip(reader->info(), *look, a ? &*a : nullptr, a ? std::string() : a.error().what);
  if (a && !task.cancelled())
    if (auto kept = library.saveResults(id, *a); !kept) return fail(kept.error());
  return keep();
}

}  // namespace jib::exchange
