// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/clip_writer.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libavutil/opt.h>
}

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "core/base/files.h"

namespace jib::footage {
namespace fs = std::filesystem;

namespace {

tl::unexpected<Error> cannotWrite(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::CannotWrite, "Cannot write " + file.string() + ": " + why + ".",
              "Check that the folder exists, may be written to and has free space, then try again.");
}

std::string reason(int code) {
  char text[AV_ERROR_MAX_STRING_SIZE] = {};
  av_strerror(code, text, sizeof text);
  return text;
}

// Brightness and colour differences of ITU-R BT.601, studio range. OpenCV takes the difference of one pixel in four;
// here it is the mean of the four, or thin coloured lines would fray. libswscale is either four times slower or cuts
// off where it should round.
void toPlanes(const cv::Mat& picture, AVFrame& frame) {
  cv::Mat whole, half;
  cv::cvtColor(picture, whole, picture.channels() == 4 ? cv::COLOR_BGRA2YUV_I420 : cv::COLOR_BGR2YUV_I420);
  for (int y = 0; y < picture.rows; ++y)
    std::copy_n(whole.ptr<uint8_t>(y), picture.cols, frame.data[0] + y * frame.linesize[0]);
  cv::resize(picture, half, {picture.cols / 2, picture.rows / 2}, 0, 0, cv::INTER_AREA);
  const int channels = half.channels();
  for (int y = 0; y < half.rows; ++y) {
    const uint8_t* p = half.ptr<uint8_t>(y);
    uint8_t* u = frame.data[1] + y * frame.linesize[1];
    uint8_t* v = frame.data[2] + y * frame.linesize[2];
    for (int x = 0; x < half.cols; ++x, p += channels) {
      const int b = p[0], g = p[1], r = p[2];
      u[x] = static_cast<uint8_t>((-38 * r - 74 * g + 112 * b + (128 << 8) + 128) >> 8);
      v[x] = static_cast<uint8_t>((112 * r - 94 * g - 18 * b + (128 << 8) + 128) >> 8);
    }
  }
}

}  // namespace

namespace {

constexpr int kSoundBits_per_s = 96000;  // one voice

struct Chapter {
  std::string title;
  int64_t first_frame;
};

}  // namespace

struct ClipWriter::Impl {
  fs::path file;
  fs::path temporary;
  AVFormatContext* format = nullptr;
  AVCodecContext* codec = nullptr;
  AVStream* stream = nullptr;
  AVFrame* frame = nullptr;
  AVPacket* packet = nullptr;
  int64_t frames = 0;
  std::shared_ptr<const Sound> sound;
  AVCodecContext* voice = nullptr;
  AVStream* voice_stream = nullptr;
  AVFrame* voice_frame = nullptr;
  std::size_t spoken = 0;  // samples that were encoded
  std::vector<Chapter> chapters;
  bool finished = false;

  ~Impl() {
    av_frame_free(&frame);
    av_frame_free(&voice_frame);
    av_packet_free(&packet);
    avcodec_free_context(&codec);
    avcodec_free_context(&voice);
    if (format) {
      if (format->pb) avio_closep(&format->pb);
      avformat_free_context(format);
    }
    if (!finished && !temporary.empty()) FileSystem::real().remove(temporary);
  }

  Result<bool> start(const ClipFormat& wanted);
  Result<bool> startSound();
  Result<bool> drain(AVCodecContext* from, AVStream* to, AVFrame* source);
  Result<bool> speakTo(double s);
  void writeChapters();
};

Result<bool> ClipWriter::Impl::startSound() {
  const AVCodec* encoder = avcodec_find_encoder(AV_CODEC_ID_AAC);
  if (!encoder) return cannotWrite(file, "no AAC encoder is installed");
  voice = avcodec_alloc_context3(encoder);
  voice->sample_rate = Sound::kRate_hz;
  voice->ch_layout = AV_CHANNEL_LAYOUT_MONO;
  voice->sample_fmt = AV_SAMPLE_FMT_FLTP;
  voice->bit_rate = kSoundBits_per_s;
  voice->time_base = {1, Sound::kRate_hz};
  if (format->oformat->flags & AVFMT_GLOBALHEADER) voice->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  if (const int r = avcodec_open2(voice, encoder, nullptr); r < 0) return cannotWrite(file, reason(r));
  voice_stream = avformat_new_stream(format, nullptr);
  voice_stream->time_base = voice->time_base;
  avcodec_parameters_from_context(voice_stream->codecpar, voice);
  voice_frame = av_frame_alloc();
  voice_frame->format = voice->sample_fmt;
  voice_frame->nb_samples = voice->frame_size;
  voice_frame->sample_rate = voice->sample_rate;
  av_channel_layout_copy(&voice_frame->ch_layout, &voice->ch_layout);
  av_frame_get_buffer(voice_frame, 0);
  return true;
}

