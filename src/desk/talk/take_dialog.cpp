// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/talk/take_dialog.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QBuffer>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QMediaDevices>
#include <QPlainTextEdit>
#include <QPushButton>
#include <algorithm>
#include <cmath>

#include "core/footage/sound.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/text_sized.h"

namespace jib::desk {
namespace {

constexpr double kLeast_s = 0.5;  // that stays of a recording

}  // namespace

TakeDialog::TakeDialog(review::Take take, double length_s, QWidget* parent)
    : QDialog(parent),
      take_(std::move(take)),
      length_s_(length_s),
      start_(new QDoubleSpinBox),
      end_(new QDoubleSpinBox),
      caption_(new QPlainTextEdit),
      listen_(new QPushButton(tr("Listen"))),
      length_(plainLabel()) {
  setObjectName(QStringLiteral("takeDialog"));
  setWindowTitle(tr("Recording: %1").arg(q(take_.chapter)));
  auto* form = new QFormLayout(this);
  const auto cut = [&](QDoubleSpinBox* box, const char* name, double value, const QString& title) {
    box->setObjectName(QString::fromLatin1(name));
    box->setRange(0, std::max(0.0, length_s_ - kLeast_s));
    box->setDecimals(1);
    box->setSingleStep(0.2);
    box->setSuffix(tr(" s"));
    box->setValue(value);
    connect(box, &QDoubleSpinBox::valueChanged, this, &TakeDialog::showLength);
    form->addRow(title, box);
  };
  cut(start_, "cutStart", take_.cut_start_s, tr("Cut off the start"));
  cut(end_, "cutEnd", take_.cut_end_s, tr("Cut off the end"));
  auto* row = new QHBoxLayout;
  listen_->setObjectName(QStringLiteral("listen"));
  listen_->setAutoDefault(false);
  connect(listen_, &QPushButton::clicked, this, &TakeDialog::listen);
  row->addWidget(listen_);
  length_->setObjectName(QStringLiteral("takeLength"));
  row->addWidget(length_, 1);
  form->addRow(QString(), row);
  caption_->setObjectName(QStringLiteral("takeCaption"));
  caption_->setPlainText(q(take_.caption));
  caption_->setTabChangesFocus(true);
  caption_->setPlaceholderText(
      tr("What you say, for watching on mute. Shown beside the lifter, and saved as a .vtt file."));
  caption_->setMinimumSize(textPx(420), textPx(110));
  form->addRow(tr("Captions"), caption_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  form->addRow(buttons);
  showLength();
}

void TakeDialog::showLength() {
  // What one end gives up the other can't.
  start_->setMaximum(std::max(0.0, length_s_ - end_->value() - kLeast_s));
  end_->setMaximum(std::max(0.0, length_s_ - start_->value() - kLeast_s));
  length_->setText(
      tr("%1 s of %2 s stay").arg(length_s_ - start_->value() - end_->value(), 0, 'f', 1).arg(length_s_, 0, 'f', 1));
}

// What would stay, from the speakers.
void TakeDialog::listen() {
  const QAudioDevice speakers = QMediaDevices::defaultAudioOutput();
  if (speakers.isNull()) return length_->setText(tr("Can't play it here: no sound output."));
  auto sound = footage::readSound(take_.file);
  if (!sound) return length_->setText(q(sound.error().sentence()));
  const auto at = [&](double s) {
    return std::clamp<std::ptrdiff_t>(std::lround(s * footage::Sound::kRate_hz), 0,
                                      static_cast<std::ptrdiff_t>(sound->samples.size()));
  };
  QByteArray bytes;
  for (auto i = at(start_->value()); i < at(length_s_ - end_->value()); ++i) {
    const auto sample = static_cast<qint16>(std::lround(32767 * sound->samples[static_cast<std::size_t>(i)]));
    bytes.append(reinterpret_cast<const char*>(&sample), sizeof sample);
  }
  delete sink_;
  delete heard_;
  QAudioFormat format;
  format.setSampleRate(footage::Sound::kRate_hz);
  format.setChannelCount(1);
  format.setSampleFormat(QAudioFormat::Int16);
  heard_ = new QBuffer(this);
  heard_->setData(bytes);
  heard_->open(QIODevice::ReadOnly);
  sink_ = new QAudioSink(speakers, format, this);
  sink_->start(heard_);
}

review::Take TakeDialog::wanted() const {
  review::Take take = take_;
  take.cut_start_s = start_->value();
  take.cut_end_s = end_->value();
  take.caption = caption_->toPlainText().simplified().toStdString();
  return take;
}

}  // namespace jib::desk
