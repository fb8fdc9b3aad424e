#include "app/steps/shoot/take_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// The brackets that can be chosen, in stops.
const std::array<std::vector<double>, 5>& brackets()
{
    static const std::array<std::vector<double>, 5> all{{{}, {-1, 0, 1}, {-2, 0, 2}, {-3, 0, 3}, {-2, -1, 0, 1, 2}}};
    return all;
}

}

TakePart::TakePart(Session& session, Viewing& viewing, ShootController& controller, QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), controller_(controller), notice_(notice),
      into_(choice(tr("Shot that photos go into"), {tr("the shot in view"), tr("a new shot")})),
      name_(field(tr("Name of the new shot"), tr("Its photos are called so, too"), 96)),
      folder_(field(tr("Folder for the photos"),
                    tr("Each photo is on disk here before the next can be taken; nothing "
                       "that is there is replaced"),
                    122)),
      where_(choice(tr("Place of the next photo"),
                    {tr("at the end"), tr("behind the photo in hand"), tr("in place of the photo in hand")},
                    tr("The photo in hand is the one that is selected, or under the player. One that is replaced is "
                       "set aside, and the photo after that goes to the end again"))),
      hold_(field(tr("Hold of the next photo"), tr("Frames or seconds: 2 f, 0.15 s. It can be changed in Pace, too"),
                  54)),
      rate_(secondary({})), averaged_(field(tr("Pictures averaged"),
                                            tr("So many pictures become one photo: four have half the noise of one. "
                                               "Nothing may move meanwhile"),
                                            40)),
      bracket_(choice(tr("Exposures"),
                      {tr("one exposure"), tr("3, a stop apart"), tr("3, two stops apart"), tr("3, three stops apart"),
                       tr("5, a stop apart")},
                      tr("Other exposures of the same photo are kept with it, set aside"))),
      trial_(tool(tr("Trial"), tr("The next photos are on disk and on the Sheet, but not in the film"))),
      format_(choice(tr("File"), {tr("PNG, nothing lost"), tr("JPEG, smaller")},
                     tr("Where the camera gives no file of its own; that stays as it is"))),
      left_lying_(tool({}, tr("Photos of this shot that lie in the folder and are not on the Sheet: taken just before "
                              "Frenlo or the machine was cut off")))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    trial_->setCheckable(true);
    QPushButton* choose = tool(tr("Choose…"), tr("Another folder"));
    choose->setAccessibleName(tr("Choose the folder for the photos"));
    int row = 0;
    const auto line = [&](const QString& label, std::initializer_list<QWidget*> widgets) {
        grid->addWidget(secondary(label), row, 0);
        grid->addLayout(line_of(widgets), row++, 1);
    };
    line(tr("Into"), {into_, name_});
    line(tr("Folder"), {folder_, choose});
    line(tr("Next photo"), {where_});
    line(tr("Held for"), {hold_, rate_});
    line(tr("Average"), {averaged_, secondary(tr("pictures"))});
    line(tr("Exposures"), {bracket_});
    line(tr("File"), {format_, trial_});
    grid->addWidget(left_lying_, row++, 1, Qt::AlignLeft);
    left_lying_->setAccessibleName(tr("Bring in photos that are not on the Sheet"));
    grid->setColumnStretch(1, 1);
    grid->setRowStretch(row, 1);

    connect(left_lying_, &QPushButton::clicked, &controller, &ShootController::bring_left_lying_in);
    connect(into_, &QComboBox::activated, this,
            [this](int index) { change([&](ShootPlan& p) { p.new_shot = index == 1; }); });
    connect(name_, &QLineEdit::editingFinished, this,
            [this] { change([&](ShootPlan& p) { p.name = name_->text().trimmed(); }); });
    connect(folder_, &QLineEdit::editingFinished, this, [this] {
        change([&](ShootPlan& p) { p.folder = folder_->text().trimmed(); });
        controller_.look_for_left_lying();
    });
    connect(choose, &QPushButton::clicked, this, &TakePart::choose_folder);
    connect(where_, &QComboBox::activated, this,
            [this](int index) { change([&](ShootPlan& p) { p.where = ShootPlan::Where(index); }); });
    connect(hold_, &QLineEdit::editingFinished, this, &TakePart::take_hold);
    connect(averaged_, &QLineEdit::editingFinished, this, &TakePart::take_average);
    connect(bracket_, &QComboBox::activated, this,
            [this](int index) { change([&](ShootPlan& p) { p.take.bracket = brackets().at(std::size_t(index)); }); });
    connect(trial_, &QPushButton::clicked, this, [this](bool on) { change([&](ShootPlan& p) { p.take.trial = on; }); });
    connect(format_, &QComboBox::activated, this,
            [this](int index) { change([&](ShootPlan& p) { p.take.format = TakenFormat(index); }); });
}

