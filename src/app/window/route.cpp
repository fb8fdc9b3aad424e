#include "app/window/route.h"

#include "app/steps/flicker/flicker_controller.h"
#include "app/steps/steady/steady_controller.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"

#include <QButtonGroup>
#include <QDir>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

Station::Station(const QString& name, QWidget* parent) : QAbstractButton(parent)
{
    setText(name);
    setCheckable(true);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void Station::set_state(const QString& figure, bool done, bool look)
{
    figure_ = figure;
    done_ = done;
    look_ = look;
    setAccessibleName(text());
    setAccessibleDescription(figure);
    update();
}

void Station::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    const QPointF centre(width() / 2.0, dot_y);
    // Where you are is a large ring with a core; done is filled; nothing yet is a small empty ring.
    const QColor tone = isChecked() || done_ ? c.spruce : c.second_ink;
    painter.setPen(QPen(tone, isChecked() ? 3 : 1.5));
    painter.setBrush(isChecked() ? c.raised : done_ ? c.spruce : c.paper);
    const double radius = isChecked() ? 7 : 5;
    painter.drawEllipse(centre, radius, radius);
    if (isChecked()) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(c.spruce);
        painter.drawEllipse(centre, 2.5, 2.5);
    }
    QFont f = font();
    f.setWeight(QFont::DemiBold);
    painter.setFont(f);
    painter.setPen(!isEnabled() ? c.second_ink : isChecked() ? c.spruce : c.ink);
    painter.drawText(QRect(0, 23, width(), 18), Qt::AlignCenter, text());
    f.setWeight(QFont::Normal);
    f.setPixelSize(11);
    painter.setFont(f);
    painter.setPen(look_ ? c.amber : c.second_ink);
    painter.drawText(QRect(2, 41, width() - 4, 16), Qt::AlignCenter,
                     painter.fontMetrics().elidedText(look_ ? look_at_this(figure_) : figure_, Qt::ElideRight, width() - 4));
    if (hasFocus()) {
        painter.setPen(QPen(c.spruce, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(3, 1, -3, -1), 5, 5);
    }
}

Route::Route(Session& session, Viewing& viewing, Findings& findings, Exporter& exporter, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), findings_(findings), exporter_(exporter),
      name_(heading({})), place_(secondary({})), undo_(tool(tr("Undo"))), redo_(tool(tr("Redo")))
{
    setFixedHeight(64);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 0, 14, 0);
    row->setSpacing(gap);
    auto* project = new QVBoxLayout;
    project->setSpacing(0);
    project->addStretch();
    name_->setAccessibleName(tr("Project"));
    name_->setStyleSheet(QStringLiteral("font-size: 15px; font-weight: 600;"));
    place_->setStyleSheet(QStringLiteral("font-size: 11px;"));
    place_->setAccessibleName(tr("Where the project is saved"));
    project->addWidget(name_);
    project->addWidget(place_);
    project->addStretch();
    auto* left = new QWidget;
    left->setLayout(project);
    left->setFixedWidth(250);
    project->setContentsMargins(0, 0, 0, 0);
    row->addWidget(left);

    auto* group = new QButtonGroup(this);
    const std::array names{tr("Sort"), tr("Pace"), tr("Steady"), tr("Light"), tr("Export")};
    for (std::size_t i = 0; i < stations_.size(); ++i) {
        stations_[i] = new Station(names[i]);
        group->addButton(stations_[i], int(i));
        row->addWidget(stations_[i], 1);
    }
    group->setExclusive(true);
    row->addSpacing(60);
    row->addWidget(undo_);
    row->addWidget(redo_);
    connect(group, &QButtonGroup::idClicked, &viewing, [&viewing](int step) { viewing.set_step(Step(step)); });
    connect(undo_, &QPushButton::clicked, this, &Route::undo);
    connect(redo_, &QPushButton::clicked, this, &Route::redo);
    connect(&session, &Session::changed, this, &Route::refresh_project);
    connect(&session, &Session::saved_now, this, &Route::refresh_project);
    connect(&viewing, &Viewing::shot_changed, this, &Route::refresh);
    connect(&viewing, &Viewing::step_changed, this, &Route::refresh);
    connect(&viewing, &Viewing::counting_changed, this, &Route::refresh);
    connect(&findings, &Findings::changed, this, &Route::refresh);
    for (const auto signal : {&Exporter::finished, &Exporter::stopped})
        connect(&exporter, signal, this, &Route::refresh);
    connect(&exporter, &Exporter::progress, this, [this](double fraction) {
        stations_[std::size_t(Step::export_)]->set_state(tr("writing, %1 %").arg(int(fraction * 100)), false, false);
    });
    connect(&exporter, &Exporter::failed, this, &Route::refresh);
    refresh_project();
    refresh();
}

