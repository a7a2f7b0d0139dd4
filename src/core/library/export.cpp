// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/export.h"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "core/base/staging_folder.h"
#include "core/library/review_store.h"

namespace jib::library {
namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

namespace {

// What an older version or a damaged row left unreadable goes along as the text it is.
Json parsedOrText(const std::string& json) {
  if (json.empty()) return Json();
  Json j = Json::parse(json, nullptr, false);
  return j.is_discarded() ? Json(json) : j;
}

// What the coach wrote for themselves alone stays: what was noticed at first look, why a finding was dismissed, and how
// the desk stood.
Json forTheAthlete(Json review) {
  if (review.is_object())
    for (const char* own : {"bookmarks", "rejected", "desk", "looked", "play_head_s"}) review.erase(own);
  return review;
}

// What coaches ask one another about a clip is theirs.
SubmissionDetails forTheAthlete(SubmissionDetails details) {
  details.second_opinion.reset();
  return details;
}

class Exporter {
 public:
  Exporter(Library& library, AthleteId id, fs::path to) : library_(library), id_(id), to_(std::move(to)) {}

  Result<bool> run(Task& task) {
    auto athlete = library_.athlete(id_);
    if (!athlete) return fail(athlete.error());
    auto addresses = library_.addresses(id_);
    if (!addresses) return fail(addresses.error());
    all_ = Json{{"schema", "jagged-jib/athlete"},
                {"version", 2},
                {"name", athlete->name},
                {"style", athlete->style},
                {"profile", parsedOrText(profileToJson(athlete->profile))},
                {"addresses", *addresses}};
    if (auto done = messages(); !done) return done;
    if (auto done = submissions(task); !done) return done;
    if (auto done = asked(); !done) return done;
    if (auto done = letters(); !done) return done;
    return writeWhole(FileSystem::real(), to_ / "athlete.json",
                      all_.dump(1, ' ', false, Json::error_handler_t::replace));
  }

 private:
  Result<bool> copy(const fs::path& from, const fs::path& to) {
    if (auto made = makePrivateFolder(to.parent_path()); !made) return made;
    return FileSystem::real().copy(from, to);
  }

  static Json described(const Message& m, const std::string& file) {
    Json fields = Json::array();
    for (const MessageField& f : m.fields)
      fields.push_back(
          {{"field", f.field}, {"value", f.value}, {"words", f.words}, {"confirmed", f.confirmed}, {"sure", f.sure}});
    Json j{{"id", m.id.number},         {"received_on", m.received_on},
           {"from_name", m.from_name},  {"from_address", m.from_address},
           {"subject", m.subject},      {"words", m.body},
           {"quoted", m.quoted},        {"held", m.contents},
           {"read", std::move(fields)}, {"troubles", m.troubles}};
    if (!file.empty()) j["file"] = file;
    return j;
  }

  Result<bool> messages() {
    auto messages = library_.messages(id_);
    if (!messages) return fail(messages.error());
    all_["messages"] = Json::array();
    for (const Message& m : *messages) {
      // Its file went with the films it brought; what was read of it is here.
      if (m.original.empty()) {
        all_["messages"].push_back(described(m, {}));
        continue;
      }
      const std::string name =
          "messages/" + m.received_on + "-" + std::to_string(m.id.number) + (m.from_address.empty() ? ".txt" : ".eml");
      if (auto copied = copy(library_.mailFile(m), to_ / name); !copied) return copied;
      all_["messages"].push_back(described(m, name));
    }
    return true;
  }

  Result<bool> submissions(Task& task) {
    auto submissions = library_.submissionsOf(id_);
    if (!submissions) return fail(submissions.error());
    all_["submissions"] = Json::array();
    for (std::size_t k = 0; k < submissions->size(); ++k) {
      if (task.cancelled()) return cancelled();
      if (auto done = submission((*submissions)[k]); !done) return done;
      task.report(static_cast<double>(k + 1) / static_cast<double>(submissions->size()));
    }
    return true;
  }

