// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/drills_dialog.h"

#include <QCheckBox>
#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QImageReader>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"
#include "drawing/drill_picture.h"

namespace jib::desk {
namespace {

std::string textOf(const QPlainTextEdit& edit) {
  return edit.toPlainText().simplified().toStdString();
}

QString commaList(const std::vector<std::string>& words) {
  QStringList all;
  for (const std::string& word : words) all << q(word);
  return all.join(QStringLiteral(", "));
}

}  // namespace

DrillsDialog::DrillsDialog(std::filesystem::path library, QWidget* parent)
    : QDialog(parent), library_(std::move(library)) {
  setObjectName(QStringLiteral("drillsDialog"));
  setWindowTitle(tr("Drill cards"));
  resize(textPx(880), textPx(600));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->addWidget(
      words(tr("A card goes out with a reply when the cue's drill says one of its words: setup, how much, "
               "what must not happen, and a picture."),
            true));
  auto* row = new QHBoxLayout;
  list_ = new QListWidget;
  list_->setObjectName(QStringLiteral("drillList"));
  list_->setAccessibleName(tr("Drill cards"));
  fixTextWidth(list_, 270);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  connect(list_, &QListWidget::currentRowChanged, this, [this](int at) {
    if (at >= 0) showCard(book_.cards()[static_cast<std::size_t>(at)]);
  });
  row->addWidget(list_);
  row->addWidget(buildForm(), 1);
  column->addLayout(row, 1);
  told_ = words({}, true);
  told_->setObjectName(QStringLiteral("drillTold"));
  column->addWidget(told_);
  addButtons(*column);
  reload({});
}

QWidget* DrillsDialog::buildForm() {
  auto* box = new QWidget;
  auto* form = new QFormLayout(box);
  form->setContentsMargins(8, 0, 0, 0);
  const auto line = [&](const QString& title, const char* name, const QString& tip) {
    auto* edit = new QLineEdit;
    edit->setObjectName(QString::fromLatin1(name));
    edit->setToolTip(tip);
    form->addRow(title, edit);
    return edit;
  };
  const auto text = [&](const QString& title, const char* name) {
    auto* edit = new QPlainTextEdit;
    edit->setObjectName(QString::fromLatin1(name));
    edit->setTabChangesFocus(true);
    keepSized(edit, [edit] { edit->setFixedHeight(textPx(60)); });
    form->addRow(title, edit);
    return edit;
  };
  title_ = line(tr("Drill"), "drillTitle", tr("As the athlete knows it"));
  auto* row = new QHBoxLayout;
  for (const auto& lift : lifts::allLifts()) {
    auto*& box_of = lifts_[lifts::at(lift.id)];
    box_of = new QCheckBox(q(lift.title));
    box_of->setObjectName(QStringLiteral("drillLift_") + q(lift.name));
    row->addWidget(box_of);
  }
  row->addStretch();
  form->addRow(tr("For"), row);
  words_ = line(tr("Goes with"), "drillWords", tr("What a cue's drill says, with commas between: “pin squat, pins”"));
  purpose_ = text(tr("What it's for"), "drillPurpose");
  setup_ = text(tr("Setup"), "drillSetup");
  dose_ = text(tr("How much"), "drillDose");
  must_not_ = text(tr("Must not happen"), "drillMustNot");
  addPictureRow(*form);
  return box;
}

void DrillsDialog::addPictureRow(QFormLayout& form) {
  auto* row = new QHBoxLayout;
  picture_ = plainLabel();
  picture_->setObjectName(QStringLiteral("drillPicture"));
  picture_->setAccessibleName(tr("What the card shows"));
  keepSized(picture_, [this] { picture_->setFixedSize(textPx(150), textPx(130)); });
  row->addWidget(picture_);
  auto* buttons = new QVBoxLayout;
  auto* pick = new QPushButton(tr("Your own picture…"));
  pick->setObjectName(QStringLiteral("drillPick"));
  pick->setAutoDefault(false);
  connect(pick, &QPushButton::clicked, this, [this] {
    takePicture(QFileDialog::getOpenFileName(this, tr("A picture for this drill"), QDir::homePath(),
                                             tr("Pictures (*.png *.jpg *.jpeg)")));
  });
  no_picture_ = new QPushButton(tr("Drawn figure"));
  no_picture_->setObjectName(QStringLiteral("drillNoPicture"));
  no_picture_->setAutoDefault(false);
  no_picture_->setToolTip(tr("Drawn with each athlete's own proportions"));
  connect(no_picture_, &QPushButton::clicked, this, [this] {
    jpeg_.clear();
    showPicture();
  });
  buttons->addWidget(pick);
  buttons->addWidget(no_picture_);
  buttons->addStretch();
  row->addLayout(buttons);
  row->addStretch();
  form.addRow(tr("Picture"), row);
}

void DrillsDialog::addButtons(QVBoxLayout& column) {
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, run);
    row->addWidget(b);
    return b;
  };
  button(tr("New card"), "drillNew", [this] { beginNew(); });
  save_ = button(tr("Save"), "drillSave", [this] { save(); });
  give_back_ = button({}, "drillGiveBack", [this] { giveBack(); });
  row->addStretch();
  button(tr("Close"), "drillClose", [this] { reject(); });
  column.addLayout(row);
}

void DrillsDialog::reload(const std::string& then) {
  book_ = coaching::DrillBook::forLibrary(library_);
  {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const auto& card : book_.cards()) {
      auto* item = new QListWidgetItem(card.own ? tr("%1 (yours)").arg(q(card.title)) : q(card.title), list_);
      item->setData(Qt::UserRole, q(card.id));
    }
  }
  if (!book_.trouble().empty()) tell(q(book_.trouble()), true);
  choose(q(then));
}

