// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/draw_strip.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>
#include <QToolButton>
#include <algorithm>

#include "desk/text.h"
#include "desk/widgets/text_sized.h"
#include "drawing/palette.h"

namespace jib::desk {
namespace {

using coaching::Sense;
using coaching::ShapeKind;

// A picture of each pen, drawn and not lettered: it says the same in any size.
QIcon iconOf(ShapeKind kind, const QColor& ink) {
  constexpr int kSize = 44;
  QPixmap pixmap(kSize, kSize);
  pixmap.fill(Qt::transparent);
  QPainter p(&pixmap);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(ink, 3.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  const QPointF a(8, 36), b(36, 8);
  switch (kind) {
    case ShapeKind::Line:
      p.drawLine(a, b);
      break;
    case ShapeKind::Arrow:
      p.drawLine(a, b);
      p.drawLine(b, b + QPointF(-13, 1));
      p.drawLine(b, b + QPointF(-1, 13));
      break;
    case ShapeKind::Angle:
      p.drawPolyline(QPolygonF{QPointF(32, 8), QPointF(9, 34), QPointF(38, 34)});
      p.drawArc(QRectF(-7, 18, 32, 32), 0, 48 * 16);
      break;
    case ShapeKind::Ring:
      p.drawEllipse(QPointF(22, 22), 15, 15);
      break;
    case ShapeKind::Plumb:
      p.drawLine(QPointF(22, 5), QPointF(22, 32));
      p.drawEllipse(QPointF(22, 36), 3.5, 3.5);
      break;
    case ShapeKind::Level:
      p.drawLine(QPointF(5, 22), QPointF(39, 22));
      p.drawEllipse(QPointF(22, 22), 3.5, 3.5);
      break;
    case ShapeKind::Distance:
      p.drawLine(QPointF(7, 22), QPointF(37, 22));
      p.drawLine(QPointF(7, 13), QPointF(7, 31));
      p.drawLine(QPointF(37, 13), QPointF(37, 31));
      break;
    case ShapeKind::Pose:
      p.drawPolyline(QPolygonF{QPointF(14, 39), QPointF(27, 28), QPointF(10, 22), QPointF(24, 7)});
      p.drawEllipse(QPointF(30, 8), 4, 4);
      break;
    case ShapeKind::Back:
      p.drawArc(QRectF(12, 6, 44, 32), 90 * 16, 180 * 16);
      for (const QPointF end : {QPointF(33, 7), QPointF(12, 22), QPointF(33, 37)}) p.drawEllipse(end, 3.5, 3.5);
      break;
    case ShapeKind::Blur:
      p.setPen(QPen(ink, 2.4, Qt::DotLine));
      p.drawEllipse(QPointF(22, 22), 16, 16);
      p.setPen(Qt::NoPen);
      for (const QRectF square : {QRectF(13, 13, 9, 9), QRectF(22, 22, 9, 9)}) p.fillRect(square, ink);
      break;
    case ShapeKind::Text:
      p.drawLine(QPointF(9, 10), QPointF(35, 10));
      p.drawLine(QPointF(22, 10), QPointF(22, 36));
      break;
  }
  return QIcon(pixmap);
}

}  // namespace

DrawStrip::DrawStrip(SketchPad& pad, QWidget* parent) : QFrame(parent), pad_(pad) {
  setObjectName(QStringLiteral("drawStrip"));
  both_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
  both_->setContentsMargins(0, 0, 0, 0);
  both_->setSpacing(4);
  pens_ = new QWidget;
  options_ = new QWidget;
  both_->addWidget(pens_, 0, Qt::AlignLeft);
  both_->addWidget(options_, 1);
  buildPens();
  buildOptions();
  connect(&pad_, &SketchPad::changed, this, &DrawStrip::refresh);
  refresh();
}

void DrawStrip::buildPens() {
  auto* row = new QHBoxLayout(pens_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(1);
  tools_ = new QButtonGroup(this);
  tools_->setExclusive(false);
  for (std::size_t k = 0; k < coaching::kShapeKinds; ++k) {
    const auto kind = static_cast<ShapeKind>(k);
    auto* tool = new QToolButton;
    tool->setObjectName(QStringLiteral("draw_") + q(coaching::nameOf(kind)));
    tool->setIcon(iconOf(kind, palette().buttonText().color()));
    tool->setIconSize({18, 18});
    tool->setProperty("narrow", true);
    tool->setCheckable(true);
    QString title = q(coaching::titleOf(kind));
    title[0] = title[0].toUpper();
    tool->setAccessibleName(title);
    tool->setToolTip(
        kind == ShapeKind::Pose
            ? tr("Wanted pose: click the picture, then pull knee, hip or shoulder, or on a bench the elbow or the bar. "
                 "Limbs keep their length. In a squat the bar stays over mid-foot; in a pull it hangs from straight "
                 "arms, and you can roll it along the floor")
        : kind == ShapeKind::Blur
            ? tr("Blur: ring a face, or anything else to hide. It's blurred in everything you send")
        : kind == ShapeKind::Back
            ? tr("Back line: click the picture for three points on the back at the start, the turn and lockout; pull "
                 "them onto the back, and each says how much rounder it is")
            : tr("%1. Ends snap to joints, the bar, the floor and other lines").arg(title));
    connect(tool, &QToolButton::clicked, this,
            [this, kind](bool on) { pad_.setTool(on ? std::optional(kind) : std::nullopt); });
    tools_->addButton(tool, static_cast<int>(k));
    row->addWidget(tool);
  }
}

void DrawStrip::buildOptions() {
  // long because a layout, one widget after the other
  auto* row = new QHBoxLayout(options_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(2);
  const auto sense = [&](const QString& text, const char* name, const QString& tip, Sense s) {
    auto* b = new QToolButton;
    b->setObjectName(QString::fromLatin1(name));
    b->setText(text);
    b->setProperty("narrow", true);
    b->setToolTip(tip);
    b->setCheckable(true);
    connect(b, &QToolButton::clicked, this, [this, s] {
      pad_.setSense(s);
      as_is_->setChecked(s == Sense::AsItIs);
      wanted_->setChecked(s == Sense::AsWanted);
    });
    row->addWidget(b);
    return b;
  };
  as_is_ = sense(tr("actual"), "asItIs", tr("Magenta, solid: what is there"), Sense::AsItIs);
  wanted_ = sense(tr("target"), "asWanted", tr("Yellow, dashed: where it should go"), Sense::AsWanted);
  as_is_->setChecked(true);
  hold_ = new QComboBox;
  hold_->setObjectName(QStringLiteral("hold"));
  hold_->setToolTip(tr("How long it shows; it follows what it was drawn on"));
  hold_->addItem(tr("this frame"));
  hold_->addItem(tr("½ s around"));
  hold_->addItem(tr("whole clip"));
  connect(hold_, &QComboBox::activated, this, [this](int i) { pad_.setHold(static_cast<Hold>(i)); });
  row->addWidget(hold_);
  words_ = new QLineEdit;
  words_->setObjectName(QStringLiteral("drawWords"));
  leastTextWidth(words_, 46);
  words_->setPlaceholderText(tr("words"));
  words_->setToolTip(tr("Shown next to the drawing"));
  connect(words_, &QLineEdit::textEdited, &pad_, &SketchPad::setText);
  connect(words_, &QLineEdit::returnPressed, this, &DrawStrip::doneWithWords);
  row->addWidget(words_, 1);
  vertical_ = new QToolButton;
  vertical_->setObjectName(QStringLiteral("saysVertical"));
  vertical_->setText(tr("Upright"));
  vertical_->setProperty("narrow", true);
  vertical_->setCheckable(true);
  connect(vertical_, &QToolButton::clicked, this, [this] {
    const coaching::Shape* line = pad_.chosenShape();
    if (line && line->kind == ShapeKind::Line)
      emit verticalSaid(*line);
    else
      emit verticalTakenBack();
    refresh();
  });
  row->addWidget(vertical_);
  remove_ = new QToolButton;
  remove_->setObjectName(QStringLiteral("removeDrawing"));
  remove_->setText(tr("Remove"));
  remove_->setProperty("narrow", true);
  remove_->setToolTip(tr("Remove the selection (Delete)"));
  connect(remove_, &QToolButton::clicked, &pad_, &SketchPad::remove);
  row->addWidget(remove_);
  auto* close = new QToolButton;
  close->setObjectName(QStringLiteral("drawDone"));
  close->setText(tr("Done"));
  close->setProperty("narrow", true);
  close->setToolTip(tr("Close drawing (D)"));
  connect(close, &QToolButton::clicked, this, &DrawStrip::closeRequested);
  row->addWidget(close);
}

QSize DrawStrip::minimumSizeHint() const {
  const QSize pens = pens_->minimumSizeHint(), options = options_->minimumSizeHint();
  return {std::max(pens.width(), options.width()), both_->direction() == QBoxLayout::LeftToRight
                                                       ? std::max(pens.height(), options.height())
                                                       : pens.height() + both_->spacing() + options.height()};
}

void DrawStrip::arrange() {
  const bool fits = pens_->sizeHint().width() + both_->spacing() + options_->minimumSizeHint().width() <= width();
  const auto direction = fits ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom;
  if (direction == both_->direction()) return;
  both_->setDirection(direction);
  updateGeometry();
}

void DrawStrip::resizeEvent(QResizeEvent* event) {
  QFrame::resizeEvent(event);
  arrange();
}

void DrawStrip::showEvent(QShowEvent* event) {
  QFrame::showEvent(event);
  arrange();
}

void DrawStrip::takeWords() {
  words_->setFocus();
  words_->selectAll();
}

bool DrawStrip::sayVertical() {
  if (!vertical_->isVisible()) return false;
  vertical_->click();
  return true;
}

void DrawStrip::setVerticalTold(bool told) {
  vertical_told_ = told;
  refresh();
}

void DrawStrip::refresh() {
  for (auto* button : tools_->buttons())
    button->setChecked(pad_.tool() && tools_->id(button) == static_cast<int>(*pad_.tool()));
  const coaching::Shape* shape = pad_.chosenShape();
  remove_->setEnabled(shape != nullptr);
  const bool line = shape && shape->kind == ShapeKind::Line;
  vertical_->setVisible(line || vertical_told_);
  vertical_->setChecked(vertical_told_);
  vertical_->setToolTip(!line && vertical_told_
                            ? tr("Lean and tilt are measured from your line. Click to use the clip's vertical again")
                            : tr("This line runs along a door frame or a post of the rack: lean and tilt are counted "
                                 "from it"));
  if (!shape) return;
  as_is_->setChecked(shape->sense == Sense::AsItIs);
  wanted_->setChecked(shape->sense == Sense::AsWanted);
  if (!words_->hasFocus()) words_->setText(q(shape->text));
  const auto hold = shape->from_s == shape->to_s                ? Hold::Frame
                    : shape->to_s - shape->from_s <= 1.0 + 1e-9 ? Hold::Around
                                                                : Hold::Clip;
  hold_->setCurrentIndex(static_cast<int>(hold));
}

}  // namespace jib::desk
