// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/session.h"

#include <algorithm>
#include <cmath>

#include "core/coaching/cue_numbers.h"
#include "core/coaching/strain.h"
#include "core/exchange/intake/prepare.h"

namespace jib::review {
namespace {

constexpr double kSameFrame_s = 1e-4;

bool complete(const tracing::PlacedFrame& p) {
  return std::all_of(tracing::kPlacedLandmarks.begin(), tracing::kPlacedLandmarks.end(),
                     [&](tracing::Landmark l) { return p.points[tracing::at(l)].has_value(); });
}

}  // namespace

Session::Session(library::Athlete athlete, library::Submission submission, library::Review review,
                 coaching::Style style, coaching::CueBook book)
    : athlete_(std::move(athlete)),
      submission_(std::move(submission)),
      style_(std::move(style)),
      book_(std::move(book)),
      placed_(std::move(review.placed)),
      marks_(std::move(review.marks)),
      sketch_(std::move(review.sketch)),
      rejected_(std::move(review.rejected)),
      held_(std::move(review.held)),
      bookmarks_(std::move(review.bookmarks)),
      looked_(review.looked),
      choice_{std::move(review.cues),    review.change_nothing,  std::move(review.greeting),
              std::move(review.closing), review.all_numbers,     review.cues_chosen,
              std::move(review.praise),  std::move(review.pain), std::move(review.week)} {
  speakOfVariant();
}

void Session::speakOfVariant() {
  book_as_ = book_.as(lift(), submission_.variant);
}

std::optional<PixelPoint> Session::pin(const PinKey& key) const {
  for (const auto& p : placed_)
    if (std::abs(p.t_s - key.t_s) < kSameFrame_s) return p.at(key.point);
  return std::nullopt;
}

bool Session::bodyCanBeTraced() const {
  const bool known = analysis_ && analysis_->trace.body && analysis_->trace.body->knowsPlacedFrame();
  return analysis_ && !known && std::any_of(placed_.begin(), placed_.end(), complete);
}

const lifts::LiftDefinition& Session::lift() const {
  return lifts::definition(exchange::liftIdOf(submission_));
}

SetUp Session::setUp() const {
  return {submission_.variant,           submission_.load_kg,          submission_.plate_mm,
          submission_.slow_factor,       submission_.details.top_set,  submission_.details.set_loads_kg,
          submission_.details.overruled, submission_.details.roll_deg, submission_.details.left_out};
}

coaching::AnalysisRequest Session::request() const {
  auto request = exchange::requestFor(submission_, review(), athlete_.profile);
  request.sides_before = sides_before_;
  return request;
}

library::Review Session::review() const {
  library::Review r;
  r.placed = placed_;
  r.marks = marks_;
  r.sketch = sketch_;
  r.rejected = rejected_;
  r.held = held_;
  r.cues = choice_.cues;
  r.change_nothing = choice_.change_nothing;
  r.all_numbers = choice_.all_numbers;
  r.praise = choice_.praise;
  r.pain = choice_.pain;
  r.week = choice_.week;
  r.greeting = choice_.greeting;
  r.closing = choice_.closing;
  r.cues_chosen = choice_.chosen;
  r.bookmarks = bookmarks_;
  r.looked = looked_;
  return r;
}

void Session::setStyles(coaching::StyleBook styles, coaching::Switches of_coach) {
  styles_ = std::move(styles);
  coach_sides_ = std::move(of_coach);
}

void Session::restyle(coaching::StyleBook styles) {
  styles_ = std::move(styles);
  exchange(approach());
}

coaching::Switches Session::usualSides() const {
  coaching::Switches usual;
  for (const auto& s : styles_.styles())
    if (s.id == athlete_.style) usual = s.switches;
  for (const auto& [topic, choice] : coach_sides_) usual[topic] = choice;
  return usual;
}

void Session::learn(const library::Submission& s) {
  submission_.lift = s.lift;
  submission_.variant = s.variant;
  speakOfVariant();
  submission_.details.lift_by = s.details.lift_by;
  submission_.details.variant_by = s.details.variant_by;
  submission_.state = s.state;
  submission_.reason = s.reason;
}

std::vector<std::string> Session::praise() const {
  if (choice_.praise) return *choice_.praise;
  return analysis_ ? coaching::praiseToSay(analysis_->proposal) : std::vector<std::string>{};
}

motion::HeldReps Session::heldReps() const {
  if (held_) return *held_;
  if (!analysis_) return {};
  motion::HeldReps held = motion::heldFrom(analysis_->found);
  for (const motion::Rep& miss : analysis_->misses) held.push_back({miss, false, false});
  std::sort(held.begin(), held.end(), [](const auto& a, const auto& b) { return a.rep.start_t() < b.rep.start_t(); });
  return held;
}

void Session::adopt(coaching::Analysis traced) {
  judge(std::make_shared<coaching::Analysis>(std::move(traced)));
}

void Session::take(coaching::Analysis judged) {
  ++revision_;
  analysis_ = std::make_shared<const coaching::Analysis>(std::move(judged));
  followAnalysis();
}

void Session::judgeAgain() {
  if (analysis_) judge(std::make_shared<coaching::Analysis>(*analysis_));
}

void Session::judge(std::shared_ptr<coaching::Analysis> analysis) {
  ++revision_;
  analysis->others = others_;
  coaching::judgeAnew(*analysis, request(), style_, book_);
  analysis_ = std::move(analysis);
  followAnalysis();
}

// What is said follows what is measured: the proposal as long as the coach has not touched it, and the numbers of what
// was chosen always.
void Session::followAnalysis() {
  if (!analysis_) return;
  if (!choice_.chosen) {
    choice_.cues = care_.any() ? std::vector<coaching::Cue>{} : analysis_->proposal.cues;
    choice_.change_nothing = analysis_->proposal.change_nothing && !care_.any();
  }
  choice_.cues = coaching::lookedUp(std::move(choice_.cues), *analysis_, book_);
}

void Session::setCare(exchange::Care care) {
  care_ = std::move(care);
  ++revision_;
  followAnalysis();
}

coaching::Cue Session::offered(const coaching::Finding& finding, const coaching::CueEntry& entry) const {
  coaching::Cue cue = coaching::cueFor(finding, entry, style_);
  return care_.any() ? coaching::gentled(std::move(cue), entry) : cue;
}

void Session::setOthers(std::vector<coaching::OtherFilm> others) {
  others_ = std::move(others);
  judgeAgain();
}

PinValues Session::exchange(const PinValues& to) {
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
  ++revision_;
  judgeAgain();
  return old;
}

SetUp Session::exchange(SetUp to) {
  SetUp old = setUp();
  submission_.variant = std::move(to.variant);
  speakOfVariant();
  if (submission_.load_kg != to.load_kg) submission_.details.load_said.clear();  // the coach has said it, with its unit
  submission_.load_kg = to.load_kg;
  submission_.plate_mm = to.plate_mm;
  submission_.slow_factor = to.slow_factor;
  submission_.details.top_set = to.set;
  submission_.details.set_loads_kg = std::move(to.set_loads_kg);
  submission_.details.overruled = std::move(to.overruled);
  submission_.details.roll_deg = to.roll_deg;
  submission_.details.left_out = std::move(to.left_out);
  ++revision_;
  judgeAgain();
  return old;
}

CueChoice Session::exchange(CueChoice to) {
  CueChoice old = std::exchange(choice_, std::move(to));
  ++revision_;
  followAnalysis();
  return old;
}

coaching::Marks Session::exchange(coaching::Marks to) {
  coaching::Marks old = std::exchange(marks_, std::move(to));
  ++revision_;
  judgeAgain();
  return old;
}

Rejected Session::exchange(Rejected to) {
  Rejected old = std::exchange(rejected_, std::move(to));
  ++revision_;
  judgeAgain();
  return old;
}

std::optional<motion::HeldReps> Session::exchange(std::optional<motion::HeldReps> to) {
  auto old = std::exchange(held_, std::move(to));
  ++revision_;
  judgeAgain();
  return old;
}

coaching::Sketch Session::exchange(coaching::Sketch to) {
  ++revision_;
  return std::exchange(sketch_, std::move(to));
}

coaching::Bookmarks Session::exchange(coaching::Bookmarks to) {
  ++revision_;
  return std::exchange(bookmarks_, std::move(to));
}

Approach Session::exchange(Approach to) {
  Approach old = approach();
  athlete_.style = std::move(to.style);
  athlete_.profile.switches = std::move(to.sides);
  coaching::Switches sides = coach_sides_;
  for (const auto& [topic, choice] : athlete_.profile.switches) sides[topic] = choice;
  if (auto style = styles_.style(athlete_.style, sides)) style_ = std::move(*style);
  ++revision_;
  judgeAgain();
  return old;
}

void Session::setLooked(bool looked) {
  revision_ += looked != looked_ ? 1 : 0;
  looked_ = looked;
}

bool Session::setFollowed(const coaching::Shape& drawn, const coaching::Shape& followed) {
  const auto at = std::find(sketch_.shapes.begin(), sketch_.shapes.end(), drawn);
  if (at == sketch_.shapes.end()) return false;
  *at = followed;
  ++revision_;
  return true;
}

}  // namespace jib::review
