// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <stdexcept>
#include <utility>

#include "core/base/result.h"

namespace jib::tests {

// What a result holds; where it holds an error, the test that asked fails with the error's words.
template <typename T>
T must(Result<T> result) {
  if (!result) throw std::runtime_error(result.error().sentence());
  return std::move(*result);
}

}  // namespace jib::tests
