// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace CLI {
class App;
}

namespace jib::cli {

// Each adds one subcommand; `status` gets the exit status when it has run.
void addAnalyze(CLI::App& app, int& status);
void addReply(CLI::App& app, int& status);
void addRead(CLI::App& app, int& status);
void addCompare(CLI::App& app, int& status);
void addPlan(CLI::App& app, int& status);
void addSimulate(CLI::App& app, int& status);
void addLibrary(CLI::App& app, int& status);
void addPost(CLI::App& app, int& status);

}  // namespace jib::cli
