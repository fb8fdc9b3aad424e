#include "app/steps/flicker/looking_part.h"

#include "app/steps/flicker/light_plot.h"
#include "app/steps/flicker/light_strip.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/flicker/deflicker_values.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

enum DisplayTimeline
{
    course,
    strip
};
constexpr int aside = -1; ///< in the list of remedies

QString name_of(const ShotPhoto& p)
{
    return QString::fromStdString(shown_name(*p.photo));
}

}

LookingPart::LookingPart(Viewing& viewing, FlickerController& flicker_controller, StripMaker& strips,
                         PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), flicker_controller_(flicker_controller), picture_(picture),
      plot_page_(tool(tr("Brightness"), tr("The course of the light over the photos"))),
      strip_page_(tool(tr("Strip"), tr("One column of each photo, all side by side: as shot above, evened below"))),
      split_(tool(tr("Split"), tr("On the left of a line the photo as shot; drag the line"))),
      pages_(new QStackedWidget), plot_(new LightPlot), strip_(new LightStrip(viewing, strips)), list_(new QListWidget),
      photo_(secondary({})), remedy_(new QComboBox)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    for (QPushButton* b : {plot_page_, strip_page_}) {
        b->setCheckable(true);
        head->addWidget(b);
    }
    head->addStretch();
    split_->setCheckable(true);
    head->addWidget(split_);
    column->addLayout(head);
    pages_->addWidget(plot_);
    pages_->addWidget(strip_);
    column->addWidget(pages_, 1);
    list_->setAccessibleName(tr("Steps and photos to look at"));
    list_->setToolTip(tr("A step with its mark stays in the film; without it is taken out"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMaximumHeight(58);
    column->addWidget(list_);
    photo_->setAccessibleName(tr("Light of this photo"));
    photo_->setToolTip(tr("The brightness of this photo, as shot and in the film"));
    remedy_->setAccessibleName(tr("What is done about this photo"));
    for (const auto& [words, remedy] :
         {std::pair(tr("as its neighbours"), int(LightRemedy::evened)),
          std::pair(tr("left as shot"), int(LightRemedy::as_shot)),
          std::pair(tr("mixed from its neighbours"), int(LightRemedy::mixed)), std::pair(tr("set aside"), aside)})
        remedy_->addItem(words, remedy);
    remedy_->setToolTip(tr("How bright this photo is in the film: as its neighbours are; with its flash or shadow; or "
                           "its neighbours, mixed, in its place"));
    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    row->addWidget(photo_, 1);
    row->addWidget(remedy_);
    column->addLayout(row);

    connect(plot_page_, &QPushButton::clicked, this, [this] { show_page(course); });
    connect(strip_page_, &QPushButton::clicked, this, [this] { show_page(strip); });
    connect(split_, &QPushButton::clicked, this,
            [this](bool on) { picture_.set_comparing(on ? Compare::split : Compare::off); });
    connect(&picture, &PictureView::comparing_changed, this,
            [this] { split_->setChecked(picture_.comparing() == Compare::split); });
    connect(plot_, &LightPlot::photo_chosen, this, &LookingPart::photo_chosen);
    connect(strip_, &LightStrip::photo_chosen, this, &LookingPart::photo_chosen);
    const auto go = [this](const QListWidgetItem* item) {
        Q_EMIT photo_chosen(PhotoIndex(item->data(Qt::UserRole).toLongLong()));
    };
    connect(list_, &QListWidget::itemClicked, this, go);
    connect(list_, &QListWidget::itemActivated, this, go);
    connect(list_, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        flicker_controller_.keep_step(PhotoIndex(item->data(Qt::UserRole).toLongLong()),
                                      item->checkState() == Qt::Checked);
    });
    connect(remedy_, &QComboBox::activated, this, [this] {
        const PhotoIndex photo = viewing_.shown_photo();
        const int chosen = remedy_->currentData().toInt();
        chosen == aside ? flicker_controller_.set_aside(photo)
                        : flicker_controller_.resolve(photo, LightRemedy(chosen));
    });
    show_page(course);
}

void LookingPart::show_page(int page)
{
    pages_->setCurrentIndex(page);
    plot_page_->setChecked(page == course);
    strip_page_->setChecked(page == strip);
    refresh();
}

void LookingPart::fill_list(const Shot& shot)
{
    const QSignalBlocker quiet(list_);
    list_->clear();
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto& light = light_of(shot.photos[i]);
        if (!shown[i] || !light || (!light->jump && !light->change.outlier))
            continue;
        auto* item = new QListWidgetItem;
        item->setData(Qt::UserRole, qlonglong(i));
        const QString name = name_of(shot.photos[i]);
        if (light->jump) {
            item->setText(
                light->jump->cause == LightJump::Cause::camera
                    ? tr("%1: settings of the camera, %2 stop; keep it").arg(name).arg(light->jump->stops, 0, 'f', 2)
                    : tr("%1: the light changes by %2 stop; keep it").arg(name).arg(light->jump->stops, 0, 'f', 2));
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(light->jump->kept ? Qt::Checked : Qt::Unchecked);
        } else if (to_look_at(shot.photos[i])) {
            item->setText(look_at_this(tr("%1 stands out from those around it").arg(name)));
        } else {
            item->setText(tr("%1 stands out, and is settled").arg(name));
        }
        list_->addItem(item);
    }
    list_->setVisible(list_->count() > 0);
}

void LookingPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot || !isVisible())
        return;
    const bool measured = shot->steps.has<Deflicker>();
    for (QWidget* w : std::initializer_list<QWidget*>{plot_page_, strip_page_, split_, pages_, photo_, remedy_})
        w->setVisible(measured);
    list_->setEnabled(!flicker_controller_.running());
    remedy_->setEnabled(!flicker_controller_.running());
    if (measured && pages_->currentIndex() == course)
        plot_->show_shot(*shot);
    else if (measured)
        strip_->show_shot();
    fill_list(*shot);
    refresh_place();
}

void LookingPart::refresh_place()
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = viewing_.shown_photo();
    if (!isVisible() || !shot || !deflicker_of(*shot) || photo.value < 0)
        return;
    plot_->show_place(photo);
    strip_->show_place(photo);
    const ShotPhoto& p = shot->photos[photo.at()];
    remedy_->setVisible(p.steps.has<PhotoLight>());
    if (!light_of(p)) {
        photo_->setText(tr("not measured"));
        return;
    }
    const QString text =
        tr("%1 → %2 stops").arg(light_of(p)->change.stops, 0, 'f', 2).arg(*light_now(*shot, photo), 0, 'f', 2);
    photo_->setText(to_look_at(p) ? look_at_this(text) : text);
    const LightRemedy remedy =
        light_of(p)->remedy == LightRemedy::undecided ? LightRemedy::evened : light_of(p)->remedy;
    remedy_->setCurrentIndex(remedy_->findData(int(remedy)));
}

}
