// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/other_view.h"

#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

#include "core/footage/frame_reader.h"
#include "desk/review/frame_source.h"
#include "desk/widgets/flow.h"
#include "drawing/overlay.h"

namespace jib::desk {

OtherView::OtherView(QWidget* parent) : QFrame(parent) {
  setObjectName(QStringLiteral("card"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(6, 4, 6, 6);
  column->setSpacing(3);
  auto* row = new QHBoxLayout;
  title_ = words({}, true);
  title_->setWordWrap(false);
  shift_ = new QDoubleSpinBox;
  shift_->setObjectName(QStringLiteral("pairShift"));
  shift_->setRange(-3600, 3600);
  shift_->setDecimals(2);
  shift_->setSingleStep(0.05);
  shift_->setSuffix(tr(" s"));
  shift_->setFocusPolicy(Qt::ClickFocus);
  shift_->setToolTip(
      tr("How much later the same moment is in this clip; found from the motion, change it if it's off"));
  row->addWidget(title_, 1);
  row->addWidget(shift_);
  image_ = plainLabel();
  image_->setObjectName(QStringLiteral("otherPicture"));
  image_->setAlignment(Qt::AlignCenter);
  image_->setMinimumSize(80, 60);
  image_->setStyleSheet(QStringLiteral("background: #0b1220;"));
  column->addLayout(row);
  column->addWidget(image_, 1);
  connect(shift_, &QDoubleSpinBox::valueChanged, this, [this](double s) {
    if (s == offset_s_) return;
    offset_s_ = s;
    follow(at_s_);
    emit offsetChanged(s);
  });
  hide();
}

OtherView::~OtherView() = default;

// Read through by the thread that decodes it; until then there is nothing to follow.
void OtherView::openFrames(const std::filesystem::path& clip, const QString& title) {
  title_->setText(title);
  times_s_.clear();
  picture_ = {};  // of the film before
  image_->clear();
  frames_ = std::make_unique<FrameSource>(clip);
  connect(frames_.get(), &FrameSource::failed, title_, &QLabel::setText);
  connect(frames_.get(), &FrameSource::opened, this, [this](const std::shared_ptr<const footage::ClipInfo>& info) {
    times_s_ = info->times_s;
    follow(at_s_);
  });
  connect(frames_.get(), &FrameSource::frameReady, this, [this](std::size_t frame, const QImage& picture) {
    if (times_s_.empty()) return;
    frame_ = std::min(frame, times_s_.size() - 1);
    shown_s_ = times_s_[frame_];
    show(picture);
  });
  frames_->open();
}

void OtherView::open(const std::filesystem::path& clip, const QString& title, double offset_s) {
  openFrames(clip, title);
  when_ = [this](double t) { return std::optional(t + offset_s_); };
  offset_s_ = offset_s;
  const QSignalBlocker quiet(shift_);
  shift_->setValue(offset_s);
}

void OtherView::open(const std::filesystem::path& clip, const QString& title, When when) {
  openFrames(clip, title);
  when_ = std::move(when);
  shift_->hide();
}

void OtherView::setCrop(QRectF crop) {
  crop_ = crop;
  if (!picture_.isNull()) show(picture_);
}

double OtherView::shape() const {
  if (!crop_.isEmpty()) return crop_.width() / crop_.height();
  return picture_.isNull() ? 1 : static_cast<double>(picture_.width()) / picture_.height();
}

void OtherView::follow(double t_s) {
  at_s_ = t_s;
  if (!frames_ || times_s_.empty() || !isVisible()) return;
  const auto when = when_(t_s);
  if (!when) return;
  const double t = *when;
  const auto after = std::lower_bound(times_s_.begin(), times_s_.end(), t);
  auto at = static_cast<std::size_t>(after - times_s_.begin());
  if (at > 0 && (after == times_s_.end() || t - times_s_[at - 1] < *after - t)) --at;
  frames_->request(at);
}

void OtherView::setAnalysis(std::shared_ptr<const coaching::Analysis> analysis) {
  analysis_ = std::move(analysis);
  if (!picture_.isNull()) show(picture_);
}

void OtherView::setEvidence(std::optional<lifts::Drawing> drawing) {
  evidence_ = drawing;
  if (!picture_.isNull()) show(picture_);
}

void OtherView::show(const QImage& picture) {
  picture_ = picture;
  const QRect part = crop_.isEmpty() ? picture.rect() : crop_.toRect() & picture.rect();
  const QSize room = image_->size();
  QImage shown = picture.copy(part).scaled(room, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  if (analysis_ && analysis_->isTraced() && frame_ < analysis_->trace.trace.size()) {
    QPainter painter(&shown);
    const double scale = static_cast<double>(shown.width()) / part.width();
    QTransform view;
    view.scale(scale, scale);
    view.translate(-part.left(), -part.top());
    constexpr double kStage_px = 850, kThinnest = 0.6;  // a line's unit is that of a stage so wide
    drawing::OverlayPainter overlay(painter, *analysis_, view, std::max(kThinnest, shown.width() / kStage_px));
    if (evidence_)
      overlay.paintEvidence(frame_, *evidence_);
    else
      overlay.paint(frame_, {.angles = false});
  }
  image_->setPixmap(QPixmap::fromImage(shown));
}

void OtherView::mouseDoubleClickEvent(QMouseEvent*) {
  emit sizeWanted();
}

void OtherView::resizeEvent(QResizeEvent* event) {
  QFrame::resizeEvent(event);
  if (!picture_.isNull()) show(picture_);
}

}  // namespace jib::desk
