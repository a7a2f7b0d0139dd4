// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <optional>

#include "core/coaching/clip_check.h"
#include "core/library/records.h"

namespace jib::desk {

// Which lift a submission shows, and who says so: to look at, to answer when it is asked, to change at any time.
class LiftCard : public QFrame {
  Q_OBJECT

 public:
  LiftCard(const library::Submission& submission, const std::optional<coaching::ClipCheck>& check,
           QWidget* parent = nullptr);

 signals:
  // By the coach, who has the last word.
  void chosen(const QString& lift, const QString& variant);
};

// "Squat, low-bar" as people read it, with a question mark after what nobody said: "squat?", "squat, low-bar?"
QString liftText(const library::Submission& submission);

}  // namespace jib::desk
