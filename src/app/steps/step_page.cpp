#include "app/steps/step_page.h"

#include <QCoreApplication>

namespace frenlo::app {

StepKey held_key(Qt::Key key, const std::function<void(bool)>& set, StepKey::Where where)
{
    const auto press = [set](bool again) {
        if (!again)
            set(true);
        return true;
    };
    StepKey held{{key}, {}, where, false, press, [set] { set(false); }};
    held.hold = set;
    return held;
}

StepKey named(const QString& entry, StepKey key, const QString& group)
{
    key.entry = entry;
    key.group = group;
    return key;
}

QString name_of(const StepModule& module)
{
    return QCoreApplication::translate("frenlo::app::StepModule", module.name);
}

}
