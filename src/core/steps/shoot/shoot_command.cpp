#include "core/steps/shoot/shoot_command.h"

#include "core/steps/shoot/series.h"

#include <CLI/CLI.hpp>

#include <cmath>
#include <iostream>

namespace frenlo::command {

namespace {

struct ShootCall
{
    std::string camera = "simulated", every, delay, folder, name = "photo", bracket;
    std::vector<std::string> settings;
    std::int64_t count = 1, averaged = 1;
    bool lock = false, jpeg = false, list = false;
};

/// "5s", "0.5", "2min", "1h".
double span_option_seconds(const std::string& text, const std::string& option)
{
    if (text.empty())
        return 0;
    std::size_t used = 0;
    double value = 0;
    try {
        value = std::stod(text, &used);
    } catch (const std::exception&) {
        used = 0;
    }
    const std::string unit = text.substr(used);
    const double factor = unit.empty() || unit == "s" ? 1 : unit == "min" ? 60 : unit == "h" ? 3600 : 0;
    constexpr double longest = 30.0 * 24 * 3600;
    if (used == 0 || factor == 0 || !(value >= 0) || value * factor > longest)
        throw WrongCall(option + " is a time: 5s, 0.5s, 2min, 1h");
    return value * factor;
}

void set_up(Camera& camera, const ShootCall& call)
{
    if (call.lock)
        lock_all(camera);
    for (const std::string& text : call.settings) {
        const auto equals = text.find('=');
        if (equals == std::string::npos)
            throw WrongCall("--set is KEY=VALUE; --settings lists the keys");
        const std::string key = text.substr(0, equals), value = text.substr(equals + 1);
        if (value == "auto") {
            camera.set_automatic(key, true);
            continue;
        }
        std::optional<double> number = shutter_seconds(value);
        for (const CameraSetting& s : camera.settings())
            if (s.key == key)
                for (std::size_t i = 0; i < s.choices.size(); ++i)
                    if (s.choices[i] == value)
                        number = double(i);
        if (!number && value == "0")
            number = 0;
        if (!number)
            throw WrongCall("“" + value + "” is no value for “" + key + "”");
        camera.set(key, *number);
    }
}

Json settings_json(const std::vector<CameraSetting>& settings)
{
    Json all = Json::array();
    for (const CameraSetting& s : settings) {
        Json one{{"key", s.key}, {"name", s.name}, {"value", setting_text(s)}};
        if (s.automatic)
            one["automatic"] = *s.automatic;
        if (s.choices.empty()) {
            one["least"] = s.least;
            one["most"] = s.most;
        } else {
            one["choices"] = s.choices;
        }
        all.push_back(std::move(one));
    }
    return all;
}

int list_settings(Camera& camera, const Context& context)
{
    const auto settings = camera.settings();
    if (context.json) {
        print_json({{"camera", camera.name()}, {"settings", settings_json(settings)}});
        return done;
    }
    for (const CameraSetting& s : settings)
        std::cout << s.key << "  " << setting_text(s) << (s.automatic.value_or(false) ? "  (automatic)" : "") << '\n';
    return done;
}

int run_shoot(const ShootCall& call, const Context& context)
{
    SeriesOrder order;
    order.count = call.count;
    order.every = span_option_seconds(call.every, "--every");
    order.delay = span_option_seconds(call.delay, "--delay");
    order.take.averaged = call.averaged;
    order.take.format = call.jpeg ? TakenFormat::jpeg : TakenFormat::png;
    if (!call.bracket.empty())
        order.take.bracket = numbers_option(call.bracket, "--bracket is stops apart by commas: -2,0,2");
    if (call.folder.empty() && !call.list)
        throw WrongCall("-o FOLDER says where the photos go");
    // A figure that nobody moves would stand still: here it walks.
    const std::string address = call.camera == "simulated" ? "simulated:walking" : call.camera;
    SeriesCamera camera;
    const auto open = [&] {
        auto c = open_camera(address);
        set_up(*c, call);
        return c;
    };
    camera.camera = open();
    if (call.list)
        return list_settings(*camera.camera, context);
    camera.open_again = open;
    PhotoFolder folder(call.folder, stem_of(call.name));

    std::vector<std::string> told;
    for (const CameraSetting& s : automatic_settings(camera.camera->settings()))
        told.push_back(s.name + " is automatic: photos may differ by themselves. --lock makes everything manual.");
    for (const std::string& t : told)
        std::cerr << t << '\n';
    Json photos = Json::array(), details = Json::array();
    SeriesNews news;
    news.told = [&](const std::string& text) {
        std::cerr << text << '\n';
        told.push_back(text);
    };
    news.taken = [&](const TakenPhoto& p, std::int64_t) {
        std::cerr << "safe " << json_path(p.photo->file) << std::endl; // at once: whoever reads it may rely on it
        photos.push_back(json_path(p.photo->file));
        Json one{{"file", json_path(p.photo->file)}, {"safe_after_s", p.safe_after}};
        if (p.how.averaged > 1)
            one["noise_gain"] = p.how.noise_gain;
        if (p.how.moved)
            one["changed"] = p.how.moved->changed;
        for (const auto& [version, how] : p.versions)
            one["versions"].push_back({{"file", json_path(version->file)}, {"stops", how.stops}});
        details.push_back(std::move(one));
    };
    MachineClock clock;
    const SeriesResult result = take_series(camera, order, folder, clock, news, context.job());
    if (context.json) {
        Json json{{"photos", photos}, {"details", details}, {"missed", result.missed}, {"latest_s", result.latest}};
        json["told"] = told;
        if (!result.ended.empty())
            json["ended"] = result.ended;
        print_json(json);
    } else {
        std::cout << result.photos << (result.photos == 1 ? " photo in " : " photos in ") << folder.folder().string()
                  << '\n';
    }
    if (context.stop.stop_requested())
        return stopped;
    if (!result.ended.empty())
        return failed;
    return result.missed > 0 ? done_with_problems : done;
}

}

void add_shoot_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ShootCall>();
    CLI::App* shoot = app.add_subcommand("shoot", "Photos from a camera, one or a series of them");
    shoot->add_option("--camera", call->camera, "simulated, v4l2:DEVICE or gphoto2:PORT")->capture_default_str();
    shoot->add_option("--count", call->count, "How many photos; 0: until it is stopped")
        ->check(CLI::Range(std::int64_t(0), std::int64_t(10'000'000)))
        ->capture_default_str();
    shoot->add_option("--every", call->every, "Time from one photo to the next: 5s, 2min; without it, at once");
    shoot->add_option("--delay", call->delay, "Time before the first");
    shoot->add_option("--average", call->averaged, "So many pictures become one photo with less noise")
        ->check(CLI::Range(std::int64_t(1), most_averaged))
        ->capture_default_str();
    shoot->add_option("--bracket", call->bracket, "Exposures in stops, kept as versions of one photo: -2,0,2");
    shoot->add_option("-o,--to", call->folder, "The folder that they go into; nothing there is replaced");
    shoot->add_option("--name", call->name, "What they are called before their number")->capture_default_str();
    shoot->add_flag("--jpeg", call->jpeg, "JPEG in place of PNG, where the camera gives no files of its own");
    shoot->add_flag("--lock", call->lock, "Makes every automatic setting manual, as it is now");
    shoot->add_option("--set", call->settings, "KEY=VALUE, or KEY=auto");
    shoot->add_flag("--settings", call->list, "Lists what can be set, and ends");
    shoot->callback([call, &run] { run = [call](const Context& c) { return run_shoot(*call, c); }; });
}

}
