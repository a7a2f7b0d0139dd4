// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace jib::tracing {

// A neural network as it lies in a .tflite file: tensors, and operations in the order they are run.
// Only what the shipped pose networks use is read; anything else is refused.
// Source  the file format's published schema, version 3
enum class NumberType : std::uint8_t { Float32 = 0, Float16 = 1, Int32 = 2 };

// A tensor stored as compressed rows: only the last dimension is sparse.
struct SparseRows {
  std::vector<std::int64_t> segments, indices;
};

struct NetworkTensor {
  std::vector<int> shape;  // batch, height, width, channels
  NumberType type = NumberType::Float32;
  std::string_view data;  // of constants; empty otherwise
  std::string name;
  std::optional<SparseRows> sparse;

  std::size_t size() const;
};

enum class NetworkOp : std::uint8_t {
  Add = 0,
  Concatenation = 2,
  Convolution = 3,
  DepthwiseConvolution = 4,
  DepthToSpace = 5,
  Dequantize = 6,
  Logistic = 14,
  MaxPool = 17,
  Relu = 19,
  Relu6 = 21,
  Reshape = 22,
  ResizeBilinear = 23,
  Pad = 34,
  Densify = 124
};

struct NetworkStep {
  NetworkOp op = NetworkOp::Add;
  std::vector<int> inputs, outputs;  // tensors
  bool same_padding = false;         // else only where the filter fits
  int stride_w = 1, stride_h = 1;
  int filter_w = 0, filter_h = 0;  // of pooling
  int block = 0;                   // of depth to space
  float least, most;               // fused clamp
};

struct NetworkFile {
  std::string bytes;  // `data` of the tensors points into it
  std::vector<NetworkTensor> tensors;
  std::vector<NetworkStep> steps;
  std::vector<int> inputs, outputs;

  NetworkFile() = default;
  NetworkFile(NetworkFile&&) = default;
  NetworkFile& operator=(NetworkFile&&) = default;
  NetworkFile(const NetworkFile&) = delete;

  // The tensor a file calls by this name; -1 when there is none.
  int tensorNamed(std::string_view name) const;
};

// Every offset and size is checked: a damaged or hostile file is refused, never followed.
// Errors  BadData with what is wrong
Result<NetworkFile> parseNetwork(std::string bytes);
// The same from a file whose SHA-256 must be `sha256`.
// Errors  CannotRead, BadData
Result<NetworkFile> loadNetwork(const std::filesystem::path& file, std::string_view sha256);

}  // namespace jib::tracing
