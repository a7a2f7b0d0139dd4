// SPDX-License-Identifier: GPL-3.0-or-later
// Speed as ratios in one run: tracing and stepping against the FFmpeg of the same machine on the same clip.
// Arguments: a clip.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <cstdlib>

#include "core/footage/footage.h"
#include "core/tracing/bar_tracer.h"

using namespace jib;

namespace {

template <class Work>
double seconds(Work work) {
  const auto from = std::chrono::steady_clock::now();
  work();
  return std::chrono::duration<double>(std::chrono::steady_clock::now() - from).count();
}

template <class Work>
double median(int times, Work work) {
  std::vector<double> all;
  for (int i = 0; i < times; ++i) all.push_back(seconds([&] { work(i); }));
  std::sort(all.begin(), all.end());
  return all[all.size() / 2];
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    fmt::print(stderr, "usage: jib-bench CLIP\n");
    return 2;
  }
  const std::string clip = argv[1];
  const std::string decode = "ffmpeg -v error -i " + clip + " -f null - >/dev/null 2>&1";
  const double ffmpeg = median(5, [&](int) { (void)!std::system(decode.c_str()); });
  const double bar = median(3, [&](int) {
    auto reader = footage::FrameReader::open(clip);
    Task task;
    (void)tracing::BarTracer().run(*reader, task);
  });
  auto footage = footage::Footage::open(clip);
  if (!footage) {
    fmt::print(stderr, "{}\n", footage.error().sentence());
    return 3;
  }
  const auto frames = footage->info().frames();
  const double step = median(60, [&](int i) { (void)footage->frame(static_cast<std::size_t>(i) + 10); });
  const double back = median(40, [&](int i) { (void)footage->frame(69 - static_cast<std::size_t>(i)); });
  // A cache too small to help, so that every seek decodes.
  auto cold = footage::Footage::open(clip, 1);
  const double seek =
      median(25, [&](int i) { (void)cold->frame((static_cast<std::size_t>(i) * 7919 + 100) % frames); });
  fmt::print("clip: {} frames, {:.1f} s, {}x{}\n", frames, footage->info().duration_s(), footage->info().width,
             footage->info().height);
  fmt::print("ffmpeg decode to nothing: {:.2f} s\n", ffmpeg);
  fmt::print("bar tracing:              {:.2f} s = {:.1f} x ffmpeg, {:.2f} x the clip's length\n", bar, bar / ffmpeg,
             bar / footage->info().duration_s());
  fmt::print(
      "step forward (median):    {:.1f} ms\nstep back (median):       {:.1f} ms\nrandom seek (median):     {:.1f} ms\n",
      1000 * step, 1000 * back, 1000 * seek);
  return 0;
}
