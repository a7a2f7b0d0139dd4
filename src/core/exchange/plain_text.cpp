// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/plain_text.h"

#include <glib.h>
#include <libxml/HTMLparser.h>

#include <algorithm>
#include <cstring>
#include <memory>
#include <sstream>

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

// Text nodes in order; runs of white space become one space. Without recursion: pages nest as deep as they like.
void collect(const xmlNode* root, std::string& text) {
  for (const xmlNode* node = root; node;) {
    bool down = node->children != nullptr;
    if (node->type == XML_TEXT_NODE && node->content) {
      for (const char* c = reinterpret_cast<const char*>(node->content); *c; ++c) {
        const bool space = *c == ' ' || *c == '\n' || *c == '\t' || *c == '\r';
        if (!space)
          text += *c;
        else if (!text.empty() && text.back() != ' ' && text.back() != '\n')
          text += ' ';
      }
    } else if (node->type == XML_ELEMENT_NODE) {
      if (isBlock(node)) breakLine(text);
      // A quotation in a page is an older message.
      if (isQuiet(node) || std::strcmp(reinterpret_cast<const char*>(node->name), "blockquote") == 0) down = false;
    }
    if (down) {
      node = node->children;
      continue;
    }
    while (node && node != root && !node->next) {
      node = node->parent;
      if (node && node->type == XML_ELEMENT_NODE && isBlock(node)) breakLine(text);
    }
    node = !node || node == root ? nullptr : node->next;
  }
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
  const std::unique_ptr<xmlDoc, void (*)(xmlDoc*)> page(
      htmlReadMemory(html.data(), static_cast<int>(std::min<std::size_t>(html.size(), 16u << 20)), nullptr, "utf-8",
                     HTML_PARSE_RECOVER | HTML_PARSE_NOERROR | HTML_PARSE_NOWARNING | HTML_PARSE_NONET),
      xmlFreeDoc);
  std::string text;
  if (page)
    if (const xmlNode* root = xmlDocGetRootElement(page.get())) collect(root, text);
  while (!text.empty() && (text.back() == ' ' || text.back() == '\n')) text.pop_back();
  return text;
}

std::string withoutQuotes(std::string_view text) {
  std::string out;
  std::istringstream lines{std::string(text)};
  for (std::string line; std::getline(lines, line);) {
    const std::string t = trimmed(line);
    if (t.starts_with(">")) continue;
    const bool introduces = (t.starts_with("On ") && t.ends_with("wrote:")) || t.starts_with("-----Original Message") ||
                            t.starts_with("________________") || t.starts_with("From: ");
    if (introduces) break;
    out += line + "\n";
  }
  while (!out.empty() && (out.back() == '\n' || out.back() == ' ')) out.pop_back();
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
