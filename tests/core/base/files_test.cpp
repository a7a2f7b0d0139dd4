// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"

#include <gtest/gtest.h>

#include "tests/core/scratch_folder.h"

namespace jib {
namespace {

using tests::bytesOf;
using tests::ScratchFolder;

// Writes only the first half, as a disk that fills up does.
class FullDisk : public ForwardingFileSystem {
 public:
  FullDisk() : ForwardingFileSystem(FileSystem::real()) {}
  Result<bool> write(const std::filesystem::path& file, std::string_view bytes) override {
    if (auto half = ForwardingFileSystem::write(file, bytes.substr(0, bytes.size() / 2)); !half) return half;
    return fail(ErrorCode::CannotWrite, "No space left on device.", "Free some space.");
  }
};

class NoRename : public ForwardingFileSystem {
 public:
  NoRename() : ForwardingFileSystem(FileSystem::real()) {}
  Result<bool> rename(const std::filesystem::path&, const std::filesystem::path&) override {
    return fail(ErrorCode::CannotWrite, "Renaming failed.", "Try again.");
  }
};

TEST(WriteWhole, PutsAllBytesUnderTheName) {
  const ScratchFolder folder;
  const std::string bytes("a\0b", 3);
  ASSERT_TRUE(writeWhole(FileSystem::real(), folder / "file", bytes));
  EXPECT_EQ(bytesOf(folder / "file"), bytes);
  EXPECT_FALSE(std::filesystem::exists(folder / "file.part"));
}

TEST(WriteWhole, KeepsTheOldFileWhenTheDiskIsFull) {
  const ScratchFolder folder;
  folder.write("file", "old and whole");
  FullDisk disk;
  const auto written = writeWhole(disk, folder / "file", "new and longer than the disk");
  ASSERT_FALSE(written);
  EXPECT_EQ(written.error().code, ErrorCode::CannotWrite);
  EXPECT_EQ(written.error().next, "Free some space.");
  EXPECT_EQ(bytesOf(folder / "file"), "old and whole");
  EXPECT_FALSE(std::filesystem::exists(folder / "file.part"));
}

TEST(WriteWhole, KeepsTheOldFileWhenRenamingFails) {
  const ScratchFolder folder;
  folder.write("file", "old");
  NoRename disk;
  ASSERT_FALSE(writeWhole(disk, folder / "file", "new"));
  EXPECT_EQ(bytesOf(folder / "file"), "old");
  EXPECT_FALSE(std::filesystem::exists(folder / "file.part"));
}

TEST(WriteWhole, NamesTheFolderThatIsNotThere) {
  const ScratchFolder folder;
  const auto written = writeWhole(FileSystem::real(), folder / "no/such/file", "x");
  ASSERT_FALSE(written);
  EXPECT_NE(written.error().what.find("no/such/file"), std::string::npos);
  EXPECT_FALSE(written.error().next.empty());
}

// FIPS 180-2, appendix B.1.
TEST(ContentHash, IsSha256) {
  const ScratchFolder folder;
  const auto hash = contentHash(folder.write("abc", "abc"));
  ASSERT_TRUE(hash);
  EXPECT_EQ(*hash, "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
}

TEST(ContentHash, RefusesAFileThatIsNotThere) {
  const ScratchFolder folder;
  EXPECT_EQ(contentHash(folder / "nothing").error().code, ErrorCode::CannotRead);
}

}  // namespace
}  // namespace jib
