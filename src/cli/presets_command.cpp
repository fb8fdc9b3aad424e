#include "cli/commands.h"
#include "cli/export_options.h"
#include "core/command/output.h"
#include "core/export/format.h"
#include "core/export/kept_presets.h"

#include <CLI/CLI.hpp>

#include <cstdio>
#include <memory>

namespace frenlo::cli {

using namespace command;

namespace {

struct PresetsCall
{
    std::string keep, forget, from = "film", size, fit, rate, max_bytes, least, longest;
    int quality = 0, colours = 0;
};

/// One of the user's own: another preset, with what is said here.
void keep_own(const PresetsCall& call)
{
    const auto own = load_presets(usual_presets_file());
    const Preset* from = find_preset(call.from, own);
    if (!from)
        throw WrongCall("there is no preset \"" + call.from + "\"; 'frenlo-cli presets' lists them");
    Preset p = *from;
    p.name = p.title = call.keep;
    if (!call.size.empty())
        p.size = size_option(call.size);
    if (!call.fit.empty())
        p.fit = call.fit == "fill" ? Fit::fill : Fit::inside;
    if (!call.rate.empty())
        p.rate = rate_option(call.rate);
    if (call.quality > 0)
        p.quality = call.quality;
    if (call.colours > 0)
        p.colours = call.colours;
    if (!call.max_bytes.empty())
        p.most_bytes = bytes_option(call.max_bytes);
    const Rate rate = p.rate.value_or(Rate(24));
    if (!call.least.empty())
        p.least_length = length_option(call.least, rate);
    if (!call.longest.empty())
        p.longest_length = length_option(call.longest, rate);
    keep_preset(usual_presets_file(), p);
}

int list_presets(const PresetsCall& call, const Context& context)
{
    if (!call.keep.empty())
        keep_own(call);
    if (!call.forget.empty())
        forget_preset(usual_presets_file(), call.forget);
    Json list = Json::array();
    const auto own = load_presets(usual_presets_file());
    std::vector<Preset> all(presets().begin(), presets().end());
    all.insert(all.end(), own.begin(), own.end());
    for (const auto& p : all) {
        if (!context.json) {
            std::printf("%-19s %-5s %s\n", p.name.c_str(), std::string(format_of(p).ending()).c_str(), p.title.c_str());
            continue;
        }
        const Format& f = format_of(p);
        Json j{{"name", p.name}, {"title", p.title}, {"ending", f.ending()}, {"quality", p.quality}};
        j["format"] = f.key;
        j["kind"] = f.kind == Format::Kind::film ? "film" : f.kind == Format::Kind::loop ? "loop" : "stills";
        j["can"] = {{"alpha", f.alpha},
                    {"sixteen", f.sixteen},
                    {"quality", f.quality},
                    {"colours", f.colours},
                    {"side_multiple", f.side_multiple},
                    {"least", {f.least.width, f.least.height}},
                    {"most_side", f.most_side}};
        if (p.size)
            j["size"] = {p.size->width, p.size->height};
        else if (p.long_side > 0)
            j["long_side"] = p.long_side;
        if (p.rate)
            j["rate"] = p.rate->value().text();
        if (p.most_bytes)
            j["max_bytes"] = *p.most_bytes;
        if (p.least_length)
            j["least_seconds"] = p.least_length->value.text();
        if (p.longest_length)
            j["longest_seconds"] = p.longest_length->value.text();
        j["own"] = find_preset(p.name) == nullptr;
        list.push_back(std::move(j));
    }
    if (context.json)
        print_json(list);
    return done;
}

}

void add_presets(CLI::App& app, Run& run)
{
    auto of_presets = std::make_shared<PresetsCall>();
    CLI::App* p = app.add_subcommand("presets", "List what can be written; keep presets of your own");
    p->add_option("--keep", of_presets->keep,
                  "Keeps one of your own under this name: as --from, with what is said here");
    p->add_option("--from", of_presets->from, "The preset that it begins as")->capture_default_str();
    p->add_option("--size", of_presets->size, "WxH pixels; Wx or xH lets the other side follow");
    p->add_option("--fit", of_presets->fit, "inside: the whole photo; fill: the whole frame")
        ->check(CLI::IsMember({"inside", "fill"}));
    p->add_option("--rate", of_presets->rate, "Frames a second");
    p->add_option("--quality", of_presets->quality, "1 to 100")->check(CLI::Range(1, 100));
    p->add_option("--colours", of_presets->colours, "Of a loop")->check(CLI::Range(4, 256));
    p->add_option("--max-bytes", of_presets->max_bytes, "2MB: no file gets larger");
    p->add_option("--least", of_presets->least,
                  "4s: a shorter film is told, since it will be refused where it goes to");
    p->add_option("--longest", of_presets->longest, "60s: and a longer one");
    p->add_option("--forget", of_presets->forget, "One of your own goes");
    p->callback([of_presets, &run] { run = [of_presets](const Context& c) { return list_presets(*of_presets, c); }; });
}

}
