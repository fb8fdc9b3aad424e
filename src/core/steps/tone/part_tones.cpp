#include "core/steps/tone/part_tones.h"

#include "core/steps/tone/tone_stage.h"

#include <algorithm>
#include <memory>

namespace frenlo {

namespace {

/// A tone in its place: the mask of the rows that it reaches, and what it does to them.
class TonedPart
{
public:
    TonedPart(const PartTones::One& part, const StagePhoto& photo) : tone_(row_stage(part.tone, photo))
    {
        everywhere_ = part.where.points.empty() && !part.where.outside;
        box_ = mask_box(part.where, photo.to_plane, photo.size);
        if (!everywhere_ && !box_.empty())
            mask_ = mask_shares(part.where, photo.to_plane, box_);
    }

    void operator()(int y, int begin, int end, float* bgra)
    {
        if (everywhere_) {
            tone_(y, begin, end, bgra);
            return;
        }
        if (y < box_.y || y >= box_.br().y)
            return;
        const float* shares = mask_.ptr<float>(y - box_.y) - box_.x;
        int from = std::max(begin, box_.x), to = std::min(end, box_.br().x);
        while (from < to && shares[from] <= 0)
            ++from;
        while (to > from && shares[to - 1] <= 0)
            --to;
        if (from >= to)
            return;
        const auto values = [](int pixels) { return std::size_t(pixels) * 4; };
        float* below = bgra + values(from - begin);
        toned_.assign(below, below + values(to - from));
        tone_(y, from, to, toned_.data());
        for (int x = from; x < to; ++x)
            for (std::size_t c = 0; c < 4; ++c) {
                float& p = below[values(x - from) + c];
                p += shares[x] * (toned_[values(x - from) + c] - p);
            }
    }

private:
    RowStage tone_;
    bool everywhere_ = false;
    cv::Rect box_;
    cv::Mat1f mask_;
    std::vector<float> toned_;
};

}

PartTones part_tones_of(const Shot& shot, PhotoIndex photo)
{
    PartTones tones;
    const Toning* toning = toning_of(shot);
    if (!toning)
        return tones;
    for (const PartTone& part : toning->parts) {
        if (part.tone.nothing() || !in_state(part.where.state, shot, photo))
            continue;
        AreaMask where;
        if (part.where.area) {
            const Area* area = find_area(shot, *part.where.area);
            auto mask = area ? mask_at(*area, shot, photo) : std::nullopt;
            if (!mask)
                continue;
            where = std::move(*mask);
        }
        tones.all.push_back({std::move(where), part.tone});
    }
    return tones;
}

RowStage row_stage(const PartTones& tones, const StagePhoto& photo)
{
    std::vector<RowStage> parts;
    for (const auto& part : tones.all)
        parts.emplace_back(TonedPart(part, photo));
    return [parts = std::move(parts)](int y, int begin, int end, float* bgra) {
        for (const RowStage& part : parts)
            part(y, begin, end, bgra);
    };
}

Tone part_tone(const Shot& shot, const ToneWhere& where)
{
    if (const Toning* toning = toning_of(shot))
        for (const PartTone& part : toning->parts)
            if (part.where == where)
                return part.tone;
    return {};
}

}
