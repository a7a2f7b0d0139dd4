// SPDX-License-Identifier: GPL-3.0-or-later
// How a review is returned: to whom, what is in it, into a folder or by mail, and what is recorded of it.
#include <fmt/format.h>

#include <QFileDialog>
#include <QSettings>
#include <QStandardPaths>
#include <set>

#include "core/coaching/two_films.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/field_reader.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/library/follow_up.h"
#include "desk/review/history_panel.h"
#include "desk/review/preview_dialog.h"
#include "desk/review/review_page.h"
#include "desk/text.h"

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
  care_ = exchange::careFor(document_->athlete().profile, fields, s.received_on);
}

drawing::ReplyContent ReviewPage::replyContent() const {
  const auto a = document_->analysis();
  drawing::ReplyContent c;
  c.athlete = document_->athlete().name;
  c.filmed_on = document_->submission().received_on;
  c.written_on = library::today();
  if (auto coach = library_.coach()) c.coach = coach->name;
  if (document_->submission().load_kg) c.load = coaching::bothUnits(*document_->submission().load_kg);
  c.greeting = document_->choice().greeting.toStdString();
  c.keep = a->proposal.keep;
  c.cues = coaching::withBasis(document_->choice().cues, a->findings);
  c.change_nothing = document_->choice().change_nothing;
  c.cautions = exchange::careForAthlete(care_);
  c.all_numbers = document_->choice().all_numbers;
  c.sketch = document_->sketch();
  std::erase_if(c.sketch.shapes, [](const coaching::Shape& s) { return s.proposed; });
  c.closing = document_->choice().closing.toStdString();
  c.next = filmNext();
  for (const auto& t : library::measuredNow(threads_, document_->submission(), *a, document_->style())) {
    if (t.asked_in == document_->submission().id) continue;
    c.follow_up.push_back({library::spoken(t.asked_on), t.title, thenText(t).toStdString(), nowText(t).toStdString(),
                           std::string(titleOf(t.state)) + (t.why_not.empty() ? "" : ": " + t.why_not), t.measure});
  }
  return c;
}

// What to film next, and when: so that what was asked can be seen in the same terms, and before a meet rather than
// after.
std::string ReviewPage::filmNext() const {
  const auto& choice = document_->choice();
  const auto& s = document_->submission();
  if (choice.change_nothing || choice.cues.empty()) return {};
  int weeks = choice.cues.front().weeks;
  for (const auto& cue : choice.cues) weeks = std::min(weeks, cue.weeks);
  const std::string today = library::today();
  std::string day = library::reviewDay(today, weeks);
  const std::string& meet = document_->athlete().profile.meet_on;
  const bool before_meet = library::isDate(meet) && meet >= today && meet < day;
  std::string text = before_meet ? "Film it again a few days before your meet on " + library::spoken(meet)
                                 : "Film it again around " + library::spoken(day);
  text += s.load_kg ? ", at " + coaching::bothUnits(*s.load_kg) : std::string(", at the same load");
  const lifts::LiftDefinition& lift = document_->lift();
  const auto& front = document_->analysis()->trace.front;
  text += front ? fmt::format(": three reps, straight {}, {} and both ends of the bar in the picture.",
                              coaching::filmedFrom(*document_->analysis()),
                              lift.body.lying ? "your arms" : "your whole body")
          : document_->analysis()->isTraced()
              ? fmt::format(": three reps, square from the side, the lens {}, {} in the picture.", lift.lens, lift.seen)
              : std::string(": three reps, from the same place as this time.");
  const auto a = document_->analysis();
  std::set<std::string_view> asked;
  for (const coaching::Cue& cue : choice.cues) {
    const coaching::OtherFilm* film = coaching::filmOf(*a, cue.measure);
    if (!film || !film->analysis->trace.front || !asked.insert(coaching::filmedFrom(*film->analysis)).second) continue;
    text += fmt::format(" And once more straight {}, with {} and both ends of the bar in the picture.",
                        coaching::filmedFrom(*film->analysis), lift.body.lying ? "both arms" : "both feet");
  }
  return text;
}

void ReviewPage::askFolderAndReply() {
  QSettings settings;
  const QString last =
      settings.value(QStringLiteral("replyFolder"), QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation))
          .toString();
  const QString folder = QFileDialog::getExistingDirectory(this, tr("Where does the reply go?"), last);
  if (folder.isEmpty()) return;
  settings.setValue(QStringLiteral("replyFolder"), folder);
  writeReplyTo(folder + QLatin1Char('/') +
               q(library::folderNameFor(document_->athlete().name + " " + document_->submission().received_on)));
}

void ReviewPage::writeReplyTo(const QString& folder) {
  writeReply(folder, [this, folder](const drawing::ReplyFiles&) {
    if (!recordReply()) return;
    say(tr("The reply is in %1").arg(folder), false);
    emit replyWritten(folder);
  });
}

void ReviewPage::returnByMail() {
  if (address_.empty()) return say(tr("No address of this athlete is known; return the reply into a folder."), true);
  const auto folder = library_.folder() / "replies" / std::to_string(document_->submission().id.number);
  writeReply(QString::fromStdString(folder.string()), [this](const drawing::ReplyFiles& files) { post(files); });
}

void ReviewPage::returnAndNext() {
  then_next_ = true;
  returnByMail();
}

