// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QImage>
#include <QRectF>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

#include "core/coaching/analysis.h"

class QDoubleSpinBox;
class QLabel;

namespace jib::desk {

class FrameSource;

// The same set from another side, in a corner of the stage or beside it: shows the moment under the play head, with
// what was traced there.
class OtherView : public QFrame {
  Q_OBJECT

 public:
  explicit OtherView(QWidget* parent = nullptr);
  ~OtherView() override;

  // `offset_s`: added to a time of the clip under review it gives the time in this one.
  void open(const std::filesystem::path& clip, const QString& title, double offset_s);
  // The same, its moments told by `when` from those of the clip under review; nullopt leaves what is on show.
  using When = std::function<std::optional<double>(double t_s)>;
  void open(const std::filesystem::path& clip, const QString& title, When when);
  // What was traced in it, drawn over it; null: only the picture.
  void setAnalysis(std::shared_ptr<const coaching::Analysis> analysis);
  // One measure's drawing instead of the usual lines; nullopt goes back.
  void setEvidence(std::optional<lifts::Drawing> drawing);
  bool showsEvidence() const { return evidence_.has_value(); }
  // The part of the picture that is shown, in its displayed pixels; empty: all.
  void setCrop(QRectF crop);
  double shape() const;  // width to height of what is shown; 1 while nothing is
  bool isOpen() const { return frames_ != nullptr; }
  void follow(double t_s);
  // The time of this clip that is on show; its frame, once decoded.
  double shownTime() const { return shown_s_; }
  const QImage& picture() const { return picture_; }

 signals:
  void offsetChanged(double offset_s);
  void sizeWanted();  // small in a corner, or as large as the clip under review

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;

 private:
  void show(const QImage& picture);
  void openFrames(const std::filesystem::path& clip, const QString& title);

  std::unique_ptr<FrameSource> frames_;
  std::vector<double> times_s_;
  std::shared_ptr<const coaching::Analysis> analysis_;
  std::optional<lifts::Drawing> evidence_;
  std::size_t frame_ = 0;
  When when_;
  QRectF crop_;
  double offset_s_ = 0, at_s_ = 0, shown_s_ = 0;
  QImage picture_;
  QLabel* title_;
  QLabel* image_;
  QDoubleSpinBox* shift_;
};

}  // namespace jib::desk
