// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/consent_card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDate>
#include <QFormLayout>
#include <QLineEdit>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

ConsentCard::ConsentCard(library::Profile profile, QWidget* parent) : QWidget(parent), profile_(std::move(profile)) {
  setObjectName(QStringLiteral("consent"));
  const bool minor = library::isMinor(profile_, library::today()).value_or(false);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  column->addWidget(heading(tr("Consent")));
  if (const auto lack = library::consentLack(profile_, library::today()); !lack.empty()) {
    auto* missing = words(q(lack));
    missing->setObjectName(QStringLiteral("consentLack"));
    setTone(missing, "bad");
    column->addWidget(missing);
  }
  auto* form = new QFormLayout;
  form->setContentsMargins(0, 0, 0, 0);
  form->setVerticalSpacing(4);
  if (minor) addGuardian(*form);
  keepDay(line(*form, tr("Agreed on"), "agreedOn", profile_.consent.agreed_on,
               minor ? tr("Date as 2026-11-03: when the parent or guardian agreed that you keep clips and numbers")
                     : tr("Date as 2026-11-03: when they agreed that you keep clips and numbers")),
          &library::Consent::agreed_on);
  keepDay(line(*form, tr("Until"), "agreedUntil", profile_.consent.until,
               tr("Date as 2027-11-03; empty: until they say otherwise")),
          &library::Consent::until);
  const auto may = [&](const QString& title, const char* name, bool library::Consent::*field) {
    auto* box = new QCheckBox(title);
    box->setObjectName(QString::fromLatin1(name));
    box->setChecked(profile_.consent.*field);
    connect(box, &QCheckBox::clicked, this, [this, field](bool on) {
      profile_.consent.*field = on;
      emit changed(profile_);
    });
    form->addRow(QString(), box);
  };
  may(tr("Clips may be shown in the club"), "mayShow", &library::Consent::show_others);
  may(tr("Clips may be used for teaching"), "mayTeach", &library::Consent::teaching);
  auto* faces = new QComboBox;
  faces->setObjectName(QStringLiteral("faces"));
  faces->setToolTip(tr("In replies, stills and progress sheets. The clip in your library stays as it came"));
  faces->addItem(minor ? tr("Blurred (under 18)") : tr("Shown"));
  faces->addItem(tr("Always blurred"));
  faces->addItem(tr("Always shown"));
  faces->setCurrentIndex(!profile_.hide_faces ? 0 : *profile_.hide_faces ? 1 : 2);
  connect(faces, &QComboBox::activated, this, [this](int to) {
    profile_.hide_faces = to == 0 ? std::nullopt : std::optional(to == 1);
    emit changed(profile_);
  });
  form->addRow(words(tr("Face in replies"), true), faces);
  column->addLayout(form);
}

void ConsentCard::addGuardian(QFormLayout& form) {
  auto* name = line(form, tr("Parent or guardian"), "guardianName", profile_.guardian.name, tr("Who agrees for them"));
  connect(name, &QLineEdit::editingFinished, this, [this, name] {
    if (name->text().trimmed().toStdString() == profile_.guardian.name) return;
    profile_.guardian.name = name->text().trimmed().toStdString();
    emit changed(profile_);
  });
  auto* address = line(form, tr("Their address"), "guardianAddress", profile_.guardian.address,
                       tr("Gets a copy of every letter to this athlete"));
  connect(address, &QLineEdit::editingFinished, this, [this, address] {
    const QString now = address->text().trimmed();
    if (now.toStdString() == profile_.guardian.address) return;
    if (!now.isEmpty() && !CoachDialog::isAddress(now)) return address->setText(q(profile_.guardian.address));
    profile_.guardian.address = now.toStdString();
    emit changed(profile_);
  });
}

QLineEdit* ConsentCard::line(QFormLayout& form, const QString& title, const char* name, const std::string& now,
                             const QString& tip) {
  auto* edit = new QLineEdit(q(now));
  edit->setObjectName(QString::fromLatin1(name));
  edit->setToolTip(tip);
  form.addRow(words(title, true), edit);
  return edit;
}

void ConsentCard::keepDay(QLineEdit* edit, std::string library::Consent::*field) {
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, field] {
    const QString now = edit->text().trimmed();
    if (now.toStdString() == profile_.consent.*field) return;
    // What is no day leaves what was there.
    if (!now.isEmpty() && !QDate::fromString(now, Qt::ISODate).isValid())
      return edit->setText(q(profile_.consent.*field));
    profile_.consent.*field = now.toStdString();
    emit changed(profile_);
  });
}

}  // namespace jib::desk
