// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/frame_reader.h"

#include <fmt/format.h>
#include <unistd.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libavutil/pixdesc.h>
#include <libswscale/swscale.h>
}

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <set>

#include "core/footage/lens.h"

namespace jib::footage {
namespace fs = std::filesystem;

namespace {

template <auto release>
struct Release {
  template <class T>
  void operator()(T* p) const {
    release(&p);
  }
};
using FormatPtr = std::unique_ptr<AVFormatContext, Release<avformat_close_input>>;
using CodecPtr = std::unique_ptr<AVCodecContext, Release<avcodec_free_context>>;
using FramePtr = std::unique_ptr<AVFrame, Release<av_frame_free>>;
using PacketPtr = std::unique_ptr<AVPacket, Release<av_packet_free>>;
struct FreeScaler {
  void operator()(SwsContext* s) const { sws_freeContext(s); }
};

// Names of FFmpeg's demuxers; the last line is sound, of which it can be said that it has no picture.
constexpr const char* kFilmFormats =
    "mov,mp4,matroska,webm,avi,mpegts,mpeg,flv,ogg,asf,h264,hevc,mpegvideo,m4v,dv,gif,"
    "wav,mp3,aac,flac";

tl::unexpected<Error> unreadable(const fs::path& file, const std::string& what, const std::string& next) {
  return fail(ErrorCode::ClipUnreadable, file.filename().string() + ": " + what, next);
}

int displayRotation(const AVStream& stream) {
  const uint8_t* matrix = av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr);
  if (!matrix) return 0;
  const double counter_clockwise = av_display_rotation_get(reinterpret_cast<const int32_t*>(matrix));
  if (std::isnan(counter_clockwise)) return 0;
  const int clockwise = static_cast<int>(std::lround(-counter_clockwise / 90.0)) * 90;
  return ((clockwise % 360) + 360) % 360;
}

// Turned clockwise by a multiple of 90 degrees.
cv::Mat turned(cv::Mat picture, int clockwise_deg) {
  if (clockwise_deg == 0) return picture;
  cv::Mat upright;
  cv::rotate(picture, upright,
             clockwise_deg == 90    ? cv::ROTATE_90_CLOCKWISE
             : clockwise_deg == 180 ? cv::ROTATE_180
                                    : cv::ROTATE_90_COUNTERCLOCKWISE);
  return upright;
}

// True when the first plane is plain 8-bit luma that can be taken as it lies.
bool firstPlaneIsLuma(AVPixelFormat format) {
  switch (format) {
    case AV_PIX_FMT_YUV420P:
    case AV_PIX_FMT_YUVJ420P:
    case AV_PIX_FMT_YUV422P:
    case AV_PIX_FMT_YUVJ422P:
    case AV_PIX_FMT_YUV444P:
    case AV_PIX_FMT_YUVJ444P:
    case AV_PIX_FMT_NV12:
    case AV_PIX_FMT_GRAY8:
      return true;
    default:
      return false;
  }
}

}  // namespace

struct FrameReader::Impl {
  FormatPtr format;
  CodecPtr codec;
  FramePtr frame{av_frame_alloc()};
  PacketPtr packet{av_packet_alloc()};
  std::unique_ptr<SwsContext, FreeScaler> scaler;
  AVPixelFormat scaler_to = AV_PIX_FMT_NONE;
  AVPixelFormat scaler_from = AV_PIX_FMT_NONE;
  cv::Size scaler_size;
  Workers workers = Workers::Many;
  int stream = -1;
  double time_base_s = 0;
  cv::Size stored_size;  // as the file's head tells; a stream may change its own midway
  ClipInfo info;
  std::optional<Upright> told_upright;
  double interval_s = 0;                  // of `info`, which sorts all times to tell it
  std::vector<double> keys_s;             // times a decoder can start at, of the whole film
  std::optional<std::size_t> last_index;  // last frame handed out since the last seek
  bool draining = false;
  int64_t unwanted_before = INT64_MIN;  // frames earlier than this are only decoded as far as later ones need them
  // Gray pictures handed out before and let go of since: fresh memory for each would cost as much as the copying.
  std::array<cv::Mat, 6> gray_pool;

