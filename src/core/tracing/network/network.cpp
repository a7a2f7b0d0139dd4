// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/network/network.h"

#include <xnnpack.h>

#include <array>
#include <cstdlib>
#include <cstring>
#include <limits>
#include <map>
#include <set>
#include <stdexcept>

namespace jib::tracing {
namespace {

struct Unusable : std::runtime_error {
  using std::runtime_error::runtime_error;
};

struct Free {
  void operator()(float* p) const { std::free(p); }
};
using Buffer = std::unique_ptr<float[], Free>;

// Aligned for the widest vectors, with room behind the end that the kernels may read over.
Buffer bufferOf(std::size_t elements) {
  const std::size_t bytes = (elements * sizeof(float) + XNN_EXTRA_BYTES + 63) / 64 * 64;
  auto* p = static_cast<float*>(std::aligned_alloc(64, bytes));
  if (!p) throw std::bad_alloc();
  std::memset(p, 0, bytes);
  return Buffer(p);
}

void must(xnn_status status, const char* what) {
  if (status != xnn_status_success) throw Unusable(std::string(what) + " was refused by the runtime");
}

float fromHalf(std::uint16_t half) {
  const std::uint32_t sign = (half & 0x8000u) << 16, exponent = (half >> 10) & 31, fraction = half & 1023u;
  std::uint32_t bits;
  if (exponent == 31)
    bits = sign | 0x7f800000u | fraction << 13;
  else if (exponent != 0)
    bits = sign | (exponent + 112) << 23 | fraction << 13;
  else {
    const float small = static_cast<float>(fraction) * 0x1p-24f;
    return sign ? -small : small;
  }
  float value;
  std::memcpy(&value, &bits, sizeof value);
  return value;
}

struct Padding {
  std::uint32_t top = 0, right = 0, bottom = 0, left = 0;
};

}  // namespace

struct Network::Impl {
  xnn_runtime_t runtime = nullptr;
  Buffer input;
  std::size_t input_size = 0;
  std::vector<Buffer> outputs;
  std::vector<std::size_t> output_sizes;

  ~Impl() {
    if (runtime) xnn_delete_runtime(runtime);
  }
};

namespace {

struct Subgraph {
  xnn_subgraph_t handle = nullptr;
  ~Subgraph() {
    if (handle) xnn_delete_subgraph(handle);
  }
};

// Translates the file's steps into the runtime's.
class Builder {
 public:
  Builder(const NetworkFile& file, xnn_subgraph_t graph) : file_(file), graph_(graph) {
    for (std::size_t s = 0; s < file.steps.size(); ++s)
      for (int t : file.steps[s].outputs) maker_[t] = s;
  }

  // The tensors an output is made of: reshaping costs nothing, and a joined one is written piece by piece.
  std::vector<int> piecesOf(int tensor) const {
    const auto made = maker_.find(tensor);
    if (made == maker_.end()) return {tensor};
    const NetworkStep& step = file_.steps[made->second];
    if (step.op == NetworkOp::Reshape) return piecesOf(step.inputs[0]);
    if (step.op != NetworkOp::Concatenation) return {tensor};
    std::vector<int> all;
    for (int t : step.inputs) {
      const auto more = piecesOf(t);
      all.insert(all.end(), more.begin(), more.end());
    }
    return all;
  }

  void declare(int tensor, std::uint32_t external_id, std::uint32_t flags) { define(tensor, external_id, flags); }

  void build(const std::vector<int>& wanted) {
    std::set<std::size_t> needed;
    for (int t : wanted) collect(t, needed);
    for (std::size_t s : needed) add(file_.steps[s]);
  }

 private:
  const NetworkTensor& tensor(int t) const { return file_.tensors[static_cast<std::size_t>(t)]; }
  std::size_t side(int t, std::size_t dimension) const {
    const auto& shape = tensor(t).shape;
    if (shape.size() != 4) throw Unusable("a picture has not four sides");
    return static_cast<std::size_t>(shape[dimension]);
  }
  bool constant(int t) const {
    const auto made = maker_.find(t);
    if (made == maker_.end()) return !tensor(t).data.empty();
    const NetworkOp op = file_.steps[made->second].op;
    return op == NetworkOp::Dequantize || op == NetworkOp::Densify;
  }

