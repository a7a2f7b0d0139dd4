// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "core/library/records.h"

namespace jib::desk {

// What an athlete wrote: the message at hand open, earlier ones of its thread above it, folded to a line; what each
// quotes folded below its own words; what it held, part by part, and what could not be used.
class ThreadView : public QWidget {
  Q_OBJECT

 public:
  // `thread`: oldest first; the last one open is `at_hand`.
  ThreadView(const std::vector<library::Message>& thread, library::MessageId at_hand, QWidget* parent = nullptr);
};

}  // namespace jib::desk