  Result<bool> openFile(const fs::path& file, Workers with);
  Result<bool> scanPackets(const fs::path& file);
  Result<bool> sound(const fs::path& file) const;
  void keepToShot();
  double keyBefore(std::size_t index) const;
  Result<bool> seek(double key_s);
  std::optional<std::size_t> indexOf(int64_t pts) const;
  bool isPastShot(int64_t pts) const;
  cv::Mat stored(Pixels pixels);
  cv::Mat colourOfPlanes() const;
  cv::Mat displayed(cv::Mat picture) const;
  bool receive();
};

Result<bool> FrameReader::Impl::openFile(const fs::path& file, Workers with) {
  std::error_code error;
  const auto bytes = fs::file_size(file, error);
  if (error)
    return unreadable(file, "the file is not there or may not be read.", "Check the path and its permissions.");
  if (bytes == 0) return unreadable(file, "the file is empty.", "Ask for the clip to be sent again.");
  if (::access(file.c_str(), R_OK) != 0) return unreadable(file, "the file may not be read.", "Check its permissions.");
  // Films only, and only this one file: a play list or a still that calls itself a film opens nothing else.
  AVDictionary* options = nullptr;
  av_dict_set(&options, "format_whitelist", kFilmFormats, 0);
  av_dict_set(&options, "protocol_whitelist", "file", 0);
  AVFormatContext* raw = nullptr;
  // "file:" since a colon in a name is otherwise taken for the end of a protocol.
  const int opened = avformat_open_input(&raw, ("file:" + file.string()).c_str(), nullptr, &options);
  av_dict_free(&options);
  format.reset(raw);
  if (opened < 0)
    return unreadable(file, "this is not a clip that can be read; it may have been cut off while it was sent.",
                      "Ask for the original file, not a re-shared copy.");
  if (avformat_find_stream_info(raw, nullptr) < 0)
    return unreadable(file, "the clip is damaged at its start.", "Ask for the clip to be sent again.");
  const AVCodec* decoder = nullptr;
  stream = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, &decoder, 0);
  if (stream == AVERROR_DECODER_NOT_FOUND)
    return unreadable(file, "its picture is stored in a way this machine can't decode.",
                      "Ask for the clip as H.264 (the phone's \"most compatible\" setting).");
  if (stream < 0) return unreadable(file, "there is sound but no picture in it.", "Ask for the clip itself.");
  for (unsigned i = 0; i < raw->nb_streams; ++i)
    if (static_cast<int>(i) != stream) raw->streams[i]->discard = AVDISCARD_ALL;
  codec.reset(avcodec_alloc_context3(decoder));
  avcodec_parameters_to_context(codec.get(), raw->streams[stream]->codecpar);
  codec->thread_count = with == Workers::One ? 1 : 0;  // 0: as many as there are cores
  codec->thread_type = FF_THREAD_FRAME | FF_THREAD_SLICE;
  if (avcodec_open2(codec.get(), decoder, nullptr) < 0 || codec->width <= 0 || codec->height <= 0)
    return unreadable(file, "its picture can't be decoded.", "Ask for the clip to be sent again.");
  time_base_s = av_q2d(raw->streams[stream]->time_base);
  stored_size = {codec->width, codec->height};
  return true;
}

