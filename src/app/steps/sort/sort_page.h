#pragma once
#include "app/picture/picture_step.h"
#include "app/steps/sort/filer.h"
#include "app/steps/sort/findings.h"
#include "app/steps/sort/sort_controller.h"
#include "app/steps/step_page.h"

namespace frenlo::app {

class SortBench;

/// Sort as the window sees it.
class SortPage : public StepPage, public PictureStep
{
    Q_OBJECT
public:
    explicit SortPage(const Services& services);

    [[nodiscard]] QWidget* bench() override;
    [[nodiscard]] RouteState route_state() const override;
    [[nodiscard]] QWidget* tools() override { return tools_; }
    [[nodiscard]] QWidget* sheet_tools() override { return order_; }
    [[nodiscard]] TileActions* tile_actions() override { return &controller_; }
    [[nodiscard]] const PictureStep* picture_step() const override { return this; }
    [[nodiscard]] PhotoIndex compared_photo() const override { return viewing_.shown_photo() - 1; }
    [[nodiscard]] QString compared_name() const override { return tr("the one before"); }
    [[nodiscard]] std::vector<StepKey> keys() override;
    [[nodiscard]] std::vector<KeyHelp> key_help() const override;

    [[nodiscard]] const Findings& findings() const { return findings_; }

private:
    void ask_better_set(QWidget& beside);
    void ask_where_photos_are(QWidget& beside);

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    Findings findings_;
    SortController controller_;
    Filer filer_;
    SortBench* bench_;
    QWidget* tools_;
    QWidget* order_;
};

}
