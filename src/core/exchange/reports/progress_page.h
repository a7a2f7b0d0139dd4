// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace jib::exchange {

// One clip in the course of a number, in the unit the athlete reads.
struct CoursePoint {
  std::string on;  // ISO date
  double value = 0, plus_minus = 0;
  bool comparable = true;  // with the latest; the others are paler and not joined
};

// One thing that was asked, from the clip it was asked on to the latest that shows it. Words as the athlete reads them.
struct ProgressStep {
  std::string title, wording;
  std::string state;            // "Done", "Better", "Still working on it"
  std::string then_on, now_on;  // days as people write them
  std::string then, now, aim;   // numbers with their ±; empty where there are none
  std::string then_jpeg, now_jpeg;
  std::vector<CoursePoint> course;
  std::optional<double> limit;  // in the same unit
  std::string unit;
};

// What an athlete gets after a while: then and now, the course of the numbers, what comes next.
struct ProgressPage {
  std::string athlete, coach, written_on, since;
  std::vector<ProgressStep> steps;
  std::vector<std::string> meets;  // a line each; empty for the young
  std::vector<std::string> next;   // what is being worked on now
  std::vector<std::string> cautions;
};

// The course as a small chart that is part of the page: points with their ±, those that can be compared joined, the
// limit a dashed line. Empty with fewer than two points.
std::string courseSvg(const ProgressStep& step);

// One self-contained page, for a phone and for A4, as reportToHtml() makes them.
std::string progressToHtml(const ProgressPage& page);

}  // namespace jib::exchange
