// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QTranslator>

namespace jib::desk {

// The window's own words in the spelling in force (core/base/spelling.h).
class SpellingTranslator : public QTranslator {
  Q_OBJECT

 public:
  using QTranslator::QTranslator;
  bool isEmpty() const override { return false; }
  QString translate(const char* context, const char* source, const char* disambiguation, int n) const override;
};

}  // namespace jib::desk
