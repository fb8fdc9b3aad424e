#include "app/steps/steady/photo_part.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/steady/steady_values.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

LookPart::LookPart(Viewing& viewing, PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), picture_(picture),
      blink_(tool(tr("Blink"), tr("This photo and the other by turns"))),
      split_(tool(tr("Split"), tr("The other on the left of a line; drag it"))),
      through_(tool(tr("See-through"), tr("Both, half each"))),
      difference_(tool(tr("Difference"), tr("Grey where they agree; what differs five times as strong"))),
      left_(secondary({})), heading_(heading({})), doubts_(new QListWidget)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("Compare with the reference")));
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (const auto& [button, how] :
         {std::pair(blink_, Compare::blink), std::pair(split_, Compare::split), std::pair(through_, Compare::through),
          std::pair(difference_, Compare::difference)}) {
        button->setCheckable(true);
        row->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, how = how](bool on) { compare(on ? how : Compare::off); });
    }
    row->addStretch();
    column->addLayout(row);
    left_->setAccessibleName(tr("What is left"));
    left_->setWordWrap(true);
    column->addWidget(left_);
    column->addWidget(heading_);
    doubts_->setAccessibleName(tr("Photos to look at"));
    doubts_->setFrameShape(QFrame::NoFrame);
    doubts_->setWordWrap(true);
    column->addWidget(doubts_, 1);
    column->addStretch();
    connect(&picture, &PictureView::comparing_changed, this, &LookPart::refresh);
    const auto go = [this](const QListWidgetItem* item) {
        Q_EMIT photo_chosen(PhotoIndex(item->data(Qt::UserRole).toLongLong()));
    };
    connect(doubts_, &QListWidget::itemClicked, this, go);
    connect(doubts_, &QListWidget::itemActivated, this, go);
}

void LookPart::compare(Compare how)
{
    picture_.set_comparing(how);
    refresh();
}

void LookPart::refresh()
{
    const Shot* shot = viewing_.shot();
    const bool measured = shot && steadying_of(*shot);
    for (const auto& [button, how] :
         {std::pair(blink_, Compare::blink), std::pair(split_, Compare::split), std::pair(through_, Compare::through),
          std::pair(difference_, Compare::difference)}) {
        button->setEnabled(measured);
        button->setChecked(measured && picture_.comparing() == how);
    }
    doubts_->clear();
    left_->setText(tr("not measured yet"));
    heading_->setVisible(false);
    doubts_->setVisible(false);
    if (!measured)
        return;
    const auto doubtful = doubtful_photos(*shot);
    left_->setText(tr("moved by up to %1 px; %2 px are left at most")
                       .arg(most_moved_px(*shot), 0, 'f', 1)
                       .arg(most_left_px(*shot), 0, 'f', 2));
    for (const PhotoIndex p : doubtful) {
        const ShotPhoto& photo = shot->photos[p.at()];
        auto* item = new QListWidgetItem(look_at_this(tr("%1: %2").arg(
            QString::fromStdString(shown_name(*photo.photo)), QString::fromStdString(alignment_of(photo)->doubt))));
        item->setData(Qt::UserRole, qlonglong(p.value));
        doubts_->addItem(item);
    }
    heading_->setText(tr("%n photo(s) to look at", nullptr, int(doubtful.size())));
    heading_->setVisible(!doubtful.empty());
    doubts_->setVisible(!doubtful.empty());
}

}
