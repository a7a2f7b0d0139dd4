// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

namespace jib::library {

// Calendar days as ISO text ("2026-11-25"), which sorts as it should.
std::string today();
bool isDate(const std::string& iso);  // a day of the calendar, written YYYY-MM-DD
// As people write it: "16 Nov 2026"; the same text when it is not a date.
std::string spoken(const std::string& iso);
std::string daysLater(const std::string& iso, int days);  // the same text when it is not a date
// The day to look again, so many weeks on; one that falls on a holiday everybody keeps is moved to the next ordinary
// day.
std::string reviewDay(const std::string& iso, int weeks);
std::optional<int> daysBetween(const std::string& from_iso, const std::string& to_iso);  // nullopt: one is no date

}  // namespace jib::library
