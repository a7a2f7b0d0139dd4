// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/dates.h"

#include <fmt/format.h>

#include <charconv>
#include <chrono>
#include <ctime>
#include <optional>

namespace jib::library {
namespace {

using std::chrono::sys_days;

std::optional<sys_days> parsed(const std::string& iso) {
  int y = 0;
  unsigned m = 0, d = 0;
  const char* const end = iso.data() + iso.size();
  const auto year = std::from_chars(iso.data(), end, y);
  if (year.ec != std::errc() || year.ptr == end || *year.ptr != '-') return std::nullopt;
  const auto month = std::from_chars(year.ptr + 1, end, m);
  if (month.ec != std::errc() || month.ptr == end || *month.ptr != '-') return std::nullopt;
  if (std::from_chars(month.ptr + 1, end, d).ec != std::errc()) return std::nullopt;
  const std::chrono::year_month_day date{std::chrono::year{y}, std::chrono::month{m}, std::chrono::day{d}};
  return date.ok() ? std::optional(sys_days{date}) : std::nullopt;
}

std::string text(sys_days day) {
  const std::chrono::year_month_day d{day};
  return fmt::format("{:04}-{:02}-{:02}", static_cast<int>(d.year()), static_cast<unsigned>(d.month()),
                     static_cast<unsigned>(d.day()));
}

}  // namespace

std::string today() {
  // The day on the reader's own wall: UTC's is another one every evening west of Greenwich and every morning east of
  // it.
  const std::time_t now = std::time(nullptr);
  std::tm here{};
  localtime_r(&now, &here);
  return text(std::chrono::year(here.tm_year + 1900) / (here.tm_mon + 1) / here.tm_mday);
}

bool isDate(const std::string& iso) {
  const auto day = parsed(iso);
  return day && text(*day) == iso;
}

std::string spoken(const std::string& iso) {
  constexpr const char* kMonths[]{"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"};
  const auto day = parsed(iso);
  if (!day) return iso;
  const std::chrono::year_month_day d{*day};
  return fmt::format("{} {} {}", static_cast<unsigned>(d.day()), kMonths[static_cast<unsigned>(d.month()) - 1],
                     static_cast<int>(d.year()));
}

std::string daysLater(const std::string& iso, int days) {
  const auto day = parsed(iso);
  return day ? text(*day + std::chrono::days{days}) : iso;
}

std::string reviewDay(const std::string& iso, int weeks) {
  std::string day = daysLater(iso, 7 * weeks);
  const auto holiday = [&] {
    const std::string md = day.size() == 10 ? day.substr(5) : std::string();
    return md == "12-24" || md == "12-25" || md == "12-26" || md == "12-31" || md == "01-01";
  };
  while (holiday()) day = daysLater(day, 1);
  return day;
}

std::optional<int> daysBetween(const std::string& from, const std::string& to) {
  const auto a = parsed(from), b = parsed(to);
  if (!a || !b) return std::nullopt;
  return static_cast<int>((*b - *a).count());
}

}  // namespace jib::library
