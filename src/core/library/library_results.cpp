// SPDX-License-Identifier: GPL-3.0-or-later
// The part of the library that keeps what was found and measured when.
#include <array>
#include <cmath>

#include "core/library/library_impl.h"

namespace jib::library {

void Library::Impl::putFindings(SubmissionId id, const std::vector<coaching::Finding>& findings) {
  SQLite::Statement old(*database, "DELETE FROM finding_seen WHERE submission = ?");
  old.bind(1, id.number);
  old.exec();
  for (const coaching::Finding& f : findings) {
    SQLite::Statement s(*database, "INSERT INTO finding_seen(submission, finding, verdict, rep) VALUES(?,?,?,?)");
    s.bind(1, id.number);
    s.bind(2, f.id);
    s.bind(3, std::string(coaching::nameOf(f.verdict)));
    s.bind(4, f.reps.empty() ? 0 : f.reps.front());
    s.exec();
  }
}

Result<bool> Library::saveFindings(SubmissionId id, const std::vector<coaching::Finding>& findings) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (!impl_->find(id)) return deletedMeanwhile();
    impl_->putFindings(id, findings);
    whole.commit();
    return true;
  });
}

Result<std::map<std::string, std::string>> Library::findingsOf(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::map<std::string, std::string>> {
    std::map<std::string, std::string> all;
    SQLite::Statement s(*impl_->database, "SELECT finding, verdict FROM finding_seen WHERE submission = ?");
    s.bind(1, id.number);
    while (s.executeStep()) all[s.getColumn(0).getString()] = s.getColumn(1).getString();
    return all;
  });
}

namespace {

// All of a set at once, in place of what was kept of it before; within the caller's transaction.
void putMeasures(SQLite::Database& database, SubmissionId id, const lifts::SetMeasures& measures) {
  SQLite::Statement gone(database, "DELETE FROM measured WHERE submission = ?");
  gone.bind(1, id.number);
  gone.exec();
  SQLite::Statement s(database,
                      "INSERT INTO measured(submission, rep, measure, value, sigma, t_s) VALUES(?, ?, ?, ?, ?, ?)");
  const auto keep = [&](int rep, const lifts::MeasureList& list) {
    for (const auto& named : list) {
      const lifts::Measured* m = named.measured();
      if (!m || !std::isfinite(m->value) || !std::isfinite(m->sigma)) continue;
      s.reset();
      s.bind(1, id.number);
      s.bind(2, rep);
      s.bind(3, std::string(named.kind->id));
      s.bind(4, m->value);
      s.bind(5, m->sigma);
      s.bind(6, m->t_s);
      s.exec();
    }
  };
  for (std::size_t i = 0; i < measures.reps.size(); ++i) keep(static_cast<int>(i + 1), measures.reps[i]);
  keep(0, measures.set);
}

void putFilmed(SQLite::Database& database, SubmissionId id, const lifts::FilmedAs& as) {
  SQLite::Statement s(database,
                      "INSERT OR REPLACE INTO filmed(submission, view, turned_deg, look_down_deg, scale) "
                      "VALUES(?, ?, ?, ?, ?)");
  s.bind(1, id.number);
  s.bind(2, as.view);
  as.turned_deg ? s.bind(3, *as.turned_deg) : s.bind(3);
  as.look_down_deg ? s.bind(4, *as.look_down_deg) : s.bind(4);
  s.bind(5, as.scale);
  s.exec();
}

void putSpeed(SQLite::Database& database, SubmissionId id, double mps, double sigma) {
  SQLite::Statement s(database,
                      "INSERT INTO set_speed(submission, mps, sigma) VALUES(?, ?, ?) "
                      "ON CONFLICT(submission) DO UPDATE SET mps = excluded.mps, sigma = excluded.sigma");
  s.bind(1, id.number);
  s.bind(2, mps);
  s.bind(3, sigma);
  s.exec();
}

}  // namespace

Result<std::vector<Library::KeptMeasure>> Library::measured(AthleteId athlete, std::string_view measure) {
  return impl_->guarded([&]() -> Result<std::vector<KeptMeasure>> {
    std::vector<KeptMeasure> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT m.submission, s.received_on, m.rep, m.value, m.sigma, m.t_s FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE s.athlete = ? AND m.measure = ? "
                        "ORDER BY s.received_on, s.id, m.rep");
    s.bind(1, athlete.number);
    s.bind(2, std::string(measure));
    while (s.executeStep())
      all.push_back({SubmissionId{s.getColumn(0).getInt64()},
                     s.getColumn(1).getString(),
                     s.getColumn(2).getInt(),
                     {s.getColumn(3).getDouble(), s.getColumn(4).getDouble(), s.getColumn(5).getDouble()}});
    return all;
  });
}

