// SPDX-License-Identifier: GPL-3.0-or-later
// The reply as files: what is in them, and what is left when writing stops half-way.
#include <gtest/gtest.h>

#include <QImage>
#include <opencv2/core.hpp>

#include "core/footage/frame_reader.h"
#include "drawing/reply_frame.h"
#include "drawing/reply_writer.h"
#include "drawing/stretch_film.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/no_room.h"
#include "tests/drawing/one_cue.h"

namespace jib::drawing {
namespace {

using tests::bytesOf;
using tests::NoRoom;
using tests::oneCue;
using tests::ScratchFolder;
using tests::smallAnalysis;

// As in reply_writer.cpp: a freeze of 3.5 s at 30 frames a second, and half a second either way three times as slow.
constexpr int kFreezeFrames = 105;

std::vector<cv::Mat> framesOf(const std::filesystem::path& film) {
  auto reader = footage::FrameReader::open(film);
  EXPECT_TRUE(reader) << reader.error().what;
  std::vector<cv::Mat> all;
  for (;;) {
    auto next = reader->next(footage::Pixels::Gray);
    if (!next || !*next) return all;
    all.push_back((*next)->picture.clone());
  }
}

double differenceOf(const cv::Mat& a, const cv::Mat& b) {
  return cv::norm(a, b, cv::NORM_L1) / static_cast<double>(a.total());
}

std::size_t filesIn(const std::filesystem::path& folder) {
  return static_cast<std::size_t>(
      std::distance(std::filesystem::directory_iterator(folder), std::filesystem::directory_iterator()));
}

TEST(ReplyFrame, AnUprightFilmHasItsWordsBelowThePictureAndTheCueLargest) {
  for (const auto shape : {review::FilmShape::Landscape, review::FilmShape::Portrait, review::FilmShape::Square}) {
    const FilmLayout layout = layoutOf(shape);
    EXPECT_FALSE(layout.picture.intersects(layout.words)) << "no caption lies over the feet";
    EXPECT_EQ(layout.picture.united(layout.words), QRect(QPoint(0, 0), layout.film)) << "nothing is left empty";
    const coaching::Sketch none;
    ReplyFrame frame(smallAnalysis(), none, shape);
    EXPECT_TRUE(layout.picture.contains(frame.place()));
    const QImage& words =
        frame.panel({"Ola", "Squat", "Title", "Knees out, sit down.", "Drill: 3 x 3", "", {}, "Mara"});
    EXPECT_EQ(words.size(), layout.words.size());
  }
  EXPECT_GT(layoutOf(review::FilmShape::Portrait).words.top(), 0);
  EXPECT_GT(layoutOf(review::FilmShape::Portrait).film.height(), layoutOf(review::FilmShape::Portrait).film.width());
}

TEST(StretchFilm, IsTheRepAsItIsOnTheStageAtItsOwnSizeAndSpeed) {
  const ScratchFolder folder;
  Task task;
  const auto& a = smallAnalysis();
  StretchLook look;
  look.part = a.reps[0].whole();
  coaching::Sketch sketch;
  tests::must(stretchFilm(a, sketch, look, folder / "lines.mp4", task));
  look.lines = false;
  tests::must(stretchFilm(a, sketch, look, folder / "bare.mp4", task));
  auto reader = tests::must(footage::FrameReader::open(folder / "lines.mp4"));
  EXPECT_EQ(reader.info().width, a.clip.width & ~1);
  EXPECT_NEAR(reader.info().times_s.back(), a.reps[0].end_t() - a.reps[0].start_t(), 0.1);
  const auto with = framesOf(folder / "lines.mp4"), bare = framesOf(folder / "bare.mp4");
  ASSERT_EQ(with.size(), bare.size());
  EXPECT_GT(differenceOf(with[with.size() / 2], bare[bare.size() / 2]), 0.5) << "lines are drawn";
  task.cancel();
  EXPECT_FALSE(stretchFilm(a, sketch, look, folder / "none.mp4", task));
  EXPECT_FALSE(std::filesystem::exists(folder / "none.mp4"));
}

TEST(ReplyWriter, EndsWithWhatToFilmNext) {
  const ScratchFolder folder;
  Task task;
  auto content = oneCue();
  const auto without = framesOf(tests::must(writeReply(smallAnalysis(), content, folder / "a", task)).clip);
  content.next = "Three reps at 70 % from the side, phone at hip height.";
  const auto with = framesOf(tests::must(writeReply(smallAnalysis(), content, folder / "b", task)).clip);
  ASSERT_EQ(with.size(), without.size() + kFreezeFrames);
  const QRect words = layoutOf(content.shape).words;
  const cv::Rect panel(words.x(), words.y(), words.width(), words.height());
  EXPECT_GT(differenceOf(with.back()(panel), without.back()(panel)), 1) << "other words";
  EXPECT_LT(differenceOf(with.back(), with[with.size() - kFreezeFrames / 2]), 1) << "it stands";
}

TEST(ReplyWriter, FreezesAtTheEvidenceAndSlowsDownAroundIt) {
  const ScratchFolder folder;
  Task task;
  const auto files = writeReply(smallAnalysis(), oneCue(), folder.path(), task);
  ASSERT_TRUE(files) << files.error().what;
  const auto frames = framesOf(files->clip);
  const auto& reps = smallAnalysis().reps;
  const double first = std::max(0.0, reps.front().start_t() - 1);
  const double last = std::min(smallAnalysis().clip.times_s.back(), reps.back().end_t() + 1);
  // One second of the clip is shown three times as long, so two seconds more; a frame or two at the ends either way.
  const double wanted = (last - first + 2) * 30 + kFreezeFrames;
  EXPECT_NEAR(static_cast<double>(frames.size()), wanted, 6);
  int longest = 0, run = 0;
  for (std::size_t i = 1; i < frames.size(); ++i) {
    run = differenceOf(frames[i - 1], frames[i]) < 0.7 ? run + 1 : 0;
    longest = std::max(longest, run);
  }
  EXPECT_GE(longest, kFreezeFrames - 1) << "no still stretch as long as a freeze";
}

TEST(ReplyWriter, PutsTheCuesWordsIntoEveryPartOfTheReply) {
  const ScratchFolder folder;
  Task task;
  const auto files = writeReply(smallAnalysis(), oneCue(), folder.path(), task);
  ASSERT_TRUE(files) << files.error().what;
  EXPECT_NE(bytesOf(files->html).find("Knees stay where they are."), std::string::npos);
  EXPECT_EQ(bytesOf(files->pdf).substr(0, 5), "%PDF-");
  ASSERT_EQ(files->stills.size(), 1u);
  const QImage still(QString::fromStdString(files->stills[0].string()));
  EXPECT_LE(still.width(), 780);
  EXPECT_EQ(std::max(still.width() * 720, still.height() * 780), 780 * 720) << "as large as the film's picture allows";
  EXPECT_EQ(filesIn(folder.path()), 4u) << "clip, page, paper and still, and nothing unfinished";
}

TEST(ReplyWriter, ShowsOneFrameWhenNothingIsToBeChanged) {
  const ScratchFolder folder;
  ReplyContent content = oneCue();
  content.cues.clear();
  content.change_nothing = true;
  Task task;
  const auto files = writeReply(smallAnalysis(), content, folder.path(), task);
  ASSERT_TRUE(files) << files.error().what;
  EXPECT_EQ(files->stills.size(), 1u);
  EXPECT_NE(bytesOf(files->html).find("No changes"), std::string::npos);
}

TEST(ReplyWriter, LeavesNothingBehindWhenCancelled) {
  const ScratchFolder folder;
  Task* running = nullptr;
  Task task([&](double fraction) {
    if (fraction > 0.3) running->cancel();
  });
  running = &task;
  const auto files = writeReply(smallAnalysis(), oneCue(), folder.path(), task);
  ASSERT_FALSE(files);
  EXPECT_EQ(files.error().code, ErrorCode::Cancelled);
  EXPECT_EQ(filesIn(folder.path()), 0u);
}

class FullDisk : public testing::TestWithParam<rlim_t> {};

// From the film's header, through its middle, to the report behind it.
INSTANTIATE_TEST_SUITE_P(AtAnySize, FullDisk, testing::Values(0, 2'000, 60'000, 150'000));

TEST_P(FullDisk, KeepsTheEarlierReplyAndSaysWhatToDo) {
  const ScratchFolder folder;
  folder.write("ola-marsh-squat-2026-02-03.mp4", "the earlier film");
  folder.write("ola-marsh-squat-2026-02-03.html", "the earlier page");
  Task task;
  const auto files = [&] {
    const NoRoom no_room(GetParam());
    return writeReply(smallAnalysis(), oneCue(), folder.path(), task);
  }();
  ASSERT_FALSE(files);
  EXPECT_EQ(files.error().code, ErrorCode::CannotWrite) << files.error().what;
  EXPECT_FALSE(files.error().next.empty());
  EXPECT_EQ(bytesOf(folder / "ola-marsh-squat-2026-02-03.mp4"), "the earlier film");
  EXPECT_EQ(bytesOf(folder / "ola-marsh-squat-2026-02-03.html"), "the earlier page");
  EXPECT_EQ(filesIn(folder.path()), 2u);
}

TEST(ReplyWriter, ReplacesAnEarlierLongerReply) {
  const ScratchFolder folder;
  for (const char* name : {"ola-marsh-squat-2026-02-03.mp4", "ola-marsh-squat-2026-02-03-1.png",
                           "ola-marsh-squat-2026-02-03-2.png", "ola-marsh-squat-2026-02-03-3.png", "notes.txt"})
    folder.write(name, "old");
  Task task;
  ASSERT_TRUE(writeReply(smallAnalysis(), oneCue(), folder.path(), task));
  EXPECT_FALSE(std::filesystem::exists(folder / "ola-marsh-squat-2026-02-03-2.png")) << "of the earlier reply";
  EXPECT_NE(bytesOf(folder / "ola-marsh-squat-2026-02-03-1.png"), "old");
  EXPECT_EQ(bytesOf(folder / "notes.txt"), "old") << "not ours to touch";
}

TEST(ReplyWriter, NamesTheFolderItCannotMake) {
  const ScratchFolder folder;
  folder.write("file", "in the way");
  Task task;
  const auto files = writeReply(smallAnalysis(), oneCue(), folder / "file" / "reply", task);
  ASSERT_FALSE(files);
  EXPECT_EQ(files.error().code, ErrorCode::CannotWrite);
  EXPECT_NE(files.error().what.find("file/reply"), std::string::npos);
}

}  // namespace
}  // namespace jib::drawing
