// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail.h"

#include <fmt/format.h>
#include <gmime/gmime.h>

#include <algorithm>
#include <cctype>
#include <memory>
#include <mutex>

#include "core/exchange/plain_text.h"
#include "core/exchange/zip.h"

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
  std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  return s;
}

std::string orEmpty(const char* text) {
  return text ? text : "";
}

std::string contentOf(GMimePart* part) {
  GMimeDataWrapper* content = g_mime_part_get_content(part);
  if (!content) return {};
  const Held<GMimeStream> stream(g_mime_stream_mem_new());
  g_mime_data_wrapper_write_to_stream(content, stream.get());
  const GByteArray* bytes = g_mime_stream_mem_get_byte_array(GMIME_STREAM_MEM(stream.get()));
  return bytes && bytes->data ? std::string(reinterpret_cast<const char*>(bytes->data), bytes->len) : std::string();
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
  return safe == "." || safe == ".." ? std::string() : safe;
}

class Collector {
 public:
  explicit Collector(Mail& mail) : mail_(mail) {}

  void take(GMimeObject* object) {
    if (GMIME_IS_MESSAGE_PART(object)) {
      // A forwarded message: its words and clips are the sender's business too.
      if (GMimeMessage* inner = g_mime_message_part_get_message(GMIME_MESSAGE_PART(object));
          inner && depth_ < kDeepest) {
        ++depth_;
        g_mime_message_foreach(inner, &Collector::each, this);
        --depth_;
      }
      return;
    }
    if (!GMIME_IS_PART(object)) return;
    GMimePart* part = GMIME_PART(object);
    const std::string name = safeName(orEmpty(g_mime_part_get_filename(part)));
    GMimeContentType* type = g_mime_object_get_content_type(object);
    const bool is_text = GMIME_IS_TEXT_PART(object) && name.empty();
    if (is_text && g_mime_content_type_is_type(type, "text", "html")) return addHtml(GMIME_TEXT_PART(object));
    if (is_text && g_mime_content_type_is_type(type, "text", "plain")) return addPlain(GMIME_TEXT_PART(object));
    file(name, contentOf(part), g_mime_content_type_is_type(type, "video", "*"));
  }

  void finish() {
    mail_.text = plain_.empty() ? html_ : plain_;
    mail_.links = linksIn(mail_.text);
    mail_.text = withoutQuotes(mail_.text);
  }

  static void each(GMimeObject*, GMimeObject* part, gpointer self) { static_cast<Collector*>(self)->take(part); }

 private:
  static constexpr int kDeepest = 8;

  void addPlain(GMimeTextPart* part) {
    const std::unique_ptr<char, FreeText> text(g_mime_text_part_get_text(part));
    if (text) plain_ += (plain_.empty() ? "" : "\n") + validUtf8(text.get());
  }
  void addHtml(GMimeTextPart* part) {
    const std::unique_ptr<char, FreeText> text(g_mime_text_part_get_text(part));
    if (text) html_ += (html_.empty() ? "" : "\n") + htmlToText(validUtf8(text.get()));
  }

  void file(std::string name, std::string bytes, bool declared_film) {
    if (looksLikeZip(bytes)) {
      auto inside = clipsInZip(bytes);
      if (!inside)
        mail_.troubles.push_back(inside.error().sentence());
      else if (inside->empty())
        mail_.troubles.push_back(fmt::format("The archive {} holds no film.", name.empty() ? "attached" : name));
      else
        for (MailPart& clip : *inside) addClip(std::move(clip));
      return;
    }
    if (!declared_film && !looksLikeClip(name, bytes)) {
      if (!name.empty())
        mail_.troubles.push_back(fmt::format("The attachment {} is no film and was left aside.", name));
      return;
    }
    addClip({std::move(name), std::move(bytes)});
  }
  void addClip(MailPart clip) {
    clip.name = safeName(clip.name);
    if (clip.bytes.empty()) {
      mail_.troubles.push_back(
          fmt::format("The clip {} is empty: it did not arrive.", clip.name.empty() ? "attached" : clip.name));
      return;
    }
    if (clip.name.empty() || clip.name.find('.') == std::string::npos) {
      std::string extension = extensionOf(clip.bytes);
      clip.name = (clip.name.empty() ? fmt::format("clip-{}", mail_.clips.size() + 1) : clip.name) +
                  (extension.empty() ? ".mp4" : extension);
    }
    mail_.clips.push_back(std::move(clip));
  }

