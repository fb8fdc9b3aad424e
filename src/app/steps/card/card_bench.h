#pragma once
#include "app/work/viewing.h"
#include "core/cards/card_edits.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QHBoxLayout;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QStackedWidget;

namespace frenlo::app {

class ValueField;

/// TextCard: a new one beside the shot that is looked at, or the text and the look of the card that is.
class CardBench : public QWidget
{
    Q_OBJECT
public:
    CardBench(Session& session, Viewing& viewing, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;

private:
    QHBoxLayout* new_card_row();
    QWidget* about_page();
    QWidget* card_page();
    void refresh();
    void add(const CardPreset& preset);
    void change(const std::function<void(TextCard&)>& how, const QString& name);
    void ask_colour(const Backdrop& now, const QString& title, const std::function<void(TextCard&, Backdrop)>& take);

    Session& session_;
    Viewing& viewing_;
    std::uint64_t gesture_ = std::uint64_t(6) << 60; ///< apart from those of other benches
    QStackedWidget* pages_;
    QComboBox* where_;
    QPlainTextEdit* text_;
    QComboBox* typeface_;
    ValueField* size_;
    ValueField* place_;
    ValueField* spacing_;
    QCheckBox* bold_;
    QComboBox* align_;
    QComboBox* move_;
    QLineEdit* length_;
    QPushButton* colour_;
    QPushButton* backdrop_;
    QPushButton* below_;
};

}
