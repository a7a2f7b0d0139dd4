// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/measures_model.h"

#include <QColor>
#include <QFont>
#include <algorithm>

#include "core/coaching/two_films.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/theme.h"

namespace jib::desk {
namespace {

// How many rows the measures of an analysis take: another film of the set brings more.
std::size_t rowCountOf(const coaching::Analysis& a) {
  return a.measures.set.size() + (a.measures.reps.empty() ? 0 : a.measures.reps.front().size());
}

QString text(std::string_view s) {
  return q(s);
}

}  // namespace

void MeasuresModel::setAnalysis(std::shared_ptr<const coaching::Analysis> analysis) {
  const bool same_shape = analysis_ && analysis && analysis_->reps.size() == analysis->reps.size() &&
                          rowCountOf(*analysis_) == rowCountOf(*analysis) &&
                          ownChecks(analysis->request.marks) == own_checks_;
  if (same_shape) {
    // A drag changes the numbers many times a second; the table keeps its selection and scroll position.
    analysis_ = std::move(analysis);
    emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
    return;
  }
  beginResetModel();
  analysis_ = std::move(analysis);
  layRows();
  endResetModel();
}

void MeasuresModel::setByEye(const std::vector<const coaching::CueEntry*>& checks) {
  const bool same =
      std::equal(checks.begin(), checks.end(), checks_.begin(), checks_.end(),
                 [](const auto* a, const auto& b) { return a->finding == b.finding && a->look == b.look; });
  if (same) return;
  beginResetModel();
  checks_.clear();  // copies: the book they come from changes with the variant
  for (const coaching::CueEntry* check : checks) checks_.push_back(*check);
  layRows();
  endResetModel();
}

void MeasuresModel::setAsked(std::vector<std::string> own_checks) {
  asked_ = std::move(own_checks);
}

// Those that were asked about before, then those that are marked here.
std::vector<std::string> MeasuresModel::ownChecks(const coaching::Marks& marks) const {
  std::vector<std::string> checks = asked_;
  for (const coaching::Mark& m : marks)
    if (coaching::isOwnCheck(m.check) && std::find(checks.begin(), checks.end(), m.check) == checks.end())
      checks.push_back(m.check);
  return checks;
}

void MeasuresModel::layRows() {
  rows_.clear();
  if (!analysis_) return;
  // As the lift goes: the walk-out, though it is of the set, comes before the reps.
  constexpr std::string_view kFirst = "Walk-out";
  const auto lay = [&](const lifts::MeasureList& list, bool of_set, bool first) {
    std::string_view group;
    const coaching::OtherFilm* there = nullptr;  // null: this one
    for (std::size_t k = 0; k < list.size(); ++k) {
      if ((list[k].kind->group == kFirst) != first) continue;
      const auto* film = coaching::filmOf(*analysis_, list[k].kind->id);
      if (list[k].kind->group != group || film != there) rows_.push_back({true, of_set, k});
      group = list[k].kind->group;
      there = film;
      rows_.push_back({false, of_set, k});
    }
  };
  lay(analysis_->measures.set, true, true);
  if (!analysis_->measures.reps.empty()) lay(analysis_->measures.reps.front(), false, false);
  lay(analysis_->measures.set, true, false);
  own_checks_ = ownChecks(analysis_->request.marks);
  const std::size_t checks = checks_.size() + own_checks_.size();
  if (checks > 0) rows_.push_back({true, false, 0, true});
  for (std::size_t k = 0; k < checks; ++k) rows_.push_back({false, false, k, true});
}

QString MeasuresModel::checkAt(const Row& row) const {
  if (row.measure < checks_.size()) return q(checks_[row.measure].finding);
  return q(own_checks_[row.measure - checks_.size()]);
}

QVariant MeasuresModel::byEyeData(const Row& row, int column, int role) const {
  if (row.heading) {
    if (role == Qt::DisplayRole && column == 0) return tr("Check by eye: click to mark");
    if (role == Qt::ForegroundRole) return colours().faint;
    if (role == Qt::BackgroundRole) return colours().raised;
    return {};
  }
  const QString check = checkAt(row);
  const bool own = row.measure >= checks_.size();
  if (role == ByEyeRole) return check;
  if (role == Qt::ToolTipRole)
    return tr("%1Click or M at the frame that shows it: seen, fine, couldn't see.")
        .arg(own || checks_[row.measure].look.empty() ? QString() : q(checks_[row.measure].look) + QStringLiteral(" "));
  if (column == 0) {
    if (role != Qt::DisplayRole) return {};
    return own ? q(coaching::titleOfOwnCheck(check.toStdString())) : q(checks_[row.measure].title);
  }
  const auto* mark = coaching::markOf(analysis_->request.marks, check.toStdString(), repOf(column));
  // Marked once for all reps, as of a clip whose reps were not known then.
  if (!mark && column == 1) mark = coaching::markOf(analysis_->request.marks, check.toStdString(), 0);
  if (role == TimeRole) return mark && mark->t_s > 0 ? QVariant(mark->t_s) : QVariant();
  using coaching::MarkState;
  switch (role) {
    case Qt::DisplayRole:
      return !mark                            ? tr("–")
             : mark->state == MarkState::Seen ? tr("▲ seen")
             : mark->state == MarkState::Fine ? tr("✓ fine")
                                              : tr("? couldn't see");
    case Qt::TextAlignmentRole:
      return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    case Qt::ForegroundRole:
      return !mark || mark->state == MarkState::CouldNotSee ? colours().faint
             : mark->state == MarkState::Seen               ? colours().bad
                                                            : colours().good;
    default:
      return {};
  }
}

int MeasuresModel::repOf(int column) const {
  return analysis_ && !analysis_->reps.empty() ? column : 0;
}

int MeasuresModel::rowCount(const QModelIndex& parent) const {
  return parent.isValid() || !analysis_ ? 0 : static_cast<int>(rows_.size());
}

int MeasuresModel::columnCount(const QModelIndex& parent) const {
  if (parent.isValid() || !analysis_) return 0;
  return 1 + static_cast<int>(std::max<std::size_t>(1, analysis_->reps.size()));
}

const lifts::MeasureDefinition& MeasuresModel::kind(int row) const {
  const Row& r = rows_[static_cast<std::size_t>(row)];
  return *(r.of_set ? analysis_->measures.set : analysis_->measures.reps.front())[r.measure].kind;
}

const lifts::NamedMeasure* MeasuresModel::at(int row, int column) const {
  const Row& r = rows_[static_cast<std::size_t>(row)];
  if (column < 1 || r.heading || r.by_eye) return nullptr;
  if (!r.of_set) return &analysis_->measures.reps[static_cast<std::size_t>(column - 1)][r.measure];
  return column == 1 ? &analysis_->measures.set[r.measure] : nullptr;
}

std::optional<coaching::Verdict> MeasuresModel::verdict(int row, int column) const {
  const auto* m = at(row, column);
  if (!m || !m->measured()) return std::nullopt;
  std::optional<coaching::Verdict> out;
  for (const auto& f : analysis_->findings) {
    if (!f.kind || f.kind->id != m->kind->id) continue;
    coaching::Limit limit;
    limit.limit = f.limit;
    limit.side = f.side;
    out = std::max(out.value_or(coaching::Verdict::No), coaching::verdictOf(*m->measured(), limit));
  }
  return out;
}

std::optional<std::pair<lifts::Measured, lifts::Measured>> MeasuresModel::nowAndThen(int row) const {
  if (!last_) return std::nullopt;
  const auto then = last_->mean.find(std::string(kind(row).id));
  std::vector<lifts::Measured> now;
  for (int c = 1; c < columnCount(); ++c)
    if (const auto* m = at(row, c); m && m->measured()) now.push_back(*m->measured());
  if (then == last_->mean.end() || now.empty()) return std::nullopt;
  return std::pair(library::meanOf(now), then->second);
}

QVariant MeasuresModel::data(const QModelIndex& index, int role) const {
  // long because one case a role and column
  if (!analysis_ || !index.isValid()) return {};
  if (const Row& row = rows_[static_cast<std::size_t>(index.row())]; row.by_eye)
    return byEyeData(row, index.column(), role);
  const lifts::MeasureDefinition& k = kind(index.row());
  if (isHeading(index.row())) {
    if (role == Qt::DisplayRole && index.column() == 0) {
      if (const coaching::OtherFilm* film = coaching::filmOf(*analysis_, k.id))
        return tr("%1, %2").arg(text(k.group), text(coaching::filmedFrom(*film->analysis)));
      return text(k.group);
    }
    if (role == Qt::ForegroundRole) return colours().faint;
    if (role == Qt::BackgroundRole) return colours().raised;
    return {};
  }
  if (role == IdRole) return text(k.id);
  if (index.column() == 0) {
    if (role == Qt::DisplayRole) {
      const auto unit = lifts::shown(k, {}).unit;
      return unit.empty() ? text(k.title) : tr("%1, %2").arg(text(k.title), text(unit));
    }
    const auto both = role == Qt::ToolTipRole || role == ChangedRole ? nowAndThen(index.row()) : std::nullopt;
    if (role == ChangedRole) return both && library::changed(both->first, both->second);
    if (role == Qt::ToolTipRole) {
      const QString name = tr("%1: %2 (%3)").arg(text(k.group), text(k.title), text(k.id));
      return both ? tr("%1\nLast time, %2: %3; now %4")
                        .arg(name, q(library::spoken(last_->submission.received_on)),
                             q(lifts::textWithSigma(k, both->second)), q(lifts::textWithSigma(k, both->first)))
                  : name;
    }
    return {};
  }
  const lifts::NamedMeasure* m = at(index.row(), index.column());
  if (!m) return {};
  const lifts::Measured* measured = m->measured();
  switch (role) {
    case Qt::DisplayRole: {
      if (!measured) return QStringLiteral("–");
      // The mark repeats in shape what the colour says.
      const auto v = verdict(index.row(), index.column());
      const QString mark = !v                                  ? QString()
                           : *v == coaching::Verdict::Yes      ? QStringLiteral("▲ ")
                           : *v == coaching::Verdict::TooClose ? QStringLiteral("≈ ")
                                                               : QString();
      return mark + QString::fromStdString(lifts::numbersWithSigma(k, *measured));
    }
    case Qt::ToolTipRole:
      return measured ? tr("Click to see the frame at %1 s. Nine times in ten the true number lies within the ±.")
                            .arg(measured->t_s, 0, 'f', 2)
                      : QString::fromStdString(std::get<lifts::Absent>(m->measure).reason);
    case Qt::TextAlignmentRole:
      return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    case Qt::ForegroundRole: {
      if (!measured) return colours().faint;
      const auto v = verdict(index.row(), index.column());
      if (v == coaching::Verdict::Yes) return colours().bad;
      if (v == coaching::Verdict::TooClose) return colours().warn;
      return {};
    }
    case TimeRole:
      return measured ? QVariant(measured->t_s) : QVariant();
    case DrawingRole:
      return static_cast<int>(k.drawing);
    case VerdictRole: {
      const auto v = verdict(index.row(), index.column());
      return v ? QVariant(static_cast<int>(*v)) : QVariant();
    }
    default:
      return {};
  }
}

Qt::ItemFlags MeasuresModel::flags(const QModelIndex& index) const {
  if (index.isValid() && isHeading(index.row())) return Qt::ItemIsEnabled;
  return QAbstractTableModel::flags(index);
}

QVariant MeasuresModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  if (section == 0) return tr("Measure");
  return analysis_ && analysis_->reps.empty() ? tr("Set") : tr("Rep %1").arg(section);
}

}  // namespace jib::desk
