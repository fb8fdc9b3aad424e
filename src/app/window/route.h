#pragma once
#include "app/steps/step_page.h"

#include <QAbstractButton>
#include <QWidget>

#include <utility>
#include <vector>

class QButtonGroup;
class QHBoxLayout;
class QLabel;
class QPushButton;

namespace frenlo::app {

/// One step of the job on the Route: its name, its state and its one figure.
class Station : public QAbstractButton
{
    Q_OBJECT
public:
    Station(const QString& name, QWidget* parent = nullptr);
    /// figure: the step's one figure. done: something is there. look: the figure is worth a look.
    void set_state(const QString& figure, bool done, bool look);
    [[nodiscard]] bool said_something() const { return !figure_.isEmpty() && figure_ != QStringLiteral("–"); }
    /// As wide as what it says, so that what a line has left over goes where it is needed.
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] bool done() const { return done_; }

    static constexpr int dot_y = 14;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] QString shown_figure() const;
    [[nodiscard]] QFont name_font() const;
    [[nodiscard]] QFont figure_font() const;

    QString figure_;
    bool done_ = false;
    bool look_ = false;
};

/// The top line: the project and where it is saved, the steps of the job as stations on a line, undo and redo.
class Route : public QWidget
{
    Q_OBJECT
public:
    Route(Session& session, Viewing& viewing, QWidget* parent = nullptr);
    /// A page of a step, in the order of the list; those of one station one after the other.
    void add_page(const StepModule& module, const StepPage& page);
    void refresh();
    /// To the page of this station that was looked at last.
    void go_to(const QString& station);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    struct Stop
    {
        Station* button;
        std::vector<std::pair<const StepModule*, const StepPage*>> pages;
        const StepModule* last; ///< looked at last
    };
    void go_to(const Stop& stop);
    void refresh_project();

    Session& session_;
    Viewing& viewing_;
    QLabel* name_;
    QLabel* place_;
    QHBoxLayout* line_;
    QButtonGroup* group_;
    std::vector<Stop> stations_;
    QPushButton* undo_;
    QPushButton* redo_;
};

}
