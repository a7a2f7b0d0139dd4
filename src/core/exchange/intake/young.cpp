// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/young.h"

#include <cstdlib>
#include <string>

namespace jib::exchange {

library::Profile profileAsKnown(const library::Athlete& athlete, const Care& care, std::string_view today_iso) {
  constexpr int kYoung = 17;
  library::Profile known = athlete.profile;
  if (!known.birth_year && care.minor)
    known.birth_year = std::atoi(std::string(today_iso.substr(0, 4)).c_str()) - kYoung;
  return known;
}

}  // namespace jib::exchange
