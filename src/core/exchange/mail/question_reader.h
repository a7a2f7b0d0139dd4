// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/exchange/mail/talk.h"

namespace jib::exchange {

// Everything a message asks, as written, one by one: "1) should I cut? 2) will that hurt my deadlift", "also how much
// volume", "not sure if I should widen my stance". A doubt about one's own numbers ("RPE like 9?") is no question.
std::vector<std::string> questionsIn(const Talk& talk);

// Whether a film is meant to be with the message: it speaks of one, asks how "this" looks, or is the bare caption of a
// set. "No vid this week" and a report of what was lifted are not.
bool expectsFilm(const Talk& talk);

}  // namespace jib::exchange