  Result<bool> submission(const Submission& s) {
    const std::string number = s.received_on + "-" + std::to_string(s.id.number);
    Json j{{"id", s.id.number},
           {"kind", nameOf(s.kind)},
           {"received_on", s.received_on},
           {"message", s.message},
           {"lift", s.lift},
           {"variant", s.variant},
           {"load_kg", s.load_kg ? Json(*s.load_kg) : Json()},
           {"plate_mm", s.plate_mm},
           {"slow_factor", s.slow_factor},
           {"state", nameOf(s.state)},
           {"reason", s.reason},
           {"details", parsedOrText(detailsToJson(forTheAthlete(s.details)))}};
    if (s.message_id) j["came_with"] = s.message_id->number;
    if (s.pair) j["same_set_as"] = s.pair->number;
    if (!s.clip_hash.empty()) {
      const std::string name = "clips/" + number + safeExtension(s.clip_name);
      if (auto copied = copy(library_.clipFile(s), to_ / name); !copied) return copied;
      j["clip"] = name;
      j["clip_name"] = s.clip_name;
      auto check = library_.checkOf(s.clip_hash);
      if (check) j["check"] = parsedOrText(*check);
    }
    auto review = library_.review(s.id);
    j["review"] = review ? forTheAthlete(parsedOrText(reviewToJson(*review))) : Json(review.error().what);
    auto tracing = library_.tracing(s.id);
    if (!tracing) return fail(tracing.error());
    j["tracing"] = parsedOrText(*tracing);
    auto findings = library_.findingsOf(s.id);
    if (!findings) return fail(findings.error());
    j["findings"] = *findings;
    const fs::path replies = library_.folder() / "replies" / std::to_string(s.id.number);
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(replies, error)) {
      if (!entry.is_regular_file(error)) continue;
      const std::string name = "replies/" + number + "/" + entry.path().filename().string();
      if (auto copied = copy(entry.path(), to_ / name); !copied) return copied;
      j["returned"].push_back(name);
    }
    all_["submissions"].push_back(std::move(j));
    return true;
  }

  Result<bool> asked() {
    auto threads = library_.threads(id_);
    if (!threads) return fail(threads.error());
    all_["asked"] = Json::array();
    for (const CueThread& t : *threads)
      all_["asked"].push_back({{"asked_in", t.asked_in.number},
                               {"asked_on", t.asked_on},
                               {"review_on", t.review_on},
                               {"finding", t.finding},
                               {"title", t.title},
                               {"wording", t.wording},
                               {"measure", t.measure},
                               {"then", t.value_then},
                               {"then_sigma", t.sigma_then},
                               {"now", t.value_now ? Json(*t.value_now) : Json()},
                               {"now_sigma", t.sigma_now ? Json(*t.sigma_now) : Json()},
                               {"measured_on", t.measured_on},
                               {"state", nameOf(t.state)}});
    return true;
  }

  Result<bool> letters() {
    auto outgoing = library_.outgoing();
    if (!outgoing) return fail(outgoing.error());
    all_["letters"] = Json::array();
    for (const Outgoing& o : *outgoing) {
      if (o.athlete != id_) continue;
      Json j{{"made_on", o.made_on}, {"kind", o.kind},           {"to", o.to_address},
             {"subject", o.subject}, {"state", nameOf(o.state)}, {"handed_on", o.handed_on}};
      const fs::path file = library_.outgoingFile(o);
      std::error_code error;
      if (fs::is_regular_file(file, error)) {
        const std::string name = "letters/" + o.made_on + "-" + std::to_string(o.id.number) + ".eml";
        if (auto copied = copy(file, to_ / name); !copied) return copied;
        j["file"] = name;
      }
      all_["letters"].push_back(std::move(j));
    }
    return true;
  }

  Library& library_;
  AthleteId id_;
  fs::path to_;
  Json all_;
};

}  // namespace

std::string folderNameFor(std::string_view name) {
  std::string out;
  for (const char c : name) {
    const auto u = static_cast<unsigned char>(c);
    const bool plain = (u >= '0' && u <= '9') || (u >= 'a' && u <= 'z') || (u >= 'A' && u <= 'Z') || u >= 0x80 ||
                       c == '_' || c == '.' || c == '-';
    if (plain)
      out += c;
    else if (!out.empty() && out.back() != '-')
      out += '-';
  }
  while (!out.empty() && (out.back() == '-' || out.back() == '.')) out.pop_back();
  out.erase(0, out.find_first_not_of("-."));
  constexpr std::size_t kLongest = 80;
  while (out.size() > kLongest || (!out.empty() && out.size() == kLongest && (out.back() & 0x80))) {
    // Whole characters only.
    while (!out.empty() && (static_cast<unsigned char>(out.back()) & 0xC0) == 0x80) out.pop_back();
    if (!out.empty()) out.pop_back();
  }
  return out.empty() ? "athlete" : out;
}

Result<bool> exportAthlete(Library& library, AthleteId id, const fs::path& folder, Task& task) {
  if (isInside(library.folder(), folder))
    return fail(ErrorCode::WrongUse, folder.string() + " lies in the library itself.", "Choose a place outside of it.");
  auto staging = StagingFolder::forTarget(folder, ".jagged-jib-export");
  if (!staging) return fail(staging.error());
  if (auto done = Exporter(library, id, staging->path()).run(task); !done) return done;
  return staging->become(folder, "athlete.json");
}

}  // namespace jib::library
