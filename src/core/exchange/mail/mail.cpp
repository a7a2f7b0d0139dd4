// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/mail.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <gmime/gmime.h>
#include <unistd.h>

#include <algorithm>
#include <fstream>
#include <memory>
#include <mutex>
#include <optional>
#include <random>

#include "core/base/ascii.h"
#include "core/exchange/mail/plain_text.h"
#include "core/exchange/mail/spool.h"
#include "core/exchange/mail/zip.h"

namespace jib::exchange {
namespace {

// GMime's objects are counted references.
struct Unref {
  void operator()(void* object) const { g_object_unref(object); }
};
template <class T>
using Held = std::unique_ptr<T, Unref>;

struct FreeText {
  void operator()(char* text) const { g_free(text); }
};

void startOnce() {
  static std::once_flag once;
  std::call_once(once, [] { g_mime_init(); });
}

std::string lower(std::string s) {
  return asciiLower(s);
}

std::string orEmpty(const char* text) {
  return text ? text : "";
}

constexpr std::size_t kMostText_bytes = 1u << 20;  // of one part; a longer text is a file

std::uintmax_t encodedSize(GMimePart* part) {
  GMimeDataWrapper* content = g_mime_part_get_content(part);
  GMimeStream* stream = content ? g_mime_data_wrapper_get_stream(content) : nullptr;
  const gint64 length = stream ? g_mime_stream_length(stream) : 0;
  return length > 0 ? static_cast<std::uintmax_t>(length) : 0;
}

std::string contentOf(GMimePart* part) {
  GMimeDataWrapper* content = g_mime_part_get_content(part);
  if (!content) return {};
  const Held<GMimeStream> stream(g_mime_stream_mem_new());
  g_mime_data_wrapper_write_to_stream(content, stream.get());
  const GByteArray* bytes = g_mime_stream_mem_get_byte_array(GMIME_STREAM_MEM(stream.get()));
  return bytes && bytes->data ? std::string(reinterpret_cast<const char*>(bytes->data), bytes->len) : std::string();
}

tl::unexpected<Error> noRoom() {
  return fail(ErrorCode::CannotWrite, "There is no room to take the message in.",
              "Free some space on the disk; the message waits and nothing is lost.");
}

Result<bool> contentInto(GMimePart* part, const std::filesystem::path& file) {
  const int fd = ::open(file.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0600);
  if (fd < 0) return noRoom();
  const Held<GMimeStream> out(g_mime_stream_fs_new(fd));  // closes it
  GMimeDataWrapper* content = g_mime_part_get_content(part);
  if (content && g_mime_data_wrapper_write_to_stream(content, out.get()) < 0) return noRoom();
  if (g_mime_stream_flush(out.get()) != 0) return noRoom();
  return true;
}

// What a file is, by its first bytes: the name without an extension that such a file would have.
std::string extensionOf(std::string_view bytes) {
  if (bytes.size() > 12 && bytes.substr(4, 4) == "ftyp") return bytes.substr(8, 2) == "qt" ? ".mov" : ".mp4";
  if (bytes.starts_with("\x1A\x45\xDF\xA3")) return ".mkv";
  if (bytes.starts_with("RIFF") && bytes.substr(8, 3) == "AVI") return ".avi";
  return {};
}

// File names keep what is harmless of what they were.
std::string safeName(const std::string& name) {
  std::string safe;
  for (char c : name.substr(name.find_last_of("/\\") + 1))
    if (static_cast<unsigned char>(c) >= 0x20 && c != ':' && c != '*' && c != '?' && c != '"' && c != '<' && c != '>')
      safe += c;
  constexpr std::size_t kLongest = 120;
  if (safe.size() > kLongest) {
    const std::string extension = safeExtension(safe);
    safe = validUtf8(safe.substr(0, kLongest)) + extension;
  }
  return safe == "." || safe == ".." ? std::string() : safe;
}

// What a part that is no film is, for people.
const char* kindOf(GMimeContentType* type) {
  if (g_mime_content_type_is_type(type, "image", "*")) return "picture";
  if (g_mime_content_type_is_type(type, "audio", "*")) return "sound";
  if (g_mime_content_type_is_type(type, "text", "calendar")) return "appointment";
  if (g_mime_content_type_is_type(type, "text", "*")) return "text";
  return "file";
}

class Collector {
 public:
  Collector(Mail& mail, Spool* spool, bool mbox) : mail_(mail), spool_(spool), mbox_(mbox) {}

