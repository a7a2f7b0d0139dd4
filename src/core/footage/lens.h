// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string_view>

namespace jib::footage {

// The focal length a file's metadata tells, as the lens would have on 35 mm film (its diagonal is 43.27 mm), in mm.
// Phones write it under keys of their own makers; whatever says "focal" and "35" and holds a lens's number is taken.
std::optional<double> focal35From(std::string_view key, std::string_view value);

// Focal length in pixels over the longer side of a picture of that size.
double focalShare(double focal_35mm, int width, int height);

}  // namespace jib::footage
