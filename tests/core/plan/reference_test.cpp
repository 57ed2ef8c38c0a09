// SPDX-License-Identifier: GPL-3.0-or-later
// The demos' plans as they were when somebody last looked at every figure: a net for redesigns, which must change no
// figure unseen. It states no truth of the field; the other tests do. tools/refresh-reference writes it anew, and the
// difference is read before it is committed.
#include "plan/plan_export.h"
#include "test_data.h"
#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <nlohmann/json.hpp>

namespace {
using namespace amber;
using json = nlohmann::ordered_json;

std::string kept(const std::string& name) {
    return test::dataPath("../tests/reference/" + name);
}

class Reference : public testing::TestWithParam<std::string> {
protected:
    const flight::LoadedSortie& demo() { return test::loaded(GetParam()); }
    plan::Plan plan() { return plan::makePlan(*demo().aircraft, *demo().sortie); }
    /// Writes what is asked for, when it is asked for. @return whether it was
    static bool refreshed(const std::string& name, const std::string& text) {
        if (!std::getenv("AMBER_REFRESH_REFERENCE"))
            return false;
        std::ofstream(kept(name)) << text;
        return true;
    }
};

TEST_P(Reference, TheTextOfThePlanIsAsKept) {
    const auto name = GetParam() + ".txt";
    const auto text = plan::planText(plan());
    if (refreshed(name, text))
        return;
    std::istringstream before(test::fileText(kept(name))), now(text);
    std::string a, b;
    int line = 0, differing = 0;
    while (true) {
        const bool more = static_cast<bool>(std::getline(before, a)), also = static_cast<bool>(std::getline(now, b));
        if (!more && !also)
            break;
        ++line;
        if (more != also || a != b)
            EXPECT_GT(++differing, 10) << name << ":" << line << "\n  kept " << (more ? a : "nothing") << "\n  now  "
                                       << (also ? b : "nothing");
        if (more != also)
            break;
    }
    EXPECT_EQ(differing, 0);
    EXPECT_GT(line, 100);
}

/// The same shape, the same words, numbers within a millionth.
void compare(const json& a, const json& b, const std::string& path, int& differing) {
    if (differing > 10)
        return;
    const auto differs = [&](const auto& x, const auto& y) {
        ++differing;
        ADD_FAILURE() << path << "\n  kept " << x << "\n  now  " << y;
    };
    if (a.is_number() && b.is_number()) {
        const double x = a.get<double>(), y = b.get<double>();
        if (std::abs(x - y) > 1e-6 * std::max(std::abs(x), std::abs(y)) + 1e-7)
            differs(x, y);
    } else if (a.type() != b.type() || a.size() != b.size()) {
        differs(a.dump().substr(0, 200), b.dump().substr(0, 200));
    } else if (a.is_object()) {
        for (const auto& [key, value] : a.items())
            if (b.contains(key))
                compare(value, b[key], path + "/" + key, differing);
            else
                differs(key, "nothing");
    } else if (a.is_array()) {
        for (std::size_t i = 0; i < a.size(); ++i)
            compare(a[i], b[i], path + "/" + std::to_string(i), differing);
    } else if (a != b) {
        differs(a.dump(), b.dump());
    }
}

TEST_P(Reference, TheFiguresOfThePlanAreAsKept) {
    const auto name = GetParam() + ".json";
    auto now = json::parse(plan::planJson(*demo().aircraft, *demo().sortie, plan()));
    // Of the series every tenth moment is enough.
    for (const char* key : {"series"}) {
        json thin = json::array();
        for (std::size_t i = 0; i < now[key].size(); i += 10)
            thin.push_back(now[key][i]);
        now[key] = std::move(thin);
    }
    now.erase("engines");
    if (refreshed(name, now.dump(1) + "\n"))
        return;
    int differing = 0;
    const auto before = json::parse(test::fileText(kept(name)), nullptr, false);
    ASSERT_FALSE(before.is_discarded()) << "run tools/refresh-reference";
    compare(before, now, "", differing);
}

INSTANTIATE_TEST_SUITE_P(Demos, Reference, testing::ValuesIn(test::demoNames()), [](const auto& demo) {
    std::string name = demo.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});
} // namespace
