// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

namespace jib::coaching {

// What a film lacks, by a code that the clip's card, the letter that asks for another film and the command line share.
// The words for it stand in one table (film_lack.cpp), apart for who reads them: what the coach is told never reaches
// an athlete. What the camera's place does to a lift is asked of lifts/view_assessor.h; here it is only worded.
enum class FilmLack {
  Nobody,
  Oblique,  // amount: degrees from the side
  FeetCut,
  FeetUnseen,
  Moving,
  Dark,
  Blurred,
  Small,
  FewFrames,  // amount: frames a second
  Rolled,
  Near,        // amount: metres
  CameraHigh,  // amount: degrees down on the hip
  CameraLow,   // amount: degrees up
  Single,
  Hidden,
  Squeezed,
  Borders,
  Slowed,  // amount: metres a second
  NoLift,
  Unreadable,
};

enum class Reader { Coach, Athlete };

std::string_view nameOf(FilmLack lack);  // "feet_cut", as in files
// A sentence. The athlete's speaks to them: "You are small in the picture."
std::string told(FilmLack lack, Reader to, double amount = 0);
// What the athlete is asked to do instead, to go on from "Please"; `lens`: where the lift wants the lens.
std::string askedFor(FilmLack lack, std::string_view lens = {});

}  // namespace jib::coaching
