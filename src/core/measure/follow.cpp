// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/follow.h"
#include "units/median.h"
#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <numbers>

namespace amber::measure {
namespace {
// Prices, in pixels of way on bare paper. Found on charts drawn by seed (bench/amber-booklet, other seeds are
// reported).
constexpr double stepLength = 12.0;   // px along the main axis
constexpr double bendPrice = 1.6;     // for a turn of 5°, by its square
constexpr double cornerPrice = 26.0;  // for a turn of any size
constexpr double throughPrice = 16.0; // more, for a corner where the line that it leaves goes straight on
constexpr double mostBend = 0.35;     // rad, beyond that it is a corner
constexpr double asksUnder = 5.0;     // another way that costs so little more
constexpr double apart = 4.5;         // px; ways nearer are the same,
constexpr double apartByWidth = 1.6;  // or nearer than so many widths of the line: within a broad one no way is another
constexpr double asksUnderFar = 13.0; // the same of a way that leads far from this one
constexpr double farApart = 10.0;     // px
constexpr double dear = 15.0;         // a way that costs more is looked for again
constexpr double beam = 80.0;         // ways dearer by so much are left
constexpr double settles = 30.0;      // px round a click that need not be asked about again
constexpr double asksGap = 44.0;      // px of way without ink
constexpr double reach = 3.0;         // px, how far a click may miss its curve
constexpr double enough = 0.42;       // of the curve's own darkness along a step counts as all of it: dashes

/// The chart turned so that the clicks lead along +x.
class Way {
public:
    Way(const Raster& ink, const Grid& grid, std::vector<Place> clicks, const std::function<bool()>& stop)
        : ink_(ink), grid_(grid), stop_(stop), clicks_(std::move(clicks)) {
        const Place span = clicks_.back() - clicks_.front();
        across_ = std::abs(span.y) > 1.6 * std::abs(span.x);
        if (across_)
            for (auto& c : clicks_)
                std::swap(c.x, c.y);
        back_ = clicks_.back().x < clicks_.front().x;
        if (back_)
            std::reverse(clicks_.begin(), clicks_.end());
    }

    std::optional<Followed> run() {
        for (std::size_t i = 1; i < clicks_.size(); ++i)
            if (clicks_[i].x - clicks_[i - 1].x < (clicks_.size() == 2 ? 24.0 : 6.0))
                return std::nullopt;
        slopes();
        gridUnder();
        reference();
        // A knee costs one corner where it stands at a column and two where it stands between: what was dear is tried
        // again with the columns a little on, and the cheapest kept.
        std::optional<Followed> best;
        double cheapest = 0.0;
        for (const double shift : {0.0, 4.0, 8.0}) {
            if (best && cheapest < dear)
                break;
            bounds(shift);
            fields();
            if (!weigh()) {
                if (stop_ && stop_())
                    return std::nullopt;
                continue;
            }
            if (best && total_ >= cheapest)
                continue;
            cheapest = total_;
            best = centred();
            doubts(*best);
        }
        if (!best)
            return std::nullopt;
        Followed& out = *best;
        if (back_) {
            std::reverse(out.places.begin(), out.places.end());
            std::reverse(out.knees.begin(), out.knees.end());
        }
        if (across_) {
            for (auto& p : out.places)
                std::swap(p.at.x, p.at.y);
            for (auto& p : out.knees)
                std::swap(p.x, p.y);
            for (auto& d : out.doubts)
                std::swap(d.at.x, d.at.y);
        }
        return best;
    }

private:
    [[nodiscard]] double dark(double x, double y) const {
        return ink_.between(across_ ? Place{y, x} : Place{x, y}, 0.0);
    }
    [[nodiscard]] int height() const { return across_ ? ink_.width : ink_.height; }

