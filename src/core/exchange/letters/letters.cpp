// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/letters.h"

#include <fmt/format.h>

#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::exchange {
namespace {

constexpr const char* kLetters[] = {"receipt",    "missing_film", "ask",      "referral",
                                    "film_again", "blank",        "progress", "reply"};

void put(std::string& text, std::string_view key, const std::string& value) {
  const std::string mark = fmt::format("{{{}}}", key);
  // Only what stood in the template: words put in may hold braces of their own.
  for (std::size_t at = text.find(mark); at != std::string::npos; at = text.find(mark, at + value.size()))
    text.replace(at, mark.size(), value);
}

std::string hiTo(std::string_view first_name) {
  return first_name.empty() ? "Hi," : fmt::format("Hi {},", first_name);
}

std::string bulleted(const std::vector<std::string>& lines) {
  std::string all;
  for (const auto& line : lines) all += (all.empty() ? "- " : "\n- ") + line;
  return all;
}

}  // namespace

std::string firstNameOf(std::string_view name) {
  return std::string(name.substr(0, name.find(' ')));
}

Mail addressed(const library::CoachCard& from, std::string to, Letter letter) {
  Mail mail;
  mail.from_name = from.name;
  mail.from_address = from.address;
  mail.to_address = std::move(to);
  mail.subject = std::move(letter.subject);
  mail.text = std::move(letter.text);
  return mail;
}

Result<LetterBook> LetterBook::load(const std::filesystem::path& file) {
  LetterBook book;
  auto read = coaching::readToml(file, [&](const toml::table& root, const std::string& name) {
    for (const char* key : kLetters) {
      const auto* table = root[key].as_table();
      if (!table) throw coaching::TomlTrouble{fmt::format("{}: the letter [{}] is missing", name, key)};
      coaching::TomlTable letter(*table, name);
      book.letters_[key] = {letter.text("subject"), letter.text("text")};
      letter.refuseUnknown();
    }
  });
  if (!read) return fail(read.error());
  return book;
}

Result<LetterBook> LetterBook::forLibrary(const std::filesystem::path& folder) {
  const auto own = folder / "letters.toml";
  std::error_code ignored;
  return load(std::filesystem::exists(own, ignored) ? own : resource("letters.toml"));
}

Letter LetterBook::filled(const char* name, const std::string& hi, const Words& words) const {
  const auto it = letters_.find(name);
  Letter letter = it == letters_.end() ? Letter{} : it->second;
  for (std::string* text : {&letter.subject, &letter.text}) {
    put(*text, "hi", hi);
    put(*text, "coach", coach_);
    for (const auto& [key, value] : words) put(*text, key, value);
  }
  // What a mark left empty leaves no gap.
  for (std::size_t gap; (gap = letter.text.find("\n\n\n")) != std::string::npos;) letter.text.erase(gap, 1);
  while (!letter.text.empty() && letter.text.front() == '\n') letter.text.erase(0, 1);
  while (!letter.text.empty() && letter.text.back() == '\n') letter.text.pop_back();
  letter.text += '\n';
  return letter;
}

LetterBook& LetterBook::signedBy(std::string coach) {
  coach_ = std::move(coach);
  return *this;
}

bool greets(std::string_view words, std::string_view first_name) {
  const std::string_view first = words.substr(0, std::min(words.find_first_of(".!\n"), std::size_t{60}));
  if (!first_name.empty() && first.find(first_name) != std::string_view::npos) return true;
  for (std::string_view hello : {"Hi", "Hello", "Hey", "Dear", "Good morning", "Good evening"})
    if (first.starts_with(hello)) return true;
  return false;
}

Letter LetterBook::receipt(std::string_view first_name) const {
  return filled("receipt", hiTo(first_name), {});
}

Letter LetterBook::missingFilm(std::string_view first_name, std::string_view reason) const {
  return filled("missing_film", hiTo(first_name),
                {{"reason", std::string(reason.substr(0, reason.find_last_not_of(". ") + 1))}});
}

Letter LetterBook::askFor(std::string_view first_name, const std::vector<std::string>& titles) const {
  return filled("ask", hiTo(first_name), {{"wanted", bulleted(titles)}});
}

Letter LetterBook::referral(std::string_view first_name, bool minor) const {
  return filled(
      "referral", hiTo(first_name),
      {{"guardian",
        minor ? "Since you're under 18, please show this to a parent or guardian and have them come along." : ""}});
}

Letter LetterBook::blank(std::string_view first_name, std::string_view about) const {
  return filled("blank", hiTo(first_name), {{"about", std::string(about)}});
}

Letter LetterBook::progress(std::string_view first_name) const {
  return filled("progress", hiTo(first_name), {});
}

Letter LetterBook::filmAgain(std::string_view first_name, const coaching::ClipCheck& check) const {
  if (check.troubles.empty()) return {};
  std::vector<std::string> points;
  for (const auto& t : check.troubles)
    points.push_back(t.to_athlete.empty() ? fmt::format("Please {}.", t.ask)
                                          : fmt::format("{} Please {}.", t.to_athlete, t.ask));
  return filled("film_again", hiTo(first_name), {{"points", bulleted(points)}});
}

Letter LetterBook::reply(std::string_view first_name, const ReplyWords& w) const {
  std::string said;
  const auto paragraph = [&](const std::string& text) { said += (said.empty() ? "" : "\n\n") + text; };
  if (!w.greeting.empty()) paragraph(w.greeting);
  if (!w.keep.empty()) paragraph("What's going well:\n" + bulleted(w.keep));
  if (w.change_nothing)
    paragraph("Nothing to change in what I can see here. Keep doing what you're doing.");
  else if (!w.cues.empty())
    paragraph(w.cues.size() == 1 ? "One thing to work on:" : "What to work on, in this order:");
  for (const coaching::Cue& c : w.cues) {
    if (w.change_nothing) break;
    std::string cue = c.wording;
    if (const std::string title = coaching::titleWithBasis(c); !title.empty()) cue = title + ".\n  Cue: " + cue;
    if (c.change && c.change->said()) cue += "\n  Change: " + coaching::textOf(*c.change);
    if (!c.drill.empty()) cue += "\n  Drill: " + c.drill;
    if (!c.load.empty()) cue += "\n  Load: " + c.load;
    paragraph(cue);
  }
  if (!w.pain.empty()) paragraph("While it hurts:\n" + bulleted(w.pain));
  if (!w.week.empty()) paragraph("Your week:\n" + bulleted(w.week));
  if (!w.closing.empty()) paragraph(w.closing);
  if (!w.next.empty()) paragraph(w.next);
  for (const auto& caution : w.cautions) paragraph(caution);
  const lifts::LiftDefinition* lift = lifts::liftNamed(w.lift);
  const std::string safely(lift ? lift->safely : std::string_view());
  return filled("reply", greets(w.greeting, first_name) ? std::string() : hiTo(first_name),
                {{"lift", w.lift.empty() ? "lift" : w.lift},
                 {"date", w.date},
                 {"reply", said},
                 {"safely", safely.empty() ? std::string() : ", " + safely}});
}

}  // namespace jib::exchange
