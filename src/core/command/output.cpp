#include "core/command/output.h"

#include "core/base/text.h"
#include "core/time/timecode.h"

#include <atomic>
#include <cmath>
#include <cstdio>
#include <ctime>
#include <iostream>
#include <memory>
#include <mutex>
#include <unistd.h>

namespace frenlo::command {

Job Context::long_job() const
{
    if (json) // a line a second at most, for schedulers; standard output has the result alone
        return Job(stop, [last = std::make_shared<std::atomic<std::time_t>>(std::time(nullptr))](
                             double fraction, std::string_view what) {
            const std::time_t now = std::time(nullptr);
            if (last->exchange(now) != now)
                std::cerr << json_text(Json{{"progress", std::round(fraction * 1000) / 1000}, {"doing", what}}) + '\n';
        });
    return job();
}

Job Context::job() const
{
    if (::isatty(STDERR_FILENO) == 0)
        return Job(stop);
    struct Line
    {
        std::mutex mutex;
        int percent = -1;
    };
    auto line = std::make_shared<Line>();
    return Job(stop, [line](double fraction, std::string_view what) {
        const std::lock_guard lock(line->mutex);
        const int percent = static_cast<int>(fraction * 100);
        if (percent <= line->percent)
            return;
        line->percent = percent;
        std::fprintf(stderr, "\r\033[K%3d%%  %.*s%s", percent, static_cast<int>(what.size()), what.data(),
                     percent >= 100 ? "\n" : "");
    });
}

std::string json_path(const std::filesystem::path& path)
{
    return shown_path(path);
}

Json problems_json(const std::vector<Problem>& problems)
{
    Json list = Json::array();
    for (const auto& p : problems)
        list.push_back({{"file", json_path(p.file)}, {"text", p.text()}});
    return list;
}

Json project_json(const Project& project, const std::vector<Problem>& problems)
{
    Json j;
    j["rate"] = project.delivered_at.value().text();
    j["shots"] = Json::array();
    for (const auto& shot : project.shots) {
        const Schedule schedule = schedule_of(project, *shot);
        j["shots"].push_back({{"name", shot->name},
                              {"photos", photos_in_film(*shot)},
                              {"aside", std::int64_t(shot->photos.size()) - photos_in_film(*shot)},
                              {"frames", schedule.frames()},
                              {"seconds", schedule.length().value.text()},
                              {"between_frames", schedule.between_frames().size()}});
    }
    j["problems"] = problems_json(problems);
    return j;
}

void print_json(const Json& json)
{
    std::cout << json_text(json, 1) << '\n';
}

void print_problems(const std::vector<Problem>& problems)
{
    for (const auto& p : problems)
        std::cerr << "look at: " << p.text() << '\n';
}

void print_project(const Project& project, const std::vector<Problem>& problems)
{
    std::cout << "delivered at " << project.delivered_at.text() << " fps\n";
    for (const auto& shot : project.shots) {
        const Schedule schedule = schedule_of(project, *shot);
        const auto photos = photos_in_film(*shot);
        std::cout << shot->name << ": " << counted(photos, "photo", "photos");
        if (const auto aside = std::int64_t(shot->photos.size()) - photos; aside > 0)
            std::cout << ", " << aside << " aside";
        std::cout << ", " << counted(schedule.frames(), "frame", "frames") << ", "
                  << length_text(schedule.frames(), schedule.rate(), Counting::clock) << " ("
                  << length_text(schedule.frames(), schedule.rate(), Counting::seconds) << ")\n";
    }
    print_problems(problems);
}

}