    void bounds(double shift) {
        double low = 1e9, high = -1e9;
        for (const auto& c : clicks_) {
            low = std::min(low, c.y);
            high = std::max(high, c.y);
        }
        const double room = std::max(80.0, 0.35 * (high - low) + 0.5 * (clicks_.back().x - clicks_.front().x));
        top_ = std::max(0, static_cast<int>(low - room));
        rows_ = std::min(height() - 1, static_cast<int>(high + room)) - top_ + 1;
        // Columns: the clicks, and equal steps between them.
        columns_ = {clicks_.front().x};
        fixed_ = {0};
        for (std::size_t i = 1; i < clicks_.size(); ++i) {
            const double gap = clicks_[i].x - clicks_[i - 1].x;
            const double first = shift > 0 && gap > 2 * stepLength ? shift : 0.0;
            if (first > 0)
                columns_.push_back(clicks_[i - 1].x + first);
            const int n = std::max(1, static_cast<int>(std::lround((gap - first) / stepLength)));
            for (int j = 1; j <= n; ++j)
                columns_.push_back(clicks_[i - 1].x + first + (gap - first) * j / n);
            fixed_.push_back(columns_.size() - 1);
        }
    }
    void slopes() {
        for (int dy = -72; dy <= 72; dy += dy < -24 || dy >= 24 ? 3 : 1) // by single rows where it is not steep
            dy_.push_back(dy);
        const std::size_t n = dy_.size();
        near_.resize(n);
        for (std::size_t a = 0; a < n; ++a)
            for (std::size_t b = 0; b < n; ++b)
                if (const double turn = std::abs(angle(a) - angle(b)); turn < mostBend) {
                    const double fives = turn / (5.0 * std::numbers::pi / 180.0);
                    near_[a].push_back({b, std::min(bendPrice * fives * fives, cornerPrice)});
                }
    }
    [[nodiscard]] double angle(std::size_t k) const { return std::atan2(dy_[k], stepLength); }

    /// The grid lines that run with the way.
    void gridUnder() {
        const auto& with = across_ ? grid_.upright : grid_.level;
        for (const auto& line : with)
            along_.push_back(&line);
    }
    /// How much of the darkness at a place is the grid's for a way of this slope.
    [[nodiscard]] double ofGrid(double x, double y, double slope) const {
        for (const GridLine* line : along_)
            if (std::abs(line->across(x) - y) < 2.2 && std::abs(line->slope(x) - slope) < 0.12)
                return line->darkness;
        return 0.0;
    }

    /// The curve's own darkness and width: of the darkest short straight piece through each click, in the middle of all
    /// and the narrowest.
    void reference() {
        std::vector<double> found, widths;
        for (const auto& c : clicks_) {
            double best = 0.0, width = 0.0;
            for (int off = -3; off <= 3; ++off)
                for (std::size_t k = 0; k < dy_.size(); k += 2) {
                    const double s = dy_[k] / stepLength;
                    double sum = 0.0;
                    int n = 0;
                    const double way = std::cos(std::atan(s));
                    for (int t = -10; t <= 10; t += 2, ++n)
                        sum += std::max(0.0, dark(c.x + t * way, c.y + off + s * t * way) -
                                                 ofGrid(c.x + t * way, c.y + off + s * t * way, s));
                    if (sum / n <= best)
                        continue;
                    best = sum / n;
                    width = 0.0;
                    constexpr double look = 8.0, fine = 0.25; // px across it
                    for (double t = -look; t <= look; t += fine)
                        width += fine * (dark(c.x - s * t * way, c.y + off + t * way) > 0.5 * best ? 1.0 : 0.0);
                }
            found.push_back(best);
            widths.push_back(width);
        }
        reference_ = std::clamp(medianOf(std::move(found)), 40.0, 255.0);
        apart_ = std::max(apart, apartByWidth * *std::min_element(widths.begin(), widths.end()));
    }

