// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/drill.h"

#include <fmt/format.h>

#include <toml++/toml.h>

#include <algorithm>
#include <map>
#include <sstream>

#include "core/base/ascii.h"
#include "core/base/files.h"
#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::coaching {
namespace {

using Bar = DrillPosture::Bar;
constexpr std::pair<const char*, Bar> kBars[]{
    {"back", Bar::Back}, {"front", Bar::Front}, {"hands", Bar::Hands}, {"chest", Bar::Chest}, {"none", Bar::None}};

DrillPosture::Bar barNamed(const std::string& name, TomlTable& table) {
  for (const auto& [known, bar] : kBars)
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
  card.picture = table.textOr("picture", "");
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

namespace {

namespace fs = std::filesystem;

fs::path ownFile(const fs::path& folder) {
  return folder / "drills.toml";
}

Result<std::vector<DrillCard>> ownCards(const fs::path& folder) {
  std::error_code ignored;
  if (!fs::exists(ownFile(folder), ignored)) return std::vector<DrillCard>{};
  auto book = DrillBook::load(ownFile(folder));
  if (!book) return fail(book.error());
  std::vector<DrillCard> cards = book->cards();
  for (DrillCard& card : cards) {
    card.own = true;
    if (card.picture.empty()) continue;
    // A file that came from elsewhere names nothing outside its own folder.
    auto bytes = leadsInside(card.picture) ? FileSystem::real().read(DrillBook::pictureFile(folder, card))
                                           : Result<std::string>(std::string());
    card.jpeg = bytes.value_or(std::string());
  }
  return cards;
}

std::string written(const std::vector<DrillCard>& cards) {
  const auto list = [](const std::vector<std::string>& texts) {
    toml::array all;
    for (const std::string& text : texts) all.push_back(text);
    return all;
  };
  toml::table root;
  for (const DrillCard& card : cards) {
    toml::table t{{"title", card.title}, {"purpose", card.purpose},   {"setup", card.setup},
                  {"dose", card.dose},   {"must_not", card.must_not}, {"words", list(card.words)}};
    std::vector<std::string> of;
    for (const lifts::LiftId lift : card.lifts) of.emplace_back(lifts::definition(lift).name);
    t.insert("lifts", list(of));
    if (!card.picture.empty()) t.insert("picture", card.picture);
    const DrillPosture& p = card.posture;
    for (const auto& [key, value] : {std::pair("shin", p.shin_deg),
                                     {"thigh", p.thigh_deg},
                                     {"torso", p.torso_deg},
                                     {"above_chest", p.above_chest_m}})
      if (value != 0) t.insert(key, value);
    for (const auto& [name, bar] : kBars)
      if (p.bar == bar) t.insert("bar", name);
    for (const auto& [key, on] : {std::pair("plate_under_heels", p.plate_under_heels),
                                  {"plate_under_toes", p.plate_under_toes},
                                  {"box", p.box},
                                  {"blocks", p.blocks},
                                  {"band", p.band}})
      if (on) t.insert(key, true);
    root.insert(card.id, std::move(t));
  }
  std::ostringstream text;
  text << "# This coach's own drill cards. A card of a shipped id replaces it.\n" << root << "\n";
  return text.str();
}

// "Wall squat, slow" becomes "wall_squat_slow", with a number where there is one already.
std::string freeId(const std::string& title, const std::vector<DrillCard>& taken) {
  std::string stem;
  for (const char c : asciiLower(title)) {
    const bool plain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
    if (plain || (!stem.empty() && stem.back() != '_')) stem += plain ? c : '_';
  }
  while (!stem.empty() && stem.back() == '_') stem.pop_back();
  if (stem.empty()) stem = "drill";
  std::string id = stem;
  const auto used = [&] { return std::any_of(taken.begin(), taken.end(), [&](const auto& c) { return c.id == id; }); };
  for (int n = 2; used(); ++n) id = stem + "_" + std::to_string(n);
  return id;
}

Result<bool> replaceOwn(const fs::path& folder, const std::vector<DrillCard>& cards) {
  if (!cards.empty()) return writeWhole(FileSystem::real(), ownFile(folder), written(cards));
  std::error_code error;
  fs::remove(ownFile(folder), error);
  if (error)
    return fail(ErrorCode::CannotWrite, "Cannot remove " + ownFile(folder).string() + ".",
                "Check the library's folder.");
  return true;
}

}  // namespace

fs::path DrillBook::pictureFile(const fs::path& folder, const DrillCard& card) {
  return folder / "drills" / card.picture;
}

DrillBook DrillBook::forLibrary(const fs::path& folder) {
  DrillBook book;
  if (auto own = ownCards(folder))
    book.cards_ = std::move(*own);
  else
    book.trouble_ = own.error().sentence();
  if (auto ours = shipped())
    for (const DrillCard& card : ours->cards_)
      if (std::none_of(book.cards_.begin(), book.cards_.end(), [&](const auto& c) { return c.id == card.id; }))
        book.cards_.push_back(card);
  return book;
}

Result<DrillCard> DrillBook::keep(const fs::path& folder, DrillCard card) {
  auto own = ownCards(folder);
  if (!own) return fail(own.error());
  card.own = true;
  if (card.id.empty()) {
    auto all = *own;
    if (auto ours = shipped()) all.insert(all.end(), ours->cards_.begin(), ours->cards_.end());
    card.id = freeId(card.title, all);
  }
  // The picture lies there before the card that names it, under a name of its bytes: an older one is not written over.
  card.picture.clear();
  if (!card.jpeg.empty()) {
    card.picture = card.id + "-" + std::to_string(std::hash<std::string>{}(card.jpeg)) + ".jpg";
    if (auto made = makePrivateFolder(folder / "drills"); !made) return fail(made.error());
    if (auto kept = writeWhole(FileSystem::real(), pictureFile(folder, card), card.jpeg); !kept)
      return fail(kept.error());
  }
  std::string was;
  for (const DrillCard& c : *own)
    if (c.id == card.id) was = c.picture;
  std::erase_if(*own, [&](const DrillCard& c) { return c.id == card.id; });
  own->push_back(card);
  if (auto kept = replaceOwn(folder, *own); !kept) return fail(kept.error());
  std::error_code ignored;
  if (!was.empty() && was != card.picture && leadsInside(was)) fs::remove(folder / "drills" / was, ignored);
  return card;
}

Result<bool> DrillBook::giveBack(const fs::path& folder, const std::string& id) {
  auto own = ownCards(folder);
  if (!own) return fail(own.error());
  std::string picture;
  for (const DrillCard& c : *own)
    if (c.id == id) picture = c.picture;
  std::erase_if(*own, [&](const DrillCard& c) { return c.id == id; });
  if (auto kept = replaceOwn(folder, *own); !kept) return kept;
  std::error_code ignored;
  if (!picture.empty() && leadsInside(picture)) fs::remove(folder / "drills" / picture, ignored);
  return true;
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
