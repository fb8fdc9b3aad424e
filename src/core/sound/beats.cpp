#include "core/sound/beats.h"

#include "core/sound/sound_reader.h"

#include <aubio/aubio.h>

#include <algorithm>
#include <memory>

namespace frenlo {

namespace {

struct ForgetTempo
{
    void operator()(aubio_tempo_t* t) const { del_aubio_tempo(t); }
};
struct ForgetVector
{
    void operator()(fvec_t* v) const { del_fvec(v); }
};

}

std::vector<double> found_beats(const ReadSound& read, std::int64_t samples, const Job& job)
{
    constexpr unsigned window = 2048, hop = 256;
    const std::unique_ptr<aubio_tempo_t, ForgetTempo> tempo(new_aubio_tempo("default", window, hop, sound_rate));
    const std::unique_ptr<fvec_t, ForgetVector> in(new_fvec(hop)), out(new_fvec(2));
    if (!tempo || !in || !out)
        throw Failure({"there is too little memory to find beats", {}, "Close other programs"});
    std::vector<double> beats;
    std::vector<float> pairs(std::size_t(hop) * sound_sides);
    for (std::int64_t at = 0; at < samples; at += hop) {
        if (at % (hop * 1024) == 0) {
            job.check();
            job.report(double(at) / double(samples), "beats");
        }
        read(at, pairs);
        for (unsigned i = 0; i < hop; ++i)
            in->data[i] = (pairs[std::size_t(i) * sound_sides] + pairs[std::size_t(i) * sound_sides + 1]) / 2;
        aubio_tempo_do(tempo.get(), in.get(), out.get());
        if (out->data[0] != 0)
            beats.push_back(std::max(0.0, double(aubio_tempo_get_last(tempo.get())) / sound_rate));
    }
    return beats;
}

}
