#include "core/cards/card_edits.h"

#include "core/cards/card_layout.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/with_shot.h"
#include "core/source/preview_store.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr int card_width = 1920; ///< that its drawing counts in; it is sharp at any

cv::Size frame_for(const Project& project)
{
    for (const ShotPtr& s : project.shots)
        if (const cv::Size size = text_card_of(*s) ? cv::Size() : film_size(*s); !size.empty())
            return {card_width, std::max(2, int(std::lround(double(card_width) * size.height / size.width)))};
    return {card_width, card_width * 9 / 16};
}

PhotoPtr drawing_of(const TextCard& card, const std::string& name)
{
    DrawnCard drawn = draw_card(card);
    auto p = std::make_shared<PhotoFile>();
    p->file = "/" + name + ".svg"; // a name only: it is nowhere on the disk
    p->format = PhotoFormat::svg;
    p->size = drawn.size;
    p->alpha = card.see_through;
    p->fingerprint = short_key(drawn.svg);
    p->drawing = std::move(drawn.svg);
    return p;
}

Hold hold_of(const Project& project, Seconds length)
{
    const Rate rate = project.delivered_at;
    const std::int64_t frames = std::max<std::int64_t>(1, (length.value * rate.value()).rounded());
    return Frames{std::min(frames, max_hold_frames)};
}

}

Project add_card(const Project& project, const TextCard& card, const std::string& name, Seconds length,
                 ShotIndex before)
{
    TextCard c = card;
    c.frame = frame_for(project);
    Shot shot;
    shot.name = free_name(project, name);
    shot.steps.set(c);
    shot.photos.push_back({drawing_of(c, shot.name), hold_of(project, length)});
    give_ids(shot);
    Project result = project;
    const auto at = std::min(before.at(), result.shots.size());
    result.shots.insert(result.shots.begin() + std::ptrdiff_t(at), std::make_shared<const Shot>(std::move(shot)));
    return result;
}

Project change_card(const Project& project, ShotIndex shot, const std::function<void(TextCard&)>& change)
{
    const TextCard* now = text_card_of(project.shot(shot));
    if (!now || project.shot(shot).photos.empty())
        return project;
    TextCard card = *now;
    change(card);
    if (card == *now)
        return project;
    return with_shot(project, shot, [&](Shot& s) {
        s.steps.set(card);
        s.photos.edit(0).photo = drawing_of(card, s.name);
    });
}

Project set_card_length(const Project& project, ShotIndex shot, Seconds length)
{
    if (!text_card_of(project.shot(shot)) || project.shot(shot).photos.empty())
        return project;
    return with_shot(project, shot, [&](Shot& s) { s.photos.edit(0).hold = hold_of(project, length); });
}

Seconds card_length(const Project& project, const Shot& shot)
{
    return shot.photos.empty() ? Seconds{} : length_of(shot.photos.front().hold, pacing_rate(project, shot));
}

std::span<const CardPreset> card_presets()
{
    static const std::array presets{
        CardPreset{"title", {.text = "Title", .size = 11, .bold = true, .place = 48}, {Fraction(4)}},
        CardPreset{"chapter", {.text = "Chapter one", .size = 7, .align = CardAlign::left, .place = 82}, {Fraction(3)}},
        CardPreset{"closing list",
                   {.text = "Animation\tName\nPhotographs\tName\nMusic\tName\n\nMade with patience",
                    .size = 5,
                    .spacing = 60,
                    .move = CardMove::roll},
                   {Fraction(12)}}};
    return presets;
}

}