    /// The part of the chart that is looked at, turned as the way leads; and the same without the grid lines that lead
    /// with it.
    void fields() {
        left_ = static_cast<int>(columns_.front()) - 8;
        wide_ = static_cast<int>(columns_.back()) + 9 - left_;
        full_.assign(static_cast<std::size_t>(wide_) * static_cast<std::size_t>(rows_), 0);
        for (int y = 0; y < rows_; ++y)
            for (int x = 0; x < wide_; ++x) {
                const int u = across_ ? y + top_ : x + left_, v = across_ ? x + left_ : y + top_;
                full_[at(x, y)] = ink_.has(u, v) ? ink_.at(u, v) : 0;
            }
        net_ = full_;
        double slant = 0.0;
        for (const GridLine* line : along_) {
            slant += line->slope(0.5 * (columns_.front() + columns_.back())) / static_cast<double>(along_.size());
            for (int x = 0; x < wide_; ++x) {
                const double middle = line->across(x + left_) - top_;
                for (int y = static_cast<int>(std::ceil(middle - 2.2)); y <= static_cast<int>(middle + 2.2); ++y)
                    if (y >= 0 && y < rows_)
                        net_[at(x, y)] = static_cast<std::uint8_t>(std::max(0.0, net_[at(x, y)] - line->darkness));
            }
        }
        slant_ = slant;
    }
    [[nodiscard]] std::size_t at(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(wide_) + static_cast<std::size_t>(x);
    }

    /// What of a step's way lies on no ink, px: looked at from a little before it to a little beyond, so that a dashed
    /// line's gap is seen with its dashes.
    [[nodiscard]] double bare(double x, double y, double dx, double dy) const {
        constexpr double beyond = 5.0; // px
        const double length = std::hypot(dx, dy), slope = dy / dx;
        const double over = beyond / length;
        const int n = std::max(6, static_cast<int>((length + 2 * beyond) / 1.8));
        const auto& field = std::abs(slope - slant_) < 0.12 ? net_ : full_;
        double sum = 0.0;
        for (int i = 0; i < n; ++i) {
            const double t = -over + (1.0 + 2 * over) * (i + 0.5) / n;
            const int px = static_cast<int>(x + t * dx - left_ + 0.5), py = static_cast<int>(y + t * dy + 0.5);
            if (px >= 0 && py >= 0 && px < wide_ && py < rows_)
                sum += std::min<double>(field[at(px, py)], reference_);
        }
        const double share = sum / n / reference_;
        return length * std::max(0.0, 1.0 - share / enough);
    }

    /// The price of a corner at a column and row for a way that came with this slope: dearer where the line that it
    /// leaves goes straight on, looked for beyond where a knee may stand between two columns.
    [[nodiscard]] float turns(std::size_t column, std::size_t row, std::size_t slope) const {
        constexpr double from = 1.1, length = 1.8; // steps
        const double dy = dy_[slope];
        const bool on = bare(columns_[column] + from * stepLength, static_cast<double>(row) + from * dy,
                             length * stepLength, length * dy) < 0.15 * length * std::hypot(stepLength, dy);
        return static_cast<float>(on ? cornerPrice + throughPrice : cornerPrice);
    }

    /// Rows by which a step to a column rises at a slope; steps are not all of one length.
    [[nodiscard]] int rise(std::size_t column, std::size_t slope) const {
        return static_cast<int>(std::lround(dy_[slope] * (columns_[column] - columns_[column - 1]) / stepLength));
    }

    static constexpr float never = 1e9F;

    /// What is known of the states (row and slope) of one column: rows beyond those that any way reaches are not kept,
    /// so that a large page takes no more than the lines on it.
    struct Column {
        std::size_t first = 0, slopes = 0; ///< the first row that is kept
        std::vector<float> kept;           ///< row by row
        Column() = default;
        /// @param all of every row
        Column(const std::vector<float>& all, std::size_t k) : slopes(k) {
            const auto known = [](float f) { return f < never; };
            const auto begin = std::find_if(all.begin(), all.end(), known);
            const auto end = std::find_if(all.rbegin(), all.rend(), known).base();
            first = static_cast<std::size_t>(begin - all.begin()) / k;
            const std::size_t last = (static_cast<std::size_t>(end - all.begin()) + k - 1) / k;
            if (begin < end)
                kept.assign(all.begin() + static_cast<std::ptrdiff_t>(first * k),
                            all.begin() + static_cast<std::ptrdiff_t>(last * k));
        }
        [[nodiscard]] std::size_t end() const { return slopes ? first + kept.size() / slopes : 0; }
        [[nodiscard]] float at(std::size_t row, std::size_t slope) const {
            return row < first || row >= end() ? never : kept[(row - first) * slopes + slope];
        }
    };

