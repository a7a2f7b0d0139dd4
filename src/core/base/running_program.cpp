// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/running_program.h"

#include <unistd.h>

#include <charconv>
#include <fstream>
#include <sstream>

namespace jib {
namespace {

std::string programOf(long pid) {
  std::ifstream in("/proc/" + std::to_string(pid) + "/stat");
  std::string all;
  std::getline(in, all);
  const auto after_name = all.rfind(')');  // the name itself may hold anything
  if (after_name == std::string::npos) return {};
  std::istringstream fields(all.substr(after_name + 1));
  std::string field;
  constexpr int kStartTime = 20;  // the 22nd field of proc(5), the second after the name being the first here
  for (int i = 0; i < kStartTime; ++i) fields >> field;
  return std::to_string(pid) + ":" + field;
}

}  // namespace

std::string thisProgram() {
  return programOf(::getpid());
}

bool lives(const std::string& program) {
  long pid = 0;
  std::from_chars(program.data(), program.data() + program.size(), pid);
  return pid > 0 && programOf(pid) == program;
}

}  // namespace jib
