// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/reply_draft.h"
#include "core/base/quantity.h"

#include <algorithm>
#include <sstream>
#include <utility>

#include "core/coaching/loading.h"
#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/review/film_next.h"
#include "core/review/load_basis.h"

namespace jib::review {
namespace {

std::vector<library::CueThread> measuredNow(const Session& session, const Surroundings& around) {
  std::vector<library::SubmissionId> same_set;
  for (const library::SetFilm& film : around.films) same_set.push_back(film.film.id);
  auto threads =
      library::measuredNow(around.earlier, session.submission(), *session.analysis(), session.style(), same_set);
  std::erase_if(threads, [&](const library::CueThread& t) { return t.asked_in == session.submission().id; });
  return threads;
}

// Films that were judged as one are answered as one.
std::vector<std::pair<library::SubmissionId, std::string>> answeredTogether(const Session& session,
                                                                            const Surroundings& around) {
  std::vector<std::pair<library::SubmissionId, std::string>> all;
  const auto& others = session.analysis()->others;
  for (std::size_t i = 0; i < around.films.size() && i < around.film_analyses.size(); ++i)
    if (std::any_of(others.begin(), others.end(), [&](const coaching::OtherFilm& o) {
          return o.analysis == around.film_analyses[i] && !o.joined.empty();
        }))
      all.emplace_back(around.films[i].film.id, "Answered together with " + session.submission().clip_name + ".");
  return all;
}

library::Library::Return recordOf(const Session& session, const Surroundings& around,
                                  const coaching::Analysis& analysis) {
  library::Library::Return r;
  r.id = session.submission().id;
  r.by = around.coach.name;
  r.on = around.today;
  if (analysis.isTraced()) r.analysis = &analysis;
  r.asked = library::threadsFor(session.submission(), session.choice().cues, around.today, analysis.findings);
  // What is saved for after the meet waits for it.
  const std::string& meet = session.athlete().profile.meet_on;
  for (std::size_t i = 0; i < session.choice().cues.size(); ++i) {
    const coaching::Cue& cue = session.choice().cues[i];
    if (!cue.after_meet) continue;
    r.asked[i].state = library::ThreadState::Paused;
    r.asked[i].dropped_why = "saved for after the meet";
    if (library::isDate(meet)) r.asked[i].review_on = library::reviewDay(meet, cue.weeks);
  }
  if (session.choice().pain)
    r.asked.push_back(library::painThread(session.submission(), *session.choice().pain, around.today));
  r.measured_now = measuredNow(session, around);
  r.together = answeredTogether(session, around);
  // Where the coach clicked hip crease or knee's top, and what the placed points told of the limbs, stays known of the
  // athlete: the next clip begins with it.
  const auto& trace = analysis.trace;
  if (trace.flesh.crease_clicked || trace.flesh.knee_top_clicked) r.flesh = trace.flesh;
  if (trace.body && trace.body->build) r.build = trace.body->build;
  return r;
}

// A line a day, without what is empty.
std::vector<std::string> linesOf(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream in(text);
  for (std::string line; std::getline(in, line);)
    if (line.find_first_not_of(" \t\r") != std::string::npos) lines.push_back(line);
  return lines;
}

exchange::ReplyWords wordsOf(const Session& session, const ReplyContent& content) {
  exchange::ReplyWords words;
  words.lift = session.submission().lift;
  words.date = library::spoken(content.filmed_on);
  words.greeting = content.greeting;
  words.keep = content.keep;
  words.cues = content.cues;
  words.change_nothing = content.change_nothing;
  words.cautions = content.cautions;
  words.next = content.next;
  words.pain = content.pain;
  words.week = content.week;
  words.closing = content.closing;
  return words;
}

}  // namespace

ReplyContent contentOf(const Session& session, const Surroundings& around) {
  const CueChoice& choice = session.choice();
  const auto& load = session.submission().load_kg;
  ReplyContent c;
  c.athlete = session.athlete().name;
  c.coach = around.coach.name;
  c.filmed_on = session.submission().received_on;
  c.written_on = around.today;
  if (load && session.submission().details.load_said.empty()) c.load = massText(*load);
  c.greeting = choice.greeting;
  c.closing = choice.closing;
  c.keep = session.praise();
  c.cues = choice.cues;
  std::erase_if(c.cues, [](const coaching::Cue& cue) { return cue.after_meet; });
  // One load in a letter: two for one lift leave nobody knowing which goes on the bar.
  bool loaded = false;
  for (coaching::Cue& cue : c.cues)
    if (!cue.load.empty() && std::exchange(loaded, true)) cue.load.clear();
  const coaching::LoadBasis basis = loadBasisOf(session);
  for (coaching::Cue& cue : c.cues) cue.load = coaching::withKilos(std::move(cue.load), basis, around.rack);
  c.change_nothing = choice.change_nothing;
  c.cautions = exchange::careForAthlete(around.care);
  c.all_numbers = choice.all_numbers;
  c.drills = around.drills;
  c.own_sound = around.own_sound;
  c.hide_faces =
      library::hidesFaces(exchange::profileAsKnown(session.athlete(), around.care, around.today), around.today);
  c.shape = around.shape;
  c.takes = around.takes;
  for (std::size_t i = 0; i < around.films.size() && i < around.film_analyses.size(); ++i)
    if (around.second_in_corner && around.film_analyses[i] && !c.second) {
      c.second = around.film_analyses[i];
      c.second_offset_s = around.films[i].offset_s;
    }
  // A letter carries its files as text, four bytes for three, with line ends.
  constexpr double kAsText = 0.72;
  if (around.most_mb) c.most_mb = around.to_address.empty() ? *around.most_mb : kAsText * *around.most_mb;
  c.sketch = session.sketch();
  std::erase_if(c.sketch.shapes, [](const coaching::Shape& s) { return s.proposed; });
  if (choice.pain) c.pain = coaching::sentencesOf(*choice.pain);
  c.week = linesOf(choice.week);
  c.next = filmNext(session, around.today);
  for (const library::CueThread& t : measuredNow(session, around)) {
    // What the coach has set aside is not the athlete's to worry about.
    if (t.state == library::ThreadState::Dropped || t.state == library::ThreadState::Paused) continue;
    if (t.finding == coaching::kPainThread) continue;
    c.follow_up.push_back({library::spoken(t.asked_on), t.title, library::thenText(t), library::nowText(t),
                           std::string(titleOf(t.state)) + (t.why_not.empty() ? "" : ": " + t.why_not), t.measure});
  }
  return c;
}

Result<ReplyDraft> draftOf(const Session& session, const Surroundings& around, const exchange::LetterBook& book) {
  ReplyDraft d;
  d.analysis = session.analysis();
  JIB_ASSERT(d.analysis);
  d.content = contentOf(session, around);
  d.coach = around.coach;
  d.today = around.today;
  d.revision = session.revision();
  d.record = recordOf(session, around, *d.analysis);
  exchange::LetterBook letters = book;
  d.dispatch.letter = letters.signedBy(library::signatureOf(around.coach))
                          .reply(exchange::firstNameOf(session.athlete().name), wordsOf(session, d.content));
  d.dispatch.kind = "reply";
  d.dispatch.to_name = session.athlete().name;
  d.dispatch.to_address = around.to_address;
  d.dispatch.athlete = session.athlete().id;
  d.dispatch.submission = session.submission().id;
  d.dispatch.answers = around.answers;
  return d;
}

}  // namespace jib::review