    bool weigh() {
        const std::size_t n = columns_.size(), k = dy_.size(), h = static_cast<std::size_t>(rows_), states = h * k;
        // forward: least price of reaching (column, row) having come with a slope; step: by where it arrives
        std::vector<Column> forward(n), step(n), turn(n);
        const auto allowed = [&](std::size_t column, std::size_t row) {
            for (std::size_t i = 0; i < fixed_.size(); ++i)
                if (fixed_[i] == column)
                    return std::abs(static_cast<double>(row) + top_ - clicks_[i].y) <= reach;
            return true;
        };
        std::vector<float> reached(states, never), steps(states), turned(states);
        for (std::size_t y = 0; y < h; ++y)
            if (allowed(0, y))
                std::fill_n(reached.begin() + static_cast<std::ptrdiff_t>(y * k), k, 0.0F);
        forward[0] = Column(reached, k);
        for (std::size_t c = 1; c < n; ++c) {
            if (stop_ && stop_())
                return false;
            const double dx = columns_[c] - columns_[c - 1];
            std::fill(reached.begin(), reached.end(), never);
            std::fill(steps.begin(), steps.end(), never);
            std::fill(turned.begin(), turned.end(), never);
            const auto& from = forward[c - 1];
            for (std::size_t y = from.first; y < from.end(); ++y) {
                float least = never;
                bool any = false;
                for (std::size_t b = 0; b < k; ++b)
                    if (from.at(y, b) < never) {
                        any = true;
                        turned[y * k + b] = turns(c - 1, y, b);
                        least = std::min(least, from.at(y, b) + turned[y * k + b]);
                    }
                if (!any)
                    continue;
                for (std::size_t s = 0; s < k; ++s) {
                    const auto to = static_cast<std::ptrdiff_t>(y) + rise(c, s);
                    if (to < 0 || to >= rows_ || !allowed(c, static_cast<std::size_t>(to)))
                        continue;
                    const std::size_t at = static_cast<std::size_t>(to) * k + s;
                    steps[at] = static_cast<float>(bare(columns_[c - 1], static_cast<double>(y), dx, rise(c, s)));
                    float best = c == 1 ? 0.0F : least;
                    for (const auto& [b, price] : near_[s])
                        best = std::min(best, from.at(y, b) + static_cast<float>(price));
                    reached[at] = best + steps[at];
                }
            }
            // What is dearer by far than the best so far will not come back: left, and not looked at again.
            const float leave = *std::min_element(reached.begin(), reached.end()) + static_cast<float>(beam);
            for (std::size_t i = 0; i < states; ++i)
                if (reached[i] > leave)
                    reached[i] = steps[i] = never;
            forward[c] = Column(reached, k);
            step[c] = Column(steps, k);
            turn[c - 1] = Column(turned, k);
            if (forward[c].kept.empty())
                return false;
        }
        // backward: least price from (column, row), having come with a slope, to the end
        const auto& last = forward[n - 1];
        const auto end = std::min_element(last.kept.begin(), last.kept.end());
        total_ = *end;
        std::size_t here = last.first * k + static_cast<std::size_t>(end - last.kept.begin());
        path_.assign(n, 0);
        path_[n - 1] = here;
        rival_.assign(n, {});
        std::vector<float> ahead(states, 0.0F), next(states), arrive(k);
        for (std::size_t c = n - 1; c-- > 0;) {
            if (stop_ && stop_())
                return false;
            const auto &from = forward[c], &taken = step[c + 1], &corner = turn[c];
            // into `next`: for each state at c, the least over what follows of turn, step and what is ahead of that
            std::fill(next.begin(), next.end(), never);
            for (std::size_t y = from.first; y < from.end(); ++y) {
                for (std::size_t s = 0; s < k; ++s) { // by the slope that it leaves with: step and ahead
                    const auto to = static_cast<std::ptrdiff_t>(y) + rise(c + 1, s);
                    const float cost = to < 0 || to >= rows_ ? never : taken.at(static_cast<std::size_t>(to), s);
                    arrive[s] = cost < never ? cost + ahead[static_cast<std::size_t>(to) * k + s] : never;
                }
                const float low = *std::min_element(arrive.begin(), arrive.end());
                if (low >= never)
                    continue;
                for (std::size_t b = 0; b < k; ++b) {
                    if (from.at(y, b) >= never)
                        continue;
                    float best = c == 0 ? low : low + corner.at(y, b);
                    for (const auto& [s, price] : near_[b])
                        best = std::min(best, arrive[s] + static_cast<float>(c == 0 ? 0.0 : price));
                    next[y * k + b] = best;
                }
            }
            // the best way itself, taken back one column
            const std::size_t y1 = here / k, s1 = here % k;
            const std::size_t y0 = static_cast<std::size_t>(static_cast<std::ptrdiff_t>(y1) - rise(c + 1, s1));
            const float want = forward[c + 1].at(y1, s1) - taken.at(y1, s1);
            std::size_t came = s1;
            float closest = never;
            for (std::size_t b = 0; b < k; ++b) {
                float price = corner.at(y0, b);
                for (const auto& [s, p] : near_[s1])
                    if (s == b)
                        price = std::min(price, static_cast<float>(p));
                if (const float off = std::abs(from.at(y0, b) + price - want); off < closest) {
                    closest = off;
                    came = b;
                }
            }
            here = path_[c] = y0 * k + (c == 0 ? s1 : came);
            if (c > 0)
                for (std::size_t y = from.first; y < from.end(); ++y) {
                    const double off =
                        std::abs(static_cast<double>(y) - static_cast<double>(y0)) * std::cos(angle(came));
                    if (off <= apart_)
                        continue;
                    float other = never;
                    for (std::size_t b = 0; b < k; ++b)
                        other = std::min(other, from.at(y, b) + next[y * k + b]);
                    const double over =
                        other - total_ - (off > std::max(farApart, 1.5 * apart_) ? asksUnderFar : asksUnder);
                    if (over < rival_[c].over)
                        rival_[c] = {over, off};
                }
            ahead.swap(next);
            forward[c + 1] = step[c + 1] = turn[c] = {};
        }
        return true;
    }

