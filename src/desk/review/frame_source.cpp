// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/frame_source.h"

#include <atomic>

#include "core/footage/footage.h"
#include "drawing/picture.h"

namespace jib::desk {

// Lives on the source's thread. `wanted` is the one thing shared: the newest wish, -1 when served.
class FrameSource::Decoder : public QObject {
 public:
  Decoder(FrameSource& source, std::filesystem::path clip) : source_(source), clip_(std::move(clip)) {}

  void want(std::size_t frame) {
    const bool idle = wanted_.exchange(static_cast<long long>(frame)) < 0;
    if (idle)
      QMetaObject::invokeMethod(
          this, [this] { serve(); }, Qt::QueuedConnection);
  }

  void open() {
    QMetaObject::invokeMethod(
        this, [this] { guarded([this] { isOpen(); }); }, Qt::QueuedConnection);
  }

 private:
  // Whatever a clip does to the decoder, it is said and the thread lives on.
  void serve() {
    guarded([this] { decode(); });
  }
  template <class Work>
  void guarded(Work work) {
    try {
      work();
    } catch (const std::exception& e) {
      emit source_.failed(tr("Can't show this frame: %1.").arg(QString::fromUtf8(e.what())));
    }
  }
  bool isOpen() {
    if (footage_) return true;
    auto opened = footage::Footage::open(clip_);
    if (!opened) {
      emit source_.failed(QString::fromStdString(opened.error().sentence()));
      return false;
    }
    footage_ = std::make_unique<footage::Footage>(std::move(*opened));
    emit source_.opened(std::make_shared<const footage::ClipInfo>(footage_->info()));
    return true;
  }
  void decode() {
    const long long frame = wanted_.exchange(-1);
    if (frame < 0 || !isOpen()) return;
    const std::size_t index = std::min(static_cast<std::size_t>(frame), footage_->info().frames() - 1);
    auto decoded = footage_->frame(index);
    if (decoded)
      emit source_.frameReady(index, drawing::toImage(decoded->picture));
    else
      emit source_.failed(QString::fromStdString(decoded.error().sentence()));
  }

  FrameSource& source_;
  std::filesystem::path clip_;
  std::unique_ptr<footage::Footage> footage_;
  std::atomic<long long> wanted_{-1};
};

FrameSource::FrameSource(std::filesystem::path clip, QObject* parent)
    : QObject(parent), decoder_(std::make_unique<Decoder>(*this, std::move(clip))) {
  decoder_->moveToThread(&thread_);
  thread_.start();
}

FrameSource::~FrameSource() {
  thread_.quit();
  thread_.wait();
}

void FrameSource::open() {
  decoder_->open();
}

void FrameSource::request(std::size_t frame) {
  decoder_->want(frame);
}

}  // namespace jib::desk
