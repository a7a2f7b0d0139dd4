// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/book_dialog.h"

#include <QAction>
#include <QDialogButtonBox>
#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "core/base/files.h"
#include "core/library/book_file.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/deed.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

using Said = library::Library::SaidBefore;

enum Column { Title, Wording, Times, Helped, Last, MostTo, Columns };

}  // namespace

BookDialog::BookDialog(library::Library& library, QWidget* parent) : QDialog(parent), library_(library) {
  setObjectName(QStringLiteral("bookDialog"));
  setWindowTitle(tr("Your own cues"));
  resize(textPx(900), textPx(600));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  find_ = new QLineEdit;
  find_->setObjectName(QStringLiteral("bookFind"));
  find_->setPlaceholderText(tr("find a word, a drill, an athlete"));
  find_->setClearButtonEnabled(true);
  connect(find_, &QLineEdit::textChanged, this, &BookDialog::filter);
  column->addWidget(find_);
  table_ = new QTableWidget(0, Columns);
  table_->setObjectName(QStringLiteral("bookTable"));
  table_->setHorizontalHeaderLabels(
      {tr("About"), tr("In your words"), tr("Said"), tr("Helped"), tr("Last said"), tr("Most often to")});
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setAlternatingRowColors(true);
  table_->setTabKeyNavigation(false);
  table_->verticalHeader()->hide();
  keepSized(table_, [this] { table_->verticalHeader()->setDefaultSectionSize(textPx(26)); });
  table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(Wording, QHeaderView::Stretch);
  connect(table_, &QTableWidget::currentCellChanged, this, [this] { showChosen(); });
  column->addWidget(table_, 1);
  column->addWidget(buildEditing());
  told_ = words({}, true);
  told_->setObjectName(QStringLiteral("bookTold"));
  column->addWidget(told_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  auto* out = buttons->addButton(tr("Export…"), QDialogButtonBox::ActionRole);
  out->setToolTip(tr("The whole book as a TOML file"));
  out->setAutoDefault(false);
  connect(out, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Export your own cues"), QDir::homePath() + QStringLiteral("/own-cues.toml"), tr("TOML (*.toml)"));
    if (file.isEmpty()) return;
    if (auto done = exportTo(file.toStdString()); !done) return tell(q(done.error().sentence()), true);
    tell(tr("Exported: %1").arg(file), false);
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  for (const auto& [keys, run] :
       {std::pair<QKeySequence, void (QUndoStack::*)()>{QKeySequence::Undo, &QUndoStack::undo},
        {QKeySequence::Redo, &QUndoStack::redo}}) {
    auto* action = new QAction(this);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, &undo_, run);
    addAction(action);
  }
  reload();
}

QWidget* BookDialog::buildEditing() {
  auto* box = new QWidget;
  auto* form = new QFormLayout(box);
  form->setContentsMargins(0, 4, 0, 0);
  const auto field = [&](const char* name, const QString& title) {
    auto* edit = new QPlainTextEdit;
    edit->setObjectName(QString::fromLatin1(name));
    edit->setTabChangesFocus(true);
    keepSized(edit, [edit] { edit->setFixedHeight(textPx(52)); });
    form->addRow(title, edit);
    return edit;
  };
  wording_ = field("bookWording", tr("Words"));
  drill_ = field("bookDrill", tr("Drill"));
  auto* row = new QHBoxLayout;
  const auto button = [&](const char* name, const QString& tip, void (BookDialog::*run)()) {
    auto* b = new QPushButton;
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
    return b;
  };
  keep_ = button("bookKeep", tr("Offered like this from now on; sent replies stay as they were"), &BookDialog::keep);
  keep_->setText(tr("Save"));
  put_away_ = button("bookPutAway", tr("No longer offered until you bring it back"), &BookDialog::putAway);
  row->addStretch();
  form->addRow(QString(), row);
  for (auto* edit : {wording_, drill_})
    connect(edit, &QPlainTextEdit::textChanged, this, [this] {
      const auto* said = chosen();
      keep_->setEnabled(said && !wording_->toPlainText().trimmed().isEmpty() &&
                        (wording_->toPlainText() != q(said->wording) || drill_->toPlainText() != q(said->drill)));
    });
  return box;
}

void BookDialog::reload() {
  const int at = std::max(0, table_->currentRow());
  auto book = library_.book();
  if (!book) return tell(q(book.error().sentence()), true);
  book_ = std::move(*book);
  table_->setRowCount(static_cast<int>(book_.size()));
  for (std::size_t i = 0; i < book_.size(); ++i) {
    const Said& said = book_[i];
    const QString cells[Columns] = {q(said.title),
                                    q(said.wording).simplified(),
                                    QString::number(said.times),
                                    QString::number(said.helped),
                                    q(library::spoken(said.last_on)),
                                    q(said.most_to)};
    for (int c = 0; c < Columns; ++c) {
      auto* item = new QTableWidgetItem(cells[c]);
      if (c == Times || c == Helped) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      if (said.put_away) item->setForeground(colours().faint);
      if (said.put_away && c == Wording) item->setText(tr("(hidden) %1").arg(cells[c]));
      item->setToolTip(c == Wording && !said.drill.empty() ? tr("Drill: %1").arg(q(said.drill)) : QString());
      table_->setItem(static_cast<int>(i), c, item);
    }
  }
  filter(find_->text());
  if (!book_.empty()) table_->setCurrentCell(std::min(at, static_cast<int>(book_.size()) - 1), Wording);
  showChosen();
  if (book_.empty()) tell(tr("Nothing here yet. Every cue you send is collected here."), false);
}

void BookDialog::filter(const QString& wanted) {
  for (std::size_t i = 0; i < book_.size(); ++i) {
    const Said& said = book_[i];
    const QString all = q(said.title + " " + said.wording + " " + said.drill + " " + said.most_to);
    table_->setRowHidden(static_cast<int>(i), !all.contains(wanted.trimmed(), Qt::CaseInsensitive));
  }
}

const Said* BookDialog::chosen() const {
  const int row = table_->currentRow();
  return row >= 0 && row < static_cast<int>(book_.size()) ? &book_[static_cast<std::size_t>(row)] : nullptr;
}

void BookDialog::showChosen() {
  const Said* said = chosen();
  for (auto* edit : {wording_, drill_}) edit->setEnabled(said != nullptr);
  wording_->setPlainText(said ? q(said->wording) : QString());
  drill_->setPlainText(said ? q(said->drill) : QString());
  keep_->setEnabled(false);
  put_away_->setEnabled(said != nullptr);
  put_away_->setText(said && said->put_away ? tr("Offer it again") : tr("Hide"));
}

void BookDialog::keep() {
  const Said* said = chosen();
  if (!said) return;
  Said to = *said;
  to.wording = wording_->toPlainText().trimmed().toStdString();
  to.drill = drill_->toPlainText().trimmed().toStdString();
  change(tr("reword a cue"), *said, to);
}

void BookDialog::putAway() {
  const Said* said = chosen();
  if (!said) return;
  Said to = *said;
  to.put_away = !to.put_away;
  change(to.put_away ? tr("hide a cue") : tr("offer a cue again"), *said, to);
}

void BookDialog::change(const QString& text, const Said& was, const Said& to) {
  const auto set = [this](const Said& entry) {
    if (auto kept = library_.setBookEntry(entry); !kept) return tell(q(kept.error().sentence()), true);
    reload();
  };
  undo_.push(new Deed(
      text, [set, to] { set(to); }, [set, was] { set(was); }));
  tell(tr("Saved. Ctrl+Z undoes it."), false);
}

Result<bool> BookDialog::exportTo(const std::filesystem::path& file) const {
  return writeWhole(FileSystem::real(), file, library::bookToToml(book_));
}

void BookDialog::tell(const QString& sentence, bool is_trouble) {
  told_->setText(sentence);
  setTone(told_, is_trouble ? "bad" : "");
}

}  // namespace jib::desk
