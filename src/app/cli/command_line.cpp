// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"
#include "cli/engine_commands.h"
#include "cli/exit_codes.h"
#include "cli/heat_commands.h"
#include "cli/point_command.h"
#include "cli/start_commands.h"
#include "flight/open_files.h"
#include "notes/document.h"
#include "notes/key_ranges.h"
#include "notes/notes_reader.h"
#include "plan/plan_export.h"
#include <CLI/CLI.hpp>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <fmt/format.h>
#include <sstream>
#include <system_error>

namespace amber::app {
namespace {

void print(const Problems& problems, std::FILE* to) {
    for (const auto& p : problems)
        fmt::print(to, "{}\n", p.text());
}

int runPlan(const std::string& path, bool json, bool csv) {
    const auto loaded = flight::loadSortie(path);
    if (!loaded.ok()) {
        print(loaded.problems, stderr);
        return exitProblems;
    }
    const auto made = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    const std::string text = json  ? plan::planJson(*loaded.aircraft, *loaded.sortie, made)
                             : csv ? plan::planCsv(made)
                                   : plan::planText(made);
    fmt::print("{}", text);
    return exitOk;
}

/// Notes, or a sortie when the file has an [airframe].
int runCheck(const std::vector<std::string>& files) {
    bool bad = false;
    for (const auto& file : files) {
        Problems problems;
        std::string verdict;
        const auto text = document::readFile(file, problems);
        if (text) {
            Problems ignored;
            const auto root = document::parse(*text, file, ignored);
            if (root && root->find("airframe")) {
                problems = flight::loadSortieText(*text, file).problems;
                verdict = "sortie";
            } else {
                const auto plain = readNotes(*text, file);
                problems = plain.problems;
                verdict = "notes";
                std::vector<std::string> variants{plain.notes ? plain.notes->variant : ""};
                if (plain.notes)
                    for (const auto& v : plain.notes->variants)
                        if (v.id != variants.front())
                            variants.push_back(v.id);
                for (const auto& v : variants)
                    if (problems.empty()) {
                        const auto loaded = flight::loadAircraft(file, v);
                        problems = loaded.problems;
                        if (loaded.aircraft)
                            problems = engine::contradictions(loaded.aircraft->notes, loaded.aircraft->calibration);
                    }
            }
        }
        print(problems, stdout);
        bad = bad || !problems.empty();
        if (problems.empty())
            fmt::print("{}: {} in order\n", file, verdict);
    }
    return bad ? exitProblems : exitOk;
}

/// "1280x800". @return false when it is not that
bool readSize(const std::string& text, int& width, int& height) {
    char end = 0;
    return std::sscanf(text.c_str(), "%dx%d%c", &width, &height, &end) == 2 && width >= 640 && height >= 480 &&
           width <= 7680 && height <= 4320;
}

int parseAndRun(int argc, char** argv, const CommandActions& actions) {
    CLI::App app{"Amber Throttle plans the engine settings of a sortie for period aircraft.\n"
                 "It plans and teaches; approved flight manuals, placards and licensed engineers come first.",
                 "amber-throttle"};
    app.set_version_flag("--version", "amber-throttle " AMBER_VERSION);
    app.footer("Exit codes: 0 done, 1 problems in the input, 2 wrong command, 3 output could not be written.");

    std::string sortie;
    bool demo = false;
    app.add_option("file", sortie, "Sortie to open in the window");
    app.add_flag("--demo", demo, "Open the demo sortie");

    auto* planCommand = app.add_subcommand("plan", "Plan a sortie: text, or one of the formats");
    std::string planFile, pdf;
    bool json = false, csv = false;
    planCommand->add_option("sortie", planFile, "Sortie file (TOML)")->required();
    auto* jsonFlag = planCommand->add_flag("--json", json, "JSON to standard output");
    auto* csvFlag = planCommand->add_flag("--csv", csv, "CSV to standard output")->excludes(jsonFlag);
    auto* pdfOption = planCommand->add_option("--pdf", pdf, "Write the card (A5 PDF) to this file")
                          ->excludes(jsonFlag)
                          ->excludes(csvFlag);

    auto* pointCommand = app.add_subcommand("point", "One steady point of one engine");
    PointOptions point;
    pointCommand->add_option("--notes", point.notes, "Type notes (TOML)")->required();
    pointCommand->add_option("--variant", point.variant, "Variant of the type");
    pointCommand->add_option("--rpm", point.rpm, "Engine speed")->required();
    pointCommand->add_option("--boost", point.boost, "Boost or manifold pressure with its unit; full throttle without");
    pointCommand->add_option("--gear", point.gear, "Supercharger gear");
    pointCommand->add_option("--altitude", point.altitude, "Pressure altitude")->required();
    pointCommand->add_option("--oat", point.oat, "Outside air temperature there; standard without");
    pointCommand->add_option("--ias", point.ias, "Indicated airspeed, for ram; standing without");
    pointCommand->add_option("--mixture", point.mixture, "rich, weak or a fuel-air ratio");
    pointCommand->add_option("--grade", point.grade,
                             "Fuel grade for the knock boundary; the best of the notes without");
    pointCommand->add_option("--carburettor-heat", point.carburettorHeat, "Rise of the carburettor air");
    pointCommand->add_option("--dew-point", point.dewPoint, "Dew point of the air; dry without");
    pointCommand->add_flag("--water", point.water, "Water injection on");
    pointCommand->add_flag("--static", point.staticRpm, "Also the rpm standing on the fine stop at this boost");
    pointCommand->add_flag("--json", point.json, "JSON to standard output");

    auto* primeCommand = app.add_subcommand("prime", "Priming dose for one engine temperature");
    PrimeOptions prime;
    primeCommand->add_option("--notes", prime.notes, "Type notes (TOML)")->required();
    primeCommand->add_option("--variant", prime.variant, "Variant of the type");
    primeCommand->add_option("--temperature", prime.temperature, "Temperature of the engine")->required();
    primeCommand->add_option("--altitude", prime.altitude, "Pressure altitude of the field");
    primeCommand->add_flag("--json", prime.json, "JSON to standard output");

    auto* startCommand = app.add_subcommand("start-order", "Timeline of a start");
    StartOrderOptions startOrder;
    startCommand->add_option("--notes", startOrder.notes, "Type notes (TOML)")->required();
    startCommand->add_option("--variant", startOrder.variant, "Variant of the type");
    startCommand->add_option("--order", startOrder.order, "Engines in order, 3,4,2,1; the notes' without");
    startCommand->add_option("--fail", startOrder.fail, "Tries that do not catch, 4:1,2:2");
    startCommand->add_option("--temperature", startOrder.temperature, "Temperature of engines and oil")->required();
    startCommand->add_option("--altitude", startOrder.altitude, "Pressure altitude of the field");
    startCommand->add_option("--supply", startOrder.supply, "cart or battery")
        ->check(CLI::IsMember({"cart", "battery"}))
        ->capture_default_str();
    startCommand->add_flag("--json", startOrder.json, "JSON to standard output");

    auto* calibrateCommand =
        app.add_subcommand("calibrate", "Fit the engine model to the rating lines and say how well");
    CalibrateOptions calibrate;
    calibrateCommand->add_option("--notes", calibrate.notes, "Type notes (TOML)")->required();
    calibrateCommand->add_option("--variant", calibrate.variant, "Variant of the type");
    calibrateCommand->add_flag("--write", calibrate.write, "Write the parameters into the file");
    calibrateCommand->add_flag("--json", calibrate.json, "JSON to standard output");

    auto* cruiseCommand =
        app.add_subcommand("cruise", "Settings for a cruise: ask by power, burn, speed, endurance or range");
    CruiseOptions cruise;
    cruiseCommand->add_option("--notes", cruise.notes, "Type notes (TOML)")->required();
    cruiseCommand->add_option("--variant", cruise.variant, "Variant of the type");
    cruiseCommand->add_option("--altitude", cruise.altitude, "Pressure altitude")->required();
    cruiseCommand->add_option("--oat", cruise.oat, "Outside air temperature there; standard without");
    cruiseCommand->add_option("--dew-point", cruise.dewPoint, "Dew point there; dry air without");
    cruiseCommand->add_option("--grade", cruise.grade, "Fuel grade; the best of the notes without");
    cruiseCommand->add_option("--weight", cruise.weight, "Weight; the middle of the speed table without");
    cruiseCommand->add_option("--fuel", cruise.fuel, "Usable fuel; full tanks without");
    cruiseCommand->add_option("--power", cruise.power, "Power of one engine");
    cruiseCommand->add_option("--burn", cruise.burn, "Fuel flow of all engines");
    cruiseCommand->add_option("--speed", cruise.speed, "True airspeed");
    cruiseCommand->add_option("--endurance", cruise.endurance, "Hours in the air");
    cruiseCommand->add_option("--range", cruise.range, "Distance in still air");
    cruiseCommand->add_flag("--json", cruise.json, "JSON to standard output");

    auto* chartCommand = app.add_subcommand("chart", "The power chart; with --rpm and --boost its construction");
    ChartOptions chart;
    chartCommand->add_option("--notes", chart.notes, "Type notes (TOML)")->required();
    chartCommand->add_option("--variant", chart.variant, "Variant of the type");
    chartCommand->add_option("--rpm", chart.rpm, "Engine speed of the constant-boost lines; the climb's without");
    chartCommand->add_option("--boost", chart.boost, "Boost to construct a reading for");
    chartCommand->add_option("--gear", chart.gear, "Supercharger gear");
    chartCommand->add_option("--altitude", chart.altitude, "Pressure altitude of the reading");
    chartCommand->add_option("--oat", chart.oat, "Outside air temperature there; standard without");
    auto* chartJson = chartCommand->add_flag("--json", chart.json, "JSON to standard output");
    chartCommand->add_flag("--csv", chart.csv, "CSV to standard output (without any other)")->excludes(chartJson);
    auto* svgOption = chartCommand->add_option("--svg", chart.svg, "Draw it to this SVG file");
    auto* pngOption = chartCommand->add_option("--png", chart.png, "Draw it to this PNG file");

    auto* warmCommand = app.add_subcommand("warmup", "Start and warm-up of every engine on a cold or mild day");
    WarmUpOptions warm;
    warmCommand->add_option("--notes", warm.notes, "Type notes (TOML)")->required();
    warmCommand->add_option("--variant", warm.variant, "Variant of the type");
    warmCommand->add_option("--temperature", warm.temperature, "Temperature of air and engines")->required();
    warmCommand->add_option("--preheated", warm.preheated, "Temperature the engines were heated to");
    warmCommand->add_option("--elevation", warm.elevation, "Elevation of the field");
    warmCommand->add_flag("--diluted", warm.diluted, "The oil was diluted at the last stop");
    warmCommand->add_flag("--blanks", warm.blanks, "Blanks on the oil cooler");
    warmCommand->add_flag("--json", warm.json, "JSON to standard output");

    auto* downCommand = app.add_subcommand("letdown", "Steps of power from a height down to the circuit");
    LetDownOptions down;
    downCommand->add_option("--notes", down.notes, "Type notes (TOML)")->required();
    downCommand->add_option("--variant", down.variant, "Variant of the type");
    downCommand->add_option("--from", down.from, "Height it begins at, above the sea")->required();
    downCommand->add_option("--to", down.to, "Elevation of the field")->required();
    downCommand->add_option("--oat", down.oat, "Temperature at the field; standard without");
    downCommand->add_option("--rate", down.rate, "Rate of descent; the notes' without");
    downCommand->add_option("--weight", down.weight, "Weight; the middle of the speed table without");
    downCommand->add_flag("--json", down.json, "JSON to standard output");

    auto* coolCommand = app.add_subcommand("cooldown", "Idle until cool enough, dilution, and the next start");
    CoolDownOptions cool;
    coolCommand->add_option("--notes", cool.notes, "Type notes (TOML)")->required();
    coolCommand->add_option("--variant", cool.variant, "Variant of the type");
    coolCommand->add_option("--temperature", cool.temperature, "Heads or coolant when parked")->required();
    coolCommand->add_option("--oat", cool.oat, "Temperature of the air")->required();
    coolCommand->add_option("--elevation", cool.elevation, "Elevation of the field");
    coolCommand->add_option("--forecast", cool.forecast, "Lowest temperature before the next start");
    coolCommand->add_flag("--json", cool.json, "JSON to standard output");

    auto* checkCommand = app.add_subcommand("check", "Check type notes and sorties; list every problem");
    std::vector<std::string> files;
    checkCommand->add_option("files", files, "Files to check")->required();

    auto* rangesCommand =
        app.add_subcommand("ranges", "What each figure of a file or an option may be, and why, as Markdown");
    std::string whose = "notes";
    rangesCommand->add_option("whose", whose, "notes, sortie or command")
        ->check(CLI::IsMember({"notes", "sortie", "command"}))
        ->capture_default_str();

    auto* snapshotCommand = app.add_subcommand("snapshot", "Draw a view of the demo to PNG, without a display");
    std::string view, out, size = "1280x800", theme = "day";
    bool list = false;
    snapshotCommand->add_option("--view", view, "View, see --list");
    snapshotCommand->add_option("--out", out, "PNG file");
    snapshotCommand->add_option("--size", size, "WIDTHxHEIGHT")->capture_default_str();
    snapshotCommand->add_option("--theme", theme, "day or hangar")
        ->check(CLI::IsMember({"day", "hangar"}))
        ->capture_default_str();
    snapshotCommand->add_flag("--list", list, "List the views");
    app.require_subcommand(0, 1);

    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& error) {
        std::ostringstream told, wrong; // through our own printing, which notices what cannot be written
        const bool asked = app.exit(error, told, wrong) == 0;
        fmt::print("{}", told.str());
        fmt::print(stderr, "{}", wrong.str());
        return asked ? exitOk : exitUsage;
    }

