// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/spelling_translator.h"

#include "core/base/spelling.h"
#include "desk/text.h"

namespace jib::desk {

QString SpellingTranslator::translate(const char*, const char* source, const char*, int) const {
  if (spelling() == Spelling::American) return {};
  const std::string words = spelled(source);
  // Null says that the text stays as it is written.
  return words == source ? QString() : q(words);
}

}  // namespace jib::desk
