// SPDX-License-Identifier: GPL-3.0-or-later
// Everybody at once: who waits, what is due, by which words they are found; and a clip that was somebody else's.
#include "core/library/roster.h"

#include <gtest/gtest.h>

#include "core/library/dates.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using tests::must;

struct House {
  tests::ScratchFolder folder;
  Library library = must(Library::open(folder / "lib"));
  AthleteId ola = add("Ola Marsh"), tam = add("Tam Reed");
  int clips = 0;

  AthleteId add(const std::string& name) {
    Athlete a;
    a.name = name;
    return must(library.addAthlete(a));
  }
  SubmissionId clip(AthleteId of, const std::string& day, std::optional<MessageId> message = {}) {
    Submission s;
    s.athlete = of;
    s.received_on = day;
    s.lift = "squat";
    s.variant = "low-bar";
    s.message_id = message;
    Task task;
    const std::string name = std::to_string(++clips);
    return must(library.addSubmission(s, folder.write(name + ".mp4", name), task));
  }
  // Something asked of a clip's athlete in it.
  void ask(SubmissionId in, AthleteId of, const std::string& review_on) {
    CueThread t;
    t.athlete = of;
    t.asked_in = in;
    t.asked_on = "2026-01-05";
    t.review_on = review_on;
    t.finding = "squat.hips_lead";
    t.title = "Hips shoot up";
    t.measure = "hip_shoulder_rise_ratio";
    Library::Return back;
    back.id = in;
    back.asked = {t};
    must(library.returnReview(back));
  }
  RosterRow row(AthleteId of) {
    for (RosterRow& r : must(library.roster(today())))
      if (r.athlete.id == of) return r;
    throw std::runtime_error("not in the roster");
  }
};

TEST(Roster, SaysWhoWaitsSinceWhenAndWhatIsDue) {
  House h;
  h.clip(h.ola, "2026-01-09");
  const auto first = h.clip(h.ola, "2026-01-05");
  h.clip(h.ola, "2026-01-07");
  h.ask(first, h.ola, "2026-02-01");
  const RosterRow ola = h.row(h.ola);
  EXPECT_EQ(ola.clips, 3);
  EXPECT_EQ(ola.waiting, 2) << "one has its answer";
  EXPECT_EQ(ola.waiting_since, "2026-01-07");
  EXPECT_EQ(ola.last_on, "2026-01-09");
  EXPECT_EQ(ola.open_cues, 1);
  EXPECT_EQ(ola.due_on, "2026-02-01");
  const RosterRow tam = h.row(h.tam);
  EXPECT_EQ(tam.clips, 0);
  EXPECT_EQ(tam.waiting, 0);
  EXPECT_TRUE(tam.due_on.empty()) << "nobody asked anything of them";
}

TEST(Roster, FindsByAnyWordOfWhatIsKnown) {
  House h;
  const auto in = h.clip(h.ola, "2026-01-05");
  h.ask(in, h.ola, "2026-02-01");
  EXPECT_TRUE(h.library.saveResults(in, tests::smallAnalysis()));
  must(h.library.edit(h.ola, [](Athlete& a) {
    a.profile.groups = {"Juniors"};
    a.profile.setBest("squat", 182.5);
    a.profile.body_mass_kg = 74;
  }));
  const RosterRow row = h.row(h.ola);
  const auto finds = [&](const char* typed, MassUnit unit = MassUnit::Kilograms) {
    return RosterSearch(typed, unit).finds(row);
  };
  for (const char* typed : {"", "ola", "MARSH ola", "junior", "low-bar", "hips shoot", "ola low-bar juniors"})
    EXPECT_TRUE(finds(typed)) << typed;
  for (const char* typed : {"tam", "ola sumo", "high-bar"}) EXPECT_FALSE(finds(typed)) << typed;
  EXPECT_TRUE(finds("squat>180 bw<75"));
  EXPECT_TRUE(finds("squat>=182.5"));
  EXPECT_FALSE(finds("squat>182.5"));
  EXPECT_TRUE(finds("squat>400", MassUnit::Pounds)) << "402 lb";
  EXPECT_FALSE(finds("squat>403", MassUnit::Pounds));
  EXPECT_FALSE(finds("bench>1")) << "nobody knows the bench";
  EXPECT_TRUE(finds("squat>")) << "half typed it asks for nothing yet";
  EXPECT_TRUE(finds("deadlift>90lb") == false);
}

