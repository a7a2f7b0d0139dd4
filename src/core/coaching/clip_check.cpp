// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/clip_check.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/coaching/film_lack.h"
#include "core/lifts/view_assessor.h"

namespace jib::coaching {
namespace {

using tracing::Seen;
using Json = nlohmann::json;

constexpr double kRolled_deg = 3;
constexpr double kNear_m = 2.5;
constexpr double kDark = 0.12;
constexpr double kBlurred_share = 0.0028;  // of the picture's width
constexpr double kSmall_share = 0.35;
constexpr double kFewFrames_hz = 24;
constexpr double kSqueezed = 0.94;
constexpr double kHidden_share = 0.05;

// A lift that is this slow everywhere was filmed or sent in slow motion: nobody lowers a bar so gently and still turns.
constexpr double kSlowPeak_mps = 0.22, kUsualPeak_mps = 0.9, kSlowTurn_g = 0.12;

Can byView(const lifts::ClaimRow& row, Seen seen) {
  switch (seen) {
    case Seen::Side:
      return row.side;
    case Seen::Oblique:
      return row.oblique;
    case Seen::Front:
      return row.front;
    case Seen::Rear:
    case Seen::Head:
      return row.rear;
    case Seen::Nobody:
      return Can::Weakly;
  }
  return Can::Weakly;
}

const char* whyNotFrom(Seen seen, bool lying) {
  switch (seen) {
    case Seen::Side:
      return lying ? "The side doesn't show it; a second clip of the set from the head end would show it."
                   : "The side doesn't show it; a second clip of the set from the front would show it.";
    case Seen::Oblique:
      return "The camera is between side and front.";
    case Seen::Front:
      return lying ? "The feet end doesn't show it; a clip straight from the side would."
                   : "The front doesn't show it; a clip straight from the side would.";
    case Seen::Rear:
      return "The rear doesn't show it; a clip straight from the side would.";
    case Seen::Head:
      return "The head end doesn't show it; a clip straight from the side would.";
    case Seen::Nobody:
      return "The athlete is hard to make out.";
  }
  return "";
}

class Checker {
 public:
  Checker(const footage::ClipInfo& clip, const tracing::FirstLook& look, const lifts::LiftDefinition& lift,
          const Analysis* a, const std::string& trouble)
      : clip_(clip), look_(look), lift_(lift), a_(a), trouble_(trouble) {}

  ClipCheck check() {
    out_.view = nameOf(look_.view.seen);
    out_.frame_rate = clip_.duration_s() > 0 ? static_cast<double>(clip_.frames()) / clip_.duration_s() : 0;
    for (const lifts::ClaimRow& row : lift_.claims) {
      Can can = byView(row, look_.view.seen);
      // Once it is traced the measures' own answer holds.
      if (a_ && a_->isTraced() && !a_->trace.front &&
          (look_.view.seen == Seen::Side || look_.view.seen == Seen::Oblique))
        can = std::min(row.side, lifts::carried(lift_, row.id, a_->motion.calibration).can);
      out_.claims.push_back({std::string(row.id), std::string(row.title), can,
                             can == Can::Yes ? "" : whyNotFrom(look_.view.seen, lift_.body.lying)});
    }
    picture();
    if (a_)
      traced();
    else
      noLift();
    return std::move(out_);
  }

 private:
  void limit(std::string_view id, Can at_most, const std::string& why) {
    for (Claim& c : out_.claims)
      if (c.id == id && at_most < c.can) {
        c.can = at_most;
        c.why = why;
      }
  }
  void limitAll(Can at_most, const std::string& why) {
    for (Claim& c : out_.claims) limit(c.id, at_most, why);
  }
  // Told to the coach; kept with what the athlete is told and asked.
  std::string trouble(FilmLack lack, double amount = 0, std::string_view coach_is_told = {}) {
    std::string what = coach_is_told.empty() ? told(lack, Reader::Coach, amount) : std::string(coach_is_told);
    out_.troubles.push_back(
        {std::string(nameOf(lack)), what, askedFor(lack, lift_.lens), told(lack, Reader::Athlete, amount)});
    return what;
  }