  void collect(int t, std::set<std::size_t>& needed) const {
    const auto made = maker_.find(t);
    if (made == maker_.end() || constant(t) || !needed.insert(made->second).second) return;
    for (int input : file_.steps[made->second].inputs) collect(input, needed);
  }

  // A constant as floats, through whatever compresses it in the file.
  std::vector<float> floats(int t) const {
    const auto made = maker_.find(t);
    if (made != maker_.end()) {
      const int source = file_.steps[made->second].inputs[0];
      if (!constant(t)) throw Unusable("a weight is computed");
      return floats(source);
    }
    const NetworkTensor& w = tensor(t);
    const std::size_t width = w.type == NumberType::Float16 ? 2 : 4;
    if (w.type == NumberType::Int32 || w.data.empty()) throw Unusable("a weight is no number");
    const auto value = [&](std::size_t i) {
      if ((i + 1) * width > w.data.size()) throw Unusable("a weight is cut off");
      if (width == 2) {
        std::uint16_t half;
        std::memcpy(&half, w.data.data() + 2 * i, 2);
        return fromHalf(half);
      }
      float whole;
      std::memcpy(&whole, w.data.data() + 4 * i, 4);
      return whole;
    };
    std::vector<float> all(w.size(), 0.0f);
    if (!w.sparse) {
      for (std::size_t i = 0; i < all.size(); ++i) all[i] = value(i);
      return all;
    }
    const auto columns = static_cast<std::size_t>(w.shape.back());
    const auto& [segments, indices] = *w.sparse;
    if (segments.size() != all.size() / columns + 1) throw Unusable("a sparse weight has the wrong number of rows");
    for (std::size_t row = 0; row + 1 < segments.size(); ++row)
      for (std::int64_t k = segments[row]; k < segments[row + 1]; ++k) {
        if (k < 0 || static_cast<std::size_t>(k) >= indices.size()) throw Unusable("a sparse weight is damaged");
        const std::int64_t column = indices[static_cast<std::size_t>(k)];
        if (column < 0 || static_cast<std::size_t>(column) >= columns) throw Unusable("a sparse weight is damaged");
        all[row * columns + static_cast<std::size_t>(column)] = value(static_cast<std::size_t>(k));
      }
    return all;
  }

  std::uint32_t define(int t, std::uint32_t external_id, std::uint32_t flags, const float* data = nullptr) {
    std::vector<std::size_t> dims;
    for (int s : tensor(t).shape) dims.push_back(static_cast<std::size_t>(s));
    std::uint32_t id = XNN_INVALID_VALUE_ID;
    must(xnn_define_tensor_value(graph_, xnn_datatype_fp32, dims.size(), dims.data(), data, external_id, flags, &id),
         "a tensor");
    values_[t] = id;
    return id;
  }

  std::uint32_t value(int t) {
    if (const auto known = values_.find(t); known != values_.end()) return known->second;
    if (constant(t)) {
      weights_.push_back(floats(t));
      weights_.back().resize(weights_.back().size() + XNN_EXTRA_BYTES / sizeof(float));
      return define(t, XNN_INVALID_VALUE_ID, 0, weights_.back().data());
    }
    return define(t, XNN_INVALID_VALUE_ID, 0);
  }

  // Zeros around a picture are the consumer's business: every convolution takes padding of its own.
  std::pair<int, Padding> unpadded(int t) const {
    const auto p = padded_.find(t);
    return p == padded_.end() ? std::pair(t, Padding{}) : p->second;
  }

  Padding paddingFor(const NetworkStep& step, int input, std::size_t kernel_h, std::size_t kernel_w) const {
    const auto [source, folded] = unpadded(input);
    if (!step.same_padding) return folded;
    const auto along = [](std::size_t in, std::size_t kernel, int stride) {
      const auto s = static_cast<std::size_t>(stride);
      const std::size_t out = (in + s - 1) / s, reach = (out - 1) * s + kernel;
      return reach > in ? reach - in : 0;
    };
    const std::size_t v = along(side(input, 1), kernel_h, step.stride_h);
    const std::size_t h = along(side(input, 2), kernel_w, step.stride_w);
    const auto half = [](std::size_t n) { return static_cast<std::uint32_t>(n / 2); };
    return {folded.top + half(v), folded.right + static_cast<std::uint32_t>(h) - half(h),
            folded.bottom + static_cast<std::uint32_t>(v) - half(v), folded.left + half(h)};
  }

