// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/alike.h"

#include <algorithm>
#include <cmath>

#include "core/lifts/lift.h"

namespace jib::lifts {
namespace {

constexpr double kTurned_deg = 12;     // between the two cameras: more changes what an angle looks like
constexpr double kFarTurned_deg = 30;  // and more still shows another side
constexpr double kHigher_deg = 5;      // how much more one looks down
constexpr double kWithCare = 1.5;

bool bothSides(const std::string& view) {
  return view == "left" || view == "right";
}

}  // namespace

std::string_view nameOf(Alike alike) {
  return alike == Alike::Like ? "like" : alike == Alike::WithCare ? "with_care" : "unlike";
}

std::string Likeness::why() const {
  const Difference* heaviest = nullptr;
  for (const Difference& d : differs)
    if (!heaviest || d.alike > heaviest->alike) heaviest = &d;
  return heaviest ? heaviest->why : std::string();
}

double Likeness::widening() const {
  return label == Alike::Like ? 1.0 : kWithCare;
}

Likeness alikeOf(const FilmedAs& a, const FilmedAs& b) {
  Likeness out;
  const auto differ = [&](Difference d) {
    out.label = std::max(out.label, d.alike);
    out.differs.push_back(std::move(d));
  };
  const auto words = [&](const char* what, const std::string& x, const std::string& y, Alike alike, const char* why) {
    if (!x.empty() && !y.empty() && x != y) differ({what, x, y, {}, {}, alike, why});
  };
  const auto numbers = [&](const char* what, const std::optional<double>& x, const std::optional<double>& y,
                           Alike alike, const char* why) {
    differ({what, {}, {}, x, y, alike, why});
  };
  words("lift", a.lift, b.lift, Alike::Unlike, "They show different lifts.");
  if (const LiftDefinition* lift = liftNamed(a.lift); lift && a.lift == b.lift) {
    const Variant x = variantOf(*lift, a.variant), y = variantOf(*lift, b.variant);
    const auto apart = [](const std::string& one, const std::string& other) {
      return !one.empty() && !other.empty() && one != other;
    };
    if (apart(x.position, y.position))
      differ({"variant", a.variant, b.variant, {}, {}, Alike::Unlike, "They show different variations."});
    else if (apart(x.tempo, y.tempo))
      differ({"variant", a.variant, b.variant, {}, {}, Alike::WithCare, "One is paused, the other is not."});
  }
  if (!a.view.empty() && !b.view.empty() && a.view != b.view) {
    const bool mirrored = bothSides(a.view) && bothSides(b.view);
    differ({"view",
            a.view,
            b.view,
            {},
            {},
            mirrored ? Alike::WithCare : Alike::Unlike,
            mirrored ? "They show the lifter's other side." : "They are filmed from different angles."});
  }
  if (a.turned_deg && b.turned_deg)
    if (const double apart = std::abs(*a.turned_deg - *b.turned_deg); apart > kTurned_deg)
      numbers("view", a.turned_deg, b.turned_deg, apart > kFarTurned_deg ? Alike::Unlike : Alike::WithCare,
              "They are filmed from different angles.");
  if (a.look_down_deg && b.look_down_deg && std::abs(*a.look_down_deg - *b.look_down_deg) > kHigher_deg)
    numbers("lens_height", a.look_down_deg, b.look_down_deg, Alike::WithCare, "The phone was at different heights.");
  if (a.load_kg && b.load_kg && std::min(*a.load_kg, *b.load_kg) < kSameLoad * std::max(*a.load_kg, *b.load_kg))
    numbers("load", a.load_kg, b.load_kg, Alike::WithCare,
            *b.load_kg < *a.load_kg ? "The second one is lighter." : "The second one is heavier.");
  for (KitDifference& k : kitDifferences(a.kit, b.kit)) {
    const bool own_name = k.field->id == "bar" || k.field->id == "state";
    differ({own_name ? std::string(k.field->id) : "kit",
            std::move(k.then),
            std::move(k.now),
            {},
            {},
            Alike::WithCare,
            k.phrase + "."});
  }
  words("scale", a.scale, b.scale, Alike::WithCare, "Lengths come from different scales.");
  return out;
}

}  // namespace jib::lifts
