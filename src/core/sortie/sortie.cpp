// SPDX-License-Identifier: GPL-3.0-or-later
#include "sortie/sortie.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "files/table_reader.h"
#include "watch/run_up_sheet.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace amber {
// Made, copied and ended in one place: every file that holds one would compile it again.
Sortie::Sortie() = default;
Sortie::Sortie(const Sortie&) = default;
Sortie::Sortie(Sortie&&) noexcept = default;
Sortie& Sortie::operator=(const Sortie&) = default;
Sortie& Sortie::operator=(Sortie&&) noexcept = default;
Sortie::~Sortie() = default;
bool Sortie::operator==(const Sortie&) const = default;
bool Airframe::operator==(const Airframe& other) const {
    const auto all = [](const Airframe& a) {
        return std::tie(a.file, a.notes, a.variant, a.registration, a.extraPrime);
    };
    return all(*this) == all(other) && (facts == other.facts || (facts && other.facts && *facts == *other.facts));
}

namespace {
using document::Node;
using document::TableReader;

air::Day readDay(TableReader t) {
    air::Day day;
    day.field = t.text("field", true);
    day.elevation = t.quantity<Dimension::length>("elevation", true).value_or(Length{});
    day.qnh = t.quantity<Dimension::pressure>("qnh", true).value_or(day.qnh);
    day.oat = t.quantity<Dimension::temperature>("oat", true).value_or(day.oat);
    day.dewPoint = t.quantity<Dimension::temperature>("dew_point", true).value_or(day.dewPoint);
    const int windFrom = static_cast<int>(t.number("wind_from").value_or(0));
    day.wind = {windFrom, t.quantity<Dimension::speed>("wind_speed").value_or(Speed{})};
    t.finish();
    return day;
}
} // namespace

