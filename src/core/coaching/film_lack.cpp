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

constexpr std::array<Row, 19> kRows{{
    {FilmLack::Nobody, "nobody", "The athlete is hard to make out in the picture.",
     "You are hard to make out in the picture.",
     "stand the phone where your whole body shows, 3 to 4 m away, with light on you"},
    {FilmLack::Oblique, "oblique", "The camera stands about {0:.0f} degrees from the side.",
     "The phone stands about {0:.0f} degrees off from your side.",
     "film square from the side, so that the near plate covers the far one"},
    {FilmLack::FeetCut, "feet_cut", "The feet are cut off by the picture's edge.",
     "Your feet are cut off by the edge of the picture.",
     "keep your whole body in the picture, with the floor under your shoes"},
    {FilmLack::FeetUnseen, "feet_unseen", "The feet are not made out for long enough.",
     "Your feet do not show for long enough.", "keep your shoes in sight from the first rep to the last"},
    {FilmLack::Moving, "moving", "The camera moves.", "The phone moves while you lift.",
     "put the phone on a tripod or against a bag on the floor"},
    {FilmLack::Dark, "dark", "The picture is dark.", "The picture is dark.",
     "turn the lights on, or film where the window is behind the phone"},
    {FilmLack::Blurred, "blurred", "The picture is blurred.", "The picture is blurred.",
     "wipe the lens and tap on yourself to focus"},
    {FilmLack::Small, "small", "The athlete is small in the picture.", "You are small in the picture.",
     "come closer: 3 to 4 m, the phone upright or level"},
    {FilmLack::FewFrames, "few_frames", "The clip has {0:.0f} frames a second.",
     "The clip has only {0:.0f} frames a second.", "send the original file, not one that a messenger has shrunk"},
    {FilmLack::Rolled, "rolled", "The camera is tilted; the numbers are set upright again.", "The phone is tilted.",
     "stand the phone level"},
    {FilmLack::Near, "near", "The camera stands about {0:.1f} m away.", "The phone stands only about {0:.1f} m away.",
     "step back to 3 to 4 m"},
    {FilmLack::CameraHigh, "camera_high", "The camera looks down on the hip by about {0:.0f} degrees.",
     "The phone looks down on your hips.", "put the lens {0}"},
    {FilmLack::CameraLow, "camera_low", "The camera looks up on the hip by about {0:.0f} degrees.",
     "The phone is too low: it is filming your hips from below.", "put the lens {0}"},
    {FilmLack::Single, "single", "There is one rep.", "There is one rep in the clip.",
     "send a set of three reps at about 70 % of your best"},
    {FilmLack::Hidden, "hidden", "The plate is hidden for part of the way.",
     "Something blocks the plate for part of the lift.",
     "move the phone so that nothing stands between it and the plate"},
    {FilmLack::Squeezed, "squeezed", "The plate is not round: the picture's proportions are squeezed.",
     "The video has been stretched: the plates aren't round.", "send the original file, not one that was passed on"},
    {FilmLack::Slowed, "slowed", "The bar never falls faster than {0:.2f} m/s: the clip may be in slow motion.",
     "The clip may be in slow motion.", "tell me whether it is, and by how much"},
    {FilmLack::NoLift, "no_lift", "No lift was found in the clip.", "I could not make out a whole lift in the clip.",
     "film the whole set with the near plate in the picture"},
    {FilmLack::Unreadable, "unreadable", "The clip cannot be read.", "The clip does not open here.",
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
