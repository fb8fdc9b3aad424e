#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/sort/clip_taking.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;

namespace frenlo::app {

/// Which pictures of a clip are the photos of its shot. Hidden where the shot is made of photos.
class ClipPart : public QWidget
{
    Q_OBJECT
public:
    ClipPart(Background& background, Session& session, Viewing& viewing, QWidget* parent = nullptr);

Q_SIGNALS:
    void failed(const QString& message);

private:
    void refresh();
    void show_values(const ClipTaking& taking);
    [[nodiscard]] ClipTaking entered() const;
    void take();
    void apply(const FoundClip& clip, ShotId shot, const ClipTaking& taking);

    Session& session_;
    Viewing& viewing_;
    Task reading_;
    std::optional<FoundClip> clip_; ///< read last
    ClipTaking shown_;
    QComboBox* way_;
    QDoubleSpinBox* value_;
    QCheckBox* average_;
    QLabel* about_;
};

}