Result<std::map<std::pair<std::string, std::string>, int>> Library::measuredClips(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::map<std::pair<std::string, std::string>, int>> {
    std::map<std::pair<std::string, std::string>, int> clips;
    SQLite::Statement s(*impl_->database,
                        "SELECT s.lift, m.measure, COUNT(DISTINCT m.submission) FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE s.athlete = ? GROUP BY s.lift, m.measure");
    s.bind(1, athlete.number);
    while (s.executeStep()) clips[{s.getColumn(0).getString(), s.getColumn(1).getString()}] = s.getColumn(2).getInt();
    return clips;
  });
}

Result<std::map<std::string, std::vector<Library::KeptMeasure>>> Library::results(SubmissionId id) {
  return impl_->guarded([&]() -> Result<std::map<std::string, std::vector<KeptMeasure>>> {
    std::map<std::string, std::vector<KeptMeasure>> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT m.measure, s.received_on, m.rep, m.value, m.sigma, m.t_s FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE m.submission = ? "
                        "ORDER BY m.measure, m.rep = 0, m.rep");
    s.bind(1, id.number);
    while (s.executeStep())
      all[s.getColumn(0).getString()].push_back(
          {id,
           s.getColumn(1).getString(),
           s.getColumn(2).getInt(),
           {s.getColumn(3).getDouble(), s.getColumn(4).getDouble(), s.getColumn(5).getDouble()}});
    return all;
  });
}

Result<lifts::FilmedAs> Library::filmedAs(const Submission& submission) {
  return impl_->guarded([&]() -> Result<lifts::FilmedAs> {
    lifts::FilmedAs as;
    as.lift = submission.lift;
    as.variant = submission.variant;
    as.view = submission.details.seen_from;
    as.load_kg = submission.load_kg;
    as.kit = submission.details.kit;
    SQLite::Statement s(*impl_->database,
                        "SELECT view, turned_deg, look_down_deg, scale FROM filmed WHERE submission = ?");
    s.bind(1, submission.id.number);
    if (!s.executeStep()) return as;
    as.view = s.getColumn(0).getString();
    if (!s.isColumnNull(1)) as.turned_deg = s.getColumn(1).getDouble();
    if (!s.isColumnNull(2)) as.look_down_deg = s.getColumn(2).getDouble();
    as.scale = s.getColumn(3).getString();
    return as;
  });
}

void Library::Impl::putResults(SubmissionId id, const coaching::Analysis& analysis) {
  putFilmed(*database, id, coaching::filmedAs(analysis));
  putFindings(id, analysis.findings);
  putMeasures(*database, id, analysis.measures);
  const lifts::Measured* fastest = nullptr;
  for (const auto& rep : analysis.measures.reps)
    if (const auto* named = lifts::find(rep, "bar_mean_ascent_mps"))
      if (const auto* m = named->measured(); m && (!fastest || m->value > fastest->value)) fastest = m;
  if (fastest) return putSpeed(*database, id, fastest->value, fastest->sigma);
  SQLite::Statement gone(*database, "DELETE FROM set_speed WHERE submission = ?");
  gone.bind(1, id.number);
  gone.exec();
}

Result<bool> Library::saveResults(SubmissionId id, const coaching::Analysis& analysis) {
  return impl_->guarded([&]() -> Result<bool> {
    SQLite::Transaction whole(*impl_->database, SQLite::TransactionBehavior::IMMEDIATE);
    if (!impl_->find(id)) return deletedMeanwhile();
    impl_->putResults(id, analysis);
    whole.commit();
    return true;
  });
}

Result<bool> Library::saveSpeed(SubmissionId id, double mps, double sigma) {
  return impl_->guarded([&]() -> Result<bool> {
    putSpeed(*impl_->database, id, mps, sigma);
    return true;
  });
}

Result<std::vector<coaching::LoadedSet>> Library::speeds(AthleteId athlete, std::string_view lift) {
  return impl_->guarded([&]() -> Result<std::vector<coaching::LoadedSet>> {
    std::vector<coaching::LoadedSet> sets;
    SQLite::Statement s(*impl_->database,
                        "SELECT s.load_kg, v.mps, v.sigma, s.received_on FROM set_speed v "
                        "JOIN submission s ON s.id = v.submission "
                        "WHERE s.athlete = ? AND s.lift = ? AND s.load_kg > 0 AND s.state <> 'skipped' "
                        "ORDER BY s.received_on, s.id");
    s.bind(1, athlete.number);
    s.bind(2, std::string(lift));
    while (s.executeStep())
      sets.push_back({s.getColumn(0).getDouble(), s.getColumn(1).getDouble(), s.getColumn(2).getDouble(),
                      s.getColumn(3).getString()});
    return sets;
  });
}

