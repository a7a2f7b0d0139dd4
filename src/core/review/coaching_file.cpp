// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/coaching_file.h"

#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>
#include <array>
#include <sstream>

#include "core/base/staging_folder.h"
#include "core/coaching/drill.h"
#include "core/coaching/rule_book.h"
#include "core/coaching/style_book.h"
#include "core/coaching/toml_reader.h"
#include "core/exchange/letters/filming_request.h"
#include "core/exchange/letters/letters.h"
#include "core/library/borrowed_cues.h"

namespace jib::review {
namespace {

namespace fs = std::filesystem;

constexpr const char* kSchema = "jagged-jib/coaching";
constexpr double kVersion = 1;
constexpr std::size_t kMostBytes = 1 << 20;  // of one file; ours have some thousands

// The files a coach may have of their own, and folders of such.
constexpr std::array<const char*, 5> kFiles{"limits.json", "rules.toml", "letters.toml", "topics.toml", "drills.toml"};
constexpr std::array<const char*, 2> kFolders{"styles", "requests"};

// Whether a name out of a stranger's file is one of those, and nothing else.
bool isKnown(const std::string& name) {
  if (std::find(kFiles.begin(), kFiles.end(), name) != kFiles.end()) return true;
  const fs::path path(name);
  const std::string stem = path.stem().string();
  return std::any_of(kFolders.begin(), kFolders.end(),
                     [&](const char* folder) { return name == std::string(folder) + "/" + stem + ".toml"; }) &&
         !stem.empty() && stem.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789_-") == std::string::npos;
}

// Read by whoever reads it in a library.
Result<bool> canBeRead(const std::string& name, const std::string& text) {
  auto folder = StagingFolder::in(fs::temp_directory_path(), ".jagged-jib-coaching-");
  if (!folder) return fail(folder.error());
  const fs::path file = folder->path() / fs::path(name).filename();
  if (auto written = FileSystem::real().write(file, text); !written) return written;
  const auto said = [&](const Error& e) {
    return fail(ErrorCode::BadData, "Its part \"" + name + "\" can't be read: " + e.what, "Nothing was imported.");
  };
  const auto no = [&](auto read) -> Result<bool> {
    if (!read) return said(read.error());
    return true;
  };
  if (name.starts_with("styles/")) return no(coaching::loadStyle(file));
  if (name.starts_with("requests/")) return no(exchange::loadFilmingRequest(file));
  if (name == "drills.toml") return no(coaching::DrillBook::load(file));
  if (name == "rules.toml") return no(coaching::RuleBook::load(file));
  if (name == "letters.toml") return no(exchange::LetterBook::load(file));
  if (name == "topics.toml") return no(coaching::Topics::load(file));
  auto limits = coaching::StyleBook::forLibrary(folder->path());
  if (!limits) return said(limits.error());
  if (!limits->troubles().empty())
    return fail(ErrorCode::BadData, "Its part \"" + name + "\" can't be read.", "Nothing was imported.");
  return true;
}

}  // namespace

Result<CoachingFile> coachingOf(library::Library& library, const std::string& today_iso) {
  auto coach = library.coach();
  if (!coach) return fail(coach.error());
  auto book = library.book();
  if (!book) return fail(book.error());
  CoachingFile file;
  file.from = coach->name;
  file.made_on = today_iso;
  file.sides = coach->switches;
  for (const auto& said : *book)
    if (!said.put_away) file.cues.push_back({said.finding, said.title, said.wording, said.drill});
  std::error_code error;
  const auto take = [&](const std::string& name) {
    if (auto text = FileSystem::real().read(library.folder() / name);
        text && isKnown(name) && text->size() < kMostBytes)
      file.files[name] = std::move(*text);
  };
  for (const char* name : kFiles)
    if (fs::exists(library.folder() / name, error)) take(name);
  for (const char* folder : kFolders)
    for (const auto& entry : fs::directory_iterator(library.folder() / folder, error))
      take(std::string(folder) + "/" + entry.path().filename().string());
  return file;
}

std::string coachingToToml(const CoachingFile& file) {
  toml::array cues;
  for (const auto& c : file.cues) {
    toml::table cue{{"finding", c.finding}, {"title", c.title}, {"wording", c.wording}};
    if (!c.drill.empty()) cue.insert("drill", c.drill);
    cues.push_back(std::move(cue));
  }
  toml::table sides, files;
  for (const auto& [topic, choice] : file.sides) sides.insert(topic, choice);
  for (const auto& [name, text] : file.files) files.insert(name, text);
  std::ostringstream out;
  out << "# How a coach coaches, to hand to another one.\n"
      << toml::table{{"schema", kSchema},        {"version", kVersion},       {"from", file.from},
                     {"made_on", file.made_on},  {"sides", std::move(sides)}, {"cue", std::move(cues)},
                     {"files", std::move(files)}}
      << "\n";
  return out.str();
}

Result<CoachingFile> readCoaching(const fs::path& path) {
  CoachingFile file;
  auto read = coaching::readToml(path, [&](const toml::table& root, const std::string& name) {
    coaching::TomlTable table(root, name);
    if (table.text("schema") != kSchema) table.refuse("this isn't a coaching file");
    if (table.number("version") > kVersion) table.refuse("it comes from a newer program");
    file.from = table.text("from");
    file.made_on = table.text("made_on");
    for (coaching::TomlTable& cue : table.tables("cue")) {
      file.cues.push_back({cue.textOr("finding", ""), cue.text("title"), cue.text("wording"), cue.textOr("drill", "")});
      cue.refuseUnknown();
    }
    const auto texts = [&](const char* key, auto put) {
      const toml::table* all = root[key].as_table();
      if (!all) return;
      for (const auto& [id, node] : *all) {
        const auto text = node.template value<std::string>();
        if (!text) table.refuse("\"" + std::string(id.str()) + "\" must be text", &node);
        put(std::string(id.str()), *text, node);
      }
    };
    texts("sides", [&](std::string topic, std::string choice, const toml::node&) { file.sides[topic] = choice; });
    texts("files", [&](std::string name_of, std::string text, const toml::node& node) {
      if (!isKnown(name_of)) table.refuse("\"" + name_of + "\" is no file of a coach's own", &node);
      file.files[name_of] = text;
    });
  });
  if (!read) return fail(read.error());
  for (const auto& [name, text] : file.files)
    if (auto can = canBeRead(name, text); !can) return fail(can.error());
  return file;
}

Result<bool> takeOver(library::Library& library, const CoachingFile& file, const TakeOver& what,
                      const std::string& today_iso) {
  for (const std::string& name : what.files) {
    const auto text = file.files.find(name);
    if (text == file.files.end()) continue;
    const fs::path to = library.folder() / name, before = to.string() + ".before-" + today_iso;
    if (auto made = makePrivateFolder(to.parent_path()); !made) return made;
    std::error_code error;
    if (fs::exists(to, error) && !fs::exists(before, error))
      if (auto kept = FileSystem::real().copy(to, before); !kept) return kept;
    if (auto written = writeWhole(FileSystem::real(), to, text->second); !written) return written;
  }
  if (what.sides && !file.sides.empty()) {
    auto coach = library.coach();
    if (!coach) return fail(coach.error());
    for (const auto& [topic, choice] : file.sides) coach->switches[topic] = choice;
    if (auto kept = library.setCoach(*coach); !kept) return kept;
  }
  if (!what.cues || file.cues.empty()) return true;
  std::vector<library::BorrowedCue> cues;
  for (const auto& c : file.cues) cues.push_back({c.finding, c.title, c.wording, c.drill, file.from});
  return library::borrowCues(library.folder(), cues);
}

std::string whatIs(const std::string& file) {
  if (file == "limits.json") return "limits that were moved";
  if (file == "rules.toml") return "rules of meets";
  if (file == "letters.toml") return "wording of letters";
  if (file == "topics.toml") return "what coaches disagree about";
  const std::string stem = fs::path(file).stem().string();
  if (file.starts_with("styles/")) return fmt::format("the style “{}”", stem);
  return fmt::format("how to film the {}", stem);
}

}  // namespace jib::review
