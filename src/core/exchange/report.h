// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/analysis.h"

namespace jib::exchange {

struct ReportStill {
  std::string caption;
  std::string png;  // the file's bytes
};

struct FollowUp {
  std::string asked_on, title, then, now, state;
};

// What goes into the report, already in words.
struct Report {
  std::string athlete, date, lift, load, greeting;
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<ReportStill> stills;
  std::vector<FollowUp> follow_up;
  std::vector<std::string> cautions;
  std::string style_title;
};

// The cautions every report carries: rule book, pain, load, limits of one camera; and the clip's own notices.
std::vector<std::string> cautionsFor(const coaching::Analysis& analysis);

// One self-contained HTML page: pictures inside, no network, prints on A4.
std::string reportToHtml(const Report& report, const coaching::Analysis& analysis);

// Text as a page may hold it: <, >, & and quotes as entities.
std::string escaped(std::string_view text);
std::string base64(std::string_view bytes);

}  // namespace jib::exchange