  // `words`: texts in here are the sender's; false in the branches of an alternative that was read already.
  void take(GMimeObject* object, bool words = true) {
    if (!object || trouble) return;
    if (depth_ >= kDeepest) {
      if (!too_deep_) {
        mail_.contents.emplace_back("parts nested too deep, left aside");
        lost("Its parts are nested too deep to be read: a film in there was left aside.");
      }
      too_deep_ = true;
      return;
    }
    ++depth_;
    if (GMIME_IS_MULTIPART(object))
      takeAll(GMIME_MULTIPART(object), words);
    else if (GMIME_IS_MESSAGE_PART(object))
      forwarded(GMIME_MESSAGE_PART(object));
    else if (GMIME_IS_PART(object))
      one(object, words);
    --depth_;
  }

  void finish() {
    mail_.links = linksIn(own_);
    OwnAndQuoted split = splitQuotes(own_);
    if (!split.own.empty()) mail_.links = linksIn(split.own);
    mail_.text = std::move(split.own);
    mail_.quoted = std::move(split.quoted);
    mail_.unmarked = std::move(split.unmarked);
    if (words_cut_) mail_.troubles.emplace_back("Its words are longer than a megabyte: only their beginning was read.");
  }
  // A film came, or may have come, that cannot be used.
  void lost(std::string why) {
    mail_.film_lost = true;
    mail_.troubles.push_back(std::move(why));
  }

  std::optional<Error> trouble;  // the disk's; everything else is said in the mail

 private:
  // Far more than mail programs nest; each level stands on the stack.
  static constexpr int kDeepest = 200;

  void takeAll(GMimeMultipart* multipart, bool words) {
    GMimeContentType* type = g_mime_object_get_content_type(GMIME_OBJECT(multipart));
    const bool alternative = g_mime_content_type_is_type(type, "multipart", "alternative");
    for (int i = 0; i < g_mime_multipart_get_count(multipart); ++i) {
      const std::size_t before = own_.size();
      take(g_mime_multipart_get_part(multipart, i), words);
      // Of one message told twice, the plain words are read; the page stands for them when they are empty.
      if (alternative && own_.size() > before) words = false;
    }
  }

  void forwarded(GMimeMessagePart* part) {
    GMimeMessage* inner = g_mime_message_part_get_message(part);
    if (!inner) return;
    mail_.contents.emplace_back("forwarded message");
    take(g_mime_message_get_mime_part(inner), true);
  }

  void one(GMimeObject* object, bool words) {
    GMimePart* part = GMIME_PART(object);
    const std::string name = safeName(validUtf8(orEmpty(g_mime_part_get_filename(part))));
    GMimeContentType* type = g_mime_object_get_content_type(object);
    const bool small = encodedSize(part) <= kMostText_bytes;
    const bool page = GMIME_IS_TEXT_PART(object) && g_mime_content_type_is_type(type, "text", "html");
    const bool plain = GMIME_IS_TEXT_PART(object) && g_mime_content_type_is_type(type, "text", "plain");
    const bool called_text = plain && lower(name).ends_with(".txt");
    // What it is, its first bytes say, whatever it calls itself: a film may be called a text.
    if ((page || plain) && (name.empty() || (called_text && small)) && !isFilm(part))
      return addWords(GMIME_TEXT_PART(object), name, page, words);
    file(name, part, type);
  }

  static bool isFilm(GMimePart* part) {
    if (encodedSize(part) > kMostText_bytes) return false;
    const std::string bytes = contentOf(part).substr(0, 16);
    return looksLikeZip(bytes) || !extensionOf(bytes).empty();
  }

