#include "core/light/evening.h"

#include "core/base/local_fit.h"
#include "core/light/exposure_steps.h"

#include <Eigen/SparseCholesky>

#include <algorithm>
#include <array>
#include <cmath>
#include <stdexcept>

namespace frenlo {

namespace {

double middle_of(std::vector<double> v)
{
    if (v.empty())
        return 0;
    std::nth_element(v.begin(), v.begin() + std::ptrdiff_t(v.size() / 2), v.end());
    return v[v.size() / 2];
}

/// How much brighter one photo is than another, by what most cells share, and how sure that is.
struct Difference
{
    double stops = 0;
    double weight = 0;
};

/// colour: 0 to 2; 3 for luminance.
double stops_of(const LightCell& cell, std::size_t colour)
{
    return colour < 3 ? cell.colours[colour] : cell.stops;
}

Difference difference(const Brightness& a, const Brightness& b, std::size_t colour)
{
    constexpr double wholly = 0.9; // usable: pixels that clip in one photo and not in the other would speak for themselves
    std::vector<double> by_cell;
    const std::size_t cells = std::min(a.cells.size(), b.cells.size());
    for (const double least : {wholly, 0.3}) {
        by_cell.clear();
        for (std::size_t c = 0; c < cells; ++c)
            if (a.cells[c].usable >= least && b.cells[c].usable >= least)
                by_cell.push_back(stops_of(b.cells[c], colour) - stops_of(a.cells[c], colour));
        if (by_cell.size() >= 12)
            break;
    }
    if (by_cell.empty())
        return a.empty() || b.empty() ? Difference() : Difference{b.stops - a.stops, 1};
    const double middle = middle_of(by_cell);
    std::vector<double> off;
    for (const double d : by_cell)
        off.push_back(std::abs(d - middle));
    const double spread = std::max(0.002, 1.4826 * middle_of(off)); // of a normal distribution
    // The middle is robust; the mean of those near it is sharper (Tukey's biweight, two rounds).
    double value = middle;
    for (int round = 0; round < 2; ++round) {
        double sum = 0, weights = 0;
        for (const double d : by_cell) {
            const double u = (d - value) / (4 * spread);
            if (std::abs(u) >= 1)
                continue;
            const double w = (1 - u * u) * (1 - u * u);
            sum += w * d;
            weights += w;
        }
        if (weights > 0)
            value = sum / weights;
    }
    return {value, double(by_cell.size()) / (spread * spread)};
}

/// One curve through all differences between near photos; photos that were not measured are left out.
std::vector<double> shared_curve(std::span<const Brightness> photos, const std::vector<std::size_t>& measured, std::size_t colour)
{
    constexpr std::array<std::size_t, 3> spans{1, 2, 3};
    const auto n = Eigen::Index(measured.size());
    std::vector<double> curve(measured.size(), 0);
    if (n < 2)
        return curve;
    std::vector<Eigen::Triplet<double>> entries;
    Eigen::VectorXd right = Eigen::VectorXd::Zero(n);
    double usual = 0;
    for (Eigen::Index i = 0; i < n; ++i)
        for (const std::size_t span : spans) {
            if (std::size_t(i) < span)
                continue;
            const Eigen::Index j = i - Eigen::Index(span);
            const Difference d = difference(photos[measured[std::size_t(j)]], photos[measured[std::size_t(i)]], colour);
            const double w = d.weight / double(span); // what lies further apart has changed more
            entries.emplace_back(i, i, w);
            entries.emplace_back(j, j, w);
            entries.emplace_back(i, j, -w);
            entries.emplace_back(j, i, -w);
            right[i] += w * d.stops;
            right[j] -= w * d.stops;
            usual += w / double(n);
        }
    for (Eigen::Index i = 0; i < n; ++i) // the level is free: held a little everywhere, set below
        entries.emplace_back(i, i, 1e-9 * std::max(usual, 1e-9));
    Eigen::SparseMatrix<double> m(n, n);
    m.setFromTriplets(entries.begin(), entries.end());
    const Eigen::SimplicialLDLT<Eigen::SparseMatrix<double>> solver(m);
    if (solver.info() != Eigen::Success)
        throw std::runtime_error("the brightness of neighbouring photos cannot be brought together");
    const Eigen::VectorXd solved = solver.solve(right);
    double level = 0;
    for (Eigen::Index i = 0; i < n; ++i)
        level += (photos[measured[std::size_t(i)]].stops - solved[i]) / double(n);
    for (Eigen::Index i = 0; i < n; ++i)
        curve[std::size_t(i)] = solved[i] + level;
    return curve;
}

/// The values of x and y from begin on, and how much each has to say.
struct Piece
{
    std::span<const double> x;
    std::span<const double> y;
    std::vector<double> prior;
};

struct Smoothed
{
    std::vector<double> curve;
    double freedom = 0; ///< trace of the smoother: how many parameters it is worth
};

Smoothed smoothed(const Piece& p, double reach, int degree)
{
    Smoothed s;
    for (std::size_t i = 0; i < p.x.size(); ++i) {
        const double room = std::min(reach / 2, (p.x.back() - p.x.front()) / 2);
        const double around = std::clamp(p.x[i], p.x.front() + room, p.x.back() - room);
        const auto w = local_weights(p.x, {around, p.x[i]}, reach, degree, LocalKernel::tricube, p.prior);
        double value = 0;
        for (std::size_t k = 0; k < w.size(); ++k)
            value += w[k] * p.y[k];
        s.curve.push_back(value);
        s.freedom += w[i];
    }
    return s;
}

/// What speaks against a smoother: the corrected Akaike criterion (Hurvich, Simonoff, Tsai 1998), of those that have a say.
double criterion(const Piece& p, const Smoothed& s)
{
    double sum = 0, n = 0;
    for (std::size_t i = 0; i < p.y.size(); ++i) {
        sum += p.prior[i] * (p.y[i] - s.curve[i]) * (p.y[i] - s.curve[i]);
        n += p.prior[i];
    }
    const double left = 1 - (s.freedom + 2) / n;
    constexpr double least = 1e-8; // square stops: finer cannot be told
    return left <= 0 ? 1e9 : std::log(sum / n + least) + 1 + 2 * (s.freedom + 1) / (n * left);
}

/// The slow curve over [begin, end), robust: what is far off loses its say (bisquare, Cleveland 1979). Of several smoothers,
/// none quicker than the reach asks for, the one that the photos speak for: the slower, the less of the flicker is taken for
/// the day's light.
void smooth_piece(std::span<const double> x, std::span<const double> y, double reach, std::size_t begin, std::size_t end, std::vector<double>& slow)
{
    Piece piece{x.subspan(begin, end - begin), y.subspan(begin, end - begin), std::vector<double>(end - begin, 1)};
    constexpr int rounds = 3, line = 1, quadratic = 2, cubic = 3;
    for (int round = 0; round < rounds; ++round) {
        const auto first = smoothed(piece, reach, quadratic);
        std::vector<double> off;
        for (std::size_t k = 0; k < piece.y.size(); ++k)
            off.push_back(std::abs(piece.y[k] - first.curve[k]));
        const double six = std::max(0.01, 6 * middle_of(off));
        for (std::size_t k = 0; k < off.size(); ++k) {
            const double u = off[k] / six;
            piece.prior[k] = u < 1 ? (1 - u * u) * (1 - u * u) : 1e-6;
        }
    }
    Smoothed best = smoothed(piece, reach, quadratic);
    double least = criterion(piece, best);
    for (const auto& [farther, degree] : {std::pair(1.7, cubic), std::pair(3.0, cubic), std::pair(3.0, line)}) {
        Smoothed other = smoothed(piece, reach * farther, degree);
        if (const double c = criterion(piece, other); c < least) {
            least = c;
            best = std::move(other);
        }
    }
    std::copy(best.curve.begin(), best.curve.end(), slow.begin() + std::ptrdiff_t(begin));
}

/// A local quadratic over so far to both sides follows what takes the window and longer.
double reach_of(std::span<const double> x, double window_s)
{
    constexpr double of_window = 0.5;
    const double whole = x.empty() ? 0 : x.back() - x.front();
    return std::max(of_window * window_s, whole / std::max<double>(1, double(x.size()) - 1) * 4);
}

/// Photos from which on the light is another one: the levels before and behind differ by much more than photos do among
/// themselves, and at once.
std::vector<std::size_t> sudden_steps(const std::vector<double>& y)
{
    constexpr std::size_t side = 6;
    std::vector<std::size_t> found;
    if (y.size() < 2 * side)
        return found;
    std::vector<double> steps;
    for (std::size_t i = 1; i < y.size(); ++i)
        steps.push_back(std::abs(y[i] - y[i - 1]));
    const double usual = std::max(0.01, 1.4826 * middle_of(steps));
    const auto level = [&](std::size_t begin, std::size_t end) {
        return middle_of({y.begin() + std::ptrdiff_t(begin), y.begin() + std::ptrdiff_t(end)});
    };
    for (std::size_t i = 2; i + 2 < y.size(); ++i) {
        const double jump = y[i] - y[i - 1];
        if (std::abs(jump) < std::max(0.12, 5 * usual))
            continue;
        const std::size_t from = i >= side ? i - side : 0, to = std::min(y.size(), i + side);
        const double lasting = level(i, to) - level(from, i);
        if (lasting * jump > 0 && std::abs(lasting) > 0.6 * std::abs(jump) && std::abs(lasting) > std::max(0.1, 3 * usual))
            found.push_back(i);
    }
    return found;
}

}

std::vector<double> gaussian_smoothed(std::span<const double> values, double sigma)
{
    const auto n = std::int64_t(values.size());
    const auto reach = std::int64_t(std::ceil(4 * sigma));
    std::vector<double> smooth;
    for (std::int64_t i = 0; i < n; ++i) {
        double sum = 0, weights = 0;
        for (std::int64_t k = -reach; k <= reach; ++k) {
            std::int64_t at = i + k;
            while (n > 0 && (at < 0 || at >= n)) // reflected, the end itself twice
                at = at < 0 ? -1 - at : 2 * n - 1 - at;
            const double w = std::exp(-0.5 * double(k * k) / (sigma * sigma));
            sum += w * values[std::size_t(at)];
            weights += w;
        }
        smooth.push_back(sum / weights);
    }
    return smooth;
}

double flicker_of(std::span<const double> stops)
{
    const auto smooth = gaussian_smoothed(stops);
    double sum = 0;
    for (std::size_t i = 0; i < stops.size(); ++i)
        sum += (stops[i] - smooth[i]) * (stops[i] - smooth[i]);
    return stops.empty() ? 0 : std::sqrt(sum / double(stops.size()));
}

Evening even_light(std::span<const Brightness> photos, std::span<const double> seconds, std::span<const std::optional<double>> exposures,
                   const EveningWishes& wishes)
{
    Evening evening;
    evening.photos.resize(photos.size());
    evening.curve.resize(photos.size(), {});
    std::vector<std::size_t> measured;
    std::vector<double> x;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        evening.photos[i].stops = evening.photos[i].target = photos[i].stops;
        if (photos[i].empty())
            continue;
        measured.push_back(i);
        x.push_back(seconds[i]);
    }
    if (measured.size() < 3)
        return evening;

