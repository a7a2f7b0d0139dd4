// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/falling_due.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "core/library/dates.h"

namespace jib::library {
namespace {

constexpr double kDaysAMonth = 365.25 / 12;

// Why a film need not be kept any longer; empty: nothing says so.
std::string whyDue(const Submission& s, const Athlete& of, const CoachCard& coach, const std::string& today) {
  const std::string& until = of.profile.consent.until;
  if (!until.empty() && until < today) return fmt::format("Consent ran out on {}.", spoken(until));
  const auto days = daysBetween(s.received_on, today);
  if (coach.keep_films_months <= 0 || !days || *days <= coach.keep_films_months * kDaysAMonth) return {};
  return fmt::format("{:.0f} months old; you keep clips for {}.", *days / kDaysAMonth, coach.keep_films_months);
}

}  // namespace

Result<std::vector<DueFilm>> filmsDue(Library& library, const std::string& today) {
  auto people = library.athletes();
  if (!people) return fail(people.error());
  auto coach = library.coach();
  if (!coach) return fail(coach.error());
  const bool ran_out = std::any_of(people->begin(), people->end(), [&](const Athlete& a) {
    return !a.profile.consent.until.empty() && a.profile.consent.until < today;
  });
  if (coach->keep_films_months <= 0 && !ran_out) return std::vector<DueFilm>{};
  auto all = library.submissions();
  if (!all) return fail(all.error());
  std::map<AthleteId, const Athlete*> known;
  for (const Athlete& a : *people) known[a.id] = &a;
  std::vector<DueFilm> due;
  std::vector<SubmissionId> ids;
  for (Submission& s : *all) {
    const auto of = known.find(s.athlete);
    if (s.clip_hash.empty() || of == known.end() || today < s.details.keep_film_until) continue;
    std::string why = whyDue(s, *of->second, *coach, today);
    if (why.empty()) continue;
    ids.push_back(s.id);
    due.push_back({std::move(s), of->second->name, std::move(why)});
  }
  if (due.empty()) return due;
  auto can = library.filmRemovalOf(ids);
  if (!can) return fail(can.error());
  std::erase_if(due, [&](const DueFilm& d) {
    return std::find(can->submissions.begin(), can->submissions.end(), d.film.id) == can->submissions.end();
  });
  std::stable_sort(due.begin(), due.end(),
                   [](const DueFilm& a, const DueFilm& b) { return a.film.received_on < b.film.received_on; });
  return due;
}

std::string filmGone(const Submission& s) {
  return fmt::format("This clip was deleted on {}. Its numbers, cues and your notes are still on the athlete's page.",
                     spoken(s.details.film_gone_on));
}

Result<bool> keepLonger(Library& library, const std::vector<SubmissionId>& ids, const std::string& today) {
  const std::string until = daysLater(today, kLonger_days);
  for (const SubmissionId id : ids)
    if (auto kept = library.edit(id, [&](Submission& s) { s.details.keep_film_until = until; }); !kept)
      return fail(kept.error());
  return true;
}

std::uintmax_t sizeOf(const Library::Removal& removal) {
  std::uintmax_t bytes = 0;
  const auto add = [&](const std::filesystem::path& file) {
    std::error_code error;
    if (const auto size = std::filesystem::file_size(file, error); !error) bytes += size;
  };
  for (const auto& file : removal.files) {
    std::error_code error;
    if (!std::filesystem::is_directory(file, error)) {
      add(file);
      continue;
    }
    for (const auto& inner : std::filesystem::recursive_directory_iterator(file, error))
      if (inner.is_regular_file(error)) add(inner.path());
  }
  return bytes;
}

}  // namespace jib::library
