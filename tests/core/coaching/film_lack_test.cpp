// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/film_lack.h"

#include <gtest/gtest.h>

#include <set>

#include "core/coaching/clip_check.h"
#include "core/exchange/letters/letters.h"

namespace jib::coaching {
namespace {

constexpr int kLacks = static_cast<int>(FilmLack::Unreadable) + 1;

TEST(FilmLack, EachHasItsOwnIdAndWordsForBothReaders) {
  std::set<std::string> ids;
  for (int i = 0; i < kLacks; ++i) {
    const auto lack = static_cast<FilmLack>(i);
    EXPECT_TRUE(ids.insert(std::string(nameOf(lack))).second) << nameOf(lack);
    for (const Reader reader : {Reader::Coach, Reader::Athlete}) {
      const std::string words = told(lack, reader, 12);
      EXPECT_TRUE(words.ends_with(".")) << words;
      EXPECT_EQ(words.find('{'), std::string::npos) << words;
    }
    const std::string to_athlete = told(lack, Reader::Athlete, 12);
    for (const char* of_the_coach : {"athlete", "the hip ", "numbers", "m/s", "camera"})
      EXPECT_EQ(to_athlete.find(of_the_coach), std::string::npos) << to_athlete;
    EXPECT_FALSE(askedFor(lack, "level with your hip").ends_with(".")) << "it goes on from Please";
  }
  EXPECT_EQ(told(FilmLack::CameraLow, Reader::Coach, 9.6), "The camera looks up at the hip by about 10 degrees.");
  EXPECT_EQ(askedFor(FilmLack::CameraHigh, "level with your knee"), "put the phone level with your knee");
}

TEST(FilmLack, WhyAFileCannotBeReadIsForTheCoachAlone) {
  const ClipCheck check = failedCheck("The index at byte 4711 is damaged.");
  const auto letters = *exchange::LetterBook::forLibrary("nowhere");
  const std::string words = letters.filmAgain("Ines", check).text;
  EXPECT_EQ(words.find("4711"), std::string::npos) << words;
  EXPECT_NE(words.find("The clip doesn't open here. Please send the original file again."), std::string::npos) << words;
  EXPECT_EQ(check.troubles.at(0).what, "The index at byte 4711 is damaged.");
  const ClipCheck kept = *checkFromJson(checkToJson(check));
  EXPECT_EQ(kept.troubles.at(0).to_athlete, check.troubles.at(0).to_athlete);
}

TEST(FilmLack, ACheckKeptByAnOlderProgramSaysOnlyWhatIsAsked) {
  ClipCheck check;
  check.troubles = {{"small", "The athlete is small in the picture.", "come closer"}};
  const std::string words = (*exchange::LetterBook::forLibrary("nowhere")).filmAgain("Ines", check).text;
  EXPECT_NE(words.find("Please come closer."), std::string::npos);
  EXPECT_EQ(words.find("The athlete"), std::string::npos);
}

}  // namespace
}  // namespace jib::coaching
