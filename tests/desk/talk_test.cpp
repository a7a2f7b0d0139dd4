// SPDX-License-Identifier: GPL-3.0-or-later
// A reply talked through in the window: chapters recorded with a voice that stands in for the microphone, one of them
// again, drawn on meanwhile, returned, and the film read back.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <opencv2/core.hpp>

#include "core/footage/frame_reader.h"
#include "core/footage/sound.h"
#include "desk/review/sketch_pad.h"
#include "desk/review/stage.h"
#include "desk/talk/take_dialog.h"
#include "desk/talk/talk_strip.h"
#include "drawing/reply_frame.h"
#include "tests/core/must.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

// Says what the test has it say, when it has it say so.
struct Speaker : desk::VoiceSource {
  bool works = true;
  bool start(QString& trouble) override {
    if (!works) trouble = "No microphone found. Plug one in, then record again.";
    return works;
  }
  void stop() override {}
  void say(double length_s, qint16 loud = 600) {
    std::vector<qint16> samples(static_cast<std::size_t>(length_s * footage::Sound::kRate_hz));
    for (std::size_t i = 0; i < samples.size(); ++i) samples[i] = i % 48 < 24 ? loud : static_cast<qint16>(-loud);
    emit heard(samples);
  }
};

struct Talk : Desk {
  desk::ReviewPage& page;
  desk::TalkStrip& strip;
  Speaker* speaker;

  Talk() : Desk(Begin::Placed), page(open()), strip(*page.findChild<desk::TalkStrip*>("talkStrip")) {
    auto voice = std::make_unique<Speaker>();
    speaker = voice.get();
    strip.setVoice(std::move(voice));
    strip.setCountdown(0);
    QTest::keyClick(page.findChild<desk::Stage*>(), Qt::Key_V, Qt::ShiftModifier);
    EXPECT_TRUE(strip.isVisible());
  }
  void choose(const QString& chapter) {
    auto* box = strip.findChild<QComboBox*>("chapter");
    ASSERT_GE(box->findData(chapter), 0);
    box->setCurrentIndex(box->findData(chapter));
  }
  void key() { QTest::keyClick(page.findChild<desk::Stage*>(), Qt::Key_V, Qt::ShiftModifier); }
  QString state() const { return strip.findChild<QLabel*>("talkState")->text(); }
  double standing() const { return page.document().analysis()->reps[0].start_t(); }
  double bottom() const { return page.document().analysis()->reps[0].bottom_t(); }
};

std::vector<double> changesIn(const std::filesystem::path& film) {
  auto reader = must(footage::FrameReader::open(film));
  QRect picture;
  for (const auto shape : {review::FilmShape::Landscape, review::FilmShape::Portrait, review::FilmShape::Square})
    if (drawing::layoutOf(shape).film == QSize(reader.info().width, reader.info().height))
      picture = drawing::layoutOf(shape).picture;
  const cv::Rect area(picture.x(), picture.y(), picture.width(), picture.height());
  std::vector<double> changes;
  cv::Mat before;
  for (;;) {
    auto next = reader.next(footage::Pixels::Gray);
    if (!next || !*next) return changes;
    const cv::Mat now = (*next)->picture(area).clone();
    changes.push_back(before.empty() ? 0 : cv::norm(now, before, cv::NORM_L1));
    before = now;
  }
}

TEST(Talk, ChaptersAreRecordedOneAgainAndTheReplyFollowsThem) {
  Talk t;
  t.page.player().pause();
  t.choose("what's good");
  t.page.player().goTo(t.standing());
  t.key();
  ASSERT_TRUE(t.strip.recording());
  t.speaker->say(1.0);
  t.key();
  EXPECT_FALSE(t.strip.recording());
  t.choose("cue 1");
  t.key();
  t.speaker->say(0.4);
  t.key();
  // It did not come out well. Said again: the picture jumps to the bottom with the clap.
  t.choose("cue 1");
  t.page.player().goTo(t.standing());
  t.key();
  t.speaker->say(0.9);
  t.page.player().goTo(t.bottom());
  t.speaker->say(0.02, 30000);
  t.speaker->say(1.08);
  t.key();
  EXPECT_EQ(t.strip.takesForReply().size(), 2u);
  EXPECT_TRUE(t.state().contains("2 ") && t.state().contains("0:03")) << t.state().toStdString();

  const auto out = t.folder / "out";
  t.page.writeReplyTo(QString::fromStdString(out.string()));
  Desk::waitFor([&] { return !t.page.busy(); });
  std::filesystem::path film;
  for (const auto& entry : std::filesystem::recursive_directory_iterator(out))
    if (entry.path().extension() == ".mp4") film = entry.path();
  ASSERT_FALSE(film.empty());
  const auto changes = changesIn(film);
  EXPECT_EQ(changes.size(), 90u) << "a second, and two";
  const auto jump = std::max_element(changes.begin() + 32, changes.end()) - changes.begin();
  const footage::Sound sound = must(footage::readSound(film));
  double heard_s = -1;
  for (std::size_t i = footage::Sound::kRate_hz; i < sound.samples.size() && heard_s < 0; ++i)
    if (sound.samples[i] > 0.4F) heard_s = static_cast<double>(i) / footage::Sound::kRate_hz;
  EXPECT_NEAR(heard_s, static_cast<double>(jump) / 30, 0.04) << "the flash and the clap";
}

