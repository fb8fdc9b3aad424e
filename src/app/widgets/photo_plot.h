#pragma once
#include "app/theme/colours.h"
#include "app/widgets/plot_words.h"
#include "app/work/viewing.h"

#include <QWidget>

#include <vector>

class QCustomPlot;

namespace frenlo::app {

/// Curves over the photos of a shot, in the theme's colours. A click goes to the photo, a line stands at the one under
/// the player.
class PhotoPlot : public QWidget, public PlotWords
{
    Q_OBJECT
public:
    explicit PhotoPlot(QWidget* parent = nullptr);
    void show_place(PhotoIndex photo);
    [[nodiscard]] int points() const { return int(photos_.size()); }
    [[nodiscard]] int spoken_points() const override { return points(); }
    /// The photo, and of each graph that has a name what it has there.
    [[nodiscard]] Point spoken_point(int at) const override;

Q_SIGNALS:
    void photo_chosen(PhotoIndex photo);

protected:
    void changeEvent(QEvent* event) override;
    /// Called when all graphs are there; adds the one of the place.
    void begin();
    /// Every graph in the theme's colours.
    virtual void paint_graphs(const Colours& colours) = 0;
    /// Draws the curves anew; photos: those that they have points for. of: how many the shot has.
    void show_photos(std::vector<PhotoIndex> photos, std::size_t of);

    QCustomPlot* plot_;

private:
    void take_colours();
    void choose(QPoint at);

    std::vector<PhotoIndex> photos_;
    int place_ = -1; ///< the graph of the place, once it is there
};

}