// What no phone makes, and what would take hours or gigabytes to look at.
Result<bool> FrameReader::Impl::sound(const fs::path& file) const {
  constexpr double kLongestGap_s = 10, kSlimmest = 4;
  for (std::size_t i = 1; i < info.times_s.size(); ++i)
    if (const double gap_s = info.times_s[i] - info.times_s[i - 1]; gap_s > kLongestGap_s)
      return unreadable(file, fmt::format("its clock jumps by {:.0f} seconds in the middle.", gap_s),
                        "Ask for the original file, or for the part with the set alone.");
  const double slim = static_cast<double>(std::max(info.as_it_came.width, info.as_it_came.height)) /
                      std::max(1, std::min(info.as_it_came.width, info.as_it_came.height));
  if (slim > kSlimmest)
    return unreadable(file, fmt::format("its picture is a strip, {:.0f} times as long as it is wide.", slim),
                      "Ask for the clip as the phone filmed it.");
  return true;
}

Result<bool> FrameReader::Impl::scanPackets(const fs::path& file) {
  const AVStream& track = *format->streams[stream];
  const double guessed_rate = track.avg_frame_rate.num > 0 ? av_q2d(track.avg_frame_rate) : 30.0;
  std::set<int64_t> shown, keyed;
  int64_t counter = 0;
  while (av_read_frame(format.get(), packet.get()) >= 0) {
    if (packet->stream_index == stream && !(packet->flags & AV_PKT_FLAG_DISCARD)) {
      int64_t pts = packet->pts != AV_NOPTS_VALUE ? packet->pts : packet->dts;
      if (pts == AV_NOPTS_VALUE) pts = std::llround(static_cast<double>(counter) / guessed_rate / time_base_s);
      shown.insert(pts);
      if (packet->flags & AV_PKT_FLAG_KEY) keyed.insert(pts);
      ++counter;
    }
    av_packet_unref(packet.get());
  }
  if (shown.empty()) return unreadable(file, "there is no picture in it.", "Ask for the clip to be sent again.");
  for (int64_t pts : shown) {
    info.times_s.push_back(static_cast<double>(pts) * time_base_s);
    if (keyed.count(pts)) keys_s.push_back(info.times_s.back());
  }
  if (keys_s.empty() || keys_s.front() > info.times_s.front()) keys_s.insert(keys_s.begin(), info.times_s.front());

  const AVRational aspect = av_guess_sample_aspect_ratio(format.get(), format->streams[stream], nullptr);
  info.file = file;
  info.pixel_aspect = aspect.num > 0 && aspect.den > 0 ? av_q2d(aspect) : 1.0;
  // No camera's pixels are further from square than this; a damaged header's may be.
  if (info.pixel_aspect < 0.25 || info.pixel_aspect > 4) info.pixel_aspect = 1.0;
  info.rotation_deg = displayRotation(track);
  info.codec = avcodec_get_name(codec->codec_id);
  for (const AVDictionary* tags : {format->metadata, track.metadata}) {
    const AVDictionaryEntry* tag = nullptr;
    while (!info.focal_35mm && (tag = av_dict_get(tags, "", tag, AV_DICT_IGNORE_SUFFIX)))
      info.focal_35mm = focal35From(tag->key, tag->value);
  }
  int width = static_cast<int>(std::lround(codec->width * info.pixel_aspect));
  int height = codec->height;
  if (info.rotation_deg % 180 != 0) std::swap(width, height);
  info.as_it_came = {width, height};
  info.upright = told_upright ? *told_upright : uprightOf(file);
  if (const PictureArea& a = info.upright.filmed; a.x + a.width > width || a.y + a.height > height)
    info.upright.filmed = {};  // of another film
  const PictureSize shown_size = sizeOf(info.upright, info.as_it_came);
  info.width = shown_size.width;
  info.height = shown_size.height;
  interval_s = info.frameInterval_s();
  // An index at the front of a file that was cut off tells of frames that are not there any more.
  std::error_code error;
  const auto bytes = static_cast<int64_t>(fs::file_size(file, error));
  for (int i = 0, n = avformat_index_get_entries_count(&track); i < n; ++i)
    if (const AVIndexEntry* e = avformat_index_get_entry(format->streams[stream], i); e && e->pos + e->size > bytes)
      info.cut_off = true;
  const double usual = interval_s;
  for (std::size_t i = 1; i < info.times_s.size(); ++i)
    if (std::abs(info.times_s[i] - info.times_s[i - 1] - usual) > 0.2 * usual) info.variable_rate = true;
  if (auto well = sound(file); !well) return well;
  keepToShot();
  return seek(keyBefore(0));
}

