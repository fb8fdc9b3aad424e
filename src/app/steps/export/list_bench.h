#pragma once
#include "app/steps/export/list_runner.h"
#include "app/steps/export/preset_shelf.h"
#include "app/work/viewing.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;
class QTreeWidget;

namespace frenlo::app {

/// The list of exports: what waits, runs, is done or failed; order, pause, leaving out.
class ListBench : public QWidget
{
    Q_OBJECT
public:
    ListBench(Session& session, ListRunner& runner, PresetShelf& shelf, QWidget* parent = nullptr);

    void remove();
    void move(int by);

private:
    void fill();
    void fill_presets();
    void refresh();
    void add_all();
    void open(bool folder);
    [[nodiscard]] std::optional<std::size_t> chosen() const;

    Session& session_;
    ListRunner& runner_;
    PresetShelf& shelf_;
    QTreeWidget* list_;
    QComboBox* presets_;
    QPushButton* add_all_;
    QPushButton* look_;
    QPushButton* go_;
    QPushButton* pause_;
    QPushButton* leave_out_;
    QPushButton* again_;
    QPushButton* up_;
    QPushButton* down_;
    QPushButton* remove_;
    QPushButton* clear_;
    QPushButton* play_;
    QPushButton* folder_;
    QProgressBar* progress_;
    QLabel* state_;
    QString looked_; ///< what looking ahead has found
};

}
