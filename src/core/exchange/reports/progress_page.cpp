// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/progress_page.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/exchange/reports/report.h"
#include "core/library/dates.h"

namespace jib::exchange {
namespace {

constexpr double kWide = 320, kTall = 140, kEdge = 34, kFoot = 24, kHead = 16;

struct Frame {
  int days = 1;
  double low = 0, high = 1;
  std::string from;

  double x(const std::string& on) const {
    return kEdge + (kWide - kEdge - 10) * library::daysBetween(from, on).value_or(0) / std::max(1, days);
  }
  double y(double value) const { return kTall - kFoot - (kTall - kFoot - kHead) * (value - low) / (high - low); }
};

Frame frameFor(const ProgressStep& step) {
  Frame f;
  f.from = step.course.front().on;
  f.low = f.high = step.limit.value_or(step.course.front().value);
  for (const CoursePoint& p : step.course) {
    f.days = std::max(f.days, library::daysBetween(f.from, p.on).value_or(0));
    f.low = std::min(f.low, p.value - p.plus_minus);
    f.high = std::max(f.high, p.value + p.plus_minus);
  }
  const double room = 0.08 * std::max(1e-6, f.high - f.low);
  f.low -= room;
  f.high += room;
  return f;
}

std::string still(const std::string& jpeg, const std::string& caption) {
  if (jpeg.empty()) return {};
  return fmt::format("<td><img alt=\"{0}\" src=\"data:image/jpeg;base64,{1}\"><p class=small>{0}</p></td>",
                     escaped(caption), base64(jpeg));
}

void addStep(std::string& html, const ProgressStep& s) {
  html += fmt::format("<div class=cue><div><p class=say>{}</p>", escaped(s.title));
  html += fmt::format("<p class=why>{}</p>", escaped(s.state));
  if (!s.wording.empty()) html += fmt::format("<p><b>What I asked</b> {}</p>", escaped(s.wording));
  const std::string stills = still(s.then_jpeg, s.then_on) + still(s.now_jpeg, s.now_on);
  if (!stills.empty()) html += "<table class=pair><tr>" + stills + "</tr></table>";
  if (!s.then.empty() || !s.now.empty()) {
    html += fmt::format("<p><b>Then and now</b> {} → {}", escaped(s.then), escaped(s.now));
    if (!s.aim.empty()) html += fmt::format("; goal {}", escaped(s.aim));
    html += "</p>";
  }
  if (const std::string course = courseSvg(s); !course.empty()) html += "<div>" + course + "</div>";
  html += "</div></div>";
}

void addLines(std::string& html, const char* title, const std::vector<std::string>& lines, const char* kind = "lines") {
  if (lines.empty()) return;
  html += fmt::format("<h2>{}</h2><ul class={}>", title, kind);
  for (const std::string& line : lines) html += "<li>" + escaped(line) + "</li>";
  html += "</ul>";
}

}  // namespace

std::string courseSvg(const ProgressStep& step) {
  if (step.course.size() < 2) return {};
  const Frame f = frameFor(step);
  std::string svg =
      fmt::format("<svg viewBox=\"0 0 {0} {1}\" width=\"{0}\" height=\"{1}\" role=\"img\" aria-label=\"{2}\">", kWide,
                  kTall, escaped(step.title));
  if (step.limit)
    svg += fmt::format(
        "<line x1=\"{}\" y1=\"{:.1f}\" x2=\"{}\" y2=\"{:.1f}\" stroke=\"#8a7f62\" stroke-dasharray=\"5 4\"/>", kEdge,
        f.y(*step.limit), kWide - 6, f.y(*step.limit));
  std::string line;
  for (const CoursePoint& p : step.course)
    if (p.comparable) line += fmt::format("{:.1f},{:.1f} ", f.x(p.on), f.y(p.value));
  svg += fmt::format("<polyline points=\"{}\" fill=\"none\" stroke=\"#162a4d\" stroke-width=\"1.6\"/>", line);
  for (const CoursePoint& p : step.course) {
    const char* ink = p.comparable ? "#162a4d" : "#b9b39f";
    svg += fmt::format("<line x1=\"{0:.1f}\" y1=\"{1:.1f}\" x2=\"{0:.1f}\" y2=\"{2:.1f}\" stroke=\"#b9b39f\"/>",
                       f.x(p.on), f.y(p.value - p.plus_minus), f.y(p.value + p.plus_minus));
    svg += fmt::format("<circle cx=\"{:.1f}\" cy=\"{:.1f}\" r=\"3.6\" fill=\"{}\"/>", f.x(p.on), f.y(p.value), ink);
  }
  const auto text = [&](double x, double y, const char* anchor, const std::string& words) {
    svg += fmt::format("<text x=\"{:.1f}\" y=\"{:.1f}\" font-size=\"14\" fill=\"#525e74\" text-anchor=\"{}\">{}</text>",
                       x, y, anchor, escaped(words));
  };
  text(kEdge, kTall - 6, "start", library::spoken(step.course.front().on));
  text(kWide - 6, kTall - 6, "end", library::spoken(step.course.back().on));
  text(kEdge - 5, f.y(step.course.front().value) + 5, "end", fmt::format("{:.0f}", step.course.front().value));
  text(2, kHead - 3, "start", step.unit);
  return svg + "</svg>";
}

std::string progressToHtml(const ProgressPage& page) {
  std::string html = pageHead("Progress: " + page.athlete);
  html += fmt::format("<h1>{}</h1><p class=meta>How it's gone since {}. Written {}.</p>", escaped(page.athlete),
                      escaped(page.since), escaped(page.written_on));
  for (const ProgressStep& s : page.steps) addStep(html, s);
  if (!page.steps.empty())
    html +=
        "<p class=small>Pale points were filmed or lifted differently, so they don't compare. The dashed line is the "
        "goal. The thin bars show how sure each number is.</p>";
  addLines(html, "What's next", page.next);
  addLines(html, "Meets", page.meets);
  addLines(html, "Keep it safe", page.cautions, "small");
  if (!page.coach.empty()) html += fmt::format("<p class=sign>{}</p>", escaped(page.coach));
  return html + "</body></html>\n";
}

}  // namespace jib::exchange
