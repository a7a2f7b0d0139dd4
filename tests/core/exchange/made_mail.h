// SPDX-License-Identifier: GPL-3.0-or-later
// Made-up messages as raw bytes, part by part, the way mail programs of different tempers write them.
#pragma once

#include <string>
#include <vector>

#include "core/exchange/reports/report.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {

// The small clip, made another film for each number: trailing bytes that players pass over.
inline std::string filmNumber(int n) {
  static const std::string kFilm = bytesOf(JIB_MADE_CLIP);
  return n == 0 ? kFilm : kFilm + std::string(static_cast<std::size_t>(n), '\0');
}

inline std::string header(const std::string& from, const std::string& key, const std::string& subject,
                          const std::string& more = {}) {
  return "From: " + from + "\r\nTo: coach@reef-barbell.invalid\r\nSubject: " + subject + "\r\nMessage-ID: <" + key +
         ">\r\nDate: Fri, 20 Nov 2026 18:04:00 +0100\r\nMIME-Version: 1.0\r\n" + more;
}

inline std::string wrapped(const std::string& base64) {
  std::string lines;
  for (std::size_t i = 0; i < base64.size(); i += 76) lines += base64.substr(i, 76) + "\r\n";
  return lines;
}

inline std::string textPart(const std::string& text, const std::string& type = "text/plain; charset=utf-8",
                            const std::string& encoding = "8bit") {
  return "Content-Type: " + type + "\r\nContent-Transfer-Encoding: " + encoding + "\r\n\r\n" + text + "\r\n";
}

inline std::string filePart(const std::string& name, const std::string& bytes, const std::string& type = "video/mp4") {
  const std::string named = name.empty() ? "" : "; name=\"" + name + "\"";
  const std::string filename = name.empty() ? "" : "; filename=\"" + name + "\"";
  return "Content-Type: " + type + named + "\r\nContent-Transfer-Encoding: base64\r\nContent-Disposition: attachment" +
         filename + "\r\n\r\n" + wrapped(exchange::base64(bytes));
}

inline std::string multipart(const std::vector<std::string>& parts, const std::string& kind = "mixed",
                             const std::string& boundary = "=_edge") {
  std::string all = "Content-Type: multipart/" + kind + "; boundary=\"" + boundary + "\"\r\n\r\n";
  for (const std::string& p : parts) all += "--" + boundary + "\r\n" + p + "\r\n";
  return all + "--" + boundary + "--\r\n";
}

}  // namespace jib::tests
