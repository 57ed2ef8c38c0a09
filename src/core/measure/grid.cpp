// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/grid.h"
#include "units/median.h"
#include <Eigen/Dense>
#include <algorithm>
#include <optional>

namespace amber::measure {
namespace {
constexpr int terms = 4;
constexpr double largest = 1e6; // px, beyond any page

double scaled(const GridLine& line, double along) {
    return 2.0 * (along - line.from) / std::max(line.to - line.from, 1.0) - 1.0;
}

/// One family of lines, looked for with `along` across the page; for upright lines the page is read transposed.
class Family {
public:
    Family(const Raster& ink, const Box& box, bool level) : ink_(ink), level_(level) {
        from_ = std::max(0, static_cast<int>(std::ceil(level ? box.x : box.y)));
        to_ = std::min((level ? ink.width : ink.height) - 1, static_cast<int>(level ? box.right() : box.bottom()));
        first_ = std::max(0, static_cast<int>(std::ceil(level ? box.y : box.x)));
        last_ = std::min((level ? ink.height : ink.width) - 1, static_cast<int>(level ? box.bottom() : box.right()));
    }

    std::vector<GridLine> lines() {
        if (to_ - from_ < 60 || last_ - first_ < 60)
            return {};
        strips();
        link();
        std::vector<GridLine> out;
        for (const auto& chain : chains_)
            if (auto line = fitted(chain))
                out.push_back(*line);
        return numbered(straightOnes(merged(std::move(out))));
    }
    [[nodiscard]] bool even() const { return even_; }

private:
    struct Peak {
        double along, across, height;
    };
    using Chain = std::vector<Peak>;

    [[nodiscard]] int dark(int along, int across) const {
        return level_ ? ink_.at(along, across) : ink_.at(across, along);
    }

    void strips() {
        const int count = std::clamp((to_ - from_) / 22, 12, 60);
        for (int s = 0; s < count; ++s) {
            const int a = from_ + (to_ - from_) * s / count, b = from_ + (to_ - from_) * (s + 1) / count;
            std::vector<double> mean(static_cast<std::size_t>(last_ - first_ + 1), 0.0);
            for (int c = first_; c <= last_; ++c) {
                double sum = 0.0;
                for (int x = a; x < b; ++x)
                    sum += dark(x, c);
                mean[static_cast<std::size_t>(c - first_)] = sum / (b - a);
            }
            const double ground = medianOf(mean);
            std::vector<Peak> found;
            for (std::size_t i = 1; i + 1 < mean.size(); ++i) {
                if (mean[i] < mean[i - 1] || mean[i] <= mean[i + 1] || mean[i] - ground < 14.0)
                    continue;
                // Its middle is where its weight is; what stands within two pixels is one line.
                double weight = 0.0, moment = 0.0;
                for (std::size_t j = i >= 2 ? i - 2 : 0; j <= std::min(i + 2, mean.size() - 1); ++j) {
                    const double w = std::max(0.0, mean[j] - ground - 0.25 * (mean[i] - ground));
                    weight += w;
                    moment += w * static_cast<double>(j);
                }
                found.push_back({0.5 * (a + b - 1), first_ + moment / weight, mean[i] - ground});
            }
            strips_.push_back(std::move(found));
        }
    }

    /// Peaks linked from strip to strip, each to the nearest of where its line is going; two strips may miss it.
    void link() {
        const double step = static_cast<double>(to_ - from_) / static_cast<double>(strips_.size());
        for (const auto& strip : strips_) {
            std::vector<bool> taken(strip.size(), false);
            struct Pair {
                double miss;
                std::size_t chain, peak;
            };
            std::vector<Pair> pairs;
            for (std::size_t c = 0; c < chains_.size(); ++c) {
                const Peak& end = chains_[c].back();
                const double gone = strip.empty() ? 0.0 : strip.front().along - end.along;
                if (gone > 3.5 * step)
                    continue;
                const double expected = end.across + slopeOf(chains_[c]) * gone;
                for (std::size_t p = 0; p < strip.size(); ++p)
                    if (const double miss = std::abs(strip[p].across - expected); miss < 2.2 + 0.02 * gone)
                        pairs.push_back({miss, c, p});
            }
            std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.miss < b.miss; });
            std::vector<bool> grown(chains_.size(), false);
            for (const auto& [miss, c, p] : pairs)
                if (!grown[c] && !taken[p]) {
                    chains_[c].push_back(strip[p]);
                    grown[c] = taken[p] = true;
                }
            for (std::size_t p = 0; p < strip.size(); ++p)
                if (!taken[p])
                    chains_.push_back({strip[p]});
        }
    }
    [[nodiscard]] static double slopeOf(const Chain& chain) {
        if (chain.size() < 4)
            return 0.0; // grids stand nearly straight
        const std::size_t n = std::min<std::size_t>(chain.size(), 8);
        const Peak &a = chain[chain.size() - n], &b = chain.back();
        return (b.across - a.across) / (b.along - a.along);
    }

