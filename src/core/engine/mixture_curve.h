// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/engine_parameters.h"
#include <optional>

namespace amber::engine {

/// Indicated power per air over that at best power, against fuel–air ratio: a smooth curve with its top at 0.080,
/// through the points .050 .72, .055 .82, .060 .895, .067 .965, .074 .993, .080 1, .087 .993, .095 .972, .105 .935
/// (shape after Taylor, The Internal Combustion Engine in Theory and Practice, vol. 1). @param ratio clamped to 0.04 …
/// 0.14
double powerOfMixture(double ratio);

/// Fuel–air ratio of an automatic carburettor. @param chargeFraction of the highest rating, 0 … 1.3
double automaticRatio(const EngineParameters& engine, Mixture mixture, double chargeFraction);

} // namespace amber::engine
