// SPDX-License-Identifier: GPL-3.0-or-later
// How a review is returned: to whom, what is in it, into a folder or by mail, and what is recorded of it.
#include <QFileDialog>
#include <QSettings>
#include <QStandardPaths>

#include "core/exchange/intake/importer.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/field_reader.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/review/strain_check.h"
#include "desk/library_page/gym_plates.h"
#include "desk/review/preview_dialog.h"
#include "desk/review/review_page.h"
#include "desk/review/set_films.h"
#include "desk/talk/talk_strip.h"
#include "desk/text.h"
#include "desk/units.h"

namespace jib::desk {
void ReviewPage::learnWhoWrote() {
  const auto& s = document_->submission();
  std::vector<library::MessageField> fields = exchange::proposedFields(s.message, s.received_on);
  if (s.message_id)
    if (auto message = library_.message(*s.message_id)) {
      fields = message->fields;
      address_ = message->from_address;
    }
  if (auto all = library_.addresses(s.athlete); address_.empty() && all && !all->empty()) address_ = all->front();
  reps_said_ = s.details.reps_said;
  if (const auto* reps = exchange::fieldNamed(fields, exchange::nameOf(exchange::Field::Reps)); reps && !reps_said_)
    reps_said_ = std::atoi(reps->value.c_str());
  if (auto care = exchange::careFor(library_, document_->athlete(), s)) document_->setCare(std::move(*care));
}

review::Surroundings ReviewPage::surroundings() const {
  review::Surroundings around;
  around.coach = library_.signer().value_or(library::CoachCard{});
  around.drills = coaching::DrillBook::forLibrary(library_.folder());
  around.to_address = address_;
  around.answers = exchange::answersFor(library_, document_->submission());
  around.earlier = threads_;
  around.care = document_->session().care();
  for (const SetFilms::Film& film : films_->films()) {
    around.films.push_back(film.is);
    around.film_analyses.push_back(film.analysis);
  }
  around.today = library::today();
  around.rack = gymRack(displayUnits().mass);
  around.shape = keptFilmShape();
  around.second_in_corner = keptSecondInCorner();
  around.own_sound = keptOwnSound();
  around.most_mb = keptMostMb();
  if (talk_) around.takes = talk_->takesForReply();
  return around;
}

drawing::ReplyContent ReviewPage::replyContent() const {
  return review::contentOf(document_->session(), surroundings());
}

void ReviewPage::askFolderAndReply() {
  QSettings settings;
  const QString last =
      settings.value(QStringLiteral("replyFolder"), QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation))
          .toString();
  const QString folder = QFileDialog::getExistingDirectory(this, tr("Save the reply to"), last);
  if (folder.isEmpty()) return;
  settings.setValue(QStringLiteral("replyFolder"), folder);
  writeReplyTo(folder + QLatin1Char('/') +
               q(library::folderNameFor(document_->athlete().name + " " + document_->submission().received_on)));
}

// The reply as it stands now: everything after is made from it. Nothing where it cannot be made.
std::optional<review::ReplyDraft> ReviewPage::draft() {
  if (!document_->analysis()) return std::nullopt;
  auto letters = exchange::LetterBook::forLibrary(library_.folder());
  if (!letters) {
    say(q(letters.error().sentence()), true);
    return std::nullopt;
  }
  auto drafted = review::draftOf(document_->session(), surroundings(), *letters);
  if (drafted) return std::move(*drafted);
  say(q(drafted.error().sentence()), true);
  return std::nullopt;
}

void ReviewPage::writeReplyTo(const QString& folder) {
  if (askBeforeStrain()) return;
  const auto drafted = draft();
  if (!drafted || !save()) return;
  if (!returns_->writeTo(*drafted, folder.toStdString())) return say(tr("This reply is already being written."), false);
  returning();
}

// True once it is on its way.
bool ReviewPage::returnByMail() {
  if (address_.empty()) {
    say(tr("No address for this athlete yet. Save the reply to a folder."), true);
    return false;
  }
  if (const auto coach = library_.signer(); coach && (coach->name.empty() || coach->address.empty())) {
    say(tr("Your name and address are missing. Add them under Settings (Ctrl+,)."), true);
    return false;
  }
  if (askBeforeStrain() || askBeforeSecond()) return false;
  const auto drafted = draft();
  if (!drafted || !save()) return false;
  if (!returns_->post(*drafted)) {
    say(tr("This reply is already being written."), false);
    return false;
  }
  returning();
  return true;
}