SortieReading readSortie(std::string_view text, const std::string& file) {
    SortieReading out;
    const auto root = document::parse(text, file, out.problems);
    if (!root)
        return out;
    TableReader t(*root, "", file, out.problems, FileFormat::sortie);
    Sortie s;
    t.number("format", true);
    s.title = t.text("title");
    if (auto a = t.table("airframe", true)) {
        s.airframe.file = a->text("file");
        s.airframe.notes = a->text("notes", s.airframe.file.empty());
        if (!s.airframe.file.empty() && !s.airframe.notes.empty())
            a->problem(a->line("notes"), "airframe names both a file and notes",
                       "The airframe's file says which notes: take notes out");
        s.airframe.variant = a->text("variant");
        s.airframe.registration = a->text("registration");
        for (const auto& [position, node] : a->members("extra_prime")) {
            if (node->kind != Node::Kind::number)
                a->problem(node->line, fmt::format("airframe.extra_prime.{} is not a dose", position),
                           "Write a number between −20 and 20");
            else if (a->within("extra_prime", *node, node->number))
                s.airframe.extraPrime[position] = node->number;
        }
        a->finish();
    }
    if (auto day = t.table("day", true))
        s.day = readDay(*day);
    if (auto load = t.table("load", true)) {
        s.fuelGrade = load->text("grade", true);
        const auto weight = load->quantity<Dimension::mass>("weight", !load->has("stations"));
        s.weight = weight.value_or(Mass::si(1000));
        s.load.weightTyped = weight.has_value();
        s.load.oil = load->quantity<Dimension::volume>("oil");
        for (const auto& [station, node] : load->members("stations")) {
            const auto mass = node->kind == Node::Kind::text ? read<Dimension::mass>(node->text)
                                                             : Result<Mass>(Failure{"it needs its unit, in quotes"});
            if (!mass)
                load->problem(node->line, fmt::format("load.stations.{}: {}", station, mass.error()),
                              "Write it as \"170 lb\"");
            else if (load->within("stations", *node, mass.value().si()))
                s.load.stations[station] = mass.value();
        }
        for (const auto& [station, node] : load->members("names")) {
            if (node->kind == Node::Kind::text)
                s.load.names[station] = node->text;
            else
                load->problem(node->line, fmt::format("load.names.{} must be text", station), "Put it in quotes");
        }
        for (const auto& [tank, node] : load->members("tanks")) {
            const auto volume = node->kind == Node::Kind::text
                                    ? read<Dimension::volume>(node->text)
                                    : Result<Volume>(Failure{"it needs its unit, in quotes"});
            if (!volume)
                load->problem(node->line, fmt::format("load.tanks.{}: {}", tank, volume.error()),
                              "Write it as \"120 US gal\"");
            else if (load->within("tanks", *node, volume.value().si()))
                s.contents[tank] = volume.value();
        }
        load->finish();
    }
    if (auto f = t.table("flight", true)) {
        s.flight.over = f->text("over");
        s.flight.to = f->text("to", true);
        s.flight.toElevation = f->quantity<Dimension::length>("to_elevation", true).value_or(Length{});
        s.flight.cruiseHeight = f->quantity<Dimension::length>("cruise_height", true).value_or(s.flight.cruiseHeight);
        s.flight.climbRating = f->text("climb_rating");
        s.flight.cruiseRating = f->text("cruise_rating");
        s.flight.cruiseRpm = f->quantity<Dimension::rotation>("cruise_rpm", false, units::rpm.spec);
        s.flight.cruiseBoost = f->quantity<Dimension::manifoldPressure>("cruise_boost");
        if (const auto mixture = f->word("cruise_mixture", {"rich", "weak"}))
            s.flight.cruiseMixture = *mixture == 0 ? Mixture::rich : Mixture::weak;
        s.flight.cruiseGear = f->text("cruise_gear");
        s.flight.distance = f->quantity<Dimension::distance>("distance", !f->has("leg")).value_or(Distance{});
        const bool distanceGiven = f->has("distance");
        s.flight.hold = f->quantity<Dimension::duration>("hold", false, units::minute.spec).value_or(Duration{});
        s.flight.takeOffRpm = f->quantity<Dimension::rotation>("take_off_rpm", false, units::rpm.spec);
        s.flight.takeOffBoost = f->quantity<Dimension::manifoldPressure>("take_off_boost");
        s.flight.climbRpm = f->quantity<Dimension::rotation>("climb_rpm", false, units::rpm.spec);
        s.flight.climbBoost = f->quantity<Dimension::manifoldPressure>("climb_boost");
        s.flight.track = f->number("track");
        const auto from = f->number("wind_aloft_from", f->has("wind_aloft_speed"));
        const auto aloft = f->quantity<Dimension::speed>("wind_aloft_speed", from.has_value());
        if (from && aloft)
            s.flight.aloft = air::Wind{static_cast<int>(std::lround(*from)), *aloft};
        s.flight.alternate = f->text("alternate");
        s.flight.alternateDistance =
            f->quantity<Dimension::distance>("alternate_distance", !s.flight.alternate.empty()).value_or(Distance{});
        for (auto& leg : f->tables("leg")) {
            s.flight.legs.push_back({leg.text("to", true),
                                     leg.quantity<Dimension::distance>("distance", true).value_or(Distance{}),
                                     leg.number("track")});
            leg.finish();
        }
        if (!distanceGiven) // the legs say it
            for (const auto& leg : s.flight.legs)
                s.flight.distance = Distance::si(s.flight.distance.si() + leg.distance.si());
        for (auto& bad : f->tables("bad_ground")) {
            const auto begin = bad.quantity<Dimension::distance>("from", true);
            const auto end = bad.quantity<Dimension::distance>("to", true);
            if (begin && end && !(*end > *begin))
                bad.problem(bad.line("to"), "flight.bad_ground ends before it begins", "Exchange from and to");
            else if (begin && end)
                s.flight.badGround.emplace_back(begin->si(), end->si());
            bad.finish();
        }
        f->finish();
    }
    if (auto f = t.table("fuel")) {
        s.fuel.order = f->texts("order");
        s.fuel.reserve = f->quantity<Dimension::duration>("reserve", false, units::minute.spec);
        s.fuel.dropAt = f->quantity<Dimension::distance>("drop_at");
        s.fuel.priceOfTime = f->quantity<Dimension::volumeFlow>("price_of_time");
        f->finish();
    }
    if (auto f = t.table("field")) {
        s.strip.runway = f->number("runway");
        s.strip.length = f->quantity<Dimension::length>("length");
        s.strip.slope = f->number("slope").value_or(0.0);
        s.strip.grass = f->word("surface", {"hard", "grass"}).value_or(0) == 1;
        s.strip.wet = f->flag("wet").value_or(false);
        f->finish();
    }
    if (auto c = t.table("start")) {
        s.start.order = c->texts("order");
        s.start.supply =
            c->word("supply", {"cart", "battery"}).value_or(0) == 0 ? start::Supply::cart : start::Supply::battery;
        s.start.sinceStop = c->quantity<Dimension::duration>("stopped_for");
        s.start.preheated = c->quantity<Dimension::temperature>("preheated");
        s.start.diluted = c->flag("diluted").value_or(false);
        s.start.blanks = c->flag("blanks").value_or(false);
        c->finish();
    }
    if (auto w = t.table("walk_round")) {
        s.walk.attitude = w->number("attitude");
        for (const auto& [item, node] : w->members("found")) {
            if (node->kind == Node::Kind::text)
                s.walk.found[item] = node->text;
            else
                w->problem(node->line, fmt::format("walk_round.found.{} must be text", item),
                           "Write a reading with its unit, \"in order\", or the defect in words");
        }
        w->finish();
    }
    if (auto r = t.table("run_up")) {
        for (const auto& [item, node] : r->members("found")) {
            if (node->kind == Node::Kind::text)
                s.runUpFound[item] = node->text;
            else
                r->problem(node->line, fmt::format("run_up.found.{} must be text", item),
                           "Write the reading with its unit, \"80 rpm, slow\"");
        }
        r->finish();
    }
    if (auto e = t.table("stop")) {
        s.forecast = e->quantity<Dimension::temperature>("forecast");
        e->finish();
    }
    for (const auto& [step, node] : t.members("choices")) {
        if (node->kind == Node::Kind::text)
            s.choices[step] = node->text;
        else
            t.problem(node->line, fmt::format("choices.{} must be the name of a school", step), "Put it in quotes");
    }
    t.finish();
    std::stable_sort(out.problems.begin(), out.problems.end(),
                     [](const Problem& a, const Problem& b) { return a.line < b.line; });
    if (out.problems.empty())
        out.sortie = std::move(s);
    return out;
}

