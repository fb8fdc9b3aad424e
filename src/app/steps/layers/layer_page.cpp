#include "app/steps/layers/layer_page.h"

#include "app/widgets/layouts.h"

#include <QPlainTextEdit>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace frenlo::app {

LayerPage::LayerPage(LayersController& controller, const QString& name, QWidget* parent)
    : QWidget(parent), controller_(controller), name_(name)
{
}

void LayerPage::set_rows(std::initializer_list<QWidget*> rows)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(rows_of(rows));
}

void LayerPage::change(const QString& what, const std::function<void(Layer&)>& how)
{
    controller_.begin_change();
    controller_.change(how, what);
}

namespace {

class TextPage : public LayerPage
{
public:
    explicit TextPage(LayersController& controller) : LayerPage(controller, tr("Text")), text_(new QPlainTextEdit)
    {
        constexpr int two_lines = 46, wide = 320;
        text_->setAccessibleName(tr("Text of the layer"));
        text_->setFixedHeight(two_lines);
        text_->setMinimumWidth(wide);
        set_rows({one_row({text_})});
        setFocusProxy(text_);
        connect(text_, &QPlainTextEdit::textChanged, this, [this] {
            if (text_->hasFocus())
                controller_.set_text(text_->toPlainText());
        });
    }
    [[nodiscard]] bool applies(const Layer*) const override { return controller_.text().has_value(); }
    void refresh(const Layer*) override
    {
        const auto text = controller_.text();
        if (!text || text_->toPlainText() == *text)
            return;
        const QSignalBlocker quiet(text_);
        text_->setPlainText(*text);
        text_->selectAll();
    }

private:
    QPlainTextEdit* text_;
};

}

LayerPage* text_page(LayersController& controller)
{
    return new TextPage(controller);
}

}
