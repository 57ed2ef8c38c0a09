// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/metar.h"
#include <cmath>
#include <cstdint>
#include <cstdlib>

/// Any bytes are a report or a refusal with a reason; what was read is finite and within what weather can be.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    const auto reading = amber::air::readMetar({reinterpret_cast<const char*>(bytes), size});
    if (!reading) {
        if (reading.error().empty())
            std::abort();
        return 0;
    }
    const auto day = reading.value().applied(amber::air::standardDay(amber::Length{}));
    if (!std::isfinite(day.densityAltitude().si()) || day.qnh.si() < 80000 || day.qnh.si() > 115000 ||
        reading.value().summary().empty())
        std::abort();
    return 0;
}
