// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/strain.h"

#include <algorithm>
#include <array>

#include "core/base/ascii.h"

namespace jib::coaching {
namespace {

// The words of a text in lower case, one blank between them and at both ends: phrases are then found whole.
std::string spaced(std::string_view text) {
  std::string out = " ";
  for (const char c : text) {
    const bool word = isAsciiLetter(c) || (c >= '0' && c <= '9') || c == '%' || static_cast<unsigned char>(c) >= 0x80;
    if (word)
      out += asciiLower(c);
    else if (out.back() != ' ')
      out += ' ';
  }
  if (out.back() != ' ') out += ' ';
  return out;
}

struct Phrase {
  Strain strain;
  std::string_view words;
};
constexpr std::array kPhrases{Phrase{Strain::Deeper, "deeper"},
                              Phrase{Strain::Deeper, "sit lower"},
                              Phrase{Strain::Deeper, "go lower"},
                              Phrase{Strain::Deeper, "lower box"},
                              Phrase{Strain::Deeper, "in lower"},
                              Phrase{Strain::Deeper, "cm lower"},
                              Phrase{Strain::Deeper, "to depth"},
                              Phrase{Strain::Deeper, "below parallel"},
                              Phrase{Strain::Deeper, "to a box"},
                              Phrase{Strain::Deeper, "all the way down"},
                              Phrase{Strain::Deeper, "sink it"},
                              Phrase{Strain::Deeper, "bury it"},
                              Phrase{Strain::Deeper, "hit depth"},
                              Phrase{Strain::Deeper, "check depth"},
                              Phrase{Strain::Paused, "pause"},
                              Phrase{Strain::Paused, "paused"},
                              Phrase{Strain::Paused, "pauses"},
                              Phrase{Strain::Paused, "at depth"},
                              Phrase{Strain::Paused, "hold the bottom"},
                              Phrase{Strain::Paused, "dead stop"},
                              Phrase{Strain::Heavier, "heavier"},
                              Phrase{Strain::Heavier, "add weight"},
                              Phrase{Strain::Heavier, "more weight"},
                              Phrase{Strain::Heavier, "go up in"},
                              Phrase{Strain::Heavier, "heavy"},
                              Phrase{Strain::Heavier, "85 %"},
                              Phrase{Strain::Heavier, "85%"},
                              Phrase{Strain::Heavier, "90 %"},
                              Phrase{Strain::Heavier, "90%"},
                              Phrase{Strain::Heavier, "overload"},
                              Phrase{Strain::Maximal, "max"},
                              Phrase{Strain::Maximal, "1rm"},
                              Phrase{Strain::Maximal, "maximum"},
                              Phrase{Strain::Maximal, "pr"},
                              Phrase{Strain::Maximal, "top single"},
                              Phrase{Strain::Maximal, "heavy single"},
                              Phrase{Strain::Maximal, "opener"},
                              Phrase{Strain::Maximal, "to failure"}};

// "70 % of your max" is a light load, not a maximum.
std::string withoutShares(std::string text) {
  for (const std::string_view of : {"of your max", "of max", "of your best", "of your usual"})
    for (auto at = text.find(of); at != std::string::npos; at = text.find(of)) text.erase(at, of.size());
  return text;
}

}  // namespace

std::string_view nameOf(Strain strain) {
  switch (strain) {
    case Strain::Deeper:
      return "more depth";
    case Strain::Paused:
      return "a pause under load";
    case Strain::Heavier:
      return "a heavier load";
    case Strain::Maximal:
      return "a max effort";
  }
  return "";
}

std::vector<Strain> strainsIn(std::string_view text) {
  const std::string words = withoutShares(spaced(text));
  std::vector<Strain> found;
  for (const Phrase& p : kPhrases)
    if (words.find(" " + std::string(p.words) + " ") != std::string::npos &&
        std::find(found.begin(), found.end(), p.strain) == found.end())
      found.push_back(p.strain);
  return found;
}

std::vector<Strain> strainsIn(const Cue& cue) {
  // The side effect is what to watch, not what to do.
  std::vector<Strain> found = strainsIn(cue.wording + "\n" + cue.drill + "\n" + cue.load +
                                        (cue.change ? "\n" + cue.change->to_words : std::string()));
  const auto add = [&](Strain strain) {
    if (std::find(found.begin(), found.end(), strain) == found.end()) found.push_back(strain);
  };
  if (!cue.change || !cue.change->said()) return found;
  const Change& c = *cue.change;
  const bool more = c.direction() > 0 || (c.to && !c.from);
  if (c.kind == ChangeKind::Pause && more) add(Strain::Paused);
  if (c.kind == ChangeKind::Load && more) add(Strain::Heavier);
  return found;
}

Cue gentled(Cue cue, const CueEntry& entry) {
  if (!strainsIn(cue.wording).empty())
    for (const std::string& wording : entry.wordings)
      if (strainsIn(wording).empty()) {
        cue.wording = wording;
        break;
      }
  if (!strainsIn(cue.drill).empty()) cue.drill.clear();
  cue.load.clear();
  return cue;
}

}  // namespace jib::coaching
