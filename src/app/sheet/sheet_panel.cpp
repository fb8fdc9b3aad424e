#include "app/sheet/sheet_panel.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/work/lengths.h"
#include "core/sound/sound_mix.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QTabBar>
#include <QVBoxLayout>

namespace frenlo::app {

SheetPanel::SheetPanel(Session& session, Viewing& viewing, PhotoLoader& loader, MovingParts& moving, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), loader_(loader), tabs_(new QTabBar),
      zoom_label_(new QLabel), head_(new QHBoxLayout), row_length_(new QComboBox),
      fit_tiles_(tool(tr("Fit"), tr("Tiles as large as all photos of the shot on one page allow"))),
      tile_size_(new QSlider(Qt::Horizontal)), view_(new SheetView(viewing, loader, moving)), chosen_(new QLabel),
      whole_(new QLabel)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);

    auto* head = new QWidget;
    head->setAutoFillBackground(true);
    head->setBackgroundRole(QPalette::AlternateBase);
    auto* row = head_;
    head->setLayout(row);
    row->setContentsMargins(10, 0, 12, 0);
    tabs_->setDrawBase(false);
    tabs_->setExpanding(false);
    tabs_->setUsesScrollButtons(true);
    tabs_->setAccessibleName(tr("Shots"));
    row->addWidget(tabs_, 1, Qt::AlignBottom);
    make_secondary(zoom_label_);
    row->addWidget(zoom_label_);
    row_length_->setAccessibleName(tr("Length of a row"));
    row_length_->setToolTip(tr("How much time a row of the Sheet shows. As it fits: the whole shot on one page, its "
                               "photos as large as they can be. Ctrl and the wheel make it larger and smaller"));
    row_length_->addItem(tr("as it fits"), 0);
    row_length_->addItem(tr("¼ second"), int(RowLength::quarter));
    row_length_->addItem(tr("½ second"), int(RowLength::half));
    row_length_->addItem(tr("1 second"), int(RowLength::one));
    row_length_->addItem(tr("2 seconds"), int(RowLength::two));
    row_length_->addItem(tr("5 seconds"), int(RowLength::five));
    row->addWidget(row_length_);
    fit_tiles_->setCheckable(true);
    row->addWidget(fit_tiles_);
    tile_size_->setAccessibleName(tr("Size of the tiles"));
    tile_size_->setToolTip(tr("How wide the tiles are"));
    tile_size_->setRange(64, 640);
    tile_size_->setFixedWidth(96);
    row->addWidget(tile_size_);
    head->setFixedHeight(40);
    column->addWidget(head);
    column->addWidget(view_, 1);

    auto* foot = new QWidget;
    foot->setAutoFillBackground(true);
    foot->setBackgroundRole(QPalette::AlternateBase);
    foot->setFixedHeight(30);
    auto* status = new QHBoxLayout(foot);
    status->setContentsMargins(12, 0, 12, 0);
    chosen_->setAccessibleName(tr("Selection"));
    make_secondary(whole_);
    status->addWidget(chosen_);
    status->addStretch();
    status->addWidget(whole_);
    column->addWidget(foot);

    connect(tabs_, &QTabBar::currentChanged, this, [this](int index) {
        const bool last = index + 1 == tabs_->count();
        last ? viewing_.show_reel() : viewing_.set_shot(ShotIndex(index));
    });
    connect(row_length_, &QComboBox::activated, this, [this] {
        const int chosen = row_length_->currentData().toInt();
        view_->set_row_length(chosen > 0 ? std::optional(RowLength(chosen)) : std::nullopt);
        view_->setFocus();
    });
    connect(tile_size_, &QSlider::valueChanged, view_, [this](int width) { view_->set_tile_width(width); });
    connect(fit_tiles_, &QPushButton::clicked, view_,
            [this](bool on) { view_->set_tile_width(on ? std::nullopt : std::optional(view_->tile_width())); });
    connect(view_, &SheetView::looked_elsewhere, this, &SheetPanel::refresh_zoom);
    connect(&viewing, &Viewing::shot_changed, this, &SheetPanel::refresh_tabs);
    connect(&viewing, &Viewing::shot_changed, this, &SheetPanel::refresh_status);
    connect(&viewing, &Viewing::selection_changed, this, &SheetPanel::refresh_status);
    connect(&viewing, &Viewing::step_changed, this, &SheetPanel::refresh_tools);
    connect(&viewing, &Viewing::step_changed, this, &SheetPanel::refresh_status);
    connect(&viewing, &Viewing::counting_changed, this, &SheetPanel::refresh_status);
    connect(&viewing, &Viewing::counting_changed, view_->viewport(), qOverload<>(&QWidget::update));
    connect(&loader, &PhotoLoader::readiness_changed, this, &SheetPanel::refresh_status);
    refresh_tabs();
    refresh_tools();
    refresh_status();
}

