// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/result.h"

namespace jib::footage {

// Sound as it is worked with: one channel, samples from -1 to 1.
struct Sound {
  static constexpr int kRate_hz = 48000;
  std::vector<float> samples;

  double length_s() const { return static_cast<double>(samples.size()) / kRate_hz; }
  // Silence up to a time; does nothing where there is more.
  void lengthenTo(double s);
};

// The first sound of a file of any kind FFmpeg reads, its channels mixed into one. A gap in it is silence.
// Errors  ClipUnreadable, also where the file holds no sound
Result<Sound> readSound(const std::filesystem::path& file);

// As loud as speech for a phone should be, kSpeech_lufs over the whole, one gain for all of it; no louder than leaves
// the highest sample below kPeak. Silence stays silence.
// Source  EBU R 128: integrated loudness after ITU-R BS.1770, measured by libebur128
inline constexpr double kSpeech_lufs = -16, kPeak = 0.89;
Sound evened(Sound sound);
// Integrated loudness, LUFS; -infinity of silence.
double loudness(const Sound& sound);

}  // namespace jib::footage
