// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>

#include "core/tracing/body/body_pose.h"

namespace jib::drawing {

// The sea chart: warm paper, navy ink, pale shallows, and one magenta that only the coach's own marks may have.
struct Palette {
  QColor paper, panel, raised;  // window, tables and fields, headers
  QColor ink, faint;            // text, secondary text
  QColor line;                  // hairlines
  QColor shoal, shallow, deep;  // water over a shoal: from just covered to safe
  QColor coach;                 // magenta
  QColor good, warn, bad;       // verdicts; shape or word always repeats them
};
const Palette& day();
const Palette& night();

// On the picture, and in every plot of the same thing. Chosen to differ in lightness as well as in hue.
inline const QColor kShinColour(0x4d, 0xd0, 0xa4);
inline const QColor kThighColour(0xe8, 0x92, 0x3c);
inline const QColor kTrunkColour(0x7c, 0xc4, 0xf5);
inline const QColor kFootColour(0xe8, 0xe2, 0xcf);
inline const QColor kBarColour(0xff, 0xf6, 0xdc);
inline const QColor kDescentColour(0x5a, 0xb4, 0xe6);
inline const QColor kAscentColour(0xf6, 0xa6, 0x3c);
inline const QColor kCoachColour(0xd6, 0x1f, 0x92);
inline const QColor kWantedColour(0xf2, 0xe3, 0x5a);  // drawn by the coach as it should be

QColor partColour(tracing::Part part);

}  // namespace jib::drawing
