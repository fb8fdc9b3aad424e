#pragma once
#include <QString>

#include <memory>

namespace frenlo::app {

/// Tells the desktop (org.freedesktop.Notifications); nothing where there is none. Does not wait.
void notify_desktop(const QString& title, const QString& text);

/// Notes the palette that the desktop gave to the application, before it gets another.
void note_desktop_palette();
/// Whether the desktop wants its programs dark (org.freedesktop.portal.Settings, color-scheme); where nobody says so,
/// whether the palette that was noted is. Waits a fifth of a second at most.
bool desktop_is_dark();

/// While it lives the machine does not go to sleep by itself (org.freedesktop.login1); nothing where nobody can be
/// asked.
class StayAwake
{
public:
    explicit StayAwake(const QString& why);
    ~StayAwake();
    StayAwake(const StayAwake&) = delete;
    StayAwake& operator=(const StayAwake&) = delete;

private:
    struct Held;
    std::shared_ptr<Held> held_; ///< until the answer is there, the question holds it too
};

}
