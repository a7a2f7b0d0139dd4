// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "core/motion/motion.h"
#include "core/motion/reps.h"

namespace jib::lifts {

// A value is sure to lie within this many standard deviations: 90 of 100 values do, as a normal error would. Every
// verdict rests on it, and every ± that a person reads is this wide.
inline constexpr double kSureSigmas = 1.64;

// What is drawn on the evidence frame of a measure.
enum class Drawing { None, Depth, MidFoot, Trunk, Shin, Knee, Heel, BarPath, Chain, Forearm, Seat, Sides };

struct Measured {
  double value = 0;
  double sigma = 0;  // 1 σ, same unit; what people read as ± is kSureSigmas of it
  double t_s = 0;    // presentation time of the frame that shows it
};

struct Absent {
  std::string reason;  // a sentence for the coach
};

using Measure = std::variant<Measured, Absent>;

// A measure's fixed side: its name in files, its title and place in tables.
struct MeasureDefinition {
  std::string_view id;
  std::string_view title;
  std::string_view unit;   // "m", "deg", "s", "m/s", "g", "%", "ratio"; files keep to these
  std::string_view group;  // "Walk-out", "Set-up", "Descent", "Bottom", "Ascent", "Lockout", "Bar", "Set"
  Drawing drawing = Drawing::None;
};

struct NamedMeasure {
  const MeasureDefinition* kind;
  Measure measure;

  const Measured* measured() const { return std::get_if<Measured>(&measure); }
};

// All measures of one rep, or of the set, in the order of the table.
using MeasureList = std::vector<NamedMeasure>;

const NamedMeasure* find(const MeasureList& list, std::string_view id);
const NamedMeasure* find(MeasureList&&, std::string_view) = delete;  // it would point into what is gone

// What a coach reads: centimetres for metres, sign kept, one decimal, and the unit. "−2.1 cm"
struct Shown {
  double value, plus_minus;  // kSureSigmas standard deviations
  std::string_view unit;
  int decimals;
};
Shown shown(const MeasureDefinition& kind, const Measured& measured);
std::string text(const MeasureDefinition& kind, const Measured& measured);              // "-2.1 cm"
std::string numbersWithSigma(const MeasureDefinition& kind, const Measured& measured);  // "-2.1 ± 0.8"
std::string textWithSigma(const MeasureDefinition& kind, const Measured& measured);     // "-2.1 ± 0.8 cm"

}  // namespace jib::lifts
