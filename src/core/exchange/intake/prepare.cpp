// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/prepare.h"

#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/coaching/style_book.h"
#include "core/footage/shots.h"
#include "core/lifts/side_words.h"
#include "core/tracing/sightings/lift_look.h"
#include "core/tracing/sightings/lift_pulse.h"
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

// In whose terms a submission is judged, and with what is told of it now.
struct Terms {
  coaching::AnalysisRequest request;
  coaching::Style style;
  coaching::CueBook book;
};

Result<Terms> termsOf(Library& library, const Submission& s) {
  auto review = library.review(s.id);
  if (!review) return fail(review.error());
  auto athlete = library.athlete(s.athlete);
  if (!athlete) return fail(athlete.error());
  auto style = styleOf(library, *athlete);
  if (!style) return fail(style.error());
  auto book = coaching::CueBook::shipped();
  if (!book) return fail(book.error());
  auto request = requestFor(s, *review, athlete->profile);
  auto sides = sidesBefore(library, s, *style);
  if (!sides) return fail(sides.error());
  request.sides_before = std::move(*sides);
  return Terms{std::move(request), std::move(*style), std::move(*book)};
}

// The bar as it was traced. What was seen of the body was seen where another lift would have had its reps.
tracing::KnownTrace withoutSightings(const Analysis& a) {
  tracing::KnownTrace known = a.trace.known();
  known.sightings = nullptr;
  return known;
}

// Reps, and not one look at the body: it was traced as another lift than it is.
bool bodyWasNeverLookedFor(const Analysis& a) {
  return !a.reps.empty() && !a.trace.body && !a.trace.front && a.trace.sightings_trouble.empty() &&
         (!a.trace.sightings || a.trace.sightings->empty());
}

// The stored tracing judged again, or the clip traced now, with what is known of it already.
Result<Analysis> traceFor(Library& library, const Submission& s, footage::FrameReader& reader, Task& task,
                          tracing::KnownTrace known = {}) {
  auto terms = termsOf(library, s);
  if (!terms) return fail(terms.error());
  auto stored = library.tracing(s.id);
  if (!stored) return fail(stored.error());
  if (!stored->empty()) {
    // A damaged one is no loss: the clip is traced again.
    auto a = restored(reader.info(), terms->request, *stored, terms->style, terms->book);
    if (a && !bodyWasNeverLookedFor(*a)) return a;
    if (a) return coaching::traced(reader, terms->request, terms->style, terms->book, task, withoutSightings(*a));
  }
  return coaching::traced(reader, terms->request, terms->style, terms->book, task, std::move(known));
}

// One look at one submission.
class Preparation {
 public:
  Preparation(Library& library, Submission submission, Task& task)
      : library_(library), s_(std::move(submission)), task_(task) {}

  Result<coaching::ClipCheck> run() {
    const auto file = library_.clipFile(s_);
    auto reader = footage::FrameReader::open(file);
    if (!reader) return unusable(footage::toldOf(s_.clip_name, file, reader.error()));
    task_.part(0, 0.05);
    if (auto kept = keepToWhatWasFilmed(*reader); !kept) return fail(kept.error());
    task_.part(0.05, 0.1);
    auto look = tracing::glanceAt(*reader, task_, s_.details.lifter, nullptr);
    task_.part(0.1, 1);
    if (!look) {
      if (mustStop(look.error())) return fail(look.error());
      if (look.error().code == ErrorCode::ClipUnreadable)
        return unusable(footage::toldOf(s_.clip_name, file, look.error()));
      look = nullptr;  // without the networks the tracing still tells something
    }
    if (task_.cancelled()) return cancelled();
    task_.part(0.1, 0.25);
    auto pulse = tracing::liftPulse(*reader, task_);
    if (!pulse && pulse.error().code == ErrorCode::Cancelled) return fail(pulse.error());
    task_.part(0.25, 1);
    if (pulse && !task_.cancelled())
      if (auto kept = library_.savePulse(s_.clip_hash, pulse->up); !kept) return fail(kept.error());
    auto a = traceFor(library_, s_, *reader, task_, {.glance = *look});
    if (!a && mustStop(a.error())) return fail(a.error());
    return judged(*reader, *look ? **look : tracing::FirstLook{}, a);
  }

  // Nothing can be made of it: why is kept, with the clip. A row the coach has gone on with meanwhile stays as it is.
  Result<coaching::ClipCheck> unusable(const Error& why) {
    auto kept = library_.edit(s_.id, [&](Submission& row) {
      if (row.state != SubmissionState::New && row.state != SubmissionState::NeedsVideo) return;
      row.state = SubmissionState::NeedsVideo;
      row.reason = why.what;
    });
    if (!kept) return fail(kept.error());
    return undecided(why.what);
  }