    /// A smooth line through a chain, peaks that stand off it (where a curve crosses) left out.
    [[nodiscard]] std::optional<GridLine> fitted(const Chain& chain) const {
        const double span = chain.back().along - chain.front().along;
        if (chain.size() < 6 || span < 0.5 * (to_ - from_) ||
            static_cast<double>(chain.size()) < 0.5 * static_cast<double>(strips_.size()) * span / (to_ - from_))
            return std::nullopt;
        GridLine line;
        line.from = from_;
        line.to = to_;
        std::vector<double> weight(chain.size(), 1.0);
        double spread = 0.0;
        for (int round = 0; round < 5; ++round) {
            Eigen::MatrixXd a(static_cast<Eigen::Index>(chain.size()), terms);
            Eigen::VectorXd b(static_cast<Eigen::Index>(chain.size()));
            for (std::size_t i = 0; i < chain.size(); ++i) {
                const double t = scaled(line, chain[i].along);
                const auto row = static_cast<Eigen::Index>(i);
                a.row(row) << weight[i], weight[i] * t, weight[i] * t * t, weight[i] * t * t * t;
                b(row) = weight[i] * chain[i].across;
            }
            // A little against bending, so that a short chain does not fly off beyond its ends.
            Eigen::Matrix4d normal = a.transpose() * a;
            normal(2, 2) += 0.05;
            normal(3, 3) += 0.2;
            const Eigen::Vector4d k = normal.ldlt().solve(a.transpose() * b);
            std::copy(k.data(), k.data() + terms, line.k);
            std::vector<double> off;
            for (const auto& p : chain)
                off.push_back(std::abs(p.across - line.across(p.along)));
            spread = std::max(1.48 * medianOf(off), 0.15);
            for (std::size_t i = 0; i < chain.size(); ++i)
                weight[i] = off[i] < 3.0 * spread ? 1.0 : 0.05;
        }
        if (spread > 1.2)
            return std::nullopt;
        std::vector<double> heights;
        int shown = 0, all = 0;
        for (int x = from_; x <= to_; ++x, ++all) {
            const int c = static_cast<int>(std::lround(line.across(x)));
            int most = 0;
            for (int d = -1; d <= 1; ++d)
                if (c + d >= first_ && c + d <= last_)
                    most = std::max(most, dark(x, c + d));
            shown += most > 40;
            heights.push_back(most);
        }
        line.share = static_cast<double>(shown) / std::max(all, 1);
        line.darkness = medianOf(heights);
        return line.share > 0.45 ? std::optional(line) : std::nullopt;
    }

    [[nodiscard]] std::vector<GridLine> merged(std::vector<GridLine> lines) const {
        const double middle = 0.5 * (from_ + to_);
        std::sort(lines.begin(), lines.end(),
                  [&](const GridLine& a, const GridLine& b) { return a.across(middle) < b.across(middle); });
        std::vector<GridLine> out;
        for (const auto& line : lines)
            if (!out.empty() && line.across(middle) - out.back().across(middle) < 4.0) {
                if (line.share > out.back().share)
                    out.back() = line;
            } else {
                out.push_back(line);
            }
        return out;
    }

    /// Those that stand as their neighbours do: the slant of a family changes slowly from one side to the other.
    [[nodiscard]] std::vector<GridLine> straightOnes(const std::vector<GridLine>& lines) const {
        if (lines.size() < 3)
            return lines;
        const double middle = 0.5 * (from_ + to_), half = 0.5 * (to_ - from_);
        std::vector<GridLine> out;
        for (const auto& line : lines) {
            std::vector<double> slants, bends;
            for (const auto& other : lines)
                if (std::abs(other.across(middle) - line.across(middle)) < 0.35 * (last_ - first_)) {
                    slants.push_back(other.slope(middle));
                    bends.push_back(other.k[2]);
                }
            if (std::abs(line.slope(middle) - medianOf(slants)) * half < std::max(4.0, 0.012 * half) &&
                std::abs(line.k[2] - medianOf(bends)) < std::max(2.5, 0.008 * half))
                out.push_back(line);
        }
        return out;
    }

