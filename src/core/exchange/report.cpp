// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/report.h"

#include <fmt/format.h>

extern "C" {
#include <libavutil/base64.h>
}

namespace jib::exchange {
namespace {

constexpr const char* kSheet = R"css(
body{background:#f3ecda;color:#162a4d;font-family:Cabin,"Segoe UI",sans-serif;margin:0 auto;max-width:46em;padding:2em 1.2em;line-height:1.45}
h1{font-family:Vollkorn,Georgia,serif;font-weight:500;font-style:italic;margin:0}
h2{font-family:Vollkorn,Georgia,serif;font-weight:500;font-style:italic;border-bottom:1px solid #cfc4a8;padding-bottom:.15em;margin-top:1.6em}
.meta{color:#525e74;margin-bottom:1.2em}
.cue{background:#fbf7ec;border-left:5px solid #b01279;padding:.7em 1em;margin:1em 0}
.cue .say{font-size:1.25em;font-weight:600}
.cue dl{margin:.5em 0 0;display:grid;grid-template-columns:8em 1fr;gap:.2em .8em}
.cue dt{color:#525e74}.cue dd{margin:0}
figure{margin:1em 0}figure img{width:100%;border:1px solid #cfc4a8}figcaption{color:#525e74;font-size:.92em}
table{border-collapse:collapse;width:100%;font-size:.92em}td,th{padding:.22em .5em;border-bottom:1px solid #e0d6bd;text-align:right}
td:first-child,th:first-child{text-align:left}th{color:#525e74;font-weight:500}
ul.small{font-size:.88em;color:#525e74}
@media print{body{background:#fff}.cue,figure,tr{page-break-inside:avoid}}
)css";

void addCues(std::string& html, const Report& r) {
  if (r.change_nothing) {
    html +=
        "<h2>Change nothing</h2><p>Every check that could be made passes. Keep going as you are; advice on a good "
        "lift can make it worse.</p>";
    return;
  }
  if (r.cues.empty()) return;
  html += r.cues.size() == 1 ? "<h2>One thing to try</h2>" : "<h2>What to try</h2>";
  for (const coaching::Cue& c : r.cues) {
    html +=
        fmt::format("<div class=cue><div>{}</div><div class=say>{}</div><dl>", escaped(c.title), escaped(c.wording));
    const auto row = [&](const char* name, const std::string& text) {
      if (!text.empty()) html += fmt::format("<dt>{}</dt><dd>{}</dd>", name, escaped(text));
    };
    row("Drill", c.drill);
    row("Load", c.load);
    row("For", fmt::format("{} weeks, then film again: same view, same load", c.weeks));
    row("It worked if", c.proof);
    row("Watch for", c.side_effect);
    row("What it costs", c.price);
    html += "</dl></div>";
  }
}

void addTable(std::string& html, const coaching::Analysis& a) {
  if (a.measures.reps.empty()) return;
  html += "<h2>What was measured</h2><table><tr><th></th>";
  for (std::size_t i = 0; i < a.measures.reps.size(); ++i) html += fmt::format("<th>Rep {}</th>", i + 1);
  html += "</tr>";
  for (std::size_t row = 0; row < a.measures.reps.front().size(); ++row) {
    bool any = false;
    std::string cells;
    for (const auto& rep : a.measures.reps) {
      const auto* m = rep[row].measured();
      any = any || m;
      cells += "<td>" + (m ? escaped(lifts::textWithSigma(*rep[row].kind, *m)) : std::string("–")) + "</td>";
    }
    if (any) html += fmt::format("<tr><td>{}</td>{}</tr>", escaped(a.measures.reps.front()[row].kind->title), cells);
  }
  html += "</table><ul class=small><li>± is one standard deviation. A dash: not measured from this view.</li></ul>";
}

}  // namespace

std::string escaped(std::string_view text) {
  std::string out;
  for (char c : text) {
    switch (c) {
      case '&':
        out += "&amp;";
        break;
      case '<':
        out += "&lt;";
        break;
      case '>':
        out += "&gt;";
        break;
      case '"':
        out += "&quot;";
        break;
      default:
        out += c;
    }
  }
  return out;
}

std::string base64(std::string_view bytes) {
  std::string out(AV_BASE64_SIZE(bytes.size()), '\0');
  av_base64_encode(out.data(), static_cast<int>(out.size()), reinterpret_cast<const uint8_t*>(bytes.data()),
                   static_cast<int>(bytes.size()));
  out.resize(out.size() - 1);  // its closing zero
  return out;
}

std::vector<std::string> cautionsFor(const coaching::Analysis& a) {
  std::vector<std::string> all;
  for (const auto& n : a.notices) all.push_back(n.text);
  all.push_back(
      "Depth and every other call here is a coach's view from one camera; your federation's rule book and its "
      "referees have the last word.");
  all.push_back("Begin a change lighter than usual, inside the rack with safeties set or with spotters.");
  all.push_back(
      "If anything hurts, stop and ask a physician or physiotherapist who knows lifting. Nothing here is a "
      "diagnosis, and no change of technique is a promise against pain.");
  return all;
}

std::string reportToHtml(const Report& r, const coaching::Analysis& a) {
  std::string html =
      "<!doctype html><html lang=en><head><meta charset=utf-8><meta name=viewport content=\"width=device-width\">";
  html +=
      fmt::format("<title>{}, {}</title><style>{}</style></head><body>", escaped(r.athlete), escaped(r.date), kSheet);
  html += fmt::format("<h1>{}</h1><div class=meta>{}</div>", escaped(r.athlete),
                      escaped(fmt::format("{} · {}{}", r.date, r.lift, r.load.empty() ? "" : " · " + r.load)));
  if (!r.greeting.empty()) html += "<p>" + escaped(r.greeting) + "</p>";
  if (!r.keep.empty()) {
    html += "<h2>Keep</h2><ul>";
    for (const auto& k : r.keep) html += "<li>" + escaped(k) + "</li>";
    html += "</ul>";
  }
  addCues(html, r);
  for (const ReportStill& s : r.stills)
    html +=
        fmt::format("<figure><img alt=\"{0}\" src=\"data:image/png;base64,{1}\"><figcaption>{0}</figcaption></figure>",
                    escaped(s.caption), base64(s.png));
  if (!r.follow_up.empty()) {
    html += "<h2>Asked before</h2><table><tr><th></th><th>Asked</th><th>Then</th><th>Now</th><th></th></tr>";
    for (const FollowUp& f : r.follow_up)
      html += fmt::format("<tr><td>{}</td><td>{}</td><td>{}</td><td>{}</td><td>{}</td></tr>", escaped(f.title),
                          escaped(f.asked_on), escaped(f.then), escaped(f.now), escaped(f.state));
    html += "</table>";
  }
  addTable(html, a);
  html += "<h2>Limits and cautions</h2><ul class=small>";
  for (const auto& c : r.cautions) html += "<li>" + escaped(c) + "</li>";
  html += fmt::format("<li>Judged in the style “{}”.</li></ul></body></html>", escaped(r.style_title));
  return html;
}

}  // namespace jib::exchange
