#pragma once
#include <QString>
#include <QWidget>

class QLabel;
class QLineEdit;
class QToolButton;

namespace frenlo::app {

/// A number with its name and its unit: typed, or turned with the wheel or the arrow keys; a button at its end, there
/// while it is not neutral, makes it so again.
class ValueField : public QWidget
{
    Q_OBJECT
public:
    struct Spec
    {
        QString name; ///< before it
        QString tip;  ///< what it changes, and when one wants it
        QString unit; ///< behind the number: "stop"
        double least, most, neutral;
        double step; ///< of a key, or of the wheel
        int decimals;
        bool sign = true; ///< "+0.30"
    };
    explicit ValueField(const Spec& spec, QWidget* parent = nullptr);
    void show_value(double value);
    [[nodiscard]] double value() const { return value_; }

Q_SIGNALS:
    void edited(double value);
    void begun(); ///< before what belongs together: one change, a key that is held

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    void change_to(double value);
    void take_text();
    [[nodiscard]] QString text_of(double value) const;

    Spec spec_;
    double value_;
    QLabel* label_;
    QLineEdit* line_;
    QToolButton* reset_;
    int wheeled_ = 0; ///< eighths of a degree that are not yet a step
};

}
