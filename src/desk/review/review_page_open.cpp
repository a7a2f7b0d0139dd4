// SPDX-License-Identifier: GPL-3.0-or-later
// How a clip is opened: looked at first where nobody has, traced, or told why it cannot be. What is done with it then
// is in review_page.cpp.
#include "desk/review/review_page.h"

#include <QAction>
#include <QComboBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QSettings>
#include <QTabWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/base/angle.h"
#include "core/coaching/two_films.h"
#include "core/exchange/intake/prepare.h"
#include "core/library/dates.h"
#include "core/library/follow_up.h"
#include "core/review/trimmed.h"
#include "core/tracing/trace_store.h"
#include "desk/library_page/lift_card.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/commands/place_point.h"
#include "desk/review/cue_panel.h"
#include "desk/review/findings_panel.h"
#include "desk/review/frame_source.h"
#include "desk/review/ghost_figure.h"
#include "desk/review/history_panel.h"
#include "desk/review/key_list.h"
#include "desk/review/other_view.h"
#include "desk/review/placing_guide.h"
#include "desk/review/plots.h"
#include "desk/review/scrubber.h"
#include "desk/review/set_films.h"
#include "desk/review/stage.h"
#include "desk/review/transport.h"
#include "desk/text.h"
#include "desk/theme.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

// What a tracing job needs, by value.
struct TraceInput {
  std::filesystem::path clip;
  coaching::AnalysisRequest request;
  coaching::Style style;
  coaching::CueBook book;
  tracing::KnownTrace known;
};

Result<coaching::Analysis> traced(const TraceInput& in, Task& task) {
  auto reader = footage::FrameReader::open(in.clip);
  if (!reader) return fail(reader.error());
  return coaching::analyse(*reader, in.request, in.style, in.book, task, in.known);
}

std::vector<double> barPinsOf(const std::vector<tracing::PlacedFrame>& placed) {
  std::vector<double> pins;
  for (const auto& p : placed)
    if (const auto& bar = p.points[tracing::at(tracing::Landmark::Bar)])
      pins.insert(pins.end(), {p.t_s, bar->x, bar->y});
  return pins;
}

}  // namespace

void ReviewPage::openClip() {
  frames_ = std::make_unique<FrameSource>(document_->clip());
  connect(frames_.get(), &FrameSource::frameReady, this,
          [this](std::size_t frame, const QImage& picture) { stage_->showFrame(frame, picture); });
  connect(frames_.get(), &FrameSource::failed, this, [this](const QString& sentence) { stage_->setMessage(sentence); });
  connect(frames_.get(), &FrameSource::opened, this,
          [this](const std::shared_ptr<const footage::ClipInfo>& info) { clipOpened(*info); });
  frames_->request(0);
  films_->open();
  other_->setVisible(!films_->empty());
  const auto state = document_->submission().state;
  const bool fresh = state != library::SubmissionState::Returned && !document_->looked() && !document_->chosen();
  if (fresh && QSettings().value(QStringLiteral("firstLook"), false).toBool()) startFirstLook();
  history_->setThreads(earlierThreads());
  bar_pins_ = barPinsOf(document_->placed());
  auto stored = library_.tracing(document_->submission().id);
  // Nobody has looked yet: that tells which lift it is, and whether the clip can be used at all.
  if (stored && stored->empty() && !storedCheck()) return lookFirst();
  openTraced();
}

// Read through by the thread that decodes it. The clip can be played while it is being traced.
void ReviewPage::clipOpened(const footage::ClipInfo& info) {
  clip_info_ = info;
  upright_ = info.upright;
  as_it_came_ = info.as_it_came;
  if (!document_->analysis()) {
    player_.setTimes(info.times_s);
    scrubber_->setDuration(info.times_s.front(), info.times_s.back());
    playTrimmed();
  }
  if (watch_once_opened_) watchOnly(*std::exchange(watch_once_opened_, std::nullopt));
}

void ReviewPage::playTrimmed() {
  const auto a = document_->analysis();
  const auto& times = a ? a->motion.times_s : clip_info_ ? clip_info_->times_s : std::vector<double>();
  if (times.size() < 2) return;
  const double frame_s = (times.back() - times.front()) / static_cast<double>(times.size() - 1);
  const auto [from, to] =
      review::trimmed(document_->submission().details.left_out, times.front(), times.back(), frame_s);
  player_.setSpan(from, to);
}

// Which lift it shows allows it to be measured.
bool ReviewPage::judges() {
  const auto check = storedCheck();
  return exchange::liftOf(document_->submission(), check ? &*check : nullptr).judge &&
         (!check || check->failed.empty());
}

