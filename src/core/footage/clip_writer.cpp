// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/clip_writer.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/opt.h>
}

#include <algorithm>
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

struct ClipWriter::Impl {
  fs::path file;
  fs::path temporary;
  AVFormatContext* format = nullptr;
  AVCodecContext* codec = nullptr;
  AVStream* stream = nullptr;
  AVFrame* frame = nullptr;
  AVPacket* packet = nullptr;
  int64_t frames = 0;
  bool finished = false;

  ~Impl() {
    av_frame_free(&frame);
    av_packet_free(&packet);
    avcodec_free_context(&codec);
    if (format) {
      if (format->pb) avio_closep(&format->pb);
      avformat_free_context(format);
    }
    if (!finished && !temporary.empty()) FileSystem::real().remove(temporary);
  }

  Result<bool> start(const ClipFormat& wanted);
  Result<bool> drain(AVFrame* source);
};

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
  av_opt_set_int(codec->priv_data, "crf", wanted.quality, 0);
  if (const int r = avcodec_open2(codec, encoder, nullptr); r < 0) return cannotWrite(file, reason(r));
  stream = avformat_new_stream(format, nullptr);
  stream->time_base = codec->time_base;
  stream->avg_frame_rate = codec->framerate;
  avcodec_parameters_from_context(stream->codecpar, codec);
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

Result<bool> ClipWriter::Impl::drain(AVFrame* source) {
  if (const int r = avcodec_send_frame(codec, source); r < 0) return cannotWrite(file, reason(r));
  for (;;) {
    const int r = avcodec_receive_packet(codec, packet);
    if (r == AVERROR(EAGAIN) || r == AVERROR_EOF) return true;
    if (r < 0) return cannotWrite(file, reason(r));
    av_packet_rescale_ts(packet, codec->time_base, stream->time_base);
    packet->stream_index = stream->index;
    if (packet->duration == 0) packet->duration = av_rescale_q(1, codec->time_base, stream->time_base);
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
    if (auto sent = impl_->drain(impl_->frame); !sent) return sent;
  }
  return true;
}

Result<bool> ClipWriter::finish() {
  if (auto drained = impl_->drain(nullptr); !drained) return drained;
  if (const int r = av_write_trailer(impl_->format); r < 0) return cannotWrite(impl_->file, reason(r));
  if (const int r = avio_closep(&impl_->format->pb); r < 0) return cannotWrite(impl_->file, reason(r));
  if (auto renamed = FileSystem::real().rename(impl_->temporary, impl_->file); !renamed) return renamed;
  impl_->finished = true;
  return true;
}

}  // namespace jib::footage