    if (planCommand->parsed())
        return pdfOption->empty() ? runPlan(planFile, json, csv) : actions.card(planFile, pdf);
    if (pointCommand->parsed())
        return runPoint(point);
    if (primeCommand->parsed())
        return runPrime(prime);
    if (startCommand->parsed())
        return runStartOrder(startOrder);
    if (calibrateCommand->parsed())
        return runCalibrate(calibrate);
    if (cruiseCommand->parsed())
        return runCruise(cruise);
    if (chartCommand->parsed()) {
        if ((!svgOption->empty() && chart.svg.empty()) || (!pngOption->empty() && chart.png.empty())) {
            fmt::print(stderr, "amber-throttle chart: there is no file name to write to\n");
            return exitWrite;
        }
        return svgOption->empty() && pngOption->empty() ? runChart(chart) : actions.chart(chart);
    }
    if (warmCommand->parsed())
        return runWarmUp(warm);
    if (downCommand->parsed())
        return runLetDown(down);
    if (coolCommand->parsed())
        return runCoolDown(cool);
    if (checkCommand->parsed())
        return runCheck(files);
    if (rangesCommand->parsed()) {
        fmt::print("{}", rangesAsMarkdown(whose == "notes"    ? FileFormat::notes
                                          : whose == "sortie" ? FileFormat::sortie
                                                              : FileFormat::command));
        return exitOk;
    }
    if (snapshotCommand->parsed()) {
        if (list) {
            for (const auto& name : actions.snapshotViews)
                fmt::print("{}\n", name);
            return exitOk;
        }
        int width = 0, height = 0;
        if (!readSize(size, width, height) || view.empty() || out.empty()) {
            fmt::print(stderr,
                       "amber-throttle snapshot: --view and --out are needed; --size is WIDTHxHEIGHT from 640x480\n");
            return exitUsage;
        }
        return actions.snapshot(view, out, width, height, theme == "hangar");
    }
    return actions.window(sortie, demo);
}

} // namespace

int runCommandLine(int argc, char** argv, const CommandActions& actions) {
    // A reader that goes away (head, a pager) is an output that could not be written, not a reason to be killed.
    std::signal(SIGPIPE, SIG_IGN);
    int code = exitWrite;
    std::string why;
    try {
        code = parseAndRun(argc, argv, actions);
        errno = 0;
        if (std::fflush(stdout) != 0 || std::ferror(stdout) != 0)
            why = errno ? std::strerror(errno) : "it came out short";
    } catch (const std::system_error& error) {
        why = error.code().message();
    }
    if (why.empty())
        return code;
    std::fprintf(stderr, "amber-throttle: standard output could not be written: %s\n", why.c_str());
    return exitWrite;
}

} // namespace amber::app
