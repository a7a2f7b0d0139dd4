// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/export.h"

#include <nlohmann/json.hpp>

#include "core/library/review_store.h"

namespace jib::library {
namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

Result<bool> exportAthlete(Library& library, AthleteId id, const fs::path& folder) {
  auto athlete = library.athlete(id);
  if (!athlete) return fail(athlete.error());
  auto submissions = library.submissions();
  if (!submissions) return fail(submissions.error());
  auto threads = library.threads(id);
  if (!threads) return fail(threads.error());
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite, folder.string() + " cannot be made: " + error.message() + ".",
                "Choose another folder.");
  Json all{{"schema", "jagged-jib/athlete"}, {"version", 1}, {"name", athlete->name}, {"note", athlete->note}};
  all["submissions"] = Json::array();
  for (const Submission& s : *submissions) {
    if (s.athlete != id) continue;
    const std::string name =
        s.received_on + "-" + std::to_string(s.id.number) + fs::path(s.clip_name).extension().string();
    if (auto copied = FileSystem::real().copy(library.clipFile(s), folder / name); !copied) return copied;
    auto review = library.review(s.id);
    if (!review) return fail(review.error());
    all["submissions"].push_back({{"received_on", s.received_on},
                                  {"message", s.message},
                                  {"lift", s.lift},
                                  {"variant", s.variant},
                                  {"load_kg", s.load_kg ? Json(*s.load_kg) : Json()},
                                  {"clip", name},
                                  {"state", nameOf(s.state)},
                                  {"review", Json::parse(reviewToJson(*review))}});
  }
  all["asked"] = Json::array();
  for (const CueThread& t : *threads)
    all["asked"].push_back({{"asked_on", t.asked_on},
                            {"review_on", t.review_on},
                            {"title", t.title},
                            {"wording", t.wording},
                            {"measure", t.measure},
                            {"then", t.value_then},
                            {"now", t.value_now ? Json(*t.value_now) : Json()},
                            {"state", nameOf(t.state)}});
  return writeWhole(FileSystem::real(), folder / "athlete.json", all.dump(1));
}

}  // namespace jib::library
