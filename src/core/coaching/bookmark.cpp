// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/bookmark.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace jib::coaching {
namespace {

using Json = nlohmann::json;

// The rep that was running, or had just ended, when the key was pressed: counted from 1, 0 when none.
int repAt(double t_s, const std::vector<motion::Rep>& reps) {
  int at = 0;
  for (std::size_t i = 0; i < reps.size(); ++i)
    if (t_s >= reps[i].start_t() && t_s <= reps[i].end_t() + kReaction_s) {
      at = static_cast<int>(i + 1);
      if (t_s <= reps[i].end_t()) return at;
    }
  return at;
}

}  // namespace

BookmarkEcho echoOf(const Bookmark& bookmark, const std::vector<Finding>& findings, const lifts::SetMeasures& measures,
                    const std::vector<motion::Rep>& reps) {
  BookmarkEcho answer;
  if (!bookmark.finding.empty()) {
    for (const Finding& f : findings) {
      if (f.id != bookmark.finding) continue;
      answer.findings.push_back(&f);
      const int rep = repAt(bookmark.t_s, reps);
      const bool here = f.reps.empty() || rep == 0 || std::find(f.reps.begin(), f.reps.end(), rep) != f.reps.end();
      answer.echo = f.verdict == Verdict::TooClose ? Echo::TooClose
                    : f.verdict == Verdict::No     ? Echo::Disagrees
                    : here                         ? Echo::Agrees
                                                   : Echo::OtherRep;
    }
    return answer;
  }
  for (const Finding& f : findings) {
    if (f.verdict != Verdict::Yes) continue;
    const auto readings = readingsOf(measures, f);
    const bool near = std::any_of(readings.begin(), readings.end(), [&](const Reading& r) {
      return r.verdict == Verdict::Yes && r.value.t_s <= bookmark.t_s + 0.3 &&
             r.value.t_s >= bookmark.t_s - kReaction_s;
    });
    if (near) answer.findings.push_back(&f);
  }
  if (!answer.findings.empty()) answer.echo = Echo::Near;
  return answer;
}

std::string bookmarksToJson(const Bookmarks& bookmarks) {
  Json all = Json::array();
  for (const Bookmark& b : bookmarks) all.push_back({{"t_s", b.t_s}, {"word", b.word}, {"finding", b.finding}});
  return all.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

Bookmarks bookmarksFromJson(std::string_view text) {
  Bookmarks all;
  const Json j = Json::parse(text, nullptr, false);
  if (!j.is_array()) return all;
  for (const Json& one : j) {
    if (!one.is_object() || !one.contains("t_s") || !one["t_s"].is_number()) continue;
    const auto words = [&](const char* key) {
      const auto at = one.find(key);
      return at != one.end() && at->is_string() ? at->get<std::string>() : std::string();
    };
    all.push_back({one["t_s"].get<double>(), words("word"), words("finding")});
  }
  return all;
}

}  // namespace jib::coaching