  void addWords(GMimeTextPart* part, const std::string& name, bool page, bool words) {
    const std::unique_ptr<char, FreeText> text(g_mime_text_part_get_text(part));
    std::string_view all = text ? std::string_view(text.get()) : std::string_view();
    if (all.size() > static_cast<std::size_t>(kMostText_bytes)) {
      words_cut_ = true;
      all = all.substr(0, static_cast<std::size_t>(kMostText_bytes));
      while (!all.empty() && (static_cast<unsigned char>(all.back()) & 0xC0) == 0x80) all.remove_suffix(1);
      if (!all.empty() && static_cast<unsigned char>(all.back()) >= 0xC0) all.remove_suffix(1);
    }
    std::string said = validUtf8(std::string(all).c_str());
    if (page) said = htmlToText(said);
    if (mbox_) said = withoutMailboxMarks(said);
    const bool blank = said.find_first_not_of(" \n\t") == std::string::npos;
    if (!name.empty()) {
      mail_.contents.push_back(fmt::format("text {}", name));
      own_ += fmt::format("\n[{}]\n{}", name, said);
      return;
    }
    if (!words) {
      mail_.contents.emplace_back("the same as a page");
      return;
    }
    if (blank) return;
    mail_.contents.emplace_back(page ? "message (a page)" : "message");
    own_ += (own_.empty() ? "" : "\n") + said;
  }

  // Lines that begin with "From " bear a mark in a mailbox file.
  static std::string withoutMailboxMarks(const std::string& text) {
    std::string out;
    for (std::size_t line = 0; line < text.size();) {
      const std::size_t end = std::min(text.find('\n', line), text.size());
      std::size_t marks = line;
      while (marks < end && text[marks] == '>') ++marks;
      const bool marked = marks > line && text.compare(marks, 5, "From ") == 0;
      out += text.substr(line + (marked ? 1 : 0), end - line - (marked ? 1 : 0) + 1);
      line = end + 1;
    }
    return out;
  }

  void file(const std::string& name, GMimePart* part, GMimeContentType* type) {
    MailPart sent{name, {}, {}};
    std::string first;
    std::uintmax_t size = 0;
    if (spool_) {
      sent.file = spool_->fresh(name);
      if (auto put = contentInto(part, sent.file); !put) {
        trouble = put.error();
        return;
      }
      std::error_code error;
      size = std::filesystem::file_size(sent.file, error);
      first.resize(16);
      std::ifstream in(sent.file, std::ios::binary);
      in.read(first.data(), static_cast<std::streamsize>(first.size()));
      first.resize(static_cast<std::size_t>(in.gcount()));
    } else {
      sent.bytes = contentOf(part);
      size = sent.bytes.size();
      first = sent.bytes.substr(0, 16);
    }
    if (looksLikeZip(first)) return archive(name, sent);
    const bool declared = g_mime_content_type_is_type(type, "video", "*");
    if (!declared && !looksLikeClip(name, first)) {
      mail_.contents.push_back(fmt::format("{}{} left aside", kindOf(type), name.empty() ? "" : " " + name));
      return;
    }
    sent.name = withExtension(name, first);
    mail_.contents.push_back("film " + sent.name + (size == 0 ? ", empty" : ""));
    if (size == 0)
      lost(fmt::format("The clip {} is empty: it did not arrive.", name.empty() ? "attached" : name));
    else
      mail_.clips.push_back(std::move(sent));
  }

  void archive(const std::string& name, const MailPart& sent) {
    const std::string called = name.empty() ? "attached" : name;
    if (!spool_) {
      mail_.contents.push_back("archive " + called);
      return;
    }
    auto inside = clipsInZip(sent.file, *spool_);
    std::error_code ignored;
    std::filesystem::remove(sent.file, ignored);
    if (!inside) {
      if (inside.error().code == ErrorCode::CannotWrite) trouble = inside.error();
      mail_.contents.push_back("archive " + called + " left aside");
      lost(inside.error().sentence());
      return;
    }
    mail_.contents.push_back(
        fmt::format("archive {} with {} film{}{}", called, inside->clips.size(), inside->clips.size() == 1 ? "" : "s",
                    inside->left_aside.empty() ? std::string()
                                               : fmt::format(" ({} left aside)", fmt::join(inside->left_aside, ", "))));
    if (inside->clips.empty()) lost(fmt::format("The archive {} holds no film.", called));
    for (MailPart& clip : inside->clips) {
      std::ifstream in(clip.file, std::ios::binary);
      std::string first(16, '\0');
      in.read(first.data(), 16);
      clip.name = withExtension(safeName(validUtf8(clip.name)), first);
      if (std::filesystem::file_size(clip.file, ignored) == 0)
        lost(fmt::format("The clip {} is empty: it did not arrive.", clip.name));
      else
        mail_.clips.push_back(std::move(clip));
    }
  }

