// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QTimer>
#include <memory>

#include "desk/review/review_document.h"
#include "desk/talk/take_recorder.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QToolButton;

namespace jib::desk {

// The reply talked through: a chapter is chosen, recorded while the clip is played, stepped, slowed and drawn on, and
// recorded again when it did not come out well. The reply's clip then follows the recording.
class TalkStrip : public QFrame {
  Q_OBJECT

 public:
  TalkStrip(ReviewDocument& document, Player& player, const std::filesystem::path& library, QWidget* parent = nullptr);
  ~TalkStrip() override;

  // What to hear with; without it the microphone, or the file that stands in for one.
  void setVoice(std::unique_ptr<VoiceSource> voice) { voice_ = std::move(voice); }
  void setCountdown(int seconds) { countdown_s_ = seconds; }
  // Starts the countdown; once more stops it, or what is being recorded.
  void toggleRecording();
  bool recording() const { return recorder_.recording(); }
  bool busy() const { return recording() || counting_.isActive(); }
  // Those the reply's clip is made of; none while the coach does not want them in it.
  std::vector<review::Take> takesForReply() const;
  // What is cut off the recording of the chapter that is chosen, and its words; and where it comes in the clip.
  void edit();
  void move(int by);  // -1: before the one ahead of it
  // All of them, changed as a whole: for undo.
  std::vector<review::Take> exchange(std::vector<review::Take> to);

 signals:
  void said(const QString& sentence, bool trouble);
  void closeRequested();
  void changed();
  void recordingChanged(bool on);

 private:
  void buildRow();
  void offerChapters();
  std::vector<std::string> chapters() const;
  std::string chapter() const;
  void begin();
  void finish();
  void change(const QString& text, std::vector<review::Take> to);
  void refresh();

  ReviewDocument& document_;
  Player& player_;
  review::TakeShelf shelf_;
  TakeRecorder recorder_;
  std::vector<std::string> offered_;  // chapters, in their order
  std::unique_ptr<VoiceSource> voice_;
  QString unreadable_;  // why what was recorded before can't be read; then nothing is recorded
  QTimer counting_, clock_;
  int countdown_s_ = 3, left_s_ = 0;
  QComboBox* chapter_;
  QPushButton* record_;
  QToolButton *remove_, *edit_, *earlier_, *later_;
  QProgressBar* level_;
  QLabel* state_;
  QCheckBox* use_;
};

}  // namespace jib::desk
