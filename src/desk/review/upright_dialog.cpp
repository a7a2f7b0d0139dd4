// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/upright_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QTransform>
#include <QVBoxLayout>
#include <array>
#include <cmath>

#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// What one way of setting a picture right looks like, made of a picture set right in another.
QImage seenAs(const QImage& picture, const footage::Upright& from, const footage::Upright& to,
              footage::PictureSize as_it_came) {
  const footage::PictureSize was = footage::sizeOf(from, as_it_came), will = footage::sizeOf(to, as_it_came);
  const QImage whole = picture.scaled(was.width, was.height);
  QPolygonF before, after;
  for (const PixelPoint corner :
       std::array<PixelPoint, 4>{{{0, 0},
                                  {static_cast<double>(was.width), 0},
                                  {static_cast<double>(was.width), static_cast<double>(was.height)},
                                  {0, static_cast<double>(was.height)}}}) {
    before << QPointF(corner.x, corner.y);
    const PixelPoint there = footage::carried(corner, from, to, as_it_came);
    after << QPointF(there.x, there.y);
  }
  QTransform map;
  QTransform::quadToQuad(before, after, map);
  // Drawn on the new picture rather than turned into it: with its borders back, it is more than what is there.
  QImage seen(will.width, will.height, QImage::Format_RGB32);
  seen.fill(Qt::black);
  QPainter painter(&seen);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  painter.setTransform(map);
  painter.drawImage(0, 0, whole);
  return seen;
}

}  // namespace

UprightDialog::UprightDialog(QImage picture, const footage::Upright& now, footage::PictureSize as_it_came,
                             QWidget* parent)
    : QDialog(parent), picture_(std::move(picture)), now_(now), as_it_came_(as_it_came), to_(now) {
  setObjectName(QStringLiteral("uprightDialog"));
  setWindowTitle(tr("Fix the picture"));
  resize(720, 560);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  screen_ = plainLabel();
  screen_->setObjectName(QStringLiteral("uprightScreen"));
  screen_->setAccessibleName(tr("Preview"));
  screen_->setAlignment(Qt::AlignCenter);
  screen_->setMinimumSize(320, 240);
  screen_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
  column->addWidget(screen_, 1);
  auto* row = new QHBoxLayout;
  const auto button = [&](const char* name, const QString& text, int clockwise_deg) {
    auto* b = new QPushButton(text);
    b->setObjectName(QString::fromLatin1(name));
    b->setAutoDefault(false);
    b->setToolTip(tr("A quarter turn"));
    connect(b, &QPushButton::clicked, this, [this, clockwise_deg] { turn(clockwise_deg); });
    row->addWidget(b);
  };
  button("turnLeft", tr("Turn &left"), 270);
  button("turnRight", tr("Turn &right"), 90);
  mirror_ = new QCheckBox(tr("&Mirror"));
  mirror_->setObjectName(QStringLiteral("mirrorPicture"));
  mirror_->setToolTip(tr("For a selfie clip in which writing reads backward"));
  connect(mirror_, &QCheckBox::toggled, this, [this](bool on) {
    to_.mirror = on;
    showPicture();
  });
  row->addWidget(mirror_);
  auto* label = plainLabel(tr("&Width"));
  width_ = new QSpinBox;
  width_->setObjectName(QStringLiteral("stretchPicture"));
  width_->setRange(static_cast<int>(100 * footage::Upright::kLeast), static_cast<int>(100 * footage::Upright::kMost));
  width_->setSuffix(tr(" %"));
  width_->setToolTip(tr("Until the plates are round"));
  label->setBuddy(width_);
  connect(width_, &QSpinBox::valueChanged, this, [this](int percent) {
    to_.stretch = percent / 100.0;
    showPicture();
  });
  borders_ = new QCheckBox(tr("&Cut off borders"));
  borders_->setObjectName(QStringLiteral("cutBorders"));
  borders_->setToolTip(tr("The bars or blurred edges an app put round the clip"));
  borders_->setVisible(!now_.filmed.whole());
  connect(borders_, &QCheckBox::toggled, this, [this](bool on) {
    to_.with_borders = !on;
    showPicture();
  });
  row->addWidget(borders_);
  row->addWidget(buildShots());
  row->addSpacing(12);
  row->addWidget(label);
  row->addWidget(width_);
  row->addStretch();
  auto* back = new QPushButton(tr("&Original"));
  back->setObjectName(QStringLiteral("asItCame"));
  back->setAutoDefault(false);
  connect(back, &QPushButton::clicked, this, [this] {
    // Known borders stay known, so that they can be cut off again.
    footage::Upright original = now_.asFound();
    original.with_borders = !now_.filmed.whole();
    original.shot = to_.shot;
    choose(original);
  });
  row->addWidget(back);
  column->addLayout(row);
  column->addWidget(words(tr("The file stays as it came. The clip is tracked again; points you placed and "
                             "drawings go with the picture."),
                          true));
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
  auto* use = buttons->addButton(tr("Track it like this"), QDialogButtonBox::AcceptRole);
  use->setObjectName(QStringLiteral("useUpright"));
  use->setDefault(true);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  choose(to_);
}

// Which part of a clip that somebody cut together; hidden where it is one piece.
QComboBox* UprightDialog::buildShots() {
  shots_ = new QComboBox;
  shots_->setObjectName(QStringLiteral("shot"));
  shots_->setAccessibleName(tr("Shot"));
  shots_->setToolTip(tr("The clip is cut together; one shot is measured at a time"));
  for (std::size_t k = 0; k < now_.shots.size(); ++k)
    shots_->addItem(
        tr("Shot %1: %2 to %3 s").arg(k + 1).arg(now_.shots[k].from_s, 0, 'f', 1).arg(now_.shots[k].to_s, 0, 'f', 1),
        static_cast<int>(k));
  shots_->addItem(tr("The whole clip"), footage::Upright::kWholeFilm);
  shots_->setVisible(!now_.shots.empty());
  connect(shots_, &QComboBox::currentIndexChanged, this, [this] { to_.shot = shots_->currentData().toInt(); });
  return shots_;
}

void UprightDialog::choose(const footage::Upright& to) {
  to_ = to;
  const QSignalBlocker quiet_mirror(mirror_), quiet_width(width_), quiet_borders(borders_), quiet_shots(shots_);
  shots_->setCurrentIndex(shots_->findData(to_.shot));
  mirror_->setChecked(to_.mirror);
  borders_->setChecked(!to_.with_borders);
  width_->setValue(static_cast<int>(std::lround(100 * to_.stretch)));
  showPicture();
}

// Turns what is seen: a mirrored picture turns the other way before it is mirrored.
void UprightDialog::turn(int clockwise_deg) {
  to_.turn_deg = (to_.turn_deg + (to_.mirror ? 360 - clockwise_deg : clockwise_deg)) % 360;
  showPicture();
}

void UprightDialog::showPicture() {
  if (picture_.isNull()) return screen_->setText(tr("No frame of it can be shown."));
  const QImage seen = seenAs(picture_, now_, to_, as_it_came_);
  screen_->setPixmap(QPixmap::fromImage(seen.scaled(screen_->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation)));
}

void UprightDialog::resizeEvent(QResizeEvent* event) {
  QDialog::resizeEvent(event);
  showPicture();
}

}  // namespace jib::desk
