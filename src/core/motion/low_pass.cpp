// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/low_pass.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/base/result.h"

namespace jib::motion {
namespace {

struct Biquad {
  double b0, b1, b2, a1, a2;
};

Biquad butterworth(double cutoff_hz, double rate_hz) {
  // Two passes narrow the band; this factor gives the pair the cutoff asked for (Winter, equation 3.10).
  const double corrected = cutoff_hz / std::pow(std::sqrt(2.0) - 1.0, 0.25);
  const double w = std::tan(kPi * std::min(corrected, 0.45 * rate_hz) / rate_hz);
  const double k1 = std::sqrt(2.0) * w, k2 = w * w, scale = 1 + k1 + k2;
  return {k2 / scale, 2 * k2 / scale, k2 / scale, 2 * (k2 - 1) / scale, (1 - k1 + k2) / scale};
}

void onePass(std::vector<double>& x, const Biquad& f) {
  double x1 = x.front(), x2 = x.front(), y1 = x.front(), y2 = x.front();
  for (double& v : x) {
    const double y = f.b0 * v + f.b1 * x1 + f.b2 * x2 - f.a1 * y1 - f.a2 * y2;
    x2 = x1;
    x1 = v;
    y2 = y1;
    y1 = y;
    v = y;
  }
}

double interpolated(const std::vector<double>& t, const std::vector<double>& v, double at, std::size_t& hint) {
  while (hint + 2 < t.size() && t[hint + 1] < at) ++hint;
  const double share = std::clamp((at - t[hint]) / (t[hint + 1] - t[hint]), 0.0, 1.0);
  return v[hint] + (v[hint + 1] - v[hint]) * share;
}

// Filters one unbroken stretch, given at uneven times.
void filterStretch(const std::vector<double>& t, std::vector<double>& v, double cutoff_hz) {
  if (t.size() < 4) return;
  std::vector<double> gaps;
  for (std::size_t i = 1; i < t.size(); ++i) gaps.push_back(t[i] - t[i - 1]);
  std::nth_element(gaps.begin(), gaps.begin() + static_cast<long>(gaps.size() / 2), gaps.end());
  const double step = gaps[gaps.size() / 2];
  const auto n = static_cast<std::size_t>(std::lround((t.back() - t.front()) / step)) + 1;
  std::vector<double> even(n), even_t(n);
  std::size_t hint = 0;
  for (std::size_t i = 0; i < n; ++i) {
    even_t[i] = t.front() + static_cast<double>(i) * (t.back() - t.front()) / static_cast<double>(n - 1);
    even[i] = interpolated(t, v, even_t[i], hint);
  }
  // Point reflection at both ends keeps position and slope there.
  const std::size_t pad = std::min(n - 1, static_cast<std::size_t>(std::ceil(1.5 / (cutoff_hz * step))));
  std::vector<double> padded;
  padded.reserve(n + 2 * pad);
  for (std::size_t i = pad; i > 0; --i) padded.push_back(2 * even.front() - even[i]);
  padded.insert(padded.end(), even.begin(), even.end());
  for (std::size_t i = 1; i <= pad; ++i) padded.push_back(2 * even.back() - even[n - 1 - i]);
  const Biquad filter = butterworth(cutoff_hz, 1 / step);
  onePass(padded, filter);
  std::reverse(padded.begin(), padded.end());
  onePass(padded, filter);
  std::reverse(padded.begin(), padded.end());
  const std::vector<double> smooth(padded.begin() + static_cast<long>(pad),
                                   padded.begin() + static_cast<long>(pad + n));
  hint = 0;
  for (std::size_t i = 0; i < t.size(); ++i) v[i] = interpolated(even_t, smooth, t[i], hint);
}

}  // namespace

std::vector<std::optional<double>> lowPass(const std::vector<double>& times,
                                           const std::vector<std::optional<double>>& values, double cutoff_hz,
                                           double bridge_s) {
  JIB_ASSERT(times.size() == values.size() && cutoff_hz > 0);
  std::vector<std::optional<double>> out(values.size());
  std::size_t i = 0;
  while (i < values.size()) {
    if (!values[i]) {
      ++i;
      continue;
    }
    std::vector<double> t, v;
    std::vector<std::size_t> index;
    while (i < values.size() && (values[i] || times[i] - t.back() <= bridge_s)) {
      if (values[i]) {
        t.push_back(times[i]);
        v.push_back(*values[i]);
        index.push_back(i);
      }
      ++i;
    }
    filterStretch(t, v, cutoff_hz);
    for (std::size_t k = 0; k < index.size(); ++k) out[index[k]] = v[k];
  }
  return out;
}

std::vector<std::optional<double>> rateOf(const std::vector<double>& times,
                                          const std::vector<std::optional<double>>& values) {
  std::vector<std::optional<double>> rate(values.size());
  for (std::size_t i = 0; i < values.size(); ++i) {
    if (!values[i]) continue;
    const std::size_t before = i > 0 && values[i - 1] ? i - 1 : i;
    const std::size_t after = i + 1 < values.size() && values[i + 1] ? i + 1 : i;
    if (before == after) continue;
    rate[i] = (*values[after] - *values[before]) / (times[after] - times[before]);
  }
  return rate;
}

}  // namespace jib::motion
