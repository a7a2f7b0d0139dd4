// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/athlete_panel.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>

#include "core/base/quantity.h"
#include "core/coaching/rule_book.h"
#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "desk/library_page/athlete_story.h"
#include "desk/library_page/consent_card.h"
#include "desk/library_page/load_speed_plot.h"
#include "desk/library_page/meet_card.h"
#include "desk/library_page/namesake_card.h"
#include "desk/library_page/removal_card.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

QString groupsText(const std::vector<std::string>& groups) {
  QStringList all;
  for (const std::string& group : groups) all << q(group);
  return all.join(QStringLiteral(", "));
}

std::vector<std::string> groupsFrom(const QString& typed) {
  std::vector<std::string> all;
  for (const QString& group : typed.split(QLatin1Char(','), Qt::SkipEmptyParts))
    if (const QString name = group.simplified(); !name.isEmpty()) all.push_back(name.toStdString());
  return all;
}

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
    column_->addWidget(words(tr("Select an athlete or a row to see the details here."), true));
    column_->addStretch();
    return;
  }
  column_->addWidget(heading(q(athlete_->name)));
  if (minor())
    column_->addWidget(words(athlete_->profile.birth_year
                                 ? tr("Under 18 by year of birth: light, supervised, no maxing out.")
                                 : tr("Under 18, their message says: light, supervised, no maxing out.")));
  auto* story = new AthleteStory(library_, *athlete_, pictures_);
  connect(story, &AthleteStory::openAtRequested, this, &AthletePanel::openAtRequested);
  column_->addWidget(story);
  column_->addWidget(heading(tr("Details")));
  auto* box = new QWidget;
  auto* form = new QFormLayout(box);
  form->setContentsMargins(0, 0, 0, 0);
  form->setVerticalSpacing(4);
  addForm(*form);
  column_->addWidget(box);
  addBuild();
  addMeets();
  addConsent();
  addLoadSpeed();
  addAddresses();
  addNamesakes();
  addKeeping();
  column_->addStretch();
}

// What an athlete may ask for: all that is kept of them, to take along or to be gone.
void AthletePanel::addKeeping() {
  column_->addSpacing(8);
  auto* out = new QPushButton(tr("Export everything…"));
  out->setObjectName(QStringLiteral("exportAthlete"));
  out->setToolTip(
      tr("Clips, messages, reviews, replies and letters, in open formats, for the athlete to keep. Your own notes stay "
         "here."));
  connect(out, &QPushButton::clicked, this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Where does the export go?"), QDir::homePath());
    if (!folder.isEmpty()) exportInto(folder);
  });
  column_->addWidget(out, 0, Qt::AlignLeft);
  auto* forget = new QPushButton(tr("Delete this athlete…"));
  forget->setObjectName(QStringLiteral("deleteAthlete"));
  forget->setToolTip(tr("Shows what will be deleted before anything is"));
  connect(forget, &QPushButton::clicked, this, &AthletePanel::askToDelete);
  column_->addWidget(forget, 0, Qt::AlignLeft);
}

void AthletePanel::exportInto(const QString& folder) {
  if (!athlete_) return;
  const auto library_folder = library_.folder();
  const auto id = athlete_->id;
  const std::filesystem::path to =
      std::filesystem::path(folder.toStdString()) / library::folderNameFor(athlete_->name + " " + library::today());
  const bool begun = jobs_.start<bool>(
      tr("Exporting…"),
      [library_folder, id, to](Task& task) -> Result<bool> {
        auto library = library::Library::openAgain(library_folder);
        if (!library) return fail(library.error());
        return library::exportAthlete(*library, id, to, task);
      },
      [this, to](Result<bool> done) {
        emit said(done ? tr("Exported to %1").arg(q(to.string())) : q(done.error().sentence()));
      });
  emit said(begun ? tr("Exporting…") : tr("Another export is still running. Wait until it's done."));
}

void AthletePanel::askToDelete() {
  if (!athlete_) return;
  auto removal = library_.removalOf(athlete_->id);
  if (!removal) return emit said(q(removal.error().sentence()));
  auto* card = new RemovalCard(library_, tr("This will be permanently deleted:"), std::move(*removal));
  connect(card, &RemovalCard::said, this, &AthletePanel::said);
  connect(card, &RemovalCard::removed, this, [this] {
    emit removed();
    emit said(tr("Deleted. Nothing of theirs is left in the library."));
    emit changed();
  });
  column_->addWidget(card);
  QTimer::singleShot(0, card, [this, card] { ensureWidgetVisible(card); });
}

