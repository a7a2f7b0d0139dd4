// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/display_units.h"
#include "core/coaching/bookmark.h"
#include "core/coaching/cue.h"
#include "core/coaching/loading.h"
#include "core/coaching/pain_plan.h"
#include "core/coaching/sketch.h"
#include "core/library/colleague.h"
#include "core/library/consent.h"
#include "core/library/ids.h"
#include "core/library/meet.h"
#include "core/lifts/alike.h"
#include "core/lifts/kit.h"
#include "core/lifts/lift.h"
#include "core/tracing/body/flesh.h"
#include "core/tracing/body/known_build.h"
#include "core/tracing/model/coach_told.h"
#include "core/tracing/model/trace.h"

namespace jib::library {

// Whether a coach waits for an athlete's clips. Who pauses or has left stays in the library with all that is kept.
enum class Membership { Active, Paused, Former };
std::string_view nameOf(Membership membership);   // in files
std::string_view titleOf(Membership membership);  // for people

// What is known of an athlete beyond the name; empty and nullopt mean unknown.
struct Profile {
  std::string say_name;  // how to say it
  std::optional<int> birth_year;
  std::optional<double> height_cm, body_mass_kg, years_training;
  std::array<std::optional<double>, lifts::kLifts> best_kg;  // by lifts::at
  std::string bests_on;                                      // dates and circumstances, in words
  std::string goal, meet_on, federation;
  std::string usual;                    // bar height, stance, grip, equipment
  std::optional<MassUnit> unit;         // a bare number of theirs counts in; nullopt: nobody has said it
  std::string pain;                     // known pain or diagnosis in the athlete's own words; never ours
  std::string screens;                  // jump stance, unloaded squat, barefoot arch
  std::optional<tracing::Flesh> flesh;  // where hip crease and knee's top lie over the joints, as clicked on a clip
  std::optional<tracing::KnownBuild> build;  // limbs, from a clip on which the points were placed
  std::string unread;                        // JSON of what this program does not understand: written back as it came
  std::vector<std::int64_t> apart_from;      // athletes of the same name who are others, by id
  coaching::Switches switches;               // sides taken on topics for this athlete
  std::vector<std::string> groups;           // as the coach sorts athletes: "juniors", "Tuesdays"
  Membership membership = Membership::Active;
  std::string rules;        // the rule set they lift under (coaching/rule_book.h); empty: the book's first
  std::vector<Meet> meets;  // lifted in, oldest first
  Consent consent;
  Guardian guardian;
  std::optional<bool> hide_faces;     // in what leaves the house; nullopt: of everybody under 18
  std::string coach;                  // who answers them, of several coaches (colleague.h); empty: whoever gets to it
  std::optional<int> replies_a_week;  // as was agreed; nullopt: nothing was
  std::optional<double> bestOf(std::string_view lift) const;  // nullopt of a lift that is not known
  void setBest(std::string_view lift, double kg);
  friend bool operator==(const Profile&, const Profile&) = default;
};
std::string profileToJson(const Profile& profile);
Profile profileFromJson(std::string_view json);  // what cannot be read stays unknown
// Under 18 in the year of `on_iso`, as far as the year of birth tells; unknown is nullopt.
std::optional<bool> isMinor(const Profile& profile, std::string_view on_iso);

struct Athlete {
  AthleteId id{0};
  std::string name;
  std::string note;
  std::string style = "balanced";
  Profile profile = {};
};

enum class SubmissionState { New, NeedsVideo, InReview, CarriedOver, Returned, AwaitingFilm, Skipped };
std::string_view nameOf(SubmissionState state);   // in the database
std::string_view titleOf(SubmissionState state);  // for people

// What a row of the queue is: a film (come, or waited for), words from an athlete, or words that ask something.
enum class SubmissionKind { Clip, Note, Question };
std::string_view nameOf(SubmissionKind kind);

// Who says which lift a submission shows.
enum class ToldBy { Nobody, Words, Film, Coach };

// What is known of a submission's sets beyond its row; empty and nullopt mean unknown.
struct SubmissionDetails {
  ToldBy lift_by = ToldBy::Nobody, variant_by = ToldBy::Nobody;
  bool lift_confirmed = false;                      // the coach holds to it although the film looks like another lift
  std::optional<coaching::Loading> plates;          // counted on the picture
  std::vector<std::optional<double>> set_loads_kg;  // of each set, where a clip holds several
  std::optional<int> sets_said, reps_said;          // by the message, confirmed, or by the coach
  std::optional<double> effort_said;                // out of ten
  std::string load_said;                            // the load as it was typed, while nobody knows its unit: "185"
  std::optional<int> top_set;                       // counted from 0: the one that is judged
  std::string seen_from;                            // as the coach says (tracing::View); empty: as the film tells
  std::optional<double> roll_deg;                   // of the camera, where the coach has said what is vertical
  std::optional<tracing::PointedAt> lifter;         // where the coach had to point them out among others
  tracing::LeftOuts left_out;                       // parts in which nothing is measured, as the coach says
  lifts::Kit kit;                                   // shoes, belt, bar, state: as somebody said
  std::optional<double> pair_offset_s;              // added to a time of this clip: the same moment in its pair
  std::string film_gone_on;                         // ISO date on which its film was let go; numbers and words stay
  std::string keep_film_until;                      // ISO date: it was due before, and the coach kept it
  std::string reviewer;                             // who answers it, of several coaches; empty: their usual coach
  std::optional<SecondOpinion> second_opinion;      // for coaches only
  std::string answered_by, answered_on;             // who signed its reply, and the ISO date of that day
  std::map<std::string, std::string, std::less<>> overruled;  // claim, and the day the coach judged it all the same
  friend bool operator==(const SubmissionDetails&, const SubmissionDetails&) = default;
};
std::string detailsToJson(const SubmissionDetails& details);
SubmissionDetails detailsFromJson(std::string_view json);  // what cannot be read stays unknown

struct Submission {
  SubmissionId id{0};
  AthleteId athlete{0};
  std::string received_on;    // ISO date
  std::string message;        // the athlete's own words
  std::string lift, variant;  // empty: nobody knows yet
  std::optional<double> load_kg;
  double plate_mm = 450;
  double slow_factor = 1;
  std::string clip_name;  // as it was sent
  std::string clip_hash;  // SHA-256; the file in the media folder is named after it; empty: no clip came
  SubmissionState state = SubmissionState::New;
  std::optional<MessageId> message_id = {};  // it came with
  std::string reason = {};                   // why it was skipped, or what it waits for
  std::optional<SubmissionId> pair = {};     // another view of the same set; a set's films are a chain of these
  SubmissionDetails details = {};
  SubmissionKind kind = SubmissionKind::Clip;
};

// One film of a set among others.
struct SetFilm {
  Submission film;
  double offset_s = 0;  // added to a time of the clip that was asked about it gives the same moment in this one
};

// Who writes back, and how.
struct CoachCard {
  std::string name, address;         // empty until the coach has said them
  bool send_receipts = false;        // a receipt goes into the outbox for every message that is taken in
  std::string style = "balanced";    // of athletes who come new
  coaching::Switches switches = {};  // sides taken for every athlete, unless chosen otherwise for one
  static constexpr int kMostMonths = 120;
  int keep_films_months = 0;  // films of answered clips fall due after so long (falling_due.h); 0: never
  Absence absence = {};
  std::string signature = {};              // lines under the name in letters: club, phone, hours
  std::vector<Colleague> colleagues = {};  // who work in this library as well
  friend bool operator==(const CoachCard&, const CoachCard&) = default;
};
std::string coachToJson(const CoachCard& card);
CoachCard coachFromJson(std::string_view json);  // what cannot be read is as with a new library

// One reading of a message and what the coach made of it.
struct MessageField {
  std::string field;  // name of exchange::Field
  std::string value;
  std::string words;                     // of the message it came from
  bool confirmed = false;                // of a question: it has been answered
  std::string said = {};                 // of a mass: as it was typed (exchange::kilogramsOf)
  std::optional<MassUnit> said_in = {};  // of a mass: the unit that was written behind it
  bool sure = true;                      // false: a number whose unit nobody said, or one the writer doubts
  friend bool operator==(const MessageField&, const MessageField&) = default;
};

// What an athlete wrote, kept with its original bytes.
struct Message {
  MessageId id{0};
  std::string key;
  AthleteId athlete{0};
  std::string from_name, from_address, subject;
  std::string received_on;            // the day it counts for: as it is dated, or the day it was taken in
  std::string dated;                  // as its sender's clock says, where that cannot be; empty: as received_on
  std::string body;                   // the athlete's own words
  std::string quoted;                 // what they quote of older messages
  std::string mail_id;                // its Message-ID; empty when it has none
  std::string thread;                 // Message-ID of the first message of its thread, as far as it is known
  std::vector<std::string> contents;  // what it held, part by part
  std::string original;               // SHA-256 of the bytes; the file in the mail folder is named after it
  std::vector<MessageField> fields;
  std::vector<std::string> troubles;
};

// A letter, a filming request or a reply on its way to an athlete.
enum class OutgoingState { Waiting, HandedOver, TakenBack };
std::string_view nameOf(OutgoingState state);
struct Outgoing {
  OutgoingId id{0};
  std::optional<AthleteId> athlete;
  std::optional<SubmissionId> submission;  // it is about
  std::string kind;                        // "letter" or "reply"
  std::string to_name, to_address, subject;
  std::string file;     // name of the .eml in the outbox folder
  std::string mail_id;  // its Message-ID
  std::string made_on;  // ISO date
  std::string handed_on;
  OutgoingState state = OutgoingState::Waiting;
};

// What the coach did with a submission: saved after every change.
struct Review {
  std::vector<tracing::PlacedFrame> placed;
  std::vector<coaching::Cue> cues;
  bool cues_chosen = false;  // the coach has touched the choice; until then the proposal stands
  bool change_nothing = false;
  bool all_numbers = false;                                  // the whole table goes along with the report
  std::optional<std::vector<std::string>> praise;            // in the coach's words; nullopt: as it is proposed
  coaching::Marks marks;                                     // what the coach judged without a measure
  coaching::Sketch sketch;                                   // what is drawn over the clip
  std::map<std::string, std::string, std::less<>> rejected;  // findings the coach does not share, and why
  std::optional<motion::HeldReps> held;                      // reps, once the coach has edited them
  std::string greeting, closing;                             // first and last words of the reply
  std::optional<coaching::PainPlan> pain;                    // how to train around what hurts
  std::string week;                                          // how the weeks look, a line a day; empty: nothing is said
  coaching::Bookmarks bookmarks;                             // noticed at first look, before any number
  bool looked = false;                                       // the first look is over: numbers may be shown at once
  double play_head_s = 0;
  std::string desk;  // JSON of how the desk stood: speed, loop, framing, tab; not read by anyone else
};

// NotComparable: it would be met, but on a clip that cannot be held against the one it was asked on. Paused: it waits,
// while something hurts or before a meet, and is taken up again.
enum class ThreadState { Asked, Better, Met, NotYet, Dropped, NotComparable, Paused };
std::string_view nameOf(ThreadState state);
std::string_view titleOf(ThreadState state);
// Nobody waits for it: it is met, dropped or paused.
bool isAtRest(ThreadState state);

// One thing asked of an athlete, followed across submissions.
struct CueThread {
  CueThreadId id{0};
  AthleteId athlete{0};
  SubmissionId asked_in{0};
  std::string asked_on, review_on;  // ISO dates
  std::string finding, title, wording, drill;
  std::string measure;  // id of the number that must change
  double value_then = 0, sigma_then = 0;
  std::optional<double> value_now, sigma_now;
  std::optional<SubmissionId> measured_in;
  std::string measured_on;
  ThreadState state = ThreadState::Asked;
  // Of the clip it was asked on, read with it and not kept twice.
  std::string asked_variant;
  std::optional<double> asked_load_kg;
  lifts::Kit asked_kit;
  std::optional<lifts::FilmedAs> asked_filmed;  // as that film was traced
  std::string asked_film_on;                    // the day of that film
  std::string dropped_why;                      // or paused; in the coach's words
  std::optional<coaching::Change> change;       // what was to be set up differently
  std::vector<std::string> watch;               // findings it may bring, absent when it was asked
  std::optional<lifts::Measured> change_now;    // what the film that measured it shows of the change
  std::vector<std::string> brought;             // of `watch`, what that film shows
  std::string why_not;  // of one that cannot be compared, a phrase: "lighter than when it was asked"
};

}  // namespace jib::library