  void add(const NetworkStep& step) {
    const int in = step.inputs[0], out = step.outputs[0];
    switch (step.op) {
      case NetworkOp::Convolution:
      case NetworkOp::DepthwiseConvolution:
        return convolve(step);
      case NetworkOp::Pad:
        return pad(step);
      case NetworkOp::Add:
        must(xnn_define_add2(graph_, step.least, step.most, plain(in), plain(step.inputs[1]), value(out), 0), "a sum");
        return;
      case NetworkOp::MaxPool: {
        const Padding p =
            paddingFor(step, in, static_cast<std::size_t>(step.filter_h), static_cast<std::size_t>(step.filter_w));
        must(xnn_define_max_pooling_2d(
                 graph_, p.top, p.right, p.bottom, p.left, static_cast<std::uint32_t>(step.filter_h),
                 static_cast<std::uint32_t>(step.filter_w), static_cast<std::uint32_t>(step.stride_h),
                 static_cast<std::uint32_t>(step.stride_w), 1, 1, -std::numeric_limits<float>::infinity(),
                 std::numeric_limits<float>::infinity(), plain(in), value(out), 0),
             "a pooling");
        return;
      }
      case NetworkOp::ResizeBilinear:
        must(xnn_define_static_resize_bilinear_2d(graph_, side(out, 1), side(out, 2), plain(in), value(out), 0),
             "a resize");
        return;
      case NetworkOp::DepthToSpace:
        must(xnn_define_depth_to_space(graph_, plain(in), value(out), static_cast<std::uint32_t>(step.block), 0),
             "a rearrangement");
        return;
      case NetworkOp::Logistic:
        must(xnn_define_sigmoid(graph_, plain(in), value(out), 0), "a logistic");
        return;
      case NetworkOp::Relu:
      case NetworkOp::Relu6:
        must(xnn_define_clamp(graph_, step.least, step.most, plain(in), value(out), 0), "a clamp");
        return;
      case NetworkOp::Reshape:
      case NetworkOp::Concatenation:
        return;  // seen through by piecesOf()
      default:
        throw Unusable("a step that belongs to weights stands among pictures");
    }
  }

  std::uint32_t plain(int t) {
    if (padded_.count(t)) throw Unusable("a padded picture is used by something else than a convolution");
    return value(t);
  }

  void convolve(const NetworkStep& step) {
    const int filter = step.inputs[1], bias = step.inputs[2];
    const std::size_t kh = side(filter, 1), kw = side(filter, 2);
    const Padding p = paddingFor(step, step.inputs[0], kh, kw);
    const auto [source, folded] = unpadded(step.inputs[0]);
    const std::size_t channels_in = side(source, 3), channels_out = side(step.outputs[0], 3);
    if (tensor(bias).size() != channels_out) throw Unusable("a bias of the wrong size");
    const std::uint32_t sh = static_cast<std::uint32_t>(step.stride_h), sw = static_cast<std::uint32_t>(step.stride_w);
    const auto h = static_cast<std::uint32_t>(kh), w = static_cast<std::uint32_t>(kw);
    if (step.op == NetworkOp::Convolution) {
      if (side(filter, 0) != channels_out || side(filter, 3) != channels_in)
        throw Unusable("a filter of the wrong size");
      must(xnn_define_convolution_2d(graph_, p.top, p.right, p.bottom, p.left, h, w, sh, sw, 1, 1, 1, channels_in,
                                     channels_out, step.least, step.most, value(source), value(filter), value(bias),
                                     value(step.outputs[0]), 0),
           "a convolution");
    } else {
      if (channels_in != channels_out || side(filter, 3) != channels_in) throw Unusable("a filter of the wrong size");
      must(xnn_define_depthwise_convolution_2d(graph_, p.top, p.right, p.bottom, p.left, h, w, sh, sw, 1, 1, 1,
                                               channels_in, step.least, step.most, value(source), value(filter),
                                               value(bias), value(step.outputs[0]), 0),
           "a convolution");
    }
  }

