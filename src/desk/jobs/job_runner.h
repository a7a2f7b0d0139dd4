// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QPointer>
#include <deque>
#include <functional>
#include <memory>
#include <vector>

#include "core/base/result.h"
#include "core/base/task.h"

namespace jib::desk {

// What a job does to the one that runs before it in the same lane.
enum class Lane {
  Replace,  // takes its place: only the newest is wanted (a trace, a preview)
  Queue,    // waits for it: each is wanted (an import, a reply)
  Refuse,   // is not begun: the one that runs must come to its end (an export, a backup)
};

// Runs long work off the window's thread, one piece at a time; things that must not disturb each other have runners of
// their own. What is dropped is said (dropped, refused); a result that comes late is dropped by its generation number.
// The only place in the desk that starts such work.
class JobRunner : public QObject {
  Q_OBJECT

 public:
  explicit JobRunner(Lane lane, QObject* parent = nullptr) : QObject(parent), lane_(lane) {}
  ~JobRunner() override;

  // `work` runs elsewhere and owns all it uses; `done` runs on the window's thread with its result. False: refused.
  template <class T>
  bool start(const QString& title, std::function<Result<T>(Task&)> work, std::function<void(Result<T>)> done) {
    return run({title, [work = std::move(work), done = std::move(done)](Task& task) -> std::function<void()> {
                  // Only this function and the copy handed back hold the result.
                  auto result = std::make_shared<Result<T>>(guarded<T>(work, task));
                  return [result, done] { done(std::move(*result)); };
                }});
  }

  // The one that runs, and those that wait.
  void cancel();
  bool busy() const { return running_ != nullptr; }
  std::size_t waiting() const { return waiting_.size(); }
  QString title() const { return title_; }

 signals:
  void started(const QString& title);
  void progressed(double fraction);
  void finished();
  void dropped(const QString& title);  // cancelled, or replaced by another
  void refused(const QString& title, const QString& running);

 private:
  using Deliver = std::function<void()>;
  struct Running;
  struct Job {
    QString title;
    std::function<Deliver(Task&)> work;
  };

  template <class T>
  static Result<T> guarded(const std::function<Result<T>(Task&)>& work, Task& task) {
    try {
      return work(task);
    } catch (const std::exception& e) {
      return fail(ErrorCode::BadData, std::string("Something went wrong inside the program: ") + e.what() + ".",
                  "Your review is kept. Try again, or go on by hand.");
    } catch (...) {
      return fail(ErrorCode::BadData, "Something went wrong inside the program.",
                  "Your review is kept. Try again, or go on by hand.");
    }
  }
  bool run(Job job);
  void begin(Job job);
  void ended(int generation, Running* which, const Deliver& deliver);
  void stopRunning();

  const Lane lane_;
  std::shared_ptr<Running> running_;
  std::vector<std::shared_ptr<Running>> leaving_;  // cancelled, not yet ended
  std::deque<Job> waiting_;
  QString title_;
  int generation_ = 0;
};

}  // namespace jib::desk
