// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/tracing/network/network_file.h"

namespace jib::tracing {

// The shipped networks, checked against the bytes they must have (resources/pose/README.md).
// Errors  CannotRead, BadData
Result<NetworkFile> personNetwork();
Result<NetworkFile> quickPoseNetwork();
Result<NetworkFile> thoroughPoseNetwork();

}  // namespace jib::tracing
