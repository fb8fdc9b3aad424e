#pragma once
#include "app/steps/retouch/areas_controller.h"

#include <QStringList>
#include <QWidget>

#include <map>
#include <vector>

class QLabel;
class QPushButton;
class QTreeWidget;

namespace frenlo::app {

/// States: finished versions of the same photos, switched along the film.
class StatesPart : public QWidget
{
    Q_OBJECT
public:
    StatesPart(Viewing& viewing, AreasController& controller, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void fill_list();
    void refresh_here();
    [[nodiscard]] std::map<StateId, QStringList> photos_in() const;

    AreasController& controller_;
    std::vector<StateId> ids_; ///< of the list's lines
    QTreeWidget* list_;
    QLabel *what_, *here_;
    QPushButton *add_, *remove_, *switch_, *none_, *more_;
};

}
