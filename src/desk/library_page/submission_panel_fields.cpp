// SPDX-License-Identifier: GPL-3.0-or-later
// The submission panel's fields: what was read from the message, confirmed or put right, and what nobody has said.
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "core/base/quantity.h"
#include "core/exchange/intake/athlete_unit.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/mail/field_reader.h"
#include "core/lifts/which_lift.h"
#include "desk/library_page/letter_box.h"
#include "desk/library_page/submission_panel.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

using exchange::Field;

// What a coach wants to know of every set before judging it.
constexpr Field kWanted[] = {Field::Load_kg, Field::Best_kg, Field::Reps, Field::Age, Field::Question};
// What can be typed in where the message does not say it.
constexpr Field kTypedIn[] = {Field::Load_kg, Field::Sets,        Field::Reps,      Field::Effort,
                              Field::Best_kg, Field::BodyMass_kg, Field::Height_cm, Field::Age};

bool isLength(Field f) {
  return f == Field::Height_cm;
}

std::optional<Field> fieldCalled(const std::string& name) {
  for (std::size_t i = 0; i < exchange::kFields; ++i)
    if (exchange::nameOf(static_cast<Field>(i)) == name) return static_cast<Field>(i);
  return std::nullopt;
}

QString titleFor(const std::string& name) {
  const auto f = fieldCalled(name);
  return q(f ? exchange::titleOf(*f) : std::string_view(name));
}

// What was typed, as fields are kept: masses in kilograms, heights in centimetres.
std::optional<std::string> understood(const std::string& field, const QString& typed) {
  const std::string text = typed.trimmed().toStdString();
  const auto f = fieldCalled(field);
  if (!f || (!exchange::isMass(*f) && !isLength(*f))) return text;
  const auto number =
      exchange::isMass(*f) ? kilogramsFrom(text, displayUnits().mass) : centimetresFrom(text, displayUnits().length);
  if (!number) return std::nullopt;
  return QString::number(*number, 'g', 6).toStdString();
}

QString notUnderstood(const std::string& field, const QString& typed) {
  const auto f = fieldCalled(field);
  return f && isLength(*f)
             ? SubmissionPanel::tr("“%1” is not a height. Type 178 cm, 70 in or 5'10.").arg(typed.trimmed())
             : SubmissionPanel::tr("“%1” is not a weight. Type 102.5 kg or 225 lb.").arg(typed.trimmed());
}

// A reading as the coach reads it; one whose unit nobody knows stands as it was typed.
QString asRead(const library::MessageField& kept) {
  const auto f = fieldCalled(kept.field);
  if (f && exchange::isMass(*f)) {
    if (exchange::waitsForUnit(kept)) return q(kept.said) + QStringLiteral(" ?");
    if (const auto kg = numberFrom(kept.value)) return q(massText(*kg));
  }
  if (f && isLength(*f))
    if (const auto cm = numberFrom(kept.value)) return q(heightText(*cm));
  return q(kept.value);
}

}  // namespace

void SubmissionPanel::addFields() {
  if (message_ && !message_->fields.empty()) addReadFields();
  if (submission_->kind == library::SubmissionKind::Clip) addUnknownFields();
}

