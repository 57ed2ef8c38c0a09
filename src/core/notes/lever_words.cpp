// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/lever_words.h"
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace amber {

std::string flapText(double opening) {
    struct Word {
        double value;
        const char* text;
    };
    static constexpr std::array<Word, 7> words{{{0.0, "shut"},
                                                {0.25, "one quarter"},
                                                {1.0 / 3, "one third"},
                                                {0.5, "half"},
                                                {2.0 / 3, "two thirds"},
                                                {0.75, "three quarters"},
                                                {1.0, "open"}}};
    for (const auto& w : words)
        if (std::abs(opening - w.value) < 0.012)
            return w.text;
    return fmt::format("{:.0f} % open", 100 * opening);
}

std::string inSentence(std::string name) {
    if (name.size() > 1 && name[0] >= 'A' && name[0] <= 'Z' && name[1] >= 'a' && name[1] <= 'z')
        name[0] = static_cast<char>(name[0] - 'A' + 'a');
    return name;
}

} // namespace amber
