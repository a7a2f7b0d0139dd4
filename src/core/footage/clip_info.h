// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/footage/upright.h"

namespace jib::footage {

// What a clip is before anything is decoded.
// Frame   width and height are of the displayed picture: rotation and pixel aspect undone, and what a person set right
// Time    presentation times of the file in s, rising strictly, one entry a frame that can be shown; of a film of
// several
//         shots those of the one that is shown
struct ClipInfo {
  std::filesystem::path file;
  int width = 0;
  int height = 0;
  int rotation_deg = 0;         // clockwise turn that was needed to show it upright: 0, 90, 180 or 270
  double pixel_aspect = 1.0;    // width of a stored pixel over its height
  Upright upright = {};         // what a person set right over that
  PictureSize as_it_came = {};  // the displayed picture without it
  std::string codec;
  std::vector<double> times_s;
  bool variable_rate = false;
  bool cut_off = false;                   // the file ends before what its own index tells of
  std::optional<double> focal_35mm = {};  // the lens, where the file tells (lens.h)

  std::size_t frames() const { return times_s.size(); }
  double duration_s() const;
  double frameInterval_s() const;  // the median: sorts all times, so nothing for a loop over frames
  std::size_t nearestFrame(double t_s) const;
};

}  // namespace jib::footage
