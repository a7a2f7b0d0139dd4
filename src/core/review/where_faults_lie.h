// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <vector>

#include "core/coaching/where_it_lies.h"
#include "core/library/library.h"
#include "core/review/session.h"

namespace jib::review {

// For each fault that a review is sure of, where it may lie, from the film and from all that is kept of the athlete.
// With pain or under 18 nothing is said of maxima. What the library cannot tell is left open.
std::map<std::string, std::vector<coaching::LiesHint>> whereFaultsLie(library::Library& library,
                                                                      const Session& session);

}  // namespace jib::review
