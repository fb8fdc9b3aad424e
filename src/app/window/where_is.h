#pragma once
#include "app/steps/step_page.h"

#include <QPointer>
#include <QWidget>

#include <functional>
#include <vector>

class QAction;
class QLineEdit;
class QListWidget;

namespace frenlo::app {

/// Something that can be done, and where: a control of a step, or an entry of a menu.
struct WherePlace
{
    QString name;    ///< as it is called there
    QString words;   ///< other words for it
    QString tip;     ///< what it does
    QString station; ///< "Steady", "Pace · Flow", "Menu File"
    std::string step;
    QPointer<QWidget> control;
    QPointer<QAction> action;
};

/// All controls of a step's widgets that have a name, each with the words that the step says.
std::vector<WherePlace> places_of(const StepModule& module, StepPage& page);
/// All entries of these menus.
std::vector<WherePlace> places_of(const QList<QAction*>& menus);

/// Those that a text stands for, the best first: what it is called, then other words, then what it does. Each word of
/// the text must be found.
std::vector<const WherePlace*> found_places(const std::vector<WherePlace>& all, const QString& text);

/// Shows the pages on which a control lies, of the widgets around it. Whether it is visible then.
bool show_pages_around(QWidget& control);

/// “Where is …?”: words are typed, places are listed, Enter goes there.
class WhereIs : public QWidget
{
    Q_OBJECT
public:
    WhereIs(std::vector<WherePlace> places, QWidget* parent);
    [[nodiscard]] const std::vector<WherePlace>& places() const { return places_; }

Q_SIGNALS:
    void chosen(const WherePlace& place);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void search();
    void choose();

    std::vector<WherePlace> places_;
    std::vector<const WherePlace*> listed_;
    QLineEdit* text_;
    QListWidget* list_;
};

/// A frame about a control for a moment, so that the eye finds it.
void point_at(QWidget& control);

}
