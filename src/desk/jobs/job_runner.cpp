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
  cancel();
  for (auto& r : leaving_) r->thread->wait();
}

void JobRunner::cancel() {
  if (!running_) return;
  ++generation_;
  running_->task.cancel();
  leaving_.push_back(std::move(running_));
  running_.reset();
  emit finished();
}

void JobRunner::run(const QString& title, std::function<Deliver(Task&)> work) {
  cancel();
  title_ = title;
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
  emit started(title);
  Running* raw = running.get();
  running->thread.reset(QThread::create([self, generation, raw, work = std::move(work)] {
    Deliver deliver = work(raw->task);
    QMetaObject::invokeMethod(
        self,
        [self, generation, raw, deliver = std::move(deliver)] {
          if (!self) return;
          const auto gone =
              std::find_if(self->leaving_.begin(), self->leaving_.end(), [&](const auto& r) { return r.get() == raw; });
          if (gone != self->leaving_.end()) {
            (*gone)->thread->wait();
            self->leaving_.erase(gone);
            return;
          }
          if (self->generation_ != generation) return;
          raw->thread->wait();
          self->running_.reset();
          emit self->finished();
          deliver();
        },
        Qt::QueuedConnection);
  }));
  running->thread->start();
}

}  // namespace jib::desk
