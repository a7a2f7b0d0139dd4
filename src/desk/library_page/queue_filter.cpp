// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/queue_filter.h"

#include "core/library/records.h"
#include "desk/library_page/submissions_model.h"

namespace jib::desk {
namespace {

using library::SubmissionState;

bool shows(QueueFilter::Show show, SubmissionState state) {
  switch (show) {
    case QueueFilter::Show::All:
    case QueueFilter::Show::Pain:
      return true;
    case QueueFilter::Show::Mine:
    case QueueFilter::Show::Open:
      return state != SubmissionState::Returned && state != SubmissionState::Skipped;
    case QueueFilter::Show::New:
      return state == SubmissionState::New;
    case QueueFilter::Show::NeedsVideo:
      return state == SubmissionState::NeedsVideo;
    case QueueFilter::Show::InReview:
      return state == SubmissionState::InReview;
    case QueueFilter::Show::CarriedOver:
      return state == SubmissionState::CarriedOver;
    case QueueFilter::Show::AwaitingFilm:
      return state == SubmissionState::AwaitingFilm;
    case QueueFilter::Show::Returned:
      return state == SubmissionState::Returned;
    case QueueFilter::Show::Skipped:
      return state == SubmissionState::Skipped;
  }
  return true;
}

// A well-mixed number of a submission and a seed: Steele, Lea and Flood 2014, the finisher of splitmix64.
quint64 lot(quint64 id, quint64 seed) {
  quint64 z = id * 0x9E3779B97F4A7C15ull + seed * 0xD1B54A32D192ED03ull;
  z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9ull;
  z = (z ^ (z >> 27)) * 0x94D049BB133111EBull;
  return z ^ (z >> 31);
}

}  // namespace

QueueFilter::QueueFilter(QObject* parent) : QSortFilterProxyModel(parent) {
  sort(0);
}

void QueueFilter::setAthlete(std::optional<qlonglong> athlete) {
  athlete_ = athlete;
  invalidateFilter();
}
void QueueFilter::setShow(Show show) {
  show_ = show;
  invalidateFilter();
}
void QueueFilter::setWords(const QString& words) {
  words_ = words.simplified().toLower();
  invalidateFilter();
}
void QueueFilter::setOrder(Order order, quint32 seed) {
  order_ = order;
  seed_ = seed;
  invalidate();
}

const SubmissionsModel::Key& QueueFilter::key(int row) const {
  return static_cast<const SubmissionsModel*>(sourceModel())->key(row);
}

bool QueueFilter::filterAcceptsRow(int row, const QModelIndex&) const {
  const SubmissionsModel::Key& of = key(row);
  if (athlete_ && of.athlete != *athlete_) return false;
  if (!shows(show_, of.state)) return false;
  if (show_ == Show::Mine && !of.mine) return false;
  if (show_ == Show::Pain && !of.pain) return false;
  return words_.isEmpty() || of.words.contains(words_);
}

bool QueueFilter::lessThan(const QModelIndex& left, const QModelIndex& right) const {
  const SubmissionsModel::Key &a = key(left.row()), &b = key(right.row());
  if (order_ == Order::Draw) {
    // The clips of one message stay together: the message is what is drawn.
    const auto drawn = [&](const SubmissionsModel::Key& k) {
      constexpr quint64 kMessages = 1ull << 40;
      return lot(k.message ? kMessages + static_cast<quint64>(*k.message) : static_cast<quint64>(k.id), seed_);
    };
    if (drawn(a) != drawn(b)) return drawn(a) < drawn(b);
    return a.id < b.id;
  }
  if (order_ == Order::Meet || order_ == Order::Due) {
    // Who has no meet, or nothing due, comes after everyone who has.
    const std::string &on = order_ == Order::Meet ? a.meet_on : a.due_on,
                      &other = order_ == Order::Meet ? b.meet_on : b.due_on;
    if (on != other) return on.empty() || other.empty() ? other.empty() : on < other;
  }
  if (order_ == Order::Today) {
    if (a.pain != b.pain) return a.pain;
    if (a.due_now != b.due_now) return a.due_now;
  }
  const bool rising = order_ != Order::Newest && order_ != Order::Today;
  if (a.received_on != b.received_on) return (a.received_on < b.received_on) == rising;
  return (a.id < b.id) == rising;
}

}  // namespace jib::desk
