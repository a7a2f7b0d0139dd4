// SPDX-License-Identifier: GPL-3.0-or-later
// What is read from messages, on the list of made-up phrases and on what a list cannot hold.
#include "core/exchange/mail/field_reader.h"

#include <gtest/gtest.h>

#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <random>

namespace jib::exchange {
namespace {

std::map<std::string, std::string> read(std::string_view text) {
  std::map<std::string, std::string> all;
  for (const ReadField& f : readFields(text, "2026-11-25")) all.emplace(nameOf(f.field), f.value);
  return all;
}

// The last list is read by the bench as it comes and nothing is repaired for it: it says how a fresh message fares.
constexpr int kUnseen = 4;

TEST(FieldReader, ReadsTheListOfPhrasesAndNothingElseFromThem) {
  std::ifstream list(JIB_PHRASES);
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

TEST(FieldReader, ShowsTheWordsAReadingCameFrom) {
  const auto fields =
      readFields("Hi coach,\nlow bar, 142.5 kg x 3 @8 today.\nIs my depth ok?\nThanks, Ola", "2026-11-25");
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
      "3 sets of 5 @ 80%, 140kg/308lb x 2, I'm 5'10\" and 16 years old. Meet on 14 March 2027? no pain\n";
  std::size_t fields = 0;
  for (int round = 0; round < 3000; ++round) {
    std::string text;
    for (int piece = 0; piece < 6; ++piece) {
      const std::size_t at = random() % seed.size();
      text += seed.substr(at, random() % 30);
      if (random() % 3 == 0) text += static_cast<char>(random());
    }
    for (const ReadField& f : readFields(text, round % 2 ? "2026-11-25" : "")) {
      EXPECT_FALSE(f.value.empty());
      EXPECT_NE(text.find(f.words), std::string::npos) << "the words are the message's own";
      ++fields;
    }
  }
  EXPECT_GT(fields, 1000u) << "the mutants still say something";
  EXPECT_TRUE(readFields("", "").empty());
  EXPECT_TRUE(readFields(std::string(200000, '('), "").empty());
}

}  // namespace
}  // namespace jib::exchange
