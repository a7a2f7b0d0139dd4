// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/exchange/mail/field_reader.h"

namespace jib::exchange {

// A reading as a file, jagged-jib/reading version 1 (docs/formats.md): JSON, kilograms and centimetres.
std::string readingToJson(const Reading& reading);

}  // namespace jib::exchange
