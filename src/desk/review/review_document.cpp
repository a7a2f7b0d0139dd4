// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/review_document.h"

#include <utility>

namespace jib::desk {

ReviewDocument::ReviewDocument(library::Athlete athlete, library::Submission submission, library::Review review,
                               std::filesystem::path clip, coaching::Style style, coaching::CueBook book,
                               QObject* parent)
    : QObject(parent),
      session_(std::move(athlete), std::move(submission), std::move(review), std::move(style), std::move(book)),
      clip_(std::move(clip)),
      told_choice_(session_.choice()) {}

void ReviewDocument::setAnalysis(coaching::Analysis traced) {
  session_.adopt(std::move(traced));
  judged();
}

void ReviewDocument::takeAnalysis(coaching::Analysis judged_now) {
  session_.take(std::move(judged_now));
  judged();
}

void ReviewDocument::restyle(coaching::StyleBook styles) {
  session_.restyle(std::move(styles));
  judged();
}

void ReviewDocument::setOthers(std::vector<coaching::OtherFilm> others) {
  session_.setOthers(std::move(others));
  judged();
}

// The choice first: whoever shows the analysis also shows what is said of it.
void ReviewDocument::judged() {
  if (!session_.analysis()) return;
  if (session_.choice() != told_choice_) tellChoice();
  emit analysisChanged();
}

void ReviewDocument::sayAgain() {
  emit setUpChanged();
  if (session_.analysis()) emit analysisChanged();
  tellChoice();
}

template <class Value>
Value ReviewDocument::exchange(Value to) {
  Value old = session_.exchange(std::move(to));
  tell(old);
  return old;
}
template PinValues ReviewDocument::exchange(PinValues);
template CueChoice ReviewDocument::exchange(CueChoice);
template SetUp ReviewDocument::exchange(SetUp);
template coaching::Marks ReviewDocument::exchange(coaching::Marks);
template coaching::Sketch ReviewDocument::exchange(coaching::Sketch);
template review::Rejected ReviewDocument::exchange(review::Rejected);
template std::optional<motion::HeldReps> ReviewDocument::exchange(std::optional<motion::HeldReps>);
template coaching::Bookmarks ReviewDocument::exchange(coaching::Bookmarks);
template Approach ReviewDocument::exchange(Approach);

void ReviewDocument::tell(const PinValues&) {
  emit pinsChanged();
  judged();
  emit edited();
}

void ReviewDocument::tell(const CueChoice&) {
  tellChoice();
  emit edited();
}

void ReviewDocument::tellChoice() {
  told_choice_ = session_.choice();
  emit choiceChanged();
}

void ReviewDocument::tell(const SetUp&) {
  emit setUpChanged();
  judged();
  emit edited();
}

void ReviewDocument::tell(const coaching::Marks&) {
  judged();
  emit edited();
}

void ReviewDocument::tell(const review::Rejected&) {
  judged();
  emit edited();
}

void ReviewDocument::tell(const std::optional<motion::HeldReps>&) {
  judged();
  emit edited();
}

void ReviewDocument::tell(const coaching::Sketch&) {
  emit sketchChanged();
  emit edited();
}

void ReviewDocument::tell(const coaching::Bookmarks&) {
  emit bookmarksChanged();
  emit edited();
}

void ReviewDocument::tell(const Approach&) {
  judged();
  emit approachChanged();
}

void ReviewDocument::setLooked(bool looked) {
  if (looked == session_.looked()) return;
  session_.setLooked(looked);
  emit edited();
}

void ReviewDocument::setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed) {
  if (!session_.setFollowed(drawn, followed)) return;
  emit sketchChanged();
  emit edited();
}

}  // namespace jib::desk
