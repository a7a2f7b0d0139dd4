// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/geometry.h"
#include "core/tracing/rim_track.h"

namespace jib::tracing {

// How the near end of the bar lies to the plate's rim in the picture: at constant + ratio * (plate - middle of
// picture). The ratio is the end's lead over the rim towards the camera, as a share of the end's distance from it.
struct BarEndOffset {
  double ratio = 0;
  PixelPoint constant;  // px; what yaw and pitch of the camera add
  double sigma_px = 1;
  int frames = 0;  // that agree
};

// Looks for the small round end of the sleeve in the hub pictures of a track, and keeps what agrees over the clip.
// nullopt when no small circle moves as the end of a bar must.
std::optional<BarEndOffset> findBarEnd(const std::vector<RimTrack::Seen>& seen, PixelPoint middle);

}  // namespace jib::tracing
