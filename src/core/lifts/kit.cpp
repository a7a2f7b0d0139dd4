// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/kit.h"

#include <algorithm>

namespace jib::lifts {
namespace {

constexpr KitChoice kShoes[]{
    {"flat", "flat"}, {"raised", "raised heel"}, {"soft", "soft soles"}, {"none", "socks or barefoot"}};
constexpr KitChoice kHeels[]{
    {"none", "none"}, {"wedge", "wedge"}, {"small", "small plates"}, {"large", "large plates"}};
constexpr KitChoice kBars[]{{"stiff", "stiff bar"},       {"whippy", "whippy bar"},       {"deadlift", "deadlift bar"},
                            {"cambered", "cambered bar"}, {"safety", "safety squat bar"}, {"hex", "hex bar"}};
constexpr KitChoice kStarts[]{
    {"floor", "from the floor"}, {"blocks", "from blocks"}, {"mats", "on mats"}, {"board", "to a board"}};
constexpr KitChoice kBelts[]{{"no", "no belt"}, {"belt", "belt"}};
constexpr KitChoice kSupports[]{
    {"none", "none"}, {"sleeves", "knee sleeves"}, {"wraps", "wraps"}, {"straps", "straps"}};
constexpr KitChoice kStates[]{
    {"fresh", "fresh"}, {"sore", "sore"}, {"second", "after another session"}, {"late", "late in the session"}};
constexpr KitChoice kFilmers[]{
    {"stand", "the phone on a stand"}, {"partner", "a training partner"}, {"coach", "a coach"}};

constexpr KitField kFields[]{
    {"shoes", "Shoes", kShoes, "A raised heel changes how far the knees travel; soft soles hide pressure.", true},
    {"heel_raise", "Under the heels", kHeels, "It must be the same when sessions are compared.", true},
    {"bar", "Bar", kBars, "It alters slack, swing and torso angle.", true},
    {"start", "Start and range", kStarts, "Blocks, mats and boards make it another lift.", true},
    {"belt", "Belt", kBelts, "It belongs to what is compared.", true},
    {"support", "Sleeves, straps", kSupports, "Straps change a pull, wraps a squat.", true},
    {"state", "State", kStates, "A sore or tired lifter is not held against a fresh one.", true},
    {"filmed_by", "Filmed by", kFilmers, "A person moves; a stand does not.", false},
};

std::string_view titleOf(const KitField& field, std::string_view choice) {
  const auto at =
      std::find_if(field.choices.begin(), field.choices.end(), [&](const auto& c) { return c.id == choice; });
  return at == field.choices.end() ? choice : at->title;
}

}  // namespace

std::span<const KitField> kitFields() {
  return kFields;
}

std::vector<KitDifference> kitDifferences(const Kit& then, const Kit& now) {
  std::vector<KitDifference> all;
  for (const KitField& field : kFields) {
    if (!field.compares) continue;
    const auto a = then.find(field.id), b = now.find(field.id);
    if (a == then.end() || b == now.end() || a->second == b->second) continue;
    std::string phrase(titleOf(field, a->second));
    if (field.id == "heel_raise") phrase += " under the heels";
    all.push_back({&field, a->second, b->second, phrase + " then, " + std::string(titleOf(field, b->second)) + " now"});
  }
  return all;
}

std::string kitApart(const Kit& then, const Kit& now) {
  const auto all = kitDifferences(then, now);
  return all.empty() ? std::string() : all.front().phrase;
}

}  // namespace jib::lifts
