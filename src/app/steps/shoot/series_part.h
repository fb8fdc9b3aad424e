#pragma once
#include "app/steps/shoot/shoot_controller.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

/// What is to be known of the last photo, and series by the clock.
class SeriesPart : public QWidget
{
    Q_OBJECT
public:
    SeriesPart(ShootController& controller, CameraDesk& desk, QLabel& notice, QWidget* parent = nullptr);
    void refresh();
    /// Something that a series said; the last ones stay to be read in the morning.
    void add_told(const QString& what);

private:
    void start();
    [[nodiscard]] QString last_text() const;
    [[nodiscard]] QString news_text() const;

    ShootController& controller_;
    CameraDesk& desk_;
    QLabel& notice_;
    QLabel* last_;
    QLabel* news_;
    QLabel* room_;
    QLabel* automatic_;
    QPushButton* lock_;
    QSpinBox* played_;
    QLineEdit* every_;
    QLineEdit* count_;
    QLineEdit* delay_;
    QPushButton* start_;
    QLabel* told_;
    QStringList all_told_;
};

/// "5", "5 s", "2 min", "1 h" as seconds; nothing for what is no time.
std::optional<double> parse_span(QString text);

}
