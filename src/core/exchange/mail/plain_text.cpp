// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/plain_text.h"

#include <glib.h>
#include <libxml/HTMLparser.h>
#include <libxml/parserInternals.h>

#include <algorithm>
#include <cstring>
#include <memory>
#include <sstream>
#include <utility>

namespace jib::exchange {
namespace {

bool isBlock(const xmlNode* node) {
  const char* name = reinterpret_cast<const char*>(node->name);
  for (const char* block : {"p", "div", "br", "li", "tr", "h1", "h2", "h3", "blockquote"})
    if (std::strcmp(name, block) == 0) return true;
  return false;
}

bool isQuiet(const xmlNode* node) {
  const char* name = reinterpret_cast<const char*>(node->name);
  for (const char* quiet : {"script", "style", "head", "title"})
    if (std::strcmp(name, quiet) == 0) return true;
  return false;
}

void breakLine(std::string& text) {
  while (!text.empty() && text.back() == ' ') text.pop_back();
  if (!text.empty() && text.back() != '\n') text += '\n';
}

// Writes a page's text line by line; within a quotation each line begins with its marks.
class PageText {
 public:
  void enter(const xmlNode* node) {
    if (isBlock(node)) breakLine(text);
    if (isQuote(node)) ++quotes_;
  }
  void leave(const xmlNode* node) {
    if (isBlock(node)) breakLine(text);
    if (isQuote(node)) --quotes_;
  }
  void add(const xmlNode* node) {
    for (const char* c = reinterpret_cast<const char*>(node->content); *c; ++c) {
      const bool space = *c == ' ' || *c == '\n' || *c == '\t' || *c == '\r';
      if (!space) {
        if (quotes_ > 0 && (text.empty() || text.back() == '\n')) text += "> ";
        text += *c;
      } else if (!text.empty() && text.back() != ' ' && text.back() != '\n') {
        text += ' ';
      }
    }
  }
  std::string text;

