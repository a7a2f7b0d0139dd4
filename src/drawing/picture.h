// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <opencv2/core/mat.hpp>

namespace jib::drawing {

// A decoded frame as an image of its own bytes.
inline QImage toImage(const cv::Mat& bgr) {
  return QImage(bgr.data, bgr.cols, bgr.rows, static_cast<qsizetype>(bgr.step), QImage::Format_BGR888).copy();
}

}  // namespace jib::drawing
