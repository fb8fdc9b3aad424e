#include "app/steps/export/preset_shelf.h"

#include "core/base/problem.h"

#include <algorithm>

namespace frenlo::app {

PresetShelf::PresetShelf(std::filesystem::path file, QObject* parent) : QObject(parent), file_(std::move(file)) {}

const Preset& PresetShelf::find(const QString& name) const
{
    const Preset* found = find_preset(name.toStdString(), own_);
    return found ? *found : *find_preset("film");
}

bool PresetShelf::is_own(const QString& name) const
{
    return std::any_of(own_.begin(), own_.end(), [&](const Preset& p) { return p.name == name.toStdString(); });
}

template <class Change>
void PresetShelf::with_file(const Change& change)
{
    try {
        own_ = change();
    } catch (const Failure& failure) {
        Q_EMIT failed(QString::fromStdString(failure.problem().text()));
        return;
    }
    Q_EMIT changed();
}

void PresetShelf::load()
{
    with_file([&] { return load_presets(file_); });
}

void PresetShelf::keep(const Preset& preset)
{
    with_file([&] { return keep_preset(file_, preset); });
}

void PresetShelf::forget(const QString& name)
{
    with_file([&] { return forget_preset(file_, name.toStdString()); });
}

}