void DrillsDialog::choose(const QString& id) {
  int at = 0;
  for (int i = 0; i < list_->count(); ++i)
    if (list_->item(i)->data(Qt::UserRole).toString() == id) at = i;
  list_->setCurrentRow(-1);
  list_->setCurrentRow(at);
}

void DrillsDialog::showCard(const coaching::DrillCard& card) {
  shown_ = card;
  told_->setProperty("asked", false);
  title_->setText(q(card.title));
  words_->setText(commaList(card.words));
  purpose_->setPlainText(q(card.purpose));
  setup_->setPlainText(q(card.setup));
  dose_->setPlainText(q(card.dose));
  must_not_->setPlainText(q(card.must_not));
  for (const auto& lift : lifts::allLifts())
    lifts_[lifts::at(lift.id)]->setChecked(std::find(card.lifts.begin(), card.lifts.end(), lift.id) !=
                                           card.lifts.end());
  jpeg_ = card.jpeg;
  showPicture();
  const auto shipped = coaching::DrillBook::shipped();
  const bool ours = shipped && std::any_of(shipped->cards().begin(), shipped->cards().end(),
                                           [&](const auto& c) { return c.id == card.id; });
  give_back_->setText(ours ? tr("Back to the original") : tr("Delete this card"));
  give_back_->setEnabled(card.own);
}

void DrillsDialog::beginNew() {
  {
    const QSignalBlocker quiet(list_);
    list_->setCurrentRow(-1);
  }
  coaching::DrillCard blank;
  blank.posture.bar = coaching::DrillPosture::Bar::None;
  showCard(blank);
  title_->setFocus();
  tell(tr("Name the drill and say which words in a cue it goes with."), false);
}

coaching::DrillCard DrillsDialog::typed() const {
  coaching::DrillCard card = shown_;
  card.title = title_->text().simplified().toStdString();
  card.words.clear();
  for (const QString& word : words_->text().split(QLatin1Char(','), Qt::SkipEmptyParts))
    if (const QString clean = word.simplified().toLower(); !clean.isEmpty()) card.words.push_back(clean.toStdString());
  card.purpose = textOf(*purpose_);
  card.setup = textOf(*setup_);
  card.dose = textOf(*dose_);
  card.must_not = textOf(*must_not_);
  card.lifts.clear();
  for (const auto& lift : lifts::allLifts())
    if (lifts_[lifts::at(lift.id)]->isChecked()) card.lifts.push_back(lift.id);
  card.jpeg = jpeg_;
  return card;
}

bool DrillsDialog::edited() const {
  const coaching::DrillCard now = typed();
  return std::tie(now.title, now.words, now.purpose, now.setup, now.dose, now.must_not, now.lifts, now.jpeg) !=
         std::tie(shown_.title, shown_.words, shown_.purpose, shown_.setup, shown_.dose, shown_.must_not, shown_.lifts,
                  shown_.jpeg);
}

void DrillsDialog::showPicture() {
  coaching::DrillCard card = shown_;
  card.jpeg = jpeg_;
  picture_->setPixmap(QPixmap::fromImage(drawing::drillPicture(card, {}, picture_->size())));
  no_picture_->setEnabled(!jpeg_.empty());
}

void DrillsDialog::takePicture(const QString& file) {
  if (file.isEmpty()) return;
  QImageReader reader(file);
  reader.setAutoTransform(true);
  const std::string jpeg = drawing::cardJpeg(reader.read());
  if (jpeg.empty()) return tell(tr("%1 isn't a picture this program can read. Try a PNG or JPEG.").arg(file), true);
  jpeg_ = jpeg;
  showPicture();
  tell(tr("Press Save to keep it."), false);
}

void DrillsDialog::save() {
  const coaching::DrillCard card = typed();
  if (card.title.empty()) return tell(tr("Give the drill a name."), true);
  if (card.lifts.empty()) return tell(tr("Tick the lifts it's for."), true);
  if (card.words.empty()) return tell(tr("Say which words in a cue's drill it goes with, or it never goes out."), true);
  auto kept = coaching::DrillBook::keep(library_, card);
  if (!kept) return tell(q(kept.error().sentence()), true);
  reload(kept->id);
  tell(tr("Saved. It goes out with the next reply whose drill says “%1”.").arg(q(card.words.front())), false);
}

void DrillsDialog::giveBack() {
  const coaching::DrillCard was = shown_;
  auto done = coaching::DrillBook::giveBack(library_, was.id);
  if (!done) return tell(q(done.error().sentence()), true);
  reload(was.id);
  if (shown_.id != was.id) {
    // What was deleted stands in the form once more, to be saved again if it was a slip.
    coaching::DrillCard again = was;
    again.id.clear();
    again.own = false;
    beginNew();
    showCard(again);
    tell(tr("Deleted. Save brings it back."), false);
  } else {
    tell(tr("This card is as it came with the program again."), false);
  }
}

// What is half typed is not lost to Escape.
void DrillsDialog::reject() {
  if (edited() && !told_->property("asked").toBool()) {
    told_->setProperty("asked", true);
    return tell(tr("You changed this card. Save it, or press Close again to drop the change."), true);
  }
  QDialog::reject();
}

void DrillsDialog::tell(const QString& sentence, bool is_trouble) {
  told_->setText(sentence);
  setTone(told_, is_trouble ? "bad" : "");
}

}  // namespace jib::desk
