#pragma once
#include "app/window/settings.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

class ValueField;

/// Edit > Settings: what holds for all projects. Each change holds at once.
class SettingsPage : public QDialog
{
    Q_OBJECT
public:
    SettingsPage(Settings& settings, PreviewStore& previews, Background& background, QWidget* parent = nullptr);

Q_SIGNALS:
    void theme_changed();
    void counting_changed();
    void beginnings_changed();
    void looks_near_by_changed();

private:
    void build();
    void take_beginnings();
    void choose_folder();
    void ask_size();
    void show_folder();

    Settings& settings_;
    PreviewStore& previews_;
    Background& background_;
    QComboBox *starts_, *rate_, *counting_, *theme_, *gone_;
    QLineEdit* hold_;
    ValueField* limit_;
    QLabel *size_, *folder_;
    QPushButton *clear_, *choose_, *usual_;
};

}
