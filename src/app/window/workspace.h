#pragma once
#include "app/steps/step_page.h"
#include "app/window/settings.h"

#include <QWidget>

class QSplitter;
class QStackedWidget;

namespace frenlo::app {

class MovingParts;
class SheetPanel;
class Transport;

/// The page while there are photos: the Sheet, the large picture, and below it the tools and the bench of the step in
/// view.
class Workspace : public QWidget
{
    Q_OBJECT
public:
    Workspace(Session& session, Viewing& viewing, PhotoLoader& loader, MovingParts& moving, Player& player,
              PictureView& picture);

    /// One a step, in the order of the list.
    void add_page(const StepModule& module, StepPage& page);
    /// Shows what belongs to the step in view.
    void look();
    [[nodiscard]] SheetPanel& sheet() { return *sheet_; }
    /// Whether a control of a bench has the keys.
    [[nodiscard]] bool bench_has_focus() const;
    void set_picture_alone(bool on);
    void save_layout(Settings& settings) const;
    void restore_layout(const Settings& settings);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void give_room();
    QWidget* page_row(const QString& station);

    struct Entry
    {
        const StepModule* module;
        StepPage* page;
    };
    Viewing& viewing_;
    void show_picture();

    PictureView& picture_;
    QStackedWidget* pictures_; ///< the large picture, or what the step needs in its place
    std::vector<Entry> entries_;
    SheetPanel* sheet_;
    Transport* transport_;
    QStackedWidget* tools_; ///< under the picture: player, or what the step needs in its place
    QWidget* lower_;
    QWidget* pages_ = nullptr; ///< the steps of one station, where there are several
    QStackedWidget* benches_;
    QSplitter* across_;
    QSplitter* down_;
};

}
