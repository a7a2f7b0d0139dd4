// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/drill.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/base/ascii.h"
#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::coaching {
namespace {

DrillPosture::Bar barNamed(const std::string& name, TomlTable& table) {
  using Bar = DrillPosture::Bar;
  for (const auto& [known, bar] :
       {std::pair("back", Bar::Back), std::pair("front", Bar::Front), std::pair("hands", Bar::Hands),
        std::pair("chest", Bar::Chest), std::pair("none", Bar::None)})
    if (name == known) return bar;
  table.refuse("\"bar\" is \"back\", \"front\", \"hands\", \"chest\" or \"none\"");
}

DrillCard readCard(const std::string& id, TomlTable table) {
  DrillCard card;
  card.id = id;
  card.title = table.text("title");
  card.purpose = table.text("purpose");
  card.setup = table.text("setup");
  card.dose = table.text("dose");
  card.must_not = table.text("must_not");
  card.words = table.texts("words");
  for (const std::string& name : table.texts("lifts")) {
    const auto* lift = lifts::liftNamed(name);
    if (!lift) table.refuse("there is no lift \"" + name + "\"");
    card.lifts.push_back(lift->id);
  }
  DrillPosture& p = card.posture;
  p.shin_deg = table.numberOr("shin", 0);
  p.thigh_deg = table.numberOr("thigh", 0);
  p.torso_deg = table.numberOr("torso", 0);
  p.above_chest_m = table.numberOr("above_chest", 0);
  p.bar = barNamed(table.textOr("bar", "back"), table);
  p.plate_under_heels = table.flagOr("plate_under_heels", false);
  p.plate_under_toes = table.flagOr("plate_under_toes", false);
  p.box = table.flagOr("box", false);
  p.blocks = table.flagOr("blocks", false);
  p.band = table.flagOr("band", false);
  table.refuseUnknown();
  if (card.words.empty() || card.lifts.empty()) table.refuse("a drill has \"words\" and \"lifts\"");
  return card;
}

}  // namespace

Result<DrillBook> DrillBook::load(const std::filesystem::path& file) {
  DrillBook book;
  auto read = readToml(file, [&](const toml::table& root, const std::string& name) {
    for (const auto& [id, node] : root) {
      const auto* table = node.as_table();
      if (!table) throw TomlTrouble{fmt::format("{}: {} is no drill", name, id.str())};
      book.cards_.push_back(readCard(std::string(id.str()), TomlTable(*table, name)));
    }
  });
  if (!read) return fail(read.error());
  return book;
}

Result<DrillBook> DrillBook::shipped() {
  return load(resource("drills.toml"));
}

const DrillCard* DrillBook::cardFor(std::string_view drill, lifts::LiftId lift) const {
  const std::string text = asciiLower(drill);
  const DrillCard* best = nullptr;
  std::size_t longest = 0;
  for (const DrillCard& card : cards_) {
    if (std::find(card.lifts.begin(), card.lifts.end(), lift) == card.lifts.end()) continue;
    for (const std::string& words : card.words)
      if (words.size() > longest && text.find(words) != std::string::npos) {
        best = &card;
        longest = words.size();
      }
  }
  return best;
}

}  // namespace jib::coaching
