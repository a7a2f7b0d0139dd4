// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/theme.h"

#include <QApplication>
#include <QFont>
#include <QPalette>
#include <QSettings>
#include <QStyleFactory>
#include <algorithm>

#include "desk/widgets/wheel_guard.h"

namespace jib::desk {
namespace {

Theme in_force = Theme::Day;
double text_in_force_pt = kUsualText_pt;

QString sheet(const drawing::Palette& p) {
  // long because a style sheet
  QString s = QStringLiteral(R"(
* { font-family: "Cabin"; }
QMainWindow, QWidget#page { background: @paper; }
QLabel#title { font-family: "Vollkorn"; font-style: italic; font-size: @title; }
QLabel#heading { font-family: "Vollkorn"; font-style: italic; font-size: @heading; }
QLabel[faint="true"] { color: @faint; }
QLabel[tone="bad"] { color: @bad; }
QLabel[tone="warn"] { color: @warn; }
QLabel[tone="good"] { color: @good; }
QFrame#card, QFrame#mirror { background: @panel; border: 1px solid @line; border-radius: 4px; }
QFrame#coachCard, QFrame#dueCard, QFrame#unfinishedCard { background: @panel; border: 1px solid @line; border-left: 4px solid @coach; border-radius: 3px; }
QFrame#bar { background: @raised; border-bottom: 1px solid @line; }
QPushButton, QToolButton { background: @panel; border: 1px solid @line; border-radius: 4px; padding: 4px 10px; }
QToolButton[narrow="true"], QPushButton[narrow="true"] { padding: 4px 6px; }
QToolButton#meta { background: transparent; border-color: transparent; color: @faint; padding: 2px 6px; }
QToolButton#meta:hover, QToolButton#meta:checked { border-color: @line; background: @panel; }
QPushButton:hover, QToolButton:hover { border-color: @ink; }
QPushButton:focus, QToolButton:focus { border-color: @ink; outline: none; }
QPushButton:checked, QToolButton:checked { background: @shoal; border-color: @ink; }
QPushButton:disabled, QToolButton:disabled { color: @faint; }
QPushButton#primary, QPushButton#showMe { background: @ink; color: @panel; border-color: @ink; font-weight: 600; padding: 6px 14px; }
QPushButton#primary:disabled, QPushButton#showMe:disabled { background: transparent; color: @faint; border: 1px dashed @line; font-weight: 400; }
QPushButton::menu-indicator { subcontrol-origin: padding; subcontrol-position: right center; right: 8px; }
QToolButton[quiet="true"] { background: transparent; border: none; color: @faint; padding: 1px 2px; }
QToolButton:focus:checked, QPushButton:focus, QToolButton:focus, QComboBox:focus, QSpinBox:focus, QDoubleSpinBox:focus { border: 2px solid @ink; }
QMenuBar { background: @raised; color: @ink; padding: 1px 4px; }
QMenuBar::item { padding: 3px 9px; border-radius: 3px; background: transparent; }
QMenuBar::item:selected { background: @shoal; }
QMenu { background: @panel; color: @ink; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 18px; border-radius: 3px; }
QMenu::item:selected { background: @shoal; color: @ink; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QDialog, QMessageBox { background: @paper; }
QFileDialog QToolButton { padding: 2px; min-width: 22px; min-height: 22px; }
QFileDialog QTreeView, QFileDialog QListView { background: @panel; }
QTextBrowser { background: @panel; border: 1px solid @line; border-radius: 3px; padding: 6px; }
QSplitter::handle { background: transparent; }
QSplitter::handle:hover { background: @line; }
QPushButton#quiet { background: transparent; border: none; text-decoration: underline; padding: 2px 4px; }
QLineEdit, QPlainTextEdit, QTextEdit, QComboBox, QSpinBox { background: @panel; border: 1px solid @line; border-radius: 3px; padding: 3px 6px; selection-background-color: @shoal; selection-color: @ink; }
QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus { border-color: @ink; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { width: 0; height: 0; border-left: 4px solid @panel; border-right: 4px solid @panel; border-top: 5px solid @faint; }
QSpinBox { padding-right: 20px; }
QSpinBox::up-button { border: none; width: 18px; }
QSpinBox::down-button { border: none; width: 18px; }
QSpinBox::up-arrow { width: 0; height: 0; border-left: 4px solid @panel; border-right: 4px solid @panel; border-bottom: 5px solid @faint; }
QSpinBox::down-arrow { width: 0; height: 0; border-left: 4px solid @panel; border-right: 4px solid @panel; border-top: 5px solid @faint; }
QListWidget::item { padding: 5px 4px; }
QComboBox QAbstractItemView { background: @panel; selection-background-color: @shoal; selection-color: @ink; }
QTableView, QListView, QTreeView { background: @panel; alternate-background-color: @paper; border: 1px solid @line; gridline-color: @line; selection-background-color: @shoal; selection-color: @ink; }
QHeaderView { background: @raised; }
QHeaderView::section { background: @raised; color: @faint; border: none; border-bottom: 1px solid @line; padding: 4px 6px; }
QTabBar::tab { background: transparent; padding: 6px 9px; border-bottom: 3px solid transparent; color: @faint; }
QTabBar::tab:selected { color: @ink; border-bottom: 3px solid @ink; }
QTabBar::tab:focus { color: @ink; }
QTabWidget::pane { border: none; border-top: 1px solid @line; }
QScrollArea { border: none; background: transparent; }
QScrollArea > QWidget > QWidget { background: transparent; }
QProgressBar { background: @raised; border: 1px solid @line; border-radius: 3px; text-align: center; max-height: 16px; }
QProgressBar::chunk { background: @shoal; }
QToolTip { background: @panel; color: @ink; border: 1px solid @line; padding: 3px; }
QScrollBar:vertical { background: transparent; width: 10px; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 30px; }
QScrollBar:horizontal { background: transparent; height: 10px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 30px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
)");
  const std::pair<const char*, QColor> names[] = {{"@ink", p.ink},       {"@paper", p.paper}, {"@panel", p.panel},
                                                  {"@raised", p.raised}, {"@faint", p.faint}, {"@line", p.line},
                                                  {"@shoal", p.shoal},   {"@coach", p.coach}, {"@bad", p.bad},
                                                  {"@warn", p.warn},     {"@good", p.good}};
  for (const auto& [name, colour] : names) s.replace(QLatin1String(name), colour.name());
  s.replace(QLatin1String("@title"), QStringLiteral("%1px").arg(textPx(23)));
  s.replace(QLatin1String("@heading"), QStringLiteral("%1px").arg(textPx(18)));
  return s;
}

}  // namespace

const drawing::Palette& colours() {
  return in_force == Theme::Day ? drawing::day() : drawing::night();
}

Theme themeInForce() {
  return in_force;
}

double textSize_pt() {
  return std::clamp(QSettings().value(QStringLiteral("textSize_pt"), kUsualText_pt).toDouble(), kLeastText_pt,
                    kMostText_pt);
}

void keepTextSize(double pt) {
  QSettings().setValue(QStringLiteral("textSize_pt"), pt);
}

double textPx(double usual_px) {
  return usual_px * text_in_force_pt / kUsualText_pt;
}

void applyTheme(QApplication& application, Theme theme) {
  in_force = theme;
  text_in_force_pt = textSize_pt();
  const drawing::Palette& p = colours();
  application.setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
  QPalette palette;
  palette.setColor(QPalette::Window, p.paper);
  palette.setColor(QPalette::Base, p.panel);
  palette.setColor(QPalette::AlternateBase, p.paper);
  palette.setColor(QPalette::Button, p.panel);
  for (auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText})
    palette.setColor(role, p.ink);
  palette.setColor(QPalette::PlaceholderText, p.faint);
  palette.setColor(QPalette::Highlight, p.shoal);
  palette.setColor(QPalette::HighlightedText, p.ink);
  application.setPalette(palette);
  palette.setColor(QPalette::Light, p.raised);
  palette.setColor(QPalette::Mid, p.line);
  palette.setColor(QPalette::Dark, p.faint);
  palette.setColor(QPalette::ToolTipBase, p.panel);
  application.setPalette(palette);
  static WheelGuard* guard = nullptr;
  if (!guard) {
    guard = new WheelGuard(&application);
    application.installEventFilter(guard);
  }
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(textPx(14));
  application.setFont(font);
  application.setStyleSheet(sheet(p));
}

}  // namespace jib::desk