  // A film's name, made up where it came with none, and with the extension of what it is.
  std::string withExtension(std::string name, std::string_view first) const {
    const std::string told = lower(safeExtension(name));
    if (!told.empty() && told != ".txt") return name;
    const std::string extension = extensionOf(first);
    return (name.empty() ? fmt::format("clip-{}", mail_.clips.size() + 1) : name) +
           (extension.empty() ? ".mp4" : extension);
  }

  Mail& mail_;
  Spool* spool_;
  bool mbox_;
  std::string own_;
  int depth_ = 0;
  bool too_deep_ = false, words_cut_ = false;
};

std::string isoOf(GDateTime* date) {
  if (!date) return {};
  return fmt::format("{:04}-{:02}-{:02}", g_date_time_get_year(date), g_date_time_get_month(date),
                     g_date_time_get_day_of_month(date));
}

}  // namespace

bool looksLikeZip(std::string_view bytes) {
  return bytes.starts_with("PK\x03\x04");
}

bool looksLikeClip(std::string_view name, std::string_view bytes) {
  const std::string extension = lower(safeExtension(name));
  for (const char* known : {".mp4", ".mov", ".m4v", ".mkv", ".webm", ".avi", ".3gp", ".3g2", ".mts", ".m2ts", ".mpg",
                            ".mpeg", ".wmv", ".flv", ".ogv"})
    if (extension == known) return true;
  return !extensionOf(bytes).empty();
}

std::string contentsText(const std::vector<std::string>& contents) {
  if (contents.size() < 2 && (contents.empty() || contents.front().starts_with("message"))) return {};
  return fmt::format("{} part{}: {}", contents.size(), contents.size() == 1 ? "" : "s", fmt::join(contents, ", "));
}

namespace {

// Who wrote what when, and its films: what stays the same of a message whichever way it comes.
Result<std::string> keyOf(const Mail& mail) {
  std::string all = mail.mail_id + '\n' + mail.from_address + '\n' + mail.sent_on + '\n' + mail.subject + '\n' +
                    mail.text + '\n' + mail.quoted;
  for (const MailPart& clip : mail.clips) {
    auto hash = clip.file.empty() ? Result<std::string>(sha256Of(clip.bytes)) : contentHash(clip.file);
    if (!hash) return fail(hash.error());
    all += '\n' + *hash;
  }
  return "mail:" + sha256Of(all);
}

std::vector<std::string> answeredBy(GMimeMessage* message) {
  std::vector<std::string> ids;
  for (const char* name : {"References", "In-Reply-To"}) {
    const char* header = g_mime_object_get_header(GMIME_OBJECT(message), name);
    if (!header) continue;
    GMimeReferences* list = g_mime_references_parse(nullptr, header);
    for (int i = 0; i < g_mime_references_length(list); ++i)
      if (std::string id = validUtf8(orEmpty(g_mime_references_get_message_id(list, i)));
          !id.empty() && std::find(ids.begin(), ids.end(), id) == ids.end())
        ids.push_back(std::move(id));
    g_mime_references_free(list);
  }
  return ids;
}

// Header text on one line: a line break that was encoded into it would begin a line of its own wherever it is written.
std::string oneLine(std::string text) {
  for (char& c : text)
    if (static_cast<unsigned char>(c) < 0x20 || c == 0x7f) c = ' ';
  return text;
}

struct FreeOptions {
  void operator()(GMimeParserOptions* options) const { g_mime_parser_options_free(options); }
};

Result<Mail> readMessage(GMimeStream* stream, Spool* spool, bool mbox) {
  const Held<GMimeParser> parser(g_mime_parser_new_with_stream(stream));
  g_mime_parser_set_persist_stream(parser.get(), TRUE);
  const std::unique_ptr<GMimeParserOptions, FreeOptions> options(g_mime_parser_options_new());
  bool cut_off = false;
  g_mime_parser_options_set_warning_callback(
      options.get(),
      [](gint64, GMimeParserWarning warning, const gchar*, gpointer told) {
        if (warning == GMIME_WARN_TRUNCATED_MESSAGE) *static_cast<bool*>(told) = true;
      },
      &cut_off);
  const Held<GMimeMessage> message(g_mime_parser_construct_message(parser.get(), options.get()));
  const auto nothing = [] {
    return fail(ErrorCode::BadData, "This is not a message.",
                "Save it again from the mail program as a file ending in .eml.");
  };
  if (!message) return nothing();
  Mail mail;
  mail.mail_id = validUtf8(orEmpty(g_mime_message_get_message_id(message.get())));
  mail.answers = answeredBy(message.get());
  mail.subject = oneLine(validUtf8(orEmpty(g_mime_message_get_subject(message.get()))));
  mail.sent_on = isoOf(g_mime_message_get_date(message.get()));
  const auto first = [](InternetAddressList* list) -> InternetAddressMailbox* {
    if (!list || internet_address_list_length(list) < 1) return nullptr;
    InternetAddress* address = internet_address_list_get_address(list, 0);
    return INTERNET_ADDRESS_IS_MAILBOX(address) ? INTERNET_ADDRESS_MAILBOX(address) : nullptr;
  };
  if (InternetAddressMailbox* from = first(g_mime_message_get_from(message.get()))) {
    mail.from_name = oneLine(validUtf8(orEmpty(internet_address_get_name(INTERNET_ADDRESS(from)))));
    mail.from_address = lower(validUtf8(orEmpty(internet_address_mailbox_get_addr(from))));
  }
  if (InternetAddressMailbox* to = first(g_mime_message_get_to(message.get())))
    mail.to_address = lower(validUtf8(orEmpty(internet_address_mailbox_get_addr(to))));
  Collector collector(mail, spool, mbox);
  collector.take(g_mime_message_get_mime_part(message.get()));
  if (collector.trouble) return fail(*collector.trouble);
  if (cut_off) collector.lost("The message breaks off: its last part did not arrive. Ask for it to be sent again.");
  collector.finish();
  // Any bytes at all parse as an empty message; without a sender and without words there is none.
  if (mail.from_address.empty() && mail.text.empty() && mail.quoted.empty() && mail.clips.empty()) return nothing();
  auto key = keyOf(mail);
  if (!key) return fail(key.error());
  mail.key = std::move(*key);
  return mail;
}

// Lines end with one kind of ending, LF; a message whose headers end in CR LF and its film's base64 in LF would lose
// the film's last bytes to the parser. Bytes that are sent as they are (binary) are left alone.
Result<std::filesystem::path> withOneLineEnding(const std::filesystem::path& message, Spool& spool) {
  std::ifstream in(message, std::ios::binary);
  bool both[2] = {false, false}, binary = false;
  std::string block(1 << 16, '\0'), tail;
  char before = 0;
  while (in.read(block.data(), static_cast<std::streamsize>(block.size())), in.gcount() > 0) {
    const std::string_view now(block.data(), static_cast<std::size_t>(in.gcount()));
    for (const char c : now) {
      if (c == '\n') both[before == '\r' ? 0 : 1] = true;
      before = c;
    }
    const std::string seam = lower(tail + std::string(now));
    binary = binary || seam.find("transfer-encoding: binary") != std::string::npos;
    tail = std::string(now.substr(now.size() - std::min<std::size_t>(now.size(), 40)));
  }
  if (!both[0] || !both[1] || binary) return message;
  const auto even = spool.fresh(".eml");
  std::ifstream again(message, std::ios::binary);
  std::ofstream out(even, std::ios::binary);
  bool held = false;  // a CR whose LF may follow
  while (again.read(block.data(), static_cast<std::streamsize>(block.size())), again.gcount() > 0) {
    std::string kept;
    for (const char c : std::string_view(block.data(), static_cast<std::size_t>(again.gcount()))) {
      if (held && c != '\n') kept += '\r';
      held = c == '\r';
      if (!held) kept += c;
    }
    out.write(kept.data(), static_cast<std::streamsize>(kept.size()));
  }
  out.close();
  if (!out) return noRoom();
  makePrivate(even);
  return even;
}

}  // namespace

Result<Mail> readMail(std::string_view bytes) {
  startOnce();
  const Held<GMimeStream> stream(g_mime_stream_mem_new_with_buffer(bytes.data(), bytes.size()));
  return readMessage(stream.get(), nullptr, false);
}

Result<Mail> readMail(const std::filesystem::path& message, Spool& spool, bool mbox) {
  startOnce();
  auto even = withOneLineEnding(message, spool);
  if (!even) return fail(even.error());
  const int fd = ::open(even->c_str(), O_RDONLY | O_CLOEXEC);
  if (fd < 0)
    return fail(ErrorCode::CannotRead, "Cannot read " + message.string() + ".", "Check the path and its permissions.");
  const Held<GMimeStream> stream(g_mime_stream_fs_new(fd));
  return readMessage(stream.get(), &spool, mbox);
}

std::string newMailId() {
  std::random_device random;
  return fmt::format("{:08x}{:08x}{:08x}@jagged-jib.invalid", random(), random(), random());
}

namespace {

// A phone shows what it knows the kind of.
std::pair<const char*, const char*> typeOf(const std::string& name, std::string_view bytes) {
  if (looksLikeClip(name, bytes)) return {"video", "mp4"};
  if (name.ends_with(".html")) return {"text", "html"};
  if (name.ends_with(".pdf")) return {"application", "pdf"};
  if (name.ends_with(".png")) return {"image", "png"};
  return {"application", "octet-stream"};
}

}  // namespace

Result<std::string> composeMail(const Mail& mail, const std::vector<std::filesystem::path>& files, Draft draft) {
  startOnce();
  const Held<GMimeMessage> message(g_mime_message_new(TRUE));
  g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_FROM, mail.from_name.c_str(), mail.from_address.c_str());
  g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_TO, nullptr, mail.to_address.c_str());
  if (!mail.copy_address.empty())
    g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_CC, nullptr, mail.copy_address.c_str());
  g_mime_message_set_subject(message.get(), mail.subject.c_str(), "utf-8");
  GDateTime* now = mail.sent_on.size() == 10
                       ? g_date_time_new_utc(std::atoi(mail.sent_on.substr(0, 4).c_str()),
                                             std::atoi(mail.sent_on.substr(5, 2).c_str()),
                                             std::atoi(mail.sent_on.substr(8, 2).c_str()), 12, 0, 0)
                       : g_date_time_new_now_local();
  if (now) {
    g_mime_message_set_date(message.get(), now);
    g_date_time_unref(now);
  }
  if (draft == Draft::Yes) g_mime_object_set_header(GMIME_OBJECT(message.get()), "X-Unsent", "1", nullptr);
  const std::string id = mail.mail_id.empty() ? newMailId() : mail.mail_id;
  g_mime_message_set_message_id(message.get(), id.c_str());
  if (!mail.answers.empty()) {
    std::string all;
    for (const std::string& answered : mail.answers) all += (all.empty() ? "<" : " <") + answered + ">";
    g_mime_object_set_header(GMIME_OBJECT(message.get()), "In-Reply-To", ("<" + mail.answers.back() + ">").c_str(),
                             nullptr);
    g_mime_object_set_header(GMIME_OBJECT(message.get()), "References", all.c_str(), nullptr);
  }
  const Held<GMimeTextPart> text(g_mime_text_part_new_with_subtype("plain"));
  g_mime_text_part_set_charset(text.get(), "utf-8");
  g_mime_text_part_set_text(text.get(), mail.text.c_str());
  g_mime_part_set_content_encoding(GMIME_PART(text.get()), GMIME_CONTENT_ENCODING_QUOTEDPRINTABLE);
  const Held<GMimeMultipart> all(g_mime_multipart_new_with_subtype("mixed"));
  g_mime_multipart_add(all.get(), GMIME_OBJECT(text.get()));
  const auto attach = [&](const std::string& name, const std::string& bytes) {
    const auto [type, subtype] = typeOf(name, bytes);
    const Held<GMimePart> part(g_mime_part_new_with_type(type, subtype));
    const Held<GMimeStream> stream(g_mime_stream_mem_new_with_buffer(bytes.data(), bytes.size()));
    const Held<GMimeDataWrapper> content(
        g_mime_data_wrapper_new_with_stream(stream.get(), GMIME_CONTENT_ENCODING_DEFAULT));
    g_mime_part_set_content(part.get(), content.get());
    g_mime_part_set_content_encoding(part.get(), GMIME_CONTENT_ENCODING_BASE64);
    g_mime_object_set_disposition(GMIME_OBJECT(part.get()), GMIME_DISPOSITION_ATTACHMENT);
    g_mime_part_set_filename(part.get(), name.c_str());
    g_mime_multipart_add(all.get(), GMIME_OBJECT(part.get()));
  };
  for (const MailPart& clip : mail.clips) attach(clip.name, clip.bytes);
  for (const auto& file : files) {
    auto bytes = FileSystem::real().read(file);
    if (!bytes) return fail(bytes.error());
    attach(file.filename().string(), *bytes);
  }
  g_mime_message_set_mime_part(message.get(), GMIME_OBJECT(all.get()));
  const std::unique_ptr<char, FreeText> out(g_mime_object_to_string(GMIME_OBJECT(message.get()), nullptr));
  return std::string(out.get());
}