// Encodes the sound up to a time of the film, so that both lie side by side in the file.
Result<bool> ClipWriter::Impl::speakTo(double s) {
  if (!voice) return true;
  const auto until = static_cast<std::size_t>(std::max(0.0, s) * Sound::kRate_hz);
  const auto size = static_cast<std::size_t>(voice->frame_size);
  while (spoken < until) {
    av_frame_make_writable(voice_frame);
    auto* to = reinterpret_cast<float*>(voice_frame->data[0]);
    const auto& from = sound->samples;
    for (std::size_t i = 0; i < size; ++i) to[i] = spoken + i < from.size() ? from[spoken + i] : 0.0F;
    voice_frame->pts = static_cast<int64_t>(spoken);
    spoken += size;
    if (auto sent = drain(voice, voice_stream, voice_frame); !sent) return sent;
  }
  return true;
}

// Players read them from the end of the file; until then nobody knows where they begin.
void ClipWriter::Impl::writeChapters() {
  const double rate = av_q2d(codec->framerate);
  for (std::size_t i = 0; i < chapters.size(); ++i) {
    auto* c = static_cast<AVChapter*>(av_mallocz(sizeof(AVChapter)));
    const auto ms = [&](int64_t at) {
      return static_cast<int64_t>(std::lround(1000 * static_cast<double>(at) / rate));
    };
    c->id = static_cast<int64_t>(i);
    c->time_base = {1, 1000};
    c->start = ms(chapters[i].first_frame);
    c->end = ms(i + 1 < chapters.size() ? chapters[i + 1].first_frame : frames);
    av_dict_set(&c->metadata, "title", chapters[i].title.c_str(), 0);
    int count = static_cast<int>(format->nb_chapters);
    av_dynarray_add(&format->chapters, &count, c);
    format->nb_chapters = static_cast<unsigned>(count);
  }
}

Result<bool> ClipWriter::Impl::start(const ClipFormat& wanted) {
  temporary = file;
  temporary += ".part";
  // "file:" since a colon in a name is otherwise taken for the end of a protocol.
  const std::string url = "file:" + temporary.string();
  avformat_alloc_output_context2(&format, nullptr, "mp4", url.c_str());  // "faststart" opens it again by name
  const AVCodec* encoder = avcodec_find_encoder_by_name("libx264");
  if (!encoder) encoder = avcodec_find_encoder(AV_CODEC_ID_H264);
  if (!format || !encoder) return cannotWrite(file, "no H.264 encoder is installed (libx264)");
  codec = avcodec_alloc_context3(encoder);
  codec->width = wanted.width & ~1;
  codec->height = wanted.height & ~1;
  codec->time_base = {1, wanted.rate_hz};
  codec->framerate = {wanted.rate_hz, 1};
  codec->pix_fmt = AV_PIX_FMT_YUV420P;
  codec->gop_size = wanted.key_every;
  codec->color_range = AVCOL_RANGE_MPEG;
  if (wanted.repeatable) {
    codec->thread_count = 1;
    // Its weighing of macroblocks reads memory nobody has written to.
    av_opt_set(codec->priv_data, "x264-params", "mbtree=0", 0);
  }
  if (format->oformat->flags & AVFMT_GLOBALHEADER) codec->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  av_opt_set(codec->priv_data, "preset", wanted.speed.c_str(), 0);
  if (wanted.bits_per_s) {
    codec->bit_rate = *wanted.bits_per_s;
    codec->rc_max_rate = *wanted.bits_per_s;
    codec->rc_buffer_size = 2 * *wanted.bits_per_s;
  } else {
    av_opt_set_int(codec->priv_data, "crf", wanted.quality, 0);
  }
  if (const int r = avcodec_open2(codec, encoder, nullptr); r < 0) return cannotWrite(file, reason(r));
  stream = avformat_new_stream(format, nullptr);
  stream->time_base = codec->time_base;
  stream->avg_frame_rate = codec->framerate;
  avcodec_parameters_from_context(stream->codecpar, codec);
  sound = wanted.sound;
  if (sound)
    if (auto started = startSound(); !started) return started;
  if (const int r = avio_open(&format->pb, url.c_str(), AVIO_FLAG_WRITE); r < 0) {
    temporary.clear();
    return cannotWrite(file, reason(r));
  }
  AVDictionary* options = nullptr;
  av_dict_set(&options, "movflags", "+faststart", 0);
  const int headed = avformat_write_header(format, &options);
  av_dict_free(&options);
  if (headed < 0) return cannotWrite(file, reason(headed));
  frame = av_frame_alloc();
  frame->format = codec->pix_fmt;
  frame->width = codec->width;
  frame->height = codec->height;
  av_frame_get_buffer(frame, 0);
  packet = av_packet_alloc();
  return true;
}

