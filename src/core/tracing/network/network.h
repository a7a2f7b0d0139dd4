// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "core/tracing/network/network_file.h"

namespace jib::tracing {

// A network made ready to run, with only the steps the wanted outputs need.
// Errors  BadData when the file asks for something the runtime or this code cannot do
// Thread  one thread at a time; make one for each thread that shall run it
// Owns    its packed weights; the file may go once it is made
class Network {
 public:
  // `outputs`: names of tensors, in the order result() counts them.
  static Result<Network> make(const NetworkFile& file, const std::vector<std::string_view>& outputs);
  Network(Network&&) noexcept;
  Network& operator=(Network&&) noexcept;
  ~Network();

  // To be filled before run(): batch 1, height, width, channels.
  std::span<float> input();
  Result<bool> run();
  std::span<const float> result(std::size_t output) const;

 private:
  struct Impl;
  explicit Network(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace jib::tracing
