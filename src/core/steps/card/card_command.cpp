#include "core/steps/card/card_command.h"

#include "core/cards/card_edits.h"
#include "core/command/change_measured.h"
#include "core/project/project_file.h"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <iostream>
#include <map>
#include <sstream>

namespace frenlo::command {

namespace {

struct CardCall
{
    std::string project, text, name, length, backdrop, below, colour, typeface, before;
    std::optional<CardMove> move;
    std::optional<CardAlign> align;
    std::optional<double> size, place, spacing;
    bool bold = false, see_through = false;
};

/// As typed: \\n and \\t are a new line and a tab.
std::string unescaped(const std::string& text)
{
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i)
        if (text[i] == '\\' && i + 1 < text.size() && (text[i + 1] == 'n' || text[i + 1] == 't'))
            out += text[++i] == 'n' ? '\n' : '\t';
        else
            out += text[i];
    return out;
}

TextCard card_in(const CardCall& call)
{
    TextCard card;
    card.text = unescaped(call.text);
    if (!call.backdrop.empty())
        card.backdrop = colour_option(call.backdrop);
    if (!call.below.empty())
        card.below = colour_option(call.below);
    if (!call.colour.empty())
        card.colour = colour_option(call.colour);
    card.typeface = call.typeface;
    card.bold = call.bold;
    card.see_through = call.see_through;
    card.move = call.move.value_or(card.move);
    card.align = call.align.value_or(card.align);
    card.size = call.size.value_or(card.size);
    card.place = call.place.value_or(card.place);
    card.spacing = call.spacing.value_or(card.spacing);
    return card;
}

int make_card(const CardCall& call, const Context& context)
{
    const TextCard card = card_in(call);
    const LoadedProject loaded = change_project(call.project, [&](const Project& now) {
        ShotIndex before(std::int64_t(now.shots.size()));
        if (!call.before.empty())
            before = named_shot(now, call.before);
        const Seconds length =
            call.length.empty() ? Seconds{Fraction(3)} : length_option(call.length, now.delivered_at);
        return add_card(now, card, call.name.empty() ? "Card" : call.name, length, before);
    });
    context.json ? print_json(project_json(loaded.project, loaded.problems))
                 : print_project(loaded.project, loaded.problems);
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_card_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<CardCall>();
    CLI::App* c = app.add_subcommand("card", "A card with text, as a shot of its own");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--text", call->text, "Lines apart by \\n; \\t parts two columns")->required();
    c->add_option("--name", call->name, "What the shot is called");
    c->add_option("--length", call->length, "4s, 96f; 3s where nothing is said");
    c->add_option("--before", call->before, "The shot that it comes before; else it is the last");
    c->add_option("--backdrop", call->backdrop, "#RRGGBB");
    c->add_flag("--see-through", call->see_through, "No backdrop: text over something else");
    c->add_option("--below", call->below, "#RRGGBB that the backdrop goes over into towards the bottom");
    c->add_option("--colour", call->colour, "#RRGGBB of the text");
    c->add_option("--typeface", call->typeface, "A family of the system's; else the one that ships");
    c->add_option("--size", call->size, "Of the letters, percent of the frame's height")->check(CLI::Range(0.5, 80.0));
    c->add_option("--place", call->place, "Middle of the text, percent down the frame")->check(CLI::Range(0.0, 100.0));
    c->add_option("--spacing", call->spacing, "Between lines, percent of their size")->check(CLI::Range(-50.0, 300.0));
    c->add_flag("--bold", call->bold, "");
    c->add_option("--align", call->align, "left, middle, right")
        ->transform(CLI::CheckedTransformer(std::map<std::string, CardAlign>{
            {"left", CardAlign::left}, {"middle", CardAlign::middle}, {"right", CardAlign::right}}));
    c->add_option("--move", call->move, "still, roll, cross")
        ->transform(CLI::CheckedTransformer(std::map<std::string, CardMove>{
            {"still", CardMove::still}, {"roll", CardMove::roll}, {"cross", CardMove::cross}}));
    c->callback([call, &run] { run = [call](const Context& context) { return make_card(*call, context); }; });
}

}