  // Nothing was found out, and nothing is said against the clip: the coach is asked whether to try again.
  Result<coaching::ClipCheck> undecided(const std::string& why) {
    check_ = coaching::failedCheck(why);
    return keep();
  }

 private:
  // Other shots and the borders an app put round the picture are left out before anything is measured, unless somebody
  // has set the picture right already.
  Result<bool> keepToWhatWasFilmed(footage::FrameReader& reader) {
    if (reader.info().upright != footage::Upright{}) return true;
    const auto filmed = footage::whatWasFilmed(reader, task_);
    // Whoever has opened the clip meanwhile sees it as it was, and places points there.
    if (task_.cancelled()) return cancelled();
    // What cannot be decoded is said by the look that comes next.
    if (!filmed || *filmed == footage::Upright{}) return true;
    if (auto set = library_.setUpright(s_.id, *filmed, reader.info().as_it_came); !set) return set;
    auto again = footage::FrameReader::open(library_.clipFile(s_));
    if (!again) return fail(again.error());
    reader = std::move(*again);
    auto row = library_.submission(s_.id);
    if (!row) return fail(row.error());
    s_ = std::move(*row);
    return true;
  }

  Result<coaching::ClipCheck> judged(footage::FrameReader& reader, tracing::FirstLook look, Result<Analysis>& a) {
    check_.lift_seen = lifts::looksLike(tracing::liftSeen(look, a ? a->trace.bar.get() : nullptr));
    // What was typed while the clip was looked at holds.
    auto now = library_.edit(s_.id, [&](Submission& row) {
      if (!row.lift.empty() || check_.lift_seen.empty()) return;
      row.lift = check_.lift_seen;
      row.variant = lifts::usualVariant(row.lift);
      row.details.lift_by = library::ToldBy::Film;
    });
    if (!now) return fail(now.error());
    s_ = std::move(*now);
    if (auto shared = shareLift(); !shared) return fail(shared.error());
    const lifts::LiftId id = liftIdOf(s_);
    if (a && a->request.lift != id) a = asLift(reader, *a);
    if (!a && mustStop(a.error())) return fail(a.error());
    const auto lift = liftOf(s_, &check_);
    const std::string seen = check_.lift_seen;
    const bool reps = a && (!a->reps.empty() || !a->misses.empty());
    if (lift.judge && reps) {
      auto terms = termsOf(library_, s_);
      if (!terms) return fail(terms.error());
      coaching::judgeAnew(*a, std::move(terms->request), terms->style, terms->book);
      coaching::lookAgain(look, &*a);
      check_ = coaching::checkClip(reader.info(), look, id, &*a, {});
      if (auto kept = keepAnalysis(*a); !kept) return fail(kept.error());
    } else {
      const std::string why = !lift.judge ? lift.reason : a ? coaching::noRepText(id) : a.error().what;
      check_ = coaching::checkClip(reader.info(), look, id, nullptr, why);
      if (!lift.judge) notJudged(check_, lift.reason);
    }
    check_.lift_seen = seen;
    return keep();
  }

  // It was traced as another lift than it turned out to be: the bar is kept, what hangs on the lift is traced anew.
  Result<Analysis> asLift(footage::FrameReader& reader, const Analysis& as_before) {
    return traceFor(library_, s_, reader, task_, withoutSightings(as_before));
  }

  // Clips that came with one message show one lift, unless somebody said otherwise: what the side view shows, a view
  // from the front is told.
  Result<bool> shareLift() {
    if (!s_.message_id) return true;
    auto all = library_.submissionsOf(s_.athlete);
    if (!all) return fail(all.error());
    for (const Submission& other : *all) {
      if (other.id == s_.id || other.message_id != s_.message_id || other.clip_hash.empty()) continue;
      if (s_.lift.empty() == other.lift.empty()) continue;
      const Submission& teller = s_.lift.empty() ? other : s_;
      auto kept = library_.edit(s_.lift.empty() ? s_.id : other.id, [&](Submission& learner) {
        if (!learner.lift.empty()) return;
        learner.lift = teller.lift;
        learner.variant = teller.variant;
        learner.details.lift_by = library::ToldBy::Film;
      });
      if (!kept) return fail(kept.error());
      if (kept->id == s_.id) s_ = std::move(*kept);
    }
    return true;
  }

  // Nothing green, and no trouble of the film's, where it is only we who cannot measure.
  static void notJudged(coaching::ClipCheck& check, const std::string& why) {
    for (coaching::Claim& claim : check.claims) {
      claim.can = coaching::Can::No;
      claim.why = why;
    }
    std::erase_if(check.troubles, [](const coaching::ClipTrouble& t) { return t.id == "no_lift"; });
  }

  Result<bool> keepAnalysis(const Analysis& a) {
    if (task_.cancelled()) return cancelled();
    if (auto kept = library_.saveTracing(s_.id, tracing::traceToJson(a.trace).dump()); !kept) return kept;
    return library_.saveResults(s_.id, a);
  }

