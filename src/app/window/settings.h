#pragma once
#include "app/theme/colours.h"
#include "app/work/session.h"
#include "core/time/timecode.h"

#include <QByteArray>
#include <QStringList>

#include <cstdint>
#include <filesystem>

class QSettings;

namespace frenlo::app {

enum class ThemeChoice
{
    paper,
    dim_room,
    as_desktop
};

/// What is remembered between starts.
class Settings
{
public:
    explicit Settings(QSettings& store) : store_(store) {}
    [[nodiscard]] QStringList recent() const;
    void add_recent(const QString& file);
    /// Resolved: the desktop is asked where it is to be as that.
    [[nodiscard]] ThemeName theme() const;
    [[nodiscard]] ThemeChoice theme_choice() const;
    void set_theme(ThemeChoice theme);
    [[nodiscard]] Beginnings beginnings() const;
    void set_beginnings(const Beginnings& beginnings);
    /// A folder of the user's for small versions; empty: the usual one. Holds from the next start on.
    [[nodiscard]] std::filesystem::path previews() const;
    void set_previews(const std::filesystem::path& folder);
    [[nodiscard]] std::uintmax_t previews_limit() const; ///< bytes
    void set_previews_limit(std::uintmax_t bytes);
    /// Whether photos that are gone are looked for near the project when it is opened.
    [[nodiscard]] bool looks_near_by() const;
    void set_looks_near_by(bool on);
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