    /// Numbers by spacing: the usual step is that of the closest neighbours, and may change slowly across the chart.
    [[nodiscard]] std::vector<GridLine> numbered(std::vector<GridLine> lines) {
        if (lines.size() < 3)
            return lines;
        const double middle = 0.5 * (from_ + to_);
        std::vector<double> at, gaps;
        for (const auto& line : lines)
            at.push_back(line.across(middle));
        for (std::size_t i = 1; i < at.size(); ++i)
            gaps.push_back(at[i] - at[i - 1]);
        double best = 0.0, bestScore = -1.0;
        // The step under which most gaps are whole numbers of steps, the greatest such.
        for (double candidate : gaps) {
            double score = 0.0;
            for (const double g : gaps) {
                const double n = g / candidate;
                const double off = std::abs(n - std::round(n));
                score += std::round(n) >= 1 && off < 0.12 ? 1.0 : 0.0;
            }
            score += 1e-4 * candidate;
            if (score > bestScore) {
                bestScore = score;
                best = candidate;
            }
        }
        even_ = bestScore >= 0.75 * static_cast<double>(gaps.size());
        if (!even_) {
            for (std::size_t i = 0; i < lines.size(); ++i)
                lines[i].number = static_cast<int>(i);
            return lines;
        }
        // Walked from one to the next with a step that follows slowly; what stands between two places is not of the
        // grid.
        std::vector<GridLine> out{lines.front()};
        double step = best, last = at.front();
        // The first must have a neighbour a whole step away, else it is no line of this grid.
        std::size_t start = 0;
        for (std::size_t i = 0; i + 1 < at.size(); ++i) {
            const double n = (at[i + 1] - at[i]) / best;
            if (std::round(n) >= 1 && std::abs(n - std::round(n)) < 0.12) {
                start = i;
                break;
            }
        }
        out.front() = lines[start];
        out.front().number = 0;
        last = at[start];
        for (std::size_t i = start + 1; i < lines.size(); ++i) {
            const double n = (at[i] - last) / step;
            const int whole = static_cast<int>(std::round(n));
            if (whole < 1 || std::abs(n - whole) > 0.14 + 0.02 * whole)
                continue;
            step += 0.4 * ((at[i] - last) / whole - step);
            lines[i].number = out.back().number + whole;
            last = at[i];
            out.push_back(lines[i]);
        }
        return out;
    }

    const Raster& ink_;
    bool level_, even_ = true;
    int from_, to_, first_, last_;
    std::vector<std::vector<Peak>> strips_;
    std::vector<Chain> chains_;
};
} // namespace

double GridLine::across(double along) const {
    const double t = scaled(*this, along);
    return k[0] + t * (k[1] + t * (k[2] + t * k[3]));
}
double GridLine::slope(double along) const {
    const double t = scaled(*this, along);
    return (k[1] + t * (2 * k[2] + t * 3 * k[3])) * 2.0 / std::max(to - from, 1.0);
}

std::vector<Crossing> Grid::crossings() const {
    std::vector<Crossing> out;
    for (const auto& r : level)
        for (const auto& c : upright) {
            Place p{c.across(0.5 * (c.from + c.to)), 0.0};
            for (int i = 0; i < 6; ++i) {
                p.y = r.across(p.x);
                p.x = c.across(p.y);
            }
            p.y = r.across(p.x);
            if (box.holds(p))
                out.push_back({p, c.number, r.number});
        }
    return out;
}

Grid findGrid(const Raster& ink, const Box& box) {
    Grid out;
    out.box = box;
    if (!(box.w > 0 && box.h > 0 && std::abs(box.x) < largest && std::abs(box.y) < largest && box.w < largest &&
          box.h < largest))
        return out; // no box of any page
    Family level(ink, box, true), upright(ink, box, false);
    out.level = level.lines();
    out.upright = upright.lines();
    out.evenLevel = level.even();
    out.evenUpright = upright.even();
    return out;
}

} // namespace amber::measure
