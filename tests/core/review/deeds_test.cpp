// SPDX-License-Identifier: GPL-3.0-or-later
// Random deeds of a coach, of a second window, of a killer and of a full disk, against a plain model of what must be
// there: nothing lost, nothing twice, and no number on a page that the analysis of that moment did not hold.
// JIB_DEEDS=1000 makes a thousand sequences of the sixty (scripts/deeds).
#include <gtest/gtest.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <map>
#include <random>

#include "core/exchange/intake/importer.h"
#include "core/review/keeper.h"
#include "core/review/return_review.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/no_room.h"

namespace jib::review {
namespace {

namespace fs = std::filesystem;
using library::Library;
using library::SubmissionId;
using tests::must;

// What must be there of one film.
struct Expected {
  std::string greeting;           // kept last
  std::optional<double> load_kg;  // typed last
  bool returned = false;
  std::string asked;  // wording of the cue that went out last
};

// A review as a window holds it.
struct Open {
  std::int64_t row;
  Session session;
  std::shared_ptr<Keeper> keeper;
};

class World {
 public:
  explicit World(unsigned seed) : random_(seed) {
    library_.emplace(must(Library::open(folder_ / "lib")));
    card_.name = "Mara Quill";
    card_.address = "mara@tide.invalid";
    must(library_->setCoach(card_));
  }

  void live(int deeds) {
    for (int i = 0; i < deeds; ++i) {
      switch (pick(11)) {
        case 0:
        case 1:
          import();
          break;
        case 2:
          open();
          break;
        case 3:
          type();
          break;
        case 4:
          drag();
          break;
        case 5:
          load();
          break;
        case 6:
          undo();
          break;
        case 7:
          reply();
          break;
        case 8:
          remove();
          break;
        case 9:
          killed();
          break;
        case 10:
          fullDisk();
          break;
      }
      if (testing::Test::HasFailure()) return;
    }
    check();
  }

