#include "core/camera/video_controls.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cerrno>
#include <cmath>
#include <cstring>
#include <linux/videodev2.h>

namespace frenlo {

namespace {

struct Known
{
    std::uint32_t id;
    SettingKind kind;
    const char* name;
    const char* unit;
    double scale;
};

/// Controls that matter here and are named by us; others have the device's own name.
constexpr std::array known{
    Known{V4L2_CID_EXPOSURE_ABSOLUTE, SettingKind::exposure, "Shutter time", "s", 1e-4}, // counted in 100 µs
    Known{V4L2_CID_EXPOSURE, SettingKind::exposure, "Exposure", "", 1},
    Known{V4L2_CID_IRIS_ABSOLUTE, SettingKind::aperture, "Aperture", "", 1},
    Known{V4L2_CID_GAIN, SettingKind::gain, "Gain", "", 1},
    Known{V4L2_CID_WHITE_BALANCE_TEMPERATURE, SettingKind::white_balance, "White balance", "K", 1},
    Known{V4L2_CID_FOCUS_ABSOLUTE, SettingKind::focus, "Focus", "", 1},
    Known{V4L2_CID_POWER_LINE_FREQUENCY, SettingKind::mains, "Mains", "", 1},
};

struct Automatic
{
    std::uint32_t of, by;
};

constexpr std::array automatics{
    Automatic{V4L2_CID_EXPOSURE_ABSOLUTE, V4L2_CID_EXPOSURE_AUTO},
    Automatic{V4L2_CID_GAIN, V4L2_CID_AUTOGAIN},
    Automatic{V4L2_CID_WHITE_BALANCE_TEMPERATURE, V4L2_CID_AUTO_WHITE_BALANCE},
    Automatic{V4L2_CID_FOCUS_ABSOLUTE, V4L2_CID_FOCUS_AUTO},
};

bool makes_automatic(std::uint32_t id)
{
    return std::any_of(automatics.begin(), automatics.end(), [&](const Automatic& a) { return a.by == id; });
}

const Known* known_control(std::uint32_t id)
{
    const auto* const it = std::find_if(known.begin(), known.end(), [&](const Known& k) { return k.id == id; });
    return it == known.end() ? nullptr : it;
}

std::string text_of(const char* bytes, std::size_t most)
{
    return {bytes, strnlen(bytes, most)};
}

/// "White Balance, Auto" as a key: letters, figures and dashes.
std::string key_of(const std::string& name)
{
    std::string key;
    for (const char c : name)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            key += char(std::tolower(static_cast<unsigned char>(c)));
        else if (!key.empty() && key.back() != '-')
            key += '-';
    while (!key.empty() && key.back() == '-')
        key.pop_back();
    return key;
}

}

VideoControls::VideoControls(DeviceCall call, std::string name) : call_(std::move(call)), name_(std::move(name))
{
    find();
    add_automatic();
}

void VideoControls::find()
{
    v4l2_query_ext_ctrl query{};
    constexpr int most = 1000; // a device that names the next one for ever
    for (int i = 0; i < most; ++i) {
        query.id |= V4L2_CTRL_FLAG_NEXT_CTRL;
        if (call_(VIDIOC_QUERY_EXT_CTRL, &query) != 0)
            return;
        const bool of_use = query.type == V4L2_CTRL_TYPE_INTEGER || query.type == V4L2_CTRL_TYPE_BOOLEAN ||
                            query.type == V4L2_CTRL_TYPE_MENU || query.type == V4L2_CTRL_TYPE_INTEGER_MENU;
        if (!of_use || (query.flags & (V4L2_CTRL_FLAG_DISABLED | V4L2_CTRL_FLAG_READ_ONLY)) != 0)
            continue;
        std::vector<std::int64_t> numbers;
        std::vector<std::string> names;
        if (query.type == V4L2_CTRL_TYPE_MENU || query.type == V4L2_CTRL_TYPE_INTEGER_MENU)
            for (std::int64_t n = query.minimum; n <= query.maximum && n - query.minimum < most; ++n) {
                v4l2_querymenu entry{};
                entry.id = query.id;
                entry.index = std::uint32_t(n);
                if (call_(VIDIOC_QUERYMENU, &entry) != 0)
                    continue;
                numbers.push_back(n);
                names.push_back(query.type == V4L2_CTRL_TYPE_INTEGER_MENU
                                    ? std::to_string(entry.value)
                                    : text_of(reinterpret_cast<const char*>(entry.name), sizeof entry.name));
            }
        if (makes_automatic(query.id)) {
            menus_[query.id] = numbers;
            continue;
        }
        const Known* k = known_control(query.id);
        Control c;
        c.id = query.id;
        c.scale = k ? k->scale : 1;
        const std::string own = text_of(query.name, sizeof query.name);
        c.shown = {key_of(k ? k->name : own),
                   k ? k->name : own,
                   k ? k->kind : SettingKind::other,
                   0,
                   double(query.minimum) * c.scale,
                   double(query.maximum) * c.scale,
                   double(query.step) * c.scale,
                   k ? k->unit : "",
                   {},
                   {}};
        if (query.type == V4L2_CTRL_TYPE_BOOLEAN) {
            c.choices = {0, 1};
            c.shown.choices = {"off", "on"};
        } else if (!numbers.empty()) {
            c.choices = numbers;
            c.shown.choices = names;
        }
        controls_.push_back(std::move(c));
    }
}

void VideoControls::add_automatic()
{
    for (Control& c : controls_)
        for (const Automatic& a : automatics)
            if (a.of == c.id && menus_.contains(a.by)) {
                c.automatic_id = a.by;
                if (a.by == V4L2_CID_EXPOSURE_AUTO) { // a menu: all automatic, or the shutter at least
                    const auto& menu = menus_[a.by];
                    const bool full = std::find(menu.begin(), menu.end(), V4L2_EXPOSURE_AUTO) != menu.end();
                    c.automatic_on = full ? V4L2_EXPOSURE_AUTO : V4L2_EXPOSURE_APERTURE_PRIORITY;
                    c.automatic_off = V4L2_EXPOSURE_MANUAL;
                }
            }
}

const VideoControls::Control& VideoControls::control(const std::string& key) const
{
    for (const Control& c : controls_)
        if (c.shown.key == key)
            return c;
    throw Failure({name_ + " has no setting “" + key + "”", {}, ""});
}

std::optional<std::int64_t> VideoControls::get(std::uint32_t id) const
{
    v4l2_ext_control one{};
    one.id = id;
    v4l2_ext_controls all{};
    all.which = V4L2_CTRL_WHICH_CUR_VAL;
    all.count = 1;
    all.controls = &one;
    if (const int error = call_(VIDIOC_G_EXT_CTRLS, &all); error != 0) {
        if (error == ENODEV || error == EBADF)
            camera_gone(name_, std::strerror(error));
        return std::nullopt;
    }
    return std::int64_t(one.value);
}

void VideoControls::put(std::uint32_t id, std::int64_t value, const std::string& what) const
{
    v4l2_ext_control one{};
    one.id = id;
    one.value = std::int32_t(value);
    v4l2_ext_controls all{};
    all.which = V4L2_CTRL_WHICH_CUR_VAL;
    all.count = 1;
    all.controls = &one;
    const int error = call_(VIDIOC_S_EXT_CTRLS, &all);
    if (error == ENODEV || error == EBADF)
        camera_gone(name_, std::strerror(error));
    if (error != 0)
        throw Failure({name_ + " refuses this for “" + what + "” (" + std::strerror(error) + ")",
                       {},
                       "Set it at the camera, or try another value"});
}

std::vector<CameraSetting> VideoControls::settings() const
{
    std::vector<CameraSetting> all;
    for (const Control& c : controls_) {
        CameraSetting s = c.shown;
        const auto now = get(c.id);
        if (!now)
            continue; // what is not known is not shown
        if (c.choices.empty())
            s.value = double(*now) * c.scale;
        else
            s.value = double(std::find(c.choices.begin(), c.choices.end(), *now) - c.choices.begin());
        if (c.automatic_id != 0)
            if (const auto by = get(c.automatic_id))
                s.automatic = *by != c.automatic_off;
        all.push_back(std::move(s));
    }
    return all;
}

void VideoControls::set(const std::string& key, double value)
{
    const Control& c = control(key);
    if (c.automatic_id != 0)
        put(c.automatic_id, c.automatic_off, c.shown.name);
    if (c.choices.empty()) {
        const double number = std::clamp(value, c.shown.least, c.shown.most) / c.scale;
        put(c.id, std::llround(number), c.shown.name);
    } else {
        put(c.id, c.choices.at(std::size_t(std::clamp(std::lround(value), 0L, long(c.choices.size()) - 1))),
            c.shown.name);
    }
}

void VideoControls::set_automatic(const std::string& key, bool on)
{
    const Control& c = control(key);
    if (c.automatic_id == 0)
        throw Failure({name_ + " never sets “" + c.shown.name + "” by itself", {}, ""});
    const auto now = get(c.id);
    put(c.automatic_id, on ? c.automatic_on : c.automatic_off, c.shown.name);
    if (!on && now)
        put(c.id, *now, c.shown.name); // what it was last, not what somebody set long ago
}

}
