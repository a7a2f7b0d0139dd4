// SPDX-License-Identifier: GPL-3.0-or-later
// Holds what the program says of clips and messages before anyone looks against what is true, and writes confusion
// tables (Markdown, standard output). Arguments: the list of phrases, then spec files of made-up clips; the clip lies
// beside each spec under the same name.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/base/files.h"
#include "core/coaching/clip_check.h"
#include "core/exchange/mail/field_reader.h"
#include "core/simulate/truth_file.h"

using namespace jib;

namespace {

struct Count {
  int hits = 0, misses = 0, wrong = 0;
};

void phrases(const char* file) {
  std::map<int, Count> rounds;
  std::map<std::string, Count> fields;
  std::map<int, int> of_round;
  std::ifstream in(file);
  for (std::string line; std::getline(in, line);) {
    const auto j = nlohmann::json::parse(line);
    const int round = j.value("round", 1);
    ++of_round[round];
    std::map<std::string, std::string> got;
    for (const auto& f : exchange::readMessage(j.at("text").get<std::string>(), "2026-11-25").fields)
      got.emplace(exchange::nameOf(f.field), f.value);
    const auto count = [&](const std::string& field, int Count::*what) {
      ++(rounds[round].*what);
      ++(fields[field].*what);
    };
    for (const auto& [field, value] : j.at("want").items()) {
      const std::string wanted = value.is_string() ? value.get<std::string>() : value.dump();
      const auto it = got.find(field);
      count(field, it == got.end() ? &Count::misses : it->second == wanted ? &Count::hits : &Count::wrong);
      if (it != got.end()) got.erase(it);
    }
    for (const auto& [field, value] : got) count(field, &Count::wrong);
  }
  fmt::print(
      "\n## Messages\n\nReadings of the made-up phrases in `bench/phrases`. The first list was written before the "
      "reader; it, the second and the third are tests now, so their rows are not blind (read for the first time they "
      "gave 220 hits, 1 miss, 1 wrong; 52, 6, 13; 65, 4, 6). The fourth was written last and nothing was repaired for "
      "it: its row is how a fresh message fares.\n\n| list | phrases | hits | misses | wrong |\n| --- | --- | --- | "
      "--- | --- |\n");
  for (const auto& [round, c] : rounds)
    fmt::print("| {} | {} | {} | {} | {} |\n", round, of_round[round], c.hits, c.misses, c.wrong);
  fmt::print("\n| field | hits | misses | wrong |\n| --- | --- | --- | --- |\n");
  for (const auto& [field, c] : fields) fmt::print("| `{}` | {} | {} | {} |\n", field, c.hits, c.misses, c.wrong);
}

// Rows: what is true; columns: what was said.
class Confusion {
 public:
  explicit Confusion(std::vector<std::string> names) : names_(std::move(names)) {}
  void add(const std::string& truth, const std::string& said) { ++cells_[{truth, said}]; }
  void print(const std::string& title) const {
    fmt::print("\n{}\n\n| true ↓ said → |", title);
    for (const auto& n : names_) fmt::print(" {} |", n);
    fmt::print("\n| --- |");
    for (std::size_t i = 0; i < names_.size(); ++i) fmt::print(" --- |");
    for (const auto& row : names_) {
      fmt::print("\n| {} |", row);
      for (const auto& column : names_) {
        const auto it = cells_.find({row, column});
        fmt::print(" {} |", it == cells_.end() ? 0 : it->second);
      }
    }
    fmt::print("\n");
  }

 private:
  std::vector<std::string> names_;
  std::map<std::pair<std::string, std::string>, int> cells_;
};

std::string trueView(const simulate::CameraSpec& c) {
  const double turned = std::abs(c.yaw_deg);
  if (turned < 33) return "side";
  if (turned < 65) return "oblique";
  // A left side turned to +90 degrees shows the front.
  return (c.yaw_deg > 0) == (c.side == "left") ? "front" : "rear";
}

// How steeply the camera's line falls on the hip when it is lowest.
double lookDown_deg(const simulate::Truth& truth) {
  double lowest = 1e9;
  for (const auto& f : truth.frames)
    if (const auto& hip = f.metres[tracing::at(tracing::Landmark::Hip)]) lowest = std::min(lowest, hip->z);
  return degrees(std::atan2(truth.spec.camera.height_m - lowest, truth.spec.camera.distance_m));
}

std::string depthWord(double look_down_deg) {
  const double steep = std::abs(look_down_deg);
  return steep > 15 ? "no" : steep > 8 ? "weakly" : "yes";
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 3) {
    fmt::print(stderr, "jib-intake PHRASES SPEC...\n");
    return 2;
  }
  phrases(argv[1]);
  Confusion views({"side", "oblique", "front", "rear", "nobody"}), depth({"yes", "weakly", "no"});
  Confusion moving({"still", "moving"}), reps({"right", "wrong"});
  std::string heights;
  for (int i = 2; i < argc; ++i) {
    const std::filesystem::path spec(argv[i]);
    auto bytes = FileSystem::real().read(spec);
    auto parsed = bytes ? simulate::parseSpec(*bytes) : Result<simulate::ClipSpec>(fail(bytes.error()));
    auto reader = footage::FrameReader::open(std::filesystem::path(spec).replace_extension(".mp4"));
    if (!parsed || !reader) {
      fmt::print(stderr, "{}: {}\n", spec.string(), (parsed ? reader.error() : parsed.error()).sentence());
      return 1;
    }
    const auto truth = simulate::truthOf(*parsed);
    Task task;
    auto look = tracing::firstLook(*reader, task);
    if (!look) return 1;
    coaching::AnalysisRequest request;
    request.trace.camera.rim_m = parsed->plate_mm / 1000;
    auto a =
        coaching::analyse(*reader, request, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped(), task);
    coaching::lookAgain(*look, a ? &*a : nullptr);
    const auto check =
        coaching::checkClip(reader->info(), *look, request.lift, a ? &*a : nullptr, a ? "" : a.error().what);
    views.add(trueView(parsed->camera), check.view);
    // A clip of two frames a second shows the view; nothing can be traced in it.
    if (parsed->camera.rate_hz < 10) continue;
    moving.add(parsed->camera.shake_deg > 0.3 ? "moving" : "still",
               look->moving || (a && !a->trace.trace.camera_moves.empty()) ? "moving" : "still");
    if (trueView(parsed->camera) != "side" || !a) continue;
    const double true_deg = lookDown_deg(truth), said_deg = a->motion.calibration.look_down_deg;
    depth.add(depthWord(true_deg), std::string(coaching::nameOf(check.claim("depth")->can)));
    reps.add("right", check.reps == static_cast<int>(truth.reps.size()) ? "right" : "wrong");
    heights += fmt::format("| {} | {:.1f} | {:.1f} | {:.1f} |\n", spec.stem().string(), true_deg, said_deg,
                           parsed->camera.pitch_deg);
  }
  fmt::print("\n## Clips, before anyone looks\n");
  views.print("From where it is filmed (within 33 degrees of the side is a side view):");
  depth.print("Whether depth can be judged, by how steeply the camera looks on the hip (8 and 15 degrees):");
  moving.print("Whether the camera moves:");
  reps.print("Reps:");
  fmt::print(
      "\nThe camera's line to the hip, degrees down:\n\n| clip | true | said | pitch |\n| --- | --- | --- | --- |\n{}",
      heights);
}