    struct Profile {
        double s, x, y, nx, ny; ///< length along, the place on the way, its normal
        double offset = 0.0, weight = 0.0, width = 0.0;
        bool ink = false;
    };

    [[nodiscard]] double rowOf(std::size_t c) const { return static_cast<double>(path_[c] / dy_.size()) + top_; }
    [[nodiscard]] bool nearLine(double x, double y, double tx, double ty) const {
        // A grid line within three pixels confuses a centre unless the way crosses it squarely enough.
        const auto look = [&](const std::vector<GridLine>& lines, bool swapped) {
            for (const auto& l : lines) {
                const double along = swapped ? y : x, across = swapped ? x : y;
                const double slope = l.slope(along), off = (l.across(along) - across) / std::hypot(1.0, slope);
                const double lx = swapped ? slope : 1.0, ly = swapped ? 1.0 : slope;
                const double sine = std::abs(tx * ly - ty * lx) / std::hypot(lx, ly);
                if (std::abs(off) < 3.0 + 4.0 * sine && sine < 0.97)
                    return true;
                if (std::abs(off) < 2.0)
                    return true;
            }
            return false;
        };
        return look(across_ ? grid_.upright : grid_.level, false) || look(across_ ? grid_.level : grid_.upright, true);
    }

    Followed centred() {
        Followed out;
        const std::size_t n = columns_.size();
        // Corners: a turn between steps that no bend allows.
        std::vector<std::size_t> corners{0};
        for (std::size_t c = 1; c + 1 < n; ++c) {
            const double in = angle(path_[c] % dy_.size()), next = angle(path_[c + 1] % dy_.size());
            if (std::abs(next - in) > 0.22 && (corners.empty() || c - corners.back() > 2 || corners.back() == 0))
                corners.push_back(c);
        }
        corners.push_back(n - 1);
        std::vector<Profile> all;
        std::vector<double> cornerS;
        double s = 0.0;
        std::vector<double> widths;
        int inked = 0;
        for (std::size_t c = 0; c + 1 < n; ++c) {
            if (std::find(corners.begin(), corners.end(), c) != corners.end())
                cornerS.push_back(s);
            const double x0 = columns_[c], y0 = rowOf(c), x1 = columns_[c + 1], y1 = rowOf(c + 1);
            const double length = std::hypot(x1 - x0, y1 - y0);
            const int pieces = std::max(1, static_cast<int>(std::lround(length / 2.0)));
            for (int i = 0; i < pieces; ++i) {
                const double t = static_cast<double>(i) / pieces;
                Profile p;
                p.s = s + t * length;
                p.x = x0 + t * (x1 - x0);
                p.y = y0 + t * (y1 - y0);
                const double tx = (x1 - x0) / length, ty = (y1 - y0) / length;
                p.nx = -ty;
                p.ny = tx;
                measure(p, tx, ty);
                inked += p.ink;
                if (p.weight > 0)
                    widths.push_back(p.width);
                all.push_back(p);
            }
            s += length;
        }
        cornerS.push_back(s);
        out.width = medianOf(std::move(widths));
        // A crossing makes a line look wide: such places say little of its centre.
        for (auto& p : all)
            if (p.width > 1.7 * out.width)
                p.weight *= 0.02;
        out.share = all.empty() ? 0.0 : static_cast<double>(inked) / static_cast<double>(all.size());
        smooth(all, cornerS, out);
        return out;
    }

