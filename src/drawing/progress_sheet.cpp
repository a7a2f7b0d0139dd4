// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/progress_sheet.h"

#include "core/base/ascii.h"
#include "core/base/files.h"
#include "core/exchange/intake/prepare.h"
#include "core/exchange/intake/young.h"
#include "core/library/dates.h"
#include "core/library/export.h"
#include "drawing/film_parts.h"
#include "drawing/reply_writer.h"

namespace jib::drawing {
namespace {

// The frame as the reply would show it; empty where its clip or its tracing is gone.
std::string stillOf(library::Library& library, const review::ProgressFrame& of) {
  const auto athlete = library.athlete(of.film.athlete);
  const auto review = library.review(of.film.id);
  const auto stored = library.tracing(of.film.id);
  auto reader = footage::FrameReader::open(library.clipFile(of.film));
  if (!athlete || !review || !stored || stored->empty() || !reader) return {};
  const auto style = exchange::styleOf(library, *athlete);
  const auto book = coaching::CueBook::shipped();
  if (!style || !book) return {};
  auto a = exchange::restored(reader->info(), exchange::requestFor(of.film, *review, athlete->profile), *stored, *style,
                              *book);
  if (!a) return {};
  Stop stop;
  stop.frame = a->motion.frameAt(of.t_s);
  stop.drawing = of.drawing;
  stop.cue = 0;
  if (!reader->seekBefore(stop.frame)) return {};
  const auto frame = reader->next(footage::Pixels::Colour, stop.frame);
  if (!frame || !*frame) return {};
  // What the coach ringed stays hidden; what was drawn for that reply is not drawn here.
  coaching::Sketch rings = review->sketch;
  std::erase_if(rings.shapes, [](const coaching::Shape& s) { return s.kind != coaching::ShapeKind::Blur; });
  const bool hidden = library::hidesFaces(exchange::profileAsKnown(library, *athlete), library::today());
  if (hidden) a->trace.other_faces = otherFacesOn((*frame)->picture, *a, stop.frame);
  ReplyFrame layout(*a, rings, review::FilmShape::Portrait, hidden);
  if (!facesKnown(layout, rings)) return {};
  Canvas canvas;
  canvas.draw(*a, rings, layout, **frame, &stop, {});
  return asJpeg(canvas.still(layout.place()));
}

}  // namespace

Result<ProgressFiles> writeProgress(const std::filesystem::path& library_folder, review::ProgressDraft draft,
                                    const std::filesystem::path& folder, const std::string& today_iso, Task& task) {
  auto library = library::Library::openAgain(library_folder);
  if (!library) return fail(library.error());
  for (std::size_t i = 0; i < draft.frames.size(); ++i) {
    if (task.cancelled()) return cancelled();
    const auto& [then, now] = draft.frames[i];
    if (then) draft.page.steps[i].then_jpeg = stillOf(*library, *then);
    if (now) draft.page.steps[i].now_jpeg = stillOf(*library, *now);
    task.report(static_cast<double>(i + 1) / static_cast<double>(draft.frames.size() + 1));
  }
  if (task.cancelled()) return cancelled();
  if (auto made = makePrivateFolder(folder); !made) return fail(made.error());
  const std::string stem = asciiLower(library::folderNameFor(draft.page.athlete + " progress " + today_iso));
  const std::string html = exchange::progressToHtml(draft.page);
  ProgressFiles files{folder / (stem + ".html"), folder / (stem + ".pdf")};
  if (auto written = writeWhole(FileSystem::real(), files.html, html); !written) return fail(written.error());
  if (auto written = writeWhole(FileSystem::real(), files.pdf, printedOnA4(html, QStringLiteral("Progress"))); !written)
    return fail(written.error());
  return files;
}

}  // namespace jib::drawing
