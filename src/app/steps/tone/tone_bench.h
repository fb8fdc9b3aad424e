#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/tone/grey_tool.h"
#include "app/steps/tone/tone_controller.h"

#include <QTimer>
#include <QWidget>

#include <filesystem>
#include <memory>
#include <optional>

class QLabel;
class QPushButton;

namespace frenlo::app {

class AnchorRow;
class CurveView;
class ToneFields;
class WhereRow;

/// Tone: the curve of the photo that is looked at, its values, and the anchor photos.
class ToneBench : public QWidget
{
    Q_OBJECT
public:
    ToneBench(Session& session, Viewing& viewing, ToneController& tone_controller, PictureView& picture,
              const std::filesystem::path& kept, QWidget* parent = nullptr);
    [[nodiscard]] const AnchorRow& anchors() const { return *anchors_; }

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void failed(const QString& message);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void refresh();
    void show_looks();
    void pick_grey(bool on);

    Viewing& viewing_;
    ToneController& tone_controller_;
    PictureView& picture_;
    CurveView* curve_;
    QLabel* figures_;
    QPushButton* curve_page_;
    QPushButton* waveform_page_;
    WhereRow* where_;
    ToneFields* fields_;
    QPushButton* grey_;
    QPushButton* as_shot_;
    AnchorRow* anchors_;
    std::unique_ptr<GreyTool> grey_tool_;
    std::optional<QString> legend_; ///< of the lines below the rows of the Sheet, of this shot
    QTimer look_;                   ///< not at every frame that plays
};

}
