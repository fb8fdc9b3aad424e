#include "app/work/lengths.h"

#include <QCoreApplication>

namespace frenlo::app {

QString length_in_full(std::int64_t frames, Rate rate)
{
    return QCoreApplication::translate("lengths", "%n frame(s)", nullptr, int(frames)) + QStringLiteral(" · ") +
           QString::fromStdString(length_text(frames, rate, Counting::seconds));
}

}
