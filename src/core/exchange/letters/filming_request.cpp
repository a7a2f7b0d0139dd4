// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/filming_request.h"

#include <fmt/format.h>

#include <cmath>

#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"
#include "core/exchange/reports/report.h"
#include "core/library/dates.h"

namespace jib::exchange {
namespace {

// The load band in which two films can be compared: 5 % either way, in steps a bar can be loaded in.
std::string bandOf(double load_kg) {
  const auto step = [](double kg) { return 2.5 * std::round(kg / 2.5); };
  return fmt::format("{:g} to {:g} kg", step(0.95 * load_kg), step(1.05 * load_kg));
}

// The numbered points of a request.
std::vector<std::string> pointsOf(const FilmingRequest& r, const std::optional<SameAgain>& again) {
  std::vector<std::string> points;
  points.push_back(fmt::format("Film {}, the lens {}, from {} away.", r.view, r.lens, r.distance));
  if (again && again->load_kg)
    points.push_back(fmt::format("{} reps with {}: the same as last time, so that the two can be compared.", r.reps,
                                 bandOf(*again->load_kg)));
  else
    points.push_back(fmt::format("{} reps at {}.", r.reps, r.share));
  std::string seen = "In the picture from start to end:";
  for (std::size_t i = 0; i < r.in_picture.size(); ++i)
    seen += (i == 0 ? " " : i + 1 == r.in_picture.size() ? " and " : ", ") + r.in_picture[i];
  points.push_back(seen + ".");
  points.push_back("Stand the phone against something or on a tripod, level; nobody holds it.");
  points.push_back("Send the original file as an attachment, with lift, load, your best and your question.");
  return points;
}

// Lifter, bar and phone from the side, with the distance between them.
constexpr const char* kDrawing =
    R"svg(<svg viewBox="0 0 420 170" width="420" role="img" aria-label="The phone stands to the side, level with the hip">
<line x1="10" y1="150" x2="410" y2="150" stroke="#22304a" stroke-width="2"/>
<g fill="none" stroke="#22304a" stroke-width="6" stroke-linecap="round" stroke-linejoin="round">
<polyline points="70,148 92,148"/><polyline points="76,146 96,112 60,106 84,62"/></g>
<circle cx="92" cy="44" r="11" fill="#22304a"/><circle cx="80" cy="66" r="26" fill="none" stroke="#3f7f93" stroke-width="5"/>
<rect x="352" y="92" width="14" height="28" rx="3" fill="#22304a"/><line x1="359" y1="120" x2="359" y2="150" stroke="#22304a" stroke-width="3"/>
<line x1="64" y1="106" x2="350" y2="106" stroke="#b01279" stroke-width="1.5" stroke-dasharray="5 4"/>
<text x="150" y="100" font-size="13" fill="#b01279">level with the hip at the bottom</text>
<text x="190" y="142" font-size="13" fill="#525e74">{distance}</text></svg>)svg";

}  // namespace

Result<FilmingRequest> loadFilmingRequest(const std::filesystem::path& file) {
  FilmingRequest r;
  auto read = coaching::readToml(file, [&](const toml::table& root, const std::string& name) {
    coaching::TomlTable table(root, name);
    r.lift = table.text("lift");
    r.title = table.text("title");
    r.view = table.text("view");
    r.lens = table.text("lens");
    r.distance = table.text("distance");
    r.reps = static_cast<int>(table.number("reps"));
    r.share = table.text("share");
    r.in_picture = table.texts("in_picture");
    r.closing = table.text("closing");
    for (coaching::TomlTable& q : table.tables("question")) {
      r.questions.push_back({q.text("id"), q.text("title"), q.text("view"), q.text("lens"), q.texts("in_picture")});
      q.refuseUnknown();
    }
    table.refuseUnknown();
  });
  if (!read) return fail(read.error());
  return r;
}

FilmingRequest FilmingRequest::asking(std::string_view question) const {
  FilmingRequest r = *this;
  for (const FilmingQuestion& q : questions) {
    if (q.id != question) continue;
    r.title += ": " + q.title;
    r.view = q.view;
    r.lens = q.lens;
    r.in_picture = q.in_picture;
  }
  return r;
}

Result<FilmingRequest> filmingRequest(std::string_view lift, const std::filesystem::path& library_folder) {
  const std::string name = "requests/" + std::string(lift) + ".toml";
  std::error_code ignored;
  return loadFilmingRequest(std::filesystem::exists(library_folder / name, ignored) ? library_folder / name
                                                                                    : resource(name));
}

std::string requestText(const FilmingRequest& r, std::string_view first_name, const std::optional<SameAgain>& again) {
  std::string text = first_name.empty() ? "Hi,\n\n" : fmt::format("Hi {},\n\n", first_name);
  text += again ? fmt::format("It's time to check what we changed on {}: \"{}\". Please film it like this:\n",
                              library::spoken(again->asked_on), again->cue)
                : std::string("This is how to film so that I can judge it well:\n");
  int n = 0;
  for (const auto& point : pointsOf(r, again)) text += fmt::format("\n{}. {}", ++n, point);
  return text + "\n\n" + r.closing + "\n";
}

std::string requestPage(const FilmingRequest& r, std::string_view first_name, const std::optional<SameAgain>& again,
                        std::string_view still_png) {
  std::string drawing = kDrawing;
  const std::string mark = "{distance}";
  drawing.replace(drawing.find(mark), mark.size(), escaped(r.distance));
  std::string html = fmt::format(
      "<!doctype html><html lang=en><head><meta charset=utf-8><title>{0}</title><style>body{{font:16px/1.5 "
      "Cabin,sans-serif;"
      "color:#22304a;max-width:42em;margin:2em auto;padding:0 1em}}li{{margin:.5em 0}}figure{{margin:1em "
      "0}}img{{max-width:100%}}"
      "figcaption{{color:#525e74}}</style></head><body><h1>{0}</h1>",
      escaped(r.title));
  if (!first_name.empty()) html += fmt::format("<p>For {}.</p>", escaped(std::string(first_name)));
  if (again)
    html += fmt::format("<p>To look again at “{}”, asked on {}.</p>", escaped(again->cue), escaped(again->asked_on));
  html += drawing + "<ol>";
  for (const auto& point : pointsOf(r, again)) html += "<li>" + escaped(point) + "</li>";
  html += "</ol>";
  if (!still_png.empty())
    html += fmt::format(
        "<figure><img alt=\"last time\" src=\"data:image/png;base64,{}\"><figcaption>Last time. Stand the phone where "
        "the picture looks like this.</figcaption></figure>",
        base64(still_png));
  return html + "<p>" + escaped(r.closing) + "</p></body></html>";
}

}  // namespace jib::exchange
