// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/plate_counter.h"
#include "core/base/quantity.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <array>

#include "desk/library_page/gym_plates.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// As plates are painted on competition platforms; pound plates are bare iron.
struct PlateLook {
  const char* colour;
  double height, width;  // shares of the view's height, px
};
constexpr std::array<PlateLook, coaching::kPlateKinds.size()> kLooks{{{"#b5362f", 0.96, 15},
                                                                      {"#2f5fa3", 0.96, 13},
                                                                      {"#d6b43c", 0.96, 11},
                                                                      {"#3d8a55", 0.96, 9},
                                                                      {"#e9e6dc", 0.56, 8},
                                                                      {"#3a3d42", 0.46, 7},
                                                                      {"#9aa0a6", 0.38, 6},
                                                                      {"#4b5058", 0.96, 13},
                                                                      {"#565b63", 0.84, 11},
                                                                      {"#60656d", 0.70, 10},
                                                                      {"#6b7078", 0.54, 8},
                                                                      {"#767b83", 0.42, 7},
                                                                      {"#81868e", 0.34, 6}}};
constexpr double kShaft_px = 26;  // of the bar, inside the collar ring
constexpr double kRing_px = 6;
constexpr double kGap_px = 2;
constexpr std::size_t kMostPlates = 14;

QString nameOf(int kind) {
  const auto name = coaching::kPlateKinds[static_cast<std::size_t>(kind)].name;
  return q(name);
}

}  // namespace

SleeveView::SleeveView(const QString& name, QWidget* parent) : QWidget(parent) {
  setObjectName(name);
  setFixedHeight(74);
  setToolTip(tr("Click a plate to take it off"));
}

void SleeveView::setPlates(std::vector<int> plates) {
  plates_ = std::move(plates);
  update();
}

void SleeveView::setActive(bool active) {
  active_ = active;
  update();
}

QRectF SleeveView::plateRect(std::size_t index) const {
  double x = kShaft_px + kRing_px + kGap_px;
  for (std::size_t k = 0; k < index; ++k) x += kLooks[static_cast<std::size_t>(plates_[k])].width + kGap_px;
  const PlateLook& look = kLooks[static_cast<std::size_t>(plates_[index])];
  const double h = look.height * (height() - 6);
  return {x, (height() - h) / 2, look.width, h};
}

void SleeveView::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double middle = height() / 2.0;
  p.setPen(Qt::NoPen);
  p.setBrush(colours().faint);
  p.drawRect(QRectF(0, middle - 2, kShaft_px, 4));
  p.drawRect(QRectF(kShaft_px, middle - 9, kRing_px, 18));
  p.drawRoundedRect(QRectF(kShaft_px + kRing_px, middle - 5, width() - kShaft_px - kRing_px - 6, 10), 2, 2);
  for (std::size_t k = 0; k < plates_.size(); ++k) {
    p.setPen(QPen(colours().ink, 1));
    p.setBrush(QColor(QString::fromLatin1(kLooks[static_cast<std::size_t>(plates_[k])].colour)));
    p.drawRoundedRect(plateRect(k), 2.5, 2.5);
  }
  if (plates_.empty()) {
    p.setPen(colours().faint);
    p.drawText(rect().adjusted(static_cast<int>(kShaft_px + kRing_px) + 8, 0, 0, -16), Qt::AlignBottom | Qt::AlignLeft,
               active_ ? tr("tap plates, inside first") : tr("click here to count this side"));
  }
  if (active_) {
    p.setPen(QPen(colours().coach, 2));
    p.drawLine(QPointF(0, height() - 1), QPointF(width(), height() - 1));
  }
}

void SleeveView::mousePressEvent(QMouseEvent* event) {
  for (std::size_t k = 0; k < plates_.size(); ++k)
    if (plateRect(k).adjusted(-1, 0, 1, 0).contains(event->position())) {
      emit plateClicked(static_cast<int>(k));
      return;
    }
  emit clicked();
}

