// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/stat.h>

#include <CLI/CLI.hpp>
#include <cstdio>
#include <exception>

#include "cli/commands.h"

int main(int argc, char** argv) {
  // What is written here is of private people: nobody else on the machine reads it.
  umask(077);
  CLI::App app{"jib: the Jagged Jib without its window"};
  app.set_version_flag("--version", "jib " JIB_VERSION);
  app.require_subcommand(1);
  int status = 0;
  jib::cli::addAnalyze(app, status);
  jib::cli::addReply(app, status);
  jib::cli::addRead(app, status);
  jib::cli::addCompare(app, status);
  jib::cli::addPlan(app, status);
  jib::cli::addSimulate(app, status);
  jib::cli::addLibrary(app, status);
  jib::cli::addPost(app, status);
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& e) {
    const int code = app.exit(e);
    return code == 0 ? 0 : 2;
  } catch (const std::exception& e) {
    std::fprintf(stderr,
                 "jib: Something went wrong inside the program: %s. Please report it with the clip's details.\n",
                 e.what());
    return 2;
  }
  return status;
}