// Bare numbers: "185" is a warm-up in one country and a max in another. Asked once for each athlete.
void SubmissionPanel::addUnit() {
  if (!athlete_ || athlete_->profile.unit) return;
  const auto messages = library_.messages(athlete_->id);
  if (!messages) return;
  const auto open = exchange::openNumbers(*athlete_, *messages);
  if (!open) return;
  QStringList numbers;
  for (const std::string& number : open->said)
    if (numbers.size() < 4) numbers << q(number);
  auto* box = new QWidget;
  auto* row = new QHBoxLayout(box);
  row->setContentsMargins(0, 0, 0, 0);
  auto* ask = words(tr("%1: kg or lb?").arg(numbers.join(QStringLiteral(", "))));
  ask->setObjectName(QStringLiteral("unitQuestion"));
  setTone(ask, "warn");
  row->addWidget(ask, 1);
  const auto button = [&](const QString& text, MassUnit unit) {
    auto* pick = new QPushButton(open->guess == unit ? tr("%1 (likely)").arg(text) : text);
    pick->setProperty("narrow", true);
    pick->setObjectName(QStringLiteral("unit_") + text);
    pick->setToolTip(tr("%1 counts in %2 from now on. Change it on the Athlete tab.").arg(q(firstName()), text));
    connect(pick, &QPushButton::clicked, this, [this, unit] {
      const auto kept = exchange::setAthleteUnit(library_, athlete_->id, unit);
      if (!kept) return emit said(q(kept.error().sentence()));
      emit changed();
      rebuild();
    });
    row->addWidget(pick);
  };
  button(QStringLiteral("kg"), MassUnit::Kilograms);
  button(QStringLiteral("lb"), MassUnit::Pounds);
  column_->addWidget(box);
}

void SubmissionPanel::addReadFields() {
  column_->addWidget(heading(tr("Read from the message")));
  auto* box = new QWidget;
  auto* grid = new QGridLayout(box);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setVerticalSpacing(3);
  int row = 0;
  for (std::size_t i = 0; i < message_->fields.size(); ++i) {
    const auto& f = message_->fields[i];
    auto* value = new QLineEdit(asRead(f));
    value->setCursorPosition(0);
    value->setObjectName(QStringLiteral("field_") + q(f.field));
    value->setToolTip(f.words.empty() ? tr("Typed in by you") : tr("From the words: %1").arg(q(f.words)));
    auto* ok = new QToolButton;
    ok->setObjectName(QStringLiteral("confirm_") + q(f.field));
    const bool question = f.field == exchange::nameOf(Field::Question);
    ok->setText(f.confirmed ? QStringLiteral("✓") : QStringLiteral("?"));
    ok->setToolTip(f.confirmed ? (question ? tr("Answered") : tr("Confirmed by you"))
                   : question  ? tr("Answered? Tick it off")
                               : tr("Looks right? Confirm it (or change it and press Return)"));
    connect(ok, &QToolButton::clicked, this, [this, i, value] { confirm(i, value->text()); });
    connect(value, &QLineEdit::returnPressed, this, [this, i, value] { confirm(i, value->text()); });
    auto* title = words(titleFor(f.field), true);
    fixTextWidth(title, 96);
    grid->addWidget(title, row, 0);
    // A sentence is its own words; a number stands beside the words it was read from.
    const bool sentence = f.words == f.value;
    grid->addWidget(value, row, 1, 1, sentence ? 2 : 1);
    if (!sentence) {
      fixTextWidth(value, 104);
      auto* from = words(f.words.empty() ? tr("typed in") : QStringLiteral("“%1”").arg(q(f.words).simplified()), true);
      grid->addWidget(from, row, 2);
    }
    grid->addWidget(ok, row, 3);
    ++row;
  }
  grid->setColumnStretch(2, 1);
  column_->addWidget(box);
  const bool any_open = std::any_of(message_->fields.begin(), message_->fields.end(),
                                    [](const library::MessageField& f) { return !f.confirmed; });
  if (message_->fields.size() > 1 && any_open) {
    auto* all = new QPushButton(tr("Looks right"));
    all->setObjectName(QStringLiteral("confirmAll"));
    all->setToolTip(tr("Confirms everything read that is not confirmed yet"));
    connect(all, &QPushButton::clicked, this, &SubmissionPanel::confirmAll);
    column_->addWidget(all, 0, Qt::AlignLeft);
  }
}

