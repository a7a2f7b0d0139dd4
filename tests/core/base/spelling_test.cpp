// SPDX-License-Identifier: GPL-3.0-or-later
// Words that two countries spell differently.
#include "core/base/spelling.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <regex>

#include "core/base/resources.h"
#include "core/coaching/drill.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib {
namespace {

struct British {
  British() { useSpelling(Spelling::British); }
  ~British() { useSpelling(Spelling::American); }
};

TEST(SpellingOf, WholeWordsChangeAndKeepTheirCapital) {
  EXPECT_EQ(spelled("Center the bar. Colors, centered."), "Center the bar. Colors, centered.") << "American ships";
  const British now;
  EXPECT_EQ(spelled("Center the bar. Colors, centered."), "Centre the bar. Colours, centred.");
  EXPECT_EQ(spelled("epicenter discolored <b>center</b>"), "epicenter discolored <b>centre</b>");
  EXPECT_EQ(spelled(""), "");
  EXPECT_EQ(spelled("läuft center"), "läuft centre");
}

// No text that ships keeps an American word in British spelling: what ends like one is looked for.
TEST(SpellingOf, NothingThatShipsIsForgotten) {
  const British now;
  const std::regex american(
      R"(\b(\w*colors?|\w*center(s|ed)?|centimeters?|\w*alyz(e|ed|ing)|gray|favorites?|behaviors?)\b)",
      std::regex::icase);
  int read = 0;
  for (const auto& entry : std::filesystem::recursive_directory_iterator(resource("cues"))) {
    if (entry.path().extension() != ".toml") continue;
    ++read;
    const std::string text = spelled(tests::bytesOf(entry.path()));
    std::smatch found;
    EXPECT_FALSE(std::regex_search(text, found, american)) << entry.path() << ": " << found[0];
  }
  EXPECT_GE(read, 3);
}

TEST(SpellingOf, ReachesCardsAndCues) {
  const tests::ScratchFolder folder;
  const auto file = folder.write("drills.toml",
                                 "[a]\ntitle='Center'\npurpose='p'\nsetup='s'\ndose='d'\nmust_not='m'\n"
                                 "words=['the center']\nlifts=['squat']\n");
  EXPECT_EQ(tests::must(coaching::DrillBook::load(file)).cards()[0].title, "Center");
  const British now;
  const auto book = tests::must(coaching::DrillBook::load(file));
  EXPECT_EQ(book.cards()[0].title, "Centre");
  EXPECT_EQ(book.cards()[0].words[0], "the centre") << "what is looked for changes along with what is said";
}

}  // namespace
}  // namespace jib
