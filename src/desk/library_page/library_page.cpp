// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/library_page.h"

#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QProgressBar>
#include <QPushButton>
#include <QShortcut>
#include <QSortFilterProxyModel>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/history_panel.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// Shows the rows of one athlete, or all.
class AthleteFilter : public QSortFilterProxyModel {
 public:
  using QSortFilterProxyModel::QSortFilterProxyModel;
  std::optional<qlonglong> athlete;
  void again() { invalidateFilter(); }

 protected:
  bool filterAcceptsRow(int row, const QModelIndex& parent) const override {
    return !athlete ||
           sourceModel()->index(row, 0, parent).data(SubmissionsModel::AthleteRole).toLongLong() == *athlete;
  }
};

}  // namespace

LibraryPage::LibraryPage(library::Library& library, QWidget* parent)
    : QWidget(parent), library_(library), model_(new SubmissionsModel(this)), proxy_(new AthleteFilter(this)) {
  setObjectName(QStringLiteral("page"));
  setAcceptDrops(true);
  proxy_->setSourceModel(model_);
  buildLayout();
  connect(&jobs_, &JobRunner::progressed, progress_,
          [this](double f) { progress_->setValue(static_cast<int>(1000 * f)); });
  refresh();
}

QWidget* LibraryPage::buildAddRow() {
  auto* card = new QFrame;
  card->setObjectName(QStringLiteral("card"));
  auto* row = new QHBoxLayout(card);
  row->setContentsMargins(10, 6, 10, 6);
  new_athlete_ = new QComboBox;
  new_athlete_->setObjectName(QStringLiteral("newAthlete"));
  new_athlete_->setEditable(true);
  new_athlete_->setMinimumWidth(170);
  new_athlete_->lineEdit()->setPlaceholderText(tr("athlete"));
  new_athlete_->setToolTip(tr("Choose an athlete or write a new name"));
  new_load_ = new QLineEdit;
  new_load_->setObjectName(QStringLiteral("newLoad"));
  new_load_->setPlaceholderText(tr("load, kg"));
  new_load_->setFixedWidth(90);
  new_message_ = new QLineEdit;
  new_message_->setObjectName(QStringLiteral("newMessage"));
  new_message_->setPlaceholderText(tr("what the athlete wrote"));
  auto* choose = new QPushButton(tr("Add a clip…"));
  choose->setObjectName(QStringLiteral("addClip"));
  choose->setToolTip(tr("Copies the clip into the library (or drop it on this page)"));
  connect(choose, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getOpenFileName(this, tr("The clip"), QString(),
                                                      tr("Films (*.mp4 *.mov *.mkv *.webm *.avi);;All files (*)"));
    if (!file.isEmpty()) addClip(file);
  });
  row->addWidget(new_athlete_);
  row->addWidget(new_load_);
  row->addWidget(new_message_, 1);
  row->addWidget(choose);
  return card;
}

void LibraryPage::buildLayout() {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(14, 10, 14, 8);
  column->setSpacing(8);
  auto* title = new QLabel(tr("Submissions"));
  title->setObjectName(QStringLiteral("title"));
  column->addWidget(title);
  column->addWidget(buildAddRow());
  auto* row = new QHBoxLayout;
  row->setSpacing(12);
  athletes_ = new QListWidget;
  athletes_->setObjectName(QStringLiteral("athletes"));
  athletes_->setFixedWidth(190);
  connect(athletes_, &QListWidget::currentRowChanged, this, [this] {
    filter();
    showThreads();
  });
  table_ = new QTableView;
  table_->setObjectName(QStringLiteral("submissions"));
  table_->setModel(proxy_);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setShowGrid(false);
  table_->setAlternatingRowColors(true);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setDefaultSectionSize(30);
  table_->horizontalHeader()->setHighlightSections(false);
  const auto open = [this](const QModelIndex& index) {
    if (index.isValid()) emit openRequested(index.data(SubmissionsModel::IdRole).toLongLong());
  };
  connect(table_, &QTableView::doubleClicked, this, open);
  for (int key : {Qt::Key_Return, Qt::Key_Enter}) {
    auto* enter = new QShortcut(QKeySequence(key), table_);
    enter->setContext(Qt::WidgetShortcut);
    connect(enter, &QShortcut::activated, this, [this, open] { open(table_->currentIndex()); });
  }
  auto* right = new QVBoxLayout;
  history_title_ = heading(tr("Asked before"));
  history_ = new HistoryPanel;
  history_->setFixedWidth(360);
  right->addWidget(history_title_);
  right->addWidget(history_, 1);
  row->addWidget(athletes_);
  row->addWidget(table_, 1);
  row->addLayout(right);
  column->addLayout(row, 1);
  auto* foot = new QHBoxLayout;
  status_ = words(tr("Double click or Return opens a submission."), true);
  status_->setObjectName(QStringLiteral("libraryStatus"));
  auto* review = new QPushButton(tr("Review"));
  review->setObjectName(QStringLiteral("primary"));
  review->setToolTip(tr("Open the chosen submission (Return)"));
  connect(review, &QPushButton::clicked, this, [this, open] { open(table_->currentIndex()); });
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  progress_->setFixedWidth(200);
  progress_->hide();
  foot->addWidget(status_, 1);
  foot->addWidget(progress_);
  foot->addWidget(review);
  column->addLayout(foot);
}

