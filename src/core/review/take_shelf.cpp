// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/take_shelf.h"

#include <algorithm>
#include <fstream>
#include <locale>
#include <set>
#include <sstream>

#include "core/footage/wav_writer.h"

namespace jib::review {
namespace fs = std::filesystem;

namespace {

fs::path courseOf(const fs::path& sound) {
  return fs::path(sound).replace_extension(".course");
}

Result<bool> addLine(const fs::path& file, const std::string& line) {
  std::ofstream out(file, std::ios::app);
  out << line << '\n';
  out.flush();
  if (!out)
    return fail(ErrorCode::CannotWrite, file.string() + " can't be written.",
                "Your earlier recordings are safe. Free some space, then record again.");
  return true;
}

// A take from what was written while it was recorded; none where there is not enough of it.
std::optional<Take> unfinished(const fs::path& sound) {
  std::ifstream in(courseOf(sound));
  Take take;
  take.file = sound;
  if (!std::getline(in, take.chapter) || take.chapter.empty()) return std::nullopt;
  for (std::string line; std::getline(in, line);) {
    std::istringstream numbers(line);
    numbers.imbue(std::locale::classic());
    Play play;
    if (numbers >> play.at_s >> play.clip_t >> play.rate) take.plays.push_back(play);
  }
  if (take.plays.empty() || !footage::mendWav(sound)) return std::nullopt;
  return take;
}

}  // namespace

fs::path TakeShelf::folderOf(const fs::path& library, library::SubmissionId submission) {
  return library / "takes" / std::to_string(submission.number);
}

Result<bool> TakeShelf::open(FileSystem& disk) {
  takes_.clear();
  std::error_code error;
  if (!fs::exists(folder_, error)) return true;
  if (fs::exists(list(), error)) {
    auto bytes = disk.read(list());
    if (!bytes) return fail(bytes.error());
    if (bytes->find("\"file\"") != std::string::npos) {
      auto read = takesFrom(list());
      if (!read) return fail(read.error());
      takes_ = std::move(*read);
    }
  }
  recover();
  return true;
}

void TakeShelf::recover() {
  std::error_code error;
  std::set<fs::path> named;
  for (const Take& take : takes_) named.insert(take.file.filename());
  std::vector<fs::path> sounds;
  for (const auto& entry : fs::directory_iterator(folder_, error))
    if (entry.path().extension() == ".wav") sounds.push_back(entry.path());
  std::sort(sounds.begin(), sounds.end());
  bool found = false;
  for (const fs::path& sound : sounds) {
    if (named.count(sound.filename())) {
      fs::remove(courseOf(sound), error);
      continue;
    }
    if (auto take = unfinished(sound); take && !of(take->chapter)) {
      takes_.push_back(std::move(*take));
      found = true;
      continue;
    }
    fs::remove(sound, error);
    fs::remove(courseOf(sound), error);
  }
  // Where the list cannot be written the course stays beside the sound, and the next start finds it again.
  if (found) (void)set(takes_);
}

const Take* TakeShelf::of(const std::string& chapter) const {
  const auto it = std::find_if(takes_.begin(), takes_.end(), [&](const Take& t) { return t.chapter == chapter; });
  return it == takes_.end() ? nullptr : &*it;
}

Result<fs::path> TakeShelf::nextSound() {
  if (auto made = makePrivateFolder(folder_); !made) return fail(made.error());
  for (int n = 1;; ++n) {
    const fs::path file = folder_ / ("take-" + std::to_string(n) + ".wav");
    std::error_code error;
    if (!fs::exists(file, error)) return file;
  }
}

Result<bool> TakeShelf::begin(const fs::path& sound, const std::string& chapter) {
  return addLine(courseOf(sound), chapter);
}

Result<bool> TakeShelf::note(const fs::path& sound, const Play& play) {
  std::ostringstream line;
  line.imbue(std::locale::classic());
  line << play.at_s << ' ' << play.clip_t << ' ' << play.rate;
  return addLine(courseOf(sound), line.str());
}

Result<bool> TakeShelf::set(std::vector<Take> takes, FileSystem& disk) {
  if (auto made = makePrivateFolder(folder_); !made) return fail(made.error());
  if (auto written = writeWhole(disk, list(), takesToJson(takes)); !written) return written;
  takes_ = std::move(takes);
  return true;
}

std::vector<Take> withTake(std::vector<Take> takes, Take take, const std::vector<std::string>& chapters) {
  for (Take& old : takes)
    if (old.chapter == take.chapter) {
      old = std::move(take);
      return takes;
    }
  const auto rank = [&](const std::string& chapter) {
    return std::find(chapters.begin(), chapters.end(), chapter) - chapters.begin();
  };
  const auto after =
      std::find_if(takes.begin(), takes.end(), [&](const Take& t) { return rank(t.chapter) > rank(take.chapter); });
  takes.insert(after, std::move(take));
  return takes;
}

std::vector<Take> withoutTake(std::vector<Take> takes, const std::string& chapter) {
  std::erase_if(takes, [&](const Take& t) { return t.chapter == chapter; });
  return takes;
}

}  // namespace jib::review