  void pad(const NetworkStep& step) {
    const NetworkTensor& amounts = tensor(step.inputs[1]);
    std::array<std::int32_t, 8> n{};
    if (amounts.type != NumberType::Int32 || amounts.data.size() != sizeof n) throw Unusable("a padding of no size");
    std::memcpy(n.data(), amounts.data.data(), sizeof n);
    for (std::int32_t amount : n)
      if (amount < 0 || amount > 1024) throw Unusable("a wild padding");
    const bool around = n[6] == 0 && n[7] == 0, channels = n[2] == 0 && n[3] == 0 && n[4] == 0 && n[5] == 0;
    if (around) {
      const auto u = [&](std::size_t i) { return static_cast<std::uint32_t>(n[i]); };
      padded_[step.outputs[0]] = {step.inputs[0], {u(2), u(5), u(3), u(4)}};
      return;
    }
    if (!channels) throw Unusable("a padding of sides and channels at once");
    std::array<std::size_t, 4> before{}, after{};
    for (std::size_t i = 0; i < 4; ++i) {
      before[i] = static_cast<std::size_t>(n[2 * i]);
      after[i] = static_cast<std::size_t>(n[2 * i + 1]);
    }
    must(xnn_define_static_constant_pad(graph_, before.data(), after.data(), 0, plain(step.inputs[0]),
                                        value(step.outputs[0]), 0),
         "a padding");
  }

  const NetworkFile& file_;
  xnn_subgraph_t graph_;
  std::map<int, std::size_t> maker_;
  std::map<int, std::uint32_t> values_;
  std::map<int, std::pair<int, Padding>> padded_;
  std::vector<std::vector<float>> weights_;  // until the runtime has packed its own
};

}  // namespace

Network::Network(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
Network::Network(Network&&) noexcept = default;
Network& Network::operator=(Network&&) noexcept = default;
Network::~Network() = default;

Result<Network> Network::make(const NetworkFile& file, const std::vector<std::string_view>& outputs) {
  try {
    static const xnn_status ready = xnn_initialize(nullptr);
    must(ready, "this processor");
    auto impl = std::make_unique<Impl>();
    const int in = file.inputs[0];
    impl->input_size = file.tensors[static_cast<std::size_t>(in)].size();
    impl->input = bufferOf(impl->input_size);
    Subgraph graph;
    struct Piece {
      int tensor;
      float* place;
    };
    std::vector<Piece> pieces;
    std::vector<int> wanted;
    const Builder looker(file, nullptr);
    for (std::string_view name : outputs) {
      const int t = file.tensorNamed(name);
      if (t < 0) throw Unusable("it has no output " + std::string(name));
      std::size_t size = 0;
      const auto parts = looker.piecesOf(t);
      for (int p : parts) size += file.tensors[static_cast<std::size_t>(p)].size();
      if (size != file.tensors[static_cast<std::size_t>(t)].size()) throw Unusable("an output's parts do not fill it");
      impl->outputs.push_back(bufferOf(size));
      impl->output_sizes.push_back(size);
      std::size_t offset = 0;
      for (int p : parts) {
        pieces.push_back({p, impl->outputs.back().get() + offset});
        offset += file.tensors[static_cast<std::size_t>(p)].size();
        wanted.push_back(p);
      }
    }
    must(xnn_create_subgraph(static_cast<std::uint32_t>(1 + pieces.size()), 0, &graph.handle), "a network");
    Builder builder(file, graph.handle);
    builder.declare(in, 0, XNN_VALUE_FLAG_EXTERNAL_INPUT);
    std::vector<xnn_external_value> external{{0, impl->input.get()}};
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      const auto id = static_cast<std::uint32_t>(i + 1);
      builder.declare(pieces[i].tensor, id, XNN_VALUE_FLAG_EXTERNAL_OUTPUT);
      external.push_back({id, pieces[i].place});
    }
    builder.build(wanted);
    must(xnn_create_runtime_v2(graph.handle, nullptr, 0, &impl->runtime), "the network");
    must(xnn_setup_runtime(impl->runtime, external.size(), external.data()), "the network's setup");
    return Network(std::move(impl));
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, std::string("The pose network can't be used: ") + e.what() + ".",
                "Place the points by hand.");
  }
}

std::span<float> Network::input() {
  return {impl_->input.get(), impl_->input_size};
}

Result<bool> Network::run() {
  if (xnn_invoke_runtime(impl_->runtime) != xnn_status_success)
    return fail(ErrorCode::BadData, "The pose network stopped.", "Place the points by hand.");
  return true;
}

std::span<const float> Network::result(std::size_t output) const {
  JIB_ASSERT(output < impl_->outputs.size());
  return {impl_->outputs[output].get(), impl_->output_sizes[output]};
}

}  // namespace jib::tracing