// Of a film of several shots only one is handed out. One that holds no frame is of another film.
void FrameReader::Impl::keepToShot() {
  const Shot* shot = info.upright.shownShot();
  if (!shot) return;
  const double half_s = interval_s / 2;
  const auto first = std::lower_bound(info.times_s.begin(), info.times_s.end(), shot->from_s - half_s);
  const auto last = std::upper_bound(first, info.times_s.end(), shot->to_s + half_s);
  if (last - first < 2) {
    info.upright.shots.clear();
    info.upright.shot = Upright::kWholeFilm;
    return;
  }
  info.times_s = std::vector<double>(first, last);
}

// Where a decoder has to start so as to come to a frame.
double FrameReader::Impl::keyBefore(std::size_t index) const {
  const auto after = std::upper_bound(keys_s.begin(), keys_s.end(), info.times_s[index]);
  return after == keys_s.begin() ? keys_s.front() : *std::prev(after);
}

// A key frame's place. Times may lie before zero, where not every container finds its way back by time.
Result<bool> FrameReader::Impl::seek(double key_s) {
  const auto pts = static_cast<int64_t>(std::llround(key_s / time_base_s));
  const bool placed = av_seek_frame(format.get(), stream, pts, AVSEEK_FLAG_BACKWARD) >= 0 ||
                      avformat_seek_file(format.get(), stream, INT64_MIN, pts, INT64_MAX, 0) >= 0;
  if (placed)
    avcodec_flush_buffers(codec.get());
  else if (auto again = openFile(info.file, workers); !again)  // and read on from its beginning
    return again;
  draining = false;
  last_index.reset();
  return true;
}

std::optional<std::size_t> FrameReader::Impl::indexOf(int64_t pts) const {
  const std::size_t i = info.nearestFrame(static_cast<double>(pts) * time_base_s);
  if (std::abs(info.times_s[i] - static_cast<double>(pts) * time_base_s) > 0.25 * interval_s) return {};
  return i;
}

// What comes after the shot that is shown is not decoded to the film's end.
bool FrameReader::Impl::isPastShot(int64_t pts) const {
  return info.upright.shownShot() && pts != AV_NOPTS_VALUE &&
         static_cast<double>(pts) * time_base_s > info.times_s.back() + interval_s / 2;
}

// What nearly every phone's clip is stored as, in less than half of libswscale's time.
cv::Mat FrameReader::Impl::colourOfPlanes() const {
  const int w = frame->width, h = frame->height;
  cv::Mat planes(h * 3 / 2, w, CV_8UC1);
  uint8_t* to = planes.data;
  for (int plane = 0; plane < 3; ++plane) {
    const int width = plane == 0 ? w : w / 2, height = plane == 0 ? h : h / 2;
    for (int y = 0; y < height; ++y, to += width)
      std::copy_n(frame->data[plane] + y * frame->linesize[plane], width, to);
  }
  cv::Mat picture;
  cv::cvtColor(planes, picture, cv::COLOR_YUV2BGR_I420);
  return picture;
}

