// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QPainter>
#include <QTransform>
#include <optional>

#include "core/coaching/sketch.h"
#include "desk/review/commands/review_command.h"

namespace jib::desk {

// For how long something drawn shows.
enum class Hold { Frame, Around, Clip };

// What the mouse does on the stage while the coach draws: puts the ends of a new shape one by one, picks a shape, moves
// its ends. Everything it changes is one command on the document's stack.
// Frame  displayed pixels of the clip
class SketchPad : public QObject {
  Q_OBJECT

 public:
  explicit SketchPad(ReviewDocument& document, QObject* parent = nullptr);

  void setOn(bool on);
  bool on() const { return on_; }
  // nullopt: shapes are picked and moved.
  void setTool(std::optional<coaching::ShapeKind> tool);
  std::optional<coaching::ShapeKind> tool() const { return tool_; }
  void setSense(coaching::Sense sense);  // of what is drawn next, and of the shape that is chosen
  void setHold(Hold hold);
  void setText(const QString& text);
  std::optional<std::size_t> chosen() const { return chosen_; }
  // nullptr when none is chosen.
  const coaching::Shape* chosenShape() const;

  // `reach_px`: how near counts as on it. True when the pad has dealt with it.
  bool press(PixelPoint at, std::size_t frame, double reach_px);
  bool move(PixelPoint at, std::size_t frame, double reach_px);
  bool release(PixelPoint at, std::size_t frame, double reach_px);
  bool remove();  // the chosen shape
  bool nudge(int dx, int dy);
  bool cancel();  // the shape that is half drawn, else the choice, else the tool

  // The half-drawn shape and the handles of the chosen one. What is drawn already the stage paints with the overlays.
  void paint(QPainter& painter, std::size_t frame, const QTransform& view, double scale) const;

 signals:
  void changed();                            // what it would show
  void drawn(const coaching::Shape& shape);  // a shape was finished
  void said(const QString& sentence);
  void wordsWanted();  // a text was placed and has none yet

 private:
  void put(const QString& text, coaching::Sketch to, GestureId gesture);
  void finish(std::size_t frame);
  void proposeBackLines(const coaching::Analysis& analysis, std::size_t frame);
  void holdFor(coaching::Shape& shape, double t_s) const;
  double timeOf(std::size_t frame) const;
  void choose(std::optional<std::size_t> shape);
  void edit(const QString& text, const std::function<void(coaching::Shape&)>& change, GestureId gesture);

  ReviewDocument& document_;
  bool on_ = false;
  std::optional<coaching::ShapeKind> tool_;
  coaching::Sense sense_ = coaching::Sense::AsItIs;
  Hold hold_ = Hold::Frame;
  QString text_;
  std::vector<coaching::Anchor> half_;  // ends of the shape being drawn
  PixelPoint pointer_;
  std::optional<std::size_t> chosen_;
  std::optional<std::size_t> dragged_end_;
  GestureId gesture_ = 0;
};

}  // namespace jib::desk
