// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QUndoStack>

#include "core/library/library.h"
#include "core/review/session.h"

namespace jib::desk {

using review::Approach;
using review::CueChoice;
using review::PinKey;
using review::PinValues;
using review::SetUp;

// One submission under review in the window: the session, the clip's file and the undo stack, with a signal for every
// change. Everyone may read; only commands may change it, through the Editor.
class ReviewDocument : public QObject {
  Q_OBJECT

 public:
  ReviewDocument(library::Athlete athlete, library::Submission submission, library::Review review,
                 std::filesystem::path clip, coaching::Style style, coaching::CueBook book, QObject* parent = nullptr);

  const review::Session& session() const { return session_; }
  const library::Athlete& athlete() const { return session_.athlete(); }
  const library::Submission& submission() const { return session_.submission(); }
  const lifts::LiftDefinition& lift() const { return session_.lift(); }
  const std::filesystem::path& clip() const { return clip_; }
  const coaching::Style& style() const { return session_.style(); }
  const coaching::CueBook& book() const { return session_.book(); }
  const coaching::StyleBook& styles() const { return session_.styles(); }
  Approach approach() const { return session_.approach(); }
  coaching::Switches usualSides() const { return session_.usualSides(); }
  const std::vector<tracing::PlacedFrame>& placed() const { return session_.placed(); }
  std::optional<PixelPoint> pin(const PinKey& key) const { return session_.pin(key); }
  const CueChoice& choice() const { return session_.choice(); }
  const coaching::Marks& marks() const { return session_.marks(); }
  const coaching::Sketch& sketch() const { return session_.sketch(); }
  const review::Rejected& rejected() const { return session_.rejected(); }
  motion::HeldReps heldReps() const { return session_.heldReps(); }
  const coaching::Bookmarks& bookmarks() const { return session_.bookmarks(); }
  bool looked() const { return session_.looked(); }
  void setLooked(bool looked);
  bool repsEdited() const { return session_.repsEdited(); }
  bool chosen() const { return session_.choice().chosen; }
  SetUp setUp() const { return session_.setUp(); }
  std::shared_ptr<const coaching::Analysis> analysis() const { return session_.analysis(); }
  QUndoStack& undoStack() { return undo_; }
  bool bodyCanBeTraced() const { return session_.bodyCanBeTraced(); }
  coaching::AnalysisRequest request() const { return session_.request(); }
  library::Review review() const { return session_.review(); }

  // A traced clip arrives from a job (Session::adopt).
  void setAnalysis(coaching::Analysis traced);
  // One that was judged just now (Session::take).
  void takeAnalysis(coaching::Analysis judged);
  void setStyles(coaching::StyleBook styles, coaching::Switches of_coach) {
    session_.setStyles(std::move(styles), std::move(of_coach));
  }
  void setCare(exchange::Care care) { session_.setCare(std::move(care)); }
  void setSidesBefore(coaching::SidesSeen before) { session_.setSidesBefore(std::move(before)); }
  void setState(library::SubmissionState state) { session_.setState(state); }
  void setOthers(std::vector<coaching::OtherFilm> others);
  // A limit was moved: all is judged by the styles as they are now (Session::restyle).
  void restyle(coaching::StyleBook styles);
  // Everything is said anew: units have changed.
  void sayAgain();
  void setPairOffset(std::optional<double> offset_s) { session_.setPairOffset(offset_s); }
  // Where something drawn was followed to, from a job; nothing that can be undone, and nothing when it is gone by then.
  void setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed);
  void learn(const library::Submission& submission) { session_.learn(submission); }

 signals:
  void pinsChanged();
  void analysisChanged();
  void choiceChanged();
  void sketchChanged();
  void setUpChanged();
  void approachChanged();  // must be saved with the athlete
  void bookmarksChanged();
  void edited();  // something that must be saved

 private:
  friend class ReviewCommand;
  // Swaps in a value and gives back the old one; signals once.
  template <class Value>
  Value exchange(Value to);
  void tell(const PinValues&);
  void tell(const CueChoice&);
  void tell(const SetUp&);
  void tell(const coaching::Marks&);
  void tell(const coaching::Sketch&);
  void tell(const review::Rejected&);
  void tell(const std::optional<motion::HeldReps>&);
  void tell(const coaching::Bookmarks&);
  void tell(const Approach&);
  void judged();
  void tellChoice();

  review::Session session_;
  std::filesystem::path clip_;
  CueChoice told_choice_;  // as it was when choiceChanged was last said
  QUndoStack undo_;
};

}  // namespace jib::desk