 private:
  int pick(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
  std::string words() { return "words " + std::to_string(++words_); }
  std::optional<std::int64_t> anyRow() {
    if (expected_.empty()) return std::nullopt;
    auto it = expected_.begin();
    std::advance(it, pick(static_cast<int>(expected_.size())));
    return it->first;
  }
  Open* anyOpen() {
    return windows_.empty() ? nullptr : &windows_[static_cast<std::size_t>(pick(static_cast<int>(windows_.size())))];
  }

  std::int64_t rowOf(const std::string& hash) {
    for (const auto& s : must(library_->submissions()))
      if (s.clip_hash == hash) return s.id.number;
    return 0;
  }

  // One of eight films, some of them more than once.
  void import() {
    const std::string name = "film" + std::to_string(pick(8)) + ".mp4";
    const fs::path film = folder_.write(name, "film " + name);
    const std::int64_t before = rowOf(must(contentHash(film)));
    must(exchange::receive(*library_, film, "2026-05-04", task_));
    const std::int64_t row = rowOf(must(contentHash(film)));
    ASSERT_NE(row, 0) << name << " was lost";
    if (before == 0) expected_[row] = {};
  }

  void open() {
    const auto row = anyRow();
    if (!row) return;
    auto s = must(library_->submission(SubmissionId(*row)));
    s.lift = "squat";
    s.variant = "low-bar";
    auto keeper = std::make_shared<Keeper>(SubmissionId(*row));
    keeper->begin(must(library_->reviewNumber(SubmissionId(*row))));
    Session session(must(library_->athlete(s.athlete)), s, must(library_->review(SubmissionId(*row))),
                    must(coaching::shippedStyle("balanced")), must(coaching::CueBook::shipped()));
    session.adopt(tests::smallAnalysis());
    windows_.push_back({*row, std::move(session), std::move(keeper)});
    if (windows_.size() > 3) windows_.erase(windows_.begin());
  }

  // As the window does after an edit. What another window kept in between is never written over.
  void keep(Open& w) {
    const bool there = expected_.count(w.row) > 0;
    const bool current = there && must(library_->reviewNumber(SubmissionId(w.row))) == w.keeper->number();
    const auto kept = w.keeper->keep(*library_, w.session.review(), w.session.revision());
    ASSERT_EQ(kept.has_value(), current) << (kept ? "written over another window's words" : kept.error().sentence());
    if (kept) expected_[w.row].greeting = w.session.choice().greeting;
  }

  void type() {
    Open* w = anyOpen();
    if (!w) return;
    CueChoice choice = w->session.choice();
    choice.chosen = true;
    choice.greeting = words();
    coaching::Cue cue = coaching::ownCue(1.0);
    cue.title = "Depth";
    cue.wording = words();
    choice.cues = {cue};
    for (const auto& f : w->session.analysis()->findings)
      if (const auto* entry = w->session.book().entry(f.id); entry && f.kind) {
        choice.cues.push_back(coaching::cueFor(f, *entry, w->session.style()));
        break;
      }
    choice.change_nothing = false;
    undo_ = w->session.exchange(choice);
    keep(*w);
  }

  void undo() {
    Open* w = anyOpen();
    if (!w || !undo_) return;
    w->session.exchange(*undo_);
    keep(*w);
  }

  void drag() {
    Open* w = anyOpen();
    if (!w) return;
    const auto& a = *w->session.analysis();
    const double t = a.reps.front().bottom_t();
    const auto hip = a.trace.place(a.motion.frameAt(t), tracing::Landmark::Hip);
    ASSERT_TRUE(hip);
    w->session.exchange(PinValues{{{t, tracing::Landmark::Hip}, *hip + PixelPoint{pick(9) - 4.0, pick(9) - 4.0}}});
    keep(*w);
  }

  void load() {
    const auto row = anyRow();
    if (!row) return;
    const double kg = 60 + pick(100);
    must(library_->edit(SubmissionId(*row), [&](library::Submission& s) { s.load_kg = kg; }));
    expected_[*row].load_kg = kg;
  }

  ReplyDraft draftOf(Open& w) {
    Surroundings around;
    around.coach = card_;
    around.to_address = "ida@tide.invalid";
    around.today = "2026-05-06";
    return must(review::draftOf(w.session, around, must(exchange::LetterBook::forLibrary(library_->folder()))));
  }

  void holdsItsNumbers(const ReplyDraft& draft) {
    for (const auto& cue : draft.content.cues) {
      if (cue.own || !cue.known) continue;
      const auto f = std::find_if(draft.analysis->findings.begin(), draft.analysis->findings.end(),
                                  [&](const auto& one) { return one.id == cue.finding; });
      ASSERT_NE(f, draft.analysis->findings.end());
      EXPECT_EQ(cue.value, f->worst.value);
      EXPECT_EQ(cue.sigma, f->worst.sigma);
    }
  }

  void reply() {
    Open* w = anyOpen();
    if (!w) return;
    const ReplyDraft draft = draftOf(*w);
    holdsItsNumbers(draft);
    const std::string asked = draft.content.cues.empty() ? std::string() : draft.content.cues[0].wording;
    if (pick(2) == 0) type();  // while the film is written
    const bool there = expected_.count(w->row) > 0;
    const bool current = there && must(library_->reviewNumber(SubmissionId(w->row))) == w->keeper->number();
    const auto letter = post(*library_, draft, w->keeper->number(), {folder_.write("reply.mp4", "reply")});
    ASSERT_EQ(letter.has_value(), current) << (letter ? "" : letter.error().sentence());
    if (!letter) return;
    expected_[w->row].returned = true;
    expected_[w->row].asked = asked;
  }

  void remove() {
    const auto row = anyRow();
    if (!row || pick(3) > 0) return;
    must(library_->remove(must(library_->removalOf(SubmissionId(*row)))));
    expected_.erase(*row);
  }

  // Another program at the same library, killed at any moment: what it did has happened whole or not at all.
  void killed() {
    const std::string name = "film" + std::to_string(8 + pick(4)) + ".mp4";
    const fs::path film = folder_.write(name, "film " + name);
    const std::string hash = must(contentHash(film));
    const bool known = rowOf(hash) != 0;
    tried_.insert(film);
    library_.reset();  // no connection is shared with a child
    const pid_t child = ::fork();
    if (child == 0) {
      auto other = Library::open(folder_ / "lib");
      Task task;
      if (other) (void)exchange::receive(*other, film, "2026-05-04", task).has_value();
      ::_exit(0);
    }
    ::usleep(static_cast<useconds_t>(pick(30) * 1000));
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
    library_.emplace(must(Library::open(folder_ / "lib")));
    const std::int64_t row = rowOf(hash);
    if (!known && row != 0) expected_[row] = {};
    ASSERT_TRUE(!known || row != 0);
  }

  // Nothing more fits: what was asked for happens later, whole.
  void fullDisk() {
    const std::string name = "film" + std::to_string(12 + pick(4)) + ".mp4";
    const fs::path film = folder_.write(name, "film " + name + std::string(40000, 'x'));
    const std::string hash = must(contentHash(film));
    const bool known = rowOf(hash) != 0;
    tried_.insert(film);
    {
      const tests::NoRoom room(static_cast<rlim_t>(8192 * pick(4)));
      (void)exchange::receive(*library_, film, "2026-05-04", task_).has_value();
      if (Open* w = anyOpen(); w && pick(2) == 0)
        (void)w->keeper->keep(*library_, w->session.review(), w->session.revision()).has_value();
    }
    const std::int64_t row = rowOf(hash);
    if (!known && row != 0) expected_[row] = {};
    // A window whose save failed or went through: what is kept is what it says now, or what was there.
    for (auto& [id, e] : expected_) e.greeting = must(library_->review(SubmissionId(id))).greeting;
  }

  void check() {
    library_.reset();
    library_.emplace(must(Library::open(folder_ / "lib")));
    // What a killed or crowded import left of a film is nothing until it is taken in again, and then all of it.
    for (const fs::path& film : tried_) {
      const std::string hash = must(contentHash(film));
      if (rowOf(hash) != 0) continue;
      must(exchange::receive(*library_, film, "2026-05-04", task_));
      expected_[rowOf(hash)] = {};
    }
    EXPECT_EQ(must(library_->check()), std::vector<std::string>{});
    const auto rows = must(library_->submissions());
    EXPECT_EQ(rows.size(), expected_.size());
    std::map<std::string, int> films;
    for (const auto& row : rows) {
      ASSERT_TRUE(expected_.count(row.id.number)) << "a row that nobody made";
      const Expected& e = expected_[row.id.number];
      EXPECT_EQ(++films[row.clip_hash], 1) << row.clip_name << " is there twice";
      EXPECT_EQ(must(library_->review(row.id)).greeting, e.greeting);
      EXPECT_EQ(row.load_kg, e.load_kg);
      EXPECT_EQ(row.state == library::SubmissionState::Returned, e.returned);
      std::vector<std::string> asked;
      for (const auto& t : must(library_->threads(row.athlete)))
        if (t.asked_in == row.id) asked.push_back(t.wording);
      EXPECT_EQ(std::count(asked.begin(), asked.end(), e.asked), e.returned && !e.asked.empty() ? 1 : 0);
    }
    std::map<std::int64_t, int> letters;
    std::set<std::string> listed;
    for (const auto& o : must(library_->outgoing())) {
      EXPECT_TRUE(fs::exists(library_->outgoingFile(o)));
      listed.insert(o.file);
      EXPECT_LE(o.submission ? ++letters[o.submission->number] : 0, 1) << "two letters wait for one film";
    }
    std::error_code error;
    for (const auto& file : fs::directory_iterator(folder_ / "lib/outbox", error))
      EXPECT_TRUE(listed.count(file.path().filename().string())) << file.path() << " is in no list";
  }

  tests::ScratchFolder folder_;
  std::optional<Library> library_;
  library::CoachCard card_;
  std::mt19937 random_;
  Task task_;
  std::map<std::int64_t, Expected> expected_;
  std::vector<Open> windows_;
  std::set<fs::path> tried_;
  std::optional<CueChoice> undo_;
  int words_ = 0;
};

TEST(Deeds, InAnyOrderLoseNothingDoubleNothingAndShowNoOldNumber) {
  const char* asked = std::getenv("JIB_DEEDS");
  const int sequences = asked ? std::atoi(asked) : 60;
  for (int seed = 1; seed <= sequences; ++seed) {
    SCOPED_TRACE("seed " + std::to_string(seed));
    World world(static_cast<unsigned>(seed));
    world.live(14);
    if (HasFailure()) return;
  }
}

}  // namespace
}  // namespace jib::review
