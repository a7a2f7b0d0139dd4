// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/film.h"

#include "core/footage/clip_writer.h"
#include "core/simulate/renderer.h"

namespace jib::simulate {
namespace {

using tracing::at;
using tracing::Landmark;

TrueFrame trueFrame(const ClipSpec& spec, const LiftScript& script, const Pinhole& camera, double t) {
  const Build& build = script.build();
  const Body body = script.at(t);
  const double near = spec.camera.side == "left" ? 1.0 : -1.0;
  const Leg& leg = near > 0 ? body.left : body.right;
  const Arm& arm = near > 0 ? body.left_arm : body.right_arm;
  const Vec3 across = body.bar_across * near;
  const std::pair<Landmark, Vec3> places[] = {
      {Landmark::Bar, body.bar + across * spec.sleeve_end_m},
      {Landmark::Plate, body.bar + across * spec.plate_face_m},
      {Landmark::Toe, leg.toe},
      {Landmark::Heel, leg.heel},
      {Landmark::Ankle, leg.ankle},
      {Landmark::Knee, leg.knee},
      {Landmark::Hip, leg.hip},
      {Landmark::Shoulder, arm.shoulder},
      {Landmark::HipCrease, hipCrease(build, leg)},
      {Landmark::KneeTop, kneeTop(build, leg)},
      {Landmark::Elbow, arm.elbow},
      {Landmark::Wrist, arm.wrist},
  };
  TrueFrame frame;
  frame.t_s = t;
  for (const auto& [landmark, place] : places) {
    frame.pixels[at(landmark)] = tracing::TracedPoint{camera.project(place), 0.01, tracing::Origin::Optical};
    frame.metres[at(landmark)] = MetrePoint{place.x, place.z};
  }
  return frame;
}

int frameCount(const ClipSpec& spec, const LiftScript& script) {
  return static_cast<int>(script.duration_s() * spec.camera.rate_hz);
}

}  // namespace

Truth truthOf(const ClipSpec& spec) {
  const auto script = scriptFor(spec);
  Truth truth{spec, {}, script->reps()};
  const Handheld camera(spec);
  for (int i = 0; i < frameCount(spec, *script); ++i) {
    const double t = static_cast<double>(i) / spec.camera.rate_hz;
    truth.frames.push_back(trueFrame(spec, *script, camera.at(t), t));
  }
  return truth;
}

Result<bool> film(const ClipSpec& spec, const std::filesystem::path& file, Task& task) {
  const auto script = scriptFor(spec);
  const Renderer renderer(spec, *script);
  footage::ClipFormat format{.width = spec.camera.width,
                             .height = spec.camera.height,
                             .rate_hz = spec.camera.rate_hz,
                             .quality = spec.camera.quality,
                             .speed = "medium",
                             .key_every = spec.camera.rate_hz,
                             .repeatable = true};
  auto writer = footage::ClipWriter::create(file, format);
  if (!writer) return fail(writer.error());
  const int frames = frameCount(spec, *script);
  for (int i = 0; i < frames; ++i) {
    if (task.cancelled()) return cancelled();
    const double t = static_cast<double>(i) / spec.camera.rate_hz;
    if (auto added = writer->add(renderer.render(t, i)); !added) return added;
    task.report(static_cast<double>(i + 1) / frames);
  }
  return writer->finish();
}

}  // namespace jib::simulate
