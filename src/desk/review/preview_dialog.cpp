// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/preview_dialog.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <QSplitter>
#include <QTextBrowser>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>

#include "core/base/files.h"
#include "core/footage/frame_reader.h"
#include "desk/review/frame_source.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// The page holds its pictures in itself; Qt's rich text asks for them as for any other.
class Page : public QTextBrowser {
 public:
  using QTextBrowser::QTextBrowser;

 protected:
  QVariant loadResource(int, const QUrl& url) override {
    const QString all = url.toString();
    const qsizetype comma = all.indexOf(QLatin1Char(','));
    // Nothing else is opened: the page is to hold all it shows.
    if (url.scheme() != QLatin1String("data") || comma < 0) return {};
    return QImage::fromData(QByteArray::fromBase64(all.mid(comma + 1).toLatin1()));
  }
};

constexpr int kPicture_px = 330;

}  // namespace

PreviewDialog::PreviewDialog(std::unique_ptr<QTemporaryDir> scratch, const drawing::ReplyFiles& files, QWidget* parent)
    : QDialog(parent), scratch_(std::move(scratch)) {
  setObjectName(QStringLiteral("preview"));
  setWindowTitle(tr("What the athlete will get"));
  resize(1180, 640);
  auto* column = new QVBoxLayout(this);
  auto* split = new QSplitter;
  split->setChildrenCollapsible(false);
  split->addWidget(buildFilm(files.clip));
  auto* page = new Page;
  page->setObjectName(QStringLiteral("previewPage"));
  page->setOpenLinks(false);
  if (auto html = FileSystem::real().read(files.html)) page->setHtml(drawing::forPaper(*html, kPicture_px));
  split->addWidget(page);
  split->setSizes({760, 400});
  column->addWidget(split, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
}

PreviewDialog::~PreviewDialog() = default;

QWidget* PreviewDialog::buildFilm(const std::filesystem::path& film) {
  auto* box = new QWidget;
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  screen_ = plainLabel();
  screen_->setObjectName(QStringLiteral("previewFilm"));
  screen_->setMinimumSize(480, 270);
  screen_->setAlignment(Qt::AlignCenter);
  screen_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
  column->addWidget(screen_, 1);
  auto* row = new QHBoxLayout;
  play_ = new QToolButton;
  play_->setObjectName(QStringLiteral("previewPlay"));
  play_->setText(tr("❚❚ Pause"));
  play_->setShortcut(Qt::Key_Space);
  time_ = new QSlider(Qt::Horizontal);
  time_->setObjectName(QStringLiteral("previewTime"));
  time_->setAccessibleName(tr("Time in the clip"));
  row->addWidget(play_);
  row->addWidget(time_, 1);
  column->addLayout(row);
  frames_ = std::make_unique<FrameSource>(film);
  connect(frames_.get(), &FrameSource::opened, this, [this](const std::shared_ptr<const footage::ClipInfo>& info) {
    player_.setTimes(info->times_s);
    time_->setRange(0, static_cast<int>(info->times_s.size()) - 1);
    connect(time_, &QSlider::sliderMoved, this, [this, info](int i) {
      player_.pause();
      player_.goTo(info->times_s[static_cast<std::size_t>(i)]);
    });
    player_.toggle();
  });
  connect(frames_.get(), &FrameSource::frameReady, this, [this](std::size_t, const QImage& picture) { show(picture); });
  connect(frames_.get(), &FrameSource::failed, screen_, &QLabel::setText);
  connect(&player_, &Player::frameChanged, this, [this](std::size_t frame) {
    frames_->request(frame);
    time_->setValue(static_cast<int>(frame));
  });
  connect(&player_, &Player::playingChanged, this,
          [this](bool on) { play_->setText(on ? tr("❚❚ Pause") : tr("▶ Play")); });
  connect(play_, &QToolButton::clicked, &player_, &Player::toggle);
  frames_->request(0);
  return box;
}

void PreviewDialog::show(const QImage& picture) {
  picture_ = picture;
  screen_->setPixmap(
      QPixmap::fromImage(picture.scaled(screen_->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation)));
}

void PreviewDialog::resizeEvent(QResizeEvent* event) {
  QDialog::resizeEvent(event);
  if (!picture_.isNull()) show(picture_);
}

}  // namespace jib::desk
