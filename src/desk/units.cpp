// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/units.h"

#include <QSettings>

namespace jib::desk {

void applyKeptUnits() {
  const QSettings settings;
  DisplayUnits units;
  if (settings.value(QStringLiteral("poundsFirst"), false).toBool()) units.mass = MassUnit::Pounds;
  if (settings.value(QStringLiteral("inches"), false).toBool()) units.length = LengthUnit::Inches;
  units.one_only = settings.value(QStringLiteral("oneUnit"), false).toBool();
  setDisplayUnits(units);
}

void keepUnits(DisplayUnits units) {
  QSettings settings;
  settings.setValue(QStringLiteral("poundsFirst"), units.mass == MassUnit::Pounds);
  settings.setValue(QStringLiteral("inches"), units.length == LengthUnit::Inches);
  settings.setValue(QStringLiteral("oneUnit"), units.one_only);
  setDisplayUnits(units);
}

void keepSpelling(Spelling chosen) {
  QSettings().setValue(QStringLiteral("britishSpelling"), chosen == Spelling::British);
}

Spelling keptSpelling() {
  return QSettings().value(QStringLiteral("britishSpelling"), false).toBool() ? Spelling::British : Spelling::American;
}

review::FilmShape keptFilmShape() {
  const QString kept = QSettings().value(QStringLiteral("replyShape")).toString();
  return kept == QStringLiteral("landscape") ? review::FilmShape::Landscape
         : kept == QStringLiteral("square")  ? review::FilmShape::Square
                                             : review::FilmShape::Portrait;
}

void keepFilmShape(review::FilmShape shape) {
  QSettings().setValue(QStringLiteral("replyShape"), shape == review::FilmShape::Landscape ? QStringLiteral("landscape")
                                                     : shape == review::FilmShape::Square  ? QStringLiteral("square")
                                                                                          : QStringLiteral("portrait"));
}

review::OwnSound keptOwnSound() {
  const int kept = QSettings().value(QStringLiteral("ownSound"), static_cast<int>(review::OwnSound::Low)).toInt();
  return kept >= 0 && kept <= static_cast<int>(review::OwnSound::Full) ? static_cast<review::OwnSound>(kept)
                                                                       : review::OwnSound::Low;
}

void keepOwnSound(review::OwnSound sound) {
  QSettings().setValue(QStringLiteral("ownSound"), static_cast<int>(sound));
}

bool keptSecondInCorner() {
  return QSettings().value(QStringLiteral("secondInCorner"), true).toBool();
}

void keepSecondInCorner(bool on) {
  QSettings().setValue(QStringLiteral("secondInCorner"), on);
}

std::optional<double> keptMostMb() {
  const double mb = QSettings().value(QStringLiteral("mostMb"), 0.0).toDouble();
  return mb > 0 ? std::optional(mb) : std::nullopt;
}

void keepMostMb(std::optional<double> mb) {
  QSettings().setValue(QStringLiteral("mostMb"), mb.value_or(0));
}

}  // namespace jib::desk
