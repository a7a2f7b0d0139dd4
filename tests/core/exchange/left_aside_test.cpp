// SPDX-License-Identifier: GPL-3.0-or-later
// What a message held and the program does not use is said, and a number is the same number in every country.
#include <gtest/gtest.h>

#include <clocale>

#include "core/base/quantity.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/spool.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/must.h"

namespace jib::exchange {
namespace {

using tests::header;
using tests::multipart;
using tests::must;
using tests::textPart;

const std::string kIda = "Ida <ida@tide.invalid>";

// Begins as an MP4 does.
std::string smallFilm() {
  std::string film(
      "\0\0\0\x18"
      "ftypisom",
      12);
  film.resize(72, 'x');
  return film;
}

struct Inbox {
  tests::ScratchFolder folder;
  Mail read(const std::string& bytes) {
    Spool spool = must(Spool::open(folder / "incoming"));
    Mail mail = must(readMail(folder.write("m.eml", bytes), spool));
    for (auto& clip : mail.clips) clip.bytes = tests::bytesOf(clip.file);
    return mail;
  }
};

TEST(LeftAside, AFilmThatCallsItselfATextIsAFilm) {
  Inbox in;
  const Mail mail =
      in.read(header(kIda, "f@tide", "squat") +
              multipart({textPart("My top set."), tests::filePart("film.txt", smallFilm(), "text/plain")}));
  ASSERT_EQ(mail.clips.size(), 1u);
  EXPECT_EQ(mail.clips[0].bytes, smallFilm());
  EXPECT_EQ(mail.text, "My top set.");
}

TEST(LeftAside, WordsBeyondAMegabyteAreCutAndThatIsSaid) {
  Inbox in;
  const Mail mail = in.read(header(kIda, "l@tide", "long") + "Content-Type: text/plain; charset=utf-8\n\nMy squat.\n" +
                            std::string(1 << 21, 'x') + "\n");
  EXPECT_TRUE(mail.text.starts_with("My squat."));
  ASSERT_EQ(mail.troubles.size(), 1u);
  EXPECT_NE(mail.troubles[0].find("megabyte"), std::string::npos);
  EXPECT_FALSE(mail.film_lost);
}

TEST(LeftAside, AFilmNestedTooDeepIsSaidToBeLost) {
  Inbox in;
  std::string inner = "Content-Type: text/plain\n\nhello\n";
  for (int i = 0; i < 230; ++i) {
    const std::string mark = "b" + std::to_string(i);
    inner = "Content-Type: multipart/mixed; boundary=" + mark + "\n\n--" + mark + "\n" + inner + "\n--" + mark + "--\n";
  }
  const Mail mail = in.read(header(kIda, "d@tide", "deep") + inner);
  EXPECT_TRUE(mail.film_lost);
  ASSERT_FALSE(mail.troubles.empty());
  EXPECT_NE(mail.troubles[0].find("nested"), std::string::npos);
}

TEST(LeftAside, AMessageThatBreaksOffSaysSo) {
  Inbox in;
  const std::string whole =
      header(kIda, "c@tide", "cut") + multipart({textPart("My squat."), tests::filePart("a.mp4", smallFilm())});
  EXPECT_FALSE(in.read(whole).film_lost);
  const Mail cut = in.read(whole.substr(0, whole.size() - 60));
  EXPECT_TRUE(cut.film_lost);
  ASSERT_FALSE(cut.troubles.empty());
  EXPECT_NE(cut.troubles[0].find("breaks off"), std::string::npos) << cut.troubles[0];
}

TEST(LeftAside, ALineBreakThatWasEncodedIntoASubjectIsASpace) {
  Inbox in;
  EXPECT_EQ(in.read(header(kIda, "s@tide", "=?utf-8?Q?hello=0ABcc:_x@y.invalid?=") + "Content-Type: text/plain\n\nhi\n")
                .subject,
            "hello Bcc: x@y.invalid");
}

// A Qt program takes the locale of its surroundings: 142.5 was 142 in half of Europe.
TEST(Numbers, AreReadWithAPointWhereTheDecimalMarkIsAComma) {
  const std::string was = std::setlocale(LC_ALL, nullptr);
  bool found = false;
  for (const char* comma : {"de_DE.UTF-8", "de_DE.utf8", "fr_FR.UTF-8", "nl_NL.UTF-8", "pl_PL.UTF-8"})
    if (!found && std::setlocale(LC_ALL, comma)) found = true;
  std::string load, effort, mass;
  for (const auto& f : readMessage("Squat 142.5 kg x 3, RPE 8.5. I weigh 82.5 kg.", "2026-05-04").fields) {
    if (f.field == Field::Load_kg) load = f.value;
    if (f.field == Field::Effort) effort = f.value;
    if (f.field == Field::BodyMass_kg) mass = f.value;
  }
  std::setlocale(LC_ALL, was.c_str());
  EXPECT_EQ(load, "142.5");
  EXPECT_EQ(effort, "8.5");
  EXPECT_EQ(mass, "82.5");
  if (!found) GTEST_SKIP() << "no locale with a decimal comma is installed; scripts/lint forbids what asks for it";
}

TEST(Numbers, AreWholeOrNone) {
  EXPECT_EQ(numberFrom("142.5"), 142.5);
  for (const char* none : {"", "x", "142,5", "142.5 kg", "nan", "inf", " 1"})
    EXPECT_EQ(numberFrom(none), std::nullopt) << none;
}

}  // namespace
}  // namespace jib::exchange
