// SPDX-License-Identifier: GPL-3.0-or-later
#include "printed_chart.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>

namespace amber::printed {
namespace {
constexpr int fine = 8;

/// A layer of ink at the fine resolution, of a part of the page.
class Layer {
public:
    Layer(int width, int height)
        : w_(width * fine), h_(height * fine), ink_(static_cast<std::size_t>(w_) * static_cast<std::size_t>(h_), 0) {}
    void stroke(Place a, Place b, double width, double dark) {
        a = a * fine + Place{fine * 0.5, fine * 0.5};
        b = b * fine + Place{fine * 0.5, fine * 0.5};
        const double r = 0.5 * width * fine;
        const Place d = b - a;
        const double length = std::hypot(d.x, d.y);
        const int x0 = std::max(0, static_cast<int>(std::min(a.x, b.x) - r)),
                  x1 = std::min(w_ - 1, static_cast<int>(std::max(a.x, b.x) + r) + 1);
        const int y0 = std::max(0, static_cast<int>(std::min(a.y, b.y) - r)),
                  y1 = std::min(h_ - 1, static_cast<int>(std::max(a.y, b.y) + r) + 1);
        for (int y = y0; y <= y1; ++y)
            for (int x = x0; x <= x1; ++x) {
                const Place p{x + 0.5 - a.x, y + 0.5 - a.y};
                const double t = length > 0 ? std::clamp((p.x * d.x + p.y * d.y) / length / length, 0.0, 1.0) : 0.0;
                if (std::hypot(p.x - t * d.x, p.y - t * d.y) <= r) {
                    auto& at =
                        ink_[static_cast<std::size_t>(y) * static_cast<std::size_t>(w_) + static_cast<std::size_t>(x)];
                    at = std::max(at, static_cast<std::uint8_t>(dark));
                }
            }
    }
    /// Mean darkness over one pixel of the scan.
    [[nodiscard]] double mean(Place p) const {
        const int x0 = static_cast<int>(std::floor(p.x * fine)), y0 = static_cast<int>(std::floor(p.y * fine));
        double sum = 0.0;
        int n = 0;
        for (int y = y0; y < y0 + fine; y += 2)
            for (int x = x0; x < x0 + fine; x += 2, ++n)
                if (x >= 0 && y >= 0 && x < w_ && y < h_)
                    sum +=
                        ink_[static_cast<std::size_t>(y) * static_cast<std::size_t>(w_) + static_cast<std::size_t>(x)];
        return n ? sum / n : 0.0;
    }

private:
    int w_, h_;
    std::vector<std::uint8_t> ink_;
};

/// What an 8 × 8 transform with coarse steps makes of a picture.
void blocked(Raster& page) {
    static const auto cosine = [] {
        std::array<std::array<double, 8>, 8> c{};
        for (std::size_t k = 0; k < 8; ++k)
            for (std::size_t n = 0; n < 8; ++n)
                c[k][n] = (k ? 0.5 : std::sqrt(0.125)) *
                          std::cos((2.0 * static_cast<double>(n) + 1) * static_cast<double>(k) * std::numbers::pi / 16);
        return c;
    }();
    for (int by = 0; by + 8 <= page.height; by += 8)
        for (int bx = 0; bx + 8 <= page.width; bx += 8) {
            double in[8][8], mid[8][8], out[8][8];
            for (int y = 0; y < 8; ++y)
                for (int x = 0; x < 8; ++x)
                    in[y][x] = page.at(bx + x, by + y) - 128.0;
            for (std::size_t y = 0; y < 8; ++y)
                for (std::size_t k = 0; k < 8; ++k) {
                    mid[y][k] = 0;
                    for (std::size_t x = 0; x < 8; ++x)
                        mid[y][k] += cosine[k][x] * in[y][x];
                }
            for (std::size_t k = 0; k < 8; ++k)
                for (std::size_t j = 0; j < 8; ++j) {
                    double sum = 0;
                    for (std::size_t y = 0; y < 8; ++y)
                        sum += cosine[j][y] * mid[y][k];
                    const double step = 6.0 + 3.0 * static_cast<double>(j + k);
                    out[j][k] = std::round(sum / step) * step;
                }
            for (std::size_t y = 0; y < 8; ++y)
                for (std::size_t x = 0; x < 8; ++x) {
                    double sum = 0;
                    for (std::size_t j = 0; j < 8; ++j)
                        for (std::size_t k = 0; k < 8; ++k)
                            sum += cosine[j][y] * cosine[k][x] * out[j][k];
                    page.at(bx + static_cast<int>(x), by + static_cast<int>(y)) =
                        static_cast<std::uint8_t>(std::clamp(sum + 128.0, 0.0, 255.0));
                }
        }
}
} // namespace

Place Chart::onPage(Place p) const {
    const double c = std::cos(s_.skew), n = std::sin(s_.skew);
    const double mx = s_.left + 0.5 * s_.width, my = s_.top + 0.5 * s_.height;
    Place q{mx + c * (p.x - mx) + n * (p.y - my), my - n * (p.x - mx) + c * (p.y - my)};
    const double lift = std::exp(-std::max(p.x, -200.0) / (0.35 * s_.width));
    q.y += s_.curl * lift * (1.0 - 2.0 * p.y / (s_.height + 2.0 * s_.top));
    q.x += 0.6 * s_.curl * lift;
    for (const auto& b : bells_) {
        const double r = std::hypot(p.x - b.x, p.y - b.y) / b.size;
        const double w = std::exp(-0.5 * r * r);
        q.x += w * b.dx;
        q.y += w * b.dy;
    }
    return q;
}
Place Chart::fromPage(Place page) const {
    Place p = page;
    for (int i = 0; i < 30; ++i)
        p = p + (page - onPage(p));
    return p;
}
Place Chart::onScan(Place v) const {
    return fromPage({s_.left + s_.width * (v.x - s_.lowX) / (s_.highX - s_.lowX),
                     s_.top + s_.height * (s_.highY - v.y) / (s_.highY - s_.lowY)});
}
Place Chart::valueAt(Place scan) const {
    const Place p = onPage(scan);
    return {s_.lowX + (p.x - s_.left) / s_.width * (s_.highX - s_.lowX),
            s_.highY - (p.y - s_.top) / s_.height * (s_.highY - s_.lowY)};
}
measure::Box Chart::frame() const {
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;
    for (int i = 0; i <= 10; ++i)
        for (const Place v : {Place{s_.lowX + 0.1 * i * (s_.highX - s_.lowX), s_.lowY},
                              {s_.lowX + 0.1 * i * (s_.highX - s_.lowX), s_.highY},
                              {s_.lowX, s_.lowY + 0.1 * i * (s_.highY - s_.lowY)},
                              {s_.highX, s_.lowY + 0.1 * i * (s_.highY - s_.lowY)}}) {
            const Place p = onScan(v);
            x0 = std::min(x0, p.x), y0 = std::min(y0, p.y), x1 = std::max(x1, p.x), y1 = std::max(y1, p.y);
        }
    return {x0 - 8, y0 - 8, x1 - x0 + 16, y1 - y0 + 16};
}
double Chart::off(Place scan, const Curve& curve) const {
    const Place p = onPage(scan);
    const auto& t = truth_[static_cast<std::size_t>(&curve - curves_.data())];
    double best = 1e9;
    for (std::size_t i = 1; i < t.size(); ++i) {
        if (std::min(t[i - 1].x, t[i].x) > p.x + best || std::max(t[i - 1].x, t[i].x) < p.x - best)
            continue;
        const Place d = t[i] - t[i - 1], o = p - t[i - 1];
        const double length = d.x * d.x + d.y * d.y;
        const double along = length > 0 ? std::clamp((o.x * d.x + o.y * d.y) / length, 0.0, 1.0) : 0.0;
        best = std::min(best, std::hypot(o.x - along * d.x, o.y - along * d.y));
    }
    return best;
}

Chart::Chart(const Setting& setting, std::vector<Curve> curves) : s_(setting), curves_(std::move(curves)) {
    std::mt19937_64 rng(s_.seed * 7919 + 3);
    std::uniform_real_distribution<double> one(0.0, 1.0);
    const int w = s_.width + 2 * s_.left, h = s_.height + 2 * s_.top;
    for (int i = 0; i < 4; ++i)
        bells_.push_back({one(rng) * w, one(rng) * h, (0.15 + 0.2 * one(rng)) * w, (2 * one(rng) - 1) * s_.shrink,
                          (2 * one(rng) - 1) * s_.shrink});
    const auto page = [&](Place v) {
        return Place{s_.left + s_.width * (v.x - s_.lowX) / (s_.highX - s_.lowX),
                     s_.top + s_.height * (s_.highY - v.y) / (s_.highY - s_.lowY)};
    };
    Layer layer(w, h);
    for (int i = 0; i <= s_.columns; ++i) {
        const double x = s_.left + static_cast<double>(s_.width) * i / s_.columns;
        layer.stroke({x, static_cast<double>(s_.top)}, {x, static_cast<double>(s_.top + s_.height)}, i % 5 ? 1.4 : 2.0,
                     s_.gridInk * (i % 5 ? 0.85 : 1.0));
    }
    for (int i = 0; i <= s_.rows; ++i) {
        const double y = s_.top + static_cast<double>(s_.height) * i / s_.rows;
        layer.stroke({static_cast<double>(s_.left), y}, {static_cast<double>(s_.left + s_.width), y}, i % 5 ? 1.4 : 2.0,
                     s_.gridInk * (i % 5 ? 0.85 : 1.0));
    }
    for (const auto& c : curves_) {
        std::vector<Place> at;
        for (const auto& v : c.values)
            at.push_back(page(v));
        double gone = 0.0;
        const double on = 16 + 6 * one(rng), cycle = on + 7 + 4 * one(rng);
        for (std::size_t i = 1; i < at.size(); ++i) {
            const double length = distance(at[i], at[i - 1]);
            if (!c.dashed || std::fmod(gone, cycle) < on)
                layer.stroke(at[i - 1], at[i], c.width * (0.85 + 0.3 * one(rng)), s_.curveInk);
            gone += length;
        }
        truth_.push_back(std::move(at));
    }
    // Labels: a few short strokes as high as printed figures, some upon the lines.
    for (int i = 0; i < s_.labels; ++i) {
        Place at{s_.left + s_.width * one(rng), s_.top + s_.height * one(rng)};
        if (!curves_.empty() && one(rng) < 0.5) {
            const auto& t =
                truth_[static_cast<std::size_t>(one(rng) * static_cast<double>(curves_.size())) % curves_.size()];
            at = t[static_cast<std::size_t>(one(rng) * static_cast<double>(t.size() - 1))] +
                 Place{0, 14 * (2 * one(rng) - 1)};
        }
        for (int glyph = 0; glyph < 4; ++glyph) {
            Place last = at + Place{9.0 * glyph + 6 * one(rng), 12 * one(rng) - 6};
            for (int k = 0; k < 4; ++k) {
                const Place next = at + Place{9.0 * glyph + 6 * one(rng), 12 * one(rng) - 6};
                layer.stroke(last, next, 1.6, s_.curveInk);
                last = next;
            }
        }
    }
    struct Blob {
        double x, y, size, deep;
    };
    std::vector<Blob> stains, pale;
    for (int i = 0; i < s_.stains; ++i)
        stains.push_back({one(rng) * w, one(rng) * h, (0.05 + 0.1 * one(rng)) * w, 30 + 30 * one(rng)});
    for (int i = 0; i < 5; ++i)
        pale.push_back({one(rng) * w, one(rng) * h, (0.08 + 0.15 * one(rng)) * w, s_.fading});
    std::normal_distribution<double> grain(0.0, s_.noise);
    scan_ = Raster(w, h);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const Place p{static_cast<double>(x), static_cast<double>(y)};
            double paper = 236 - 18 * std::exp(-x / (0.2 * w)), keep = 1.0;
            for (const auto& b : stains) {
                const double r = std::hypot(x - b.x, y - b.y) / b.size;
                paper -= r < 3 ? b.deep * std::exp(-r * r) : 0;
            }
            for (const auto& b : pale) {
                const double r = std::hypot(x - b.x, y - b.y) / b.size;
                keep *= r < 3 ? 1 - b.deep * std::exp(-r * r) : 1;
            }
            const double ink = layer.mean(onPage(p)) * keep / 255.0;
            scan_.at(x, y) =
                static_cast<std::uint8_t>(std::clamp(paper * (1 - ink) + 15 * ink + grain(rng), 0.0, 255.0));
        }
    if (s_.blocks)
        blocked(scan_);
}

