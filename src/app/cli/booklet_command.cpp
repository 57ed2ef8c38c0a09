// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/laid_over.h"
#include "booklet/missing.h"
#include "cli/aircraft_option.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "files/csv.h"
#include "files/document.h"
#include "flight/open_files.h"
#include "measure/axes.h"
#include "measure/follow.h"
#include "notes/cockpit_units.h"
#include "notes/origin.h"
#include "store/paper.h"
#include "units/unit_table.h"
#include <charconv>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::app {
namespace {
using json = nlohmann::ordered_json;

/// Numbers parted by commas and nothing else, "412,300"; such as stand on no page are refused.
std::optional<std::vector<double>> numbersIn(std::string_view text) {
    std::vector<double> out;
    while (!text.empty()) {
        double value = 0.0;
        const auto [end, wrong] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (wrong != std::errc() || !(std::abs(value) <= 1e9))
            return std::nullopt;
        out.push_back(value);
        text.remove_prefix(static_cast<std::size_t>(end - text.data()));
        if (text.empty())
            break;
        if (text.front() != ',')
            return std::nullopt;
        text.remove_prefix(1);
        if (text.empty())
            return std::nullopt;
    }
    return out;
}
std::vector<std::string> wordsOf(const std::string& text) {
    std::vector<std::string> out;
    for (std::size_t at = 0; at < text.size();) {
        const auto end = std::min(text.find(' ', at), text.size());
        if (end > at)
            out.push_back(text.substr(at, end - at));
        at = end + 1;
    }
    return out;
}

class BookletCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "booklet"; }
    [[nodiscard]] const char* help() const override {
        return "Work with the scan of a type's booklet: measure a printed chart, or list what the notes still miss and "
               "what it is worth";
    }
    void declare(Arguments& a) override {
        a.choice("what", what_, {"measure", "missing", "picture"},
                 "measure: follow a curve of a chart; missing: what to look for next; picture: a page in grey (PGM)");
        a.text("file", file_, "A scan (PNG, JPEG, TIFF, PDF); for missing the notes or a sortie (TOML)",
               Arguments::Need::required);
        a.text("--page", page_, "Page of the file, from 1");
        a.text("--turn", turn_, "Quarter turns clockwise before anything else");
        a.text("--box", box_, "Just outside the chart's frame: x,y,width,height in pixels");
        a.text("--x", x_, "Two or more places of the level axis with their value: \"120,700=0 980,702=20\"");
        a.text("--y", y_, "The same of the upright axis");
        a.text("--follow", follow_, "Clicks on the curve, from its one end to its other: \"130,650 800,210\"");
        a.flag("--log-x", logX_, "The level axis is logarithmic");
        a.flag("--log-y", logY_, "The upright axis is logarithmic");
        a.text("--notes", notes_, "Type notes whose model is laid over the curve");
        a.choice("--of", of_, {"power-height", "power-boost"}, "With --notes: what the chart's axes are");
        a.text("--rpm", rpm_, "With --notes: the curve's revolutions");
        a.text("--gear", gear_, "With --notes: gear of the blower, by its name");
        a.text("--boost", boost_, "With --notes: the curve's boost; without, full throttle");
        a.text("--units", units_, "With --notes: units of both axes, \"ft hp\"; without, the cockpit's");
        a.text("--variant", variant_, "Id of a variant of the notes");
        a.flag("--csv", csv_, "As CSV");
        a.flag("--json", json_, "As JSON");
        a.oneOf({"--csv", "--json"});
    }
    int run(const CommandActions&) override {
        return what_ == "missing"   ? missing()
               : what_ == "picture" ? picture()
               : what_ == "measure" ? measured()
                                    : asked();
    }

