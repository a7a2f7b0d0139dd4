// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/talk/talk_strip.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QToolButton>
#include <QUndoCommand>
#include <algorithm>

#include "core/footage/sound.h"
#include "desk/talk/take_dialog.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

class ChangeTakes : public QUndoCommand {
 public:
  ChangeTakes(TalkStrip& strip, const QString& text, std::vector<review::Take> to)
      : strip_(strip), value_(std::move(to)) {
    setText(text);
  }
  void redo() override { value_ = strip_.exchange(std::move(value_)); }
  void undo() override { redo(); }

 private:
  TalkStrip& strip_;
  std::vector<review::Take> value_;
};

QString minutes(double s) {
  const int whole = static_cast<int>(s + 0.5);
  return QStringLiteral("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QLatin1Char('0'));
}

double lengthOf(const review::Take& take) {
  std::error_code error;
  const auto bytes = std::filesystem::file_size(take.file, error);
  return error ? 0 : static_cast<double>(bytes) / 2 / footage::Sound::kRate_hz;
}

// Without what is cut off its ends.
double heardOf(const review::Take& take) {
  return std::max(0.0, lengthOf(take) - take.cut_start_s - take.cut_end_s);
}

}  // namespace

TalkStrip::TalkStrip(ReviewDocument& document, Player& player, const std::filesystem::path& library, QWidget* parent)
    : QFrame(parent),
      document_(document),
      player_(player),
      shelf_(review::TakeShelf::folderOf(library, document.submission().id)),
      recorder_(player) {
  setObjectName(QStringLiteral("talkStrip"));
  buildRow();
  // A list that can't be read is left as it is: a new one would leave its sounds unnamed.
  if (auto opened = shelf_.open(); !opened) unreadable_ = q(opened.error().sentence());
  counting_.setInterval(1000);
  connect(&counting_, &QTimer::timeout, this, [this] {
    if (--left_s_ > 0) return refresh();
    counting_.stop();
    begin();
  });
  clock_.setInterval(200);
  connect(&clock_, &QTimer::timeout, this, &TalkStrip::refresh);
  connect(&recorder_, &TakeRecorder::level, this, [this](double peak) {
    level_->setValue(static_cast<int>(100 * peak));
    level_->setToolTip(peak > 0.95 ? tr("Too loud: move back from the microphone") : tr("How loud you are"));
  });
  connect(&recorder_, &TakeRecorder::interrupted, this, [this](const QString& sentence) {
    finish();
    emit said(sentence, true);
  });
  connect(&document_, &ReviewDocument::choiceChanged, this, &TalkStrip::offerChapters);
  offerChapters();
}

TalkStrip::~TalkStrip() {
  // The page is left in the middle of a word: what was said is kept. The review may be gone by now.
  if (auto take = recorder_.end()) (void)shelf_.set(withTake(shelf_.takes(), std::move(*take), offered_));
}

void TalkStrip::buildRow() {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  record_ = new QPushButton;
  record_->setObjectName(QStringLiteral("record"));
  record_->setToolTip(tr("Counts down, then records you and what the clip does; press again to stop (Shift+V)"));
  connect(record_, &QPushButton::clicked, this, &TalkStrip::toggleRecording);
  chapter_ = new QComboBox;
  chapter_->setObjectName(QStringLiteral("chapter"));
  chapter_->setToolTip(tr("What you are about to talk about; recording it again replaces it"));
  connect(chapter_, &QComboBox::currentIndexChanged, this, &TalkStrip::refresh);
  remove_ = new QToolButton;
  remove_->setObjectName(QStringLiteral("removeTake"));
  remove_->setText(tr("Delete"));
  remove_->setToolTip(tr("Delete this recording; undo brings it back"));
  connect(remove_, &QToolButton::clicked, this,
          [this] { change(tr("delete the recording"), review::withoutTake(shelf_.takes(), chapter())); });
  const auto button = [&](const char* name, const QString& text, const QString& tip, auto run) {
    auto* b = new QToolButton;
    b->setObjectName(QString::fromLatin1(name));
    b->setText(text);
    b->setToolTip(tip);
    connect(b, &QToolButton::clicked, this, run);
    return b;
  };
  edit_ = button("editTake", tr("Edit…"), tr("Cut off its start or end, and type captions"), [this] { edit(); });
  earlier_ = button("earlierTake", QStringLiteral("‹"), tr("Earlier in the reply"), [this] { move(-1); });
  later_ = button("laterTake", QStringLiteral("›"), tr("Later in the reply"), [this] { move(1); });
  level_ = new QProgressBar;
  level_->setObjectName(QStringLiteral("voiceLevel"));
  level_->setRange(0, 100);
  level_->setTextVisible(false);
  fixTextWidth(level_, 70);
  state_ = words(QString(), true);
  state_->setObjectName(QStringLiteral("talkState"));
  state_->setToolTip(tr("Talk over the clip, one chapter at a time. Play, step, slow down and draw as you go."));
  use_ = new QCheckBox(tr("In the reply"));
  use_->setObjectName(QStringLiteral("useTalk"));
  use_->setChecked(true);
  use_->setToolTip(tr("The reply's clip follows your recording; off: it stops at each cue in silence"));
  connect(use_, &QCheckBox::toggled, this, &TalkStrip::changed);
  auto* close = new QToolButton;
  close->setText(QStringLiteral("✕"));
  close->setToolTip(tr("Close"));
  connect(close, &QToolButton::clicked, this, &TalkStrip::closeRequested);
  row->addWidget(record_);
  row->addWidget(chapter_);
  for (QToolButton* b : {earlier_, later_, edit_, remove_}) row->addWidget(b);
  row->addWidget(level_);
  row->addWidget(state_, 1);
  row->addWidget(use_);
  row->addWidget(close);
}

