// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/progress_dialog.h"

#include <QDialogButtonBox>
#include <QDir>
#include <QFileDialog>
#include <QProgressBar>
#include <QPushButton>
#include <QTextBrowser>
#include <QVBoxLayout>
#include <fstream>

#include "core/exchange/letters/outbox.h"
#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "drawing/reply_writer.h"

namespace jib::desk {

ProgressDialog::ProgressDialog(library::Library& library, library::AthleteId athlete, QWidget* parent)
    : QDialog(parent), library_(library), athlete_(athlete) {
  setObjectName(QStringLiteral("progressDialog"));
  setWindowTitle(tr("Progress sheet"));
  resize(textPx(720), textPx(700));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  page_ = new QTextBrowser;
  page_->setObjectName(QStringLiteral("progressPage"));
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  told_ = words({}, true);
  told_->setObjectName(QStringLiteral("progressTold"));
  column->addWidget(page_, 1);
  column->addWidget(progress_);
  column->addWidget(told_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  save_ = buttons->addButton(tr("Save…"), QDialogButtonBox::ActionRole);
  send_ = buttons->addButton(tr("Into the outbox"), QDialogButtonBox::ActionRole);
  save_->setObjectName(QStringLiteral("saveProgress"));
  send_->setObjectName(QStringLiteral("sendProgress"));
  for (QPushButton* b : {save_, send_}) b->setEnabled(false);
  connect(save_, &QPushButton::clicked, this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Where does it go?"), QDir::homePath());
    if (!folder.isEmpty()) saveTo(folder);
  });
  connect(send_, &QPushButton::clicked, this, &ProgressDialog::putInOutbox);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  connect(&jobs_, &JobRunner::progressed, progress_,
          [this](double f) { progress_->setValue(static_cast<int>(1000 * f)); });
  auto draft = review::progressOf(library_, athlete_, library::today());
  if (!draft) {
    progress_->hide();
    tell(q(draft.error().sentence()), true);
    return;
  }
  jobs_.start<drawing::ProgressFiles>(
      tr("Drawing then and now…"),
      [folder = library_.folder(), draft = std::move(*draft),
       to = std::filesystem::path(scratch_.path().toStdString())](Task& task) {
        return drawing::writeProgress(folder, draft, to, library::today(), task);
      },
      [this](Result<drawing::ProgressFiles> made) {
        progress_->hide();
        if (!made) return tell(q(made.error().sentence()), true);
        present(*made);
      });
  tell(tr("Drawing then and now…"));
}

void ProgressDialog::present(const drawing::ProgressFiles& files) {
  files_ = files;
  std::ifstream in(files.html, std::ios::binary);
  const std::string html{std::istreambuf_iterator<char>(in), {}};
  constexpr int kPicture_px = 280;
  page_->setHtml(drawing::forPaper(html, kPicture_px));
  for (QPushButton* b : {save_, send_}) b->setEnabled(true);
  tell(tr("This is what they get, as a page and as a PDF."));
}

void ProgressDialog::saveTo(const QString& folder) {
  if (!files_) return;
  for (const auto& file : {files_->html, files_->pdf}) {
    std::error_code error;
    std::filesystem::copy_file(file, std::filesystem::path(folder.toStdString()) / file.filename(),
                               std::filesystem::copy_options::overwrite_existing, error);
    if (error) return tell(tr("It can't be saved there: %1. Choose another folder.").arg(q(error.message())), true);
  }
  tell(tr("Saved in %1.").arg(folder));
}

void ProgressDialog::putInOutbox() {
  if (!files_) return;
  const auto athlete = library_.athlete(athlete_);
  const auto addresses = library_.addresses(athlete_);
  auto letters = exchange::LetterBook::forLibrary(library_.folder());
  if (!athlete || !addresses || !letters) return tell(tr("The library can't be read just now. Try again."), true);
  if (addresses->empty())
    return tell(tr("No email address for %1 yet. Save it and send it yourself.").arg(q(athlete->name)), true);
  const auto coach = library_.signer().value_or(library::CoachCard{});
  letters->signedBy(library::signatureOf(coach));
  exchange::Dispatch out;
  out.letter = letters->progress(exchange::firstNameOf(athlete->name));
  out.to_name = athlete->name;
  out.to_address = addresses->front();
  out.athlete = athlete_;
  out.files = {files_->html, files_->pdf};
  auto sent = exchange::dispatch(library_, coach, out, library::today());
  if (!sent) return tell(q(sent.error().sentence()), true);
  send_->setEnabled(false);
  tell(tr("In the outbox, to %1 (Ctrl+O).").arg(q(out.to_address)));
  emit changed();
}

void ProgressDialog::tell(const QString& sentence, bool is_trouble) {
  told_->setText(sentence);
  setTone(told_, is_trouble ? "bad" : "");
}

}  // namespace jib::desk