SortieReading readSortieFile(const std::string& path) {
    SortieReading out;
    const auto text = document::readFile(path, out.problems);
    if (!text)
        return out;
    return readSortie(*text, path);
}

namespace {
/// Every figure of a sortie with the path of its range: what typing, dragging and a METAR change without a file.
void checkFigures(const Sortie& s, const Cockpit& cockpit, const std::string& file, Problems& out) {
    const auto within = [&](const char* key, const char* name, double value, const UnitSpec* unit = nullptr) {
        const KeyRange* range = rangeOf(FileFormat::sortie, key);
        if (!range || range->holds(value))
            return;
        out.push_back({file, 0,
                       fmt::format("{} {} is out of range", name,
                                   unit && std::isfinite(value) ? format(value, *unit) : formatNumber(value, 3)),
                       range->expected()});
    };
    within("day.elevation", "Elevation", s.day.elevation.si(), cockpit.height);
    within("day.qnh", "QNH", s.day.qnh.si(), units::hPa.spec);
    within("day.oat", "OAT", s.day.oat.si(), cockpit.temperature);
    within("day.dew_point", "Dew point", s.day.dewPoint.si(), cockpit.temperature);
    within("day.wind_from", "Wind from", s.day.wind.fromDegrees);
    within("day.wind_speed", "Wind", s.day.wind.speed.si(), units::knot.spec);
    within("load.weight", "Weight", s.weight.si(), cockpit.weight);
    within("flight.to_elevation", "Elevation of the landing field", s.flight.toElevation.si(), cockpit.height);
    within("flight.cruise_height", "Cruise height", s.flight.cruiseHeight.si(), cockpit.height);
    within("flight.distance", "Distance", s.flight.distance.si(), cockpit.distance);
    within("flight.hold", "Queue", s.flight.hold.si(), units::minute.spec);
    if (s.flight.cruiseRpm)
        within("flight.cruise_rpm", "Cruise", s.flight.cruiseRpm->si(), units::rpm.spec);
    if (s.flight.cruiseBoost)
        within("flight.cruise_boost", "Cruise boost", s.flight.cruiseBoost->si(), cockpit.boost);
    if (s.flight.takeOffRpm)
        within("flight.take_off_rpm", "Take-off", s.flight.takeOffRpm->si(), units::rpm.spec);
    if (s.flight.takeOffBoost)
        within("flight.take_off_boost", "Take-off boost", s.flight.takeOffBoost->si(), cockpit.boost);
    if (s.flight.climbRpm)
        within("flight.climb_rpm", "Climb", s.flight.climbRpm->si(), units::rpm.spec);
    if (s.flight.climbBoost)
        within("flight.climb_boost", "Climb boost", s.flight.climbBoost->si(), cockpit.boost);
    if (s.flight.track)
        within("flight.track", "Track", *s.flight.track);
    if (s.flight.aloft) {
        within("flight.wind_aloft_from", "Wind aloft from", s.flight.aloft->fromDegrees);
        within("flight.wind_aloft_speed", "Wind aloft", s.flight.aloft->speed.si(), units::knot.spec);
    }
    within("flight.alternate_distance", "Distance of the alternate", s.flight.alternateDistance.si(), cockpit.distance);
    for (const auto& leg : s.flight.legs) {
        within("flight.leg.distance", "Leg", leg.distance.si(), cockpit.distance);
        if (leg.track)
            within("flight.leg.track", "Track", *leg.track);
    }
    for (const auto& [from, to] : s.flight.badGround)
        for (const double end : {from, to})
            within("flight.bad_ground.to", "Bad ground", end, cockpit.distance);
    if (s.fuel.reserve)
        within("fuel.reserve", "Reserve", s.fuel.reserve->si(), units::minute.spec);
    if (s.fuel.dropAt)
        within("fuel.drop_at", "Letting go", s.fuel.dropAt->si(), cockpit.distance);
    if (s.fuel.priceOfTime)
        within("fuel.price_of_time", "Price of an hour", s.fuel.priceOfTime->si(), &units::detail::volumeFlowTable[2]);
    if (s.load.oil)
        within("load.oil", "Oil", s.load.oil->si(), cockpit.fuel);
    for (const auto& [station, mass] : s.load.stations)
        within("load.stations", "Load", mass.si(), cockpit.weight);
    if (s.strip.runway)
        within("field.runway", "Runway", *s.strip.runway);
    if (s.strip.length)
        within("field.length", "Runway", s.strip.length->si(), cockpit.height);
    within("field.slope", "Slope", s.strip.slope);
    if (s.start.sinceStop)
        within("start.stopped_for", "Engines stopped for", s.start.sinceStop->si(), units::hour.spec);
    if (s.start.preheated)
        within("start.preheated", "Pre-heating to", s.start.preheated->si(), cockpit.temperature);
    if (s.walk.attitude)
        within("walk_round.attitude", "Attitude", *s.walk.attitude);
    if (s.forecast)
        within("stop.forecast", "Forecast", s.forecast->si(), cockpit.temperature);
    for (const auto& [position, dose] : s.airframe.extraPrime)
        within("airframe.extra_prime", "Extra prime", dose);
    for (const auto& [tank, volume] : s.contents)
        within("load.tanks", "Fuel", volume.si(), cockpit.fuel);
    // Half a degree: reports are rounded to whole ones.
    if (s.day.dewPoint.si() > s.day.oat.si() + 0.5)
        out.push_back(
            {file, 0,
             fmt::format("Dew point {} is above the air's {}", format(s.day.dewPoint.si(), *cockpit.temperature),
                         format(s.day.oat.si(), *cockpit.temperature)),
             "Air cannot hold more water than saturates it: exchange or correct them"});
}
} // namespace

