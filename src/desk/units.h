// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/display_units.h"
#include "core/review/reply_content.h"

namespace jib::desk {

// The units the coach reads, as kept between two starts; put in force for the whole program.
void applyKeptUnits();
void keepUnits(DisplayUnits units);

// How the reply's clip is held, as kept: upright for phones until the coach chooses otherwise.
review::FilmShape keptFilmShape();
void keepFilmShape(review::FilmShape shape);

}  // namespace jib::desk
