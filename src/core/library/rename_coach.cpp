// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/rename_coach.h"

namespace jib::library {

Result<bool> renameCoach(Library& library, const std::string& from, const std::string& to) {
  if (from.empty() || to.empty() || from == to) return true;
  auto athletes = library.athletes();
  if (!athletes) return fail(athletes.error());
  for (const Athlete& a : *athletes)
    if (a.profile.coach == from)
      if (auto done = library.edit(a.id, [&](Athlete& now) { now.profile.coach = to; }); !done)
        return fail(done.error());
  auto rows = library.submissions();
  if (!rows) return fail(rows.error());
  const auto names = [&](SubmissionDetails& d) {
    std::vector<std::string*> all{&d.reviewer};
    if (d.second_opinion) all.insert(all.end(), {&d.second_opinion->by, &d.second_opinion->of});
    std::erase_if(all, [&](const std::string* name) { return *name != from; });
    return all;
  };
  for (Submission& s : *rows)
    if (!names(s.details).empty())
      if (auto done = library.edit(s.id,
                                   [&](Submission& now) {
                                     for (std::string* name : names(now.details)) *name = to;
                                   });
          !done)
        return fail(done.error());
  return true;
}

}  // namespace jib::library
