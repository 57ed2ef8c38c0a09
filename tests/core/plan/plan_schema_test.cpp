// SPDX-License-Identifier: GPL-3.0-or-later
// plan --json against docs/formats/plan.schema.json: every demo, and whatever the schema does not know is refused.
#include "flight/taught.h"
#include "plan/plan_export.h"
#include "test_data.h"
#include <algorithm>
#include <functional>
#include <nlohmann/json.hpp>

namespace {
using namespace amber;
using json = nlohmann::ordered_json;

/// As much of JSON Schema (2020-12) as the schema uses: type, enum, properties, required, additionalProperties, items,
/// $ref into $defs. @return what is wrong, with its path; empty when nothing is
std::string wrong(const json& root, const json& schema, const json& value, const std::string& path) {
    if (schema.contains("$ref")) {
        const auto name = schema["$ref"].get<std::string>().substr(std::string("#/$defs/").size());
        return wrong(root, root["$defs"].at(name), value, path);
    }
    if (schema.contains("type")) {
        const auto is = [&](const std::string& type) {
            return type == "object"    ? value.is_object()
                   : type == "array"   ? value.is_array()
                   : type == "string"  ? value.is_string()
                   : type == "number"  ? value.is_number()
                   : type == "boolean" ? value.is_boolean()
                                       : type == "null" && value.is_null();
        };
        const auto& type = schema["type"];
        const bool fits =
            type.is_array() ? std::any_of(type.begin(), type.end(), [&](const json& t) { return is(t); }) : is(type);
        if (!fits)
            return path + " is not of type " + type.dump() + ": " + value.dump().substr(0, 80);
    }
    if (schema.contains("enum") &&
        std::none_of(schema["enum"].begin(), schema["enum"].end(), [&](const json& e) { return e == value; }))
        return path + " is none of " + schema["enum"].dump() + ": " + value.dump();
    if (value.is_object()) {
        for (const auto& key : schema.value("required", json::array()))
            if (!value.contains(key.get<std::string>()))
                return path + " lacks " + key.dump();
        for (const auto& [key, member] : value.items()) {
            const json* child = nullptr;
            if (schema.contains("properties") && schema["properties"].contains(key))
                child = &schema["properties"][key];
            else if (schema.contains("additionalProperties"))
                child = &schema["additionalProperties"];
            if (!child)
                continue;
            if (child->is_boolean()) {
                if (!child->get<bool>())
                    return path + "/" + key + " is not in the schema";
            } else if (auto w = wrong(root, *child, member, path + "/" + key); !w.empty()) {
                return w;
            }
        }
    }
    if (value.is_array() && schema.contains("items"))
        for (std::size_t i = 0; i < value.size(); ++i)
            if (auto w = wrong(root, schema["items"], value[i], path + "/" + std::to_string(i)); !w.empty())
                return w;
    return {};
}

const json& schema() {
    static const json kept =
        json::parse(test::fileText(test::dataPath("../docs/formats/plan.schema.json")), nullptr, false);
    return kept;
}
json planOf(const std::string& demo) {
    const auto& l = test::loaded(demo);
    return json::parse(plan::planJson(*l.aircraft, *l.sortie, plan::makePlan(*l.aircraft, *l.sortie), true));
}

TEST(PlanSchema, EveryDemoFollowsIt) {
    ASSERT_FALSE(schema().is_discarded());
    for (const auto& name : test::demoNames())
        EXPECT_EQ(wrong(schema(), schema(), planOf(name), ""), "") << name;
}

TEST(PlanSchema, WhatTheLogHasTaughtFollowsItToo) {
    const auto& l = test::loaded("lorimer-spring");
    Sortie s = *l.sortie;
    AirframeFacts facts = *s.airframe.facts;
    const auto mark = powerplant::markOfModel(*l.aircraft);
    facts.learnt = {{"head", "1", 6.0, 20, {}, {}, mark, true, {}, {}},
                    {"prime", "2", 1.3, 20, {}, {}, mark, true, {}, {}},
                    {"fuel", {}, 1.05, 20, {}, {}, mark, true, {}, {}}};
    s.airframe.facts = std::make_shared<const AirframeFacts>(facts);
    const auto aircraft = flight::taught(l.aircraft, s);
    const auto j = json::parse(plan::planJson(*aircraft, s, plan::makePlan(*aircraft, s), true));
    EXPECT_EQ(wrong(schema(), schema(), j, ""), "");
    std::size_t needles = 0;
    for (const auto& phase : j["phases"])
        for (const auto& e : phase["expect"])
            if (e.contains("needles")) {
                ++needles;
                EXPECT_EQ(e["needles"][0]["engine"], "1");
                EXPECT_NEAR(e["needles"][0]["si"].get<double>() - e["si"].get<double>(), 6.0, 0.6);
                EXPECT_EQ(e["needles"][0]["origin"], "logged");
            }
    EXPECT_GE(needles, 6u) << "of every phase in which the heads are told";
}

TEST(PlanSchema, KnowsWhatItDescribesAndNothingElse) {
    const auto good = planOf("lorimer-spring");
    const auto refused = [&](const std::function<void(json&)>& spoil, const std::string& piece) {
        json bad = good;
        spoil(bad);
        const auto why = wrong(schema(), schema(), bad, "");
        EXPECT_NE(why.find(piece), std::string::npos) << piece << ": " << why;
    };
    refused([](json& j) { j["more"] = 1; }, "/more is not in the schema");
    refused([](json& j) { j.erase("ratings"); }, "lacks \"ratings\"");
    refused([](json& j) { j["phases"][2]["colour"] = "green"; }, "/phases/2/colour is none of");
    refused([](json& j) { j["series"][3]["charge_C"] = "hot"; }, "/series/3/charge_C is not of type");
    refused([](json& j) { j["phases"][5]["set"][0]["origin"] = "hearsay"; }, "/phases/5/set/0/origin is none of");
}

TEST(PlanSchema, ChargeAndMeanPressureAreExportedLikeTheRest) {
    const auto j = planOf("mercer-frost");
    const auto& f = flight::fly(*test::loaded("mercer-frost").aircraft, *test::loaded("mercer-frost").sortie);
    ASSERT_EQ(j["series"].size(), f.samples.size());
    for (const std::size_t i : {std::size_t{0}, f.samples.size() / 2, f.samples.size() - 1}) {
        EXPECT_NEAR(j["series"][i]["charge_C"], f.samples[i][Gauge::chargeTemperature] - 273.15, 1e-9);
        EXPECT_NEAR(j["series"][i]["bmep_kPa"], f.samples[i][Gauge::torque] / 1000, 1e-9);
        EXPECT_NEAR(j["series"][i]["power_kW"], f.samples[i][Gauge::power] / 1000, 1e-9);
        EXPECT_NEAR(j["series"][i]["ias_m_s"], f.samples[i][Gauge::airspeed], 1e-9);
    }
}
} // namespace