TEST(Roster, FindsByWhatAClipShowed) {
  House h;
  const auto in = h.clip(h.ola, "2026-01-05");
  coaching::Analysis a = tests::smallAnalysis();
  coaching::Finding f;
  f.id = "squat.heels_lift";
  f.verdict = coaching::Verdict::Yes;
  a.findings = {f};
  f.id = "squat.toes_lift";
  f.verdict = coaching::Verdict::TooClose;
  a.findings.push_back(f);
  must(h.library.saveResults(in, a));
  EXPECT_TRUE(RosterSearch("heels lift", MassUnit::Kilograms).finds(h.row(h.ola)));
  EXPECT_FALSE(RosterSearch("toes lift", MassUnit::Kilograms).finds(h.row(h.ola))) << "too close is not found";
}

TEST(GiveTo, TheClipItsSetAndWhatWasAskedGoToTheOther) {
  House h;
  const auto side = h.clip(h.ola, "2026-01-05"), front = h.clip(h.ola, "2026-01-05"),
             other = h.clip(h.ola, "2026-01-12");
  must(h.library.joinSet(side, front, 0.0));
  h.ask(side, h.ola, "2026-02-01");
  const auto gone = must(h.library.giveTo(front, h.tam));
  EXPECT_EQ(gone.size(), 2u);
  for (const auto id : {side, front}) EXPECT_EQ(must(h.library.submission(id)).athlete, h.tam);
  EXPECT_EQ(must(h.library.submission(other)).athlete, h.ola);
  EXPECT_EQ(must(h.library.threads(h.tam)).size(), 1u);
  EXPECT_TRUE(must(h.library.threads(h.ola)).empty());
  EXPECT_TRUE(must(h.library.check()).empty());
}

TEST(GiveTo, WhatItMeasuredOfACueThatStaysIsForgotten) {
  House h;
  const auto asked = h.clip(h.ola, "2026-01-05"), later = h.clip(h.ola, "2026-02-05");
  h.ask(asked, h.ola, "2026-02-01");
  auto threads = must(h.library.threads(h.ola));
  threads[0].value_now = 1.1;
  threads[0].sigma_now = 0.1;
  threads[0].measured_in = later;
  threads[0].measured_on = "2026-02-05";
  threads[0].state = ThreadState::Met;
  must(h.library.saveMeasuredNow(threads));
  must(h.library.giveTo(later, h.tam));
  const auto now = must(h.library.threads(h.ola)).at(0);
  EXPECT_EQ(now.state, ThreadState::Asked);
  EXPECT_FALSE(now.value_now);
  EXPECT_FALSE(now.measured_in);
}

TEST(GiveTo, TheMessageGoesOnlyWhenNothingOfItStays) {
  House h;
  const auto letter = [&](const char* key) {
    Library::Incoming in;
    in.message.key = key;
    in.message.from_address = "ola@example.invalid";
    in.message.received_on = "2026-01-05";
    in.message.body = "two of us";
    in.message.athlete = h.ola;
    in.original = h.folder.write(std::string(key) + ".eml", key);
    for (const char* name : {"a", "b"}) {
      Library::Incoming::Clip clip;
      clip.submission.received_on = "2026-01-05";
      clip.file = h.folder.write(std::string(key) + name + ".mp4", std::string(key) + name);
      clip.submission.clip_name = std::string(name) + ".mp4";
      in.clips.push_back(clip);
    }
    Task task;
    return *must(h.library.addMessage(in, task));
  };
  const MessageId id = letter("one");
  std::vector<SubmissionId> rows;
  for (const auto& s : must(h.library.submissions()))
    if (s.message_id == id) rows.push_back(s.id);
  ASSERT_EQ(rows.size(), 2u);
  const AthleteId from = must(h.library.message(id)).athlete;
  must(h.library.giveTo(rows[0], h.tam));
  EXPECT_EQ(must(h.library.message(id)).athlete, from) << "the other clip came with it too";
  must(h.library.giveTo(rows[1], h.tam));
  EXPECT_EQ(must(h.library.message(id)).athlete, h.tam);
  EXPECT_EQ(h.library.giveTo(rows[1], h.tam).error().code, ErrorCode::WrongUse);
  EXPECT_FALSE(h.library.giveTo(rows[1], AthleteId(999)));
}

}  // namespace
}  // namespace jib::library
