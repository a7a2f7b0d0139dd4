// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters.h"

#include <fmt/format.h>

#include "core/base/resources.h"
#include "core/coaching/toml_reader.h"

namespace jib::exchange {
namespace {

constexpr const char* kLetters[] = {"receipt", "missing_film", "ask", "referral", "film_again", "reply"};

void put(std::string& text, std::string_view key, const std::string& value) {
  const std::string mark = fmt::format("{{{}}}", key);
  // Only what stood in the template: words put in may hold braces of their own.
  for (std::size_t at = text.find(mark); at != std::string::npos; at = text.find(mark, at + value.size()))
    text.replace(at, mark.size(), value);
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

Letter LetterBook::filled(const char* name, std::string_view first_name, const Words& words) const {
  Letter letter = letters_.find(name)->second;
  for (std::string* text : {&letter.subject, &letter.text}) {
    put(*text, "hi", first_name.empty() ? "Hi," : fmt::format("Hi {},", first_name));
    for (const auto& [key, value] : words) put(*text, key, value);
  }
  return letter;
}

Letter LetterBook::receipt(std::string_view first_name) const {
  return filled("receipt", first_name, {});
}

Letter LetterBook::missingFilm(std::string_view first_name, std::string_view reason) const {
  return filled("missing_film", first_name,
                {{"reason", std::string(reason.substr(0, reason.find_last_not_of(". ") + 1))}});
}

Letter LetterBook::askFor(std::string_view first_name, const std::vector<std::string>& titles) const {
  return filled("ask", first_name, {{"wanted", bulleted(titles)}});
}

Letter LetterBook::referral(std::string_view first_name) const {
  return filled("referral", first_name, {});
}

Letter LetterBook::filmAgain(std::string_view first_name, const coaching::ClipCheck& check) const {
  if (check.troubles.empty()) return {};
  std::vector<std::string> points;
  for (const auto& t : check.troubles) points.push_back(fmt::format("{} Please {}.", t.what, t.ask));
  return filled("film_again", first_name, {{"points", bulleted(points)}});
}

Letter LetterBook::reply(std::string_view first_name, const ReplyWords& w) const {
  std::string said;
  const auto paragraph = [&](const std::string& text) { said += (said.empty() ? "" : "\n\n") + text; };
  if (!w.greeting.empty()) paragraph(w.greeting);
  if (!w.keep.empty()) paragraph("Right as it is:\n" + bulleted(w.keep));
  if (w.change_nothing)
    paragraph("Change nothing: every check that could be made passes. Keep going as you are.");
  else if (!w.cues.empty())
    paragraph(w.cues.size() == 1 ? "One thing to try:" : "What to try, the first before the second:");
  for (const coaching::Cue& c : w.cues) {
    if (w.change_nothing) break;
    std::string cue = c.wording;
    const auto line = [&](const char* name, const std::string& text) {
      if (!text.empty()) cue += fmt::format("\n  {}: {}", name, text);
    };
    line("Drill", c.drill);
    line("Load", c.load);
    line("For", fmt::format("{} weeks, then film again: same view, same load", c.weeks));
    line("It worked if", c.proof);
    line("Watch for", c.side_effect);
    line("What it costs", c.price);
    paragraph(cue);
  }
  for (const auto& caution : w.cautions) paragraph(caution);
  return filled("reply", first_name, {{"lift", w.lift}, {"date", w.date}, {"reply", said}});
}

}  // namespace jib::exchange
