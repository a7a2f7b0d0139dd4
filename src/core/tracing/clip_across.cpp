// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/clip_across.h"

#include "core/tracing/front/facing_across.h"
#include "core/tracing/front/front_pins.h"
#include "core/tracing/pose/shipped_readers.h"
#include "core/tracing/sightings/bench_end.h"

namespace jib::tracing {

namespace {

std::optional<BarOverhead> overhead(const std::vector<PlatesTogether>& plates) {
  if (plates.empty()) return std::nullopt;
  return BarOverhead{plates.front().middle(), plates.front().metre_px};
}

}  // namespace

Result<SeenUnderBar> seenUnderBar(footage::FrameReader& reader, const std::optional<PointedAt>& lifter, Task& task) {
  constexpr std::size_t kTries = 4;
  constexpr double kClearly = 1.3;
  auto plates = platesTogether(reader, task);
  if (!plates) return fail(plates.error());
  SeenUnderBar out{std::move(*plates), {}};
  const auto bar = overhead(out.plates);
  if (!convince(out.plates)) return out;
  auto finder = shippedFinder();
  auto pose = shippedReader(Care::Thorough);
  if (!finder || !pose) return out;
  const std::size_t frames = reader.info().frames();
  double head = 0, feet = 0;
  for (std::size_t k = 0; k < kTries; ++k) {
    if (task.cancelled()) return cancelled();
    const std::size_t index = (2 * k + 1) * frames / (2 * kTries);
    if (auto set = reader.seekBefore(index); !set) return fail(set.error());
    auto frame = reader.next(footage::Pixels::Colour, index);
    if (!frame) return fail(frame.error());
    if (!*frame) continue;
    for (const bool from_head : {false, true}) {
      auto look = lookFromBenchEnd(*finder, *pose, (*frame)->picture, from_head, lifter, bar);
      if (!look) return fail(look.error());
      if (*look) (from_head ? head : feet) += sureOfArms((*look)->reading);
    }
  }
  if (head > kClearly * feet) out.facing = Facing::Head;
  if (feet > kClearly * head) out.facing = Facing::Front;
  return out;
}

Result<ClipTrace> traceAcross(footage::FrameReader& reader, const TraceRequest& request, Facing facing, ClipTrace clip,
                              Task& task, const std::vector<PlatesTogether>& plates) {
  const auto& info = reader.info();
  BarTrace nowhere;
  nowhere.times_s = info.times_s;
  nowhere.plate.resize(info.frames());
  nowhere.end.resize(info.frames());
  task.part(0, 0.8);
  auto seen = request.body.lying
                  ? sightFromBenchEnd(reader, facing == Facing::Head, task, request.lifter, overhead(plates))
                  : sightBody(reader, nowhere, 0, info.frames() - 1, task, {}, {}, request.lifter);
  if (!seen) return fail(seen.error());
  clip.sightings = std::make_shared<const std::vector<Sighting>>(std::move(*seen));
  task.part(0.8, 1.0);
  auto front = traceFront(reader, *clip.sightings, facing, request.camera.rim_m, request.body, task, plates);
  if (!front) return fail(front.error());
  clip.front_seen = std::make_shared<const FrontTrace>(std::move(*front));
  clip.bar = std::make_shared<const BarTrace>(barAcross(*clip.front_seen, info.times_s, request.camera.rim_m));
  solveAgain(clip, request, info.width, info.height);
  return clip;
}

ClipTrace tracedAcross(ClipTrace clip, const TraceRequest& request, const footage::ClipInfo& info, KnownTrace known) {
  clip.front_seen = std::move(known.front);
  clip.bar = std::move(known.bar);
  clip.sightings = std::move(known.sightings);
  clip.glance = std::move(known.glance);
  solveAgain(clip, request, info.width, info.height);
  return clip;
}

void bendAcross(ClipTrace& clip, const TraceRequest& request) {
  const auto times_s = clip.bar->times_s;
  const BarTrace seen = barAcross(*clip.front_seen, times_s, request.camera.rim_m);
  clip.front = std::make_shared<const FrontTrace>(withPins(*clip.front_seen, seen, request.placed));
  clip.bar = std::make_shared<const BarTrace>(barAcross(*clip.front, times_s, request.camera.rim_m));
}

bool isAcross(View view) {
  return view == View::Front || view == View::Rear || view == View::Head;
}

bool viewIsLeftToTheFilm(const TraceRequest& request) {
  return request.view == View::Auto && request.parts.network && !anyFromTheSide(request.placed);
}

std::optional<Facing> seenAcross(footage::FrameReader& reader, const TraceRequest& request, Glance& glance) {
  if (request.view == View::Front) return Facing::Front;
  // Behind somebody who lies is the head's end.
  if (request.view == View::Rear) return request.body.lying ? Facing::Head : Facing::Rear;
  if (request.view == View::Head) return Facing::Head;
  // Of one who lies a glance has told before anything was traced.
  if (request.body.lying || !viewIsLeftToTheFilm(request)) return std::nullopt;
  Task quiet;
  const auto look = glanceAt(reader, quiet, request.lifter, glance);
  if (!look) return std::nullopt;
  glance = *look;
  return facingAcross(*glance, request.body);
}

}  // namespace jib::tracing
