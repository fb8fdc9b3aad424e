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

QByteArray Settings::layout(const char* name) const
{
    return store_.value(QStringLiteral("layout/") + QLatin1String(name)).toByteArray();
}

void Settings::set_layout(const char* name, const QByteArray& state)
{
    store_.setValue(QStringLiteral("layout/") + QLatin1String(name), state);
}

}