    // What the camera's settings made, against the first photo.
    std::vector<double> camera(measured.size(), 0);
    const auto known = [&](std::size_t k) { return k < measured.size() && measured[k] < exposures.size() && exposures[measured[k]]; };
    for (std::size_t k = 1; k < measured.size(); ++k) {
        camera[k] = camera[k - 1];
        if (known(k) && known(k - 1))
            camera[k] += *exposures[measured[k]] - *exposures[measured[k - 1]];
    }

    std::vector<double> luminance = shared_curve(photos, measured, 3);
    for (std::size_t k = 0; k < measured.size(); ++k)
        evening.photos[measured[k]].stops = evening.photos[measured[k]].target = luminance[k];
    if (wishes.camera_steps) { // refined on the pictures: what the lens and the shutter really did
        std::vector<double> correction(measured.size(), 0);
        for (std::size_t k = 1; k < measured.size(); ++k) {
            correction[k] = correction[k - 1];
            const double set = camera[k] - camera[k - 1];
            if (std::abs(set) < 0.05)
                continue;
            evening.steps.push_back({measured[k], {set, LightJump::Cause::camera, false}});
            // The way on from both sides, by a line each through a few photos, meets in the middle of the step.
            constexpr std::size_t side = 6;
            const auto meets = [&](std::size_t begin, std::size_t end) {
                std::vector<double> xs(x.begin() + std::ptrdiff_t(begin), x.begin() + std::ptrdiff_t(end));
                const double at = (x[k - 1] + x[k]) / 2, far = std::max(xs.back() - at, at - xs.front()) + 1e-9;
                const auto w = local_weights(xs, at, far, 1, LocalKernel::even);
                double value = 0, noise = 0;
                for (std::size_t n = 0; n < w.size(); ++n) {
                    value += w[n] * (luminance[begin + n] - camera[begin + n]);
                    noise += w[n] * w[n];
                }
                return std::pair(value, noise);
            };
            std::size_t begin = k, end = k;
            while (begin > 0 && k - begin < side && camera[begin - 1] == camera[k - 1])
                --begin;
            while (end < measured.size() && end - k < side && camera[end] == camera[k])
                ++end;
            if (k - begin >= 3 && end - k >= 3) {
                const double rest = meets(k, end).first - meets(begin, k).first;
                constexpr double may_be_off = 0.1; // stops: more than that is the scene
                if (std::abs(rest) < may_be_off)
                    correction[k] += rest;
            }
        }
        for (std::size_t k = 0; k < measured.size(); ++k)
            camera[k] += correction[k];
    } else {
        std::fill(camera.begin(), camera.end(), 0);
    }
    for (std::size_t k = 0; k < measured.size(); ++k)
        luminance[k] -= camera[k];

