// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that records a reply: all of it in one transaction.
#include <nlohmann/json.hpp>

#include "core/library/library_impl.h"

namespace jib::library {
namespace {

void insertAsked(SQLite::Database& db, SubmissionId in, const CueThread& t) {
  SQLite::Statement s(db,
                      "INSERT INTO cue_thread(athlete, asked_in, asked_on, review_on, finding, title, wording, "
                      "measure, value_then, sigma_then, state, drill, change, watch) "
                      "VALUES(?,?,?,?,?,?,?,?,?,?,?,?,?,?)");
  s.bind(1, t.athlete.number);
  s.bind(2, in.number);
  int at = 3;
  for (const std::string* text : {&t.asked_on, &t.review_on, &t.finding, &t.title, &t.wording, &t.measure})
    s.bind(at++, *text);
  s.bind(at++, t.value_then);
  s.bind(at++, t.sigma_then);
  s.bind(at++, std::string(nameOf(t.state)));
  s.bind(at++, t.drill);
  s.bind(at++, t.change ? coaching::changeToJson(*t.change) : std::string());
  s.bind(at, nlohmann::json(t.watch).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace));
  s.exec();
}

void replaceAsked(SQLite::Database& db, SubmissionId in, const std::vector<CueThread>& threads) {
  SQLite::Statement old(db, "DELETE FROM cue_thread WHERE asked_in = ?");
  old.bind(1, in.number);
  old.exec();
  for (const CueThread& t : threads) insertAsked(db, in, t);
}

}  // namespace

void Library::Impl::forgetWaitingLetters(SubmissionId about) {
  SQLite::Statement waiting(*database,
                            "SELECT id, file FROM outgoing WHERE submission = ? AND kind = 'reply' AND state = ?");
  waiting.bind(1, about.number);
  waiting.bind(2, std::string(nameOf(OutgoingState::Waiting)));
  while (waiting.executeStep()) {
    doom(folder / "outbox" / waiting.getColumn(1).getString());
    SQLite::Statement gone(*database, "DELETE FROM outgoing WHERE id = ?");
    gone.bind(1, waiting.getColumn(0).getInt64());
    gone.exec();
  }
}

Result<std::optional<Outgoing>> Library::returnReview(const Return& what) {
  auto done = impl_->guarded([&]() -> Result<std::optional<Outgoing>> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    std::optional<Outgoing> letter = what.letter;
    auto row = impl_->find(what.id);
    if (!row) return deletedMeanwhile();
    if (what.over && *what.over != impl_->reviewNumber(what.id)) return changedElsewhere();
    if (what.analysis) impl_->putResults(what.id, *what.analysis);
    replaceAsked(*impl_->database, what.id, what.asked);
    // One that was deleted meanwhile is not missed.
    for (const CueThread& t : what.measured_now) (void)impl_->putMeasuredNow(t);
    const auto answered = [&](Submission& s) {
      s.state = SubmissionState::Returned;
      s.details.answered_by = what.by;
      s.details.answered_on = what.on;
    };
    answered(*row);
    impl_->update(*row);
    for (const auto& [id, reason] : what.together) {
      auto other = impl_->find(id);
      if (!other || other->state == SubmissionState::Returned) continue;
      answered(*other);
      other->reason = reason;
      impl_->update(*other);
    }
    if (what.flesh || what.build) {
      auto who = athlete(row->athlete);
      if (!who) return fail(who.error());
      if (what.flesh) who->profile.flesh = what.flesh;
      if (what.build) who->profile.build = what.build;
      SQLite::Statement s(*impl_->database, "UPDATE athlete SET profile = ? WHERE id = ?");
      s.bind(1, profileToJson(who->profile));
      s.bind(2, who->id.number);
      s.exec();
    }
    if (letter) {
      impl_->forgetWaitingLetters(what.id);
      letter->id = impl_->insertOutgoing(*letter);
    }
    whole.commit();
    return letter;
  });
  if (done) impl_->forgetDoomed();  // the files of letters that were replaced
  return done;
}

}  // namespace jib::library
