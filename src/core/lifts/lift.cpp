// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/lift.h"

#include <algorithm>
#include <array>
#include <sstream>

#include "core/lifts/bench.h"
#include "core/lifts/deadlift.h"
#include "core/lifts/overhead.h"
#include "core/lifts/squat.h"

namespace jib::lifts {
namespace {

std::vector<std::string> wordsOf(std::string_view said) {
  std::istringstream in{std::string(said)};
  std::vector<std::string> words;
  for (std::string word; in >> word;) words.push_back(word);
  return words;
}

const NamedVariant* named(std::span<const NamedVariant> all, std::string_view id) {
  const auto it = std::find_if(all.begin(), all.end(), [&](const NamedVariant& v) { return v.id == id; });
  return it == all.end() ? nullptr : &*it;
}

}  // namespace

std::span<const LiftDefinition> allLifts() {
  static const std::array<LiftDefinition, kLifts> kAll{squatDefinition(), benchDefinition(), deadliftDefinition(),
                                                       overheadDefinition()};
  return kAll;
}

std::span<const LiftDefinition> contestedLifts() {
  const auto all = allLifts();
  const auto end = std::find_if(all.begin(), all.end(), [](const LiftDefinition& l) { return !l.contested; });
  return all.first(static_cast<std::size_t>(end - all.begin()));
}

const LiftDefinition& definition(LiftId id) {
  return allLifts()[at(id)];
}

const LiftDefinition* liftNamed(std::string_view name) {
  for (const LiftDefinition& lift : allLifts())
    if (lift.name == name) return &lift;
  return nullptr;
}

std::vector<std::string> liftNameList() {
  std::vector<std::string> names;
  for (const LiftDefinition& lift : allLifts()) names.emplace_back(lift.name);
  return names;
}

std::string liftNames() {
  const auto names = liftNameList();
  std::string text;
  for (std::size_t i = 0; i < names.size(); ++i)
    text += (i == 0 ? "" : i + 1 < names.size() ? ", " : " or ") + names[i];
  return text;
}

namespace {

const MeasureDefinition* ownMeasure(const LiftDefinition& lift, std::string_view id) {
  for (const RepMeasure& row : lift.rep_measures)
    if (row.kind.id == id) return &row.kind;
  for (const RepMeasure& row : lift.front_measures)
    if (row.kind.id == id) return &row.kind;
  for (const SetMeasure& row : lift.set_measures)
    if (row.kind.id == id) return &row.kind;
  return nullptr;
}

}  // namespace

const MeasureDefinition* measureDefinition(std::string_view id) {
  for (const LiftDefinition& lift : allLifts())
    if (const MeasureDefinition* found = ownMeasure(lift, id)) return found;
  return nullptr;
}

const MeasureDefinition* measureDefinition(const LiftDefinition& lift, std::string_view id) {
  const MeasureDefinition* own = ownMeasure(lift, id);
  return own ? own : measureDefinition(id);
}

bool LiftDefinition::draws(Drawing drawing) const {
  return std::any_of(rep_measures.begin(), rep_measures.end(),
                     [&](const RepMeasure& m) { return m.kind.drawing == drawing; });
}

tracing::BodyModel LiftDefinition::bodyOf(std::string_view variant) const {
  tracing::BodyModel model = body;
  const std::string position = variantOf(*this, variant).position;
  model.around = !stands_inside.empty() && position == stands_inside;
  model.racked_ahead = !racks_ahead.empty() && position == racks_ahead;
  model.wide = !stands_wide.empty() && position == stands_wide;
  return model;
}

std::string_view LiftDefinition::titleOf(motion::EventKind kind) const {
  for (const EventName& e : events)
    if (e.kind == kind) return e.title;
  return {};
}

std::string LiftDefinition::cueBook() const {
  return "cues/" + std::string(name) + ".toml";
}

std::vector<Measured> SetLook::over(std::string_view id) const {
  std::vector<Measured> all;
  for (const MeasureList& rep : measures)
    if (const auto* one = find(rep, id); one && one->measured()) all.push_back(*one->measured());
  return all;
}

Variant variantOf(const LiftDefinition& lift, std::string_view said) {
  Variant variant;
  for (const std::string& word : wordsOf(said)) {
    std::string& place = named(lift.tempos, word) ? variant.tempo : variant.position;
    if (place.empty()) place = word;
  }
  return variant;
}

std::string nameOf(const Variant& v) {
  return v.position + (!v.position.empty() && !v.tempo.empty() ? " " : "") + v.tempo;
}

std::vector<std::string> variantsOf(const LiftDefinition& lift) {
  std::vector<std::string> all;
  for (const NamedVariant& position : lift.positions) {
    all.emplace_back(position.id);
    for (const NamedVariant& tempo : lift.tempos)
      all.push_back(nameOf({std::string(position.id), std::string(tempo.id)}));
  }
  if (lift.positions.empty())
    for (const NamedVariant& tempo : lift.tempos) all.emplace_back(tempo.id);
  return all;
}

std::string titleOf(const LiftDefinition& lift, std::string_view said) {
  std::string title;
  for (const std::string& word : wordsOf(said)) {
    const NamedVariant* known = named(lift.positions, word);
    if (!known) known = named(lift.tempos, word);
    title += (title.empty() ? "" : ", ") + (known ? std::string(known->title) : word);
  }
  return title;
}

bool isOf(std::string_view said, std::string_view asked) {
  const auto words = wordsOf(said);
  return asked.empty() || std::find(words.begin(), words.end(), asked) != words.end();
}

}  // namespace jib::lifts
