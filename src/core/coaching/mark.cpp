// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/mark.h"

#include <algorithm>
#include <array>
#include <nlohmann/json.hpp>

namespace jib::coaching {
namespace {

constexpr std::array<std::string_view, 3> kStates{"seen", "fine", "could_not_see"};
constexpr std::string_view kOwn = "own.", kCause = "cause.";

using Json = nlohmann::json;

}  // namespace

std::string_view nameOf(MarkState state) {
  return kStates[static_cast<std::size_t>(state)];
}

std::string ownCheck(std::string_view title) {
  return std::string(kOwn) + std::string(title);
}
bool isOwnCheck(std::string_view check) {
  return check.starts_with(kOwn);
}
std::string titleOfOwnCheck(std::string_view check) {
  return std::string(isOwnCheck(check) ? check.substr(kOwn.size()) : check);
}

std::string causeCheck(std::string_view finding, std::string_view cause) {
  return std::string(kCause) + std::string(finding) + ": " + std::string(cause);
}
bool isCauseCheck(std::string_view check) {
  return check.starts_with(kCause);
}
std::optional<bool> causeHelped(const Marks& marks, std::string_view finding, std::string_view cause) {
  const Mark* mark = markOf(marks, causeCheck(finding, cause), 0);
  if (!mark || mark->state == MarkState::CouldNotSee) return std::nullopt;
  return mark->state == MarkState::Seen;
}

const Mark* markOf(const Marks& marks, std::string_view check, int rep) {
  for (const Mark& m : marks)
    if (m.check == check && m.rep == rep) return &m;
  return nullptr;
}

void setMark(Marks& marks, const Mark& mark, bool there) {
  const auto at = std::find_if(marks.begin(), marks.end(),
                               [&](const Mark& m) { return m.check == mark.check && m.rep == mark.rep; });
  if (at == marks.end()) {
    if (there) marks.push_back(mark);
  } else if (there) {
    *at = mark;
  } else {
    marks.erase(at);
  }
}

std::vector<Finding> findingsFrom(const Marks& marks) {
  std::vector<Finding> findings;
  for (const Mark& m : marks) {
    if (m.state == MarkState::CouldNotSee || isCauseCheck(m.check)) continue;
    auto at = std::find_if(findings.begin(), findings.end(), [&](const Finding& f) { return f.id == m.check; });
    if (at == findings.end()) {
      Finding f;
      f.id = m.check;
      f.by_eye = true;
      f.worst.t_s = m.t_s;
      at = findings.insert(findings.end(), std::move(f));
    }
    if (m.state != MarkState::Seen) continue;
    const bool first = at->verdict != Verdict::Yes;
    if (first || m.t_s < at->worst.t_s) at->worst.t_s = m.t_s;
    at->verdict = Verdict::Yes;
    at->severity = 2;
    if (m.rep > 0) at->reps.push_back(m.rep);
  }
  for (Finding& f : findings) std::sort(f.reps.begin(), f.reps.end());
  return findings;
}

bool settledByEye(const Marks& marks, std::string_view check) {
  return std::any_of(marks.begin(), marks.end(),
                     [&](const Mark& m) { return m.check == check && m.state != MarkState::CouldNotSee; });
}

std::string marksToJson(const Marks& marks) {
  Json all = Json::array();
  for (const Mark& m : marks)
    all.push_back({{"check", m.check}, {"state", nameOf(m.state)}, {"rep", m.rep}, {"t", m.t_s}});
  return all.dump(-1, ' ', false, Json::error_handler_t::replace);
}

Marks marksFromJson(std::string_view text) {
  Marks marks;
  const Json j = Json::parse(text, nullptr, false);
  if (j.is_object())
    for (const auto& [check, seen] : j.items())
      if (seen.is_boolean()) marks.push_back({check, seen.get<bool>() ? MarkState::Seen : MarkState::Fine, 0, 0});
  if (!j.is_array()) return marks;
  for (const Json& one : j) {
    if (!one.is_object() || !one.contains("check") || !one["check"].is_string()) continue;
    Mark m;
    m.check = one["check"].get<std::string>();
    const std::string state = one.value("state", std::string("seen"));
    for (std::size_t k = 0; k < kStates.size(); ++k)
      if (kStates[k] == state) m.state = static_cast<MarkState>(k);
    m.rep = one.value("rep", 0);
    m.t_s = one.value("t", 0.0);
    marks.push_back(std::move(m));
  }
  return marks;
}

}  // namespace jib::coaching