PlateCounter::PlateCounter(QWidget* parent) : QFrame(parent) {
  // long because a layout, one widget after the other
  setObjectName(QStringLiteral("coachCard"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 6, 10, 8);
  column->setSpacing(4);
  auto* top = new QHBoxLayout;
  bar_ = new QComboBox;
  bar_->setObjectName(QStringLiteral("barWeight"));
  for (double kg : {20.0, 25.0, 15.0, 10.0}) bar_->addItem(tr("bar %1 kg").arg(kg), kg);
  bar_->addItem(tr("bar 45 lb"), 45 / kPoundsPerKilogram);
  collars_ = new QCheckBox(tr("collars 5 kg"));
  collars_->setObjectName(QStringLiteral("collars"));
  collars_->setToolTip(tr("Competition collars, 2.5 kg a side"));
  top->addWidget(bar_);
  top->addWidget(collars_);
  top->addStretch();
  column->addLayout(top);
  near_ = new SleeveView(QStringLiteral("nearSleeve"));
  far_ = new SleeveView(QStringLiteral("farSleeve"));
  far_differs_ = new QCheckBox(tr("the far side shows: count it separately"));
  far_differs_->setObjectName(QStringLiteral("farSide"));
  column->addWidget(near_);
  column->addWidget(far_differs_);
  column->addWidget(far_);
  auto* grid = new QGridLayout;
  grid->setSpacing(3);
  constexpr int kKiloKinds = 7, kInARow = 4;
  std::array<int, 2> offered{};  // kilos, then pounds
  for (int k = 0; k < static_cast<int>(coaching::kPlateKinds.size()); ++k) {
    if (!isOnTheRack(k)) continue;
    auto* button = new QPushButton(nameOf(k));
    button->setObjectName(QStringLiteral("plate_%1").arg(k));
    button->setProperty("small", true);
    button->setToolTip(tr("Add a %1 plate").arg(nameOf(k)));
    connect(button, &QPushButton::clicked, this, [this, k] { add(k); });
    const bool pounds = k >= kKiloKinds;
    const int place = offered[pounds ? 1 : 0]++;
    grid->addWidget(button, (pounds ? 2 : 0) + place / kInARow, place % kInARow);
  }
  column->addLayout(grid);
  total_ = words({});
  total_->setObjectName(QStringLiteral("counted"));
  take_ = new QPushButton(tr("Use this load"));
  take_->setObjectName(QStringLiteral("takeLoad"));
  take_->setToolTip(tr("Use the counted load for this clip"));
  column->addWidget(total_);
  column->addWidget(take_, 0, Qt::AlignLeft);
  connect(near_, &SleeveView::plateClicked, this, [this](int k) { remove(false, k); });
  connect(far_, &SleeveView::plateClicked, this, [this](int k) { remove(true, k); });
  const auto choose = [this](bool far) {
    on_far_ = far;
    refresh();
  };
  connect(near_, &SleeveView::clicked, this, [choose] { choose(false); });
  connect(far_, &SleeveView::clicked, this, [choose] { choose(true); });
  connect(bar_, &QComboBox::currentIndexChanged, this, [this] {
    loading_.bar_kg = bar_->currentData().toDouble();
    edit();
  });
  connect(collars_, &QCheckBox::toggled, this, [this](bool on) {
    loading_.collars_kg = on ? 5 : 0;
    edit();
  });
  connect(far_differs_, &QCheckBox::toggled, this, [this](bool on) {
    if (refreshing_) return;
    on_far_ = on;
    if (on)
      loading_.far = loading_.near;  // what differs is then taken off or put on
    else
      loading_.far.reset();
    edit();
  });
  connect(take_, &QPushButton::clicked, this, [this] { emit takenAsLoad(coaching::totalKilos(loading_)); });
  refresh();
}

void PlateCounter::setLoading(const coaching::Loading& loading) {
  loading_ = loading;
  on_far_ = false;
  refresh();
}

void PlateCounter::add(int kind) {
  auto& side = on_far_ && loading_.far ? *loading_.far : loading_.near;
  if (side.size() >= kMostPlates) return;
  side.push_back(kind);
  edit();
}

void PlateCounter::remove(bool far, int index) {
  auto& side = far && loading_.far ? *loading_.far : loading_.near;
  side.erase(side.begin() + index);
  edit();
}

void PlateCounter::edit() {
  if (refreshing_) return;
  refresh();
  emit changed();
}

void PlateCounter::refresh() {
  refreshing_ = true;
  if (bar_->findData(loading_.bar_kg) < 0) bar_->addItem(tr("bar %1 kg").arg(loading_.bar_kg), loading_.bar_kg);
  bar_->setCurrentIndex(bar_->findData(loading_.bar_kg));
  collars_->setChecked(loading_.collars_kg > 0);
  far_differs_->setChecked(loading_.far.has_value());
  far_->setVisible(loading_.far.has_value());
  near_->setPlates(loading_.near);
  far_->setPlates(loading_.far.value_or(std::vector<int>{}));
  near_->setActive(!on_far_ || !loading_.far);
  far_->setActive(on_far_ && loading_.far);
  const double total = coaching::totalKilos(loading_);
  total_->setText(loading_.empty() ? tr("The empty bar: %1").arg(QString::fromStdString(massText(total)))
                                   : QString::fromStdString(massText(total)));
  refreshing_ = false;
}

}  // namespace jib::desk
