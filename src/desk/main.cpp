// SPDX-License-Identifier: GPL-3.0-or-later
#include <sys/stat.h>

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QSettings>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <cstdio>
#include <filesystem>
#include <string_view>

#include "core/base/resources.h"
#include "core/library/dates.h"
#include "core/library/demo.h"
#include "desk/cannot_open.h"
#include "desk/desk_window.h"
#include "desk/guarded_application.h"
#include "desk/spelling_translator.h"
#include "desk/theme.h"
#include "desk/units.h"
#include "desk/widgets/plain_tips.h"

namespace {

// The demo plays on a copy, so that it can be played again.
bool copyDemo(const std::filesystem::path& to) {
  std::error_code error;
  std::filesystem::copy(jib::resource("../demo/library"), to, std::filesystem::copy_options::recursive, error);
  return !error;
}

}  // namespace

int main(int argc, char** argv) {
  // What is written here is of private people: nobody else on the machine reads it.
  umask(077);
  // Asked only what it is, the program needs no screen.
  for (int i = 1; i < argc; ++i)
    for (const char* question : {"--help", "-h", "--help-all", "--version", "-v"})
      if (std::string_view(argv[i]) == question && !qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
  jib::desk::GuardedApplication application(argc, argv);
  QApplication::setOrganizationName(QStringLiteral("jagged-jib"));
  QApplication::setApplicationName(QStringLiteral("jagged-jib"));
  QApplication::setApplicationVersion(QStringLiteral(JIB_VERSION));
  QApplication::setWindowIcon(QIcon(QString::fromStdString(jib::resource("icons/jagged-jib.svg").string())));
  QCommandLineParser parser;
  parser.setApplicationDescription(QStringLiteral("Review of squat, bench and deadlift videos"));
  parser.addHelpOption();
  parser.addVersionOption();
  const QCommandLineOption demo(QStringLiteral("demo"), QStringLiteral("Open a copy of the demo library."));
  const QCommandLineOption folder(QStringLiteral("library"), QStringLiteral("Open the library in this folder."),
                                  QStringLiteral("folder"));
  parser.addOptions({demo, folder});
  parser.process(application);

  const bool night = QSettings().value(QStringLiteral("night"), false).toBool();
  jib::desk::applyKeptUnits();
  jib::useSpelling(jib::desk::keptSpelling());
  QApplication::installTranslator(new jib::desk::SpellingTranslator(&application));
  jib::desk::keepTipsPlain(application);
  jib::desk::applyTheme(application, night ? jib::desk::Theme::Night : jib::desk::Theme::Day);

  QTemporaryDir scratch;
  std::filesystem::path path = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation).toStdString();
  if (parser.isSet(folder)) path = parser.value(folder).toStdString();
  if (parser.isSet(demo)) {
    path = std::filesystem::path(scratch.path().toStdString()) / "library";
    if (!copyDemo(path)) {
      std::fprintf(stderr, "jagged-jib: the demo library could not be copied to %s. Check that the disk has space.\n",
                   path.c_str());
      return 5;
    }
    // Played on the days it was written for it is still a demo.
    if (auto moved = jib::library::bringUpToDate(path, jib::library::today()); !moved)
      std::fprintf(stderr, "jagged-jib: %s\n", moved.error().sentence().c_str());
  }
  auto library = jib::library::Library::open(path);
  if (!library) {
    // Started from an icon, nobody reads standard error.
    std::fprintf(stderr, "jagged-jib: %s\n", library.error().sentence().c_str());
    jib::desk::tellCannotOpen(QString::fromStdString(path.string()),
                              QString::fromStdString(library.error().sentence()));
    return 3;
  }
  jib::desk::DeskWindow window(std::move(*library));
  QObject::connect(&application, &jib::desk::GuardedApplication::wentWrong, &window,
                   [&window](const QString& sentence) { window.say(sentence); });
  window.show();
  window.prepareInBackground();
  return QApplication::exec();
}
