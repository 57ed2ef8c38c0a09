// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cockpit/controls.h"
#include <deque>
#include <functional>
#include <map>

namespace amber::cockpit {

/// A standard drill being written: steps are left out where the cockpit has none of their controls.
class Draft {
public:
    /// One step, filled in by calls that follow each other.
    class Line {
    public:
        Line(Draft& draft, Step& step) : d_(draft), s_(step) {}
        /// A control of the cockpit moved to a position or a figure in braces; nothing where there is none.
        Line& on(Acts acts, std::string_view to);
        /// The same on engines by id, or `failedEngines`, `liveEngines` of an emergency.
        Line& on(Acts acts, std::string_view to, std::string_view engines);
        /// The last act: held until the step is done.
        Line& held();
        Line& over(double seconds);
        Line& lasting(std::string_view time); ///< "10 s", "{scavenge}"
        Line& until(Gauge gauge, bool above, std::string_view level, double within = 0.0, std::string otherwise = {});
        /// A wait that touches nothing.
        Line& waits(std::string_view time);
        Line& reads(Gauge gauge, bool above, std::string_view level, double within = 0.0, std::string otherwise = {});
        Line& set(std::string words);
        Line& at(std::string when);
        Line& skipped(std::string what);
        Line& caution(std::string what);
        Line& each();
        Line& atEnd();
        Line& branch();
        Line& memory(); ///< of an emergency: done before any page is read
        Line& was(std::vector<std::string> ids);
        /// Schools of a standard point, the first of them taken; each with its own acts where given (in their order).
        Line& schools(std::string_view point, std::string_view taken = {});
        /// Acts of a school in place of the step's.
        Line& school(std::string_view name, const std::function<void(Line&)>& acts);
        [[nodiscard]] Step& step() { return s_; }

    private:
        Draft& d_;
        Step& s_;
    };

    Draft(const TypeNotes& notes, const Equipment& equipment, const std::vector<Control>& controls)
        : n(notes), e(equipment), controls_(controls) {}

    /// A step named after the control that it is about; dropped where there is none.
    Line act(Phase phase, std::string id, Acts about, std::string why, std::string job = {});
    /// A step with a name of its own: kept if it has words, waits, or any control.
    Line say(Phase phase, std::string id, std::string what, std::string words, std::string why, std::string job = {});
    [[nodiscard]] const Control* control(Acts acts) const { return acting(controls_, acts); }
    [[nodiscard]] bool has(Acts acts) const { return control(acts) != nullptr; }
    /// The steps that this cockpit can do.
    std::map<Phase, std::vector<Step>> done();

    const TypeNotes& n;
    const Equipment& e;

private:
    const std::vector<Control>& controls_;
    std::map<Phase, std::deque<Step>> steps_;
    std::deque<Step> scratch_;
};

// Customary orders, phase by phase: draft_ground.cpp, draft_start.cpp, draft_air.cpp, draft_stop.cpp.
void draftWalkRound(Draft& d);
void draftStart(Draft& d);
void draftWarmUp(Draft& d);
void draftRunUp(Draft& d);
void draftTakeOff(Draft& d);
void draftClimb(Draft& d);
void draftCruise(Draft& d);
void draftLetDown(Draft& d);
void draftLanding(Draft& d);
void draftStop(Draft& d);
/// The steps of an emergency, under Phase::climb: draft_trouble.cpp, draft_fire.cpp.
void draftEmergency(Draft& d, Emergency emergency);
void draftFire(Draft& d, Emergency emergency);
void draftSystems(Draft& d, Emergency emergency);

} // namespace amber::cockpit
