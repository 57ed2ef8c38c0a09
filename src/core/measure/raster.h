// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cmath>
#include <cstdint>
#include <vector>

/// What is measured off a scanned page: straightening, the printed grid, the axes it gives, a curve followed.
/// Plain arrays, no interface, no files; lengths in pixels of the scan, x to the right and y down.
namespace amber::measure {

/// A place on a page, px; the middle of the first pixel is (0, 0).
struct Place {
    double x = 0.0, y = 0.0;
    friend Place operator+(Place a, Place b) { return {a.x + b.x, a.y + b.y}; }
    friend Place operator-(Place a, Place b) { return {a.x - b.x, a.y - b.y}; }
    friend Place operator*(Place a, double k) { return {a.x * k, a.y * k}; }
};
inline double distance(Place a, Place b) {
    return std::hypot(a.x - b.x, a.y - b.y);
}

/// A rectangle of a page, px.
struct Box {
    double x = 0.0, y = 0.0, w = 0.0, h = 0.0;
    [[nodiscard]] double right() const { return x + w; }
    [[nodiscard]] double bottom() const { return y + h; }
    [[nodiscard]] bool holds(Place p) const { return p.x >= x && p.x <= right() && p.y >= y && p.y <= bottom(); }
};

/// A page in grey: 0 black, 255 white; row by row.
struct Raster {
    int width = 0, height = 0;
    std::vector<std::uint8_t> grey;

    Raster() = default;
    Raster(int w, int h, std::uint8_t fill = 255)
        : width(w), height(h), grey(static_cast<std::size_t>(w) * static_cast<std::size_t>(h), fill) {}
    [[nodiscard]] bool empty() const { return grey.empty(); }
    [[nodiscard]] std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
    }
    [[nodiscard]] bool has(int x, int y) const { return x >= 0 && y >= 0 && x < width && y < height; }
    [[nodiscard]] std::uint8_t at(int x, int y) const { return grey[index(x, y)]; }
    std::uint8_t& at(int x, int y) { return grey[index(x, y)]; }
    /// Between four pixels; beyond the edge `outside`.
    [[nodiscard]] double between(Place p, double outside) const;
};

/// How dark each pixel is against the paper round it, 0 paper to 255 black: what is unevenly lit or faded reads alike.
/// The paper is the lightest tenth of blocks of 32 px, between which it is interpolated.
Raster inkOf(const Raster& page);

/// Four corners of what was square on paper (clockwise from the upper left) made square again.
/// @return empty where the corners do not stand round an area of at least 16 px each way
Raster straightened(const Raster& page, const Place corners[4]);
/// A quarter turn clockwise, `times` over.
Raster turned(const Raster& page, int times);

} // namespace amber::measure
