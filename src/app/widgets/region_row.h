#pragma once
#include "app/picture/picture_view.h"
#include "app/picture/region_tool.h"

#include <QWidget>

#include <memory>
#include <vector>

class QLabel;
class QPushButton;

namespace frenlo::app {

/// Where on the photo is looked: buttons to draw boxes, or with a brush, on the large picture.
class RegionRow : public QWidget
{
    Q_OBJECT
public:
    explicit RegionRow(PictureView& picture, QWidget* parent = nullptr);

    /// region: in shares of the photo that is drawn on. photo: its size, pixels.
    void show(const Region& region, cv::Size photo);
    /// Puts more tools behind its own.
    void put(const std::vector<QWidget*>& tools);
    /// Says in words where is looked; to be laid out by the owner.
    [[nodiscard]] QLabel* words() const { return words_; }
    /// No longer draws.
    void stop();

Q_SIGNALS:
    void drawn(const Region& region); ///< all of it, as it is to be now
    void began();                     ///< another drawing on the picture ends

private:
    void draw(RegionTool::Use use, QPushButton* button);
    void add(const std::vector<cv::Rect2d>& boxes);
    void refresh();

    PictureView& picture_;
    QPushButton* look_at_;
    QPushButton* leave_out_;
    QPushButton* brush_;
    QPushButton* everywhere_;
    QLabel* words_;
    Region region_;
    cv::Size photo_;
    std::unique_ptr<RegionTool> tool_;
    RegionTool::Use use_ = RegionTool::Use::look_at;
};

}