Result<bool> ClipWriter::Impl::drain(AVCodecContext* from, AVStream* to, AVFrame* source) {
  if (const int r = avcodec_send_frame(from, source); r < 0) return cannotWrite(file, reason(r));
  for (;;) {
    const int r = avcodec_receive_packet(from, packet);
    if (r == AVERROR(EAGAIN) || r == AVERROR_EOF) return true;
    if (r < 0) return cannotWrite(file, reason(r));
    av_packet_rescale_ts(packet, from->time_base, to->time_base);
    packet->stream_index = to->index;
    if (packet->duration == 0 && to == stream) packet->duration = av_rescale_q(1, from->time_base, to->time_base);
    const int written = av_interleaved_write_frame(format, packet);
    if (written < 0) return cannotWrite(file, reason(written));
    // The muxer buffers; a full disk shows only here.
    if (format->pb->error < 0) return cannotWrite(file, reason(format->pb->error));
  }
}

ClipWriter::ClipWriter(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
ClipWriter::ClipWriter(ClipWriter&&) noexcept = default;
ClipWriter& ClipWriter::operator=(ClipWriter&&) noexcept = default;
ClipWriter::~ClipWriter() = default;

Result<ClipWriter> ClipWriter::create(const fs::path& file, const ClipFormat& format) {
  av_log_set_level(AV_LOG_QUIET);
  auto impl = std::make_unique<Impl>();
  impl->file = file;
  if (auto started = impl->start(format); !started) return fail(started.error());
  return ClipWriter(std::move(impl));
}

Result<bool> ClipWriter::add(const cv::Mat& picture, int times) {
  const AVCodecContext& codec = *impl_->codec;
  JIB_ASSERT(picture.depth() == CV_8U && (picture.channels() == 3 || picture.channels() == 4));
  JIB_ASSERT(picture.cols >= codec.width && picture.rows >= codec.height);
  av_frame_make_writable(impl_->frame);
  toPlanes(picture(cv::Rect(0, 0, codec.width, codec.height)), *impl_->frame);
  for (int i = 0; i < times; ++i) {
    impl_->frame->pts = impl_->frames++;
    if (auto sent = impl_->drain(impl_->codec, impl_->stream, impl_->frame); !sent) return sent;
  }
  return impl_->speakTo(length_s());
}

void ClipWriter::beginChapter(const std::string& title) {
  impl_->chapters.push_back({title, impl_->frames});
}

double ClipWriter::length_s() const {
  return static_cast<double>(impl_->frames) / av_q2d(impl_->codec->framerate);
}

Result<bool> ClipWriter::finish() {
  if (auto drained = impl_->drain(impl_->codec, impl_->stream, nullptr); !drained) return drained;
  if (impl_->voice) {
    if (auto spoken = impl_->speakTo(length_s()); !spoken) return spoken;
    if (auto drained = impl_->drain(impl_->voice, impl_->voice_stream, nullptr); !drained) return drained;
  }
  impl_->writeChapters();
  if (const int r = av_write_trailer(impl_->format); r < 0) return cannotWrite(impl_->file, reason(r));
  if (const int r = avio_closep(&impl_->format->pb); r < 0) return cannotWrite(impl_->file, reason(r));
  if (auto renamed = FileSystem::real().rename(impl_->temporary, impl_->file); !renamed) return renamed;
  impl_->finished = true;
  return true;
}

}  // namespace jib::footage
