// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/library/library.h"

namespace jib::library {

// From which load on something shows, and how that has moved, for the coach: "Shows from 150 kg (330 lb) on 4 May 2026,
// from 165 kg (364 lb) on 2 Aug 2026; not at 170 kg (374 lb) on 3 Nov 2026." Days that say nothing new are left out,
// the latest few are told. Empty of fewer than two days: there is no course yet.
// `days`: Library::shownByDay, oldest first
std::string loadShownText(const std::vector<Library::ShownOn>& days);

}  // namespace jib::library
