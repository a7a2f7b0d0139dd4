// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <string_view>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/model/coach_told.h"
#include "core/tracing/pose/pose_reader.h"

namespace jib::tracing {

// From where the athlete is seen. Oblique: neither one nor the other, so that no left-right claim and no angle holds.
// Of one who lies the front is the feet's end, and Head the other.
enum class Seen { Nobody, Side, Oblique, Front, Rear, Head };
std::string_view nameOf(Seen seen);  // "side"

// How far the camera stands from square-on to the side, and what follows.
struct ViewLook {
  Seen seen = Seen::Nobody;
  double turned_deg = 0;          // 0 square-on from the side, 90 from the front or the rear; 1 σ about 8 degrees
  double toward = 0;              // +1 where the camera sees more of the front, -1 of the back; 0: square-on
  std::optional<double> forward;  // of a side view: +1 when the toes point to the picture's right edge
};

// What a glance at a dozen frames tells about a clip before anything is traced.
struct FirstLook {
  ViewLook view;
  double looked = 0, found = 0;  // frames looked at, and those on which somebody was made out
  double body_share = 0;         // height of the standing body over the picture's
  bool feet_in_picture = true;   // the lowest foot point clears the picture's edge
  double light = 0;              // mean grey level, 0..1
  double blur = 0;               // 1 σ of a Gaussian that would smear a sharp edge as the stillest frame's are, in px
  bool moving = false;           // the room's corners stray by more than a hand's width over the clip
  bool along_bench = false;      // somebody lies on a bench and is seen from its end, as `view` says
  double lying = 0;              // share of the looks in which the body lies rather than stands, 0..1
  struct Body {
    std::size_t frame = 0;
    PoseReading reading;
  };
  std::vector<Body> bodies;  // as they were read

  std::optional<PointedAt> lifter;  // who was looked at, where there are others
};
// A look takes seconds: whatever asks about the same clip and lifter asks the same one.
using Glance = std::shared_ptr<const FirstLook>;

// From where a body is seen, by the width of its hips and shoulders and the direction of its feet against the length of
// its trunk. Uses the half of the readings in which it stands: bent limbs are foreshortened and mistaken for each
// other. Source  segment shares of stature: Drillis and Contini 1966, as in Winter, figure 4.1
ViewLook viewFrom(const std::vector<PoseReading>& readings);

// The same, held against the plate's rim: a camera turned by an angle sees it narrower by the angle's cosine, so a
// round rim says that the camera is not turned far, whatever a body bent under a bar looks like.
ViewLook heldAgainstRim(ViewLook look, double rim_aspect);

// The same, where something surer tells how far the camera is turned: what is seen follows from it.
ViewLook turnedBy(ViewLook look, double turned_deg);

// `lifter`: looks at them and at nobody else; nullopt: at the largest person
// Errors  CannotRead, BadData when the network's files are missing or damaged; ClipUnreadable; Cancelled
Result<FirstLook> firstLook(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter = {});
// The same, unless `known` is of this lifter already. Errors  as above
Result<Glance> glanceAt(footage::FrameReader& reader, Task& task, const std::optional<PointedAt>& lifter,
                        const Glance& known);

}  // namespace jib::tracing
