// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/reports/report.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "core/coaching/drill.h"

extern "C" {
#include <libavutil/base64.h>
}

namespace jib::exchange {
namespace {

constexpr std::size_t kNumbers = 5;  // more carries nothing

constexpr const char* kSheet = R"css(
*{box-sizing:border-box}
body{background:#f3ecda;color:#162a4d;font:17px/1.45 Cabin,"Segoe UI",Roboto,sans-serif;margin:0 auto;max-width:34em;padding:20px 16px 28px}
h1{font:italic 500 1.75em/1.15 Vollkorn,Georgia,serif;margin:0}
h2{font:italic 500 1.3em/1.2 Vollkorn,Georgia,serif;margin:1.5em 0 .5em}
p{margin:.6em 0}
.meta{color:#525e74;margin:.25em 0 1.1em;font-size:.94em}
ul.good{list-style:none;margin:0;padding:0}
ul.good li{padding-left:1.5em;position:relative;margin:.35em 0}
ul.good li:before{content:"\2713";color:#176a4f;font-weight:700;position:absolute;left:.2em}
.cue{background:#fbf7ec;border-left:5px solid #b01279;margin:0 0 1em;border-radius:0 6px 6px 0;overflow:hidden}
.cue img{display:block;width:100%}
.cue div{padding:.8em 1em .9em}
.say{font-size:1.3em;font-weight:700;line-height:1.25;margin:0 0 .25em}
.why{color:#525e74;margin:0}
.doubt{color:#805205}
.cue p b,.card p b{color:#525e74;font-weight:600;font-size:.85em;display:block}
ul.lines{margin:0;padding-left:1.2em}ul.lines li{margin:.35em 0}
table{border-collapse:collapse;width:100%;font-size:.95em}
td,th{padding:.42em .3em;border-bottom:1px solid #ddd2b6;text-align:right;vertical-align:top}
td{white-space:nowrap}
td:first-child,th:first-child{text-align:left;padding-left:0;white-space:normal}
th{color:#525e74;font-weight:500}
.small{font-size:.86em;color:#525e74}
ul.small{padding-left:1.2em;margin:.4em 0 0}
details{margin-top:1.4em}summary{color:#525e74;cursor:pointer}
.card{margin:.5em 0 .8em;border-top:1px solid #ddd2b6;border-bottom:1px solid #ddd2b6;padding:.5em 0}
.fig svg,.fig img{display:block;width:60%;max-width:15em;margin:.5em auto}
.all{overflow-x:auto}
.pair td{width:50%;border:0;padding:0 .3em;white-space:normal}.pair img{width:100%}
.cue svg{display:block;width:100%;max-width:24em}
.sign{margin:1.6em 0 0}
@media print{body{background:#fff;font-size:11pt}.cue,tr{page-break-inside:avoid}.cue img{max-width:60%}}
)css";

std::string row(const char* name, const std::string& text) {
  return text.empty() ? std::string() : fmt::format("<p><b>{}</b> {}</p>", name, escaped(text));
}

// How a drill is done, folded away under its line; the figure has the athlete's own proportions.
void addDrillCard(std::string& html, const coaching::DrillCard& card, const coaching::Limbs& limbs) {
  const std::string figure = card.jpeg.empty() ? coaching::drillSvg(card.posture, limbs, card.title)
                                               : fmt::format("<img alt=\"{}\" src=\"data:image/jpeg;base64,{}\">",
                                                             escaped(card.title), base64(card.jpeg));
  html += fmt::format("<details class=card><summary>How to do it: {}</summary>", escaped(card.title));
  if (!figure.empty()) html += fmt::format("<div class=fig>{}</div>", figure);
  html += row("What it's for", card.purpose) + row("Setup", card.setup) + row("How much", card.dose) +
          row("What must not happen", card.must_not) + "</details>";
}

void addCues(std::string& html, const Report& r, const coaching::Analysis& a) {
  const auto stills = [&](std::size_t cue) {
    std::string all;
    for (const ReportStill& s : r.stills)
      if (s.cue == cue)
        all += fmt::format("<img alt=\"{}\" src=\"data:image/jpeg;base64,{}\">", escaped(s.caption), base64(s.jpeg));
    return all;
  };
  if (r.change_nothing || r.cues.empty()) {
    if (r.change_nothing)
      html += "<h2>No changes</h2><p>Nothing to change in what I can see here. Keep doing what you're doing.</p>";
    if (!r.stills.empty()) html += "<div class=cue>" + stills(r.stills.front().cue) + "</div>";
    return;
  }
  const coaching::Limbs limbs = coaching::limbsOf(a);
  std::set<std::string> shown;  // one card, however many cues ask for it
  html += r.cues.size() == 1 ? "<h2>One thing to work on</h2>" : "<h2>What to work on, in this order</h2>";
  for (std::size_t i = 0; i < r.cues.size(); ++i) {
    const coaching::Cue& c = r.cues[i];
    const bool doubtful = c.basis == coaching::Basis::TooClose;
    html += fmt::format("<div class=cue>{}<div><p class=say>{}</p>", stills(i), escaped(c.wording));
    if (const std::string title = coaching::titleWithBasis(c); !title.empty())
      html += fmt::format("<p class=\"why{}\">{}</p>", doubtful ? " doubt" : "", escaped(title));
    if (i < r.film_s.size() && r.film_s[i])
      html += row("In the video",
                  fmt::format("at {}:{:02}", static_cast<int>(*r.film_s[i]) / 60, static_cast<int>(*r.film_s[i]) % 60));
    if (c.change) html += row("Change", coaching::textOf(*c.change));
    html += row("Drill", c.drill);
    if (const auto* card = r.drills.cardFor(c.drill, a.request.lift); card && shown.insert(card->id).second)
      addDrillCard(html, *card, limbs);
    // Two cues are trained together: the load is said once.
    if (i == 0) html += row("Load", c.load);
    html += row("It worked if", c.proof);
    html += row("Watch for", c.side_effect);
    html += row("What it costs", c.price);
    html += "</div></div>";
  }
  // Frames the coach drew on without a cue.
  if (const std::string more = stills(r.cues.size()); !more.empty()) html += "<div class=cue>" + more + "</div>";
}

void addNumbers(std::string& html, const std::vector<KeyNumber>& numbers) {
  if (numbers.empty()) return;
  const bool then = std::any_of(numbers.begin(), numbers.end(), [](const KeyNumber& n) { return !n.then.empty(); });
  html += fmt::format("<h2>The numbers</h2><table><tr><th></th>{}<th>Now</th><th>Goal</th></tr>",
                      then ? "<th>Then</th>" : "");
  for (const KeyNumber& n : numbers)
    html += fmt::format("<tr><td>{}{}</td>{}<td>{}</td><td>{}</td></tr>", escaped(n.title),
                        n.doubtful ? "<br><span class=\"small doubt\">too close to call</span>" : "",
                        then ? "<td>" + escaped(n.then) + "</td>" : "", escaped(n.now), escaped(n.aim));
  html +=
      "</table><p class=small>± is the range each call rests on: nine times in ten the true number lies inside it.</p>";
}

void addList(std::string& html, const char* title, const std::vector<std::string>& lines) {
  if (lines.empty()) return;
  html += fmt::format("<h2>{}</h2><ul class=lines>", title);
  for (const std::string& line : lines) html += "<li>" + escaped(line) + "</li>";
  html += "</ul>";
}

void addFollowUp(std::string& html, const Report& r) {
  if (r.follow_up.empty()) return;
  html += "<h2>What you worked on</h2><ul class=good>";
  for (const FollowUp& f : r.follow_up) html += fmt::format("<li>{}: {}</li>", escaped(f.title), escaped(f.state));
  html += "</ul>";
}

void addTable(std::string& html, const coaching::Analysis& a) {
  if (a.measures.reps.empty()) return;
  html += "<details><summary>All numbers</summary><div class=all><table><tr><th></th>";
  for (std::size_t i = 0; i < a.measures.reps.size(); ++i) html += fmt::format("<th>Rep {}</th>", i + 1);
  html += "</tr>";
  for (std::size_t i = 0; i < a.measures.reps.front().size(); ++i) {
    bool any = false;
    std::string cells;
    for (const auto& rep : a.measures.reps) {
      const auto* m = rep[i].measured();
      any = any || m;
      cells += "<td>" + (m ? escaped(lifts::textWithSigma(*rep[i].kind, *m)) : std::string("–")) + "</td>";
    }
    if (any) html += fmt::format("<tr><td>{}</td>{}</tr>", escaped(a.measures.reps.front()[i].kind->title), cells);
  }
  html += "</table></div><p class=small>A dash: can't tell from this angle.</p></details>";
}

// "under 12 %", "between -5 and 5 cm": what a finding's limit asks for.
std::string aimOf(const coaching::Finding& f) {
  if (!f.kind) return {};
  const std::string limit = lifts::text(*f.kind, {f.limit, 0, 0});
  switch (f.side) {
    case coaching::Side::Above:
      return "under " + limit;
    case coaching::Side::Below:
      return "over " + limit;
    case coaching::Side::Beyond:
      return "within ±" + limit;
  }
  return limit;
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

std::vector<std::string> standingCautions(const lifts::LiftDefinition& lift) {
  return {
      "This is one camera angle. At a meet, the rule book and the judges have the last word.",
      "Start any change lighter than usual" + (lift.safely.empty() ? "." : ", " + std::string(lift.safely) + "."),
      "If anything hurts, stop and see a doctor or physical therapist who knows lifting. Nothing here is a diagnosis, "
      "and no technique change guarantees you'll be pain-free."};
}

std::vector<KeyNumber> keyNumbers(const Report& r, const coaching::Analysis& a) {
  const lifts::LiftDefinition& lift = lifts::definition(a.request.lift);
  std::vector<KeyNumber> all;
  std::vector<std::string> told;
  const auto earlier = [&](const std::string& measure) {
    for (const FollowUp& f : r.follow_up)
      if (!measure.empty() && f.measure == measure) return f.then;
    return std::string();
  };
  for (const coaching::Cue& c : r.cues) {
    const lifts::MeasureDefinition* kind = lifts::measureDefinition(lift, c.measure);
    if (!kind || !c.known || std::find(told.begin(), told.end(), c.measure) != told.end()) continue;
    told.push_back(c.measure);
    KeyNumber n{std::string(kind->title),
                earlier(c.measure),
                lifts::textWithSigma(*kind, {c.value, c.sigma, 0}),
                {},
                c.basis == coaching::Basis::TooClose};
    for (const coaching::Finding& f : a.findings)
      if (f.id == c.finding) n.aim = aimOf(f);
    all.push_back(std::move(n));
  }
  for (const FollowUp& f : r.follow_up) {
    const lifts::MeasureDefinition* kind = lifts::measureDefinition(lift, f.measure);
    if (!kind || f.now.empty() || std::find(told.begin(), told.end(), f.measure) != told.end()) continue;
    told.push_back(f.measure);
    KeyNumber n{std::string(kind->title), f.then, f.now, {}, false};
    for (const coaching::Finding& finding : a.findings)
      if (finding.kind == kind) n.aim = aimOf(finding);
    all.push_back(std::move(n));
  }
  if (all.size() > kNumbers) all.resize(kNumbers);
  return all;
}

std::string pageHead(const std::string& title) {
  return fmt::format(
      "<!doctype html><html lang=en><head><meta charset=utf-8>"
      "<meta name=viewport content=\"width=device-width,initial-scale=1\">"
      "<title>{}</title><style>{}</style></head><body>",
      escaped(title), kSheet);
}

std::string reportToHtml(const Report& r, const coaching::Analysis& a) {
  const auto joined = [](std::initializer_list<std::string> parts) {
    std::string line;
    for (const std::string& part : parts)
      if (!part.empty()) line += (line.empty() ? "" : " · ") + part;
    return line;
  };
  std::string html = pageHead(joined({r.athlete, r.lift, r.filmed_on}));
  html += fmt::format("<h1>{}</h1><div class=meta>{}</div>", escaped(r.athlete),
                      escaped(joined({r.lift, r.load, r.filmed_on.empty() ? "" : "sent " + r.filmed_on})));
  if (!r.greeting.empty()) html += "<p>" + escaped(r.greeting) + "</p>";
  if (!r.keep.empty()) {
    html += "<h2>What's going well</h2><ul class=good>";
    for (const std::string& line : r.keep) html += "<li>" + escaped(line) + "</li>";
    html += "</ul>";
  }
  addCues(html, r, a);
  addList(html, "While it hurts", r.pain);
  addList(html, "Your week", r.week);
  addNumbers(html, keyNumbers(r, a));
  addFollowUp(html, r);
  if (!r.closing.empty()) html += "<p>" + escaped(r.closing) + "</p>";
  if (!r.next.empty()) html += "<h2>Next clip</h2><p>" + escaped(r.next) + "</p>";
  if (!r.coach.empty()) html += "<p class=sign>" + escaped(joined({r.coach, r.written_on})) + "</p>";
  html += "<ul class=small>";
  for (const auto& c : r.cautions) html += "<li>" + escaped(c) + "</li>";
  for (const auto& c : standingCautions(lifts::definition(a.request.lift))) html += "<li>" + escaped(c) + "</li>";
  html += "</ul>";
  if (r.all_numbers) addTable(html, a);
  return html + "</body></html>";
}

}  // namespace jib::exchange
