// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <memory>
#include <vector>

namespace jib::desk {

// Where the coach's voice comes from: a microphone, or a file that stands in for one. Gives what is heard as it comes:
// one channel, 16 bits, footage::WavWriter::kRate_hz samples a second.
class VoiceSource : public QObject {
  Q_OBJECT

 public:
  using QObject::QObject;
  // False, with a sentence for the coach, when there is nothing to hear with.
  virtual bool start(QString& trouble) = 0;
  virtual void stop() = 0;

 signals:
  void heard(const std::vector<qint16>& samples);
  void lost(const QString& sentence);  // it is gone in the middle; nothing more comes
};

// The microphone the system has chosen.
std::unique_ptr<VoiceSource> microphone();
// A sound file, played in real time; silence after its end.
std::unique_ptr<VoiceSource> voiceFromFile(const QString& file);
// The microphone, or the file that JIB_VOICE_FILE names where there is none.
std::unique_ptr<VoiceSource> usualVoice();

}  // namespace jib::desk