    void measure(Profile& p, double tx, double ty) const {
        constexpr int half = 6;
        std::array<double, 2 * half + 1> value{};
        for (int i = -half; i <= half; ++i) // a little along the way too, against grain
            value[static_cast<std::size_t>(i + half)] =
                (dark(p.x + i * p.nx, p.y + i * p.ny) + dark(p.x + i * p.nx + tx, p.y + i * p.ny + ty) +
                 dark(p.x + i * p.nx - tx, p.y + i * p.ny - ty)) /
                3.0;
        // The darkest within two pixels, and the weight of what hangs together with it.
        std::size_t peak = half;
        for (std::size_t i = half - 2; i <= half + 2; ++i)
            if (value[i] > value[peak])
                peak = i;
        p.ink = value[peak] > 0.45 * reference_;
        if (!p.ink)
            return;
        double weight = 0.0, moment = 0.0;
        const double floor = 0.25 * value[peak];
        std::size_t a = peak, b = peak;
        while (a > 0 && value[a - 1] > floor)
            --a;
        while (b + 1 < value.size() && value[b + 1] > floor)
            ++b;
        for (std::size_t i = a; i <= b; ++i) {
            const double w = value[i] - floor;
            weight += w;
            moment += w * (static_cast<double>(i) - half);
        }
        if (weight <= 0)
            return;
        p.offset = moment / weight;
        p.width = weight / std::max(value[peak] - floor, 1.0);
        p.weight = nearLine(p.x, p.y, tx, ty) ? 0.03 : 1.0;
        if (a == 0 || b + 1 == value.size())
            p.weight *= 0.1; // it hangs together with something else
    }

