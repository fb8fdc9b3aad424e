#pragma once
#include "app/widgets/plot_words.h"
#include "core/steps/tone/tone_curve.h"
#include "core/steps/tone/tone_scopes.h"

#include <QWidget>

#include <optional>

namespace frenlo::app {

/// The photo's light as a histogram in stops around middle grey, and over it the characteristic curve: light in across,
/// light out upwards. Its three points are pulled up and down: the toe, middle grey (exposure; with Shift the slope,
/// which is contrast), the shoulder. Or the waveform of the toned photo.
class CurveView : public QWidget, public PlotWords
{
    Q_OBJECT
public:
    explicit CurveView(QWidget* parent = nullptr);
    void show_tone(const Tone& tone);
    void show_scopes(const ToneScopes& scopes);
    void set_waveform(bool on);
    [[nodiscard]] int spoken_points() const override { return 3; }
    [[nodiscard]] Point spoken_point(int at) const override;
    [[nodiscard]] QSize sizeHint() const override { return {236, 180}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {180, 110}; }

    enum class Handle
    {
        toe,
        middle,
        shoulder
    };
    [[nodiscard]] QPointF place_of(Handle point) const; ///< in the widget

Q_SIGNALS:
    void begun();
    void pulled(ToneValue value, double to);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] QRectF plot() const;
    [[nodiscard]] QPointF at(double in, double out) const;
    void pull(double stops, bool slope);
    void paint_curve(QPainter& painter) const;
    void paint_waveform(QPainter& painter) const;

    Tone tone_, pressed_tone_;
    ToneCurve curve_{Tone()};
    ToneScopes scopes_;
    bool waveform_ = false;
    std::optional<Handle> pulled_;
    Handle chosen_ = Handle::middle; ///< for the keys
    double pressed_at_ = 0;
};

}
