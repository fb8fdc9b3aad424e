#include "app/window/settings.h"

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
    return store_.value(QStringLiteral("theme")).toString() == QLatin1String("dim room") ? ThemeName::dim_room
                                                                                         : ThemeName::paper;
}

void Settings::set_theme(ThemeName theme)
{
    store_.setValue(QStringLiteral("theme"),
                    theme == ThemeName::dim_room ? QStringLiteral("dim room") : QStringLiteral("paper"));
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
