// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/base/display_units.h"
#include "core/base/spelling.h"
#include "core/review/reply_content.h"

namespace jib::desk {

// The units the coach reads, as kept between two starts; put in force for the whole program.
void applyKeptUnits();
void keepUnits(DisplayUnits units);

// How words are spelled, as kept; in force from the next start on.
void keepSpelling(Spelling spelling);
Spelling keptSpelling();

// How the reply's clip is held, as kept: upright for phones until the coach chooses otherwise.
review::FilmShape keptFilmShape();
void keepFilmShape(review::FilmShape shape);
// Whether a second camera stands in a corner of it.
bool keptSecondInCorner();
// How loud the clip is under the coach's voice in a reply that is talked through.
review::OwnSound keptOwnSound();
void keepOwnSound(review::OwnSound sound);
void keepSecondInCorner(bool on);
// What a reply may weigh, in millions of bytes, as mails and chats allow; nullopt: anything.
std::optional<double> keptMostMb();
void keepMostMb(std::optional<double> mb);

}  // namespace jib::desk
