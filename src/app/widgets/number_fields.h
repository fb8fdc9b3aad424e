#pragma once
#include "app/widgets/value_field.h"

#include <QCoreApplication>

#include <array>
#include <functional>
#include <vector>

namespace frenlo::app {

/// A number of a struct as people see it: what it is called, its unit, and how many of the unit 1 is. Its neutral value
/// is the struct's own. Texts are translated in the context that is given with the table.
template <class T>
struct NumberField
{
    double T::*value;
    const char* name;
    const char* tip;
    const char* unit;
    double least, most, scale, step;
    int decimals;
};

/// A field for each. begun: before what belongs together; set: which member became what.
template <class T, std::size_t N>
std::vector<ValueField*> number_fields(const std::array<NumberField<T>, N>& table, const char* context,
                                       const std::function<void()>& begun,
                                       const std::function<void(double T::*member, double value)>& set)
{
    const T usual{};
    std::vector<ValueField*> fields;
    for (const NumberField<T>& n : table) {
        auto* field = new ValueField({QCoreApplication::translate(context, n.name),
                                      QCoreApplication::translate(context, n.tip), QString::fromUtf8(n.unit), n.least,
                                      n.most, usual.*n.value * n.scale, n.step, n.decimals, false});
        QObject::connect(field, &ValueField::begun, field, begun);
        QObject::connect(field, &ValueField::edited, field, [set, &n](double v) { set(n.value, v / n.scale); });
        fields.push_back(field);
    }
    return fields;
}

/// What they are to show.
template <class T, std::size_t N>
void show_numbers(const std::vector<ValueField*>& fields, const std::array<NumberField<T>, N>& table, const T& value)
{
    for (std::size_t i = 0; i < N; ++i)
        fields.at(i)->show_value(value.*table.at(i).value * table.at(i).scale);
}

}
