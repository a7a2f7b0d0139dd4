// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/records.h"

class QFormLayout;
class QLineEdit;

namespace jib::desk {

// What an athlete has agreed to and until when, whether faces are blurred in what is sent, and of somebody under 18 who
// looks after them. Emits the profile with what was changed.
class ConsentCard : public QWidget {
  Q_OBJECT

 public:
  explicit ConsentCard(library::Profile profile, QWidget* parent = nullptr);

 signals:
  void changed(const jib::library::Profile& profile);

 private:
  void addGuardian(QFormLayout& form);
  QLineEdit* line(QFormLayout& form, const QString& title, const char* name, const std::string& now,
                  const QString& tip);
  void keepDay(QLineEdit* edit, std::string library::Consent::*field);

  library::Profile profile_;
};

}  // namespace jib::desk
