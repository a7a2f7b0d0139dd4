// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/analysis.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/coaching/film_lack.h"
#include "core/coaching/two_films.h"
#include "core/lifts/impossible.h"
#include "core/lifts/view_assessor.h"
#include "core/motion/bar_on_floor.h"
#include "core/tracing/front/facing_across.h"

namespace jib::coaching {
namespace {

// Where a lift was lost, and in what position: what tells a miss of position from one of strength.
std::string missText(const Analysis& a, const motion::Rep& miss) {
  std::string text = fmt::format("A rep was missed at {:.1f} s: the bar came up {:.0f} % of the way", miss.lockout_t(),
                                 100 * miss.risen);
  if (const double s = a.motion.real_s(miss.ascent_t(), miss.lockout_t()); s > 0)
    text += fmt::format(" in {:.1f} s", s);
  const auto hip = a.motion.placeAt(tracing::Landmark::Hip, miss.lockout_t());
  const auto shoulder = a.motion.placeAt(tracing::Landmark::Shoulder, miss.lockout_t());
  if (hip && shoulder) text += fmt::format(", with the torso at {:.0f} degrees", lean_deg(*hip, *shoulder));
  const auto& knee =
      a.motion.angles.empty() ? std::nullopt : a.motion.angles[a.motion.frameAt(miss.lockout_t())].knee_deg;
  if (knee && hip && !lifts::definition(a.request.lift).body.lying)
    text += fmt::format(" and the knees at {:.0f} degrees", *knee);
  return text + ". It is not among the reps that were measured.";
}

// How far the bar sinks again between its first motion up and lockout.
double sinksOnTheWayUp_m(const motion::Motion& m, const motion::Rep& rep) {
  const auto& bar = m.path(tracing::Landmark::Bar).at;
  double highest = -1e9, most = 0;
  for (std::size_t i = m.frameAt(rep.ascent_t()); i <= m.frameAt(rep.lockout_t()); ++i) {
    if (!bar[i]) continue;
    highest = std::max(highest, bar[i]->z);
    most = std::max(most, highest - bar[i]->z);
  }
  return most;
}

// A rep that got stuck and was finished with a spotter's help looks like a slow one to whoever follows the bar: the
// coach is asked. One they said it of is not among the reps any more.
std::optional<Notice> spotterAsked(const Analysis& a, std::size_t rep) {
  constexpr double kSurely_m = 0.02;
  const motion::Rep& r = a.reps[rep];
  if (lifts::definition(a.request.lift).pattern != motion::RepPattern::DownFirst) return std::nullopt;
  const double sinks_m = sinksOnTheWayUp_m(a.motion, r);
  if (sinks_m < kSurely_m) return std::nullopt;
  const auto shown = lifts::shown(*lifts::measureDefinition("dip_m"), {sinks_m, 0, r.lockout_t()});
  return Notice{"sinks_on_the_way_up",
                fmt::format("The bar sinks by {:.0f} {} in the middle of rep {}'s way up. If a spotter took it there, "
                            "right-click the rep on the time line and say so: it's then out of the numbers.",
                            shown.value, shown.unit, rep + 1)};
}

Notice shotsFound(const footage::Upright& upright) {
  const footage::Shot* shown = upright.shownShot();
  const std::string of = upright.shots.size() == 1 ? "Part of the clip is a card or a cut. "
                                                   : fmt::format("The clip has {} shots. ", upright.shots.size());
  const std::string to_change = " View, Fix the picture, has the others.";
  if (!shown) return {"several_shots", of + "Nothing measured across a cut holds: pick one." + to_change};
  return {"several_shots",
          of + fmt::format("Measured here: {:.1f} s to {:.1f} s.", shown->from_s, shown->to_s) + to_change};
}

// What any view may have to say of the clip and its reps.
std::vector<Notice> noticesOfAnyView(const Analysis& a, const Style& style) {
  std::vector<Notice> notices;
  if (!a.trace.trace.camera_moves.empty())
    notices.push_back({"camera_moves",
                       "The camera was handheld. Its motion is taken out, but side-to-side numbers are less "
                       "certain. Ask them to use a tripod."});
  if (a.request.trace.camera.told_roll_rad)
    notices.push_back({"vertical_told", "Vertical was set by hand; tilt and torso angle are measured from it."});
  if (!a.clip.upright.shots.empty()) notices.push_back(shotsFound(a.clip.upright));
  if (a.clip.variable_rate)
    notices.push_back({"variable_rate", "The frame rate varies; times come from each frame's time stamp."});
  for (const OtherFilm& film : a.others)
    if (!film.joined.empty())
      notices.push_back(
          {"two_films", fmt::format("From the clip {}: {}.", filmedFrom(*film.analysis),
                                    film.analysis->trace.front ? lifts::definition(a.request.lift).across_shows
                                                               : lifts::definition(a.request.lift).side_shows)});
  if (a.set)
    notices.push_back(
        {"one_of_sets", fmt::format("The clip holds {} sets. This is set {}, {:.0f} s to {:.0f} s.", a.sets.size(),
                                    *a.set + 1, a.sets[*a.set].from_s, a.sets[*a.set].to_s)});
  for (const auto& [claim, day] : a.request.overruled)
    notices.push_back({"overruled", fmt::format("{} is judged although this angle doesn't really show it: the coach's "
                                                "call of {}. The ± doesn't cover what the angle hides.",
                                                titleOfClaim(a.request.lift, claim), day)});
  for (const motion::Rep& miss : a.misses)
    notices.push_back({"missed", missText(a, miss) + (style.miss.empty() ? "" : " " + style.miss)});
  if (a.request.held)
    for (const motion::HeldRep& h : *a.request.held)
      if (h.spotted && !h.left_out)
        notices.push_back(
            {"spotted", fmt::format("A spotter touched the bar at {:.1f} s, so that rep is out of the numbers.",
                                    h.rep.bottom_t())});
  for (std::size_t i = 0; i < a.reps.size(); ++i)
    if (auto asked = spotterAsked(a, i)) notices.push_back(std::move(*asked));
  if (a.reps.size() == 1) notices.push_back({"single", "One rep can show a fault, not consistency."});
  std::size_t missing = 0;
  for (const auto& p : a.trace.bar->plate) missing += p ? 0 : 1;
  if (missing * 20 > a.trace.bar->plate.size())
    notices.push_back({"gaps", "The bar is hidden for part of the clip; numbers from there are left out."});
  return notices;
}

// What limits a view in which both sides are seen.
std::vector<Notice> noticesAcross(const Analysis& a, const Style& style) {
  const tracing::FrontTrace& front = *a.trace.front;
  const lifts::LiftDefinition& lift = lifts::definition(a.request.lift);
  std::vector<Notice> notices{{"across", fmt::format("Filmed {}. Judged from here: {}. For {} a side view is needed.",
                                                     filmedFrom(a), lift.across_shows, lift.side_shows)}};
  if (!front.scale_from_plate)
    notices.push_back(
        {"scale_from_body",
         fmt::format("No plate to scale by: lengths come from typical proportions, give or take {:.0f} %. "
                     "Ratios and angles don't depend on it.",
                     100 * front.scale_sigma_rel)});
  if (std::none_of(front.frames.begin(), front.frames.end(), [](const tracing::FrontPoints& f) {
        return f.at(tracing::BodySide::Left, tracing::Landmark::Bar).has_value();
      }))
    notices.push_back({"bar_ends_unseen", "The bar ends can't be made out: check for an uneven bar yourself."});
  for (Notice& n : noticesOfAnyView(a, style)) notices.push_back(std::move(n));
  return notices;
}

std::vector<Notice> noticesOf(const Analysis& a, const Style& style) {
  if (a.trace.front) return noticesAcross(a, style);
  std::vector<Notice> notices;
  const auto& k = a.motion.calibration;
  if (!a.trace.body)
    notices.push_back({"body_not_placed",
                       "Only the bar is tracked. Place toe, heel, ankle, knee, hip and shoulder "
                       "once on a still frame."});
  if (!a.trace.sightings_trouble.empty()) notices.push_back({"network_missing", a.trace.sightings_trouble});
  if (a.trace.body && !a.trace.body->knowsPlacedFrame())
    notices.push_back({"points_proposed",
                       "The points were found automatically, give or take a few cm. Placing them once on a still "
                       "frame makes every number more accurate."});
  if (a.trace.body && !a.trace.body->feet_seen)
    notices.push_back({"feet_cut",
                       "The feet are cut off by the edge of the picture: mid-foot, shin and heel can't be judged. Ask "
                       "for a clip that shows the whole shoe."});
  for (lifts::Impossible& found : lifts::impossibleIn(lifts::definition(a.request.lift), a.motion, a.reps))
    notices.push_back({std::move(found.id), std::move(found.text)});
  if (!k.forward_known && !a.trace.body)
    notices.push_back({"facing_unknown", "Can't tell which way the lifter faces; forward and back are left out."});
  if (const auto& lift = lifts::definition(a.request.lift); lifts::heightsFrom(k).can != lifts::Can::Yes)
    notices.push_back(
        {"camera_height",
         fmt::format(
             "{} {} {}. Ask for the phone at {}.",
             told(k.look_down_deg > 0 ? FilmLack::CameraHigh : FilmLack::CameraLow, Reader::Coach,
                  std::abs(k.look_down_deg)),
             lift.draws(lifts::Drawing::Depth) ? "Depth" : "Anything closer to or farther from the camera than the bar",
             lifts::heightsFrom(k).can == lifts::Can::No ? "can't be judged" : "is uncertain",
             lift.draws(lifts::Drawing::Depth) ? "hip height" : lift.lens.substr(lift.lens.find(' ') + 1))});
  if (!lifts::isSquare(k, a.trace.camera.yaw_rad))
    notices.push_back({"oblique",
                       "The camera is well off the side; angles and distances are uncertain. Ask "
                       "for a clip straight from the side."});
  if (a.trace.bar->depth_ratio <= 0 && !a.trace.turn.far_plate)
    notices.push_back({"bar_end_unseen",
                       "Couldn't see the bar end, so the camera angle is a guess: "
                       "bar over mid-foot is less certain."});
  for (Notice& n : noticesOfAnyView(a, style)) notices.push_back(std::move(n));
  return notices;
}

// A rep that reaches into a part in which nothing is measured is not whole.
bool reachesInto(const tracing::LeftOuts& parts, const motion::Rep& rep) {
  constexpr double kEdge_s = 0.15;  // parts are marked by hand
  return std::any_of(parts.begin(), parts.end(), [&](const tracing::LeftOut& part) {
    return rep.start_t() < part.to_s - kEdge_s && rep.end_t() > part.from_s + kEdge_s;
  });
}
void dropLeftOut(std::vector<motion::Rep>& reps, const tracing::LeftOuts& parts) {
  std::erase_if(reps, [&](const motion::Rep& rep) { return reachesInto(parts, rep); });
}

// The reps of the set that was asked for, or all.
std::vector<motion::Rep> chosenReps(Analysis& a) {
  auto reps =
      a.isTraced() ? motion::findReps(a.motion, lifts::definition(a.request.lift).pattern) : std::vector<motion::Rep>{};
  dropLeftOut(reps, a.request.trace.left_out);
  a.found = reps;
  std::vector<std::optional<bool>> sets_told;
  if (a.request.held) {
    motion::HeldReps held = *a.request.held;
    for (motion::HeldRep& h : held) h.left_out = h.left_out || reachesInto(a.request.trace.left_out, h.rep);
    reps = motion::judged(held);
    sets_told = motion::setsTold(held);
  }
  a.sets = motion::cutSets(reps, a.request.slow_factor, sets_told);
  a.set.reset();
  if (!a.request.one_set || a.sets.size() < 2) return reps;
  const SetChoice& choice = *a.request.one_set;
  const bool named = choice.index && *choice.index >= 0 && static_cast<std::size_t>(*choice.index) < a.sets.size();
  a.set = named ? static_cast<std::size_t>(*choice.index) : motion::topSet(a.sets, choice.loads_kg);
  const auto& span = a.sets[*a.set];
  const auto first = reps.begin() + static_cast<std::ptrdiff_t>(span.first);
  return {first, first + static_cast<std::ptrdiff_t>(span.count)};
}

// Those that were found, or those the coach holds to be misses.
std::vector<motion::Rep> missesOf(const Analysis& a) {
  std::vector<motion::Rep> misses;
  if (!a.request.held && a.isTraced()) misses = motion::findMisses(a.motion, lifts::definition(a.request.lift).pattern);
  if (!a.request.held) {
    dropLeftOut(misses, a.request.trace.left_out);
    return misses;
  }
  for (const motion::HeldRep& h : *a.request.held)
    if (!h.left_out && h.rep.type == motion::RepType::Miss) misses.push_back(h.rep);
  return misses;
}

// What keeps the set from being called good. Silence of checks that were not made is no clean bill.
std::string noPraise(const Analysis& a, const CueBook& book) {
  if (!a.isTraced()) return "Nothing was tracked in this clip: check it by eye.";
  if (!a.trace.body && !a.trace.front)
    return "No joints were tracked: most checks were not made. Place the points (P), or check by eye.";
  if (a.request.lift_guessed)
    return fmt::format("Nobody has said which lift this is; it looks like a {}. Confirm it first.",
                       lifts::definition(a.request.lift).title);
  for (const NotSeen& n : a.not_seen)
    if (n.asked)
      return fmt::format("They asked about “{}”, and this clip doesn't show it. Look at {:.1f} s yourself. {}",
                         book.titleOf(n.finding), n.t_s, n.why);
  return {};
}

SetContext contextOf(const Analysis& a, const Style& style, const CueBook& book) {
  SetContext set;
  set.reps = a.reps.size();
  set.share_of_best = a.request.share_of_best;
  set.lift = a.request.lift;
  set.wait = leftRightThatWaits(a.findings, a.measures, a.request.sides_before, style);
  set.asked = a.asked;
  for (const NotSeen& n : a.not_seen) {
    const std::string title = book.titleOf(n.finding);
    if (std::find(set.not_seen.begin(), set.not_seen.end(), title) == set.not_seen.end()) set.not_seen.push_back(title);
  }
  set.no_praise = noPraise(a, book);
  return set;
}

}  // namespace

std::string_view viewName(const Analysis& a) {
  if (a.trace.front) return tracing::nameOf(a.trace.front->facing);
  if (a.trace.oblique) return "oblique";
  if (!a.trace.forward) return "unknown";
  // The athlete's left side faces the camera when the toes point to the left edge of the picture.
  return *a.trace.forward < 0 ? "left" : "right";
}

lifts::FilmedAs filmedAs(const Analysis& a) {
  lifts::FilmedAs as;
  as.lift = lifts::definition(a.request.lift).name;
  as.variant = a.request.variant;
  if (!a.isTraced()) return as;
  as.view = viewName(a) == "unknown" ? "" : viewName(a);
  as.scale = a.trace.front && !a.trace.front->scale_from_plate ? "body" : "rim";
  if (!a.trace.front && a.trace.forward) {
    as.turned_deg = -*a.trace.forward * degrees(a.trace.camera.yaw_rad);
    as.look_down_deg = a.motion.calibration.look_down_deg;
  }
  return as;
}

std::string titleOfClaim(lifts::LiftId lift, std::string_view id) {
  for (const lifts::ClaimRow& claim : lifts::definition(lift).claims)
    if (claim.id == id) return std::string(claim.title);
  return std::string(id);
}

std::optional<double> bodyMissingAt(const Analysis& a) {
  if (!a.set || a.reps.empty() || !a.request.trace.parts.network || a.trace.front) return std::nullopt;
  const auto& body = a.trace.body;
  // A body that was placed in another set is the coach's to place here as well.
  if (body && body->source == tracing::BodySource::Placed) return std::nullopt;
  const std::size_t bottom = a.motion.frameAt(a.reps.front().bottom_t());
  if (body && bottom < body->poses.size() && body->poses[bottom]) return std::nullopt;
  return a.reps.front().bottom_t();
}

std::string noRepText(lifts::LiftId lift) {
  const lifts::LiftDefinition& d = lifts::definition(lift);
  return fmt::format("The bar was followed, but it never {} like a {}.", d.way, d.title);
}

void judgeAnew(Analysis& a, AnalysisRequest request, const Style& style, const CueBook& book) {
  a.request = std::move(request);
  if (a.isTraced()) tracing::solveAgain(a.trace, a.request.trace, a.clip.width, a.clip.height);
  judgeAgain(a, style, book);
}

void judgeAgain(Analysis& a, const Style& style, const CueBook& whole_book) {
  const CueBook book = whole_book.as(lifts::definition(a.request.lift), a.request.variant);
  if (a.isTraced()) a.motion = motion::motionOf(a.trace, a.request.slow_factor);
  for (const auto& [claim, day] : a.request.overruled) a.motion.calibration.accepted.push_back(claim);
  a.reps = chosenReps(a);
  const lifts::LiftDefinition& lift = lifts::definition(a.request.lift);
  if (lift.pattern == motion::RepPattern::UpFirst) motion::holdAgainstFloor(a.motion, a.reps);
  a.measures = a.isTraced() ? lifts::measureSet(lift, a.motion, a.reps) : lifts::SetMeasures{};
  joinOthers(a);
  a.misses = missesOf(a);
  a.findings = judge(a.measures, style, lift, a.request.variant);
  // What the coach has looked at is as the coach saw it, whatever was measured.
  std::erase_if(a.findings, [&](const Finding& f) { return settledByEye(a.request.marks, f.id); });
  for (Finding& f : findingsFrom(a.request.marks)) {
    // Marked without a moment, as older reviews did.
    if (f.worst.t_s == 0 && !a.reps.empty()) f.worst.t_s = a.reps.front().bottom_t();
    a.findings.push_back(std::move(f));
  }
  a.rejected.clear();
  for (const Finding& f : a.findings)
    if (a.request.rejected.contains(f.id)) a.rejected.push_back(f);
  std::erase_if(a.findings, [&](const Finding& f) { return a.request.rejected.contains(f.id); });
  for (Finding& f : a.findings)
    if (const CueEntry* e = book.entry(f.id)) {
      f.causes = e->causes;
      f.rivals = weigh(e->rivals, a.measures,
                       [&](std::string_view cause) { return causeHelped(a.request.marks, f.id, cause); });
    }
  a.asked = askedAbout(a.request.message, a.request.lift, book);
  a.not_seen = a.isTraced() && !a.reps.empty() ? notSeen(a.measures, a.reps, style, lift, a.request.variant, a.asked)
                                               : std::vector<NotSeen>{};
  std::erase_if(a.not_seen, [&](const NotSeen& n) { return settledByEye(a.request.marks, n.finding); });
  a.proposal = propose(a.findings, contextOf(a, style, book), book, style);
  a.style_id = style.id;
  a.switches = style.switches;
  a.sides.clear();
  for (const TakenSide& side : style.sides)
    if (side.concerns(a.request.lift)) a.sides.push_back(side.words);
  a.notices = a.isTraced() ? noticesOf(a, style) : std::vector<Notice>{{"untraced", a.untraced}};
}

Analysis watched(const footage::ClipInfo& clip, const AnalysisRequest& request, const Style& style, const CueBook& book,
                 std::string why) {
  Analysis a;
  a.request = request;
  a.clip = clip;
  a.untraced = std::move(why);
  a.trace.trace.width = clip.width;
  a.trace.trace.height = clip.height;
  a.trace.trace.times_s = clip.times_s;
  a.trace.trace.frames.resize(clip.times_s.size());
  tracing::BarTrace nowhere;
  nowhere.times_s = clip.times_s;
  nowhere.plate.resize(clip.times_s.size());
  nowhere.end.resize(clip.times_s.size());
  a.trace.bar = std::make_shared<const tracing::BarTrace>(std::move(nowhere));
  a.motion = motion::exactMotion(
      clip.times_s, std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>>(clip.times_s.size()));
  judgeAgain(a, style, book);
  return a;
}

namespace {

// From the front something round on the wall may be followed for a while. Where what was followed makes no rep, or no
// body is seen with it, a glance tells whether both sides are seen, straight on; nullopt where not, or where nothing is
// gained.
std::optional<Result<tracing::ClipTrace>> acrossInstead(footage::FrameReader& reader, Analysis& a, Task& task) {
  const tracing::TraceRequest& request = a.request.trace;
  const bool lift_seen = !a.reps.empty() && a.trace.body;
  if (lift_seen || a.trace.front || request.view != tracing::View::Auto || !request.parts.network ||
      request.body.lying || tracing::anyFromTheSide(request.placed))
    return std::nullopt;
  Task quiet;
  const auto look = tracing::glanceAt(reader, quiet, request.lifter, a.trace.glance);
  if (look) a.trace.glance = *look;
  const auto facing = look ? tracing::facingAcross(**look, request.body, tracing::kNearlyStraight_deg) : std::nullopt;
  if (!facing) return std::nullopt;
  tracing::TraceRequest across = request;
  across.view = *tracing::viewNamed(tracing::nameOf(*facing));
  auto trace = tracing::traceClip(reader, across, task, {.glance = *look});
  if (!trace && trace.error().code == ErrorCode::NoLiftFound) return std::nullopt;
  return trace;
}

}  // namespace

Result<Analysis> traced(footage::FrameReader& reader, const AnalysisRequest& request, const Style& style,
                        const CueBook& book, Task& task, tracing::KnownTrace known) {
  Analysis a;
  a.request = request;
  a.request.trace.body = lifts::definition(request.lift).bodyOf(request.variant);
  a.clip = reader.info();
  auto trace = tracing::traceClip(reader, a.request.trace, task, std::move(known));
  if (!trace) return fail(trace.error());
  a.trace = std::move(*trace);
  judgeAgain(a, style, book);
  if (auto across = acrossInstead(reader, a, task)) {
    if (!*across) return fail(across->error());
    a.trace = std::move(**across);
    judgeAgain(a, style, book);
  }
  if (const auto missing = bodyMissingAt(a)) {
    tracing::TraceRequest again = a.request.trace;
    again.around_s = missing;
    auto whole = tracing::traceClip(reader, again, task, a.trace.known());
    if (!whole) return fail(whole.error());
    a.trace = std::move(*whole);
    judgeAgain(a, style, book);
  }
  return a;
}

Result<Analysis> analyse(footage::FrameReader& reader, const AnalysisRequest& request, const Style& style,
                         const CueBook& book, Task& task, tracing::KnownTrace known) {
  auto a = traced(reader, request, style, book, task, std::move(known));
  if (a && a->reps.empty() && a->misses.empty())
    return fail(ErrorCode::NoLiftFound, noRepText(request.lift),
                a->trace.front ? "Check that the clip holds a whole rep, with both plates in the picture."
                               : "Check that the clip holds a whole rep, or click the right plate.");
  return a;
}

}  // namespace jib::coaching
