// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/return_review.h"

namespace jib::review {

Result<library::Outgoing> post(library::Library& library, const ReplyDraft& draft, std::optional<int> over,
                               const std::vector<std::filesystem::path>& files, FileSystem& disk) {
  exchange::Dispatch dispatch = draft.dispatch;
  dispatch.files = files;
  auto written = exchange::writeLetter(library, draft.coach, dispatch, draft.today, disk);
  if (!written) return fail(written.error());
  library::Library::Return record = draft.record;
  record.over = over;
  record.letter = written->listing;
  auto listed = library.returnReview(record);
  exchange::settleLetter(*written, listed.has_value(), disk);
  if (!listed) return fail(listed.error());
  return **listed;
}

Result<bool> recordReturn(library::Library& library, const ReplyDraft& draft, std::optional<int> over) {
  library::Library::Return record = draft.record;
  record.over = over;
  auto done = library.returnReview(record);
  if (!done) return fail(done.error());
  return true;
}

}  // namespace jib::review
