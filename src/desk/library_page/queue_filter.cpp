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
  words_ = words.simplified();
  invalidateFilter();
}
void QueueFilter::setOrder(Order order, quint32 seed) {
  order_ = order;
  seed_ = seed;
  invalidate();
}

bool QueueFilter::filterAcceptsRow(int row, const QModelIndex& parent) const {
  const QModelIndex index = sourceModel()->index(row, 0, parent);
  if (athlete_ && index.data(SubmissionsModel::AthleteRole).toLongLong() != *athlete_) return false;
  if (!shows(show_, static_cast<SubmissionState>(index.data(SubmissionsModel::StateRole).toInt()))) return false;
  if (show_ == Show::Pain && !index.data(SubmissionsModel::PainRole).toBool()) return false;
  return words_.isEmpty() || index.data(SubmissionsModel::WordsRole).toString().contains(words_, Qt::CaseInsensitive);
}

bool QueueFilter::lessThan(const QModelIndex& left, const QModelIndex& right) const {
  const auto id = [](const QModelIndex& i) { return i.data(SubmissionsModel::IdRole).toLongLong(); };
  const auto on = [](const QModelIndex& i) { return i.data(SubmissionsModel::ReceivedRole).toString(); };
  if (order_ == Order::Draw) {
    // The clips of one message stay together: the message is what is drawn.
    const auto drawn = [&](const QModelIndex& i) {
      const QVariant message = i.data(SubmissionsModel::MessageRole);
      constexpr quint64 kMessages = 1ull << 40;
      return lot(message.isValid() ? kMessages + message.toULongLong() : static_cast<quint64>(id(i)), seed_);
    };
    if (drawn(left) != drawn(right)) return drawn(left) < drawn(right);
    return id(left) < id(right);
  }
  if (order_ == Order::Meet || order_ == Order::Due) {
    // Who has no meet, or nothing due, comes after everyone who has.
    const int role = order_ == Order::Meet ? SubmissionsModel::MeetRole : SubmissionsModel::DueRole;
    const QString a = left.data(role).toString(), b = right.data(role).toString();
    if (a != b) return a.isEmpty() || b.isEmpty() ? b.isEmpty() : a < b;
  }
  if (order_ == Order::Today) {
    const bool sore = left.data(SubmissionsModel::PainRole).toBool();
    if (sore != right.data(SubmissionsModel::PainRole).toBool()) return sore;
    const bool a = left.data(SubmissionsModel::DueNowRole).toBool(),
               b = right.data(SubmissionsModel::DueNowRole).toBool();
    if (a != b) return a;
  }
  const bool rising = order_ != Order::Newest && order_ != Order::Today;
  if (on(left) != on(right)) return (on(left) < on(right)) == rising;
  return (id(left) < id(right)) == rising;
}

}  // namespace jib::desk
