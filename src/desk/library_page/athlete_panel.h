// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"

class QFormLayout;
class QVBoxLayout;

namespace jib::desk {

class ClipPictures;

// What is known of one athlete, to read and to change; empty is unknown. Everything is saved when a field is left.
class AthletePanel : public QScrollArea {
  Q_OBJECT

 public:
  explicit AthletePanel(library::Library& library, QWidget* parent = nullptr);
  // Where the story's pictures come from; without it there are none.
  void setPictures(ClipPictures* pictures) { pictures_ = pictures; }
  void show(std::optional<library::AthleteId> id);
  // Everything of the athlete into a folder of its own in `folder`.
  void exportInto(const QString& folder);
  void askToDelete();
  bool busy() const { return jobs_.busy(); }

 signals:
  void changed();
  void said(const QString& sentence);
  void openAtRequested(qlonglong submission, double t_s);
  void removed();  // what was done before cannot be gone back over

 private:
  void rebuild();
  void addForm(QFormLayout& form);
  void addBuild();
  void addMeets();
  bool minor();
  void addConsent();
  void addLoadSpeed();
  void addAddresses();
  void addNamesakes();
  void addKeeping();
  void keep(const std::function<void(library::Athlete&)>& change);

  library::Library& library_;
  JobRunner jobs_{Lane::Refuse};
  ClipPictures* pictures_ = nullptr;
  std::optional<library::Athlete> athlete_;
  QVBoxLayout* column_;
};

// Groups as they are typed, with commas between, and read back; a name without letters is none.
QString groupsText(const std::vector<std::string>& groups);
std::vector<std::string> groupsFrom(const QString& typed);

}  // namespace jib::desk