    /// A straight or bent piece fitted to each window of some 20 px either way, never across a corner.
    void smooth(const std::vector<Profile>& all, const std::vector<double>& corners, Followed& out) const {
        constexpr double window = 22.0;
        const auto fitAt = [&](double s, double from, double to) {
            Eigen::Matrix3d a = Eigen::Matrix3d::Zero();
            Eigen::Vector3d b = Eigen::Vector3d::Zero();
            double sum = 0.0, squares = 0.0;
            std::vector<const Profile*> used;
            for (const auto& p : all)
                if (p.s >= from && p.s <= to && p.weight > 0 && std::abs(p.s - s) < window)
                    used.push_back(&p);
            std::vector<double> robust(used.size(), 1.0);
            Eigen::Vector3d k = Eigen::Vector3d::Zero();
            for (int round = 0; round < 3; ++round) {
                a.setZero();
                b.setZero();
                sum = 0.0;
                for (std::size_t i = 0; i < used.size(); ++i) {
                    const double t = (used[i]->s - s) / window;
                    const double w = used[i]->weight * robust[i] * (1.0 - 0.7 * t * t);
                    const Eigen::Vector3d row{1, t, t * t};
                    a += w * row * row.transpose();
                    b += w * used[i]->offset * row;
                    sum += w;
                }
                a(1, 1) += 0.02;
                a(2, 2) += 0.3;
                a(0, 0) += 1e-9;
                k = a.ldlt().solve(b);
                squares = 0.0;
                for (std::size_t i = 0; i < used.size(); ++i) {
                    const double t = (used[i]->s - s) / window;
                    const double off = used[i]->offset - (k(0) + k(1) * t + k(2) * t * t);
                    squares += used[i]->weight * robust[i] * off * off;
                    robust[i] = 1.0 / (1.0 + std::pow(off / 0.5, 2));
                }
            }
            const double spread = sum > 0.5 ? std::sqrt(squares / sum) : 1.5;
            return std::pair{sum > 0.02 ? k(0) : 0.0,
                             std::pair{spread / std::sqrt(std::max(0.25 * sum, 0.3)) + 0.04, sum}};
        };
        for (std::size_t c = 0; c + 1 < corners.size(); ++c) {
            const double from = corners[c], to = corners[c + 1];
            for (std::size_t i = 0; i < all.size(); i += 2) {
                const Profile& p = all[i];
                if (p.s < from || p.s >= to)
                    continue;
                const auto [offset, about] = fitAt(p.s, from, to);
                CurvePlace place;
                place.at = {p.x + offset * p.nx, p.y + offset * p.ny};
                place.error = about.first;
                place.seen = p.ink && about.second > 0.5;
                out.places.push_back(place);
            }
            if (c + 2 < corners.size() && !out.places.empty())
                out.knees.push_back(out.places.back().at);
        }
        if (!all.empty()) {
            const Profile& p = all.back();
            const auto [offset, about] = fitAt(p.s, corners[corners.size() - 2], corners.back());
            const Place end{columns_.back() + offset * p.nx, rowOf(columns_.size() - 1) + offset * p.ny};
            out.places.push_back({end, about.first, p.ink});
        }
    }

