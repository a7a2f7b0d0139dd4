// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

class QApplication;

namespace jib::desk {

// Every tooltip is plain text from here on. Qt takes a text with tags for a page, and a page opens the files that it
// names: the words of a stranger's mail, hovered over, would be read from the disk. Labels are made by widgets/flow.h,
// which does the same for them.
void keepTipsPlain(QApplication& application);

}  // namespace jib::desk
