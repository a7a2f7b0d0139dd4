// SPDX-License-Identifier: GPL-3.0-or-later
// What is read from messages, on lists of made-up phrases and on what a list cannot hold.
#include "core/exchange/mail/field_reader.h"

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <random>
#include <sstream>

namespace jib::exchange {
namespace {

constexpr const char* kToday = "2026-11-25";

std::vector<ReadField> fieldsOf(std::string_view text) {
  return readMessage(text, kToday).fields;
}
// A doubtful reading ends in "?".
std::map<std::string, std::string> read(std::string_view text) {
  std::map<std::string, std::string> all;
  for (const ReadField& f : fieldsOf(text)) all.emplace(nameOf(f.field), f.value + (f.sure ? "" : "?"));
  return all;
}

std::vector<std::string> cut(const std::string& line, char at) {
  std::vector<std::string> parts;
  std::istringstream in(line);
  for (std::string part; std::getline(in, part, at);) parts.push_back(part);
  return parts;
}

// The last list is read by the bench as it comes and nothing is repaired for it: it says how a fresh message fares.
constexpr int kUnseen = 4;

TEST(FieldReader, ReadsTheListOfPhrasesAndNothingElseFromThem) {
  std::ifstream list(JIB_PHRASES "/phrases.jsonl");
  std::size_t phrases = 0;
  for (std::string line; std::getline(list, line); ++phrases) {
    const auto j = nlohmann::json::parse(line);
    if (j.at("round") == kUnseen) continue;
    std::map<std::string, std::string> wanted;
    for (const auto& [field, value] : j.at("want").items())
      wanted[field] = value.is_string() ? value.get<std::string>() : value.dump();
    EXPECT_EQ(read(j.at("text").get<std::string>()), wanted) << j.at("text");
  }
  EXPECT_GE(phrases, 120u);
}

// As lifters type: masses as they were typed, with "?" where nobody said the unit and "~" where another number did.
std::map<std::string, std::string> readSlang(const std::string& text) {
  static const std::map<Field, std::string> kShort{{Field::Lift, "lift"},        {Field::Variant, "variant"},
                                                   {Field::Load_kg, "load"},     {Field::Sets, "sets"},
                                                   {Field::Reps, "reps"},        {Field::Share_pct, "share"},
                                                   {Field::Effort, "rpe"},       {Field::Best_kg, "best"},
                                                   {Field::Height_cm, "height"}, {Field::BodyMass_kg, "body_mass"},
                                                   {Field::Age, "age"},          {Field::MeetOn, "meet"},
                                                   {Field::Pain, "pain"},        {Field::YearsTraining, "years"}};
  const Reading reading = readMessage(text, kToday);
  std::map<std::string, std::string> all;
  for (const ReadField& f : reading.fields) {
    if (!kShort.count(f.field)) continue;
    const std::string unit = f.said_in ? (*f.said_in == MassUnit::Pounds ? "lb" : "kg") : f.sure ? "~" : "?";
    all[kShort.at(f.field)] = isMass(f.field) ? f.said + unit : f.value;
  }
  if (!reading.questions.empty()) all["questions"] = std::to_string(reading.questions.size());
  all["film"] = reading.film_expected ? "true" : "false";
  return all;
}

TEST(FieldReader, ReadsWhatLiftersType) {
  std::ifstream list(JIB_PHRASES "/slang.tsv");
  std::map<std::string, int> right, all;
  for (std::string line; std::getline(list, line);) {
    const auto parts = cut(line, '\t');
    std::map<std::string, std::string> wanted;
    if (parts.size() > 2)
      for (const std::string& pair : cut(parts[2], ';'))
        wanted[pair.substr(0, pair.find('='))] = pair.substr(pair.find('=') + 1);
    auto got = readSlang(parts[1]);
    if (!wanted.count("film")) got.erase("film");
    ++all[parts[0]];
    right[parts[0]] += got == wanted;
    if (parts[0] == "seen") {
      EXPECT_EQ(got, wanted) << parts[1];
    }
  }
  ASSERT_GE(all["apart"], 75);
  EXPECT_GE(right["apart"], 0.95 * all["apart"]) << "phrases nothing was repaired for";
}

// Of pain a miss is worse than a false alarm; both are counted, list by list.
TEST(FieldReader, HearsPainInTheWaysPeopleSayIt) {
  struct Count {
    int hurts = 0, heard = 0, calm = 0, alarms = 0;
  };
  std::map<std::string, Count> lists;
  std::ifstream in(JIB_PHRASES "/pain.tsv");
  for (std::string line; std::getline(in, line);) {
    const auto parts = cut(line, '\t');
    Count& c = lists[parts[0]];
    const Reading reading = readMessage(parts[2], kToday);
    if (parts[1] == "yes") {
      ++c.hurts;
      c.heard += reading.pain;
      EXPECT_EQ(reading.pain, !reading.pain_words.empty());
    } else {
      ++c.calm;
      c.alarms += reading.pain;
      EXPECT_FALSE(reading.pain) << "a false alarm: " << parts[2];
    }
  }
  ASSERT_EQ(lists.size(), 6u);
  for (const auto& [name, c] : lists) {
    EXPECT_GE(c.heard, 0.95 * c.hurts) << name;
    EXPECT_LT(c.alarms, 0.05 * std::max(c.calm, 20)) << name;
  }
}

// What is done after the lift of the day is not the lift of the clip.
TEST(FieldReader, APressBesideALiftOfThePlatformIsNotTheClips) {
  const auto liftOf = [](const char* text) { return readSlang(text)["lift"]; };
  EXPECT_EQ(liftOf("Squat 140 kg x 3. Also did some shoulder press 40 kg x 10 after."), "squat");
  EXPECT_EQ(liftOf("Overhead press 50 kg x 5, is my lower back ok?"), "overhead");
  EXPECT_EQ(liftOf("bench press 80 kg x 3"), "bench");
  EXPECT_EQ(liftOf("overhead squat 60 kg x 3"), "squat");
  EXPECT_EQ(liftOf("bench 80 kg x 3, then strict press 40 kg x 8"), "bench");
}

// Sets drawn by seed and typed in one of the many ways there are: what was meant is known, what is read is held to it.
TEST(FieldReader, ReadsSetsDrawnBySeed) {
  std::mt19937 random(20261130);
  const auto pick = [&](const auto& from) { return from[random() % std::size(from)]; };
  struct Named {
    const char *typed, *lift, *variant;
  };
  const Named lifts[]{{"squat", "squat", ""},
                      {"low bar squat", "squat", "low-bar"},
                      {"highbar", "squat", "high-bar"},
                      {"deads", "deadlift", ""},
                      {"sumo", "deadlift", "sumo"},
                      {"bench", "bench", ""},
                      {"tng bench", "bench", "touch-and-go"},
                      {"paused bench", "bench", "paused"},
                      {"conv deadlift", "deadlift", "conventional"},
                      {"front squat", "squat", "front"},
                      {"ohp", "overhead", ""},
                      {"overhead press", "overhead", ""},
                      {"strict press", "overhead", "strict"},
                      {"push press", "overhead", "push"}};
  const char* ways[]{"{lift} {load}x{reps}",
                     "{lift} {load} x {reps}",
                     "{load} x{reps} {lift}",
                     "{lift}: {load} for {reps}",
                     "hey coach, {lift} {load} for {reps} reps today",
                     "{lift}, {load} x {reps} @{rpe}",
                     "got {load}x{reps} on {lift}, rpe {rpe}",
                     "{load} for {reps}, {lift}, felt like an {rpe}",
                     "{lift} top set {load} x {reps}",
                     "{reps} reps at {load}, {lift}"};
  int wrong = 0;
  constexpr int kDrawn = 400;
  for (int n = 0; n < kDrawn; ++n) {
    const Named lift = pick(lifts);
    const int unit = static_cast<int>(random() % 3);  // bare, pounds, kilograms
    const int load = unit == 2 ? 60 + 5 * static_cast<int>(random() % 30) : 135 + 5 * static_cast<int>(random() % 80);
    const int reps = 1 + static_cast<int>(random() % 8);
    const double rpe = 7 + 0.5 * static_cast<int>(random() % 6);
    const std::string way = pick(ways);
    std::string load_text = std::to_string(load);
    if (unit == 1) load_text += random() % 2 ? "lbs" : " lb";
    if (unit == 2) load_text += random() % 2 ? "kg" : " kg";
    std::string text = way;
    const auto put = [&](const std::string& slot, const std::string& with) {
      if (const auto at = text.find(slot); at != std::string::npos) text.replace(at, slot.size(), with);
    };
    put("{lift}", lift.typed);
    put("{load}", load_text);
    put("{reps}", std::to_string(reps));
    put("{rpe}", fmt::format("{:g}", rpe));
    std::map<std::string, std::string> wanted{{"lift", lift.lift},
                                              {"reps", std::to_string(reps)},
                                              {"load", std::to_string(load) + (unit == 0   ? "?"
                                                                               : unit == 1 ? "lb"
                                                                                           : "kg")}};
    if (*lift.variant) wanted["variant"] = lift.variant;
    if (way.find("{rpe}") != std::string::npos) wanted["rpe"] = fmt::format("{:g}", rpe);
    auto got = readSlang(text);
    got.erase("film");
    if (got == wanted) continue;
    ++wrong;
    std::string say;
    for (const auto& [field, value] : got) say += field + "=" + value + "; ";
    ADD_FAILURE() << text << " -> " << say;
    if (wrong > 10) break;
  }
}

TEST(FieldReader, ABareNumberIsReadInTheAthletesUnit) {
  const auto load = [](std::optional<MassUnit> unit) {
    const Reading reading = readMessage("squat 185 x 2", kToday, unit);
    return *find(reading.fields, Field::Load_kg);
  };
  EXPECT_EQ(load(MassUnit::Kilograms).value, "185");
  EXPECT_EQ(load(MassUnit::Pounds).value, "83.9");
  EXPECT_TRUE(load(MassUnit::Pounds).sure);
  EXPECT_FALSE(load(std::nullopt).sure);
  EXPECT_EQ(load(std::nullopt).said, "185");
}

TEST(FieldReader, KeepsEachQuestionOfAMessage) {
  const Reading r = readMessage(
      "Hey, no vid this week. 2 things - 1) should i cut to 74s\xE2\x80\xA6 2) is that gonna mess with my deadlift",
      kToday);
  ASSERT_EQ(r.questions.size(), 2u);
  EXPECT_EQ(r.questions[0], "should i cut to 74s\xE2\x80\xA6");
  EXPECT_EQ(r.questions[1], "is that gonna mess with my deadlift");
  EXPECT_FALSE(r.film_expected);
}

TEST(FieldReader, ShowsTheWordsAReadingCameFrom) {
  const auto fields = fieldsOf("Hi coach,\nlow bar, 142.5 kg x 3 @8 today.\nIs my depth ok?\nThanks, Ola");
  ASSERT_NE(find(fields, Field::Load_kg), nullptr);
  EXPECT_EQ(find(fields, Field::Load_kg)->words, "142.5 kg");
  EXPECT_EQ(find(fields, Field::Effort)->words, "@8");
  EXPECT_EQ(find(fields, Field::Question)->words, "Is my depth ok?");
  EXPECT_EQ(find(fields, Field::Age), nullptr) << "unknown stays unknown";
}

TEST(FieldReader, KnowsTheTypographersSigns) {
  EXPECT_EQ(read("I\xE2\x80\x99m 17 years old")["age"], "17");
  EXPECT_EQ(read("5\xC3\x97"
                 "3 with 120kg")["sets"],
            "5");
}

TEST(FieldReader, TakesADayWithoutAYearAsTheNextOne) {
  EXPECT_EQ(read("competing on 3 May")["meet_on"], "2027-05-03");
  EXPECT_EQ(read("competing on 3 December")["meet_on"], "2026-12-03");
}

TEST(FieldReader, TwoLoadsAreNoneHoweverOftenOneIsNamed) {
  EXPECT_EQ(read("squats 100 kg. squats 120 kg.").count("load_kg"), 0u);
  EXPECT_EQ(read("squats 100 kg. squats 120 kg. squats 100 kg.").count("load_kg"), 0u);
  EXPECT_EQ(read("squats 100 kg. squats 120 kg. Clip: squat 110 kg x 3.")["load_kg"], "110") << "one is told apart";
}

TEST(FieldReader, ADayTheCalendarDoesNotHaveIsNoDay) {
  EXPECT_EQ(read("competing on 31 February").count("meet_on"), 0u);
  EXPECT_EQ(read("competing on 2027-02-30").count("meet_on"), 0u);
  EXPECT_EQ(read("competing on 29 February 2028")["meet_on"], "2028-02-29");
}

TEST(FieldReader, ComesBackFromAnyBytes) {
  // A seeded mutator: pieces of real phrases, cut, doubled and mixed with bytes of any kind.
  std::mt19937 random(11);
  const std::string seed =
      "3 sets of 5 @ 80%, 140kg/308lb x 2, I'm 5'10\" and 16 years old. Meet on 14 March 2027? no pain\n"
      "tweaked my back\xE2\x80\xA6 2) prob an 8 \xF0\x9F\x92\xAA two plates and a 10 per side";
  std::size_t fields = 0;
  for (int round = 0; round < 3000; ++round) {
    std::string text;
    for (int piece = 0; piece < 6; ++piece) {
      const std::size_t at = random() % seed.size();
      text += seed.substr(at, random() % 30);
      if (random() % 3 == 0) text += static_cast<char>(random());
    }
    for (const ReadField& f : readMessage(text, round % 2 ? kToday : "").fields) {
      EXPECT_FALSE(f.value.empty());
      EXPECT_NE(text.find(f.words), std::string::npos) << "the words are the message's own";
      ++fields;
    }
  }
  EXPECT_GT(fields, 1000u) << "the mutants still say something";
  EXPECT_TRUE(readMessage("", "").fields.empty());
  EXPECT_TRUE(readMessage(std::string(200000, '('), "").fields.empty());
}

}  // namespace
}  // namespace jib::exchange
