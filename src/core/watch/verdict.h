// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <string_view>
#include <utility>

namespace amber::watch {

/// Worse is greater.
enum class Colour { normal, amber, red };

constexpr std::string_view wordOf(Colour colour) {
    return colour == Colour::normal ? "normal" : colour == Colour::amber ? "amber" : "red";
}

/// A colour and why, in one sentence, in the cockpit's own units. Only this folder can make one that is not normal:
/// what screen, card and export show has been judged here, by one of the functions beside.
class Verdict {
public:
    Verdict() = default; ///< normal, nothing to say
    [[nodiscard]] Colour colour() const { return colour_; }
    [[nodiscard]] const std::string& sentence() const { return sentence_; }
    bool operator==(const Verdict&) const = default;

private:
    friend struct Maker; // watch/maker.h, which no other folder may include
    Verdict(Colour colour, std::string sentence) : colour_(colour), sentence_(std::move(sentence)) {}
    Colour colour_ = Colour::normal;
    std::string sentence_;
};

} // namespace amber::watch
