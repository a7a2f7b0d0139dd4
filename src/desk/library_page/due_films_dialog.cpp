// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/due_films_dialog.h"

#include <QDialogButtonBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLocale>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "core/lifts/lift.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

constexpr int kIdRole = Qt::UserRole;

QString liftOf(const library::Submission& s) {
  const auto* lift = lifts::liftNamed(s.lift);
  return lift ? q(lift->title) : DueFilmsDialog::tr("clip");
}

}  // namespace

DueFilmsDialog::DueFilmsDialog(library::Library& library, QWidget* parent) : QDialog(parent), library_(library) {
  setObjectName(QStringLiteral("dueFilms"));
  setWindowTitle(tr("Clips due for deletion"));
  resize(720, 460);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  told_ = words({});
  told_->setObjectName(QStringLiteral("dueTold"));
  column->addWidget(told_);
  list_ = new QTreeWidget;
  list_->setObjectName(QStringLiteral("dueList"));
  list_->setAccessibleName(tr("Clips due for deletion"));
  list_->setHeaderLabels({tr("Athlete"), tr("Clip"), tr("Came in"), tr("Why")});
  list_->setRootIsDecorated(false);
  list_->setAlternatingRowColors(true);
  column->addWidget(list_, 1);
  sure_ = new QFrame;
  sure_->setObjectName(QStringLiteral("card"));
  auto* sure = new QVBoxLayout(sure_);
  goes_ = words({});
  goes_->setObjectName(QStringLiteral("dueGoes"));
  sure->addWidget(goes_);
  auto* choice = new QHBoxLayout;
  choice->addStretch();
  auto* back = new QPushButton(tr("Cancel"));
  connect(back, &QPushButton::clicked, sure_, &QWidget::hide);
  auto* go = new QPushButton(tr("Delete permanently"));
  go->setObjectName(QStringLiteral("dueDelete"));
  go->setAutoDefault(false);
  connect(go, &QPushButton::clicked, this, &DueFilmsDialog::remove);
  choice->addWidget(back);
  choice->addWidget(go);
  sure->addLayout(choice);
  sure_->hide();
  column->addWidget(sure_);
  auto* row = new QHBoxLayout;
  keep_ = new QPushButton(tr("Keep 6 more months"));
  keep_->setObjectName(QStringLiteral("dueKeep"));
  keep_->setToolTip(tr("The ticked clips come up again half a year from now"));
  connect(keep_, &QPushButton::clicked, this, &DueFilmsDialog::keep);
  ask_ = new QPushButton(tr("Delete the ticked clips…"));
  ask_->setObjectName(QStringLiteral("dueAsk"));
  ask_->setToolTip(tr("Shows what goes first; nothing is deleted by this press"));
  ask_->setAutoDefault(false);
  connect(ask_, &QPushButton::clicked, this, &DueFilmsDialog::ask);
  auto* close = new QPushButton(tr("Close"));
  connect(close, &QPushButton::clicked, this, &QDialog::accept);
  row->addWidget(keep_);
  row->addWidget(ask_);
  row->addStretch();
  row->addWidget(close);
  column->addLayout(row);
  connect(list_, &QTreeWidget::itemChanged, this, [this] {
    sure_->hide();  // what it says is of another choice
    const bool any = !ticked().empty();
    ask_->setEnabled(any);
    keep_->setEnabled(any);
  });
  refresh();
}

void DueFilmsDialog::refresh() {
  list_->clear();
  sure_->hide();
  auto due = library::filmsDue(library_, library::today());
  if (!due) return tell(q(due.error().sentence()), true);
  for (const auto& d : *due) {
    auto* item =
        new QTreeWidgetItem(list_, {q(d.athlete), liftOf(d.film), q(library::spoken(d.film.received_on)), q(d.why)});
    item->setData(0, kIdRole, static_cast<qlonglong>(d.film.id.number));
    item->setCheckState(0, Qt::Unchecked);
  }
  for (int c = 0; c < 3; ++c) list_->resizeColumnToContents(c);
  ask_->setEnabled(false);
  keep_->setEnabled(false);
  if (due->empty()) return tell(tr("No clip is due. How long clips are kept is under Settings, Clips."));
  tell(tr("All of these are answered. Tick the ones to delete; their numbers, cues and your notes stay."));
}

std::vector<library::SubmissionId> DueFilmsDialog::ticked() const {
  std::vector<library::SubmissionId> ids;
  for (int i = 0; i < list_->topLevelItemCount(); ++i)
    if (const auto* item = list_->topLevelItem(i); item->checkState(0) == Qt::Checked)
      ids.emplace_back(item->data(0, kIdRole).toLongLong());
  return ids;
}

void DueFilmsDialog::ask() {
  const auto what = library_.filmRemovalOf(ticked());
  if (!what) return tell(q(what.error().sentence()), true);
  const auto n = static_cast<int>(what->submissions.size());
  goes_->setText(
      (n == 1 ? tr("1 clip goes") : tr("%1 clips go").arg(n)) +
      tr(", with the replies and voice takes made from them and the e-mails they came in: %1. This can't be "
         "undone. Backups you made elsewhere still have them.")
          .arg(QLocale().formattedDataSize(static_cast<qint64>(library::sizeOf(*what)), 1, QLocale::DataSizeSIFormat)));
  sure_->show();
}

void DueFilmsDialog::keep() {
  const auto ids = ticked();
  if (auto kept = library::keepLonger(library_, ids, library::today()); !kept)
    return tell(q(kept.error().sentence()), true);
  changed_ = true;
  refresh();
}

void DueFilmsDialog::remove() {
  auto done = library_.letFilmsGo(ticked(), library::today());
  if (!done) return tell(q(done.error().sentence()), true);
  changed_ = true;
  refresh();
  const auto n = static_cast<int>(done->submissions.size());
  tell(n == 1 ? tr("1 clip deleted. Its numbers stay.") : tr("%1 clips deleted. Their numbers stay.").arg(n));
}

void DueFilmsDialog::tell(const QString& sentence, bool is_trouble) {
  told_->setText(sentence);
  setTone(told_, is_trouble ? "bad" : "");
}

}  // namespace jib::desk
