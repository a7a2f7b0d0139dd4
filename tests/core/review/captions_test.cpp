// SPDX-License-Identifier: GPL-3.0-or-later
// What is said, as lines to be read: cut where people pause, timed by length, and written as WebVTT.
#include "core/review/captions.h"

#include <gtest/gtest.h>

namespace jib::review {
namespace {

TEST(Captions, ASentenceIsALineAndALongOneIsCutBetweenWords) {
  const auto lines = captionLines(
      "Good set.  That third rep is the one to copy: the bar stays over mid-foot and you never rush it.", 10, 20);
  ASSERT_EQ(lines.size(), 3u);
  EXPECT_EQ(lines[0].text, "Good set.");
  EXPECT_EQ(lines[1].text, "That third rep is the one to copy:");
  for (const auto& line : lines) EXPECT_LE(line.text.size(), kCaptionLetters + 15);
  EXPECT_EQ(lines.front().from_s, 10);
  EXPECT_NEAR(lines.back().to_s, 20, 1e-9);
  for (std::size_t i = 1; i < lines.size(); ++i) EXPECT_EQ(lines[i].from_s, lines[i - 1].to_s);
  EXPECT_LT(lines[0].to_s - lines[0].from_s, lines[2].to_s - lines[2].from_s) << "short words stand shortly";
}

TEST(Captions, NoLineIsLongerThanCanBeReadAndNothingIsLost) {
  std::string text, together;
  for (int i = 0; i < 60; ++i) text += "wörd" + std::to_string(i) + " ";
  for (const auto& line : captionLines(text, 0, 30)) {
    std::size_t letters = 0;
    for (const char c : line.text) letters += (static_cast<unsigned char>(c) & 0xC0) != 0x80;
    EXPECT_LE(letters, kCaptionLetters);
    together += line.text + " ";
  }
  EXPECT_EQ(together, text);
}

TEST(Captions, OneWordLongerThanALineStandsAloneAndNoWordsAreNoLines) {
  EXPECT_TRUE(captionLines(" \n ", 0, 5).empty());
  const auto lines = captionLines("so " + std::string(90, 'x') + " there", 0, 5);
  ASSERT_EQ(lines.size(), 3u);
  EXPECT_EQ(lines[1].text, std::string(90, 'x'));
}

TEST(Captions, TheLineOfAMomentIsTheOneThatIsSaidThen) {
  const auto lines = captionLines("Hips back. Knees out.", 2, 6);
  EXPECT_EQ(captionAt(lines, 1.9), "");
  EXPECT_EQ(captionAt(lines, 2.5), "Hips back.");
  EXPECT_EQ(captionAt(lines, 5.5), "Knees out.");
  EXPECT_EQ(captionAt(lines, 6), "");
}

TEST(Captions, WebVttTellsTimesAndIsNoMarkup) {
  const std::string vtt = toWebVtt({{0, 1.5, "5 < 6 & more"}, {3599.9996, 3601, "--> there"}});
  EXPECT_EQ(vtt,
            "WEBVTT\n\n00:00:00.000 --> 00:00:01.500\n5 &lt; 6 &amp; more\n"
            "\n01:00:00.000 --> 01:00:01.000\n--&gt; there\n");
}

}  // namespace
}  // namespace jib::review
