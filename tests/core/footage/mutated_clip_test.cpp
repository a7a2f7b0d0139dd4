// SPDX-License-Identifier: GPL-3.0-or-later
// Damaged films, thousands of ways: the opener says what is wrong or reads what can be read, and never falls over.
#include <gtest/gtest.h>

#include <cstdlib>
#include <random>

#include "core/footage/frame_reader.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/scratch_folder.h"

namespace jib::footage {
namespace {

// A longer run: JIB_MUTATIONS=20000 core_tests --gtest_filter='MutatedClip.*'
int mutations() {
  const char* wanted = std::getenv("JIB_MUTATIONS");
  return wanted ? std::atoi(wanted) : 250;
}

std::string mutated(std::string bytes, std::mt19937& random) {
  const auto below = [&](std::size_t n) { return n == 0 ? 0 : random() % n; };
  const int edits = 1 + static_cast<int>(below(6));
  for (int k = 0; k < edits && !bytes.empty(); ++k) {
    // The tables that say where everything lies stand at one of the ends: half of the damage goes there.
    const std::size_t span = std::min<std::size_t>(bytes.size(), 1500);
    std::size_t at = below(bytes.size());
    if (below(2) == 0) at = below(2) == 0 ? below(span) : bytes.size() - 1 - below(span);
    const std::size_t n = std::min<std::size_t>(1 + below(40), bytes.size() - at);
    switch (below(6)) {
      case 0:
        bytes[at] = static_cast<char>(random());
        break;
      case 1:
        bytes[at] = static_cast<char>(bytes[at] ^ (1 << below(8)));
        break;
      case 2:
        bytes.erase(at, n);
        break;
      case 3:
        bytes.insert(at, bytes.substr(below(bytes.size()), n));
        break;
      case 4:
        std::fill_n(bytes.begin() + static_cast<std::ptrdiff_t>(at), n, below(2) == 0 ? '\0' : '\xff');
        break;
      default:
        if (below(4) == 0) bytes.resize(at);
    }
  }
  return bytes;
}

TEST(MutatedClip, IsReadAsFarAsItGoesOrRefusedWithAReason) {
  const tests::ScratchFolder folder;
  std::vector<std::string> films;
  for (const char* name : {"a.mp4", "a.mkv"}) {
    ASSERT_TRUE(tests::writeCountingClip(folder / "a.mp4", 12));
    if (std::string(name) != "a.mp4" &&
        !tests::run("ffmpeg -y -i " + (folder / "a.mp4").string() + " -c copy " + (folder / name).string()))
      continue;
    films.push_back(tests::bytesOf(folder / name));
  }
  std::mt19937 random(20261125);
  int read = 0, refused = 0;
  for (int k = 0; k < mutations(); ++k) {
    const auto file = folder.write("mutant.mp4", mutated(films[static_cast<std::size_t>(k) % films.size()], random));
    SCOPED_TRACE(k);
    auto reader = FrameReader::open(file, Workers::One);
    if (!reader) {
      ++refused;
      EXPECT_FALSE(reader.error().what.empty());
      EXPECT_FALSE(reader.error().next.empty()) << "an error says what to do next";
      continue;
    }
    ++read;
    const ClipInfo& info = reader->info();
    ASSERT_FALSE(info.times_s.empty());
    for (std::size_t i = 1; i < info.times_s.size(); ++i) ASSERT_LT(info.times_s[i - 1], info.times_s[i]);
    for (int frames = 0; frames < 40; ++frames) {
      auto frame = reader->next(frames % 2 ? Pixels::Gray : Pixels::Colour);
      if (!frame || !*frame) break;
      EXPECT_EQ((*frame)->picture.cols, info.width);
      EXPECT_EQ((*frame)->picture.rows, info.height);
      EXPECT_LT((*frame)->index, info.times_s.size());
    }
    (void)reader->seekBefore(info.times_s.size() / 2);
    (void)reader->next(Pixels::Gray);
  }
  EXPECT_GT(read, 0);
  EXPECT_GT(refused, 0);
}

}  // namespace
}  // namespace jib::footage
