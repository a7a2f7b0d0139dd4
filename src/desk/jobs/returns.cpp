// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/jobs/returns.h"

#include "core/library/unfinished_returns.h"
#include "desk/text.h"
#include "drawing/reply_writer.h"

namespace jib::desk {

Returns::Returns(std::filesystem::path library_folder, QObject* parent)
    : QObject(parent), library_folder_(std::move(library_folder)) {
  connect(&jobs_, &JobRunner::progressed, this, &Returns::progressed);
}

std::shared_ptr<review::Keeper> Returns::keeperOf(library::SubmissionId id) {
  auto& keeper = keepers_[id.number];
  if (!keeper) keeper = std::make_shared<review::Keeper>(id);
  return keeper;
}

bool Returns::post(const review::ReplyDraft& draft) {
  return start(draft, library_folder_ / "replies" / std::to_string(draft.record.id.number), true);
}

bool Returns::writeTo(const review::ReplyDraft& draft, const std::filesystem::path& folder) {
  return start(draft, folder, false);
}

bool Returns::start(const review::ReplyDraft& draft, const std::filesystem::path& folder, bool by_mail) {
  const library::SubmissionId id = draft.record.id;
  if (isReturning(id)) return false;
  on_their_way_[id.number] = q(draft.content.athlete);
  // A program that is killed from here on leaves word of it. Where that can't be written it goes out all the same.
  if (by_mail) (void)library::beginReturn(library_folder_, id);
  jobs_.start<Sent>(
      tr("Writing the reply…"),
      [draft, folder, by_mail, keeper = keeperOf(id), records = library_folder_](Task& task) -> Result<Sent> {
        auto library = library::Library::openAgain(records);
        if (!library) return fail(library.error());
        // Deleted while it waited for its turn: then no folder is made for it.
        if (auto row = library->submission(draft.record.id); !row) return fail(row.error());
        auto files = drawing::writeReply(*draft.analysis, draft.content, folder, task);
        if (!files) return fail(files.error());
        if (task.cancelled()) return cancelled();
        if (!by_mail) {
          if (auto kept = review::recordReturn(*library, draft, keeper->number()); !kept) return fail(kept.error());
          return Sent{std::nullopt, q(folder.string()), files->too_heavy, files->others_hidden};
        }
        auto letter = review::post(*library, draft, keeper->number(), {files->clip, files->html, files->pdf});
        if (!letter) return fail(letter.error());
        library::endReturn(records, draft.record.id);  // it is in the outbox, whatever becomes of the window now
        return Sent{*letter, q(library->outgoingFile(*letter).string()), files->too_heavy, files->others_hidden};
      },
      [this, id, revision = draft.revision, most = draft.content.most_mb](Result<Sent> sent) {
        library::endReturn(library_folder_, id);
        over(id.number);
        if (!sent)
          emit failed(id.number, q(sent.error().sentence()));
        else if (sent->letter)
          emit posted(id.number, revision, q(sent->letter->to_address), sent->file);
        else
          emit written(id.number, revision, sent->file);
        if (sent && sent->others_hidden) emit facesHidden(id.number, static_cast<int>(*sent->others_hidden));
        if (sent && sent->too_heavy) emit tooHeavy(id.number, most.value_or(0));
      });
  return true;
}

void Returns::over(qlonglong submission) {
  on_their_way_.erase(submission);
  if (on_their_way_.empty()) emit idle();
}

void Returns::cancel() {
  jobs_.cancel();
  for (const auto& [submission, whose] : on_their_way_)
    library::endReturn(library_folder_, library::SubmissionId(submission));
  const auto stopped = std::exchange(on_their_way_, {});
  for (const auto& [submission, whose] : stopped)
    emit failed(submission, tr("The reply to %1 was stopped; nothing was sent.").arg(whose));
  if (!stopped.empty()) emit idle();
}

}  // namespace jib::desk
