// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/talk/voice_source.h"

#include <QAudioFormat>
#include <QAudioSource>
#include <QElapsedTimer>
#include <QMediaDevices>
#include <QTimer>
#include <algorithm>
#include <cmath>
#include <cstring>

#include "core/footage/sound.h"
#include "core/footage/wav_writer.h"

namespace jib::desk {
namespace {

constexpr int kEvery_ms = 20;

class Microphone : public VoiceSource {
 public:
  bool start(QString& trouble) override {
    const auto device = QMediaDevices::defaultAudioInput();
    if (device.isNull()) {
      trouble = tr("No microphone found. Plug one in, then record again.");
      return false;
    }
    QAudioFormat format;
    format.setSampleRate(footage::WavWriter::kRate_hz);
    format.setChannelCount(1);
    format.setSampleFormat(QAudioFormat::Int16);
    if (!device.isFormatSupported(format)) {
      trouble = tr("%1 can't record at 48 kHz. Choose another microphone in the system's settings.")
                    .arg(device.description());
      return false;
    }
    source_ = std::make_unique<QAudioSource>(device, format);
    source_->setBufferSize(footage::WavWriter::kRate_hz * 2 * kEvery_ms / 1000 * 4);
    in_ = source_->start();
    if (!in_ || source_->error() != QAudio::NoError) {
      trouble =
          tr("%1 is busy or blocked. Close whatever else is recording, then try again.").arg(device.description());
      source_.reset();
      return false;
    }
    connect(in_, &QIODevice::readyRead, this, &Microphone::read);
    connect(source_.get(), &QAudioSource::stateChanged, this, [this](QAudio::State state) {
      if (state == QAudio::StoppedState && source_ && source_->error() != QAudio::NoError)
        emit lost(tr("The microphone is gone. What you recorded so far is saved."));
    });
    return true;
  }
  void stop() override {
    if (!source_) return;
    read();
    disconnect(source_.get(), nullptr, this, nullptr);
    source_->stop();
    source_.reset();
    in_ = nullptr;
  }

 private:
  void read() {
    if (!in_) return;
    const QByteArray bytes = in_->readAll();
    std::vector<qint16> samples(static_cast<std::size_t>(bytes.size()) / 2);
    std::memcpy(samples.data(), bytes.constData(), samples.size() * 2);
    if (!samples.empty()) emit heard(samples);
  }

  std::unique_ptr<QAudioSource> source_;
  QIODevice* in_ = nullptr;
};

class FromFile : public VoiceSource {
 public:
  explicit FromFile(QString file) : file_(std::move(file)) {
    timer_.setInterval(kEvery_ms);
    timer_.setTimerType(Qt::PreciseTimer);
    connect(&timer_, &QTimer::timeout, this, &FromFile::send);
  }
  bool start(QString& trouble) override {
    auto sound = footage::readSound(file_.toStdString());
    if (!sound) {
      trouble = QString::fromStdString(sound.error().sentence());
      return false;
    }
    sound_ = std::move(*sound);
    sent_ = 0;
    since_.start();
    timer_.start();
    return true;
  }
  void stop() override {
    if (timer_.isActive()) send();
    timer_.stop();
  }

 private:
  void send() {
    const auto due = static_cast<std::size_t>(since_.elapsed() * footage::Sound::kRate_hz / 1000);
    std::vector<qint16> samples;
    for (; sent_ < due; ++sent_) {
      const float v = sent_ < sound_.samples.size() ? sound_.samples[sent_] : 0.0F;
      samples.push_back(static_cast<qint16>(std::lround(std::clamp(v, -1.0F, 1.0F) * 32767)));
    }
    if (!samples.empty()) emit heard(samples);
  }

  QString file_;
  footage::Sound sound_;
  std::size_t sent_ = 0;
  QElapsedTimer since_;
  QTimer timer_;
};

}  // namespace

std::unique_ptr<VoiceSource> microphone() {
  return std::make_unique<Microphone>();
}
std::unique_ptr<VoiceSource> voiceFromFile(const QString& file) {
  return std::make_unique<FromFile>(file);
}
std::unique_ptr<VoiceSource> usualVoice() {
  const QString file = qEnvironmentVariable("JIB_VOICE_FILE");
  return file.isEmpty() ? microphone() : voiceFromFile(file);
}

}  // namespace jib::desk
