#include "app/steps/export/preset_menu.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QFormLayout>
#include <QLineEdit>
#include <QMenu>
#include <QWidgetAction>

namespace frenlo::app {

namespace {

/// "4 s", "96 f"; nothing for an empty field. wrong: it could not be understood.
std::optional<Seconds> length_in(QLineEdit& line, Rate rate, bool& wrong)
{
    const auto hold = parse_hold(line.text().trimmed().toStdString());
    const bool bad = !line.text().trimmed().isEmpty() && !hold;
    mark_wrong(&line, bad);
    wrong = wrong || bad;
    return hold ? std::optional(length_of(*hold, rate)) : std::nullopt;
}

}

PresetMenu::PresetMenu(PresetShelf& shelf, std::function<std::optional<Preset>()> settings, QWidget* parent)
    : QPushButton(tr("Presets"), parent), shelf_(shelf), settings_(std::move(settings))
{
    setFocusPolicy(Qt::TabFocus);
    setToolTip(tr("Keeps what is set here under a name of your own, for other films; with what the place that they go "
                  "to demands"));
    auto* menu = new QMenu(this);
    connect(menu, &QMenu::aboutToShow, this, [this, menu] { fill(*menu); });
    setMenu(menu);
    make_menu_button(this);
}

void PresetMenu::fill(QMenu& menu)
{
    menu.clear();
    auto* entry = new QWidget;
    auto* form = new QFormLayout(entry);
    form->setContentsMargins(12, 6, 12, 6);
    auto* name = field(tr("Name to keep these settings under"), tr("Enter keeps them"), 190);
    name->setPlaceholderText(tr("a name, Enter"));
    auto* rate = field(tr("Rate of the preset"), tr("Frames a second. Empty: as the project is delivered"), 90);
    auto* least = field(tr("Least length of the preset"),
                        tr("4 s: a shorter film is told before it is written, since it would be refused"), 90);
    auto* longest = field(tr("Longest length of the preset"), tr("60 s: and a longer one"), 90);
    form->addRow(tr("Keep these settings as"), name);
    form->addRow(tr("Rate"), rate);
    form->addRow(tr("At least"), least);
    form->addRow(tr("At most"), longest);
    connect(name, &QLineEdit::returnPressed, this, [this, name, rate, least, longest, &menu] {
        auto preset = settings_();
        const QString text = name->text().trimmed();
        if (!preset || text.isEmpty())
            return;
        bool wrong = false;
        const QString asked = rate->text().trimmed();
        preset->rate = asked.isEmpty() ? std::nullopt : parse_rate(asked.toStdString());
        mark_wrong(rate, !asked.isEmpty() && !preset->rate);
        wrong = !asked.isEmpty() && !preset->rate;
        preset->least_length = length_in(*least, preset->rate.value_or(Rate(24)), wrong);
        preset->longest_length = length_in(*longest, preset->rate.value_or(Rate(24)), wrong);
        if (wrong)
            return;
        preset->name = preset->title = text.toStdString();
        menu.close();
        shelf_.keep(*preset);
        if (shelf_.is_own(text))
            Q_EMIT kept(text);
    });
    auto* action = new QWidgetAction(&menu);
    action->setDefaultWidget(entry);
    menu.addAction(action);
    if (shelf_.own().empty())
        return;
    QMenu* forget = menu.addMenu(tr("Forget"));
    for (const Preset& p : shelf_.own())
        forget->addAction(QString::fromStdString(p.title), this,
                          [this, own = QString::fromStdString(p.name)] { shelf_.forget(own); });
}

}
