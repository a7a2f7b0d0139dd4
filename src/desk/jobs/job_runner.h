// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QPointer>
#include <functional>
#include <memory>
#include <vector>

#include "core/base/result.h"
#include "core/base/task.h"

namespace jib::desk {

// Runs one long piece of work at a time off the window's thread. Starting another cancels the one before; a result that
// comes late is dropped by its generation number. The only place in the desk that starts such work.
class JobRunner : public QObject {
  Q_OBJECT

 public:
  explicit JobRunner(QObject* parent = nullptr) : QObject(parent) {}
  ~JobRunner() override;

  // `work` runs elsewhere and owns all it uses; `done` runs on the window's thread with its result.
  template <class T>
  void start(const QString& title, std::function<Result<T>(Task&)> work, std::function<void(Result<T>)> done) {
    run(title, [work = std::move(work), done = std::move(done)](Task& task) -> std::function<void()> {
      // Only this function and the copy handed back hold the result.
      auto result = std::make_shared<Result<T>>(guarded<T>(work, task));
      return [result, done] { done(std::move(*result)); };
    });
  }

  void cancel();
  bool busy() const { return running_ != nullptr; }
  QString title() const { return title_; }

 signals:
  void started(const QString& title);
  void progressed(double fraction);
  void finished();

 private:
  using Deliver = std::function<void()>;
  struct Running;

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
  void run(const QString& title, std::function<Deliver(Task&)> work);

  std::shared_ptr<Running> running_;
  std::vector<std::shared_ptr<Running>> leaving_;  // cancelled, not yet ended
  QString title_;
  int generation_ = 0;
};

}  // namespace jib::desk
