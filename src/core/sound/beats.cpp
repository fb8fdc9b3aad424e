#include "core/sound/beats.h"

#include "core/sound/sound_reader.h"

#include <algorithm>
#include <aubio/aubio.h>
#include <cmath>
#include <memory>
#include <numeric>

namespace frenlo {

namespace {

constexpr unsigned window = 1024, hop = 256;
constexpr double hops_a_second = double(sound_rate) / hop;
constexpr double look_back = 0.0075; ///< seconds from what begins to the end of the hop that shows it most, measured
constexpr double fastest = 190, slowest = 50; ///< beats a minute
constexpr double tightness = 400; ///< how much an uneven step costs, against what begins there (Ellis: 100 to 680)

template <auto function>
struct Forget
{
    template <class T>
    void operator()(T* t) const
    {
        function(t);
    }
};

/// How much begins in each hop; mean 0, spread 1, what only falls cut off.
std::vector<float> beginnings(const ReadSound& read, std::int64_t samples, const Job& job)
{
    const std::unique_ptr<aubio_pvoc_t, Forget<del_aubio_pvoc>> spectrum(new_aubio_pvoc(window, hop));
    const std::unique_ptr<aubio_specdesc_t, Forget<del_aubio_specdesc>> flux(new_aubio_specdesc("specflux", window));
    const std::unique_ptr<cvec_t, Forget<del_cvec>> grain(new_cvec(window));
    const std::unique_ptr<fvec_t, Forget<del_fvec>> in(new_fvec(hop)), out(new_fvec(1));
    if (!spectrum || !flux || !grain || !in || !out)
        throw Failure({"there is too little memory to find beats", {}, "Close other programs"});
    std::vector<float> all, pairs(std::size_t(hop) * sound_sides);
    for (std::int64_t at = 0; at < samples; at += hop) {
        if (at % (hop * 1024L) == 0) {
            job.check();
            job.report(double(at) / double(samples), "beats");
        }
        read(at, pairs);
        for (unsigned i = 0; i < hop; ++i)
            in->data[i] = (pairs[std::size_t(i) * sound_sides] + pairs[std::size_t(i) * sound_sides + 1]) / 2;
        aubio_pvoc_do(spectrum.get(), in.get(), grain.get());
        cvec_logmag(grain.get(), 3); // quiet instruments begin, too; the noise under them does not
        aubio_specdesc_do(flux.get(), grain.get(), out.get());
        all.push_back(out->data[0]);
    }
    // What stands out of the half second around it.
    const auto reach = std::ptrdiff_t(hops_a_second / 4);
    std::vector<double> sums(all.size() + 1);
    std::partial_sum(all.begin(), all.end(), sums.begin() + 1);
    std::vector<float> own(all.size());
    for (std::ptrdiff_t i = 0; i < std::ptrdiff_t(all.size()); ++i) {
        const auto from = std::max<std::ptrdiff_t>(0, i - reach),
                   to = std::min(i + reach + 1, std::ptrdiff_t(all.size()));
        const double mean = (sums[std::size_t(to)] - sums[std::size_t(from)]) / double(to - from);
        own[std::size_t(i)] = float(std::max(0.0, all[std::size_t(i)] - mean));
    }
    double square = 0;
    for (const float v : own)
        square += double(v) * v;
    const double spread = std::sqrt(square / double(std::max<std::size_t>(1, own.size())));
    for (float& v : own)
        v = spread > 0 ? float(v / spread) : 0;
    return own;
}

/// In hops; 0 where nothing comes back.
double period_of(const std::vector<float>& strength)
{
    const auto shortest = std::size_t(hops_a_second * 60 / fastest),
               longest = std::size_t(hops_a_second * 60 / slowest);
    if (strength.size() < 3 * longest)
        return 0;
    // A beat need not come back to the hop: neighbours count.
    std::vector<double> smooth(strength.size());
    for (std::size_t i = 2; i + 2 < strength.size(); ++i)
        smooth[i] =
            (strength[i - 2] + 2 * strength[i - 1] + 3 * strength[i] + 2 * strength[i + 1] + strength[i + 2]) / 9;
    std::vector<double> alike(longest + 2);
    for (std::size_t lag = shortest - 1; lag < alike.size(); ++lag) {
        for (std::size_t i = 0; i + lag < smooth.size(); ++i)
            alike[lag] += smooth[i] * smooth[i + lag];
        alike[lag] /= double(smooth.size() - lag);
    }
    const double most = *std::max_element(alike.begin() + std::ptrdiff_t(shortest), alike.end() - 1);
    const double all = std::inner_product(smooth.begin(), smooth.end(), smooth.begin(), 0.0) / double(smooth.size());
    if (most < 0.1 * all)
        return 0;
    // What comes back after one beat does after two: the shortest that is nearly as good.
    for (std::size_t lag = shortest; lag <= longest; ++lag)
        if (alike[lag] > 0.8 * most && alike[lag] >= alike[lag - 1] && alike[lag] >= alike[lag + 1]) {
            const double bend = alike[lag - 1] - 2 * alike[lag] + alike[lag + 1];
            return double(lag) + (bend < 0 ? 0.5 * (alike[lag - 1] - alike[lag + 1]) / bend : 0);
        }
    return 0;
}

}

std::vector<double> found_beats(const ReadSound& read, std::int64_t samples, const Job& job)
{
    const std::vector<float> strength = beginnings(read, samples, job);
    const double period = period_of(strength);
    if (period <= 0)
        return {};
    // The best row of beats that ends at each hop.
    std::vector<double> score(strength.size());
    std::vector<std::ptrdiff_t> before(strength.size(), -1);
    for (std::ptrdiff_t i = 0; i < std::ptrdiff_t(strength.size()); ++i) {
        double best = 0;
        const auto nearest = i - std::ptrdiff_t(period / 2), farthest = i - std::ptrdiff_t(2 * period);
        for (std::ptrdiff_t j = std::max<std::ptrdiff_t>(0, farthest); j < nearest; ++j) {
            const double uneven = std::log(double(i - j) / period);
            if (const double s = score[std::size_t(j)] - tightness * uneven * uneven; s > best) {
                best = s;
                before[std::size_t(i)] = j;
            }
        }
        score[std::size_t(i)] = strength[std::size_t(i)] + best;
    }
    // Back from the best end.
    const auto tail = score.end() - std::min(std::ptrdiff_t(score.size()), std::ptrdiff_t(period));
    std::vector<double> beats;
    for (std::ptrdiff_t i = std::max_element(tail, score.end()) - score.begin(); i >= 0; i = before[std::size_t(i)]) {
        // Between the hops, where it begins most; the window looks back.
        const auto at = std::size_t(i);
        double place = double(i);
        if (at > 0 && at + 1 < strength.size()) {
            const double bend = strength[at - 1] - 2 * strength[at] + strength[at + 1];
            if (bend < 0)
                place += std::clamp(0.5 * (strength[at - 1] - strength[at + 1]) / bend, -0.5, 0.5);
        }
        beats.push_back(std::max(0.0, (place + 1) / hops_a_second - look_back));
    }
    std::reverse(beats.begin(), beats.end());
    return beats;
}

}
