#include "app/steps/shoot/series_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include <cmath>
#include <cstring>

namespace frenlo::app {

std::optional<double> parse_span(QString text)
{
    text = text.simplified().replace(QLatin1Char(','), QLatin1Char('.'));
    double factor = 1;
    for (const auto& [unit, seconds] : {std::pair{"min", 60.0}, {"h", 3600.0}, {"s", 1.0}})
        if (text.endsWith(QLatin1String(unit))) {
            text.chop(int(std::strlen(unit)));
            factor = seconds;
            break;
        }
    bool fine = false;
    const double value = text.trimmed().toDouble(&fine) * factor;
    constexpr double most = 30.0 * 24 * 3600;
    return fine && value >= 0 && value <= most ? std::optional(value) : std::nullopt;
}

SeriesPart::SeriesPart(ShootController& controller, CameraDesk& desk, QLabel& notice, QWidget* parent)
    : QWidget(parent), controller_(controller), desk_(desk), notice_(notice), last_(secondary({})),
      news_(app::notice()), room_(secondary({})), automatic_(app::notice()),
      lock_(tool(tr("Lock all"), tr("Makes every setting manual, as "
                                    "it is now, so that photos do not "
                                    "differ by themselves"))),
      played_(new QSpinBox), every_(field(tr("Time from one photo to the next"), tr("5 s, 0.5 s, 2 min, 1 h"), 54)),
      count_(field(tr("Photos in the series"), tr("0: until it is stopped"), 48)),
      delay_(field(tr("Time before the first photo"), tr("To get out of the picture: 10 s, 1 h"), 54)),
      start_(tool(tr("Start series"), tr("Photos by the clock, each at its time however long one takes; the machine "
                                         "stays awake"))),
      told_(secondary({}))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    last_->setAccessibleName(tr("The last photo"));
    news_->setAccessibleName(tr("What is odd about the last photo"));
    room_->setAccessibleName(tr("Room on the disk"));
    told_->setAccessibleName(tr("What the series said"));
    for (QLabel* l : {last_, room_, told_})
        l->setWordWrap(true);
    every_->setText(tr("5 s"));
    count_->setText(QStringLiteral("0"));
    delay_->setText(tr("0 s"));
    column->addWidget(heading(tr("The last photo")));
    column->addWidget(last_);
    column->addWidget(news_);
    column->addWidget(one_row({automatic_, lock_}));
    column->addWidget(one_row({secondary(tr("Play shows the last")), played_, secondary(tr("photos"))}));
    column->addWidget(heading(tr("Series")));
    column->addWidget(one_row({secondary(tr("one every")), every_, secondary(tr("begin in")), delay_}));
    column->addWidget(one_row({count_, secondary(tr("photos")), start_}));
    column->addWidget(room_);
    column->addWidget(told_);
    column->addStretch();
    played_->setRange(1, int(ShootController::most_played));
    played_->setValue(int(controller.played()));
    played_->setAccessibleName(tr("How many photos are played"));
    played_->setToolTip(tr("So many of the last photos are played before the live picture: few to see a step, more to "
                           "see a movement"));
    connect(played_, &QSpinBox::valueChanged, this,
            [this](int photos) { controller_.set_played(std::size_t(photos)); });
    connect(lock_, &QPushButton::clicked, &desk, &CameraDesk::lock_all);
    connect(start_, &QPushButton::clicked, this, [this] { desk_.in_series() ? desk_.stop() : start(); });
}

void SeriesPart::start()
{
    const auto every = parse_span(every_->text()), delay = parse_span(delay_->text());
    bool counted = false;
    const int count = count_->text().toInt(&counted);
    mark_wrong(every_, !every);
    mark_wrong(delay_, !delay);
    mark_wrong(count_, !counted || count < 0);
    if (!every || !delay || !counted || count < 0) {
        say(&notice_, tr("A series wants times such as 5 s, 2 min or 1 h, and a number of photos; 0 photos are as many "
                         "as come."));
        return;
    }
    say(&notice_, {});
    all_told_.clear();
    controller_.start_series(*every, count, *delay);
}

void SeriesPart::add_told(const QString& what)
{
    constexpr int most = 3;
    all_told_ << what;
    QStringList shown = all_told_.mid(std::max<qsizetype>(0, all_told_.size() - most));
    told_->setText(shown.join(QLatin1Char('\n')));
    told_->setToolTip(all_told_.join(QLatin1Char('\n')));
}

QString SeriesPart::last_text() const
{
    const auto& last = controller_.last();
    if (!last)
        return tr("None was taken yet.");
    QString text = tr("%1 · safe on disk after %2 s")
                       .arg(QString::fromStdString(shown_name(*last->photo)))
                       .arg(last->safe_after, 0, 'f', 2);
    if (last->how.averaged > 1)
        text += tr(" · %1 pictures, noise ÷ %2").arg(last->how.averaged).arg(last->how.noise_gain, 0, 'f', 2);
    if (!last->versions.empty())
        text += tr(" · %n other exposure(s)", nullptr, int(last->versions.size()));
    if (last->how.moved)
        text += tr(" · %1 % changed, moved %2 px")
                    .arg(last->how.moved->changed * 100, 0, 'f', 1)
                    .arg(last->how.moved->subject, 0, 'f', 0);
    return text;
}

QString SeriesPart::news_text() const
{
    const auto& last = controller_.last();
    if (!last)
        return {};
    if (!last->remarks.empty())
        return QString::fromStdString(last->remarks.front());
    switch (controller_.last_news()) {
    case MovementNews::nothing_moved:
        return tr("Nothing moved since the photo before: was the figure forgotten?");
    case MovementNews::camera_moved:
        return tr("The camera moved by %1 pixels. Steady can put it right; a retake is better.")
            .arg(std::hypot(last->how.moved->camera.x, last->how.moved->camera.y), 0, 'f', 1);
    case MovementNews::too_far:
        return tr("It moved %1 pixels, much farther than on the photos before.")
            .arg(last->how.moved->subject, 0, 'f', 0);
    case MovementNews::light_changed:
        return tr("The light changed by %1 stops.").arg(last->how.moved->light, 0, 'f', 2);
    case MovementNews::as_before:
        break;
    }
    return {};
}

void SeriesPart::refresh()
{
    last_->setText(last_text());
    const QString news = news_text();
    say(news_, news);
    QStringList automatic;
    for (const CameraSetting& s : automatic_settings(desk_.settings()))
        automatic << QString::fromStdString(s.name);
    say(automatic_, automatic.isEmpty() ? QString() : tr("Automatic settings: %1").arg(automatic.size()));
    automatic_->setToolTip(
        tr("%1: what a camera sets by itself differs from photo to photo").arg(automatic.join(QStringLiteral(", "))));
    lock_->setVisible(!automatic.isEmpty());
    start_->setText(desk_.in_series() ? tr("Stop series") : tr("Start series"));
    start_->setEnabled(desk_.is_open() && (!desk_.taking() || desk_.in_series()));
    const auto left = desk_.photos_left();
    room_->setText(left ? tr("room on the disk for %1 photos").arg(*left) : QString());
}

}
