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
    return {{key}, {}, where, false, press, [set] { set(false); }};
}

QString name_of(const StepModule& module)
{
    return QCoreApplication::translate("frenlo::app::StepModule", module.name);
}

}
