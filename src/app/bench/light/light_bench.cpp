#include "app/bench/light/light_bench.h"

#include "app/bench/layouts.h"
#include "app/bench/light/light_plot.h"
#include "app/bench/pace/hold_part.h"
#include "app/theme/theme.h"
#include "core/base/text.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace frenlo::app {

LightBench::LightBench(Session& session, Viewing& viewing, Lighter& lighter, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), lighter_(lighter),
      window_(field(tr("Changes that stay"), tr("Changes of the light that take longer than this stay: 4 s, 96 f"), 64)),
      strength_(field(tr("How much is evened"), tr("How much of the flicker is taken out: 100 % is all of it"), 64)),
      each_colour_(new QCheckBox(tr("Each colour"))), camera_steps_(new QCheckBox(tr("Camera steps"))),
      even_(tool({}, tr("Measure every photo and take out what flickers"))), as_shot_(tool(tr("As shot again"), tr("What was measured goes"))),
      progress_(new QProgressBar), flicker_(secondary({})), photo_(secondary({})), list_(new QListWidget), notice_(notice()), plot_(new LightPlot)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->addWidget(side_by_side(evening_part(), looking_part()), 1);
    column->addWidget(notice_);
    connect(&viewing, &Viewing::shot_changed, this, &LightBench::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &LightBench::refresh_place);
    connect(&lighter, &Lighter::changed, this, &LightBench::refresh);
    connect(&lighter, &Lighter::progress, this, [this](double fraction) { progress_->setValue(int(fraction * 1000)); });
}

QWidget* LightBench::evening_part()
{
    auto* part = new QWidget;
    auto* grid = new QGridLayout(part);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(2, 1);
    grid->addWidget(heading(tr("Even the light")), 0, 0, 1, 3);
    grid->addWidget(secondary(tr("What takes longer stays")), 1, 0);
    grid->addWidget(window_, 1, 1);
    grid->addWidget(secondary(tr("Strength")), 2, 0);
    grid->addWidget(strength_, 2, 1);
    each_colour_->setToolTip(tr("Red, green and blue by themselves, for flicker in colour"));
    camera_steps_->setToolTip(tr("Take out what changes of shutter time, aperture and sensitivity made, by Exif and refined on the photos"));
    auto* checks = new QHBoxLayout;
    checks->setSpacing(wide_gap);
    checks->addWidget(each_colour_);
    checks->addWidget(camera_steps_);
    checks->addStretch();
    grid->addLayout(checks, 3, 0, 1, 3);
    make_primary(even_);
    progress_->setAccessibleName(tr("Progress of evening"));
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    auto* go = new QHBoxLayout;
    go->setSpacing(gap);
    go->addWidget(even_);
    go->addWidget(as_shot_);
    go->addWidget(progress_, 1);
    go->addStretch();
    grid->addLayout(go, 4, 0, 1, 3);
    flicker_->setAccessibleName(tr("Flicker"));
    flicker_->setWordWrap(true);
    grid->addWidget(flicker_, 5, 0, 1, 3);
    photo_->setAccessibleName(tr("Light of this photo"));
    photo_->setWordWrap(true);
    grid->addWidget(photo_, 6, 0, 1, 3);
    grid->setRowStretch(7, 1);
    connect(even_, &QPushButton::clicked, this, [this] { lighter_.running() ? lighter_.stop() : even(); });
    connect(as_shot_, &QPushButton::clicked, &lighter_, &Lighter::as_shot);
    for (QLineEdit* f : {window_, strength_})
        connect(f, &QLineEdit::returnPressed, this, &LightBench::even);
    return part;
}

