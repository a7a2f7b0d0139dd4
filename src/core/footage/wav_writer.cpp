// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/wav_writer.h"

#include <algorithm>
#include <array>
#include <cstring>

#include "core/base/files.h"

namespace jib::footage {
namespace {

constexpr std::size_t kHeader = 44;

// RIFF, little-endian as all machines this runs on.
std::array<char, kHeader> header(std::uint64_t samples) {
  std::array<char, kHeader> h{};
  std::size_t at = 0;
  const auto put = [&](const auto& value) {
    std::memcpy(h.data() + at, &value, sizeof value);
    at += sizeof value;
  };
  const auto word = [&](const char* text) {
    std::memcpy(h.data() + at, text, 4);
    at += 4;
  };
  const auto bytes = static_cast<std::uint32_t>(std::min<std::uint64_t>(samples * 2, 0xffffffffu - kHeader));
  word("RIFF");
  put(static_cast<std::uint32_t>(bytes + kHeader - 8));
  word("WAVE");
  word("fmt ");
  put(std::uint32_t{16});
  put(std::uint16_t{1});  // PCM
  put(std::uint16_t{1});  // channels
  put(std::uint32_t{WavWriter::kRate_hz});
  put(std::uint32_t{2 * WavWriter::kRate_hz});
  put(std::uint16_t{2});
  put(std::uint16_t{16});
  word("data");
  put(bytes);
  return h;
}

tl::unexpected<Error> cannotWrite(const std::filesystem::path& file) {
  return fail(ErrorCode::CannotWrite, file.string() + " can't be written to: the disk is full, or was taken away.",
              "Your earlier recordings are safe. Free some space, then record again.");
}

}  // namespace

Result<WavWriter> WavWriter::create(const std::filesystem::path& file) {
  WavWriter writer(file);
  writer.out_.open(file, std::ios::binary | std::ios::trunc);
  const auto h = header(0);
  writer.out_.write(h.data(), h.size());
  writer.out_.flush();
  if (!writer.out_) return cannotWrite(file);
  makePrivate(file);
  return writer;
}

Result<bool> WavWriter::add(std::span<const std::int16_t> samples) {
  out_.write(reinterpret_cast<const char*>(samples.data()), static_cast<std::streamsize>(samples.size_bytes()));
  out_.flush();
  if (!out_) return cannotWrite(file_);
  samples_ += samples.size();
  return true;
}

Result<bool> WavWriter::finish() {
  const auto h = header(samples_);
  out_.seekp(0);
  out_.write(h.data(), h.size());
  out_.close();
  if (!out_) return cannotWrite(file_);
  return true;
}

Result<bool> mendWav(const std::filesystem::path& file) {
  std::error_code error;
  const auto size = std::filesystem::file_size(file, error);
  std::array<char, kHeader> found{};
  std::fstream both(file, std::ios::binary | std::ios::in | std::ios::out);
  both.read(found.data(), found.size());
  if (error || !both || std::memcmp(found.data(), "RIFF", 4) != 0 || std::memcmp(found.data() + 36, "data", 4) != 0 ||
      size < kHeader + 2)
    return fail(ErrorCode::BadData, file.string() + " holds no recording.");
  const auto h = header((size - kHeader) / 2);
  both.seekp(0);
  both.write(h.data(), h.size());
  both.close();
  if (!both) return cannotWrite(file);
  return true;
}

}  // namespace jib::footage
