// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/tracing/pose/person_finder.h"
#include "core/tracing/pose/pose_reader.h"

namespace jib::tracing {

// The shipped networks, opened and ready. A thorough reading takes ten times as long as a quick one.
// Errors  CannotRead, BadData when their files are missing or damaged
enum class Care { Quick, Thorough };
Result<PersonFinder> shippedFinder();
Result<PoseReader> shippedReader(Care care, PoseReader::Outlines outlines = PoseReader::Outlines::No);

}  // namespace jib::tracing
