// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string_view>

namespace jib {

// The folder of shipped data (styles, cues, icons): the one beside the sources when built in place, else the installed
// one. JIB_RESOURCES in the environment names another.
std::filesystem::path resourceFolder();
std::filesystem::path resource(std::string_view relative);

}  // namespace jib
