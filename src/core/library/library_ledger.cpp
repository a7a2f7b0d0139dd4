// SPDX-License-Identifier: GPL-3.0-or-later
// What the ledger of cues tells beyond one athlete: which words were said about what, and how often they helped.
#include <SQLiteCpp/SQLiteCpp.h>

#include "core/library/library_impl.h"

namespace jib::library {

Result<std::vector<Library::SaidBefore>> Library::saidBefore(AthleteId athlete) {
  return impl_->guarded([&]() -> Result<std::vector<SaidBefore>> {
    std::vector<SaidBefore> all;
    SQLite::Statement s(*impl_->database,
                        "SELECT finding, max(title), wording, max(drill), count(*) AS times, "
                        "sum(state IN ('met', 'better')) AS helped, sum(athlete = ?) AS here FROM cue_thread "
                        "WHERE wording <> '' GROUP BY finding, wording "
                        "ORDER BY finding, here > 0 DESC, helped DESC, times DESC, wording");
    s.bind(1, athlete.number);
    while (s.executeStep())
      all.push_back({s.getColumn(0).getString(), s.getColumn(1).getString(), s.getColumn(2).getString(),
                     s.getColumn(3).getString(), s.getColumn(4).getInt(), s.getColumn(5).getInt(),
                     s.getColumn(6).getInt()});
    return all;
  });
}

}  // namespace jib::library
