// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/sentences.h"
#include "cockpit/lever_acts.h"
#include "notes/placeholder.h"
#include "units/ascii.h"
#include <algorithm>
#include <array>

namespace amber::cockpit {
namespace {
using ascii::lowered;
bool letter(char c) {
    return ascii::isWord(c) || c == '-' || c == '_';
}
/// Whether a word or words stand in a text, not as part of another word.
bool stands(std::string_view text, std::string_view word) {
    for (std::size_t at = text.find(word); at != std::string_view::npos; at = text.find(word, at + 1)) {
        const bool begins = at == 0 || !letter(text[at - 1]);
        const bool ends = at + word.size() >= text.size() || !letter(text[at + word.size()]);
        if (begins && ends)
            return true;
    }
    return false;
}

struct Word {
    std::string_view word;
    Acts acts;
};
/// Names by which sentences call controls, longer before shorter.
constexpr std::array controlWords{
    Word{"booster coil", Acts::boosterCoil},
    Word{"starting magneto", Acts::boosterCoil},
    Word{"booster pump", Acts::pump},
    Word{"wobble pump", Acts::pump},
    Word{"hand pump", Acts::pump},
    Word{"tank air", Acts::pump},
    Word{"boosters", Acts::pump},
    Word{"booster", Acts::pump},
    Word{"pumps", Acts::pump},
    Word{"carb. air", Acts::carburettorAir},
    Word{"carb. heat", Acts::carburettorAir},
    Word{"hot air", Acts::carburettorAir},
    Word{"heat", Acts::carburettorAir},
    Word{"cowl flaps", Acts::coolingFlap},
    Word{"radiator flap", Acts::coolingFlap},
    Word{"radiator shutter", Acts::coolingFlap},
    Word{"shutter", Acts::coolingFlap},
    Word{"intercooler", Acts::intercooler},
    Word{"mixtures", Acts::mixture},
    Word{"mixture", Acts::mixture},
    Word{"corrector", Acts::mixture},
    Word{"propellers", Acts::propeller},
    Word{"propeller", Acts::propeller},
    Word{"pitch wheel", Acts::propeller},
    Word{"wheel", Acts::propeller},
    Word{"throttles", Acts::throttle},
    Word{"throttle", Acts::throttle},
    Word{"blowers", Acts::gear},
    Word{"blower", Acts::gear},
    Word{"gear", Acts::gear},
    Word{"turbo", Acts::turbo},
    Word{"spark", Acts::spark},
    Word{"ignition", Acts::ignition},
    Word{"magnetos", Acts::ignition},
    Word{"switches", Acts::ignition},
    Word{"fuel cock", Acts::fuel},
    Word{"fuel", Acts::fuel},
    Word{"battery", Acts::battery},
    Word{"generators", Acts::generator},
    Word{"generator", Acts::generator},
    Word{"cart", Acts::cart},
    Word{"wing fold", Acts::lock},
    Word{"primer", Acts::primer},
    Word{"dilution", Acts::dilution},
    Word{"breech", Acts::cartridge},
    Word{"water", Acts::water},
};
/// Words that mean a position of what acts so.
struct Means {
    Acts acts;
    std::string_view word, is;
};
constexpr std::array means{
    Means{Acts::carburettorAir, "direct", "cold"},
    Means{Acts::carburettorAir, "filtered", "cold"},
    Means{Acts::carburettorAir, "warm", "hot"},
    Means{Acts::carburettorAir, "on", "hot"},
    Means{Acts::carburettorAir, "off", "cold"},
    Means{Acts::coolingFlap, "closed", "shut"},
    Means{Acts::coolingFlap, "opened", "open"},
    Means{Acts::throttle, "full", "open"},
    Means{Acts::spark, "forward", "advanced"},
    Means{Acts::spark, "advance", "advanced"},
    Means{Acts::lock, "locked", "out"},
    Means{Acts::turbo, "back", "off"},
    Means{Acts::ignition, "contact", "both"},
    Means{Acts::ignition, "on", "both"},
};
/// What a figure is set with, whatever the sentence is called.
std::optional<Acts> setBy(std::string_view figure) {
    if (figure == "boost" || figure == "climb-boost" || figure == "field-boost" || figure == "throttle-back" ||
        figure == "slow-rpm" || figure == "warm-up-rpm" || figure == "taxi-rpm" || figure == "scavenge-rpm" ||
        figure == "static-rpm")
        return Acts::throttle;
    if (figure == "climb-rpm" || figure == "parking" || figure == "rpm")
        return Acts::propeller;
    if (figure == "mixture")
        return Acts::mixture;
    if (figure == "gear")
        return Acts::gear;
    if (figure == "flap")
        return Acts::coolingFlap;
    if (figure == "heat")
        return Acts::carburettorAir;
    if (figure == "tank")
        return Acts::fuel;
    if (figure == "dilution")
        return Acts::dilution;
    if (figure == "prime")
        return Acts::primer;
    return std::nullopt;
}
std::optional<Acts> named(std::string_view text, std::size_t* from = nullptr) {
    std::optional<Acts> found;
    std::size_t best = std::string_view::npos;
    for (const auto& n : controlWords)
        if (stands(text, n.word) && text.find(n.word) < best) {
            best = text.find(n.word);
            found = n.acts;
        }
    if (from && found)
        *from = best;
    return found;
}
std::vector<std::string> clausesOf(const std::string& text) {
    std::vector<std::string> out;
    std::string clause;
    const auto end = [&] {
        if (clause.find_first_not_of(' ') != std::string::npos)
            out.push_back(clause);
        clause.clear();
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == ';' || text[i] == ',' || text[i] == ':')
            end();
        else if (text.compare(i, 6, " then ") == 0) {
            end();
            i += 5;
        } else
            clause += text[i];
    }
    end();
    return out;
}

/// The position of a control that a clause speaks of.
const ControlPosition* spoken(const Control& c, std::string_view clause) {
    const ControlPosition* found = nullptr;
    std::size_t at = std::string_view::npos;
    const auto look = [&](std::string_view word, const ControlPosition* p) {
        if (p && !word.empty() && stands(clause, word) && clause.find(word) < at) {
            at = clause.find(word);
            found = p;
        }
    };
    for (const auto& p : c.positions) {
        look(lowered(p.is), &p);
        look(lowered(p.name), &p);
    }
    for (const auto& m : means)
        if (m.acts == c.acts)
            look(m.word, c.position(m.is));
    return found;
}
} // namespace