void AthletePanel::addForm(QFormLayout& form) {
  // long because a list of fields
  using library::Athlete;
  // `set` puts what was typed into an athlete; false where it is not understood, and nothing is changed.
  const auto line = [&](const QString& title, const char* name, const QString& value, const QString& tip, auto set) {
    auto* edit = new QLineEdit(value);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setPlaceholderText(QStringLiteral("–"));
    edit->setToolTip(tip);
    edit->setCursorPosition(0);  // a long line shows its beginning
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, set, value] {
      if (edit->text() == value) return;
      const QString typed = edit->text().simplified();
      if (Athlete trial = *athlete_; !set(trial, typed)) {
        emit said(tr("Can't read “%1”. The old value is still here.").arg(typed));
        return edit->setText(value);
      }
      keep([&](Athlete& a) { set(a, typed); });
    });
    form.addRow(words(title, true), edit);
  };
  const auto text = [&](const QString& title, const char* name, auto field, const QString& tip) {
    line(title, name, q(field(*athlete_)), tip, [field](Athlete& a, const QString& v) {
      field(a) = v.toStdString();
      return true;
    });
  };
  // Typed in either unit; what is no such quantity leaves what was there.
  const auto quantity = [&](const QString& title, const char* name, const QString& shown, auto field, auto read,
                            const QString& tip) {
    line(title, name, shown, tip, [field, read](Athlete& a, const QString& v) {
      const auto typed = read(v.toStdString());
      if (!typed && !v.isEmpty()) return false;
      field(a) = typed;
      return true;
    });
  };
  const auto kilos = [&](const QString& title, const char* name, auto field) {
    const std::optional<double> now = field(*athlete_);
    quantity(
        title, name, now ? q(massText(*now)) : QString(), field,
        [](const std::string& v) { return kilogramsFrom(v, displayUnits().mass); }, tr("In kg or lb"));
  };
  const auto& p = athlete_->profile;
  text(
      tr("Name"), "athleteName", [](Athlete & a) -> auto& { return a.name; }, tr("Full name, as they write it"));
  text(
      tr("Pronunciation"), "sayName", [](Athlete & a) -> auto& { return a.profile.say_name; },
      tr("How the name is pronounced"));
  line(tr("Born"), "birthYear", p.birth_year ? QString::number(*p.birth_year) : QString(),
       tr("Year of birth. Under 18, the advice changes"), [](Athlete& a, const QString& v) {
         const int year = v.toInt();
         if (!v.isEmpty() && (year <= 1900 || year >= 2100)) return false;
         a.profile.birth_year = v.isEmpty() ? std::nullopt : std::optional(year);
         return true;
       });
  quantity(
      tr("Height"), "height", p.height_cm ? q(heightText(*p.height_cm)) : QString(),
      [](Athlete & a) -> auto& { return a.profile.height_cm; },
      [](const std::string& v) { return centimetresFrom(v, displayUnits().length); }, tr("In cm, or as 5'10"));
  kilos(
      tr("Body weight"), "bodyMass", [](Athlete & a) -> auto& { return a.profile.body_mass_kg; });
  line(tr("Counts in"), "athleteUnit", p.unit ? (*p.unit == MassUnit::Pounds ? tr("lb") : tr("kg")) : QString(),
       tr("kg or lb: the unit of this athlete's bare numbers from the next message on"),
       [](Athlete& a, const QString& v) {
         if (!v.isEmpty() && v != QStringLiteral("lb") && v != QStringLiteral("kg")) return false;
         a.profile.unit = v.isEmpty()
                              ? std::nullopt
                              : std::optional(v == QStringLiteral("lb") ? MassUnit::Pounds : MassUnit::Kilograms);
         return true;
       });
  quantity(
      tr("Years training"), "yearsTraining", p.years_training ? QString::number(*p.years_training, 'g', 3) : QString(),
      [](Athlete & a) -> auto& { return a.profile.years_training; },
      [](std::string v) {
        std::replace(v.begin(), v.end(), ',', '.');
        const auto years = numberFrom(v);
        return years && *years > 0 ? years : std::nullopt;
      },
      tr("With a barbell"));
  for (const auto& lift : lifts::allLifts())
    kilos(
        tr("Max %1").arg(q(lift.title)),
        ("best_" + std::string(lift.name)).c_str(), [at = lifts::at(lift.id)](Athlete & a) -> auto& {
          return a.profile.best_kg[at];
        });
  text(
      tr("Maxes from"), "bestsOn", [](Athlete & a) -> auto& { return a.profile.bests_on; },
      tr("When and where the maxes were done"));
  text(
      tr("Goal"), "goal", [](Athlete & a) -> auto& { return a.profile.goal; }, tr("What they're training for"));
  text(
      tr("Meet"), "meetOn", [](Athlete & a) -> auto& { return a.profile.meet_on; },
      tr("Date as 2027-03-14; the queue can be ordered by it"));
  const auto choice = [&](const QString& title, const char* name, const QString& tip,
                          const std::vector<std::pair<QString, std::string>>& from, const std::string& now, auto set) {
    auto* box = new QComboBox;
    box->setObjectName(QString::fromLatin1(name));
    box->setToolTip(tip);
    for (const auto& [shown, id] : from) box->addItem(shown, q(id));
    box->setCurrentIndex(std::max(0, box->findData(q(now))));
    connect(box, &QComboBox::activated, this,
            [this, box, set] { keep([&](Athlete& a) { set(a, box->currentData().toString().toStdString()); }); });
    form.addRow(words(title, true), box);
  };
  line(tr("Groups"), "athleteGroups", groupsText(p.groups),
       tr("As you sort your athletes, with commas between; the athletes' table shows one group at a time"),
       [](Athlete& a, const QString& v) {
         a.profile.groups = groupsFrom(v);
         return true;
       });
  std::vector<std::pair<QString, std::string>> memberships, rule_sets;
  for (const auto m : {library::Membership::Active, library::Membership::Paused, library::Membership::Former})
    memberships.emplace_back(q(library::titleOf(m)), std::string(library::nameOf(m)));
  choice(tr("Training"), "membership", tr("Former athletes keep everything and leave the lists"), memberships,
         std::string(library::nameOf(p.membership)), [](Athlete& a, const std::string& id) {
           for (const auto m : {library::Membership::Active, library::Membership::Paused, library::Membership::Former})
             if (library::nameOf(m) == id) a.profile.membership = m;
         });
  const auto rules = coaching::RuleBook::forLibrary(library_.folder());
  for (const auto& set : rules.sets()) rule_sets.emplace_back(q(set.title), set.id);
  choice(tr("Rules"), "athleteRules", tr("What “On the platform” in a review goes by"), rule_sets, p.rules,
         [](Athlete& a, const std::string& id) { a.profile.rules = id; });
  line(tr("Replies a week"), "repliesAWeek", p.replies_a_week ? QString::number(*p.replies_a_week) : QString(),
       tr("As agreed; the athletes' table counts them"), [](Athlete& a, const QString& v) {
         bool number = false;
         const int replies = v.toInt(&number);
         if (!v.isEmpty() && (!number || replies < 1 || replies > 50)) return false;
         a.profile.replies_a_week = v.isEmpty() ? std::nullopt : std::optional(replies);
         return true;
       });
  if (const auto card = library_.coach(); card && !card->colleagues.empty()) {
    std::vector<std::pair<QString, std::string>> coaches{{tr("whoever gets to it"), {}}};
    for (const std::string& name : library::coachesOf(*card)) coaches.emplace_back(q(name), name);
    choice(tr("Coach"), "athleteCoach", tr("Who answers their clips"), coaches, p.coach,
           [](Athlete& a, const std::string& id) { a.profile.coach = id; });
  }
  text(
      tr("Federation"), "federation", [](Athlete & a) -> auto& { return a.profile.federation; },
      tr("The federation whose rule book counts"));
  text(
      tr("Usual setup"), "usual", [](Athlete & a) -> auto& { return a.profile.usual; },
      tr("Bar height, stance, grip, shoes, belt"));
  text(
      tr("Pain, their words"), "painWords", [](Athlete & a) -> auto& { return a.profile.pain; },
      tr("In the athlete's own words; not a diagnosis"));
  text(
      tr("Mobility screens"), "screens", [](Athlete & a) -> auto& { return a.profile.screens; },
      tr("Jump stance, unloaded squat, barefoot arch"));
  text(
      tr("Notes"), "athleteNote", [](Athlete & a) -> auto& { return a.note; }, tr("Only you see this"));
}