// What nobody has said can be typed in, or asked for.
void SubmissionPanel::addUnknownFields() {
  std::vector<std::string> asked;
  auto* box = new QWidget;
  auto* grid = new QGridLayout(box);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setVerticalSpacing(3);
  int row = 0;
  const auto unknown = [&](Field f) {
    return !isKnown(f) && !(message_ && exchange::fieldNamed(message_->fields, exchange::nameOf(f)));
  };
  for (Field f : kWanted)
    if (unknown(f)) asked.emplace_back(exchange::titleOf(f));
  for (Field f : kTypedIn) {
    if (!unknown(f)) continue;
    auto* value = new QLineEdit;
    value->setObjectName(QStringLiteral("unknown_") + q(exchange::nameOf(f)));
    value->setPlaceholderText(exchange::isMass(f) ? tr("kg or lb") : isLength(f) ? tr("cm or 5'10") : QString());
    value->setToolTip(tr("Type it and press Return"));
    fixTextWidth(value, 86);
    connect(value, &QLineEdit::returnPressed, this, [this, f, value] { typeIn(f, value->text()); });
    auto* title = words(q(exchange::titleOf(f)), true);
    fixTextWidth(title, 96);
    grid->addWidget(title, row, 0);
    grid->addWidget(value, row, 1, Qt::AlignLeft);
    ++row;
  }
  grid->setColumnStretch(1, 1);
  if (row > 0) {
    column_->addWidget(heading(tr("Missing")));
    column_->addWidget(box);
  } else {
    delete box;
  }
  if (asked.empty() || !message_) return;
  auto* ask = new QPushButton(tr("Ask for what's missing…"));
  ask->setObjectName(QStringLiteral("askFields"));
  connect(ask, &QPushButton::clicked, this,
          [this, asked] { letter_->write(letterOf(letters().askFor(firstName(), asked))); });
  column_->addWidget(ask, 0, Qt::AlignLeft);
}

// Of the athlete or of this row, whether or not the message says it again.
bool SubmissionPanel::isKnown(exchange::Field f) const {
  if (f == Field::Load_kg) return submission_->load_kg.has_value();
  const auto& said = submission_->details;
  if (f == Field::Sets) return said.sets_said.has_value();
  if (f == Field::Reps) return said.reps_said.has_value();
  if (f == Field::Effort) return said.effort_said.has_value();
  if (!athlete_) return false;
  const auto& p = athlete_->profile;
  if (f == Field::BodyMass_kg) return p.body_mass_kg.has_value();
  if (f == Field::Height_cm) return p.height_cm.has_value();
  if (f == Field::Age) return p.birth_year.has_value();
  if (f == Field::Best_kg) return p.bestOf(submission_->lift).has_value();
  return false;
}

void SubmissionPanel::confirmAll() {
  std::vector<library::MessageField> anew;
  const auto kept = library_.editFields(message_->id, [&](auto& fields) {
    anew.clear();
    for (auto& f : fields) {
      const bool question = f.field == exchange::nameOf(Field::Question);  // ticked off when it is answered
      if (question || exchange::waitsForUnit(f) || std::exchange(f.confirmed, true)) continue;
      anew.push_back(f);
    }
  });
  if (!kept) return emit said(q(kept.error().sentence()));
  for (const auto& f : anew) takeIntoSubmission(f);
  emit changed();
  rebuild();
}

void SubmissionPanel::confirm(std::size_t field, const QString& typed) {
  const library::MessageField read = message_->fields[field];
  const bool as_read = typed == asRead(read);
  if (as_read && exchange::waitsForUnit(read))
    return emit said(tr("%1: kg or lb? Pick one above, or type the unit.").arg(q(read.said)));
  const auto value = as_read ? std::optional(read.value) : understood(read.field, typed);
  if (!value) return emit said(notUnderstood(read.field, typed));
  library::MessageField told = read;
  told.value = *value;
  told.confirmed = true;
  told.sure = true;
  const auto kept = library_.editFields(message_->id, [&](auto& fields) {
    const auto it = std::find(fields.begin(), fields.end(), read);
    if (it == fields.end())
      fields.push_back(told);
    else
      *it = told;
  });
  if (!kept) return emit said(q(kept.error().sentence()));
  takeIntoSubmission(told);
  emit changed();
  rebuild();
}

