#include "core/steps/steady/network.h"

#include <opencv2/core.hpp>
#include <queue>

#include <algorithm>
#include <array>
#include <cmath>
#include <Eigen/SparseCholesky>
#include <stdexcept>

namespace frenlo {

namespace {

constexpr int parameters = 8; // of a transform whose last element is 1

/// Into coordinates in which the photo is about -1 to 1, so that all parameters weigh alike.
Transform into_unit(cv::Size size)
{
    const double half = std::hypot(size.width, size.height) / 2;
    return {1 / half, 0, -(size.width - 1) / 2.0 / half, 0, 1 / half, -(size.height - 1) / 2.0 / half, 0, 0, 1};
}

Transform scaled_to_one(const Transform& t)
{
    return t * (1 / t(2, 2));
}

/// The nearest transform of this kind, by the corners.
Transform limited(const Transform& t, Movement movement, cv::Size size)
{
    if (movement == Movement::perspective)
        return scaled_to_one(t);
    std::vector<PointPair> corners;
    for (const cv::Point2d& c : corners_of(size))
        corners.push_back({c, moved(t, c)});
    return fit(movement, corners).value_or(t);
}

using Neighbours = std::vector<std::vector<std::pair<std::size_t, const Measured*>>>;

Neighbours neighbours_of(std::size_t photos, std::span<const Measured> links)
{
    Neighbours n(photos);
    for (const Measured& l : links) {
        n[l.from].emplace_back(l.to, &l);
        n[l.to].emplace_back(l.from, &l);
    }
    for (auto& list : n) // the best first: the start is then near the solution
        std::stable_sort(list.begin(), list.end(),
                         [](const auto& a, const auto& b) { return a.second->weight > b.second->weight; });
    return n;
}

/// From the reference along the links, the fewest of them.
void start_from_reference(std::size_t reference, const Neighbours& neighbours, Solved& s)
{
    std::queue<std::size_t> next({reference});
    s.connected[reference] = true;
    while (!next.empty()) {
        const std::size_t at = next.front();
        next.pop();
        for (const auto& [other, link] : neighbours[at]) {
            if (s.connected[other])
                continue;
            s.connected[other] = true;
            s.from_reference[other] =
                scaled_to_one((link->from == at ? link->transform : link->transform.inv()) * s.from_reference[at]);
            next.push(other);
        }
    }
}

/// What a link still misses, seen from the reference: the identity where it agrees.
Transform rest_of(const Measured& l, const Solved& s)
{
    return scaled_to_one(s.from_reference[l.to].inv() * l.transform * s.from_reference[l.from]);
}

/// One step of the whole network: corrections x of each photo with x[to] - x[from] = what the link misses.
void improve(std::size_t reference, std::span<const Measured> links, const std::vector<double>& weights,
             Movement movement, cv::Size size, Solved& s)
{
    const std::size_t photos = s.from_reference.size();
    const Transform unit = into_unit(size);
    std::vector<int> unknown(photos, -1);
    int count = 0;
    for (std::size_t i = 0; i < photos; ++i)
        if (i != reference && s.connected[i])
            unknown[i] = count++;
    if (count == 0)
        return;
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(count, parameters);
    for (std::size_t k = 0; k < links.size(); ++k) {
        const Measured& l = links[k];
        if (!s.connected[l.from])
            continue;
        const Transform rest = unit * rest_of(l, s) * unit.inv();
        const int a = unknown[l.from], b = unknown[l.to];
        for (const auto& [row, sign] : {std::pair(a, -1.0), std::pair(b, 1.0)}) {
            if (row < 0)
                continue;
            entries.emplace_back(row, row, weights[k]);
            for (int p = 0; p < parameters; ++p)
                right(row, p) += sign * weights[k] * (rest.val[p] - (p % 4 == 0 ? 1 : 0)); // less the identity
        }
        if (a >= 0 && b >= 0) {
            entries.emplace_back(a, b, -weights[k]);
            entries.emplace_back(b, a, -weights[k]);
        }
    }
    Eigen::SparseMatrix<double> network(count, count);
    network.setFromTriplets(entries.begin(), entries.end());
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(network);
    if (solver.info() != Eigen::Success) // weights are above 0 and every unknown is linked: it cannot be
        throw std::runtime_error("the network of links between photos cannot be solved");
    const Eigen::MatrixXd corrections = solver.solve(right);
    for (std::size_t i = 0; i < photos; ++i) {
        if (unknown[i] < 0)
            continue;
        Transform step = Transform::eye();
        for (int p = 0; p < parameters; ++p)
            step.val[p] += corrections(unknown[i], p);
        s.from_reference[i] = limited(s.from_reference[i] * (unit.inv() * step * unit), movement, size);
    }
}

}

Solved solve_network(std::size_t photos, std::size_t reference, std::span<const Measured> links, Movement movement,
                     cv::Size size)
{
    Solved s{std::vector<Transform>(photos, Transform::eye()), std::vector<double>(photos, 0),
             std::vector<bool>(photos, false)};
    const Neighbours neighbours = neighbours_of(photos, links);
    start_from_reference(reference, neighbours, s);
    std::vector<double> weights(links.size()), misses(links.size(), 0);
    constexpr int rounds = 8;
    double scale = 8; // px; what misses by much more is taken for wrong
    for (int round = 0; round < rounds; ++round) {
        for (std::size_t k = 0; k < links.size(); ++k) {
            misses[k] = s.connected[links[k].from] ? corner_distance(rest_of(links[k], s), Transform::eye(), size) : 0;
            const double off = misses[k] / scale;
            weights[k] =
                links[k].weight / ((1 + off * off) * (1 + off * off)) + 1e-9; // Geman-McClure; never quite cut off
        }
        improve(reference, links, weights, movement, size, s);
        scale = std::max(0.3, scale * 0.6);
    }
    std::vector<double> sums(photos, 0);
    for (std::size_t k = 0; k < links.size(); ++k)
        for (const std::size_t i : {links[k].from, links[k].to}) {
            s.disagreement_px[i] += weights[k] * corner_distance(rest_of(links[k], s), Transform::eye(), size);
            sums[i] += weights[k];
        }
    for (std::size_t i = 0; i < photos; ++i)
        s.disagreement_px[i] = sums[i] > 0 ? s.disagreement_px[i] / sums[i] : 0;
    // Photos on their own lie as their neighbours do.
    for (std::size_t i = 0; i < photos; ++i) {
        if (s.connected[i])
            continue;
        for (std::size_t away = 1; away < photos; ++away) {
            if (i >= away && s.connected[i - away]) {
                s.from_reference[i] = s.from_reference[i - away];
                break;
            }
            if (i + away < photos && s.connected[i + away]) {
                s.from_reference[i] = s.from_reference[i + away];
                break;
            }
        }
    }
    return s;
}

}
