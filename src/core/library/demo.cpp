// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/demo.h"

#include <map>
#include <nlohmann/json.hpp>

#include "core/coaching/analysis.h"
#include "core/library/follow_up.h"
#include "core/tracing/trace_store.h"

namespace jib::library {
namespace fs = std::filesystem;
using Json = nlohmann::json;

namespace {

struct Player {
  Library& library;
  coaching::Style style;
  coaching::CueBook book;
  fs::path folder;
  std::map<std::string, AthleteId> athletes;

  Result<bool> submission(const Json& j, Task& task) {
    Submission s;
    s.athlete = athletes.at(j.at("athlete"));
    s.received_on = j.at("received_on");
    s.message = j.at("message");
    const lifts::LiftDefinition* lift = lifts::liftNamed(j.at("lift").get<std::string>());
    if (!lift) return fail(ErrorCode::BadData, "No lift is called that in the demo.", "Correct the scenario.");
    s.lift = lift->name;
    s.variant = j.value("variant", std::string(lift->usual));
    s.details.lift_by = s.details.variant_by = ToldBy::Coach;
    s.load_kg = j.at("load_kg").get<double>();
    Task quiet;
    auto id = library.addSubmission(s, folder / j.at("clip").get<std::string>(), quiet);
    if (!id) return fail(id.error());
    auto stored = library.submission(*id);
    if (!stored) return fail(stored.error());

    Review review;
    auto placed = tracing::placedFromJson(j.value("placed", Json::array()));
    if (!placed) return fail(placed.error());
    review.placed = std::move(*placed);
    coaching::AnalysisRequest request;
    request.lift = lift->id;
    request.trace.body = lift->bodyOf(s.variant);
    request.variant = s.variant;
    request.trace.placed = review.placed;
    auto reader = footage::FrameReader::open(library.clipFile(*stored));
    if (!reader) return fail(reader.error());
    auto analysis = coaching::analyse(*reader, request, style, book, task);
    if (!analysis) return fail(analysis.error());
    if (auto saved = library.saveTracing(*id, tracing::traceToJson(analysis->trace).dump()); !saved) return saved;
    if (auto found = library.saveResults(*id, *analysis); !found) return found;
    if (j.contains("returned_on")) return reply(*stored, *analysis, review, j);
    if (auto followed = follow(*stored, *analysis); !followed) return followed;
    if (auto saved = library.saveReview(*id, review); !saved) return fail(saved.error());
    return true;
  }

  Result<bool> follow(const Submission& s, const coaching::Analysis& analysis) {
    auto threads = library.threads(s.athlete);
    if (!threads) return fail(threads.error());
    return library.saveMeasuredNow(measuredNow(*threads, s, analysis, style));
  }

  Result<bool> reply(const Submission& s, const coaching::Analysis& analysis, Review review, const Json& j) {
    review.greeting = j.value("greeting", "");
    review.cues_chosen = true;
    review.change_nothing = analysis.proposal.change_nothing;
    const int most = j.value("cues", 2);
    for (const coaching::Cue& cue : analysis.proposal.cues)
      if (static_cast<int>(review.cues.size()) < most) review.cues.push_back(cue);
    auto saved = library.saveReview(s.id, review);
    if (!saved) return fail(saved.error());
    auto threads = library.threads(s.athlete);
    if (!threads) return fail(threads.error());
    Library::Return r;
    r.id = s.id;
    r.over = *saved;
    r.analysis = &analysis;
    r.asked = threadsFor(s, review.cues, j.at("returned_on"));
    r.measured_now = measuredNow(*threads, s, analysis, style);
    if (auto returned = library.returnReview(r); !returned) return fail(returned.error());
    return true;
  }
};

// Before anything is written: a scenario whose films are not made yet leaves nothing half-filled.
Result<bool> allClipsThere(const std::string& bytes, const fs::path& scenario) {
  const Json j = Json::parse(bytes, nullptr, false);
  if (!j.is_object() || !j.contains("submissions"))
    return fail(ErrorCode::BadData, scenario.filename().string() + " is no scenario.", "Correct it.");
  for (const Json& one : j["submissions"]) {
    const fs::path clip = scenario.parent_path() / one.value("clip", std::string());
    if (auto film = footage::FrameReader::open(clip, footage::Workers::One); !film) return fail(film.error());
  }
  return true;
}

}  // namespace

Result<bool> fillDemo(Library& library, const fs::path& scenario, Task& task) {
  auto bytes = FileSystem::real().read(scenario);
  if (!bytes) return fail(bytes.error());
  // Names of made-up people beside real ones could not be told apart again.
  auto rows = library.submissions();
  auto people = library.athletes();
  if (!rows) return fail(rows.error());
  if (!people) return fail(people.error());
  if (!rows->empty() || !people->empty())
    return fail(ErrorCode::WrongUse, "This library is in use; the demo fills an empty one only.",
                "Name a folder that is not there yet.");
  if (auto filmed = allClipsThere(*bytes, scenario); !filmed) return filmed;
  auto style = coaching::shippedStyle("balanced");
  if (!style) return fail(style.error());
  auto book = coaching::CueBook::shipped();
  if (!book) return fail(book.error());
  try {
    const Json j = Json::parse(*bytes);
    if (const auto coach = j.find("coach"); coach != j.end()) {
      CoachCard card;
      card.name = coach->at("name");
      card.address = coach->at("address");
      if (auto kept = library.setCoach(card); !kept) return kept;
    }
    Player player{library, std::move(*style), std::move(*book), scenario.parent_path(), {}};
    for (const Json& one : j.at("athletes")) {
      Athlete athlete;
      athlete.name = one.at("name");
      athlete.note = one.at("note");
      athlete.profile = profileFromJson(one.value("profile", Json::object()).dump());
      auto id = library.addAthlete(athlete);
      if (!id) return fail(id.error());
      if (const std::string address = one.value("address", ""); !address.empty())
        if (auto added = library.addAddress(*id, address); !added) return added;
      player.athletes.emplace(athlete.name, *id);
    }
    const Json& submissions = j.at("submissions");
    for (std::size_t i = 0; i < submissions.size(); ++i) {
      if (task.cancelled()) return cancelled();
      const auto n = static_cast<double>(submissions.size());
      Task inner([&](double f) { task.report((static_cast<double>(i) + f) / n); });
      if (auto played = player.submission(submissions[i], inner); !played) return played;
    }
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, scenario.filename().string() + " is wrong: " + e.what() + ".", "Correct it.");
  }
  return true;
}

}  // namespace jib::library
