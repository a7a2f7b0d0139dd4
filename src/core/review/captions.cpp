// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/captions.h"

#include <fmt/format.h>

#include <cmath>

namespace jib::review {
namespace {

std::vector<std::string> wordsOf(std::string_view text) {
  std::vector<std::string> words;
  std::string word;
  for (const char c : text) {
    const bool gap = c == ' ' || c == '\n' || c == '\t' || c == '\r';
    if (!gap) word += c;
    if (gap && !word.empty()) words.push_back(std::exchange(word, {}));
  }
  if (!word.empty()) words.push_back(word);
  return words;
}

// Letters and not bytes: what follows the first byte of a letter in UTF-8 is none.
std::size_t letters(std::string_view text) {
  std::size_t n = 0;
  for (const char c : text)
    if ((static_cast<unsigned char>(c) & 0xC0) != 0x80) ++n;
  return n;
}

std::string timeText(double s) {
  const long ms = std::lround(std::max(0.0, s) * 1000);
  return fmt::format("{:02}:{:02}:{:02}.{:03}", ms / 3600000, ms / 60000 % 60, ms / 1000 % 60, ms % 1000);
}

}  // namespace

std::vector<CaptionLine> captionLines(std::string_view text, double from_s, double to_s) {
  std::vector<CaptionLine> lines;
  constexpr std::size_t kHalf = kCaptionLetters / 2;
  bool full = true;
  for (const std::string& word : wordsOf(text)) {
    if (full || letters(lines.back().text) + 1 + letters(word) > kCaptionLetters)
      lines.push_back({0, 0, word});
    else
      lines.back().text += " " + word;
    // A sentence that ends ends the line; a clause does once the line is half full.
    const char last = word.back();
    const bool sentence = last == '.' || last == '!' || last == '?';
    full = sentence || ((last == ',' || last == ';' || last == ':') && letters(lines.back().text) > kHalf);
  }
  double all = 0, said = 0;
  for (const auto& line : lines) all += static_cast<double>(letters(line.text));
  for (auto& line : lines) {
    line.from_s = from_s + (to_s - from_s) * said / all;
    said += static_cast<double>(letters(line.text));
    line.to_s = from_s + (to_s - from_s) * said / all;
  }
  return lines;
}

std::string captionAt(const std::vector<CaptionLine>& lines, double at_s) {
  for (const auto& line : lines)
    if (at_s >= line.from_s && at_s < line.to_s) return line.text;
  return {};
}

std::string toWebVtt(const std::vector<CaptionLine>& lines) {
  std::string out = "WEBVTT\n";
  for (const auto& line : lines) {
    std::string text;
    for (const char c : line.text)
      text += c == '&' ? "&amp;" : c == '<' ? "&lt;" : c == '>' ? "&gt;" : std::string(1, c);
    out += fmt::format("\n{} --> {}\n{}\n", timeText(line.from_s), timeText(line.to_s), text);
  }
  return out;
}

}  // namespace jib::review
