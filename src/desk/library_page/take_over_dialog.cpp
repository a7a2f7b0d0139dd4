// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/take_over_dialog.h"

#include <QCheckBox>
#include <QDialogButtonBox>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

TakeOverDialog::TakeOverDialog(library::Library& library, review::CoachingFile file, QWidget* parent)
    : QDialog(parent), library_(library), file_(std::move(file)) {
  setObjectName(QStringLiteral("takeOver"));
  setWindowTitle(tr("From another coach"));
  setMinimumWidth(420);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  const QString from = file_.from.empty() ? tr("a coach who left no name") : q(file_.from).simplified();
  column->addWidget(words(tr("From %1, %2. Tick what you want; the rest stays as it is.")
                              .arg(from, q(library::spoken(file_.made_on)).simplified())));
  const auto part = [&](const QString& text, const char* name, bool there) {
    auto* box = new QCheckBox(text);
    box->setObjectName(QString::fromLatin1(name));
    box->setChecked(there);
    box->setVisible(there);
    column->addWidget(box);
    return box;
  };
  const auto cues = static_cast<int>(file_.cues.size()), sides = static_cast<int>(file_.sides.size());
  cues_ = part(cues == 1 ? tr("1 cue, offered beside yours") : tr("%1 cues, offered beside yours").arg(cues),
               "takeCues", cues > 0);
  sides_ = part(sides == 1 ? tr("Where they stand on 1 question") : tr("Where they stand on %1 questions").arg(sides),
                "takeSides", sides > 0);
  for (const auto& [name, text] : file_.files) {
    std::error_code error;
    const bool mine = std::filesystem::exists(library.folder() / name, error);
    QString what = q(review::whatIs(name));
    what[0] = what[0].toUpper();
    // What replaces something of the coach's own is the coach's to tick.
    auto* box = part(mine ? tr("%1 (replaces yours; a copy of yours is kept)").arg(what) : what,
                     ("take_" + name).c_str(), true);
    box->setChecked(!mine);
    files_[name] = box;
  }
  if (cues == 0 && sides == 0 && file_.files.empty()) column->addWidget(words(tr("There is nothing in it."), true));
  told_ = words({});
  setTone(told_, "bad");
  told_->hide();
  column->addWidget(told_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
  auto* take = buttons->addButton(tr("Import"), QDialogButtonBox::AcceptRole);
  take->setObjectName(QStringLiteral("takeOverNow"));
  connect(buttons, &QDialogButtonBox::accepted, this, &TakeOverDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
}

void TakeOverDialog::accept() {
  review::TakeOver what;
  what.cues = cues_->isChecked();
  what.sides = sides_->isChecked();
  for (const auto& [name, box] : files_)
    if (box->isChecked()) what.files.push_back(name);
  if (auto done = review::takeOver(library_, file_, what, library::today()); !done) {
    told_->setText(q(done.error().sentence()));
    return told_->show();
  }
  took_sides_ = what.sides;
  QDialog::accept();
}

}  // namespace jib::desk
