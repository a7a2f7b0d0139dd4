// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/records.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <nlohmann/json.hpp>

#include "core/tracing/trace_store.h"

namespace jib::library {

namespace {

// Text that is no UTF-8 came from somewhere else; it must not keep the rest from being kept.
template <class J>
std::string written(const J& j) {
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

struct StateName {
  std::string_view name, title;
};
constexpr std::array<StateName, 7> kStates{{{"new", "New"},
                                            {"needs_video", "Needs a new clip"},
                                            {"in_review", "In review"},
                                            {"carried_over", "Later"},
                                            {"returned", "Sent"},
                                            {"awaiting_film", "Waiting for clip"},
                                            {"skipped", "Skipped"}}};

}  // namespace

std::string_view nameOf(SubmissionState state) {
  return kStates[static_cast<std::size_t>(state)].name;
}

std::string_view titleOf(SubmissionState state) {
  return kStates[static_cast<std::size_t>(state)].title;
}

namespace {

constexpr std::array<StateName, 3> kMemberships{
    {{"active", "Active"}, {"paused", "Taking a break"}, {"former", "Former"}}};

}  // namespace

std::string_view nameOf(Membership membership) {
  return kMemberships[static_cast<std::size_t>(membership)].name;
}

std::string_view titleOf(Membership membership) {
  return kMemberships[static_cast<std::size_t>(membership)].title;
}

std::string_view nameOf(SubmissionKind kind) {
  switch (kind) {
    case SubmissionKind::Clip:
      return "clip";
    case SubmissionKind::Note:
      return "note";
    case SubmissionKind::Question:
      return "question";
  }
  return "clip";
}

std::string_view nameOf(OutgoingState state) {
  switch (state) {
    case OutgoingState::Waiting:
      return "waiting";
    case OutgoingState::HandedOver:
      return "handed_over";
    case OutgoingState::TakenBack:
      return "taken_back";
  }
  return "waiting";
}

namespace {

constexpr std::pair<ToldBy, std::string_view> kTellers[]{
    {ToldBy::Words, "words"}, {ToldBy::Film, "film"}, {ToldBy::Coach, "coach"}};

coaching::Switches switchesFrom(const nlohmann::json& j) {
  coaching::Switches chosen;
  const auto it = j.find("switches");
  if (it == j.end() || !it->is_object()) return chosen;
  for (const auto& [topic, choice] : it->items())
    if (choice.is_string()) chosen[topic] = choice.get<std::string>();
  return chosen;
}

}  // namespace

namespace {

std::string textAt(const nlohmann::json& j, const char* key) {
  if (!j.is_object()) return {};
  const auto it = j.find(key);
  return it != j.end() && it->is_string() ? it->get<std::string>() : std::string();
}

nlohmann::json absenceToJson(const Absence& absence) {
  return {{"until", absence.until}, {"covered", absence.covered}};
}

Absence absenceFrom(const nlohmann::json& j) {
  const auto away = j.is_object() ? j.find("away") : j.end();
  return away == j.end() ? Absence{} : Absence{textAt(*away, "until"), textAt(*away, "covered")};
}

}  // namespace

std::string coachToJson(const CoachCard& card) {
  nlohmann::json j{{"name", card.name},   {"address", card.address},   {"send_receipts", card.send_receipts},
                   {"style", card.style}, {"switches", card.switches}, {"keep_films_months", card.keep_films_months}};
  if (card.absence != Absence{}) j["away"] = absenceToJson(card.absence);
  if (!card.signature.empty()) j["signature"] = card.signature;
  for (const Colleague& c : card.colleagues) {
    auto& one = j["colleagues"].emplace_back(nlohmann::json{{"name", c.name}, {"address", c.address}});
    if (c.absence != Absence{}) one["away"] = absenceToJson(c.absence);
    if (!c.signature.empty()) one["signature"] = c.signature;
  }
  return j.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

CoachCard coachFromJson(std::string_view text) {
  CoachCard card;
  const auto j = nlohmann::json::parse(text, nullptr, false);
  if (!j.is_object()) return card;
  const auto words = [&](const char* key, std::string& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_string()) to = it->get<std::string>();
  };
  words("name", card.name);
  words("address", card.address);
  words("style", card.style);
  if (const auto it = j.find("send_receipts"); it != j.end() && it->is_boolean()) card.send_receipts = *it;
  card.switches = switchesFrom(j);
  if (const auto it = j.find("keep_films_months"); it != j.end() && it->is_number_integer())
    card.keep_films_months = std::clamp(it->get<int>(), 0, CoachCard::kMostMonths);
  card.absence = absenceFrom(j);
  words("signature", card.signature);
  if (const auto all = j.find("colleagues"); all != j.end() && all->is_array())
    for (const auto& one : *all)
      if (const std::string called = textAt(one, "name"); !called.empty())
        card.colleagues.push_back({called, textAt(one, "address"), absenceFrom(one), textAt(one, "signature")});
  return card;
}

std::optional<double> Profile::bestOf(std::string_view lift) const {
  const auto* known = lifts::liftNamed(lift);
  return known ? best_kg[lifts::at(known->id)] : std::nullopt;
}

void Profile::setBest(std::string_view lift, double kg) {
  if (const auto* known = lifts::liftNamed(lift)) best_kg[lifts::at(known->id)] = kg;
}

namespace {

std::string bestKey(const lifts::LiftDefinition& lift) {
  return "best_" + std::string(lift.name) + "_kg";
}

}  // namespace

std::string profileToJson(const Profile& p) {
  nlohmann::ordered_json j;
  if (auto rest = nlohmann::ordered_json::parse(p.unread, nullptr, false); rest.is_object()) j = std::move(rest);
  const auto keep = [&](const char* key, const auto& value) {
    if (value) j[key] = *value;
  };
  const auto words = [&](const char* key, const std::string& value) {
    if (!value.empty()) j[key] = value;
  };
  words("say_name", p.say_name);
  keep("birth_year", p.birth_year);
  keep("height_cm", p.height_cm);
  keep("body_mass_kg", p.body_mass_kg);
  keep("years_training", p.years_training);
  for (const auto& lift : lifts::allLifts()) keep(bestKey(lift).c_str(), p.best_kg[lifts::at(lift.id)]);
  words("bests_on", p.bests_on);
  words("goal", p.goal);
  words("meet_on", p.meet_on);
  words("federation", p.federation);
  words("usual", p.usual);
  words("pain", p.pain);
  if (p.unit) j["unit"] = *p.unit == MassUnit::Pounds ? "lb" : "kg";
  words("screens", p.screens);
  if (p.flesh) {
    auto& f = j["flesh"] = nlohmann::ordered_json::object();
    if (p.flesh->crease_clicked) f["crease_over_thigh_m"] = {p.flesh->crease_out_m, p.flesh->crease_along_m};
    if (p.flesh->knee_top_clicked) f["knee_top_m"] = {p.flesh->knee_top_m, p.flesh->knee_top_forward_m};
  }
  if (p.build) j["build"] = tracing::buildToJson(*p.build);
  if (!p.switches.empty()) j["switches"] = p.switches;
  if (!p.apart_from.empty()) j["apart_from"] = p.apart_from;
  if (!p.groups.empty()) j["groups"] = p.groups;
  if (p.membership != Membership::Active) j["membership"] = nameOf(p.membership);
  words("rules", p.rules);
  if (!p.meets.empty()) j["meets"] = meetsToJson(p.meets);
  if (p.consent != Consent{})
    j["consent"] = {{"agreed_on", p.consent.agreed_on},
                    {"until", p.consent.until},
                    {"show_others", p.consent.show_others},
                    {"teaching", p.consent.teaching}};
  if (p.guardian != Guardian{}) j["guardian"] = {{"name", p.guardian.name}, {"address", p.guardian.address}};
  keep("hide_faces", p.hide_faces);
  words("coach", p.coach);
  keep("replies_a_week", p.replies_a_week);
  return j.is_null() ? "{}" : written(j);
}

namespace {

tracing::Flesh fleshFrom(const nlohmann::json& j) {
  tracing::Flesh flesh;
  const auto pair = [&](const char* key, double& across, double& along) {
    const auto it = j.find(key);
    if (it == j.end() || !it->is_array() || it->size() != 2 || !(*it)[0].is_number() || !(*it)[1].is_number())
      return false;
    across = (*it)[0];
    along = (*it)[1];
    return true;
  };
  flesh.crease_clicked = pair("crease_over_thigh_m", flesh.crease_out_m, flesh.crease_along_m);
  flesh.knee_top_clicked = pair("knee_top_m", flesh.knee_top_m, flesh.knee_top_forward_m);
  return flesh;
}

}  // namespace

namespace {

void readConsent(const nlohmann::json& j, nlohmann::json& rest, Profile& p) {
  const auto said = [](const nlohmann::json& from, const char* key) {
    const auto it = from.find(key);
    return it != from.end() && it->is_string() ? it->get<std::string>() : std::string();
  };
  const auto flag = [](const nlohmann::json& from, const char* key) {
    const auto it = from.find(key);
    return it != from.end() && it->is_boolean() && it->get<bool>();
  };
  if (const auto c = j.find("consent"); c != j.end() && c->is_object()) {
    p.consent = {said(*c, "agreed_on"), said(*c, "until"), flag(*c, "show_others"), flag(*c, "teaching")};
    rest.erase("consent");
  }
  if (const auto g = j.find("guardian"); g != j.end() && g->is_object()) {
    p.guardian = {said(*g, "name"), said(*g, "address")};
    rest.erase("guardian");
  }
  if (const auto hide = j.find("hide_faces"); hide != j.end() && hide->is_boolean()) {
    p.hide_faces = hide->get<bool>();
    rest.erase("hide_faces");
  }
}

}  // namespace

Profile profileFromJson(std::string_view text) {
  // long because one field after the other
  Profile p;
  const auto j = nlohmann::json::parse(text, nullptr, false);
  if (!j.is_object()) return p;
  auto rest = j;
  const auto number = [&]<class T>(const char* key, std::optional<T>& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_number()) {
      to = it->template get<T>();
      rest.erase(key);
    }
  };
  const auto words = [&](const char* key, std::string& to) {
    if (const auto it = j.find(key); it != j.end() && it->is_string()) {
      to = it->get<std::string>();
      rest.erase(key);
    }
  };
  words("say_name", p.say_name);
  number("birth_year", p.birth_year);
  number("height_cm", p.height_cm);
  number("body_mass_kg", p.body_mass_kg);
  number("years_training", p.years_training);
  for (const auto& lift : lifts::allLifts()) number(bestKey(lift).c_str(), p.best_kg[lifts::at(lift.id)]);
  words("bests_on", p.bests_on);
  words("goal", p.goal);
  words("meet_on", p.meet_on);
  words("federation", p.federation);
  words("usual", p.usual);
  words("pain", p.pain);
  words("screens", p.screens);
  std::string unit;
  words("unit", unit);
  if (unit == "lb" || unit == "kg") p.unit = unit == "lb" ? MassUnit::Pounds : MassUnit::Kilograms;
  p.switches = switchesFrom(j);
  if (const auto others = j.find("apart_from"); others != j.end() && others->is_array())
    for (const auto& other : *others)
      if (other.is_number_integer()) p.apart_from.push_back(other.get<std::int64_t>());
  rest.erase("switches");
  rest.erase("apart_from");
  if (const auto build = j.find("build"); build != j.end()) p.build = tracing::buildFromJson(*build);
  if (p.build) rest.erase("build");
  if (const auto f = j.find("flesh"); f != j.end() && f->is_object()) {
    p.flesh = fleshFrom(*f);
    rest.erase("flesh");
  }
  if (const auto groups = j.find("groups"); groups != j.end() && groups->is_array()) {
    for (const auto& group : *groups)
      if (group.is_string()) p.groups.push_back(group.get<std::string>());
    rest.erase("groups");
  }
  std::string membership;
  words("membership", membership);
  for (const Membership m : {Membership::Paused, Membership::Former})
    if (membership == nameOf(m)) p.membership = m;
  words("rules", p.rules);
  words("coach", p.coach);
  number("replies_a_week", p.replies_a_week);
  if (const auto meets = j.find("meets"); meets != j.end()) p.meets = meetsFromJson(*meets);
  rest.erase("meets");
  readConsent(j, rest, p);
  if (!rest.empty()) p.unread = rest.dump();
  return p;
}

namespace {

bool allNumbers(const nlohmann::json& array) {
  return std::all_of(array.begin(), array.end(), [](const auto& n) { return n.is_number(); });
}

}  // namespace

std::string detailsToJson(const SubmissionDetails& d) {
  nlohmann::ordered_json j = nlohmann::ordered_json::object();
  for (const auto& [by, name] : kTellers) {
    if (d.lift_by == by) j["lift_by"] = name;
    if (d.variant_by == by) j["variant_by"] = name;
  }
  if (d.lift_confirmed) j["lift_confirmed"] = true;
  if (d.plates) j["plates"] = nlohmann::ordered_json::parse(coaching::loadingToJson(*d.plates));
  if (!d.set_loads_kg.empty()) {
    auto& loads = j["set_loads_kg"] = nlohmann::ordered_json::array();
    for (const auto& load : d.set_loads_kg) loads.push_back(load ? nlohmann::ordered_json(*load) : nullptr);
  }
  if (d.sets_said) j["sets_said"] = *d.sets_said;
  if (d.reps_said) j["reps_said"] = *d.reps_said;
  if (d.effort_said) j["effort_said"] = *d.effort_said;
  if (!d.load_said.empty()) j["load_said"] = d.load_said;
  if (d.top_set) j["top_set"] = *d.top_set;
  if (!d.seen_from.empty()) j["seen_from"] = d.seen_from;
  if (d.roll_deg) j["roll_deg"] = *d.roll_deg;
  if (d.lifter) j["lifter"] = {d.lifter->t_s, d.lifter->at.x, d.lifter->at.y};
  for (const auto& part : d.left_out) j["left_out"].push_back({part.from_s, part.to_s});
  if (!d.kit.empty()) j["kit"] = std::map<std::string, std::string>(d.kit.begin(), d.kit.end());
  if (d.pair_offset_s) j["pair_offset_s"] = *d.pair_offset_s;
  if (!d.film_gone_on.empty()) j["film_gone_on"] = d.film_gone_on;
  if (!d.keep_film_until.empty()) j["keep_film_until"] = d.keep_film_until;
  for (const auto& [key, text] :
       {std::pair("reviewer", &d.reviewer), {"answered_by", &d.answered_by}, {"answered_on", &d.answered_on}})
    if (!text->empty()) j[key] = *text;
  if (const auto& asked = d.second_opinion)
    j["second_opinion"] = {
        {"by", asked->by}, {"of", asked->of}, {"question", asked->question}, {"answer", asked->answer}};
  if (!d.overruled.empty()) j["overruled"] = std::map<std::string, std::string>(d.overruled.begin(), d.overruled.end());
  return written(j);
}

SubmissionDetails detailsFromJson(std::string_view text) {
  SubmissionDetails d;
  if (text == "{}") return d;  // of most rows, and there may be very many
  const auto j = nlohmann::json::parse(text, nullptr, false);
  if (!j.is_object()) return d;
  const nlohmann::json none;
  const auto at = [&](const char* key) -> const nlohmann::json& {
    const auto it = j.find(key);
    return it == j.end() ? none : *it;
  };
  for (const auto& [by, name] : kTellers) {
    if (at("lift_by") == name) d.lift_by = by;
    if (at("variant_by") == name) d.variant_by = by;
  }
  d.lift_confirmed = at("lift_confirmed") == true;
  if (at("plates").is_object()) d.plates = coaching::loadingFromJson(at("plates").dump());
  if (const auto& loads = at("set_loads_kg"); loads.is_array())
    for (const auto& load : loads)
      d.set_loads_kg.push_back(load.is_number() ? std::optional(load.get<double>()) : std::nullopt);
  if (at("sets_said").is_number_integer()) d.sets_said = at("sets_said").get<int>();
  if (at("reps_said").is_number_integer()) d.reps_said = at("reps_said").get<int>();
  if (at("effort_said").is_number()) d.effort_said = at("effort_said").get<double>();
  if (at("load_said").is_string()) d.load_said = at("load_said").get<std::string>();
  if (at("top_set").is_number_integer()) d.top_set = at("top_set").get<int>();
  if (at("seen_from").is_string()) d.seen_from = at("seen_from").get<std::string>();
  if (at("roll_deg").is_number()) d.roll_deg = at("roll_deg").get<double>();
  if (const auto& lifter = at("lifter"); lifter.is_array() && lifter.size() == 3 && allNumbers(lifter))
    d.lifter = tracing::PointedAt{lifter[0].get<double>(), {lifter[1].get<double>(), lifter[2].get<double>()}};
  if (const auto& parts = at("left_out"); parts.is_array())
    for (const auto& part : parts)
      if (part.is_array() && part.size() == 2 && allNumbers(part))
        d.left_out = tracing::with(d.left_out, {part[0].get<double>(), part[1].get<double>()});
  if (const auto& kit = at("kit"); kit.is_object())
    for (const auto& [field, choice] : kit.items())
      if (choice.is_string()) d.kit[field] = choice.get<std::string>();
  if (at("pair_offset_s").is_number()) d.pair_offset_s = at("pair_offset_s").get<double>();
  if (at("film_gone_on").is_string()) d.film_gone_on = at("film_gone_on").get<std::string>();
  if (at("keep_film_until").is_string()) d.keep_film_until = at("keep_film_until").get<std::string>();
  d.reviewer = textAt(j, "reviewer");
  d.answered_by = textAt(j, "answered_by");
  d.answered_on = textAt(j, "answered_on");
  if (const auto& asked = at("second_opinion"); asked.is_object())
    d.second_opinion =
        SecondOpinion{textAt(asked, "by"), textAt(asked, "of"), textAt(asked, "question"), textAt(asked, "answer")};
  if (const auto& claims = at("overruled"); claims.is_object())
    for (const auto& [claim, day] : claims.items())
      if (day.is_string()) d.overruled[claim] = day.get<std::string>();
  return d;
}

std::optional<bool> isMinor(const Profile& profile, std::string_view on_iso) {
  if (!profile.birth_year || on_iso.size() < 4) return std::nullopt;
  // Who turns 18 in the course of the year counts as under 18: the day is not known.
  return std::atoi(std::string(on_iso.substr(0, 4)).c_str()) - *profile.birth_year <= 18;
}

std::string_view nameOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "asked";
    case ThreadState::Better:
      return "better";
    case ThreadState::Met:
      return "met";
    case ThreadState::NotYet:
      return "not_yet";
    case ThreadState::Dropped:
      return "dropped";
    case ThreadState::NotComparable:
      return "not_comparable";
    case ThreadState::Paused:
      return "paused";
  }
  return "asked";
}

std::string_view titleOf(ThreadState state) {
  switch (state) {
    case ThreadState::Asked:
      return "Asked, no clip since";
    case ThreadState::Better:
      return "Better, not there yet";
    case ThreadState::Met:
      return "Met";
    case ThreadState::NotYet:
      return "No change yet";
    case ThreadState::Dropped:
      return "Dropped";
    case ThreadState::NotComparable:
      return "Not comparable";
    case ThreadState::Paused:
      return "Paused";
  }
  return "Asked";
}

bool isAtRest(ThreadState state) {
  return state == ThreadState::Met || state == ThreadState::Dropped || state == ThreadState::Paused;
}

}  // namespace jib::library
