// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <filesystem>
#include <fstream>
#include <span>

#include "core/base/result.h"

namespace jib::footage {

// Sound as it is being recorded, into a WAV file: one channel of 16 bits. What is added is in the file at once, so that
// little is lost with the program; its lengths are written at the end, or by mendWav().
class WavWriter {
 public:
  static constexpr int kRate_hz = 48000;
  // Errors  CannotWrite
  static Result<WavWriter> create(const std::filesystem::path& file);
  Result<bool> add(std::span<const std::int16_t> samples);
  Result<bool> finish();
  double length_s() const { return static_cast<double>(samples_) / kRate_hz; }

 private:
  explicit WavWriter(std::filesystem::path file) : file_(std::move(file)) {}
  std::filesystem::path file_;
  std::ofstream out_;
  std::uint64_t samples_ = 0;
};

// A recording whose program ended in the middle: its lengths are set to what is there.
// Errors  BadData where it is no recording of ours, or holds nothing; CannotWrite
Result<bool> mendWav(const std::filesystem::path& file);

}  // namespace jib::footage
