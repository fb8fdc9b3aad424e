#pragma once
#include "app/steps/shoot/camera_desk.h"

#include <QWidget>

#include <vector>

class QComboBox;
class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo::app {

/// Which camera, and what of it can be set.
class CameraPart : public QWidget
{
    Q_OBJECT
public:
    explicit CameraPart(CameraDesk& desk, QWidget* parent = nullptr);

private:
    /// A setting as it is shown.
    struct Row
    {
        std::string key;
        QComboBox* choices = nullptr;
        QLineEdit* value = nullptr;
        QPushButton* automatic = nullptr;
    };
    void refresh_cameras();
    void refresh_settings();
    void build_rows();
    void take_value(const std::string& key, QLineEdit* field);

    CameraDesk& desk_;
    QComboBox* cameras_;
    QPushButton* again_;
    QLabel* state_;
    QPushButton* lock_;
    QLabel* nothing_;
    QWidget* settings_;
    QGridLayout* grid_;
    std::vector<Row> rows_;
};

/// A setting's number as it was typed: "1/60", "3200 K"; nothing for what is none.
std::optional<double> parse_setting(QString text);

}