void ReviewPage::preview() {
  then_next_ = false;
  auto scratch = std::make_shared<std::unique_ptr<QTemporaryDir>>(std::make_unique<QTemporaryDir>());
  const QString folder = (*scratch)->path();
  writeReply(folder, [this, scratch](const drawing::ReplyFiles& files) {
    auto* dialog = new PreviewDialog(std::move(*scratch), files, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
  });
}

void ReviewPage::post(const drawing::ReplyFiles& files) {
  auto coach = library_.coach();
  if (!coach) return say(q(coach.error().sentence()), true);
  auto letters = exchange::LetterBook::forLibrary(library_.folder());
  if (!letters) return say(q(letters.error().sentence()), true);
  const auto content = replyContent();
  exchange::ReplyWords told;
  told.lift = document_->submission().lift;
  told.date = library::spoken(document_->submission().received_on);
  told.greeting = document_->choice().greeting.toStdString();
  told.keep = document_->analysis()->proposal.keep;
  told.cues = content.cues;
  told.change_nothing = document_->choice().change_nothing;
  told.cautions = content.cautions;
  told.next = content.next;
  told.closing = content.closing;
  exchange::Dispatch reply;
  reply.letter = letters->signedBy(coach->name).reply(exchange::firstNameOf(document_->athlete().name), told);
  reply.kind = "reply";
  reply.to_name = document_->athlete().name;
  reply.to_address = address_;
  reply.athlete = document_->athlete().id;
  reply.submission = document_->submission().id;
  reply.answers = exchange::answersFor(library_, document_->submission());
  reply.files = {files.clip, files.html, files.pdf};
  auto out = exchange::dispatch(library_, *coach, reply, library::today());
  // What did not reach the outbox was not returned, and stays open in the queue.
  if (!out) return say(q(out.error().sentence()), true);
  if (!recordReply()) return;
  say(tr("In the outbox, to %1. Look at it there before it goes (Ctrl+O).").arg(q(address_)), false);
  emit replyPosted(q(library_.outgoingFile(*out).string()));
  if (std::exchange(then_next_, false)) emit nextRequested(document_->submission().id.number);
}

void ReviewPage::writeReply(const QString& folder, std::function<void(const drawing::ReplyFiles&)> then) {
  const auto a = document_->analysis();
  if (!a) return;
  const auto content = replyContent();
  const std::filesystem::path path = folder.toStdString();
  jobs_.start<drawing::ReplyFiles>(
      tr("Writing the reply…"), [a, content, path](Task& task) { return drawing::writeReply(*a, content, path, task); },
      [this, then](Result<drawing::ReplyFiles> files) {
        if (!files) {
          if (files.error().code != ErrorCode::Cancelled) say(q(files.error().sentence()), true);
          return;
        }
        then(*files);
      });
}

// Where the coach clicked hip crease or knee's top, and what the placed points told of the limbs, stays known of the
// athlete: the next clip begins with it.
Result<bool> ReviewPage::rememberBody() {
  const auto& trace = document_->analysis()->trace;
  const bool clicked = trace.flesh.crease_clicked || trace.flesh.knee_top_clicked;
  const bool built = trace.body && trace.body->build;
  if (!clicked && !built) return true;
  auto athlete = library_.athlete(document_->submission().athlete);
  if (!athlete) return fail(athlete.error());
  if (clicked) athlete->profile.flesh = trace.flesh;
  if (built) athlete->profile.build = trace.body->build;
  return library_.updateAthlete(*athlete);
}

// Films that were judged as one are answered as one.
Result<bool> ReviewPage::returnSet() {
  const auto a = document_->analysis();
  for (const FilmOfSet& film : set_films_) {
    const auto joined = std::find_if(a->others.begin(), a->others.end(), [&](const coaching::OtherFilm& o) {
      return o.analysis == film.analysis && !o.joined.empty();
    });
    if (joined == a->others.end()) continue;
    auto other = library_.submission(film.is.film.id);
    if (!other) return fail(other.error());
    if (other->state == library::SubmissionState::Returned) continue;
    other->state = library::SubmissionState::Returned;
    other->reason = "Answered together with " + document_->submission().clip_name + ".";
    if (auto kept = library_.updateSubmission(*other); !kept) return kept;
  }
  return true;
}

// The cues become threads, and the earlier threads have been measured again by this film.
bool ReviewPage::recordReply() {
  // Another set or style may have been chosen since the clip was traced: what was returned is what is kept.
  if (document_->analysis()->isTraced())
    if (auto kept = library_.saveResults(document_->submission().id, *document_->analysis()); !kept)
      say(q(kept.error().sentence()), true);
  const auto threads = library::threadsFor(document_->submission(), document_->choice().cues, library::today());
  save();
  const auto refused = [this](const Error& why) {
    say(q(why.sentence()), true);
    return false;
  };
  for (const auto& t :
       library::measuredNow(threads_, document_->submission(), *document_->analysis(), document_->style()))
    if (t.asked_in != document_->submission().id)
      if (auto kept = library_.updateThread(t); !kept) return refused(kept.error());
  if (auto recorded = library_.recordReply(document_->submission().id, threads); !recorded)
    return refused(recorded.error());
  document_->setState(library::SubmissionState::Returned);
  if (auto told = returnSet(); !told) return refused(told.error());
  if (auto kept = rememberBody(); !kept) return refused(kept.error());
  if (auto fresh = library_.threads(document_->submission().athlete)) threads_ = *fresh;
  refreshFollowUp();
  return true;
}

}  // namespace jib::desk
