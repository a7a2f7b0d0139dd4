// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/filming_request.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/base/quantity.h"
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

// How high: lifter, bar and phone from the side. {figure} is the lifter, whose middle is level with the lens.
constexpr const char* kHeight =
    R"svg(<svg viewBox="0 0 420 170" width="420" role="img" aria-label="How high the lens is">
<line x1="10" y1="150" x2="410" y2="150" stroke="#22304a" stroke-width="2"/>
<g transform="translate({figure_x} 0)">{figure}</g>
<g transform="translate({phone_x} 0)"><rect x="-7" y="{top}" width="14" height="28" rx="3" fill="#22304a"/><line x1="0" y1="{foot}" x2="0" y2="150" stroke="#22304a" stroke-width="3"/></g>
<line x1="{from_x}" y1="{lens_y}" x2="{to_x}" y2="{lens_y}" stroke="#b01279" stroke-width="1.5" stroke-dasharray="5 4"/>
<text x="210" y="{words_y}" font-size="13" fill="#b01279" text-anchor="middle">{lens}</text></svg>)svg";

// From where: the same from above. The bar lies across; who stands faces down the picture, who lies has the head up.
constexpr const char* kFromAbove =
    R"svg(<svg viewBox="0 {top} 420 {height}" width="420" role="img" aria-label="Where the phone is, from above: {view}">
{body}<line x1="130" y1="{bar_y}" x2="290" y2="{bar_y}" stroke="#22304a" stroke-width="4"/>
<rect x="136" y="{plate_y}" width="8" height="60" rx="2" fill="#3f7f93"/><rect x="276" y="{plate_y}" width="8" height="60" rx="2" fill="#3f7f93"/>
<line x1="{from_x}" y1="{from_y}" x2="{to_x}" y2="{to_y}" stroke="#b01279" stroke-width="1.5" stroke-dasharray="5 4"/>
<g transform="translate({phone_x} {phone_y}) rotate({turn})"><rect x="-14" y="-5" width="28" height="10" rx="3" fill="#22304a"/></g>
<text x="{words_x}" y="{words_y}" font-size="13" fill="#b01279" text-anchor="{anchor}">{distance}</text>
<text x="210" y="{caption_y}" font-size="13" fill="#525e74" text-anchor="middle">from above: {view}</text></svg>)svg";
constexpr const char* kStands =
    R"svg(<ellipse cx="210" cy="140" rx="40" ry="17" fill="#dfe6ec" stroke="#22304a" stroke-width="3"/><circle cx="210" cy="143" r="12" fill="#22304a"/>
<ellipse cx="192" cy="164" rx="7" ry="13" fill="#22304a"/><ellipse cx="228" cy="164" rx="7" ry="13" fill="#22304a"/>)svg";
constexpr const char* kLies =
    R"svg(<rect x="196" y="88" width="28" height="104" rx="4" fill="#dfe6ec" stroke="#525e74"/><ellipse cx="210" cy="126" rx="36" ry="13" fill="#dfe6ec" stroke="#22304a" stroke-width="3"/><circle cx="210" cy="98" r="11" fill="#22304a"/>
<path d="M202 168L176 206M218 168L244 206" stroke="#22304a" stroke-width="9" stroke-linecap="round"/>)svg";

// The lifter at the bottom of a squat, on a bench under the bar, over a bar on the floor, and with it on the shoulders.
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

constexpr const char* kBarAtTheShoulders =
    R"svg(<g fill="none" stroke="#22304a" stroke-width="6" stroke-linecap="round" stroke-linejoin="round">
<polyline points="68,148 90,148"/><polyline points="74,146 74,116 73,88 72,54"/><polyline points="72,56 86,70 88,48"/></g>
<circle cx="72" cy="34" r="11" fill="#22304a"/><circle cx="88" cy="48" r="24" fill="none" stroke="#3f7f93" stroke-width="5"/>)svg";

using Marks = std::vector<std::pair<std::string, std::string>>;

std::string filled(std::string drawing, const Marks& marks) {
  for (const auto& [mark, with] : marks)
    for (auto at = drawing.find(mark); at != std::string::npos; at = drawing.find(mark, at + with.size()))
      drawing.replace(at, mark.size(), with);
  return drawing;
}

