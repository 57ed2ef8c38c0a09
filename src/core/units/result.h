// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <stdexcept>
#include <string>
#include <utility>
#include <variant>

namespace amber {

/// A reason why something could not be done, in words for the person who asked.
struct Failure {
    std::string message; ///< what is wrong and what to do about it
};

/// Either a value or a Failure. Reading the value of a failed Result throws std::logic_error: test first.
template <class T>
class Result {
public:
    Result(T value) : state_(std::move(value)) {}
    Result(Failure failure) : state_(std::move(failure)) {}

    [[nodiscard]] bool ok() const { return std::holds_alternative<T>(state_); }
    explicit operator bool() const { return ok(); }

    [[nodiscard]] const T& value() const {
        if (!ok())
            throw std::logic_error("Result without a value: " + error());
        return std::get<T>(state_);
    }
    [[nodiscard]] T& value() {
        if (!ok())
            throw std::logic_error("Result without a value: " + error());
        return std::get<T>(state_);
    }
    [[nodiscard]] const std::string& error() const { return std::get<Failure>(state_).message; }

private:
    std::variant<T, Failure> state_;
};

} // namespace amber