 private:
  static bool isQuote(const xmlNode* node) {
    return std::strcmp(reinterpret_cast<const char*>(node->name), "blockquote") == 0;
  }
  int quotes_ = 0;
};

// Text nodes in order; runs of white space become one space. Without recursion: pages nest as deep as they like.
std::string collected(const xmlNode* root) {
  PageText page;
  for (const xmlNode* node = root; node;) {
    bool down = node->children != nullptr;
    if (node->type == XML_TEXT_NODE && node->content) page.add(node);
    if (node->type == XML_ELEMENT_NODE) {
      if (isQuiet(node)) down = false;
      if (down)
        page.enter(node);
      else if (isBlock(node))
        breakLine(page.text);
    }
    if (down) {
      node = node->children;
      continue;
    }
    while (node && node != root && !node->next) {
      node = node->parent;
      if (node && node->type == XML_ELEMENT_NODE) page.leave(node);
    }
    if (!node || node == root) break;
    node = node->next;
  }
  return std::move(page.text);
}

std::string trimmed(std::string_view s) {
  const auto first = s.find_first_not_of(" \t\r");
  return first == std::string_view::npos ? std::string()
                                         : std::string(s.substr(first, s.find_last_not_of(" \t\r") - first + 1));
}

}  // namespace

std::string validUtf8(std::string_view bytes) {
  const std::unique_ptr<char, void (*)(void*)> valid(g_utf8_make_valid(bytes.data(), static_cast<gssize>(bytes.size())),
                                                     g_free);
  std::string text = valid.get();
  text.erase(std::remove(text.begin(), text.end(), '\r'), text.end());
  return text;
}

std::string htmlToText(const std::string& html) {
  const std::unique_ptr<htmlParserCtxt, void (*)(htmlParserCtxt*)> context(
      htmlCreateMemoryParserCtxt(html.data(), static_cast<int>(std::min<std::size_t>(html.size(), 16u << 20))),
      htmlFreeParserCtxt);
  if (!context) return {};
  htmlCtxtUseOptions(context.get(), HTML_PARSE_RECOVER | HTML_PARSE_NOERROR | HTML_PARSE_NOWARNING | HTML_PARSE_NONET);
  // Elements may nest beyond 255: what mail programs pile up in long threads.
  context->options |= XML_PARSE_HUGE;
  xmlSwitchEncoding(context.get(), XML_CHAR_ENCODING_UTF8);
  htmlParseDocument(context.get());
  const std::unique_ptr<xmlDoc, void (*)(xmlDoc*)> page(context->myDoc, xmlFreeDoc);
  context->myDoc = nullptr;
  std::string text;
  if (page)
    if (const xmlNode* root = xmlDocGetRootElement(page.get())) text = collected(root);
  while (!text.empty() && (text.back() == ' ' || text.back() == '\n')) text.pop_back();
  return text;
}

namespace {

bool isHeaderLine(std::string_view line) {
  for (std::string_view name : {"From:", "Sent:", "Date:", "To:", "Subject:", "Cc:"})
    if (line.starts_with(name)) return true;
  return false;
}

// How a mail program introduces the message that is answered, in the languages it may be set to.
bool introducesOnOneLine(std::string_view line) {
  constexpr std::pair<std::string_view, std::string_view> kForms[]{
      {"On ", "wrote:"},         {"Am ", "schrieb:"},    {"Le ", "crit :"},  {"Le ", "crit\u00A0:"},
      {"El ", "escribi\u00F3:"}, {"Il ", "ha scritto:"}, {"Op ", "schreef:"}};
  for (const auto& [begin, end] : kForms)
    if (line.starts_with(begin) && line.ends_with(end)) return true;
  return line.starts_with("-----Original Message") || line.starts_with("---------- Forwarded message");
}

// The number of lines from `i` that introduce an older message; 0 when they do not.
std::size_t introduction(const std::vector<std::string>& lines, std::size_t i) {
  if (introducesOnOneLine(lines[i])) return 1;
  // Long ones are broken after the name.
  if (lines[i].starts_with("On ") && i + 1 < lines.size() && lines[i + 1].ends_with("wrote:")) return 2;
  const std::size_t first = lines[i].starts_with("________________") ? i + 1 : i;
  std::size_t headers = 0;
  while (first + headers < lines.size() && isHeaderLine(lines[first + headers])) ++headers;
  return headers >= 2 && lines[first].starts_with("From:") ? first + headers - i : 0;
}

void trimEnd(std::string& text) {
  while (!text.empty() && (text.back() == '\n' || text.back() == ' ')) text.pop_back();
}

}  // namespace

OwnAndQuoted splitQuotes(std::string_view text) {
  std::vector<std::string> lines, bare;
  std::istringstream stream{std::string(text)};
  for (std::string line; std::getline(stream, line);) {
    bare.push_back(trimmed(line));
    lines.push_back(std::move(line));
  }
  OwnAndQuoted out;
  const auto marked = [&](std::size_t i) { return bare[i].starts_with(">"); };
  for (std::size_t i = 0; i < lines.size();) {
    if (marked(i)) {
      out.quoted += lines[i++] + "\n";
      continue;
    }
    const std::size_t n = introduction(bare, i);
    if (n == 0) {
      out.own += lines[i++] + "\n";
      continue;
    }
    std::size_t next = i + n;
    while (next < lines.size() && bare[next].empty()) ++next;
    const bool marks_follow = next < lines.size() && marked(next);
    const bool answered_above = out.own.find_first_not_of(" \n\t") != std::string::npos;
    for (; i < next; ++i) out.quoted += lines[i] + "\n";
    if (marks_follow || !answered_above) continue;
    for (; i < lines.size(); ++i) out.unmarked += lines[i] + "\n";
    out.quoted += out.unmarked;
  }
  // Where quotes were taken out from between, no gap is left.
  for (std::size_t gap; (gap = out.own.find("\n\n\n")) != std::string::npos;) out.own.erase(gap, 1);
  trimEnd(out.own);
  out.own.erase(0, std::min(out.own.find_first_not_of('\n'), out.own.size()));
  trimEnd(out.quoted);
  trimEnd(out.unmarked);
  return out;
}

std::vector<std::string> linksIn(std::string_view text) {
  std::vector<std::string> links;
  for (std::size_t at = 0; (at = text.find("http", at)) != std::string_view::npos;) {
    const std::string_view rest = text.substr(at);
    const std::size_t end = std::min(rest.find_first_of(" \n\t<>\")"), rest.size());
    if (rest.starts_with("http://") || rest.starts_with("https://")) links.emplace_back(rest.substr(0, end));
    at += std::max<std::size_t>(end, 4);
  }
  return links;
}

}  // namespace jib::exchange
