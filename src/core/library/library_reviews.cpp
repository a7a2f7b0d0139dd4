// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that keeps reviews, tracings, and what was asked of an athlete.
#include <array>
#include <nlohmann/json.hpp>

#include "core/library/library_impl.h"
#include "core/library/review_store.h"

namespace jib::library {
namespace {

constexpr std::array kThreadStates{ThreadState::Asked,  ThreadState::Better,  ThreadState::Met,
                                   ThreadState::NotYet, ThreadState::Dropped, ThreadState::NotComparable,
                                   ThreadState::Paused};

// What a film shows of a change and of what it may have brought, in the column `seen`.
std::string seenToJson(const CueThread& t) {
  nlohmann::json j{{"brought", t.brought}};
  if (t.change_now) j["now"] = {t.change_now->value, t.change_now->sigma};
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}
std::vector<std::string> texts(const nlohmann::json& j) {
  std::vector<std::string> all;
  if (j.is_array())
    for (const auto& one : j)
      if (one.is_string()) all.push_back(one.get<std::string>());
  return all;
}
void readSeen(const std::string& json, CueThread& t) {
  const auto j = nlohmann::json::parse(json, nullptr, false);
  if (!j.is_object()) return;
  if (const auto now = j.find("now");
      now != j.end() && now->is_array() && now->size() == 2 && now->at(0).is_number() && now->at(1).is_number())
    t.change_now = lifts::Measured{now->at(0).get<double>(), now->at(1).get<double>(), 0};
  if (const auto brought = j.find("brought"); brought != j.end()) t.brought = texts(*brought);
}

CueThread threadFrom(SQLite::Statement& s) {
  CueThread t;
  t.id = CueThreadId(s.getColumn(0).getInt64());
  t.athlete = AthleteId(s.getColumn(1).getInt64());
  t.asked_in = SubmissionId(s.getColumn(2).getInt64());
  t.asked_on = s.getColumn(3).getString();
  t.review_on = s.getColumn(4).getString();
  t.finding = s.getColumn(5).getString();
  t.title = s.getColumn(6).getString();
  t.wording = s.getColumn(7).getString();
  t.measure = s.getColumn(8).getString();
  t.value_then = s.getColumn(9).getDouble();
  t.sigma_then = s.getColumn(10).getDouble();
  t.value_now = realOr(s.getColumn(11));
  t.sigma_now = realOr(s.getColumn(12));
  if (!s.getColumn(13).isNull()) t.measured_in = SubmissionId(s.getColumn(13).getInt64());
  t.measured_on = s.getColumn(14).getString();
  t.state = stateNamed(s.getColumn(15).getString(), kThreadStates);
  t.asked_variant = s.getColumn(16).getString();
  if (!s.isColumnNull(17)) t.asked_load_kg = s.getColumn(17).getDouble();
  t.drill = s.getColumn(18).getString();
  t.asked_kit = detailsFromJson(s.getColumn(19).getString()).kit;
  t.asked_film_on = s.getColumn(20).getString();
  if (!s.isColumnNull(21)) {
    t.asked_filmed.emplace();
    t.asked_filmed->view = s.getColumn(21).getString();
    t.asked_filmed->turned_deg = realOr(s.getColumn(22));
    t.asked_filmed->look_down_deg = realOr(s.getColumn(23));
  }
  t.dropped_why = s.getColumn(24).getString();
  t.change = coaching::changeFromJson(s.getColumn(25).getString());
  t.watch = texts(nlohmann::json::parse(s.getColumn(26).getString(), nullptr, false));
  readSeen(s.getColumn(27).getString(), t);
  return t;
}

void bindThreadNow(SQLite::Statement& s, int at, const CueThread& t) {
  bindOr(s, at, t.value_now);
  bindOr(s, at + 1, t.sigma_now);
  if (t.measured_in)
    s.bind(at + 2, t.measured_in->number);
  else
    s.bind(at + 2);
  s.bind(at + 3, t.measured_on);
  s.bind(at + 4, std::string(nameOf(t.state)));
}

}  // namespace

int Library::Impl::reviewNumber(SubmissionId id) {
  SQLite::Statement s(*database, "SELECT number FROM review WHERE submission = ?");
  s.bind(1, id.number);
  return s.executeStep() ? s.getColumn(0).getInt() : 0;
}

Result<int> Library::Impl::saveReview(SubmissionId id, const Review& review, std::optional<int> over) {
  if (!find(id)) return deletedMeanwhile();
  const int now = reviewNumber(id);
  if (over && *over != now) return changedElsewhere();
  SQLite::Statement s(*database,
                      "INSERT INTO review(submission, json, number) VALUES(?, ?, ?) "
                      "ON CONFLICT(submission) DO UPDATE SET json = excluded.json, number = excluded.number");
  s.bind(1, id.number);
  s.bind(2, reviewToJson(review));
  s.bind(3, now + 1);
  s.exec();
  return now + 1;
}

Result<int> Library::saveReview(SubmissionId id, const Review& review, std::optional<int> over) {
  return impl_->guarded([&]() -> Result<int> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    auto saved = impl_->saveReview(id, review, over);
    if (saved) whole.commit();
    return saved;
  });
}

