// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QUndoStack>
#include <QWidget>
#include <functional>
#include <vector>

#include "core/library/library.h"

class QAction;
class QComboBox;
class QLabel;
class QLineEdit;
class QTableView;

namespace jib::desk {

class RosterFilter;
class RosterModel;

// All athletes in one table: who waits and for how long, what is due, whose meet is near; found by a word of anything
// that is known of them. Here athletes are made before their first clip, sorted into groups, and written to together.
class RosterPage : public QWidget {
  Q_OBJECT

 public:
  explicit RosterPage(library::Library& library, QWidget* parent = nullptr);
  ~RosterPage() override;

  void refresh();
  // Makes an athlete, and chooses their row; what the dialog ends in.
  void add(const QString& name, const QString& group);
  // Of all chosen rows, as one step of undo.
  void setGroups(const QString& typed);  // with commas between
  void setMembership(library::Membership membership);
  void setCoach(const QString& name);  // empty: whoever gets to it
  // One letter to each of the chosen, greeted by name, into the outbox. Gives how many went there.
  int writeToChosen(const QString& subject, const QString& text);
  const QList<QAction*>& listedActions() const { return listed_; }
  QSize minimumSizeHint() const override { return {900, 480}; }

 signals:
  void leaveRequested();
  void athleteRequested(qlonglong athlete);
  void changed();

 protected:
  void keyPressEvent(QKeyEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void buildLayout();
  QWidget* buildTop();
  void buildKeys();
  void askForNew();
  void askForGroups();
  void askForCoach();
  void askForLetter();
  void count();
  void open();
  std::vector<library::AthleteId> chosen() const;
  void change(const QString& what, const std::function<void(library::Athlete&)>& how);

  library::Library& library_;
  QUndoStack undo_;
  RosterModel* model_;
  RosterFilter* filter_;
  QTableView* table_ = nullptr;
  QLineEdit* find_ = nullptr;
  QComboBox* group_ = nullptr;
  QComboBox* membership_ = nullptr;
  QLabel* count_ = nullptr;
  QLabel* status_ = nullptr;
  QList<QAction*> listed_;
};

}  // namespace jib::desk
