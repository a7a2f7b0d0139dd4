// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/story_strip.h"

#include <QHBoxLayout>
#include <QScrollBar>
#include <QTimer>
#include <QToolButton>
#include <algorithm>

#include "core/base/quantity.h"
#include "core/library/dates.h"
#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/submissions_model.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

// "21 Nov", with the year where it is another than this one's.
QString dayText(const std::string& on) {
  QString day = q(library::spoken(on));
  if (day.endsWith(q(library::today().substr(0, 4)))) day.chop(5);
  return day;
}

// What a clip's cues have come to: "2 asked · 1 met".
QString courseText(const library::Submission& clip, const std::vector<library::CueThread>& threads) {
  const auto asked =
      std::count_if(threads.begin(), threads.end(), [&](const auto& t) { return t.asked_in == clip.id; });
  const auto met = std::count_if(threads.begin(), threads.end(), [&](const auto& t) {
    return t.measured_in == clip.id && t.state == library::ThreadState::Met;
  });
  QStringList parts;
  if (met > 0) parts << StoryStrip::tr("✓ %1 met").arg(met);
  if (asked > 0) parts << StoryStrip::tr("%1 asked").arg(asked);
  return parts.join(QStringLiteral(" · "));
}

}  // namespace

StoryStrip::StoryStrip(std::vector<library::Submission> clips, const std::vector<library::CueThread>& threads,
                       const std::vector<library::Meet>& meets, ClipPictures* pictures, QWidget* parent)
    : QScrollArea(parent), pictures_(pictures) {
  setObjectName(QStringLiteral("storyStrip"));
  setAccessibleName(tr("Clips, oldest first"));
  setFrameShape(QFrame::NoFrame);
  setWidgetResizable(true);
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  auto* row = new QHBoxLayout(content);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  std::sort(clips.begin(), clips.end(), [](const auto& a, const auto& b) {
    return a.received_on != b.received_on ? a.received_on < b.received_on : a.id.number < b.id.number;
  });
  if (clips.size() > kShown) clips.erase(clips.begin(), clips.end() - kShown);
  auto meet = meets.begin();
  // Meets before the first picture are not part of what is shown.
  while (meet != meets.end() && !clips.empty() && meet->on < clips.front().received_on) ++meet;
  for (const auto& clip : clips) {
    for (; meet != meets.end() && meet->on <= clip.received_on; ++meet) addMeet(*row, *meet);
    addClip(*row, clip, threads);
  }
  for (; meet != meets.end() && meet->on <= library::today(); ++meet) addMeet(*row, *meet);
  row->addStretch();
  setWidget(content);
  setFixedHeight(content->sizeHint().height() + horizontalScrollBar()->sizeHint().height() + 2);
  if (pictures_) connect(pictures_, &ClipPictures::arrived, this, &StoryStrip::paint);
}

void StoryStrip::addClip(QHBoxLayout& row, const library::Submission& clip,
                         const std::vector<library::CueThread>& threads) {
  auto* tile = new QToolButton;
  tile->setObjectName(QStringLiteral("storyClip"));
  tile->setProperty("tile", true);
  tile->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
  tile->setIconSize(ClipPictures::kSize);
  // Those whose picture is still on its way stand as tall as the others.
  tile->setFixedHeight(ClipPictures::kSize.height() + 3 * tile->fontMetrics().lineSpacing() + textPx(14));
  const QString what = clip.load_kg ? tr("%1 %2").arg(q(clip.lift), loadText(clip)) : q(clip.lift);
  const QString course = courseText(clip, threads);
  tile->setText(tr("%1\n%2\n%3").arg(dayText(clip.received_on), clip.load_kg ? loadText(clip) : q(clip.lift), course));
  tile->setAccessibleName(tr("%1, %2. %3").arg(dayText(clip.received_on), what, course));
  QStringList lines{what};
  for (const auto& t : threads)
    if (t.asked_in == clip.id)
      lines << tr("asked: %1, “%2”").arg(q(t.title), q(t.wording));
    else if (t.measured_in == clip.id)
      lines << tr("%1: %2").arg(q(t.title), q(library::titleOf(t.state)).toLower());
  tile->setToolTip(lines.join(QLatin1Char('\n')).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")));
  connect(tile, &QToolButton::clicked, this, [this, id = clip.id.number] { emit openRequested(id); });
  row.addWidget(tile);
  tiles_.emplace(q(clip.clip_hash), std::pair(tile, clip));
  paint(q(clip.clip_hash));
}

void StoryStrip::addMeet(QHBoxLayout& row, const library::Meet& meet) {
  const auto total = meet.total_kg();
  auto* tile =
      words(tr("%1\n%2\n%3")
                .arg(dayText(meet.on), q(meet.name), total ? tr("total %1").arg(q(massText(*total))) : QString()));
  tile->setObjectName(QStringLiteral("storyMeet"));
  tile->setAlignment(Qt::AlignCenter);
  fixTextWidth(tile, ClipPictures::kSize.width());
  row.addWidget(tile);
}

void StoryStrip::paint(const QString& clip_hash) {
  const auto [from, to] = tiles_.equal_range(clip_hash);
  for (auto it = from; it != to; ++it)
    if (pictures_) it->second.first->setIcon(QIcon(pictures_->of(it->second.second)));
}

// The latest first in view, once the strip has its width.
void StoryStrip::showEvent(QShowEvent* event) {
  QScrollArea::showEvent(event);
  QTimer::singleShot(0, this, [this] { horizontalScrollBar()->setValue(horizontalScrollBar()->maximum()); });
}

}  // namespace jib::desk
