// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QString>
#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "core/coaching/two_films.h"
#include "core/footage/frame_reader.h"
#include "core/review/captions.h"
#include "core/review/reply_content.h"
#include "drawing/jog.h"
#include "drawing/reply_frame.h"

namespace jib::drawing {

using review::ReplyContent;

inline constexpr double kFreeze_s = 3.5;      // long enough to read a cue twice
inline constexpr double kSlowAround_s = 0.5;  // before and after an evidence frame
inline constexpr int kSlowTimes = 3;          // each frame is shown this often there
inline constexpr int kRate_hz = 30;

std::string liftTitle(const coaching::Analysis& analysis);                          // "Squat"
QString headLine(const coaching::Analysis& analysis, const ReplyContent& content);  // lift, load and day

// Whether all that is to be blurred can be: where faces are to be hidden and the clip does not tell where they are, the
// coach has to ring them. Errors  CannotJudge
Result<bool> facesKnown(const ReplyFrame& layout, const coaching::Sketch& sketch);

// Where the film stands still, and for what.
struct Stop {
  std::size_t frame;
  QString title, text, below;
  lifts::Drawing drawing;                      // of a measure; None: nothing but what the coach drew
  std::size_t cue;                             // its place among the cues
  std::optional<motion::Stretch> loop = {};    // played slowly, twice, before it stands
  const coaching::OtherFilm* other = nullptr;  // where it shows in another film of the set
  std::optional<std::size_t> before = {};      // the frame that stands beside it: what it was just before
};
// Those of a reply, in the order of the clip.
std::vector<Stop> stopsOf(const coaching::Analysis& analysis, const ReplyContent& content);

// A still with the stop it shows, by number.
using Stills = std::vector<std::pair<std::size_t, QImage>>;
// A film that was written: its stills, and at which second of it each cue is spoken of; nullopt: it is not.
struct WrittenFilm {
  Stills stills;
  std::vector<std::optional<double>> cue_at_s;
  double length_s = 0;
  std::vector<review::CaptionLine> captions = {};  // of what is said
};

// The frames of the second view, one after the other as the film asks for them. Frame   displayed pixels
class SecondView {
 public:
  // Null where there is none. Errors  those of FrameReader::open
  static Result<std::unique_ptr<SecondView>> of(const ReplyContent& content);
  // The frame at the same moment as a time of the clip; null where that film does not reach, or cannot be read.
  const footage::Frame* at(double clip_t);
  const coaching::Analysis& analysis() const { return *analysis_; }
  const ReplyFrame& framed() const { return framed_; }

 private:
  SecondView(const ReplyContent& content, footage::FrameReader reader);
  std::shared_ptr<const coaching::Analysis> analysis_;
  double offset_s_;
  Jog jog_;
  ReplyFrame framed_;
};

// Paints a frame of the clip with what is to be seen and said on it, always into the same memory.
class Canvas {
 public:
  void draw(const coaching::Analysis& a, const coaching::Sketch& sketch, ReplyFrame& layout,
            const footage::Frame& frame, const Stop* stop, const PanelWords& words, SecondView* second = nullptr);
  // Two frames beside each other, each cut out about the bar, with the words of the later one's stop.
  void drawPair(const coaching::Analysis& a, const coaching::Sketch& sketch, ReplyFrame& layout,
                const footage::Frame& before, const footage::Frame& after, const PanelWords& words);
  // 8-bit blue, green, red and one unused byte, which is Qt's 32-bit picture too.
  const cv::Mat& pixels() const { return pixels_; }
  // The part with the lifter, as the report shows it.
  QImage still(const QRect& place) { return whole().copy(place); }

 private:
  void drawHalf(const coaching::Analysis& a, const coaching::Sketch& sketch, const ReplyFrame& layout,
                const footage::Frame& frame, const QRect& half, const QString& when);
  void drawSecond(SecondView& second, double clip_t, const QRect& room);
  QImage whole();  // the same bytes seen as Qt's picture
  cv::Mat pixels_;
};

}  // namespace jib::drawing
