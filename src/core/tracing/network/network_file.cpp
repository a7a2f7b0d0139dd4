// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/network/network_file.h"

#include <fmt/format.h>
#include <sys/stat.h>

#include <bit>
#include <cstring>
#include <limits>
#include <memory>
#include <mutex>
#include <set>
#include <stdexcept>

#include "core/base/files.h"

namespace jib::tracing {
namespace {

static_assert(std::endian::native == std::endian::little, "the file is little-endian and read as it lies");

constexpr std::size_t kMostElements = std::size_t{1} << 26;  // of one tensor; the largest of ours has 8 million

struct Damaged : std::runtime_error {
  using std::runtime_error::runtime_error;
};

// A table or vector of the flat buffer, addressed by its offset.
class Flat {
 public:
  explicit Flat(std::string_view bytes) : bytes_(bytes) {}

  template <class T>
  T at(std::size_t offset) const {
    if (offset > bytes_.size() || sizeof(T) > bytes_.size() - offset) throw Damaged("it ends in the middle");
    T value;
    std::memcpy(&value, bytes_.data() + offset, sizeof(T));
    return value;
  }
  std::size_t follow(std::size_t offset) const { return offset + at<std::uint32_t>(offset); }

  // Where field `index` of a table lies; 0 when it has its default.
  std::size_t field(std::size_t table, int index) const {
    const auto back = static_cast<std::int64_t>(at<std::int32_t>(table));
    const std::int64_t vtable = static_cast<std::int64_t>(table) - back;
    if (vtable < 0) throw Damaged("a table points out of it");
    const auto place = static_cast<std::size_t>(vtable);
    const std::size_t entry = 4 + 2 * static_cast<std::size_t>(index);
    if (entry + 2 > at<std::uint16_t>(place)) return 0;
    const auto offset = at<std::uint16_t>(place + entry);
    return offset == 0 ? 0 : table + offset;
  }
  template <class T>
  T number(std::size_t table, int index, T otherwise) const {
    const std::size_t f = field(table, index);
    return f == 0 ? otherwise : at<T>(f);
  }
  std::size_t table(std::size_t parent, int index) const {
    const std::size_t f = field(parent, index);
    return f == 0 ? 0 : follow(f);
  }

  struct Vector {
    std::size_t first = 0, count = 0;
  };
  Vector vector(std::size_t parent, int index, std::size_t element_bytes) const {
    const std::size_t f = field(parent, index);
    if (f == 0) return {};
    const std::size_t place = follow(f);
    const Vector v{place + 4, at<std::uint32_t>(place)};
    if (v.count > bytes_.size() / element_bytes || v.first + v.count * element_bytes > bytes_.size())
      throw Damaged("a list is longer than the file");
    return v;
  }
  template <class T>
  std::vector<T> numbers(std::size_t parent, int index) const {
    const Vector v = vector(parent, index, sizeof(T));
    std::vector<T> all;
    for (std::size_t i = 0; i < v.count; ++i) all.push_back(at<T>(v.first + i * sizeof(T)));
    return all;
  }
  std::vector<std::size_t> tables(std::size_t parent, int index) const {
    const Vector v = vector(parent, index, 4);
    std::vector<std::size_t> all;
    for (std::size_t i = 0; i < v.count; ++i) all.push_back(follow(v.first + 4 * i));
    return all;
  }
  std::string_view text(std::size_t parent, int index) const {
    const Vector v = vector(parent, index, 1);
    return bytes_.substr(v.first, v.count);
  }

