#pragma once
#include <QLayout>

#include <vector>

namespace frenlo::app {

/// Beside each other from the left, each as wide as it asks for; what no longer fits goes on below, so that nothing is
/// cut where texts are long or the window is small.
class FlowLayout : public QLayout
{
    Q_OBJECT
public:
    /// last_right: the last one stands at the right end, where all fit into one line.
    explicit FlowLayout(QWidget* parent = nullptr, bool last_right = false);
    ~FlowLayout() override;

    /// Before the item that is there now.
    void insertWidget(int at, QWidget* widget);
    void addItem(QLayoutItem* item) override { items_.push_back(item); }
    [[nodiscard]] int count() const override { return int(items_.size()); }
    [[nodiscard]] QLayoutItem* itemAt(int at) const override;
    QLayoutItem* takeAt(int at) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override { return laid({0, 0, width, 0}, false); }
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSize() const override;
    void setGeometry(const QRect& rect) override;

private:
    /// Lays them out in this width; the height that it takes. move: and puts them there.
    int laid(const QRect& rect, bool move) const;

    std::vector<QLayoutItem*> items_;
    bool last_right_;
};

}