void ReviewPage::showNotJudged() {
  const auto check = storedCheck();
  const auto decision = exchange::liftOf(document_->submission(), check ? &*check : nullptr);
  const QString why = check && !check->failed.empty() ? q(check->failed) : q(decision.reason);
  stage_->setMessage(check && !check->failed.empty() ? why : QString());
  cues_->setPlaceholder(why);
  findings_->setPlaceholder(why);
  why_not_->setText(why);
  why_not_->show();
  auto* card = new LiftCard(document_->submission(), check);
  lift_place_->addWidget(card);
  connect(card, &LiftCard::chosen, this, [this](const QString& lift, const QString& variant) {
    const auto s = library_.edit(document_->submission().id, [&](library::Submission& row) {
      row.lift = lift.toStdString();
      row.variant = variant.toStdString();
      row.details.lift_by = library::ToldBy::Coach;
      row.details.lift_confirmed = true;
    });
    if (!s) return notKept(s.error());
    if (auto gone = library_.forgetCheck(s->clip_hash); !gone) return say(q(gone.error().sentence()), true);
    emit reopenRequested(s->id.number);
  });
  if (check && !check->failed.empty()) {
    // No frame of it can be shown: only words are left.
    reply_->setText(tr("Answer by letter…"));
    reply_->setToolTip(tr("Write to the athlete in your own words (Ctrl+Return)"));
    reply_->disconnect();
    connect(reply_, &QPushButton::clicked, this, [this] { emit answerRequested(document_->submission().id.number); });
    reply_->setEnabled(true);
    to_folder_->hide();
    then_next_button_->hide();
    preview_->hide();
    place_->hide();
    plots_->hide();
    return say(why, true);
  }
  watchOnly(why);
  say(tr("Nothing is measured here. Mark what you see (M), draw (D) and add your own cue (N)."), false);
}

void ReviewPage::lookFirst() {
  const auto folder = library_.folder();
  const auto id = document_->submission().id;
  jobs_.start<coaching::ClipCheck>(
      tr("Looking at the clip…"),
      [folder, id](Task& task) -> Result<coaching::ClipCheck> {
        auto library = library::Library::openAgain(folder);
        if (!library) return fail(library.error());
        return exchange::prepare(*library, id, task);
      },
      [this](Result<coaching::ClipCheck> check) {
        if (!check) {
          if (check.error().code != ErrorCode::Cancelled) say(q(check.error().sentence()), true);
          return;
        }
        if (auto s = library_.submission(document_->submission().id)) document_->learn(*s);
        refreshMeta();
        openTraced();
      });
}

void ReviewPage::openTraced() {
  if (!judges()) return showNotJudged();
  auto stored = library_.tracing(document_->submission().id);
  if (!stored || stored->empty()) return traceBar();
  const TraceInput in{document_->clip(), document_->request(), document_->style(), document_->book(), {}};
  jobs_.start<coaching::Analysis>(
      tr("Opening the tracking…"),
      [in, json = std::move(*stored)](Task&) -> Result<coaching::Analysis> {
        auto reader = footage::FrameReader::open(in.clip, footage::Workers::One);
        if (!reader) return fail(reader.error());
        return exchange::restored(reader->info(), in.request, json, in.style, in.book);
      },
      [this](Result<coaching::Analysis> again) {
        if (given_up_) return;
        if (!again) {
          say(q(again.error().sentence()), true);
          return traceBar();
        }
        analysisArrived(std::move(again), false);
        looked_for_set_.reset();  // the loads told since may make another set the top one
        traceSetIfMissing();
      });
}

void ReviewPage::traceBar() {
  const TraceInput in{document_->clip(), document_->request(), document_->style(), document_->book(), {}};
  jobs_.start<coaching::Analysis>(
      tr("Tracking bar and body…"), [in](Task& task) { return traced(in, task); },
      [this](Result<coaching::Analysis> r) { analysisArrived(std::move(r)); });
}

void ReviewPage::traceAgainIfBarMoved() {
  auto pins = barPinsOf(document_->placed());
  if (pins == bar_pins_) return;
  bar_pins_ = std::move(pins);
  stage_->setPlacing(std::nullopt);
  traceBar();
}

// Another set of the clip was chosen: its body is looked for once.
void ReviewPage::traceSetIfMissing() {
  const auto a = document_->analysis();
  if (!a || a->set == looked_for_set_ || !coaching::bodyMissingAt(*a)) return;
  looked_for_set_ = a->set;
  traceBody();
}

void ReviewPage::askForPlate() {
  stage_->setPlacing(tracing::Landmark::Bar);
  stage_->setMessage(tr("Go to a frame that shows the near plate well and click its center."));
}

void ReviewPage::traceBody() {
  const TraceInput in{document_->clip(), document_->request(), document_->style(), document_->book(),
                      document_->analysis()->trace.known()};
  jobs_.start<coaching::Analysis>(
      tr("Following the body through the clip…"), [in](Task& task) { return traced(in, task); },
      [this](Result<coaching::Analysis> r) { analysisArrived(std::move(r)); });
}

