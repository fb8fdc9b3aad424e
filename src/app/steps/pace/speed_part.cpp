#include "app/steps/pace/speed_part.h"

#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace frenlo::app {

SpeedPart::SpeedPart(Viewing& viewing, PaceController& pace_controller, QWidget* parent)
    : QWidget(parent), viewing_(viewing), pace_controller_(pace_controller), plot_(new SpeedPlot),
      keep_length_(new QCheckBox(tr("Keep the length"))),
      clear_(tool(tr("Even speed"), tr("Takes the whole course away"))), where_(secondary({})),
      percent_(new ValueField({tr("speed"), tr("50 %: this photo is held twice as long"), QStringLiteral("%"),
                               speed_limits.low, speed_limits.high, 100, 5, 1, false})),
      ease_(choice(tr("Way to the next point"), {tr("evenly"), tr("slow at first"), tr("slow at last"), tr("softly")},
                   tr("How the speed goes over to that of the next point"))),
      remove_(tool(tr("Take the point away")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    keep_length_->setToolTip(tr("The shot stays as long as without the course, to the frame"));
    auto* head = new QHBoxLayout;
    head->setSpacing(8);
    head->addWidget(heading(tr("Speed course")));
    head->addStretch();
    head->addWidget(keep_length_);
    head->addWidget(clear_);
    column->addLayout(head);
    column->addWidget(plot_, 1);
    point_row_ = rows_of({one_row({where_, percent_}), one_row({ease_, remove_})});
    column->addWidget(point_row_);
    connect(plot_, &SpeedPlot::begun, this, [this] { ++gesture_; });
    connect(plot_, &SpeedPlot::point_chosen, this, &SpeedPart::refresh_point);
    connect(plot_, &SpeedPlot::point_added, this,
            [this](int photo, double percent) { pace_controller_.set_speed_at(PhotoIndex(photo), percent, gesture_); });
    connect(plot_, &SpeedPlot::point_moved, this, [this](int which, int photo, double percent) {
        pace_controller_.move_speed_point(course_.points.at(std::size_t(which)).photo, PhotoIndex(photo), percent,
                                          gesture_);
    });
    const auto remove = [this](int which) {
        pace_controller_.remove_speed_point(course_.points.at(std::size_t(which)).photo);
    };
    connect(plot_, &SpeedPlot::point_removed, this, remove);
    connect(remove_, &QPushButton::clicked, this, [this, remove] {
        if (plot_->chosen())
            remove(*plot_->chosen());
    });
    connect(percent_, &ValueField::begun, this, [this] { ++gesture_; });
    connect(percent_, &ValueField::edited, this,
            [this](double percent) { change_point([&](SpeedPoint& p) { p.percent = percent; }, tr("Set the speed")); });
    connect(ease_, &QComboBox::activated, this, [this](int which) {
        ++gesture_;
        change_point([&](SpeedPoint& p) { p.ease = Ease(which); }, tr("Ease the speed"));
    });
    connect(keep_length_, &QCheckBox::clicked, this, [this](bool on) {
        pace_controller_.change_speed_course([&](SpeedCourse& c) { c.keep_length = on; }, tr("Keep the length"),
                                             ++gesture_);
    });
    connect(clear_, &QPushButton::clicked, this, [this] {
        pace_controller_.change_speed_course([](SpeedCourse& c) { c = {}; }, tr("Even speed"), ++gesture_);
    });
    connect(&viewing, &Viewing::playhead_changed, this,
            [this] { plot_->show_place(int(viewing_.shown_photo().value)); });
}

void SpeedPart::change_point(const std::function<void(SpeedPoint&)>& how, const QString& name)
{
    if (const SpeedPoint* hand = point())
        pace_controller_.change_speed_course(
            [&, id = hand->photo](SpeedCourse& c) {
                for (SpeedPoint& p : c.points)
                    if (p.photo == id)
                        how(p);
            },
            name, gesture_);
}

const SpeedPoint* SpeedPart::point() const
{
    const auto which = plot_->chosen();
    return which && std::size_t(*which) < course_.points.size() ? &course_.points[std::size_t(*which)] : nullptr;
}

void SpeedPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    course_ = speed_course_of(*shot);
    std::vector<SpeedPlot::CoursePoint> points;
    points.reserve(course_.points.size());
    std::size_t from = 0; // points lie in the order of the photos
    for (const SpeedPoint& p : course_.points) {
        while (shot->photos[from].id != p.photo)
            ++from;
        points.push_back({int(from), p.percent});
    }
    plot_->show_course(speeds_of(*shot), points);
    plot_->show_place(int(viewing_.shown_photo().value));
    keep_length_->setChecked(course_.keep_length);
    keep_length_->setEnabled(!course_.points.empty());
    clear_->setEnabled(!course_.points.empty());
    refresh_point();
}

void SpeedPart::refresh_point()
{
    const SpeedPoint* p = point();
    point_row_->setVisible(p != nullptr);
    if (!p)
        return;
    const Shot* shot = viewing_.shot();
    std::size_t at = 0;
    while (at < shot->photos.size() && shot->photos[at].id != p->photo)
        ++at;
    where_->setText(tr("at photo %1").arg(at + 1));
    percent_->show_value(p->percent);
    const QSignalBlocker quiet(ease_);
    ease_->setCurrentIndex(int(p->ease));
}

}
