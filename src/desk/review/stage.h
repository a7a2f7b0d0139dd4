// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QTransform>
#include <QWidget>
#include <memory>
#include <optional>

#include "desk/review/review_document.h"
#include "desk/review/sketch_pad.h"
#include "desk/review/stage_view.h"
#include "drawing/overlay.h"

namespace jib::desk {

// The clip, large, with its overlays. Wheel zooms, middle button or space-drag pans; points are placed and dragged
// here.
class Stage : public QWidget {
  Q_OBJECT

 public:
  explicit Stage(ReviewDocument& document, QWidget* parent = nullptr);

  void showFrame(std::size_t frame, const QImage& picture);
  std::size_t frame() const { return frame_; }
  // What is on show as a picture of its own, in the clip's own size, lines and drawings included.
  // The frame with lines and drawings, as it may leave the house: faces blurred where they are to be.
  QImage still();
  bool hasPicture() const { return !picture_.isNull(); }
  const QImage& picture() const { return picture_; }
  void setChoice(const drawing::OverlayChoice& choice);
  const drawing::OverlayChoice& choice() const { return choice_; }
  // Nothing but the picture: the first look.
  void setBare(bool bare);
  // Draws one measure's evidence instead of the usual overlays; nullopt goes back.
  void setEvidence(std::optional<lifts::Drawing> drawing);
  bool showsEvidence() const { return evidence_.has_value(); }
  // The figure of an earlier film over this one, by a frame of it and where its points lie here; null: none.
  void setThen(std::shared_ptr<const coaching::Analysis> then, std::size_t frame, const QTransform& onto_now);
  bool showsThen() const { return then_ != nullptr; }
  // Waits for a click that places this landmark, with a magnifier at the pointer and a ghost where it is expected.
  void setPlacing(std::optional<tracing::Landmark> landmark);
  std::optional<tracing::Landmark> placing() const { return placing_; }
  // Waits for a click on the lifter.
  void setPointing(bool on);
  bool pointing() const { return pointing_; }
  void setMessage(const QString& text);  // over the picture, when there is none yet
  // Framed on the lifter, or whole, or as it was last.
  void setFraming(StageView::Framing framing);
  void setOwnFraming(double zoom, QPointF centre);
  const StageView& framing() const { return framing_; }
  // Keeps a landmark still in the middle of the stage; nullopt lets go.
  void setFollowed(std::optional<tracing::PointName> point);
  std::optional<tracing::PointName> followed() const { return followed_; }
  SketchPad& pad() { return pad_; }

  QTransform view() const;  // clip pixels to widget
  PixelPoint toClip(QPointF at) const;
  QPointF toStage(PixelPoint at) const { return view().map(QPointF(at.x, at.y)); }
  QSize sizeHint() const override { return {820, 470}; }

 signals:
  void placeRequested(tracing::Landmark landmark, PixelPoint at);
  void dragged(tracing::PointName point, PixelPoint at, bool finished);
  // The mid-foot line was taken hold of and moved; where heel and toe go with it.
  void footDragged(PixelPoint heel, PixelPoint toe, bool finished);
  void pointedAt(PixelPoint at);
  void framingChanged();
  void jogged(int frames);  // the wheel with Alt held: on, or back

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void leaveEvent(QEvent* event) override;

 private:
  std::optional<tracing::PointName> pointAt(QPointF at) const;
  // Heel and toe while their mid-foot line is dragged: by its foot every way, higher up only along the floor.
  struct Foot {
    PixelPoint heel, toe, taken_at;
    bool along_only = false, moved = false;
  };
  std::optional<Foot> footAt(QPointF at) const;
  void dragFoot(QPointF to, bool finished);
  void hover(QPointF at);
  // The frame with all that is drawn on it; the line's unit in the painter's pixels is `scale`.
  QImage blurred(const coaching::Analysis& analysis) const;
  void paintClip(QPainter& painter, const QTransform& clip_to_painter, double scale, bool leaving = false);
  void paintGhost(QPainter& painter);
  void paintMagnifier(QPainter& painter);
  void refreshFraming();
  double lineScale() const;
  double reach() const;  // how near counts as on it, in the clip's pixels

  ReviewDocument& document_;
  SketchPad pad_;
  QImage picture_;
  std::size_t frame_ = 0;
  drawing::OverlayChoice choice_;
  bool bare_ = false;
  std::optional<lifts::Drawing> evidence_;
  std::shared_ptr<const coaching::Analysis> then_;
  std::size_t then_frame_ = 0;
  QTransform then_onto_;
  std::optional<tracing::Landmark> placing_;
  std::optional<tracing::PointName> dragging_, hovered_;
  std::optional<Foot> foot_;
  bool foot_hovered_ = false, pointing_ = false;
  QString message_;
  StageView framing_;
  std::optional<tracing::PointName> followed_;
  double jog_ = 0;  // of the wheel, not yet a frame
  QPointF pointer_;
  bool pointer_inside_ = false;
  std::optional<QPointF> panning_from_;
};

}  // namespace jib::desk
