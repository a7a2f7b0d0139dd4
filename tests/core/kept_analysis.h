// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <string>

#include "core/coaching/analysis.h"
#include "core/exchange/intake/prepare.h"
#include "core/tracing/trace_store.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {

// The tracing of a small made-up clip, which takes many seconds, made once by each build of the test programs: every
// suite runs in a process of its own. It is kept beside the clips as a library keeps it, and made anew when the
// program that asks is younger.
inline std::string keptTracing(const std::string& name, const std::filesystem::path& clip,
                               const coaching::AnalysisRequest& request) {
  namespace fs = std::filesystem;
  const fs::path file = fs::path(JIB_MADE_CLIPS) / ("traced-" + name + ".json");
  std::error_code error;
  const auto made = fs::last_write_time(file, error);
  if (!error && made > fs::last_write_time(fs::read_symlink("/proc/self/exe"))) return bytesOf(file);
  auto reader = must(footage::FrameReader::open(clip));
  Task task;
  const auto a = must(
      coaching::analyse(reader, request, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped(), task));
  std::string json = tracing::traceToJson(a.trace).dump();
  // Two suites may be at it at a time.
  const fs::path part = file.string() + "." + fs::read_symlink("/proc/self").string();
  std::ofstream(part, std::ios::binary) << json;
  fs::rename(part, file);
  return json;
}

// The analysis that is made from it, as when a clip is opened again.
inline coaching::Analysis keptAnalysis(const std::string& name, const std::filesystem::path& clip,
                                       const coaching::AnalysisRequest& request) {
  const std::string json = keptTracing(name, clip, request);
  const auto reader = must(footage::FrameReader::open(clip));
  return must(exchange::restored(reader.info(), request, json, *coaching::shippedStyle("balanced"),
                                 *coaching::CueBook::shipped()));
}

}  // namespace jib::tests
