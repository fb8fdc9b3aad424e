#include "app/window/route.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QButtonGroup>
#include <QDir>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

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
    updateGeometry();
    update();
}

QString Station::shown_figure() const
{
    return look_ ? look_at_this(figure_) : figure_;
}

QFont Station::name_font() const
{
    QFont f = font();
    f.setWeight(QFont::DemiBold);
    return f;
}

QFont Station::figure_font() const
{
    QFont f = font();
    f.setPixelSize(11);
    return f;
}

QSize Station::sizeHint() const
{
    constexpr int air = 6, least = 70, height = 62;
    const int widest = std::max(QFontMetrics(name_font()).horizontalAdvance(text()),
                                QFontMetrics(figure_font()).horizontalAdvance(shown_figure()));
    return {std::max(least, widest + air), height};
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
    painter.setFont(name_font());
    painter.setPen(!isEnabled() ? c.second_ink : isChecked() ? c.spruce : c.ink);
    painter.drawText(QRect(0, 23, width(), 18), Qt::AlignCenter, text());
    painter.setFont(figure_font());
    painter.setPen(look_ ? c.amber : c.second_ink);
    painter.drawText(QRect(2, 41, width() - 4, 16), Qt::AlignCenter,
                     painter.fontMetrics().elidedText(shown_figure(), Qt::ElideRight, width() - 4));
    if (hasFocus()) {
        painter.setPen(QPen(c.spruce, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(3, 1, -3, -1), 5, 5);
    }
}

Route::Route(Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), name_(heading({})), place_(secondary({})),
      undo_(tool(tr("Undo"))), redo_(tool(tr("Redo")))
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
    line_ = new QHBoxLayout;
    line_->setSpacing(gap);
    row->addLayout(line_, 1);
    group_ = new QButtonGroup(this);
    group_->setExclusive(true);
    row->addSpacing(16);
    row->addWidget(undo_);
    row->addWidget(redo_);
    connect(undo_, &QPushButton::clicked, &session, &Session::undo);
    connect(redo_, &QPushButton::clicked, &session, &Session::redo);
    connect(&session, &Session::changed, this, &Route::refresh_project);
    connect(&session, &Session::saved_now, this, &Route::refresh_project);
    connect(&viewing, &Viewing::shot_changed, this, &Route::refresh);
    connect(&viewing, &Viewing::step_changed, this, &Route::refresh);
    connect(&viewing, &Viewing::counting_changed, this, &Route::refresh);
    refresh_project();
}

void Route::add_page(const StepModule& module, const StepPage& page)
{
    const QString name = name_of(module);
    if (stations_.empty() || stations_.back().button->text() != name) {
        stations_.push_back({new Station(name), {}, &module});
        group_->addButton(stations_.back().button);
        line_->addWidget(stations_.back().button);
        connect(stations_.back().button, &Station::clicked, &viewing_,
                [this, place = stations_.size() - 1] { go_to(stations_[place]); });
    }
    stations_.back().pages.push_back({&module, &page});
    connect(&page, &StepPage::route_changed, this, &Route::refresh);
}

void Route::go_to(const Stop& stop)
{
    viewing_.set_step(stop.last->info.key);
    refresh(); // a button that was pressed again stays down
}

void Route::go_to(const QString& station)
{
    for (const Stop& stop : stations_)
        if (stop.button->text() == station)
            go_to(stop);
}

void Route::refresh_project()
{
    name_->setText(session_.name());
    const QString tip = [](const QString& name) {
        return name.isEmpty() ? QString() : QStringLiteral(": ") + name;
    }(session_.undo_name());
    undo_->setEnabled(!session_.undo_name().isEmpty());
    redo_->setEnabled(!session_.redo_name().isEmpty());
    undo_->setToolTip(tr("Undo%1 (Ctrl+Z)").arg(tip));
    redo_->setToolTip(tr("Redo (Ctrl+Shift+Z)"));
    QString place = tr("not saved yet");
    if (!session_.file().empty()) {
        QString folder = to_qt(session_.file().parent_path());
        if (folder.startsWith(QDir::homePath()))
            folder.replace(0, QDir::homePath().size(), QStringLiteral("~"));
        const QString state = !session_.saved() ? tr("changed since")
                              : session_.saved_at().isNull()
                                  ? tr("saved")
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
    for (Stop& stop : stations_) {
        Station* station = stop.button;
        for (const auto& [module, page] : stop.pages)
            if (viewing_.is_step(module->info.key))
                stop.last = module;
        bool hidden = true, from_nothing = false;
        for (const auto& [module, page] : stop.pages) {
            from_nothing = from_nothing || module->info.from_nothing;
            hidden = hidden && module->info.from_nothing && !viewing_.is_step(module->info.key) &&
                     page->route_state().hidden;
        }
        station->setVisible(!hidden);
        if (from_nothing && !viewing_.shot()) {
            const auto& [module, page] = stop.pages.front();
            station->setChecked(viewing_.is_step(module->info.key));
            station->set_state(page->route_state().figure, false, false);
            continue;
        }
        station->setEnabled(viewing_.shot() != nullptr);
        if (!viewing_.shot()) {
            station->setChecked(false);
            station->set_state(QStringLiteral("–"), false, false);
            continue;
        }
        bool here = false, about_this = !viewing_.on_reel() || !station->said_something();
        RouteState said;
        for (const auto& [module, page] : stop.pages)
            about_this = about_this || module->info.about != StepInfo::About::shot;
        for (const auto& [module, page] : stop.pages) { // what is worth a look comes first, then what was done
            here = here || viewing_.is_step(module->info.key);
            if (!about_this) // what was said of the shot that was looked at stays
                continue;
            const RouteState state = page->route_state();
            if (said.figure.isEmpty() || (state.look && !said.look) || (state.done && !said.done && !said.look))
                said = state;
        }
        station->setChecked(here);
        if (about_this)
            station->set_state(said.figure, said.done, said.look);
    }
    update();
}

void Route::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Colours c = Colours::of(palette());
    painter.fillRect(rect(), c.paper);
    painter.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i + 1 < stations_.size(); ++i) {
        if (stations_[i].button->isHidden())
            continue;
        const auto centre = [&](const Stop& s) {
            return QPointF(s.button->geometry().center().x() + 0.5, s.button->y() + Station::dot_y);
        };
        const bool travelled = stations_[i].button->done() && stations_[i + 1].button->done();
        painter.setPen(QPen(travelled ? c.spruce : c.second_ink, travelled ? 2 : 1.5));
        painter.drawLine(centre(stations_[i]) + QPointF(10, 0), centre(stations_[i + 1]) - QPointF(10, 0));
    }
    painter.fillRect(QRect(0, height() - 1, width(), 1), c.line);
}

}
