#include "app/steps/tone/tone_bench.h"

#include "app/steps/tone/anchor_row.h"
#include "app/steps/tone/curve_view.h"
#include "app/steps/tone/kept_tones.h"
#include "app/steps/tone/tone_fields.h"
#include "app/steps/tone/tone_meter.h"
#include "app/steps/tone/where_row.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/steps/tone/tone_edits.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

ToneBench::ToneBench(Session& session, Viewing& viewing, ToneController& tone_controller, PictureView& picture,
                     const std::filesystem::path& kept, QWidget* parent)
    : QWidget(parent), viewing_(viewing), tone_controller_(tone_controller), picture_(picture), curve_(new CurveView),
      figures_(secondary({})), curve_page_(tool(tr("Curve"), tr("How much light goes in, how much comes out"))),
      waveform_page_(tool(tr("Waveform"), tr("How light the toned photo is from left to right"))),
      where_(new WhereRow(viewing, tone_controller)), fields_(new ToneFields(tone_controller)),
      grey_(tool(tr("Pick a grey"), tr("Click on something grey in the photo: warmth and green–magenta are set so that "
                                       "it has no colour"))),
      as_shot_(tool(tr("Undo toning"), tr("All photos of the shot as shot again, no anchors"))),
      anchors_(new AnchorRow(viewing, tone_controller))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 4, 6);
    row->setSpacing(gap);
    auto* left = new QVBoxLayout;
    left->setSpacing(5);
    auto* pages = new QHBoxLayout;
    pages->setSpacing(6);
    for (QPushButton* b : {curve_page_, waveform_page_}) {
        b->setCheckable(true);
        pages->addWidget(b);
    }
    pages->addStretch();
    left->addLayout(pages);
    left->addWidget(curve_, 1);
    figures_->setAccessibleName(tr("Clipped, and flicker of the toned film"));
    figures_->setWordWrap(true);
    left->addWidget(figures_);
    row->addLayout(left, 10);
    auto* values = new QWidget;
    auto* right = new QVBoxLayout(values);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(4);
    right->addWidget(where_);
    right->addWidget(fields_);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    grey_->setCheckable(true);
    auto* keep = new KeptTones(session, viewing, tone_controller, kept / "tones.json");
    fields_->add_button(grey_);
    for (QPushButton* b : {anchors_->menu(), static_cast<QPushButton*>(keep), as_shot_})
        buttons->addWidget(b);
    buttons->addStretch();
    right->addWidget(anchors_);
    right->addLayout(buttons);
    right->addStretch(1);
    row->addWidget(scrolled(values), 19);
    curve_page_->setChecked(true);
    for (QPushButton* b : {curve_page_, waveform_page_})
        connect(b, &QPushButton::clicked, this, [this, b] {
            curve_page_->setChecked(b == curve_page_);
            waveform_page_->setChecked(b == waveform_page_);
            curve_->set_waveform(b == waveform_page_);
        });
    connect(curve_, &CurveView::begun, &tone_controller, &ToneController::begin_change);
    connect(curve_, &CurveView::pulled, &tone_controller, qOverload<ToneValue, double>(&ToneController::set));
    connect(grey_, &QPushButton::clicked, this, &ToneBench::pick_grey);
    connect(as_shot_, &QPushButton::clicked, &tone_controller, &ToneController::as_shot);
    connect(keep, &KeptTones::failed, this, &ToneBench::failed);
    connect(anchors_, &AnchorRow::photo_chosen, this,
            [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    connect(anchors_, &AnchorRow::show_both_changed, &picture, &PictureView::resized);
    connect(anchors_, &AnchorRow::show_both_changed, &picture, qOverload<>(&QWidget::update));
    connect(&picture, &PictureView::tool_changed, this,
            [this] { grey_->setChecked(grey_tool_ && picture_.tool() == grey_tool_.get()); });
    connect(&viewing, &Viewing::shot_changed, this, [this] {
        legend_.reset();
        refresh();
    });
    connect(&viewing, &Viewing::playhead_changed, this, &ToneBench::refresh);
    connect(&tone_controller, &ToneController::changed, this, &ToneBench::refresh);
    connect(&tone_controller, &ToneController::looked, this, &ToneBench::show_looks);
    look_.setSingleShot(true);
    look_.setInterval(60);
    connect(&look_, &QTimer::timeout, &tone_controller, &ToneController::look);
}

void ToneBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

void ToneBench::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    pick_grey(false);
}

void ToneBench::pick_grey(bool on)
{
    if (!on) {
        grey_tool_.reset();
        grey_->setChecked(false);
        return;
    }
    grey_tool_ = std::make_unique<GreyTool>();
    connect(grey_tool_.get(), &GreyTool::chosen, this, [this](QPointF place) {
        if (place.x() < 0 || place.y() < 0 || place.x() >= 1 || place.y() >= 1)
            return;
        tone_controller_.make_grey(place);
        grey_tool_.release()->deleteLater(); // it is speaking
        grey_->setChecked(false);
        picture_.set_tool(nullptr);
    });
    picture_.set_tool(grey_tool_.get());
}

/// Only what is seen.
void ToneBench::refresh()
{
    if (isVisible())
        where_->refresh();
    const auto tone = tone_controller_.tone();
    setEnabled(tone.has_value());
    if (!tone || !isVisible())
        return;
    curve_->show_tone(*tone);
    fields_->show_tone(*tone);
    const bool everywhere = tone_controller_.where().everywhere();
    as_shot_->setVisible(everywhere ? viewing_.shot()->steps.has<Toning>() || is_toned(*viewing_.shot())
                                    : !tone->nothing());
    anchors_->setVisible(everywhere);
    anchors_->menu()->setVisible(everywhere);
    anchors_->refresh();
    show_looks();
    if (!look_.isActive())
        look_.start();
}

void ToneBench::show_looks()
{
    if (!viewing_.shot())
        return;
    const ToneScopes& scopes = tone_controller_.scopes();
    curve_->show_scopes(scopes);
    QString text =
        tr("clipped: black %1 %, white %2 %").arg(scopes.black * 100, 0, 'f', 1).arg(scopes.white * 100, 0, 'f', 1);
    if (const auto& figures = tone_controller_.figures())
        text += QLatin1Char('\n') +
                tr("flicker %1 stop, toned %2").arg(figures->flicker, 0, 'f', 3).arg(figures->toned, 0, 'f', 3);
    if (!legend_)
        legend_ = legend_of(*viewing_.shot());
    if (!legend_->isEmpty())
        text += QLatin1Char('\n') + *legend_;
    figures_->setText(text);
}

}
