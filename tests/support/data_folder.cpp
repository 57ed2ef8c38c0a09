// SPDX-License-Identifier: GPL-3.0-or-later
#include "data_folder.h"
#include <cstdlib>

namespace amber::test {

const std::string& dataFolder() {
    static const std::string folder = [] {
        const char* named = std::getenv("AMBER_THROTTLE_DATA");
        return std::string(named && *named ? named : AMBER_SOURCE_DATA);
    }();
    return folder;
}

} // namespace amber::test