    void doubts(Followed& out) const {
        // Another way that costs little more: asked about where it is farthest from being settled.
        struct Stretch {
            double over;
            Place at;
        };
        std::vector<Stretch> found;
        for (std::size_t c = 1; c + 1 < rival_.size(); ++c) {
            if (rival_[c].over >= 0)
                continue;
            // One click where the two stand farthest apart settles a stretch.
            std::size_t farthest = c;
            double over = 0.0;
            for (; c + 1 < rival_.size() && rival_[c].over < 0; ++c) {
                over = std::min(over, rival_[c].over);
                if (rival_[c].off > rival_[farthest].off)
                    farthest = c;
            }
            const Place at{columns_[farthest], rowOf(farthest)};
            if (std::none_of(clicks_.begin(), clicks_.end(),
                             [&](Place click) { return distance(click, at) < settles; }))
                found.push_back({over, at});
        }
        std::sort(found.begin(), found.end(), [](const Stretch& a, const Stretch& b) { return a.over < b.over; });
        for (const auto& f : found)
            out.doubts.push_back({f.at, "two ways go on here"});
        // Ink missing for long.
        double since = 0.0;
        for (std::size_t i = 1; i < out.places.size(); ++i) {
            since = out.places[i].seen || nearGrid(out.places[i].at)
                        ? 0.0
                        : since + distance(out.places[i].at, out.places[i - 1].at);
            if (since > asksGap) {
                out.doubts.push_back({out.places[i].at, fmt::format("no ink for {:.0f} px", since)});
                since = -1e9;
            }
        }
    }
    [[nodiscard]] bool nearGrid(Place p) const {
        for (const GridLine* line : along_)
            if (std::abs(line->across(p.x) - p.y) < 2.5 && dark(p.x, p.y) > 0.5 * reference_)
                return true;
        return false;
    }

    const Raster& ink_;
    const Grid& grid_;
    const std::function<bool()>& stop_;
    std::vector<Place> clicks_;
    bool across_ = false, back_ = false;
    int top_ = 0, rows_ = 0, left_ = 0, wide_ = 0;
    double slant_ = 0.0;
    std::vector<std::uint8_t> full_, net_;
    std::vector<double> columns_;
    std::vector<std::size_t> fixed_;
    std::vector<int> dy_;
    struct Turn {
        std::size_t to;
        double price;
    };
    std::vector<std::vector<Turn>> near_;
    std::vector<const GridLine*> along_;
    double reference_ = 120.0, apart_ = apart;
    float total_ = 0.0F;
    std::vector<std::size_t> path_; ///< by column: row × slopes + the slope it came with
    struct Rival {
        double over = 1e9; ///< its price above that under which it is asked about: under nought it is
        double off = 0.0;  ///< px away
    };
    std::vector<Rival> rival_;
};
} // namespace

std::optional<Followed> follow(const Raster& ink, const Grid& grid, const std::vector<Place>& clicks,
                               const std::function<bool()>& stop) {
    if (clicks.size() < 2 || ink.empty())
        return std::nullopt;
    for (const auto& c : clicks)
        if (!(c.x >= 0 && c.y >= 0 && c.x <= ink.width - 1 && c.y <= ink.height - 1)) // no number is nowhere
            return std::nullopt;
    return Way(ink, grid, clicks, stop).run();
}

std::vector<std::size_t> thinned(const Followed& curve, double within) {
    const auto& p = curve.places;
    if (p.size() < 3) {
        std::vector<std::size_t> all(p.size());
        for (std::size_t i = 0; i < p.size(); ++i)
            all[i] = i;
        return all;
    }
    std::vector<bool> kept(p.size(), false);
    kept.front() = kept.back() = true;
    std::vector<std::pair<std::size_t, std::size_t>> left{{0, p.size() - 1}};
    while (!left.empty()) {
        const auto [a, b] = left.back();
        left.pop_back();
        const Place d = p[b].at - p[a].at;
        const double length = std::hypot(d.x, d.y);
        std::size_t farthest = a;
        double most = within;
        for (std::size_t i = a + 1; i < b; ++i) {
            const Place o = p[i].at - p[a].at;
            const double off = length > 0 ? std::abs(o.x * d.y - o.y * d.x) / length : std::hypot(o.x, o.y);
            if (off > most) {
                most = off;
                farthest = i;
            }
        }
        if (farthest != a) {
            kept[farthest] = true;
            left.push_back({a, farthest});
            left.push_back({farthest, b});
        }
    }
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < p.size(); ++i)
        if (kept[i])
            out.push_back(i);
    return out;
}

} // namespace amber::measure
