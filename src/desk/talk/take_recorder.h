// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <memory>
#include <optional>

#include "core/footage/wav_writer.h"
#include "core/review/take_shelf.h"
#include "desk/review/player.h"
#include "desk/talk/voice_source.h"

namespace jib::desk {

// Records one take: the voice into a sound file, and how the picture stood and ran meanwhile. Both are on the disk as
// they come.
class TakeRecorder : public QObject {
  Q_OBJECT

 public:
  TakeRecorder(Player& player, QObject* parent = nullptr);

  // Errors, as a sentence: no microphone; the disk.
  Result<bool> begin(review::TakeShelf& shelf, const std::string& chapter, VoiceSource& voice);
  // What was recorded; none where nothing was heard yet.
  std::optional<review::Take> end();
  bool recording() const { return wav_.has_value(); }
  double length_s() const { return wav_ ? wav_->length_s() : 0; }

 signals:
  void level(double peak);                    // 0 to 1, as it is heard
  void interrupted(const QString& sentence);  // it had to stop; end() gives what there is

 private:
  void hear(const std::vector<qint16>& samples);
  void look();
  void note(double rate);
  double now_s() const;
  double rate() const;
  void giveUp(const QString& sentence);

  Player& player_;
  VoiceSource* voice_ = nullptr;
  std::optional<footage::WavWriter> wav_;
  review::Take take_;
  QElapsedTimer since_;  // the last sound came
  double heard_s_ = 0;   // of sound until then
  bool stopping_ = false;
};

}  // namespace jib::desk
