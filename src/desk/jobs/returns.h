// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <map>
#include <memory>

#include "core/review/keeper.h"
#include "core/review/return_review.h"
#include "desk/jobs/job_runner.h"

namespace jib::desk {

// Replies on their way out: each is written, put into the outbox and recorded off the window's thread, one after the
// other. They belong to the window and not to the page they were asked for on, so that the coach may leave it.
class Returns : public QObject {
  Q_OBJECT

 public:
  explicit Returns(std::filesystem::path library_folder, QObject* parent = nullptr);

  // Into the library, and by mail. False: one about this submission is on its way already.
  bool post(const review::ReplyDraft& draft);
  // Into a folder of the coach's.
  bool writeTo(const review::ReplyDraft& draft, const std::filesystem::path& folder);
  bool isReturning(library::SubmissionId id) const { return on_their_way_.count(id.number) > 0; }
  bool busy() const { return !on_their_way_.empty(); }
  void cancel();
  // Who keeps a submission's review in this window: a reply is recorded only over what it kept last.
  std::shared_ptr<review::Keeper> keeperOf(library::SubmissionId id);

 signals:
  void progressed(double fraction);
  // `revision`: of the session the reply was made from.
  void posted(qlonglong submission, int revision, const QString& address, const QString& file);
  void written(qlonglong submission, int revision, const QString& folder);
  // It went, heavier than the coach wants replies to be.
  void tooHeavy(qlonglong submission, double wanted_mb);
  // It went with faces hidden, those of so many people besides the athlete among them.
  void facesHidden(qlonglong submission, int others);
  void failed(qlonglong submission, const QString& sentence);
  void idle();

 private:
  struct Sent {
    std::optional<library::Outgoing> letter;
    QString file;
    bool too_heavy = false;
    std::optional<std::size_t> others_hidden = {};
  };
  bool start(const review::ReplyDraft& draft, const std::filesystem::path& folder, bool by_mail);
  void over(qlonglong submission);

  const std::filesystem::path library_folder_;
  JobRunner jobs_{Lane::Queue};
  std::map<std::int64_t, QString> on_their_way_;
  std::map<std::int64_t, std::shared_ptr<review::Keeper>> keepers_;
};

}  // namespace jib::desk
