// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <map>
#include <vector>

#include "core/library/records.h"

namespace jib::desk {

class ClipPictures;

// All submissions with what matters when choosing the next one.
class SubmissionsModel : public QAbstractTableModel {
  Q_OBJECT

 public:
  enum Column { Picture, Received, AthleteName, Lift, Load, Clip, Message, State, Columns };
  enum Role {
    IdRole = Qt::UserRole,
    AthleteRole,
    StateRole,
    ReceivedRole,
    MeetRole,
    DueRole,
    WordsRole,
    MessageRole,
    PainRole,  // whether the athlete is sore
    DueNowRole
  };

  explicit SubmissionsModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
  // Where the clips' pictures come from; without it there are none.
  void setPictures(ClipPictures* pictures);
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

  std::vector<library::Submission> submissions_;
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
