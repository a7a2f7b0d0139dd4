// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/review_document.h"

#include <algorithm>
#include <cmath>

#include "core/exchange/intake/prepare.h"

namespace jib::desk {
namespace {

constexpr double kSameFrame_s = 1e-4;

bool complete(const tracing::PlacedFrame& p) {
  return std::all_of(tracing::kPlacedLandmarks.begin(), tracing::kPlacedLandmarks.end(),
                     [&](tracing::Landmark l) { return p.points[tracing::at(l)].has_value(); });
}

}  // namespace

ReviewDocument::ReviewDocument(library::Athlete athlete, library::Submission submission, library::Review review,
                               std::filesystem::path clip, coaching::Style style, coaching::CueBook book,
                               QObject* parent)
    : QObject(parent),
      athlete_(std::move(athlete)),
      submission_(std::move(submission)),
      clip_(std::move(clip)),
      style_(std::move(style)),
      book_(std::move(book)),
      placed_(std::move(review.placed)),
      marks_(std::move(review.marks)),
      sketch_(std::move(review.sketch)),
      rejected_(std::move(review.rejected)),
      held_(std::move(review.held)),
      bookmarks_(std::move(review.bookmarks)),
      looked_(review.looked),
      choice_{std::move(review.cues), review.change_nothing, QString::fromStdString(review.greeting),
              QString::fromStdString(review.closing), review.all_numbers},
      chosen_(review.cues_chosen) {}

std::optional<PixelPoint> ReviewDocument::pin(const PinKey& key) const {
  for (const auto& p : placed_)
    if (std::abs(p.t_s - key.t_s) < kSameFrame_s) return p.at(key.point);
  return std::nullopt;
}

bool ReviewDocument::bodyCanBeTraced() const {
  const bool known = analysis_ && analysis_->trace.body && analysis_->trace.body->knowsPlacedFrame();
  return analysis_ && !known && std::any_of(placed_.begin(), placed_.end(), complete);
}

const lifts::LiftDefinition& ReviewDocument::lift() const {
  return lifts::definition(exchange::liftIdOf(submission_));
}

SetUp ReviewDocument::setUp() const {
  return {submission_.variant,           submission_.load_kg,          submission_.plate_mm,
          submission_.slow_factor,       submission_.details.top_set,  submission_.details.set_loads_kg,
          submission_.details.overruled, submission_.details.roll_deg, submission_.details.left_out};
}

coaching::AnalysisRequest ReviewDocument::request() const {
  auto request = exchange::requestFor(submission_, review(), athlete_.profile);
  request.sides_before = sides_before_;
  return request;
}

library::Review ReviewDocument::review() const {
  library::Review r;
  r.placed = placed_;
  r.marks = marks_;
  r.sketch = sketch_;
  r.rejected = rejected_;
  r.held = held_;
  r.cues = choice_.cues;
  r.change_nothing = choice_.change_nothing;
  r.all_numbers = choice_.all_numbers;
  r.greeting = choice_.greeting.toStdString();
  r.closing = choice_.closing.toStdString();
  r.cues_chosen = chosen_;
  r.bookmarks = bookmarks_;
  r.looked = looked_;
  return r;
}

void ReviewDocument::setAnalysis(coaching::Analysis analysis) {
  if (!others_.empty()) {
    analysis.others = others_;
    coaching::judgeAgain(analysis, style_, book_);
  }
  analysis_ = std::make_shared<const coaching::Analysis>(std::move(analysis));
  takeProposal();
  emit analysisChanged();
}

void ReviewDocument::setStyles(coaching::StyleBook styles, coaching::Switches of_coach) {
  styles_ = std::move(styles);
  coach_sides_ = std::move(of_coach);
}

coaching::Switches ReviewDocument::usualSides() const {
  coaching::Switches usual;
  for (const auto& s : styles_.styles())
    if (s.id == athlete_.style) usual = s.switches;
  for (const auto& [topic, choice] : coach_sides_) usual[topic] = choice;
  return usual;
}

void ReviewDocument::setState(library::SubmissionState state) {
  if (submission_.state == state) return;
  submission_.state = state;
  emit stateChanged();
}

void ReviewDocument::learn(const library::Submission& s) {
  submission_.lift = s.lift;
  submission_.variant = s.variant;
  submission_.details.lift_by = s.details.lift_by;
  submission_.details.variant_by = s.details.variant_by;
  submission_.state = s.state;
  submission_.reason = s.reason;
}

void ReviewDocument::sayAgain() {
  emit setUpChanged();
  if (analysis_) emit analysisChanged();
  emit choiceChanged();
}

void ReviewDocument::setOthers(std::vector<coaching::OtherFilm> others) {
  others_ = std::move(others);
  judgeAgain();
}

void ReviewDocument::takeProposal() {
  if (chosen_ || !analysis_) return;
  CueChoice proposed{analysis_->proposal.cues, analysis_->proposal.change_nothing, choice_.greeting, choice_.closing,
                     choice_.all_numbers};
  if (proposed == choice_) return;
  choice_ = std::move(proposed);
  emit choiceChanged();
}

void ReviewDocument::judgeAgain() {
  if (!analysis_) return;
  auto again = std::make_shared<coaching::Analysis>(*analysis_);
  again->request = request();
  again->others = others_;
  if (again->isTraced()) tracing::solveAgain(again->trace, again->request.trace, again->clip.width, again->clip.height);
  coaching::judgeAgain(*again, style_, book_);
  analysis_ = std::move(again);
  takeProposal();
  emit analysisChanged();
}

PinValues ReviewDocument::exchangePins(const PinValues& to) {
  const auto all = tracing::allPointNames();
  PinValues old;
  for (const auto& [key, place] : to) {
    auto frame = std::find_if(placed_.begin(), placed_.end(),
                              [&, t_s = key.t_s](const auto& p) { return std::abs(p.t_s - t_s) < kSameFrame_s; });
    if (frame == placed_.end()) {
      placed_.push_back({key.t_s, {}, {}});
      frame = placed_.end() - 1;
    }
    old.emplace_back(key, std::exchange(frame->at(key.point), place));
    if (std::none_of(all.begin(), all.end(), [&](const auto& name) { return frame->at(name).has_value(); }))
      placed_.erase(frame);
  }
  emit pinsChanged();
  judgeAgain();
  emit edited();
  return old;
}

SetUp ReviewDocument::exchangeSetUp(SetUp to) {
  SetUp old = setUp();
  submission_.variant = std::move(to.variant);
  submission_.load_kg = to.load_kg;
  submission_.plate_mm = to.plate_mm;
  submission_.slow_factor = to.slow_factor;
  submission_.details.top_set = to.set;
  submission_.details.set_loads_kg = std::move(to.set_loads_kg);
  submission_.details.overruled = std::move(to.overruled);
  submission_.details.roll_deg = to.roll_deg;
  submission_.details.left_out = std::move(to.left_out);
  emit setUpChanged();
  judgeAgain();
  emit edited();
  return old;
}

coaching::Marks ReviewDocument::exchangeMarks(coaching::Marks to) {
  coaching::Marks old = std::exchange(marks_, std::move(to));
  judgeAgain();
  emit edited();
  return old;
}

coaching::Sketch ReviewDocument::exchangeSketch(coaching::Sketch to) {
  coaching::Sketch old = std::exchange(sketch_, std::move(to));
  emit sketchChanged();
  emit edited();
  return old;
}

std::map<std::string, std::string, std::less<>> ReviewDocument::exchangeRejected(
    std::map<std::string, std::string, std::less<>> to) {
  auto old = std::exchange(rejected_, std::move(to));
  judgeAgain();
  emit edited();
  return old;
}

std::optional<motion::HeldReps> ReviewDocument::exchangeReps(std::optional<motion::HeldReps> to) {
  auto old = std::exchange(held_, std::move(to));
  judgeAgain();
  emit edited();
  return old;
}

coaching::Bookmarks ReviewDocument::exchangeBookmarks(coaching::Bookmarks to) {
  auto old = std::exchange(bookmarks_, std::move(to));
  emit bookmarksChanged();
  emit edited();
  return old;
}

void ReviewDocument::setLooked(bool looked) {
  if (looked == looked_) return;
  looked_ = looked;
  emit lookedChanged();
  emit edited();
}

motion::HeldReps ReviewDocument::heldReps() const {
  if (held_) return *held_;
  if (!analysis_) return {};
  motion::HeldReps held = motion::heldFrom(analysis_->found);
  for (const motion::Rep& miss : analysis_->misses) held.push_back({miss, false, false});
  std::sort(held.begin(), held.end(), [](const auto& a, const auto& b) { return a.rep.start_t() < b.rep.start_t(); });
  return held;
}

void ReviewDocument::setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed) {
  const auto at = std::find(sketch_.shapes.begin(), sketch_.shapes.end(), drawn);
  if (at == sketch_.shapes.end()) return;
  *at = followed;
  emit sketchChanged();
  emit edited();
}

Approach ReviewDocument::exchangeApproach(Approach to) {
  Approach old = approach();
  athlete_.style = std::move(to.style);
  athlete_.profile.switches = std::move(to.sides);
  coaching::Switches sides = coach_sides_;
  for (const auto& [topic, choice] : athlete_.profile.switches) sides[topic] = choice;
  if (auto style = styles_.style(athlete_.style, sides)) style_ = std::move(*style);
  judgeAgain();
  emit approachChanged();
  return old;
}

CueChoice ReviewDocument::exchangeChoice(CueChoice to) {
  CueChoice old = std::exchange(choice_, std::move(to));
  chosen_ = true;
  emit choiceChanged();
  emit edited();
  return old;
}

}  // namespace jib::desk
