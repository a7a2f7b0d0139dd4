// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/load_words.h"

#include <fmt/format.h>

#include <array>
#include <regex>

#include "core/base/quantity.h"

namespace jib::coaching {
namespace {

struct Shares {
  double low = 0, high = 0;
  bool off = false;  // taken away from the top set, not a share of the max
};

std::optional<Shares> sharesIn(const std::string& words) {
  static const std::regex kShares(
      R"((\d{1,3}(?:\.\d)?)(?:\s*%?\s*(?:to|-|–)\s*(\d{1,3}(?:\.\d)?))?\s*(?:%|percent)\s*(of (?:your )?(?:max|best|1rm)|off|below|lighter|under)?)",
      std::regex::icase);
  std::smatch m;
  if (!std::regex_search(words, m, kShares)) return std::nullopt;
  Shares s;
  s.low = *numberFrom(m[1].str());
  s.high = m[2].matched ? *numberFrom(m[2].str()) : s.low;
  if (s.low > s.high || s.low <= 0 || s.high > 120) return std::nullopt;
  if (!m[3].matched) return std::nullopt;
  s.off = m[3].str().rfind("of ", 0) != 0 && m[3].str().rfind("Of ", 0) != 0;
  return s;
}

}  // namespace

std::string inKilos(std::string_view words, const LoadBasis& basis, const Rack& rack) {
  const auto shares = sharesIn(std::string(words));
  if (!shares) return {};
  const auto& of = shares->off ? basis.top_kg : basis.max_kg;
  if (!of || *of <= 0) return {};
  const auto share = [&](double pct) { return *of * (shares->off ? 100 - pct : pct) / 100; };
  const std::array wanted{share(shares->off ? shares->high : shares->low),
                          share(shares->off ? shares->low : shares->high)};
  std::array<double, 2> kg{};
  for (std::size_t i = 0; i < 2; ++i) {
    const auto plan = platesFor(wanted[i], rack);
    if (!plan) return {};  // lighter than the bar, or more than hangs there: nothing sensible to say
    kg[i] = plan->sets[0].load_kg;
  }
  const std::string text = massRangeText(kg[0], kg[1]);
  return basis.max_estimated && !shares->off ? "about " + text : text;
}

std::string withKilos(std::string words, const LoadBasis& basis, const Rack& rack) {
  const std::string kilos = inKilos(words, basis, rack);
  if (kilos.empty() || words.find(" kg") != std::string::npos || words.find(" lb") != std::string::npos) return words;
  while (!words.empty() && (words.back() == '.' || words.back() == ' ')) words.pop_back();
  return words + ": " + kilos;
}

}  // namespace jib::coaching
