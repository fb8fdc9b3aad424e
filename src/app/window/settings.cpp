#include "app/window/settings.h"

#include "app/work/desktop.h"
#include "core/source/preview_store.h"

#include <QSettings>

namespace frenlo::app {

namespace {
constexpr int most_recent = 6;
}

QStringList Settings::recent() const
{
    return store_.value(QStringLiteral("recent")).toStringList();
}

void Settings::add_recent(const QString& file)
{
    QStringList files = recent();
    files.removeAll(file);
    files.prepend(file);
    store_.setValue(QStringLiteral("recent"), files.mid(0, most_recent));
}

ThemeName Settings::theme() const
{
    switch (theme_choice()) {
    case ThemeChoice::paper:
        return ThemeName::paper;
    case ThemeChoice::dim_room:
        return ThemeName::dim_room;
    case ThemeChoice::as_desktop:
        break;
    }
    return desktop_is_dark() ? ThemeName::dim_room : ThemeName::paper;
}

ThemeChoice Settings::theme_choice() const
{
    const QString kept = store_.value(QStringLiteral("theme")).toString();
    return kept == QLatin1String("dim room")     ? ThemeChoice::dim_room
           : kept == QLatin1String("as desktop") ? ThemeChoice::as_desktop
                                                 : ThemeChoice::paper;
}

void Settings::set_theme(ThemeChoice theme)
{
    store_.setValue(QStringLiteral("theme"), theme == ThemeChoice::dim_room     ? QStringLiteral("dim room")
                                             : theme == ThemeChoice::as_desktop ? QStringLiteral("as desktop")
                                                                                : QStringLiteral("paper"));
}

Beginnings Settings::beginnings() const
{
    Beginnings b;
    b.hold = parse_hold(store_.value(QStringLiteral("new/hold")).toString().toStdString());
    if (const auto rate = parse_rate(store_.value(QStringLiteral("new/rate")).toString().toStdString()))
        b.delivered_at = *rate;
    return b;
}

void Settings::set_beginnings(const Beginnings& beginnings)
{
    store_.setValue(QStringLiteral("new/hold"),
                    beginnings.hold ? QString::fromStdString(hold_text(*beginnings.hold)) : QString());
    store_.setValue(QStringLiteral("new/rate"), QString::fromStdString(beginnings.delivered_at.text()));
}

std::filesystem::path Settings::previews() const
{
    return from_qt(store_.value(QStringLiteral("previews/folder")).toString());
}

void Settings::set_previews(const std::filesystem::path& folder)
{
    store_.setValue(QStringLiteral("previews/folder"), to_qt(folder));
}

std::uintmax_t Settings::previews_limit() const
{
    const qulonglong kept = store_.value(QStringLiteral("previews/limit")).toULongLong();
    return kept > 0 ? kept : PreviewStore::usual_limit;
}

void Settings::set_previews_limit(std::uintmax_t bytes)
{
    store_.setValue(QStringLiteral("previews/limit"), qulonglong(bytes));
}

bool Settings::looks_near_by() const
{
    return store_.value(QStringLiteral("look_near_by")).toBool();
}

void Settings::set_looks_near_by(bool on)
{
    store_.setValue(QStringLiteral("look_near_by"), on);
}

QString Settings::zoom(const QString& shot) const
{
    const QStringList kept = store_.value(QStringLiteral("zooms")).toStringList();
    for (const QString& one : kept)
        if (one.startsWith(shot + QLatin1Char('=')))
            return one.mid(shot.size() + 1);
    return {};
}

void Settings::set_zoom(const QString& shot, const QString& zoom)
{
    constexpr int most = 200;
    QStringList kept = store_.value(QStringLiteral("zooms")).toStringList();
    kept.removeIf([&](const QString& one) { return one.startsWith(shot + QLatin1Char('=')); });
    if (!zoom.isEmpty())
        kept.prepend(shot + QLatin1Char('=') + zoom);
    store_.setValue(QStringLiteral("zooms"), QStringList(kept.mid(0, most)));
}

QByteArray Settings::layout(const char* name) const
{
    return store_.value(QStringLiteral("layout/") + QLatin1String(name)).toByteArray();
}

void Settings::set_layout(const char* name, const QByteArray& state)
{
    store_.setValue(QStringLiteral("layout/") + QLatin1String(name), state);
}

Counting Settings::counting() const
{
    const std::string name = store_.value(QStringLiteral("counting")).toString().toStdString();
    for (const Counting c : all_countings)
        if (counting_name(c) == name)
            return c;
    return Counting::clock;
}

void Settings::set_counting(Counting counting)
{
    const auto name = counting_name(counting);
    store_.setValue(QStringLiteral("counting"), QString::fromUtf8(name.data(), qsizetype(name.size())));
}

}
