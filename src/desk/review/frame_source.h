// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QObject>
#include <QThread>
#include <filesystem>
#include <memory>

#include "core/footage/clip_info.h"

namespace jib::desk {

// Decodes frames of one clip on a thread of its own. Of several wishes only the latest is served.
class FrameSource : public QObject {
  Q_OBJECT

 public:
  explicit FrameSource(std::filesystem::path clip, QObject* parent = nullptr);
  ~FrameSource() override;

  void request(std::size_t frame);
  // Reads the clip through, and shows no frame of it.
  void open();

 signals:
  void opened(std::shared_ptr<const jib::footage::ClipInfo> info);  // before its first frame
  void frameReady(std::size_t frame, const QImage& picture);
  void failed(const QString& sentence);

 private:
  class Decoder;
  QThread thread_;
  std::unique_ptr<Decoder> decoder_;
};

}  // namespace jib::desk
