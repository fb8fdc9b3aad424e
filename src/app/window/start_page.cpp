#include "app/window/start_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/window/idea.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

StartPage::StartPage(QWidget* parent)
    : QWidget(parent), recent_(new QVBoxLayout), recent_heading_(heading(tr("Lately")))
{
    setAutoFillBackground(true);
    setBackgroundRole(QPalette::Base);
    auto* outer = new QHBoxLayout(this);
    outer->addStretch(1);
    auto* column = new QVBoxLayout;
    column->setSpacing(12);
    outer->addLayout(column, 6);
    outer->addSpacing(48);
    outer->addWidget(new IdeaDrawing, 0, Qt::AlignVCenter);
    outer->addStretch(1);

    column->addStretch(2);
    auto* title = new QLabel(tr("Begin with your photos"));
    title->setStyleSheet(QStringLiteral("font-size: 24px; font-weight: 600;"));
    column->addWidget(title);
    auto* lead =
        secondary(tr("Drop a folder of photos anywhere in this window. Frenlo puts them in order and lays them out "
                     "like a page: one row is one second. Your photos are never changed."));
    lead->setWordWrap(true);
    lead->setMaximumWidth(560);
    column->addWidget(lead);
    column->addSpacing(4);

    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    auto* folder = new QPushButton(tr("Bring a folder in…"));
    make_primary(folder);
    auto* run = new QPushButton(tr("Bring a numbered series in…"));
    run->setToolTip(tr("Choose one photo; the numbered photos beside it come along"));
    auto* open = new QPushButton(tr("Open a project…"));
    auto* shoot = new QPushButton(tr("Shoot with a camera"));
    shoot->setToolTip(
        tr("Take the photos here: a camera at a cable, a video camera, or a simulated one to try it with"));
    auto* demo = new QPushButton(tr("Look at the demo"));
    demo->setToolTip(tr("Small shots of a model harbour, made on this computer: the first photos at once, the rest in "
                        "half a minute"));
    auto* card = new QPushButton(tr("Sort the demo card"));
    card->setToolTip(
        tr("The same harbour as it comes from the camera: trials, marker cards and three shots in one folder"));
    for (QPushButton* b : {folder, run, shoot, open})
        row->addWidget(b);
    row->addStretch();
    column->addLayout(row);
    auto* demo_row = new QHBoxLayout;
    demo_row->setSpacing(gap);
    demo_row->addWidget(secondary(tr("No photos at hand?")));
    for (QPushButton* b : {demo, card})
        demo_row->addWidget(b);
    demo_row->addStretch();
    column->addLayout(demo_row);
    column->addSpacing(20);
    column->addWidget(recent_heading_);
    recent_->setSpacing(2);
    column->addLayout(recent_);
    column->addStretch(3);

    connect(folder, &QPushButton::clicked, this, &StartPage::bring_folder_in);
    connect(run, &QPushButton::clicked, this, &StartPage::bring_run_in);
    connect(shoot, &QPushButton::clicked, this, &StartPage::shoot);
    connect(open, &QPushButton::clicked, this, &StartPage::open_project);
    connect(demo, &QPushButton::clicked, this, &StartPage::show_demo);
    connect(card, &QPushButton::clicked, this, &StartPage::show_demo_card);
    set_recent({});
}

void StartPage::set_recent(const QStringList& files)
{
    while (QLayoutItem* item = recent_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    recent_heading_->setVisible(!files.isEmpty());
    for (const QString& file : files) {
        const QFileInfo info(file);
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(12);
        auto* button = new QPushButton(info.completeBaseName());
        button->setMinimumWidth(140);
        button->setToolTip(file);
        connect(button, &QPushButton::clicked, this, [this, file] {
            QMetaObject::invokeMethod(
                this, [this, file] { Q_EMIT open_recent(file); }, Qt::QueuedConnection);
        });
        line->addWidget(button);
        line->addWidget(secondary(info.absolutePath()));
        line->addStretch();
        recent_->addWidget(row);
    }
}

}
