// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/geometry.h"
#include "core/tracing/bar/rim_track.h"
#include "core/tracing/room/vertical_vanishing_point.h"

namespace jib::tracing {

// How the near end of the bar lies to the plate's rim in the picture: at constant + ratio * (plate - middle of
// picture). The ratio is the end's lead over the rim towards the camera, as a share of the end's distance from it.
struct BarEndOffset {
  double ratio = 0;
  PixelPoint constant;  // px; what yaw and pitch of the camera add
  double sigma_px = 1;
  int frames = 0;      // that agree
  bool is_end = true;  // or something else on the bar's line, that tells only its direction
};

// Looks for the small round end of the sleeve in the hub pictures of a track: all of them are laid over each other as
// if shifted by one lead after another, and what is sharp and round under one of them is measured in each.
// `uprights`: what the room tells of the camera's pitch. Under a camera that looks down the end lies below the plate's
// middle, and whatever leads elsewhere is letters, light and shadow.
// nullopt when no small circle moves as the end of a bar must.
// Source  focusing by shifting and adding: Vaish and others, Using plane + parallax for calibrating dense camera
// arrays,
//         2004
std::optional<BarEndOffset> findBarEnd(const std::vector<RimTrack::Seen>& seen, PixelPoint middle,
                                       const std::optional<Convergence>& uprights = std::nullopt);

}  // namespace jib::tracing
