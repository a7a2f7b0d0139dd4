// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/library/records.h"

namespace jib::exchange {

// Where the phone stands, seen from above: the lifter faces the front, or lies with the head at the head's end.
enum class Stand { Side, HalfFront, Front, HalfBehind, Behind, Head, Feet };

// What one question needs instead of the usual view.
struct FilmingQuestion {
  std::string id;     // "knees"
  std::string title;  // "Do the knees cave in?"
  std::string view, lens;
  std::vector<std::string> in_picture;
  Stand stand = Stand::Side;
  std::vector<std::string> answers;  // claims of a clip (coaching::Claim) that this view settles
};

// What to film, for one lift and what is asked of it; the coach's own template, as data (resources/requests/*.toml).
struct FilmingRequest {
  std::string lift;
  std::string title;
  std::string view;      // "from the side"
  std::string lens;      // "level with the hip at the bottom"
  std::string distance;  // "3 to 4 m"
  int reps = 3;
  std::string share;  // "about 70 % of your best"
  std::vector<std::string> in_picture;
  std::string closing;
  std::vector<FilmingQuestion> questions;
  Stand stand = Stand::Side;

  // The same request for one of its questions; itself when it has no such question.
  FilmingRequest asking(std::string_view question) const;
  // The question whose view settles what a clip could not show, by the claim's id; empty: the request itself does.
  std::string questionFor(std::string_view claim) const;
};

// Errors  CannotRead, BadData with file and line
Result<FilmingRequest> loadFilmingRequest(const std::filesystem::path& file);
// The coach's own template, requests/<lift>.toml in the library's folder, or the one that ships.
Result<FilmingRequest> filmingRequest(std::string_view lift, const std::filesystem::path& library_folder);

// What an athlete's last cue needs so that it can be checked: the same view and load, said in place of the general
// ones.
struct SameAgain {
  std::string cue;
  std::string asked_on;
  std::optional<double> load_kg;
};

// The request as text to paste, and as a page to print with a small drawing of where to stand the phone.
std::string requestText(const FilmingRequest& request, std::string_view first_name,
                        const std::optional<SameAgain>& again);
// `still_png`: the old frame as a guide; empty for none.
std::string requestPage(const FilmingRequest& request, std::string_view first_name,
                        const std::optional<SameAgain>& again, std::string_view still_png = {});

}  // namespace jib::exchange
