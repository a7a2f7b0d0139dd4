// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/reply_writer.h"

#include <unistd.h>

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgRenderer>
#include <QTextDocument>
#include <algorithm>
#include <cmath>

#include "core/base/files.h"
#include "core/footage/fit.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "core/lifts/which_lift.h"
#include "drawing/reply_film.h"
#include "drawing/voiced_film.h"

namespace jib::drawing {
namespace fs = std::filesystem;

namespace {

std::string encoded(const QImage& image, const char* kind, int quality = -1) {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  image.save(&buffer, kind, quality);
  return bytes.toStdString();
}
// In the page, which goes through mails and chats: a tenth of what a PNG weighs.
constexpr int kPageQuality = 88;

double bytesIn(const ReplyFiles& files) {
  std::error_code error;
  std::vector<fs::path> all{files.html, files.pdf};
  all.insert(all.end(), files.stills.begin(), files.stills.end());
  double sum = 0;
  for (const fs::path& file : all)
    if (const auto size = fs::file_size(file, error); !error) sum += static_cast<double>(size);
  return sum;
}

// "ines-calder-squat-2026-11-16"
std::string stemOf(const coaching::Analysis& a, const ReplyContent& content) {
  std::string stem = library::folderNameFor(content.athlete) + "-" +
                     library::folderNameFor(std::string(lifts::definition(a.request.lift).name));
  if (!content.filmed_on.empty()) stem += "-" + library::folderNameFor(content.filmed_on);
  std::transform(stem.begin(), stem.end(), stem.begin(),
                 [](unsigned char c) { return static_cast<char>(c < 0x80 ? std::tolower(c) : c); });
  return stem;
}

exchange::Report reportOf(const coaching::Analysis& a, const ReplyContent& content) {
  exchange::Report r;
  r.athlete = content.athlete;
  r.coach = content.coach;
  r.filmed_on = library::spoken(content.filmed_on);
  r.written_on = library::spoken(content.written_on);
  r.lift = liftTitle(a);
  r.load = content.load;
  r.greeting = content.greeting;
  r.closing = content.closing;
  r.keep = content.keep;
  r.cues = content.cues;
  r.change_nothing = content.change_nothing;
  r.follow_up = content.follow_up;
  r.next = content.next;
  r.pain = content.pain;
  r.week = content.week;
  r.cautions = content.cautions;
  r.all_numbers = content.all_numbers;
  r.drills = content.drills;
  return r;
}

constexpr double kLooking = 0.2;  // of the time a reply takes, where faces are looked for

Result<bool> writeAll(const coaching::Analysis& a, const ReplyContent& content, ReplyFiles& files,
                      const fs::path& folder, Task& task) {
  const std::vector<Stop> stops = stopsOf(a, content);
  const std::string stem = stemOf(a, content);
  files.clip = folder / (stem + ".mp4");
  task.part(content.hide_faces ? kLooking : 0, 0.9);
  auto film = content.takes.empty() ? replyFilm(a, content, stops, files.clip, task)
                                    : voicedFilm(a, content, stops, files.clip, task);
  if (!film) return fail(film.error());
  makePrivate(files.clip);
  task.part(0.9, 1.0);
  exchange::Report report = reportOf(a, content);
  // The film stops where a cue shows, in time; the report follows the cues.
  report.film_s = film->cue_at_s;
  std::vector<std::pair<std::size_t, std::string>> pngs;
  for (const auto& [which, still] : film->stills) {
    const Stop& stop = stops[which];
    QString caption = stop.title;
    if (!stop.text.isEmpty()) caption += (caption.isEmpty() ? QString() : QStringLiteral(": ")) + stop.text;
    report.stills.push_back({caption.toStdString(), asJpeg(still), stop.cue});
    pngs.emplace_back(stop.cue, encoded(still, "PNG"));
  }
  std::stable_sort(report.stills.begin(), report.stills.end(),
                   [](const exchange::ReportStill& x, const exchange::ReportStill& y) { return x.cue < y.cue; });
  std::stable_sort(pngs.begin(), pngs.end(), [](const auto& x, const auto& y) { return x.first < y.first; });
  for (std::size_t i = 0; i < pngs.size(); ++i) {
    const fs::path file = folder / (stem + "-" + std::to_string(i + 1) + ".png");
    if (auto written = writeWhole(FileSystem::real(), file, pngs[i].second); !written) return written;
    files.stills.push_back(file);
  }
  if (!film->captions.empty()) {
    files.captions = folder / (stem + ".vtt");
    if (auto written = writeWhole(FileSystem::real(), files.captions, review::toWebVtt(film->captions)); !written)
      return written;
  }
  const std::string html = exchange::reportToHtml(report, a);
  files.html = folder / (stem + ".html");
  files.pdf = folder / (stem + ".pdf");
  if (auto written = writeWhole(FileSystem::real(), files.html, html); !written) return written;
  if (task.cancelled()) return cancelled();
  task.report(0.5);
  if (auto written = writeWhole(FileSystem::real(), files.pdf, printedOnA4(html, QStringLiteral("Lift review")));
      !written)
    return written;
  if (!content.most_mb) return true;
  auto fits = footage::fitFilm(files.clip, *content.most_mb * 1e6 - bytesIn(files), task);
  if (!fits) return fail(fits.error());
  files.too_heavy = !*fits;
  return true;
}

// Where faces are hidden everybody's are, and they are looked for first.
Result<bool> writeHidden(const coaching::Analysis& a, ReplyContent content, ReplyFiles& files, const fs::path& folder,
                         Task& task) {
  task.part(0, kLooking);
  auto hidden = withOtherFaces(std::make_shared<coaching::Analysis>(a), task);
  if (!hidden) return fail(hidden.error());
  if (content.second) {
    auto second = withOtherFaces(content.second, task);
    if (!second) return fail(second.error());
    content.second = std::move(*second);
  }
  files.others_hidden = (*hidden)->trace.other_faces->most();
  return writeAll(**hidden, content, files, folder, task);
}

// From the unfinished folder into its parent. Stills an earlier, longer reply left behind go.
Result<bool> moveIn(ReplyFiles& files, const fs::path& folder) {
  std::error_code error;
  const std::string stem = files.clip.stem().string();
  for (std::size_t i = files.stills.size() + 1; fs::remove(folder / (stem + "-" + std::to_string(i) + ".png"), error);)
    ++i;
  std::vector<fs::path*> all{&files.clip, &files.html, &files.pdf};
  for (fs::path& still : files.stills) all.push_back(&still);
  if (!files.captions.empty())
    all.push_back(&files.captions);
  else
    fs::remove(folder / (stem + ".vtt"), error);
  for (fs::path* file : all) {
    const fs::path to = folder / file->filename();
    if (auto moved = FileSystem::real().rename(*file, to); !moved) return moved;
    *file = to;
  }
  return true;
}

}  // namespace

namespace {

// Drawings that are part of the page, as pictures: Qt's rich text shows no others.
void drawFigures(QString& text, int picture_px) {
  constexpr double kShare = 0.5;  // of a still's width
  for (qsizetype at = text.indexOf(QStringLiteral("<svg ")); at >= 0;
       at = text.indexOf(QStringLiteral("<svg "), at + 1)) {
    const QString end = QStringLiteral("</svg>");
    const qsizetype to = text.indexOf(end, at);
    if (to < 0) return;
    QString alone = text.mid(at, to + end.size() - at);
    alone.replace(QStringLiteral("<svg "), QStringLiteral("<svg xmlns='http://www.w3.org/2000/svg' "));
    QSvgRenderer figure(alone.toUtf8());
    const int width = static_cast<int>(kShare * picture_px);
    const QSize size = figure.defaultSize().scaled(2 * width, 4 * width, Qt::KeepAspectRatio);
    QImage image(size, QImage::Format_ARGB32);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    figure.render(&painter);
    painter.end();
    const std::string png = encoded(image, "PNG");
    text.replace(at, to + end.size() - at,
                 QStringLiteral("<img width=%1 src=\"data:image/png;base64,%2\">")
                     .arg(width)
                     .arg(QString::fromStdString(exchange::base64(png))));
  }
}

}  // namespace

std::string asJpeg(const QImage& image) {
  return encoded(image, "JPEG", kPageQuality);
}

std::string printedOnA4(const std::string& html, const QString& title) {
  constexpr double kStillOnPaper = 0.42;
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  {
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setPageMargins(QMarginsF(16, 16, 16, 16), QPageLayout::Millimeter);
    writer.setResolution(150);
    writer.setTitle(title);
    QTextDocument document;
    document.setDefaultFont(QFont(QStringLiteral("Cabin"), 10));
    const QSizeF page = writer.pageLayout().paintRectPixels(writer.resolution()).size();
    document.documentLayout()->setPaintDevice(&writer);
    document.setPageSize(page);
    // Two stills and all words find room on one page. Pixels are counted at 96 to the inch.
    document.setHtml(forPaper(html, static_cast<int>(kStillOnPaper * page.width() * 96 / writer.resolution())));
    document.print(&writer);
  }
  return bytes.toStdString();
}

QString forPaper(const std::string& html, int picture_px) {
  QString text = QString::fromStdString(html);
  // Qt's rich text knows no "width:100%" for pictures.
  text.replace(QStringLiteral("<img "), QStringLiteral("<img width=%1 ").arg(picture_px));
  drawFigures(text, picture_px);
  text.replace(QStringLiteral("<details class=card><summary>"), QStringLiteral("<p><b>"));
  text.replace(QStringLiteral("</summary><div class=fig>"), QStringLiteral("</b></p><div>"));
  const qsizetype from = text.indexOf(QStringLiteral("<style>")), to = text.indexOf(QStringLiteral("</style>"));
  if (from >= 0 && to > from)
    text.replace(
        from, to - from,
        QStringLiteral("<style>body{color:#162a4d;font-size:9.5pt} h1,h2{font-family:Vollkorn;font-style:italic;"
                       "font-weight:normal} h1{font-size:20pt} h2{font-size:13pt;margin-top:9px} "
                       ".say{font-size:13pt;font-weight:bold;margin-bottom:0} td,th{padding:2px 16px 2px 0} "
                       ".meta,.why,th{color:#525e74} .doubt{color:#805205} .small{font-size:8pt;color:#525e74}"));
  for (const auto& [tag, line] :
       {std::pair{"<details><summary>", "<h2>"}, std::pair{"</summary>", "</h2>"}, std::pair{"</details>", ""}})
    text.replace(QLatin1String(tag), QLatin1String(line));
  return text;
}

Result<ReplyFiles> writeReply(const coaching::Analysis& a, const ReplyContent& content, const fs::path& folder,
                              Task& task) {
  std::error_code error;
  fs::create_directories(folder, error);
  if (error)
    return fail(ErrorCode::CannotWrite, "The folder " + folder.string() + " can't be made: " + error.message() + ".",
                "Choose another folder.");
  // Written beside and moved in as a whole: an earlier reply stays until the new one is complete.
  // Named after this program: what one that was killed left is swept when the library is opened next.
  const fs::path unfinished = folder / (".unfinished." + std::to_string(::getpid()));
  fs::remove_all(unfinished, error);
  fs::create_directories(unfinished, error);
  ReplyFiles files;
  auto written = error
                     ? Result<bool>(fail(ErrorCode::CannotWrite,
                                         "Nothing can be written in " + folder.string() + ": " + error.message() + ".",
                                         "Choose another folder."))
                 : content.hide_faces ? writeHidden(a, content, files, unfinished, task)
                                      : writeAll(a, content, files, unfinished, task);
  if (written) written = moveIn(files, folder);
  fs::remove_all(unfinished, error);
  if (!written) return fail(written.error());
  task.report(1);
  return files;
}

}  // namespace jib::drawing
