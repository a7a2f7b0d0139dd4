// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/roster/roster_page.h"

#include <QAction>
#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>
#include <memory>
#include <set>

#include "core/exchange/letters/outbox.h"
#include "core/library/dates.h"
#include "desk/library_page/athlete_panel.h"
#include "desk/library_page/commands/send_letter.h"
#include "desk/roster/roster_model.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/deed.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {

using library::Membership;

RosterPage::RosterPage(library::Library& library, QWidget* parent)
    : QWidget(parent), library_(library), model_(new RosterModel(this)), filter_(new RosterFilter(*model_, this)) {
  setObjectName(QStringLiteral("page"));
  buildLayout();
  buildKeys();
  setFocusProxy(find_);
}

RosterPage::~RosterPage() {
  undo_.disconnect(this);
}

void RosterPage::buildLayout() {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 10, 14, 8);
  column->addWidget(buildTop());
  table_ = new QTableView;
  table_->setObjectName(QStringLiteral("roster"));
  table_->setModel(filter_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table_->setContextMenuPolicy(Qt::ActionsContextMenu);
  table_->setShowGrid(false);
  table_->setAlternatingRowColors(true);
  table_->setTabKeyNavigation(false);
  table_->setSortingEnabled(true);
  table_->sortByColumn(RosterModel::Name, Qt::AscendingOrder);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  table_->verticalHeader()->setDefaultSectionSize(textPx(30));
  table_->horizontalHeader()->setHighlightSections(false);
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  connect(table_, &QTableView::doubleClicked, this, &RosterPage::open);
  column->addWidget(table_, 1);
  auto* foot = new QHBoxLayout;
  status_ = words({}, true);
  status_->setObjectName(QStringLiteral("rosterStatus"));
  count_ = plainLabel();
  count_->setObjectName(QStringLiteral("rosterCount"));
  foot->addWidget(status_, 1);
  foot->addWidget(count_);
  column->addLayout(foot);
  connect(filter_, &QAbstractItemModel::rowsInserted, this, &RosterPage::count);
  connect(filter_, &QAbstractItemModel::rowsRemoved, this, &RosterPage::count);
  connect(filter_, &QAbstractItemModel::modelReset, this, &RosterPage::count);
}

QWidget* RosterPage::buildTop() {
  // long because a layout, one widget after the other
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
  };
  button(tr("‹ Submissions"), "rosterBack", tr("Back to the queue (Escape)"), [this] { emit leaveRequested(); });
  row->addSpacing(8);
  auto* title = plainLabel(tr("Athletes"));
  title->setObjectName(QStringLiteral("title"));
  row->addWidget(title);
  row->addSpacing(12);
  membership_ = new QComboBox;
  membership_->setObjectName(QStringLiteral("rosterMembership"));
  for (const Membership m : {Membership::Active, Membership::Paused, Membership::Former})
    membership_->addItem(q(library::titleOf(m)).toLower(), static_cast<int>(m));
  membership_->addItem(tr("everybody"), -1);
  connect(membership_, &QComboBox::currentIndexChanged, this, [this] {
    const int which = membership_->currentData().toInt();
    filter_->setMembership(which < 0 ? std::nullopt : std::optional(static_cast<Membership>(which)));
    count();
  });
  row->addWidget(membership_);
  group_ = new QComboBox;
  group_->setObjectName(QStringLiteral("rosterGroup"));
  group_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
  connect(group_, &QComboBox::currentIndexChanged, this, [this] {
    filter_->setGroup(group_->currentData().toString());
    count();
  });
  row->addWidget(group_);
  find_ = new QLineEdit;
  find_->setObjectName(QStringLiteral("rosterFind"));
  find_->setPlaceholderText(tr("find: a name, “hips lead”, “sumo”, squat>180, bw<75"));
  find_->setClearButtonEnabled(true);
  connect(find_, &QLineEdit::textChanged, this, [this](const QString& typed) {
    filter_->setTyped(typed);
    count();
  });
  row->addWidget(find_, 1);
  button(tr("Letter…"), "rosterLetter", tr("Writes to everyone selected, each by name (L)"),
         [this] { askForLetter(); });
  button(tr("Groups…"), "rosterGroups", tr("Puts everyone selected into groups (G)"), [this] { askForGroups(); });
  button(tr("New athlete…"), "rosterNew", tr("Before their first clip (Ctrl+N)"), [this] { askForNew(); });
  return box;
}

