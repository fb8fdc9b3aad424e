#include "core/steps/tone/tone_edits.h"

#include "core/project/with_shot.h"
#include "core/steps/tone/tone_blend.h"

#include <algorithm>

namespace frenlo {

namespace {

void put_anchor(Shot& shot, PhotoIndex photo, const Tone& tone)
{
    if (const ToneAnchor* before = anchor_of(shot.photos[photo.at()]); !before || before->tone != tone)
        shot.photos.edit(photo.at()).steps.set(ToneAnchor{tone});
}

void drop_all_anchors(Shot& shot)
{
    for (const PhotoIndex a : anchors_of(shot))
        shot.photos.edit(a.at()).steps.drop<ToneAnchor>();
}

void one_tone(Shot& shot, const Tone& tone)
{
    drop_all_anchors(shot);
    shot.steps.edit<Toning>().tone = tone;
}

}

Project set_anchor(const Project& project, ShotIndex shot, PhotoIndex photo, const Tone& tone)
{
    return with_shot(project, shot, [&](Shot& s) { put_anchor(s, photo, tone); });
}

Project change_tone(const Project& project, ShotIndex shot, const std::function<void(Tone&)>& change)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto anchors = anchors_of(s);
        for (const PhotoIndex a : anchors) {
            Tone tone = anchor_of(s.photos[a.at()])->tone;
            change(tone);
            put_anchor(s, a, tone);
        }
        Tone tone = s.steps.get<Toning>().tone;
        change(tone);
        if (anchors.empty() && tone != s.steps.get<Toning>().tone)
            s.steps.edit<Toning>().tone = tone;
    });
}

Project drop_anchor(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        const ToneAnchor* anchor = anchor_of(s.photos[photo.at()]);
        if (!anchor)
            return;
        if (anchors_of(s).size() == 1)
            s.steps.edit<Toning>().tone = anchor->tone;
        s.photos.edit(photo.at()).steps.drop<ToneAnchor>();
    });
}

Project same_tone_for_all(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) { one_tone(s, tone_of(s, photo)); });
}

Project copy_tone(const Project& project, ShotIndex shot, PhotoIndex from, std::span<const PhotoIndex> to)
{
    return with_shot(project, shot, [&](Shot& s) {
        const Tone tone = tone_of(s, from);
        put_anchor(s, from, tone);
        for (const PhotoIndex photo : to)
            put_anchor(s, photo, tone);
    });
}

Project copy_tone_to_shots(const Project& project, ShotIndex shot, PhotoIndex from, std::span<const ShotId> to)
{
    const Tone tone = tone_of(project.shot(shot), from);
    Project result = project;
    for (const ShotId id : to)
        if (const auto other = result.find_shot(id); other && *other != shot)
            result = with_shot(result, *other, [&](Shot& s) { one_tone(s, tone); });
    return result;
}

Project set_tone_blend(const Project& project, ShotIndex shot, ToneBlend blend)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (s.steps.get<Toning>().blend != blend)
            s.steps.edit<Toning>().blend = blend;
    });
}

Project set_part_tone(const Project& project, ShotIndex shot, const ToneWhere& where, const Tone& tone)
{
    return with_shot(project, shot, [&](Shot& s) {
        Toning toning = s.steps.get<Toning>();
        const auto at = std::find_if(toning.parts.begin(), toning.parts.end(),
                                     [&](const PartTone& part) { return part.where == where; });
        if (at != toning.parts.end() && tone.nothing())
            toning.parts.erase(at);
        else if (at != toning.parts.end())
            at->tone = tone;
        else if (!tone.nothing())
            toning.parts.push_back({where, tone});
        if (toning != s.steps.get<Toning>())
            s.steps.set(std::move(toning));
    });
}

Project drop_tone(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        drop_all_anchors(s);
        s.steps.drop<Toning>();
    });
}

bool is_toned(const Shot& shot)
{
    if (toning_of(shot) && !toning_of(shot)->parts.empty())
        return true;
    const auto anchors = anchors_of(shot);
    if (anchors.empty())
        return toning_of(shot) && !toning_of(shot)->tone.nothing();
    return std::any_of(anchors.begin(), anchors.end(),
                       [&](PhotoIndex a) { return !anchor_of(shot.photos[a.at()])->tone.nothing(); });
}

}
