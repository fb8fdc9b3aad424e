#pragma once
#include "app/work/viewing.h"

#include <QTreeWidget>

namespace frenlo::app {

/// The films of the Reel, a line each; carried to another place with the mouse.
class ReelList : public QTreeWidget
{
    Q_OBJECT
public:
    explicit ReelList(Viewing& viewing, QWidget* parent = nullptr);

    void fill();
    /// The one in hand.
    [[nodiscard]] std::optional<ReelItemId> chosen() const;
    void choose(std::size_t row);
    [[nodiscard]] std::optional<std::size_t> chosen_row() const;

Q_SIGNALS:
    void chosen_changed();
    /// before: none for the end.
    void carried(ReelItemId item, std::optional<ReelItemId> before);

protected:
    void dropEvent(QDropEvent* event) override;

private:
    Viewing& viewing_;
    std::vector<ReelItemId> ids_;
};

}
