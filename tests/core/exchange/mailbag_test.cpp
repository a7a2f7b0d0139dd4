// SPDX-License-Identifier: GPL-3.0-or-later
// A mixed bag of messages: everything lands right or says why not, and nothing is lost.
#include <gtest/gtest.h>

#include <algorithm>
#include <map>
#include <random>

#include "core/exchange/intake/importer.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/mail/field_reader.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/exchange/made_zip.h"

namespace jib::exchange {
namespace {

using library::Library;
using library::SubmissionState;
using tests::filePart;
using tests::filmNumber;
using tests::header;
using tests::multipart;
using tests::ScratchFolder;
using tests::textPart;
using tests::zipOf;

// One message, and what must become of it.
struct Letter {
  std::string bytes;
  std::string athlete;
  std::vector<SubmissionState> states;  // of its submissions
  std::string trouble;                  // part of what is said; empty: nothing
  std::string load;                     // read from it
};

std::vector<Letter> mailbag() {
  using S = SubmissionState;
  const std::string squat = "Squat 140 kg x 3 @8, is my depth ok?\r\n\r\nCheers, Ines";
  const auto film = [](int n) { return filePart("set.mp4", filmNumber(n)); };
  std::vector<Letter> bag;
  const auto add = [&](Letter letter) { bag.push_back(std::move(letter)); };
  add({header("Ines Calder <ines@tide.invalid>", "1@a", "squats") + multipart({textPart(squat), film(1)}),
       "Ines Calder",
       {S::New},
       "",
       "140"});
  add({header("Ines Calder <INES@tide.invalid>", "2@a", "more") + multipart({textPart("120 kg x 5"), film(2), film(3)}),
       "Ines Calder",
       {S::New, S::New},
       "",
       "120"});
  // Pages, alone and beside plain text.
  add({header("Bram Oort <bram@tide.invalid>", "3@a", "page") +
           multipart(
               {textPart("<html><body><p>Low bar, <b>150&nbsp;kg</b> for 2</p><script>x=999</script></body></html>",
                         "text/html; charset=utf-8"),
                film(4)}),
       "Bram Oort",
       {S::New},
       "",
       "150"});
  add({header("Bram Oort <bram@tide.invalid>", "4@a", "both") +
           multipart({multipart({textPart("152.5 kg x 1"), textPart("<p>152.5 kg x 1</p>", "text/html")}, "alternative",
                                "=_inner"),
                      film(5)}),
       "Bram Oort",
       {S::New},
       "",
       "152.5"});
  // Other alphabets and encodings.
  add({header("=?iso-8859-1?Q?J=F6rn_Vik?= <jorn@tide.invalid>", "5@a", "=?utf-8?B?S25pZWJldWdl?=") +
           multipart({textPart("High bar, 132,5 kg x 4. F=FChlt sich gut an.", "text/plain; charset=iso-8859-1",
                               "quoted-printable"),
                      film(6)}),
       "J\xC3\xB6"
       "rn Vik",
       {S::New},
       "",
       "132.5"});
  add({header("Ola Marsh <ola@tide.invalid>", "6@a", "base64") +
           multipart({textPart("c3F1YXQgMTAwa2cgeCA1", "text/plain; charset=us-ascii", "base64"), film(7)}),
       "Ola Marsh",
       {S::New},
       "",
       "100"});
  add({header("Ola Marsh <ola@tide.invalid>", "7@a", "bad charset") +
           multipart({textPart("squat 105kg \xFF\xFE x 5", "text/plain; charset=utf-8"), film(8)}),
       "Ola Marsh",
       {S::New},
       "",
       "105"});
  // Older messages quoted below, with their own numbers.
  add({header("Ola Marsh <ola@tide.invalid>", "8@a", "Re: squats") +
           multipart(
               {textPart(
                    "today 107.5 kg x 5\r\n\r\nOn Monday, Coach wrote:\r\n> try 95 kg x 8 next\r\n> and send it\r\n"),
                film(9)}),
       "Ola Marsh",
       {S::New},
       "",
       "107.5"});
  add({header("Ola Marsh <ola@tide.invalid>", "9@a", "page quote") +
           multipart({textPart("<p>110 kg x 3</p><blockquote>95 kg x 8</blockquote>", "text/html"), film(10)}),
       "Ola Marsh",
       {S::New},
       "",
       "110"});
  // Nested parts and a forwarded message.
  add({header("Suki Vale <suki@tide.invalid>", "10@a", "nested") +
           multipart(
               {multipart({multipart({textPart("bench 60kg x 8"), film(11)}, "related", "=_c")}, "mixed", "=_b")}),
       "Suki Vale",
       {S::New},
       "",
       "60"});
  add({header("Suki Vale <suki@tide.invalid>", "11@a", "Fwd") +
           multipart({textPart("forwarding my clip, 62.5kg x 6"),
                      "Content-Type: message/rfc822\r\n\r\n" + header("Phone <suki@phone.invalid>", "11b@a", "clip") +
                          multipart({film(12)}, "mixed", "=_inner")}),
       "Suki Vale",
       {S::New},
       "",
       "62.5"});
  // Attachments without names, with odd names, or declared as something else.
  add({header("Suki Vale <suki@tide.invalid>", "12@a", "no name") +
           multipart({textPart("65kg x 3"), filePart("", filmNumber(13))}),
       "Suki Vale",
       {S::New},
       "",
       "65"});
  add({header("Suki Vale <suki@tide.invalid>", "13@a", "octets") +
           multipart({textPart("67.5kg x 3"), filePart("IMG_4711", filmNumber(14), "application/octet-stream")}),
       "Suki Vale",
       {S::New},
       "",
       "67.5"});
  add({header("Suki Vale <suki@tide.invalid>", "14@a", "path") +
           multipart({textPart("70kg x 2"), filePart("../../etc/evil.mp4", filmNumber(15))}),
       "Suki Vale",
       {S::New},
       "",
       "70"});
  // What is wrong with the film.
  add({header("Marta Pell <marta@tide.invalid>", "15@a", "empty") +
           multipart({textPart("squat 95kg x 3"), filePart("empty.mp4", "")}),
       "Marta Pell",
       {S::AwaitingFilm},
       "empty",
       "95"});
  add({header("Marta Pell <marta@tide.invalid>", "16@a", "broken") +
           multipart({textPart("squat 96 kg x 3"), filePart("broken.mp4", filmNumber(0).substr(0, 300))}),
       "Marta Pell",
       {S::NeedsVideo},
       "",
       "96"});
  add({header("Marta Pell <marta@tide.invalid>", "17@a", "again") + multipart({textPart("squat 97.5kg x 3"), film(16)}),
       "Marta Pell",
       {S::New},
       "",
       "97.5"});
  add({header("Marta Pell <marta@tide.invalid>", "18@a", "same film") +
           multipart({textPart("did you get it? 97.5kg x 3"), film(16)}),
       "Marta Pell",
       {S::Skipped},
       "",
       "97.5"});
  add({header("Marta Pell <marta@tide.invalid>", "19@a", "link") +
           textPart("squat 100 kg x 1: https://share.invalid/v/abc123 thanks"),
       "Marta Pell",
       {S::AwaitingFilm},
       "",
       "100"});
  add({header("Marta Pell <marta@tide.invalid>", "20@a", "forgot") + textPart("Here is my squat, 102.5 kg x 2"),
       "Marta Pell",
       {S::AwaitingFilm},
       "",
       "102.5"});
  add({header("Marta Pell <marta@tide.invalid>", "21@a", "thanks") + textPart("Thank you, that helped a lot!"),
       "Marta Pell",
       {S::New},
       "",
       ""});
  // Zips.
  add({header("Tomas Quill <tomas@tide.invalid>", "22@a", "zip") +
           multipart({textPart("deadlift 180kg x 1"),
                      filePart("clips.zip",
                               zipOf({{"a/one.mp4", filmNumber(17)}, {"two.mov", filmNumber(18)}, {"notes.txt", "x"}}),
                               "application/zip")}),
       "Tomas Quill",
       {S::New, S::New},
       "",
       "180"});
  add({header("Tomas Quill <tomas@tide.invalid>", "23@a", "bad zip") +
           multipart({textPart("deadlift 182.5kg x 1"),
                      filePart("clips.zip", "PK\x03\x04 this is no archive", "application/zip")}),
       "Tomas Quill",
       {S::AwaitingFilm},
       "damaged",
       "182.5"});
  add({header("Tomas Quill <tomas@tide.invalid>", "24@a", "document") +
           multipart({textPart("deadlift 185kg x 1"), filePart("plan.pdf", "%PDF-1.4", "application/pdf"), film(19)}),
       "Tomas Quill",
       {S::New},
       "",
       "185"});
  // Two athletes in one thread: the second answers the first's message.
  add({header("Lena Roe <lena@tide.invalid>", "25@a", "Re: squats", "In-Reply-To: <1@a>\r\n") +
           multipart(
               {textPart(
                    "mine too please, squat 80kg x 5\r\n\r\nOn Friday, Ines Calder wrote:\r\n> Squat 140 kg x 3 @8"),
                film(20)}),
       "Lena Roe",
       {S::New},
       "",
       "80"});
  // Headers missing or odd; the closing boundary cut off.
  add({"From: pim@tide.invalid\r\n\r\nsquat 60kg x 5, no film yet", "pim", {S::AwaitingFilm}, "", "60"});
  add({header("Pim Reef <pim@tide.invalid>", "27@a", "cut") +
           [&] {
             auto m = multipart({textPart("squat 65kg x 5"), film(21)});
             return m.substr(0, m.size() - 12);
           }(),
       "pim",
       {S::New},
       "breaks off",
       "65"});
  return bag;
}

struct Bag {
  ScratchFolder folder;
  Library library = *Library::open(folder / "library");
  Task task;
  Received take(const std::filesystem::path& source) {
    auto r = receive(library, source, "2026-11-25", task);
    EXPECT_TRUE(r) << r.error().sentence();
    return r ? *r : Received{};
  }
  std::vector<library::Submission> of(const library::Message& m) {
    std::vector<library::Submission> mine;
    const auto submissions = library.submissions();
    for (const auto& s : *submissions)
      if (s.message_id == m.id) mine.push_back(s);
    std::reverse(mine.begin(), mine.end());
    return mine;
  }
  std::vector<library::Message> all() {
    std::vector<library::Message> messages;
    const auto athletes = library.athletes();
    for (const auto& a : *athletes) {
      const auto theirs = library.messages(a.id);
      messages.insert(messages.end(), theirs->begin(), theirs->end());
    }
    return messages;
  }
};

TEST(Mailbag, EverythingLandsRightOrSaysWhyNot) {
  const auto letters = mailbag();
  ASSERT_GE(letters.size(), 25u);
  Bag bag;
  std::filesystem::create_directories(bag.folder / "mail/new");
  std::filesystem::create_directories(bag.folder / "mail/cur");
  for (std::size_t i = 0; i < letters.size(); ++i)
    bag.folder.write("mail/new/" + std::to_string(1000 + i), letters[i].bytes);
  const Received first = bag.take(bag.folder / "mail");
  EXPECT_EQ(first.messages, static_cast<int>(letters.size()));
  EXPECT_TRUE(std::filesystem::is_empty(bag.folder / "mail/new")) << "read messages are put away";
  EXPECT_TRUE(bag.library.check()->empty()) << "every clip is whole";

  for (const Letter& letter : letters) {
    const auto messages = bag.all();
    const std::string original = sha256Of(letter.bytes);
    const auto m =
        std::find_if(messages.begin(), messages.end(), [&](const auto& x) { return x.original == original; });
    ASSERT_NE(m, messages.end()) << letter.bytes.substr(0, 120);
    SCOPED_TRACE(m->key + ": " + m->body);
    EXPECT_EQ(tests::bytesOf(bag.library.folder() / "mail" / (original + ".eml")), letter.bytes) << "kept as it came";
    EXPECT_EQ(bag.library.athlete(m->athlete)->name, letter.athlete);
    std::vector<SubmissionState> states;
    for (const auto& s : bag.of(*m)) {
      states.push_back(s.state);
      EXPECT_EQ(s.clip_hash.empty(),
                s.state == SubmissionState::AwaitingFilm || s.kind != library::SubmissionKind::Clip);
      EXPECT_EQ(s.reason.empty(), s.state == SubmissionState::New) << "what is not simply new says why";
      EXPECT_EQ(s.clip_name.find('/'), std::string::npos);
    }
    EXPECT_EQ(states, letter.states);
    std::string troubles;
    for (const auto& t : m->troubles) troubles += t;
    EXPECT_EQ(troubles.empty(), letter.trouble.empty()) << troubles;
    EXPECT_NE(troubles.find(letter.trouble), std::string::npos) << troubles;
    const auto* load = fieldNamed(m->fields, "load_kg");
    EXPECT_EQ(load ? load->value : "", letter.load);
  }

  // The same bag again, as one mbox: nothing new.
  std::string mbox;
  for (const Letter& letter : letters) mbox += "From someone Fri Nov 20 18:04:00 2026\n" + letter.bytes + "\n\n";
  const Received second = bag.take(bag.folder.write("all.mbox", mbox));
  EXPECT_EQ(second.messages, 0);
  EXPECT_EQ(second.known, static_cast<int>(letters.size()));
}

TEST(Mailbag, WhatIsNoMessageIsSaidAndPassedOver) {
  Bag bag;
  const Received r = bag.take(bag.folder.write("noise.eml", std::string("\x00\x01\x02\xFF\xFE", 5)));
  EXPECT_EQ(r.messages, 0);
  ASSERT_EQ(r.troubles.size(), 1u);
  EXPECT_NE(r.troubles[0].find("not a message"), std::string::npos);
  EXPECT_EQ(receive(bag.library, bag.folder / "nowhere", "2026-11-25", bag.task).error().code, ErrorCode::CannotRead);
}

TEST(Mailbag, AFolderOfFilmsWithTextsBesideThemIsOneMessageAFilmOrOneForAll) {
  Bag bag;
  std::filesystem::create_directories(bag.folder / "Rosa Lind");
  bag.folder.write("Rosa Lind/a.mp4", filmNumber(1));
  bag.folder.write("Rosa Lind/a.txt", "squat 90kg x 3");
  bag.folder.write("Rosa Lind/b.mp4", filmNumber(2));
  bag.folder.write("Rosa Lind/note.txt", "bench 50kg x 5");
  const Received r = bag.take(bag.folder / "Rosa Lind");
  EXPECT_EQ(r.messages, 2);
  EXPECT_EQ(r.clips, 2);
  std::map<std::string, double> loads;
  const auto submissions = bag.library.submissions();
  for (const auto& s : *submissions) loads[s.clip_name] = s.load_kg.value_or(0);
  EXPECT_EQ(loads, (std::map<std::string, double>{{"a.mp4", 90}, {"b.mp4", 50}}));
  EXPECT_EQ(bag.library.athletes()->size(), 1u);
  EXPECT_EQ(bag.take(bag.folder / "Rosa Lind").known, 2) << "and taking it in again changes nothing";
}

TEST(Mailbag, ReturningSendersAreKnownByAddressAndNeverMergedByName) {
  Bag bag;
  const auto send = [&](const std::string& from, const std::string& key) {
    bag.take(bag.folder.write(key + ".eml", header(from, key, "x") + textPart("squat 100kg x 3")));
  };
  send("Kim Dale <kim@one.invalid>", "a");
  send("Kim Dale <kim@two.invalid>", "b");
  auto athletes = *bag.library.athletes();
  ASSERT_EQ(athletes.size(), 2u) << "the same name from another address may be someone else";
  ASSERT_TRUE(bag.library.mergeAthletes(athletes[1].id, athletes[0].id));
  EXPECT_EQ(bag.library.athletes()->size(), 1u);
  EXPECT_EQ(bag.library.addresses(athletes[0].id)->size(), 2u);
  EXPECT_EQ(bag.library.messages(athletes[0].id)->size(), 2u);
  send("K. D. <kim@two.invalid>", "c");
  EXPECT_EQ(bag.library.athletes()->size(), 1u) << "the address is known now";
}

TEST(Mailbag, AFullDiskLeavesNothingOfAMessage) {
  class Full : public ForwardingFileSystem {
   public:
    Full() : ForwardingFileSystem(FileSystem::real()) {}
    Result<bool> copy(const std::filesystem::path&, const std::filesystem::path&) override {
      return fail(ErrorCode::CannotWrite, "No space left on the device.", "Free some space.");
    }
  } full;
  ScratchFolder folder;
  auto library = *Library::open(folder / "library", full);
  const auto file =
      folder.write("m.eml", header("Ines <ines@tide.invalid>", "1@a", "x") +
                                multipart({textPart("squat 100kg x 3"), filePart("a.mp4", filmNumber(1))}));
  Task task;
  EXPECT_EQ(receive(library, file, "2026-11-25", task).error().code, ErrorCode::CannotWrite);
  EXPECT_TRUE(library.submissions()->empty());
  const auto athletes = library.athletes();
  for (const auto& a : *athletes) EXPECT_TRUE(library.messages(a.id)->empty());
}

TEST(Mailbag, AMessageWrittenIsTheMessageRead) {
  ScratchFolder folder;
  Mail mail;
  mail.from_name = "The coach";
  mail.from_address = "coach@reef-barbell.invalid";
  mail.to_address = "ines@tide.invalid";
  mail.subject =
      "Your squat: R\xC3\xBC"
      "ckmeldung";
  mail.text = "Hi Ines,\nkeep the knees \xE2\x80\x9Con their mark\xE2\x80\x9D.\n";
  const auto clip = folder.write("reply.mp4", filmNumber(0));
  const auto file = writeInOutbox(folder / "outbox", mail, {clip, folder.write("report.html", "<p>report</p>")});
  ASSERT_TRUE(file) << file.error().sentence();
  const auto back = readMail(tests::bytesOf(file->until_listed));
  ASSERT_TRUE(back);
  EXPECT_EQ(back->subject, mail.subject);
  EXPECT_EQ(back->to_address, mail.to_address);
  EXPECT_EQ(back->text, "Hi Ines,\nkeep the knees \xE2\x80\x9Con their mark\xE2\x80\x9D.");
  ASSERT_EQ(back->clips.size(), 1u);
  EXPECT_EQ(back->clips[0].bytes, filmNumber(0));
}

TEST(Mailbag, MutatedMessagesNeverBreakTheReader) {
  // A seeded mutator over the whole bag: bytes changed, cut out, doubled.
  std::mt19937 random(5);
  std::vector<std::string> seeds;
  for (const Letter& letter : mailbag())
    if (letter.bytes.size() < 20000) seeds.push_back(letter.bytes);
  ASSERT_GE(seeds.size(), 5u);
  seeds.push_back(header("A <a@b.invalid>", "z", "z") +
                  multipart({textPart("x"), filePart("z.zip", zipOf({{"a.mp4", "0123"}}), "application/zip")}));
  int read = 0, refused = 0;
  for (int round = 0; round < 1500; ++round) {
    std::string bytes = seeds[random() % seeds.size()];
    for (int k = 0; k < 8 && !bytes.empty(); ++k) {
      const std::size_t at = random() % bytes.size(), n = random() % 40;
      switch (random() % 3) {
        case 0:
          bytes[at] = static_cast<char>(random());
          break;
        case 1:
          bytes.erase(at, n);
          break;
        default:
          bytes.insert(at, bytes.substr(random() % bytes.size(), n));
      }
    }
    const auto mail = readMail(bytes);
    mail ? ++read : ++refused;
    if (mail) {
      for (const MailPart& clip : mail->clips) EXPECT_FALSE(clip.bytes.empty());
      (void)readMessage(mail->text, "2026-11-25");
    }
  }
  EXPECT_GT(read, 1000);
}

}  // namespace
}  // namespace jib::exchange
