// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/athlete_panel.h"

#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>

#include "core/base/quantity.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "desk/library_page/load_speed_plot.h"
#include "desk/library_page/namesake_card.h"
#include "desk/library_page/removal_card.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
AthletePanel::AthletePanel(library::Library& library, QWidget* parent) : QScrollArea(parent), library_(library) {
  setObjectName(QStringLiteral("athletePanel"));
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  column_ = new QVBoxLayout(content);
  column_->setContentsMargins(8, 8, 8, 8);
  setWidget(content);
  rebuild();
}

void AthletePanel::show(std::optional<library::AthleteId> id) {
  // What is half typed belongs to the athlete who is shown now: it is kept there before another takes the place.
  if (QWidget* typing = focusWidget(); typing && isAncestorOf(typing) && athlete_) typing->clearFocus();
  // Editors that go away say once more that their editing has finished, of a record that is no longer theirs.
  for (QLineEdit* editor : findChildren<QLineEdit*>()) editor->blockSignals(true);
  athlete_.reset();
  if (id)
    if (auto a = library_.athlete(*id)) athlete_ = *a;
  rebuild();
}

void AthletePanel::rebuild() {
  clearLayout(column_);
  if (!athlete_) {
    column_->addWidget(words(tr("Choose an athlete or a submission; what is known of the athlete stands here."), true));
    column_->addStretch();
    return;
  }
  column_->addWidget(heading(q(athlete_->name)));
  if (library::isMinor(athlete_->profile, library::today()).value_or(false))
    column_->addWidget(
        words(tr("Under 18, as far as the year of birth tells: light, supervised, no maximum testing.")));
  auto* box = new QWidget;
  auto* form = new QFormLayout(box);
  form->setContentsMargins(0, 0, 0, 0);
  form->setVerticalSpacing(4);
  addForm(*form);
  column_->addWidget(box);
  addBuild();
  addLoadSpeed();
  addAddresses();
  addNamesakes();
  addKeeping();
  column_->addStretch();
}

// What an athlete may ask for: all that is kept of them, to take along or to be gone.
void AthletePanel::addKeeping() {
  column_->addSpacing(8);
  auto* out = new QPushButton(tr("Export all of it…"));
  out->setObjectName(QStringLiteral("exportAthlete"));
  out->setToolTip(tr("Clips, messages, reviews, replies and letters, in open formats, for the athlete to keep"));
  connect(out, &QPushButton::clicked, this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Where does the export go?"), QDir::homePath());
    if (!folder.isEmpty()) exportInto(folder);
  });
  column_->addWidget(out, 0, Qt::AlignLeft);
  auto* forget = new QPushButton(tr("Delete this athlete…"));
  forget->setObjectName(QStringLiteral("deleteAthlete"));
  forget->setToolTip(tr("Says first what goes with them"));
  connect(forget, &QPushButton::clicked, this, &AthletePanel::askToDelete);
  column_->addWidget(forget, 0, Qt::AlignLeft);
}

void AthletePanel::exportInto(const QString& folder) {
  if (!athlete_) return;
  const auto library_folder = library_.folder();
  const auto id = athlete_->id;
  const std::filesystem::path to =
      std::filesystem::path(folder.toStdString()) / library::folderNameFor(athlete_->name + " " + library::today());
  jobs_.start<bool>(
      tr("Exporting…"),
      [library_folder, id, to](Task& task) -> Result<bool> {
        auto library = library::Library::open(library_folder);
        if (!library) return fail(library.error());
        return library::exportAthlete(*library, id, to, task);
      },
      [this, to](Result<bool> done) {
        emit said(done ? tr("Exported to %1").arg(q(to.string())) : q(done.error().sentence()));
      });
  emit said(tr("Exporting…"));
}

void AthletePanel::askToDelete() {
  if (!athlete_) return;
  auto removal = library_.removalOf(athlete_->id);
  if (!removal) return emit said(q(removal.error().sentence()));
  auto* card = new RemovalCard(library_, tr("This goes for good:"), std::move(*removal));
  connect(card, &RemovalCard::said, this, &AthletePanel::said);
  connect(card, &RemovalCard::removed, this, [this] {
    emit removed();
    emit said(tr("Deleted. Nothing of them is left in the library."));
    emit changed();
  });
  column_->addWidget(card);
  QTimer::singleShot(0, card, [this, card] { ensureWidgetVisible(card); });
}