cv::Mat FrameReader::Impl::stored(Pixels pixels) {
  const auto from = static_cast<AVPixelFormat>(frame->format);
  if (pixels == Pixels::Gray && firstPlaneIsLuma(from)) {
    const cv::Mat plane(frame->height, frame->width, CV_8UC1, frame->data[0], static_cast<size_t>(frame->linesize[0]));
    for (cv::Mat& free : gray_pool) {
      const bool held_here_only = !free.u || free.u->refcount == 1;
      if (!held_here_only) continue;
      plane.copyTo(free);
      return free;
    }
    return plane.clone();
  }
  const bool even = frame->width % 2 == 0 && frame->height % 2 == 0;
  if (pixels == Pixels::Colour && from == AV_PIX_FMT_YUV420P && frame->color_range != AVCOL_RANGE_JPEG && even)
    return colourOfPlanes();
  const AVPixelFormat to = pixels == Pixels::Gray ? AV_PIX_FMT_GRAY8 : AV_PIX_FMT_BGR24;
  const cv::Size size(frame->width, frame->height);
  if (!scaler || scaler_to != to || scaler_from != from || scaler_size != size) {
    scaler.reset(sws_getContext(size.width, size.height, from, size.width, size.height, to, SWS_BILINEAR, nullptr,
                                nullptr, nullptr));
    scaler_to = to;
    scaler_from = from;
    scaler_size = size;
  }
  // The scaler's vector code writes whole vectors, past the width of every row and past the end of the last one: rows
  // are longer by more than a vector, whatever the width, and one row is spare.
  constexpr int kSpare = 64;
  const int channels = pixels == Pixels::Gray ? 1 : 3;
  const int step = (size.width * channels + kSpare + 63) / 64 * 64;
  cv::Mat padded(size.height + 1, step, CV_8UC1);
  uint8_t* planes[4] = {padded.data, nullptr, nullptr, nullptr};
  int steps[4] = {step, 0, 0, 0};
  if (scaler) sws_scale(scaler.get(), frame->data, frame->linesize, 0, size.height, planes, steps);
  return cv::Mat(size.height, size.width, CV_8UC(channels), padded.data, static_cast<size_t>(step)).clone();
}

cv::Mat FrameReader::Impl::displayed(cv::Mat picture) const {
  if (picture.size() != stored_size) {
    cv::Mat as_told;
    cv::resize(picture, as_told, stored_size, 0, 0, cv::INTER_AREA);
    picture = as_told;
  }
  if (std::abs(info.pixel_aspect - 1.0) > 1e-3) {
    const int width = static_cast<int>(std::lround(picture.cols * info.pixel_aspect));
    cv::Mat square;
    cv::resize(picture, square, {width, picture.rows}, 0, 0, cv::INTER_LINEAR);
    picture = square;
  }
  picture = turned(std::move(picture), info.rotation_deg);
  const Upright& by_hand = info.upright;
  if (by_hand.looksAsItCame()) return picture;
  if (const PictureArea area = by_hand.shown(); !area.whole())
    picture = picture(cv::Rect(area.x, area.y, area.width, area.height)).clone();
  picture = turned(std::move(picture), by_hand.turn_deg);
  if (by_hand.mirror) {
    cv::Mat mirrored;
    cv::flip(picture, mirrored, 1);
    picture = mirrored;
  }
  if (picture.cols != info.width) {
    cv::Mat stretched;
    cv::resize(picture, stretched, {info.width, picture.rows}, 0, 0, cv::INTER_LINEAR);
    picture = stretched;
  }
  return picture;
}

// Gets one decoded picture into `frame`; false at the end. Damaged packets are passed over.
bool FrameReader::Impl::receive() {
  for (;;) {
    const int got = avcodec_receive_frame(codec.get(), frame.get());
    if (got == 0) return true;
    if (got == AVERROR_EOF) return false;
    if (draining) return false;
    if (av_read_frame(format.get(), packet.get()) < 0) {
      draining = true;
      avcodec_send_packet(codec.get(), nullptr);
      continue;
    }
    if (packet->stream_index == stream) {
      const bool unwanted = packet->pts != AV_NOPTS_VALUE && packet->pts < unwanted_before;
      codec->skip_frame = unwanted ? AVDISCARD_NONREF : AVDISCARD_DEFAULT;
      avcodec_send_packet(codec.get(), packet.get());
    }
    av_packet_unref(packet.get());
  }
}

