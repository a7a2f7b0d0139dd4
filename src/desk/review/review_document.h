// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QUndoStack>
#include <map>
#include <memory>
#include <optional>

#include "core/coaching/analysis.h"
#include "core/coaching/bookmark.h"
#include "core/coaching/style_book.h"
#include "core/library/library.h"

namespace jib::desk {

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
  QString greeting = {}, closing = {};
  bool all_numbers = false;  // the whole table goes along with the report
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

// One submission under review: the record, its analysis, what the coach placed and chose, and the undo stack. Everyone
// may read; only commands may change it, through the Editor.
class ReviewDocument : public QObject {
  Q_OBJECT

 public:
  ReviewDocument(library::Athlete athlete, library::Submission submission, library::Review review,
                 std::filesystem::path clip, coaching::Style style, coaching::CueBook book, QObject* parent = nullptr);

  const library::Athlete& athlete() const { return athlete_; }
  const library::Submission& submission() const { return submission_; }
  const lifts::LiftDefinition& lift() const;  // that it is judged as
  const std::filesystem::path& clip() const { return clip_; }
  const coaching::Style& style() const { return style_; }
  const coaching::CueBook& book() const { return book_; }
  const coaching::StyleBook& styles() const { return styles_; }
  Approach approach() const { return {athlete_.style, athlete_.profile.switches}; }
  // What holds where nothing is chosen for this athlete: the coach's own sides over the style's.
  coaching::Switches usualSides() const;
  const std::vector<tracing::PlacedFrame>& placed() const { return placed_; }
  std::optional<PixelPoint> pin(const PinKey& key) const;
  const CueChoice& choice() const { return choice_; }
  const coaching::Marks& marks() const { return marks_; }
  const coaching::Sketch& sketch() const { return sketch_; }
  const std::map<std::string, std::string, std::less<>>& rejected() const { return rejected_; }
  // The reps as they stand: the coach's, or those that were found.
  motion::HeldReps heldReps() const;
  const coaching::Bookmarks& bookmarks() const { return bookmarks_; }
  // Whether the first look is over, so that numbers and findings may be shown.
  bool looked() const { return looked_; }
  void setLooked(bool looked);
  bool repsEdited() const { return held_.has_value(); }
  bool chosen() const { return chosen_; }
  SetUp setUp() const;
  // Null until the clip has been traced.
  std::shared_ptr<const coaching::Analysis> analysis() const { return analysis_; }
  QUndoStack& undoStack() { return undo_; }

  // All six points on one frame, and no body traced from them yet.
  bool bodyCanBeTraced() const;
  coaching::AnalysisRequest request() const;
  // What is saved; the play head is the page's to add.
  library::Review review() const;

  // A traced clip arrives from a job.
  void setAnalysis(coaching::Analysis analysis);
  // What there is to choose from, and the sides the coach takes for every athlete.
  void setStyles(coaching::StyleBook styles, coaching::Switches of_coach);
  // What earlier sets showed of left against right.
  void setSidesBefore(coaching::SidesSeen before) { sides_before_ = std::move(before); }
  void setState(library::SubmissionState state);
  // The same set from other sides: what this view does not carry is judged from there.
  void setOthers(std::vector<coaching::OtherFilm> others);
  // Everything is said anew: units have changed.
  void sayAgain();
  // Of this clip to the one it is linked with, as the library has it.
  void setPairOffset(std::optional<double> offset_s) { submission_.details.pair_offset_s = offset_s; }
  // Where something drawn was followed to, from a job; nothing that can be undone, and nothing when it is gone by then.
  void setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed);
  // What looking at the clip told of the row: which lift it is.
  void learn(const library::Submission& submission);

 signals:
  void pinsChanged();
  void analysisChanged();
  void choiceChanged();
  void sketchChanged();
  void setUpChanged();
  void approachChanged();  // must be saved with the athlete
  void stateChanged();
  void bookmarksChanged();
  void lookedChanged();
  void edited();  // something that must be saved

 private:
  friend class ReviewCommand;
  // Swaps in a value and gives back the old one; signals once.
  PinValues exchangePins(const PinValues& to);
  CueChoice exchangeChoice(CueChoice to);
  SetUp exchangeSetUp(SetUp to);
  coaching::Marks exchangeMarks(coaching::Marks to);
  coaching::Sketch exchangeSketch(coaching::Sketch to);
  std::map<std::string, std::string, std::less<>> exchangeRejected(std::map<std::string, std::string, std::less<>> to);
  std::optional<motion::HeldReps> exchangeReps(std::optional<motion::HeldReps> to);
  coaching::Bookmarks exchangeBookmarks(coaching::Bookmarks to);
  Approach exchangeApproach(Approach to);
  void judgeAgain();
  void takeProposal();

  library::Athlete athlete_;
  library::Submission submission_;
  std::filesystem::path clip_;
  coaching::Style style_;
  coaching::CueBook book_;
  coaching::StyleBook styles_;
  coaching::Switches coach_sides_;
  coaching::SidesSeen sides_before_;
  std::vector<tracing::PlacedFrame> placed_;
  coaching::Marks marks_;
  coaching::Sketch sketch_;
  std::map<std::string, std::string, std::less<>> rejected_;
  std::optional<motion::HeldReps> held_;
  coaching::Bookmarks bookmarks_;
  bool looked_ = false;
  CueChoice choice_;
  bool chosen_ = false;  // the coach has touched the choice; until then it follows the proposal
  std::shared_ptr<const coaching::Analysis> analysis_;
  std::vector<coaching::OtherFilm> others_;
  QUndoStack undo_;
};

}  // namespace jib::desk
