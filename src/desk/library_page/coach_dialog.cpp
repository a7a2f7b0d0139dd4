// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/coach_dialog.h"

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDir>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QProcess>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QSpinBox>
#include <QTabWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "core/coaching/style_book.h"
#include "core/library/backup.h"
#include "core/library/dates.h"
#include "core/library/rename_coach.h"
#include "core/review/coaching_file.h"
#include "desk/library_page/colleagues_card.h"
#include "desk/library_page/gym_plates.h"
#include "desk/library_page/take_over_dialog.h"
#include "desk/library_page/watched_folders.h"
#include "desk/seat.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/units.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// "Squat", "Bench press"; of a topic that concerns more than one lift "All lifts".
QString headOf(const coaching::Topic& topic) {
  if (topic.lifts.size() != 1) return CoachDialog::tr("All lifts");
  QString title = q(lifts::definition(topic.lifts.front()).title);
  title[0] = title[0].toUpper();
  return title;
}

}  // namespace

CoachDialog::CoachDialog(library::Library& library, QWidget* parent) : QDialog(parent), library_(library) {
  setObjectName(QStringLiteral("coachDialog"));
  setWindowTitle(tr("Settings"));
  setMinimumWidth(440);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  tabs_ = new QTabWidget;
  tabs_->setObjectName(QStringLiteral("settingsTabs"));
  tabs_->setDocumentMode(true);
  column->addWidget(tabs_, 1);
  const auto card = library.coach().value_or(library::CoachCard{});
  const auto page = [this](const QString& title) -> QVBoxLayout& {
    auto* inside = new QWidget;
    tabs_->addTab(inside, title);
    auto* inner = new QVBoxLayout(inside);
    inner->setContentsMargins(4, 12, 4, 8);
    return *inner;
  };
  buildYou(page(tr("You")), card);
  colleagues_ = new ColleaguesCard(card, library.signer().value_or(card).name);
  connect(name_, &QLineEdit::textChanged, colleagues_, &ColleaguesCard::setOwner);
  page(tr("Coaches")).addWidget(colleagues_);
  buildDesk(page(tr("Desk")));
  buildFolders(page(tr("Clips")), card);
  buildCoaching(page(tr("Coaching")), card);
  buildBackup(page(tr("Backup")));
  trouble_ = words({});
  trouble_->setObjectName(QStringLiteral("coachTold"));
  setTone(trouble_, "bad");
  trouble_->hide();
  column->addWidget(trouble_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Save | QDialogButtonBox::Cancel);
  connect(buttons, &QDialogButtonBox::accepted, this, &CoachDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
}

void CoachDialog::buildYou(QVBoxLayout& column, const library::CoachCard& card) {
  auto* form = new QFormLayout;
  name_ = new QLineEdit(QString::fromStdString(card.name));
  name_->setObjectName(QStringLiteral("coachName"));
  address_ = new QLineEdit(QString::fromStdString(card.address));
  address_->setObjectName(QStringLiteral("coachAddress"));
  form->addRow(tr("Name"), name_);
  form->addRow(tr("Address"), address_);
  signature_ = new QPlainTextEdit(q(card.signature));
  signature_->setObjectName(QStringLiteral("coachSignature"));
  signature_->setTabChangesFocus(true);
  signature_->setPlaceholderText(tr("Club, phone, when you answer…"));
  signature_->setToolTip(tr("Stands under your name in every letter"));
  signature_->setFixedHeight(textPx(58));
  form->addRow(tr("Signature"), signature_);
  column.addLayout(form);
  receipts_ = new QCheckBox(tr("Put a receipt for every clip in the outbox"));
  receipts_->setObjectName(QStringLiteral("sendReceipts"));
  receipts_->setChecked(card.send_receipts);
  column.addWidget(receipts_);
  column.addWidget(words(tr("You can change the wording of letters and filming requests: save your own copy as %1, "
                            "or as requests/squat.toml, topics.toml or styles/name.toml beside it.")
                             .arg(QString::fromStdString((library_.folder() / "letters.toml").string())),
                         true));
  column.addStretch();
}

// What the reply's clip is like.
void CoachDialog::addFilm(QFormLayout& form) {
  film_shape_ = new QComboBox;
  film_shape_->setObjectName(QStringLiteral("filmShape"));
  film_shape_->addItem(tr("upright, for phones"), static_cast<int>(review::FilmShape::Portrait));
  film_shape_->addItem(tr("landscape"), static_cast<int>(review::FilmShape::Landscape));
  film_shape_->addItem(tr("square"), static_cast<int>(review::FilmShape::Square));
  film_shape_->setCurrentIndex(film_shape_->findData(static_cast<int>(keptFilmShape())));
  form.addRow(tr("Reply clip"), film_shape_);
  second_ = new QCheckBox(tr("second camera in a corner"));
  second_->setObjectName(QStringLiteral("secondInCorner"));
  second_->setChecked(keptSecondInCorner());
  form.addRow(QString(), second_);
  own_sound_ = new QComboBox;
  own_sound_->setObjectName(QStringLiteral("ownSound"));
  own_sound_->addItem(tr("off"), static_cast<int>(review::OwnSound::Off));
  own_sound_->addItem(tr("low"), static_cast<int>(review::OwnSound::Low));
  own_sound_->addItem(tr("full"), static_cast<int>(review::OwnSound::Full));
  own_sound_->setToolTip(tr("When you talk over a clip, where it plays at normal speed"));
  own_sound_->setCurrentIndex(own_sound_->findData(static_cast<int>(keptOwnSound())));
  form.addRow(tr("Gym sound"), own_sound_);
  most_mb_ = new QSpinBox;
  most_mb_->setObjectName(QStringLiteral("mostMb"));
  most_mb_->setRange(0, 500);
  most_mb_->setSpecialValueText(tr("any size"));
  most_mb_->setSuffix(tr(" MB"));
  most_mb_->setToolTip(tr("Clip and page of a reply together, as your mail or chat allows; 20 suits most"));
  most_mb_->setValue(static_cast<int>(keptMostMb().value_or(0)));
  form.addRow(tr("Replies up to"), most_mb_);
}

void CoachDialog::buildDesk(QVBoxLayout& column) {
  auto* form = new QFormLayout;
  mass_unit_ = new QComboBox;
  mass_unit_->setObjectName(QStringLiteral("massUnit"));
  mass_unit_->addItem(tr("100 kg (220 lb)"));
  mass_unit_->addItem(tr("220 lb (100 kg)"));
  mass_unit_->addItem(tr("kg only"));
  mass_unit_->addItem(tr("lb only"));
  mass_unit_->setCurrentIndex((displayUnits().mass == MassUnit::Pounds ? 1 : 0) + (displayUnits().one_only ? 2 : 0));
  length_unit_ = new QComboBox;
  length_unit_->setObjectName(QStringLiteral("lengthUnit"));
  length_unit_->addItem(tr("centimeters"));
  length_unit_->addItem(tr("inches"));
  length_unit_->setCurrentIndex(displayUnits().length == LengthUnit::Inches ? 1 : 0);
  form->addRow(tr("Loads"), mass_unit_);
  form->addRow(tr("Lengths"), length_unit_);
  spelling_ = new QComboBox;
  spelling_->setObjectName(QStringLiteral("spelling"));
  spelling_->addItem(tr("American"), static_cast<int>(Spelling::American));
  spelling_->addItem(tr("British"), static_cast<int>(Spelling::British));
  spelling_->setToolTip(tr("Here and in replies, from the next start on. What you typed yourself stays as it is."));
  spelling_->setCurrentIndex(spelling_->findData(static_cast<int>(keptSpelling())));
  form->addRow(tr("Spelling"), spelling_);
  addFilm(*form);
  text_size_ = new QDoubleSpinBox;
  text_size_->setObjectName(QStringLiteral("textSize"));
  text_size_->setRange(kLeastText_pt, kMostText_pt);
  text_size_->setDecimals(1);
  text_size_->setSingleStep(0.5);
  text_size_->setSuffix(tr(" pt"));
  text_size_->setToolTip(tr("%1 pt is typical").arg(kUsualText_pt));
  text_size_->setValue(textSize_pt());
  form->addRow(tr("Text"), text_size_);
  column.addLayout(form);
  first_look_ = new QCheckBox(tr("First look: open new clips without lines or numbers"));
  first_look_->setObjectName(QStringLiteral("firstLookSetting"));
  first_look_->setChecked(QSettings().value(QStringLiteral("firstLook"), false).toBool());
  column.addWidget(first_look_);
  column.addWidget(heading(tr("Plates on your rack")));
  column.addWidget(words(tr("Only these are offered when you count a bar on the picture."), true));
  plates_ = new GymPlates;
  column.addWidget(plates_);
  column.addStretch();
}

void CoachDialog::buildFolders(QVBoxLayout& column, const library::CoachCard& card) {
  column.addWidget(heading(tr("Folders watched for new clips")));
  column.addWidget(
      words(tr("Clips saved there join the queue on their own and stay where they are. A folder inside that is "
               "named after an athlete says whose it is."),
            true));
  folders_ = new QListWidget;
  folders_->setObjectName(QStringLiteral("watchedFolders"));
  folders_->setAccessibleName(tr("Folders watched for new clips"));
  folders_->addItems(WatchList(library_.folder()).folders());
  auto* add = new QPushButton(tr("Add…"));
  add->setObjectName(QStringLiteral("watchFolder"));
  add->setToolTip(tr("Only clips that arrive from now on are added"));
  connect(add, &QPushButton::clicked, this, [this] {
    watchFolder(QFileDialog::getExistingDirectory(this, tr("Which folder do clips arrive in?"), QDir::homePath()));
  });
  auto* remove = new QPushButton(tr("Remove"));
  remove->setObjectName(QStringLiteral("unwatchFolder"));
  remove->setToolTip(tr("Stop watching this folder; clips from it stay in the queue"));
  remove->setEnabled(false);
  connect(folders_, &QListWidget::itemSelectionChanged, remove,
          [this, remove] { remove->setEnabled(!folders_->selectedItems().isEmpty()); });
  connect(remove, &QPushButton::clicked, this, [this] { qDeleteAll(folders_->selectedItems()); });
  auto* row = new QHBoxLayout;
  row->addWidget(folders_, 1);
  auto* buttons = new QVBoxLayout;
  buttons->addWidget(add);
  buttons->addWidget(remove);
  buttons->addStretch();
  row->addLayout(buttons);
  column.addLayout(row);
  column.addWidget(heading(tr("How long clips are kept")));
  keep_films_ = new QComboBox;
  keep_films_->setObjectName(QStringLiteral("keepFilms"));
  keep_films_->setAccessibleName(tr("How long clips are kept"));
  keep_films_->addItem(tr("until I delete them"), 0);
  for (const int months : {3, 6, 12, 24, 36}) keep_films_->addItem(tr("%1 months").arg(months), months);
  if (keep_films_->findData(card.keep_films_months) < 0)
    keep_films_->addItem(tr("%1 months").arg(card.keep_films_months), card.keep_films_months);
  keep_films_->setCurrentIndex(keep_films_->findData(card.keep_films_months));
  column.addWidget(keep_films_);
  column.addWidget(words(tr("Older clips that are answered are listed for you, as are those of athletes whose consent "
                            "has run out. Nothing is deleted until you say so, and the numbers stay."),
                         true));
}

void CoachDialog::watchFolder(const QString& folder) {
  if (folder.isEmpty() || !folders_->findItems(folder, Qt::MatchExactly).isEmpty()) return;
  const auto own = std::filesystem::weakly_canonical(library_.folder());
  const auto asked = std::filesystem::weakly_canonical(folder.toStdString());
  // Whatever the library keeps would come in again and again.
  if (asked == own || asked.string().starts_with(own.string() + '/') || own.string().starts_with(asked.string() + '/'))
    return tell(tr("The library itself is in there. Choose the folder new clips are saved to."), true);
  folders_->addItem(folder);
  trouble_->hide();
}

void CoachDialog::buildCoaching(QVBoxLayout& column, const library::CoachCard& card) {
  column.addWidget(heading(tr("How you coach")));
  column.addWidget(words(tr("Unless you choose otherwise for an athlete."), true));
  auto* judging = new QFormLayout;
  styles_ = new QComboBox;
  styles_->setObjectName(QStringLiteral("coachStyle"));
  styles_->setToolTip(tr("Default for new athletes"));
  judging->addRow(tr("Style"), styles_);
  if (auto book = coaching::StyleBook::forLibrary(library_.folder())) {
    for (const auto& style : book->styles())
      styles_->addItem(QString::fromStdString(style.title), QString::fromStdString(style.id));
    styles_->setCurrentIndex(std::max(0, styles_->findData(QString::fromStdString(card.style))));
    // Those of one lift stand together, under its name; those of several first.
    std::vector<const coaching::Topic*> topics;
    for (const auto& topic : book->topics().all()) topics.push_back(&topic);
    const auto place = [](const coaching::Topic* t) {
      return t->lifts.size() == 1 ? static_cast<int>(t->lifts[0]) : -1;
    };
    std::stable_sort(topics.begin(), topics.end(), [&](const auto* a, const auto* b) { return place(a) < place(b); });
    QString head;
    for (const coaching::Topic* one : topics) {
      const coaching::Topic& topic = *one;
      if (head != headOf(topic)) judging->addRow(words(head = headOf(topic), true));
      auto* box = new QComboBox;
      box->setObjectName(QStringLiteral("coachTopic_") + QString::fromStdString(topic.id));
      box->setToolTip(QString::fromStdString(topic.about));
      // A long choice is cut, and the page stays as wide as it is.
      box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
      box->setMinimumContentsLength(16);
      box->addItem(tr("as in the style"), QString());
      for (const auto& choice : topic.choices)
        box->addItem(QString::fromStdString(choice.title), QString::fromStdString(choice.id));
      if (const auto own = card.switches.find(topic.id); own != card.switches.end())
        box->setCurrentIndex(std::max(0, box->findData(QString::fromStdString(own->second))));
      judging->addRow(QString::fromStdString(topic.title), box);
      topics_[topic.id] = box;
    }
    for (const auto& trouble : book->troubles()) {
      auto* line = words(QString::fromStdString(trouble));
      setTone(line, "warn");
      judging->addRow(line);
    }
  }
  // Longer than a small screen is high.
  constexpr int kHigh = 340;
  auto* content = new QWidget;
  content->setLayout(judging);
  judging->setContentsMargins(0, 0, 8, 0);
  auto* scroll = new QScrollArea;
  scroll->setObjectName(QStringLiteral("judging"));
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setMinimumHeight(kHigh);
  scroll->setWidget(content);
  column.addWidget(scroll, 1);
  buildHandOn(column);
}

void CoachDialog::buildHandOn(QVBoxLayout& column) {
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
  };
  button(tr("Export how I coach…"), "exportCoaching",
         tr("Your cues, limits, rules, letters and sides in one file for another coach; nothing of your athletes"),
         [this] {
           const QString file = QFileDialog::getSaveFileName(this, tr("Export how you coach"),
                                                             QDir::homePath() + QStringLiteral("/how-i-coach.toml"),
                                                             tr("Coaching (*.toml)"));
           if (!file.isEmpty()) exportCoaching(file);
         });
  button(tr("Import from another coach…"), "importCoaching", tr("You see what's in it and tick what you want"), [this] {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Which file?"), QDir::homePath(), tr("Coaching (*.toml)"));
    if (!file.isEmpty()) importCoaching(file);
  });
  row->addStretch();
  column.addLayout(row);
}