Result<Library::FirstShown> Library::firstShown(AthleteId athlete, const std::string& finding) {
  return impl_->guarded([&]() -> Result<FirstShown> {
    FirstShown out;
    SQLite::Statement s(*impl_->database,
                        "SELECT s.load_kg, f.verdict, s.received_on, f.rep FROM finding_seen f "
                        "JOIN submission s ON s.id = f.submission "
                        "WHERE s.athlete = ? AND f.finding = ? AND s.load_kg IS NOT NULL ORDER BY s.load_kg");
    s.bind(1, athlete.number);
    s.bind(2, finding);
    while (s.executeStep()) {
      const double kg = s.getColumn(0).getDouble();
      const std::string verdict = s.getColumn(1).getString();
      if (verdict == "yes" && !out.shown_kg) {
        out.shown_kg = kg;
        out.shown_on = s.getColumn(2).getString();
        out.rep = s.getColumn(3).getInt();
      }
      if (verdict == "no") out.clean_kg = kg;
    }
    return out;
  });
}

Result<std::vector<Library::ShownOn>> Library::shownByDay(AthleteId athlete, const std::string& finding) {
  return impl_->guarded([&]() -> Result<std::vector<ShownOn>> {
    std::vector<ShownOn> days;
    SQLite::Statement s(
        *impl_->database,
        "SELECT s.received_on, s.load_kg, f.verdict, s.id FROM finding_seen f "
        "JOIN submission s ON s.id = f.submission "
        "WHERE s.athlete = ? AND f.finding = ? AND f.verdict IN ('yes', 'no') AND s.load_kg IS NOT NULL "
        "ORDER BY s.received_on, s.load_kg");
    s.bind(1, athlete.number);
    s.bind(2, finding);
    while (s.executeStep()) {
      const std::string on = s.getColumn(0).getString();
      const double kg = s.getColumn(1).getDouble();
      const SubmissionId id{s.getColumn(3).getInt64()};
      if (days.empty() || days.back().on != on) days.push_back({on, {}, {}, SubmissionId(0)});
      ShownOn& day = days.back();
      if (s.getColumn(2).getString() == "no") {
        day.clean_kg = kg;
        if (!day.shown_kg) day.submission = id;
      } else if (!day.shown_kg) {
        day.shown_kg = kg;
        day.submission = id;
      }
    }
    return days;
  });
}

Result<std::array<int, 2>> Library::sidesBefore(const Submission& now, const std::string& finding,
                                                const std::string& measure) {
  return impl_->guarded([&]() -> Result<std::array<int, 2>> {
    SQLite::Statement s(*impl_->database,
                        "SELECT COALESCE(SUM(mean < 0), 0), COALESCE(SUM(mean > 0), 0) FROM ("
                        "SELECT AVG(m.value) AS mean FROM finding_seen f "
                        "JOIN submission s ON s.id = f.submission "
                        "JOIN measured m ON m.submission = s.id AND m.measure = :measure "
                        "WHERE f.finding = :finding AND f.verdict = 'yes' AND s.athlete = :athlete AND s.lift = :lift "
                        "AND s.id <> :pair AND COALESCE(s.pair, -1) NOT IN (:id, :pair) AND (s.received_on, s.id) < "
                        "(:day, :id) GROUP BY s.id)");
    s.bind(":measure", measure);
    s.bind(":finding", finding);
    s.bind(":athlete", now.athlete.number);
    s.bind(":lift", now.lift);
    s.bind(":pair", now.pair ? now.pair->number : 0);
    s.bind(":day", now.received_on);
    s.bind(":id", now.id.number);
    s.executeStep();
    return std::array{s.getColumn(0).getInt(), s.getColumn(1).getInt()};
  });
}

Result<std::vector<std::vector<lifts::Measured>>> Library::lastMeasured(std::string_view lift, std::string_view measure,
                                                                        int sets) {
  return impl_->guarded([&]() -> Result<std::vector<std::vector<lifts::Measured>>> {
    SQLite::Statement s(*impl_->database,
                        "SELECT m.submission, m.rep, m.value, m.sigma, m.t_s FROM measured m "
                        "JOIN submission s ON s.id = m.submission WHERE m.measure = ? AND s.lift = ? "
                        "ORDER BY s.received_on DESC, m.submission DESC, m.rep");
    s.bind(1, std::string(measure));
    s.bind(2, std::string(lift));
    std::vector<std::vector<lifts::Measured>> all;
    std::int64_t last = -1;
    while (s.executeStep()) {
      if (const auto id = s.getColumn(0).getInt64(); id != last) {
        if (static_cast<int>(all.size()) == sets) break;
        all.emplace_back();
        last = id;
      }
      all.back().push_back({s.getColumn(2).getDouble(), s.getColumn(3).getDouble(), s.getColumn(4).getDouble()});
    }
    return all;
  });
}

}  // namespace jib::library
