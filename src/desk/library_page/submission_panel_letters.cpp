// SPDX-License-Identifier: GPL-3.0-or-later
// What is written to an athlete from the queue, and what was. What is shown of a submission is in submission_panel.cpp.
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

#include "core/base/resources.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/intake/young.h"
#include "core/exchange/letters/filming_request.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/mail/field_reader.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "core/lifts/which_lift.h"
#include "desk/library_page/commands/change_submission.h"
#include "desk/library_page/commands/send_letter.h"
#include "desk/library_page/letter_box.h"
#include "desk/library_page/lift_card.h"
#include "desk/library_page/load_card.h"
#include "desk/library_page/removal_card.h"
#include "desk/library_page/submissions_model.h"
#include "desk/library_page/thread_view.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "drawing/picture.h"

namespace jib::desk {
namespace {

using exchange::Field;
using library::SubmissionState;

}  // namespace

// What went out about this submission, newest first.
void SubmissionPanel::addSent() {
  auto all = library_.outgoing();
  if (!all) return;
  bool any = false;
  for (const auto& o : *all) {
    if (o.submission != submission_->id || o.state == library::OutgoingState::TakenBack) continue;
    if (!any) column_->addWidget(heading(tr("Sent to them")));
    any = true;
    auto* line = words(
        tr("%1 · %2 · %3")
            .arg(q(library::spoken(o.made_on)), q(o.subject),
                 o.state == library::OutgoingState::Waiting ? tr("ready in the outbox") : tr("opened in mail app")));
    line->setObjectName(QStringLiteral("written"));
    column_->addWidget(line);
  }
  const auto replies = library_.folder() / "replies" / std::to_string(submission_->id.number);
  std::error_code error;
  if (!std::filesystem::exists(replies, error)) return;
  auto* open = new QPushButton(tr("Show what was sent"));
  open->setObjectName(QStringLiteral("showReturned"));
  open->setToolTip(tr("Clip, page and stills of the reply, in their folder"));
  connect(open, &QPushButton::clicked, this, [this, replies] { emit openReplyRequested(q(replies.string())); });
  column_->addWidget(open, 0, Qt::AlignLeft);
}

exchange::Dispatch SubmissionPanel::letterOf(exchange::Letter letter) const {
  exchange::Dispatch out;
  out.letter = std::move(letter);
  out.to_address = address().toStdString();
  if (athlete_) {
    out.to_name = athlete_->name;
    out.athlete = athlete_->id;
  }
  if (submission_) {
    out.submission = submission_->id;
    out.answers = exchange::answersFor(library_, *submission_);
  }
  return out;
}

// One step of the queue's history: the letter, and that words were answered by it.
void SubmissionPanel::send(const exchange::Dispatch& letter) {
  const auto told = [this](library::SubmissionId, const QString& trouble) {
    if (!trouble.isEmpty()) {
      letter_->complain(trouble);
      emit said(trouble);
    }
    emit changed();
  };
  const bool answers_words = submission_ && submission_->kind != library::SubmissionKind::Clip &&
                             submission_->state != SubmissionState::Returned;
  undo_.beginMacro(tr("write to %1").arg(q(letter.to_address)));
  auto* sending = new SendLetter(library_, letter, told);
  undo_.push(sending);
  bool sent = false;
  if (auto all = library_.outgoing(); all && !all->empty())
    sent = all->front().to_address == letter.to_address && all->front().subject == letter.letter.subject;
  if (sent && answers_words) {
    library::Submission to = *submission_;
    to.state = SubmissionState::Returned;
    undo_.push(new ChangeSubmission(library_, tr("answered"), *submission_, to, told));
  }
  undo_.endMacro();
  if (sent) emit said(tr("In the outbox. Send it from there; Ctrl+Z undoes it."));
}

QString SubmissionPanel::address() const {
  if (message_ && !message_->from_address.empty()) return q(message_->from_address);
  if (!athlete_) return {};
  auto all = library_.addresses(athlete_->id);
  return all && !all->empty() ? q(all->front()) : QString();
}

std::string SubmissionPanel::firstName() const {
  return athlete_ ? exchange::firstNameOf(athlete_->name) : std::string();
}

// The coach's own words; those that ship when they cannot be read, and why is said.
exchange::LetterBook SubmissionPanel::letters() {
  const std::string coach = library::signatureOf(library_.signer().value_or(library::CoachCard{}));
  auto own = exchange::LetterBook::forLibrary(library_.folder());
  if (own) return own->signedBy(coach);
  emit said(q(own.error().sentence()));
  auto shipped = exchange::LetterBook::load(resource("letters.toml"));
  return shipped ? shipped->signedBy(coach) : exchange::LetterBook();
}

// A frame of the clip the last cue was asked from, to stand the phone by.
std::string SubmissionPanel::oldFrame() {
  auto threads = library_.threads(submission_->athlete);
  if (!threads || threads->empty()) return {};
  // It goes out as it is.
  const auto whose = library_.athlete(submission_->athlete);
  if (!whose || library::hidesFaces(exchange::profileAsKnown(library_, *whose), library::today())) return {};
  auto then = library_.submission(threads->front().asked_in);
  auto reader = then ? footage::FrameReader::open(library_.clipFile(*then), footage::Workers::One)
                     : Result<footage::FrameReader>(fail(then.error()));
  if (!reader) return {};
  auto review = library_.review(then->id);
  // What the coach looked at last shows the lift; the first frame may show a walk-in.
  const std::size_t frame = reader->info().nearestFrame(review ? review->play_head_s : 0);
  if (!reader->seekBefore(frame)) return {};
  auto picture = reader->next(footage::Pixels::Colour, frame);
  if (!picture || !*picture) return {};
  constexpr int kWidth = 480;
  const QImage image = drawing::toImage((*picture)->picture).scaledToWidth(kWidth, Qt::SmoothTransformation);
  QByteArray png;
  QBuffer out(&png);
  return image.save(&out, "PNG") ? png.toStdString() : std::string();
}

void SubmissionPanel::writeReshoot(bool to_type) {
  if (!submission_) return;
  exchange::Letter letter;
  if (!submission_->details.film_gone_on.empty()) return emit said(q(library::filmGone(*submission_)));
  if (submission_->clip_hash.empty())
    letter = letters().missingFilm(firstName(), submission_->reason);
  else if (check_)
    letter = letters().filmAgain(firstName(), *check_);
  if (letter.text.empty()) return emit said(tr("The clip is good enough; there is nothing to ask for."));
  letter_->write(letterOf(std::move(letter)), {}, to_type);
  ensureWidgetVisible(letter_);
}

void SubmissionPanel::writeAnswer() {
  if (!submission_) return;
  QString about =
      message_ && !message_->subject.empty() ? q(message_->subject) : tr("Your %1").arg(q(submission_->lift));
  if (submission_->lift.empty() && (!message_ || message_->subject.empty())) about = tr("Your message");
  if (message_ && !about.startsWith(QStringLiteral("Re:"), Qt::CaseInsensitive)) about = QStringLiteral("Re: ") + about;
  letter_->write(letterOf(letters().blank(firstName(), about.toStdString())));
  ensureWidgetVisible(letter_);
}

// Whose filming request goes out while nobody has said which lift it is: the first of all.
std::string SubmissionPanel::requestLift() const {
  return std::string(lifts::definition(exchange::liftIdOf(*submission_)).name);
}

void SubmissionPanel::writeAskToShow(const std::string& claim) {
  if (!submission_) return;
  if (auto request = exchange::filmingRequest(requestLift(), library_.folder()))
    writeFilmingRequest(request->questionFor(claim), false);
}

// `same_again`: with no question, the last cue is what the next film must show.
void SubmissionPanel::writeFilmingRequest(const std::string& question, bool same_again) {
  auto request = exchange::filmingRequest(requestLift(), library_.folder());
  if (!request) return emit said(q(request.error().sentence()));
  std::optional<exchange::SameAgain> again;
  // What was asked last is what the next film must show, from where it was seen.
  if (auto threads = library_.threads(submission_->athlete);
      same_again && question.empty() && threads && !threads->empty())
    again = exchange::SameAgain{threads->front().wording, threads->front().asked_on, submission_->load_kg};
  const auto asked = request->asking(question);
  letter_->write(letterOf({asked.title, exchange::requestText(asked, firstName(), again)}),
                 exchange::requestPage(asked, firstName(), again, again ? oldFrame() : std::string()));
  ensureWidgetVisible(letter_);
}

void SubmissionPanel::addLetters() {
  column_->addWidget(heading(tr("Write to the athlete")));
  auto* box = new QWidget;
  auto* grid = new QGridLayout(box);
  grid->setContentsMargins(0, 0, 0, 0);
  const auto button = [&](int row, int column, const QString& text, const char* name, auto run) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    connect(b, &QPushButton::clicked, this, run);
    grid->addWidget(b, row, column);
  };
  button(0, 0, tr("Answer…"), "answer", [this] { writeAnswer(); });
  if (submission_->kind != library::SubmissionKind::Clip) {
    column_->addWidget(box);
    return;
  }
  button(0, 1, tr("Ask for a new clip…"), "reshoot", [this] { writeReshoot(); });
  button(1, 1, tr("Got it…"), "receipt", [this] {
    letter_->write(letterOf(letters().receipt(firstName())));
    ensureWidgetVisible(letter_);
  });
  auto* film = new QPushButton(tr("How to film…"));
  film->setObjectName(QStringLiteral("howToFilm"));
  auto* questions = new QMenu(film);
  questions->setObjectName(QStringLiteral("filmQuestions"));
  const auto ask = [this](const std::string& question) { writeFilmingRequest(question); };
  questions->addAction(tr("In general"), this, [ask] { ask({}); });
  if (auto request = exchange::filmingRequest(requestLift(), library_.folder()))
    for (const auto& question : request->questions)
      questions->addAction(q(question.title), this, [ask, id = question.id] { ask(id); });
  film->setMenu(questions);
  grid->addWidget(film, 1, 0);
  column_->addWidget(box);
}

}  // namespace jib::desk
