// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/pose_files.h"

#include "core/base/resources.h"

namespace jib::tracing {

Result<NetworkFile> personNetwork() {
  return loadNetwork(resource("pose/pose_solution_packed_assets.data"),
                     "a63c614bef30d35947f13be361820b1e4e3bec9cfeebf4d11216a18373108e85");
}

Result<NetworkFile> quickPoseNetwork() {
  return loadNetwork(resource("pose/pose_landmark_full.tflite"),
                     "e9a5c5cb17f736fafd4c2ec1da3b3d331d6edbe8a0d32395855aeb2cdfd64b9f");
}

Result<NetworkFile> thoroughPoseNetwork() {
  return loadNetwork(resource("pose/pose_landmark_heavy.tflite"),
                     "59e42d71bcd44cbdbabc419f0ff76686595fd265419566bd4009ef703ea8e1fe");
}

}  // namespace jib::tracing
