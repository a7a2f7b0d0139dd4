// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/jobs/job_runner.h"

#include <QMetaObject>
#include <QThread>
#include <algorithm>

namespace jib::desk {

struct JobRunner::Running {
  Running() = default;
  explicit Running(Task::Listener listener) : task(std::move(listener)) {}
  Task task;
  // A thread of Qt's own: the reply's text layout starts timers, which plain threads cannot have.
  std::unique_ptr<QThread> thread;
};

JobRunner::~JobRunner() {
  // Nobody is told any more: who listens may be half gone.
  blockSignals(true);
  cancel();
  for (auto& r : leaving_) r->thread->wait();
}

void JobRunner::stopRunning() {
  ++generation_;
  running_->task.cancel();
  leaving_.push_back(std::move(running_));
  running_.reset();
  emit dropped(title_);
}

void JobRunner::cancel() {
  const auto never_begun = std::exchange(waiting_, {});
  if (running_) {
    stopRunning();
    emit finished();
  }
  for (const Job& job : never_begun) emit dropped(job.title);
}

bool JobRunner::run(Job job) {
  if (!running_) {
    begin(std::move(job));
    return true;
  }
  switch (lane_) {
    case Lane::Queue:
      waiting_.push_back(std::move(job));
      return true;
    case Lane::Refuse:
      emit refused(job.title, title_);
      return false;
    case Lane::Replace:
      break;
  }
  stopRunning();
  begin(std::move(job));
  return true;
}

void JobRunner::begin(Job job) {
  title_ = job.title;
  const int generation = ++generation_;
  const QPointer<JobRunner> self(this);
  auto running = std::make_shared<Running>([self, generation](double fraction) {
    QMetaObject::invokeMethod(
        self,
        [self, generation, fraction] {
          if (self && self->generation_ == generation) emit self->progressed(fraction);
        },
        Qt::QueuedConnection);
  });
  running_ = running;
  emit started(job.title);
  Running* raw = running.get();
  running->thread.reset(QThread::create([self, generation, raw, work = std::move(job.work)] {
    Deliver deliver = work(raw->task);
    QMetaObject::invokeMethod(
        self,
        [self, generation, raw, deliver = std::move(deliver)] {
          if (self) self->ended(generation, raw, deliver);
        },
        Qt::QueuedConnection);
  }));
  running->thread->start();
}

void JobRunner::ended(int generation, Running* which, const Deliver& deliver) {
  const auto gone = std::find_if(leaving_.begin(), leaving_.end(), [&](const auto& r) { return r.get() == which; });
  if (gone != leaving_.end()) {
    (*gone)->thread->wait();
    leaving_.erase(gone);
    return;
  }
  if (generation_ != generation) return;
  which->thread->wait();
  running_.reset();
  if (waiting_.empty()) {
    emit finished();
  } else {
    Job next = std::move(waiting_.front());
    waiting_.pop_front();
    begin(std::move(next));
  }
  deliver();
}

}  // namespace jib::desk