Chart drawn(std::uint64_t seed) {
    std::mt19937_64 rng(seed * 104729 + 11);
    std::uniform_real_distribution<double> one(0.0, 1.0);
    const auto between = [&](double a, double b) { return a + (b - a) * one(rng); };
    Setting s;
    s.seed = seed;
    s.columns = static_cast<int>(between(8, 22));
    s.rows = static_cast<int>(between(7, 18));
    s.width = static_cast<int>(between(620, 1050));
    s.height = static_cast<int>(between(480, 760));
    s.curl = between(-4, 14);
    s.shrink = between(0, 2.5);
    s.skew = between(-0.02, 0.02);
    s.noise = between(3, 13);
    s.fading = between(0.0, 0.5);
    s.curveInk = between(150, 230);
    s.gridInk = one(rng) < 0.3 ? s.curveInk : between(60, 0.8 * s.curveInk); // one ink for both, or a paler one
    s.labels = static_cast<int>(between(4, 18));
    s.stains = static_cast<int>(between(0, 4));
    std::vector<Curve> curves;
    const int family = static_cast<int>(between(2, 6.99));
    const double slope = between(0.3, 1.1), bend = between(-0.5, 0.5);
    const bool knees = one(rng) < 0.5;
    const double width = between(2.2, 3.8);
    const auto add = [&](auto f, double from, double to, bool dashed, std::string name) {
        Curve c;
        c.dashed = dashed;
        c.width = width;
        c.name = std::move(name);
        for (int i = 0; i <= 400; ++i) {
            const double x = from + (to - from) * i / 400, y = f(x);
            if (y >= 0.02 && y <= 0.98)
                c.values.push_back({100 * x, 100 * y});
        }
        if (c.values.size() > 150)
            curves.push_back(std::move(c));
    };
    // A family: fans that come together at a near tangent, or run beside each other; with a knee at full throttle.
    const bool fan = one(rng) < 0.4;
    for (int i = 0; i < family; ++i) {
        const double base = 0.08 + 0.6 * i / family + between(-0.02, 0.02),
                     steep = fan ? slope * (0.5 + 0.25 * i) : slope;
        const double knee = knees ? between(0.45, 0.75) : 2.0, fall = between(0.5, 1.2);
        const double start = fan ? 0.1 : base;
        add(
            [=](double x) {
                const double rising = start + steep * (x - 0.04) * (1 + bend * (x - 0.5)) * 0.7;
                const double top = start + steep * (knee - 0.04) * (1 + bend * (knee - 0.5)) * 0.7;
                return x < knee ? rising : top - fall * (x - knee);
            },
            fan ? between(0.1, 0.2) : 0.04, 0.96, one(rng) < 0.25, "family " + std::to_string(i));
    }
    // Lines across them.
    for (int i = 0, n = static_cast<int>(between(0, 2.99)); i < n; ++i) {
        const double high = between(0.6, 0.95), fall = between(0.3, 0.8);
        add([=](double x) { return high - fall * x + 0.1 * x * x; }, 0.05, 0.95, one(rng) < 0.4,
            "across " + std::to_string(i));
    }
    return {s, std::move(curves)};
}

} // namespace amber::printed
