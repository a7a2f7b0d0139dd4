// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QRectF>
#include <QString>
#include <QTransform>
#include <map>

#include "core/coaching/sketch.h"
#include "core/review/reply_content.h"
#include "drawing/face_blur.h"

namespace jib::drawing {

// What is said beside the picture at a moment of the reply's film.
struct PanelWords {
  QString head, line;          // athlete; lift, load and day
  QString title, text, below;  // of a stop: what was seen, what to do, the drill; else empty
  QString counter;             // "Rep 2 of 3"; empty outside the reps
  QStringList to_come;         // what the stops will say, while it plays
  QString sign;                // who wrote it
  QString caption = {};        // what is being said, for whoever watches without sound
};

// Where the picture and the words stand in the film, in its own pixels.
struct FilmLayout {
  QSize film;
  QRect picture, words;
};
FilmLayout layoutOf(review::FilmShape shape);  // 1280 x 720, 720 x 1280 or 1080 x 1080

// The reply's film: the lifter as large as the picture allows, words and the meaning of the lines on a strip of chart
// paper beside it, or below where the film is upright, so that no caption ever lies over the feet. Frame   its own
// pixels; clipToFilm() takes displayed pixels of the clip there
class ReplyFrame {
 public:
  ReplyFrame(const coaching::Analysis& analysis, const coaching::Sketch& sketch,
             review::FilmShape shape = review::FilmShape::Landscape, bool hide_faces = false);

  const FilmLayout& layout() const { return layout_; }

  // The part of the clip that is shown, in its displayed pixels; inside the picture.
  const QRect& shown() const { return shown_; }
  // Where it is shown in the film; narrower than the picture's side when the clip is.
  const QRect& place() const { return place_; }
  QTransform clipToFilm() const;
  // What is made unrecognisable before anything is drawn.
  const FaceBlur& blurred() const { return blurred_; }
  // The strip with words; made once for each.
  const QImage& panel(const PanelWords& words);

 private:
  QImage painted(const PanelWords& words) const;
  QImage paintedBelow(const PanelWords& words) const;
  bool below() const { return layout_.words.top() > 0; }
  void paintLegend(QPainter& painter, qreal bottom) const;

  const coaching::Analysis& analysis_;
  const coaching::Sketch& sketch_;
  FaceBlur blurred_;
  FilmLayout layout_;
  QRect shown_, place_;
  std::map<QString, QImage> panels_;
};

}  // namespace jib::drawing
