// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/submission_panel.h"

#include <QBuffer>
#include <QGridLayout>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QUndoStack>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/resources.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/letters/filming_request.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/mail/field_reader.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "core/lifts/which_lift.h"
#include "desk/library_page/commands/change_submission.h"
#include "desk/library_page/commands/send_letter.h"
#include "desk/library_page/kit_card.h"
#include "desk/library_page/letter_box.h"
#include "desk/library_page/lift_card.h"
#include "desk/library_page/load_card.h"
#include "desk/library_page/namesake_card.h"
#include "desk/library_page/removal_card.h"
#include "desk/library_page/submissions_model.h"
#include "desk/library_page/thread_view.h"
#include "desk/library_page/turn_card.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/deed.h"
#include "desk/widgets/flow.h"
#include "drawing/picture.h"

namespace jib::desk {
namespace {

using exchange::Field;
using library::SubmissionState;

QLabel* toned(const QString& text, const char* tone, bool faint = false) {
  auto* label = words(text, faint);
  setTone(label, tone);
  return label;
}

}  // namespace

SubmissionPanel::SubmissionPanel(library::Library& library, QUndoStack& undo, QWidget* parent)
    : QScrollArea(parent), library_(library), undo_(undo) {
  setObjectName(QStringLiteral("submissionPanel"));
  setWidgetResizable(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  auto* outer = new QVBoxLayout(content);
  outer->setContentsMargins(8, 8, 8, 8);
  letter_ = new LetterBox(library);
  connect(letter_, &LetterBox::sendRequested, this, &SubmissionPanel::send);
  connect(letter_, &LetterBox::leaveRequested, this, &SubmissionPanel::keysWanted);
  column_ = new QVBoxLayout;
  column_->setSpacing(6);
  outer->addWidget(letter_);
  outer->addLayout(column_);
  outer->addStretch();
  setWidget(content);
  rebuild();
}

void SubmissionPanel::show(std::optional<library::SubmissionId> id) {
  if (id != id_) {
    letter_->hide();
    counting_ = false;
  }
  id_ = id;
  rebuild();
}

void SubmissionPanel::rebuild() {
  clearLayout(column_);
  submission_.reset();
  athlete_.reset();
  message_.reset();
  check_.reset();
  if (id_)
    if (auto s = library_.submission(*id_)) submission_ = *s;
  if (!submission_) {
    column_->addWidget(words(tr("Select a row to see the message, what the clip can show and what's missing."), true));
    return;
  }
  if (auto a = library_.athlete(submission_->athlete)) athlete_ = *a;
  if (submission_->message_id)
    if (auto m = library_.message(*submission_->message_id)) message_ = *m;
  if (auto json = library_.checkOf(submission_->clip_hash); json && !json->empty())
    if (auto check = coaching::checkFromJson(*json)) check_ = *check;
  addMessage();
  addNamesakes();
  addCare();
  addAgreed();
  if (submission_->kind == library::SubmissionKind::Clip) addLift();
  addUnit();
  addFields();
  if (submission_->kind == library::SubmissionKind::Clip) {
    addLoad();
    addKit();
    addTurn();
    addFailure();
    addCheck();
    addPair();
  }
  addSent();
  addLetters();
  addDelete();
}

// A new address of somebody known is asked about as soon as its message is looked at.
void SubmissionPanel::addNamesakes() {
  if (!athlete_) return;
  for (const auto& other : NamesakeCard::namesakes(library_, *athlete_)) {
    auto* card = new NamesakeCard(library_, *athlete_, other);
    connect(card, &NamesakeCard::said, this, &SubmissionPanel::said);
    connect(card, &NamesakeCard::toldApart, this, &SubmissionPanel::changed);
    connect(card, &NamesakeCard::merged, this, &SubmissionPanel::changed);
    column_->addWidget(card);
  }
}

void SubmissionPanel::addKit() {
  auto* card = new KitCard(library_, *submission_, kit_open_);
  connect(card, &KitCard::openChanged, this, [this](bool open) { kit_open_ = open; });
  connect(card, &KitCard::said, this, &SubmissionPanel::said);
  column_->addWidget(card);
}

void SubmissionPanel::addTurn() {
  const auto card = library_.coach();
  const auto seat = library_.signer();
  if (!card || !seat || card->colleagues.empty()) return;
  auto* turn = new TurnCard(*submission_, athlete_ ? athlete_->profile : library::Profile{}, *card, seat->name);
  connect(turn, &TurnCard::changed, this, [this](const QString& what, const library::Submission& to) {
    const auto put = [this](const library::Submission& was, const library::Submission& as) {
      const auto kept =
          library_.edit(as.id, [&](library::Submission& row) { TurnCard::put(row.details, was.details, as.details); });
      if (!kept) emit said(q(kept.error().sentence()));
      emit changed();
    };
    undo_.push(new Deed(
        what, [put, from = *submission_, to] { put(from, to); }, [put, from = *submission_, to] { put(to, from); }));
  });
  column_->addWidget(turn);
}

// How many replies a week were agreed on, once they are used up.
void SubmissionPanel::addAgreed() {
  const bool waits = submission_->kind == library::SubmissionKind::Clip &&
                     submission_->state != SubmissionState::Returned && submission_->state != SubmissionState::Skipped;
  if (!waits || !athlete_ || !athlete_->profile.replies_a_week) return;
  const auto sent = library_.answeredSince(athlete_->id, library::daysLater(library::today(), -6));
  const int agreed = *athlete_->profile.replies_a_week;
  if (!sent || *sent < agreed) return;
  auto* line =
      words(agreed == 1 ? tr("1 reply a week is agreed; %1 sent in the last seven days.").arg(*sent)
                        : tr("%1 replies a week are agreed; %2 sent in the last seven days.").arg(agreed).arg(*sent),
            true);
  line->setObjectName(QStringLiteral("agreedReplies"));
  column_->addWidget(line);
}

// Which lift it is. Chosen by the coach, the clip's check and what was found with it are of another lift: they are made
// again.
void SubmissionPanel::addLift() {
  auto* card = new LiftCard(*submission_, check_);
  connect(card, &LiftCard::chosen, this, [this](const QString& lift, const QString& variant) {
    library::Submission to = *submission_;
    to.lift = lift.toStdString();
    to.variant = variant.toStdString();
    to.details.lift_by = library::ToldBy::Coach;
    to.details.lift_confirmed = true;
    if (variant != q(submission_->variant) || lift == q(submission_->lift))
      to.details.variant_by = library::ToldBy::Coach;
    undo_.push(new ChangeSubmission(library_, tr("say which lift it is"), *submission_, to,
                                    [this](library::SubmissionId id, const QString& trouble) {
                                      if (!trouble.isEmpty()) return emit said(trouble);
                                      if (auto s = library_.submission(id); s && !s->clip_hash.empty())
                                        if (auto gone = library_.forgetCheck(s->clip_hash); !gone)
                                          emit said(q(gone.error().sentence()));
                                      emit changed();
                                      emit lookAgainRequested();
                                    }));
  });
  column_->addWidget(card);
}

// A clip that nobody could look at says why, and can be tried again by hand only.
void SubmissionPanel::addFailure() {
  if (!check_ || check_->failed.empty()) return;
  if (submission_->reason.empty()) column_->addWidget(toned(q(check_->failed), "warn"));
  auto* again = new QPushButton(tr("Try this clip again"));
  again->setObjectName(QStringLiteral("tryAgain"));
  again->setToolTip(tr("It isn't tried again on its own"));
  connect(again, &QPushButton::clicked, this, [this] {
    if (auto gone = library_.forgetCheck(submission_->clip_hash); !gone) return emit said(q(gone.error().sentence()));
    emit changed();
    emit lookAgainRequested();
  });
  column_->addWidget(again, 0, Qt::AlignLeft);
}

void SubmissionPanel::addDelete() {
  auto* button = new QPushButton(tr("Delete this submission…"));
  button->setObjectName(QStringLiteral("deleteSubmission"));
  button->setToolTip(tr("Shows what will be deleted before anything is"));
  connect(button, &QPushButton::clicked, this, &SubmissionPanel::askToDelete);
  column_->addSpacing(8);
  column_->addWidget(button, 0, Qt::AlignLeft);
}

void SubmissionPanel::askToDelete() {
  if (!submission_) return;
  auto removal = library_.removalOf(submission_->id);
  if (!removal) return emit said(q(removal.error().sentence()));
  auto* card = new RemovalCard(library_, tr("This will be permanently deleted:"), std::move(*removal));
  connect(card, &RemovalCard::said, this, &SubmissionPanel::said);
  connect(card, &RemovalCard::removed, this, [this] {
    // What was done to it cannot be gone back over.
    undo_.clear();
    emit said(tr("Deleted. Nothing of it is left in the library."));
    emit changed();
  });
  column_->addWidget(card);
  QTimer::singleShot(0, card, [this, card] { ensureWidgetVisible(card); });
}

// When the athlete was last heard of before this, and whether that was answered.
QString SubmissionPanel::lastContact() {
  const auto found = library_.lastBefore(*submission_);
  if (!found) return {};
  const auto& last = *found;
  if (!last) return tr(" · first message");
  const QString day = q(library::spoken(last->received_on));
  return last->state == SubmissionState::Returned ? tr(" · last: %1, answered").arg(day)
                                                  : tr(" · last: %1, not answered").arg(day);
}

void SubmissionPanel::addMessage() {
  column_->addWidget(heading(athlete_ ? q(athlete_->name) : tr("Unknown athlete")));
  QString line = rowStateText(*submission_) + QStringLiteral(" · ") + q(library::spoken(submission_->received_on));
  if (athlete_ && !athlete_->profile.meet_on.empty()) {
    // A meet that is written as something else than a date is shown as it is.
    const auto days = library::daysBetween(library::today(), athlete_->profile.meet_on);
    if (!days)
      line += tr(" · meet: %1").arg(q(athlete_->profile.meet_on));
    else if (*days >= 0)
      line += *days == 0   ? tr(" · meet today")
              : *days == 1 ? tr(" · meet tomorrow")
                           : tr(" · meet in %1 days").arg(*days);
  }
  line += lastContact();
  auto* when = words(line, true);
  when->setObjectName(QStringLiteral("when"));
  column_->addWidget(when);
  if (!submission_->reason.empty()) column_->addWidget(toned(q(submission_->reason), "warn"));
  if (!message_) {
    if (!submission_->message.empty())
      column_->addWidget(words(QStringLiteral("“%1”").arg(q(submission_->message).trimmed())));
    return;
  }
  auto thread = library_.thread(message_->athlete, message_->thread);
  const bool alone = !thread || thread->empty();
  column_->addWidget(new ThreadView(alone ? std::vector{*message_} : *thread, message_->id));
}

std::vector<library::MessageField> SubmissionPanel::fields() const {
  return message_ ? message_->fields : exchange::proposedFields(submission_->message, submission_->received_on);
}

void SubmissionPanel::addCare() {
  if (!athlete_) return;
  const auto care = exchange::careFor(library_, *athlete_, *submission_).value_or(exchange::Care{});
  for (const auto& sentence : exchange::careForCoach(care, firstName())) {
    auto* label = toned(q(sentence), "bad");
    label->setObjectName(QStringLiteral("care"));
    column_->addWidget(label);
  }
  if (care.pain) {
    auto* refer = new QPushButton(tr("Write a referral…"));
    refer->setObjectName(QStringLiteral("refer"));
    connect(refer, &QPushButton::clicked, this,
            [this, minor = care.minor] { letter_->write(letterOf(letters().referral(firstName(), minor))); });
    column_->addWidget(refer, 0, Qt::AlignLeft);
  }
}

void SubmissionPanel::addLoad() {
  if (!athlete_) return;
  auto* card = new LoadCard(library_, *submission_, *athlete_, fields(), check_ ? &*check_ : nullptr, counting_);
  connect(card, &LoadCard::said, this, &SubmissionPanel::said);
  connect(card, &LoadCard::changed, this, &SubmissionPanel::changed);
  connect(card, &LoadCard::countingChanged, this, [this](bool open) { counting_ = open; });
  column_->addWidget(card);
}

void SubmissionPanel::addCheck() {
  if (!submission_->details.film_gone_on.empty()) column_->addWidget(words(q(library::filmGone(*submission_)), true));
  if (submission_->clip_hash.empty()) return;
  column_->addWidget(heading(tr("What this clip can show")));
  if (!check_) {
    column_->addWidget(words(tr("Not analyzed yet; runs in the background."), true));
    return;
  }
  if (!check_->failed.empty()) return;  // the reason stands above
  // Nothing green, and one honest sentence, where the lift cannot be measured; the card above says it.
  if (!exchange::liftOf(*submission_, &*check_).judge) {
    column_->addWidget(words(tr("Open it to watch, and write back with Answer."), true));
    return;
  }
  QString facts = tr("Angle: %1").arg(q(check_->view));
  if (check_->reps > 0) facts += check_->reps == 1 ? tr(" · 1 rep") : tr(" · %1 reps").arg(check_->reps);
  if (check_->sets.size() > 1) facts += tr(" in %1 sets").arg(check_->sets.size());
  if (check_->misses > 0) facts += tr(" · %1 missed").arg(check_->misses);
  column_->addWidget(words(facts, true));
  // What was said against what is seen.
  const auto read = fields();
  if (const auto* said = exchange::fieldNamed(read, exchange::nameOf(Field::Reps)); said && check_->sets.size() == 1) {
    const int reps = QString::fromStdString(said->value).toInt();
    if (reps > 0 && check_->reps > 0 && reps != check_->reps) {
      auto* differ = toned(
          tr("The message says %1 reps, the clip shows %2. Is it the whole set?").arg(reps).arg(check_->reps), "warn");
      differ->setObjectName(QStringLiteral("repsDiffer"));
      column_->addWidget(differ);
    }
  }
  for (const auto& c : check_->claims) {
    const bool can = c.can == coaching::Can::Yes;
    const QString mark = can                              ? QStringLiteral("✓ ")
                         : c.can == coaching::Can::Weakly ? QStringLiteral("≈ ")
                                                          : QStringLiteral("– ");
    auto* label = toned(mark + q(c.title) + (c.why.empty() ? QString() : QStringLiteral(": ") + q(c.why)),
                        can                              ? "good"
                        : c.can == coaching::Can::Weakly ? "warn"
                                                         : "",
                        c.can == coaching::Can::No);
    label->setObjectName(QStringLiteral("claim_") + q(c.id));
    if (const auto day = submission_->details.overruled.find(c.id); !can && day != submission_->details.overruled.end())
      label->setText(label->text() + tr(" You chose to judge it anyway, on %1.").arg(q(day->second)));
    column_->addWidget(label);
  }
  for (const auto& t : check_->troubles) column_->addWidget(words(QStringLiteral("▲ ") + q(t.what), true));
  if (check_->slow_factor && submission_->slow_factor == 1) offerSlowMotion();
}

void SubmissionPanel::offerSlowMotion() {
  auto* slow = new QPushButton(tr("Treat as %1× slow motion").arg(*check_->slow_factor));
  slow->setObjectName(QStringLiteral("takeSlow"));
  slow->setToolTip(tr("Converts times and speeds to real time. Nothing changes until you press it"));
  connect(slow, &QPushButton::clicked, this, [this] {
    auto kept = library_.edit(submission_->id,
                              [slow = *check_->slow_factor](library::Submission& row) { row.slow_factor = slow; });
    if (!kept) return emit said(q(kept.error().sentence()));
    submission_ = std::move(*kept);
    emit changed();
    rebuild();
  });
  column_->addWidget(slow, 0, Qt::AlignLeft);
}

// Other clips of the same day may be the same set from other views.
void SubmissionPanel::addPair() {
  const auto films = library_.filmsOfSet(submission_->id);
  const auto all = library_.sameDay(*submission_);
  if (!films || !all || submission_->clip_hash.empty()) return;
  std::set<std::string> views{check_ ? check_->view : std::string()};
  for (const library::SetFilm& film : *films) {
    if (const auto view = viewOf(film.film)) views.insert(*view);
    addFilmOfSet(film);
  }
  for (const auto& s : *all) {
    if (s.pair && submission_->pair) continue;
    if (std::any_of(films->begin(), films->end(), [&](const auto& film) { return film.film.id == s.id; })) continue;
    const auto view = viewOf(s);
    if (!check_ || !view || views.contains(*view)) continue;
    const auto shift = alignedWith(s);
    auto* pair = new QPushButton(tr("Same set as %1, from the %2?").arg(q(s.clip_name), q(*view)));
    pair->setObjectName(QStringLiteral("pair"));
    pair->setToolTip(tr("Links the clips as one set from several angles"));
    connect(pair, &QPushButton::clicked, this, [this, id = s.id, shift] {
      changeSet(library_.joinSet(submission_->id, id, shift ? std::optional(shift->offset_s) : std::nullopt));
    });
    column_->addWidget(pair, 0, Qt::AlignLeft);
    if (!shift) continue;
    auto* likeness =
        words(shift->likeness >= tracing::kSameSet
                  ? tr("They move alike (%1 of 1): probably the same set.").arg(shift->likeness, 0, 'f', 2)
                  : tr("They don't move alike (%1 of 1): probably not the same set.").arg(shift->likeness, 0, 'f', 2),
              true);
    likeness->setObjectName(QStringLiteral("likeness"));
    column_->addWidget(likeness);
  }
}

void SubmissionPanel::addFilmOfSet(const library::SetFilm& film) {
  QString line = tr("The same set as %1.").arg(q(film.film.clip_name));
  if (const double shift = film.offset_s; shift != 0)
    line += (shift < 0 ? tr(" The same moment is %1 s earlier there; O shows both in the review.")
                       : tr(" The same moment is %1 s later there; O shows both in the review."))
                .arg(std::abs(shift), 0, 'f', 2);
  column_->addWidget(words(line));
  auto* part = new QPushButton(tr("Not the same set"));
  part->setObjectName(QStringLiteral("unpair"));
  part->setToolTip(tr("Takes that clip out of the set"));
  connect(part, &QPushButton::clicked, this, [this, id = film.film.id] { changeSet(library_.leaveSet(id)); });
  column_->addWidget(part, 0, Qt::AlignLeft);
}

void SubmissionPanel::changeSet(const Result<bool>& changed_set) {
  if (!changed_set) emit said(q(changed_set.error().sentence()));
  if (auto anew = library_.submission(submission_->id)) submission_ = std::move(*anew);
  emit changed();
  rebuild();
}

// From where another clip was filmed, if it was looked at.
std::optional<std::string> SubmissionPanel::viewOf(const library::Submission& other) {
  const auto json = library_.checkOf(other.clip_hash);
  if (!json || json->empty()) return std::nullopt;
  const auto check = coaching::checkFromJson(*json);
  return check ? std::optional(check->view) : std::nullopt;
}

std::optional<tracing::Aligned> SubmissionPanel::alignedWith(const library::Submission& other) {
  auto mine = library_.pulseOf(submission_->clip_hash), theirs = library_.pulseOf(other.clip_hash);
  if (!mine || !theirs) return std::nullopt;
  return tracing::aligned({std::move(*mine)}, {std::move(*theirs)});
}

}  // namespace jib::desk
