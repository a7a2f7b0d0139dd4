// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/coaching/sketch.h"

namespace jib::coaching {

// How round a back is, as a change from one moment of a rep to another. No network sees it, so the coach puts three
// points on the back's outline; the program proposes where, and does the arithmetic. It is a shape among others
// (ShapeKind::Back). What a change means for the athlete is not said.

// The ends of a back line.
enum BackEnd : std::size_t { kUpperBack, kLowBack, kPelvis };

// On one frame, as far behind the traced trunk as backs usually are, for the coach to pull into place. nullopt where no
// trunk is traced.
std::optional<Shape> backLineOn(const Analysis& analysis, std::size_t frame);

// The same at the start of the rep that is nearest to a frame, at its turn (of a pull: lift-off) and at lockout, where
// the sketch has none yet; of a clip without reps on the frame alone.
std::vector<Shape> backLinesAround(const Analysis& analysis, const Sketch& sketch, std::size_t frame);

struct BackBend {
  double bend_deg = 0;   // how far the low back stands out behind straight; negative: hollow
  double sigma_deg = 0;  // 1 σ, of points put down by hand
};
BackBend bendOf(const Shape& back, const Analysis& analysis);

// What a back line says of itself: a proposal what to do with it, the first one of a rep that others are held against
// it, a later one by how much it is rounder or flatter, if it surely is.
std::string backLabel(const Shape& back, const Sketch& sketch, const Analysis& analysis);

}  // namespace jib::coaching
