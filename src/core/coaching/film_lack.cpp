// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/film_lack.h"

#include <fmt/format.h>

#include <array>

namespace jib::coaching {
namespace {

struct Row {
  FilmLack lack;
  std::string_view id;
  const char *to_coach, *to_athlete;  // {0}: the amount
  const char* ask;                    // {0}: where the lens belongs
};

constexpr std::array<Row, 20> kRows{{
    {FilmLack::Nobody, "nobody", "The lifter is hard to make out.", "You're hard to make out in the clip.",
     "set the phone 3 to 4 m (10 to 13 ft) away with your whole body in the picture, and light on you"},
    {FilmLack::Oblique, "oblique", "The camera is about {0:.0f} degrees off the side.",
     "The phone is about {0:.0f} degrees off your side.",
     "film straight from the side, so the near plate covers the far one"},
    {FilmLack::FeetCut, "feet_cut", "The feet are out of the picture.", "Your feet are out of the picture.",
     "keep your whole body in the picture, with the floor under your shoes"},
    {FilmLack::FeetUnseen, "feet_unseen", "The feet don't show for long enough.",
     "Your feet don't show for long enough.", "keep your shoes in sight from the first rep to the last"},
    {FilmLack::Moving, "moving", "The camera moves.", "The phone moves while you lift.",
     "use a tripod, or prop the phone against a bag"},
    {FilmLack::Dark, "dark", "The picture is dark.", "The picture is dark.",
     "turn the lights on, or film with the window behind the phone"},
    {FilmLack::Blurred, "blurred", "The picture is blurred.", "The picture is blurred.",
     "wipe the lens and tap on yourself to focus"},
    {FilmLack::Small, "small", "The lifter is small in the picture.", "You're small in the picture.",
     "bring the phone closer: 3 to 4 m (10 to 13 ft)"},
    {FilmLack::FewFrames, "few_frames", "The clip has {0:.0f} frames a second.",
     "The clip has only {0:.0f} frames a second.", "send the original file, not one shrunk by a chat app"},
    {FilmLack::Rolled, "rolled", "The camera is tilted; the numbers are corrected for it.", "The phone is tilted.",
     "set the phone level"},
    {FilmLack::Near, "near", "The camera is about {0:.1f} m away.", "The phone is only about {0:.1f} m away.",
     "move the phone back to 3 to 4 m (10 to 13 ft)"},
    {FilmLack::CameraHigh, "camera_high", "The camera looks down at the hip by about {0:.0f} degrees.",
     "The phone looks down at your hips.", "put the phone {0}"},
    {FilmLack::CameraLow, "camera_low", "The camera looks up at the hip by about {0:.0f} degrees.",
     "The phone is too low: it films your hips from below.", "put the phone {0}"},
    {FilmLack::Single, "single", "Only one rep.", "One rep shows a lot, but not whether it's consistent.",
     "send a triple at about 70 % of your max next time"},
    {FilmLack::Hidden, "hidden", "The plate is hidden for part of the lift.",
     "Something blocks the plate for part of the lift.", "move the phone so nothing is between it and the plate"},
    {FilmLack::Squeezed, "squeezed", "The plate isn't round: the clip is stretched.",
     "The clip is stretched: the plates aren't round.", "send the original file, not a forwarded one"},
    {FilmLack::Borders, "borders", "The clip is a repost or a screen recording: the borders around it are cut off.",
     "Your clip has borders around it.", "send the original from your phone, not a repost or a screen recording"},
    {FilmLack::Slowed, "slowed", "The bar never falls faster than {0:.2f} m/s: the clip may be in slow motion.",
     "The clip may be in slow motion.", "tell me whether it is, and by how much"},
    {FilmLack::NoLift, "no_lift", "No lift was found in the clip.", "I couldn't see a whole lift in the clip.",
     "film the whole set with the near plate in the picture"},
    {FilmLack::Unreadable, "unreadable", "The clip can't be read.", "The clip doesn't open here.",
     "send the original file again"},
}};

const Row& rowOf(FilmLack lack) {
  for (const Row& row : kRows)
    if (row.lack == lack) return row;
  return kRows[0];
}

}  // namespace

std::string_view nameOf(FilmLack lack) {
  return rowOf(lack).id;
}

std::string told(FilmLack lack, Reader to, double amount) {
  const Row& row = rowOf(lack);
  return fmt::format(fmt::runtime(to == Reader::Coach ? row.to_coach : row.to_athlete), amount);
}

std::string askedFor(FilmLack lack, std::string_view lens) {
  return fmt::format(fmt::runtime(rowOf(lack).ask), lens);
}

}  // namespace jib::coaching