  Result<coaching::ClipCheck> keep() {
    if (task_.cancelled()) return cancelled();
    if (auto kept = library_.saveCheck(s_.clip_hash, coaching::checkToJson(check_)); !kept) return fail(kept.error());
    return check_;
  }

  Library& library_;
  Submission s_;
  Task& task_;
  coaching::ClipCheck check_;
};

}  // namespace

lifts::LiftId liftIdOf(const Submission& s) {
  const lifts::LiftDefinition* known = lifts::liftNamed(s.lift);
  return known ? known->id : lifts::allLifts().front().id;
}

coaching::AnalysisRequest requestFor(const Submission& s, const library::Review& review,
                                     const library::Profile& profile) {
  coaching::AnalysisRequest request;
  request.lift = liftIdOf(s);
  request.trace.body = lifts::definition(request.lift).bodyOf(s.variant);
  request.variant = s.variant;
  request.slow_factor = s.slow_factor;
  request.trace.camera.rim_m = s.plate_mm / 1000;
  request.trace.view = tracing::viewNamed(s.details.seen_from).value_or(tracing::View::Auto);
  request.trace.lifter = s.details.lifter;
  request.trace.left_out = s.details.left_out;
  if (s.details.roll_deg) request.trace.camera.told_roll_rad = radians(*s.details.roll_deg);
  request.trace.placed = review.placed;
  if (profile.flesh) request.trace.flesh = tracing::remembered(*profile.flesh);
  request.trace.build = profile.build;
  request.marks = review.marks;
  request.rejected = review.rejected;
  request.held = review.held;
  request.one_set = coaching::SetChoice{s.details.top_set, s.details.set_loads_kg};
  request.overruled = s.details.overruled;
  request.lift_guessed = s.details.lift_by == library::ToldBy::Film && !s.details.lift_confirmed;
  request.message = s.message;
  // A load whose unit nobody knows tells nothing of a share.
  if (const auto best = profile.bestOf(s.lift); best && *best > 0 && s.load_kg && s.details.load_said.empty())
    request.share_of_best = *s.load_kg / *best;
  return request;
}

Result<coaching::SidesSeen> sidesBefore(Library& library, const Submission& submission, const coaching::Style& style) {
  coaching::SidesSeen seen;
  for (const coaching::Limit& limit : style.limits) {
    if (!lifts::isSided(limit.measure)) continue;
    auto sets = library.sidesBefore(submission, limit.finding, limit.measure);
    if (!sets) return fail(sets.error());
    if (*sets != std::array{0, 0}) seen[limit.finding] = *sets;
  }
  return seen;
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
  a.request.trace.body = lifts::definition(request.lift).bodyOf(request.variant);
  a.clip = clip;
  a.trace = std::move(*trace);
  coaching::judgeAnew(a, a.request, style, book);
  if (auto sound = tracing::check(a.trace.trace); !sound) return fail(sound.error());
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

lifts::LiftDecision liftOf(const Submission& s, const coaching::ClipCheck* check) {
  const bool by_film = s.details.lift_by == library::ToldBy::Film;
  const std::string seen = check && !check->lift_seen.empty() ? check->lift_seen : by_film ? s.lift : std::string();
  return lifts::decide({by_film ? std::string() : s.lift, s.details.lift_confirmed, seen});
}

Result<coaching::ClipCheck> prepare(Library& library, library::SubmissionId id, Task& task) {
  auto submission = library.submission(id);
  if (!submission) return fail(submission.error());
  const std::string hash = submission->clip_hash;
  Preparation preparation(library, *submission, task);
  // A decoder that falls over takes the program with it: what was begun twice and never ended is let alone.
  constexpr int kTries = 2;
  auto attempt = library.beginAttempt(hash);
  if (!attempt) return fail(attempt.error());
  if (attempt->elsewhere)
    return fail(ErrorCode::Conflict, "Another window is looking at this clip.", "Its result is on its way.");
  // It may have been the clip, or a power cut: that is for the coach to say, and nothing is said against the clip.
  auto done = attempt->fell >= kTries
                  ? preparation.undecided(
                        "The program was stopped twice while it looked at this clip. Try it again, or leave it.")
                  : [&]() -> Result<coaching::ClipCheck> {
    try {
      return preparation.run();
    } catch (const std::exception& e) {
      return preparation.unusable({ErrorCode::ClipUnreadable,
                                   std::string("Something in this clip can't be dealt with: ") + e.what() + ".", ""});
    }
  }();
  const bool given_up = !done && done.error().code == ErrorCode::Cancelled;
  auto ended = given_up ? library.dropAttempt(hash) : library.endAttempt(hash);
  if (!ended && done) return fail(ended.error());
  return done;
}

}  // namespace jib::exchange
