// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/shipped_readers.h"

#include "core/tracing/pose/pose_files.h"

namespace jib::tracing {

Result<PersonFinder> shippedFinder() {
  auto file = personNetwork();
  if (!file) return fail(file.error());
  return PersonFinder::make(*file);
}

Result<PoseReader> shippedReader(Care care, PoseReader::Outlines outlines) {
  auto file = care == Care::Quick ? quickPoseNetwork() : thoroughPoseNetwork();
  if (!file) return fail(file.error());
  return PoseReader::make(*file, outlines);
}

}  // namespace jib::tracing
