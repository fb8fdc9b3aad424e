#pragma once
#include "app/theme/colours.h"
#include "core/time/timecode.h"

#include <QByteArray>
#include <QStringList>

class QSettings;

namespace frenlo::app {

/// What is remembered between starts.
class Settings
{
public:
    explicit Settings(QSettings& store) : store_(store) {}
    [[nodiscard]] QStringList recent() const;
    void add_recent(const QString& file);
    [[nodiscard]] ThemeName theme() const;
    void set_theme(ThemeName theme);
    [[nodiscard]] Counting counting() const;
    void set_counting(Counting counting);
    /// How large a shot is shown on the Sheet, where that was chosen; of the shots that it was chosen for last.
    [[nodiscard]] QString zoom(const QString& shot) const;
    void set_zoom(const QString& shot, const QString& zoom);
    [[nodiscard]] QByteArray layout(const char* name) const;
    void set_layout(const char* name, const QByteArray& state);

private:
    QSettings& store_;
};

}
