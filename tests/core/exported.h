// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan_export.h"
#include "test_data.h"
#include <nlohmann/json.hpp>

namespace amber::test {

struct Exported {
    plan::Plan plan;
    nlohmann::json root;
};

/// A demo's plan and its export, made once for the whole run.
inline const Exported& exported(const std::string& name) {
    static std::map<std::string, Exported> all;
    auto found = all.find(name);
    if (found == all.end()) {
        const auto& l = loaded(name);
        Exported made{plan::makePlan(*l.aircraft, *l.sortie), {}};
        made.root = nlohmann::json::parse(plan::planJson(*l.aircraft, *l.sortie, made.plan));
        found = all.emplace(name, std::move(made)).first;
    }
    return found->second;
}

} // namespace amber::test