std::string heightDrawing(const FilmingRequest& r) {
  const lifts::LiftDefinition* lift = lifts::liftNamed(r.lift);
  const bool lies = lift && lift->body.lying, from_floor = lift && lift->body.hangs(),
             overhead = lift && lift->body.overhead;
  constexpr int kHip_y = 106, kPad_y = 108, kKnee_y = 116, kChest_y = 64, kHalf = 14;
  const int lens_y = lies ? kPad_y : from_floor ? kKnee_y : overhead ? kChest_y : kHip_y;
  // The lifter faces right, or lies with the head on the left.
  const bool phone_left = r.stand == Stand::Behind || r.stand == Stand::HalfBehind || r.stand == Stand::Head;
  return filled(kHeight, {{"{figure_x}", phone_left ? "250" : "0"},
                          {"{phone_x}", phone_left ? "60" : "359"},
                          {"{from_x}", phone_left ? "70" : "145"},
                          {"{to_x}", phone_left ? "275" : "350"},
                          {"{figure}", lies         ? kOnTheBench
                                       : from_floor ? kOverTheBar
                                       : overhead   ? kBarAtTheShoulders
                                                    : kUnderTheBar},
                          {"{top}", std::to_string(lens_y - kHalf)},
                          {"{foot}", std::to_string(lens_y + kHalf)},
                          {"{lens_y}", std::to_string(lens_y)},
                          {"{words_y}", std::to_string(lens_y - 6)},
                          {"{lens}", escaped(r.lens)}});
}

// Degrees from the lifter's side towards the front, which is down the picture.
double bearing_deg(Stand stand) {
  switch (stand) {
    case Stand::Side:
      return 0;
    case Stand::HalfFront:
      return 45;
    case Stand::Front:
    case Stand::Feet:
      return 90;
    case Stand::HalfBehind:
      return -45;
    case Stand::Behind:
    case Stand::Head:
      return -90;
  }
  return 0;
}

std::string placeDrawing(const FilmingRequest& r) {
  const lifts::LiftDefinition* lift = lifts::liftNamed(r.lift);
  const bool lies = lift && lift->body.lying;
  constexpr double kMiddle_x = 210, kMiddle_y = 140, kNear = 40, kPhone_x = 170, kPhone_y = 118;
  const double bearing = radians(bearing_deg(r.stand)), c = std::cos(bearing), s = std::sin(bearing);
  // Farther to the side than to the front, as the picture is wide; the dashes begin outside the plates.
  const double far = std::abs(c) > 0.9 ? kPhone_x : kPhone_y;
  const double begin = std::abs(c) > 0.9 ? 2.2 * kNear : std::abs(s) > 0.9 ? 1.2 * kNear : 1.6 * kNear;
  const auto x = [&](double along) { return fmt::format("{:.0f}", kMiddle_x + along * c); };
  const auto y = [&](double along) { return fmt::format("{:.0f}", kMiddle_y + along * s); };
  // No more paper than the drawing needs: a phone behind is above, one before below.
  const int top = s < -0.1 ? 0 : 76, bottom = s > 0.1 ? 294 : 226;
  const bool upright = std::abs(s) > 0.9;
  return filled(kFromAbove, {{"{top}", std::to_string(top)},
                             {"{height}", std::to_string(bottom - top)},
                             {"{caption_y}", std::to_string(bottom - 6)},
                             {"{body}", lies ? kLies : kStands},
                             {"{bar_y}", lies ? "126" : "134"},
                             {"{plate_y}", lies ? "96" : "104"},
                             {"{from_x}", x(begin)},
                             {"{from_y}", y(begin)},
                             {"{to_x}", x(far - 10)},
                             {"{to_y}", y(far - 10)},
                             {"{phone_x}", x(far)},
                             {"{phone_y}", y(far)},
                             {"{turn}", fmt::format("{:.0f}", degrees(bearing) - 90)},
                             {"{words_x}", upright ? fmt::format("{:.0f}", kMiddle_x + 12) : x(0.5 * (begin + far))},
                             {"{words_y}", upright ? y(0.5 * (begin + far))
                                                   : fmt::format("{:.0f}", kMiddle_y + 0.5 * (begin + far) * s - 10)},
                             {"{anchor}", upright || std::abs(s) > 0.5 ? "start" : "middle"},
                             {"{distance}", escaped(r.distance)},
                             {"{view}", escaped(r.view)}});
}

constexpr std::pair<std::string_view, Stand> kStandNames[]{
    {"side", Stand::Side},     {"half front", Stand::HalfFront},
    {"front", Stand::Front},   {"half behind", Stand::HalfBehind},
    {"behind", Stand::Behind}, {"head", Stand::Head},
    {"feet", Stand::Feet}};

Stand readStand(coaching::TomlTable& table) {
  const std::string name = table.textOr("stand", "side");
  for (const auto& [known, stand] : kStandNames)
    if (known == name) return stand;
  table.refuse("\"stand\" is side, half front, front, half behind, behind, head or feet");
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
    r.stand = readStand(table);
    for (coaching::TomlTable& q : table.tables("question")) {
      r.questions.push_back({q.text("id"), q.text("title"), q.text("view"), q.text("lens"), q.texts("in_picture"),
                             readStand(q), q.textsOr("answers")});
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
    r.stand = q.stand;
  }
  return r;
}

std::string FilmingRequest::questionFor(std::string_view claim) const {
  for (const FilmingQuestion& q : questions)
    if (std::find(q.answers.begin(), q.answers.end(), claim) != q.answers.end()) return q.id;
  return {};
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
  html += placeDrawing(r) + heightDrawing(r) + "<ol>";
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