  Mail& mail_;
  std::string plain_, html_;
  int depth_ = 0;
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
  const std::string extension = lower(std::filesystem::path(name).extension().string());
  for (const char* known : {".mp4", ".mov", ".m4v", ".mkv", ".webm", ".avi", ".3gp", ".mts"})
    if (extension == known) return true;
  return !extensionOf(bytes).empty();
}

Result<Mail> readMail(std::string_view bytes) {
  startOnce();
  const Held<GMimeStream> stream(g_mime_stream_mem_new_with_buffer(bytes.data(), bytes.size()));
  const Held<GMimeParser> parser(g_mime_parser_new_with_stream(stream.get()));
  const Held<GMimeMessage> message(g_mime_parser_construct_message(parser.get(), nullptr));
  const auto nothing = [] {
    return fail(ErrorCode::BadData, "This is not a message.",
                "Save it again from the mail program as a file ending in .eml.");
  };
  if (!message) return nothing();
  Mail mail;
  mail.key = orEmpty(g_mime_message_get_message_id(message.get()));
  if (mail.key.empty()) mail.key = "sha256:" + sha256Of(bytes);
  mail.subject = validUtf8(orEmpty(g_mime_message_get_subject(message.get())));
  mail.sent_on = isoOf(g_mime_message_get_date(message.get()));
  const auto first = [](InternetAddressList* list) -> InternetAddressMailbox* {
    if (!list || internet_address_list_length(list) < 1) return nullptr;
    InternetAddress* address = internet_address_list_get_address(list, 0);
    return INTERNET_ADDRESS_IS_MAILBOX(address) ? INTERNET_ADDRESS_MAILBOX(address) : nullptr;
  };
  if (InternetAddressMailbox* from = first(g_mime_message_get_from(message.get()))) {
    mail.from_name = validUtf8(orEmpty(internet_address_get_name(INTERNET_ADDRESS(from))));
    mail.from_address = lower(validUtf8(orEmpty(internet_address_mailbox_get_addr(from))));
  }
  if (InternetAddressMailbox* to = first(g_mime_message_get_to(message.get())))
    mail.to_address = lower(validUtf8(orEmpty(internet_address_mailbox_get_addr(to))));
  Collector collector(mail);
  g_mime_message_foreach(message.get(), &Collector::each, &collector);
  collector.finish();
  // Any bytes at all parse as an empty message; without a sender and without words there is none.
  if (mail.from_address.empty() && mail.text.empty() && mail.clips.empty()) return nothing();
  return mail;
}

Result<std::string> composeMail(const Mail& mail, const std::vector<std::filesystem::path>& files) {
  startOnce();
  const Held<GMimeMessage> message(g_mime_message_new(TRUE));
  g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_FROM, mail.from_name.c_str(), mail.from_address.c_str());
  g_mime_message_add_mailbox(message.get(), GMIME_ADDRESS_TYPE_TO, nullptr, mail.to_address.c_str());
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
  const std::string key = mail.key.empty()
                              ? fmt::format("{}@jagged-jib.invalid", sha256Of(mail.subject + mail.text).substr(0, 24))
                              : mail.key;
  g_mime_message_set_message_id(message.get(), key.c_str());
  const Held<GMimeTextPart> text(g_mime_text_part_new_with_subtype("plain"));
  g_mime_text_part_set_charset(text.get(), "utf-8");
  g_mime_text_part_set_text(text.get(), mail.text.c_str());
  g_mime_part_set_content_encoding(GMIME_PART(text.get()), GMIME_CONTENT_ENCODING_QUOTEDPRINTABLE);
  const Held<GMimeMultipart> all(g_mime_multipart_new_with_subtype("mixed"));
  g_mime_multipart_add(all.get(), GMIME_OBJECT(text.get()));
  const auto attach = [&](const std::string& name, const std::string& bytes) {
    const bool film = looksLikeClip(name, bytes), page = name.ends_with(".html");
    const Held<GMimePart> part(film   ? g_mime_part_new_with_type("video", "mp4")
                               : page ? g_mime_part_new_with_type("text", "html")
                                      : g_mime_part_new_with_type("application", "octet-stream"));
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

Result<std::filesystem::path> putInOutbox(const std::filesystem::path& outbox, const Mail& mail,
                                          const std::vector<std::filesystem::path>& files, FileSystem& disk) {
  auto bytes = composeMail(mail, files);
  if (!bytes) return fail(bytes.error());
  std::error_code error;
  std::filesystem::create_directories(outbox, error);
  const auto file = outbox / (sha256Of(*bytes).substr(0, 16) + ".eml");
  if (auto written = writeWhole(disk, file, *bytes); !written) return fail(written.error());
  return file;
}

}  // namespace jib::exchange