QWidget* LightBench::looking_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("Brightness")));
    column->addWidget(plot_, 1);
    list_->setAccessibleName(tr("Steps and photos to look at"));
    list_->setToolTip(tr("A step with its mark stays in the film; without it is taken out"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMaximumHeight(76);
    column->addWidget(list_);
    const auto go = [this](const QListWidgetItem* item) {
        Q_EMIT show_photo(viewing_.shot_index(), PhotoIndex(item->data(Qt::UserRole).toLongLong()));
    };
    connect(plot_, &LightPlot::photo_chosen, this, [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    connect(list_, &QListWidget::itemClicked, this, go);
    connect(list_, &QListWidget::itemActivated, this, go);
    connect(list_, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        lighter_.keep_step(PhotoIndex(item->data(Qt::UserRole).toLongLong()), item->checkState() == Qt::Checked);
    });
    return part;
}

void LightBench::even()
{
    const auto window = parse_length(window_->text(), session_.project().delivered_at);
    QString share = strength_->text();
    bool fits = false;
    const double strength = share.remove(QLatin1Char('%')).trimmed().toDouble(&fits);
    fits = fits && strength >= 0 && strength <= 100;
    mark_wrong(window_, !window);
    mark_wrong(strength_, !fits);
    say(notice_, {});
    if (!window) {
        say(notice_, tr("“%1” is not a length. 4 s and 96 f are.").arg(window_->text()));
    } else if (!fits) {
        say(notice_, tr("“%1” is not a share. 0 % to 100 % are.").arg(strength_->text()));
    } else {
        Lighting lighting;
        if (const Shot* shot = viewing_.shot(); shot && shot->lighting)
            lighting = *shot->lighting;
        lighting.window_s = window->value.approx();
        lighting.strength = strength / 100;
        lighting.each_colour = each_colour_->isChecked();
        lighting.camera_steps = camera_steps_->isChecked();
        progress_->setValue(0);
        lighter_.even(lighting);
    }
}

void LightBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

void LightBench::fill_list(const Shot& shot)
{
    const QSignalBlocker quiet(list_);
    list_->clear();
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const auto& light = shot.photos[i].light;
        if (!shown[i] || !light || (!light->jump && !light->change.suspect))
            continue;
        const QString name = QString::fromStdString(shown_path(shot.photos[i].photo->file.filename()));
        auto* item = new QListWidgetItem;
        item->setData(Qt::UserRole, qlonglong(i));
        if (light->jump && light->jump->cause == LightJump::Cause::camera) {
            item->setText(tr("%1: the camera's settings changed by %2 stop, taken out").arg(name).arg(light->jump->stops, 0, 'f', 2));
        } else if (light->jump) {
            item->setText(tr("%1: the light changes by %2 stop and stays so; keep it").arg(name).arg(light->jump->stops, 0, 'f', 2));
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            item->setCheckState(light->jump->kept ? Qt::Checked : Qt::Unchecked);
        } else {
            item->setText(look_at_this(tr("%1 stands out from those around it").arg(name)));
        }
        list_->addItem(item);
    }
    list_->setVisible(list_->count() > 0);
}

void LightBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot || !isVisible())
        return;
    const bool running = lighter_.running(), measured = shot->lighting.has_value();
    const ShotPtr now = session_.project().shots[viewing_.shot_index().at()];
    if (now != seen_ && !running) {
        seen_ = now;
        const Lighting l = shot->lighting.value_or(Lighting());
        window_->setText(tr("%1 s").arg(l.window_s, 0, 'g', 4));
        strength_->setText(tr("%1 %").arg(l.strength * 100, 0, 'g', 4));
        each_colour_->setChecked(l.each_colour);
        camera_steps_->setChecked(l.camera_steps);
    }
    for (QWidget* w : std::initializer_list<QWidget*>{window_, strength_, each_colour_, camera_steps_, list_})
        w->setEnabled(!running);
    even_->setText(running ? tr("Stop") : measured ? tr("Even again") : tr("Take the flicker out"));
    as_shot_->setVisible(measured && !running);
    progress_->setVisible(running);
    flicker_->setText(measured ? tr("Flicker %1 stop, measured before and after").arg(flicker_text(*shot->lighting))
                               : tr("What all parts of the picture share from photo to photo is flicker; what moves in it, and slow changes "
                                    "of the light, are not. Hold B to see a photo as shot."));
    plot_->setVisible(measured);
    if (measured)
        plot_->show_shot(*shot);
    fill_list(*shot);
    refresh_place();
}

void LightBench::refresh_place()
{
    const Shot* shot = viewing_.shot();
    if (!isVisible() || !shot || viewing_.shown_photo().value < 0)
        return;
    if (plot_->isVisible())
        plot_->show_place(viewing_.shown_photo());
    const ShotPhoto& p = shot->photos[viewing_.shown_photo().at()];
    const QString name = QString::fromStdString(shown_path(p.photo->file.filename()));
    if (!p.light)
        photo_->setText(shot->lighting ? tr("%1 was not measured.").arg(name) : QString());
    else
        photo_->setText(tr("%1: %2 stops as shot, now %3").arg(name).arg(p.light->change.stops, 0, 'f', 2).arg(p.light->after, 0, 'f', 2));
}

}