Result<int> Library::reviewNumber(SubmissionId id) {
  return impl_->guarded([&]() -> Result<int> { return impl_->reviewNumber(id); });
}

Result<Review> Library::review(SubmissionId id) {
  return impl_->guarded([&]() -> Result<Review> {
    const std::string json = impl_->json("review", id);
    return json.empty() ? Result<Review>(Review{}) : reviewFromJson(json);
  });
}

Result<bool> Library::saveTracing(SubmissionId id, std::string_view json) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (!impl_->find(id)) return deletedMeanwhile();
    impl_->setJson("tracing", id, json);
    whole.commit();
    return true;
  });
}

Result<std::string> Library::tracing(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::string> { return impl_->json("tracing", id); });
}

Result<std::vector<CueThread>> Library::threads(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<CueThread>> {
    std::vector<CueThread> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT t.id, t.athlete, t.asked_in, t.asked_on, t.review_on, t.finding, t.title, t.wording, "
                        "t.measure, t.value_then, t.sigma_then, t.value_now, t.sigma_now, t.measured_in, "
                        "t.measured_on, t.state, s.variant, s.load_kg, t.drill, s.details, s.received_on, "
                        "f.view, f.turned_deg, f.look_down_deg, t.dropped_why, t.change, t.watch, t.seen "
                        "FROM cue_thread t JOIN submission s ON s.id = t.asked_in "
                        "LEFT JOIN filmed f ON f.submission = t.asked_in "
                        "WHERE t.athlete = ? ORDER BY t.asked_on DESC, t.id DESC");
    s.bind(1, athlete.number);
    while (s.executeStep()) all.push_back(threadFrom(s));
    return all;
  });
}

bool Library::Impl::putMeasuredNow(const CueThread& t) {
  SQLite::Statement s(
      *database,
      "UPDATE cue_thread SET value_now=?, sigma_now=?, measured_in=?, measured_on=?, state=?, seen=? WHERE id=?");
  bindThreadNow(s, 1, t);
  s.bind(6, seenToJson(t));
  s.bind(7, t.id.number);
  return s.exec() == 1;
}

Result<bool> Library::saveMeasuredNow(const std::vector<CueThread>& threads) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    for (const CueThread& t : threads)
      if (!impl_->putMeasuredNow(t))
        return fail(ErrorCode::CannotRead, "That cue has since been deleted.", "Open the clip again.");
    whole.commit();
    return true;
  });
}

Result<bool> Library::dropThread(CueThreadId id, const std::string& why) {
  return impl_->setThreadState(id, ThreadState::Dropped, why);
}

Result<bool> Library::pauseThread(CueThreadId id, const std::string& why) {
  return impl_->setThreadState(id, ThreadState::Paused, why);
}

Result<bool> Library::settleThread(CueThreadId id, ThreadState state, SubmissionId in) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Statement s(*impl_->database,
                        "UPDATE cue_thread SET state = ?, measured_in = ?, measured_on = "
                        "coalesce((SELECT received_on FROM submission WHERE id = ?), '') WHERE id = ?");
    s.bind(1, std::string(nameOf(state)));
    s.bind(2, in.number);
    s.bind(3, in.number);
    s.bind(4, id.number);
    if (s.exec() == 0) return fail(ErrorCode::CannotRead, "That cue has since been deleted.", "Open the clip again.");
    return true;
  });
}

Result<bool> Library::resumeThread(CueThreadId id) {
  return impl_->setThreadState(id, ThreadState::Asked, {});
}

Result<bool> Library::Impl::setThreadState(CueThreadId id, ThreadState state, const std::string& why) {
  return guarded([&]() -> Result<bool> {
    SQLite::Statement s(*database, "UPDATE cue_thread SET state = ?, dropped_why = ? WHERE id = ?");
    s.bind(1, std::string(nameOf(state)));
    s.bind(2, why);
    s.bind(3, id.number);
    if (s.exec() == 0) return fail(ErrorCode::CannotRead, "That cue has since been deleted.", "Open the clip again.");
    return true;
  });
}

}  // namespace jib::library
