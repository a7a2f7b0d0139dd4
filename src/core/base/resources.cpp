// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/resources.h"

#include <cstdlib>

namespace jib {
namespace fs = std::filesystem;

fs::path resourceFolder() {
  if (const char* named = std::getenv("JIB_RESOURCES")) return named;
  std::error_code ignored;
  if (fs::exists(JIB_RESOURCES, ignored)) return JIB_RESOURCES;
  if (fs::exists(JIB_INSTALLED_RESOURCES, ignored)) return JIB_INSTALLED_RESOURCES;
  // Installed elsewhere than it was built for: beside the program's own folder.
  const fs::path program = fs::read_symlink("/proc/self/exe", ignored);
  if (program.empty()) return "/usr/share/jagged-jib";  // a bare root without /proc
  return program.parent_path().parent_path() / "share" / "jagged-jib";
}

fs::path resource(std::string_view relative) {
  return resourceFolder() / relative;
}

}  // namespace jib