// The trace and what was found, off the window's thread: a trace is megabytes. A clip that was merely opened again has
// its trace kept already.
void ReviewPage::keepAnalysis(std::shared_ptr<const coaching::Analysis> a, bool fresh) {
  keeping_.start<bool>(
      {},
      [a, fresh, id = document_->submission().id, folder = library_.folder()](Task&) -> Result<bool> {
        auto library = library::Library::openAgain(folder);
        if (!library) return fail(library.error());
        if (fresh)
          if (auto kept = library->saveTracing(id, tracing::traceToJson(a->trace).dump()); !kept) return kept;
        return library->saveResults(id, *a);
      },
      [this](Result<bool> kept) {
        if (!kept && !given_up_) say(q(kept.error().sentence()), true);
      });
}

void ReviewPage::analysisArrived(Result<coaching::Analysis> result, bool fresh) {
  if (given_up_) return;
  if (!result) {
    if (result.error().code == ErrorCode::Cancelled) return;
    const bool no_lift = result.error().code == ErrorCode::NoLiftFound;
    if (no_lift && filmedAcross()) return;
    if (document_->analysis() && document_->analysis()->isTraced()) return say(q(result.error().sentence()), true);
    watchOnly(q(result.error().what));
    place_->setText(tr("Click the plate"));
    place_->setVisible(no_lift);
    say(q(result.error().sentence()) +
            tr(" Someone else in the picture? Point at the lifter (Ctrl+L). Or review by eye: mark what you see (M), "
               "draw (D), and say it in your own words (N)."),
        true);
    return;
  }
  place_->setVisible(!result->trace.front);
  for (QAction* line : lines_menu_->actions())
    if (line->property("ofSideView").toBool()) line->setVisible(!result->trace.front);
  const bool first = !document_->analysis() || !document_->analysis()->isTraced();
  looked_for_set_ = result->set;
  document_->setAnalysis(std::move(*result));
  const auto a = document_->analysis();
  keepAnalysis(a, fresh);
  showWhatShowedBefore();
  showClaims();
  player_.setTimes(a->motion.times_s);
  playTrimmed();
  scrubber_->setDuration(a->motion.times_s.front(), a->motion.times_s.back());
  plots_->setSpan(a->motion.times_s.front(), a->motion.times_s.back());
  if (first && !first_look_) {
    player_.goTo(
        start_at_            ? *start_at_
        : stored_head_s_ > 0 ? stored_head_s_
        : (a->trace.body || a->trace.front) && !a->reps.empty()
            ? a->reps.front().bottom_t()
            : a->motion.times_s[tracing::quietFrame(*a->trace.bar, std::nullopt, document_->lift().body.starts_low)]);
    restoreDesk();
  }
  transport_->loopHere();
  refreshReply();
  const bool placed = a->trace.body && a->trace.body->knowsPlacedFrame();
  films_->judge();
  say(a->trace.front ? tr("Tracked %1: %2. Does writing in it read backward? Ctrl+T mirrors it.")
                           .arg(q(coaching::filmedFrom(*a)), q(document_->lift().across_shows))
      : placed        ? tr("Tracked. Drag any point that is off; the numbers follow.")
      : a->trace.body ? tr("Tracked automatically. Drag any point that is off, or place all six once (P) to make the "
                           "numbers more accurate.")
                      : tr("The bar is tracked. Place the points once to measure the rest (P)."),
      false);
  emit ready();
}

std::optional<coaching::ClipCheck> ReviewPage::storedCheck() {
  auto json = library_.checkOf(document_->submission().clip_hash);
  if (!json || json->empty()) return std::nullopt;
  auto check = coaching::checkFromJson(*json);
  return check ? std::optional(std::move(*check)) : std::nullopt;
}

// Where both sides are seen no plate is round: that is no fault of the clip, and there is nothing to click.
bool ReviewPage::filmedAcross() {
  const auto check = storedCheck();
  if (!check || !tracing::facingNamed(check->view)) return false;
  findings_->setClaims(check->claims);
  const QString view = q(coaching::filmedFrom(check->view, document_->lift()));
  watchOnly(tr("Filmed %1: hands, hips and feet can't all be made out, so nothing is measured.").arg(view));
  say(other_view_->isOpen()
          ? tr("Filmed %1: check it by eye. The set is measured in its other clip; O shows both.").arg(view)
          : tr("Filmed %1: check it by eye. Mark what you see (M), draw (D), add a cue (N), or pair it with a "
               "side view of the same set in the queue.")
                .arg(view),
      false);
  return true;
}

void ReviewPage::showClaims() {
  const auto a = document_->analysis();
  auto check = storedCheck();
  if (!check) {
    // Opened before the background came to it: the tracing itself tells most.
    tracing::FirstLook look;
    coaching::lookAgain(look, a.get());
    look.feet_in_picture = !a->trace.body || a->trace.body->feet_seen;
    check = coaching::checkClip(a->clip, look, a->request.lift, a.get(), {});
  }
  findings_->setClaims(films_->openClaims(std::move(check->claims)));
}

}  // namespace jib::desk
