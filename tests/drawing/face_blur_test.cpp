// SPDX-License-Identifier: GPL-3.0-or-later
// Faces in what leaves the house: where the head is, frame by frame against the simulation; what is left of it in the
// film; what the coach ringed; and what is said when nobody knows where the face is.
#include "drawing/face_blur.h"

#include <gtest/gtest.h>

#include <QImage>
#include <opencv2/imgproc.hpp>
#include <opencv2/objdetect.hpp>

#include "core/footage/clip_writer.h"
#include "core/footage/frame_reader.h"
#include "core/simulate/film.h"
#include "drawing/reply_frame.h"
#include "drawing/reply_writer.h"
#include "tests/core/analysed_clip.h"
#include "tests/drawing/one_cue.h"

namespace jib::drawing {
namespace {

using tests::ScratchFolder;

// How far crown, ears and chin reach out of the circle at most, in its radii; 1 is its edge.
double farthestOut(std::string_view lift) {
  const std::string name(lift);
  const auto spec = *simulate::parseSpec(tests::bytesOf(std::string(JIB_TEST_DATA) + "/small-" + name + ".json"));
  coaching::AnalysisRequest request;
  request.lift = lifts::liftNamed(lift)->id;
  const std::string clip = std::string(JIB_MADE_CLIPS) + "/small-" + name + ".mp4";
  const auto& a = lift == "squat" ? tests::unplaced() : tests::keptAnalysis(name, clip, request);
  EXPECT_TRUE(a.trace.sightings);
  const auto heads = tracing::headsOf(*a.trace.sightings, a.trace.trace);
  EXPECT_EQ(heads.size(), a.clip.times_s.size());
  const auto script = simulate::scriptFor(spec);
  const simulate::Handheld camera(spec);
  double farthest = 0;
  for (std::size_t i = 0; i < heads.size(); ++i) {
    const simulate::Body body = script->at(a.clip.times_s[i]);
    const simulate::Vec3 chin = body.neck + (body.crown - body.neck) * 0.35;
    for (const simulate::Vec3& p : {body.crown, body.ear_left, body.ear_right, chin})
      farthest = std::max(farthest, length(camera.at(a.clip.times_s[i]).project(p) - heads[i].centre) /
                                        std::max(1.0, heads[i].radius_px));
  }
  return farthest;
}

TEST(FaceBlur, HoldsTheWholeHeadOnEveryFrame) {
  for (const char* lift : {"squat", "deadlift", "bench"}) EXPECT_LE(farthestOut(lift), 1.0) << lift;
}

TEST(FaceBlur, LeavesNothingFineAndTouchesNothingElse) {
  cv::Mat picture(200, 300, CV_8UC3);
  for (int y = 0; y < picture.rows; ++y)
    for (int x = 0; x < picture.cols; ++x)
      picture.at<cv::Vec3b>(y, x) = (x / 2 + y / 2) % 2 ? cv::Vec3b(255, 255, 255) : cv::Vec3b(0, 0, 0);
  const cv::Mat before = picture.clone();
  blur(picture, {{150, 100, 40}, {-500, 20, 10}, {2, 198, 30}});
  cv::Scalar mean, spread;
  cv::meanStdDev(picture(cv::Rect(130, 80, 40, 40)), mean, spread);
  EXPECT_LT(spread[0], 12) << "a checkerboard is grey";
  EXPECT_EQ(cv::norm(picture(cv::Rect(200, 0, 100, 200)), before(cv::Rect(200, 0, 100, 200))), 0);
}

cv::Mat frameOf(const std::filesystem::path& film, double t_s) {
  auto reader = footage::FrameReader::open(film);
  EXPECT_TRUE(reader);
  const std::size_t frame = reader->info().nearestFrame(t_s);
  EXPECT_TRUE(reader->seekBefore(frame));
  return tests::must(reader->next(footage::Pixels::Gray, frame))->picture.clone();
}

TEST(FaceBlur, TheReplysFilmIsBlurredAboutTheHeadAndNowhereElse) {
  const auto& a = tests::unplaced();
  auto content = tests::oneCue();
  content.cues.front().t_s = a.reps[0].bottom_t();
  const ScratchFolder shown, hidden;
  Task task;
  const auto as_it_is = tests::must(writeReply(a, content, shown.path(), task));
  content.hide_faces = true;
  const auto blurred = tests::must(writeReply(a, content, hidden.path(), task));
  constexpr double kAt_s = 0.1;
  cv::Mat apart;
  cv::absdiff(frameOf(as_it_is.clip, kAt_s), frameOf(blurred.clip, kAt_s), apart);
  const coaching::Sketch none;
  const ReplyFrame layout(a, none);
  const std::size_t frame = a.motion.frameAt(std::max(0.0, a.reps[0].start_t() - 1) + kAt_s);
  const auto head = tracing::headsOf(*a.trace.sightings, a.trace.trace)[frame];
  const QPointF at = layout.clipToFilm().map(QPointF(head.centre.x, head.centre.y));
  cv::Mat inside = cv::Mat::zeros(apart.size(), CV_8U);
  cv::circle(inside, cv::Point(static_cast<int>(at.x()), static_cast<int>(at.y())),
             static_cast<int>(head.radius_px * layout.clipToFilm().m11()), 255, cv::FILLED);
  const double of_head = cv::mean(apart, inside)[0], elsewhere = cv::mean(apart, ~inside)[0];
  EXPECT_GT(of_head, 4);
  EXPECT_GT(of_head, 10 * elsewhere);
}

TEST(FaceBlur, WhereTheFaceIsNotKnownNothingGoesOutUntilItIsRinged) {
  auto content = tests::oneCue();
  content.hide_faces = true;
  const ScratchFolder folder;
  Task task;
  const auto refused = writeReply(tests::smallAnalysis(), content, folder.path(), task);
  ASSERT_FALSE(refused) << "the network was not asked of this one";
  EXPECT_EQ(refused.error().code, ErrorCode::CannotJudge);
  EXPECT_TRUE(std::filesystem::is_empty(folder.path()));
  coaching::Shape ring;
  ring.kind = coaching::ShapeKind::Blur;
  ring.anchors.resize(2);
  ring.anchors[0].place = {200, 60};
  ring.anchors[1].place = {200, 90};
  ring.to_s = 100;
  content.sketch.shapes = {ring};
  EXPECT_TRUE(writeReply(tests::smallAnalysis(), content, folder.path(), task));
}

// Somebody at the edge of the picture who looks on: their picture (of Debian's opencv-doc) pasted into every frame.
coaching::Analysis withAnOnlooker(const coaching::Analysis& a, const std::filesystem::path& file) {
  QImage photograph = QImage(QStringLiteral("/usr/share/doc/opencv-doc/examples/data/basketball1.png"))
                          .convertToFormat(QImage::Format_BGR888);
  EXPECT_FALSE(photograph.isNull());
  const cv::Mat photo(photograph.height(), photograph.width(), CV_8UC3, photograph.bits(),
                      static_cast<std::size_t>(photograph.bytesPerLine()));
  cv::Mat onlooker;
  cv::resize(photo(cv::Rect(20, 40, 140, 320)), onlooker, {a.clip.height * 140 / 320 * 7 / 10, a.clip.height * 7 / 10},
             0, 0, cv::INTER_AREA);
  auto reader = tests::must(footage::FrameReader::open(a.clip.file));
  auto writer = tests::must(footage::ClipWriter::create(
      file, {.width = a.clip.width, .height = a.clip.height, .rate_hz = 30, .quality = 12}));
  while (auto frame = tests::must(reader.next(footage::Pixels::Colour))) {
    onlooker.copyTo(frame->picture(cv::Rect({0, 0}, onlooker.size())));
    EXPECT_TRUE(writer.add(frame->picture));
  }
  EXPECT_TRUE(writer.finish());
  coaching::Analysis with = a;
  with.clip.file = file;
  return with;
}

// OpenCV's own detector of faces that look at the camera.
std::size_t facesFoundIn(const std::filesystem::path& film) {
  cv::CascadeClassifier cascade("/usr/share/opencv4/haarcascades/haarcascade_frontalface_alt2.xml");
  EXPECT_FALSE(cascade.empty());
  auto reader = tests::must(footage::FrameReader::open(film));
  std::size_t found = 0;
  for (int i = 0; i < 120; ++i) {
    const auto frame = tests::must(reader.next(footage::Pixels::Gray));
    if (!frame) break;
    if (i % 4) continue;
    std::vector<cv::Rect> faces;
    cascade.detectMultiScale(frame->picture, faces, 1.1, 4, 0, {16, 16});
    found += faces.size();
  }
  return found;
}

TEST(FaceBlur, AnOnlookersFaceIsFoundAndCoveredByItself) {
  const ScratchFolder films, shown, hidden;
  const auto a = withAnOnlooker(tests::unplaced(), films.path() / "onlooker.mp4");
  auto content = tests::oneCue();
  content.cues.front().t_s = a.reps[0].bottom_t();
  Task task;
  const auto as_it_is = tests::must(writeReply(a, content, shown.path(), task));
  EXPECT_FALSE(as_it_is.others_hidden);
  EXPECT_GE(facesFoundIn(as_it_is.clip), 3u) << "else nothing is shown by what follows";
  content.hide_faces = true;
  const auto blurred = tests::must(writeReply(a, content, hidden.path(), task));
  EXPECT_EQ(blurred.others_hidden, 1u);
  EXPECT_EQ(facesFoundIn(blurred.clip), 0u);
}

}  // namespace
}  // namespace jib::drawing