std::optional<Acts> actsOf(const Lever& lever) {
    if (const auto acts = actsFromKey(lever.id))
        return acts;
    return named(lowered(lever.name));
}

bool isBranch(const Step& step) {
    return lowered(step.what) == "go round" || lowered(step.id) == "go-round";
}

std::vector<Action> actsIn(const Step& step, Phase phase, const std::vector<Control>& controls,
                           const TypeNotes& notes) {
    std::vector<Action> out;
    const std::string what = lowered(step.what);
    std::optional<Acts> subject = named(what);
    if (what == "reference" || what == "taxi" || what == "cool" || what == "scavenge" || what == "approach" ||
        what == "full throttle" || what == "running" || what == "as it fires")
        subject = Acts::throttle;
    if (what == "lift off" || what == "speed" || what == "clear the engine" || what == "before run-up" ||
        what == "order")
        return out;
    if (phase == Phase::runUp && subject == Acts::ignition)
        return out; // each in turn, and both again
    const auto add = [&](Acts acts, Target to) {
        const Control* c = acting(controls, acts);
        if (!c)
            return;
        Action a;
        a.control = c->id;
        a.to = std::move(to);
        out.push_back(std::move(a));
    };
    const auto goes = [&](Acts acts, std::string_view is) {
        add(acts, {Target::Kind::position, std::string(is), Dimension::duration, 0.0});
    };
    for (const auto& written : clausesOf(step.set)) {
        const std::string clause = lowered(written);
        const auto other = named(clause);
        const Control* own = subject ? acting(controls, *subject) : nullptr;
        const bool speaks = own && spoken(*own, clause); // "hot before the throttle" is said of the air
        const std::optional<Acts> about = other && !speaks ? other : subject;
        if (const auto figures = placeholder::namesIn(written); !figures.empty()) {
            const std::string& figure = figures.front();
            std::optional<Acts> acts = setBy(figure);
            if (figure == "rpm" && subject == Acts::throttle)
                acts = Acts::throttle;
            if (figure == "parking") {
                goes(Acts::propeller, notes.stop.parksCoarse ? "coarse" : "fine");
                continue;
            }
            if (figure == "dilution") {
                goes(Acts::dilution, "on");
                continue;
            }
            if (acts)
                add(*acts, {Target::Kind::figure, figure, Dimension::duration, 0.0});
            continue;
        }
        if (about) {
            const Control* c = acting(controls, *about);
            if (!c)
                continue;
            if (const auto* p = spoken(*c, clause)) {
                goes(*about, p->is);
                continue;
            }
            // A pressure wanted of a pump is the pump at work.
            if (about == Acts::pump && clause.find_first_of("0123456789") != std::string::npos) {
                goes(Acts::pump, "on");
                continue;
            }
            if (phase == Phase::stop && (about == Acts::ignition || about == Acts::fuel || about == Acts::battery)) {
                goes(*about, "off");
                continue;
            }
        }
        // A place that only one control of the cockpit has.
        for (const Acts acts : {Acts::mixture, Acts::propeller, Acts::gear, Acts::carburettorAir})
            if (const Control* c = acting(controls, acts);
                c && (isBranch(step) || (!subject && acts != Acts::carburettorAir)))
                if (const auto* p = spoken(*c, clause)) {
                    goes(acts, p->is);
                    break;
                }
        if (isBranch(step) && (stands(clause, "open") || stands(clause, "half first")))
            goes(Acts::throttle, "open");
    }
    return out;
}

} // namespace amber::cockpit