  void picture() {
    if (look_.view.seen == Seen::Nobody) {
      limitAll(Can::Weakly, whyNotFrom(Seen::Nobody, lift_.body.lying));
      trouble(FilmLack::Nobody);
    }
    if (look_.view.seen == Seen::Oblique) trouble(FilmLack::Oblique, look_.view.turned_deg);
    if (!look_.feet_in_picture) {
      const std::string why = trouble(FilmLack::FeetCut);
      limit("feet", Can::No, why);
      limit("depth", Can::Weakly, why);
      limit("knee_line", Can::Weakly, why);
    }
    if (!clip_.upright.shown().whole()) trouble(FilmLack::Borders);
    if (look_.moving) limit("bar_path", Can::Weakly, trouble(FilmLack::Moving));
    if (look_.light > 0 && look_.light < kDark) limit("feet", Can::Weakly, trouble(FilmLack::Dark));
    if (look_.blur > kBlurred_share * clip_.width) limit("feet", Can::Weakly, trouble(FilmLack::Blurred));
    if (look_.body_share > 0 && look_.body_share < kSmall_share) trouble(FilmLack::Small);
    if (out_.frame_rate > 0 && out_.frame_rate < kFewFrames_hz)
      limit("bar_path", Can::Weakly, trouble(FilmLack::FewFrames, out_.frame_rate));
  }

  void traced() {
    for (const motion::SetSpan& set : a_->sets) {
      out_.sets.push_back({static_cast<int>(set.count), set.from_s, set.to_s});
      out_.reps += out_.sets.back().reps;
    }
    out_.misses = static_cast<int>(a_->misses.size());
    const auto& k = a_->motion.calibration;
    cameraHeight(k.look_down_deg);
    if (a_->trace.body && !a_->trace.body->feet_seen && look_.feet_in_picture)
      limit("feet", Can::No, told(FilmLack::FeetUnseen, Reader::Coach));
    if (std::abs(degrees(a_->trace.camera.roll_rad)) > kRolled_deg) trouble(FilmLack::Rolled);
    if (a_->trace.camera.distance_m() < kNear_m) {
      limit("bar_path", Can::Weakly, "The camera is too close to compare bar and foot well.");
      trouble(FilmLack::Near, a_->trace.camera.distance_m());
    }
    if (a_->reps.size() == 1) {
      limit("sameness", Can::No, "One rep can show a fault, not consistency.");
      trouble(FilmLack::Single);
    }
    hiddenPlate();
    squeezed();
    slowed();
  }

  // What a camera above or below the hip does to depth: a sure "no" where it is too steep, within what is known of it.
  void cameraHeight(double look_down_deg) {
    const lifts::Carried heights = lifts::heightsFrom(look_down_deg);
    if (look_.view.seen != Seen::Side || heights.can == Can::Yes) return;
    const std::string why =
        trouble(look_down_deg > 0 ? FilmLack::CameraHigh : FilmLack::CameraLow, std::abs(look_down_deg));
    limit("depth", heights.can, why);
    if (heights.can == Can::No) limit("lean", Can::Weakly, why);
  }

  void hiddenPlate() {
    const auto& plate = a_->trace.bar->plate;
    const auto missing = std::count_if(plate.begin(), plate.end(), [](const auto& p) { return !p; });
    if (static_cast<double>(missing) < kHidden_share * static_cast<double>(plate.size())) return;
    limit("bar_path", Can::Weakly, trouble(FilmLack::Hidden));
  }

  // A camera turned away makes a plate narrow; one that looks down makes it flat, and then flatness says nothing of the
  // file.
  void squeezed() {
    if (lifts::heightsFrom(a_->motion.calibration).can != Can::Yes) return;
    const auto& rim = a_->trace.bar->rim;
    const bool flat = std::abs(std::remainder(rim.tilt_rad, kPi)) < radians(30);
    if (rim.aspect > kSqueezed || !flat) return;
    limitAll(Can::Weakly, "The clip is stretched.");
    trouble(FilmLack::Squeezed);
  }

  void slowed() {
    if (a_->request.slow_factor != 1 || a_->measures.reps.empty()) return;
    double peak = 0, drop = 0;
    for (const auto& rep : a_->measures.reps) {
      const auto* v = lifts::find(rep, "bar_peak_descent_mps");
      const auto* g = lifts::find(rep, "peak_drop_g");
      if (!v || !v->measured() || !g || !g->measured()) return;
      peak = std::max(peak, v->measured()->value);
      drop = std::max(drop, g->measured()->value);
    }
    if (peak > kSlowPeak_mps || drop > kSlowTurn_g) return;
    out_.slow_factor = std::exp2(std::clamp(std::round(std::log2(kUsualPeak_mps / peak)), 1.0, 3.0));
    trouble(FilmLack::Slowed, peak);
  }