// A cue that asks a sore or a young lifter for more depth, a pause, more load or a max goes only when it is asked for
// twice, with what they wrote before the coach's eyes.
bool ReviewPage::askBeforeStrain() {
  // A mail may have told of pain since this review was opened.
  if (auto care = exchange::careFor(library_, document_->athlete(), document_->submission())) {
    const bool news = care->any() && !document_->session().care().any();
    if (news) {
      document_->setCare(*care);
      document_->sayAgain();
      for (const auto& sentence : exchange::careForCoach(*care, exchange::firstNameOf(document_->athlete().name)))
        say(q(sentence), true);
      return true;
    }
  }
  const auto asked = review::strainsToConfirm(document_->session());
  if (asked.empty()) return false;
  const QString question = q(asked);
  if (std::exchange(strain_asked_, question) == question) return false;
  say(question, true);
  return true;
}

// The athlete has a reply to this film already: a second one goes only when it is asked for twice.
bool ReviewPage::askBeforeSecond() {
  if (std::exchange(second_asked_, false)) return false;
  const auto sent = library_.outgoing();
  if (!sent) return false;
  for (const library::Outgoing& o : *sent)
    if (o.submission == document_->submission().id && o.kind == "reply" &&
        o.state == library::OutgoingState::HandedOver) {
      second_asked_ = true;
      say(tr("A reply to this clip was sent on %1. Press once more to send another.")
              .arg(q(library::spoken(o.handed_on.empty() ? o.made_on : o.handed_on))),
          true);
      return true;
    }
  return false;
}

void ReviewPage::returnAndNext() {
  if (returnByMail()) emit nextRequested(document_->submission().id.number);
}

void ReviewPage::returning() {
  status_->setText(tr("Writing the reply…"));
  progress_->setValue(0);
  refreshBusy();
}

// What was asked for on this page has come to its end.
void ReviewPage::returned(qlonglong submission, int revision, const QString& what) {
  if (submission != document_->submission().id.number) return;
  document_->setState(library::SubmissionState::Returned);
  if (auto fresh = library_.threads(document_->submission().athlete)) threads_ = *fresh;
  refreshFollowUp();
  refreshBusy();
  say(revision == document_->session().revision() ? what
                                                  : what + tr(" Changes you made after pressing Send aren't in it."),
      false);
}

void ReviewPage::connectReturns() {
  connect(returns_, &Returns::progressed, this, [this](double f) {
    if (returns_->isReturning(document_->submission().id)) progress_->setValue(static_cast<int>(1000 * f));
  });
  connect(returns_, &Returns::posted, this,
          [this](qlonglong id, int revision, const QString& address, const QString& file) {
            returned(id, revision, tr("Ready in the outbox, to %1 (Ctrl+O).").arg(address));
            if (id == document_->submission().id.number) emit replyPosted(file);
          });
  connect(returns_, &Returns::written, this, [this](qlonglong id, int revision, const QString& folder) {
    returned(id, revision, tr("The reply is in %1.").arg(folder));
    if (id == document_->submission().id.number) emit replyWritten(folder);
  });
  connect(returns_, &Returns::facesHidden, this, [this](qlonglong id, int others) {
    if (id != document_->submission().id.number) return;
    const QString who = others > 0 ? tr("The athlete's face is blurred, and %n more.", nullptr, others)
                                   : tr("The athlete's face is blurred. We didn't spot anyone else.");
    say(status_->text() + QStringLiteral(" ") + who +
            tr(" Watch it once before it goes: Blur (D) covers a face we missed."),
        false);
  });
  connect(returns_, &Returns::tooHeavy, this, [this](qlonglong id, double mb) {
    if (id == document_->submission().id.number)
      say(tr("It can't be made as light as %1 MB: this is the lightest that can be watched. Leave a cue out, or send a "
             "link.")
              .arg(mb),
          true);
  });
  connect(returns_, &Returns::failed, this, [this](qlonglong id, const QString& sentence) {
    refreshBusy();
    if (id == document_->submission().id.number) say(sentence, true);
  });
}

void ReviewPage::preview() {
  if (!document_->analysis()) return;
  auto scratch = std::make_shared<std::unique_ptr<QTemporaryDir>>(std::make_unique<QTemporaryDir>());
  const std::filesystem::path path = (*scratch)->path().toStdString();
  previewing_.start<drawing::ReplyFiles>(
      tr("Making the preview…"),
      [a = document_->analysis(), content = replyContent(), path](Task& task) {
        return drawing::writeReply(*a, content, path, task);
      },
      [this, scratch](Result<drawing::ReplyFiles> files) {
        if (!files) {
          if (files.error().code != ErrorCode::Cancelled) say(q(files.error().sentence()), true);
          return;
        }
        auto* dialog = new PreviewDialog(std::move(*scratch), *files, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
      });
}

}  // namespace jib::desk
