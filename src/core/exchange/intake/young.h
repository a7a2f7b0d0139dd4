// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string_view>

#include "core/exchange/intake/care.h"
#include "core/exchange/letters/known_age.h"

namespace jib::exchange {

// As profileAsKnown() of a library, from what a review knows already.
library::Profile profileAsKnown(const library::Athlete& athlete, const Care& care, std::string_view today_iso);

}  // namespace jib::exchange
