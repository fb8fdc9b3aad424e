#pragma once
#include "app/steps/step_page.h"

#include <QDialog>

#include <utility>
#include <vector>

class QLineEdit;
class QLabel;

namespace frenlo::app {

/// Help > Keys: all keys, in a window of its own that can stay open beside the work; searched, and printed.
class KeysPage : public QDialog
{
    Q_OBJECT
public:
    explicit KeysPage(const std::vector<KeyHelp>& keys, QWidget* parent = nullptr);
    /// As it is printed.
    [[nodiscard]] QString as_table() const;

private:
    void search(const QString& words);
    void print();

    struct Line
    {
        KeyHelp help;
        QLabel *key, *what;
    };
    std::vector<Line> lines_;
    QLineEdit* search_;
    QLabel* nothing_;
};

}