void CoachDialog::exportCoaching(const QString& file) {
  const auto coaching = review::coachingOf(library_, library::today());
  if (!coaching) return tell(QString::fromStdString(coaching.error().sentence()), true);
  if (auto written = writeWhole(FileSystem::real(), file.toStdString(), review::coachingToToml(*coaching)); !written)
    return tell(QString::fromStdString(written.error().sentence()), true);
  tell(tr("Exported: %1").arg(file), false);
}

void CoachDialog::importCoaching(const QString& file) {
  auto coaching = review::readCoaching(file.toStdString());
  if (!coaching) return tell(QString::fromStdString(coaching.error().sentence()), true);
  TakeOverDialog dialog(library_, *coaching, this);
  if (dialog.exec() != QDialog::Accepted) return;
  // What is shown here is saved with the rest, and must not bring back the old sides.
  if (dialog.tookSides())
    for (const auto& [topic, choice] : coaching->sides)
      if (const auto box = topics_.find(topic); box != topics_.end())
        box->second->setCurrentIndex(std::max(0, box->second->findData(QString::fromStdString(choice))));
  tell(tr("Imported. It counts for every clip you open from now on."), false);
}

void CoachDialog::buildBackup(QVBoxLayout& column) {
  column.addWidget(
      words(tr("The whole library in one zip file: athletes, clips, reviews and letters. A backup is restored "
               "into an empty folder; this library stays as it is."),
            true));
  auto* keeping = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, const QString& tip, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    keeping->addWidget(b);
  };
  button(tr("Back up…"), "backUp", tr("The whole library into one zip file, read back and checked"), [this] {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Back up the library"),
                                     QDir::homePath() + QStringLiteral("/jagged-jib-") +
                                         QString::fromStdString(library::today()) + QStringLiteral(".zip"),
                                     tr("Backups (*.zip)"));
    if (!file.isEmpty()) backUpTo(file);
  });
  button(tr("Restore…"), "restore", tr("Restores a backup into an empty folder; this library stays as it is"), [this] {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Which backup?"), QDir::homePath(), tr("Backups (*.zip)"));
    if (file.isEmpty()) return;
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Into which empty folder?"), QDir::homePath());
    if (!folder.isEmpty()) restoreInto(file, folder);
  });
  keeping->addStretch();
  column.addLayout(keeping);
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  progress_->hide();
  cancel_ = new QPushButton(tr("Cancel"));
  cancel_->hide();
  connect(cancel_, &QPushButton::clicked, this, [this] {
    jobs_.cancel();
    tell(tr("Stopped. Nothing half-done was saved."), false);
  });
  auto* going = new QHBoxLayout;
  going->addWidget(progress_, 1);
  going->addWidget(cancel_);
  column.addLayout(going);
  column.addStretch();
  connect(&jobs_, &JobRunner::started, this, [this] {
    progress_->setValue(0);
    progress_->show();
    cancel_->show();
  });
  connect(&jobs_, &JobRunner::refused, this, [this](const QString&, const QString& running) {
    tell(tr("%1 Wait until it is done, or stop it first.").arg(running), true);
  });
  connect(&jobs_, &JobRunner::progressed, this, [this](double f) { progress_->setValue(static_cast<int>(1000 * f)); });
  connect(&jobs_, &JobRunner::finished, this, [this] {
    progress_->hide();
    cancel_->hide();
  });
}