void RosterPage::buildKeys() {
  const auto key = [this](const QString& menu, QWidget* of, const QString& text, const QList<QKeySequence>& keys,
                          auto run) {
    auto* action = new QAction(text, of);
    action->setShortcuts(keys);
    action->setShortcutContext(of == table_ ? Qt::WidgetShortcut : Qt::WidgetWithChildrenShortcut);
    action->setProperty("menu", menu);
    connect(action, &QAction::triggered, this, run);
    of->addAction(action);
    listed_ << action;
  };
  using K = QKeySequence;
  const QString athletes = tr("Athletes");
  key(athletes, table_, tr("Show their clips"), {K(Qt::Key_Return), K(Qt::Key_Enter)}, [this] { open(); });
  key(athletes, table_, tr("Write a letter to each"), {K(Qt::Key_L)}, [this] { askForLetter(); });
  key(athletes, table_, tr("Put into groups"), {K(Qt::Key_G)}, [this] { askForGroups(); });
  key(athletes, table_, tr("Choose their coach"), {K(Qt::Key_C)}, [this] { askForCoach(); });
  key(athletes, table_, tr("Active"), {K(Qt::Key_1)}, [this] { setMembership(Membership::Active); });
  key(athletes, table_, tr("Taking a break"), {K(Qt::Key_2)}, [this] { setMembership(Membership::Paused); });
  key(athletes, table_, tr("Former"), {K(Qt::Key_3)}, [this] { setMembership(Membership::Former); });
  key(athletes, this, tr("New athlete"), {K::New}, [this] { askForNew(); });
  key(tr("Edit"), this, tr("Undo, letters in the outbox included"), {K::Undo}, [this] { undo_.undo(); });
  key(tr("Edit"), this, tr("Redo"), {K::Redo}, [this] { undo_.redo(); });
  key(tr("Edit"), this, tr("Find"), {K::Find}, [this] {
    find_->setFocus(Qt::ShortcutFocusReason);
    find_->selectAll();
  });
}

void RosterPage::refresh() {
  const auto kept = chosen();
  auto rows = library_.roster(library::today());
  if (!rows) return status_->setText(q(rows.error().sentence()));
  std::set<std::string> groups;
  for (const auto& row : *rows) groups.insert(row.athlete.profile.groups.begin(), row.athlete.profile.groups.end());
  model_->set(std::move(*rows), library::today());
  const QString group = group_->currentData().toString();
  group_->clear();
  group_->addItem(tr("any group"), QString());
  for (const std::string& name : groups) group_->addItem(q(name), q(name));
  group_->setCurrentIndex(std::max(0, group_->findData(group)));
  group_->setVisible(!groups.empty());
  table_->setColumnHidden(RosterModel::Coach, !model_->anybodyHasACoach());
  auto* header = table_->horizontalHeader();
  for (int c = 0; c < model_->columnCount(); ++c)
    header->setSectionResizeMode(c, c == RosterModel::Groups ? QHeaderView::Stretch : QHeaderView::Interactive);
  table_->resizeColumnsToContents();
  for (int c = 0; c < model_->columnCount(); ++c) table_->setColumnWidth(c, table_->columnWidth(c) + textPx(14));
  table_->setColumnWidth(RosterModel::Name, std::max(table_->columnWidth(RosterModel::Name), textPx(170)));
  table_->clearSelection();
  for (int at = 0; at < filter_->rowCount(); ++at) {
    const auto id = filter_->index(at, 0).data(RosterModel::IdRole).toLongLong();
    if (std::find(kept.begin(), kept.end(), library::AthleteId(id)) != kept.end())
      table_->selectionModel()->select(filter_->index(at, 0), QItemSelectionModel::Select | QItemSelectionModel::Rows);
  }
  count();
}

void RosterPage::count() {
  const int shown = filter_->rowCount(), all = model_->rowCount();
  int waiting = 0;
  for (int at = 0; at < shown; ++at) waiting += model_->row(filter_->mapToSource(filter_->index(at, 0)).row()).waiting;
  QString text = shown == all ? (all == 1 ? tr("1 athlete") : tr("%1 athletes").arg(all))
                              : tr("%1 of %2 athletes").arg(shown).arg(all);
  if (waiting > 0) text += waiting == 1 ? tr(" · 1 clip waiting") : tr(" · %1 clips waiting").arg(waiting);
  count_->setText(text);
  status_->setText(all == 0     ? tr("No athletes yet. Add one with Ctrl+N, or they show up with their first message.")
                   : shown == 0 ? tr("No matches. Clear the search, or show everybody.")
                                : QString());
}

