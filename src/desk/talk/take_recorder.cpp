// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/talk/take_recorder.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "desk/text.h"

namespace jib::desk {

TakeRecorder::TakeRecorder(Player& player, QObject* parent) : QObject(parent), player_(player) {
  connect(&player_, &Player::frameChanged, this, &TakeRecorder::look);
  connect(&player_, &Player::playingChanged, this, &TakeRecorder::look);
}

Result<bool> TakeRecorder::begin(review::TakeShelf& shelf, const std::string& chapter, VoiceSource& voice) {
  JIB_ASSERT(!wav_);
  const auto file = shelf.nextSound();
  if (!file) return fail(file.error());
  auto wav = footage::WavWriter::create(*file);
  if (!wav) return fail(wav.error());
  if (auto begun = review::TakeShelf::begin(*file, chapter); !begun) return begun;
  wav_.emplace(std::move(*wav));
  take_ = {*file, chapter, 0, {}};
  heard_s_ = 0;
  since_.start();
  take_.plays.push_back({0, player_.time(), rate()});
  if (auto noted = review::TakeShelf::note(*file, take_.plays.back()); !noted) {
    wav_.reset();
    return noted;
  }
  voice_ = &voice;
  connect(voice_, &VoiceSource::heard, this, &TakeRecorder::hear);
  connect(voice_, &VoiceSource::lost, this, &TakeRecorder::giveUp);
  QString trouble;
  if (voice.start(trouble)) return true;
  disconnect(voice_, nullptr, this, nullptr);
  wav_.reset();
  return fail(ErrorCode::WrongUse, trouble.toStdString());
}

std::optional<review::Take> TakeRecorder::end() {
  if (!wav_) return std::nullopt;
  stopping_ = true;
  voice_->stop();
  stopping_ = false;
  disconnect(voice_, nullptr, this, nullptr);
  const bool heard = wav_->length_s() > 0;
  const auto finished = wav_->finish();
  wav_.reset();
  // What could not be finished is found at the next start: sound and course lie there.
  if (!heard || !finished) return std::nullopt;
  return take_;
}

void TakeRecorder::hear(const std::vector<qint16>& samples) {
  if (!wav_) return;
  if (auto added = wav_->add(samples); !added && !stopping_) return giveUp(q(added.error().sentence()));
  heard_s_ = wav_->length_s();
  since_.restart();
  int peak = 0;
  for (const qint16 s : samples) peak = std::max(peak, std::abs(static_cast<int>(s)));
  emit level(peak / 32768.0);
}

// On the sound's own clock, so that both stay together however late a buffer comes.
double TakeRecorder::now_s() const {
  return heard_s_ + static_cast<double>(since_.elapsed()) / 1000;
}

double TakeRecorder::rate() const {
  if (!player_.playing()) return 0;
  return player_.backward() ? -player_.speed() : player_.speed();
}

// What the picture does is as the last note says, unless it jumped, stopped, started or runs at another speed.
void TakeRecorder::look() {
  if (!wav_ || take_.plays.empty()) return;
  // A still picture moves by single frames; one that runs is up to two frames behind its time.
  constexpr double kStill_s = 0.001, kRuns_s = 0.06;
  const double now = rate(), expected = review::clipTimeAt(take_, now_s());
  const double apart_s = now == 0 ? kStill_s : std::max(kRuns_s, 0.05 * std::abs(now));
  if (now == take_.plays.back().rate && std::abs(player_.time() - expected) < apart_s) return;
  note(now);
}

void TakeRecorder::note(double rate) {
  const review::Play play{now_s(), player_.time(), rate};
  // Several within one frame of the film are one.
  if (!take_.plays.empty() && play.at_s - take_.plays.back().at_s < 0.005)
    take_.plays.back() = {take_.plays.back().at_s, play.clip_t, play.rate};
  else
    take_.plays.push_back(play);
  if (auto noted = review::TakeShelf::note(take_.file, take_.plays.back()); !noted) giveUp(q(noted.error().sentence()));
}

void TakeRecorder::giveUp(const QString& sentence) {
  emit interrupted(sentence);
}

}  // namespace jib::desk
