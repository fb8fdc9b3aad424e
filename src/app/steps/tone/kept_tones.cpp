#include "app/steps/tone/kept_tones.h"

#include "app/theme/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QWidgetAction>

namespace frenlo::app {

KeptTones::KeptTones(Session& session, Viewing& viewing, ToneController& tone_controller, std::filesystem::path file,
                     QWidget* parent)
    : QPushButton(tr("Copy or keep"), parent), session_(session), viewing_(viewing), tone_controller_(tone_controller),
      file_(std::move(file))
{
    setFocusPolicy(Qt::TabFocus);
    setToolTip(tr("Give the tone of this photo to others, keep it under a name, or take one that was kept"));
    auto* menu = new QMenu(this);
    connect(menu, &QMenu::aboutToShow, this, [this, menu] { fill(*menu); });
    setMenu(menu);
    make_menu_button(this);
}

template <class Work>
void KeptTones::with_file(Work work)
{
    try {
        work();
    } catch (const Failure& failure) {
        Q_EMIT failed(QString::fromStdString(failure.problem().text()));
    }
}

void KeptTones::fill(QMenu& menu)
{
    menu.clear();
    if (!viewing_.shot() || !tone_controller_.tone())
        return;
    const int selected = int(viewing_.selection().photos().size());
    QAction* to_photos = menu.addAction(tr("Copy to %n selected photo(s)", nullptr, selected), &tone_controller_,
                                        &ToneController::copy_to_selection);
    to_photos->setEnabled(selected > 0);
    menu.addAction(tr("Copy to all photos of this shot"), &tone_controller_, &ToneController::same_for_all);
    const auto& shots = session_.project().shots;
    std::vector<ShotId> others;
    for (const ShotPtr& shot : shots)
        if (shot->id != viewing_.shot()->id)
            others.push_back(shot->id);
    for (const ShotPtr& shot : shots)
        if (shot->id != viewing_.shot()->id && others.size() < 12)
            menu.addAction(tr("Copy to %1").arg(QString::fromStdString(shot->name)), &tone_controller_,
                           [this, id = shot->id] { tone_controller_.copy_to_shots({id}); });
    if (others.size() > 1)
        menu.addAction(tr("Copy to all other shots"), &tone_controller_,
                       [this, others] { tone_controller_.copy_to_shots(others); });
    menu.addSeparator();
    auto* entry = new QWidget;
    auto* row = new QHBoxLayout(entry);
    row->setContentsMargins(12, 2, 12, 2);
    row->addWidget(new QLabel(tr("Keep as")));
    auto* name = new QLineEdit;
    name->setAccessibleName(tr("Name to keep this tone under"));
    name->setPlaceholderText(tr("a name, Enter"));
    row->addWidget(name);
    connect(name, &QLineEdit::returnPressed, this, [this, name, &menu] {
        const QString text = name->text().trimmed();
        if (text.isEmpty())
            return;
        with_file([&] { keep_named_tone(file_, {text.toStdString(), *tone_controller_.tone()}); });
        menu.close();
    });
    auto* action = new QWidgetAction(&menu);
    action->setDefaultWidget(entry);
    menu.addAction(action);
    with_file([&] {
        const auto tones = load_named_tones(file_);
        for (const NamedTone& t : tones)
            menu.addAction(tr("Take “%1”").arg(QString::fromStdString(t.name)), &tone_controller_, [this, t] {
                tone_controller_.begin_change();
                tone_controller_.set(t.tone, tr("Take a kept tone"));
            });
        if (!tones.empty()) {
            QMenu* forget = menu.addMenu(tr("Forget"));
            for (const NamedTone& t : tones)
                forget->addAction(QString::fromStdString(t.name), this,
                                  [this, t] { with_file([&] { forget_named_tone(file_, t.name); }); });
        }
    });
}

}
