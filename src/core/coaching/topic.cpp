// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/topic.h"

#include <algorithm>

#include "core/base/resources.h"
#include "core/coaching/limit_reader.h"

namespace jib::coaching {
namespace {

Limit readChange(TomlTable& table) {
  const std::string finding = table.text("finding");
  if (!table.textOr("measure", "").empty()) return readLimit(finding, table);
  Limit limit;
  limit.finding = finding;
  limit.limit = table.number("limit");
  limit.strong = table.number("strong");
  table.refuseUnknown();
  return limit;
}

Choice readChoice(TomlTable table) {
  Choice c;
  c.id = table.text("id");
  c.title = table.text("title");
  c.text = table.text("text");
  c.miss = table.textOr("miss", "");
  c.left_right_at_once = table.flagOr("left_right_at_once", false);
  c.silent = table.textsOr("silent");
  c.order = table.textsOr("order");
  for (TomlTable& limit : table.tables("limit")) c.limits.push_back(readChange(limit));
  for (TomlTable& say : table.tables("say")) {
    const std::string finding = say.text("finding");
    c.say[finding] = say.text("wording");
    say.refuseUnknown();
  }
  table.refuseUnknown();
  return c;
}

Topic readTopic(TomlTable table) {
  Topic t;
  t.id = table.text("id");
  t.title = table.text("title");
  t.about = table.text("about");
  for (const std::string& name : table.textsOr("lifts"))
    if (const lifts::LiftDefinition* lift = lifts::liftNamed(name))
      t.lifts.push_back(lift->id);
    else
      table.refuse("no lift is called \"" + name + "\"");
  for (const TomlTable& choice : table.tables("choice")) t.choices.push_back(readChoice(choice));
  table.refuseUnknown();
  return t;
}

void change(Style& style, const Limit& to) {
  const auto own =
      std::find_if(style.limits.begin(), style.limits.end(), [&](const Limit& l) { return l.finding == to.finding; });
  if (!to.measure.empty()) {
    if (own == style.limits.end())
      style.limits.push_back(to);
    else
      *own = to;
  } else if (own != style.limits.end()) {
    own->limit = to.limit;
    own->strong = to.strong;
  }
}

}  // namespace

bool Topic::concerns(lifts::LiftId lift) const {
  return TakenSide{{}, lifts}.concerns(lift);
}

const Choice* Topic::choice(std::string_view wanted) const {
  for (const Choice& c : choices)
    if (c.id == wanted) return &c;
  return nullptr;
}

Result<Topics> Topics::load(const std::filesystem::path& file) {
  Topics topics;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    TomlTable table(root, name);
    for (const TomlTable& topic : table.tables("topic")) topics.topics_.push_back(readTopic(topic));
    table.refuseUnknown();
  });
  if (!read) return fail(read.error());
  return topics;
}

Result<Topics> Topics::shipped() {
  return load(resource("topics.toml"));
}

const Topic* Topics::topic(std::string_view id) const {
  for (const Topic& t : topics_)
    if (t.id == id) return &t;
  return nullptr;
}

Style Topics::applied(Style style, const Switches& chosen) const {
  Switches all = style.switches;
  for (const auto& [topic, choice] : chosen) all[topic] = choice;
  for (const Topic& t : topics_) {
    const auto wanted = all.find(t.id);
    const Choice* c = wanted == all.end() ? nullptr : t.choice(wanted->second);
    if (!c) continue;
    for (const Limit& limit : c->limits) change(style, limit);
    for (const std::string& finding : c->silent)
      std::erase_if(style.limits, [&](const Limit& l) { return l.finding == finding; });
    for (const auto& [finding, wording] : c->say) style.say[finding] = wording;
    if (!c->miss.empty()) style.miss = c->miss;
    if (c->left_right_at_once) style.left_right_at_once = true;
    // How the coach goes over a lift is nothing the athlete has to know.
    if (c->order.empty())
      style.sides.push_back({t.title + ": " + c->title, t.lifts});
    else
      style.looking_order = c->order;
  }
  style.switches = std::move(all);
  return style;
}

}  // namespace jib::coaching
