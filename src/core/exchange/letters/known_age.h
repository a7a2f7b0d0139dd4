// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"

namespace jib::exchange {

// An athlete's profile as it holds for whoever asks whether they are under 18: where the coach has entered no year of
// birth, what their messages say of their age stands for it, confirmed or not. Nothing is written.
library::Profile profileAsKnown(library::Library& library, const library::Athlete& athlete);

}  // namespace jib::exchange
