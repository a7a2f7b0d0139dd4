// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/geometry.h"
#include "core/base/result.h"

namespace jib::footage {

struct PictureSize {
  int width = 0, height = 0;
  friend bool operator==(const PictureSize&, const PictureSize&) = default;
};

// The part of a picture that the camera filmed, where an app put borders round it.
// Frame  pixels of the picture as it came; no width: all of it
struct PictureArea {
  int x = 0, y = 0, width = 0, height = 0;

  bool whole() const { return width == 0; }
  friend bool operator==(const PictureArea&, const PictureArea&) = default;
};

// A stretch that one camera filmed from one place, where a film was put together of several: a title card, another
// angle, a closer look. Time  presentation times of its first and its last frame, s
struct Shot {
  double from_s = 0, to_s = 0;
  friend bool operator==(const Shot&, const Shot&) = default;
};

// How a clip's picture is set right, over what the file itself says: a phone that lay on its side, a selfie film in
// which writing reads backwards, a film squeezed by whoever sent it on, put between borders, or cut together of several
// shots, of which one is shown. Kept in CLIP.upright.json beside the clip, so that everyone who reads the clip sees it
// the same way. Order  borders cut first, then turned, then mirrored, then stretched in width
struct Upright {
  int turn_deg = 0;              // clockwise: 0, 90, 180 or 270
  bool mirror = false;           // left for right
  double stretch = 1.0;          // width to show over width as it is; kLeast to kMost
  PictureArea filmed = {};       // between the borders (picture_area.h)
  bool with_borders = false;     // a person wants the borders shown all the same
  std::vector<Shot> shots = {};  // in order; empty: the film is one (shots.h)
  int shot = kWholeFilm;         // which of them is shown

  static constexpr double kLeast = 0.5, kMost = 2.0;
  static constexpr int kWholeFilm = -1;
  PictureArea shown() const { return with_borders ? PictureArea{} : filmed; }
  // nullptr: the whole film.
  const Shot* shownShot() const;
  // What was found out about the file itself, with nothing a person has said.
  Upright asFound() const;
  bool looksAsItCame() const { return turn_deg == 0 && !mirror && stretch == 1.0 && shown().whole(); }
  friend bool operator==(const Upright&, const Upright&) = default;
};

// The size of a picture that comes with `as_it_came`, once it is set right.
PictureSize sizeOf(const Upright& upright, PictureSize as_it_came);

// Where a point goes when a picture set right as `from` is set right as `to` instead.
// Frame  displayed pixels before and after
PixelPoint carried(PixelPoint p, const Upright& from, const Upright& to, PictureSize as_it_came);

std::filesystem::path uprightFile(const std::filesystem::path& clip);
// As it came where there is no such file, or where it says what cannot be.
Upright uprightOf(const std::filesystem::path& clip);
// Whole or not at all; as it came: the file goes. Errors  CannotWrite
Result<bool> keepUpright(const std::filesystem::path& clip, const Upright& upright);

}  // namespace jib::footage
