#include "app/widgets/plot_words.h"

#include <QAccessible>
#include <QAccessibleWidget>
#include <QWidget>

#include <map>

namespace frenlo::app {

namespace {

/// A point of a plot; there while the plot is.
class SpokenPoint : public QAccessibleInterface
{
public:
    SpokenPoint(QWidget& plot, const PlotWords& words, int at) : plot_(plot), words_(words), at_(at) {}

    [[nodiscard]] bool isValid() const override { return at_ < words_.spoken_points(); }
    [[nodiscard]] QObject* object() const override { return nullptr; }
    [[nodiscard]] QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    [[nodiscard]] QAccessibleInterface* parent() const override
    {
        return QAccessible::queryAccessibleInterface(&plot_);
    }
    [[nodiscard]] QAccessibleInterface* child(int) const override { return nullptr; }
    [[nodiscard]] int childCount() const override { return 0; }
    [[nodiscard]] int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    [[nodiscard]] QString text(QAccessible::Text kind) const override
    {
        if (!isValid() || (kind != QAccessible::Name && kind != QAccessible::Value))
            return {};
        const PlotWords::Point point = words_.spoken_point(at_);
        return kind == QAccessible::Name ? point.name : point.value;
    }
    void setText(QAccessible::Text, const QString&) override {}
    [[nodiscard]] QRect rect() const override { return {plot_.mapToGlobal(QPoint()), plot_.size()}; }
    [[nodiscard]] QAccessible::Role role() const override { return QAccessible::ListItem; }
    [[nodiscard]] QAccessible::State state() const override
    {
        QAccessible::State s;
        s.readOnly = true;
        return s;
    }

private:
    QWidget& plot_;
    const PlotWords& words_;
    int at_;
};

class SpokenPlot : public QAccessibleWidget
{
public:
    SpokenPlot(QWidget& plot, const PlotWords& words)
        : QAccessibleWidget(&plot, QAccessible::Chart), plot_(plot), words_(words)
    {
    }
    ~SpokenPlot() override
    {
        for (const auto& [at, id] : points_)
            QAccessible::deleteAccessibleInterface(id);
    }

    [[nodiscard]] int childCount() const override { return words_.spoken_points(); }
    [[nodiscard]] QAccessibleInterface* child(int at) const override
    {
        if (at < 0 || at >= childCount())
            return nullptr;
        auto [point, fresh] = points_.try_emplace(at, 0);
        if (fresh)
            point->second = QAccessible::registerAccessibleInterface(new SpokenPoint(plot_, words_, at));
        return QAccessible::accessibleInterface(point->second);
    }
    [[nodiscard]] int indexOfChild(const QAccessibleInterface* child) const override
    {
        for (const auto& [at, id] : points_)
            if (QAccessible::accessibleInterface(id) == child)
                return at;
        return -1;
    }
    [[nodiscard]] QAccessibleInterface* childAt(int, int) const override { return nullptr; }

private:
    QWidget& plot_;
    const PlotWords& words_;
    mutable std::map<int, QAccessible::Id> points_; ///< made when they are asked for
};

QAccessibleInterface* make(const QString&, QObject* object)
{
    auto* widget = qobject_cast<QWidget*>(object);
    const auto* words = dynamic_cast<const PlotWords*>(object);
    return widget && words ? new SpokenPlot(*widget, *words) : nullptr;
}

}

void install_plot_accessibility()
{
    static const bool once = (QAccessible::installFactory(make), true);
    static_cast<void>(once);
}

}
