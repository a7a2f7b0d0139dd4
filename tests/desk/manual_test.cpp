// SPDX-License-Identifier: GPL-3.0-or-later
// The manual speaks of every menu entry; the words that may not come back have not.
#include <gtest/gtest.h>

#include <QAction>
#include <QMenuBar>
#include <filesystem>
#include <regex>

#include "core/base/resources.h"
#include "desk/desk_window.h"
#include "tests/core/scratch_folder.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

namespace fs = std::filesystem;

std::string manual() {
  return tests::bytesOf(resource("../docs/manual.md"));
}

QStringList entriesOf(QMenuBar& bar) {
  QStringList all;
  for (const QAction* menu : bar.actions())
    if (menu->menu())
      for (const QAction* entry : menu->menu()->actions())
        if (!entry->text().isEmpty()) all << entry->text();
  return all;
}

TEST(Manual, SpeaksOfEveryMenuEntry) {
  const std::string text = manual();
  tests::Desk desk;
  QStringList all = entriesOf(*desk.window->menuBar());
  ASSERT_GT(all.size(), 15);
  desk.open();
  all += entriesOf(*desk.window->menuBar());
  ASSERT_GT(all.size(), 50);
  for (const QString& entry : all) EXPECT_NE(text.find(entry.toStdString()), std::string::npos) << entry.toStdString();
}

TEST(Manual, ItsPicturesAreThere) {
  const std::string text = manual();
  const std::regex picture(R"(\]\((screenshots/[^)]+)\))");
  int found = 0;
  for (std::sregex_iterator it(text.begin(), text.end(), picture), end; it != end; ++it, ++found)
    EXPECT_TRUE(fs::exists(resource("../docs") / (*it)[1].str())) << (*it)[1];
  EXPECT_GE(found, 6);
}

// Every sentence that the window, the cues, the letters and the topics hold, with the file it stands in.
std::vector<std::pair<std::string, std::string>> allThatIsRead() {
  std::vector<std::pair<std::string, std::string>> all;
  const auto gather = [&](const fs::path& folder, const std::string& ending, const std::regex& quoted) {
    for (const auto& entry : fs::recursive_directory_iterator(folder)) {
      if (!entry.is_regular_file() || entry.path().extension() != ending) continue;
      const std::string text = tests::bytesOf(entry.path());
      for (std::sregex_iterator it(text.begin(), text.end(), quoted), end; it != end; ++it)
        all.emplace_back((*it)[1].str(), entry.path().filename().string());
    }
  };
  const fs::path root = resource("..");
  gather(root / "src/desk", ".cpp", std::regex(R"re(tr\(\s*"((?:[^"\\]|\\.)*)")re"));
  gather(root / "resources", ".toml", std::regex(R"re("((?:[^"\\]|\\.)*)")re"));
  return all;
}

TEST(Words, ThatMayNotComeBack) {
  const char* gone[] = {"worth a word",  "not so",         "as it should be",  "traced",          "trunk",
                        "motionless",    "half-way",       "physician",        "physiotherapist", "put right",
                        "set right",     "handed over",    "carry over",       "carried over",    "speaks for",
                        "mended",        "one hand lower", "print your shirt", "lamp post",       "plumb line",
                        "fence post",    "sling",          "every trip",       "the film",        "awaiting",
                        "proposed",      "the seat",       "told by",          "a taller hat",    "effort out of ten",
                        "own diagnosis", "at or below",    "re-shoot"};
  const auto all = allThatIsRead();
  ASSERT_GT(all.size(), 1500u);
  for (const auto& [sentence, file] : all) {
    std::string words = sentence;
    for (char& c : words) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    if (words.find('_') != std::string::npos) continue;  // the name of a measure
    for (const char* word : gone) {
      const std::regex whole("(^|[^a-z])" + std::string(word) + "([^a-z]|$)");
      if (words.find(word) == std::string::npos) continue;
      EXPECT_FALSE(std::regex_search(words, whole)) << file << ": " << sentence;
    }
  }
}

// A cue is said between two reps: seven words at most.
TEST(Words, ACueFitsBetweenTwoReps) {
  for (const auto& entry : fs::directory_iterator(resource("cues"))) {
    const std::string text = tests::bytesOf(entry.path());
    const std::regex line(R"re(wordings = \[(.*)\])re"), one(R"re("((?:[^"\\]|\\.)*)")re");
    for (std::sregex_iterator it(text.begin(), text.end(), line), end; it != end; ++it) {
      const std::string all = (*it)[1];
      for (std::sregex_iterator cue(all.begin(), all.end(), one); cue != end; ++cue) {
        const std::string said = (*cue)[1];
        const auto words = 1 + std::count(said.begin(), said.end(), ' ');
        EXPECT_LE(words, said.find(':') == std::string::npos ? 7 : 14) << said;
      }
    }
  }
}

}  // namespace
}  // namespace jib::desk
