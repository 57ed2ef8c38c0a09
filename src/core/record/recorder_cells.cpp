// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/recorder_cells.h"
#include "record/log_text.h"
#include <charconv>
#include <cmath>
#include <string>

namespace amber::record {

std::optional<double> numberIn(std::string_view cell, bool comma) {
    if (cell.empty())
        return std::nullopt;
    if (cell.front() == '+')
        cell.remove_prefix(1);
    std::string plain;
    if (cell.find(',') != std::string_view::npos) {
        const char decimals = comma ? ',' : '.', thousands = comma ? '.' : ',';
        std::size_t since = 0;
        bool behind = false, parted = false;
        for (const char c : cell) {
            if (c == thousands) {
                if (behind || (parted && since != 3) || since == 0 || since > 3)
                    return std::nullopt;
                parted = true;
                since = 0;
                continue;
            }
            if (c == decimals) {
                if (behind || (parted && since != 3))
                    return std::nullopt;
                behind = true;
                plain += '.';
                continue;
            }
            plain += c;
            if (c != '-')
                ++since;
        }
        if (parted && !behind && since != 3)
            return std::nullopt;
        cell = plain;
    } else if (comma && cell.find('.') != cell.rfind('.')) {
        return std::nullopt;
    }
    double value = 0.0;
    const auto [end, error] = std::from_chars(cell.data(), cell.data() + cell.size(), value);
    if (error != std::errc() || end != cell.data() + cell.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

std::optional<CellTime> timeIn(std::string_view cell, bool comma) {
    if (const auto seconds = numberIn(cell, comma); seconds && std::abs(*seconds) < 1e9)
        return CellTime{static_cast<std::int64_t>(std::llround(*seconds * 1000.0))};
    // A fraction of a second behind the seconds of a clock.
    std::int64_t fraction = 0;
    if (const auto point = cell.find_last_of(".,"); point != std::string_view::npos && cell.find(':') < point) {
        const auto part = numberIn("0." + std::string(cell.substr(point + 1)));
        if (!part)
            return std::nullopt;
        fraction = static_cast<std::int64_t>(std::llround(*part * 1000.0));
        cell = cell.substr(0, point);
    }
    if (const auto full = timeFrom(cell))
        return CellTime{*full + fraction, true, false};
    if (cell.size() == 7) // 9:05:07
        return timeIn("0" + std::string(cell));
    if (cell.size() == 5 || cell.size() == 8)
        if (const auto clock = timeFrom("1970-01-01 " + std::string(cell)))
            return CellTime{*clock + fraction, false, true};
    return std::nullopt;
}

} // namespace amber::record
