// SPDX-License-Identifier: GPL-3.0-or-later
// What an athlete agreed to: kept, missing, run out; whose face is blurred; who gets a copy.
#include "core/library/consent.h"

#include <gtest/gtest.h>

#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/young.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/mail.h"
#include "core/library/library.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

constexpr const char* kToday = "2026-12-01";

Profile bornIn(int year) {
  Profile p;
  p.birth_year = year;
  return p;
}

TEST(Consent, IsKeptWithTheProfileAndWhatIsUnknownBesideIt) {
  Profile p = bornIn(2010);
  p.consent = {"2026-11-03", "2027-11-03", true, false};
  p.guardian = {"Petra Lunde", "petra@lunde.invalid"};
  p.hide_faces = false;
  const Profile back = profileFromJson(profileToJson(p));
  EXPECT_EQ(back.consent, p.consent);
  EXPECT_EQ(back.guardian, p.guardian);
  EXPECT_EQ(back.hide_faces, p.hide_faces);
  EXPECT_TRUE(back.unread.empty());
  EXPECT_EQ(profileFromJson(R"({"consent": "yes", "guardian": 7, "hide_faces": "no"})").consent, Consent{});
}

TEST(Consent, FacesAreBlurredOfTheYoungUnlessTheCoachSaysOtherwise) {
  EXPECT_TRUE(hidesFaces(bornIn(2010), kToday));
  EXPECT_FALSE(hidesFaces(bornIn(1990), kToday));
  EXPECT_FALSE(hidesFaces(Profile{}, kToday));
  Profile shown = bornIn(2010), hidden = bornIn(1990);
  shown.hide_faces = false;
  hidden.hide_faces = true;
  EXPECT_FALSE(hidesFaces(shown, kToday));
  EXPECT_TRUE(hidesFaces(hidden, kToday));
}

TEST(Consent, SaysWhatIsMissingAndWhatHasRunOut) {
  EXPECT_TRUE(consentLack(bornIn(1990), kToday).empty());
  Profile young = bornIn(2010);
  EXPECT_EQ(consentLack(young, kToday), "Under 18, and no parent or guardian is on file.");
  young.guardian.name = "Petra Lunde";
  EXPECT_EQ(consentLack(young, kToday), "Petra Lunde hasn't agreed yet.");
  young.consent.agreed_on = "2026-01-01";
  EXPECT_TRUE(consentLack(young, kToday).empty());
  young.consent.until = kToday;
  EXPECT_TRUE(consentLack(young, kToday).empty()) << "its last day counts";
  young.consent.until = "2026-11-30";
  EXPECT_NE(consentLack(young, kToday).find("ran out"), std::string::npos);
}

TEST(Consent, EveryLetterToSomebodyUnder18GoesToTheGuardianAsWell) {
  const tests::ScratchFolder folder;
  auto library = tests::must(Library::open(folder / "lib"));
  Athlete kit;
  kit.name = "Kit Lunde";
  kit.profile = bornIn(2010);
  kit.profile.guardian = {"Petra Lunde", "petra@lunde.invalid"};
  const auto id = tests::must(library.addAthlete(kit));
  exchange::Dispatch d;
  d.athlete = id;
  d.kind = "letter";
  d.to_address = "kit@lunde.invalid";
  d.letter = {"Your squat", "Hi Kit, good set."};
  const CoachCard coach{.name = "Mara", .address = "mara@club.invalid"};
  const auto headersOf = [&] {
    const auto sent = exchange::dispatch(library, coach, d, kToday);
    EXPECT_TRUE(sent);
    return tests::bytesOf(library.outgoingFile(*sent));
  };
  EXPECT_NE(headersOf().find("Cc: petra@lunde.invalid"), std::string::npos);
  ASSERT_TRUE(library.edit(id, [](Athlete& a) { a.profile.birth_year = 1990; }));
  EXPECT_EQ(headersOf().find("Cc:"), std::string::npos);
}

TEST(Consent, AnAgeThatOnlyAMessageSaysHoldsForFacesAndCopiesToo) {
  const tests::ScratchFolder folder;
  auto library = tests::must(Library::open(folder / "lib"));
  Message m;
  m.received_on = kToday;
  m.fields = exchange::proposedFields("I'm 16 and my squat feels off, 60 kg x 3", kToday);
  ASSERT_NE(exchange::fieldNamed(m.fields, exchange::nameOf(exchange::Field::Age)), nullptr);
  Athlete kit;
  kit.name = "Kit Lunde";
  kit.profile.guardian = {"Petra Lunde", "petra@lunde.invalid"};
  m.athlete = tests::must(library.addAthlete(kit));
  m.from_address = "kit@lunde.invalid";
  Library::Incoming incoming;
  incoming.message = m;
  incoming.original = folder.write("kit.eml", "From: kit@lunde.invalid\n\nI'm 16");
  Task task;
  ASSERT_TRUE(tests::must(library.addMessage(incoming, task)));
  const auto known = exchange::profileAsKnown(library, tests::must(library.athlete(m.athlete)));
  EXPECT_EQ(known.birth_year, 2010);
  EXPECT_TRUE(hidesFaces(known, kToday));
  EXPECT_EQ(copyTo(known, kToday), "petra@lunde.invalid");
  EXPECT_FALSE(tests::must(library.athlete(m.athlete)).profile.birth_year) << "nothing is written";
  // And as a review knows it.
  exchange::Care care;
  care.minor = true;
  kit.profile.birth_year.reset();
  EXPECT_TRUE(hidesFaces(exchange::profileAsKnown(kit, care, kToday), kToday));
  kit.profile.birth_year = 1990;
  EXPECT_FALSE(hidesFaces(exchange::profileAsKnown(kit, care, kToday), kToday)) << "the coach's word goes before";
}

}  // namespace
}  // namespace jib::library
