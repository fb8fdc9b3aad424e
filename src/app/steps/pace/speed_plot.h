#pragma once
#include "app/widgets/plot_words.h"

#include <QWidget>

#include <optional>
#include <vector>

namespace frenlo::app {

/// A speed course over the photos of a shot, to be pulled by its points. Photos count from 0; speeds are percent, on a
/// scale where twice as fast is as far from 100 as half as fast.
class SpeedPlot : public QWidget, public PlotWords
{
    Q_OBJECT
public:
    struct CoursePoint
    {
        int photo = 0;
        double percent = 100;
        bool operator==(const CoursePoint&) const = default;
    };
    explicit SpeedPlot(QWidget* parent = nullptr);
    /// speeds: of every photo; points in their order.
    void show_course(std::vector<double> speeds, std::vector<CoursePoint> points);
    void show_place(int photo);
    void choose(std::optional<int> point);
    [[nodiscard]] std::optional<int> chosen() const { return chosen_; }
    [[nodiscard]] int spoken_points() const override { return int(points_.size()); }
    [[nodiscard]] Point spoken_point(int at) const override;
    [[nodiscard]] QSize sizeHint() const override { return {320, 120}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, 80}; }
    /// Where a speed at a photo lies in the widget.
    [[nodiscard]] QPointF at(double photo, double percent) const;

Q_SIGNALS:
    void begun(); ///< before what belongs together: one pull
    void point_chosen();
    void point_added(int photo, double percent);
    void point_moved(int point, int photo, double percent);
    void point_removed(int point);

protected:
    bool event(QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    [[nodiscard]] QRectF field() const;
    [[nodiscard]] CoursePoint under(QPointF place) const; ///< photo and speed there
    [[nodiscard]] std::optional<int> point_under(QPointF place) const;
    void nudge(int photos, double factor);

    std::vector<double> speeds_;
    std::vector<CoursePoint> points_;
    std::optional<int> chosen_;
    int place_ = -1;
    double slowest_ = 20, fastest_ = 500; ///< percent that the field reaches to
    bool pulled_ = false;
};

}
