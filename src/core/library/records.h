// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/coaching/cue.h"
#include "core/library/ids.h"
#include "core/tracing/trace.h"

namespace jib::library {

struct Athlete {
  AthleteId id{0};
  std::string name;
  std::string note;
  std::string style = "balanced";
};

enum class SubmissionState { New, InReview, Returned };
std::string_view nameOf(SubmissionState state);   // in the database
std::string_view titleOf(SubmissionState state);  // for people

struct Submission {
  SubmissionId id{0};
  AthleteId athlete{0};
  std::string received_on;  // ISO date
  std::string message;      // the athlete's own words
  std::string lift = "squat", variant = "low-bar";
  std::optional<double> load_kg;
  double plate_mm = 450;
  double slow_factor = 1;
  std::string clip_name;  // as it was sent
  std::string clip_hash;  // SHA-256; the file in the media folder is named after it
  SubmissionState state = SubmissionState::New;
};

// What the coach did with a submission: saved after every change.
struct Review {
  std::vector<tracing::PlacedFrame> placed;
  std::vector<coaching::Cue> cues;
  bool cues_chosen = false;  // the coach has touched the choice; until then the proposal stands
  bool change_nothing = false;
  coaching::ByEye by_eye;  // what the coach judged without a measure
  std::string greeting;    // first words of the reply
  double play_head_s = 0;
};

enum class ThreadState { Asked, Better, Met, NotYet, Dropped };
std::string_view nameOf(ThreadState state);
std::string_view titleOf(ThreadState state);

// One thing asked of an athlete, followed across submissions.
struct CueThread {
  CueThreadId id{0};
  AthleteId athlete{0};
  SubmissionId asked_in{0};
  std::string asked_on, review_on;  // ISO dates
  std::string finding, title, wording;
  std::string measure;  // id of the number that must change
  double value_then = 0, sigma_then = 0;
  std::optional<double> value_now, sigma_now;
  std::optional<SubmissionId> measured_in;
  std::string measured_on;
  ThreadState state = ThreadState::Asked;
};

}  // namespace jib::library
