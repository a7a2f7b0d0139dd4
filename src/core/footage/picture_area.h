// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/footage/frame_reader.h"

namespace jib::footage {

// Which part of a film's picture the camera filmed. Apps put upright films on level screens and the other way round,
// and fill what is left with plain bars or with a blurred, enlarged copy of the picture; who records a screen films its
// controls too. Whatever is measured from the width of the picture (lens, middle, what is near its edge) is wrong
// there. A border is told only where it comes on two opposite sides, ends in one straight line over the whole picture,
// and holds either one colour (with some writing on it) or what the blurred copy has to hold. Frame   pixels of the
// picture as the reader shows it Whole   where there is no border, and where so little would be left that it is no film
// of a lift
PictureArea filmedArea(const std::vector<cv::Mat>& gray_frames);

// Looks at some ten frames all over the film; the reader begins anew. Errors  those of the reader
Result<PictureArea> filmedArea(FrameReader& reader);

}  // namespace jib::footage
