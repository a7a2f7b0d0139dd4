// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace jib {

// This program as long as it runs: its number, and since when it has it, as numbers are given out again.
std::string thisProgram();
// Whether a program that called itself that still runs on this machine.
bool lives(const std::string& program);

}  // namespace jib
