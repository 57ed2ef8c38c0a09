// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "measure/raster.h"
#include <QString>
#include <functional>
#include <string>
#include <string_view>

namespace amber::app {

inline constexpr int pdfDots = 200;         ///< dots an inch at which a PDF's page is drawn
inline constexpr double mostPixels = 100e6; ///< of a page; more is refused unread
/// Between a file's name and why it is refused, as the child says it.
inline constexpr std::string_view paperRefused = " cannot be used: ";
inline constexpr int decodeSeconds = 30; ///< of processor for one page
inline constexpr std::size_t decodeBytes = 1ULL << 30;

/// One page of a scan: a PNG, JPEG or TIFF (its pages), or a PDF.
struct Paper {
    measure::Raster page;
    int pages = 1;     ///< in the file
    std::string wrong; ///< why there is none, and what to do; or empty
};

/// Reads it here, in this process: what the child does. Sizes are looked at before anything is unpacked.
/// @param number from 1
Paper decodePaper(const QString& file, int number);
/// Sets what this process may take, for `decodePaper` on a file that nobody vouches for.
void limitThisProcess();

/// Has it read by a child process of our own (`booklet picture`) with limits of memory and time: a file that brings a
/// library down, or never ends, costs that page and nothing else. @param stop asked ten times a second; true ends it
Paper readPaper(const QString& file, int number, const std::function<bool()>& stop = {});

} // namespace amber::app
