#include "cli/commands.h"
#include "core/base/text.h"
#include "core/photo/scan.h"

#include <iostream>

namespace frenlo::cli {

namespace {

struct ScanCall
{
    std::vector<std::string> folders;
    std::string order = "name";
};

Json scan_json(const ScanResult& found)
{
    Json j;
    j["photos"] = Json::array();
    for (const auto& [photo, state] : found.photos) {
        Json p{{"file", json_path(photo->file)}, {"width", photo->size.width}, {"height", photo->size.height}};
        p["captured"] = photo->captured ? Json(photo->captured->text()) : Json();
        const auto number = number_of(*photo);
        p["number"] = number ? Json(*number) : Json();
        p["state"] = state_name(state);
        j["photos"].push_back(std::move(p));
    }
    const auto files = [&](const std::vector<std::size_t>& indexes) {
        Json list = Json::array();
        for (const auto i : indexes)
            list.push_back(json_path(found.photos[i].photo->file));
        return list;
    };
    j["shots"] = Json::array();
    for (const auto& s : found.shots)
        j["shots"].push_back({{"name", s.name}, {"photos", files(s.photos)}, {"reason", s.reason}});
    j["aside"] = files(found.aside);
    j["problems"] = Json::array();
    for (const auto& f : found.findings) {
        Json list = Json::array();
        for (const auto& file : f.files)
            list.push_back(json_path(file));
        j["problems"].push_back({{"kind", kind_name(f.kind)}, {"files", list}, {"text", f.text}});
    }
    return j;
}

int scan_and_print(const ScanCall& call, const Context& context)
{
    const std::vector<std::filesystem::path> places(call.folders.begin(), call.folders.end());
    const auto order = call.order == "time" ? PhotoOrder::by_time : PhotoOrder::by_name;
    const ScanResult found = scan(places, order, context.job());
    if (context.json) {
        print_json(scan_json(found));
    } else {
        std::cout << counted(std::int64_t(found.photos.size()), "photo", "photos") << '\n';
        for (const auto& s : found.shots)
            std::cout << s.name << ": " << counted(std::int64_t(s.photos.size()), "photo", "photos") << " (" << s.reason
                      << ")\n";
        if (!found.aside.empty())
            std::cout << "set aside: " << found.aside.size() << '\n';
        for (const auto& f : found.findings)
            std::cerr << "look at: " << f.text << '\n';
    }
    if (found.photos.empty())
        std::cerr << "There are no photos in " << call.folders.front()
                  << (call.folders.size() > 1 ? " and the other places" : "") << ". JPEG, PNG, TIFF and WebP are found.\n";
    return found.findings.empty() && !found.photos.empty() ? done : done_with_problems;
}

}

void add_scan(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ScanCall>();
    CLI::App* scan = app.add_subcommand("scan", "Find photos, runs, shots and problems");
    scan->add_option("folders", call->folders, "Folders, or one photo that stands for its run")->required();
    scan->add_option("--order", call->order, "Order of the photos")->check(CLI::IsMember({"name", "time"}));
    scan->callback([call, &run] { run = [call](const Context& c) { return scan_and_print(*call, c); }; });
}

}