void AthletePanel::addForm(QFormLayout& form) {
  const auto line = [&](const QString& title, const char* name, const QString& value, const QString& tip, auto set) {
    auto* edit = new QLineEdit(value);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setPlaceholderText(tr("unknown"));
    edit->setToolTip(tip);
    edit->setCursorPosition(0);  // a long line shows its beginning
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, set, value] {
      if (edit->text() == value) return;
      set(edit->text().simplified());
      save();
    });
    form.addRow(words(title, true), edit);
  };
  auto& a = *athlete_;
  auto& p = a.profile;
  const auto text = [&](const QString& title, const char* name, std::string& field, const QString& tip) {
    line(title, name, q(field), tip, [&field](const QString& v) { field = v.toStdString(); });
  };
  const auto number = [&](const QString& title, const char* name, std::optional<double>& field, const QString& tip) {
    line(title, name, field ? QString::number(*field) : QString(), tip, [&field](QString v) {
      bool is_number = false;
      const double d = v.replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&is_number);
      field = is_number && d > 0 ? std::optional(d) : std::nullopt;
    });
  };
  // Typed in either unit; what is no mass or height leaves what was there.
  const auto quantity = [&](const QString& title, const char* name, std::optional<double>& field, auto read,
                            const QString& tip) {
    line(title, name, field ? QString::number(*field, 'g', 5) : QString(), tip, [this, &field, read](const QString& v) {
      const auto now = read(v.toStdString());
      if (!now && !v.isEmpty())
        return emit said(tr("“%1” is not understood: type it as 102.5, 225 lb, 178 or 5'10.").arg(v));
      field = now;
    });
  };
  const auto kilos = [&](const QString& title, const char* name, std::optional<double>& field) {
    quantity(title, name, field, kilogramsFrom,
             field ? tr("%1 lb").arg(*field * kPoundsPerKilogram, 0, 'f', 0) : tr("In kilograms, or as 225 lb"));
  };
  text(tr("Name"), "athleteName", a.name, tr("As it is written"));
  text(tr("Pronunciation"), "sayName", p.say_name, tr("How the name is pronounced"));
  line(tr("Born"), "birthYear", p.birth_year ? QString::number(*p.birth_year) : QString(),
       tr("Year of birth; under 18 changes what is advised"), [&p](const QString& v) {
         const int year = v.toInt();
         p.birth_year = year > 1900 && year < 2100 ? std::optional(year) : std::nullopt;
       });
  quantity(tr("Height, cm"), "height", p.height_cm, centimetresFrom,
           p.height_cm ? q(feetAndInches(*p.height_cm)) : tr("In centimetres, or as 5'10"));
  kilos(tr("Body mass, kg"), "bodyMass", p.body_mass_kg);
  number(tr("Years of training"), "yearsTraining", p.years_training, tr("With a barbell"));
  for (const auto& lift : lifts::allLifts())
    kilos(tr("Best %1, kg").arg(q(lift.title)), ("best_" + std::string(lift.name)).c_str(),
          p.best_kg[lifts::at(lift.id)]);
  text(tr("Bests from"), "bestsOn", p.bests_on, tr("Dates and circumstances of the bests"));
  text(tr("Goal"), "goal", p.goal, tr("What the athlete trains for"));
  text(tr("Meet"), "meetOn", p.meet_on, tr("Date as 2027-03-14; the queue can be ordered by it"));
  text(tr("Federation"), "federation", p.federation, tr("The federation whose rule book counts"));
  text(tr("Usual set-up"), "usual", p.usual, tr("Bar height, stance, grip, shoes, belt"));
  text(tr("Pain, own words"), "painWords", p.pain, tr("What the athlete told; never a diagnosis of ours"));
  text(tr("Mobility screens"), "screens", p.screens, tr("Jump stance, unloaded squat, barefoot arch"));
  text(tr("Notes"), "athleteNote", a.note, tr("Yours alone"));
}

void AthletePanel::save() {
  if (auto kept = library_.updateAthlete(*athlete_); !kept) return emit said(q(kept.error().sentence()));
  emit changed();
}

void AthletePanel::addAddresses() {
  auto all = library_.addresses(athlete_->id);
  if (!all || all->empty()) return;
  QStringList lines;
  for (const auto& address : *all) lines << q(address);
  column_->addWidget(words(tr("Writes from %1").arg(lines.join(QStringLiteral(", "))), true));
}

// What the newest traced film tells of the athlete's build.
void AthletePanel::addBuild() {
  QStringList ratios;
  std::string on;
  for (const char* id : {"thigh_to_trunk_ratio", "thigh_to_shin_ratio"}) {
    const auto kept = library_.measured(athlete_->id, id);
    if (!kept || kept->empty() || (!on.empty() && kept->back().on != on)) continue;
    on = kept->back().on;
    const auto* kind = lifts::measureDefinition(id);
    ratios << q(kind->title).toLower() + QLatin1Char(' ') + q(lifts::numbersWithSigma(*kind, kept->back().measured));
  }
  if (ratios.isEmpty()) return;
  auto* build =
      words(tr("Build, from the clip of %1: %2").arg(q(library::spoken(on)), ratios.join(QStringLiteral(", "))), true);
  build->setObjectName(QStringLiteral("build"));
  column_->addWidget(build);
}

// Speed against load over all sets, the athlete's own line.
void AthletePanel::addLoadSpeed() {
  for (const auto& lift : lifts::allLifts()) {
    const auto sets = library_.speeds(athlete_->id, lift.name);
    if (!sets || sets->empty()) continue;
    const auto line = coaching::loadSpeedLine(*sets, lift);
    column_->addWidget(heading(tr("Speed against load, %1").arg(q(lift.title))));
    column_->addWidget(new LoadSpeedPlot(*sets, line));
    auto* text = words(line ? q(coaching::textOf(*line, athlete_->profile.best_kg[lifts::at(lift.id)]))
                            : tr("At least three clearly different loads are needed to estimate a 1RM."),
                       !line);
    text->setObjectName(QStringLiteral("loadSpeedText"));
    column_->addWidget(text);
  }
}

void AthletePanel::addNamesakes() {
  for (const auto& other : NamesakeCard::namesakes(library_, *athlete_)) {
    auto* card = new NamesakeCard(library_, *athlete_, other);
    connect(card, &NamesakeCard::said, this, &AthletePanel::said);
    connect(card, &NamesakeCard::toldApart, this, [this] { show(athlete_->id); });
    connect(card, &NamesakeCard::merged, this, [this](library::AthleteId kept) {
      emit changed();
      show(kept);
    });
    column_->addWidget(card);
  }
}

}  // namespace jib::desk