    // Steps in the scene end a stretch; those that are not kept are taken out of the curve.
    std::vector<std::size_t> breaks{0};
    const auto found = sudden_steps(luminance);
    std::vector<double> taken_out(measured.size(), 0);
    breaks.insert(breaks.end(), found.begin(), found.end());
    breaks.push_back(measured.size());
    const double reach = reach_of(x, wishes.window_s);
    const auto slow_of = [&](const std::vector<double>& y) {
        std::vector<double> slow(y.size(), 0);
        for (std::size_t b = 0; b + 1 < breaks.size(); ++b)
            smooth_piece(x, y, reach, breaks[b], breaks[b + 1], slow);
        return slow;
    };
    const std::vector<double> slow = slow_of(luminance);
    for (const std::size_t k : found) {
        LightStep step{measured[k], {slow[k] - slow[k - 1], LightJump::Cause::scene, true}};
        for (const LightStep& decided : wishes.steps)
            if (decided.photo == step.photo && decided.jump.cause == step.jump.cause)
                step.jump.kept = decided.jump.kept;
        if (!step.jump.kept)
            for (std::size_t n = k; n < measured.size(); ++n)
                taken_out[n] += step.jump.stops;
        evening.steps.push_back(step);
    }
    std::sort(evening.steps.begin(), evening.steps.end(), [](const LightStep& a, const LightStep& b) { return a.photo < b.photo; });

