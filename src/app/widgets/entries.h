#pragma once
#include "core/time/fraction.h"
#include "core/time/rate.h"

#include <QString>

#include <optional>

namespace frenlo::app {

/// What was typed into a bench's fields, understood.
/// "4 s", "96 f" of this rate; nothing for what is no length above 0.
std::optional<Seconds> parse_length(const QString& text, Rate rate);
/// "80 %", "80": 0.8; nothing for what is no share from 0 to most.
std::optional<double> parse_share(QString text, double most = 1);

}
