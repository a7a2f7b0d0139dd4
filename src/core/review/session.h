// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>

#include "core/coaching/analysis.h"
#include "core/coaching/bookmark.h"
#include "core/coaching/style_book.h"
#include "core/exchange/intake/care.h"
#include "core/library/records.h"

namespace jib::review {

// Which point of which frame.
struct PinKey {
  double t_s = 0;
  tracing::PointName point;
  friend bool operator==(const PinKey&, const PinKey&) = default;
};

// Points to be set, or taken away where there is no place.
using PinValues = std::vector<std::pair<PinKey, std::optional<PixelPoint>>>;

// What the coach says: changed as a whole, so that undo takes back what one edit did.
struct CueChoice {
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::string greeting = {}, closing = {};
  bool all_numbers = false;  // the whole table goes along with the report
  bool chosen = false;       // the coach has touched it; until then it follows the proposal
  // What is said first, in the coach's words; nullopt: what is proposed.
  std::optional<std::vector<std::string>> praise = {};
  std::optional<coaching::PainPlan> pain = {};  // how to train around what hurts
  std::string week = {};                        // how the weeks look, a line a day
  friend bool operator==(const CueChoice&, const CueChoice&) = default;
};

// What the coach knows about how the clip was made; the film does not tell it.
struct SetUp {
  std::string variant;
  std::optional<double> load_kg;
  double plate_mm = 450;
  double slow_factor = 1;
  std::optional<int> set;  // of a clip that holds several, counted from 0; nullopt: the top one
  std::vector<std::optional<double>> set_loads_kg;            // of each of them
  std::map<std::string, std::string, std::less<>> overruled;  // claim the view does not carry, and the day
  std::optional<double> roll_deg = {};                        // of the camera, by what the coach says is vertical
  tracing::LeftOuts left_out = {};                            // parts in which nothing is measured
  friend bool operator==(const SetUp&, const SetUp&) = default;
};

// In whose terms the athlete is judged: a style, and the sides taken on topics for this athlete.
struct Approach {
  std::string style;
  coaching::Switches sides;
  friend bool operator==(const Approach&, const Approach&) = default;
};

using Rejected = std::map<std::string, std::string, std::less<>>;  // finding, and why the coach does not share it

// One submission under review, as a value: the record, its analysis, what the coach placed, marked and chose. Whatever
// is changed, the analysis is judged anew with all that is told now, and the numbers of the chosen cues are looked up
// in it: no part of it is older than another. Thread  one at a time; an analysis that was handed out is never changed
class Session {
 public:
  Session(library::Athlete athlete, library::Submission submission, library::Review review, coaching::Style style,
          coaching::CueBook book);

  const library::Athlete& athlete() const { return athlete_; }
  const library::Submission& submission() const { return submission_; }
  const lifts::LiftDefinition& lift() const;  // that it is judged as
  const coaching::Style& style() const { return style_; }
  // In the words of the variant at hand.
  const coaching::CueBook& book() const { return book_as_; }
  const coaching::StyleBook& styles() const { return styles_; }
  Approach approach() const { return {athlete_.style, athlete_.profile.switches}; }
  // What holds where nothing is chosen for this athlete: the coach's own sides over the style's.
  coaching::Switches usualSides() const;
  const std::vector<tracing::PlacedFrame>& placed() const { return placed_; }
  std::optional<PixelPoint> pin(const PinKey& key) const;
  const CueChoice& choice() const { return choice_; }
  const coaching::Marks& marks() const { return marks_; }
  const coaching::Sketch& sketch() const { return sketch_; }
  const Rejected& rejected() const { return rejected_; }
  const exchange::Care& care() const { return care_; }
  // The reps as they stand: the coach's, or those that were found.
  motion::HeldReps heldReps() const;
  std::vector<std::string> praise() const;  // what the reply says is going well
  bool repsEdited() const { return held_.has_value(); }
  const coaching::Bookmarks& bookmarks() const { return bookmarks_; }
  // Whether the first look is over, so that numbers and findings may be shown.
  bool looked() const { return looked_; }
  SetUp setUp() const;
  // Null until the clip has been traced.
  std::shared_ptr<const coaching::Analysis> analysis() const { return analysis_; }
  // Goes up with every change: what was made of an older one is out of date.
  int revision() const { return revision_; }

  // All six points on one frame, and no body traced from them yet.
  bool bodyCanBeTraced() const;
  coaching::AnalysisRequest request() const;
  // What is saved; the play head is the page's to add.
  library::Review review() const;

  // A trace arrives from a job, made with what was told when the job began: it is judged with what is told now.
  void adopt(coaching::Analysis traced);
  // One that was judged just now with request(), or that holds nothing to judge.
  void take(coaching::Analysis judged);
  // What there is to choose from, and the sides the coach takes for every athlete.
  void setStyles(coaching::StyleBook styles, coaching::Switches of_coach);
  // The same, taken anew after the coach has moved a limit: everything is judged by it.
  void restyle(coaching::StyleBook styles);
  // What earlier sets showed of left against right.
  void setSidesBefore(coaching::SidesSeen before) { sides_before_ = std::move(before); }
  // With pain or under 18 nothing is chosen for the coach, and what is offered is gentle.
  void setCare(exchange::Care care);
  // A fresh cue for a finding, as it is offered for this athlete.
  coaching::Cue offered(const coaching::Finding& finding, const coaching::CueEntry& entry) const;
  void setState(library::SubmissionState state) { submission_.state = state; }
  // The same set from other sides: what this view does not carry is judged from there.
  void setOthers(std::vector<coaching::OtherFilm> others);
  // Of this clip to the one it is linked with, as the library has it.
  void setPairOffset(std::optional<double> offset_s) { submission_.details.pair_offset_s = offset_s; }
  // Where something drawn was followed to. False when it is gone by then.
  bool setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed);
  // What looking at the clip told of the row: which lift it is.
  void learn(const library::Submission& submission);
  void setLooked(bool looked);

  // Each puts in a value and gives back the old one, which undoes it.
  PinValues exchange(const PinValues& to);
  CueChoice exchange(CueChoice to);
  SetUp exchange(SetUp to);
  coaching::Marks exchange(coaching::Marks to);
  coaching::Sketch exchange(coaching::Sketch to);
  Rejected exchange(Rejected to);
  std::optional<motion::HeldReps> exchange(std::optional<motion::HeldReps> to);
  coaching::Bookmarks exchange(coaching::Bookmarks to);
  Approach exchange(Approach to);

 private:
  void speakOfVariant();  // the cue book in its words
  void judgeAgain();
  void judge(std::shared_ptr<coaching::Analysis> analysis);
  void followAnalysis();

  library::Athlete athlete_;
  library::Submission submission_;
  coaching::Style style_;
  coaching::CueBook book_, book_as_;
  coaching::StyleBook styles_;
  coaching::Switches coach_sides_;
  coaching::SidesSeen sides_before_;
  std::vector<tracing::PlacedFrame> placed_;
  coaching::Marks marks_;
  coaching::Sketch sketch_;
  Rejected rejected_;
  std::optional<motion::HeldReps> held_;
  coaching::Bookmarks bookmarks_;
  bool looked_ = false;
  CueChoice choice_;
  std::shared_ptr<const coaching::Analysis> analysis_;
  std::vector<coaching::OtherFilm> others_;
  exchange::Care care_;
  int revision_ = 0;
};

}  // namespace jib::review
