// SPDX-License-Identifier: GPL-3.0-or-later
// Words out of pages and letters: tokens, sentences, HTML made plain, quotes left out, links found, zips opened.
#include "core/exchange/mail/plain_text.h"

#include <gtest/gtest.h>

#include "core/exchange/mail/mail.h"
#include "core/exchange/mail/spool.h"
#include "core/exchange/mail/words.h"
#include "core/exchange/mail/zip.h"
#include "tests/core/scratch_folder.h"

namespace jib::exchange {
namespace {

std::vector<std::string> textsOf(std::string_view text) {
  std::vector<std::string> all;
  for (const Token& t : tokensOf(text)) all.push_back(t.text);
  return all;
}

TEST(Tokens, TakeNumbersUnitsAndSignsApart) {
  using V = std::vector<std::string>;
  EXPECT_EQ(textsOf("140kg x 2 @8"), (V{"140", "kg", "x", "2", "@", "8"}));
  EXPECT_EQ(textsOf("5x3"), (V{"5", "x", "3"}));
  EXPECT_EQ(textsOf("92,5 or 92.5"), (V{"92.5", "or", "92.5"}));
  EXPECT_EQ(textsOf("a, b"), (V{"a", ",", "b"})) << "a comma between words is no decimal mark";
  EXPECT_EQ(textsOf("30.01.2027"), (V{"30", ".", "01", ".", "2027"})) << "two marks make a date";
  EXPECT_EQ(textsOf("I'm Don't"), (V{"i'm", "don't"}));
}

TEST(Tokens, KnowNumbersThatAreWordsAndCapitals) {
  const auto t = tokensOf("Five singles, Ines");
  EXPECT_TRUE(t[0].numeric);
  EXPECT_EQ(t[0].number, 5);
  EXPECT_TRUE(t[0].capital);
  EXPECT_FALSE(t[1].capital);
  EXPECT_TRUE(t[3].capital);
  EXPECT_EQ(t[3].at, 14u) << "its place in the message, in bytes";
  EXPECT_EQ(t[3].end, 18u);
}

TEST(Tokens, KeepSentencesAndClausesApart) {
  const std::string text = "Was 130 kg, today 135. Is it deep?\nThanks";
  const auto t = tokensOf(text);
  const auto s = sentencesOf(text, t);
  ASSERT_EQ(s.size(), 3u);
  EXPECT_EQ(s[0].text, "Was 130 kg, today 135.");
  EXPECT_EQ(s[0].mark, '.');
  EXPECT_EQ(s[1].mark, '?');
  EXPECT_EQ(s[2].mark, 0);
  EXPECT_NE(t[1].clause, t[5].clause) << "130 and 135 are told of in two breaths";
  EXPECT_EQ(t[1].sentence, t[5].sentence);
}

TEST(PlainText, OfAPageKeepsItsLinesAndDropsItsWorkings) {
  EXPECT_EQ(htmlToText("<p>One</p><p>Two<br>Three</p>"), "One\nTwo\nThree");
  EXPECT_EQ(
      htmlToText("<html><head><title>x</title><style>p{}</style></head><body>a  b\n c<script>1<2</script></body>"),
      "a b c");
  EXPECT_EQ(htmlToText("140&nbsp;kg &amp; more").substr(0, 3), "140");
  EXPECT_EQ(htmlToText("<ul><li>120 kg<li>3 reps</ul>"), "120 kg\n3 reps");
  EXPECT_EQ(htmlToText("new<blockquote>old 95 kg</blockquote>also new"), "new\n> old 95 kg\nalso new");
  EXPECT_EQ(htmlToText(""), "");
  EXPECT_EQ(htmlToText("<p>cut off <b"), "cut off");
  // As deep as it likes: no recursion.
  std::string deep;
  for (int i = 0; i < 20000; ++i) deep += "<div>";
  EXPECT_EQ(htmlToText(deep + "my knee hurts"), "my knee hurts");
}

TEST(PlainText, TellsWhatIsQuotedFromWhatIsNewAndKeepsBoth) {
  const auto split = [](std::string_view text) { return splitQuotes(text); };
  EXPECT_EQ(split("mine\n> yours\n>> older\nmine too").own, "mine\nmine too");
  EXPECT_EQ(split("mine\n> yours\n>> older\nmine too").quoted, "> yours\n>> older");
  EXPECT_EQ(split("mine\n\nOn Monday, Coach wrote:\nsomething\n").own, "mine");
  EXPECT_EQ(split("mine\n\nOn Monday, Coach wrote:\nsomething\n").unmarked, "something");
  EXPECT_EQ(split("mine\n-----Original Message-----\nFrom: x\nSent: y").own, "mine");
  EXPECT_EQ(split("On Monday I squatted.\nIt was fine.").own, "On Monday I squatted.\nIt was fine.");
}

TEST(PlainText, AnAnswerBelowOrBetweenQuotesIsKept) {
  EXPECT_EQ(splitQuotes("On Mon, Coach wrote:\n> How was it?\n> Any pain?\n\nMy left knee hurts.").own,
            "My left knee hurts.");
  EXPECT_EQ(splitQuotes("Hi\nOn Mon, Coach wrote:\n> How was it?\nGood.\n> Any pain?\nYes, my knee.").own,
            "Hi\nGood.\nYes, my knee.");
  EXPECT_EQ(splitQuotes("On Mon, a very long name of a coach\n<coach@reef.invalid> wrote:\n> Depth?\nOk.").own, "Ok.");
  // Without marks and with nothing above it the answer stands in what follows: all of it is kept as new.
  EXPECT_EQ(splitQuotes("On Mon, Coach wrote:\nHow was it?\nMy knee hurts.").own, "How was it?\nMy knee hurts.");
  // A line that begins like a header is none.
  EXPECT_EQ(splitQuotes("Great session.\nFrom: the hole it felt slow.\nMy hip hurts.").own,
            "Great session.\nFrom: the hole it felt slow.\nMy hip hurts.");
}

TEST(PlainText, FindsLinks) {
  using V = std::vector<std::string>;
  EXPECT_EQ(linksIn("see https://a.invalid/v?x=1, or <http://b.invalid/> http of course"),
            (V{"https://a.invalid/v?x=1,", "http://b.invalid/"}));
  EXPECT_TRUE(linksIn("http").empty());
}

TEST(PlainText, IsAlwaysUtf8) {
  EXPECT_EQ(validUtf8("a\r\nb"), "a\nb");
  EXPECT_EQ(validUtf8("\xC3\xBC"), "\xC3\xBC");
  EXPECT_EQ(validUtf8("x\xFFy"), "x\xEF\xBF\xBDy");
}

TEST(Clips, AreKnownByNameOrByTheirFirstBytes) {
  EXPECT_TRUE(looksLikeClip("a.MP4", ""));
  EXPECT_TRUE(looksLikeClip("", std::string_view("\0\0\0\x20"
                                                 "ftypisom....",
                                                 16)));
  EXPECT_TRUE(looksLikeClip("x", std::string_view("\x1A\x45\xDF\xA3....", 8)));
  EXPECT_FALSE(looksLikeClip("plan.pdf", "%PDF-1.4"));
  EXPECT_FALSE(looksLikeClip("", ""));
}

TEST(Zip, ThatIsDamagedSaysSo) {
  const tests::ScratchFolder folder;
  auto spool = *Spool::open(folder / "incoming");
  const auto r = clipsInZip(folder.write("a.zip", "PK\x03\x04 and then nothing of the kind"), spool);
  ASSERT_FALSE(r);
  EXPECT_EQ(r.error().code, ErrorCode::BadData);
  EXPECT_NE(r.error().next.find("one by one"), std::string::npos);
}

}  // namespace
}  // namespace jib::exchange
