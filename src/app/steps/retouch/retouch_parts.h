#pragma once
#include <QWidget>

#include <vector>

class QPushButton;

namespace frenlo::app {

class PageStack;

/// What Retouch is made of, one of them seen: healing, areas, states.
class RetouchParts : public QWidget
{
    Q_OBJECT
public:
    struct Part
    {
        QString name, tip;
        QWidget* widget;
    };
    explicit RetouchParts(const std::vector<Part>& parts, QWidget* parent = nullptr);
    void open(std::size_t part);

private:
    PageStack* stack_;
    std::vector<QPushButton*> buttons_;
};

}