    const auto off_of = [&](const std::vector<double>& y, const std::vector<double>& curve) {
        std::vector<double> off;
        for (std::size_t k = 0; k < y.size(); ++k)
            off.push_back(std::abs(y[k] - curve[k]));
        return middle_of(off);
    };
    const double usual = std::max(0.02, 1.4826 * off_of(luminance, slow));
    for (std::size_t k = 0; k < measured.size(); ++k) {
        LightChange& change = evening.photos[measured[k]];
        const double quick = luminance[k] - slow[k];
        change.suspect = std::abs(quick) > std::max(0.3, 5 * usual);
        const double gain = -(wishes.strength * quick + camera[k] + taken_out[k]);
        change.gain = {gain, gain, gain};
        change.target = change.stops + gain;
        evening.curve[measured[k]].fill(luminance[k] + camera[k] + gain);
    }
    if (wishes.each_colour) {
        for (std::size_t colour = 0; colour < 3; ++colour) {
            std::vector<double> y = shared_curve(photos, measured, colour);
            for (std::size_t k = 0; k < y.size(); ++k)
                y[k] -= camera[k];
            const std::vector<double> curve = slow_of(y);
            for (std::size_t k = 0; k < y.size(); ++k) {
                const double gain = -(wishes.strength * (y[k] - curve[k]) + camera[k] + taken_out[k]);
                evening.photos[measured[k]].gain[colour] = gain;
                evening.curve[measured[k]][colour] = y[k] + camera[k] + gain;
            }
        }
    }
    return evening;
}

