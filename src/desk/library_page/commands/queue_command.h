// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoCommand>
#include <functional>

#include "core/library/library.h"

namespace jib::desk {

// What a command of the queue tells when it has run: the row it was about, and what went wrong (empty: nothing).
using QueueTold = std::function<void(library::SubmissionId, const QString& trouble)>;

}  // namespace jib::desk