FrameReader::FrameReader(std::unique_ptr<Impl> impl) : impl_(std::move(impl)) {}
FrameReader::FrameReader(FrameReader&&) noexcept = default;
FrameReader& FrameReader::operator=(FrameReader&&) noexcept = default;
FrameReader::~FrameReader() = default;

Result<FrameReader> FrameReader::open(const fs::path& file, Workers workers) {
  return opened(file, std::nullopt, workers);
}

Result<FrameReader> FrameReader::open(const fs::path& file, const Upright& upright, Workers workers) {
  return opened(file, upright, workers);
}

Result<FrameReader> FrameReader::open(const ClipInfo& clip, Workers workers) {
  return opened(clip.file, clip.upright, workers);
}

Result<FrameReader> FrameReader::opened(const fs::path& file, const std::optional<Upright>& upright, Workers workers) {
  av_log_set_level(AV_LOG_QUIET);
  auto impl = std::make_unique<Impl>();
  impl->workers = workers;
  impl->told_upright = upright;
  if (auto opened = impl->openFile(file, workers); !opened) return fail(opened.error());
  if (auto scanned = impl->scanPackets(file); !scanned) return fail(scanned.error());
  return FrameReader(std::move(impl));
}

const ClipInfo& FrameReader::info() const {
  return impl_->info;
}

Result<std::optional<Frame>> FrameReader::next(Pixels pixels, std::size_t from) {
  JIB_ASSERT(from < impl_->info.frames());
  // A tick earlier than the wanted frame: containers round.
  impl_->unwanted_before =
      static_cast<int64_t>(std::floor((impl_->info.times_s[from] - 0.5 * impl_->interval_s) / impl_->time_base_s));
  while (impl_->receive()) {
    const int64_t pts = impl_->frame->best_effort_timestamp;
    const auto index =
        pts == AV_NOPTS_VALUE ? (impl_->last_index ? *impl_->last_index + 1 : std::size_t{0}) : impl_->indexOf(pts);
    const bool usable = index && *index < impl_->info.frames() && (!impl_->last_index || *index > *impl_->last_index);
    if (!usable) {
      if (impl_->isPastShot(pts)) break;
      continue;
    }
    impl_->last_index = index;
    if (*index < from) continue;
    return std::optional<Frame>(Frame{*index, impl_->info.times_s[*index], impl_->displayed(impl_->stored(pixels))});
  }
  return std::optional<Frame>();
}

Result<bool> FrameReader::seekBefore(std::size_t index) {
  JIB_ASSERT(index < impl_->info.frames());
  const double key_s = impl_->keyBefore(index);
  const bool ahead = impl_->last_index && *impl_->last_index < index;
  if (ahead && !impl_->draining && impl_->info.times_s[*impl_->last_index + 1] >= key_s) return true;
  return impl_->seek(key_s);
}

Error toldOf(const std::string& name, const fs::path& file, Error error) {
  const std::string ours = file.filename().string();
  if (!name.empty() && error.what.starts_with(ours)) error.what.replace(0, ours.size(), name);
  return error;
}

Result<bool> readBackward(FrameReader& reader, std::size_t from, Pixels pixels,
                          const std::function<bool(const Frame&)>& visit) {
  constexpr std::size_t kChunk = 48;
  std::size_t end = from + 1;
  while (end > 0) {
    const std::size_t start = end > kChunk ? end - kChunk : 0;
    if (auto placed = reader.seekBefore(start); !placed) return placed;
    std::vector<Frame> chunk;
    for (;;) {
      auto next = reader.next(pixels);
      if (!next) return fail(next.error());
      if (!*next || (*next)->index >= end) break;
      if ((*next)->index >= start) chunk.push_back(std::move(**next));
      if (!chunk.empty() && chunk.back().index + 1 == end) break;
    }
    for (auto frame = chunk.rbegin(); frame != chunk.rend(); ++frame)
      if (!visit(*frame)) return true;
    end = start;
  }
  return true;
}

}  // namespace jib::footage
