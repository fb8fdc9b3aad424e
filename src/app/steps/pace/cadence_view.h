#pragma once
#include "core/time/cadence.h"

#include <QWidget>

namespace frenlo::app {

/// In words: "one frame in 4 is repeated".
QString cadence_words(const Cadence& cadence);

/// The pattern drawn: a box for each delivered frame, boxes of the same photo joined; a mark where one is left out.
class CadenceView : public QWidget
{
    Q_OBJECT
public:
    explicit CadenceView(QWidget* parent = nullptr);
    void show_cadence(const Cadence& cadence);
    [[nodiscard]] QSize sizeHint() const override { return {220, 18}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Cadence cadence_;
};

}