void TakePart::change(const std::function<void(ShootPlan&)>& how)
{
    ShootPlan plan = controller_.plan();
    how(plan);
    controller_.set_plan(plan);
    refresh();
}

void TakePart::take_hold()
{
    const auto hold = parse_hold(hold_->text().toStdString());
    mark_wrong(hold_, !hold);
    if (!hold) {
        say(&notice_, tr("“%1” is not a hold. 2 f, 0.15 s and 1/6 s are.").arg(hold_->text()));
        return;
    }
    say(&notice_, {});
    change([&](ShootPlan& p) { p.hold = *hold; });
}

void TakePart::take_average()
{
    bool fine = false;
    const int n = averaged_->text().toInt(&fine);
    fine = fine && n >= 1 && n <= most_averaged;
    mark_wrong(averaged_, !fine);
    if (!fine) {
        say(&notice_, tr("Between 1 and %1 pictures can be averaged.").arg(most_averaged));
        return;
    }
    say(&notice_, {});
    change([&](ShootPlan& p) { p.take.averaged = n; });
}

void TakePart::choose_folder()
{
    auto* dialog = new QFileDialog(window(), tr("The folder for the photos"), folder_->text());
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this,
            [this](const QString& folder) { change([&](ShootPlan& p) { p.folder = folder; }); });
    dialog->open();
}

void TakePart::refresh()
{
    const ShootPlan& plan = controller_.plan();
    const NextPhoto next = controller_.next();
    const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
    into_->setItemText(0, shot ? QString::fromStdString(shot->name) : tr("the shot in view"));
    into_->setCurrentIndex(next.shot ? 0 : 1);
    into_->setEnabled(shot != nullptr);
    name_->setVisible(!next.shot);
    show_text(name_, plan.name);
    name_->setPlaceholderText(tr("Shot"));
    show_text(folder_, plan.folder.isEmpty() ? controller_.usual_folder() : plan.folder);
    folder_->setCursorPosition(int(folder_->text().size()));
    where_->setCurrentIndex(int(plan.where));
    where_->setEnabled(next.shot != nullptr);
    show_text(hold_, QString::fromStdString(shown_hold(plan.hold)));
    const Rate rate = next.shot ? pacing_rate(session_.project(), *next.shot) : session_.project().delivered_at;
    rate_->setText(
        tr("%1 at %2 fps")
            .arg(QString::fromStdString(photos_a_second(plan.hold, rate)), QString::fromStdString(rate.text())));
    show_text(averaged_, QString::number(plan.take.averaged));
    const auto it = std::find(brackets().begin(), brackets().end(), plan.take.bracket);
    bracket_->setCurrentIndex(it == brackets().end() ? 0 : int(it - brackets().begin()));
    trial_->setChecked(plan.take.trial);
    format_->setCurrentIndex(int(plan.take.format));
    left_lying_->setVisible(controller_.left_lying() > 0);
    left_lying_->setText(tr("Bring in %n photo(s) that lie there", nullptr, int(controller_.left_lying())));
}

}
