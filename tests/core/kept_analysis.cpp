// SPDX-License-Identifier: GPL-3.0-or-later
#include "tests/core/kept_analysis.h"

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/base/files.h"
#include "core/tracing/trace_store.h"

namespace jib::tests {
namespace {

// All that a tracing comes from: the compiled code that traces, the film, and what is asked of it. Left-out parts are
// taken from what was traced.
std::string tracedFrom(const std::filesystem::path& clip, const coaching::AnalysisRequest& request) {
  std::string all = bytesOf(std::filesystem::path(JIB_MADE_CLIPS) / "traced-by.txt") + must(contentHash(clip)) +
                    std::string(tracing::nameOf(request.trace.view)) +
                    tracing::placedToJson(request.trace.placed).dump();
  const auto number = [&](double n) { all += ' ' + std::to_string(n); };
  const tracing::BodyModel body = lifts::definition(request.lift).bodyOf(request.variant);
  for (bool is :
       {body.inHands(), body.lying, body.starts_low, body.around, body.racked_ahead, body.wide, body.overhead})
    number(is);
  number(request.trace.camera.rim_m);
  number(request.trace.around_s.value_or(-1));
  if (request.trace.lifter) number(request.trace.lifter->t_s);
  return sha256Of(all).substr(0, 16);
}

}  // namespace

std::string keptTracing(const std::string& name, const std::filesystem::path& clip,
                        const coaching::AnalysisRequest& request) {
  namespace fs = std::filesystem;
  const fs::path file = fs::path(JIB_MADE_CLIPS) / ("traced-" + name + "-" + tracedFrom(clip, request) + ".json");
  if (fs::exists(file)) return bytesOf(file);
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

coaching::Analysis keptAnalysis(const std::string& name, const std::filesystem::path& clip,
                                const coaching::AnalysisRequest& request) {
  const std::string json = keptTracing(name, clip, request);
  const auto reader = must(footage::FrameReader::open(clip));
  return must(exchange::restored(reader.info(), request, json, *coaching::shippedStyle("balanced"),
                                 *coaching::CueBook::shipped()));
}

}  // namespace jib::tests