Result<std::string> rewordMail(std::string_view bytes, const std::string& text) {
  startOnce();
  const Held<GMimeStream> stream(g_mime_stream_mem_new_with_buffer(bytes.data(), bytes.size()));
  const Held<GMimeParser> parser(g_mime_parser_new_with_stream(stream.get()));
  const Held<GMimeMessage> message(g_mime_parser_construct_message(parser.get(), nullptr));
  if (!message.get()) return fail(ErrorCode::BadData, "This is not a message.", "Copy the text instead.");
  GMimeObject* words = g_mime_message_get_mime_part(message.get());
  if (words && GMIME_IS_MULTIPART(words)) words = g_mime_multipart_get_part(GMIME_MULTIPART(words), 0);
  if (!words || !GMIME_IS_TEXT_PART(words))
    return fail(ErrorCode::BadData, "This message has no text to change.", "Copy the text instead.");
  g_mime_text_part_set_charset(GMIME_TEXT_PART(words), "utf-8");
  g_mime_text_part_set_text(GMIME_TEXT_PART(words), text.c_str());
  g_mime_part_set_content_encoding(GMIME_PART(words), GMIME_CONTENT_ENCODING_QUOTEDPRINTABLE);
  const std::unique_ptr<char, FreeText> out(g_mime_object_to_string(GMIME_OBJECT(message.get()), nullptr));
  return std::string(out.get());
}

Result<WrittenMail> writeInOutbox(const std::filesystem::path& outbox, const Mail& mail,
                                  const std::vector<std::filesystem::path>& files, FileSystem& disk) {
  auto bytes = composeMail(mail, files, Draft::Yes);
  if (!bytes) return fail(bytes.error());
  if (auto made = makePrivateFolder(outbox); !made) return fail(made.error());
  WrittenMail written;
  written.file = outbox / (sha256Of(*bytes).substr(0, 16) + ".eml");
  written.until_listed = written.file;
  written.until_listed += "." + std::to_string(::getpid()) + ".part";
  if (auto done = disk.write(written.until_listed, *bytes); !done) {
    disk.remove(written.until_listed);
    return fail(done.error());
  }
  return written;
}

}  // namespace jib::exchange