void SubmissionPanel::typeIn(exchange::Field f, const QString& typed) {
  if (typed.trimmed().isEmpty()) return;
  const std::string name(exchange::nameOf(f));
  const auto value = understood(name, typed);
  if (!value) return emit said(notUnderstood(name, typed));
  const library::MessageField field{name, *value, {}, true};
  if (message_)
    if (auto kept = library_.editFields(message_->id, [&](auto& fields) { fields.push_back(field); }); !kept)
      return emit said(q(kept.error().sentence()));
  takeIntoSubmission(field);
  emit changed();
  rebuild();
}

namespace {

// Whether a confirmed reading is of the athlete; then it is put there.
bool tellsOfAthlete(const library::MessageField& f, double number, const library::Submission& s, library::Athlete& a) {
  auto& p = a.profile;
  if (f.field == exchange::nameOf(Field::BodyMass_kg))
    p.body_mass_kg = number;
  else if (f.field == exchange::nameOf(Field::Height_cm))
    p.height_cm = number;
  else if (f.field == exchange::nameOf(Field::YearsTraining))
    p.years_training = number;
  else if (f.field == exchange::nameOf(Field::Age))
    p.birth_year = std::atoi(s.received_on.c_str()) - static_cast<int>(number);
  else if (f.field == exchange::nameOf(Field::MeetOn))
    p.meet_on = f.value;
  else if (f.field == exchange::nameOf(Field::Best_kg))
    p.setBest(s.lift, number);
  else if (f.field == exchange::nameOf(Field::Pain) && f.value == "yes" && p.pain.empty())
    p.pain = f.words;
  else
    return false;
  return true;
}

void tellSubmission(const library::MessageField& f, double number, library::Submission& s) {
  if (f.field == exchange::nameOf(Field::Load_kg)) {
    s.load_kg = number > 0 ? std::optional(number) : std::nullopt;
    s.details.load_said.clear();
  }
  if (f.field == exchange::nameOf(Field::Sets) && number >= 1) s.details.sets_said = static_cast<int>(number);
  if (f.field == exchange::nameOf(Field::Reps) && number >= 1) s.details.reps_said = static_cast<int>(number);
  if (f.field == exchange::nameOf(Field::Effort) && number > 0) s.details.effort_said = number;
  if (f.field == exchange::nameOf(Field::Lift) && s.details.lift_by != library::ToldBy::Coach) {
    if (s.lift != f.value) s.variant = lifts::usualVariant(f.value);
    s.lift = f.value;
    s.details.lift_by = library::ToldBy::Words;
  }
  if (f.field == exchange::nameOf(Field::Variant)) {
    s.variant = f.value;
    s.details.variant_by = library::ToldBy::Words;
  }
}

}  // namespace

// A confirmed reading is known: of the set, or of the athlete.
void SubmissionPanel::takeIntoSubmission(const library::MessageField& f) {
  std::string plain = f.value;
  std::replace(plain.begin(), plain.end(), ',', '.');
  const double number = numberFrom(plain).value_or(0);
  if (f.field == exchange::nameOf(Field::Best_kg) && !lifts::liftNamed(submission_->lift))
    return emit said(tr("Say which lift it is first: a max belongs to a lift."));
  const library::Submission now = *submission_;
  if (library::Athlete trial = *athlete_; tellsOfAthlete(f, number, now, trial)) {
    auto kept = library_.edit(athlete_->id, [&](library::Athlete& a) { tellsOfAthlete(f, number, now, a); });
    if (!kept) return emit said(q(kept.error().sentence()));
    athlete_ = std::move(*kept);
    return;
  }
  // One message may have come with several clips; all are of its sets.
  auto all = library_.submissionsOf(submission_->athlete);
  if (!all) return;
  for (const auto& s : *all) {
    if (s.id != submission_->id && (!s.message_id || s.message_id != submission_->message_id)) continue;
    auto kept = library_.edit(s.id, [&](library::Submission& row) { tellSubmission(f, number, row); });
    if (!kept) emit said(q(kept.error().sentence()));
  }
}

}  // namespace jib::desk