void Route::refresh_project()
{
    name_->setText(session_.name());
    const QString tip = [](const QString& name) { return name.isEmpty() ? QString() : QStringLiteral(": ") + name; }(session_.undo_name());
    undo_->setEnabled(!session_.undo_name().isEmpty());
    redo_->setEnabled(!session_.redo_name().isEmpty());
    undo_->setToolTip(tr("Undo%1 (Ctrl+Z)").arg(tip));
    redo_->setToolTip(tr("Redo (Ctrl+Shift+Z)"));
    QString place = tr("not saved yet");
    if (!session_.file().empty()) {
        QString folder = to_qt(session_.file().parent_path());
        if (folder.startsWith(QDir::homePath()))
            folder.replace(0, QDir::homePath().size(), QStringLiteral("~"));
        const QString state = !session_.saved()              ? tr("changed since")
                              : session_.saved_at().isNull() ? tr("saved")
                                                             : tr("saved %1").arg(session_.saved_at().toString(QStringLiteral("HH:mm")));
        place = place_->fontMetrics().elidedText(folder, Qt::ElideMiddle, 160) + QStringLiteral(" · ") + state;
    } else if (session_.is_empty()) {
        place = tr("nothing in it yet");
    }
    place_->setText(place);
    place_->setToolTip(to_qt(session_.file()));
}

void Route::refresh()
{
    const Shot* shot = viewing_.shot();
    for (std::size_t i = 0; i < stations_.size(); ++i) {
        stations_[i]->setEnabled(shot != nullptr);
        stations_[i]->setChecked(shot && std::size_t(viewing_.step()) == i);
    }
    if (!shot) {
        for (Station* s : stations_)
            s->set_state(QStringLiteral("–"), false, false);
        update();
        return;
    }
    std::int64_t photos = 0, aside = 0;
    bool unsorted = false;
    for (const auto& s : session_.project().shots) {
        unsorted = unsorted || !s->parts.empty();
        photos += photos_in_film(*s);
        aside += std::int64_t(s->photos.size()) - photos_in_film(*s);
    }
    QString sort = tr("%n photo(s)", nullptr, int(photos));
    if (findings_.open() > 0)
        sort += tr(", %1 to look at").arg(findings_.open());
    else if (aside > 0)
        sort += tr(", %1 aside").arg(aside);
    stations_[0]->set_state(sort, findings_.open() == 0 && !unsorted, findings_.open() > 0);

    const Schedule& schedule = viewing_.schedule();
    const bool lost = !schedule.between_frames().empty();
    stations_[1]->set_state(tr("%1 fps · %2")
                                .arg(QString::fromStdString(schedule.rate().text()))
                                .arg(viewing_.length_text(viewing_.film_frames())),
                            viewing_.film_frames() > 0 && !lost, lost);
    const auto doubtful = int(doubtful_photos(*shot).size());
    if (!steadying_of(*shot))
        stations_[2]->set_state(tr("as shot"), false, false);
    else
        stations_[2]->set_state(doubtful > 0 ? tr("%n photo(s) to look at", nullptr, doubtful)
                                             : tr("moved ≤ %1 px").arg(most_moved_px(*shot), 0, 'f', 1),
                                doubtful == 0, doubtful > 0);
    int odd = 0, not_measured = 0;
    const auto shown = in_film(*shot);
    for (std::size_t i = 0; i < shot->photos.size(); ++i) {
        odd += shown[i] && to_look_at(shot->photos[i]);
        not_measured += shown[i] && !light_of(shot->photos[i]);
    }
    if (!deflicker_of(*shot))
        stations_[3]->set_state(tr("as shot"), false, false);
    else
        stations_[3]->set_state(not_measured > 0 ? tr("%n photo(s) not evened", nullptr, not_measured)
                                : odd > 0        ? tr("%n photo(s) to look at", nullptr, odd)
                                                 : tr("flicker %1 stop").arg(flicker_text(*deflicker_of(*shot))),
                                odd + not_measured == 0, odd + not_measured > 0);
    if (exporter_.last())
        stations_[std::size_t(Step::export_)]->set_state(tr("%1, checked").arg(to_qt(exporter_.last()->plan.file.filename())), true, false);
    else if (!exporter_.running())
        stations_[std::size_t(Step::export_)]->set_state(tr("nothing yet"), false, false);
    update();
}

void Route::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Colours c = Colours::of(palette());
    painter.fillRect(rect(), c.paper);
    painter.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i + 1 < stations_.size(); ++i) {
        const auto centre = [&](const Station* s) { return QPointF(s->geometry().center().x() + 0.5, s->y() + Station::dot_y); };
        const bool travelled = stations_[i]->done() && stations_[i + 1]->done();
        painter.setPen(QPen(travelled ? c.spruce : c.second_ink, travelled ? 2 : 1.5));
        painter.drawLine(centre(stations_[i]) + QPointF(10, 0), centre(stations_[i + 1]) - QPointF(10, 0));
    }
    painter.fillRect(QRect(0, height() - 1, width(), 1), c.line);
}

}
