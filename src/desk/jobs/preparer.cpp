// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/jobs/preparer.h"

#include <algorithm>

#include "core/exchange/intake/prepare.h"

namespace jib::desk {
namespace {

// What one turn did: which submission, or none left.
struct Turn {
  std::optional<qlonglong> submission;
  QString trouble = {};
  bool elsewhere = false;  // another program is at it
};

}  // namespace

Preparer::Preparer(std::filesystem::path library_folder, QObject* parent)
    : QObject(parent), folder_(std::move(library_folder)) {
  connect(&jobs_, &JobRunner::progressed, this, &Preparer::progressed);
}

void Preparer::wake() {
  awake_ = true;
  if (!jobs_.busy()) next();
}

void Preparer::pause() {
  awake_ = false;
  jobs_.cancel();
}

void Preparer::next() {
  const auto skip = failed_;
  const auto folder = folder_;
  const QPointer<Preparer> self(this);
  jobs_.start<Turn>(
      tr("Analyzing new clips…"),
      [folder, skip, self](Task& task) -> Result<Turn> {
        auto library = library::Library::openAgain(folder);
        if (!library) return fail(library.error());
        auto waiting = exchange::unprepared(*library);
        if (!waiting) return fail(waiting.error());
        std::erase_if(*waiting, [&](library::SubmissionId id) { return skip.count(id.number) > 0; });
        if (waiting->empty()) return Turn{};
        const int left = static_cast<int>(waiting->size());
        QMetaObject::invokeMethod(
            self,
            [self, left] {
              if (self) emit self->began(left);
            },
            Qt::QueuedConnection);
        auto done = exchange::prepare(*library, waiting->front(), task);
        if (!done && done.error().code == ErrorCode::Cancelled) return fail(done.error());
        if (!done && done.error().code == ErrorCode::Conflict) return Turn{waiting->front().number, {}, true};
        return Turn{waiting->front().number, done ? QString() : QString::fromStdString(done.error().sentence())};
      },
      [this](Result<Turn> turn) {
        if (!turn) {
          if (turn.error().code != ErrorCode::Cancelled) emit trouble(QString::fromStdString(turn.error().sentence()));
          return emit idle();
        }
        if (!turn->submission) return emit idle();
        if (turn->elsewhere) {
          failed_.insert(*turn->submission);
        } else if (!turn->trouble.isEmpty()) {
          failed_.insert(*turn->submission);
          emit trouble(turn->trouble);
        } else {
          emit prepared(*turn->submission);
        }
        if (awake_) next();
      });
}

}  // namespace jib::desk
