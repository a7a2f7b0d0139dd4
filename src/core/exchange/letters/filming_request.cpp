// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/filming_request.h"
#include "core/base/quantity.h"

#include <fmt/format.h>

#include <cmath>

#include "core/base/resources.h"
#include "core/coaching/loading.h"
#include "core/coaching/toml_reader.h"
#include "core/exchange/reports/report.h"
#include "core/library/dates.h"
#include "core/lifts/lift.h"

namespace jib::exchange {
namespace {

// The load band in which two films can be compared: 5 % either way, in steps a bar can be loaded in.
std::string bandOf(double load_kg) {
  const auto step = [](double kg) { return 2.5 * std::round(kg / 2.5); };
  return massText(step(0.95 * load_kg)) + " to " + massText(step(1.05 * load_kg));
}

// The numbered points of a request.
std::vector<std::string> pointsOf(const FilmingRequest& r, const std::optional<SameAgain>& again) {
  std::vector<std::string> points;
  points.push_back(fmt::format("Film {}, phone {}, {} away.", r.view, r.lens, r.distance));
  if (again && again->load_kg)
    points.push_back(
        fmt::format("{} reps with {}, same as last time, so we can compare.", r.reps, bandOf(*again->load_kg)));
  else
    points.push_back(fmt::format("{} reps at {}.", r.reps, r.share));
  std::string seen = "In the picture the whole time:";
  for (std::size_t i = 0; i < r.in_picture.size(); ++i)
    seen += (i == 0 ? " " : i + 1 == r.in_picture.size() ? " and " : ", ") + r.in_picture[i];
  points.push_back(seen + ".");
  points.push_back("Prop the phone up or use a tripod, level. Nobody holds it.");
  points.push_back("Send the original file as an attachment, with lift, load, your max and your question.");
  return points;
}

// Lifter, bar and phone from the side, with the distance between them. {figure} is the lifter, whose middle is level
// with the lens.
constexpr const char* kDrawing =
    R"svg(<svg viewBox="0 0 420 170" width="420" role="img" aria-label="The phone stands to the side of the lifter">
<line x1="10" y1="150" x2="410" y2="150" stroke="#22304a" stroke-width="2"/>
{figure}
<rect x="352" y="{top}" width="14" height="28" rx="3" fill="#22304a"/><line x1="359" y1="{foot}" x2="359" y2="150" stroke="#22304a" stroke-width="3"/>
<line x1="130" y1="{lens_y}" x2="350" y2="{lens_y}" stroke="#b01279" stroke-width="1.5" stroke-dasharray="5 4"/>
<text x="150" y="{words_y}" font-size="13" fill="#b01279">{lens}</text>
<text x="190" y="142" font-size="13" fill="#525e74">{distance}</text></svg>)svg";

// The lifter at the bottom of a squat, on a bench under the bar, and over a bar on the floor.
constexpr const char* kUnderTheBar =
    R"svg(<g fill="none" stroke="#22304a" stroke-width="6" stroke-linecap="round" stroke-linejoin="round">
<polyline points="70,148 92,148"/><polyline points="76,146 96,112 60,106 84,62"/></g>
<circle cx="92" cy="44" r="11" fill="#22304a"/><circle cx="80" cy="66" r="26" fill="none" stroke="#3f7f93" stroke-width="5"/>)svg";
constexpr const char* kOnTheBench =
    R"svg(<rect x="40" y="108" width="78" height="6" fill="#525e74"/><path d="M50 114V148M106 114V148" stroke="#525e74" stroke-width="4"/>
<g fill="none" stroke="#22304a" stroke-width="6" stroke-linecap="round" stroke-linejoin="round">
<polyline points="122,146 140,146"/><polyline points="126,144 136,104 108,102 60,102"/><polyline points="62,100 68,116 70,84"/></g>
<circle cx="42" cy="100" r="10" fill="#22304a"/><circle cx="70" cy="84" r="24" fill="none" stroke="#3f7f93" stroke-width="5"/>)svg";
constexpr const char* kOverTheBar =
    R"svg(<g fill="none" stroke="#22304a" stroke-width="6" stroke-linecap="round" stroke-linejoin="round">
<polyline points="66,148 90,148"/><polyline points="72,146 84,116 54,92 96,66"/><polyline points="96,68 92,124"/></g>
<circle cx="108" cy="52" r="11" fill="#22304a"/><circle cx="92" cy="124" r="25" fill="none" stroke="#3f7f93" stroke-width="5"/>)svg";

std::string drawingOf(const FilmingRequest& r) {
  const lifts::LiftDefinition* lift = lifts::liftNamed(r.lift);
  const bool lies = lift && lift->body.lying, from_floor = lift && lift->body.starts_low;
  constexpr int kHip_y = 106, kPad_y = 108, kKnee_y = 116, kHalf = 14;
  const int lens_y = lies ? kPad_y : from_floor ? kKnee_y : kHip_y;
  std::string drawing = kDrawing;
  const auto put = [&](const std::string& mark, const std::string& with) {
    for (auto at = drawing.find(mark); at != std::string::npos; at = drawing.find(mark, at + with.size()))
      drawing.replace(at, mark.size(), with);
  };
  put("{figure}", lies ? kOnTheBench : from_floor ? kOverTheBar : kUnderTheBar);
  put("{top}", std::to_string(lens_y - kHalf));
  put("{foot}", std::to_string(lens_y + kHalf));
  put("{lens_y}", std::to_string(lens_y));
  put("{words_y}", std::to_string(lens_y - 6));
  put("{lens}", escaped(r.lens));
  put("{distance}", escaped(r.distance));
  return drawing;
}

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
                : std::string("This is how to film it so I can judge it:\n");
  int n = 0;
  for (const auto& point : pointsOf(r, again)) text += fmt::format("\n{}. {}", ++n, point);
  return text + "\n\n" + r.closing + "\n";
}

std::string requestPage(const FilmingRequest& r, std::string_view first_name, const std::optional<SameAgain>& again,
                        std::string_view still_png) {
  std::string html = fmt::format(
      "<!doctype html><html lang=en><head><meta charset=utf-8><title>{0}</title><style>body{{font:16px/1.5 "
      "Cabin,sans-serif;"
      "color:#22304a;max-width:42em;margin:2em auto;padding:0 1em}}li{{margin:.5em 0}}figure{{margin:1em "
      "0}}img{{max-width:100%}}"
      "figcaption{{color:#525e74}}</style></head><body><h1>{0}</h1>",
      escaped(r.title));
  if (!first_name.empty()) html += fmt::format("<p>For {}.</p>", escaped(std::string(first_name)));
  if (again)
    html += fmt::format("<p>So we can check “{}” from {} again.</p>", escaped(again->cue),
                        escaped(library::spoken(again->asked_on)));
  html += drawingOf(r) + "<ol>";
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