std::vector<std::string> TalkStrip::chapters() const {
  std::vector<std::string> all{review::kGoodChapter};
  for (std::size_t i = 0; i < document_.choice().cues.size(); ++i) all.push_back("cue " + std::to_string(i + 1));
  all.emplace_back(review::kNextChapter);
  return all;
}

std::string TalkStrip::chapter() const {
  return chapter_->currentData().toString().toStdString();
}

void TalkStrip::offerChapters() {
  const QString now = chapter_->currentData().toString();
  const QSignalBlocker quiet(chapter_);
  chapter_->clear();
  const auto& cues = document_.choice().cues;
  offered_ = chapters();
  for (const std::string& id : offered_) {
    QString title = id == review::kGoodChapter ? tr("What's good") : tr("What's next");
    if (id != review::kGoodChapter && id != review::kNextChapter) {
      const std::size_t at = static_cast<std::size_t>(chapter_->count()) - 1;
      title = tr("Cue %1: %2").arg(at + 1).arg(q(cues[at].title));
    }
    if (const auto* take = shelf_.of(id)) title += QStringLiteral("  ✓ ") + minutes(heardOf(*take));
    chapter_->addItem(title, q(id));
  }
  chapter_->setCurrentIndex(std::max(0, chapter_->findData(now)));
  refresh();
}

void TalkStrip::toggleRecording() {
  if (recording()) return finish();
  if (!unreadable_.isEmpty()) return emit said(unreadable_, true);
  if (counting_.isActive()) {
    counting_.stop();
    return refresh();
  }
  left_s_ = countdown_s_;
  if (left_s_ <= 0) return begin();
  counting_.start();
  refresh();
}

void TalkStrip::begin() {
  if (!voice_) voice_ = usualVoice();
  if (auto begun = recorder_.begin(shelf_, chapter(), *voice_); !begun) {
    refresh();
    return emit said(q(begun.error().sentence()), true);
  }
  clock_.start();
  chapter_->setEnabled(false);
  emit recordingChanged(true);
  refresh();
}

void TalkStrip::finish() {
  if (!recording()) return;
  clock_.stop();
  level_->setValue(0);
  chapter_->setEnabled(true);
  auto take = recorder_.end();
  emit recordingChanged(false);
  if (!take) {
    refresh();
    return emit said(tr("Nothing was heard, so nothing was recorded."), true);
  }
  change(tr("record a chapter"), review::withTake(shelf_.takes(), std::move(*take), chapters()));
  // On to the next that has none.
  for (int i = chapter_->currentIndex() + 1; i < chapter_->count(); ++i)
    if (!shelf_.of(chapter_->itemData(i).toString().toStdString())) return chapter_->setCurrentIndex(i);
}

void TalkStrip::edit() {
  const review::Take* take = shelf_.of(chapter());
  if (!take || busy()) return;
  TakeDialog dialog(*take, lengthOf(*take), window());
  if (dialog.exec() != QDialog::Accepted) return;
  const review::Take wanted = dialog.wanted();
  const review::Take* now = shelf_.of(wanted.chapter);
  if (now && wanted != *now) change(tr("edit the recording"), review::withTake(shelf_.takes(), wanted, chapters()));
}

void TalkStrip::move(int by) {
  auto takes = shelf_.takes();
  const auto at = std::find_if(takes.begin(), takes.end(), [&](const auto& t) { return t.chapter == chapter(); });
  const auto to = (at - takes.begin()) + by;
  if (at == takes.end() || to < 0 || to >= static_cast<std::ptrdiff_t>(takes.size()) || busy()) return;
  std::iter_swap(at, takes.begin() + to);
  change(tr("move the recording"), std::move(takes));
}

void TalkStrip::change(const QString& text, std::vector<review::Take> to) {
  document_.undoStack().push(new ChangeTakes(*this, text, std::move(to)));
}

std::vector<review::Take> TalkStrip::exchange(std::vector<review::Take> to) {
  std::vector<review::Take> before = shelf_.takes();
  if (auto kept = shelf_.set(std::move(to)); !kept) emit said(q(kept.error().sentence()), true);
  offerChapters();
  emit changed();
  return before;
}

std::vector<review::Take> TalkStrip::takesForReply() const {
  return use_->isChecked() ? shelf_.takes() : std::vector<review::Take>();
}

void TalkStrip::refresh() {
  const bool taken = shelf_.of(chapter()) != nullptr;
  record_->setText(recording()            ? tr("■ Stop")
                   : counting_.isActive() ? tr("%1 …").arg(left_s_)
                   : taken                ? tr("● Record again")
                                          : tr("● Record"));
  for (QToolButton* b : {remove_, edit_}) b->setEnabled(taken && !busy());
  const auto& takes = shelf_.takes();
  earlier_->setEnabled(taken && !busy() && takes.front().chapter != chapter());
  later_->setEnabled(taken && !busy() && takes.back().chapter != chapter());
  use_->setEnabled(!shelf_.takes().empty());
  if (recording()) return state_->setText(tr("Recording %1").arg(minutes(recorder_.length_s())));
  double s = 0;
  for (const auto& take : shelf_.takes()) s += heardOf(take);
  const auto all = shelf_.takes().size();
  state_->setText(all == 0   ? tr("No chapters yet")
                  : all == 1 ? tr("1 chapter, %1").arg(minutes(s))
                             : tr("%1 chapters, %2").arg(all).arg(minutes(s)));
}

}  // namespace jib::desk
