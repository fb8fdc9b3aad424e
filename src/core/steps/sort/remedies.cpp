#include "core/steps/sort/remedies.h"

#include "core/project/edits.h"
#include "core/project/with_shot.h"
#include "core/source/names.h"

#include <algorithm>

namespace frenlo {

namespace {

std::string key_of(const Finding& finding)
{
    std::string key(kind_name(finding.kind));
    for (const auto& f : finding.files)
        key += '/' + f.filename().native();
    return key.size() < 200 ? key : key.substr(0, 200) + '/' + std::to_string(finding.files.size());
}

std::vector<PhotoIndex> photos_of(const Shot& shot, const Finding& finding)
{
    std::vector<PhotoIndex> photos;
    for (const auto& file : finding.files)
        for (std::size_t i = 0; i < shot.photos.size(); ++i)
            if (shot.photos[i].photo->file == file)
                photos.emplace_back(std::int64_t(i));
    return photos;
}

/// The photos that go where one of several alike stays: the first of the film stays.
std::vector<PhotoIndex> superfluous(const Shot& shot, const Finding& finding)
{
    auto photos = photos_of(shot, finding);
    const bool alike = finding.kind == FindingKind::copy || finding.kind == FindingKind::number_repeated;
    if (!alike || photos.size() < 2)
        return photos;
    photos.erase(std::min_element(photos.begin(), photos.end()));
    return photos;
}

/// A number is missing between two photos: the one before stays for what is missing too.
Project fill_gap(const Project& project, ShotIndex shot, const Finding& finding)
{
    const auto photos = photos_of(project.shot(shot), finding);
    const auto before = numbered(finding.files.front()), after = numbered(finding.files.back());
    if (photos.empty() || !before || !after || after->number <= before->number)
        return project;
    return with_shot(project, shot, [&](Shot& s) {
        Hold& hold = s.photos.edit(photos.front().at()).hold;
        const Hold one = hold;
        const Rate paced = pacing_rate(project, s);
        constexpr std::int64_t most = 1000; // longer is no gap, it is another shot
        for (std::int64_t n = before->number + 1; n < std::min(after->number, before->number + most); ++n)
            hold = hold_sum(hold, one, paced);
    });
}

Project use_what_there_is(const Project& project, ShotIndex shot, const Finding& finding)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex p : photos_of(s, finding)) {
            s.photos.edit(p.at()).what_there_is = true;
            s.photos.edit(p.at()).aside = false;
        }
    });
}

/// The photo that is shown of a bracket stands for all its exposures.
Project merge_exposures(const Project& project, ShotIndex shot, const Finding& finding)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (std::size_t i = 0; i < s.photos.size(); ++i) {
            if (s.photos[i].photo->file != finding.files.front())
                continue;
            auto merged = std::make_shared<PhotoFile>(*s.photos[i].photo);
            merged->merged.assign(finding.files.begin() + 1, finding.files.end());
            s.photos.edit(i).photo = std::move(merged);
        }
    });
}

Project first_to_end(const Project& project, ShotIndex shot)
{
    const std::array first{PhotoIndex(0)};
    return move_photos(project, shot, first, PhotoIndex(std::int64_t(project.shot(shot).photos.size())));
}

}

Hold hold_sum(Hold a, Hold b, Rate paced_at)
{
    const auto *f = std::get_if<Frames>(&a), *g = std::get_if<Frames>(&b);
    if (f && g)
        return Frames{std::min(f->count + g->count, max_hold_frames)};
    const Fraction sum = length_of(a, paced_at).value + length_of(b, paced_at).value;
    return Seconds{std::min(sum, Fraction(max_hold_seconds))};
}

Project hold_before(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        ShotPhoto& gone = s.photos.edit(photo.at());
        gone.aside = true;
        const auto shown = in_film(s);
        std::int64_t keeper = photo.value;
        while (keeper >= 0 && !shown[std::size_t(keeper)])
            --keeper;
        if (keeper < 0)
            for (keeper = photo.value + 1; keeper < std::int64_t(shown.size()) && !shown[std::size_t(keeper)];)
                ++keeper;
        if (keeper < 0 || keeper >= std::int64_t(shown.size()))
            return;
        Hold& hold = s.photos.edit(std::size_t(keeper)).hold;
        hold = hold_sum(hold, gone.hold, pacing_rate(project, s));
    });
}

Project turn_photos(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, int quarters)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex p : photos) {
            ShotPhoto& photo = s.photos.edit(p.at());
            photo.turns = ((photo.turns + quarters) % 4 + 4) % 4;
        }
    });
}

Project resolve(const Project& project, ShotIndex shot, const Finding& finding)
{
    if (shot.at() >= project.shots.size())
        return project;
    return with_shot(project, shot, [&](Shot& s) {
        if (!is_resolved(s, finding))
            s.resolved.push_back(key_of(finding));
    });
}

bool is_resolved(const Shot& shot, const Finding& finding)
{
    return std::find(shot.resolved.begin(), shot.resolved.end(), key_of(finding)) != shot.resolved.end();
}

Project apply_remedy(const Project& project, ShotIndex shot, const Finding& finding, Remedy remedy)
{
    if (shot.at() >= project.shots.size())
        return project;
    const Shot& s = project.shot(shot);
    const auto photos = photos_of(s, finding);
    switch (remedy) {
    case Remedy::set_aside:
        return resolve(set_aside(project, shot, superfluous(s, finding), true), shot, finding);
    case Remedy::hold_before: {
        if (finding.kind == FindingKind::number_missing)
            return resolve(fill_gap(project, shot, finding), shot, finding);
        Project result = project;
        for (const PhotoIndex p : photos)
            result = hold_before(result, shot, p);
        return resolve(result, shot, finding);
    }
    case Remedy::use_what_there_is:
        return use_what_there_is(project, shot, finding);
    case Remedy::turn_right:
        return turn_photos(project, shot, photos, 1);
    case Remedy::turn_left:
        return turn_photos(project, shot, photos, 3);
    case Remedy::fill:
        return resolve(with_shot(project, shot,
                                 [&](Shot& c) {
                                     for (const PhotoIndex p : photos)
                                         c.photos.edit(p.at()).fill = true;
                                 }),
                       shot, finding);
    case Remedy::order_by_time:
        return resolve(order_shot(project, shot, PhotoOrder::by_time), shot, finding);
    case Remedy::order_by_name:
        return resolve(order_shot(project, shot, PhotoOrder::by_name), shot, finding);
    case Remedy::reverse:
        return reverse_shot(project, shot);
    case Remedy::first_to_end:
        return first_to_end(project, shot);
    case Remedy::merge:
        return resolve(merge_exposures(project, shot, finding), shot, finding);
    case Remedy::find_again:
        return project;
    }
    return project;
}

}