std::optional<library::AthleteId> LibraryPage::chosen() const {
  const auto* item = athletes_->currentItem();
  if (!item || !item->data(Qt::UserRole).isValid()) return std::nullopt;
  return library::AthleteId(item->data(Qt::UserRole).toLongLong());
}

void LibraryPage::chooseAthlete(std::optional<library::AthleteId> id) {
  for (int i = 0; i < athletes_->count(); ++i) {
    const QVariant held = athletes_->item(i)->data(Qt::UserRole);
    if (id ? held.isValid() && held.toLongLong() == id->number : !held.isValid()) athletes_->setCurrentRow(i);
  }
}

void LibraryPage::refresh() {
  auto athletes = library_.athletes();
  auto submissions = library_.submissions();
  if (!athletes || !submissions) {
    status_->setText(QString::fromStdString((athletes ? submissions.error() : athletes.error()).sentence()));
    return;
  }
  const auto was = chosen();
  model_->set(*submissions, *athletes);
  athletes_->blockSignals(true);
  athletes_->clear();
  new_athlete_->clear();
  athletes_->addItem(tr("All athletes"));
  for (const auto& a : *athletes) {
    auto* item = new QListWidgetItem(QString::fromStdString(a.name), athletes_);
    item->setData(Qt::UserRole, QVariant::fromValue<qlonglong>(a.id.number));
    item->setToolTip(QString::fromStdString(a.note));
    new_athlete_->addItem(QString::fromStdString(a.name));
  }
  new_athlete_->setCurrentIndex(-1);
  athletes_->blockSignals(false);
  chooseAthlete(was);
  auto* header = table_->horizontalHeader();
  for (int c = 0; c < SubmissionsModel::Columns; ++c)
    header->setSectionResizeMode(c,
                                 c == SubmissionsModel::Message ? QHeaderView::Stretch : QHeaderView::ResizeToContents);
  if (!table_->currentIndex().isValid() && proxy_->rowCount() > 0) table_->selectRow(0);
  if (submissions->empty())
    status_->setText(tr("No submissions yet: write the athlete's name above and add a clip, or drop one here."));
  showThreads();
}

void LibraryPage::filter() {
  auto* proxy = static_cast<AthleteFilter*>(proxy_);
  const auto id = chosen();
  proxy->athlete = id ? std::optional<qlonglong>(id->number) : std::nullopt;
  proxy->again();
  if (proxy_->rowCount() > 0) table_->selectRow(0);
}

void LibraryPage::showThreads() {
  const auto id = chosen();
  history_->setVisible(id.has_value());
  history_title_->setVisible(id.has_value());
  if (!id) return;
  if (auto threads = library_.threads(*id)) history_->setThreads(*threads);
}

void LibraryPage::addClip(const QString& file) {
  const QString name = new_athlete_->currentText().trimmed();
  if (name.isEmpty()) {
    status_->setText(tr("Write the athlete's name first, then add the clip."));
    new_athlete_->setFocus();
    return;
  }
  library::Submission s;
  s.received_on = library::today();
  s.message = new_message_->text().toStdString();
  bool is_number = false;
  const double load = new_load_->text().replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&is_number);
  if (is_number && load > 0) s.load_kg = load;
  const std::filesystem::path folder = library_.folder(), clip = file.toStdString();
  const std::string athlete_name = name.toStdString();
  progress_->show();
  // A connection of the job's own: SQLite's belong to a thread.
  jobs_.start<library::SubmissionId>(
      tr("Adding the clip…"),
      [folder, clip, s, athlete_name](Task& task) -> Result<library::SubmissionId> {
        auto reader = footage::FrameReader::open(clip);
        if (!reader) return fail(reader.error());
        auto lib = library::Library::open(folder);
        if (!lib) return fail(lib.error());
        auto athletes = lib->athletes();
        if (!athletes) return fail(athletes.error());
        auto submission = s;
        const auto known =
            std::find_if(athletes->begin(), athletes->end(), [&](const auto& a) { return a.name == athlete_name; });
        if (known != athletes->end()) {
          submission.athlete = known->id;
        } else {
          library::Athlete fresh;
          fresh.name = athlete_name;
          auto added = lib->addAthlete(fresh);
          if (!added) return fail(added.error());
          submission.athlete = *added;
        }
        return lib->addSubmission(submission, clip, task);
      },
      [this](Result<library::SubmissionId> added) {
        progress_->hide();
        if (!added) {
          status_->setText(QString::fromStdString(added.error().sentence()));
          return;
        }
        new_message_->clear();
        new_load_->clear();
        status_->setText(tr("Added. Double click or Return opens it."));
        refresh();
      });
}

void LibraryPage::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void LibraryPage::dropEvent(QDropEvent* event) {
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) {
      addClip(url.toLocalFile());
      return;
    }
}

}  // namespace jib::desk
