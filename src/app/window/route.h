#pragma once
#include "app/steps/export/exporter.h"
#include "app/work/findings.h"
#include "app/work/viewing.h"

#include <QAbstractButton>
#include <QWidget>

#include <array>

class QLabel;
class QPushButton;

namespace frenlo::app {

/// One step of the job on the Route: its name, its state and its one figure.
class Station : public QAbstractButton {
    Q_OBJECT
public:
    Station(const QString& name, QWidget* parent = nullptr);
    /// figure: the step's one figure. done: something is there. look: the figure is worth a look.
    void set_state(const QString& figure, bool done, bool look);
    [[nodiscard]] QSize sizeHint() const override { return {150, 62}; }
    [[nodiscard]] bool done() const { return done_; }

    static constexpr int dot_y = 14;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString figure_;
    bool done_ = false;
    bool look_ = false;
};

/// The top line: the project and where it is saved, the steps of the job as stations on a line, undo and redo.
class Route : public QWidget {
    Q_OBJECT
public:
    Route(Session& session, Viewing& viewing, Findings& findings, Exporter& exporter, QWidget* parent = nullptr);

Q_SIGNALS:
    void undo();
    void redo();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    void refresh_project();

    Session& session_;
    Viewing& viewing_;
    Findings& findings_;
    Exporter& exporter_;
    QLabel* name_;
    QLabel* place_;
    std::array<Station*, 5> stations_{};
    QPushButton* undo_;
    QPushButton* redo_;
};

}
