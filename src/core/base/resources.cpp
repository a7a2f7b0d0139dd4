// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/resources.h"

#include <cstdlib>

namespace jib {
namespace fs = std::filesystem;

fs::path resourceFolder() {
  if (const char* named = std::getenv("JIB_RESOURCES")) return named;
  std::error_code ignored;
  if (fs::exists(JIB_RESOURCES, ignored)) return JIB_RESOURCES;
  return JIB_INSTALLED_RESOURCES;
}

fs::path resource(std::string_view relative) {
  return resourceFolder() / relative;
}

}  // namespace jib