Problems checkSortie(const Sortie& sortie, const TypeNotes& notes, const std::string& file) {
    Problems out;
    checkFigures(sortie, notes.cockpit, file, out);
    const auto say = [&](std::string what, std::string remedy) {
        out.push_back({file, 0, std::move(what), std::move(remedy)});
    };
    for (const auto& [field, key] :
         {std::pair{"climb_rating", sortie.flight.climbRating}, std::pair{"cruise_rating", sortie.flight.cruiseRating}})
        if (!key.empty() && !notes.rating(key)) {
            std::string keys;
            for (const auto& r : notes.ratings)
                keys += (keys.empty() ? "" : ", ") + r.key;
            say(fmt::format("flight.{}: the {} has no rating \"{}\"", field, notes.name, key), "Use one of: " + keys);
        }
    if (std::find(notes.fuel.grades.begin(), notes.fuel.grades.end(), sortie.fuelGrade) == notes.fuel.grades.end() &&
        !engine::gradeNumber(sortie.fuelGrade))
        say(fmt::format("load.grade \"{}\" is not a fuel grade", sortie.fuelGrade),
            fmt::format("Use one of: {}", fmt::join(notes.fuel.grades, ", ")));
    if (!sortie.load.weightTyped && !notes.loading.given)
        say(fmt::format("load.weight is missing, and the notes of the {} have no load sheet to reckon it from",
                        notes.name),
            "Write load.weight");
    if (sortie.load.weightTyped && (sortie.weight < notes.emptyWeight || sortie.weight > notes.maxWeight))
        say(fmt::format("load.weight {} is not between empty and greatest weight",
                        format(sortie.weight.si(), *notes.cockpit.weight)),
            fmt::format("The {} flies between {} and {}", notes.name,
                        format(notes.emptyWeight.si(), *notes.cockpit.weight),
                        format(notes.maxWeight.si(), *notes.cockpit.weight)));
    for (const auto& [id, volume] : sortie.contents) {
        const auto tank = std::find_if(notes.fuel.tanks.begin(), notes.fuel.tanks.end(),
                                       [&wanted = id](const Tank& t) { return t.id == wanted; });
        if (tank == notes.fuel.tanks.end())
            say(fmt::format("load.tanks: the {} has no tank \"{}\"", notes.name, id),
                "Use the id of a tank in the notes");
        else if (volume.si() > tank->capacity.si() * 1.0001)
            say(fmt::format("load.tanks.{}: {} is more than the tank holds", id,
                            format(volume.si(), *notes.cockpit.fuel)),
                fmt::format("It holds {}", format(tank->capacity.si(), *notes.cockpit.fuel)));
    }
    const auto station = [&](const std::string& id) {
        return std::find_if(notes.loading.stations.begin(), notes.loading.stations.end(),
                            [&](const LoadStation& l) { return l.id == id; });
    };
    for (const auto& [id, mass] : sortie.load.stations)
        if (station(id) == notes.loading.stations.end())
            say(fmt::format("load.stations: the {} has no station \"{}\"", notes.name, id),
                "Use the id of a [[loading.station]] in the notes");
    for (const auto& [id, name] : sortie.load.names)
        if (station(id) == notes.loading.stations.end())
            say(fmt::format("load.names: the {} has no station \"{}\"", notes.name, id),
                "Use the id of a [[loading.station]] in the notes");
    for (const auto& id : sortie.fuel.order)
        if (std::none_of(notes.fuel.tanks.begin(), notes.fuel.tanks.end(), [&](const Tank& t) { return t.id == id; }))
            say(fmt::format("fuel.order: the {} has no tank \"{}\"", notes.name, id),
                "Use the id of a tank in the notes");
        else if (std::count(sortie.fuel.order.begin(), sortie.fuel.order.end(), id) > 1)
            say(fmt::format("fuel.order names the tank \"{}\" twice", id), "Name each tank once");
    if (!sortie.flight.legs.empty()) {
        double sum = 0.0;
        for (const auto& leg : sortie.flight.legs)
            sum += leg.distance.si();
        if (std::abs(sum - sortie.flight.distance.si()) > std::max(1000.0, 0.01 * sum))
            say(fmt::format("flight.leg: the legs add to {}, the flight is {}", format(sum, *notes.cockpit.distance),
                            format(sortie.flight.distance.si(), *notes.cockpit.distance)),
                "Correct a leg or the distance");
    }
    for (const auto& [id, dose] : sortie.airframe.extraPrime)
        if (std::none_of(notes.positions.begin(), notes.positions.end(),
                         [&wanted = id](const Position& p) { return p.id == wanted; }))
            say(fmt::format("airframe.extra_prime: the {} has no position \"{}\"", notes.name, id),
                "Use the id of an engine position");
    if (!sortie.start.order.empty()) {
        auto wanted = notes.start.order, given = sortie.start.order;
        std::sort(wanted.begin(), wanted.end());
        std::sort(given.begin(), given.end());
        if (wanted != given)
            say("start.order does not name every engine once",
                fmt::format("The {} has {}", notes.name, fmt::join(notes.start.order, ", ")));
    }
    for (const auto& [key, text] : sortie.walk.found) {
        const WalkItem* item = watch::itemOf(notes, key);
        if (!item)
            say(fmt::format("walk_round.found: there is nothing called \"{}\" on the walk-round", key),
                "Write station/item as the notes name them");
        else if (const auto why = watch::refusal(*item, text); !why.empty())
            say(fmt::format("walk_round.found.{}: {}", key, why), "Correct the reading or take it out");
    }
    if (!sortie.runUpFound.empty()) {
        const auto sheet = watch::runUpSheet(notes, {}, {});
        for (const auto& [key, text] : sortie.runUpFound) {
            const watch::SheetLine* line = nullptr;
            for (const auto& l : sheet.lines)
                for (const auto& c : l.cells)
                    if (c.key == key)
                        line = &l;
            if (!line)
                say(fmt::format("run_up.found: there is nothing called \"{}\" on the run-up sheet", key),
                    "Write line/engine as the sheet names them");
            else if (const auto why = watch::sheetRefusal(*line, text); !why.empty())
                say(fmt::format("run_up.found.{}: {}", key, why), "Correct the reading or take it out");
        }
    }
    if (!sortie.flight.cruiseGear.empty() && (notes.engine.gears.empty() || !notes.gearIndex(sortie.flight.cruiseGear)))
        say(fmt::format("flight.cruise_gear: there is no gear \"{}\"", sortie.flight.cruiseGear),
            "Use the name of a supercharger gear, or take it out");
    const Length above = sortie.day.pressureAltitudeOf(sortie.flight.cruiseHeight);
    if (sortie.flight.cruiseHeight < sortie.day.elevation || sortie.flight.cruiseHeight < sortie.flight.toElevation ||
        above.si() > 15000)
        say("flight.cruise_height is below one of the fields", "Choose a height above both fields");
    for (const auto& [key, school] : sortie.choices) {
        const auto slash = key.find('/');
        const auto phase = phaseFromKey(key.substr(0, slash));
        const Step* step = nullptr;
        if (phase && slash != std::string::npos)
            for (const auto& s : notes.phase(*phase).steps)
                if (s.called(key.substr(slash + 1)) && (!step || !s.schools.empty()))
                    step = &s;
        if (!step)
            say(fmt::format("choices: there is no step \"{}\"", key),
                "Write phase/step as the notes name them, for example \"start/propeller\"");
        else if (std::none_of(step->schools.begin(), step->schools.end(),
                              [&wanted = school](const School& s) { return s.name == wanted; }))
            say(fmt::format("choices.{}: there is no school \"{}\"", key, school),
                "Use the name of a school of that step");
        else if (!step->open)
            say(fmt::format("choices.{}: the notes do not leave this open", key), "Take the choice out");
    }
    return out;
}