std::vector<library::AthleteId> RosterPage::chosen() const {
  std::vector<library::AthleteId> all;
  for (const QModelIndex& row : table_->selectionModel()->selectedRows())
    all.emplace_back(row.data(RosterModel::IdRole).toLongLong());
  return all;
}

void RosterPage::open() {
  const QModelIndex at = table_->currentIndex();
  if (at.isValid()) emit athleteRequested(at.data(RosterModel::IdRole).toLongLong());
}

// Of all chosen, as they stand at that moment; undone, each gets back what this step took.
void RosterPage::change(const QString& what, const std::function<void(library::Athlete&)>& how) {
  const auto ids = chosen();
  if (ids.empty()) return status_->setText(tr("Select one or more athletes first."));
  const auto before = std::make_shared<std::vector<library::Athlete>>();
  const auto tell = [this](const QString& trouble, const QString& done) {
    refresh();
    emit changed();
    status_->setText(trouble.isEmpty() ? done : trouble);
  };
  undo_.push(new Deed(
      what,
      [this, ids, before, how, tell, what] {
        before->clear();
        QString trouble;
        for (const auto id : ids)
          if (auto now = library_.edit(id,
                                       [&](library::Athlete& a) {
                                         before->push_back(a);
                                         how(a);
                                       });
              !now)
            trouble = q(now.error().sentence());
        tell(trouble, tr("%1. Ctrl+Z undoes it.").arg(what));
      },
      [this, before, tell] {
        QString trouble;
        for (const library::Athlete& was : *before)
          if (auto now = library_.edit(was.id,
                                       [&](library::Athlete& a) {
                                         a.profile.groups = was.profile.groups;
                                         a.profile.membership = was.profile.membership;
                                         a.profile.coach = was.profile.coach;
                                       });
              !now)
            trouble = q(now.error().sentence());
        tell(trouble, tr("As it was before."));
      }));
}

void RosterPage::setGroups(const QString& typed) {
  const auto all = groupsFrom(typed);
  change(all.empty() ? tr("In no group now") : tr("Groups: %1").arg(groupsText(all)),
         [all](library::Athlete& a) { a.profile.groups = all; });
}

void RosterPage::setMembership(Membership membership) {
  change(q(library::titleOf(membership)), [membership](library::Athlete& a) { a.profile.membership = membership; });
}

void RosterPage::setCoach(const QString& name) {
  change(name.isEmpty() ? tr("Answered by whoever gets to it") : tr("Coach: %1").arg(name),
         [coach = name.toStdString()](library::Athlete& a) { a.profile.coach = coach; });
}

void RosterPage::askForCoach() {
  if (chosen().empty()) return status_->setText(tr("Select one or more athletes first."));
  const auto names = library::coachesOf(library_.coach().value_or(library::CoachCard{}));
  if (names.size() < 2)
    return status_->setText(tr("You coach alone here. Add other coaches under Settings (Ctrl+,), Coaches."));
  QStringList offered{tr("whoever gets to it")};
  for (const std::string& name : names) offered << q(name);
  bool said = false;
  const QString name =
      QInputDialog::getItem(this, tr("Coach"), tr("Who answers their clips?"), offered, 0, false, &said);
  if (said) setCoach(offered.indexOf(name) == 0 ? QString() : name);
}

void RosterPage::add(const QString& name, const QString& group) {
  const QString clean = name.simplified();
  if (clean.isEmpty()) return status_->setText(tr("Type a name first."));
  library::Athlete athlete;
  athlete.name = clean.toStdString();
  athlete.style = library_.coach().value_or(library::CoachCard{}).style;
  if (!group.simplified().isEmpty()) athlete.profile.groups = {group.simplified().toStdString()};
  auto id = library_.addAthlete(athlete);
  if (!id) return status_->setText(q(id.error().sentence()));
  refresh();
  emit changed();
  for (int at = 0; at < filter_->rowCount(); ++at)
    if (filter_->index(at, 0).data(RosterModel::IdRole).toLongLong() == id->number) {
      table_->selectRow(at);
      table_->setCurrentIndex(filter_->index(at, 0));
    }
  status_->setText(tr("%1 is here. Return shows their page.").arg(clean));
}

