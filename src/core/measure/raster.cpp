// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/raster.h"
#include <Eigen/Dense>
#include <algorithm>
#include <array>

namespace amber::measure {

double Raster::between(Place p, double outside) const {
    const double fx = std::floor(p.x), fy = std::floor(p.y);
    if (!(fx >= 0 && fy >= 0 && fx + 1 < width && fy + 1 < height))
        return p.x > -0.5 && p.y > -0.5 && p.x < width - 0.5 && p.y < height - 0.5 && width > 0
                   ? at(std::clamp(static_cast<int>(std::lround(p.x)), 0, width - 1),
                        std::clamp(static_cast<int>(std::lround(p.y)), 0, height - 1))
                   : outside;
    const int x = static_cast<int>(fx), y = static_cast<int>(fy);
    const double u = p.x - fx, v = p.y - fy;
    return (1 - v) * ((1 - u) * at(x, y) + u * at(x + 1, y)) + v * ((1 - u) * at(x, y + 1) + u * at(x + 1, y + 1));
}

Raster inkOf(const Raster& page) {
    constexpr int block = 32; // px
    const int across = std::max(1, (page.width + block - 1) / block),
              down = std::max(1, (page.height + block - 1) / block);
    Raster paper(across, down);
    for (int by = 0; by < down; ++by)
        for (int bx = 0; bx < across; ++bx) {
            std::array<int, 256> count{};
            int all = 0;
            for (int y = by * block; y < std::min(page.height, (by + 1) * block); ++y)
                for (int x = bx * block; x < std::min(page.width, (bx + 1) * block); ++x, ++all)
                    ++count[page.at(x, y)];
            int lightest = 255;
            for (int above = count[255]; lightest > 0 && above * 10 < all;
                 above += count[static_cast<std::size_t>(--lightest)]) {
            }
            paper.at(bx, by) = static_cast<std::uint8_t>(std::max(lightest, 1));
        }
    Raster ink(page.width, page.height, 0);
    for (int y = 0; y < page.height; ++y) {
        const double v = std::clamp((y + 0.5) / block - 0.5, 0.0, down - 1.0);
        for (int x = 0; x < page.width; ++x) {
            const double u = std::clamp((x + 0.5) / block - 0.5, 0.0, across - 1.0);
            const double white = paper.between({u, v}, 255.0);
            ink.at(x, y) = static_cast<std::uint8_t>(std::clamp(255.0 * (white - page.at(x, y)) / white, 0.0, 255.0));
        }
    }
    return ink;
}

Raster straightened(const Raster& page, const Place corners[4]) {
    const double w = std::max(distance(corners[0], corners[1]), distance(corners[3], corners[2]));
    const double h = std::max(distance(corners[0], corners[3]), distance(corners[1], corners[2]));
    if (!(w >= 16 && h >= 16 && w * h <= 4e8))
        return {};
    // The homography that takes the straight page's corners to the scan's: eight unknowns from four pairs.
    const std::array<Place, 4> straight{Place{0, 0}, {w, 0}, {w, h}, {0, h}};
    Eigen::Matrix<double, 8, 8> a;
    Eigen::Matrix<double, 8, 1> b;
    for (int i = 0; i < 4; ++i) {
        const Place s = straight[static_cast<std::size_t>(i)], t = corners[i];
        a.row(2 * i) << s.x, s.y, 1, 0, 0, 0, -s.x * t.x, -s.y * t.x;
        a.row(2 * i + 1) << 0, 0, 0, s.x, s.y, 1, -s.x * t.y, -s.y * t.y;
        b(2 * i) = t.x;
        b(2 * i + 1) = t.y;
    }
    const auto lu = a.fullPivLu();
    if (!lu.isInvertible())
        return {};
    const Eigen::Matrix<double, 8, 1> k = lu.solve(b);
    Raster out(static_cast<int>(std::lround(w)), static_cast<int>(std::lround(h)));
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const double over = k(6) * x + k(7) * y + 1;
            const Place from{(k(0) * x + k(1) * y + k(2)) / over, (k(3) * x + k(4) * y + k(5)) / over};
            out.at(x, y) = static_cast<std::uint8_t>(std::lround(page.between(from, 255.0)));
        }
    return out;
}

Raster turned(const Raster& page, int times) {
    times = ((times % 4) + 4) % 4;
    Raster out = times % 2 ? Raster(page.height, page.width) : Raster(page.width, page.height);
    for (int y = 0; y < page.height; ++y)
        for (int x = 0; x < page.width; ++x) {
            const int u = times == 0 ? x : times == 1 ? page.height - 1 - y : times == 2 ? page.width - 1 - x : y;
            const int v = times == 0 ? y : times == 1 ? x : times == 2 ? page.height - 1 - y : page.width - 1 - x;
            out.at(u, v) = page.at(x, y);
        }
    return out;
}

} // namespace amber::measure
