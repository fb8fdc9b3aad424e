#pragma once
#include "app/widgets/plot_words.h"
#include "core/export/export.h"

#include <QWidget>

#include <vector>

namespace frenlo::app {

/// What was tried to keep a file below a limit: bytes across, quality up, the limit as a line and what was chosen as a
/// ring. Hidden while there is nothing to compare.
class TradeView : public QWidget, public PlotWords
{
    Q_OBJECT
public:
    explicit TradeView(QWidget* parent = nullptr);
    /// tried: the chosen one last.
    void show_trade(const std::vector<TriedSettings>& tried, std::int64_t limit);
    [[nodiscard]] int spoken_points() const override { return int(tried_.size()); }
    [[nodiscard]] Point spoken_point(int at) const override;
    [[nodiscard]] QSize sizeHint() const override { return {230, 96}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    [[nodiscard]] QPointF place_of(const TriedSettings& tried) const;

    std::vector<TriedSettings> tried_;
    double most_bytes_ = 1, limit_ = 0;
    bool by_side_ = false; ///< quality was the same in all: the side is drawn
};

}