void AthletePanel::keep(const std::function<void(library::Athlete&)>& change) {
  auto kept = library_.edit(athlete_->id, change);
  if (!kept) return emit said(q(kept.error().sentence()));
  athlete_ = std::move(*kept);
  emit changed();
}

void AthletePanel::addAddresses() {
  auto all = library_.addresses(athlete_->id);
  if (!all || all->empty()) return;
  QStringList lines;
  for (const auto& address : *all) lines << q(address);
  column_->addWidget(words(tr("Writes from %1").arg(lines.join(QStringLiteral(", "))), true));
}

void AthletePanel::addMeets() {
  // Attempts are maxima: a young athlete's page has no place for them.
  if (minor()) return;
  auto* card =
      new MeetCard(athlete_->profile.meets, athlete_->profile.rules, coaching::RuleBook::forLibrary(library_.folder()));
  connect(
      card, &MeetCard::changed, this,
      [this](const std::vector<library::Meet>& meets) {
        keep([&](library::Athlete& a) { a.profile.meets = meets; });
        rebuild();
      },
      Qt::QueuedConnection);
  column_->addWidget(card);
}

// By what the coach entered, or what their messages say.
bool AthletePanel::minor() {
  return library::isMinor(exchange::profileAsKnown(library_, *athlete_), library::today()).value_or(false);
}

void AthletePanel::addConsent() {
  auto* card = new ConsentCard(exchange::profileAsKnown(library_, *athlete_));
  connect(
      card, &ConsentCard::changed, this,
      [this](const library::Profile& p) {
        keep([&](library::Athlete& a) {
          a.profile.consent = p.consent;
          a.profile.guardian = p.guardian;
          a.profile.hide_faces = p.hide_faces;
        });
        rebuild();
      },
      Qt::QueuedConnection);
  column_->addWidget(card);
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
                            : tr("It takes at least three clearly different loads to estimate a max."),
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