namespace {

std::vector<std::size_t> those_measured(std::span<const Brightness> photos)
{
    std::vector<std::size_t> measured;
    for (std::size_t i = 0; i < photos.size(); ++i)
        if (!photos[i].empty())
            measured.push_back(i);
    return measured;
}

/// Flicker of what the cells share. Steps are none: what they make is taken off. as_shot: before what is not kept went.
double shared_flicker(std::span<const Brightness> photos, const std::vector<LightStep>& steps, bool as_shot)
{
    const auto measured = those_measured(photos);
    auto curve = shared_curve(photos, measured, 3);
    for (const LightStep& s : steps)
        for (std::size_t k = 0; k < measured.size(); ++k)
            if (measured[k] >= s.photo && (as_shot || s.jump.kept))
                curve[k] -= s.jump.stops;
    return flicker_of(curve);
}

/// By what the photos now miss the curve that they are to follow; the level is not theirs to miss. colour: 3 for luminance.
std::vector<double> missed(std::span<const Brightness> photos, const Evening& evening, std::size_t colour)
{
    const auto measured = those_measured(photos);
    const auto now = shared_curve(photos, measured, colour);
    std::vector<double> off, all(photos.size(), 0);
    for (std::size_t k = 0; k < measured.size(); ++k)
        off.push_back(now[k] - evening.curve[measured[k]][colour]);
    const double level = middle_of(off);
    for (std::size_t k = 0; k < measured.size(); ++k)
        all[measured[k]] = off[k] - level;
    return all;
}

}

EvenedShot even_shot(const std::vector<SeenPhoto>& photos, const std::vector<Alignment>& alignments, std::span<const double> seconds, const Region& region,
                     const EveningWishes& wishes, const PhotoSource& source, const Job& job)
{
    LightWishes measuring;
    measuring.region = region;
    std::vector<std::optional<double>> exposures;
    for (const SeenPhoto& p : photos)
        exposures.push_back(exposure_stops(p.photo->exposure));
    const auto before = measure_brightness(photos, alignments, measuring, source, job);
    EvenedShot result;
    result.evening = even_light(before, seconds, exposures, wishes);
    result.flicker_before = shared_flicker(before, result.evening.steps, true);
    constexpr int most = 2;
    constexpr double enough = 0.001; // stops
    std::vector<Brightness> after;
    for (int round = 0;; ++round) {
        measuring.gains.clear();
        for (const LightChange& c : result.evening.photos)
            measuring.gains.push_back(c.gain);
        after = measure_brightness(photos, alignments, measuring, source, job);
        if (round == most)
            break;
        double sum = 0;
        for (std::size_t c = 0; c < 3; ++c) {
            const auto off = missed(after, result.evening, wishes.each_colour ? c : 3);
            for (std::size_t i = 0; i < off.size(); ++i) {
                result.evening.photos[i].gain[c] -= off[i];
                sum += off[i] * off[i] / double(3 * off.size());
            }
        }
        if (std::sqrt(sum) < enough)
            break;
    }
    for (const Brightness& b : after)
        result.after.push_back(b.stops);
    const auto measured = those_measured(after);
    const auto curve = shared_curve(after, measured, 3);
    for (std::size_t k = 0; k < measured.size(); ++k)
        result.after[measured[k]] = curve[k];
    result.flicker_after = shared_flicker(after, result.evening.steps, false);
    return result;
}

}
