// SPDX-License-Identifier: GPL-3.0-or-later
// The day of the next meet: "14 March 2027", "jan 16", "feb 13th", "3/20", "8 weeks out".
#include <fmt/format.h>

#include <array>
#include <cstdlib>

#include "core/exchange/mail/readings.h"
#include "core/library/dates.h"

namespace jib::exchange {
namespace {

const Words kMeet{"meet",          "meets",        "meet's", "competition", "compete", "competing",
                  "nationals",     "championship", "comp",   "comp's",      "states",  "regionals",
                  "championships", "competitions", "nats",   "worlds"};
constexpr std::array<std::string_view, 12> kMonths{"january",   "february", "march",    "april",
                                                   "may",       "june",     "july",     "august",
                                                   "september", "october",  "november", "december"};
const Words kEndings{"st", "nd", "rd", "th"};

class MeetReader {
 public:
  MeetReader(Readings& out, std::string_view received_on) : out_(out), t_(out.talk()), received_on_(received_on) {}

  void read() {
    for (std::size_t i = 0; i < t_.size() && !out_.has(Field::MeetOn); ++i) {
      if (!t_.inSentence(i, kMeet) || t_.inClause(i, {"last", "did", "previous"})) continue;
      figures(i);
      named(i);
      weeksOut(i);
    }
  }

 private:
  static std::string iso(double y, double m, double d) {
    return fmt::format("{:04}-{:02}-{:02}", static_cast<int>(y), static_cast<int>(m), static_cast<int>(d));
  }
  void take(const std::string& day, std::size_t from, std::size_t to, bool sure = true) {
    if (library::isDate(day)) out_.take(Field::MeetOn, day, from, to, sure);  // there is no 31 February
  }
  int monthAt(std::size_t i) const {
    const std::string& w = t_.word(i);
    for (std::size_t m = 0; m < kMonths.size(); ++m)
      if (w == kMonths[m] || (w.size() == 3 && kMonths[m].starts_with(w)) || (w == "sept" && m == 8))
        return static_cast<int>(m + 1);
    return 0;
  }
  // A year that is not said is the next in which the day comes.
  std::string comingOn(double m, double d) const {
    const int year = std::atoi(std::string(received_on_.substr(0, 4)).c_str());
    const std::string day = iso(year, m, d);
    return day >= received_on_ ? day : iso(year + 1, m, d);
  }
  std::string withYear(std::size_t i, double m, double d) const {
    if (t_.is(i, ",")) ++i;
    return t_.whole(i, 2000, 2100) ? iso(t_.number(i), m, d) : comingOn(m, d);
  }

  void figures(std::size_t i) {
    if (t_.whole(i, 2000, 2100) && t_.is(i + 1, "-") && t_.whole(i + 2, 1, 12) && t_.is(i + 3, "-") &&
        t_.whole(i + 4, 1, 31))
      return take(iso(t_.number(i), t_.number(i + 2), t_.number(i + 4)), i, i + 4);
    if (t_.whole(i, 1, 31) && t_.is(i + 1, ".") && t_.whole(i + 2, 1, 12) && t_.is(i + 3, ".") &&
        t_.whole(i + 4, 2000, 2100))
      return take(iso(t_.number(i + 4), t_.number(i + 2), t_.number(i)), i, i + 4);
    // "3/20": month first where they count in pounds; a number over 12 is the day wherever it stands.
    if (!t_.whole(i, 1, 31) || !t_.is(i + 1, "/") || !t_.whole(i + 2, 1, 31) || (i > 0 && t_.is(i - 1, "/"))) return;
    if (t_.whole(i, 1, 10) && t_.is(i + 2, "10") && t_.in(i + 3, {"effort", "rpe"})) return;
    double month = t_.number(i), day = t_.number(i + 2);
    bool sure = true;
    if (month > 12) {
      std::swap(month, day);
    } else if (day <= 12) {
      sure = false;
      if (out_.unit() == MassUnit::Kilograms) std::swap(month, day);
    }
    const bool year = t_.is(i + 3, "/") && t_.digits(i + 4);
    if (year)
      take(iso(t_.number(i + 4) + (t_.number(i + 4) < 100 ? 2000 : 0), month, day), i, i + 4, sure);
    else
      take(comingOn(month, day), i, i + 2, sure);
  }
  void named(std::size_t i) {
    const int month = monthAt(i);
    if (month == 0) return;
    if (t_.whole(i + 1, 1, 31))
      return take(withYear(i + (t_.in(i + 2, kEndings) ? 3 : 2), month, t_.number(i + 1)), i,
                  i + (t_.in(i + 2, kEndings) ? 2 : 1));
    std::size_t day = i;
    while (day > 0 && (t_.in(day - 1, kEndings) || t_.is(day - 1, "of"))) --day;
    if (day > 0 && t_.whole(day - 1, 1, 31)) take(withYear(i + 1, month, t_.number(day - 1)), day - 1, i);
  }
  // "8 weeks out", "meet in 5 weeks": near enough to plan by, and not the day itself.
  void weeksOut(std::size_t i) {
    if (!t_.whole(i, 1, 40) || !t_.in(i + 1, {"weeks", "week", "wks", "wk", "days"})) return;
    const bool out = t_.in(i + 2, {"out", "away"}) || t_.before(i, {"in"}, 1) ||
                     t_.in(i + 2, {"till", "til", "until", "from", "to", "before"});
    if (!out || t_.is(i + 2, "ago")) return;
    const int days = static_cast<int>(t_.number(i)) * (t_.is(i + 1, "days") ? 1 : 7);
    if (library::isDate(std::string(received_on_)))
      take(library::daysLater(std::string(received_on_), days), i, i + 2, false);
  }

  Readings& out_;
  const Talk& t_;
  std::string_view received_on_;
};

}  // namespace

void readMeet(Readings& out, std::string_view received_on) {
  MeetReader(out, received_on).read();
}

}  // namespace jib::exchange