void RosterPage::askForNew() {
  QDialog ask(this);
  ask.setObjectName(QStringLiteral("newAthleteDialog"));
  ask.setWindowTitle(tr("New athlete"));
  auto* form = new QFormLayout(&ask);
  auto *name = new QLineEdit, *group = new QLineEdit;
  name->setObjectName(QStringLiteral("newAthleteName"));
  name->setMinimumWidth(textPx(280));
  group->setPlaceholderText(tr("none"));
  form->addRow(tr("Name"), name);
  form->addRow(tr("Group"), group);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  connect(buttons, &QDialogButtonBox::accepted, &ask, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, &ask, &QDialog::reject);
  form->addRow(buttons);
  if (ask.exec() == QDialog::Accepted) add(name->text(), group->text());
}

void RosterPage::askForGroups() {
  const auto ids = chosen();
  if (ids.empty()) return status_->setText(tr("Select one or more athletes first."));
  QString now;
  if (auto first = library_.athlete(ids.front())) {
    now = groupsText(first->profile.groups);
  }
  bool said = false;
  const QString typed = QInputDialog::getText(
      this, tr("Groups"),
      ids.size() == 1 ? tr("Groups, with commas between") : tr("Groups of all %1, with commas between").arg(ids.size()),
      QLineEdit::Normal, now, &said);
  if (said) setGroups(typed);
}

int RosterPage::writeToChosen(const QString& subject, const QString& text) {
  auto letters = exchange::LetterBook::forLibrary(library_.folder());
  if (!letters) {
    status_->setText(q(letters.error().sentence()));
    return 0;
  }
  letters->signedBy(library::signatureOf(library_.signer().value_or(library::CoachCard{})));
  QString trouble;
  QStringList without;
  int sent = 0;
  undo_.beginMacro(tr("letter to several"));
  for (const auto id : chosen()) {
    auto athlete = library_.athlete(id);
    auto addresses = library_.addresses(id);
    if (!athlete || !addresses) continue;
    if (addresses->empty()) {
      without << q(athlete->name);
      continue;
    }
    exchange::Dispatch out;
    out.letter = letters->blank(exchange::firstNameOf(athlete->name), subject.toStdString());
    out.letter.subject = subject.toStdString();
    // The greeting first, the signature last, the coach's words between.
    const std::size_t gap = out.letter.text.find("\n\n");
    out.letter.text.insert(gap == std::string::npos ? out.letter.text.size() : gap + 2, text.toStdString() + "\n");
    out.to_name = athlete->name;
    out.to_address = addresses->front();
    out.athlete = id;
    auto* sending = new SendLetter(library_, out, [&trouble](library::SubmissionId, const QString& went_wrong) {
      if (!went_wrong.isEmpty()) trouble = went_wrong;
    });
    undo_.push(sending);
    if (sending->sent()) ++sent;
  }
  undo_.endMacro();
  emit changed();
  QString said = sent == 1 ? tr("1 letter is in the outbox.") : tr("%1 letters are in the outbox.").arg(sent);
  if (!without.isEmpty()) said += tr(" No address for %1.").arg(without.join(QStringLiteral(", ")));
  status_->setText(trouble.isEmpty() ? said : trouble);
  return sent;
}

void RosterPage::askForLetter() {
  const auto ids = chosen();
  if (ids.empty()) return status_->setText(tr("Select one or more athletes first."));
  QDialog ask(this);
  ask.setObjectName(QStringLiteral("groupLetterDialog"));
  ask.setWindowTitle(ids.size() == 1 ? tr("Letter") : tr("Letter to %1 athletes").arg(ids.size()));
  ask.resize(textPx(520), textPx(360));
  auto* column = new QVBoxLayout(&ask);
  auto* subject = new QLineEdit;
  subject->setPlaceholderText(tr("Subject"));
  auto* text = new QPlainTextEdit;
  text->setPlaceholderText(
      tr("What you want to tell them. Greeting and signature are added; each gets a letter of their own."));
  column->addWidget(subject);
  column->addWidget(text, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
  buttons->addButton(tr("Into the outbox"), QDialogButtonBox::AcceptRole);
  connect(buttons, &QDialogButtonBox::accepted, &ask, [&] {
    if (!subject->text().trimmed().isEmpty() && !text->toPlainText().trimmed().isEmpty()) ask.accept();
  });
  connect(buttons, &QDialogButtonBox::rejected, &ask, &QDialog::reject);
  column->addWidget(buttons);
  if (ask.exec() == QDialog::Accepted) writeToChosen(subject->text(), text->toPlainText());
}

void RosterPage::keyPressEvent(QKeyEvent* event) {
  if (event->key() != Qt::Key_Escape) return QWidget::keyPressEvent(event);
  if (!find_->text().isEmpty()) return find_->clear();
  emit leaveRequested();
}

void RosterPage::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
}

}  // namespace jib::desk
