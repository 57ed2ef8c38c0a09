// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber::test {

/// The folder of the shipped data: AMBER_THROTTLE_DATA, else that of the source tree.
const std::string& dataFolder();

} // namespace amber::test
