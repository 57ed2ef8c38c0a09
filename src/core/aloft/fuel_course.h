// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/course.h"
#include "sortie/sortie.h"

namespace amber::aloft {

/// Fuel in real time: what the plan draws from each tank in the phases that really came, for as long as they lasted.
/// Where a tank was chosen by hand, all is drawn from that one until the next is chosen.
class FuelCourse {
public:
    FuelCourse(const flight::Flown& flown, const TypeNotes& notes, const Course& course, const Happened& happened);

    /// m³ drawn by then at the plan's consumption.
    [[nodiscard]] double used(double real) const;
    /// m³/s there, all engines, at the plan's consumption.
    [[nodiscard]] double flow(double real) const;
    /// m³ in each tank then. @param burn consumption over the plan's
    [[nodiscard]] std::vector<double> tanks(double real, double burn) const;
    /// When a tank is down to so much, s; none: not before the end. While it feeds at the end of what the plan draws
    /// from it, it goes on at that rate. @param burn consumption over the plan's
    [[nodiscard]] std::optional<double> downTo(std::size_t tank, double left, double from, double burn) const;
    /// Index of the tank that feeds; −1: none.
    [[nodiscard]] int feeding(double real) const;

private:
    struct Node {
        double from = 0.0, to = 0.0;
        std::vector<double> rates; ///< m³/s out of each tank; negative: pumped into it
        int feeds = -1;
        [[nodiscard]] double total() const {
            double sum = 0.0;
            for (const double r : rates)
                sum += r;
            return sum;
        }
    };
    std::vector<Node> nodes_;
    std::vector<double> first_; ///< m³ in each tank at the start
};

} // namespace amber::aloft