private:
    static int usage(const std::string& why) {
        fmt::print(stderr, "amber-throttle booklet: {}\n", why);
        return exitUsage;
    }
    static int asked() { return usage("say what: measure, missing or picture"); }
    [[nodiscard]] std::optional<int> whole(const std::string& text, int otherwise) const {
        if (text.empty())
            return otherwise;
        int value = 0;
        const auto [end, wrong] = std::from_chars(text.data(), text.data() + text.size(), value);
        return wrong == std::errc() && end == text.data() + text.size() ? std::optional(value) : std::nullopt;
    }

    int picture() {
        const auto page = whole(page_, 1);
        if (!page)
            return usage("--page wants a number");
        limitThisProcess();
        const auto paper = decodePaper(QString::fromStdString(file_), *page);
        if (!paper.wrong.empty()) {
            fmt::print(stderr, "{}{}{}\n", file_, paperRefused, paper.wrong);
            return exitProblems;
        }
        fmt::print("P5\n# pages {}\n{} {}\n255\n", paper.pages, paper.page.width, paper.page.height);
        std::fwrite(paper.page.grey.data(), 1, paper.page.grey.size(), stdout);
        return std::fflush(stdout) == 0 ? exitOk : exitProblems;
    }

    /// "120,700=0 980,702=20"
    static std::optional<measure::AxisLabels> labels(const std::string& text, bool logarithmic) {
        measure::AxisLabels out;
        out.scale = logarithmic ? measure::Scale::logarithmic : measure::Scale::linear;
        for (const auto& word : wordsOf(text)) {
            const auto equals = word.find('=');
            const auto place = numbersIn(std::string_view(word).substr(0, equals));
            const auto value =
                equals == std::string::npos ? std::nullopt : numbersIn(std::string_view(word).substr(equals + 1));
            if (!place || place->size() != 2 || !value || value->size() != 1)
                return std::nullopt;
            out.labels.push_back({{(*place)[0], (*place)[1]}, (*value)[0]});
        }
        return out;
    }

    int measured() {
        const auto number = whole(page_, 1), turns = whole(turn_, 0);
        if (!number || !turns)
            return usage("--page and --turn want a number");
        const auto x = labels(x_, logX_), y = labels(y_, logY_);
        if (!x || !y || x_.empty() || y_.empty())
            return usage("--x and --y want places with values, \"120,700=0 980,702=20\"");
        std::vector<measure::Place> clicks;
        for (const auto& word : wordsOf(follow_))
            if (const auto place = numbersIn(word); place && place->size() == 2)
                clicks.push_back({(*place)[0], (*place)[1]});
            else
                return usage(fmt::format("--follow wants places, \"130,650 800,210\"; {} is none", word));
        if (clicks.size() < 2)
            return usage("--follow wants two clicks at least: one end of the curve and the other");
        std::optional<measure::Box> box;
        if (!box_.empty()) {
            const auto four = numbersIn(box_);
            if (!four || four->size() != 4 || (*four)[2] < 60 || (*four)[3] < 60)
                return usage("--box wants x,y,width,height, at least 60 pixels each way");
            box = measure::Box{(*four)[0], (*four)[1], (*four)[2], (*four)[3]};
        }
        std::shared_ptr<const powerplant::Aircraft> aircraft;
        booklet::CurveSetting setting;
        const UnitSpec *unitX = nullptr, *unitY = nullptr;
        if (!notes_.empty()) {
            aircraft = aircraftOf(notes_, variant_);
            if (!aircraft)
                return exitProblems;
            if (const auto why = settingOf(aircraft->notes, setting, unitX, unitY); !why.empty())
                return usage(why);
        } else if (!of_.empty() || !rpm_.empty() || !gear_.empty() || !boost_.empty() || !units_.empty()) {
            return usage("--of, --rpm, --gear, --boost and --units want --notes: whose model is laid over the curve?");
        }
        auto paper = readPaper(QString::fromStdString(file_), *number);
        if (!paper.wrong.empty()) {
            fmt::print(stderr, "{}{}{}\n", shownText(file_), paperRefused, shownText(paper.wrong));
            return exitProblems;
        }
        const auto page = *turns ? measure::turned(paper.page, *turns) : std::move(paper.page);
        const auto ink = measure::inkOf(page);
        const auto grid = box ? measure::findGrid(ink, *box) : measure::Grid{};
        const auto axes = grid.found() ? measure::Axes::fromGrid(grid, *x, *y) : measure::Axes::fromMarks(*x, *y);
        if (!axes) {
            fmt::print(stderr, "amber-throttle booklet: {}\n", axes.error());
            return exitProblems;
        }
        const auto& a = axes.value();
        const auto curve = measure::follow(ink, grid, clicks);
        if (!curve) {
            fmt::print(stderr,
                       "amber-throttle booklet: no curve leads from one click to the other: they must be on the "
                       "page, 24 pixels apart at least, and follow each other along the curve\n");
            return exitProblems;
        }
        std::vector<Point> points;
        for (const auto i : measure::thinned(*curve, 0.5 * std::max(curve->width, 1.0))) {
            const auto& p = curve->places[i];
            points.push_back({p.at, a.value(p.at), a.error(p.at, p.error), {}});
        }
        if (aircraft) {
            std::vector<std::array<double, 4>> places;
            for (const auto& p : points)
                places.push_back({p.value.x * unitX->scale + unitX->offset, p.value.y * unitY->scale,
                                  p.error.x * unitX->scale, p.error.y * unitY->scale});
            const auto laid = booklet::laidOver(aircraft->model(), setting, places);
            for (std::size_t i = 0; i < points.size(); ++i)
                points[i].model = laid[i];
        }
        const double unit = unitY ? unitY->scale : 1.0;
        if (json_)
            tellJson(grid, a, *curve, points, unit);
        else if (csv_)
            tellCsv(a, points, unit);
        else
            tellText(axesOf(grid, a, box.has_value()), a, *curve, points, unit);
        if (!json_)
            for (const auto& d : curve->doubts)
                fmt::print(stderr, "Not sure at {:.0f},{:.0f}: {}. Add a click on the curve there to --follow.\n",
                           d.at.x, d.at.y, d.why);
        return curve->doubts.empty() ? exitOk : exitProblems;
    }

    /// One point of the curve, in the chart's own units, and the model there (SI) where one is laid over it.
    struct Point {
        measure::Place at, value, error;
        std::optional<booklet::Laid> model;
    };
    /// Whether paper and model part; nothing where nothing checks the axes: then it cannot be said.
    static std::optional<bool> parts(const measure::Axes& axes, const Point& p) {
        return p.model && axes.checked() ? std::optional(p.model->parts()) : std::nullopt;
    }
    static void tellJson(const measure::Grid& grid, const measure::Axes& a, const measure::Followed& curve,
                         const std::vector<Point>& points, double unit) {
        json out;
        out["axes"] = {{"grid", grid.found()},
                       {"checked", a.checked()},
                       {"crossings", a.crossings()},
                       {"residual_px", a.checked() ? json(a.residual()) : json(nullptr)},
                       {"labels_off_px", {a.labelResidual().x, a.labelResidual().y}}};
        out["line_width_px"] = curve.width;
        out["ink_share"] = curve.share;
        out["points"] = json::array();
        for (const auto& p : points) {
            out["points"].push_back({{"x", p.value.x},
                                     {"y", p.value.y},
                                     {"error_x", p.error.x},
                                     {"error_y", p.error.y},
                                     {"px", {p.at.x, p.at.y}}});
            if (p.model) {
                const auto apart = parts(a, p);
                out["points"].back()["model"] = p.model->model / unit;
                out["points"].back()["parts"] = apart ? json(*apart) : json(nullptr);
            }
        }
        out["asks"] = json::array();
        for (const auto& d : curve.doubts)
            out["asks"].push_back({{"px", {d.at.x, d.at.y}}, {"why", d.why}});
        fmt::print("{}\n", out.dump(2));
    }
    static void tellCsv(const measure::Axes& a, const std::vector<Point>& points, double unit) {
        const bool model = !points.empty() && points.front().model;
        fmt::print("x,y,error_x,error_y,px,py{}\n", model ? ",model,parts" : "");
        for (const auto& p : points) {
            fmt::print("{:.6g},{:.6g},{:.3g},{:.3g},{:.1f},{:.1f}", p.value.x, p.value.y, p.error.x, p.error.y, p.at.x,
                       p.at.y);
            if (model) {
                const auto apart = parts(a, p);
                fmt::print(",{:.6g},{}", p.model->model / unit, !apart ? "" : *apart ? "1" : "0");
            }
            fmt::print("\n");
        }
    }
    static void tellText(const std::string& axes, const measure::Axes& a, const measure::Followed& curve,
                         const std::vector<Point>& points, double unit) {
        constexpr double tellsLabels = 2.0; // px: a label that stands farther from the others' scale is told
        fmt::print("{}\n", axes);
        if (const double off = std::max(a.labelResidual().x, a.labelResidual().y); off > tellsLabels)
            fmt::print("The labels do not lie on one scale: one is {:.0f} px off. Look at them again.\n", off);
        fmt::print("Line {:.1f} px wide; ink along {:.0f} % of it\n", curve.width, 100 * curve.share);
        for (const auto& p : points) {
            const std::string model =
                p.model ? fmt::format("  model {:.6g}, {:+.1f} %{}", p.model->model / unit, 100 * p.model->over(),
                                      parts(a, p).value_or(false) ? "  more than measuring leaves" : "")
                        : std::string();
            fmt::print("{:>12.6g} ± {:<8.2g}  {:>12.6g} ± {:<8.2g}{}\n", p.value.x, p.error.x, p.value.y, p.error.y,
                       model);
        }
    }
    /// The curve's levers and its axes' units. @return an error, or empty
    std::string settingOf(const TypeNotes& notes, booklet::CurveSetting& setting, const UnitSpec*& unitX,
                          const UnitSpec*& unitY) const {
        if (of_.empty() || rpm_.empty())
            return "--notes wants --of power-height or power-boost, and --rpm";
        setting.kind = of_ == "power-boost" ? booklet::CurveKind::powerBoost : booklet::CurveKind::powerHeight;
        const auto rpm = readOption<Dimension::rotation>("rpm", rpm_, units::rpm.spec);
        if (!rpm)
            return rpm.error();
        setting.rpm = rpm.value();
        const auto gear = notes.gearIndex(gear_);
        if (!gear || (notes.engine.gears.empty() && !gear_.empty()))
            return fmt::format("--gear: the {} has no gear \"{}\"", notes.engine.name, gear_);
        setting.gear = *gear;
        if (!boost_.empty()) {
            const auto boost = readOption<Dimension::manifoldPressure>("boost", boost_, notes.cockpit.boost);
            if (!boost)
                return boost.error();
            setting.boost = boost.value();
        }
        const bool height = setting.kind == booklet::CurveKind::powerHeight;
        unitX = height ? notes.cockpit.height : notes.cockpit.boost;
        unitY = notes.cockpit.power;
        if (const auto named = wordsOf(units_); !named.empty()) {
            if (named.size() != 2)
                return "--units wants two, \"ft hp\"";
            unitX = findUnit(height ? Dimension::length : Dimension::manifoldPressure, named[0]);
            unitY = findUnit(Dimension::power, named[1]);
        }
        if (!unitX || !unitY)
            return fmt::format("--units: \"{}\" is not known for such axes", units_);
        return {};
    }
    static std::string axesOf(const measure::Grid& grid, const measure::Axes& a, bool boxed) {
        if (grid.found())
            return fmt::format("Grid: {} level and {} upright lines, {} crossings; what it leaves {:.2f} px",
                               grid.level.size(), grid.upright.size(), a.crossings(), a.residual());
        const std::string why = boxed ? "No grid found there; " : "";
        return a.checked() ? fmt::format("{}marks only; what they leave {:.2f} px", why, a.residual())
                           : fmt::format("{}two marks an axis: unchecked", why);
    }

    int missing() {
        Problems problems;
        const auto text = document::readFile(file_, problems);
        const auto root = text ? document::parse(*text, file_, problems) : std::nullopt;
        std::string notesFile = file_, variant = variant_;
        std::optional<std::string> notes;
        std::shared_ptr<const powerplant::Aircraft> aircraft;
        Sortie sortie;
        if (root && flight::kindOf(*root) == flight::FileKind::sortie) {
            auto loaded = flight::loadSortieText(*text, file_);
            problems = loaded.problems;
            if (loaded.ok()) {
                sortie = *loaded.sortie;
                aircraft = loaded.aircraft;
                variant = sortie.airframe.variant;
                notesFile = flight::notesPathOf(sortie, file_);
                notes = document::readFile(notesFile, problems);
            }
        } else if (root && flight::kindOf(*root) == flight::FileKind::notes) {
            const auto loaded = flight::loadAircraft(file_, variant);
            problems = loaded.problems;
            if (loaded.aircraft) {
                aircraft = loaded.aircraft;
                sortie = flight::plainSortie(aircraft->notes);
                notes = text;
            }
        } else if (root) {
            problems.push_back({file_, 0, "this is neither type notes nor a sortie", "Give one of them."});
        }
        if (!notes || !aircraft) {
            for (const auto& p : problems)
                fmt::print(stderr, "{}\n", p.text());
            return exitProblems;
        }
        const auto all = booklet::missing(*notes, notesFile, variant, sortie);
        if (json_) {
            json out = json::array();
            for (const auto& m : all)
                out.push_back({{"path", m.path},
                               {"estimate", m.text},
                               {"origin", markOf(Origin::ours)},
                               {"why", m.why},
                               {"low", m.low},
                               {"high", m.high},
                               {"fuel", m.moves.fuel},
                               {"take_off_power", m.moves.power},
                               {"to_take_off_s", m.moves.toTakeOff},
                               {"margin_kPa", m.moves.margin / 1e3},
                               {"not_tried", keyOf(m.notTried)}});
            fmt::print("{}\n", out.dump(2));
            return exitOk;
        }
        if (csv_) {
            fmt::print("path,estimate,low,high,fuel,take_off_power,to_take_off_s,margin_kPa,not_tried\n");
            for (const auto& m : all)
                fmt::print("{},{},{},{},{:.4f},{:.4f},{:.0f},{:.2f},{}\n", csv::cell(m.path), csv::cell(m.text),
                           csv::cell(m.low), csv::cell(m.high), m.moves.fuel, m.moves.power, m.moves.toTakeOff,
                           m.moves.margin / 1e3, keyOf(m.notTried));
            return exitOk;
        }
        if (all.empty()) {
            fmt::print("Nothing is estimated: the notes give every figure.\n");
            return exitOk;
        }
        fmt::print("Figures missing in the notes and estimated ({}), worth most first:\n", markOf(Origin::ours));
        for (const auto& m : all)
            if (m.counts())
                fmt::print("  {:<33} {:<24} {}\n",
                           m.path == booklet::fuelPath ? "a fuel flow in a rating line" : m.path,
                           m.low + " to " + m.high, m.moves.words(aircraft->notes.cockpit));
        if (const auto rest = booklet::restOf(all); !rest.empty())
            fmt::print("{}\n", rest);
        return exitOk;
    }
    /// As JSON and CSV have it; empty where it was tried.
    static const char* keyOf(booklet::NotTried why) {
        switch (why) {
        case booklet::NotTried::no:
            return "";
        case booklet::NotTried::word:
            return "word";
        case booklet::NotTried::refused:
            return "refused";
        case booklet::NotTried::stopped:
            return "stopped";
        }
        return "";
    }

    std::string what_, file_, page_, turn_, box_, x_, y_, follow_, variant_, notes_, of_, rpm_, gear_, boost_, units_;
    bool logX_ = false, logY_ = false, csv_ = false, json_ = false;
};
} // namespace

std::unique_ptr<Command> bookletCommand() {
    return std::make_unique<BookletCommand>();
}

} // namespace amber::app
