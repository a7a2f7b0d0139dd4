// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>

#include "core/coaching/clip_check.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/field_reader.h"
#include "core/library/library.h"
#include "core/tracing/sightings/lift_pulse.h"

class QUndoStack;
class QVBoxLayout;

namespace jib::desk {

class LetterBox;

// The submission chosen in the queue, before it is opened: message and what was read from it, what the
// clip carries, and words ready for what is missing.
class SubmissionPanel : public QScrollArea {
  Q_OBJECT

 public:
  // Letters and what is chosen go onto `undo`, which outlives the panel.
  SubmissionPanel(library::Library& library, QUndoStack& undo, QWidget* parent = nullptr);

  void show(std::optional<library::SubmissionId> id);
  std::optional<library::SubmissionId> shown() const { return id_; }
  // Words for another film. `to_type`: the cursor goes into them.
  void writeReshoot(bool to_type = true);
  // An answer of the coach's own.
  void writeAnswer();
  void writeAskToShow(const std::string& claim);  // asks for the view in which it shows
  // Says what goes, and asks.
  void askToDelete();

 signals:
  void changed();  // the library's rows are not what they were
  void said(const QString& sentence);
  void keysWanted();  // the letter is done with: the queue has the keys again
  void openReplyRequested(const QString& folder);
  void lookAgainRequested();

 private:
  void rebuild();
  void addMessage();
  void addLift();
  void addFailure();
  void addSent();
  void addDelete();
  void confirmAll();
  bool isKnown(exchange::Field f) const;
  void send(const exchange::Dispatch& letter);
  exchange::Dispatch letterOf(exchange::Letter letter) const;
  QString lastContact();
  void addNamesakes();
  void addCare();
  void addUnit();
  void addFields();
  void addReadFields();
  void addUnknownFields();
  void addLoad();
  void addKit();
  void addTurn();
  void addAgreed();
  void addCheck();
  void offerSlowMotion();
  void addPair();
  void addFilmOfSet(const library::SetFilm& film);
  void changeSet(const Result<bool>& changed_set);
  std::optional<std::string> viewOf(const library::Submission& other);
  void addLetters();
  void confirm(std::size_t field, const QString& typed);
  void typeIn(exchange::Field field, const QString& typed);
  void takeIntoSubmission(const library::MessageField& field);
  std::vector<library::MessageField> fields() const;
  exchange::LetterBook letters();
  std::string oldFrame();
  std::string requestLift() const;
  void writeFilmingRequest(const std::string& question, bool same_again = true);
  std::optional<tracing::Aligned> alignedWith(const library::Submission& other);
  QString address() const;
  std::string firstName() const;

  library::Library& library_;
  QUndoStack& undo_;
  std::optional<library::SubmissionId> id_;
  std::optional<library::Submission> submission_;
  std::optional<library::Athlete> athlete_;
  std::optional<library::Message> message_;
  std::optional<coaching::ClipCheck> check_;
  bool kit_open_ = false;
  bool counting_ = false;  // the drawn bar is open
  QVBoxLayout* column_;
  LetterBox* letter_;
};

}  // namespace jib::desk