  void noLift() {
    limitAll(Can::Weakly, trouble_.empty() ? told(FilmLack::NoLift, Reader::Coach) : trouble_);
    if (look_.view.seen != Seen::Front && look_.view.seen != Seen::Rear && look_.view.seen != Seen::Head)
      trouble(FilmLack::NoLift, 0, trouble_);
  }

  const footage::ClipInfo& clip_;
  const tracing::FirstLook& look_;
  const lifts::LiftDefinition& lift_;
  const Analysis* a_;
  const std::string& trouble_;
  ClipCheck out_;
};

Can canNamed(const std::string& name) {
  for (Can can : {Can::No, Can::Weakly, Can::Yes})
    if (nameOf(can) == name) return can;
  return Can::Weakly;
}

}  // namespace

std::string_view nameOf(Can can) {
  switch (can) {
    case Can::No:
      return "no";
    case Can::Weakly:
      return "weakly";
    case Can::Yes:
      return "yes";
  }
  return "weakly";
}

const Claim* ClipCheck::claim(std::string_view id) const& {
  for (const Claim& c : claims)
    if (c.id == id) return &c;
  return nullptr;
}

void lookAgain(tracing::FirstLook& look, const Analysis* a) {
  constexpr std::size_t kEnough = 5;
  if (a && a->trace.front) {
    using tracing::Facing;
    const Facing facing = a->trace.front->facing;
    look.view.seen = facing == Facing::Front ? Seen::Front : facing == Facing::Rear ? Seen::Rear : Seen::Head;
    return;
  }
  if (!a || !a->trace.sightings || a->trace.sightings->size() < kEnough) return;
  look.view = tracing::turnedBy(tracing::viewFrom(tracing::readingsOf(*a->trace.sightings)), a->trace.turn.turned_deg);
}

ClipCheck checkClip(const footage::ClipInfo& clip, const tracing::FirstLook& look, lifts::LiftId lift,
                    const Analysis* analysis, const std::string& trouble) {
  return Checker(clip, look, lifts::definition(lift), analysis, trouble).check();
}

ClipCheck failedCheck(const std::string& why) {
  ClipCheck check;
  check.view = nameOf(Seen::Nobody);
  check.failed = why;
  constexpr FilmLack kLack = FilmLack::Unreadable;
  check.troubles.push_back({std::string(nameOf(kLack)), why, askedFor(kLack), told(kLack, Reader::Athlete)});
  return check;
}

std::string checkToJson(const ClipCheck& c) {
  Json claims = Json::array(), troubles = Json::array(), sets = Json::array();
  for (const SetSeen& s : c.sets) sets.push_back({{"reps", s.reps}, {"from_s", s.from_s}, {"to_s", s.to_s}});
  for (const Claim& claim : c.claims)
    claims.push_back({{"id", claim.id}, {"title", claim.title}, {"can", nameOf(claim.can)}, {"why", claim.why}});
  for (const ClipTrouble& t : c.troubles)
    troubles.push_back({{"id", t.id}, {"what", t.what}, {"ask", t.ask}, {"to_athlete", t.to_athlete}});
  return Json{{"view", c.view},
              {"lift_seen", c.lift_seen},
              {"failed", c.failed},
              {"reps", c.reps},
              {"sets", sets},
              {"misses", c.misses},
              {"frame_rate", c.frame_rate},
              {"slow_factor", c.slow_factor ? Json(*c.slow_factor) : Json()},
              {"claims", claims},
              {"troubles", troubles}}
      .dump(-1, ' ', false, Json::error_handler_t::replace);
}

Result<ClipCheck> checkFromJson(std::string_view text) {
  try {
    const Json j = Json::parse(text);
    ClipCheck c;
    c.view = j.at("view");
    c.lift_seen = j.value("lift_seen", std::string());
    c.failed = j.value("failed", std::string());
    c.reps = j.at("reps");
    for (const Json& one : j.at("sets")) c.sets.push_back({one.at("reps"), one.at("from_s"), one.at("to_s")});
    c.misses = j.at("misses");
    c.frame_rate = j.at("frame_rate");
    if (!j.at("slow_factor").is_null()) c.slow_factor = j.at("slow_factor").get<double>();
    for (const Json& one : j.at("claims"))
      c.claims.push_back({one.at("id"), one.at("title"), canNamed(one.at("can")), one.at("why")});
    for (const Json& one : j.at("troubles"))
      c.troubles.push_back({one.at("id"), one.at("what"), one.at("ask"), one.value("to_athlete", std::string())});
    return c;
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, std::string("The clip's check can't be read: ") + e.what() + ".",
                "It is made again when the clip is opened.");
  }
}

}  // namespace jib::coaching
