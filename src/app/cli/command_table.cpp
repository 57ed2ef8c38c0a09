// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command.h"

namespace amber::app {

// Each is made in the file of its class.
std::unique_ptr<Command> planCommand();
std::unique_ptr<Command> pointCommand();
std::unique_ptr<Command> primeCommand();
std::unique_ptr<Command> startOrderCommand();
std::unique_ptr<Command> calibrateCommand();
std::unique_ptr<Command> cruiseCommand();
std::unique_ptr<Command> chartCommand();
std::unique_ptr<Command> warmUpCommand();
std::unique_ptr<Command> letDownCommand();
std::unique_ptr<Command> coolDownCommand();
std::unique_ptr<Command> loadCommand();
std::unique_ptr<Command> fuelCommand();
std::unique_ptr<Command> tanksCommand();
std::unique_ptr<Command> bestCommand();
std::unique_ptr<Command> troubleCommand();
std::unique_ptr<Command> stepCommand();
std::unique_ptr<Command> notesCommand();
std::unique_ptr<Command> drillCommand();
std::unique_ptr<Command> rehearseCommand();
std::unique_ptr<Command> liveCommand();
std::unique_ptr<Command> standInCommand();
std::unique_ptr<Command> logCommand();
std::unique_ptr<Command> trendCommand();
std::unique_ptr<Command> auditCommand();
std::unique_ptr<Command> learnCommand();
std::unique_ptr<Command> hoursCommand();
std::unique_ptr<Command> trialCommand();
std::unique_ptr<Command> checkCommand();
std::unique_ptr<Command> rangesCommand();
std::unique_ptr<Command> shellCommand();
std::unique_ptr<Command> snapshotCommand();
std::unique_ptr<Command> bookletCommand();

std::vector<std::unique_ptr<Command>> allCommands() {
    std::vector<std::unique_ptr<Command>> out;
    for (auto* make :
         {planCommand,    pointCommand,    primeCommand,    startOrderCommand, calibrateCommand, cruiseCommand,
          chartCommand,   loadCommand,     fuelCommand,     tanksCommand,      bestCommand,      warmUpCommand,
          letDownCommand, coolDownCommand, troubleCommand,  stepCommand,       drillCommand,     notesCommand,
          checkCommand,   rangesCommand,   snapshotCommand, rehearseCommand,   liveCommand,      standInCommand,
          logCommand,     trendCommand,    auditCommand,    learnCommand,      hoursCommand,     trialCommand,
          bookletCommand, shellCommand})
        out.push_back(make());
    return out;
}

} // namespace amber::app
