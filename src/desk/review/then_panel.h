// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/library.h"
#include "core/motion/in_step.h"
#include "desk/jobs/job_runner.h"
#include "desk/review/review_document.h"

class QComboBox;
class QLabel;

namespace jib::desk {

class OtherView;
class Stage;

// Then beside now: an earlier film of the same athlete and lift, running in step with the clip under review, or as a
// ghost over it. Says what differs between the two films, and what differs at the play head, each with its ±.
class ThenPanel : public QWidget {
  Q_OBJECT

 public:
  ThenPanel(library::Library& library, ReviewDocument& document, Stage& stage, QWidget* parent = nullptr);

  // The films there are to choose from, the best comparable first. False: there is none, and why is said.
  bool open();
  bool isOpen() const { return !films_.empty(); }
  void follow(double now_t);
  JobRunner& jobs() { return jobs_; }
  std::shared_ptr<const coaching::Analysis> then() const { return then_; }
  double thenTime() const;  // of the frame on show

 signals:
  void said(const QString& sentence, bool is_trouble);

 protected:
  void hideEvent(QHideEvent* event) override;

 private:
  struct Film {
    library::Submission is;
    lifts::Likeness alike;
  };
  void choose(int which);
  void arrived(coaching::Analysis then);
  std::optional<double> thenAt(double now_t) const;
  void tell();
  void ghost();

  library::Library& library_;
  ReviewDocument& document_;
  Stage& stage_;
  OtherView* view_;
  QComboBox *film_, *step_, *reps_;
  QLabel *differs_, *reading_;
  JobRunner jobs_{Lane::Replace};
  std::vector<Film> films_;
  std::size_t chosen_ = 0;
  std::shared_ptr<const coaching::Analysis> then_;
  double now_t_ = 0;
};

}  // namespace jib::desk
