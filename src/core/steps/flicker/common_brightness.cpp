#include "core/steps/flicker/common_brightness.h"

#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/trend.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <Eigen/Dense>
#include <Eigen/SparseCholesky>
#include <stdexcept>

namespace frenlo {

namespace {

constexpr std::size_t luminance_curve = 3; ///< after the three colours

double stops_of(const LightCell& cell, std::size_t colour)
{
    return colour < luminance_curve ? cell.colours[colour] : cell.stops;
}

/// Cells that can be compared between two photos: pixels that clip in one and not in the other would speak for
/// themselves. None where the photos have different shapes.
std::vector<std::size_t> comparable(const Brightness& a, const Brightness& b)
{
    std::vector<std::size_t> cells;
    if (a.columns != b.columns || a.rows != b.rows)
        return cells;
    for (const double least : {0.9, 0.3}) {
        cells.clear();
        for (std::size_t c = 0; c < a.cells.size(); ++c)
            if (a.cells[c].usable >= least && b.cells[c].usable >= least)
                cells.push_back(c);
        if (cells.size() >= 12)
            break;
    }
    return cells;
}

double tukey(double u)
{
    return std::abs(u) < 1 ? (1 - u * u) * (1 - u * u) : 0;
}

double spread_of(const std::vector<double>& values, double around)
{
    std::vector<double> off;
    off.reserve(values.size());
    for (const double v : values)
        off.push_back(std::abs(v - around));
    constexpr double finest = 0.002;
    return std::max(finest, 1.4826 * middle_of(std::move(off))); // of a normal distribution
}

/// How much brighter one photo is than another, and how sure that is.
struct Difference
{
    double stops = 0;
    double weight = 0;
};

/// The middle is robust; the mean of those near it is sharper (Tukey's biweight, two rounds).
Difference robust_mean(const std::vector<double>& values)
{
    double value = middle_of(values);
    const double spread = spread_of(values, value);
    for (int round = 0; round < 2; ++round) {
        double sum = 0, weights = 0;
        for (const double d : values) {
            const double w = tukey((d - value) / (4 * spread));
            sum += w * d;
            weights += w;
        }
        if (weights > 0)
            value = sum / weights;
    }
    return {value, double(values.size()) / (spread * spread)};
}

/// What depends on place or tone is a sum of few shapes, each 1 at its own node: which of them reach a cell, and how
/// much.
struct Reach
{
    std::array<std::size_t, 4> node{};
    std::array<double, 4> share{};
    std::size_t count = 0;
    void add(std::size_t n, double s)
    {
        if (s > 0) {
            node[count] = n;
            share[count++] = s;
        }
    }
};

Reach reach_of_place(const Brightness& b, std::size_t cell)
{
    const std::size_t column = cell % std::size_t(b.columns), line = cell / std::size_t(b.columns);
    static const std::vector<double> across = cell_middles(place_columns), down_the_picture = cell_middles(place_rows);
    const Neighbours x = neighbours_of(across, (double(column) + 0.5) / b.columns);
    const Neighbours y = neighbours_of(down_the_picture, (double(line) + 0.5) / b.rows);
    Reach r;
    for (const auto& [row, down] : {std::pair(y.first, 1 - y.share), std::pair(y.second, y.share)}) {
        r.add(row * place_columns + x.first, down * (1 - x.share));
        r.add(row * place_columns + x.second, down * x.share);
    }
    return r;
}

Reach reach_of_tone(double stops)
{
    const Neighbours t = neighbours_of(tone_knots, stops);
    Reach r;
    r.add(t.first, 1 - t.share);
    r.add(t.second, t.share);
    return r;
}

/// The values at the nodes that explain most of the cells' values best: least squares with Tukey's weights; what
/// nothing speaks for stays near 0. left: what they do not explain.
Eigen::VectorXd fit_nodes(const std::vector<Reach>& reaches, std::vector<double>& left, std::size_t nodes)
{
    constexpr double usual = 0.2; // stops: how much a node may well differ
    const std::vector<double> values = left;
    const auto explain = [&](const Eigen::VectorXd& at_nodes) {
        for (std::size_t c = 0; c < values.size(); ++c) {
            left[c] = values[c];
            for (std::size_t i = 0; i < reaches[c].count; ++i)
                left[c] -= at_nodes[Eigen::Index(reaches[c].node[i])] * reaches[c].share[i];
        }
    };
    // From the middle of those around each: where most of them changed, that is what is to be explained.
    std::vector<std::vector<double>> around(nodes);
    for (std::size_t c = 0; c < values.size(); ++c)
        for (std::size_t i = 0; i < reaches[c].count; ++i)
            if (reaches[c].share[i] >= 0.4)
                around[reaches[c].node[i]].push_back(values[c]);
    Eigen::VectorXd fitted = Eigen::VectorXd::Zero(Eigen::Index(nodes));
    for (std::size_t n = 0; n < nodes; ++n)
        fitted[Eigen::Index(n)] = middle_of(around[n]);
    explain(fitted);
    for (int round = 0; round < 3; ++round) {
        const double spread = spread_of(left, 0);
        Eigen::MatrixXd m =
            Eigen::MatrixXd::Identity(Eigen::Index(nodes), Eigen::Index(nodes)) * (spread * spread / (usual * usual));
        Eigen::VectorXd right = Eigen::VectorXd::Zero(Eigen::Index(nodes));
        for (std::size_t c = 0; c < values.size(); ++c) {
            const double w = tukey(left[c] / (4 * spread));
            const Reach& r = reaches[c];
            for (std::size_t i = 0; i < r.count; ++i) {
                right[Eigen::Index(r.node[i])] += w * r.share[i] * values[c];
                for (std::size_t k = 0; k < r.count; ++k)
                    m(Eigen::Index(r.node[i]), Eigen::Index(r.node[k])) += w * r.share[i] * r.share[k];
            }
        }
        fitted = m.ldlt().solve(right);
        explain(fitted);
    }
    return fitted;
}

constexpr std::size_t places = std::size_t(place_columns) * place_rows, tones = tone_knots.size();
constexpr std::size_t curves = luminance_curve + 1 + places + tones; ///< R, G, B, luminance, places, tones

/// The differences of one pair of photos, of all curves.
std::array<Difference, curves> differences(const Brightness& a, const Brightness& b, const Sharing& sharing)
{
    std::array<Difference, curves> all{};
    const auto cells = comparable(a, b);
    if (cells.empty()) {
        constexpr double hardly = 1000; // as sure as twelve cells that differ by a tenth of a stop
        for (std::size_t c = 0; c < luminance_curve; ++c)
            all[c] = {b.colours[c] - a.colours[c], hardly};
        all[luminance_curve] = {b.stops - a.stops, hardly};
        for (std::size_t c = luminance_curve + 1; c < curves; ++c)
            all[c] = {0, 1e-3}; // nothing speaks for a difference
        return all;
    }
    std::vector<double> by_cell(cells.size());
    for (std::size_t c = 0; c <= luminance_curve; ++c) {
        for (std::size_t k = 0; k < cells.size(); ++k)
            by_cell[k] = stops_of(b.cells[cells[k]], c) - stops_of(a.cells[cells[k]], c);
        all[c] = robust_mean(by_cell);
    }
    std::vector<Reach> place, tone;
    std::vector<double> by_pixel;
    for (std::size_t k = 0; k < cells.size(); ++k) {
        by_cell[k] -= all[luminance_curve].stops;
        place.push_back(reach_of_place(a, cells[k]));
    }
    const Eigen::VectorXd by_place = fit_nodes(place, by_cell, places);
    for (std::size_t k = 0; k < cells.size(); ++k) {
        double beside = all[luminance_curve].stops;
        for (std::size_t i = 0; sharing.tone_beside_place && i < place[k].count; ++i)
            beside += by_place[Eigen::Index(place[k].node[i])] * place[k].share[i];
        const LightCell &from = a.cells[cells[k]], &to = b.cells[cells[k]];
        for (std::size_t t = 0; t < from.tones.size(); ++t) {
            tone.push_back(reach_of_tone((from.tones[t] + to.tones[t]) / 2));
            by_pixel.push_back(to.tones[t] - from.tones[t] - beside);
        }
    }
    const Eigen::VectorXd by_tone = fit_nodes(tone, by_pixel, tones);
    for (std::size_t n = 0; n < places; ++n)
        all[luminance_curve + 1 + n] = {by_place[Eigen::Index(n)], 1};
    for (std::size_t n = 0; n < tones; ++n)
        all[luminance_curve + 1 + places + n] = {by_tone[Eigen::Index(n)], 1};
    return all;
}

struct Pair
{
    std::size_t from = 0, to = 0;
    std::array<Difference, curves> differences;
};

/// Curves of one kind through all differences; a free level each, so that their mean is 0. curve: the first one; they
/// share its weights.
std::vector<std::vector<double>> brought_together(const std::vector<Pair>& pairs, std::size_t photos, std::size_t curve,
                                                  std::size_t count)
{
    const auto n = Eigen::Index(photos);
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(n, Eigen::Index(count));
    double usual = 0;
    for (const Pair& p : pairs) {
        const auto i = Eigen::Index(p.to), j = Eigen::Index(p.from);
        const double w =
            p.differences[curve].weight / double(p.to - p.from); // what lies further apart has changed more
        entries.emplace_back(i, i, w);
        entries.emplace_back(j, j, w);
        entries.emplace_back(i, j, -w);
        entries.emplace_back(j, i, -w);
        for (std::size_t c = 0; c < count; ++c) {
            right(i, Eigen::Index(c)) += w * p.differences[curve + c].stops;
            right(j, Eigen::Index(c)) -= w * p.differences[curve + c].stops;
        }
        usual += w / double(n);
    }
    entries.emplace_back(0, 0,
                         usual > 0 ? usual : 1); // the level is free: that of the first photo is held, to be set below
    Eigen::SparseMatrix<double> m(n, n);
    m.setFromTriplets(entries.begin(), entries.end());
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(m);
    if (solver.info() != Eigen::Success)
        throw std::runtime_error("the brightness of neighbouring photos cannot be brought together");
    const Eigen::MatrixXd solved = solver.solve(right);
    std::vector<std::vector<double>> result(count);
    for (std::size_t c = 0; c < count; ++c) {
        const auto column = solved.col(Eigen::Index(c));
        const double level = column.mean();
        for (Eigen::Index i = 0; i < n; ++i)
            result[c].push_back(column[i] - level);
    }
    return result;
}

}

CommonBrightness common_brightness(std::span<const Brightness* const> photos, const Sharing& sharing)
{
    constexpr std::size_t farthest = 3;
    std::vector<Pair> pairs;
    for (std::size_t i = 0; i < photos.size(); ++i)
        for (std::size_t span = 1; span <= std::min(farthest, i); ++span)
            pairs.push_back({i - span, i, {}});
    tbb::parallel_for(std::size_t(0), pairs.size(), [&](std::size_t k) {
        pairs[k].differences = differences(*photos[pairs[k].from], *photos[pairs[k].to], sharing);
    });
    CommonBrightness shared;
    const auto curve = [&](std::size_t colour) {
        std::vector<double> plain;
        for (const Brightness* b : photos)
            plain.push_back(colour < luminance_curve ? b->colours[colour] : b->stops);
        if (!sharing.leave_out_moving)
            return plain;
        auto values = brought_together(pairs, photos.size(), colour, 1).front();
        double level = 0; // that of the whole photos
        for (const double p : plain)
            level += p / double(plain.size());
        for (double& v : values)
            v += level;
        return values;
    };
    shared.luminance = curve(luminance_curve);
    for (std::size_t c = 0; c < 3; ++c)
        shared.colours[c] = curve(c);
    shared.by_place = brought_together(pairs, photos.size(), luminance_curve + 1, places);
    shared.by_tone = brought_together(pairs, photos.size(), luminance_curve + 1 + places, tones);
    return shared;
}

}
