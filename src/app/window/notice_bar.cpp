#include "app/window/notice_bar.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QProgressBar>
#include <QPushButton>
#include <QStyleOption>

namespace frenlo::app {

NoticeBar::NoticeBar(QWidget* parent)
    : QWidget(parent), text_(new QLabel), progress_(new QProgressBar), actions_(new QHBoxLayout)
{
    setAttribute(Qt::WA_StyledBackground);
    setBackgroundRole(QPalette::ToolTipBase);
    setAutoFillBackground(true);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 6, 14, 6);
    row->setSpacing(gap);
    text_->setWordWrap(true);
    text_->setForegroundRole(QPalette::ToolTipText);
    text_->setAccessibleName(tr("Notice"));
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setFixedWidth(220);
    row->addWidget(text_, 1);
    row->addWidget(progress_);
    row->addLayout(actions_);
    hide();
}

QString NoticeBar::text() const
{
    return isHidden() ? QString() : text_->text();
}

void NoticeBar::clear_actions()
{
    while (QLayoutItem* item = actions_->takeAt(0)) {
        item->widget()->deleteLater();
        delete item;
    }
}

void NoticeBar::add_action(const QString& text, const std::function<void()>& action)
{
    auto* button = tool(text);
    connect(button, &QPushButton::clicked, this, [this, action] {
        hide();
        if (action)
            action();
    });
    actions_->addWidget(button);
    button->show(); // where the bar is there already, the layout would do it later
}

void NoticeBar::show_message(const QString& text, const Actions& actions)
{
    show_text(look_at_this(text), actions, false);
}

void NoticeBar::show_quiet(const QString& text, const Actions& actions)
{
    show_text(text, actions, true);
}

void NoticeBar::show_text(const QString& text, const Actions& actions, bool quiet)
{
    in_progress_ = false;
    clear_actions();
    text_->setText(text);
    setBackgroundRole(quiet ? QPalette::Base : QPalette::ToolTipBase);
    text_->setForegroundRole(quiet ? QPalette::Text : QPalette::ToolTipText);
    progress_->hide();
    for (const auto& [name, action] : actions)
        add_action(name, action);
    add_action(actions.empty() ? tr("Close") : tr("Later"), {});
    show();
}

void NoticeBar::show_progress(double fraction, const QString& what, const std::function<void()>& stop)
{
    if (!in_progress_) {
        in_progress_ = true;
        clear_actions();
        add_action(tr("Stop"), stop);
        progress_->show();
        show();
    }
    progress_->setValue(int(fraction * 1000));
    text_->setText(what);
}

void NoticeBar::end_progress()
{
    if (in_progress_) {
        in_progress_ = false;
        hide();
    }
}

}
