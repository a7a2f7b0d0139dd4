// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <opencv2/core/mat.hpp>

namespace jib::drawing {

// The same bytes seen as Qt's picture: lives no longer than `bgr`.
inline QImage lent(const cv::Mat& bgr) {
  return QImage(bgr.data, bgr.cols, bgr.rows, static_cast<qsizetype>(bgr.step), QImage::Format_BGR888);
}

inline QImage toImage(const cv::Mat& bgr) {
  return lent(bgr).copy();
}

}  // namespace jib::drawing
