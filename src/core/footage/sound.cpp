// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/sound.h"

#include <ebur128.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libavutil/opt.h>
#include <libswresample/swresample.h>
}

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>

namespace jib::footage {
namespace {

constexpr double kLongest_s = 3600;  // a reply is minutes; what is longer was not meant

tl::unexpected<Error> noSound(const std::filesystem::path& file, const std::string& why) {
  return fail(ErrorCode::ClipUnreadable, file.string() + ": " + why + ".",
              "Record it again, or choose another sound file (WAV, FLAC, MP3, M4A).");
}

// Opened once, and closed whatever happens.
struct Reader {
  AVFormatContext* format = nullptr;
  AVCodecContext* codec = nullptr;
  SwrContext* mixer = nullptr;
  AVPacket* packet = av_packet_alloc();
  AVFrame* frame = av_frame_alloc();
  int stream = -1;

  ~Reader() {
    swr_free(&mixer);
    av_frame_free(&frame);
    av_packet_free(&packet);
    avcodec_free_context(&codec);
    avformat_close_input(&format);
  }

  std::string open(const std::filesystem::path& file) {
    av_log_set_level(AV_LOG_QUIET);
    if (avformat_open_input(&format, ("file:" + file.string()).c_str(), nullptr, nullptr) < 0)
      return "can't be opened as a sound";
    if (avformat_find_stream_info(format, nullptr) < 0) return "can't be read as a sound";
    const AVCodec* decoder = nullptr;
    stream = av_find_best_stream(format, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
    if (stream < 0 || !decoder) return "holds no sound";
    codec = avcodec_alloc_context3(decoder);
    if (avcodec_parameters_to_context(codec, format->streams[stream]->codecpar) < 0 ||
        avcodec_open2(codec, decoder, nullptr) < 0)
      return "holds a sound that can't be decoded";
    return {};
  }

  // What was decoded last, as one channel at our rate; nothing but what the mixer still holds, at the end.
  bool mix(const AVFrame* decoded, std::vector<float>& out) {
    if (decoded && !mixer) {
      AVChannelLayout mono = AV_CHANNEL_LAYOUT_MONO, from{};
      if (decoded->ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
        av_channel_layout_default(&from, decoded->ch_layout.nb_channels);
      else
        av_channel_layout_copy(&from, &decoded->ch_layout);
      const int made =
          swr_alloc_set_opts2(&mixer, &mono, AV_SAMPLE_FMT_FLT, Sound::kRate_hz, &from,
                              static_cast<AVSampleFormat>(decoded->format), decoded->sample_rate, 0, nullptr);
      av_channel_layout_uninit(&from);
      // Both ears alike are no louder than one.
      if (made >= 0) av_opt_set_double(mixer, "rematrix_maxval", 1.0, 0);
      if (made < 0 || swr_init(mixer) < 0) return false;
    }
    if (!mixer) return true;
    const int room = swr_get_out_samples(mixer, decoded ? decoded->nb_samples : 0);
    if (room < 0) return false;
    const std::size_t before = out.size();
    out.resize(before + static_cast<std::size_t>(room));
    auto* to = reinterpret_cast<uint8_t*>(out.data() + before);
    const int got =
        swr_convert(mixer, &to, room, decoded ? const_cast<const uint8_t**>(decoded->extended_data) : nullptr,
                    decoded ? decoded->nb_samples : 0);
    out.resize(before + static_cast<std::size_t>(std::max(0, got)));
    return got >= 0;
  }
};

}  // namespace

void Sound::lengthenTo(double s) {
  const auto wanted = static_cast<std::size_t>(std::lround(s * kRate_hz));
  if (samples.size() < wanted) samples.resize(wanted, 0.0F);
}

Result<Sound> readSound(const std::filesystem::path& file) {
  Reader reader;
  if (const std::string why = reader.open(file); !why.empty()) return noSound(file, why);
  Sound sound;
  bool whole = true;
  const auto drain = [&] {
    while (avcodec_receive_frame(reader.codec, reader.frame) >= 0)
      whole = reader.mix(reader.frame, sound.samples) && whole;
  };
  while (av_read_frame(reader.format, reader.packet) >= 0) {
    if (reader.packet->stream_index == reader.stream && avcodec_send_packet(reader.codec, reader.packet) >= 0) drain();
    av_packet_unref(reader.packet);
    if (sound.length_s() > kLongest_s) return noSound(file, "is longer than an hour");
  }
  avcodec_send_packet(reader.codec, nullptr);
  drain();
  whole = reader.mix(nullptr, sound.samples) && whole;
  if (!whole || sound.samples.empty()) return noSound(file, "holds no sound that can be decoded");
  for (float& v : sound.samples) v = std::isfinite(v) ? std::clamp(v, -1.0F, 1.0F) : 0.0F;
  return sound;
}

double loudness(const Sound& sound) {
  const std::unique_ptr<ebur128_state, void (*)(ebur128_state*)> meter(
      ebur128_init(1, Sound::kRate_hz, EBUR128_MODE_I), [](ebur128_state* state) { ebur128_destroy(&state); });
  double lufs = -std::numeric_limits<double>::infinity();
  if (!meter || sound.samples.empty()) return lufs;
  ebur128_add_frames_float(meter.get(), sound.samples.data(), sound.samples.size());
  ebur128_loudness_global(meter.get(), &lufs);
  return lufs;
}

Sound evened(Sound sound) {
  const double now = loudness(sound);
  if (!std::isfinite(now)) return sound;
  float peak = 0;
  for (const float v : sound.samples) peak = std::max(peak, std::abs(v));
  if (peak <= 0) return sound;
  const double gain = std::min(std::pow(10, (kSpeech_lufs - now) / 20), kPeak / peak);
  for (float& v : sound.samples) v = static_cast<float>(v * gain);
  return sound;
}

}  // namespace jib::footage