TEST(Talk, PlayingSteppingAndSlowingAreInTheTakeAsTheyWere) {
  Talk t;
  t.page.player().pause();
  t.choose("what's good");
  t.page.player().goTo(1.0);
  t.key();
  t.speaker->say(0.5);
  t.page.player().step(1);
  t.speaker->say(0.5);
  t.page.player().setSpeed(0.25);
  t.page.player().toggle();
  t.speaker->say(0.02);
  t.page.player().pause();
  t.key();
  const auto takes = t.strip.takesForReply();
  ASSERT_EQ(takes.size(), 1u);
  const auto& plays = takes[0].plays;
  ASSERT_GE(plays.size(), 4u);
  EXPECT_NEAR(plays[0].clip_t, 1.0, 0.02);
  EXPECT_EQ(plays[0].rate, 0);
  EXPECT_NEAR(plays[1].at_s, 0.5, 0.1);
  EXPECT_GT(plays[1].clip_t, plays[0].clip_t);
  EXPECT_EQ(plays[2].rate, 0.25);
  EXPECT_EQ(plays.back().rate, 0);
}

TEST(Talk, UndoBringsBackWhatWasDeletedAndLeavingKeepsWhatWasSaid) {
  Talk t;
  t.choose("what's good");
  t.key();
  t.speaker->say(0.5);
  t.key();
  t.choose("what's good");
  t.strip.findChild<QToolButton*>("removeTake")->click();
  EXPECT_TRUE(t.strip.takesForReply().empty());
  t.page.document().undoStack().undo();
  ASSERT_EQ(t.strip.takesForReply().size(), 1u);
  t.choose("what's next");
  t.key();
  t.speaker->say(0.6);
  t.reopen();  // in the middle of a word
  auto& again = t.open();
  EXPECT_EQ(again.findChild<desk::TalkStrip*>("talkStrip")->takesForReply().size(), 2u);
  EXPECT_EQ(again.findChild<QToolButton*>("talk")->text(), "Talk (2)");
}

TEST(Talk, ARecordingIsCutCaptionedAndMovedWithoutSayingItAgain) {
  Talk t;
  for (const char* chapter : {"what's good", "cue 1"}) {
    t.choose(chapter);
    t.key();
    t.speaker->say(2.0);
    t.key();
  }
  t.choose("cue 1");
  QTimer::singleShot(0, [&] {
    auto* dialog = t.window->findChild<desk::TakeDialog*>();
    ASSERT_NE(dialog, nullptr);
    dialog->findChild<QDoubleSpinBox*>("cutStart")->setValue(0.6);
    dialog->findChild<QDoubleSpinBox*>("cutEnd")->setValue(9);
    EXPECT_NEAR(dialog->findChild<QDoubleSpinBox*>("cutEnd")->value(), 0.9, 1e-9) << "half a second stays";
    dialog->findChild<QPlainTextEdit*>("takeCaption")->setPlainText("Hips back.\nKnees out.");
    dialog->accept();
  });
  t.strip.findChild<QToolButton*>("editTake")->click();
  const auto edited = t.strip.takesForReply();
  ASSERT_EQ(edited.size(), 2u);
  EXPECT_NEAR(edited[1].cut_start_s, 0.6, 1e-9);
  EXPECT_EQ(edited[1].caption, "Hips back. Knees out.");
  EXPECT_TRUE(t.state().startsWith("2 chapters, 0:03")) << t.state().toStdString();
  EXPECT_FALSE(t.strip.findChild<QToolButton*>("laterTake")->isEnabled());
  t.strip.findChild<QToolButton*>("earlierTake")->click();
  EXPECT_EQ(t.strip.takesForReply()[0].chapter, "cue 1");
  t.page.document().undoStack().undo();
  t.page.document().undoStack().undo();
  EXPECT_EQ(t.strip.takesForReply()[0].chapter, "what's good");
  EXPECT_EQ(t.strip.takesForReply()[1].cut_start_s, 0) << "the recording itself was never cut";
}

TEST(Talk, WithoutAMicrophoneItSaysSoAndWithOneLostKeepsWhatWasSaid) {
  Talk t;
  t.speaker->works = false;
  t.choose("what's good");
  t.key();
  EXPECT_FALSE(t.strip.recording());
  EXPECT_TRUE(t.page.findChild<QLabel*>("status")->text().contains("No microphone"));
  t.speaker->works = true;
  t.key();
  t.speaker->say(0.7);
  emit t.speaker->lost("The microphone is gone. What was recorded until then is kept.");
  EXPECT_FALSE(t.strip.recording());
  EXPECT_EQ(t.strip.takesForReply().size(), 1u);
}

TEST(Talk, TheVoiceOfAFileStandsInForAMicrophone) {
  const ScratchFolder folder;
  auto wav = must(footage::WavWriter::create(folder / "voice.wav"));
  must(wav.add(std::vector<std::int16_t>(4800, 9000)));
  must(wav.finish());
  const auto voice = desk::voiceFromFile(QString::fromStdString((folder / "voice.wav").string()));
  std::size_t loud = 0, all = 0;
  QObject::connect(voice.get(), &desk::VoiceSource::heard, [&](const std::vector<qint16>& samples) {
    for (const qint16 s : samples) loud += s > 8000 ? 1 : 0;
    all += samples.size();
  });
  QString trouble;
  ASSERT_TRUE(voice->start(trouble)) << trouble.toStdString();
  Desk::waitFor([&] { return all > 9600; });
  voice->stop();
  EXPECT_NEAR(static_cast<double>(loud), 4800, 100) << "then it is silent";
}

}  // namespace
}  // namespace jib::tests
