// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/transport.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

namespace jib::desk {

Transport::Transport(const ReviewDocument& document, Player& player, QWidget* parent)
    : QWidget(parent), document_(document), player_(player) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(4);
  play_ = new QToolButton;
  play_->setObjectName(QStringLiteral("play"));
  play_->setText(tr("▶ Play"));
  play_->setToolTip(tr("Play or pause (Space); backward (Z)"));
  connect(play_, &QToolButton::clicked, &player_, &Player::toggle);
  connect(&player_, &Player::playingChanged, this, [this](bool on) {
    play_->setText(on ? tr("❚❚ Pause") : player_.backward() ? tr("◀ Play") : tr("▶ Play"));
  });
  row->addWidget(play_);
  speed_ = new QComboBox;
  speed_->setObjectName(QStringLiteral("speed"));
  speed_->setToolTip(tr("Speed (S cycles)"));
  for (double v : {1.0, 0.5, 0.25, 0.1}) speed_->addItem(tr("%1 ×").arg(v), v);
  connect(speed_, &QComboBox::currentIndexChanged, this,
          [this] { player_.setSpeed(speed_->currentData().toDouble()); });
  row->addWidget(speed_);
  loop_button_ = new QToolButton;
  loop_button_->setObjectName(QStringLiteral("loop"));
  loop_button_->setCheckable(true);
  loop_button_->setToolTip(tr("Loop the rep, the set or the whole clip, or play straight through (L)"));
  connect(loop_button_, &QToolButton::clicked, this, &Transport::nextLoop);
  row->addWidget(loop_button_);
  setLoop(LoopKind::Rep);
}

void Transport::nextLoop() {
  setLoop(static_cast<LoopKind>((static_cast<int>(loop_) + 1) % 4));
}

void Transport::nextSpeed() {
  speed_->setCurrentIndex((speed_->currentIndex() + 1) % speed_->count());
}

void Transport::setLoop(LoopKind kind) {
  loop_ = kind;
  const QString names[] = {tr("⟳ Rep"), tr("⟳ Set"), tr("⟳ Clip"), tr("⟳ Off")};
  loop_button_->setText(names[static_cast<int>(kind)]);
  loop_button_->setChecked(kind != LoopKind::Off);
  loopHere();
}

void Transport::loopHere() {
  constexpr double kBreath_s = 0.3;
  const auto a = document_.analysis();
  player_.setLoop(0, 0);
  if (loop_ == LoopKind::Clip) player_.setLoop(player_.firstTime(), player_.lastTime());
  if (!a || a->reps.empty()) return;
  if (loop_ == LoopKind::Set)
    player_.setLoop(a->reps.front().start_t() - kBreath_s, a->reps.back().end_t() + kBreath_s);
  if (loop_ != LoopKind::Rep) return;
  for (const auto& rep : a->reps)
    if (player_.time() >= rep.start_t() - 2 * kBreath_s && player_.time() <= rep.end_t() + kBreath_s + 0.1)
      return player_.setLoop(rep.start_t() - kBreath_s, rep.end_t() + kBreath_s);
}

bool Transport::jumpTo(std::vector<double> times_s, int direction) {
  constexpr double kHere_s = 0.02;
  std::sort(times_s.begin(), times_s.end());
  if (direction < 0) std::reverse(times_s.begin(), times_s.end());
  for (double t : times_s)
    if (direction * (t - player_.time()) > kHere_s) {
      player_.goTo(t);
      loopHere();
      return true;
    }
  return false;
}

void Transport::jumpEvent(int direction) {
  const auto a = document_.analysis();
  if (!a) return;
  std::vector<double> events;
  for (const auto& r : a->reps)
    for (const auto& e : r.events)
      if (!document_.lift().titleOf(e.kind).empty()) events.push_back(e.t_s);
  if (jumpTo(std::move(events), direction)) player_.pause();
}

void Transport::jumpMoment(motion::EventKind kind) {
  constexpr double kHere_s = 0.02;
  const auto a = document_.analysis();
  if (!a) return;
  const double now = player_.time();
  std::optional<double> first, next, here;
  std::vector<motion::Rep> all = a->reps;
  all.insert(all.end(), a->misses.begin(), a->misses.end());
  for (const auto& r : all) {
    const auto t = r.when(kind);
    if (!t) continue;
    if (!first || *t < *first) first = t;
    if (*t > now + kHere_s && (!next || *t < *next)) next = t;
    const bool at_hand = now >= std::min(r.start_t(), *t) - kHere_s && now <= r.end_t() + kHere_s;
    if (at_hand && std::abs(*t - now) > kHere_s) here = t;
  }
  const auto to = here ? here : next ? next : first;
  if (!to) return;
  player_.goTo(*to);
  loopHere();
  player_.pause();
}

void Transport::jumpRep(int direction) {
  const auto a = document_.analysis();
  if (!a) return;
  std::vector<double> starts;
  for (const auto& r : a->reps) starts.push_back(r.start_t());
  jumpTo(std::move(starts), direction);
}

}  // namespace jib::desk