bool CoachDialog::isAddress(const QString& text) {
  const QString address = text.trimmed();
  const auto at = address.indexOf(QLatin1Char('@'));
  return at >= 1 && at + 1 < address.size() && !address.contains(QLatin1Char(' '));
}

void CoachDialog::accept() {
  const auto complain = [this](const QString& sentence) {
    trouble_->setText(sentence);
    trouble_->show();
  };
  const QString address = address_->text().trimmed();
  if (!isAddress(address) && !(address.isEmpty() && name_->text().trimmed().isEmpty())) {
    tabs_->setCurrentIndex(0);
    address_->setFocus();
    return complain(tr("Enter a valid address (name@example.org) so replies reach you."));
  }
  if (const QString wrong = colleagues_->trouble(); !wrong.isEmpty()) {
    tabs_->setCurrentIndex(1);
    return complain(wrong);
  }
  // What is not shown here stays as it is.
  auto card = library_.coach().value_or(library::CoachCard{});
  card.switches.clear();
  card.name = name_->text().simplified().toStdString();
  card.address = address.toStdString();
  card.send_receipts = receipts_->isChecked();
  card.signature = signature_->toPlainText().trimmed().toStdString();
  card.style = styles_->currentData().toString().toStdString();
  card.keep_films_months = keep_films_->currentData().toInt();
  colleagues_->into(card);
  for (const auto& [topic, box] : topics_)
    if (const auto choice = box->currentData().toString(); !choice.isEmpty())
      card.switches[topic] = choice.toStdString();
  if (card.style.empty()) card.style = "balanced";
  auto kept = library_.setCoach(card);
  if (!kept) return complain(QString::fromStdString(kept.error().sentence()));
  for (const auto& [was, now] : colleagues_->renamed())
    if (auto done = library::renameCoach(library_, was, now); !done)
      return complain(QString::fromStdString(done.error().sentence()));
  keepSeat(library_, colleagues_->seat());
  keepUnits({mass_unit_->currentIndex() % 2 == 1 ? MassUnit::Pounds : MassUnit::Kilograms,
             length_unit_->currentIndex() == 1 ? LengthUnit::Inches : LengthUnit::Centimetres,
             mass_unit_->currentIndex() >= 2});
  keepSpelling(static_cast<Spelling>(spelling_->currentData().toInt()));
  keepFilmShape(static_cast<review::FilmShape>(film_shape_->currentData().toInt()));
  keepSecondInCorner(second_->isChecked());
  keepOwnSound(static_cast<review::OwnSound>(own_sound_->currentData().toInt()));
  keepMostMb(most_mb_->value() > 0 ? std::optional<double>(most_mb_->value()) : std::nullopt);
  QSettings().setValue(QStringLiteral("firstLook"), first_look_->isChecked());
  plates_->keep();
  QStringList folders;
  for (int i = 0; i < folders_->count(); ++i) folders << folders_->item(i)->text();
  WatchList(library_.folder()).keep(folders);
  if (text_size_->value() != textSize_pt()) {
    keepTextSize(text_size_->value());
    applyTheme(*qApp, themeInForce());
  }
  QDialog::accept();
}

