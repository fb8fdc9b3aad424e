#pragma once
#include "app/steps/tone/tone_controller.h"
#include "core/steps/tone/named_tones.h"

#include <QPushButton>

#include <filesystem>

namespace frenlo::app {

/// The menu of what a tone can be given to, and of the tones that the user keeps.
class KeptTones : public QPushButton
{
    Q_OBJECT
public:
    /// file: where they are kept.
    KeptTones(Session& session, Viewing& viewing, ToneController& tone_controller, std::filesystem::path file,
              QWidget* parent = nullptr);

Q_SIGNALS:
    void failed(const QString& message);

private:
    void fill(QMenu& menu);
    void keep();
    /// What is done with the file, or what is wrong with it.
    template <class Work>
    void with_file(Work work);

    Session& session_;
    Viewing& viewing_;
    ToneController& tone_controller_;
    std::filesystem::path file_;
};

}