namespace {
/// Nine figures without an exponent: figures with a unit are not written with one.
std::string plainNumber(double value) {
    const std::string text = fmt::format("{:.9g}", value);
    if (text.find('e') == std::string::npos)
        return text;
    std::string fixed = fmt::format("{:.12f}", value);
    fixed.erase(fixed.find_last_not_of('0') + 1);
    if (fixed.back() == '.')
        fixed.pop_back();
    return fixed;
}

std::string figure(double si, const UnitSpec& unit) {
    return fmt::format("\"{} {}\"", plainNumber((si - unit.offset) / unit.scale), unit.symbol);
}
} // namespace

std::string writeSortie(const Sortie& s, const Cockpit& c) {
    std::string out = "# Amber Throttle sortie\nformat = 1\n";
    const auto line = [&](std::string_view key, const std::string& value) {
        out += fmt::format("{} = {}\n", key, value);
    };
    const auto optional = [&](std::string_view key, const std::string& value) {
        if (!value.empty())
            line(key, document::quoted(value));
    };
    optional("title", s.title);
    out += "\n[airframe]\n";
    // What stands in the airframe's own file is not written twice.
    const AirframeFacts* own = s.airframe.file.empty() ? nullptr : s.airframe.facts.get();
    if (!s.airframe.file.empty())
        line("file", document::quoted(s.airframe.file));
    else
        line("notes", document::quoted(s.airframe.notes));
    if (!own || own->variant != s.airframe.variant)
        optional("variant", s.airframe.variant);
    if (!own || own->registration != s.airframe.registration)
        optional("registration", s.airframe.registration);
    std::string doses;
    for (const auto& [position, dose] : s.airframe.extraPrime) {
        const auto kept = own ? own->extraPrime.find(position) : s.airframe.extraPrime.end();
        if (!own || kept == own->extraPrime.end() || kept->second != dose)
            doses += fmt::format("{} = {}\n", document::quoted(position), plainNumber(dose));
    }
    if (!doses.empty())
        out += "[airframe.extra_prime]\n" + doses;
    out += "\n[day]\n";
    line("field", document::quoted(s.day.field));
    line("elevation", figure(s.day.elevation.si(), *c.height));
    line("qnh", figure(s.day.qnh.si(), *units::hPa.spec));
    line("oat", figure(s.day.oat.si(), *units::celsius.spec));
    line("dew_point", figure(s.day.dewPoint.si(), *units::celsius.spec));
    line("wind_from", std::to_string(s.day.wind.fromDegrees));
    line("wind_speed", figure(s.day.wind.speed.si(), *units::knot.spec));
    out += "\n[load]\n";
    line("grade", document::quoted(s.fuelGrade));
    if (s.load.weightTyped)
        line("weight", figure(s.weight.si(), *c.weight));
    if (s.load.oil)
        line("oil", figure(s.load.oil->si(), *c.fuel));
    if (!s.load.stations.empty() || !s.load.weightTyped) {
        out += "[load.stations]\n";
        for (const auto& [station, mass] : s.load.stations)
            line(document::quoted(station), figure(mass.si(), *c.weight));
    }
    if (!s.load.names.empty()) {
        out += "[load.names]\n";
        for (const auto& [station, name] : s.load.names)
            line(document::quoted(station), document::quoted(name));
    }
    if (!s.contents.empty()) {
        out += "[load.tanks]\n";
        for (const auto& [tank, volume] : s.contents)
            line(document::quoted(tank), figure(volume.si(), *c.fuel));
    }
    out += "\n[flight]\n";
    optional("over", s.flight.over);
    line("to", document::quoted(s.flight.to));
    line("to_elevation", figure(s.flight.toElevation.si(), *c.height));
    line("cruise_height", figure(s.flight.cruiseHeight.si(), *c.height));
    optional("climb_rating", s.flight.climbRating);
    optional("cruise_rating", s.flight.cruiseRating);
    if (s.flight.cruiseRpm)
        line("cruise_rpm", figure(s.flight.cruiseRpm->si(), *units::rpm.spec));
    if (s.flight.cruiseBoost)
        line("cruise_boost", figure(s.flight.cruiseBoost->si(), *c.boost));
    if (s.flight.cruiseMixture)
        line("cruise_mixture", *s.flight.cruiseMixture == Mixture::rich ? "\"rich\"" : "\"weak\"");
    optional("cruise_gear", s.flight.cruiseGear);
    line("distance", figure(s.flight.distance.si(), *c.distance));
    line("hold", figure(s.flight.hold.si(), *units::minute.spec));
    if (s.flight.takeOffRpm)
        line("take_off_rpm", figure(s.flight.takeOffRpm->si(), *units::rpm.spec));
    if (s.flight.takeOffBoost)
        line("take_off_boost", figure(s.flight.takeOffBoost->si(), *c.boost));
    if (s.flight.climbRpm)
        line("climb_rpm", figure(s.flight.climbRpm->si(), *units::rpm.spec));
    if (s.flight.climbBoost)
        line("climb_boost", figure(s.flight.climbBoost->si(), *c.boost));
    if (s.flight.track)
        line("track", plainNumber(*s.flight.track));
    if (s.flight.aloft) {
        line("wind_aloft_from", std::to_string(s.flight.aloft->fromDegrees));
        line("wind_aloft_speed", figure(s.flight.aloft->speed.si(), *units::knot.spec));
    }
    optional("alternate", s.flight.alternate);
    if (!s.flight.alternate.empty() || s.flight.alternateDistance.si() > 0)
        line("alternate_distance", figure(s.flight.alternateDistance.si(), *c.distance));
    for (const auto& leg : s.flight.legs) {
        out += "[[flight.leg]]\n";
        line("to", document::quoted(leg.to));
        line("distance", figure(leg.distance.si(), *c.distance));
        if (leg.track)
            line("track", plainNumber(*leg.track));
    }
    for (const auto& [from, to] : s.flight.badGround) {
        out += "[[flight.bad_ground]]\n";
        line("from", figure(from, *c.distance));
        line("to", figure(to, *c.distance));
    }
    if (!s.fuel.order.empty() || s.fuel.reserve || s.fuel.dropAt || s.fuel.priceOfTime) {
        out += "\n[fuel]\n";
        if (!s.fuel.order.empty()) {
            std::string list;
            for (const auto& id : s.fuel.order)
                list += (list.empty() ? "" : ", ") + document::quoted(id);
            line("order", "[" + list + "]");
        }
        if (s.fuel.reserve)
            line("reserve", figure(s.fuel.reserve->si(), *units::minute.spec));
        if (s.fuel.dropAt)
            line("drop_at", figure(s.fuel.dropAt->si(), *c.distance));
        if (s.fuel.priceOfTime)
            line("price_of_time", figure(s.fuel.priceOfTime->si(), units::detail::volumeFlowTable[2]));
    }
    if (s.strip.runway || s.strip.length || s.strip.slope != 0.0 || s.strip.grass || s.strip.wet) {
        out += "\n[field]\n";
        if (s.strip.runway)
            line("runway", plainNumber(*s.strip.runway));
        if (s.strip.length)
            line("length", figure(s.strip.length->si(), *c.height));
        if (s.strip.slope != 0.0)
            line("slope", plainNumber(s.strip.slope));
        line("surface", s.strip.grass ? "\"grass\"" : "\"hard\"");
        if (s.strip.wet)
            line("wet", "true");
    }
    if (!s.start.order.empty() || s.start.supply != start::Supply::cart || s.start.sinceStop || s.start.preheated ||
        s.start.diluted || s.start.blanks) {
        out += "\n[start]\n";
        if (!s.start.order.empty()) {
            std::string list;
            for (const auto& id : s.start.order)
                list += (list.empty() ? "" : ", ") + document::quoted(id);
            line("order", "[" + list + "]");
        }
        line("supply", s.start.supply == start::Supply::cart ? "\"cart\"" : "\"battery\"");
        if (s.start.sinceStop)
            line("stopped_for", figure(s.start.sinceStop->si(), *units::minute.spec));
        if (s.start.preheated)
            line("preheated", figure(s.start.preheated->si(), *units::celsius.spec));
        if (s.start.diluted)
            line("diluted", "true");
        if (s.start.blanks)
            line("blanks", "true");
    }
    if (s.walk.attitude || !s.walk.found.empty()) {
        out += "\n[walk_round]\n";
        if (s.walk.attitude)
            line("attitude", plainNumber(*s.walk.attitude));
        if (!s.walk.found.empty()) {
            out += "[walk_round.found]\n";
            for (const auto& [item, text] : s.walk.found)
                line(document::quoted(item), document::quoted(text));
        }
    }
    if (!s.runUpFound.empty()) {
        out += "\n[run_up.found]\n";
        for (const auto& [item, text] : s.runUpFound)
            line(document::quoted(item), document::quoted(text));
    }
    if (s.forecast) {
        out += "\n[stop]\n";
        line("forecast", figure(s.forecast->si(), *c.temperature));
    }
    if (!s.choices.empty()) {
        out += "\n[choices]\n";
        for (const auto& [step, school] : s.choices)
            line(document::quoted(step), document::quoted(school));
    }
    return out;
}

} // namespace amber
