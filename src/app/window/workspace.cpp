#include "app/window/workspace.h"

#include "app/picture/picture_view.h"
#include "app/picture/transport.h"
#include "app/sheet/sheet_panel.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

QVBoxLayout* tight_column(QWidget* in)
{
    auto* column = new QVBoxLayout(in);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    return column;
}

/// A splitter whose parts get the room that they ask for as soon as they ask, not when the window is resized next.
class Parts : public QSplitter
{
public:
    explicit Parts(Qt::Orientation way) : QSplitter(way) {}

protected:
    bool event(QEvent* event) override
    {
        const bool taken = QSplitter::event(event);
        if (event->type() == QEvent::LayoutRequest && isVisible())
            setSizes(sizes());
        return taken;
    }
};

}

Workspace::Workspace(Session& session, Viewing& viewing, PhotoLoader& loader, MovingParts& moving, Player& player,
                     PictureView& picture)
    : viewing_(viewing), picture_(picture), pictures_(new QStackedWidget),
      sheet_(new SheetPanel(session, viewing, loader, moving)), transport_(new Transport(viewing, player, picture)),
      tools_(new QStackedWidget), lower_(new QWidget), benches_(new QStackedWidget), across_(new Parts(Qt::Horizontal)),
      down_(new Parts(Qt::Vertical))
{
    auto* top = new QWidget;
    auto* picture_column = tight_column(top);
    pictures_->addWidget(&picture);
    picture_column->addWidget(pictures_, 1);
    tools_->addWidget(transport_);
    tools_->setAutoFillBackground(true);
    tools_->setBackgroundRole(QPalette::AlternateBase);
    tools_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    picture_column->addWidget(tools_);

    tight_column(lower_)->addWidget(benches_, 1);
    lower_->setMinimumSize(480, 220);
    lower_->installEventFilter(this);
    down_->addWidget(top);
    down_->addWidget(lower_);
    down_->setStretchFactor(0, 1);
    down_->setChildrenCollapsible(false);
    across_->addWidget(sheet_);
    across_->addWidget(down_);
    across_->setChildrenCollapsible(false);
    for (QSplitter* s : {down_, across_})
        s->setHandleWidth(1);
    across_->setStretchFactor(0, 1);
    across_->setStretchFactor(1, 1);
    across_->setSizes({620, 660});
    down_->setSizes({414, 294});
    tight_column(this)->addWidget(across_);
}

void Workspace::add_page(const StepModule& module, StepPage& page)
{
    entries_.push_back({&module, &page});
    benches_->addWidget(page.bench());
    connect(&page, &StepPage::picture_changed, this, &Workspace::show_picture);
    if (QWidget* tools = page.tools())
        tools_->addWidget(tools);
    for (QLineEdit* field : page.bench()->findChildren<QLineEdit*>())
        connect(
            field, &QLineEdit::returnPressed, this,
            [this, field] { // taken: the keys are the Sheet's again
                if (!field->property("wrong").toBool())
                    sheet_->view().setFocus();
            },
            Qt::QueuedConnection);
}

/// The steps that share a station are chosen by a row of buttons; one that is alone needs none.
QWidget* Workspace::page_row(const QString& station)
{
    auto* row_widget = new QWidget;
    auto* row = new QHBoxLayout(row_widget);
    row->setContentsMargins(14, 6, 14, 0);
    row->setSpacing(6);
    for (const Entry& e : entries_) {
        if (name_of(*e.module) != station)
            continue;
        QPushButton* button = tool(e.page->page_name());
        button->setCheckable(true);
        button->setChecked(viewing_.is_step(e.module->info.key));
        connect(button, &QPushButton::clicked, this, [this, key = e.module->info.key] { viewing_.set_step(key); });
        row->addWidget(button);
    }
    row->addStretch();
    return row_widget;
}

/// A bench that needs more than it has gets it, as long as the Sheet keeps most of its own; the rest of its rows goes
/// on below.
void Workspace::give_room()
{
    constexpr int least = 480;
    constexpr double most = 0.6; // of the window
    const QWidget* bench = benches_->currentWidget();
    const int wanted = bench ? bench->minimumSizeHint().width() : 0;
    lower_->setMinimumWidth(std::max(least, std::min(wanted, int(most * width()))));
}

bool Workspace::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == lower_ && event->type() == QEvent::LayoutRequest)
        give_room();
    return QWidget::eventFilter(watched, event);
}

void Workspace::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    give_room();
}

void Workspace::look()
{
    const Entry& now = entries_.at(viewing_.step_index());
    const QString station = name_of(*now.module);
    delete std::exchange(pages_, nullptr);
    if (std::count_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return name_of(*e.module) == station; }) >
        1) {
        pages_ = page_row(station);
        static_cast<QVBoxLayout*>(lower_->layout())->insertWidget(0, pages_);
    }
    benches_->setCurrentWidget(now.page->bench());
    tools_->setCurrentWidget(now.page->tools() ? now.page->tools() : transport_);
    sheet_->set_tools(now.page->sheet_tools());
    sheet_->view().set_meter(now.page->row_meter());
    picture_.set_step(now.page->picture_step());
    show_picture();
    give_room();
}

void Workspace::show_picture()
{
    QWidget* own = entries_.at(viewing_.step_index()).page->picture();
    if (own && pictures_->indexOf(own) < 0)
        pictures_->addWidget(own);
    pictures_->setCurrentWidget(own ? own : &picture_);
}

bool Workspace::bench_has_focus() const
{
    return lower_->isAncestorOf(QApplication::focusWidget());
}

void Workspace::set_picture_alone(bool on)
{
    sheet_->setVisible(!on);
    lower_->setVisible(!on);
    picture_.setFocusPolicy(on ? Qt::StrongFocus : Qt::NoFocus); // somebody must have the keys
    on ? picture_.setFocus() : sheet_->view().setFocus();
}

void Workspace::save_layout(Settings& settings) const
{
    settings.set_layout("across", across_->saveState());
    settings.set_layout("down", down_->saveState());
}

void Workspace::restore_layout(const Settings& settings)
{
    if (const auto state = settings.layout("across"); !state.isEmpty())
        across_->restoreState(state);
    if (const auto state = settings.layout("down"); !state.isEmpty())
        down_->restoreState(state);
}

}
