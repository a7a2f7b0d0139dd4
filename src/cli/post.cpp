// SPDX-License-Identifier: GPL-3.0-or-later
// The stand-in for mail: made-up athletes send messages into a Maildir, and read what the coach's outbox holds.
#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <memory>
#include <nlohmann/json.hpp>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "core/exchange/mail/mail.h"

namespace jib::cli {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

struct PostOptions {
  std::string scenario, maildir, outbox;
};

Result<bool> sendOne(const Json& j, const fs::path& beside, const fs::path& inbox) {
  exchange::Mail mail;
  mail.from_name = j.value("from_name", "");
  mail.from_address = j.at("from_address");
  mail.to_address = j.value("to", "coach@reef-barbell.invalid");
  mail.subject = j.value("subject", "");
  mail.sent_on = j.value("on", "");
  mail.text = j.value("text", "");
  std::vector<fs::path> files;
  for (const Json& name : j.value("attach", Json::array())) files.push_back(beside / name.get<std::string>());
  auto bytes = exchange::composeMail(mail, files);
  if (!bytes) return fail(bytes.error());
  return writeWhole(FileSystem::real(), inbox / (sha256Of(*bytes).substr(0, 16) + ".eml"), *bytes);
}

Result<int> send(const PostOptions& o) {
  auto bytes = FileSystem::real().read(o.scenario);
  if (!bytes) return fail(bytes.error());
  std::error_code error;
  for (const char* part : {"new", "cur", "tmp"}) fs::create_directories(fs::path(o.maildir) / part, error);
  try {
    const Json j = Json::parse(*bytes);
    for (const Json& one : j.at("messages"))
      if (auto sent = sendOne(one, fs::path(o.scenario).parent_path(), fs::path(o.maildir) / "new"); !sent)
        return fail(sent.error());
    std::printf("%zu messages posted.\n", j.at("messages").size());
  } catch (const Json::exception& e) {
    return fail(ErrorCode::BadData, o.scenario + " is wrong: " + e.what() + ".", "docs/formats.md lists the keys.");
  }
  return kDone;
}

Result<int> readOutbox(const PostOptions& o) {
  std::error_code error;
  std::vector<fs::path> files;
  for (const auto& entry : fs::directory_iterator(o.outbox, error))
    if (entry.path().extension() == ".eml") files.push_back(entry.path());
  if (error) return fail(ErrorCode::CannotRead, o.outbox + " is not a folder that can be read.", "Check the path.");
  std::sort(files.begin(), files.end());
  for (const fs::path& file : files) {
    auto bytes = FileSystem::real().read(file);
    if (!bytes) return fail(bytes.error());
    auto mail = exchange::readMail(*bytes);
    if (!mail) return fail(mail.error());
    std::printf("To: %s\nSubject: %s\n\n%s\n", mail->to_address.c_str(), mail->subject.c_str(), mail->text.c_str());
    for (const auto& clip : mail->clips) std::printf("[%s, %zu kB]\n", clip.name.c_str(), clip.bytes.size() / 1024);
    std::printf("\n");
  }
  return kDone;
}

}  // namespace

void addPost(CLI::App& app, int& status) {
  auto o = std::make_shared<PostOptions>();
  CLI::App* post = app.add_subcommand("post", "Stand-in for mail: made-up messages into a Maildir, the outbox read");
  post->require_subcommand(1);
  const auto done = [&status](Result<int> result) { status = result ? *result : complain(result.error()); };
  CLI::App* send_command = post->add_subcommand("send", "Writes the messages of a scenario into a Maildir");
  send_command->add_option("scenario", o->scenario, "Messages (JSON)")->required();
  send_command->add_option("--maildir", o->maildir, "Where they arrive")->required();
  send_command->callback([o, done] { done(send(*o)); });
  CLI::App* read_command = post->add_subcommand("read", "Shows what lies in an outbox");
  read_command->add_option("outbox", o->outbox, "The folder")->required();
  read_command->callback([o, done] { done(readOutbox(*o)); });
}

}  // namespace jib::cli