void SheetPanel::refresh_tabs()
{
    const QSignalBlocker quiet(tabs_);
    const auto& shots = session_.project().shots;
    const int wanted = shots.empty() ? 0 : int(shots.size()) + 1; // and the Reel
    while (tabs_->count() > wanted)
        tabs_->removeTab(tabs_->count() - 1);
    while (tabs_->count() < wanted)
        tabs_->addTab(QString());
    for (int i = 0; i < tabs_->count(); ++i) {
        const bool reel = i == int(shots.size());
        const QString name = reel ? tr("Reel") : QString::fromStdString(shots[std::size_t(i)]->name);
        QString shown = name;
        tabs_->setTabText(i, shown.replace(QLatin1Char('&'), QStringLiteral("&&")));
        tabs_->setAccessibleTabName(i, name);
    }
    tabs_->setCurrentIndex(viewing_.on_reel() ? tabs_->count() - 1 : int(viewing_.shot_index().value));
}

void SheetPanel::refresh_tools()
{
    const bool tiles = viewing_.step().tiles;
    zoom_label_->setText(tiles ? tr("Tiles") : tr("One row ="));
    row_length_->setVisible(!tiles);
    tile_size_->setVisible(tiles);
    fit_tiles_->setVisible(tiles);
}

/// What the page shows is what the fields say.
void SheetPanel::refresh_zoom()
{
    const QSignalBlocker quiet_rows(row_length_), quiet_tiles(tile_size_);
    row_length_->setCurrentIndex(view_->fits() ? 0 : row_length_->findData(int(view_->row_length())));
    fit_tiles_->setChecked(view_->fits());
    tile_size_->setValue(view_->tile_width());
    refresh_status();
}

/// The start and the end of what is seen, where that is not all.
QString SheetPanel::in_view() const
{
    const Shot* shot = viewing_.shot();
    if (viewing_.step().tiles) {
        const auto [first, last] = view_->photos_in_view();
        if (!shot || shot->photos.empty() || (first.value <= 0 && last.at() + 1 >= shot->photos.size()))
            return {};
        return tr("in view: photo %1 to %2").arg(first.value + 1).arg(last.value + 1);
    }
    const FrameRange seen = view_->frames_in_view();
    if (seen.frames() == 0 || seen.frames() == viewing_.schedule().frames())
        return {};
    return tr("in view: %1 to %2").arg(viewing_.length_text(seen.begin.value), viewing_.length_text(seen.end.value));
}

void SheetPanel::set_tools(QWidget* tools)
{
    if (step_tools_)
        step_tools_->hide();
    step_tools_ = tools;
    if (!tools)
        return;
    if (head_->indexOf(tools) < 0)
        head_->insertWidget(1, tools, 0, Qt::AlignVCenter); // behind the tabs
    tools->show();
}

void SheetPanel::refresh_status()
{
    const Shot* shot = viewing_.shot();
    if (!shot) {
        chosen_->clear();
        whole_->clear();
        return;
    }
    const Schedule& schedule = viewing_.schedule();
    const auto& selection = viewing_.selection();
    if (selection.empty()) {
        const QString seen = in_view();
        chosen_->setText(seen.isEmpty() ? tr("nothing selected") : seen);
    } else {
        std::int64_t frames = 0;
        for (const FrameSpan& s : schedule.spans())
            if (selection.contains(s.photo))
                frames += s.frames();
        chosen_->setText(tr("<b>%n photo(s)</b> selected · %1", nullptr, int(selection.size()))
                             .arg(length_in_full(frames, schedule.rate())));
    }
    if (viewing_.step().tiles && !shot->parts.empty() && selection.empty())
        chosen_->setText(tr("brackets show the shots that were found"));
    QString text;
    if (loader_.prepared() < loader_.to_prepare())
        text = tr("previews %1 of %2 · ").arg(loader_.prepared()).arg(loader_.to_prepare());
    const DisplayTimeline& page = viewing_.timeline();
    if (const ReelPage* reel = viewing_.reel()) {
        const auto sound = (sound_length(session_.project().reel.sound).value * schedule.rate().value()).rounded();
        whole_->setText(text + tr("%n shot(s)", nullptr, int(reel->film->parts().size())) +
                        tr(" · %1").arg(viewing_.length_text(viewing_.film_frames())) +
                        (sound > 0 ? tr(" · sound %1").arg(viewing_.length_text(sound)) : QString()));
        return;
    }
    if (!viewing_.step().tiles && shot->pacing.kept) {
        whole_->setText(text + tr("kept %1 – %2 · %3")
                                   .arg(viewing_.length_text(page.kept_begin.value),
                                        viewing_.length_text(page.kept_end.value),
                                        length_in_full(viewing_.film_frames(), schedule.rate())));
        return;
    }
    text += tr("%n photo(s)", nullptr, int(photos_in_film(*shot)));
    if (const auto aside = std::int64_t(shot->photos.size()) - photos_in_film(*shot); aside > 0)
        text += tr(", %1 aside").arg(aside);
    whole_->setText(text + tr(" · %1").arg(viewing_.length_text(viewing_.film_frames())));
}

}
