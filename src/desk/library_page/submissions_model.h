// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <map>
#include <optional>
#include <vector>

#include "core/library/records.h"

namespace jib::desk {

class ClipPictures;

// All submissions with what matters when choosing the next one.
class SubmissionsModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Column { Picture, Received, AthleteName, Lift, Load, Clip, Message, State, Columns };
  enum Role { IdRole = Qt::UserRole, StateRole, MessageRole };

  explicit SubmissionsModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  // Where the clips' pictures come from; without it there are none.
  void setPictures(ClipPictures* pictures);
  // What rows are put in order by, made once: a queue of many years is sorted and filtered at every letter typed.
  struct Key {
    qlonglong id = 0, athlete = 0;
    library::SubmissionState state = library::SubmissionState::New;
    std::string received_on, meet_on, due_on;
    std::optional<qlonglong> message;
    bool pain = false, due_now = false;
    bool mine = true;  // it waits for the coach who sits here, of several (library/colleague.h)
    QString words;     // in lower case
  };
  const Key& key(int row) const { return keys_[static_cast<std::size_t>(row)]; }
  // Who coaches here, and which of them sits at this desk; told before set().
  void setCoaches(library::CoachCard card, const std::string& seat);
  // `checks`: the clips' checks by hash, as kept; `today_iso` for how long each has waited; `due_on`: when something
  // asked of an athlete is to be looked at again; `pain`: what was written of it, by submission.
  void set(std::vector<library::Submission> submissions, const std::vector<library::Athlete>& athletes,
           const std::map<std::string, std::string>& checks = {}, const std::string& today_iso = {},
           const std::map<std::int64_t, std::string>& due_on = {},
           const std::map<std::int64_t, std::string>& pain = {});

  int rowCount(const QModelIndex& parent = {}) const override;
  int columnCount(const QModelIndex& parent = {}) const override { return parent.isValid() ? 0 : Columns; }
  QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role = Qt::DisplayRole) const override;

 private:
  struct Who {
    QString name, meet_on, due_on;
  };
  static QString clipText(const library::Submission& s, const std::map<std::string, std::string>& checks);
  bool dueNow(const library::Submission& s) const;  // something asked is to be looked at today, or was to be
  const Who& who(const library::Submission& s) const;

  // What a row waits for among several coaches, and whether that is whoever sits here.
  struct Turn {
    bool mine = true;
    QString text;  // "→ Tom"; empty: nothing needs saying
  };
  Turn turnOf(const library::Submission& s, const library::Profile& athlete) const;

  std::vector<library::Submission> submissions_;
  std::vector<Turn> turns_;  // of each row
  std::vector<Key> keys_;
  std::vector<const Who*> whose_;
  library::CoachCard card_;
  std::string seat_;
  std::map<std::int64_t, Who> who_;
  ClipPictures* pictures_ = nullptr;
  std::vector<QString> clips_;  // what is said of each row's clip
  std::string today_;
  std::map<std::int64_t, QString> pain_;  // by submission: the words, of those that are open
};

// "140 kg (309 lb)"; "185 ?" while nobody knows the unit; "–".
QString loadText(const library::Submission& submission);
QString stateText(library::SubmissionState state);
// The same of a row, which may be words: "● Question", "○ Answered".
QString rowStateText(const library::Submission& submission);

}  // namespace jib::desk
