// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/other_faces.h"

#include <algorithm>
#include <cmath>

namespace jib::tracing {
namespace {

constexpr double kEvery_s = 0.5;
constexpr double kSomebody = 0.5;     // the landmark network's own word for whether a person is there
constexpr double kSameHead = 1.5;     // radii between the places of one head in two looks
constexpr double kLifterNear = 0.45;  // trunks, hips and shoulders together: nearer are the lifter's own
constexpr double kOfBox = 0.5;        // radius of what is covered where no ear is made out, of the detector's box

// One entry for a head that two tiles, or two looks, have both found.
void add(std::vector<Head>& heads, const Head& head) {
  for (Head& known : heads)
    if (length(known.centre - head.centre) < std::max(known.radius_px, head.radius_px) / 2) {
      if (head.radius_px > known.radius_px) known = head;
      return;
    }
  heads.push_back(head);
}

PixelPoint middleOf(const PoseReading& r, PoseMark mark) {
  return (r.place(mark, BodySide::Left) + r.place(mark, BodySide::Right)) * 0.5;
}

bool isLifter(const OtherFaceFinder::Lifter& lifter, const PoseReading& r) {
  const double off =
      (length(middleOf(r, PoseMark::Hip) - lifter.hips) + length(middleOf(r, PoseMark::Shoulder) - lifter.shoulders)) /
      2;
  return off < kLifterNear * length(lifter.shoulders - lifter.hips);
}

}  // namespace

std::vector<Head> OtherFaces::on(std::size_t frame) const {
  const auto next =
      std::lower_bound(looks.begin(), looks.end(), frame, [](const Look& l, std::size_t f) { return l.frame < f; });
  if (next == looks.end()) return looks.empty() ? std::vector<Head>{} : looks.back().heads;
  if (next == looks.begin() || next->frame == frame) return next->heads;
  const Look& before = *std::prev(next);
  const double share = static_cast<double>(frame - before.frame) / static_cast<double>(next->frame - before.frame);
  std::vector<Head> covered;
  std::vector<bool> met(next->heads.size(), false);
  for (const Head& from : before.heads) {
    std::optional<std::size_t> same;
    for (std::size_t i = 0; i < next->heads.size(); ++i) {
      const double apart = length(next->heads[i].centre - from.centre);
      if (met[i] || apart > kSameHead * std::max(from.radius_px, next->heads[i].radius_px)) continue;
      if (!same || apart < length(next->heads[*same].centre - from.centre)) same = i;
    }
    if (!same) {
      covered.push_back(from);
      continue;
    }
    met[*same] = true;
    const Head& to = next->heads[*same];
    covered.push_back({from.centre + (to.centre - from.centre) * share,
                       std::max(from.radius_px, to.radius_px) + length(to.centre - from.centre) / 4});
  }
  for (std::size_t i = 0; i < next->heads.size(); ++i)
    if (!met[i]) covered.push_back(next->heads[i]);
  return covered;
}

std::size_t OtherFaces::most() const {
  std::size_t most = 0;
  for (const Look& look : looks) most = std::max(most, look.heads.size());
  return most;
}

Result<OtherFaceFinder> OtherFaceFinder::make() {
  auto finder = shippedFinder();
  if (!finder) return fail(finder.error());
  auto reader = shippedReader(Care::Quick);
  if (!reader) return fail(reader.error());
  return OtherFaceFinder(std::move(*finder), std::move(*reader));
}

Result<std::vector<Head>> OtherFaceFinder::in(const cv::Mat& picture, const std::optional<Lifter>& lifter) {
  auto people = finder_.findAll(picture);
  if (!people) return fail(people.error());
  std::vector<Head> heads;
  for (const Person& p : *people) {
    auto reading = reader_.read(picture, p.region);
    if (!reading) return fail(reading.error());
    if (reading->person < kSomebody) continue;
    if (lifter && isLifter(*lifter, *reading)) continue;
    add(heads, headOf(*reading).value_or(Head{p.face, kOfBox * p.face_px}));
  }
  return heads;
}

std::optional<OtherFaceFinder::Lifter> lifterAt(const std::vector<Sighting>& sightings, std::size_t frame) {
  const Sighting* nearest = nullptr;
  const auto apart = [frame](const Sighting& s) { return s.frame > frame ? s.frame - frame : frame - s.frame; };
  for (const Sighting& s : sightings)
    if (!nearest || apart(s) < apart(*nearest)) nearest = &s;
  if (!nearest) return std::nullopt;
  return OtherFaceFinder::Lifter{middleOf(nearest->reading, PoseMark::Hip),
                                 middleOf(nearest->reading, PoseMark::Shoulder)};
}

Result<OtherFaces> otherFaces(footage::FrameReader& reader, const std::vector<Sighting>& lifter, Task& task) {
  auto finder = OtherFaceFinder::make();
  if (!finder) return fail(finder.error());
  OtherFaces all;
  const auto& times = reader.info().times_s;
  double due_s = -1e9;
  for (;;) {
    if (task.cancelled()) return cancelled();
    auto next = reader.next(footage::Pixels::Colour);
    if (!next) return fail(next.error());
    if (!*next) return all;
    const footage::Frame& frame = **next;
    const bool last = frame.index + 1 >= times.size();
    if (frame.t_s < due_s && !last) continue;
    due_s = frame.t_s + kEvery_s;
    auto heads = finder->in(frame.picture, lifterAt(lifter, frame.index));
    if (!heads) return fail(heads.error());
    all.looks.push_back({frame.index, std::move(*heads)});
    if (!times.empty() && times.back() > 0) task.report(frame.t_s / times.back());
  }
}

}  // namespace jib::tracing
