// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/measures_table.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLineEdit>
#include <QTableView>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/review/measures_model.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {

MeasuresTable::MeasuresTable(ReviewDocument& document, QWidget* parent)
    : QWidget(parent), document_(document), model_(new MeasuresModel(this)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 4, 0, 0);
  column->setSpacing(4);
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  show_ = new QComboBox;
  show_->setObjectName(QStringLiteral("showMeasures"));
  show_->setToolTip(tr("Which rows are shown"));
  show_->addItem(tr("All measures"), static_cast<int>(Show::All));
  show_->addItem(tr("Out of range, or close"), static_cast<int>(Show::OutOfRange));
  show_->addItem(tr("Changed since last time"), static_cast<int>(Show::Changed));
  show_->addItem(tr("Check by eye"), static_cast<int>(Show::ByEye));
  search_ = new QLineEdit;
  search_->setObjectName(QStringLiteral("findMeasure"));
  search_->setPlaceholderText(tr("find a measure (Ctrl+F)"));
  search_->setClearButtonEnabled(true);
  row->addWidget(show_);
  row->addWidget(search_, 1);
  column->addLayout(row);
  table_ = new QTableView;
  table_->setObjectName(QStringLiteral("measures"));
  table_->setModel(model_);
  table_->setAlternatingRowColors(true);
  table_->setTabKeyNavigation(false);  // Tab goes on to the next place; arrows go from number to number
  table_->setShowGrid(false);
  table_->verticalHeader()->hide();
  keepSized(table_, [this] { table_->verticalHeader()->setDefaultSectionSize(textPx(23)); });
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  column->addWidget(table_, 1);
  connect(show_, &QComboBox::currentIndexChanged, this, [this] { showRows(); });
  connect(search_, &QLineEdit::textChanged, this, [this] { showRows(); });
  connect(search_, &QLineEdit::returnPressed, this, &MeasuresTable::done);
  connect(table_, &QTableView::clicked, this, [this](const QModelIndex& index) {
    const QString check = index.data(MeasuresModel::ByEyeRole).toString();
    if (check.isEmpty() || index.column() == 0)
      showCell(index);
    else
      emit markRequested(check, model_->repOf(index.column()));
    emit done();  // frames are stepped from here
  });
  connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this, &MeasuresTable::showCell);
}

void MeasuresTable::showCell(const QModelIndex& index) {
  const QVariant t = index.data(MeasuresModel::TimeRole);
  if (t.isValid()) emit evidenceRequested(t.toDouble(), index.data(MeasuresModel::DrawingRole).toInt());
}

void MeasuresTable::setShow(Show show) {
  show_->setCurrentIndex(show_->findData(static_cast<int>(show)));
}

void MeasuresTable::focusSearch() {
  search_->setFocus();
  search_->selectAll();
}

void MeasuresTable::setLastTime(std::optional<library::LastTime> last) {
  const int changed = show_->findData(static_cast<int>(Show::Changed));
  if (last) show_->setItemText(changed, tr("Changed since %1").arg(q(library::spoken(last->submission.received_on))));
  model_->setLastTime(std::move(last));
}

void MeasuresTable::setAnalysis(std::shared_ptr<const coaching::Analysis> analysis) {
  model_->setAnalysis(std::move(analysis));
  table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  for (int c = 1; c < model_->columnCount(); ++c)
    table_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
  table_->clearSpans();
  for (int r = 0; r < model_->rowCount(); ++r)
    if (model_->isHeading(r)) table_->setSpan(r, 0, 1, model_->columnCount());
  showRows();
}

bool MeasuresTable::wanted(int row) const {
  const QModelIndex first = model_->index(row, 0);
  const QString sought = search_->text().trimmed();
  if (!sought.isEmpty() && !first.data().toString().contains(sought, Qt::CaseInsensitive) &&
      !first.data(Qt::ToolTipRole).toString().contains(sought, Qt::CaseInsensitive))
    return false;
  const bool by_eye = first.data(MeasuresModel::ByEyeRole).isValid();
  switch (static_cast<Show>(show_->currentData().toInt())) {
    case Show::All:
      return true;
    case Show::ByEye:
      return by_eye;
    case Show::Changed:
      return first.data(MeasuresModel::ChangedRole).toBool();
    case Show::OutOfRange:
      for (int c = 1; c < model_->columnCount(); ++c) {
        const QVariant verdict = model_->index(row, c).data(MeasuresModel::VerdictRole);
        if (verdict.isValid() && static_cast<coaching::Verdict>(verdict.toInt()) != coaching::Verdict::No) return true;
      }
      return false;
  }
  return true;
}

// A heading is shown when something under it is.
void MeasuresTable::showRows() {
  bool below = false;
  for (int row = model_->rowCount() - 1; row >= 0; --row) {
    if (model_->isHeading(row)) {
      table_->setRowHidden(row, !below);
      below = false;
    } else {
      const bool shown = wanted(row);
      table_->setRowHidden(row, !shown);
      below = below || shown;
    }
  }
}

}  // namespace jib::desk