void CoachDialog::tell(const QString& sentence, bool is_trouble) {
  trouble_->setText(sentence);
  setTone(trouble_, is_trouble ? "bad" : "good");
  trouble_->show();
}

void CoachDialog::backUpTo(const QString& file) {
  const auto folder = library_.folder();
  const std::filesystem::path to = file.toStdString();
  jobs_.start<library::BackupSummary>(
      tr("Backing up…"),
      [folder, to](Task& task) -> Result<library::BackupSummary> {
        auto lib = library::Library::openAgain(folder);
        if (!lib) return fail(lib.error());
        return library::backUp(*lib, to, task);
      },
      [this, file](Result<library::BackupSummary> done) {
        if (!done) return tell(QString::fromStdString(done.error().sentence()), true);
        if (!done->missing.empty()) {
          QStringList lost;
          for (const std::string& one : done->missing) lost << QString::fromStdString(one);
          return tell(tr("Backed up to %1, but files are missing from the library: %2. Look for them in an older "
                         "backup, or ask for "
                         "the films again. %3")
                          .arg(file)
                          .arg(lost.size())
                          .arg(lost.mid(0, 5).join(QLatin1Char(' '))),
                      true);
        }
        tell(tr("Backed up: %1 files, %2 MB, read back and complete. %3")
                 .arg(done->files)
                 .arg(static_cast<double>(done->bytes) / 1e6, 0, 'f', 1)
                 .arg(file),
             false);
      });
}

void CoachDialog::restoreInto(const QString& file, const QString& folder) {
  const std::filesystem::path from = file.toStdString(), to = folder.toStdString();
  jobs_.start<library::BackupSummary>(
      tr("Restoring…"), [from, to](Task& task) { return library::restore(from, to, task); },
      [this, folder](Result<library::BackupSummary> done) {
        if (!done) return tell(QString::fromStdString(done.error().sentence()), true);
        // A library is a window's for its whole life: the restored one gets a window of its own.
        QProcess::startDetached(QCoreApplication::applicationFilePath(), {QStringLiteral("--library"), folder});
        tell(tr("Restored and checked: %1 files. It opens in its own window.").arg(done->files), false);
      });
}

}  // namespace jib::desk