 private:
  std::string_view bytes_;
};

// Indices of a sparse dimension: a union of 32, 16 and 8 bit vectors, all in field 0 of a table.
std::vector<std::int64_t> indexList(const Flat& flat, std::size_t dimension, int type_field) {
  const auto type = flat.number<std::uint8_t>(dimension, type_field, 0);
  const std::size_t list = flat.table(dimension, type_field + 1);
  if (list == 0) throw Damaged("a sparse tensor has no indices");
  std::vector<std::int64_t> all;
  const auto take = [&](const auto& numbers) { all.assign(numbers.begin(), numbers.end()); };
  if (type == 1)
    take(flat.numbers<std::int32_t>(list, 0));
  else if (type == 2)
    take(flat.numbers<std::uint16_t>(list, 0));
  else if (type == 3)
    take(flat.numbers<std::uint8_t>(list, 0));
  else
    throw Damaged("a sparse tensor's indices are of an unknown kind");
  return all;
}

NetworkTensor tensorFrom(const Flat& flat, std::size_t t, const std::vector<std::string_view>& buffers) {
  NetworkTensor tensor;
  std::size_t elements = 1;
  for (const std::int32_t side : flat.numbers<std::int32_t>(t, 0)) {
    if (side <= 0) throw Damaged("a tensor has an empty side");
    tensor.shape.push_back(side);
    elements *= static_cast<std::size_t>(side);
    if (elements > kMostElements) throw Damaged("a tensor is larger than any of a pose network");
  }
  const auto type = flat.number<std::uint8_t>(t, 1, 0);
  if (type > 2) throw Damaged("a tensor holds an unknown kind of number");
  tensor.type = static_cast<NumberType>(type);
  const auto buffer = flat.number<std::uint32_t>(t, 2, 0);
  if (buffer >= buffers.size()) throw Damaged("a tensor names data that is not there");
  tensor.data = buffers[buffer];
  tensor.name = flat.text(t, 3);
  if (const std::size_t sparsity = flat.table(t, 6); sparsity != 0) {
    const auto dimensions = flat.tables(sparsity, 2);
    if (dimensions.size() != tensor.shape.size()) throw Damaged("a sparse tensor is stored in blocks");
    const std::size_t last = dimensions.back();
    if (flat.number<std::uint8_t>(last, 0, 0) != 1) throw Damaged("a sparse tensor's last side is not the sparse one");
    tensor.sparse = SparseRows{indexList(flat, last, 2), indexList(flat, last, 4)};
  }
  if (!tensor.data.empty() && !tensor.sparse) {
    const std::size_t bytes = elements * (tensor.type == NumberType::Float16 ? 2 : 4);
    if (tensor.data.size() != bytes) throw Damaged("a tensor's data has another size than its shape");
  }
  return tensor;
}

void clampOf(NetworkStep& step, std::uint8_t activation) {
  constexpr float kInfinity = std::numeric_limits<float>::infinity();
  step.least = activation == 0 ? -kInfinity : 0;
  step.most = activation == 3 ? 6 : kInfinity;
  if (activation != 0 && activation != 1 && activation != 3) throw Damaged("an unknown activation");
}

NetworkStep stepFrom(const Flat& flat, std::size_t o, const std::vector<int>& codes, std::size_t tensors) {
  const auto code = flat.number<std::uint32_t>(o, 0, 0);
  if (code >= codes.size()) throw Damaged("a step names no operation");
  NetworkStep step;
  step.op = static_cast<NetworkOp>(codes[code]);
  for (const auto& [field, list] : {std::pair(1, &step.inputs), std::pair(2, &step.outputs)})
    for (const std::int32_t t : flat.numbers<std::int32_t>(o, field)) {
      if (t < 0 || static_cast<std::size_t>(t) >= tensors) throw Damaged("a step uses a tensor that is not there");
      list->push_back(t);
    }
  if (step.inputs.empty() || step.outputs.empty()) throw Damaged("a step has no input or no output");
  const std::size_t options = flat.table(o, 4);
  const auto number = [&](int field, int otherwise) {
    return options == 0 ? otherwise : flat.number<std::int32_t>(options, field, otherwise);
  };
  const auto byte = [&](int field) {
    return options == 0 ? std::uint8_t{0} : flat.number<std::uint8_t>(options, field, 0);
  };
  clampOf(step, 0);
  switch (step.op) {
    case NetworkOp::Convolution:
    case NetworkOp::DepthwiseConvolution:
      step.same_padding = byte(0) == 0;
      step.stride_w = number(1, 0);
      step.stride_h = number(2, 0);
      if (step.op == NetworkOp::DepthwiseConvolution && number(3, 0) != 1) throw Damaged("a depth multiplier");
      clampOf(step, byte(step.op == NetworkOp::Convolution ? 3 : 4));
      if (step.inputs.size() < 3) throw Damaged("a convolution without filter or bias");
      break;
    case NetworkOp::MaxPool:
      step.same_padding = byte(0) == 0;
      step.stride_w = number(1, 0);
      step.stride_h = number(2, 0);
      step.filter_w = number(3, 0);
      step.filter_h = number(4, 0);
      break;
    case NetworkOp::Add:
      clampOf(step, byte(0));
      if (step.inputs.size() != 2) throw Damaged("a sum of other than two");
      break;
    case NetworkOp::DepthToSpace:
      step.block = number(0, 0);
      break;
    case NetworkOp::Relu:
      clampOf(step, 1);
      break;
    case NetworkOp::Relu6:
      clampOf(step, 3);
      break;
    default:
      break;
  }
  if (step.stride_w < 1 || step.stride_w > 8 || step.stride_h < 1 || step.stride_h > 8) throw Damaged("a wild stride");
  return step;
}

bool known(int code) {
  for (NetworkOp op :
       {NetworkOp::Add, NetworkOp::Concatenation, NetworkOp::Convolution, NetworkOp::DepthwiseConvolution,
        NetworkOp::DepthToSpace, NetworkOp::Dequantize, NetworkOp::Logistic, NetworkOp::MaxPool, NetworkOp::Relu,
        NetworkOp::Relu6, NetworkOp::Reshape, NetworkOp::ResizeBilinear, NetworkOp::Pad, NetworkOp::Densify})
    if (code == static_cast<int>(op)) return true;
  return false;
}

void parse(NetworkFile& file) {
  const Flat flat(file.bytes);
  const std::size_t root = flat.at<std::uint32_t>(0);
  std::vector<int> codes;
  for (const std::size_t c : flat.tables(root, 1)) {
    // The old field has 8 bits; the new one took over beyond 127.
    const int code = std::max<int>(flat.number<std::int8_t>(c, 0, 0), flat.number<std::int32_t>(c, 3, 0));
    if (!known(code)) throw Damaged("operation " + std::to_string(code) + " is not one of a pose network");
    codes.push_back(code);
  }
  std::vector<std::string_view> buffers;
  for (const std::size_t b : flat.tables(root, 4)) buffers.push_back(flat.text(b, 0));
  const auto graphs = flat.tables(root, 2);
  if (graphs.size() != 1) throw Damaged("it holds " + std::to_string(graphs.size()) + " networks, not one");
  for (const std::size_t t : flat.tables(graphs[0], 0)) file.tensors.push_back(tensorFrom(flat, t, buffers));
  for (const std::size_t o : flat.tables(graphs[0], 3))
    file.steps.push_back(stepFrom(flat, o, codes, file.tensors.size()));
  for (const auto& [field, list] : {std::pair(1, &file.inputs), std::pair(2, &file.outputs)})
    for (const std::int32_t t : flat.numbers<std::int32_t>(graphs[0], field)) {
      if (t < 0 || static_cast<std::size_t>(t) >= file.tensors.size()) throw Damaged("an output is not there");
      list->push_back(t);
    }
  if (file.inputs.size() != 1) throw Damaged("it has not one input");
}

}  // namespace

std::size_t NetworkTensor::size() const {
  std::size_t n = 1;
  for (int side : shape) n *= static_cast<std::size_t>(side);
  return n;
}

int NetworkFile::tensorNamed(std::string_view name) const {
  for (std::size_t i = 0; i < tensors.size(); ++i)
    if (tensors[i].name == name) return static_cast<int>(i);
  return -1;
}

Result<NetworkFile> parseNetwork(std::string bytes) {
  NetworkFile file;
  file.bytes = std::move(bytes);
  // A short string would move with the struct and leave the views behind.
  file.bytes.reserve(64);
  try {
    parse(file);
  } catch (const std::exception& e) {  // also what a wild size makes the standard library throw
    return fail(ErrorCode::BadData, std::string("The pose network can't be used: ") + e.what() + ".",
                "Install the program again, or place the points by hand.");
  }
  return file;
}

namespace {

// What tells that a file is still the one that was read through, short of reading it again.
std::string standingOf(const std::filesystem::path& file) {
  struct stat now {};
  if (::stat(file.c_str(), &now) != 0) return {};
  return fmt::format("{} {} {} {} {}.{}", file.string(), now.st_dev, now.st_ino, now.st_size, now.st_mtim.tv_sec,
                     now.st_mtim.tv_nsec);
}

// A clip is looked at by seven networks out of three files, and reading all of them through each time takes over a
// second: a file is held against its hash once, and again when it has been written since.
Result<bool> isAsShipped(const std::filesystem::path& file, std::string_view sha256) {
  static std::mutex guard;
  static std::set<std::string> known;
  const std::string standing = standingOf(file) + ' ' + std::string(sha256);
  {
    const std::lock_guard lock(guard);
    if (known.contains(standing)) return true;
  }
  auto hash = contentHash(file);
  if (!hash) return fail(hash.error());
  if (*hash != sha256)
    return fail(ErrorCode::BadData, file.filename().string() + " is not the file that was shipped.",
                "Install the program again, or place the points by hand.");
  const std::lock_guard lock(guard);
  known.insert(standing);
  return true;
}

}  // namespace

Result<NetworkFile> loadNetwork(const std::filesystem::path& file, std::string_view sha256) {
  if (auto shipped = isAsShipped(file, sha256); !shipped) return fail(shipped.error());
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  return parseNetwork(std::move(*bytes));
}

}  // namespace jib::tracing
